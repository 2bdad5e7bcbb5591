//! The OpenAPI document and its browsable page, both served from here.

use super::state::AppState;
use axum::Router;
use utoipa::openapi::{InfoBuilder, OpenApi, OpenApiBuilder};
use utoipa_swagger_ui::{Config, SwaggerUi};

/// The document without its resources.
pub fn frame() -> OpenApi {
    let about = "Readings, banks and verdicts of deep-cycle battery banks. Errors are RFC 9457 problem details. \
        Every write is idempotent: PUT with an id made by the client; the same body again answers 200, another \
        body 409. Temperatures are °C, gravities plain numbers, differences in points of 0.001.";
    let info = InfoBuilder::new()
        .title("Rainshadow")
        .version(env!("CARGO_PKG_VERSION"))
        .description(Some(about))
        .build();
    OpenApiBuilder::new().info(info).build()
}

/// The whole document.
pub fn document() -> OpenApi {
    super::resources().split_for_parts().1
}

/// `/api/openapi.json` and the page at `/api/docs`.
pub fn pages(document: OpenApi) -> Router<AppState> {
    SwaggerUi::new("/api/docs")
        .url("/api/openapi.json", document)
        .config(Config::new(["/api/openapi.json"]).validator_url("none"))
        .into()
}
