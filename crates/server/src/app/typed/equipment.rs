//! What charges a bank and what hangs on it, as typed.

use super::battery_model::TypedVolume;
use super::conditions::TypedTemperature;
use super::faults::{Faults, filled};
use crate::app::refused::AppError;
use crate::db::EquipmentRow;
use crate::db::{FeedAddress, Fitted, on_own_network};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{COEFFICIENT, ChargerSettings, ChargerTemperature, settings_audit};
use rainshadow_core::equalize::{DaySource, Load};
use rainshadow_core::equipment::Equipment;
use rainshadow_core::quantity::{Bounds, Temperature, bounds, typed};
use serde::{Deserialize, Serialize};
use std::net::SocketAddr;
use utoipa::ToSchema;

/// Temperature that chargers' settings are stated at when nothing is told, °C.
const REFERENCE: f64 = 25.0;

/// A charger as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedCharger {
    /// Absorption, V of the bank; empty: not told.
    pub absorption: String,
    /// Float, V of the bank.
    pub float: String,
    /// Equalize, V of the bank; empty: off or not told.
    pub equalize: String,
    /// True when it follows a temperature sensor by itself.
    pub compensates: bool,
    /// mV a degree Celsius and cell that it takes off as it warms; empty: 5.
    pub millivolts: String,
    /// Temperature its settings are meant for; empty: 25 °C.
    pub reference: Option<TypedTemperature>,
    /// True for one that knows flooded batteries only.
    pub flooded_only: bool,
    /// Current it has for the bank, A; empty: not told.
    pub amperes: String,
}

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
    /// Air around the bank, m³; empty: not told.
    pub enclosure: String,
    /// Where the charger answers by Modbus TCP, "192.168.0.40:502"; empty: no feed.
    pub feed: String,
    /// Its Modbus unit, 1 to 247; empty: 1.
    pub feed_unit: String,
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
    fn charger(&self, f: &mut Faults) -> ChargerSettings {
        let mut volts = |field: &str, text: &String| {
            filled(Some(text)).and_then(|t| f.take(field, typed::number(t, bounds::VOLTAGE)))
        };
        let own = &self.charger;
        let absorption = volts("absorption", &own.absorption);
        let float = volts("float", &own.float);
        let equalize = volts("equalize", &own.equalize);
        let compensates = own.compensates.then(|| {
            const MILLIVOLTS: Bounds = Bounds {
                low: 0.0,
                high: 10.0,
                unit: "mV per °C and cell",
                decimals: 0,
                ..bounds::COMPENSATION
            };
            let millivolts = filled(Some(&own.millivolts))
                .and_then(|t| f.take("millivolts", typed::number(t, MILLIVOLTS)))
                .map_or(COEFFICIENT, |mv| -mv / 1000.0);
            let reference = own.reference.as_ref().filter(|t| !t.typed.trim().is_empty());
            let reference = reference
                .and_then(|t| f.take("reference", typed::temperature(&t.typed, t.unit)))
                .map_or(REFERENCE, Temperature::celsius);
            let own = ChargerTemperature { reference, per_degree: millivolts };
            f.take("reference", own.checked()).unwrap_or_default()
        });
        ChargerSettings { absorption, float, equalize, compensates, flooded_only: own.flooded_only }
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
        let whole = Self { charger: charger.clone(), ..Self::default() };
        let mut faults = Faults::default();
        let settings = whole.charger(&mut faults);
        faults.none()?;
        Ok(settings)
    }

    /// The figures, or every one that does not fit. Settings of a bank of another voltage are refused.
    pub fn canonical(&self, model: &BatteryModel, cells: u16) -> Result<Fitted, AppError> {
        let mut faults = Faults::default();
        let f = &mut faults;
        let charger = self.charger(f);
        let amperes = filled(Some(&self.charger.amperes))
            .and_then(|t| f.take("amperes", typed::number(t, bounds::BANK_CURRENT)));
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
        let enclosure = filled(Some(&self.enclosure))
            .and_then(|t| f.take("enclosure", typed::number(t, bounds::ENCLOSURE)));
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
        // Judged at the temperature settings are stated at: only what cannot be of this bank is refused.
        let set = charger.absorption.or(charger.float).or(charger.equalize);
        if let (Some(_), Ok(at)) = (set, Temperature::from_celsius(REFERENCE)) {
            settings_audit(model, cells, at, &charger)
                .map_err(|e| AppError::field(e.field(), rainshadow_core::wording::stopped(&e.to_string())))?;
        }
        let fuel = rate.map(|rate| (rate, there.unwrap_or(0.0)));
        Ok(Fitted {
            equipment: Equipment { charger, amperes, day: DaySource { sun, fuel, dark }, loads, enclosure },
            feed: address.zip(unit).map(|(address, unit)| FeedAddress { address, unit }),
        })
    }
}

/// Equipment as typed; what was never told begins empty.
pub fn typed_equipment(row: &EquipmentRow) -> TypedEquipment {
    serde_json::from_str(&row.typed).unwrap_or_default()
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
