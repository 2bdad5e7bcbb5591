//! Which rechecks the rules want after a visit.

use super::{CorrectiveAction, Entry, Gravities, Judged, Step, VisitSheet, Work, rest_sheet, volts_by_state};
use crate::rest::{
    COMPARED_FROM_DAYS, Grade, HOLDING_HOURS, Holds, RestConditions, holding_hours, judge_rest,
};
use serde::{Deserialize, Serialize};

/// Overnight, hours.
const OVERNIGHT: f64 = 12.0;
/// After plates were covered the bank is charged before it is filled: two days (WA-4; the days are our choice).
const AFTER_COVERING: f64 = 48.0;
/// Fresh water is mixed in by a gassing charge: some days (SG-4; the days are our choice).
const AFTER_FILLING: f64 = 72.0;

/// Why a rule wants a recheck.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RecheckWhy {
    /// The volts were not settled (RD-7).
    NotSettled,
    /// It was charged full: a day later its volts tell whether it holds (HD-1).
    Holding,
    /// It stands full and disconnected: three days later its volts tell what it loses a day (HD-1, SD-1).
    Held,
    /// Part of it was charged: rested, its volts tell whether it came back (RD-7).
    Charged,
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

/// True when something was charged because of what it measured, and nobody read it at rest after that.
fn charged_in_part(sheet: &VisitSheet) -> bool {
    sheet.corrected().iter().any(|own| {
        let charged = matches!(own.action, CorrectiveAction::ChargedByItself | CorrectiveAction::ChargedOn);
        charged && !own.after.is_some_and(|(state, _)| state.is_rest())
    })
}

/// True for a bank that was full, stands disconnected and without surface charge, and either lost a little or was read for
/// nothing else: what it loses a day is told by a second reading.
fn to_be_held(sheet: &VisitSheet, bank: Judged<'_>) -> bool {
    // What stood for days already is the second reading, and not asked for a third.
    let first = HOLDING_HOURS + 24.0 * COMPARED_FROM_DAYS;
    let stands = |told: &RestConditions| {
        holding_hours(told).is_some_and(|hours| hours < first) && told.free_of_surface_charge(bank.rules)
    };
    if sheet.battery_volts().is_empty() || !sheet.rested().is_some_and(stands) {
        return false;
    }
    let judged = judge_rest(&rest_sheet(sheet, &[], bank, &Gravities::new()));
    judged.holding.is_some_and(|own| own.holds == Holds::Watch) || sheet.only() == Some(Step::RestCheck)
}

/// What the rules want looked at again after this visit, and nobody has asked for yet.
pub fn rechecks_wanted(sheet: &VisitSheet, bank: Judged<'_>) -> Vec<RecheckWanted> {
    let mut all = Vec::new();
    let read = sheet.standing().any(|k| {
        matches!(k.entry, Entry::BatteryVolts { .. } | Entry::StringVolts { .. } | Entry::StateVolts { .. })
    });
    let told = sheet.rested().is_some_and(|rested| Grade::of(rested, bank.rules).tells_charge());
    let told_by_state = volts_by_state(sheet, bank).iter().any(|line| line.charge.is_some());
    let charged = sheet.done().iter().any(|(work, _)| *work == Work::ChargedFull);
    if charged {
        all.push(RecheckWanted { step: Step::RestCheck, hours: HOLDING_HOURS, why: RecheckWhy::Holding });
    } else if to_be_held(sheet, bank) {
        let hours = 24.0 * COMPARED_FROM_DAYS;
        all.push(RecheckWanted { step: Step::RestCheck, hours, why: RecheckWhy::Held });
    } else if charged_in_part(sheet) {
        all.push(RecheckWanted { step: Step::RestCheck, hours: HOLDING_HOURS, why: RecheckWhy::Charged });
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
