//! Records that were read from files: what each brought, and its rows of a minute.

use super::derived::from_kept;
use super::error::{found, from_json, instant, to_json};
use super::{BankRow, DbError, Written};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::charging_record::{ChargingRecordJudged, MinuteRow, OtherWay};
use rainshadow_core::feed::FeedStage;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use std::collections::BTreeMap;

/// Minutes of a day.
const DAY: i64 = 1440;
/// Bytes of a packed row.
const PACKED: usize = 15;

/// What a source says it does, by its number in a packed row.
const STAGES: [FeedStage; 7] = [
    FeedStage::Off,
    FeedStage::Empty,
    FeedStage::Discharging,
    FeedStage::Charging,
    FeedStage::Full,
    FeedStage::Holding,
    FeedStage::Testing,
];
const NO_STAGE: u8 = u8::MAX;

/// A file as it is about to be read.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRecord {
    /// Id.
    pub id: String,
    /// Its bank.
    pub bank: String,
    /// How its source writes, as JSON.
    pub source: String,
    /// The words over its columns.
    pub header: String,
    /// Name of the file.
    pub file: String,
    /// True where it tells what goes into the bank and comes out of it.
    pub net: bool,
    /// When.
    pub made_at: Timestamp,
    /// By whom.
    pub by: Actor,
}

/// A file that was read.
#[derive(Debug, Clone, PartialEq)]
pub struct RecordRow {
    /// What it was begun with.
    pub new: NewRecord,
    /// Its first and last minute since 1970; none: it is not read to its end.
    pub span: Option<(i64, i64)>,
    /// What was read, as JSON.
    pub told: String,
    /// Stretches in which the current runs the other way.
    pub other_way: Vec<OtherWay>,
    /// True where it was taken out.
    pub withdrawn: bool,
}

const SELECT: &str = "SELECT id, bank_id, source, header, file, net, made_at, person_id, person, device, first_minute, \
    last_minute, told, other_way, withdrawn_at IS NOT NULL FROM record_import";

type Raw = (RecordRow, [String; 2]);

fn raw(row: &Row<'_>) -> rusqlite::Result<Raw> {
    let new = NewRecord {
        id: row.get(0)?,
        bank: row.get(1)?,
        source: row.get(2)?,
        header: row.get(3)?,
        file: row.get(4)?,
        net: row.get(5)?,
        made_at: Timestamp::UNIX_EPOCH,
        by: super::log::actor(row, 7)?,
    };
    let span = row.get::<_, Option<i64>>(10)?.zip(row.get(11)?);
    let told = row.get::<_, Option<String>>(12)?.unwrap_or_default();
    let own = RecordRow { new, span, told, other_way: Vec::new(), withdrawn: row.get(14)? };
    Ok((own, [row.get(6)?, row.get(13)?]))
}

fn built((mut own, [at, other_way]): Raw) -> Result<RecordRow, DbError> {
    own.new.made_at = instant(&at)?;
    own.other_way = from_json("record", &other_way)?;
    Ok(own)
}

fn packed(rows: &[MinuteRow], day: i64) -> Vec<u8> {
    let mut bytes = Vec::with_capacity(rows.len() * PACKED);
    #[expect(clippy::cast_possible_truncation, reason = "seven figures are more than any meter has")]
    let number = |own: Option<f64>| own.map_or(f32::NAN, |own| own as f32).to_le_bytes();
    for row in rows {
        let minute = u16::try_from(row.minute - day * DAY).unwrap_or(0);
        bytes.extend(minute.to_le_bytes());
        bytes.extend(number(row.volts));
        bytes.extend(number(row.amperes));
        bytes.extend(number(row.celsius));
        let stage = row.state.and_then(|own| STAGES.iter().position(|stage| *stage == own));
        bytes.push(stage.and_then(|at| u8::try_from(at).ok()).unwrap_or(NO_STAGE));
    }
    bytes
}

/// Why bytes are no packed day; none: they are.
pub(super) fn not_packed(bytes: &[u8]) -> Option<&'static str> {
    if !bytes.len().is_multiple_of(PACKED) {
        return Some("it breaks off inside a row");
    }
    let odd = bytes.chunks_exact(PACKED).any(|own| {
        let minute = i64::from(u16::from_le_bytes([own[0], own[1]]));
        minute >= DAY || (own[14] != NO_STAGE && usize::from(own[14]) >= STAGES.len())
    });
    odd.then_some("a row is of no minute of a day, or of no state")
}

/// Rows of a packed day.
///
/// # Errors
/// Bytes that are none.
fn unpacked(bytes: &[u8], day: i64) -> Result<impl Iterator<Item = MinuteRow> + '_, DbError> {
    if let Some(why) = not_packed(bytes) {
        return Err(DbError::BadRow { what: "day of a record", why: why.into() });
    }
    Ok(bytes.chunks_exact(PACKED).map(move |own| {
        let number = |at: usize| {
            let value = f32::from_le_bytes([own[at], own[at + 1], own[at + 2], own[at + 3]]);
            value.is_finite().then(|| f64::from(value))
        };
        MinuteRow {
            minute: day * DAY + i64::from(u16::from_le_bytes([own[0], own[1]])),
            volts: number(2),
            amperes: number(6),
            celsius: number(10),
            state: STAGES.get(usize::from(own[14])).copied(),
        }
    }))
}

impl RecordRow {
    /// Begins one; what was left of it by a reading that broke off goes.
    pub(crate) fn begin(tx: &Transaction<'_>, own: &NewRecord) -> Result<Written, DbError> {
        let sent = to_json("record", &(&own.bank, &own.source, &own.file, own.by.said()))?;
        tx.execute("DELETE FROM record_import WHERE id = ? AND finished_at IS NULL", [&own.id])?;
        if let Some(before) = super::sent_before(tx, "record_import", &own.id)? {
            return super::same_or_conflict("record", &own.id, &before, &sent);
        }
        BankRow::by_id(tx, &own.bank)?;
        tx.execute(
            "INSERT INTO record_import (id, bank_id, source, header, file, net, made_at, person_id, person, device, sent) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            rusqlite::params![
                &own.id,
                &own.bank,
                &own.source,
                &own.header,
                &own.file,
                own.net,
                own.made_at.to_string(),
                &own.by.id,
                &own.by.initials,
                &own.by.device,
                &sent
            ],
        )?;
        Ok(Written::Created)
    }

    /// Keeps rows of one that is being read, the oldest first; a day that is there already grows by them.
    pub(crate) fn append(tx: &Transaction<'_>, id: &str, rows: &[MinuteRow]) -> Result<(), DbError> {
        let mut by_day: BTreeMap<i64, Vec<MinuteRow>> = BTreeMap::new();
        for row in rows {
            by_day.entry(row.minute.div_euclid(DAY)).or_default().push(*row);
        }
        let mut before =
            tx.prepare_cached("SELECT minutes FROM record_day WHERE import_id = ? AND day = ?")?;
        let mut keep = tx.prepare_cached("INSERT OR REPLACE INTO record_day VALUES (?, ?, ?)")?;
        for (day, mut rows) in by_day {
            let there: Option<Vec<u8>> = before.query_row((id, day), |row| row.get(0)).optional()?;
            if let Some(bytes) = there {
                rows.extend(unpacked(&bytes, day)?);
            }
            rows.sort_by_key(|row| row.minute);
            keep.execute((id, day, packed(&rows, day)))?;
        }
        Ok(())
    }

    /// Says that one was read to its end.
    pub(crate) fn finish(
        tx: &Transaction<'_>,
        id: &str,
        (span, told, other_way): ((i64, i64), &str, &[OtherWay]),
        now: Timestamp,
    ) -> Result<(), DbError> {
        let changed = tx.execute(
            "UPDATE record_import SET first_minute = ?, last_minute = ?, told = ?, other_way = ?, finished_at = ? WHERE id = ?",
            (span.0, span.1, told, to_json("record", &other_way)?, now.to_string(), id),
        )?;
        found((changed > 0).then_some(()), "record", id)
    }

    /// Throws one away that was not read to its end.
    pub(crate) fn abandon(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
        tx.execute("DELETE FROM record_import WHERE id = ? AND finished_at IS NULL", [id])?;
        Ok(())
    }

    /// Throws away what a server that went down never read to its end; how many.
    pub(crate) fn abandon_all(tx: &Transaction<'_>) -> Result<usize, DbError> {
        Ok(tx.execute("DELETE FROM record_import WHERE finished_at IS NULL", [])?)
    }

    /// Takes one out, or puts it back.
    pub(crate) fn withdraw(
        tx: &Transaction<'_>,
        id: &str,
        out: bool,
        (now, by): (Timestamp, &Actor),
    ) -> Result<(), DbError> {
        let was =
            "SELECT withdrawn_at IS NOT NULL FROM record_import WHERE id = ? AND finished_at IS NOT NULL";
        let was: Option<bool> = tx.query_row(was, [id], |row| row.get(0)).optional()?;
        // A second time is no fault, and not told again.
        if found(was, "record", id)? != out {
            let at = out.then(|| now.to_string());
            tx.execute("UPDATE record_import SET withdrawn_at = ? WHERE id = ?", (at, id))?;
            let what = if out { "file of a monitor taken out" } else { "file of a monitor put back" };
            super::event(tx, now, by, what, id)?;
        }
        Ok(())
    }

    /// One that was read to its end.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let mut query = db.prepare_cached(&format!("{SELECT} WHERE id = ? AND finished_at IS NOT NULL"))?;
        built(found(query.query_row([id], raw).optional()?, "record", id)?)
    }

    /// Those of a bank that were read to their end, the last first.
    pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(&format!(
            "{SELECT} WHERE bank_id = ? AND finished_at IS NOT NULL ORDER BY made_at DESC, rowid DESC"
        ))?;
        let rows = query.query_map([bank], raw)?;
        rows.map(|row| built(row?)).collect()
    }

    /// How the last file with these words over its columns was read, of whatever bank.
    pub(crate) fn source_of(db: &Connection, header: &str) -> Result<Option<String>, DbError> {
        Ok(db
            .prepare_cached(
                "SELECT source FROM record_import WHERE header = ? AND finished_at IS NOT NULL \
                 ORDER BY made_at DESC, rowid DESC LIMIT 1",
            )?
            .query_row([header], |row| row.get(0))
            .optional()?)
    }

    /// Its rows from one minute to before another, the oldest first, as they were read.
    pub(crate) fn rows(&self, db: &Connection, from: i64, to: i64) -> Result<Vec<MinuteRow>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT day, minutes FROM record_day WHERE import_id = ? AND day BETWEEN ? AND ? ORDER BY day",
        )?;
        let mut days = query.query((&self.new.id, from.div_euclid(DAY), (to - 1).div_euclid(DAY)))?;
        let mut all = Vec::new();
        while let Some(day) = days.next()? {
            let bytes = day
                .get_ref(1)?
                .as_blob()
                .map_err(|e| DbError::BadRow { what: "record", why: e.to_string() })?;
            let rows = unpacked(bytes, day.get(0)?)?;
            all.extend(rows.filter(|row| (from..to).contains(&row.minute)));
        }
        Ok(all)
    }
}

/// What the last year of a record tells; none: too little of it is on record.
pub(crate) struct KeptYear(pub Option<ChargingRecordJudged>);

/// The last year of a record as it is kept; none: it is told from something else.
pub(crate) fn judged(db: &Connection, bank: &str, judged_by: &str) -> Result<Option<KeptYear>, DbError> {
    let kept: Option<String> = db
        .prepare_cached("SELECT judged FROM record_judged WHERE bank_id = ? AND judged_by = ?")?
        .query_row((bank, judged_by), |row| row.get(0))
        .optional()?;
    kept.map(|kept| from_kept("judged record", bank, &kept).map(KeptYear)).transpose()
}

/// Keeps what the last year of a record tells.
pub(crate) fn keep_judged(
    tx: &Transaction<'_>,
    bank: &str,
    judged_by: &str,
    judged: &str,
) -> Result<(), DbError> {
    tx.prepare_cached("INSERT OR REPLACE INTO record_judged VALUES (?, ?, ?)")?
        .execute((bank, judged_by, judged))?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// What is packed comes back as it was, to the seven figures that are kept.
        #[test]
        fn packing_keeps_every_row(
            rows in proptest::collection::vec((0i64..DAY, proptest::option::of(-600.0..800.0f64), proptest::option::of(-5000.0..5000.0f64), 0usize..8), 0..50),
            day in 12_000i64..30_000,
        ) {
            let rows: Vec<MinuteRow> = rows.into_iter().map(|(minute, volts, amperes, stage)| MinuteRow {
                minute: day * DAY + minute, volts, amperes, celsius: None, state: STAGES.get(stage).copied(),
            }).collect();
            let back: Vec<MinuteRow> = unpacked(&packed(&rows, day), day).unwrap().collect();
            prop_assert_eq!(back.len(), rows.len());
            for (own, was) in back.iter().zip(&rows) {
                prop_assert_eq!((own.minute, own.state, own.celsius), (was.minute, was.state, None));
                let near = |a: Option<f64>, b: Option<f64>| match (a, b) {
                    (Some(a), Some(b)) => (a - b).abs() <= 1e-6 * b.abs().max(1.0),
                    (None, None) => true,
                    _ => false,
                };
                prop_assert!(near(own.volts, was.volts) && near(own.amperes, was.amperes));
            }
        }
    }
}
