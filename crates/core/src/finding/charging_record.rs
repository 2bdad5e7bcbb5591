//! What the record of the charging shows (CR-1).

use super::{Bound, Certainty, ChargerFinding, Equipment, Finding, FindingKind, RuleId, Subject, Tolerance};
use crate::charge::{Stage, limits_of};
use crate::charging_record::{ChargingRecordJudged, OVERCHARGE, RecordedBank, usual_factor};
use crate::severity::Severity;
use jiff::civil::Date;

/// Days without a full charge after which a cycled bank asks for one (CH-5: every 7 to 10).
pub const MOST_WITHOUT_FULL: u32 = 10;
/// Intervals from full to full that tell a charge factor well enough to ask about it (our choice, no source).
const INTERVALS: u32 = 3;
/// Days on which volts were held that tell how well (our choice, no source).
const HELD_DAYS: u32 = 3;

/// Everything of a record that asks, worst first.
pub fn findings(judged: &ChargingRecordJudged, bank: &RecordedBank) -> Vec<Finding> {
    let about = |kind, severity| {
        let subject = Subject::Equipment(Equipment::Charger);
        let own = Finding::recorded(subject, FindingKind::Charger(kind), severity, RuleId::Cr1);
        Finding { certainty: Certainty::Clear, ..own }
    };
    let mut all = Vec::new();
    let days = judged.days_without_full();
    if days > MOST_WITHOUT_FULL {
        let (full_days, known_days) = (judged.full_days, judged.known_days);
        let kind = ChargerFinding::LongWithoutFull { days, full_days, known_days };
        all.push(about(kind, Severity::Watch));
    }
    let usual = usual_factor(bank.construction);
    let odd = judged.charge_factor.filter(|own| *own < usual[0] || *own > OVERCHARGE);
    if let Some(factor) = odd.filter(|_| judged.intervals >= INTERVALS) {
        all.push(about(ChargerFinding::OddChargeFactor { factor, usual }, Severity::Watch));
    }
    let stage = if bank.standby { Stage::Float } else { Stage::Absorption };
    let (watch, act) = limits_of(stage);
    let held = judged.held_off.filter(|_| judged.held_days >= HELD_DAYS);
    if let Some(off) = held.filter(|own| own.abs() >= watch) {
        let worse = off.abs() > act;
        let own = about(
            ChargerFinding::HeldOff { off, stage },
            if worse { Severity::Act } else { Severity::Watch },
        );
        let limit = Bound::VoltsPerCell { volts: if worse { act } else { watch } };
        all.push(Finding { tolerance: Some(Tolerance::of_every_house(limit)), ..own });
    }
    if judged.held_follow == Some(false) {
        all.push(about(ChargerFinding::HeldFixed, Severity::Watch));
    }
    all.sort_by_key(|own| std::cmp::Reverse(own.severity));
    all
}

/// True where something after the last day of the record answers what it shows: a full charge that was proven, for days
/// without one; equipment that was told anew, for what a charger does.
pub fn is_answered(finding: &Finding, last_day: Date, proven_full: Option<Date>, told: Option<Date>) -> bool {
    let after = |day: Option<Date>| day.is_some_and(|own| own > last_day);
    match finding.kind {
        FindingKind::Charger(ChargerFinding::LongWithoutFull { .. }) => after(proven_full) || after(told),
        FindingKind::Charger(_) => after(told),
        _ => false,
    }
}
