//! A round in the file of a bank.

use crate::db::{NewRound, Origin};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::{Conditions, ReadingKind, RoundEntry};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

type StoredRound = (NewRound, Option<String>, Vec<RoundEntry>);

/// One entry, every one that was ever made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReadingFile {
    /// Id.
    pub id: String,
    /// The cell.
    pub cell: CellAddress,
    /// Kind.
    pub kind: ReadingKind,
    /// Gravity as read.
    pub gravity: Option<SpecificGravity>,
    /// As typed.
    pub typed: Option<String>,
    /// Temperature at this cell, °C.
    pub temperature: Option<Temperature>,
    /// As typed.
    pub temperature_typed: Option<String>,
    /// Its unit as typed.
    pub temperature_unit: Option<TemperatureUnit>,
    /// Why not read.
    pub reason: Option<String>,
    /// True when the technician says it stands.
    pub stands: bool,
    /// What it takes the place of.
    pub supersedes: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When.
    #[schema(value_type = String)]
    pub taken_at: Timestamp,
}

/// One round.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RoundFile {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// The visit it was taken on; left out for a round taken by itself.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub visit: Option<String>,
    /// Where it comes from.
    pub origin: Origin,
    /// When it began.
    #[schema(value_type = String)]
    pub started_at: Timestamp,
    /// When it was finished.
    #[schema(value_type = Option<String>)]
    pub finished_at: Option<Timestamp>,
    /// By whom.
    pub finished_by: Option<String>,
    /// Zone of the site.
    pub zone: String,
    /// Instrument.
    pub instrument: Instrument,
    /// Conditions.
    pub conditions: Conditions,
    /// True when walked from its end.
    pub reversed: bool,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// The request that opened it, which tells one round from another of the same id.
    pub sent: String,
    /// The opening as typed last, with its units.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub as_typed: Option<String>,
    /// Entries in the order received.
    pub readings: Vec<ReadingFile>,
}

impl From<RoundEntry> for ReadingFile {
    fn from(r: RoundEntry) -> Self {
        let (temperature_typed, temperature_unit) = r.temperature_typed.unzip();
        Self {
            id: r.id,
            cell: r.cell,
            kind: r.kind,
            gravity: r.gravity,
            typed: r.typed,
            temperature: r.temperature,
            temperature_typed,
            temperature_unit,
            reason: r.reason,
            stands: r.stands,
            supersedes: r.supersedes,
            person: r.by.initials,
            device: r.by.device,
            taken_at: r.taken_at,
        }
    }
}

impl From<ReadingFile> for RoundEntry {
    fn from(r: ReadingFile) -> Self {
        Self {
            id: r.id,
            cell: r.cell,
            kind: r.kind,
            gravity: r.gravity,
            typed: r.typed,
            temperature: r.temperature,
            temperature_typed: r.temperature_typed.zip(r.temperature_unit),
            reason: r.reason,
            stands: r.stands,
            supersedes: r.supersedes,
            by: Actor::named(&r.person, &r.device),
            taken_at: r.taken_at,
            standing: true,
        }
    }
}

impl From<StoredRound> for RoundFile {
    fn from((r, finished_by, readings): StoredRound) -> Self {
        Self {
            id: r.id,
            bank: r.bank,
            visit: r.visit,
            origin: r.origin,
            started_at: r.started_at,
            finished_at: r.finished_at,
            finished_by,
            zone: r.zone,
            instrument: r.instrument,
            conditions: r.conditions,
            reversed: r.reversed,
            person: r.by.initials,
            device: r.by.device,
            sent: r.sent,
            as_typed: r.typed,
            readings: readings.into_iter().map(Into::into).collect(),
        }
    }
}

impl From<RoundFile> for StoredRound {
    fn from(r: RoundFile) -> Self {
        let round = NewRound {
            id: r.id,
            bank: r.bank,
            visit: r.visit,
            origin: r.origin,
            started_at: r.started_at,
            finished_at: r.finished_at,
            zone: r.zone,
            instrument: r.instrument,
            conditions: r.conditions,
            reversed: r.reversed,
            by: Actor::named(&r.person, &r.device),
            sent: r.sent,
            typed: r.as_typed,
        };
        (round, r.finished_by, r.readings.into_iter().map(Into::into).collect())
    }
}
