//! What charges a bank and what hangs on it: told, and judged (CH-3).

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, etag};
use super::state::AppState;
use crate::app::equipment::{equipment_of, fit_equipment};
use crate::app::pages::equipment::{EquipmentPage, equipment_page};
use crate::app::typed::equipment::TypedEquipment;
use axum::Json;
use axum::extract::State;
use axum::response::{IntoResponse, Response};
use serde::Deserialize;
use utoipa::ToSchema;

/// What charges a bank, and what its settings do.
#[utoipa::path(
    get, path = "/api/banks/{id}/equipment", operation_id = "get_equipment", params(("id" = String, Path)),
    responses((status = 200, body = EquipmentPage), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Id(id): Id, Reader(units): Reader) -> ApiResult<Response> {
    let context = equipment_of(&state, id).await?;
    let page = equipment_page(&context, units);
    Ok((etag(page.version), Json(page)).into_response())
}

/// Equipment as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentEquipment {
    /// The equipment.
    pub equipment: TypedEquipment,
}

/// Tells what charges a bank and what hangs on it.
#[utoipa::path(
    put, path = "/api/banks/{id}/equipment", operation_id = "put_equipment",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("If-Match" = String, Header)), request_body = SentEquipment,
    responses((status = 200, body = EquipmentPage), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
    Body(sent): Body<SentEquipment>,
) -> ApiResult<Json<EquipmentPage>> {
    let (context, stored) = fit_equipment(&state, id, version, (sent.equipment, by)).await?;
    let page = equipment_page(&context, units);
    if !stored {
        let by = if page.person.is_empty() { "Somebody" } else { &page.person };
        let said = format!("{by} changed this while you were typing. Look at what stands now.");
        return Err(ApiError::changed_since(said, serde_json::to_value(&page).unwrap_or_default()));
    }
    state.feeds.changed();
    Ok(Json(page))
}
