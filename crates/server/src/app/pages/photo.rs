//! A photograph of a visit, as it is shown.

use crate::db::{PhotoOf, PhotoRow};
use serde::Serialize;
use utoipa::ToSchema;

/// A photograph as it is shown.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PhotoView {
    /// Id.
    pub id: String,
    /// What it shows.
    pub what: PhotoOf,
    /// The check it belongs to; empty: none.
    pub subject: String,
    /// Where.
    pub place: String,
    /// Where, in words.
    pub place_said: String,
    /// In words.
    pub note: String,
    /// Who, and on which day.
    pub by: String,
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
}

impl PhotoView {
    /// A photograph of a visit in a zone.
    pub fn of(row: &PhotoRow, zone: &str) -> Self {
        let day = crate::words::day(crate::words::local_day(row.taken_at, zone));
        Self {
            id: row.id.clone(),
            what: row.what,
            subject: row.subject.clone(),
            place: row.place.to_string(),
            place_said: row.place.said(),
            note: row.note.clone(),
            by: format!("{}, {day}", row.by.initials),
            width: row.files.width,
            height: row.files.height,
        }
    }
}
