//! A bank with everything it has, for export, import and nothing else.

use super::banks::ALWAYS;
use super::monitor_records::{MonitorRecord, monitor_records};
use super::plans::{PlanRecord, plan_records};
use super::run_records::{EquipmentRecord, RunRecord, equipment_records, run_records};
use super::{
    AccessNotes, BankRow, DbError, FormerModel, ModelRow, NewBank, NewRound, NewSite, NewVisit, PhotoRow,
    RoundRow, Site, VisitRow, Written, readings, visit_entries,
};
use jiff::Timestamp;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::house_rules::Overrides;
use rainshadow_core::round::RoundEntry;
use rainshadow_core::visit::VisitEntry;
use rusqlite::{Connection, Transaction};
use serde::{Deserialize, Serialize};

/// A block and where it stands, or stood.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PlacedBlock {
    /// The place.
    pub battery: BatteryAddress,
    /// The block's id.
    pub block: String,
    /// First day there; none: from the beginning.
    pub from: Option<String>,
    /// The day it left; none: still there.
    pub to: Option<String>,
    /// Serial number.
    pub serial: Option<String>,
    /// Date code.
    pub date_code: Option<String>,
}

/// A visit with everything on it.
#[derive(Debug, Clone, PartialEq)]
pub struct WholeVisit {
    /// The visit.
    pub visit: NewVisit,
    /// Who closed it.
    pub closed_by: Option<String>,
    /// Entries in order.
    pub entries: Vec<VisitEntry>,
    /// Photographs.
    pub photos: Vec<PhotoRow>,
}

/// A change of batteries as a row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ChangeRow {
    /// Id.
    pub id: String,
    /// Day.
    pub day: String,
    /// Kind, place, other place, old block, new block, reason, person, when, undone by, as sent, what else is told.
    pub columns: Vec<Option<String>>,
}

/// What of a bank is told beside its description.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default)]
pub struct BankNotes {
    /// What a visitor must know.
    pub access: AccessNotes,
    /// Who wrote that.
    pub access_by: String,
    /// Single choices of the house rules taken otherwise.
    pub overrides: Overrides,
}

/// A bank with its site, model, blocks, rounds and readings.
#[derive(Debug, Clone, PartialEq)]
pub struct BankBundle {
    /// Site id and contents.
    pub site: (String, NewSite),
    /// The battery model.
    pub model: ModelRow,
    /// What it had before, in the order of the exchanges.
    pub former_models: Vec<FormerModel>,
    /// Bank id and contents.
    pub bank: (String, NewBank),
    /// When the bank was described, from which its first due dates are counted; none: when it is taken in.
    pub described_at: Option<Timestamp>,
    /// Access notes and own choices.
    pub notes: BankNotes,
    /// Which block stands, and stood, where.
    pub blocks: Vec<PlacedBlock>,
    /// Batteries replaced or moved.
    pub changes: Vec<ChangeRow>,
    /// Whole visits, oldest first.
    pub visits: Vec<WholeVisit>,
    /// Rounds, oldest first, each with its entries in order.
    pub rounds: Vec<(NewRound, Option<String>, Vec<RoundEntry>)>,
    /// Versions of its equipment.
    pub equipment: Vec<EquipmentRecord>,
    /// Runs of an equalize.
    pub runs: Vec<RunRecord>,
    /// Files of monitors.
    pub records: Vec<MonitorRecord>,
    /// Plans that were kept.
    pub plans: Vec<PlanRecord>,
}

impl BankBundle {
    /// Everything of a bank.
    pub(crate) fn of(db: &Connection, id: &str) -> Result<Self, DbError> {
        let bank = BankRow::by_id(db, id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::all(db)?.into_iter().find(|m| m.id == bank.model_id);
        let model = super::error::found(model, "battery model", &bank.model_id)?;
        let blocks = placed(db, id)?;
        let mut visits = Vec::new();
        for row in VisitRow::of_bank(db, id)?.into_iter().filter(|v| v.whole) {
            let entries = visit_entries::of_visit(db, &row)?;
            let photos = PhotoRow::of_visit(db, &row)?;
            visits.push(WholeVisit {
                entries,
                photos,
                closed_by: row.closed_by,
                visit: NewVisit {
                    id: row.id,
                    bank: row.bank_id,
                    started_at: row.started_at,
                    ended_at: row.ended_at,
                    zone: row.zone,
                    by: row.by,
                    sent: row.sent,
                },
            });
        }
        let mut rounds = Vec::new();
        for row in RoundRow::of_bank(db, id)?.into_iter().rev() {
            let readings = readings::of_round(db, &row)?;
            let visit = Some(row.visit_id).filter(|v| *v != row.id);
            rounds.push((
                NewRound {
                    id: row.id,
                    bank: row.bank_id,
                    visit,
                    origin: row.origin,
                    started_at: row.started_at,
                    finished_at: row.finished_at,
                    zone: row.zone,
                    instrument: row.instrument,
                    conditions: row.conditions,
                    reversed: row.reversed,
                    by: row.by,
                    sent: row.sent,
                    typed: row.typed,
                },
                row.finished_by,
                readings,
            ));
        }
        let notes = BankNotes {
            access: bank.access.clone(),
            access_by: bank.access_by.clone(),
            overrides: bank.overrides.clone(),
        };
        Ok(Self {
            described_at: Some(BankRow::described_at(db, id)?),
            notes,
            changes: change_rows(db, id)?,
            visits,
            site: (
                site.id,
                NewSite {
                    name: site.name,
                    kind: site.kind,
                    zone: site.zone,
                    region: site.region,
                    wet_season: site.wet_season,
                    first_frost: site.first_frost,
                    climate: site.climate,
                    lows: site.lows,
                    latitude: site.latitude,
                    southern: site.southern,
                },
            ),
            model,
            former_models: BankRow::former_models(db, id)?,
            bank: (
                bank.id,
                NewBank {
                    site: bank.site_id,
                    name: bank.name,
                    duty: bank.duty,
                    model: bank.model_id,
                    shape: bank.shape,
                    in_service: bank.in_service,
                    rules: bank.rules_key,
                    keeper: bank.keeper,
                    season_opens: bank.season_opens,
                    season_closes: bank.season_closes,
                },
            ),
            blocks,
            rounds,
            equipment: equipment_records(db, id)?,
            runs: run_records(db, id)?,
            records: monitor_records(db, id)?,
            plans: plan_records(db, id)?,
        })
    }

    /// Stores what is not there yet. The same bundle again changes nothing.
    pub(crate) fn take_in(&self, tx: &Transaction<'_>, now: Timestamp) -> Result<Written, DbError> {
        // What is here under the same id was perhaps put right since: it stays as it is.
        let (site_id, site) = &self.site;
        if !super::is_here(tx, "site", site_id)? {
            Site::create(tx, site_id, site, now)?;
        }
        let model = &self.model;
        if !super::is_here(tx, "battery_model", &model.id)? {
            ModelRow::create(tx, &model.id, &model.model, model.typed.as_deref(), now)?;
        }
        let (bank_id, bank) = &self.bank;
        let mut written = Written::AlreadyThere;
        if !super::is_here(tx, "bank", bank_id)? {
            written = BankRow::create(tx, bank_id, bank, self.described_at.unwrap_or(now))?;
            tx.execute("DELETE FROM placement WHERE bank_id = ?", [bank_id])?;
            for placed in &self.blocks {
                placed.put(tx, bank_id, &model.id)?;
            }
            BankRow::set_access(tx, bank_id, &self.notes.access, &self.notes.access_by)?;
            BankRow::set_overrides(tx, bank_id, &self.notes.overrides)?;
            for change in &self.changes {
                change.put(tx, bank_id)?;
            }
            for former in &self.former_models {
                let own = &former.model;
                if !super::is_here(tx, "battery_model", &own.id)? {
                    ModelRow::create(tx, &own.id, &own.model, own.typed.as_deref(), now)?;
                }
                BankRow::add_former(tx, bank_id, &own.id, former.until, (&former.by, former.at))?;
            }
        }
        for whole in &self.visits {
            if whole.take_in(tx, now)? == Written::Created {
                written = Written::Created;
            }
        }
        for (round, finished_by, readings) in &self.rounds {
            if RoundRow::create(tx, round)? == Written::Created {
                written = Written::Created;
                tx.execute("UPDATE round SET finished_by = ? WHERE id = ?", (finished_by, &round.id))?;
            }
            let row = RoundRow::by_id(tx, &round.id)?;
            for reading in readings {
                if readings::append_from_file(tx, &row, reading, now)? == Written::Created {
                    written = Written::Created;
                }
            }
        }
        for equipment in &self.equipment {
            if equipment.take_in(tx, bank_id)? == Written::Created {
                written = Written::Created;
            }
        }
        for run in &self.runs {
            if run.take_in(tx, bank_id)? == Written::Created {
                written = Written::Created;
                super::forget::forget_since(tx, bank_id, super::error::instant(&run.opened_at)?)?;
            }
        }
        for record in &self.records {
            if record.take_in(tx, bank_id)? == Written::Created {
                written = Written::Created;
            }
        }
        for plan in &self.plans {
            if plan.take_in(tx, bank_id)? == Written::Created {
                written = Written::Created;
            }
        }
        Ok(written)
    }
}

const CHANGE_COLUMNS: &str =
    "kind, battery, other, out_block, in_block, reason, person, at, undone_by, sent, more";

fn change_rows(db: &Connection, bank: &str) -> Result<Vec<ChangeRow>, DbError> {
    let sql = format!("SELECT id, day, {CHANGE_COLUMNS} FROM block_change WHERE bank_id = ? ORDER BY rowid");
    let mut query = db.prepare_cached(&sql)?;
    let rows = query.query_map([bank], |row| {
        let columns = (2..13).map(|i| row.get(i)).collect::<Result<_, _>>()?;
        Ok(ChangeRow { id: row.get(0)?, day: row.get(1)?, columns })
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

impl ChangeRow {
    fn put(&self, tx: &Transaction<'_>, bank: &str) -> Result<(), DbError> {
        let mut columns = self.columns.clone();
        columns.resize(11, None);
        // A file from before has none.
        columns[10].get_or_insert_with(|| "{}".to_owned());
        let sql = format!(
            "INSERT INTO block_change (id, bank_id, day, {CHANGE_COLUMNS}) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
        );
        let given = [Some(self.id.clone()), Some(bank.to_owned()), Some(self.day.clone())];
        tx.execute(&sql, rusqlite::params_from_iter(given.into_iter().chain(columns)))?;
        Ok(())
    }
}

fn placed(db: &Connection, bank: &str) -> Result<Vec<PlacedBlock>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT p.battery, p.block_id, p.from_day, p.to_day, b.serial, b.date_code FROM placement p \
         JOIN block b ON b.id = p.block_id WHERE p.bank_id = ? ORDER BY p.from_day, p.rowid",
    )?;
    let mut found = query.query([bank])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let battery: String = row.get(0)?;
        let from: String = row.get(2)?;
        all.push(PlacedBlock {
            battery: super::banks::place_of(&battery)?,
            block: row.get(1)?,
            from: Some(from).filter(|f| f != ALWAYS),
            to: row.get(3)?,
            serial: row.get(4)?,
            date_code: row.get(5)?,
        });
    }
    Ok(all)
}

impl PlacedBlock {
    fn put(&self, tx: &Transaction<'_>, bank: &str, model: &str) -> Result<(), DbError> {
        tx.execute(
            "INSERT INTO block (id, model_id, serial, date_code) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING",
            (&self.block, model, &self.serial, &self.date_code),
        )?;
        tx.execute(
            "INSERT INTO placement (block_id, bank_id, battery, from_day, to_day) VALUES (?, ?, ?, ?, ?)",
            (&self.block, bank, self.battery.to_string(), self.from.as_deref().unwrap_or(ALWAYS), &self.to),
        )?;
        Ok(())
    }
}

impl WholeVisit {
    /// Stores what is not there yet.
    pub(crate) fn take_in(&self, tx: &Transaction<'_>, now: Timestamp) -> Result<Written, DbError> {
        let mut written = Written::AlreadyThere;
        if !super::is_here(tx, "visit", &self.visit.id)? {
            written = VisitRow::create(tx, &self.visit)?;
            // Its report is made anew from the entries, whenever somebody asks for it.
            tx.execute("UPDATE visit SET closed_by = ? WHERE id = ?", (&self.closed_by, &self.visit.id))?;
        }
        let row = VisitRow::by_id(tx, &self.visit.id)?;
        for entry in &self.entries {
            if visit_entries::append_from_file(tx, &row, entry, now)? == Written::Created {
                written = Written::Created;
            }
        }
        for photo in &self.photos {
            if photo.store(tx, &row, true)? == Written::Created {
                written = Written::Created;
            }
        }
        Ok(written)
    }
}
