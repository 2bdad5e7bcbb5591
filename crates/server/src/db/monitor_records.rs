//! Files of monitors as they travel with their bank.

use super::error::{from_json, to_json};
use super::{DbError, Written};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use rainshadow_core::charging_record::OtherWay;
use rusqlite::{Connection, Transaction};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A file of a monitor with its rows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MonitorRecord {
    /// Id.
    pub id: String,
    /// How its source writes, JSON.
    pub source: String,
    /// The words over its columns.
    pub header: String,
    /// Name of the file.
    pub file: String,
    /// First and last minute since 1970.
    pub span: [i64; 2],
    /// True where it tells what goes into the bank and comes out of it.
    pub net: bool,
    /// What was read, JSON.
    pub told: String,
    /// Stretches in which the current runs the other way.
    #[serde(default)]
    pub other_way: Vec<OtherWay>,
    /// When it was read.
    pub made_at: String,
    /// By whom.
    pub person: String,
    /// On which device.
    pub device: String,
    /// The request as sent.
    pub sent: String,
    /// When it was taken out; none: it counts.
    #[serde(default)]
    pub withdrawn_at: Option<String>,
    /// Rows of a minute by days since 1970, packed, base64: minute of the day (u16), volts, amperes, °C (f32 each, not a
    /// number: not told), state (u8), low byte first.
    #[serde(default)]
    pub packed_days: BTreeMap<i64, String>,
}

/// Every file of a monitor of a bank, those that were taken out too.
pub(super) fn monitor_records(db: &Connection, bank: &str) -> Result<Vec<MonitorRecord>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT id, source, header, file, first_minute, last_minute, net, told, other_way, made_at, person, device, sent, \
         withdrawn_at FROM record_import WHERE bank_id = ? AND finished_at IS NOT NULL ORDER BY made_at, rowid",
    )?;
    let mut days =
        db.prepare_cached("SELECT day, minutes FROM record_day WHERE import_id = ? ORDER BY day")?;
    let rows = query.query_map([bank], |row| {
        let own = MonitorRecord {
            id: row.get(0)?,
            source: row.get(1)?,
            header: row.get(2)?,
            file: row.get(3)?,
            span: [row.get(4)?, row.get(5)?],
            net: row.get(6)?,
            told: row.get(7)?,
            other_way: Vec::new(),
            made_at: row.get(9)?,
            person: row.get(10)?,
            device: row.get(11)?,
            sent: row.get(12)?,
            withdrawn_at: row.get(13)?,
            packed_days: BTreeMap::new(),
        };
        Ok((own, row.get::<_, String>(8)?))
    })?;
    let mut all = Vec::new();
    for row in rows {
        let (own, other_way) = row?;
        let packed = days.query_map([&own.id], |row| {
            let bytes: Vec<u8> = row.get(1)?;
            Ok((row.get(0)?, STANDARD.encode(bytes)))
        })?;
        let packed_days = packed.collect::<Result<_, _>>()?;
        all.push(MonitorRecord { other_way: from_json("record", &other_way)?, packed_days, ..own });
    }
    Ok(all)
}

impl MonitorRecord {
    /// Bytes of a day.
    ///
    /// # Errors
    /// What is no base64.
    pub fn unpacked(text: &str) -> Result<Vec<u8>, base64::DecodeError> {
        STANDARD.decode(text)
    }

    /// Stores it where it is not there yet.
    pub(super) fn take_in(&self, tx: &Transaction<'_>, bank: &str) -> Result<Written, DbError> {
        if super::is_here(tx, "record_import", &self.id)? {
            return Ok(Written::AlreadyThere);
        }
        tx.execute(
            "INSERT INTO record_import (id, bank_id, source, header, file, first_minute, last_minute, net, told, other_way, \
             made_at, person, device, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                &self.id,
                bank,
                &self.source,
                &self.header,
                &self.file,
                self.span[0],
                self.span[1],
                self.net,
                &self.told,
                to_json("record", &self.other_way)?,
                &self.made_at,
                &self.person,
                &self.device,
                &self.sent
            ],
        )?;
        let mut put = tx.prepare_cached("INSERT INTO record_day VALUES (?, ?, ?)")?;
        for (day, text) in &self.packed_days {
            let bytes =
                Self::unpacked(text).map_err(|e| DbError::BadRow { what: "record", why: e.to_string() })?;
            put.execute((&self.id, day, bytes))?;
        }
        tx.execute(
            "UPDATE record_import SET finished_at = made_at, withdrawn_at = ? WHERE id = ?",
            (&self.withdrawn_at, &self.id),
        )?;
        Ok(Written::Created)
    }
}
