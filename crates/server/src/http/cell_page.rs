//! One cell's line against the bank's median.

use super::banks::derive_first;
use super::error::{ApiError, ApiResult, Problem};
use super::state::AppState;
use crate::db::assessments::cell_line;
use crate::db::{BankRow, DbError, RoundRow, history};
use crate::words;
use axum::Json;
use axum::extract::{Path, State};
use rainshadow_core::bank::CellAddress;
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;

/// One round of a cell.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellPoint {
    /// Day as said.
    pub day: String,
    /// Day to plot by.
    pub date: String,
    /// Corrected gravity.
    pub gravity: f64,
    /// Median of the bank then.
    pub median: Option<f64>,
    /// Deviation, points.
    pub deviation: f64,
    /// Deviation in words.
    pub deviation_text: String,
    /// Condition word then.
    pub condition: String,
}

/// One cell through its rounds.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellPage {
    /// Address.
    pub cell: String,
    /// The block that stands there.
    pub block: String,
    /// Rounds, oldest first.
    pub points: Vec<CellPoint>,
}

/// One cell's line against the bank's median.
#[utoipa::path(
    get, path = "/api/banks/{id}/cells/{cell}", operation_id = "get_cell",
    params(("id" = String, Path), ("cell" = String, Path)),
    responses((status = 200, body = CellPage), (status = "default", body = Problem))
)]
pub async fn page(
    State(state): State<AppState>,
    Path((id, cell)): Path<(String, String)>,
) -> ApiResult<Json<CellPage>> {
    let id = super::extract::uuid(&id, "id")?;
    let cell: CellAddress = cell.parse().map_err(|e| ApiError::field("cell", format!("{e}.")))?;
    derive_first(&state, vec![id.clone()]).await?;
    let page = state
        .db
        .read(move |db| {
            let bank = BankRow::by_id(db, &id)?;
            let block = BankRow::placements(db, &id)?
                .into_iter()
                .find(|(battery, _)| *battery == cell.battery && bank.shape.contains(cell))
                .map(|(_, block)| block)
                .ok_or_else(|| DbError::NoSuchPlace { bank: bank.name.clone(), address: cell.to_string() })?;
            let medians: HashMap<String, Option<f64>> =
                history(db, &id)?.into_iter().map(|h| (h.round, h.centre)).collect();
            let rounds: HashMap<String, RoundRow> =
                RoundRow::of_bank(db, &id)?.into_iter().map(|r| (r.id.clone(), r)).collect();
            let points = cell_line(db, &block, cell.cell)?
                .into_iter()
                .filter_map(|(round, gravity, deviation, condition)| {
                    let row = rounds.get(&round)?;
                    let date = words::local_day(row.started_at, &row.zone);
                    Some(CellPoint {
                        day: words::day(date),
                        date: date.to_string(),
                        gravity,
                        median: medians.get(&round).copied().flatten(),
                        deviation,
                        deviation_text: rainshadow_core::wording::signed(
                            rainshadow_core::quantity::Points::new(deviation),
                        ),
                        condition,
                    })
                })
                .collect();
            Ok(CellPage { cell: cell.to_string(), block, points })
        })
        .await?;
    Ok(Json(page))
}
