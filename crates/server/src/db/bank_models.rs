//! What a bank is made of, and was said to be made of before.

use super::error::{found, instant};
use super::{BankRow, DbError, ModelRow};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::battery_model::BatteryModel;
use rusqlite::{Connection, OptionalExtension, Transaction};

/// A model that a bank had before.
#[derive(Debug, Clone, PartialEq)]
pub struct FormerModel {
    /// First day of the one that followed; none: it never was right.
    pub until: Option<Date>,
    /// The model.
    pub model: ModelRow,
    /// Who exchanged it, and when.
    pub by: Actor,
    /// When it was exchanged.
    pub at: Timestamp,
}

impl BankRow {
    fn model_id_on(&self, db: &Connection, day: Date) -> Result<String, DbError> {
        let former: Option<String> = db
            .prepare_cached(
                "SELECT model_id FROM bank_model_before WHERE bank_id = ? AND until_day > ? \
                 ORDER BY until_day LIMIT 1",
            )?
            .query_row((&self.id, day.to_string()), |row| row.get(0))
            .optional()?;
        Ok(former.unwrap_or_else(|| self.model_id.clone()))
    }

    /// The model that what lies on a day is judged by.
    pub(crate) fn model_on(&self, db: &Connection, day: Date) -> Result<BatteryModel, DbError> {
        ModelRow::by_id(db, &self.model_id_on(db, day)?)
    }

    /// Every model it had before, in the order of the exchanges.
    pub(crate) fn former_models(db: &Connection, bank: &str) -> Result<Vec<FormerModel>, DbError> {
        let models = ModelRow::all(db)?;
        let mut query = db.prepare_cached(
            "SELECT model_id, until_day, person_id, person, '', at FROM bank_model_before WHERE bank_id = ? \
             ORDER BY rowid",
        )?;
        let rows = query.query_map([bank], |row| {
            let at: String = row.get(5)?;
            Ok((row.get::<_, String>(0)?, row.get::<_, Option<String>>(1)?, super::log::actor(row, 2)?, at))
        })?;
        rows.map(|row| {
            let (id, until, by, at) = row?;
            let model = found(models.iter().find(|m| m.id == id).cloned(), "battery model", &id)?;
            Ok(FormerModel { until: until.and_then(|day| day.parse().ok()), model, by, at: instant(&at)? })
        })
        .collect()
    }

    /// Gives a bank another model: from a day on, or none for one that was always wrong. Every verdict of it is
    /// derived anew.
    pub(crate) fn set_model(
        tx: &Transaction<'_>,
        bank: &str,
        model: &str,
        from: Option<Date>,
        (by, now): (&Actor, Timestamp),
    ) -> Result<(), DbError> {
        let stands = Self::by_id(tx, bank)?;
        let stood = from.map(|day| stands.model_id_on(tx, day.yesterday().unwrap_or(day))).transpose()?;
        // An exchange from an earlier day, or for always, overrules those of later days.
        tx.execute(
            "UPDATE bank_model_before SET until_day = NULL WHERE bank_id = ?1 AND (?2 IS NULL OR until_day > ?2)",
            (bank, from.map(|day| day.to_string())),
        )?;
        let record = |model: &str, until: Option<Date>| Self::add_former(tx, bank, model, until, (by, now));
        if let Some(stood) = &stood {
            record(stood, from)?;
        }
        if stood.as_ref() != Some(&stands.model_id) {
            record(&stands.model_id, None)?;
        }
        tx.execute("UPDATE bank SET model_id = ? WHERE id = ?", (model, bank))?;
        tx.execute(
            "UPDATE block SET model_id = ?1 WHERE model_id = ?2 AND id IN \
             (SELECT block_id FROM placement WHERE bank_id = ?3)",
            (model, &stands.model_id, bank),
        )?;
        tx.execute("DELETE FROM assessment WHERE bank_id = ?", [bank])?;
        Self::counted(tx, bank)
    }

    /// Writes down what a bank had before.
    pub(super) fn add_former(
        tx: &Transaction<'_>,
        bank: &str,
        model: &str,
        until: Option<Date>,
        (by, now): (&Actor, Timestamp),
    ) -> Result<(), DbError> {
        tx.execute(
            "INSERT INTO bank_model_before (bank_id, model_id, until_day, person_id, person, at) \
             VALUES (?, ?, ?, ?, ?, ?)",
            (bank, model, until.map(|day| day.to_string()), &by.id, &by.initials, now.to_string()),
        )?;
        Ok(())
    }

    /// Banks that stand on a model, archived ones left out.
    pub(crate) fn on_model(db: &Connection, model: &str) -> Result<Vec<String>, DbError> {
        let mut query = db.prepare_cached(
            "SELECT id FROM bank WHERE model_id = ? AND archived_at IS NULL ORDER BY rowid",
        )?;
        Ok(query.query_map([model], |row| row.get(0))?.collect::<Result<_, _>>()?)
    }
}
