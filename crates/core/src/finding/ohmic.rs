//! What resistances and cases of sealed batteries show (OH-1).

use super::{Bound, Certainty, Finding, FindingKind, OhmicFinding, RuleId, Subject, Tolerance};
use crate::ohmic::{HOTTER, OhmicJudged, RISE};
use crate::severity::Severity;

/// The finding of one battery; none where resistance and case are as they should be.
pub fn finding(judged: &OhmicJudged) -> Option<Finding> {
    if judged.condition < Severity::Watch {
        return None;
    }
    let risen = judged.rise.is_some_and(|rise| rise >= RISE[0]);
    let (kind, limit) = match judged.hotter {
        Some(hotter) if !risen => {
            let kind = OhmicFinding::HotCase { battery: judged.battery, hotter };
            (kind, Bound::Celsius { degrees: HOTTER })
        }
        _ => {
            let [watch, investigate, act] = RISE;
            (OhmicFinding::ResistanceRise { battery: *judged }, Bound::Rise { watch, investigate, act })
        }
    };
    let subject = Subject::Battery(judged.battery);
    Some(Finding {
        tolerance: Some(Tolerance::of_every_house(limit)),
        certainty: Certainty::Clear,
        ..Finding::recorded(subject, FindingKind::Ohmic(kind), judged.condition, RuleId::Oh1)
    })
}

/// The findings of a bank, in the order given.
pub fn findings(judged: &[OhmicJudged]) -> Vec<Finding> {
    judged.iter().filter_map(finding).collect()
}
