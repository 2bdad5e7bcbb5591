//! Lines of a record into samples, each fault told by its line.

use super::field::{figure, state};
use super::moment::{Clockwork, written};
use super::{PositiveCurrent, RecordColumn, RecordSource};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use rainshadow_core::charging_record::RecordSample;
use rainshadow_core::quantity::units::TemperatureUnit;
use std::collections::BTreeSet;

/// Faults that are told; the others are counted.
const TOLD: usize = 200;

/// A line or a field of it that was not taken.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LineFault {
    /// Line in the file, from 1.
    pub line: u64,
    /// What stood there.
    pub found: String,
    /// Why not, and what is accepted.
    pub why: String,
}

/// Turns lines into samples.
pub(super) struct Lines<'a> {
    /// How they are written.
    pub source: &'a RecordSource,
    clock: Clockwork<'a>,
    places: [Option<usize>; 7],
    /// What was not taken, the first two hundred.
    pub faults: Vec<LineFault>,
    /// How many more.
    pub more: u64,
    /// Words of state that are not known.
    pub unknown_states: BTreeSet<String>,
}

/// So much of a text as is told.
pub(super) fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

impl<'a> Lines<'a> {
    /// Of a source; `zone` is that of the bank.
    pub fn new(source: &'a RecordSource, zone: &TimeZone) -> Self {
        let places = [
            RecordColumn::Time,
            RecordColumn::Date,
            RecordColumn::Volts,
            RecordColumn::Amperes,
            RecordColumn::AmpereHours,
            RecordColumn::Celsius,
            RecordColumn::State,
        ]
        .map(|column| source.place(column));
        let clock = Clockwork::new(source, zone);
        Self { source, clock, places, faults: Vec::new(), more: 0, unknown_states: BTreeSet::new() }
    }

    fn fault(&mut self, line: u64, found: &str, why: impl FnOnce() -> String) {
        if self.faults.len() < TOLD {
            self.faults.push(LineFault { line, found: short(found), why: why() });
        } else {
            self.more += 1;
        }
    }

    fn at(&mut self, record: &csv::StringRecord, line: u64) -> Option<Timestamp> {
        let get = |place: Option<usize>| place.and_then(|at| record.get(at));
        let (time, date) = (get(self.places[0]), get(self.places[1]));
        let own = match time {
            Some(time) => written(date, time),
            None => written(None, date?),
        };
        let instant = own.and_then(|own| self.clock.instant(&own));
        if instant.is_none() {
            let found = format!("{} {}", date.unwrap_or_default(), time.unwrap_or_default());
            self.fault(line, found.trim(), || {
                "is no time; accepted are 2026-03-14 10:05, 14.3.2026 10:05 and the like, or seconds since 1970".into()
            });
        }
        instant
    }

    fn figure(&mut self, record: &csv::StringRecord, place: usize, line: u64) -> Option<f64> {
        let text = record.get(self.places[place]?)?;
        if let Ok(own) = figure(text, self.source.decimal_comma) {
            return own;
        }
        self.fault(line, text, || "is no figure; the line is read without it".into());
        None
    }

    fn state(&mut self, record: &csv::StringRecord) -> Option<rainshadow_core::feed::FeedStage> {
        let text = record.get(self.places[6]?)?.trim();
        let own = state(text);
        if own.is_none() && !text.is_empty() && self.unknown_states.len() < 20 {
            self.unknown_states.insert(short(text));
        }
        own
    }

    /// The sample of a line; none: it has no time.
    pub fn sample(&mut self, record: &csv::StringRecord, line: u64) -> Option<RecordSample> {
        let at = self.at(record, line)?;
        let source = self.source;
        let thousandths = |own: f64, is: bool| if is { own / 1000.0 } else { own };
        let volts = self.figure(record, 2, line).map(|own| thousandths(own, source.millivolts));
        let amperes = self.figure(record, 3, line).map(|own| thousandths(own, source.milliamperes));
        let counted = self.figure(record, 4, line).map(|own| thousandths(own, source.milliamperes));
        let celsius = self.figure(record, 5, line).map(|own| match source.temperature {
            TemperatureUnit::Celsius => own,
            TemperatureUnit::Fahrenheit => (own - 32.0) / 1.8,
        });
        let mut own = RecordSample {
            at,
            volts,
            amperes: match source.positive {
                Some(PositiveCurrent::Charges) => amperes,
                Some(PositiveCurrent::Discharges) => amperes.map(|own| -own),
                _ => None,
            },
            ampere_hours: if source.counts_drawn { counted.map(|own| -own) } else { counted },
            celsius,
            state: self.state(record),
        };
        while let Err((field, why)) = own.checked() {
            self.fault(line, field, || format!("{why}; the line is read without it"));
            match field {
                "volts" => own.volts = None,
                "amperes" => own.amperes = None,
                "ampere_hours" => own.ampere_hours = None,
                _ => own.celsius = None,
            }
        }
        Some(own)
    }
}
