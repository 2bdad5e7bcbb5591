//! Banks: what they are made of, how they stand, which blocks stand in them.

use super::error::{found, from_json, to_json};
use super::{DbError, Written, house_rules};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, BatteryAddress, Layout};
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A bank as its describer sends it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewBank {
    /// Its site.
    pub site: String,
    /// Name within the site; may be empty where the site has one bank.
    #[serde(default)]
    pub name: String,
    /// What it does: "off-grid solar", "standby".
    #[serde(default)]
    pub duty: String,
    /// Its battery model.
    pub model: String,
    /// What it is made of and how it stands.
    pub shape: BankShape,
    /// Day or year it went into service; none: unknown.
    #[serde(default)]
    pub in_service: Option<String>,
    /// House rule set.
    pub rules: String,
}

/// What of a bank can be put right later: what its cells are called and read by stays.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct BankEdit {
    /// Name of its site.
    pub site_name: String,
    /// What the site is.
    #[serde(default)]
    pub site_kind: String,
    /// IANA time zone of the site, for rounds from now on.
    pub zone: String,
    /// Name within the site.
    #[serde(default)]
    pub name: String,
    /// What it does.
    #[serde(default)]
    pub duty: String,
    /// Day or year it went into service; none: unknown.
    #[serde(default)]
    pub in_service: Option<String>,
    /// How it stands from today on.
    pub layout: Layout,
}

/// A stored bank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct BankRow {
    /// Id.
    pub id: String,
    /// Its site.
    pub site_id: String,
    /// Name within the site.
    pub name: String,
    /// What it does.
    pub duty: String,
    /// Battery model.
    pub model_id: String,
    /// Day or year it went into service.
    pub in_service: Option<String>,
    /// House rule set.
    pub rules_key: String,
    /// Version of that set.
    pub rules_version: i64,
    /// When it was archived, if it was.
    pub archived_at: Option<String>,
    /// Counts edits of the bank and of its site, for If-Match: a site is edited through any of its banks.
    pub version: i64,
    /// What it is made of and how it stands now.
    pub shape: BankShape,
}

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
}

/// First day of an unknown past: placements and layouts begin here unless something is known.
const ALWAYS: &str = "0000-01-01";

const SELECT: &str = "SELECT b.id, b.site_id, b.name, b.duty, b.model_id, b.in_service, b.rules_key, \
    b.rules_version, b.archived_at, \
    (SELECT shape FROM layout l WHERE l.bank_id = b.id ORDER BY from_day DESC LIMIT 1), \
    b.version + (SELECT s.version FROM site s WHERE s.id = b.site_id) \
    FROM bank b";

fn raw(row: &Row<'_>) -> rusqlite::Result<(BankRow, String)> {
    let shape: String = row.get(9)?;
    let bank = BankRow {
        id: row.get(0)?,
        site_id: row.get(1)?,
        name: row.get(2)?,
        duty: row.get(3)?,
        model_id: row.get(4)?,
        in_service: row.get(5)?,
        rules_key: row.get(6)?,
        rules_version: row.get(7)?,
        archived_at: row.get(8)?,
        version: row.get(10)?,
        shape: BankShape {
            system_voltage: 2,
            cells_per_battery: 1,
            series: 1,
            parallel: 1,
            layout: Layout::default(),
        },
    };
    Ok((bank, shape))
}

fn built((mut bank, shape): (BankRow, String)) -> Result<BankRow, DbError> {
    let shape: BankShape = from_json("bank layout", &shape)?;
    bank.shape = shape.checked().map_err(|e| DbError::BadRow { what: "bank layout", why: e.to_string() })?;
    Ok(bank)
}

impl BankRow {
    /// Stores a new bank with a block in every place.
    pub(crate) fn create(
        tx: &Transaction<'_>,
        id: &str,
        new: &NewBank,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        let sent = to_json("bank", new)?;
        if let Some(before) = super::sent_before(tx, "bank", id)? {
            return super::same_or_conflict("bank", id, &before, &sent);
        }
        super::Site::by_id(tx, &new.site)?;
        super::ModelRow::by_id(tx, &new.model)?;
        let version = house_rules::latest_version(tx, &new.rules)?;
        tx.execute(
            "INSERT INTO bank (id, site_id, name, duty, model_id, in_service, rules_key, rules_version, sent, created_at) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                id,
                &new.site,
                &new.name,
                &new.duty,
                &new.model,
                &new.in_service,
                &new.rules,
                version,
                &sent,
                now.to_string(),
            ),
        )?;
        tx.execute(
            "INSERT INTO layout (bank_id, from_day, shape) VALUES (?, ?, ?)",
            (id, ALWAYS, to_json("bank layout", &new.shape)?),
        )?;
        super::log(tx, now, "", "bank described", id)?;
        for battery in new.shape.batteries() {
            Self::place(tx, id, &new.model, battery, &Uuid::now_v7().to_string())?;
        }
        Ok(Written::Created)
    }

    /// Puts a block into a place, from always on.
    pub(super) fn place(
        tx: &Transaction<'_>,
        bank: &str,
        model: &str,
        battery: BatteryAddress,
        block: &str,
    ) -> Result<(), DbError> {
        tx.prepare_cached("INSERT INTO block (id, model_id) VALUES (?, ?)")?.execute((block, model))?;
        tx.prepare_cached(
            "INSERT INTO placement (block_id, bank_id, battery, from_day) VALUES (?, ?, ?, ?)",
        )?
        .execute((block, bank, battery.to_string(), ALWAYS))?;
        Ok(())
    }

    /// One bank.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db.prepare_cached(&format!("{SELECT} WHERE b.id = ?"))?.query_row([id], raw).optional()?;
        built(found(row, "bank", id)?)
    }

    /// Which block stands in which place now.
    pub(crate) fn placements(db: &Connection, bank: &str) -> Result<Vec<(BatteryAddress, String)>, DbError> {
        db.prepare_cached("SELECT battery, block_id FROM placement WHERE bank_id = ? AND to_day IS NULL")?
            .query_map([bank], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?)))?
            .map(|row| {
                let (battery, block) = row?;
                let battery = battery.parse().map_err(|e: rainshadow_core::bank::AddressError| {
                    DbError::BadRow { what: "placement", why: e.to_string() }
                })?;
                Ok((battery, block))
            })
            .collect()
    }

    /// Every bank with what the list shows.
    pub(crate) fn list(db: &Connection) -> Result<Vec<BankListRow>, DbError> {
        let sql = format!(
            "SELECT q.*, s.name, s.kind, \
             (SELECT count(*) FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NOT NULL), \
             (SELECT r.id FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NOT NULL ORDER BY r.started_at DESC LIMIT 1), \
             (SELECT r.id FROM round r WHERE r.bank_id = q.id AND r.finished_at IS NULL ORDER BY r.started_at DESC LIMIT 1) \
             FROM ({SELECT}) q JOIN site s ON s.id = q.site_id ORDER BY s.name, q.name"
        );
        db.prepare_cached(&sql)?
            .query_map([], |row| {
                Ok((raw(row)?, row.get(11)?, row.get(12)?, row.get(13)?, row.get(14)?, row.get(15)?))
            })?
            .map(|row| {
                let (bank, site_name, site_kind, rounds, last_round, open_round) = row?;
                Ok(BankListRow { bank: built(bank)?, site_name, site_kind, rounds, last_round, open_round })
            })
            .collect()
    }

    /// Puts the description right; false when somebody else did so since the version was seen.
    pub(crate) fn edit(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        edit: &BankEdit,
        today: Date,
        now: Timestamp,
    ) -> Result<bool, DbError> {
        let bank = Self::by_id(tx, id)?;
        if bank.version != version {
            return Ok(false);
        }
        tx.execute(
            "UPDATE bank SET name = ?, duty = ?, in_service = ?, version = version + 1 WHERE id = ?",
            (&edit.name, &edit.duty, &edit.in_service, id),
        )?;
        super::Site::edit(tx, &bank.site_id, &edit.site_name, &edit.site_kind, &edit.zone)?;
        if edit.layout != bank.shape.layout {
            let shape = BankShape { layout: edit.layout.clone(), ..bank.shape };
            tx.execute(
                "INSERT INTO layout (bank_id, from_day, shape) VALUES (?1, ?2, ?3) \
                 ON CONFLICT (bank_id, from_day) DO UPDATE SET shape = ?3",
                (id, today.to_string(), to_json("bank layout", &shape)?),
            )?;
        }
        super::log(tx, now, "", "bank description edited", id)?;
        Ok(true)
    }

    /// Deletes a bank that was never read.
    pub(crate) fn delete(tx: &Transaction<'_>, id: &str, now: Timestamp) -> Result<(), DbError> {
        Self::by_id(tx, id)?;
        super::log(tx, now, "", "bank without readings deleted", id)?;
        let rounds: u32 = tx.query_row(
            "SELECT count(*) FROM round WHERE bank_id = ?1 AND EXISTS (SELECT 1 FROM reading WHERE round_id = round.id)",
            [id],
            |row| row.get(0),
        )?;
        if rounds > 0 {
            return Err(DbError::HasReadings { rounds });
        }
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [id])?;
        tx.execute("DELETE FROM round WHERE bank_id = ?", [id])?;
        let mut blocks = tx.prepare("SELECT block_id FROM placement WHERE bank_id = ?")?;
        let blocks: Vec<String> = blocks.query_map([id], |row| row.get(0))?.collect::<Result<_, _>>()?;
        tx.execute("DELETE FROM bank WHERE id = ?", [id])?;
        for block in blocks {
            tx.execute("DELETE FROM block WHERE id = ?", [block])?;
        }
        Ok(())
    }

    /// Archives a bank, or restores it.
    pub(crate) fn set_archived(
        tx: &Transaction<'_>,
        id: &str,
        at: Option<Timestamp>,
        now: Timestamp,
    ) -> Result<(), DbError> {
        super::log(tx, now, "", if at.is_some() { "bank archived" } else { "bank restored" }, id)?;
        let changed =
            tx.execute("UPDATE bank SET archived_at = ? WHERE id = ?", (at.map(|t| t.to_string()), id))?;
        found((changed > 0).then_some(()), "bank", id)
    }

    /// Gives a bank another house rule set; every verdict of it is derived anew.
    pub(crate) fn set_rules(tx: &Transaction<'_>, id: &str, rules: &str) -> Result<(), DbError> {
        let version = house_rules::latest_version(tx, rules)?;
        let changed = tx
            .execute("UPDATE bank SET rules_key = ?, rules_version = ? WHERE id = ?", (rules, version, id))?;
        found((changed > 0).then_some(()), "bank", id)?;
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [id])?;
        Ok(())
    }
}
