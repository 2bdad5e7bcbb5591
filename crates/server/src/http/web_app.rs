//! The built web application, shipped inside the program.

use axum::body::Body;
use axum::http::{HeaderValue, StatusCode, Uri, header};
use axum::response::{Html, IntoResponse, Response};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct Built;

const NOT_BUILT: &str = "<!doctype html><title>Rainshadow</title><p>The web application is not built. \
    Run <code>cargo xtask demo</code>, or <code>npm ci &amp;&amp; npm run build</code> in <code>web/</code>.";

/// A built file by the beginning of its name, whatever its hash; fonts for what is printed.
pub fn built_asset(name: &str) -> Option<Vec<u8>> {
    let path = Built::iter().find(|p| p.starts_with(&format!("assets/{name}")) && p.ends_with(".woff2"))?;
    Built::get(&path).map(|file| file.data.into_owned())
}

/// A file of the application; the index for its routes; a true 404 for anything else.
pub async fn serve(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        let said = format!("There is no {} here; /api/docs lists what there is.", uri.path());
        return super::error::ApiError::new(StatusCode::NOT_FOUND, "not-found", "Not found", said)
            .into_response();
    }
    if let Some(file) = Built::get(path).filter(|_| path != "index.html") {
        let kind = mime_guess::from_path(path).first_or_octet_stream();
        let forever =
            if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
        let mut response = Body::from(file.data).into_response();
        let headers = response.headers_mut();
        if let Ok(kind) = HeaderValue::from_str(kind.as_ref()) {
            headers.insert(header::CONTENT_TYPE, kind);
        }
        headers.insert(header::CACHE_CONTROL, HeaderValue::from_static(forever));
        return response;
    }
    let last = path.rsplit('/').next().unwrap_or_default();
    if last.contains('.') && last != "index.html" {
        return StatusCode::NOT_FOUND.into_response();
    }
    match Built::get("index.html") {
        Some(index) => ([(header::CACHE_CONTROL, "no-cache")], Html(index.data.into_owned())).into_response(),
        None => (StatusCode::SERVICE_UNAVAILABLE, Html(NOT_BUILT)).into_response(),
    }
}
