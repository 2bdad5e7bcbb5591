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

    /// All models, the shop's own first.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        db.prepare_cached("SELECT id, shipped, body, typed FROM battery_model ORDER BY shipped, rowid")?
            .query_map([], |row| Ok((row.get(0)?, row.get(1)?, row.get::<_, String>(2)?, row.get(3)?)))?
            .map(|row| {
                let (id, shipped, body, typed) = row?;
                Ok(Self { id, shipped, model: from_json("battery model", &body)?, typed })
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
