//! Banks: what they are made of, how they stand, which blocks stand in them.

use super::error::{found, from_json, month_day, to_json};
use super::{DbError, Written, house_rules};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BankShape, BatteryAddress, Layout};
use rainshadow_core::house_rules::Overrides;
use rainshadow_core::schedule::{MonthDay, Season};
use rainshadow_core::water::{MonthlyMeans, RecordLows};
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
    /// Who looks after it: initials; may be empty.
    #[serde(default)]
    pub keeper: String,
    /// First day of its season; none: in use all year.
    #[serde(default)]
    pub season_opens: Option<MonthDay>,
    /// Last day of its season.
    #[serde(default)]
    pub season_closes: Option<MonthDay>,
}

/// What a visitor must know before he stands there, in the words of the last one.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default)]
pub struct AccessNotes {
    /// How the cover comes off, and which way it faces.
    pub cover: String,
    /// Wrench sizes.
    pub wrenches: String,
    /// Cells that need a mirror or a filler jug.
    pub awkward: String,
    /// Where the switch is.
    pub switch: String,
    /// What the last visitor wished he had known.
    pub wished: String,
}

/// What of a bank can be put right later: what its cells are called and read by stays.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
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
    /// Region of the site.
    #[serde(default)]
    pub region: String,
    /// First day of the wet season at the site.
    #[serde(default)]
    pub wet_season: Option<MonthDay>,
    /// Usual day of the first hard frost at the site.
    #[serde(default)]
    pub first_frost: Option<MonthDay>,
    /// Twelve monthly mean temperatures of the site, January first, °C; none: unknown.
    #[serde(default)]
    pub climate: Option<MonthlyMeans>,
    /// Lowest air on record at the site in each month, January first, °C; none: unknown.
    #[serde(default)]
    pub lows: Option<RecordLows>,
    /// Degrees of the site from the equator, south negative; none: unknown.
    #[serde(default)]
    pub latitude: Option<f64>,
    /// True where the site lies south of the equator.
    #[serde(default)]
    pub southern: bool,
    /// Who looks after it.
    #[serde(default)]
    pub keeper: String,
    /// First day of its season.
    #[serde(default)]
    pub season_opens: Option<MonthDay>,
    /// Last day of its season.
    #[serde(default)]
    pub season_closes: Option<MonthDay>,
}

/// A stored bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
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
    /// Who looks after it.
    pub keeper: String,
    /// First day of its season.
    pub season_opens: Option<MonthDay>,
    /// Last day of its season.
    pub season_closes: Option<MonthDay>,
    /// Single choices of the house rules that it takes otherwise.
    pub overrides: Overrides,
    /// What a visitor must know.
    pub access: AccessNotes,
    /// Who wrote that last.
    pub access_by: String,
    /// What it is made of and how it stands now.
    pub shape: BankShape,
}

/// First day of an unknown past: placements and layouts begin here unless something is known.
pub(super) const ALWAYS: &str = "0000-01-01";

pub(super) const SELECT: &str = "SELECT b.id, b.site_id, b.name, b.duty, b.model_id, b.in_service, b.rules_key, \
    b.rules_version, b.archived_at, \
    (SELECT shape FROM layout l WHERE l.bank_id = b.id ORDER BY from_day DESC LIMIT 1), \
    b.version + (SELECT s.version FROM site s WHERE s.id = b.site_id), \
    b.keeper, b.season_opens, b.season_closes, b.overrides, b.access, b.access_by \
    FROM bank b";

/// A row with everything in it, or what of it cannot be read.
pub(super) fn whole(row: &Row<'_>) -> Result<BankRow, DbError> {
    let shape: BankShape = from_json("bank layout", &row.get::<_, String>(9)?)?;
    Ok(BankRow {
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
        keeper: row.get(11)?,
        season_opens: month_day(row.get(12)?)?,
        season_closes: month_day(row.get(13)?)?,
        overrides: from_json("overrides", &row.get::<_, String>(14)?)?,
        access: from_json("access notes", &row.get::<_, String>(15)?)?,
        access_by: row.get(16)?,
        shape: shape.checked().map_err(|e| DbError::BadRow { what: "bank layout", why: e.to_string() })?,
    })
}

/// The place of a stored placement.
pub(super) fn place_of(text: &str) -> Result<BatteryAddress, DbError> {
    text.parse().map_err(|e: rainshadow_core::bank::AddressError| DbError::BadRow {
        what: "placement",
        why: e.to_string(),
    })
}

impl BankRow {
    /// The earliest day it can have gone into service; none: nobody said.
    pub fn in_service_from(&self) -> Option<Date> {
        let text = self.in_service.as_deref()?;
        text.parse()
            .ok()
            .or_else(|| format!("{text}-01").parse().ok())
            .or_else(|| format!("{text}-01-01").parse().ok())
    }

    /// How old it is on a day, months; none: nobody said when it went into service.
    pub fn months_in_service(&self, day: Date) -> Option<f64> {
        let from = self.in_service_from()?;
        let days = from.until(day).ok()?.get_days();
        Some(f64::from(days.max(0)) / 30.44)
    }

    /// When it is in use; none: all year.
    pub fn season(&self) -> Option<Season> {
        self.season_opens.zip(self.season_closes).map(|(opens, closes)| Season { opens, closes })
    }

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
            "INSERT INTO bank (id, site_id, name, duty, model_id, in_service, rules_key, rules_version, keeper, \
             season_opens, season_closes, sent, created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                id,
                &new.site,
                &new.name,
                &new.duty,
                &new.model,
                &new.in_service,
                &new.rules,
                version,
                &new.keeper,
                new.season_opens.map(|d| d.to_string()),
                new.season_closes.map(|d| d.to_string()),
                &sent,
                now.to_string(),
            ),
        )?;
        tx.execute(
            "INSERT INTO layout (bank_id, from_day, shape) VALUES (?, ?, ?)",
            (id, ALWAYS, to_json("bank layout", &new.shape)?),
        )?;
        super::event(tx, now, &Actor::default(), "bank described", id)?;
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
        let row = db
            .prepare_cached(&format!("{SELECT} WHERE b.id = ?"))?
            .query_row([id], |row| Ok(whole(row)))
            .optional()?;
        found(row, "bank", id)?
    }

    /// The day the bank was described here.
    pub(crate) fn known_since(db: &Connection, bank: &str) -> Result<Date, DbError> {
        Ok(crate::words::local_day(Self::described_at(db, bank)?, "UTC"))
    }

    /// When the bank was described here.
    pub(crate) fn described_at(db: &Connection, bank: &str) -> Result<Timestamp, DbError> {
        let at: String = db
            .prepare_cached("SELECT created_at FROM bank WHERE id = ?")?
            .query_row([bank], |row| row.get(0))?;
        super::error::instant(&at)
    }

    /// Puts the description right, unless somebody else did so since the version was seen.
    pub(crate) fn edit(
        tx: &Transaction<'_>,
        id: &str,
        version: i64,
        edit: &BankEdit,
        today: Date,
        now: Timestamp,
    ) -> Result<(), DbError> {
        let bank = Self::as_seen(tx, id, version)?;
        tx.execute(
            "UPDATE bank SET name = ?, duty = ?, in_service = ?, keeper = ?, season_opens = ?, season_closes = ?, \
             version = version + 1 WHERE id = ?",
            (
                &edit.name,
                &edit.duty,
                &edit.in_service,
                &edit.keeper,
                edit.season_opens.map(|d| d.to_string()),
                edit.season_closes.map(|d| d.to_string()),
                id,
            ),
        )?;
        let site = super::SiteEdit {
            name: edit.site_name.clone(),
            kind: edit.site_kind.clone(),
            zone: edit.zone.clone(),
            region: edit.region.clone(),
            wet_season: edit.wet_season,
            first_frost: edit.first_frost,
            climate: edit.climate,
            lows: edit.lows,
            latitude: edit.latitude,
            southern: edit.southern,
        };
        super::Site::edit(tx, &bank.site_id, &site)?;
        if edit.layout != bank.shape.layout {
            let shape = BankShape { layout: edit.layout.clone(), ..bank.shape };
            tx.execute(
                "INSERT INTO layout (bank_id, from_day, shape) VALUES (?1, ?2, ?3) \
                 ON CONFLICT (bank_id, from_day) DO UPDATE SET shape = ?3",
                (id, today.to_string(), to_json("bank layout", &shape)?),
            )?;
        }
        super::event(tx, now, &Actor::default(), "bank description edited", id)
    }

    /// Deletes a bank of which nothing is written down.
    pub(crate) fn delete(tx: &Transaction<'_>, id: &str, now: Timestamp, by: &Actor) -> Result<(), DbError> {
        if Self::by_id(tx, id)?.archived_at.is_some() {
            return Err(DbError::Archived);
        }
        let of = Self::written_down(tx, id)?;
        if !of.is_empty() {
            return Err(DbError::WrittenDown { of });
        }
        super::event(tx, now, by, "bank deleted, nothing written down of it", id)?;
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
}
