//! Entries of a visit: appended, never overwritten; places follow the blocks.

use super::error::{from_json, instant, to_json};
use super::log::{LogRow, actor};
use super::{BankRow, DbError, EquipmentRow, VisitRow, Written};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::visit::{Entry, PastVisit, Place, VisitEntry, VisitSheet};
use rainshadow_core::wiring::Wiring;
use rusqlite::{Connection, Transaction};
use std::collections::HashMap;

/// A place as it is stored: block and cell, or string.
pub(super) type StoredPlace = (Option<String>, Option<u8>, Option<u8>);

/// Where a place lies among the blocks that stand in the bank on a day; of what comes from a file, among
/// those that stood there when it was taken.
pub(super) fn stored_place(
    db: &Connection,
    bank: &BankRow,
    place: Place,
    day: jiff::civil::Date,
    from_file: Option<Timestamp>,
) -> Result<StoredPlace, DbError> {
    let block = |battery: BatteryAddress| -> Result<String, DbError> {
        if let Some(taken_at) = from_file
            && let Some(block) = BankRow::block_when(db, &bank.id, battery, (day, taken_at))?
        {
            return Ok(block);
        }
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

const SELECT: &str = "SELECT e.id, e.visit_id, e.block_id, e.cell, e.string, e.body, e.typed, e.taken_at, \
    e.person_id, e.person, e.device FROM visit_entry e";

struct Raw {
    id: String,
    visit: String,
    place: StoredPlace,
    body: String,
    typed: Option<String>,
    taken_at: String,
    by: Actor,
}

fn raw(row: &rusqlite::Row<'_>) -> rusqlite::Result<Raw> {
    Ok(Raw {
        id: row.get(0)?,
        visit: row.get(1)?,
        place: (row.get(2)?, row.get(3)?, row.get(4)?),
        body: row.get(5)?,
        typed: row.get(6)?,
        taken_at: row.get(7)?,
        by: actor(row, 8)?,
    })
}

/// The entry with the id of its visit; none where its block is gone.
fn built(
    raw: Raw,
    places: &HashMap<String, BatteryAddress>,
) -> Result<Option<(String, VisitEntry)>, DbError> {
    let Some(place) = place_of(places, raw.place) else { return Ok(None) };
    let entry = VisitEntry {
        id: raw.id,
        place,
        entry: from_json("entry of a visit", &raw.body)?,
        typed: raw.typed,
        by: raw.by,
        taken_at: instant(&raw.taken_at)?,
    };
    Ok(Some((raw.visit, entry)))
}

/// The same text for the same entry, whichever road it came by.
fn fingerprint(new: &VisitEntry) -> Result<String, DbError> {
    // What the machine times comes again at another moment, when its answer was lost.
    let timed = new.entry.is_timed_by_machine();
    let taken = if timed { String::new() } else { new.taken_at.to_string() };
    to_json("entry of a visit", &(new.place, &new.entry, &new.typed, &new.by.initials, &new.by.device, taken))
}

/// True when an entry with this id was stored before.
pub(crate) fn is_there(db: &Connection, id: &str) -> Result<bool, DbError> {
    Ok(db.prepare_cached("SELECT 1 FROM visit_entry WHERE id = ?")?.exists([id])?)
}

/// Appends an entry; the same again is already there.
pub(crate) fn append(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    new: &VisitEntry,
    now: Timestamp,
) -> Result<Written, DbError> {
    write(tx, visit, new, now, None)
}

/// Appends an entry of a file, at the block that stood there when it was taken.
pub(crate) fn append_from_file(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    new: &VisitEntry,
    now: Timestamp,
) -> Result<Written, DbError> {
    write(tx, visit, new, now, Some(new.taken_at))
}

fn write(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    new: &VisitEntry,
    now: Timestamp,
    from_file: Option<Timestamp>,
) -> Result<Written, DbError> {
    let bank = BankRow::by_id(tx, &visit.bank_id)?;
    let (block, cell, string) = stored_place(tx, &bank, new.place, visit.day(), from_file)?;
    let row = LogRow {
        table: "visit_entry",
        what: "entry",
        owner: ("visit_id", &visit.id),
        id: &new.id,
        by: &new.by,
        sent: &fingerprint(new)?,
        own: &[
            ("kind", &new.entry.kind()),
            ("block_id", &block),
            ("cell", &cell),
            ("string", &string),
            ("body", &to_json("entry of a visit", &new.entry)?),
            ("typed", &new.typed),
            ("taken_at", &new.taken_at.to_string()),
            ("received_at", &now.to_string()),
        ],
    };
    if row.append(tx)? == Written::AlreadyThere {
        return Ok(Written::AlreadyThere);
    }
    // Rounds are judged across no equalize, and beside the levels that were found.
    let judged_by = matches!(
        new.entry,
        Entry::Done { work: rainshadow_core::visit::Work::Equalized, .. }
            | Entry::Withdrawn { .. }
            | Entry::Level { .. }
            | Entry::Water { .. }
            | Entry::Spilled { .. }
            | Entry::Lamp { .. }
    );
    if judged_by {
        super::forget::forget_since(tx, &visit.bank_id, new.taken_at.min(visit.started_at))?;
    }
    Ok(Written::Created)
}

/// Entries of a visit in the order received, at the places their blocks had on its day.
pub(crate) fn of_visit(db: &Connection, visit: &VisitRow) -> Result<Vec<VisitEntry>, DbError> {
    let places = places_on(db, &visit.bank_id, visit.day())?;
    let mut all = Vec::new();
    let mut query = db.prepare_cached(&format!("{SELECT} WHERE e.visit_id = ? ORDER BY e.seq"))?;
    for row in query.query_map([&visit.id], raw)? {
        all.extend(built(row?, &places)?.map(|(_, entry)| entry));
    }
    Ok(all)
}

/// How the bank was wired on a visit: as it was told last until it ended; what is told later only speaks where nothing
/// was told before.
fn wired(told: &[(Timestamp, Wiring)], visit: &VisitRow) -> Option<Wiring> {
    let before = |(at, _): &&(Timestamp, Wiring)| visit.ended_at.is_none_or(|end| *at <= end);
    told.iter().rev().find(before).or_else(|| told.first()).map(|(_, wiring)| wiring.clone())
}

/// The sheet of a visit.
pub(crate) fn sheet(db: &Connection, visit: &VisitRow) -> Result<VisitSheet, DbError> {
    let mut sheet = VisitSheet::new(of_visit(db, visit)?);
    sheet.wiring = wired(&EquipmentRow::wirings(db, &visit.bank_id)?, visit);
    sheet.typed_for = visit.is_typed_later().then(|| visit.day());
    Ok(sheet)
}

/// Every visit of a bank with what it wrote down, oldest first. History follows the block: an entry
/// at a block that now stands elsewhere in the bank is told of that place, one of a block that left
/// is not told.
pub(crate) fn past_visits(db: &Connection, bank: &BankRow) -> Result<Vec<PastVisit>, DbError> {
    let places: HashMap<String, BatteryAddress> =
        BankRow::placements(db, &bank.id)?.into_iter().map(|(place, block)| (block, place)).collect();
    let mut entries: HashMap<String, Vec<VisitEntry>> = HashMap::new();
    let mut query = db.prepare_cached(&format!(
        "{SELECT} JOIN visit v ON v.id = e.visit_id WHERE v.bank_id = ? ORDER BY e.seq"
    ))?;
    for row in query.query_map([&bank.id], raw)? {
        if let Some((visit, entry)) = built(row?, &places)? {
            entries.entry(visit).or_default().push(entry);
        }
    }
    let mut warm = super::rounds::temperatures(db, &bank.id)?;
    let came = BankRow::came_on(db, &bank.id)?;
    let wirings = EquipmentRow::wirings(db, &bank.id)?;
    Ok(VisitRow::of_bank(db, &bank.id)?
        .into_iter()
        .map(|visit| {
            let mut own = entries.remove(&visit.id).unwrap_or_default();
            // A battery that moved was joined anew: what its joints were before tells nothing of them.
            let joined = |kept: &VisitEntry| {
                let came = kept.place.battery().and_then(|at| came.get(&at));
                came.is_none_or(|day| visit.day() >= *day)
            };
            own.retain(|kept| !matches!(kept.entry, Entry::Joint { .. }) || joined(kept));
            let mut sheet = VisitSheet::new(own);
            sheet.wiring = wired(&wirings, &visit);
            sheet.typed_for = visit.is_typed_later().then(|| visit.day());
            let rested = sheet
                .rested()
                .and_then(|r| r.temperature)
                .map(rainshadow_core::quantity::Temperature::celsius);
            PastVisit { day: visit.day(), temperature: warm.remove(&visit.id).or(rested), sheet }
        })
        .collect())
}
