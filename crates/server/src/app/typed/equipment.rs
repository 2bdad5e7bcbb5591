//! What stands at a bank, as typed: what charges it and hangs on it, its air, fittings and place.

mod air;
mod charger;
mod fitted;
mod wiring;

pub use air::TypedOpening;
pub use charger::TypedCharger;
pub use fitted::{TypedConnection, TypedFitting};
pub use wiring::{CouplingKind, TypedWiring};

use super::battery_model::TypedVolume;
use super::faults::{Faults, filled};
use crate::app::refused::AppError;
use crate::db::EquipmentRow;
use crate::db::{FeedAddress, Fitted, on_own_network};
use charger::REFERENCE;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerSettings, settings_audit};
use rainshadow_core::equalize::{DaySource, Load};
use rainshadow_core::equipment::{Equipment, Source, Surroundings};
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits};
use rainshadow_core::quantity::{Temperature, bounds, typed};
use serde::{Deserialize, Serialize};
use std::net::SocketAddr;
use utoipa::ToSchema;

/// A load as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedLoad {
    /// What it is.
    pub name: String,
    /// The highest volts it takes.
    pub highest_volts: String,
}

/// The equipment of a bank as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedEquipment {
    /// The charger.
    pub charger: TypedCharger,
    /// Time of day from which the sun gives the current of a run, "9:30"; empty: not by sun.
    pub sun_from: String,
    /// Until when.
    pub sun_to: String,
    /// Time of day when it is dark; empty: not told.
    pub dark: String,
    /// Fuel of a generator an hour; empty: no generator.
    pub fuel_rate: Option<TypedVolume>,
    /// Fuel there is.
    pub fuel_there: Option<TypedVolume>,
    /// What is connected.
    pub loads: Vec<TypedLoad>,
    /// What else charges the bank.
    pub others: Vec<TypedCharger>,
    /// Air around the bank, m³ or ft³; empty: not told.
    pub enclosure: String,
    /// What a fan moves, m³/h or ft³/min; empty: no fan.
    pub fan: String,
    /// Opening by which air comes in low.
    pub inlet: TypedOpening,
    /// Opening by which it leaves high.
    pub outlet: TypedOpening,
    /// The system that air, fan and openings are typed in.
    pub length: LengthUnit,
    /// Switches, fuses, balancers and the like.
    pub fittings: Vec<TypedFitting>,
    /// What is around the bank.
    pub surroundings: Vec<Surroundings>,
    /// Where a bolt, a bracket or a rail could hole a case.
    pub could_hole: String,
    /// The technician's own numbers of the batteries, in the order of the addresses, with commas.
    pub own_numbers: String,
    /// How the cables go, in the order they are connected.
    pub hook_up: Vec<TypedConnection>,
    /// Links and cables between batteries and strings.
    pub wiring: TypedWiring,
    /// Where the charger answers by Modbus TCP, "192.168.0.40:502"; empty: no feed.
    pub feed: String,
    /// Its Modbus unit, 1 to 247; empty: 1.
    pub feed_unit: String,
    /// True where the sources were set anew at the bank; false where something was told, or put right here.
    pub set_anew: bool,
}

/// "9:30" or "9.5" as hours of the day.
fn time_of_day(text: &str) -> Result<f64, String> {
    let said = || format!("“{}” is no time of day; accepted is 0:00 to 24:00, typed 16:30", text.trim());
    let (hours, minutes) = text.trim().split_once(':').unwrap_or((text.trim(), "0"));
    let hours: f64 = hours.trim().replace(',', ".").parse().map_err(|_number| said())?;
    let minutes: f64 = minutes.trim().parse().map_err(|_number| said())?;
    let all = hours + minutes / 60.0;
    if !(0.0..60.0).contains(&minutes) || !(0.0..=24.0).contains(&all) {
        return Err(said());
    }
    Ok(all)
}

/// An address on this machine or its own network: nothing else is ever asked.
pub fn own_network(text: &str) -> Result<SocketAddr, String> {
    let text = text.trim();
    let with_port = if text.contains(':') { text.to_owned() } else { format!("{text}:502") };
    let said = || {
        format!(
            "“{text}” is no address of a charger; accepted is an address of your own network with its port, as 192.168.0.40:502"
        )
    };
    let address: SocketAddr = with_port.parse().map_err(|_address| said())?;
    if on_own_network(&address) { Ok(address) } else { Err(said()) }
}

fn fuel(f: &mut Faults, field: &str, volume: Option<&TypedVolume>) -> Option<f64> {
    let volume = volume?;
    let text = filled(Some(&volume.typed))?;
    f.take(field, typed::volume(text, volume.unit)).map(|v| v.millilitres() / 1000.0)
}

impl TypedEquipment {
    fn others(&self, f: &mut Faults, model: &BatteryModel, cells: u16) -> Vec<Source> {
        let mut all = Vec::new();
        for (i, own) in self.others.iter().enumerate().filter(|(_, own)| !own.is_empty()) {
            let before = format!("others[{i}].");
            let source = own.source(f, &before);
            if let Err((field, said)) = suits(&source.settings, model, cells, &before) {
                f.take::<(), _>(&field, Err(said));
            }
            all.push(source);
        }
        all
    }

    fn loads(&self, f: &mut Faults) -> Vec<Load> {
        self.loads
            .iter()
            .enumerate()
            .filter(|(_, l)| !l.name.trim().is_empty() || !l.highest_volts.trim().is_empty())
            .filter_map(|(i, load)| {
                let name = load.name.trim().to_owned();
                let named =
                    if name.is_empty() { Err("a load has no name; say what it is") } else { Ok(name) };
                let name = f.take(&format!("loads[{i}].name"), named);
                let volts = typed::number(&load.highest_volts, bounds::VOLTAGE);
                let highest_volts = f.take(&format!("loads[{i}].highest_volts"), volts);
                Some(Load { name: name?, highest_volts: highest_volts? })
            })
            .collect()
    }

    /// The charger alone, judged against nothing; every field that does not fit is named.
    pub fn settings(charger: &TypedCharger) -> Result<ChargerSettings, AppError> {
        let mut faults = Faults::default();
        let settings = charger.settings(&mut faults, "");
        faults.none()?;
        Ok(settings)
    }

    /// The figures, or every one that does not fit. Settings of a bank of another voltage are refused.
    pub fn canonical(
        &self,
        model: &BatteryModel,
        (cells, batteries, strings): (u16, usize, u8),
    ) -> Result<Fitted, AppError> {
        let mut faults = Faults::default();
        let f = &mut faults;
        let first = self.charger.source(f, "");
        if let Err((field, said)) = suits(&first.settings, model, cells, "") {
            f.take::<(), _>(&field, Err(said));
        }
        let others = self.others(f, model, cells);
        let mut time =
            |field: &str, text: &String| filled(Some(text)).and_then(|t| f.take(field, time_of_day(t)));
        let (from, to, dark) =
            (time("sun_from", &self.sun_from), time("sun_to", &self.sun_to), time("dark", &self.dark));
        let sun = match (from, to) {
            (Some(from), Some(to)) if to > from => Some((from, to)),
            (Some(_), Some(_)) => {
                f.take::<(), _>(
                    "sun_to",
                    Err("the sun goes before it comes; the end is after the beginning"),
                );
                None
            }
            (None, None) => None,
            _ => {
                f.take::<(), _>("sun_to", Err("sun hours need a beginning and an end; type both or neither"));
                None
            }
        };
        let rate = fuel(f, "fuel_rate", self.fuel_rate.as_ref());
        let there = fuel(f, "fuel_there", self.fuel_there.as_ref());
        let loads = self.loads(f);
        let (enclosure, vents) = self.air(f);
        let (fittings, hook_up) = (self.fittings(f), self.hook_up(f));
        let own_numbers = self.own_numbers(f, batteries);
        let wiring = self.wiring.wiring(f, strings);
        let address = filled(Some(&self.feed)).and_then(|t| f.take("feed", own_network(t)));
        let unit = match filled(Some(&self.feed_unit)) {
            None => Some(1),
            Some(text) => {
                let unit = text.parse::<u8>().ok().filter(|u| (1..=247).contains(u));
                let said = format!("“{text}” is no Modbus unit; accepted is 1 to 247");
                f.take("feed_unit", unit.ok_or(said))
            }
        };
        faults.none()?;
        let fuel = rate.map(|rate| (rate, there.unwrap_or(0.0)));
        Ok(Fitted {
            equipment: Equipment {
                charger: first.settings,
                kind: first.kind,
                name: first.name,
                amperes: first.amperes,
                others,
                day: DaySource { sun, fuel, dark },
                loads,
                enclosure,
                vents,
                fittings,
                surroundings: self.surroundings.clone(),
                could_hole: self.could_hole.trim().to_owned(),
                own_numbers,
                wiring,
                hook_up,
            },
            feed: address.zip(unit).map(|(address, unit)| FeedAddress { address, unit }),
            set_anew: self.set_anew,
        })
    }
}

/// Settings that can be of this bank, judged at the temperature they are stated at.
fn suits(
    set: &ChargerSettings,
    model: &BatteryModel,
    cells: u16,
    before: &str,
) -> Result<(), (String, String)> {
    let any = set.absorption.or(set.float).or(set.equalize);
    let Some((_, at)) = any.zip(Temperature::from_celsius(REFERENCE).ok()) else { return Ok(()) };
    let judged = settings_audit(model, cells, at, set);
    judged
        .map(|_| ())
        .map_err(|e| (format!("{before}{}", e.field()), rainshadow_core::wording::stopped(&e.to_string())))
}

/// Equipment as typed, its air in the reader's units; what was never told begins empty.
pub fn typed_equipment(row: &EquipmentRow, units: ReaderUnits) -> TypedEquipment {
    let own: TypedEquipment = serde_json::from_str(&row.typed).unwrap_or_default();
    own.for_reader(&row.fitted.equipment, units.length)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn times_of_day_are_typed_as_people_write_them() {
        assert_eq!(time_of_day("9:30"), Ok(9.5));
        assert_eq!(time_of_day(" 16 "), Ok(16.0));
        assert_eq!(time_of_day("7,5"), Ok(7.5));
        for odd in ["25:00", "9:75", "noon", "-1"] {
            assert!(time_of_day(odd).unwrap_err().contains("accepted is 0:00 to 24:00"), "{odd}");
        }
    }

    #[test]
    fn only_the_own_network_is_asked() {
        assert_eq!(own_network("192.168.0.40").unwrap().port(), 502);
        assert!(own_network("127.0.0.1:1502").is_ok() && own_network("[::1]:1502").is_ok());
        for odd in ["8.8.8.8:502", "charger.example:502", "192.168.0.40:0", "10.0.0.1:99999"] {
            assert!(own_network(odd).unwrap_err().contains("of your own network"), "{odd}");
        }
    }
}
