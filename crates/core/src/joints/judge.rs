//! CN-1: millivolts across every joint at a known current, each against its like.

use crate::quantity::{OutOfRange, bounds};
use crate::round::median;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use thiserror::Error;

/// A joint so far over the middle of its like, or over its own first value, is remade (source key `ieee-450`, from
/// memory).
pub const OVER: f64 = 0.20;
/// And so many median deviations out: the middle alone condemns a joint in a third of sound banks.
pub const DEVIATIONS: f64 = 4.0;
/// The middle drop is so many times what the meter resolves, or nothing is told (common practice, no source).
pub const RESOLVED: f64 = 10.0;
/// Joints of one kind from which the middle is one.
const FOR_A_MEDIAN: usize = 3;

/// One joint as measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JointDrop {
    /// Where: "A1+", "A1 to A2".
    pub joint: String,
    /// What it is like: joints of one kind are compared; all alike when left out.
    #[serde(default)]
    pub like: String,
    /// Drop across it, mV.
    pub millivolts: f64,
    /// Current through it, A; that of the round when left out.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// Its own first value, mΩ; none: not on record.
    #[serde(default)]
    pub baseline: Option<f64>,
}

/// A round of joints.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JointRound {
    /// Current, A.
    pub amperes: f64,
    /// What the meter resolves, mV; 0.1 when left out.
    #[serde(default = "tenth")]
    pub resolution: f64,
    /// Joint by joint.
    pub joints: Vec<JointDrop>,
}

fn tenth() -> f64 {
    0.1
}

/// Why a round cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum JointError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// Nothing was measured.
    #[error("no joint is measured")]
    NoJoint,
    /// One joint twice.
    #[error("{0} is measured twice; one reading a joint is taken")]
    Twice(String),
}

/// Why a joint is remade.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum JointFails {
    /// Over its like.
    OverItsLike,
    /// Over its own first value.
    OverItsFirst,
}

/// One joint as judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JointJudged {
    /// Where.
    pub joint: String,
    /// Drop, mV.
    pub millivolts: f64,
    /// Resistance, mΩ.
    pub milliohms: f64,
    /// Times the middle of its like; none: fewer than three are alike.
    pub times_like: Option<f64>,
    /// Times its own first value; none: not on record.
    pub times_first: Option<f64>,
    /// False where the meter cannot tell: use more current.
    pub resolved: bool,
    /// Why it is remade; none: it is not.
    pub fails: Option<JointFails>,
    /// Its condition.
    pub condition: Severity,
}

/// Judges a round of joints (CN-1), in the order given.
///
/// # Errors
/// [`JointError`] for what cannot have been.
pub fn judge_joints(round: &JointRound) -> Result<Vec<JointJudged>, JointError> {
    bounds::TEST_CURRENT.check(round.amperes)?;
    bounds::METER_RESOLUTION.check(round.resolution)?;
    if round.joints.is_empty() {
        return Err(JointError::NoJoint);
    }
    let mut likes: BTreeMap<&str, Vec<(f64, f64)>> = BTreeMap::new();
    let mut seen = std::collections::BTreeSet::new();
    let mut ohms = Vec::with_capacity(round.joints.len());
    for own in &round.joints {
        if !seen.insert(own.joint.as_str()) {
            return Err(JointError::Twice(own.joint.clone()));
        }
        let drop = bounds::JOINT_DROP.check(own.millivolts)?;
        let amperes = bounds::TEST_CURRENT.check(own.amperes.unwrap_or(round.amperes))?;
        own.baseline.map(|b| bounds::LINK_RESISTANCE.check(b)).transpose()?;
        likes.entry(&own.like).or_default().push((drop / amperes, drop));
        ohms.push(drop / amperes);
    }
    let judged = round.joints.iter().zip(ohms).map(|(own, milliohms)| {
        let like = likes.get(own.like.as_str()).map_or(&[][..], Vec::as_slice);
        let middle = |of: fn(&(f64, f64)) -> f64| median(&mut like.iter().map(of).collect::<Vec<_>>());
        let (middle_ohms, middle_drop) = (middle(|l| l.0).unwrap_or(0.0), middle(|l| l.1).unwrap_or(0.0));
        let alike = like.len() >= FOR_A_MEDIAN && middle_ohms > 0.0;
        // One alone is told by its own drop.
        let told = if alike { middle_drop } else { own.millivolts };
        let resolved = told >= RESOLVED * round.resolution - 1e-9;
        let mut off: Vec<f64> = like.iter().map(|l| (l.0 - middle_ohms).abs()).collect();
        let deviation = median(&mut off).unwrap_or(0.0);
        let times_like = alike.then(|| milliohms / middle_ohms);
        let times_first = own.baseline.map(|first| milliohms / first);
        let over_like = times_like.is_some_and(|t| t > 1.0 + OVER + 1e-9)
            && milliohms - middle_ohms > DEVIATIONS * deviation + 1e-12;
        let over_first = times_first.is_some_and(|t| t > 1.0 + OVER + 1e-9);
        let fails = match (resolved, over_like, over_first) {
            (true, true, _) => Some(JointFails::OverItsLike),
            (true, false, true) => Some(JointFails::OverItsFirst),
            _ => None,
        };
        let condition = match fails {
            Some(_) => Severity::Act,
            None if !resolved || times_like.is_none() && times_first.is_none() => Severity::NoReading,
            None => Severity::Steady,
        };
        JointJudged {
            joint: own.joint.clone(),
            millivolts: own.millivolts,
            milliohms,
            times_like,
            times_first,
            resolved,
            fails,
            condition,
        }
    });
    Ok(judged.collect())
}
