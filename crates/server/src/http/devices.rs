//! Devices beyond this machine: a code on the desk, a token on the phone, a list to shut them out.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::error::{ApiError, ApiResult, Problem};
use super::extract::{Body, Id};
use super::guard::{FromDesk, Secure};
use super::state::AppState;
use crate::app::devices::{all_devices, pair_device, revoke_device};
use crate::db::{Device, Scope};
use crate::pairing::{Attempt, hash_of, random_hex};
use axum::Json;
use axum::extract::{Query, State};
use axum::http::{HeaderMap, HeaderValue, StatusCode, header};
use qrcode::QrCode;
use qrcode::render::svg;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A cookie is kept for a year; its token ends when the device is not seen for 90 days.
const YEAR: u32 = 365 * 24 * 3600;

/// A code to type or to scan.
#[derive(Debug, Serialize, ToSchema)]
pub struct PairingCode {
    /// Eight digits, good once and for ten minutes.
    pub code: String,
    /// Address to open on the phone.
    pub address: String,
    /// The address with the code, as an SVG to scan.
    pub qr: String,
}

/// What the devices page shows.
#[expect(clippy::struct_field_names, reason = "the devices of the devices page")]
#[derive(Debug, Serialize, ToSchema)]
pub struct Devices {
    /// True when this server is reached from beyond this machine.
    pub open: bool,
    /// Names it is reached by.
    pub hosts: Vec<String>,
    /// Devices, newest first.
    pub devices: Vec<Device>,
}

/// Paired devices, and whether any can be.
#[utoipa::path(
    get, path = "/api/devices", operation_id = "list_devices",
    responses((status = 200, body = Devices), (status = "default", body = Problem))
)]
pub async fn list(State(state): State<AppState>) -> ApiResult<Json<Devices>> {
    let devices = all_devices(&state).await?;
    Ok(Json(Devices { open: state.reach.is_open(), hosts: state.reach.names(), devices }))
}

/// What the device that uses a code may do.
#[derive(Debug, Default, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct CodeFor {
    /// Everything, or visits alone.
    pub scope: Scope,
}

/// Opens a one-time code; on the machine itself only.
#[utoipa::path(
    post, path = "/api/devices/code", operation_id = "open_code", params(CodeFor),
    responses((status = 200, body = PairingCode), (status = "default", body = Problem))
)]
pub async fn code(
    State(state): State<AppState>,
    _desk: FromDesk,
    Query(wanted): Query<CodeFor>,
) -> ApiResult<Json<PairingCode>> {
    let Some(address) = state.reach.phone_address() else {
        let said = "This server is reached from this machine only. Start it with --listen and --host, or with --public-url behind a proxy, to let a phone in.";
        return Err(ApiError::new(StatusCode::CONFLICT, "loopback-only", "Nothing to pair", said));
    };
    let code = state.pairing.open(state.clock.now(), wanted.scope);
    let address = format!("{address}/pair");
    let qr = QrCode::new(format!("{address}?code={code}"))
        .map(|q| q.render::<svg::Color<'_>>().min_dimensions(220, 220).build())
        .unwrap_or_default();
    Ok(Json(PairingCode { code, address, qr }))
}

/// A code typed on a phone.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TypedCode {
    /// The eight digits.
    pub code: String,
    /// What the phone is called.
    #[serde(default)]
    pub name: String,
}

/// Lets a device in by its code.
#[utoipa::path(
    post, path = "/api/pair", operation_id = "pair", request_body = TypedCode,
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn pair(
    State(state): State<AppState>,
    Secure(secure): Secure,
    Body(typed): Body<TypedCode>,
) -> ApiResult<(StatusCode, HeaderMap)> {
    let now = state.clock.now();
    let scope = match state.pairing.attempt(&typed.code, now) {
        Attempt::Right(scope) => scope,
        Attempt::Wrong => {
            return Err(ApiError::field("code", "This is not the code on the desk. Look again."));
        }
        Attempt::NoCode => {
            return Err(ApiError::field(
                "code",
                "No code is open. Press \u{201c}Pair a phone\u{201d} on the desk and type the new one.",
            ));
        }
        Attempt::Locked => {
            let said = "Too many wrong codes. Wait a quarter of an hour, or open a new code on the desk.";
            return Err(ApiError::new(StatusCode::TOO_MANY_REQUESTS, "locked", "Too many attempts", said));
        }
    };
    let token = random_hex(32);
    let kept = hash_of(&token);
    let name = typed.name.trim().chars().take(40).collect::<String>();
    let name = if name.is_empty() { "a phone".to_owned() } else { name };
    pair_device(&state, (name, scope), kept).await?;
    let mut headers = HeaderMap::new();
    let name = crate::pairing::cookie_name(state.reach.port);
    let secure = if secure { "; Secure" } else { "" };
    let cookie = format!("{name}={token}; HttpOnly; SameSite=Strict; Path=/; Max-Age={YEAR}{secure}");
    if let Ok(value) = HeaderValue::from_str(&cookie) {
        headers.insert(header::SET_COOKIE, value);
    }
    Ok((StatusCode::NO_CONTENT, headers))
}

/// Shuts a device out; on the machine itself only.
#[utoipa::path(
    post, path = "/api/devices/{id}/revoke", operation_id = "revoke_device", params(("id" = String, Path)),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn revoke(State(state): State<AppState>, _desk: FromDesk, Id(id): Id) -> ApiResult<StatusCode> {
    revoke_device(&state, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
