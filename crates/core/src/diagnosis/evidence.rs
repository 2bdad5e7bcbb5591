//! Readings of a bank by date, and its context, as a diagnosis takes them.

use crate::bank::{BatteryAddress, CellAddress};
use crate::quantity::SpecificGravity;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// A day in words.
pub(super) fn said(day: Date) -> String {
    day.strftime("%-d %b %Y").to_string()
}

/// Gravity of one cell.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellGravity {
    /// Which.
    pub cell: CellAddress,
    /// Corrected to the reference of the model.
    pub gravity: SpecificGravity,
    /// How far its level lies under the mark, mm; none: not known.
    #[serde(default)]
    pub below_mark: Option<f64>,
    /// True where it is in question: it counts for nothing.
    #[serde(default)]
    pub in_question: bool,
}

/// A round of gravities.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoundRead {
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// True when the charge before was proven full.
    #[serde(default)]
    pub proven_full: bool,
    /// The instrument, in the technician's words: two that differ are two instruments.
    #[serde(default)]
    pub instrument: String,
    /// What one reading may be off, points, as a standard deviation.
    #[serde(default = "usual_noise")]
    pub noise: f64,
    /// Cell by cell.
    pub cells: Vec<CellGravity>,
}

fn usual_noise() -> f64 {
    3.0
}

/// A figure of one battery.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeasuredBattery {
    /// Which.
    pub battery: BatteryAddress,
    /// The figure: V, mΩ.
    pub value: f64,
    /// Its own first value; none: not on record.
    #[serde(default)]
    pub first: Option<f64>,
}

/// Volts at rest.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RestVoltsRead {
    /// Their day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// True when they rested long enough to be settled.
    pub settled: bool,
    /// True when the charge before was proven full.
    #[serde(default)]
    pub proven_full: bool,
    /// Battery by battery, V.
    pub batteries: Vec<MeasuredBattery>,
}

/// Resistances.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ResistancesRead {
    /// Their day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Battery by battery, mΩ.
    pub batteries: Vec<MeasuredBattery>,
}

/// Volts at the end of a short load (LT-2).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShortLoadRead {
    /// Their day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Battery by battery, V.
    pub batteries: Vec<MeasuredBattery>,
}

/// Volts of batteries that were held disconnected after a full charge (HD-1): `first` before, `value` after.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HeldRead {
    /// Day of the second reading.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Days between the two, more than 0.
    pub days: f64,
    /// Mean temperature between, °C; none: taken as 25.
    #[serde(default)]
    pub temperature: Option<f64>,
    /// What the meter may be off, V, as a standard deviation.
    #[serde(default = "usual_meter")]
    pub noise: f64,
    /// Battery by battery, V.
    pub batteries: Vec<MeasuredBattery>,
}

fn usual_meter() -> f64 {
    0.003
}

/// An instrument beside what it should show.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct InstrumentCheck {
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// The instrument, as the rounds name it; empty: whichever was read last.
    #[serde(default)]
    pub instrument: String,
    /// What it showed less what is true: points in distilled water, V on 12 V for a meter.
    pub off: f64,
}

/// A timed discharge.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TimedDischarge {
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Per cent of the rated capacity (CT-1).
    pub percent: f64,
    /// True when the batteries were read near the end.
    #[serde(default)]
    pub batteries_read: bool,
    /// Batteries that gave out before their mates.
    #[serde(default)]
    pub early: Vec<BatteryAddress>,
}

/// What a bank drinks.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WaterUse {
    /// Share of the ampere-hours drawn that went into gas (WA-1); of a standby bank times what is expected.
    #[serde(default)]
    pub share: Option<f64>,
    /// True for a bank on float: its share is times what is expected.
    #[serde(default)]
    pub on_float: bool,
    /// How the logarithm of the rate rises with the temperature, per °C; none: not known.
    #[serde(default)]
    pub per_degree: Option<f64>,
    /// Rate of the battery furthest from its mates, times theirs.
    #[serde(default)]
    pub furthest_battery: Option<f64>,
    /// Rate of the thirstiest string over that of the least, at least 1.
    #[serde(default)]
    pub strings_apart: Option<f64>,
}

/// What a record of the charging shows (CR-1).
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingRecord {
    /// Share of the days that reached full.
    #[serde(default)]
    pub full_days: Option<f64>,
    /// Longest run of days without.
    #[serde(default)]
    pub longest_gap: Option<f64>,
    /// Ampere-hours in over those out.
    #[serde(default)]
    pub charge_factor: Option<f64>,
    /// Hours of gassing a day.
    #[serde(default)]
    pub gassing_hours: Option<f64>,
    /// Held volts less those asked for, V a cell.
    #[serde(default)]
    pub held_off: Option<f64>,
    /// True where held volts follow the temperature, false where they do not; none: it hardly changed.
    #[serde(default)]
    pub held_follow: Option<bool>,
    /// Drawn in the quiet hours a day, share of C20.
    #[serde(default)]
    pub standing_draw: Option<f64>,
}

/// What the charger is set to (CH-3).
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargerSettings {
    /// Absorption (standby: float) less what the model asks for, V a cell.
    #[serde(default)]
    pub absorption_off: Option<f64>,
    /// True where a sensor is on the bank and the charger compensates.
    #[serde(default)]
    pub compensates: Option<bool>,
    /// Hours of absorption it is set to.
    #[serde(default)]
    pub absorption_hours: Option<f64>,
}

/// What was measured of joints, strings and leakage.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StringMeasured {
    /// Joints far over their like; none: not measured, or not resolved.
    #[serde(default)]
    pub joints_out: Option<u16>,
    /// Current of each string, A; empty: not measured.
    #[serde(default)]
    pub currents: Vec<f64>,
    /// Volts from each post to the case, bank isolated; none: not measured.
    #[serde(default)]
    pub to_case: Option<[f64; 2]>,
}

/// A sign that somebody saw, or told from elsewhere, by its key in the table of weights.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeenSign {
    /// Key: `tops_wet`.
    pub sign: String,
    /// Where; empty: the bank.
    #[serde(default)]
    pub of: String,
}

/// Everything on record.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Evidence {
    /// The day of the diagnosis: what is older than its kind keeps counts for nothing; none: everything counts.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub today: Option<Date>,
    /// Rounds in any order; the newest speaks, those before tell of jumps.
    #[serde(default)]
    pub rounds: Vec<RoundRead>,
    /// Volts at rest, in any order; the newest that settled speaks.
    #[serde(default)]
    pub rest: Vec<RestVoltsRead>,
    /// Resistances, in any order.
    #[serde(default)]
    pub resistances: Vec<ResistancesRead>,
    /// Timed discharges, in any order.
    #[serde(default)]
    pub discharges: Vec<TimedDischarge>,
    /// Short loads, in any order.
    #[serde(default)]
    pub short_loads: Vec<ShortLoadRead>,
    /// Batteries held disconnected, in any order.
    #[serde(default)]
    pub held: Vec<HeldRead>,
    /// Hydrometers in distilled water, in any order.
    #[serde(default)]
    pub distilled: Vec<InstrumentCheck>,
    /// Voltmeters against another, in any order.
    #[serde(default)]
    pub meter: Vec<InstrumentCheck>,
    /// What it drinks.
    #[serde(default)]
    pub water: Option<WaterUse>,
    /// The record of its charging.
    #[serde(default)]
    pub record: Option<ChargingRecord>,
    /// What the charger is set to.
    #[serde(default)]
    pub settings: Option<ChargerSettings>,
    /// Joints, strings, leakage.
    #[serde(default)]
    pub strings: Option<StringMeasured>,
    /// Age, years; none: not known.
    #[serde(default)]
    pub age: Option<f64>,
    /// Design life, years; none: not known.
    #[serde(default)]
    pub design_life: Option<f64>,
    /// Signs that were seen, or told from elsewhere.
    #[serde(default)]
    pub seen: Vec<SeenSign>,
}
