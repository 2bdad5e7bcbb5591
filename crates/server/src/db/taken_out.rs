//! Batteries that were taken out and stand nowhere: what may be put in again, here or in another bank.

use super::bank_lists::TITLE;
use super::error::day;
use super::{DbError, ModelRow};
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::replacing::Gone;
use rusqlite::{Connection, OptionalExtension, Row};
use serde::Serialize;

/// A battery that was taken out and stands nowhere.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct TakenOut {
    /// The block.
    pub block: String,
    /// Serial number; empty: not noted.
    pub serial: String,
    /// Date code; empty: not noted.
    pub date_code: String,
    /// Where it stood last: "Marginalia, house bank A3".
    pub stood: String,
    /// The day it was taken out, as said.
    pub out: String,
    /// Its model.
    pub model: String,
    /// True when it is of another model than the bank.
    pub other_model: bool,
}

/// Bank and place as said: "Marginalia, house bank A3".
fn stood() -> String {
    format!("{TITLE} || ' ' || p.battery")
}

/// The last stand of every block that stands nowhere, the last taken out first.
fn last_stands() -> String {
    let stood = stood();
    let for_good = Gone::ALL.into_iter().filter(|gone| !gone.can_come_back());
    let names = for_good.filter_map(|gone| serde_json::to_string(&gone).ok());
    let gone = names.collect::<Vec<_>>().join(", ").replace('"', "'");
    format!(
        "SELECT p.block_id, k.model_id, coalesce(k.serial, ''), coalesce(k.date_code, ''), {stood}, p.to_day \
         FROM placement p JOIN block k ON k.id = p.block_id JOIN bank b ON b.id = p.bank_id \
         JOIN site s ON s.id = b.site_id \
         WHERE p.to_day IS NOT NULL \
         AND NOT EXISTS (SELECT 1 FROM placement n WHERE n.block_id = p.block_id \
                         AND (n.to_day IS NULL OR n.from_day > p.from_day)) \
         AND NOT EXISTS (SELECT 1 FROM block_change c WHERE c.out_block = p.block_id AND c.undone_by IS NULL \
                         AND c.more ->> 'gone' IN ({gone}))"
    )
}

struct Stand {
    taken: TakenOut,
    model: String,
    until: String,
}

fn stand(row: &Row<'_>) -> rusqlite::Result<Stand> {
    let until: String = row.get(5)?;
    Ok(Stand {
        model: row.get(1)?,
        taken: TakenOut {
            block: row.get(0)?,
            serial: row.get(2)?,
            date_code: row.get(3)?,
            stood: row.get(4)?,
            out: said_day(&until),
            model: String::new(),
            other_model: false,
        },
        until,
    })
}

/// Batteries that fit into a bank of a model, the last taken out first.
pub(crate) fn taken_out(db: &Connection, bank_model: &str) -> Result<Vec<TakenOut>, DbError> {
    let wanted = ModelRow::by_id(db, bank_model)?.cells;
    let mut query = db.prepare_cached(&format!("{} ORDER BY p.to_day DESC, p.rowid DESC", last_stands()))?;
    let stands: Vec<Stand> = query.query_map([], stand)?.collect::<Result<_, _>>()?;
    let mut all = Vec::new();
    for own in stands {
        let model = ModelRow::by_id(db, &own.model)?;
        if model.cells == wanted {
            all.push(TakenOut { model: model.name, other_model: own.model != bank_model, ..own.taken });
        }
    }
    Ok(all)
}

/// Lets a block that was taken out be put into a bank of a model on a day.
///
/// # Errors
/// [`DbError::NotOnShelf`] when it stands somewhere or nobody knows it, [`DbError::OtherCells`] when
/// it does not fit, [`DbError::StoodElsewhere`] when it was still elsewhere on that day.
pub(super) fn check(db: &Connection, block: &str, bank_model: &str, on: Date) -> Result<(), DbError> {
    let own = db
        .prepare_cached(&format!("{} AND p.block_id = ?", last_stands()))?
        .query_row([block], stand)
        .optional()?
        .ok_or(DbError::NotOnShelf)?;
    let (cells, wanted) = (ModelRow::by_id(db, &own.model)?.cells, ModelRow::by_id(db, bank_model)?.cells);
    if cells != wanted {
        return Err(DbError::OtherCells { cells, wanted });
    }
    if on < day(&own.until)? {
        return Err(DbError::StoodElsewhere { bank: own.taken.stood, until: own.taken.out });
    }
    Ok(())
}

/// Where a block stood until a day before it came to its present place: "Marginalia, house bank A3".
pub(super) fn came_from(db: &Connection, block: &str, on: &str) -> Result<Option<String>, DbError> {
    let stood = stood();
    let sql = format!(
        "SELECT {stood} FROM placement p JOIN bank b ON b.id = p.bank_id JOIN site s ON s.id = b.site_id \
         WHERE p.block_id = ? AND p.to_day <= ? ORDER BY p.from_day DESC LIMIT 1"
    );
    Ok(db.prepare_cached(&sql)?.query_row((block, on), |row| row.get(0)).optional()?)
}

/// Every bank that the block at a place ever stood in, this one too.
pub(crate) fn banks_of_block_at(
    db: &Connection,
    bank: &str,
    battery: BatteryAddress,
) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT DISTINCT p.bank_id FROM placement n JOIN placement p ON p.block_id = n.block_id \
         WHERE n.bank_id = ? AND n.battery = ? AND n.to_day IS NULL",
    )?;
    let rows = query.query_map((bank, battery.to_string()), |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Where a block stands now, in another bank than this.
pub(super) fn stands_elsewhere(db: &Connection, block: &str, bank: &str) -> Result<Option<String>, DbError> {
    let stood = stood();
    let sql = format!(
        "SELECT {stood} FROM placement p JOIN bank b ON b.id = p.bank_id JOIN site s ON s.id = b.site_id \
         WHERE p.block_id = ? AND p.bank_id <> ? AND p.to_day IS NULL"
    );
    Ok(db.prepare_cached(&sql)?.query_row((block, bank), |row| row.get(0)).optional()?)
}

/// Where a block stood or stands in other banks, as said: "before in Dipper A1", "now in Dipper A1",
/// "on the shelf"; empty for one that only ever stood here.
pub(super) fn also(
    db: &Connection,
    block: &str,
    bank: &str,
    (from, to): (&str, &str),
) -> Result<String, DbError> {
    let came = came_from(db, block, from)?.map(|place| format!("before in {place}"));
    let went = if to.is_empty() {
        None
    } else if let Some(place) = stands_elsewhere(db, block, bank)? {
        Some(format!("now in {place}"))
    } else {
        let stands = db
            .prepare_cached("SELECT 1 FROM placement WHERE block_id = ? AND to_day IS NULL")?
            .exists([block])?;
        (!stands).then(|| "on the shelf".to_owned())
    };
    Ok([came, went].into_iter().flatten().collect::<Vec<_>>().join(", "))
}

pub(super) fn said_day(text: &str) -> String {
    // From always on: nothing is known of its beginning.
    if text.starts_with("0000") {
        return String::new();
    }
    text.parse::<Date>().map(crate::words::day).unwrap_or_default()
}
