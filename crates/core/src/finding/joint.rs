//! What joints and the currents of strings show (CN-1, ST-1).

use super::joint_kind::{JointFinding, ShareRemedy};
use super::{Bound, Certainty, Finding, FindingKind, RuleId, Subject, Tolerance};
use crate::joints::OVER;
use crate::parallel_share::WITHIN;
use crate::severity::Severity;
use crate::visit::JointRead;
use crate::wiring::{CLAMP_FLAT, CLAMP_SHARE, WiringShare};

/// A share so far from an even one is acted on, relative (common practice, no source).
const FAR: f64 = 0.25;

fn made(subject: Subject, found: JointFinding, severity: Severity, rule: RuleId, limit: f64) -> Finding {
    let limit = Bound::Percent { percent: 100.0 * limit };
    Finding {
        certainty: Certainty::Clear,
        tolerance: Some(Tolerance::of_every_house(limit)),
        ..Finding::recorded(subject, FindingKind::Joints(found), severity, rule)
    }
}

/// A joint that is to be remade; none where it is as its like, or nothing tells.
pub fn joint(read: &JointRead) -> Option<Finding> {
    let judged = &read.judged;
    judged.fails?;
    let found = JointFinding::RemakeJoint {
        joint: judged.joint.clone(),
        milliohms: judged.milliohms,
        times_like: judged.times_like,
        times_first: judged.times_first,
    };
    let finding = made(Subject::Battery(read.joint.battery), found, judged.condition, RuleId::Cn1, OVER);
    // Both posts of a battery can be bad.
    Some(Finding { id: format!("{} {}", finding.id, judged.joint), ..finding })
}

/// Shares as a clamp meter read them, or as the wiring tells; none where they are even within the doubt of the meter.
pub fn shares(clamped: Option<&[f64]>, wiring: Option<&WiringShare>) -> Option<Finding> {
    let even = |n: usize| 1.0 / f64::from(u32::try_from(n).unwrap_or(1).max(1));
    let (shares, off) = if let Some(amperes) = clamped {
        let sum: f64 = amperes.iter().sum();
        if sum.abs() < f64::EPSILON {
            return None;
        }
        let fair = sum * even(amperes.len());
        let off = |own: &f64| {
            let told = CLAMP_SHARE.mul_add(own.abs(), CLAMP_FLAT);
            ((own - fair).abs() - told).max(0.0) / fair.abs()
        };
        let off = amperes.iter().map(off).fold(0.0, f64::max);
        (amperes.iter().map(|own| own / sum).collect::<Vec<f64>>(), off)
    } else {
        let now = &wiring?.now;
        (now.shares.clone(), now.furthest)
    };
    if off <= WITHIN + 1e-9 {
        return None;
    }
    // What is only worked out is watched until somebody clamps it.
    let severity = if off > FAR && clamped.is_some() { Severity::Act } else { Severity::Watch };
    let remedy = wiring.and_then(|own| own.options.get(own.cheapest?)).map(|own| ShareRemedy {
        remade: own.remade.iter().map(ToString::to_string).collect(),
        change: own.change,
        renewed: own.renewed.map(|battery| battery.to_string()),
        shares: own.shares.shares.clone(),
    });
    let found = JointFinding::StringsShareUnevenly { shares, clamped: clamped.is_some(), remedy };
    Some(made(Subject::Bank, found, severity, RuleId::St1, WITHIN))
}
