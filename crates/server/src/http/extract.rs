//! Extractors: a JSON body whose errors name the field, an id, the reader, a version.

use super::error::ApiError;
use crate::db::Written;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::request::Parts;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rainshadow_core::actor::Actor;
use serde::de::DeserializeOwned;
use uuid::Uuid;

/// A JSON body.
pub struct Body<T>(pub T);

/// A body as bytes, with a message when it is too large.
pub struct Raw(pub Bytes);

impl<S: Send + Sync> FromRequest<S> for Raw {
    type Rejection = ApiError;
    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        let most =
            if request.uri().path() == "/api/import" { super::IMPORT_LIMIT } else { super::BODY_LIMIT };
        Bytes::from_request(request, state).await.map(Self).map_err(|rejection| match rejection {
            BytesRejection::FailedToBufferBody(why) if why.status() == StatusCode::PAYLOAD_TOO_LARGE => {
                ApiError::new(
                    StatusCode::PAYLOAD_TOO_LARGE,
                    "too-large",
                    "File too large",
                    format!("The file is larger than {} MB; split it by years.", most / 1024 / 1024),
                )
            }
            other => {
                ApiError::new(StatusCode::BAD_REQUEST, "broken-body", "Broken request", other.body_text())
            }
        })
    }
}

impl<S: Send + Sync, T: DeserializeOwned> FromRequest<S> for Body<T> {
    type Rejection = ApiError;
    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        let Raw(bytes) = Raw::from_request(request, state).await?;
        from_json(&bytes).map(Self)
    }
}

/// JSON into a type, naming the field that does not fit.
pub fn from_json<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, ApiError> {
    let long = super::lengths::faults_of(bytes);
    if !long.is_empty() {
        return Err(ApiError::fields(long));
    }
    let mut json = serde_json::Deserializer::from_slice(bytes);
    let value = told(serde_path_to_error::deserialize(&mut json))?;
    json.end().map_err(|error| {
        ApiError::new(StatusCode::BAD_REQUEST, "not-json", "Not JSON", format!("After the JSON: {error}."))
    })?;
    Ok(value)
}

/// What was read, or the field that does not fit.
pub fn told<T>(read: Result<T, serde_path_to_error::Error<serde_json::Error>>) -> Result<T, ApiError> {
    read.map_err(|error| {
        let path = error.path().to_string();
        let inner = error.into_inner();
        if inner.is_syntax() || inner.is_eof() {
            let said = format!("The text is not JSON: {inner}.");
            ApiError::new(StatusCode::BAD_REQUEST, "not-json", "Not JSON", said)
        } else {
            ApiError::field(&path, format!("{path}: {inner}."))
        }
    })
}

/// A client-made id.
pub struct Id(pub String);

impl<S: Send + Sync> FromRequestParts<S> for Id {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        let path = axum::extract::Path::<std::collections::BTreeMap<String, String>>::from_request_parts(
            parts, state,
        )
        .await
        .map_err(|e| ApiError::field("id", e.body_text()))?;
        let id = path.get("id").cloned().unwrap_or_default();
        uuid(&id, "id").map(Self)
    }
}

/// A UUID, as every id but those of shipped models is.
pub fn uuid(text: &str, field: &str) -> Result<String, ApiError> {
    let refused = |_| ApiError::field(field, format!("“{text}” is no id; accepted is a UUID."));
    Uuid::parse_str(text).map(|id| id.to_string()).map_err(refused)
}

/// The version of the thing the person saw.
pub struct IfMatch(pub i64);

impl<S: Send + Sync> FromRequestParts<S> for IfMatch {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, ApiError> {
        let SeenVersion(seen) = SeenVersion::from_request_parts(parts, state).await?;
        seen.map(Self).ok_or_else(version_needed)
    }
}

fn version_needed() -> ApiError {
    ApiError::new(
        StatusCode::PRECONDITION_REQUIRED,
        "if-match-needed",
        "Version needed",
        "Send If-Match with the version you saw, as the ETag of its page has it.",
    )
}

/// The version the person saw, where one may be missing: of a thing that is new.
pub struct SeenVersion(pub Option<i64>);

impl<S: Send + Sync> FromRequestParts<S> for SeenVersion {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, ApiError> {
        let Some(value) = parts.headers.get(header::IF_MATCH) else { return Ok(Self(None)) };
        let text = value.to_str().unwrap_or_default();
        text.trim_matches('"').parse().map(|version| Self(Some(version))).map_err(|_number| version_needed())
    }
}

/// The version of an answer, for If-Match later.
pub fn etag(version: i64) -> [(header::HeaderName, String); 1] {
    [(header::ETAG, format!("\"{version}\""))]
}

/// What was sent and by whom, for telling the same request from another under one id.
pub fn sent(body: &str, by: &Actor) -> String {
    format!("{body} by {}", by.said())
}

/// 201 for something new, 200 for the same again.
pub fn written(written: Written) -> Response {
    match written {
        Written::Created => StatusCode::CREATED,
        Written::AlreadyThere => StatusCode::OK,
    }
    .into_response()
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde::Deserialize;

    #[derive(Debug, Deserialize)]
    #[allow(dead_code, reason = "read by the deserializer alone")]
    struct Round {
        cells: Vec<Cell>,
    }

    #[derive(Debug, Deserialize)]
    #[allow(dead_code, reason = "read by the deserializer alone")]
    struct Cell {
        gravity: rainshadow_core::quantity::SpecificGravity,
    }

    fn refused(text: &str) -> super::super::error::Problem {
        from_json::<Round>(text.as_bytes()).unwrap_err().problem().clone()
    }

    #[test]
    fn a_body_that_does_not_fit_names_the_field_deep_inside() {
        let problem = refused("{\"cells\":[{\"gravity\":1.26},{\"gravity\":12.65}]}");
        assert_eq!((problem.status, problem.errors[0].field.as_str()), (422, "cells[1].gravity"));
        assert!(problem.detail.contains("12.65 is not possible here"), "{}", problem.detail);
        let problem = refused("{\"cells\":[{}]}");
        assert!(problem.detail.contains("missing field `gravity`"), "{}", problem.detail);
    }

    #[test]
    fn text_that_is_no_json_or_goes_on_after_it_is_told_apart() {
        assert_eq!(refused("{\"cells\":").kind, "/problems/not-json");
        assert_eq!(refused("cells").kind, "/problems/not-json");
        assert!(refused("{\"cells\":[]} and more").detail.starts_with("After the JSON"));
        assert!(from_json::<Round>(b"{\"cells\":[]}").is_ok());
    }

    #[test]
    fn ids_are_uuids_in_one_spelling() {
        let id = "018F0000-0000-7000-8000-000000000001";
        assert_eq!(uuid(id, "id").unwrap(), id.to_lowercase());
        let problem = uuid("17", "round").unwrap_err().problem().clone();
        assert_eq!(problem.errors[0].field, "round");
    }
}
