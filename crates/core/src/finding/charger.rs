//! What the charger is set to (CH-3).

use super::{Bound, Certainty, ChargerFinding, Equipment, Finding, FindingKind, RuleId, Subject, Tolerance};
use crate::charge::{SettingsAudit, limits_of};
use crate::severity::Severity;

const CHARGER: Subject = Subject::Equipment(Equipment::Charger);

fn about(kind: ChargerFinding, severity: Severity) -> Finding {
    Finding::recorded(CHARGER, FindingKind::Charger(kind), severity, RuleId::Ch3)
}

/// Every setting that is off, worst first.
pub fn findings(audit: &SettingsAudit) -> Vec<Finding> {
    let whole = audit.charger.map(|effect| about(ChargerFinding::WrongCharger { effect }, Severity::Act));
    let stages = audit.stages.iter().filter(|s| s.condition >= Severity::Watch).map(|stage| {
        let finding = about(ChargerFinding::OffSetpoint { stage: *stage }, stage.condition);
        let (watch, act) = limits_of(stage.stage);
        let volts = if stage.condition == Severity::Act { act } else { watch };
        Finding {
            id: format!("{} {}", finding.id, stage.stage.word()),
            tolerance: stage.deviation.map(|_| Tolerance::of_every_house(Bound::VoltsPerCell { volts })),
            certainty: Certainty::Clear,
            ..finding
        }
    });
    let mut all: Vec<Finding> = whole.into_iter().chain(stages).collect();
    all.sort_by_key(|f| std::cmp::Reverse(f.severity));
    all
}
