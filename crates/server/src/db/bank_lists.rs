//! Banks in lists: as far as lists are chosen and counted by them, or with all that a line shows.

use super::banks::{SELECT, whole};
use super::error::found;
use super::{BankRow, DbError};
use rusqlite::Connection;
use std::collections::HashMap;

/// A bank in the list.
#[derive(Debug, Clone, PartialEq)]
pub struct BankListRow {
    /// The bank.
    pub bank: BankRow,
    /// Its site's name.
    pub site_name: String,
    /// Its site's kind.
    pub site_kind: String,
    /// Finished rounds.
    pub rounds: u32,
    /// The last finished round: its id.
    pub last_round: Option<String>,
    /// An open round, if there is one.
    pub open_round: Option<String>,
    /// Its site's region.
    pub site_region: String,
    /// An open visit, if there is one.
    pub open_visit: Option<String>,
}

/// A bank as far as lists are chosen and counted by it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BankBrief {
    /// Site and name.
    pub title: String,
    /// Who looks after it.
    pub keeper: String,
    /// Its site's region.
    pub region: String,
    /// What it does.
    pub duty: String,
    /// Battery model.
    pub model: String,
    /// Its cells.
    pub cells: u32,
}

struct BankListFields {
    site_name: String,
    site_kind: String,
    rounds: u32,
    last_round: Option<String>,
    open_round: Option<String>,
    site_region: String,
    open_visit: Option<String>,
}

impl BankListFields {
    fn of(self, bank: BankRow) -> BankListRow {
        BankListRow {
            bank,
            site_name: self.site_name,
            site_kind: self.site_kind,
            rounds: self.rounds,
            last_round: self.last_round,
            open_round: self.open_round,
            site_region: self.site_region,
            open_visit: self.open_visit,
        }
    }
}

/// Site and name of a bank `b` of a site `s` as one text.
pub(super) const TITLE: &str = "s.name || CASE b.name WHEN '' THEN '' ELSE ', ' || b.name END";

impl BankRow {
    /// True when there is any bank, archived ones too.
    pub(crate) fn any(db: &Connection) -> Result<bool, DbError> {
        Ok(db.prepare_cached("SELECT 1 FROM bank LIMIT 1")?.exists([])?)
    }

    /// Every bank that is not archived, as far as lists are chosen and counted by it, by id.
    pub(crate) fn brief(db: &Connection) -> Result<HashMap<String, BankBrief>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT b.id, s.name, b.name, b.keeper, s.region, b.duty, b.model_id, \
             (SELECT json_extract(shape, '$.cells_per_battery') * json_extract(shape, '$.series') \
              * json_extract(shape, '$.parallel') FROM layout l WHERE l.bank_id = b.id ORDER BY from_day DESC LIMIT 1) \
             FROM bank b JOIN site s ON s.id = b.site_id WHERE b.archived_at IS NULL",
        )?;
        let rows = query.query_map([], |row| {
            let (site, name): (String, String) = (row.get(1)?, row.get(2)?);
            let brief = BankBrief {
                title: crate::words::place(&site, &name),
                keeper: row.get(3)?,
                region: row.get(4)?,
                duty: row.get(5)?,
                model: row.get(6)?,
                cells: row.get(7)?,
            };
            Ok((row.get(0)?, brief))
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Every bank, archived ones too.
    pub(crate) fn ids(db: &Connection) -> Result<Vec<String>, DbError> {
        let mut query = db.prepare_cached("SELECT id FROM bank")?;
        let rows = query.query_map([], |row| row.get(0))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Site and name of every bank, by id.
    pub(crate) fn titles(db: &Connection) -> Result<HashMap<String, String>, DbError> {
        let sql = format!("SELECT b.id, {TITLE} FROM bank b JOIN site s ON s.id = b.site_id");
        let mut query = db.prepare_cached(&sql)?;
        let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Every bank with what the list shows; one whose own row cannot be read is left out.
    pub(crate) fn list(db: &Connection) -> Result<Vec<BankListRow>, DbError> {
        let rows = Self::listed(db, None)?.into_iter().filter_map(|row| {
            row.inspect_err(|error| tracing::error!(%error, "a bank cannot be listed")).ok()
        });
        Ok(rows.collect())
    }

    /// One bank with what the list shows.
    pub(crate) fn list_row(db: &Connection, id: &str) -> Result<BankListRow, DbError> {
        found(Self::listed(db, Some(id))?.pop(), "bank", id)?
    }

    fn listed(db: &Connection, only: Option<&str>) -> Result<Vec<Result<BankListRow, DbError>>, DbError> {
        let one = if only.is_some() { "WHERE b.id = ?" } else { "" };
        let sql = format!(
            "SELECT q.*, s.name, s.kind, \
             (SELECT count(*) FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NOT NULL), \
             (SELECT r.id FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NOT NULL ORDER BY r.started_at DESC LIMIT 1), \
             (SELECT r.id FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NULL ORDER BY r.started_at DESC LIMIT 1), \
             s.region, (SELECT v.id FROM visit v WHERE v.bank_id = q.id AND v.whole = 1 AND v.ended_at IS NULL) \
             FROM ({SELECT} {one}) q JOIN site s ON s.id = q.site_id ORDER BY s.name, q.name"
        );
        db.prepare_cached(&sql)?
            .query_map(rusqlite::params_from_iter(only), |row| {
                let list = BankListFields {
                    site_name: row.get(17)?,
                    site_kind: row.get(18)?,
                    rounds: row.get(19)?,
                    last_round: row.get(20)?,
                    open_round: row.get(21)?,
                    site_region: row.get(22)?,
                    open_visit: row.get(23)?,
                };
                Ok((whole(row), list))
            })?
            .map(|row| {
                let (bank, list) = row?;
                Ok(bank.map(|bank| list.of(bank)))
            })
            .collect()
    }
}
