//! A bank, or one round of it, as one JSON file.

mod checked;
mod pictures;
mod round;
mod visit;

use crate::db::{
    BankBundle, BankNotes, ChangeRow, EquipmentRecord, FormerModel, ModelRow, MonitorRecord, NewBank,
    NewSite, PlacedBlock, PlanRecord, RunRecord,
};
pub use checked::{Fault, faults_of_bank, faults_of_round};
use jiff::Timestamp;
use jiff::civil::Date;
pub use pictures::{Pictures, Staged};
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::bank_state::BankState;
use rainshadow_core::battery_model::BatteryModel;
pub use round::RoundFile;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
pub use visit::VisitFile;

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

impl From<ModelRow> for ModelFile {
    fn from(row: ModelRow) -> Self {
        Self { id: row.id, shipped: row.shipped, figures: row.model, as_typed: row.typed }
    }
}

impl From<ModelFile> for ModelRow {
    fn from(file: ModelFile) -> Self {
        let (model, typed) = (file.figures, file.as_typed);
        Self { id: file.id, shipped: file.shipped, model, typed, version: 1, banks: 0 }
    }
}

/// A model that the bank had before.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FormerModelFile {
    /// First day of the one that followed; none: it never was right.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    pub until: Option<Date>,
    /// The model.
    pub model: ModelFile,
    /// Initials of who did.
    #[serde(default)]
    pub person: String,
    /// When it was exchanged.
    #[schema(value_type = String)]
    pub at: Timestamp,
}

impl From<FormerModel> for FormerModelFile {
    fn from(own: FormerModel) -> Self {
        let (until, at, by) = (own.until, own.at, own.by);
        Self { until, model: own.model.into(), person: by.initials, at }
    }
}

impl From<FormerModelFile> for FormerModel {
    fn from(own: FormerModelFile) -> Self {
        let by = Actor::named(&own.person, "");
        Self { until: own.until, model: own.model.into(), by, at: own.at }
    }
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
    /// When it was described, from which its first due dates are counted; left out: when it is taken in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<String>)]
    pub described_at: Option<Timestamp>,
    /// Which block stands where.
    pub blocks: Vec<BlockFile>,
    /// What it was said to be made of before, in the order of the exchanges.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub former_models: Vec<FormerModelFile>,
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
    #[serde(default, skip_serializing)]
    pub pictures: Pictures,
    /// Rounds, oldest first.
    pub rounds: Vec<RoundFile>,
    /// What charges it and hangs on it, every version.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub equipment: Vec<EquipmentRecord>,
    /// Runs of an equalize, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub runs: Vec<RunRecord>,
    /// Files of monitors that were read into its record, the first read first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub records: Vec<MonitorRecord>,
    /// Plans that were kept, the first kept first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub plans: Vec<PlanRecord>,
    /// Its condition, what was found and what is due, as worked out when the file was written; read by
    /// nobody, for it is worked out anew where the file is taken in.
    #[serde(default, skip_deserializing, skip_serializing_if = "Option::is_none")]
    pub state: Option<BankState>,
}

impl From<BankBundle> for BankFile {
    fn from(b: BankBundle) -> Self {
        let ((site_id, site), model, (bank_id, bank)) = (b.site, b.model, b.bank);
        Self {
            site: WithId { id: site_id, body: site },
            model: model.into(),
            former_models: b.former_models.into_iter().map(Into::into).collect(),
            bank: WithId { id: bank_id, body: bank },
            described_at: b.described_at,
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
            pictures: Pictures::default(),
            rounds: b.rounds.into_iter().map(Into::into).collect(),
            equipment: b.equipment,
            runs: b.runs,
            records: b.records,
            plans: b.plans,
            state: None,
        }
    }
}

impl From<BankFile> for BankBundle {
    fn from(f: BankFile) -> Self {
        let bank = f.bank.id.clone();
        Self {
            described_at: f.described_at,
            notes: f.notes,
            changes: f.changes,
            visits: f.visits.into_iter().map(|v| v.of_bank(&bank)).collect(),
            site: (f.site.id, f.site.body),
            model: f.model.into(),
            former_models: f.former_models.into_iter().map(Into::into).collect(),
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
            records: f.records,
            plans: f.plans,
        }
    }
}
