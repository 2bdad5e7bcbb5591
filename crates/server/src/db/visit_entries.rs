//! Entries of a visit: appended, never overwritten; places follow the blocks.

use super::error::{from_json, instant, to_json};
use super::{BankRow, DbError, VisitRow, Written};
use jiff::Timestamp;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::visit::{Entry, Kept, PastVisit, Place, VisitSheet};
use rusqlite::{Connection, OptionalExtension, Transaction};
use std::collections::HashMap;

/// An entry as it is appended.
#[derive(Debug, Clone, PartialEq)]
pub struct NewEntry {
    /// Its id.
    pub id: String,
    /// Where.
    pub place: Place,
    /// What.
    pub entry: Entry,
    /// As typed, with its units; none where nothing was typed.
    pub typed: Option<String>,
    /// Who.
    pub person: String,
    /// On which device.
    pub device: String,
    /// When.
    pub taken_at: Timestamp,
}

/// A stored entry.
#[derive(Debug, Clone, PartialEq)]
pub struct StoredEntry {
    /// The entry.
    pub new: NewEntry,
    /// Its visit.
    pub visit: String,
}

/// A place as it is stored: block and cell, or string.
pub(super) type StoredPlace = (Option<String>, Option<u8>, Option<u8>);

/// Where a place lies among the blocks that stand in the bank on a day.
pub(super) fn stored_place(
    db: &Connection,
    bank: &BankRow,
    place: Place,
    day: jiff::civil::Date,
) -> Result<StoredPlace, DbError> {
    let block = |battery: BatteryAddress| -> Result<String, DbError> {
        BankRow::placements_on(db, &bank.id, day)?
            .into_iter()
            .find(|(own, _)| *own == battery)
            .map(|(_, block)| block)
            .ok_or_else(|| DbError::NoSuchPlace { bank: bank.name.clone(), address: battery.to_string() })
    };
    if !place.on(&bank.shape) {
        return Err(DbError::NoSuchPlace { bank: bank.name.clone(), address: place.said() });
    }
    Ok(match place {
        Place::Bank => (None, None, None),
        Place::String(string) => (None, None, Some(string)),
        Place::Battery(battery) => (Some(block(battery)?), None, None),
        Place::Cell(cell) => (Some(block(cell.battery)?), Some(cell.cell), None),
    })
}

/// The place of stored columns, by where the blocks stand; none for a block that is gone.
pub(super) fn place_of(
    places: &HashMap<String, BatteryAddress>,
    (block, cell, string): StoredPlace,
) -> Option<Place> {
    match (block, cell, string) {
        (None, _, None) => Some(Place::Bank),
        (None, _, Some(string)) => Some(Place::String(string)),
        (Some(block), None, _) => Some(Place::Battery(*places.get(&block)?)),
        (Some(block), Some(cell), _) => {
            Some(Place::Cell(CellAddress { battery: *places.get(&block)?, cell }))
        }
    }
}

/// Blocks to their places on a day.
pub(super) fn places_on(
    db: &Connection,
    bank: &str,
    day: jiff::civil::Date,
) -> Result<HashMap<String, BatteryAddress>, DbError> {
    BankRow::blocks_on(db, bank, day)
}

const SELECT: &str = "SELECT e.id, e.visit_id, e.block_id, e.cell, e.string, e.body, e.typed, e.person, e.device, \
    e.taken_at FROM visit_entry e";

struct Raw {
    id: String,
    visit: String,
    place: StoredPlace,
    body: String,
    typed: Option<String>,
    person: String,
    device: String,
    taken_at: String,
}

fn raw(row: &rusqlite::Row<'_>) -> rusqlite::Result<Raw> {
    Ok(Raw {
        id: row.get(0)?,
        visit: row.get(1)?,
        place: (row.get(2)?, row.get(3)?, row.get(4)?),
        body: row.get(5)?,
        typed: row.get(6)?,
        person: row.get(7)?,
        device: row.get(8)?,
        taken_at: row.get(9)?,
    })
}

fn built(raw: Raw, places: &HashMap<String, BatteryAddress>) -> Result<Option<StoredEntry>, DbError> {
    let Some(place) = place_of(places, raw.place) else { return Ok(None) };
    Ok(Some(StoredEntry {
        visit: raw.visit,
        new: NewEntry {
            id: raw.id,
            place,
            entry: from_json("entry of a visit", &raw.body)?,
            typed: raw.typed,
            person: raw.person,
            device: raw.device,
            taken_at: instant(&raw.taken_at)?,
        },
    }))
}

impl NewEntry {
    /// The same text for the same entry, whichever road it came by.
    pub fn fingerprint(&self) -> Result<String, DbError> {
        let taken = self.taken_at.to_string();
        to_json(
            "entry of a visit",
            &(self.place, &self.entry, &self.typed, &self.person, &self.device, taken),
        )
    }
}

impl StoredEntry {
    /// Writes an entry down on a visit that is open; one that is there already is there, closed or not.
    pub(crate) fn write_down(
        tx: &Transaction<'_>,
        visit: &str,
        new: &NewEntry,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        let visit = VisitRow::by_id(tx, visit)?;
        if !tx.prepare_cached("SELECT 1 FROM visit_entry WHERE id = ?")?.exists([&new.id])? {
            visit.taking()?;
        }
        Self::append(tx, &visit, new, now)
    }

    /// Appends an entry.
    pub(crate) fn append(
        tx: &Transaction<'_>,
        visit: &VisitRow,
        new: &NewEntry,
        now: Timestamp,
    ) -> Result<Written, DbError> {
        let sent = new.fingerprint()?;
        let before: Option<(String, String)> = tx
            .prepare_cached("SELECT sent, visit_id FROM visit_entry WHERE id = ?")?
            .query_row([&new.id], |row| Ok((row.get(0)?, row.get(1)?)))
            .optional()?;
        if let Some((before, own)) = before {
            let before = if own == visit.id { before } else { String::new() };
            return super::same_or_conflict("entry", &new.id, &before, &sent);
        }
        let bank = BankRow::by_id(tx, &visit.bank_id)?;
        let (block, cell, string) = stored_place(tx, &bank, new.place, visit.day())?;
        tx.prepare_cached(
            "INSERT INTO visit_entry (id, visit_id, kind, block_id, cell, string, body, typed, person, device, \
             taken_at, received_at, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        )?
        .execute(rusqlite::params![
            new.id,
            visit.id,
            new.entry.kind(),
            block,
            cell,
            string,
            to_json("entry of a visit", &new.entry)?,
            new.typed,
            new.person,
            new.device,
            new.taken_at.to_string(),
            now.to_string(),
            sent,
        ])?;
        let equalizes = matches!(
            new.entry,
            Entry::Done { work: rainshadow_core::visit::Work::Equalized, .. } | Entry::Withdrawn { .. }
        );
        if equalizes {
            super::forget::forget_since(tx, &visit.bank_id, new.taken_at.min(visit.started_at))?;
        }
        Ok(Written::Created)
    }

    /// Entries of a visit in the order received, at the places their blocks had on its day.
    pub(crate) fn of_visit(db: &Connection, visit: &VisitRow) -> Result<Vec<Self>, DbError> {
        Self::at(db, visit, &places_on(db, &visit.bank_id, visit.day())?)
    }

    fn at(
        db: &Connection,
        visit: &VisitRow,
        places: &HashMap<String, BatteryAddress>,
    ) -> Result<Vec<Self>, DbError> {
        let mut all = Vec::new();
        let mut query = db.prepare_cached(&format!("{SELECT} WHERE e.visit_id = ? ORDER BY e.seq"))?;
        for row in query.query_map([&visit.id], raw)? {
            all.extend(built(row?, places)?);
        }
        Ok(all)
    }

    /// The sheet of a visit, times said in its zone.
    pub(crate) fn sheet(db: &Connection, visit: &VisitRow) -> Result<VisitSheet, DbError> {
        let zone = crate::words::zone(&visit.zone);
        let kept = Self::of_visit(db, visit)?.into_iter().map(|e| e.kept(&zone)).collect();
        Ok(VisitSheet::new(kept))
    }

    fn kept(self, zone: &jiff::tz::TimeZone) -> Kept {
        let local = self.new.taken_at.to_zoned_datetime(zone.clone());
        let at = format!("{}:{:02}", local.hour(), local.minute());
        Kept {
            id: self.new.id,
            place: self.new.place,
            entry: self.new.entry,
            by: format!("{} on {}", self.new.person, self.new.device),
            at,
        }
    }
}

/// Every visit of a bank with what it wrote down, oldest first. History follows the block: an entry
/// at a block that now stands elsewhere in the bank is told of that place, one of a block that left
/// is not told.
pub(crate) fn past_visits(db: &Connection, bank: &BankRow) -> Result<Vec<PastVisit>, DbError> {
    let places: HashMap<String, BatteryAddress> =
        BankRow::placements(db, &bank.id)?.into_iter().map(|(place, block)| (block, place)).collect();
    let mut entries: HashMap<String, Vec<StoredEntry>> = HashMap::new();
    let mut query = db.prepare_cached(&format!(
        "{SELECT} JOIN visit v ON v.id = e.visit_id WHERE v.bank_id = ? ORDER BY e.seq"
    ))?;
    for row in query.query_map([&bank.id], raw)? {
        if let Some(entry) = built(row?, &places)? {
            entries.entry(entry.visit.clone()).or_default().push(entry);
        }
    }
    let mut warm = super::rounds::temperatures(db, &bank.id)?;
    Ok(VisitRow::of_bank(db, &bank.id)?
        .into_iter()
        .map(|visit| {
            let own = entries.remove(&visit.id).unwrap_or_default();
            let zone = crate::words::zone(&visit.zone);
            let sheet = VisitSheet::new(own.into_iter().map(|e| e.kept(&zone)).collect());
            let rested = sheet
                .rested()
                .and_then(|r| r.temperature)
                .map(rainshadow_core::quantity::Temperature::celsius);
            PastVisit { day: visit.day(), temperature: warm.remove(&visit.id).or(rested), sheet }
        })
        .collect())
}
