//! Who acts: the person and the device that a request names in its headers.

use super::error::ApiError;
use super::lengths::fits;
use super::state::AppState;
use crate::app::people::known_person;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use percent_encoding::percent_decode_str;
use rainshadow_core::actor::Actor;
use rainshadow_core::quantity::units::ReaderUnits;

/// Names the person by id: who acts, and whose units are spoken.
pub const PERSON: &str = "rainshadow-person";
/// Names the device as it calls itself, percent-encoded.
pub const DEVICE: &str = "rainshadow-device";

fn header<'a>(parts: &'a Parts, name: &str) -> Option<&'a str> {
    parts.headers.get(name).and_then(|value| value.to_str().ok()).filter(|value| !value.is_empty())
}

/// The device that asks, as it calls itself; empty where it does not say.
pub struct Device(pub String);

impl<S: Send + Sync> FromRequestParts<S> for Device {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, _state: &S) -> Result<Self, ApiError> {
        let name = percent_decode_str(header(parts, DEVICE).unwrap_or_default()).decode_utf8_lossy();
        let name = name.trim().to_owned();
        fits("device", &name).map_err(|fault| ApiError::fields(vec![fault]))?;
        Ok(Self(name))
    }
}

/// Who acts: a person whom the folder knows, on a device that says what it is called.
pub struct Acting(pub Actor);

impl FromRequestParts<AppState> for Acting {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let Device(device) = Device::from_request_parts(parts, state).await?;
        if device.is_empty() {
            let said = "Say on which device this is done: send its name in the header Rainshadow-Device.";
            return Err(ApiError::field(DEVICE, said));
        }
        let known = match header(parts, PERSON) {
            Some(id) => known_person(state, id).await?,
            None => None,
        };
        let Some(person) = known else {
            let said = "Say who does this: send the id of a person in the header Rainshadow-Person; a person gets \
                        known by PUT /api/people/{id}.";
            return Err(ApiError::field(PERSON, said));
        };
        Ok(Self(Actor { id: Some(person.id), initials: person.initials, device }))
    }
}

/// The units of the person who reads; metric for nobody in particular.
pub struct Reader(pub ReaderUnits);

impl FromRequestParts<AppState> for Reader {
    type Rejection = ApiError;
    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let Some(id) = header(parts, PERSON) else { return Ok(Self(ReaderUnits::default())) };
        let person = known_person(state, id).await?;
        Ok(Self(person.map(|p| p.units).unwrap_or_default()))
    }
}
