//! The one table of accepted ranges, with the words of refusal.
//!
//! Forms, the HTTP interface, imports and the command line all refuse by this table, so a number is
//! accepted everywhere or nowhere.

mod planning;

pub use planning::*;
use thiserror::Error;

/// An accepted range of one quantity, both ends included.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bounds {
    /// What is measured, in trade words.
    pub quantity: &'static str,
    /// Lowest accepted value, in `unit`.
    pub low: f64,
    /// Highest accepted value, in `unit`.
    pub high: f64,
    /// Canonical unit, empty for plain numbers.
    pub unit: &'static str,
    /// Decimals in which the limits are said.
    pub decimals: usize,
}

/// A value outside its accepted range.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
#[error("{} {} is not possible here; accepted is {}", .bounds.quantity, said(*.found), .bounds.accepted())]
pub struct OutOfRange {
    /// The value that was given, in the canonical unit.
    pub found: f64,
    /// The range it must lie in.
    pub bounds: Bounds,
}

/// A figure that was given, short where it has many digits.
fn said(found: f64) -> String {
    if found == 0.0 || (1e-6..1e9).contains(&found.abs()) { found.to_string() } else { format!("{found:e}") }
}

impl Bounds {
    /// The value itself when it lies in the range.
    ///
    /// # Errors
    /// [`OutOfRange`] for anything outside, and for NaN or infinity.
    pub fn check(self, value: f64) -> Result<f64, OutOfRange> {
        if value.is_finite() && value >= self.low && value <= self.high {
            Ok(value)
        } else {
            Err(OutOfRange { found: value, bounds: self })
        }
    }

    /// The range in words: "0.980 to 1.400".
    pub fn accepted(&self) -> String {
        let d = self.decimals;
        let unit = if self.unit.is_empty() { String::new() } else { format!(" {}", self.unit) };
        format!("{:.d$} to {:.d$}{unit}", self.low, self.high)
    }
}

const fn table(quantity: &'static str, low: f64, high: f64, unit: &'static str, decimals: usize) -> Bounds {
    Bounds { quantity, low, high, unit, decimals }
}

/// Gravity as the instrument shows it (RD-3: outside this the number is refused and the cell is
/// recorded as below or above the scale; water at 40 °C reads 0.992).
pub const GRAVITY: Bounds = table("specific gravity", 0.980, 1.400, "", 3);
/// What an instrument shows in distilled water: further off it is no water, or no instrument.
pub const GRAVITY_OF_WATER: Bounds = table("gravity of distilled water", 0.950, 1.080, "", 3);
/// V on the same posts, read by two meters.
pub const COMPARED_VOLTS: Bounds = table("voltage of a comparison", 1.0, 600.0, "V", 1);
/// Gravity that raises no question by itself (RD-3).
pub const GRAVITY_UNQUESTIONED: Bounds = table("specific gravity", 1.050, 1.330, "", 3);
/// Gravity after correction: the range as read, widened by the largest correction.
pub const GRAVITY_CORRECTED: Bounds = table("corrected specific gravity", 0.900, 1.480, "", 3);
/// Electrolyte temperature; below the lowest freezing point and above the hottest case that can
/// still be touched, nobody reads a cell.
pub const ELECTROLYTE_TEMPERATURE: Bounds = table("electrolyte temperature", -40.0, 80.0, "°C", 0);
/// Mean temperature of electrolyte or air over days and weeks.
pub const MEAN_TEMPERATURE: Bounds = table("mean temperature", -40.0, 50.0, "°C", 0);
/// Lowest air that was ever seen in a month.
pub const RECORD_LOW: Bounds = table("record low", -60.0, 40.0, "°C", 0);
/// Days between two fills, or since one.
pub const FILL_DAYS: Bounds = table("days", 0.0, 3660.0, "d", 0);
/// Reference temperature a maker states gravity for.
pub const REFERENCE_TEMPERATURE: Bounds = table("reference temperature", 10.0, 35.0, "°C", 0);
/// Correction coefficient of SG-1.
pub const COEFFICIENT: Bounds = table("temperature coefficient", 0.0003, 0.0012, "per °C", 4);
/// Full-charge gravity of a battery model.
pub const FULL_GRAVITY: Bounds = table("full-charge gravity", 1.180, 1.320, "", 3);
/// Resolution of a gravity instrument, points.
pub const RESOLUTION: Bounds = table("instrument resolution", 0.1, 20.0, "points", 1);
/// Repeatability of a gravity instrument, points.
pub const REPEATABILITY: Bounds = table("instrument repeatability", 0.0, 20.0, "points", 1);
/// Voltage of a battery, string or bank.
pub const VOLTAGE: Bounds = table("voltage", 0.0, 600.0, "V", 1);
/// Voltage of one cell.
pub const CELL_VOLTAGE: Bounds = table("cell voltage", 1.5, 3.0, "V", 2);
/// Hours of a simulated program: two years.
pub const PROGRAM_HOURS: Bounds = table("hours to simulate", 0.0, 17_532.0, "h", 0);
/// Cells of a simulated string.
pub const PROGRAM_CELLS: Bounds = table("cells in series", 1.0, 120.0, "", 0);
/// A share of a whole.
pub const SHARE: Bounds = table("state of charge", 0.0, 1.0, "", 2);
/// How much more an old cell gasses than a new one.
pub const CELL_AGE: Bounds = table("age of the cells", 1.0, 4.0, "", 1);
/// Share of capacity that is gone for good.
pub const WORN: Bounds = table("capacity worn away", 0.0, 0.9, "", 2);
/// Volts per cell and degree that a charger adds by itself.
pub const COMPENSATION: Bounds = table("temperature compensation", -0.010, 0.0, "V per °C and cell", 3);
/// Capacity of a whole bank, all of its strings.
pub const BANK_CAPACITY: Bounds = table("capacity of the bank", 1.0, 50_000.0, "Ah", 0);
/// Charging current of a whole bank.
pub const BANK_CURRENT: Bounds = table("current", 0.0, 5000.0, "A", 0);
/// Current of a test, discharging; none or a negative one tests nothing (common practice, no source).
pub const TEST_CURRENT: Bounds = table("current of the test", 0.1, 5000.0, "A", 1);
/// Current of one string by a clamp meter; against the others where it is negative (common practice, no source).
pub const STRING_CURRENT: Bounds = table("current of the string", -5000.0, 5000.0, "A", 1);
/// Exponent of Peukert (common practice, no source).
pub const PEUKERT: Bounds = table("exponent", 1.0, 1.5, "", 2);
/// Hours of a timed discharge, a minute to ten days (common practice, no source).
pub const TEST_HOURS: Bounds = table("hours of the test", 0.016, 240.0, "h", 2);
/// Hours since a timed discharge began.
pub const TEST_HOURS_SINCE: Bounds = table("hours since the start", 0.0, 240.0, "h", 2);
/// Section of a battery cable (common practice, no source).
pub const CABLE_SECTION: Bounds = table("section of the cable", 0.5, 400.0, "mm\u{b2}", 1);
/// American wire gauge of a battery cable: -3 is 4/0 (common practice, no source).
pub const AWG: Bounds = table("wire gauge", -3.0, 20.0, "AWG", 0);
/// Length of a link or cable of a bank (common practice, no source).
pub const CABLE_LENGTH: Bounds = table("length of the cable", 0.01, 50.0, "m", 2);
/// Resistance of one lug (common practice, no source).
pub const LUG_RESISTANCE: Bounds = table("resistance of a lug", 0.0, 5.0, "m\u{3a9}", 2);
/// Resistance of a link, a lead or a joint (common practice, no source).
pub const LINK_RESISTANCE: Bounds = table("resistance of a link", 0.0, 1000.0, "m\u{3a9}", 3);
/// Resistance of a whole string (common practice, no source).
pub const STRING_RESISTANCE: Bounds = table("resistance of a string", 0.05, 5000.0, "m\u{3a9}", 2);
/// Drop across a joint (common practice, no source).
pub const JOINT_DROP: Bounds = table("drop across the joint", 0.0, 5000.0, "mV", 1);
/// What a meter resolves in its millivolt range (common practice, no source).
pub const METER_RESOLUTION: Bounds = table("resolution of the meter", 0.001, 10.0, "mV", 3);
/// Standard uncertainty of a voltmeter (common practice, no source).
pub const METER_UNCERTAINTY: Bounds = table("uncertainty of the meter", 0.0001, 1.0, "V", 4);
/// What one gravity of an instrument may be off, as a standard deviation.
pub const SPREAD_NOISE: Bounds = table("noise of one reading", 0.1, 50.0, "points", 1);
/// Per cent of the rated capacity that a timed discharge can show (common practice, no source).
pub const TESTED_CAPACITY: Bounds = table("tested capacity", 0.0, 200.0, "%", 0);
/// Depth of a cycle, share of the rated capacity.
pub const CYCLE_DEPTH: Bounds = table("depth of a cycle", 1.0, 100.0, "%", 0);
/// Volts of a bank in the record of a monitor (our choice, no source).
pub const RECORD_VOLTS: Bounds = table("volts of the record", 0.0, 800.0, "V", 0);
/// Current in the record of a monitor, into the bank or out of it (our choice, no source).
pub const RECORD_CURRENT: Bounds = table("current of the record", -5000.0, 5000.0, "A", 0);
/// A counter of ampere-hours in the record of a monitor (our choice, no source).
pub const RECORD_COUNTER: Bounds = table("counter of the record", -1e7, 1e7, "Ah", 0);
/// Temperature in the record of a monitor (our choice, no source).
pub const RECORD_TEMPERATURE: Bounds = table("temperature of the record", -50.0, 90.0, "°C", 0);
/// Cycles that are counted.
pub const CYCLES: Bounds = table("cycles", 0.0, 100_000.0, "cycles", 0);
/// Design life of a battery.
pub const DESIGN_LIFE: Bounds = table("design life", 1.0, 40.0, "years", 1);
/// Years of a life.
pub const YEARS: Bounds = table("years", 0.0, 100.0, "years", 1);
/// Temperature of a battery over its life.
pub const LIFE_TEMPERATURE: Bounds = table("mean temperature", -30.0, 70.0, "°C", 1);
/// Volts per cell that a discharge ends at (common practice, no source).
pub const END_CELL_VOLTS: Bounds = table("end voltage of a cell", 1.0, 1.95, "V", 2);
/// Volts of a cell that was just taken off its charger (common practice, no source).
pub const CHARGED_CELL_VOLTS: Bounds = table("volts of a cell off charge", 0.0, 3.0, "V", 2);
/// Minutes between the readings of a discharge.
pub const READING_MINUTES: Bounds = table("minutes between readings", 0.5, 120.0, "min", 1);
/// Volts of one cell, read by itself: a reversed one shows less than none (common practice, no source).
pub const CELL_VOLTS: Bounds = table("volts of a cell", -2.0, 3.0, "V", 3);
/// Seconds of a short load (common practice, no source).
pub const LOAD_SECONDS: Bounds = table("seconds of the load", 5.0, 60.0, "s", 0);
/// Cold cranking amperes of one battery (common practice, no source).
pub const CRANKING_CURRENT: Bounds = table("cranking rating", 50.0, 3000.0, "A", 0);
/// Volts of a cell under a load: a shorted one shows none, a reversed one less (common practice, no source).
pub const LOADED_CELL_VOLTS: Bounds = table("volts of a cell under load", -2.0, 2.6, "V", 2);
/// Hertz of a mains or inverter output (common practice, no source).
pub const HERTZ: Bounds = table("frequency", 30.0, 80.0, "Hz", 1);
/// Volts of a mains or inverter output (common practice, no source).
pub const MAINS_VOLTS: Bounds = table("output of the inverter", 50.0, 300.0, "V", 0);
/// Hour of the day, 13.5 for half past one.
pub const HOUR_OF_DAY: Bounds = table("hour of the day", 0.0, 24.0, "h", 0);
/// Fuel of a generator, an hour or in the tank (common practice, no source).
pub const FUEL: Bounds = table("fuel", 0.0, 5000.0, "L", 0);
/// Air around a bank.
pub const ENCLOSURE: Bounds = table("air in the enclosure", 0.001, 10_000.0, "m³", 3);
/// Air that a fan moves (common practice, no source).
pub const AIRFLOW: Bounds = table("airflow", 0.0, 100_000.0, "m³/h", 0);
/// Age of a used battery (common practice, no source).
pub const AGE_MONTHS: Bounds = table("age", 0.0, 480.0, "months", 0);
/// Capacity by a test against the one that is printed (common practice, no source).
pub const CAPACITY_PERCENT: Bounds = table("capacity", 0.0, 130.0, "%", 0);
/// Free area of an opening to the outside (common practice, no source).
pub const OPENING: Bounds = table("opening", 0.0, 100_000.0, "cm²", 0);
/// Inner width of a vent pipe (common practice, no source).
pub const PIPE: Bounds = table("pipe", 1.0, 1000.0, "mm", 0);
/// Capacity at the 20-hour rate.
pub const CAPACITY: Bounds = table("capacity", 1.0, 5000.0, "Ah", 0);
/// Liquid in or into one cell.
pub const VOLUME: Bounds = table("volume", 0.0, 100_000.0, "mL", 0);
/// Length inside a cell.
pub const LENGTH: Bounds = table("length", 0.0, 1000.0, "mm", 0);
/// Hours since charge or load.
pub const HOURS: Bounds = table("hours", 0.0, 8760.0, "h", 0);
/// Hours that a charger holds absorption (common practice, no source).
pub const ABSORPTION_HOURS: Bounds = table("hours of absorption", 0.1, 24.0, "h", 1);
/// Current beside a reading of volts, of a charger or a load (common practice, no source).
pub const LOAD_CURRENT: Bounds = table("current", 0.0, 5000.0, "A", 1);
/// Hours until something is looked at again: from one to a month (our choice, no source).
pub const RECHECK_HOURS: Bounds = table("hours until the recheck", 1.0, 744.0, "h", 0);
/// Hours by which the clock of a machine was set: ten years either way (our choice, no source).
pub const CLOCK_SET: Bounds = table("hours the clock was set by", -87_660.0, 87_660.0, "h", 0);
/// Any number of a request or a file: what lies beyond is no measurement of anything (our choice, no
/// source).
pub const ANY_NUMBER: Bounds = table("number", -1e9, 1e9, "", 0);
/// Hours of one row of a rate table, three minutes to ten days (common practice, no source).
pub const RATE_HOURS: Bounds = table("hours of a discharge", 0.05, 240.0, "h", 2);
/// Spread of gravity at which a maker asks for an equalize (common practice, no source).
pub const MAKER_SPREAD: Bounds = table("maker's limit of spread", 5.0, 100.0, "points", 0);
/// Free area over the plates of one cell (common practice, no source).
pub const FREE_AREA: Bounds = table("free area over the plates", 3.0, 200.0, "mL per mm", 0);
/// Level over the plates as measured; below them counts as bare.
pub const LEVEL: Bounds = table("level over the plates", -50.0, 300.0, "mm", 0);
/// Movement of a battery in its hold-down.
pub const PLAY: Bounds = table("play in the hold-down", 0.0, 200.0, "mm", 0);
/// Volts from a post to the tray.
pub const TRAY_VOLTS: Bounds = table("volts to the tray", 0.0, 600.0, "V", 1);
/// Internal resistance of one battery.
pub const RESISTANCE: Bounds = table("internal resistance", 0.05, 500.0, "mΩ", 2);
/// Conductance of one battery.
pub const CONDUCTANCE: Bounds = table("conductance", 2.0, 20_000.0, "S", 0);
/// Days from one tightening of the joints to the next (common practice, no source).
pub const RETORQUE_DAYS: Bounds = table("days between tightenings", 7.0, 1825.0, "days", 0);
/// Torque on a post.
pub const TORQUE: Bounds = table("torque", 0.5, 60.0, "N·m", 1);
/// Cells in one case.
pub const CELLS: Bounds = table("cells in one battery", 1.0, 6.0, "", 0);
/// Batteries in one string.
pub const SERIES: Bounds = table("batteries in series", 1.0, 60.0, "", 0);
/// Strings in parallel.
pub const PARALLEL: Bounds = table("strings in parallel", 1.0, 12.0, "", 0);
/// Cells in one bank.
pub const BANK_CELLS: Bounds = table("cells in the bank", 1.0, 192.0, "", 0);
/// Nominal voltage of a system.
pub const SYSTEM_VOLTAGE: Bounds = table("system voltage", 2.0, 400.0, "V", 0);
/// State of charge, per cent.
pub const STATE_OF_CHARGE: Bounds = table("state of charge", 0.0, 100.0, "%", 0);

/// Longest texts by the name of their field, in characters; what is not named here is a note
/// (our choice, no source).
const TEXTS: [(&str, usize); 27] = [
    ("name", 120),
    ("site_name", 120),
    ("kind", 120),
    ("site_kind", 120),
    ("duty", 120),
    ("region", 120),
    ("suits", 500),
    ("source", 500),
    ("fill_mark", 200),
    ("initials", 12),
    ("keeper", 40),
    ("person", 40),
    ("access_by", 40),
    ("closed_by", 140),
    ("finished_by", 140),
    ("device", 80),
    ("zone", 64),
    ("in_service", 20),
    ("serial", 80),
    ("date_code", 80),
    ("reason", 500),
    ("typed", 2000),
    // A climate, a line a day for a century.
    ("csv", 1_000_000),
    ("code", 40),
    ("rules", 64),
    // A request as it was sent, kept word for word beside what it came to.
    ("sent", 20_000),
    ("as_typed", 20_000),
];
/// Longest note, in characters (our choice, no source).
pub const NOTE_LENGTH: usize = 4000;

/// Characters that a text of this field may have.
pub fn longest(field: &str) -> usize {
    TEXTS.iter().find(|(name, _)| *name == field).map_or(NOTE_LENGTH, |(_, most)| *most)
}

/// A text that is longer than its field takes, or that holds what no keyboard types.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum BadText {
    /// Too long.
    #[error("the text has {found} characters; up to {most} are taken")]
    TooLong {
        /// Characters found.
        found: usize,
        /// Characters taken.
        most: usize,
    },
    /// A control character that is neither a tab nor the end of a line.
    #[error("the text holds the control character U+{0:04X}; letters, digits and signs are taken")]
    Control(u32),
}

/// Looks whether a text fits its field.
///
/// # Errors
/// [`BadText`] with what was found and what is taken.
pub fn check_text(field: &str, text: &str) -> Result<(), BadText> {
    let most = longest(field);
    // Bytes are at least as many as characters: counting is for the few that may be too long.
    if text.len() > most {
        let found = text.chars().count();
        if found > most {
            return Err(BadText::TooLong { found, most });
        }
    }
    let odd = |c: char| c.is_control() && !matches!(c, '\n' | '\r' | '\t');
    match text.chars().find(|c| odd(*c)) {
        Some(odd) => Err(BadText::Control(u32::from(odd))),
        None => Ok(()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_text_is_as_long_as_its_field_takes_in_characters() {
        assert_eq!(check_text("name", &"ü".repeat(120)), Ok(()));
        assert_eq!(check_text("name", &"ü".repeat(121)), Err(BadText::TooLong { found: 121, most: 120 }));
        assert_eq!(check_text("wished", &"x".repeat(4000)), Ok(()));
        let said = check_text("wished", &"x".repeat(4001)).unwrap_err().to_string();
        assert_eq!(said, "the text has 4001 characters; up to 4000 are taken");
        assert_eq!(check_text("note", "two\r\nlines\tand a tab"), Ok(()));
        assert_eq!(check_text("note", "a\u{0}b"), Err(BadText::Control(0)));
        assert_eq!(check_text("note", "a\u{1b}[31m"), Err(BadText::Control(0x1b)));
    }

    #[test]
    fn a_refusal_names_quantity_value_and_range() {
        let said = GRAVITY.check(12.65).unwrap_err().to_string();
        assert_eq!(said, "specific gravity 12.65 is not possible here; accepted is 0.980 to 1.400");
        let said = ELECTROLYTE_TEMPERATURE.check(-50.0).unwrap_err().to_string();
        assert_eq!(said, "electrolyte temperature -50 is not possible here; accepted is -40 to 80 °C");
    }

    #[test]
    fn not_a_number_is_refused() {
        assert!(GRAVITY.check(f64::NAN).is_err());
        assert!(HOURS.check(f64::INFINITY).is_err());
    }

    #[test]
    fn both_ends_are_accepted() {
        assert!(GRAVITY.check(0.980).is_ok());
        assert!(GRAVITY.check(1.400).is_ok());
    }
}
