//! What the application is, and the demo for a first look.

use super::error::{ApiError, ApiResult, Problem};
use super::guard::WholeShop;
use super::state::AppState;
use crate::app::banks::any_bank;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use rainshadow_core::instrument::Instrument;
use serde::Serialize;
use utoipa::ToSchema;

/// The state of the application.
#[derive(Debug, Serialize, ToSchema)]
pub struct Meta {
    /// Version of the program.
    pub version: &'static str,
    /// The day it believes in.
    pub today: String,
    /// True when there is no bank yet.
    pub empty: bool,
    /// Largest file that is read, MB.
    pub largest_file: usize,
    /// Largest photograph that is taken, MB.
    pub largest_photo: usize,
    /// Largest bank with its photographs that is taken in, MB.
    pub largest_bank: usize,
}

/// What the application is.
#[utoipa::path(get, path = "/api/meta", operation_id = "get_meta", responses((status = 200, body = Meta)))]
pub async fn meta(State(state): State<AppState>) -> ApiResult<Json<Meta>> {
    let empty = !any_bank(&state).await?;
    Ok(Json(Meta {
        version: env!("CARGO_PKG_VERSION"),
        today: state.clock.today().to_string(),
        empty,
        largest_file: super::BODY_LIMIT / 1024 / 1024,
        largest_photo: crate::photos::LARGEST / 1024 / 1024,
        largest_bank: super::IMPORT_LIMIT / 1024 / 1024,
    }))
}

/// The kinds of instruments with the figures that are usual for them.
#[utoipa::path(
    get, path = "/api/instruments", operation_id = "list_instruments", responses((status = 200, body = [Instrument]))
)]
pub async fn instruments() -> Json<Vec<Instrument>> {
    Json(Instrument::of_each_kind())
}

/// Loads the invented demo banks into an empty application.
#[utoipa::path(
    post, path = "/api/demo", operation_id = "load_demo",
    responses((status = 201), (status = "default", body = Problem))
)]
pub async fn load_demo(State(state): State<AppState>, _all: WholeShop) -> ApiResult<StatusCode> {
    if any_bank(&state).await? {
        let said = "The demo is loaded into an empty application only, so that invented banks never stand among real ones.";
        return Err(ApiError::new(StatusCode::CONFLICT, "not-empty", "There are banks already", said));
    }
    crate::demo::load(&state).await?;
    Ok(StatusCode::CREATED)
}
