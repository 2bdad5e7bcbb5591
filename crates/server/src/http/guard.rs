//! Who is let in: requests of this machine's own pages, paired devices, and headers that keep the pages
//! to themselves.

use super::error::ApiError;
use super::state::AppState;
use crate::app::devices::{is_calendar_token, scope_of_device};
use crate::db::Scope;
use crate::pairing::{OLD_COOKIE, cookie_name};
use crate::reach::Road;
use axum::extract::{ConnectInfo, FromRequestParts, Request, State};
use axum::http::request::Parts;
use axum::http::{HeaderMap, HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Redirect, Response};
use std::net::SocketAddr;

/// Scripts, styles, fonts and data from here alone. The component library writes style elements,
/// so styles may stand inline; scripts may not.
const POLICY: &str = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; \
    font-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

/// Who asks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum From {
    /// This machine, by one of its own names.
    Desk,
    /// A paired device.
    Device(Scope),
    /// A device that is not paired yet, asking for what pairing needs.
    Stranger,
    /// A calendar program with a token of its own.
    Calendar,
    /// Nobody who is let in.
    Refused,
}

/// How the answer travels, for cookies.
#[derive(Debug, Clone, Copy)]
pub struct Secure(pub bool);

impl<S: Send + Sync> FromRequestParts<S> for Secure {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, ApiError> {
        Ok(parts.extensions.get::<Self>().copied().unwrap_or(Self(false)))
    }
}

/// What a device needs to pair: the page, its files, the code.
fn needed_to_pair(path: &str) -> bool {
    path == "/pair" || path == "/api/pair" || path.starts_with("/assets/") || path == "/favicon.ico"
}

/// The token of this server's own cookie; that of a version before had no port in its name.
fn token(headers: &HeaderMap, port: u16) -> Option<String> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|v| v.to_str().ok());
    let all: Vec<_> = cookies.flat_map(|c| c.split(';')).filter_map(|c| c.trim().split_once('=')).collect();
    let of =
        |wanted: &str| all.iter().find(|(name, _)| *name == wanted).map(|(_, value)| (*value).to_owned());
    of(&cookie_name(port)).or_else(|| of(OLD_COOKIE))
}

/// The token in the address of a calendar feed.
fn calendar_token(request: &Request) -> Option<String> {
    if request.uri().path() != "/api/calendar.ics" {
        return None;
    }
    let query = request.uri().query()?;
    query.split('&').find_map(|pair| pair.strip_prefix("token=")).map(ToOwned::to_owned)
}

async fn of_device(state: &AppState, token: String) -> Option<Scope> {
    scope_of_device(state, crate::pairing::hash_of(&token)).await
}

/// What a device shows of itself.
struct Shown {
    token: Option<String>,
    calendar: Option<String>,
    needed_to_pair: bool,
}

async fn who(state: &AppState, road: Road, shown: Shown) -> From {
    match road {
        Road::Desk => return From::Desk,
        Road::Foreign => return From::Refused,
        Road::Device { .. } => {}
    }
    if let Some(token) = shown.token
        && let Some(scope) = of_device(state, token).await
    {
        return From::Device(scope);
    }
    if let Some(token) = shown.calendar
        && is_calendar_token(state, crate::pairing::hash_of(&token)).await
    {
        return From::Calendar;
    }
    if shown.needed_to_pair { From::Stranger } else { From::Refused }
}

/// Taken by handlers that concern the whole shop: a device that is let in for visits does not reach them.
pub struct WholeShop;

impl<S: Send + Sync> FromRequestParts<S> for WholeShop {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, ApiError> {
        if matches!(parts.extensions.get::<From>(), Some(From::Desk | From::Device(Scope::All))) {
            return Ok(Self);
        }
        let said = "This device is let in for visits alone; this is done on the desk, or on a device without that limit.";
        Err(ApiError::new(StatusCode::FORBIDDEN, "visits-only", "Refused", said))
    }
}

/// Taken by handlers that only the machine itself may ask.
pub struct FromDesk;

impl<S: Send + Sync> FromRequestParts<S> for FromDesk {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, ApiError> {
        if parts.extensions.get::<From>() == Some(&From::Desk) {
            return Ok(Self);
        }
        let said = "This is done on the machine that Rainshadow runs on.";
        Err(ApiError::new(StatusCode::FORBIDDEN, "desk-only", "Refused", said))
    }
}

/// What no request may be: two names, or a length that can be read in two ways.
fn well_formed(headers: &HeaderMap) -> Result<(), ApiError> {
    let bad = |said: &str| ApiError::new(StatusCode::BAD_REQUEST, "broken-request", "Broken request", said);
    if headers.get_all(header::HOST).iter().count() != 1 {
        return Err(bad("A request has one Host header."));
    }
    if headers.get_all(header::CONTENT_LENGTH).iter().count() > 1 {
        return Err(bad("A request has one Content-Length header at most."));
    }
    if headers.contains_key(header::TRANSFER_ENCODING) {
        let said = "Send the length of the body in Content-Length; bodies in pieces of unknown length are not taken.";
        return Err(ApiError::new(StatusCode::LENGTH_REQUIRED, "length-needed", "Length needed", said));
    }
    Ok(())
}

/// Refuses a Host or Origin that is not this server's own: a page from elsewhere must not reach it
/// through the browser of the person who uses it. Beyond this machine only paired devices are let in.
pub async fn own_host_only(State(state): State<AppState>, mut request: Request, next: Next) -> Response {
    let path = request.uri().path().to_owned();
    let mut response = if let Err(refused) = well_formed(request.headers()) {
        refused.into_response()
    } else if path == "/healthz" || path == "/readyz" {
        next.run(request).await
    } else {
        let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|info| info.0.ip());
        let road = state.reach.road(peer, request.headers(), request.version());
        let shown = Shown {
            token: token(request.headers(), state.reach.port),
            calendar: calendar_token(&request),
            needed_to_pair: needed_to_pair(&path),
        };
        let from = who(&state, road, shown).await;
        request.extensions_mut().insert(from);
        let secure = state.reach.secure || road == Road::Device { secure: true };
        request.extensions_mut().insert(Secure(secure));
        let page = request.method() == Method::GET && !path.starts_with("/api/");
        match from {
            // A phone that is not paired yet lands where it can be.
            From::Refused if page && matches!(road, Road::Device { .. }) => {
                Redirect::temporary("/pair").into_response()
            }
            From::Refused => refused(&state, road).into_response(),
            _ => next.run(request).await,
        }
    };
    let headers = response.headers_mut();
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
    ] {
        // A report has a stricter policy of its own.
        headers.entry(name).or_insert(HeaderValue::from_static(value));
    }
    if path.starts_with("/api/") && !headers.contains_key(header::CACHE_CONTROL) {
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    }
    response
}

fn refused(state: &AppState, road: Road) -> ApiError {
    let said = if matches!(road, Road::Device { .. }) {
        "This device is not paired with Rainshadow. Open /pair and type the code on the desk."
    } else if state.reach.is_open() {
        "This request names another host than this server's own, or came through a proxy that it does not know; it was refused. --host, --public-url and --trusted-proxy say which are its own."
    } else {
        "This request names another host than this server's own; it was refused."
    };
    ApiError::new(StatusCode::FORBIDDEN, "foreign-host", "Refused", said)
}
