//! A bank with everything it has, for export, import and nothing else.

use super::error::to_json;
use super::{
    BankRow, DbError, ModelRow, NewBank, NewReading, NewRound, NewSite, RoundRow, Site, StoredReading,
    Written,
};
use jiff::Timestamp;
use rainshadow_core::bank::BatteryAddress;
use rusqlite::{Connection, Transaction};

/// A block and where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PlacedBlock {
    /// The place.
    pub battery: BatteryAddress,
    /// The block's id.
    pub block: String,
}

/// A bank with its site, model, blocks, rounds and readings.
#[derive(Debug, Clone, PartialEq)]
pub struct BankBundle {
    /// Site id and contents.
    pub site: (String, NewSite),
    /// The battery model.
    pub model: ModelRow,
    /// Bank id and contents.
    pub bank: (String, NewBank),
    /// Which block stands where.
    pub blocks: Vec<PlacedBlock>,
    /// Rounds, oldest first, each with its entries in order.
    pub rounds: Vec<(NewRound, Option<String>, Vec<NewReading>)>,
}

impl BankBundle {
    /// Everything of a bank.
    pub(crate) fn of(db: &Connection, id: &str) -> Result<Self, DbError> {
        let bank = BankRow::by_id(db, id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::all(db)?.into_iter().find(|m| m.id == bank.model_id);
        let model = super::error::found(model, "battery model", &bank.model_id)?;
        let blocks = BankRow::placements(db, id)?
            .into_iter()
            .map(|(battery, block)| PlacedBlock { battery, block })
            .collect();
        let mut rounds = Vec::new();
        for row in RoundRow::of_bank(db, id)?.into_iter().rev() {
            let readings = StoredReading::of_round(db, &row)?.into_iter().map(back).collect();
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
                    person: row.person,
                    device: row.device,
                    sent: row.sent,
                    typed: row.typed,
                },
                row.finished_by,
                readings,
            ));
        }
        Ok(Self {
            site: (
                site.id,
                NewSite {
                    name: site.name,
                    kind: site.kind,
                    zone: site.zone,
                    region: site.region,
                    wet_season: site.wet_season,
                    first_frost: site.first_frost,
                },
            ),
            model,
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
        })
    }

    /// Stores what is not there yet. The same bundle again changes nothing.
    pub(crate) fn take_in(&self, tx: &Transaction<'_>, now: Timestamp) -> Result<Written, DbError> {
        // What is here under the same id was perhaps put right since: it stays as it is.
        let (site_id, site) = &self.site;
        if !is_here(tx, "site", site_id)? {
            Site::create(tx, site_id, site, now)?;
        }
        let model = &self.model;
        if !is_here(tx, "battery_model", &model.id)? {
            ModelRow::create(tx, &model.id, &model.model, model.typed.as_deref(), now)?;
        }
        let (bank_id, bank) = &self.bank;
        let mut written = Written::AlreadyThere;
        if !is_here(tx, "bank", bank_id)? {
            written = BankRow::create(tx, bank_id, bank, now)?;
            tx.execute("DELETE FROM placement WHERE bank_id = ?", [bank_id])?;
            for placed in &self.blocks {
                BankRow::place(tx, bank_id, &model.id, placed.battery, &placed.block)?;
            }
        }
        for (round, finished_by, readings) in &self.rounds {
            if RoundRow::create(tx, round)? == Written::Created {
                written = Written::Created;
                tx.execute("UPDATE round SET finished_by = ? WHERE id = ?", (finished_by, &round.id))?;
            }
            let row = RoundRow::by_id(tx, &round.id)?;
            for reading in readings {
                if StoredReading::append(tx, &row, reading, now)? == Written::Created {
                    written = Written::Created;
                }
            }
        }
        super::assessments::derive_missing(tx, bank_id)?;
        Ok(written)
    }
}

fn is_here(tx: &Transaction<'_>, table: &'static str, id: &str) -> Result<bool, DbError> {
    Ok(super::sent_before(tx, table, id)?.is_some())
}

/// A stored entry as it would be appended elsewhere.
fn back(row: StoredReading) -> NewReading {
    use rainshadow_core::quantity::units::TemperatureUnit::{Celsius, Fahrenheit};
    let mut new = NewReading {
        id: row.id,
        cell: row.cell,
        kind: row.kind,
        gravity: row.gravity,
        typed: row.typed,
        temperature: row.temperature,
        temperature_typed: row
            .temperature_typed
            .map(|(text, unit)| (text, if unit == "F" { Fahrenheit } else { Celsius })),
        reason: row.reason,
        stands: row.stands,
        supersedes: row.supersedes,
        person: row.person,
        device: row.device,
        taken_at: row.taken_at,
        sent: String::new(),
    };
    new.sent = new.fingerprint();
    new
}

impl NewReading {
    /// The same text for the same entry, whichever road it came by.
    pub fn fingerprint(&self) -> String {
        let unit =
            self.temperature_typed.as_ref().map(|(text, unit)| (text, super::readings::unit_key(*unit)));
        to_json(
            "reading",
            &(
                (self.cell.to_string(), self.kind, self.gravity, &self.typed, self.temperature, unit),
                (
                    &self.reason,
                    self.stands,
                    &self.supersedes,
                    &self.person,
                    &self.device,
                    self.taken_at.to_string(),
                ),
            ),
        )
        .unwrap_or_default()
    }
}
