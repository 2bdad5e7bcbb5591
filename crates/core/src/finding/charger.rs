//! What charges a bank and how its air moves (CH-3, VE-1).

use super::{Bound, Certainty, ChargerFinding, Equipment, Finding, FindingKind, RuleId, Subject, Tolerance};
use crate::charge::limits_of;
use crate::equipment::{EquipmentJudged, JudgedSource, SourceRef};
use crate::severity::Severity;

fn subject(source: SourceRef) -> Subject {
    match source {
        SourceRef { number: 1, kind: None, one_of_several: false } => Subject::Equipment(Equipment::Charger),
        source => Subject::Equipment(Equipment::Source(source)),
    }
}

/// Every setting of a source that is off.
fn of_source(source: &JudgedSource) -> Vec<Finding> {
    let Some(audit) = &source.audit else { return Vec::new() };
    let about = |kind, severity| {
        Finding::recorded(subject(source.source), FindingKind::Charger(kind), severity, RuleId::Ch3)
    };
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
    whole.into_iter().chain(stages).collect()
}

/// Everything about the equipment that asks, worst first.
pub fn findings(judged: &EquipmentJudged) -> Vec<Finding> {
    let mut all: Vec<Finding> = judged.sources.iter().flat_map(of_source).collect();
    all.extend(judged.air.filter(|air| air.condition >= Severity::Watch).map(|air| {
        let kind = FindingKind::Charger(ChargerFinding::TooLittleAir { air });
        Finding::recorded(Subject::Equipment(Equipment::Air), kind, air.condition, RuleId::Ve1)
    }));
    all.extend(judged.none_finishes.map(|why| {
        let kind = FindingKind::Charger(ChargerFinding::NoneFinishes { why });
        Finding::recorded(Subject::Equipment(Equipment::Charger), kind, Severity::Watch, RuleId::Ch5)
    }));
    all.sort_by_key(|f| std::cmp::Reverse(f.severity));
    all
}
