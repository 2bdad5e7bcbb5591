//! The OpenAPI document and its browsable page, both served from here.

use super::state::AppState;
use axum::Router;
use serde_json::{Map, Value, json};
use utoipa::openapi::{InfoBuilder, OpenApi, OpenApiBuilder};
use utoipa_swagger_ui::{Config, SwaggerUi};

/// The document without its resources.
pub fn frame() -> OpenApi {
    let about = "Readings, banks and verdicts of deep-cycle battery banks. Errors are RFC 9457 problem details. \
        Every write is idempotent: PUT with an id made by the client; the same body again answers 200, another \
        body 409. What several people change needs If-Match with the version that was seen. Temperatures are °C, \
        gravities plain numbers, differences in points of 0.001.";
    let info = InfoBuilder::new()
        .title("Rainshadow")
        .version(env!("CARGO_PKG_VERSION"))
        .description(Some(about))
        .build();
    OpenApiBuilder::new().info(info).build()
}

/// The whole document.
pub fn document() -> Value {
    completed(&super::resources().split_for_parts().1)
}

/// `/api/openapi.json` and the page at `/api/docs`.
pub fn pages(document: &OpenApi) -> Router<AppState> {
    SwaggerUi::new("/api/docs")
        .external_url_unchecked("/api/openapi.json", completed(document))
        .config(Config::new(["/api/openapi.json"]).validator_url("none"))
        .into()
}

/// What every answer of a status says.
fn described(status: &str) -> &'static str {
    match status {
        "200" => "What was asked for, or the same was there before.",
        "201" => "Made now.",
        "204" => "Done.",
        "400" => "The request is broken, or a part of its address cannot be read.",
        "403" => "Whoever asks is not let in, or not to this.",
        "404" => "There is no such thing.",
        "408" => "The request took too long to arrive.",
        "409" => "It contradicts what is stored; it says how and what to do.",
        "411" => "The length of the body is missing.",
        "412" => "Somebody else changed it since; the state that stands is in it.",
        "413" => "Too large; it says how much is taken.",
        "415" => "No kind of body that is read here.",
        "422" => "Fields that are not accepted, each with what is.",
        "428" => "The version that was seen is missing.",
        "429" => "Too many attempts.",
        "500" => "Something failed here; it is in the log.",
        "503" => "Busy or not ready; try again in a moment.",
        "507" => "The disk takes nothing; nothing was stored.",
        _ => "What was wrong, which field, and what is accepted.",
    }
}

/// Statuses by which an operation can fail.
fn failures(path: &str, method: &str, operation: &Value) -> Vec<&'static str> {
    let parameters = operation["parameters"].as_array().map_or(&[][..], Vec::as_slice);
    let has = |place: &str| parameters.iter().any(|p| p["in"] == place);
    let mut all = vec!["400", "403", "408", "500", "503"];
    if has("path")
        || path == "/api/import"
        || path.starts_with("/api/plans")
        || !operation["requestBody"].is_null()
    {
        all.extend(["404", "422"]);
    }
    if !operation["requestBody"].is_null() {
        all.extend(["411", "413"]);
    }
    if method != "get" {
        all.extend(["409", "422", "507"]);
    }
    if parameters.iter().any(|p| p["name"] == "If-Match") {
        all.extend(["412", "428"]);
    }
    if path == "/api/pair" {
        all.push("429");
    }
    all
}

/// Adds what is the same everywhere: descriptions, ways to fail, who is let in, the shape of ids.
fn completed(document: &OpenApi) -> Value {
    let mut value = serde_json::to_value(document).unwrap_or_default();
    let problem = json!({"$ref": "#/components/responses/Problem"});
    let mut none = Map::new();
    let paths = value["paths"].as_object_mut().unwrap_or(&mut none);
    for (path, operations) in paths {
        for (method, operation) in operations.as_object_mut().into_iter().flatten() {
            let failing = failures(path, method, operation);
            if let Some(responses) = operation["responses"].as_object_mut() {
                for (status, response) in responses.iter_mut() {
                    response["description"] = described(status).into();
                }
                responses.insert("default".into(), problem.clone());
                for status in failing {
                    responses.entry(status).or_insert_with(|| problem.clone());
                }
            }
            // Who acts is named beside the device that was paired, where one was.
            if operation["security"][0]["person"].is_array() {
                operation["security"] = json!([
                    {"person": [], "acting_device": []},
                    {"person": [], "acting_device": [], "device": []},
                ]);
            }
            for parameter in operation["parameters"].as_array_mut().into_iter().flatten() {
                let named = !matches!(parameter["name"].as_str(), Some("key" | "cell"));
                if parameter["in"] == "path" && named {
                    parameter["schema"]["format"] = "uuid".into();
                }
            }
        }
    }
    value["components"]["responses"]["Problem"] = json!({
        "description": described("default"),
        "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
    });
    value["components"]["securitySchemes"] = json!({
        "device": {
            "type": "apiKey", "in": "cookie", "name": "rainshadow_device_7480",
            "description": "Given to a paired device; named by the port of the server. The desk needs none.",
        },
        "person": {
            "type": "apiKey", "in": "header", "name": "Rainshadow-Person",
            "description": "Id of the person who acts, known by PUT /api/people/{id}; readers are answered in this person's units.",
        },
        "acting_device": {
            "type": "apiKey", "in": "header", "name": "Rainshadow-Device",
            "description": "The device on which it is done, as it calls itself, percent-encoded; 1 to 40 characters.",
        },
        "calendar": {
            "type": "apiKey", "in": "query", "name": "token",
            "description": "Of the calendar feed of one person.",
        },
    });
    value["security"] = json!([{}, {"device": []}]);
    if let Some(calendar) = value["paths"]["/api/calendar.ics"]["get"].as_object_mut() {
        calendar.insert("security".into(), json!([{}, {"device": []}, {"calendar": []}]));
    }
    // The same text whatever the packages beside this one ask of the JSON library.
    value.sort_all_objects();
    value
}
