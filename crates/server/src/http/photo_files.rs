//! Photographs: sent, shown, taken out.
#![allow(unused_qualifications, reason = "the OpenAPI macro qualifies the parameters it expands")]

use super::acting::Acting;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::Body;
use super::lengths::fits;
use super::state::AppState;
use crate::app::pages::photo::PhotoView;
use crate::app::photographs::{
    photograph, put_back_photograph, remove_photograph, write_caption, write_photograph, zone_of_visit,
};
use crate::db::{PhotoOf, PhotoRow};
use crate::photos::{self, LARGEST, PhotoError};
use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{FromRequest, Path, Query, Request, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use rainshadow_core::visit::Place;
use rainshadow_core::wording;
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};

impl From<PhotoError> for ApiError {
    fn from(error: PhotoError) -> Self {
        let said = wording::stopped(&error.to_string());
        match error {
            PhotoError::TooLarge(_) => {
                Self::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "Photograph too large", said)
            }
            PhotoError::Disk(error) => crate::db::DbError::from(error).into(),
            _ => Self::field("photograph", said),
        }
    }
}

/// What a photograph shows, beside its bytes.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PhotoQuery {
    /// What it shows.
    pub what: PhotoOf,
    /// The check it belongs to.
    #[serde(default)]
    pub subject: String,
    /// Where.
    #[serde(default)]
    pub place: String,
    /// In words.
    #[serde(default)]
    pub note: String,
}

/// The bytes of a photograph, with a message when there are too many.
pub struct Picture(Bytes);

impl<S: Send + Sync> FromRequest<S> for Picture {
    type Rejection = ApiError;
    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        Bytes::from_request(request, state).await.map(Self).map_err(|rejection| match rejection {
            BytesRejection::FailedToBufferBody(why) if why.status() == StatusCode::PAYLOAD_TOO_LARGE => {
                let most = LARGEST / 1024 / 1024;
                let said = format!("The photograph is larger than {most} MB; take a smaller one.");
                ApiError::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "Photograph too large", said)
            }
            other => {
                ApiError::new(StatusCode::BAD_REQUEST, "broken-body", "Broken request", other.body_text())
            }
        })
    }
}

/// Takes a photograph: JPEG, PNG or WebP, at most 25 MB; what is no photograph is refused.
#[utoipa::path(
    put, path = "/api/visits/{id}/photos/{photo}", operation_id = "put_photo",
    security(("person" = [], "acting_device" = [])),
    params(("id" = String, Path), ("photo" = String, Path), PhotoQuery),
    request_body(content = Vec<u8>, content_type = "image/jpeg"),
    responses((status = 201, body = PhotoView), (status = "default", body = Problem))
)]
pub async fn put(
    State(state): State<AppState>,
    Path((id, photo)): Path<(String, String)>,
    Query(query): Query<PhotoQuery>,
    Acting(by): Acting,
    Picture(bytes): Picture,
) -> ApiResult<(StatusCode, Json<PhotoView>)> {
    let id = super::extract::uuid(&id, "id")?;
    let photo = super::extract::uuid(&photo, "photo")?;
    let place: Place = query.place.parse().map_err(|e| ApiError::field("place", format!("{e}.")))?;
    let long: Vec<_> = [("subject", &query.subject), ("note", &query.note)]
        .into_iter()
        .filter_map(|(field, text)| fits(field, text).err())
        .collect();
    if !long.is_empty() {
        return Err(ApiError::fields(long));
    }
    let zone = zone_of_visit(&state, id.clone()).await?;
    photos::sized(&bytes)?;
    let pass = state.pictures.pass(&bytes).await?;
    // Decoding takes a good part of a second: off the threads that answer.
    let prepared = tokio::task::spawn_blocking(move || {
        let prepared = photos::prepare(&bytes);
        drop((pass, bytes));
        prepared
    })
    .await
    .map_err(|_join| ApiError::from(crate::db::DbError::Crashed))??;
    let prepared = std::sync::Arc::new(prepared);
    let row = PhotoRow {
        id: photo,
        visit: id,
        what: query.what,
        subject: query.subject,
        place,
        files: prepared.files.clone(),
        note: query.note.trim().to_owned(),
        by,
        taken_at: state.clock.now(),
        removed_by: None,
    };
    let view = PhotoView::of(&row, &zone);
    write_photograph(&state, row, prepared).await?;
    Ok((StatusCode::CREATED, Json(view)))
}

/// Which size.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Size {
    /// True for the small copy.
    #[serde(default)]
    pub small: bool,
}

/// A photograph as JPEG.
#[utoipa::path(
    get, path = "/api/photos/{id}", operation_id = "get_photo", params(("id" = String, Path), Size),
    responses((status = 200, content_type = "image/jpeg"), (status = "default", body = Problem))
)]
pub async fn get(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
    Query(size): Query<Size>,
) -> ApiResult<Response> {
    let bytes = photograph(&state, id, size.small).await?;
    let bytes = bytes.map_err(|(error, hash)| {
        tracing::error!(%error, hash, "a photograph is missing");
        let said = "The file of this photograph is missing from the data folder; restore it from a backup.";
        ApiError::new(StatusCode::NOT_FOUND, "photo-missing", "Photograph missing", said)
    })?;
    let headers = [
        (header::CONTENT_TYPE, "image/jpeg"),
        // Named by its contents: it never changes.
        (header::CACHE_CONTROL, "private, max-age=31536000, immutable"),
    ];
    Ok((headers, bytes).into_response())
}

/// Takes a photograph out of its visit.
#[utoipa::path(
    delete, path = "/api/photos/{id}", operation_id = "remove_photo", params(("id" = String, Path)),
    security(("person" = [], "acting_device" = [])),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn remove(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
    Acting(by): Acting,
) -> ApiResult<StatusCode> {
    remove_photograph(&state, id, by).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a photograph that was taken out back into its visit.
#[utoipa::path(
    post, path = "/api/photos/{id}/restore", operation_id = "put_back_photo", params(("id" = String, Path)),
    security(("person" = [], "acting_device" = [])),
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put_back(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
    Acting(_by): Acting,
) -> ApiResult<StatusCode> {
    put_back_photograph(&state, id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What is written under a photograph, as sent.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SentCaption {
    /// What stood there when it was looked at.
    #[serde(default)]
    pub seen: String,
    /// What is to stand there; empty: nothing.
    pub caption: String,
}

/// Writes under a photograph of an open visit.
#[utoipa::path(
    put, path = "/api/photos/{id}/caption", operation_id = "put_caption", params(("id" = String, Path)),
    security(("person" = [], "acting_device" = [])), request_body = SentCaption,
    responses((status = 204), (status = "default", body = Problem))
)]
pub async fn put_caption(
    State(state): State<AppState>,
    super::extract::Id(id): super::extract::Id,
    Acting(_by): Acting,
    Body(sent): Body<SentCaption>,
) -> ApiResult<StatusCode> {
    write_caption(&state, id, sent.seen.trim().to_owned(), sent.caption.trim().to_owned()).await?;
    Ok(StatusCode::NO_CONTENT)
}
