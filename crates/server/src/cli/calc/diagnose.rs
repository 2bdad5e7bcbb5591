//! The topic that diagnoses a bank by its readings and its context.

use super::{CalcError, Topic, chosen_model, computed, schema};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::diagnosis::{
    Diagnosis, Evidence, HouseWeights, NextMeasurement, Sign, Weights, diagnose, next_measurements, signs,
};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// DG-1: a bank with what is on record of it.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct DiagnoseAsked {
    /// How it stands.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// Readings by date, and context.
    #[serde(default)]
    evidence: Evidence,
    /// Weights that a house takes otherwise, by sign and hypothesis, points; 0 takes one out.
    #[serde(default)]
    #[schema(value_type = std::collections::BTreeMap<String, std::collections::BTreeMap<String, i8>>)]
    weights: HouseWeights,
}

/// What it may have.
#[derive(Debug, Serialize, ToSchema)]
struct DiagnoseSaid {
    /// The one sentence.
    said: String,
    /// What to do until more is known.
    meanwhile: String,
    /// What to measure next, in one sentence; none: nothing is left that settles anything.
    next_said: Option<String>,
    /// Signs that the evidence shows.
    signs: Vec<Sign>,
    /// Ranked.
    #[serde(flatten)]
    diagnosis: Diagnosis,
    /// What could be measured next, the most settled per minute first.
    next: Vec<NextMeasurement>,
}

fn diagnose_topic(input: DiagnoseAsked) -> Result<DiagnoseSaid, CalcError> {
    let impossible = |path, why: String| CalcError::Impossible { path, why };
    let shape = input.shape.checked().map_err(|e| impossible("shape", e.to_string()))?;
    let model = chosen_model(input.model, input.model_key)?;
    let weights = &Weights::of_house(&input.weights).map_err(|e| impossible("weights", e.to_string()))?;
    let (signs, made) =
        signs(&input.evidence, &shape, &model, weights).map_err(|e| impossible("evidence", e.to_string()))?;
    let kind = (model.construction.has_caps(), shape.parallel);
    let diagnosis =
        diagnose(&signs, kind, weights).map_err(|e| impossible("evidence.seen", e.to_string()))?;
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    let size = (count(shape.cell_count()), count(shape.batteries().count()));
    let next = next_measurements(&diagnosis, &made, size, kind, weights);
    let meanwhile = diagnosis.first().map(|r| wording::meanwhile(r.hypothesis)).unwrap_or_default();
    Ok(DiagnoseSaid {
        said: wording::diagnosis_verdict(&diagnosis),
        meanwhile: if diagnosis.enough { meanwhile.into() } else { String::new() },
        next_said: wording::next_said(&next),
        signs,
        diagnosis,
        next,
    })
}

pub(super) static TOPICS: [Topic; 1] = [Topic {
    name: "diagnose",
    about: "DG-1: what a bank may have, by all its readings, and what to measure next",
    run: |bytes| computed(bytes, diagnose_topic),
    schema: schema::<DiagnoseAsked, DiagnoseSaid>,
}];
