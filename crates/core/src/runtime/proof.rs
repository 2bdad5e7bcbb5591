//! A proof under the load, held against what was predicted, and what it tells of the health.

use super::asked::RuntimeAsked;
use super::error::RuntimeError;
use super::hours::volts_by_health;
use super::load::RuntimeLoad;
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};

/// What volts of the model and a meter together may be off, V a cell (our choice, no source).
const OFF: f64 = 0.01;
/// Between which health is looked for, per cent.
const LOOKED: [f64; 2] = [20.0, 100.0];
/// A range wider than this tells nothing of the health, points.
const TELLS: f64 = 25.0;

/// A discharge under a steady load.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RuntimeProof {
    /// Current of the bank, A.
    pub amperes: f64,
    /// How long, h.
    pub hours: f64,
    /// V of the bank at the end.
    pub volts: f64,
    /// Electrolyte, °C.
    pub temperature: f64,
    /// V on the way: hours and volts.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Vec<Vec<f64>>))]
    pub readings: Vec<[f64; 2]>,
}

/// A proof beside its prediction.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ProofJudged {
    /// V that was predicted for its end by the health taken.
    pub predicted: f64,
    /// V read above that; below it negative.
    pub over: f64,
    /// Health that would have shown these volts, per cent: best, least, most.
    pub health: [f64; 3],
    /// True where that is narrow enough to take it.
    pub tells: bool,
    /// V predicted at each reading, and at the end.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<Vec<f64>>))]
    pub curve: Vec<[f64; 2]>,
}

/// Holds a proof against the prediction of its bank.
///
/// # Errors
/// [`RuntimeError`] for what cannot be.
pub fn judge_proof(asked: &RuntimeAsked, proof: &RuntimeProof) -> Result<ProofJudged, RuntimeError> {
    bounds::TEST_CURRENT.check(proof.amperes)?;
    bounds::TEST_HOURS.check(proof.hours)?;
    let under = RuntimeAsked {
        load: RuntimeLoad::Continuous { amount: proof.amperes },
        inverter: None,
        temperature: proof.temperature,
        charged: 100.0,
        ..asked.clone()
    };
    under.check()?;
    let at = |health: f64, hour: f64| volts_by_health(&under, health, hour);
    let predicted = at(asked.health, proof.hours);
    let health_at = |volts: f64| {
        let [mut low, mut high] = LOOKED;
        for _ in 0..40 {
            let middle = f64::midpoint(low, high);
            if at(middle, proof.hours) < volts { low = middle } else { high = middle }
        }
        f64::midpoint(low, high)
    };
    let off = OFF * under.cells();
    let health = [proof.volts, proof.volts - off, proof.volts + off].map(health_at);
    let hours = proof.readings.iter().map(|own| own[0]).chain([proof.hours]);
    let curve = hours.map(|hour| [hour, at(asked.health, hour)]).collect();
    Ok(ProofJudged {
        predicted,
        over: proof.volts - predicted,
        health,
        tells: health[2] - health[1] <= TELLS,
        curve,
    })
}
