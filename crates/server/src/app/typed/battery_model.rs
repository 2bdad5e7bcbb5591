//! A battery model as typed from the maker's sheet, in the reader's units, turned into figures;
//! every figure that does not fit is named.

use super::conditions::TypedTemperature;
use super::faults::{Faults, filled};
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::battery_model::{BatteryModel, Construction, RatePoint, Setpoints};
use rainshadow_core::electrolyte::SocPoint;
use rainshadow_core::quantity::torque::{show_torque, torque_unit, typed_torque};
use rainshadow_core::quantity::typed::{self, EntryError};
use rainshadow_core::quantity::units::TorqueUnit;
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits, VolumeUnit};
use rainshadow_core::quantity::{Bounds, Charge, Points, SpecificGravity, bounds};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A volume as typed, with its unit.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
pub struct TypedVolume {
    /// As typed; empty: not published.
    pub typed: String,
    /// Its unit.
    #[serde(default)]
    pub unit: VolumeUnit,
}

/// A length as typed, with its unit.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
pub struct TypedLength {
    /// As typed; empty: not published.
    pub typed: String,
    /// Its unit.
    #[serde(default)]
    pub unit: LengthUnit,
}

/// One row of the charge table as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedSocRow {
    /// State of charge, per cent.
    pub percent: String,
    /// Gravity.
    pub gravity: String,
    /// Settled volts of one cell; empty: not published.
    #[serde(default)]
    pub cell_volts: String,
}

/// One row of the rate table as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedRateRow {
    /// Hours of the discharge.
    pub hours: String,
    /// Ah at that rate.
    pub capacity: String,
}

/// A battery model as typed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct TypedModel {
    /// Name as on the case.
    pub name: String,
    /// Where the figures come from.
    pub source: String,
    /// Construction.
    pub construction: Construction,
    /// Cells in one case.
    pub cells: String,
    /// C20, Ah.
    pub c20: String,
    /// Rate table; may be empty.
    #[serde(default)]
    pub rates: Vec<TypedRateRow>,
    /// Gravity of a full cell.
    pub full_gravity: String,
    /// Gravity of a discharged cell.
    pub discharged_gravity: String,
    /// Charge table, fullest first; may be empty.
    #[serde(default)]
    pub soc_table: Vec<TypedSocRow>,
    /// Temperature the gravities are stated at.
    pub reference_temperature: TypedTemperature,
    /// Absorption, V a cell.
    pub absorption: String,
    /// Float, V a cell.
    pub float: String,
    /// Equalize, V a cell; empty on sealed batteries.
    #[serde(default)]
    pub equalize: Option<String>,
    /// Where the fill mark is, in words.
    #[serde(default)]
    pub fill_mark: String,
    /// Height of the fill mark over the plates.
    #[serde(default)]
    pub fill_mark_above_plates: TypedLength,
    /// Electrolyte in one cell.
    #[serde(default)]
    pub acid_volume: TypedVolume,
    /// Free area over the plates of one cell, mL per mm; empty: not known.
    #[serde(default)]
    pub free_area: Option<String>,
    /// Torque of its posts; empty: not published.
    #[serde(default)]
    pub post_torque: String,
    /// What that is typed in.
    #[serde(default)]
    pub torque_unit: TorqueUnit,
    /// Days after which its maker has joints set to torque again; empty: not published.
    #[serde(default)]
    pub retorque_days: String,
    /// The maker's limit of spread, points; empty: none published.
    #[serde(default)]
    pub maker_spread_limit: Option<String>,
    /// Where the maker's conditioning voltage of a sealed battery is written; empty: there is none.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub conditioning_source: Option<String>,
}

fn whole_cells(text: &str) -> Result<u8, String> {
    let accepted = bounds::CELLS.accepted();
    let said =
        || format!("“{}” is not a number of cells in one battery; accepted is {accepted}", text.trim());
    let cells: u8 = text.trim().parse().map_err(|_number| said())?;
    bounds::CELLS.check(f64::from(cells)).map_err(|_range| said())?;
    Ok(cells)
}

fn days(faults: &mut Faults, text: &str) -> Option<u16> {
    let days = faults.number("retorque_days", text, bounds::RETORQUE_DAYS)?;
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "bounded above")]
    Some(days.round() as u16)
}

fn points(text: &str) -> Result<Points, EntryError> {
    typed::number(text, bounds::MAKER_SPREAD).map(Points::new)
}

fn capacity(text: &str) -> Result<Charge, EntryError> {
    Ok(Charge::from_ampere_hours(typed::number(text, bounds::CAPACITY)?)?)
}

impl Faults {
    fn number(&mut self, field: &str, text: &str, bounds: Bounds) -> Option<f64> {
        self.take(field, typed::number(text, bounds))
    }

    fn gravity(&mut self, field: &str, text: &str) -> Option<SpecificGravity> {
        self.take(field, typed::gravity(text))
    }
}

fn soc_row(faults: &mut Faults, at: usize, row: &TypedSocRow) -> Option<SocPoint> {
    let field = format!("soc_table.{}", at + 1);
    let percent = faults.number(&field, &row.percent, bounds::STATE_OF_CHARGE);
    let gravity = faults.gravity(&field, &row.gravity);
    let volts = filled(Some(&row.cell_volts)).map(|t| faults.number(&field, t, bounds::CELL_VOLTAGE));
    Some(SocPoint { percent: percent?, gravity: gravity?, cell_volts: volts.flatten() })
}

fn rate_row(faults: &mut Faults, at: usize, row: &TypedRateRow) -> Option<RatePoint> {
    let field = format!("rates.{}", at + 1);
    let hours = faults.number(&field, &row.hours, bounds::RATE_HOURS);
    let capacity = faults.take(&field, capacity(&row.capacity));
    Some(RatePoint { hours: hours?, capacity: capacity? })
}

impl TypedModel {
    /// The figures, or every one that does not fit.
    pub fn canonical(&self) -> AppResult<BatteryModel> {
        let mut faults = Faults::default();
        let f = &mut faults;
        let cells = f.take("cells", whole_cells(&self.cells));
        let c20 = f.take("c20", capacity(&self.c20));
        let full_gravity = f.gravity("full_gravity", &self.full_gravity);
        let discharged_gravity = f.gravity("discharged_gravity", &self.discharged_gravity);
        let at = &self.reference_temperature;
        let reference_temperature = f.take("reference_temperature", typed::temperature(&at.typed, at.unit));
        let absorption = f.number("absorption", &self.absorption, bounds::CELL_VOLTAGE);
        let float = f.number("float", &self.float, bounds::CELL_VOLTAGE);
        let equalize =
            filled(self.equalize.as_ref()).and_then(|t| f.number("equalize", t, bounds::CELL_VOLTAGE));
        let mark = &self.fill_mark_above_plates;
        let fill_mark_above_plates = filled(Some(&mark.typed))
            .and_then(|t| f.take("fill_mark_above_plates", typed::length(t, mark.unit)));
        let acid = &self.acid_volume;
        let acid_volume =
            filled(Some(&acid.typed)).and_then(|t| f.take("acid_volume", typed::volume(t, acid.unit)));
        let free_area =
            filled(self.free_area.as_ref()).and_then(|t| f.number("free_area", t, bounds::FREE_AREA));
        let maker_spread_limit =
            filled(self.maker_spread_limit.as_ref()).and_then(|t| f.take("maker_spread_limit", points(t)));
        let post_torque = filled(Some(&self.post_torque))
            .and_then(|t| f.take("post_torque", typed_torque(t, self.torque_unit)));
        let retorque_days = filled(Some(&self.retorque_days)).and_then(|t| days(f, t));
        let soc_table = self.soc_table.iter().enumerate().filter_map(|(i, row)| soc_row(f, i, row)).collect();
        let rates = self.rates.iter().enumerate().filter_map(|(i, row)| rate_row(f, i, row)).collect();
        faults.none()?;
        // Every required figure is there, or the line above has answered.
        let all = (|| {
            Some(BatteryModel {
                name: self.name.trim().to_owned(),
                source: self.source.trim().to_owned(),
                construction: self.construction,
                cells: cells?,
                c20: c20?,
                rates,
                full_gravity: full_gravity?,
                discharged_gravity: discharged_gravity?,
                soc_table,
                reference_temperature: reference_temperature?,
                setpoints: Setpoints { absorption: absorption?, float: float?, equalize },
                fill_mark: self.fill_mark.trim().to_owned(),
                fill_mark_above_plates,
                acid_volume,
                free_area,
                maker_spread_limit,
                post_torque,
                retorque_days,
                conditioning_source: filled(self.conditioning_source.as_ref()).map(ToOwned::to_owned),
            })
        })();
        let model = all.ok_or_else(|| AppError::field("model", "A figure is missing."))?;
        if let Some(at) = model.rates_against_c20().map(Charge::ampere_hours) {
            let c20 = model.c20.ampere_hours();
            let said = format!(
                "The rate table tells {at:.0} Ah at 20 hours, but C20 is {c20:.0} Ah: they are the same figure. Is the table of another battery?"
            );
            return Err(AppError::field("rates", said));
        }
        model.checked().map_err(|e| AppError::field(e.field(), format!("{e}.")))
    }

    /// Figures as a reader would type them, for a copy to begin with.
    pub fn of(model: &BatteryModel, units: ReaderUnits) -> Self {
        let text = |value: f64| value.to_string();
        Self {
            name: model.name.clone(),
            source: model.source.clone(),
            construction: model.construction,
            cells: model.cells.to_string(),
            c20: text(model.c20.ampere_hours()),
            rates: model
                .rates
                .iter()
                .map(|r| TypedRateRow { hours: text(r.hours), capacity: text(r.capacity.ampere_hours()) })
                .collect(),
            full_gravity: model.full_gravity.to_string(),
            discharged_gravity: model.discharged_gravity.to_string(),
            soc_table: model
                .soc_table
                .iter()
                .map(|r| TypedSocRow {
                    percent: text(r.percent),
                    gravity: r.gravity.to_string(),
                    cell_volts: r.cell_volts.map(text).unwrap_or_default(),
                })
                .collect(),
            reference_temperature: TypedTemperature {
                typed: units.type_temperature(model.reference_temperature),
                unit: units.temperature,
            },
            absorption: text(model.setpoints.absorption),
            float: text(model.setpoints.float),
            equalize: model.setpoints.equalize.map(text),
            fill_mark: model.fill_mark.clone(),
            fill_mark_above_plates: TypedLength {
                typed: model.fill_mark_above_plates.map(|l| units.type_length(l)).unwrap_or_default(),
                unit: units.length,
            },
            acid_volume: TypedVolume {
                typed: model.acid_volume.map(|v| units.type_volume(v)).unwrap_or_default(),
                unit: units.volume,
            },
            free_area: model.free_area.map(text),
            maker_spread_limit: model.maker_spread_limit.map(|p| text(p.value())),
            post_torque: model.post_torque.map(|t| show_torque(t, units)).unwrap_or_default(),
            torque_unit: torque_unit(units),
            retorque_days: model.retorque_days.map(|days| days.to_string()).unwrap_or_default(),
            conditioning_source: model.conditioning_source.clone(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rainshadow_core::quantity::units::TemperatureUnit;

    const US: ReaderUnits = ReaderUnits {
        temperature: TemperatureUnit::Fahrenheit,
        volume: VolumeUnit::UsGallon,
        length: LengthUnit::Inch,
    };

    #[test]
    fn every_shipped_model_offered_for_typing_means_the_same_again() {
        for (key, model) in BatteryModel::generic() {
            for units in [ReaderUnits::default(), US] {
                let back = TypedModel::of(&model, units).canonical().unwrap();
                assert_eq!((&back.soc_table, &back.rates), (&model.soc_table, &model.rates), "{key}");
                assert_eq!((back.full_gravity, back.c20), (model.full_gravity, model.c20), "{key}");
                let volume =
                    |m: &BatteryModel| m.acid_volume.map(rainshadow_core::quantity::Volume::millilitres);
                // typed to a thousandth of a gallon, 3.8 mL
                let apart = volume(&back).zip(volume(&model)).map(|(a, b)| (a - b).abs());
                assert!(apart.is_none_or(|d| d < 2.0), "{key}: {apart:?}");
            }
        }
    }

    #[test]
    fn figures_that_do_not_fit_are_all_named_in_the_unit_they_were_typed_in() {
        let mut typed = TypedModel::of(&BatteryModel::generic()[0].1, US);
        typed.cells = "7".into();
        typed.c20 = "many".into();
        typed.reference_temperature.typed = "400".into();
        typed.acid_volume.typed = "-2".into();
        typed.soc_table[1].gravity = "12.65".into();
        typed.maker_spread_limit = Some("wide".into());
        let refused = typed.canonical().unwrap_err();
        let fields: Vec<&str> = refused.faults().iter().map(|(field, _)| field.as_str()).collect();
        assert_eq!(
            fields,
            ["cells", "c20", "reference_temperature", "acid_volume", "maker_spread_limit", "soc_table.2"]
        );
        assert!(refused.faults()[2].1.contains("-40 to 176 °F"), "{refused:?}");
        assert!(refused.faults()[3].1.contains("0 to 26 US gal"), "{refused:?}");
    }

    #[test]
    fn figures_that_contradict_each_other_name_their_field() {
        let mut typed = TypedModel::of(&BatteryModel::generic()[0].1, ReaderUnits::default());
        typed.full_gravity = "1.200".into();
        typed.discharged_gravity = "1.210".into();
        assert_eq!(typed.canonical().unwrap_err().faults()[0].0, "full_gravity");
        typed = TypedModel::of(&BatteryModel::generic()[0].1, ReaderUnits::default());
        typed.name = " ".into();
        assert_eq!(typed.canonical().unwrap_err().faults()[0].0, "name");
    }
}
