//! Files of monitors and kept plans in the file of a bank.

use super::{BankFile, Looking};
use crate::app::planners::Planner;
use crate::db::{MonitorRecord, PlanRecord};
use crate::formats::record_csv::RecordSource;
use rainshadow_core::charging_record::ReadToEnd;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::TemperatureUnit;
use std::fmt::Display;

/// Bytes of a packed row, and minutes of a day.
const PACKED: usize = 15;
const DAY: u16 = 1440;
/// Days since 1970 that a record can be of, and how many of them one file has.
const DAYS: std::ops::Range<i64> = 12_000..60_000;
const MOST_DAYS: usize = 40_000;

/// What is wrong with the packed rows of a day; none: nothing.
fn odd_rows(bytes: &[u8]) -> Option<&'static str> {
    if bytes.is_empty() || !bytes.len().is_multiple_of(PACKED) {
        return Some("rows of a day have fifteen bytes each");
    }
    let mut before = None;
    for row in bytes.chunks_exact(PACKED) {
        let minute = u16::from_le_bytes([row[0], row[1]]);
        if minute >= DAY || before.is_some_and(|own| own >= minute) {
            return Some("minutes of a day rise from 0 to 1439");
        }
        before = Some(minute);
        let figure =
            |at: usize| f64::from(f32::from_le_bytes([row[at], row[at + 1], row[at + 2], row[at + 3]]));
        let fits = |own: f64, range: bounds::Bounds| own.is_nan() || range.check(own).is_ok();
        if !(fits(figure(2), bounds::RECORD_VOLTS)
            && fits(figure(6), bounds::RECORD_CURRENT)
            && fits(figure(10), bounds::RECORD_TEMPERATURE))
        {
            return Some("a figure cannot be one of a monitor");
        }
    }
    None
}

impl Looking {
    fn json<T: serde::de::DeserializeOwned>(&mut self, field: &str, text: &str) {
        let read = serde_json::from_str::<T>(text).map(drop);
        let said = |e: &dyn Display| format!("it is not what is written there ({e})");
        if let Err(error) = read {
            self.fault(field, said(&error));
        }
    }

    fn moments(&mut self, path: &str, made_at: &str, withdrawn_at: Option<&str>) {
        self.at_text(&format!("{path}.made_at"), made_at);
        if let Some(at) = withdrawn_at {
            self.at_text(&format!("{path}.withdrawn_at"), at);
        }
    }

    fn record(&mut self, path: &str, own: &MonitorRecord) {
        self.own_id(&format!("{path}.id"), &own.id);
        self.moments(path, &own.made_at, own.withdrawn_at.as_deref());
        self.json::<RecordSource>(&format!("{path}.source"), &own.source);
        self.json::<ReadToEnd>(&format!("{path}.told"), &own.told);
        let span = own.span.map(|minute| minute.div_euclid(i64::from(DAY)));
        if own.span[0] > own.span[1] || !span.iter().all(|day| DAYS.contains(day)) {
            self.fault(&format!("{path}.span"), "it ends before it begins, or is of no time that can be");
        }
        if own.other_way.iter().any(|way| way.from > way.to) {
            self.fault(&format!("{path}.other_way"), "a stretch ends before it begins");
        }
        let days = format!("{path}.packed_days");
        if own.packed_days.len() > MOST_DAYS || !own.packed_days.keys().all(|day| DAYS.contains(day)) {
            self.fault(&days, "days are counted from 1970, a century at most");
        }
        for (day, text) in &own.packed_days {
            match MonitorRecord::unpacked(text) {
                Ok(bytes) => {
                    if let Some(why) = odd_rows(&bytes) {
                        self.fault(&format!("{days}.{day}"), why);
                    }
                }
                Err(error) => self.fault(&format!("{days}.{day}"), error),
            }
        }
    }

    fn plan(&mut self, path: &str, own: &PlanRecord, file: &BankFile) {
        self.own_id(&format!("{path}.id"), &own.id);
        self.moments(path, &own.made_at, own.withdrawn_at.as_deref());
        if Planner::of(&own.planner).is_none() {
            self.fault(&format!("{path}.planner"), "there is no such planner");
        }
        self.json::<TemperatureUnit>(&format!("{path}.unit"), &format!("\"{}\"", own.unit));
        if own.visit.as_ref().is_some_and(|id| !file.visits.iter().any(|visit| visit.id == *id)) {
            self.fault(&format!("{path}.visit"), "its visit is not in the file");
        }
    }

    /// What was read into the record of the bank, and what was planned for it.
    pub(super) fn kept(&mut self, file: &BankFile) {
        for (place, own) in file.records.iter().enumerate() {
            self.record(&format!("records[{place}]"), own);
        }
        for (place, own) in file.plans.iter().enumerate() {
            self.plan(&format!("plans[{place}]"), own, file);
        }
    }
}
