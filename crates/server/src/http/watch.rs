//! Watching over the server: whether it lives, whether it can work, what it was asked and how long it
//! took; a panic that ends in a problem document, and every other error too.

use super::error::{ApiError, Problem};
use super::state::AppState;
use axum::extract::{MatchedPath, Request, State};
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use std::any::Any;
use std::time::{Duration, Instant};

/// The longest that anything is worked on.
const LONGEST: Duration = Duration::from_mins(5);
/// The longest error text of the framework that is passed on.
const TOLD: usize = 2000;

/// Whether the process answers.
#[utoipa::path(get, path = "/healthz", operation_id = "health", responses((status = 200, body = String, content_type = "text/plain")))]
pub async fn health() -> &'static str {
    "ok\n"
}

/// Whether it can read its database.
#[utoipa::path(
    get, path = "/readyz", operation_id = "ready",
    responses((status = 200, body = String, content_type = "text/plain"), (status = "default", body = Problem))
)]
pub async fn ready(State(state): State<AppState>) -> Result<&'static str, ApiError> {
    crate::app::banks::any_bank(&state).await.map_err(|error| {
        tracing::error!(%error, "not ready");
        let said = "The database cannot be read; `rainshadow doctor` says more.";
        ApiError::new(StatusCode::SERVICE_UNAVAILABLE, "not-ready", "Not ready", said)
    })?;
    Ok("ready\n")
}

/// Logs what was asked, by route: no ids, no readings, no names, no tokens.
pub async fn log(request: Request, next: Next) -> Response {
    let began = Instant::now();
    let id = uuid::Uuid::now_v7().simple().to_string();
    let route = request.extensions().get::<MatchedPath>().map_or("a page", MatchedPath::as_str).to_owned();
    let method = request.method().clone();
    let mut response = match tokio::time::timeout(LONGEST, next.run(request)).await {
        Ok(response) => response,
        Err(_elapsed) => {
            let said = "This took longer than five minutes and was given up; nothing of it was kept.";
            ApiError::new(StatusCode::REQUEST_TIMEOUT, "too-slow", "Too slow", said).into_response()
        }
    };
    let milliseconds = u64::try_from(began.elapsed().as_millis()).unwrap_or(u64::MAX);
    tracing::info!(target: "rainshadow::request", id, %method, route, status = response.status().as_u16(), milliseconds);
    if let Ok(value) = HeaderValue::from_str(&id) {
        response.headers_mut().insert(HeaderName::from_static("x-request-id"), value);
    }
    response
}

/// A handler that panicked: logged, and told like any other failure.
#[expect(clippy::needless_pass_by_value, reason = "as the layer hands it over")]
pub fn panicked(cause: Box<dyn Any + Send + 'static>) -> Response {
    let said =
        cause.downcast_ref::<String>().map(String::as_str).or_else(|| cause.downcast_ref::<&str>().copied());
    tracing::error!(said = said.unwrap_or("nothing"), "a handler panicked");
    let shown = "Something failed in the server. What you typed is still on screen; try again.";
    ApiError::new(StatusCode::INTERNAL_SERVER_ERROR, "internal", "Failed", shown).into_response()
}

/// What the framework refuses in plain text becomes a problem document as well.
pub async fn as_problem(response: Response) -> Response {
    let status = response.status();
    let known = response.headers().get(header::CONTENT_TYPE).is_some_and(|t| {
        t.as_bytes().starts_with(b"application/problem+json") || t.as_bytes().starts_with(b"text/html")
    });
    if known || !(status.is_client_error() || status.is_server_error()) {
        return response;
    }
    let (parts, body) = response.into_parts();
    let text = axum::body::to_bytes(body, TOLD).await.unwrap_or_default();
    let text = String::from_utf8_lossy(&text).trim().to_owned();
    let (kind, title, said) = match status {
        StatusCode::METHOD_NOT_ALLOWED => (
            "method",
            "Not possible",
            "This address takes no request of this kind; Allow says which.".to_owned(),
        ),
        StatusCode::REQUEST_TIMEOUT => {
            ("too-slow", "Too slow", "The request took too long to arrive; send it again.".to_owned())
        }
        StatusCode::PAYLOAD_TOO_LARGE => ("too-large", "Too large", text),
        StatusCode::NOT_FOUND => ("not-found", "Not found", "There is nothing at this address.".to_owned()),
        _ => ("broken-request", "Broken request", text),
    };
    let mut problem = ApiError::new(status, kind, title, said).into_response();
    for (name, value) in &parts.headers {
        if *name != header::CONTENT_TYPE && *name != header::CONTENT_LENGTH {
            problem.headers_mut().insert(name.clone(), value.clone());
        }
    }
    problem
}
