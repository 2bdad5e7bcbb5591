//! What was typed on a planner, read by its key; every fault is kept under that key.

use super::control::Values;
use crate::app::typed::faults::Faults;
use jiff::civil::Date;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{Bounds, Temperature, typed};

/// Values as typed, with the faults found so far.
pub struct Typed<'a> {
    values: &'a Values,
    unit: TemperatureUnit,
    /// Faults so far.
    pub faults: Faults,
}

impl<'a> Typed<'a> {
    /// Values typed with temperatures in this unit.
    pub fn new(values: &'a Values, unit: TemperatureUnit) -> Self {
        Self { values, unit, faults: Faults::default() }
    }

    /// True where temperatures are typed in °F.
    pub fn is_fahrenheit(&self) -> bool {
        self.unit == TemperatureUnit::Fahrenheit
    }

    /// What stands under a key; empty where nothing does.
    pub fn text(&self, key: &str) -> &'a str {
        self.values.get(key).map_or("", |own| own.trim())
    }

    /// True where it is set to yes.
    pub fn is_set(&self, key: &str) -> bool {
        self.text(key) == "yes"
    }

    /// A figure that must be there.
    pub fn number(&mut self, key: &str, range: Bounds) -> f64 {
        self.faults.take(key, typed::number(self.text(key), range)).unwrap_or(range.low)
    }

    /// A figure, or none where nothing is typed.
    pub fn maybe(&mut self, key: &str, range: Bounds) -> Option<f64> {
        let text = self.text(key);
        if text.is_empty() { None } else { self.faults.take(key, typed::number(text, range)) }
    }

    /// A whole figure that must be there.
    pub fn whole(&mut self, key: &str, range: Bounds) -> u16 {
        let own = self.number(key, range);
        let whole = ((own.fract()).abs() < 1e-9).then_some(own);
        let whole = self.faults.take(key, whole.ok_or("it is counted whole")).unwrap_or(range.low);
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "within a table of bounds"
        )]
        let counted = whole as u16;
        counted
    }

    /// A mean or lowest temperature, °C.
    pub fn degrees(&mut self, key: &str) -> f64 {
        let read = typed::mean_temperature(self.text(key), self.unit);
        self.faults.take(key, read).map_or(0.0, Temperature::celsius)
    }

    /// A day.
    pub fn day(&mut self, key: &str) -> Option<Date> {
        let text = self.text(key);
        let read: Option<Date> = text.parse().ok();
        let why = format!("\u{201c}{text}\u{201d} is no day; accepted is year, month and day, as 2026-10-18");
        self.faults.take(key, read.ok_or(why))
    }

    /// So many figures, apart by blanks or semicolons.
    fn figures<const N: usize>(&mut self, key: &str, read: impl Fn(&str) -> Result<f64, String>) -> [f64; N] {
        let parts: Vec<&str> = self
            .text(key)
            .split(|c: char| c.is_whitespace() || c == ';')
            .filter(|own| !own.is_empty())
            .collect();
        let mut all = [0.0; N];
        if parts.len() != N {
            let why = format!("{} figures are there; {N} are needed, apart by blanks", parts.len());
            self.faults.take::<(), _>(key, Err(why));
            return all;
        }
        for (at, (own, part)) in all.iter_mut().zip(parts).enumerate() {
            let figure = read(part).map_err(|why| format!("figure {}: {why}", at + 1));
            *own = self.faults.take(key, figure).unwrap_or_default();
        }
        all
    }

    /// Twelve or twenty-four figures within a range.
    pub fn numbers<const N: usize>(&mut self, key: &str, range: Bounds) -> [f64; N] {
        self.figures(key, |part| typed::number(part, range).map_err(|e| e.to_string()))
    }

    /// Twelve temperatures that were ever seen, °C.
    pub fn months_of_lows(&mut self, key: &str) -> [f64; 12] {
        let unit = self.unit;
        self.figures(key, |part| typed::record_low(part, unit).map_err(|e| e.to_string()))
    }

    /// Twelve temperatures, °C.
    pub fn months_of_degrees(&mut self, key: &str) -> [f64; 12] {
        let unit = self.unit;
        self.figures(key, |part| {
            typed::mean_temperature(part, unit).map(Temperature::celsius).map_err(|e| e.to_string())
        })
    }
}
