//! The model of a bank put right: it was always another, or it is another from a day on.

use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{BankRow, Connection, DbError, FormerModel, ModelRow, Site, Transaction, Written};
use crate::words;
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::battery_model::BatteryModel;

/// What a bank is made of, what it had before, and what it could be made of as it is described.
pub struct ModelOfBank {
    /// The bank.
    pub bank: BankRow,
    /// Models with the same cells in a case, with caps or sealed alike.
    pub fitting: Vec<ModelRow>,
    /// What it had before.
    pub former: Vec<FormerModel>,
}

fn fits(model: &BatteryModel, stands: &BatteryModel) -> bool {
    model.cells == stands.cells && model.construction.has_caps() == stands.construction.has_caps()
}

fn read(db: &Connection, bank: &str) -> Result<ModelOfBank, DbError> {
    let bank = BankRow::by_id(db, bank)?;
    let stands = ModelRow::by_id(db, &bank.model_id)?;
    let fitting = ModelRow::all(db)?.into_iter().filter(|row| fits(&row.model, &stands)).collect();
    Ok(ModelOfBank { former: BankRow::former_models(db, &bank.id)?, bank, fitting })
}

/// Reads it.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn model_of_bank(app: &App, bank: String) -> AppResult<ModelOfBank> {
    Ok(app.db.read(move |db| read(db, &bank)).await?)
}

/// A day from which on a model stands is one that has come.
fn has_come(from: Option<Date>, bank: &BankRow, tx: &Transaction<'_>, now: Timestamp) -> AppResult<()> {
    let today = words::local_day(now, &Site::by_id(tx, &bank.site_id)?.zone);
    match from {
        Some(day) if day > today => {
            let said = format!("{} lies in the future; accepted is today or earlier.", words::day(day));
            Err(AppError::field("from", said))
        }
        _ => Ok(()),
    }
}

/// Gives a bank that still has the version the person saw another model.
///
/// # Errors
/// Other cells or another construction, a day to come, and whatever the database says no to.
pub async fn exchange_model(
    app: &App,
    (bank, version): (String, i64),
    (model, from): (String, Option<Date>),
    by: Actor,
) -> AppResult<()> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| {
        let stands = BankRow::as_seen(tx, &bank, version)?;
        if stands.archived_at.is_some() {
            return Err(DbError::Archived.into());
        }
        if stands.model_id == model {
            return Err(AppError::field("model", "The bank stands on this model already."));
        }
        let (wanted, own) = (ModelRow::by_id(tx, &model)?, ModelRow::by_id(tx, &stands.model_id)?);
        if !fits(&wanted, &own) {
            let said = format!(
                "{} does not fit this bank as it is described: accepted is a model of {} cells in a case, {}.",
                wanted.name,
                own.cells,
                if own.construction.has_caps() { "with caps" } else { "sealed" }
            );
            return Err(AppError::field("model", said));
        }
        has_come(from, &stands, tx, now)?;
        Ok(BankRow::set_model(tx, &bank, &model, from, (&by, now))?)
    })
    .await
}

/// Figures of a model of the shop's own from a day on: they are a model of their own, which every bank on the old
/// one stands on from then.
///
/// # Errors
/// A model that ships, other cells or another construction, a day to come, and whatever the database says no to.
pub async fn supersede_model(
    app: &App,
    (old, new): (String, String),
    (model, typed): (BatteryModel, Option<String>),
    from: Date,
    by: Actor,
) -> AppResult<Written> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| {
        let stands = ModelRow::all(tx)?.into_iter().find(|row| row.id == old);
        let Some(stands) = stands else {
            return Err(DbError::NotFound { what: "battery model", id: old }.into());
        };
        if stands.shipped {
            return Err(DbError::ReadOnly { what: "this battery model" }.into());
        }
        if !fits(&model, &stands.model) {
            let said = "What stands on it keeps its cells and its caps; make a model of its own instead.";
            return Err(AppError::field("cells", said));
        }
        let written = ModelRow::create(tx, &new, &model, typed.as_deref(), now)?;
        if written == Written::Created {
            for bank in BankRow::on_model(tx, &old)? {
                has_come(Some(from), &BankRow::by_id(tx, &bank)?, tx, now)?;
                BankRow::set_model(tx, &bank, &new, Some(from), (&by, now))?;
            }
        }
        Ok(written)
    })
    .await
}
