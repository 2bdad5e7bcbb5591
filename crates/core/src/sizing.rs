//! RP-3: how large a bank has to be, and layouts of known batteries that are.

use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::discharge::{rated_time, sizing_factor};
use crate::quantity::{OutOfRange, Temperature, bounds};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// What a bank is made larger by, so that it still serves at the end of its life (IEEE 485, from memory).
pub const AGEING: f64 = 1.25;
/// Strings up to which a layout is proposed without a word (school 17; common practice, no source).
pub const MOST_STRINGS: u8 = 3;
/// Strings that are proposed at all (our choice, no source).
const STRINGS_AT_ALL: u8 = 5;
/// Share of C20 that a surge may draw, A for each Ah (LT-2\u{2019}s load; common practice, no source).
pub const MOST_SURGE: f64 = 0.5;
/// Kilograms of a lead-acid battery for each kWh at 20 hours (common practice, no source).
const KILOGRAMS: f64 = 30.0;

/// What a bank is to do.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizingAsked {
    /// V of the system.
    pub system_voltage: u16,
    /// Wh a day at the loads.
    pub watt_hours: f64,
    /// Days without a source.
    pub days: f64,
    /// How deep it may go in them, per cent.
    pub depth: f64,
    /// Share that the inverter gives of what it takes; 1 without one.
    pub efficiency: f64,
    /// Coldest electrolyte to serve at, °C.
    pub temperature: f64,
    /// Times what is needed, so that it still serves when it is old; 1.25 as a rule.
    pub ageing: f64,
    /// W of the highest surge; 0: none.
    #[serde(default)]
    pub surge: f64,
}

/// Why no size is told.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum SizingError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Nothing is drawn.
    #[error("nothing is drawn: type what the loads take in a day")]
    NoLoad,
}

impl SizingError {
    /// The field it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::NoLoad => "watt_hours",
            Self::OutOfRange(own) => match own.bounds {
                b if b == bounds::SYSTEM_VOLTAGE => "system_voltage",
                b if b == bounds::DAILY_ENERGY => "watt_hours",
                b if b == bounds::AUTONOMY => "days",
                b if b == bounds::CYCLE_DEPTH => "depth",
                b if b == bounds::INVERTER_EFFICIENCY => "efficiency",
                b if b == bounds::AGEING => "ageing",
                b if b == bounds::RUNTIME_LOAD => "surge",
                _ => "temperature",
            },
        }
    }
}

/// What is needed.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeNeeded {
    /// Ah of the whole bank at the rate it is drawn at.
    pub ampere_hours: f64,
    /// Ah a day at the bank.
    pub ampere_hours_a_day: f64,
    /// Factor that the cold makes it larger by.
    pub temperature_factor: f64,
    /// Mean current of the bank, A.
    pub amperes: f64,
    /// Current of the surge, A.
    pub surge_amperes: f64,
}

/// One layout.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizedLayout {
    /// How it is made up.
    pub shape: BankShape,
    /// Ah at 20 hours of the whole bank.
    pub c20: f64,
    /// Ah at the rate it is drawn at, never above that at 20 hours.
    pub at_rate: f64,
    /// Depth of a day, per cent of C20.
    pub daily_depth: f64,
    /// kWh at 20 hours.
    pub kilowatt_hours: f64,
    /// kg, roughly.
    pub kilograms: f64,
    /// Cells to water; 0 where it is sealed.
    pub cells_to_water: usize,
    /// A of the surge for each Ah.
    pub surge_rate: f64,
    /// Steady; watch: more than three strings, or the surge is much for it.
    pub condition: Severity,
}

impl SizingAsked {
    fn check(&self) -> Result<(), SizingError> {
        bounds::SYSTEM_VOLTAGE.check(f64::from(self.system_voltage))?;
        bounds::DAILY_ENERGY.check(self.watt_hours)?;
        bounds::AUTONOMY.check(self.days)?;
        bounds::CYCLE_DEPTH.check(self.depth)?;
        bounds::INVERTER_EFFICIENCY.check(self.efficiency)?;
        bounds::ELECTROLYTE_TEMPERATURE.check(self.temperature)?;
        bounds::AGEING.check(self.ageing)?;
        bounds::RUNTIME_LOAD.check(self.surge)?;
        if self.watt_hours > 0.0 { Ok(()) } else { Err(SizingError::NoLoad) }
    }

    /// What the cold makes it larger by: IEEE 485 where it tells, the share that is left beyond; warmth makes nothing smaller.
    fn cold(&self) -> f64 {
        let at = Temperature::from_celsius(self.temperature).ok().and_then(sizing_factor);
        at.unwrap_or_else(|| 1.0 / crate::discharge::capacity_share(self.temperature)).max(1.0)
    }
}

/// How large it has to be (RP-3): daily Wh times days over volts, depth and efficiency, times cold and ageing.
///
/// # Errors
/// [`SizingError`] for what cannot be.
pub fn size_needed(asked: &SizingAsked) -> Result<SizeNeeded, SizingError> {
    asked.check()?;
    let volts = f64::from(asked.system_voltage);
    let a_day = asked.watt_hours / (volts * asked.efficiency);
    let factor = asked.cold();
    Ok(SizeNeeded {
        ampere_hours: a_day * asked.days / (asked.depth / 100.0) * factor * asked.ageing,
        ampere_hours_a_day: a_day,
        temperature_factor: factor,
        amperes: a_day / 24.0,
        surge_amperes: asked.surge / (volts * asked.efficiency),
    })
}

/// A model in as many strings as are needed; none: it does not make the volts, or needs more than five strings.
///
/// # Errors
/// [`SizingError`] for what cannot be.
pub fn layout_of(asked: &SizingAsked, model: &BatteryModel) -> Result<Option<SizedLayout>, SizingError> {
    let needed = size_needed(asked)?;
    let battery = model.nominal_volts();
    if !asked.system_voltage.is_multiple_of(battery) {
        return Ok(None);
    }
    let c20 = model.c20.ampere_hours();
    let at_rate = |strings: u8| {
        let own = needed.amperes / f64::from(strings);
        (rated_time(model, own).hours * own).min(c20) * f64::from(strings)
    };
    let Some(strings) = (1..=STRINGS_AT_ALL).find(|n| at_rate(*n) >= needed.ampere_hours - 1e-9) else {
        return Ok(None);
    };
    let Ok(shape) = BankShape::of_batteries(model.cells, asked.system_voltage, strings) else {
        return Ok(None);
    };
    let all = c20 * f64::from(strings);
    let kilowatt_hours = all * f64::from(asked.system_voltage) / 1000.0;
    let surge_rate = needed.surge_amperes / all;
    let watched = strings > MOST_STRINGS || surge_rate > MOST_SURGE;
    Ok(Some(SizedLayout {
        cells_to_water: if model.construction.has_caps() { shape.cell_count() } else { 0 },
        shape,
        c20: all,
        at_rate: at_rate(strings),
        daily_depth: (100.0 * needed.ampere_hours_a_day / all).min(100.0),
        kilowatt_hours,
        kilograms: KILOGRAMS * kilowatt_hours,
        surge_rate,
        condition: if watched { Severity::Watch } else { Severity::Steady },
    }))
}
