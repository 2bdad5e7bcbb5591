//! A whole visit in the file of a bank.

use crate::db::{NewVisit, PhotoOf, PhotoRow, WholeVisit};
use crate::photos::PhotoFiles;
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::visit::{Entry, Place, VisitEntry};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One entry of a visit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct EntryFile {
    /// Id.
    pub id: String,
    /// Where: empty, A, A3 or A3-2.
    pub place: Place,
    /// What.
    pub entry: Entry,
    /// As typed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub as_typed: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When.
    #[schema(value_type = String)]
    pub taken_at: Timestamp,
}

/// One photograph; its bytes stand once in the file, by their hash.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct PhotoFile {
    /// Id.
    pub id: String,
    /// What it shows.
    pub what: PhotoOf,
    /// The check it belongs to.
    #[serde(default)]
    pub subject: String,
    /// Where.
    pub place: Place,
    /// Hash of its bytes.
    pub hash: String,
    /// Hash of its small copy.
    pub small_hash: String,
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
    /// In words.
    #[serde(default)]
    pub note: String,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When.
    #[schema(value_type = String)]
    pub taken_at: Timestamp,
}

/// One whole visit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct VisitFile {
    /// Id.
    pub id: String,
    /// When it began.
    #[schema(value_type = String)]
    pub started_at: Timestamp,
    /// When it was closed.
    #[schema(value_type = Option<String>)]
    pub ended_at: Option<Timestamp>,
    /// By whom.
    pub closed_by: Option<String>,
    /// Zone of the site.
    pub zone: String,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// The request that opened it.
    pub sent: String,
    /// Entries in the order received.
    pub entries: Vec<EntryFile>,
    /// Photographs.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub photographs: Vec<PhotoFile>,
}

impl From<WholeVisit> for VisitFile {
    fn from(w: WholeVisit) -> Self {
        let entries = w.entries.into_iter().map(|e| EntryFile {
            id: e.id,
            place: e.place,
            entry: e.entry,
            as_typed: e.typed,
            person: e.by.initials,
            device: e.by.device,
            taken_at: e.taken_at,
        });
        let photographs = w.photos.into_iter().map(|p| PhotoFile {
            id: p.id,
            what: p.what,
            subject: p.subject,
            place: p.place,
            hash: p.files.hash,
            small_hash: p.files.small_hash,
            width: p.files.width,
            height: p.files.height,
            note: p.note,
            person: p.by.initials,
            device: p.by.device,
            taken_at: p.taken_at,
        });
        Self {
            entries: entries.collect(),
            photographs: photographs.collect(),
            id: w.visit.id,
            started_at: w.visit.started_at,
            ended_at: w.visit.ended_at,
            closed_by: w.closed_by,
            zone: w.visit.zone,
            person: w.visit.by.initials,
            device: w.visit.by.device,
            sent: w.visit.sent,
        }
    }
}

impl VisitFile {
    pub(super) fn of_bank(self, bank: &str) -> WholeVisit {
        let visit = self.id.clone();
        let entries = self.entries.into_iter().map(|e| VisitEntry {
            id: e.id,
            place: e.place,
            entry: e.entry,
            typed: e.as_typed,
            by: Actor::named(&e.person, &e.device),
            taken_at: e.taken_at,
        });
        let photos = self.photographs.into_iter().map(|p| PhotoRow {
            id: p.id,
            visit: visit.clone(),
            what: p.what,
            subject: p.subject,
            place: p.place,
            files: PhotoFiles { hash: p.hash, small_hash: p.small_hash, width: p.width, height: p.height },
            note: p.note,
            by: Actor::named(&p.person, &p.device),
            taken_at: p.taken_at,
            removed_by: None,
        });
        WholeVisit {
            entries: entries.collect(),
            photos: photos.collect(),
            closed_by: self.closed_by,
            visit: NewVisit {
                id: self.id,
                bank: bank.to_owned(),
                started_at: self.started_at,
                ended_at: self.ended_at,
                zone: self.zone,
                by: Actor::named(&self.person, &self.device),
                sent: self.sent,
            },
        }
    }
}
