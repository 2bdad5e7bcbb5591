//! A bank, or one round of it, as one JSON file.

use crate::db::{
    BankBundle, BankNotes, ChangeRow, EquipmentRecord, ModelRow, NewBank, NewEntry, NewReading, NewRound,
    NewSite, NewVisit, Origin, PhotoOf, PhotoRow, PlacedBlock, ReadingKind, RunRecord, WholeVisit,
};
use crate::photos::Kept;
use jiff::Timestamp;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::Conditions;
use rainshadow_core::visit::{Entry, Place};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A thing with its id.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct WithId<T> {
    /// Id.
    pub id: String,
    /// The thing.
    #[serde(flatten)]
    pub body: T,
}

/// A battery model with its id.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ModelFile {
    /// Id.
    pub id: String,
    /// True for a generic model that ships.
    pub shipped: bool,
    /// Its figures.
    pub figures: BatteryModel,
    /// The figures as typed, with their units.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub as_typed: Option<String>,
}

/// Where a block stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BlockFile {
    /// Place.
    pub battery: BatteryAddress,
    /// Block.
    pub block: String,
    /// First day there; left out: from the beginning.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub from: Option<String>,
    /// The day it left; left out: still there.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<String>,
    /// Serial number.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub serial: Option<String>,
    /// Date code.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub date_code: Option<String>,
}

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
    /// What its report was printed from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub report: Option<String>,
    /// Entries in the order received.
    pub entries: Vec<EntryFile>,
    /// Photographs.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub photographs: Vec<PhotoFile>,
}

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

/// A file.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "format")]
pub enum File {
    /// A bank with everything it has.
    #[serde(rename = "rainshadow-bank/1")]
    Bank(Box<BankFile>),
    /// One round of a bank that is there already.
    #[serde(rename = "rainshadow-round/1")]
    Round(Box<RoundFile>),
}

/// A bank with everything it has.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BankFile {
    /// Its site.
    pub site: WithId<NewSite>,
    /// Its battery model.
    pub model: ModelFile,
    /// The bank.
    pub bank: WithId<NewBank>,
    /// Which block stands where.
    pub blocks: Vec<BlockFile>,
    /// Access notes and own choices.
    #[serde(default)]
    pub notes: BankNotes,
    /// Batteries replaced or moved.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub changes: Vec<ChangeRow>,
    /// Whole visits, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub visits: Vec<VisitFile>,
    /// Photographs as base64 of their JPEG, by their hash.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub pictures: BTreeMap<String, String>,
    /// Rounds, oldest first.
    pub rounds: Vec<RoundFile>,
    /// What charges it and hangs on it, every version.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub equipment: Vec<EquipmentRecord>,
    /// Runs of an equalize, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub runs: Vec<RunRecord>,
}

impl From<WholeVisit> for VisitFile {
    fn from(w: WholeVisit) -> Self {
        let entries = w.entries.into_iter().map(|e| EntryFile {
            id: e.id,
            place: e.place,
            entry: e.entry,
            as_typed: e.typed,
            person: e.person,
            device: e.device,
            taken_at: e.taken_at,
        });
        let photographs = w.photos.into_iter().map(|p| PhotoFile {
            id: p.id,
            what: p.what,
            subject: p.subject,
            place: p.place,
            hash: p.kept.hash,
            small_hash: p.kept.small_hash,
            width: p.kept.width,
            height: p.kept.height,
            note: p.note,
            person: p.person,
            device: p.device,
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
            person: w.visit.person,
            device: w.visit.device,
            sent: w.visit.sent,
            report: w.report,
        }
    }
}

impl VisitFile {
    fn of_bank(self, bank: &str) -> WholeVisit {
        let visit = self.id.clone();
        let entries = self.entries.into_iter().map(|e| NewEntry {
            id: e.id,
            place: e.place,
            entry: e.entry,
            typed: e.as_typed,
            person: e.person,
            device: e.device,
            taken_at: e.taken_at,
        });
        let photos = self.photographs.into_iter().map(|p| PhotoRow {
            id: p.id,
            visit: visit.clone(),
            what: p.what,
            subject: p.subject,
            place: p.place,
            kept: Kept { hash: p.hash, small_hash: p.small_hash, width: p.width, height: p.height },
            note: p.note,
            person: p.person,
            device: p.device,
            taken_at: p.taken_at,
            removed_by: None,
        });
        WholeVisit {
            entries: entries.collect(),
            photos: photos.collect(),
            closed_by: self.closed_by,
            report: self.report,
            visit: NewVisit {
                id: self.id,
                bank: bank.to_owned(),
                started_at: self.started_at,
                ended_at: self.ended_at,
                zone: self.zone,
                person: self.person,
                device: self.device,
                sent: self.sent,
            },
        }
    }
}

impl From<NewReading> for ReadingFile {
    fn from(r: NewReading) -> Self {
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
            person: r.person,
            device: r.device,
            taken_at: r.taken_at,
        }
    }
}

impl From<ReadingFile> for NewReading {
    fn from(r: ReadingFile) -> Self {
        let mut new = Self {
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
            person: r.person,
            device: r.device,
            taken_at: r.taken_at,
            sent: String::new(),
        };
        new.sent = new.fingerprint();
        new
    }
}

type StoredRound = (NewRound, Option<String>, Vec<NewReading>);

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
            person: r.person,
            device: r.device,
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
            person: r.person,
            device: r.device,
            sent: r.sent,
            typed: r.as_typed,
        };
        (round, r.finished_by, r.readings.into_iter().map(Into::into).collect())
    }
}

impl From<BankBundle> for BankFile {
    fn from(b: BankBundle) -> Self {
        let ((site_id, site), model, (bank_id, bank)) = (b.site, b.model, b.bank);
        Self {
            site: WithId { id: site_id, body: site },
            model: ModelFile {
                id: model.id,
                shipped: model.shipped,
                figures: model.model,
                as_typed: model.typed,
            },
            bank: WithId { id: bank_id, body: bank },
            blocks: b
                .blocks
                .into_iter()
                .map(|p| BlockFile {
                    battery: p.battery,
                    block: p.block,
                    from: p.from,
                    to: p.to,
                    serial: p.serial,
                    date_code: p.date_code,
                })
                .collect(),
            notes: b.notes,
            changes: b.changes,
            visits: b.visits.into_iter().map(Into::into).collect(),
            pictures: BTreeMap::new(),
            rounds: b.rounds.into_iter().map(Into::into).collect(),
            equipment: b.equipment,
            runs: b.runs,
        }
    }
}

impl From<BankFile> for BankBundle {
    fn from(f: BankFile) -> Self {
        let bank = f.bank.id.clone();
        Self {
            notes: f.notes,
            changes: f.changes,
            visits: f.visits.into_iter().map(|v| v.of_bank(&bank)).collect(),
            site: (f.site.id, f.site.body),
            model: ModelRow {
                id: f.model.id,
                shipped: f.model.shipped,
                model: f.model.figures,
                typed: f.model.as_typed,
            },
            bank: (f.bank.id, f.bank.body),
            blocks: f
                .blocks
                .into_iter()
                .map(|b| PlacedBlock {
                    battery: b.battery,
                    block: b.block,
                    from: b.from,
                    to: b.to,
                    serial: b.serial,
                    date_code: b.date_code,
                })
                .collect(),
            rounds: f.rounds.into_iter().map(Into::into).collect(),
            equipment: f.equipment,
            runs: f.runs,
        }
    }
}
