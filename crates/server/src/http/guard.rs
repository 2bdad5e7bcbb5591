//! Requests from this machine's own pages only, and headers that keep the pages to themselves.

use super::error::ApiError;
use super::state::AppState;
use crate::db::Device;
use axum::extract::{ConnectInfo, FromRequestParts, Request, State};
use axum::http::request::Parts;
use axum::http::{HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Redirect, Response};
use std::net::SocketAddr;

/// Scripts, styles, fonts and data from here alone. The component library writes style elements,
/// so styles may stand inline; scripts may not.
const POLICY: &str = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; \
    font-src 'self' data:;     object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

/// Names by which this machine calls itself.
const OWN_NAMES: [&str; 3] = ["127.0.0.1", "localhost", "[::1]"];

fn is_named(authority: &str, names: &[&str], port: u16) -> bool {
    names.iter().any(|name| {
        authority
            .strip_prefix(name)
            .is_some_and(|rest| rest == format!(":{port}") || (rest.is_empty() && port == 80))
    })
}

fn names_host(request: &Request, names: &[&str], port: u16) -> bool {
    let header =
        |name: HeaderName| request.headers().get(name).and_then(|v| v.to_str().ok()).map(ToOwned::to_owned);
    let host = header(header::HOST).or_else(|| request.uri().authority().map(ToString::to_string));
    let origin_ok = header(header::ORIGIN)
        .is_none_or(|o| o.strip_prefix("http://").is_some_and(|authority| is_named(authority, names, port)));
    host.is_some_and(|h| is_named(&h, names, port)) && origin_ok
}

/// Where a request comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum From {
    /// This machine, by one of its own names.
    Desk,
    /// A paired device.
    Device,
    /// A device that is not paired yet, asking for what pairing needs.
    Stranger,
    /// Nobody who is let in.
    Refused,
}

/// What a device needs to pair: the page, its files, the code.
fn needed_to_pair(path: &str) -> bool {
    path == "/pair" || path == "/api/pair" || path.starts_with("/assets/") || path == "/favicon.ico"
}

fn token(request: &Request) -> Option<String> {
    let cookies = request.headers().get(header::COOKIE)?.to_str().ok()?;
    let own = cookies
        .split(';')
        .filter_map(|c| c.trim().split_once('='))
        .find(|(n, _)| *n == super::devices::COOKIE);
    own.map(|(_, value)| value.to_owned())
}

/// Where a request comes from by its address and names alone, or the token that decides.
fn by_names(state: &AppState, request: &Request) -> Result<From, Option<String>> {
    let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|info| info.0.ip());
    // Without a known peer there is one way in, the loopback listener.
    let near = peer.is_none_or(|ip| ip.to_canonical().is_loopback());
    if near && names_host(request, &OWN_NAMES, state.port) {
        return Ok(From::Desk);
    }
    let hosts: Vec<&str> = state.hosts.iter().map(String::as_str).collect();
    if hosts.is_empty() || !names_host(request, &hosts, state.port) {
        return Ok(From::Refused);
    }
    Err(token(request))
}

async fn by_token(state: &AppState, token: Option<String>, needed: bool) -> From {
    let known = match token {
        Some(token) => {
            let kept = crate::pairing::hash_of(&token);
            state.db.read(move |db| Device::by_token(db, &kept)).await.ok().flatten().is_some()
        }
        None => false,
    };
    match (known, needed) {
        (true, _) => From::Device,
        (false, true) => From::Stranger,
        (false, false) => From::Refused,
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

/// Refuses a Host or Origin that is not this server's own: a page from elsewhere must not reach it
/// through the browser of the person who uses it. Beyond this machine only paired devices are let in.
pub async fn own_host_only(State(state): State<AppState>, mut request: Request, next: Next) -> Response {
    let from = match by_names(&state, &request) {
        Ok(from) => from,
        Err(token) => by_token(&state, token, needed_to_pair(request.uri().path())).await,
    };
    request.extensions_mut().insert(from);
    let page = request.method() == Method::GET && !request.uri().path().starts_with("/api/");
    let mut response = match from {
        From::Refused if !state.hosts.is_empty() && page => {
            // A phone that is not paired yet lands where it can be.
            Redirect::temporary("/pair").into_response()
        }
        From::Refused => {
            let said = if state.hosts.is_empty() {
                "This request names another host than this server's own; it was refused."
            } else {
                "This device is not paired with Rainshadow, or names a host that is not allowed. Open /pair and type the code on the desk."
            };
            ApiError::new(StatusCode::FORBIDDEN, "foreign-host", "Refused", said).into_response()
        }
        _ => next.run(request).await,
    };
    for (name, value) in [
        (header::CONTENT_SECURITY_POLICY, POLICY),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (HeaderName::from_static("cross-origin-opener-policy"), "same-origin"),
    ] {
        response.headers_mut().insert(name, HeaderValue::from_static(value));
    }
    response
}

#[cfg(test)]
mod tests {
    use super::*;

    fn is_own(authority: &str, port: u16) -> bool {
        is_named(authority, &OWN_NAMES, port)
    }

    #[test]
    fn only_this_machine_by_its_own_names_and_port_is_its_own() {
        for own in ["127.0.0.1:7480", "localhost:7480", "[::1]:7480"] {
            assert!(is_own(own, 7480), "{own}");
        }
        for foreign in [
            "127.0.0.1:7481",
            "127.0.0.1",
            "localhost:7480.rebound.example",
            "localhost.rebound.example:7480",
            "127.0.0.1:74800",
            "192.168.0.7:7480",
            "",
        ] {
            assert!(!is_own(foreign, 7480), "{foreign}");
        }
        assert!(is_own("localhost", 80), "the port of the web needs no saying");
    }
}
