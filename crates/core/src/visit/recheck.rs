//! Rechecks: what is looked at or measured again some hours or days after a visit.

use super::steps;
use super::{Entry, PastVisit, Step, VisitEntry, VisitSheet};
use jiff::ToSpan;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Something that is looked at again.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Recheck {
    /// Which step.
    pub step: Step,
    /// Day of the visit that asked for it.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub asked: Date,
    /// Day it is due.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub due: Date,
    /// Why, in the technician's words.
    pub reason: String,
}

/// The day that lies so many hours after a day: a night is a day later, and less than a day is never the same day.
pub fn recheck_day(asked: Date, hours: f64) -> Date {
    #[expect(clippy::cast_possible_truncation, reason = "a month at most")]
    let days = (hours / 24.0).round().clamp(1.0, 31.0) as i64;
    asked.checked_add(days.days()).unwrap_or(asked)
}

/// Rechecks that a visit asked for, with the entries that ask.
pub fn rechecks(sheet: &VisitSheet, day: Date) -> Vec<(&VisitEntry, Recheck)> {
    let own = sheet.standing().filter_map(|k| match &k.entry {
        Entry::Recheck { step, hours, reason } => {
            let due = recheck_day(day, *hours);
            Some((k, Recheck { step: *step, asked: day, due, reason: reason.clone() }))
        }
        _ => None,
    });
    own.collect()
}

/// True when a step was done on a visit: something was looked at or measured in it. What was repaired or corrected, what the
/// bank did before its volts were read and what was spilled is no look.
fn does(sheet: &VisitSheet, step: Step) -> bool {
    let looks = |entry: &Entry| {
        !matches!(
            entry,
            Entry::Rested { .. } | Entry::Repaired { .. } | Entry::Corrected { .. } | Entry::Spilled { .. }
        ) && steps::of(step).takes(entry)
    };
    sheet.standing().any(|k| looks(&k.entry))
}

/// Rechecks that nobody has made yet: one before its day does not count, and a later one of the same step takes
/// the place of an earlier one. `last_round` is the day of the last round.
pub fn open_rechecks(visits: &[PastVisit], last_round: Option<Date>) -> Vec<Recheck> {
    let mut open: Vec<Recheck> = Vec::new();
    for visit in visits {
        open.retain(|own| !(visit.day >= own.due && does(&visit.sheet, own.step)));
        for (_, own) in rechecks(&visit.sheet, visit.day) {
            open.retain(|other| other.step != own.step);
            open.push(own);
        }
    }
    open.retain(|own| own.step != Step::Round || last_round.is_none_or(|day| day < own.due));
    open
}
