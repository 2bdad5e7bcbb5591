//! The page of one bank, kept as long as nothing is written.

use super::acting::Reader;
use super::error::{ApiResult, Problem};
use super::extract::{Id, etag};
use super::state::AppState;
use crate::app::pages::bank::{BankPage, bank_page};
use axum::body::Bytes;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};

/// The page of a bank.
#[utoipa::path(
    get, path = "/api/banks/{id}", operation_id = "get_bank", params(("id" = String, Path)),
    responses((status = 200, body = BankPage), (status = "default", body = Problem))
)]
pub async fn page(State(state): State<AppState>, Id(id): Id, Reader(units): Reader) -> ApiResult<Response> {
    let key = (id.clone(), units, state.clock.today());
    if let Some(page) = state.pages.get(&key, state.db.commits()) {
        return Ok(as_json(page));
    }
    // Made by one, read by all who wait for it.
    let _turn = state.page_turn.lock().await;
    if let Some(page) = state.pages.get(&key, state.db.commits()) {
        return Ok(as_json(page));
    }
    let text = bank_page(&state, key.clone()).await?;
    let page = (text.version, Bytes::from(text.json));
    state.pages.keep(key, text.commits, page.clone());
    Ok(as_json(page))
}

fn as_json((version, text): (i64, Bytes)) -> Response {
    (etag(version), [(header::CONTENT_TYPE, "application/json")], text).into_response()
}
