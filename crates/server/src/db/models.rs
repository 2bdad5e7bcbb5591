//! Battery models: the generic ones that ship, and the shop's own.

use super::error::{found, from_json, to_json};
use super::{DbError, Written};
use rainshadow_core::battery_model::BatteryModel;
use rusqlite::{Connection, OptionalExtension, Transaction};

/// A stored battery model.
#[derive(Debug, Clone, PartialEq)]
pub struct ModelRow {
    /// Id.
    pub id: String,
    /// True for the generic models that ship: read-only.
    pub shipped: bool,
    /// Its figures.
    pub model: BatteryModel,
    /// The figures as typed, with their units, where somebody typed them.
    pub typed: Option<String>,
    /// Counts how often it was put right, for If-Match.
    pub version: i64,
    /// Banks that stand on it.
    pub banks: u32,
}

/// Stores the models that ship; figures of a newer version replace older ones.
pub(super) fn ship(tx: &Transaction<'_>) -> Result<(), DbError> {
    for (id, model) in BatteryModel::generic() {
        let body = to_json("battery model", &model)?;
        tx.execute(
            "INSERT INTO battery_model (id, body, shipped, sent, created_at) VALUES (?1, ?2, 1, ?2, '') \
             ON CONFLICT (id) DO UPDATE SET body = ?2, sent = ?2 WHERE body <> ?2",
            (id, &body),
        )?;
    }
    Ok(())
}

impl ModelRow {
    /// Stores one of the shop's own.
    pub(crate) fn create(
        tx: &Transaction<'_>,
        id: &str,
        model: &BatteryModel,
        typed: Option<&str>,
        now: jiff::Timestamp,
    ) -> Result<Written, DbError> {
        let body = to_json("battery model", model)?;
        if BatteryModel::generic_by_key(id).is_some() {
            return Err(DbError::ReadOnly { what: "this battery model" });
        }
        if let Some(before) = super::sent_before(tx, "battery_model", id)? {
            return super::same_or_conflict("battery model", id, &before, &body);
        }
        tx.execute(
            "INSERT INTO battery_model (id, body, shipped, sent, typed, created_at) VALUES (?1, ?2, 0, ?2, ?3, ?4)",
            (id, &body, typed, now.to_string()),
        )?;
        Ok(Written::Created)
    }

    /// Puts one of the shop's own right: it was always wrong, so what was judged by it is judged anew. What stood
    /// before is kept.
    pub(crate) fn correct(
        tx: &Transaction<'_>,
        id: &str,
        model: &BatteryModel,
        typed: Option<&str>,
        (seen, now): (i64, jiff::Timestamp),
    ) -> Result<Written, DbError> {
        let all = Self::all(tx)?;
        let stands = found(all.into_iter().find(|row| row.id == id), "battery model", id)?;
        if stands.shipped {
            return Err(DbError::ReadOnly { what: "this battery model" });
        }
        if stands.model == *model {
            return Ok(Written::AlreadyThere);
        }
        super::seen("battery model", Some(seen), stands.version, &stands.model)?;
        tx.execute(
            "INSERT INTO battery_model_before (id, version, body, typed, until) \
             SELECT id, version, body, typed, ? FROM battery_model WHERE id = ?",
            (now.to_string(), id),
        )?;
        let body = to_json("battery model", model)?;
        tx.execute(
            "UPDATE battery_model SET body = ?1, sent = ?1, typed = ?2, version = version + 1 WHERE id = ?3",
            (&body, typed, id),
        )?;
        tx.execute("DELETE FROM assessment WHERE bank_id IN (SELECT id FROM bank WHERE model_id = ?)", [id])?;
        // What is due on them is worked out anew.
        tx.execute("UPDATE bank SET model_id = model_id WHERE model_id = ?", [id])?;
        Ok(Written::Created)
    }

    /// All models, the shop's own first.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        db.prepare_cached(
            "SELECT id, shipped, body, typed, version, \
             (SELECT count(*) FROM bank WHERE model_id = battery_model.id) FROM battery_model ORDER BY shipped, rowid",
        )?
        .query_map([], |row| {
            Ok((row.get(0)?, row.get(1)?, row.get::<_, String>(2)?, row.get(3)?, row.get(4)?, row.get(5)?))
        })?
        .map(|row| {
            let (id, shipped, body, typed, version, banks) = row?;
            Ok(Self { id, shipped, model: from_json("battery model", &body)?, typed, version, banks })
        })
        .collect()
    }

    /// One model.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<BatteryModel, DbError> {
        let body: Option<String> = db
            .prepare_cached("SELECT body FROM battery_model WHERE id = ?")?
            .query_row([id], |row| row.get(0))
            .optional()?;
        from_json("battery model", &found(body, "battery model", id)?)
    }
}
