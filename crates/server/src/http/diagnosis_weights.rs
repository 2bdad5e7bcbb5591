//! The table of weights of the diagnosis, with what each house takes otherwise.

use super::error::ApiResult;
use super::state::AppState;
use crate::app::house_rules::all_house_rules;
use axum::Json;
use axum::extract::State;
use rainshadow_core::diagnosis::{HouseWeights, Hypothesis, MOST_WEIGHT, Weights};
use rainshadow_core::wording;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A hypothesis by name.
#[derive(Debug, Serialize, ToSchema)]
pub struct HypothesisName {
    /// Which.
    pub hypothesis: Hypothesis,
    /// In words.
    pub name: &'static str,
}

/// A sign and what it weighs.
#[derive(Debug, Serialize, ToSchema)]
pub struct WeightRow {
    /// Its key.
    pub sign: String,
    /// In words.
    pub words: String,
    /// Its group of evidence, in words.
    pub group: &'static str,
    /// What shows it, in words.
    pub measured_by: &'static str,
    /// True for what a sound bank shows: it speaks for no fault.
    pub normal: bool,
    /// Points as they ship.
    #[schema(value_type = BTreeMap<String, i8>)]
    pub points: BTreeMap<Hypothesis, i8>,
}

/// What a house takes otherwise.
#[derive(Debug, Serialize, ToSchema)]
pub struct WeightsOfHouse {
    /// Key of the set.
    pub key: String,
    /// Its name.
    pub name: String,
    /// Points by sign and hypothesis; 0 takes one out.
    #[schema(value_type = BTreeMap<String, BTreeMap<String, i8>>)]
    pub weights: HouseWeights,
}

/// The whole table.
#[derive(Debug, Serialize, ToSchema)]
pub struct WeightsView {
    /// Every hypothesis, in the order of the table.
    pub hypotheses: Vec<HypothesisName>,
    /// Most points that a weight may have, either way.
    pub most: i8,
    /// Its lines.
    pub rows: Vec<WeightRow>,
    /// What the house rule sets take otherwise, one for each set.
    pub houses: Vec<WeightsOfHouse>,
}

/// The weights of the diagnosis, line by line, and what each house rule set takes otherwise.
#[utoipa::path(
    get, path = "/api/house-rules/weights", operation_id = "diagnosis_weights",
    responses((status = 200, body = WeightsView))
)]
pub async fn get(State(state): State<AppState>) -> ApiResult<Json<WeightsView>> {
    let row = |own: &rainshadow_core::diagnosis::Row| WeightRow {
        sign: own.sign.clone(),
        words: own.words.clone(),
        group: wording::evidence_group(own.group),
        measured_by: wording::measurement_next(own.measurement),
        normal: own.normal,
        points: own.weights.clone(),
    };
    let name = |own: &Hypothesis| HypothesisName { hypothesis: *own, name: wording::hypothesis(*own) };
    let houses = all_house_rules(&state).await?.into_iter();
    Ok(Json(WeightsView {
        hypotheses: Hypothesis::ALL.iter().map(name).collect(),
        most: MOST_WEIGHT,
        rows: Weights::shipped().rows().iter().map(row).collect(),
        houses: houses
            .map(|(set, _)| WeightsOfHouse { key: set.key, name: set.name, weights: set.weights })
            .collect(),
    }))
}
