//! What charges a bank and what hangs on it; every version is kept.

use super::error::{from_json, instant, to_json};
use super::{BankRow, DbError};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::equipment::Equipment;
use rainshadow_core::wiring::Wiring;
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, SocketAddr};

/// True for an address on this machine or its own network: nothing else is ever asked.
pub fn on_own_network(address: &SocketAddr) -> bool {
    let own = match address.ip() {
        IpAddr::V4(ip) => ip.is_loopback() || ip.is_private() || ip.is_link_local(),
        IpAddr::V6(ip) => ip.is_loopback() || ip.is_unique_local(),
    };
    own && address.port() != 0
}

/// Where a charger answers.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct FeedAddress {
    /// Address and port on this machine or its own network.
    #[schema(value_type = String)]
    pub address: SocketAddr,
    /// Modbus unit, 1 to 247.
    pub unit: u8,
}

/// The equipment of a bank with where its charger answers.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Fitted {
    /// The equipment.
    pub equipment: Equipment,
    /// Where the charger answers; none: no feed.
    #[serde(default)]
    pub feed: Option<FeedAddress>,
    /// True where the sources were set anew at the bank; false where something was told, or put right here.
    #[serde(default)]
    pub set_anew: bool,
}

/// The equipment as it stands.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct EquipmentRow {
    /// Counts versions, for If-Match; 0: nothing was told yet.
    pub version: i64,
    /// What it is.
    pub fitted: Fitted,
    /// As typed, JSON; empty: nothing was told yet.
    pub typed: String,
    /// Who, on which device.
    pub by: Actor,
}

impl EquipmentRow {
    /// The latest of a bank.
    pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Self, DbError> {
        let row: Option<(i64, String, String, Actor)> = db
            .prepare_cached(
                "SELECT version, body, typed, person_id, person, '' FROM equipment WHERE bank_id = ? \
                 ORDER BY version DESC LIMIT 1",
            )?
            .query_row([bank], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?, super::log::actor(row, 3)?)))
            .optional()?;
        let Some((version, body, typed, by)) = row else { return Ok(Self::default()) };
        Ok(Self { version, fitted: from_json("equipment", &body)?, typed, by })
    }

    /// Every version of a bank with the moment it was told, oldest first.
    pub(crate) fn versions(db: &Connection, bank: &str) -> Result<Vec<(Timestamp, Fitted)>, DbError> {
        let mut query =
            db.prepare_cached("SELECT at, body FROM equipment WHERE bank_id = ? ORDER BY version")?;
        let mut all = Vec::new();
        for row in query.query_map([bank], |row| Ok((row.get(0)?, row.get(1)?)))? {
            let (at, body): (String, String) = row?;
            all.push((instant(&at)?, from_json("equipment", &body)?));
        }
        Ok(all)
    }

    /// Appends a version to the one the person saw; false when another came between.
    pub(crate) fn append(
        tx: &Transaction<'_>,
        bank: &str,
        seen: i64,
        (fitted, typed, by): (&Fitted, &str, &Actor),
        now: Timestamp,
    ) -> Result<bool, DbError> {
        BankRow::by_id(tx, bank)?;
        let stands = Self::of_bank(tx, bank)?;
        // The same again, by somebody whose answer was lost.
        if stands.typed == typed && stands.version == seen + 1 {
            return Ok(true);
        }
        if stands.version != seen {
            return Ok(false);
        }
        tx.execute(
            "INSERT INTO equipment (bank_id, version, body, typed, person_id, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
            (bank, seen + 1, to_json("equipment", fitted)?, typed, &by.id, &by.initials, now.to_string()),
        )?;
        Ok(true)
    }

    /// How a bank was wired, as it was told from time to time, oldest first.
    pub(crate) fn wirings(db: &Connection, bank: &str) -> Result<Vec<(Timestamp, Wiring)>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT at, json_extract(body, '$.equipment.wiring') FROM equipment \
             WHERE bank_id = ? AND json_extract(body, '$.equipment.wiring') IS NOT NULL ORDER BY version",
        )?;
        let mut all = Vec::new();
        for row in query.query_map([bank], |row| Ok((row.get(0)?, row.get(1)?)))? {
            let (at, body): (String, String) = row?;
            let wiring: Wiring = from_json("equipment", &body)?;
            if wiring.is_told() {
                all.push((instant(&at)?, wiring));
            }
        }
        Ok(all)
    }

    /// Every bank in use whose charger answers somewhere.
    pub(crate) fn feeds(db: &Connection) -> Result<Vec<(String, FeedAddress)>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT e.bank_id, e.body FROM equipment e JOIN bank b ON b.id = e.bank_id \
             WHERE b.archived_at IS NULL \
             AND e.version = (SELECT max(version) FROM equipment l WHERE l.bank_id = e.bank_id)",
        )?;
        let mut all = Vec::new();
        for row in query.query_map([], |row| Ok((row.get(0)?, row.get::<_, String>(1)?)))? {
            let (bank, body): (String, String) = row?;
            let fitted: Fitted = from_json("equipment", &body)?;
            // A file from elsewhere may name an address of anywhere.
            let feed = fitted.feed.filter(|feed| on_own_network(&feed.address));
            all.extend(feed.map(|feed| (bank, feed)));
        }
        Ok(all)
    }
}
