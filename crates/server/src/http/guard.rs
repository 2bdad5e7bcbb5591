//! Requests from this machine's own pages only, and headers that keep the pages to themselves.

use super::error::ApiError;
use super::state::AppState;
use axum::extract::{Request, State};
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

/// Scripts, styles, fonts and data from here alone. The component library writes style elements,
/// so styles may stand inline; scripts may not.
const POLICY: &str = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; \
    font-src 'self' data:;     object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

/// Names by which this machine calls itself.
const OWN_NAMES: [&str; 3] = ["127.0.0.1", "localhost", "[::1]"];

fn is_own(authority: &str, port: u16) -> bool {
    OWN_NAMES.iter().any(|name| {
        authority
            .strip_prefix(name)
            .is_some_and(|rest| rest == format!(":{port}") || (rest.is_empty() && port == 80))
    })
}

fn names_own_host(request: &Request, port: u16) -> bool {
    let header =
        |name: HeaderName| request.headers().get(name).and_then(|v| v.to_str().ok()).map(ToOwned::to_owned);
    let host = header(header::HOST).or_else(|| request.uri().authority().map(ToString::to_string));
    let origin_ok = header(header::ORIGIN)
        .is_none_or(|o| o.strip_prefix("http://").is_some_and(|authority| is_own(authority, port)));
    host.is_some_and(|h| is_own(&h, port)) && origin_ok
}

/// Refuses a Host or Origin that is not this server's own: a page from elsewhere must not reach it
/// through the browser of the person who uses it.
pub async fn own_host_only(State(state): State<AppState>, request: Request, next: Next) -> Response {
    let mut response = if names_own_host(&request, state.port) {
        next.run(request).await
    } else {
        let said = "This request names another host than this server's own; it was refused.";
        ApiError::new(StatusCode::FORBIDDEN, "foreign-host", "Refused", said).into_response()
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
