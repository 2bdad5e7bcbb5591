//! Photographs listed in the database; their files were written before the row.

use super::error::{found, instant, to_json};
use super::log::{LogRow, actor};
use super::visit_entries::{StoredPlace, place_of, places_on, stored_place};
use super::{BankRow, DbError, VisitRow, Written};
use crate::photos::PhotoFiles;
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::visit::Place;
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// Most photographs on one visit.
const MOST: u32 = 120;

/// What a photograph shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PhotoOf {
    /// The wiring, before anything comes off.
    Wiring,
    /// Something found.
    Finding,
    /// Anything else.
    Other,
}

impl PhotoOf {
    fn key(self) -> &'static str {
        match self {
            Self::Wiring => "wiring",
            Self::Finding => "finding",
            Self::Other => "other",
        }
    }

    fn from_key(key: &str) -> Self {
        match key {
            "wiring" => Self::Wiring,
            "finding" => Self::Finding,
            _ => Self::Other,
        }
    }
}

/// A photograph.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PhotoRow {
    /// Its id.
    pub id: String,
    /// Its visit.
    pub visit: String,
    /// What it shows.
    pub what: PhotoOf,
    /// The check it belongs to, where it shows a finding.
    pub subject: String,
    /// Where.
    pub place: Place,
    /// Its files.
    pub files: PhotoFiles,
    /// In words.
    pub note: String,
    /// Who, on which device.
    pub by: Actor,
    /// When.
    pub taken_at: Timestamp,
    /// By whom it was taken out.
    pub removed_by: Option<String>,
}

const SELECT: &str = "SELECT p.id, p.visit_id, p.what, p.subject, p.block_id, p.cell, p.string, p.hash, p.small_hash, \
    p.width, p.height, p.note, p.taken_at, p.removed_by, p.person_id, p.person, p.device FROM photo p";

/// A row at the place its block stood at; none where that block is gone.
fn whole(row: &Row<'_>, places: &HashMap<String, BatteryAddress>) -> Result<Option<PhotoRow>, DbError> {
    let stored: StoredPlace = (row.get(4)?, row.get(5)?, row.get(6)?);
    let Some(place) = place_of(places, stored) else { return Ok(None) };
    Ok(Some(PhotoRow {
        id: row.get(0)?,
        visit: row.get(1)?,
        what: PhotoOf::from_key(&row.get::<_, String>(2)?),
        subject: row.get(3)?,
        place,
        files: PhotoFiles {
            hash: row.get(7)?,
            small_hash: row.get(8)?,
            width: row.get(9)?,
            height: row.get(10)?,
        },
        note: row.get(11)?,
        taken_at: instant(&row.get::<_, String>(12)?)?,
        removed_by: row.get(13)?,
        by: actor(row, 14)?,
    }))
}

impl PhotoRow {
    /// Lists a photograph on a visit that is open; one that is there already is there, closed or not.
    pub(crate) fn write_down(&self, tx: &Transaction<'_>) -> Result<Written, DbError> {
        let visit = VisitRow::by_id(tx, &self.visit)?;
        if super::sent_before(tx, "photo", &self.id)?.is_none() {
            visit.taking()?;
        }
        self.store(tx, &visit, false)
    }

    /// True when a photograph with this hash is listed, large or small.
    pub(crate) fn lists(db: &Connection, hash: &str) -> Result<bool, DbError> {
        Ok(db.prepare_cached("SELECT 1 FROM photo WHERE hash = ?1 OR small_hash = ?1")?.exists([hash])?)
    }

    /// Hashes of every photograph of a visit, those taken out too.
    pub(crate) fn hashes_of_visit(db: &Connection, visit: &str) -> Result<Vec<String>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT hash FROM photo WHERE visit_id = ?1 UNION SELECT small_hash FROM photo WHERE visit_id = ?1",
        )?;
        let rows = query.query_map([visit], |row| row.get(0))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Lists a photograph; the same again is already there.
    pub(crate) fn store(
        &self,
        tx: &Transaction<'_>,
        visit: &VisitRow,
        from_file: bool,
    ) -> Result<Written, DbError> {
        let sent = to_json(
            "photograph",
            &(
                &self.visit,
                self.what,
                &self.subject,
                self.place,
                &self.files.hash,
                &self.note,
                &self.by.initials,
            ),
        )?;
        if let Some(before) = super::sent_before(tx, "photo", &self.id)? {
            return super::same_or_conflict("photograph", &self.id, &before, &sent);
        }
        let there: u32 = tx.query_row(
            "SELECT count(*) FROM photo WHERE visit_id = ? AND removed_by IS NULL",
            [&visit.id],
            |row| row.get(0),
        )?;
        if there >= MOST {
            return Err(DbError::TooManyPhotos { most: MOST });
        }
        let bank = BankRow::by_id(tx, &visit.bank_id)?;
        let (block, cell, string) =
            stored_place(tx, &bank, self.place, visit.day(), from_file.then_some(self.taken_at))?;
        LogRow {
            table: "photo",
            what: "photograph",
            owner: ("visit_id", &visit.id),
            id: &self.id,
            by: &self.by,
            sent: &sent,
            own: &[
                ("bank_id", &visit.bank_id),
                ("what", &self.what.key()),
                ("subject", &self.subject),
                ("block_id", &block),
                ("cell", &cell),
                ("string", &string),
                ("hash", &self.files.hash),
                ("small_hash", &self.files.small_hash),
                ("width", &self.files.width),
                ("height", &self.files.height),
                ("note", &self.note),
                ("taken_at", &self.taken_at.to_string()),
                ("removed_by", &self.removed_by),
            ],
        }
        .insert(tx)
    }

    /// Photographs of a visit in the order taken, those taken out left out.
    pub(crate) fn of_visit(db: &Connection, visit: &VisitRow) -> Result<Vec<Self>, DbError> {
        let places = places_on(db, &visit.bank_id, visit.day())?;
        db.prepare_cached(&format!(
            "{SELECT} WHERE p.visit_id = ? AND p.removed_by IS NULL ORDER BY p.taken_at, p.id"
        ))?
        .query_map([&visit.id], |row| Ok(whole(row, &places)))?
        .filter_map(|row| match row {
            Ok(photo) => photo.transpose(),
            Err(error) => Some(Err(error.into())),
        })
        .collect()
    }

    /// The file of a photograph, small or whole.
    pub(crate) fn hash(db: &Connection, id: &str, small: bool) -> Result<String, DbError> {
        let row: Option<(String, String)> = db
            .prepare_cached("SELECT hash, small_hash FROM photo WHERE id = ?")?
            .query_row([id], |row| Ok((row.get(0)?, row.get(1)?)))
            .optional()?;
        let (hash, small_hash) = found(row, "photograph", id)?;
        Ok(if small { small_hash } else { hash })
    }

    /// Takes a photograph out of an open visit; its file stays, as every reading does.
    pub(crate) fn remove(tx: &Transaction<'_>, id: &str, by: &str) -> Result<(), DbError> {
        Self::set_removed(tx, id, Some(by))
    }

    /// Puts a photograph back into its visit, while that is open.
    pub(crate) fn put_back(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
        Self::set_removed(tx, id, None)
    }

    fn set_removed(tx: &Transaction<'_>, id: &str, by: Option<&str>) -> Result<(), DbError> {
        let visit: Option<String> =
            tx.query_row("SELECT visit_id FROM photo WHERE id = ?", [id], |row| row.get(0)).optional()?;
        VisitRow::by_id(tx, &found(visit, "photograph", id)?)?.taking()?;
        let changed = tx.execute("UPDATE photo SET removed_by = ? WHERE id = ?", (by, id))?;
        found((changed > 0).then_some(()), "photograph", id)
    }

    /// What is written under a photograph of an open visit, for whoever saw what stood there before.
    pub(crate) fn caption(
        tx: &Transaction<'_>,
        id: &str,
        (seen, caption): (&str, &str),
    ) -> Result<(), DbError> {
        let row: Option<(String, String)> = tx
            .query_row("SELECT visit_id, note FROM photo WHERE id = ?", [id], |row| {
                Ok((row.get(0)?, row.get(1)?))
            })
            .optional()?;
        let (visit, stands) = found(row, "photograph", id)?;
        VisitRow::by_id(tx, &visit)?.taking()?;
        if stands != seen && stands != caption {
            let theirs = Box::new(serde_json::json!({ "caption": stands }));
            return Err(DbError::ChangedSince { what: "the words under this photograph", theirs });
        }
        tx.execute("UPDATE photo SET note = ? WHERE id = ?", (caption, id))?;
        Ok(())
    }

    /// The photographs of the last visit before this one that has any of their kind: wiring is seldom taken anew.
    pub(crate) fn before(db: &Connection, visit: &VisitRow) -> Result<Vec<Self>, DbError> {
        let mut last = db.prepare_cached(
            "SELECT DISTINCT p.what, first_value(p.visit_id) OVER (PARTITION BY p.what ORDER BY v.started_at DESC) \
             FROM photo p JOIN visit v ON v.id = p.visit_id \
             WHERE v.bank_id = ? AND v.started_at < ? AND p.removed_by IS NULL",
        )?;
        let rows = last.query_map((&visit.bank_id, visit.started_at.to_string()), |row| {
            Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?))
        })?;
        let mut all = Vec::new();
        for row in rows {
            let (what, id) = row?;
            let of = Self::of_visit(db, &VisitRow::by_id(db, &id)?)?;
            all.extend(of.into_iter().filter(|photo| photo.what.key() == what));
        }
        Ok(all)
    }
}
