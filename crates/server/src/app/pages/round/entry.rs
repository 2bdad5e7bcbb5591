//! An entry of a round as it is shown.

use crate::app::typed::conditions::TypedTemperature;
use rainshadow_core::round::{ReadingKind, RoundEntry};
use serde::Serialize;
use utoipa::ToSchema;

/// An entry that stands or stood at a cell.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct EntryView {
    /// Its id.
    pub id: String,
    /// What it says: "1.265", "below the scale", "not read".
    pub says: String,
    /// Temperature taken at this cell, as typed.
    pub temperature: Option<TypedTemperature>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// True when it stands.
    pub standing: bool,
}

/// A stored reading as it is shown.
pub(super) fn entry_view(row: &RoundEntry) -> EntryView {
    use ReadingKind as K;
    let says = match row.kind {
        K::Gravity => row.gravity.map(|g| g.to_string()).unwrap_or_default(),
        K::BelowScale => "below the scale".into(),
        K::AboveScale => "above the scale".into(),
        K::NotRead => row.reason.clone().map_or_else(|| "not read".into(), |r| format!("not read: {r}")),
        K::Withdrawn => "taken back".into(),
    };
    EntryView {
        id: row.id.clone(),
        says,
        temperature: row
            .temperature_typed
            .as_ref()
            .map(|(typed, unit)| TypedTemperature { typed: typed.clone(), unit: *unit }),
        person: row.by.initials.clone(),
        device: row.by.device.clone(),
        standing: row.standing,
    }
}
