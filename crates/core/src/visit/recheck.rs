//! Rechecks: what is looked at or measured again some hours or days after a visit.

use super::steps;
use super::{Entry, PastVisit, Step, VisitEntry, VisitSheet, Work};
use crate::rest::{Grade, HOLDING_HOURS};
use crate::visit::Judged;
use jiff::ToSpan;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Overnight, hours.
const OVERNIGHT: f64 = 12.0;
/// After plates were covered the bank is charged before it is filled: two days (WA-4; the days are our choice).
const AFTER_COVERING: f64 = 48.0;
/// Fresh water is mixed in by a gassing charge: some days (SG-4; the days are our choice).
const AFTER_FILLING: f64 = 72.0;

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

/// Why a rule wants a recheck.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RecheckWhy {
    /// The volts were not settled (RD-7).
    NotSettled,
    /// It was charged full: a day later its volts tell whether it holds (HD-1).
    Holding,
    /// Plates were only covered: charged, then filled to the mark (WA-4).
    Covered,
    /// Fresh water is not mixed yet (SG-4).
    Unmixed,
}

/// A recheck that a rule wants.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RecheckWanted {
    /// Which step.
    pub step: Step,
    /// In how many hours.
    pub hours: f64,
    /// Why.
    pub why: RecheckWhy,
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

/// True when a step was done on a visit.
fn does(sheet: &VisitSheet, step: Step) -> bool {
    sheet.standing().any(|k| steps::of(step).takes(&k.entry))
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

/// What the rules want looked at again after this visit, and nobody has asked for yet.
pub fn rechecks_wanted(sheet: &VisitSheet, bank: Judged<'_>) -> Vec<RecheckWanted> {
    let mut all = Vec::new();
    let read = sheet.standing().any(|k| {
        matches!(k.entry, Entry::BatteryVolts { .. } | Entry::StringVolts { .. } | Entry::StateVolts { .. })
    });
    let told = sheet.rested().is_some_and(|rested| Grade::of(rested, bank.rules).tells_charge());
    let told_by_state = super::volts_by_state(sheet, bank).iter().any(|line| line.charge.is_some());
    let charged = sheet.done().iter().any(|(work, _)| *work == Work::ChargedFull);
    if charged {
        all.push(RecheckWanted { step: Step::RestCheck, hours: HOLDING_HOURS, why: RecheckWhy::Holding });
    } else if read && !told && !told_by_state {
        all.push(RecheckWanted { step: Step::RestCheck, hours: OVERNIGHT, why: RecheckWhy::NotSettled });
    }
    if bank.model.construction.has_caps() {
        let added = sheet.water_added();
        if added.to_mark {
            all.push(RecheckWanted { step: Step::Round, hours: AFTER_FILLING, why: RecheckWhy::Unmixed });
        } else if added.any {
            all.push(RecheckWanted { step: Step::Water, hours: AFTER_COVERING, why: RecheckWhy::Covered });
        }
    }
    let asked = |step: Step| {
        sheet.standing().any(|k| matches!(k.entry, Entry::Recheck { step: own, .. } if own == step))
    };
    all.retain(|wanted| !asked(wanted.step));
    all
}
