//! What charges a bank and what hangs on it: told, and judged (CH-3).

use super::acting::{Acting, Reader};
use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id, IfMatch, etag};
use super::state::AppState;
use crate::app::equalize_context::{EqualizeContext, audit};
use crate::app::equipment::{equipment_of, fit_equipment};
use crate::app::typed::equipment::{TypedEquipment, typed_equipment};
use axum::Json;
use axum::extract::State;
use axum::response::{IntoResponse, Response};
use rainshadow_core::charge::SettingsAudit;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One stage of a charger in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct StageLine {
    /// "absorption".
    pub stage: &'static str,
    /// What it is set to, V.
    pub set: String,
    /// What it should be, V; empty: it should be off, or nothing is judged.
    pub wanted: String,
    /// What to type, V.
    pub to_type: String,
    /// In words.
    pub said: String,
    /// How it stands.
    pub condition: Severity,
}

/// An audit in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct AuditView {
    /// The sentence on top.
    pub verdict: String,
    /// How it stands.
    pub condition: Severity,
    /// Stage by stage.
    pub stages: Vec<StageLine>,
    /// At which temperature.
    pub at: String,
    /// Rule, tolerance, source.
    pub rule: String,
}

impl AuditView {
    /// An audit as said.
    pub fn of(audit: &SettingsAudit, at: Temperature, units: ReaderUnits, house: &str) -> Self {
        let volts = |v: Option<f64>| v.map(|v| format!("{v:.1}")).unwrap_or_default();
        Self {
            verdict: wording::audit_verdict(audit),
            condition: audit.condition,
            stages: audit
                .stages
                .iter()
                .map(|s| StageLine {
                    stage: s.stage.word(),
                    set: format!("{:.1}", s.set),
                    wanted: volts(s.wanted),
                    to_type: volts(s.to_type),
                    said: wording::audited_stage(s),
                    condition: s.condition,
                })
                .collect(),
            at: units.say_temperature(at),
            rule: format!(
                "CH-3: fine within 0.03 V a cell (float 0.02), act beyond 0.06 (float 0.04). {}. {house}Maker’s manual first.",
                wording::sentence(rainshadow_core::finding::RuleId::Ch3.source())
            ),
        }
    }
}

/// The charger of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChargerPage {
    /// As typed.
    pub equipment: TypedEquipment,
    /// For If-Match; 0: nothing was told yet.
    pub version: i64,
    /// Who told it last.
    pub person: String,
    /// What the settings do now, at the temperature of the last round; none: nothing told.
    pub now: Option<AuditView>,
    /// Settings as judged in the cold and in the heat that the site has, where they are judged otherwise.
    pub seasons: Vec<AuditView>,
}

/// Temperatures at which settings are looked at beside today's, °C: a cold and a hot electrolyte.
const SEASONS: [f64; 2] = [5.0, 40.0];

fn charger_page(context: &EqualizeContext, units: ReaderUnits) -> ChargerPage {
    let at = context.round_temperature.or_else(|| Temperature::from_celsius(25.0).ok());
    let view = |at: Temperature| audit(context, at).map(|a| AuditView::of(&a, at, units, ""));
    let now = at.and_then(view);
    let seasons = SEASONS
        .into_iter()
        .filter_map(|celsius| Temperature::from_celsius(celsius).ok())
        .filter_map(view)
        .filter(|season| now.as_ref().is_some_and(|n| n.condition != season.condition))
        .collect();
    ChargerPage {
        equipment: typed_equipment(&context.equipment),
        version: context.equipment.version,
        person: context.equipment.by.initials.clone(),
        now,
        seasons,
    }
}

/// What charges a bank, and what its settings do.
#[utoipa::path(
    get, path = "/api/banks/{id}/equipment", operation_id = "get_equipment", params(("id" = String, Path)),
    responses((status = 200, body = ChargerPage), (status = "default", body = Problem))
)]
pub async fn get(State(state): State<AppState>, Id(id): Id, Reader(units): Reader) -> ApiResult<Response> {
    let context = equipment_of(&state, id).await?;
    let page = charger_page(&context, units);
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
    responses((status = 200, body = ChargerPage), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Id(id): Id,
    IfMatch(version): IfMatch,
    Reader(units): Reader,
    Acting(by): Acting,
    Body(sent): Body<SentEquipment>,
) -> ApiResult<Json<ChargerPage>> {
    let (context, stored) = fit_equipment(&state, id, version, (sent.equipment, by)).await?;
    let page = charger_page(&context, units);
    if !stored {
        let by = if page.person.is_empty() { "Somebody" } else { &page.person };
        let said = format!("{by} changed this while you were typing. Look at what stands now.");
        return Err(ApiError::changed_since(said, serde_json::to_value(&page).unwrap_or_default()));
    }
    state.feeds.changed();
    Ok(Json(page))
}
