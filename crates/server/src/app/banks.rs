//! Banks: described, put right, judged by another house rule set, archived.

use super::App;
use super::refused::{AppError, AppResult};
use super::sites;
use crate::db::{
    AccessNotes, BankEdit, BankRow, DbError, ModelRow, NewBank, Site, Transaction, Written, house_rules,
};
use crate::words;
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::{Overrides, overridden};

fn fitting(mut shape: BankShape, cells: u8) -> AppResult<BankShape> {
    shape.cells_per_battery = cells;
    shape.checked().map_err(|e| AppError::field(e.field(), format!("{e}.")))
}

fn in_service(text: Option<String>, today: Date) -> AppResult<Option<String>> {
    let day = text.map(|d| d.trim().to_owned()).filter(|d| !d.is_empty());
    match day {
        Some(day) if !words::is_remembered_day(&day, today) => {
            let said = format!(
                "“{day}” is no date in service; accepted is 2021, 2021-05, 2021-05-03, or nothing, from 1950 to today."
            );
            Err(AppError::field("in_service", said))
        }
        day => Ok(day),
    }
}

/// A bank of a battery model as it would stand.
///
/// # Errors
/// A shape that cannot be, and whatever the reading fails with.
pub async fn drafted_bank(
    app: &App,
    model: String,
    shape: BankShape,
) -> AppResult<(BankShape, BatteryModel)> {
    let model = app.db.read(move |db| ModelRow::by_id(db, &model)).await?;
    Ok((fitting(shape, model.cells)?, model))
}

/// A bank with its site and its batteries.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn described_bank(app: &App, id: String) -> AppResult<(BankRow, Site, BatteryModel)> {
    let read = app.db.read(move |db| {
        let bank = BankRow::by_id(db, &id)?;
        let site = Site::by_id(db, &bank.site_id)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        Ok((bank, site, model))
    });
    Ok(read.await?)
}

/// A new bank.
///
/// # Errors
/// A shape or a day that cannot be, and whatever the database says no to.
pub async fn create_bank(app: &App, id: String, bank: NewBank) -> AppResult<Written> {
    let (now, today) = (app.clock.now(), app.clock.today());
    app.write_or_refuse(move |tx| add_bank(tx, &id, bank, (now, today))).await
}

/// A new bank, inside a write.
///
/// # Errors
/// A shape or a day that cannot be, and whatever the database says no to.
pub fn add_bank(
    tx: &Transaction<'_>,
    id: &str,
    mut bank: NewBank,
    (now, today): (Timestamp, Date),
) -> AppResult<Written> {
    let model = ModelRow::by_id(tx, &bank.model)?;
    bank.shape = fitting(bank.shape, model.cells)?;
    bank.in_service = in_service(bank.in_service, today)?;
    Ok(BankRow::create(tx, id, &bank, now)?)
}

/// Puts the description of a bank right that still has the version the person saw.
///
/// # Errors
/// Names, a zone, a day or a layout that do not fit, and whatever the database says no to.
pub async fn edit_bank(app: &App, id: String, version: i64, mut edit: BankEdit) -> AppResult<()> {
    let (today, now) = (app.clock.today(), app.clock.now());
    edit.site_name = sites::name(&edit.site_name, "site_name", "The site")?;
    sites::zone(&edit.zone)?;
    sites::air((edit.climate.as_ref(), edit.lows), edit.latitude)?;
    edit.in_service = in_service(edit.in_service, today)?;
    app.write_or_refuse(move |tx| {
        let shape = BankRow::by_id(tx, &id)?.shape;
        let cells = shape.cells_per_battery;
        fitting(BankShape { layout: edit.layout.clone(), ..shape }, cells)?;
        Ok(BankRow::edit(tx, &id, version, &edit, today, now)?)
    })
    .await
}

/// Deletes a bank of which nothing is written down; any other is archived.
///
/// # Errors
/// What is written down of it, and whatever the database says no to.
pub async fn delete_bank(app: &App, id: String, by: Actor) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| BankRow::delete(tx, &id, now, &by)).await?)
}

/// Archives a bank, or brings an archived one back.
///
/// # Errors
/// Whatever the database says no to.
pub async fn archive_bank(app: &App, id: String, archived: bool, by: Actor) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| BankRow::set_archived(tx, &id, archived.then_some(now), (now, &by))).await?)
}

/// Judges a bank by another house rule set from now on.
///
/// # Errors
/// A version that is not the last, and whatever the database says no to.
pub async fn hold_to_rules(app: &App, id: String, version: i64, rules: String) -> AppResult<()> {
    let held = app.write(move |tx| {
        BankRow::as_seen(tx, &id, version)?;
        BankRow::set_rules(tx, &id, &rules)
    });
    Ok(held.await?)
}

/// Lets a bank take single choices otherwise than its house rule set.
///
/// # Errors
/// A choice that there is not or that cannot be, and whatever the database says no to.
pub async fn own_choices(app: &App, id: String, version: i64, choices: Overrides) -> AppResult<()> {
    app.write_or_refuse(move |tx| {
        let bank = BankRow::by_id(tx, &id)?;
        let base = house_rules::by_version(tx, &bank.rules_key, bank.rules_version)?;
        overridden(&base, &choices).map_err(|e| AppError::refused(e.field(), &e))?;
        BankRow::as_seen(tx, &id, version)?;
        Ok(BankRow::set_overrides(tx, &id, &choices)?)
    })
    .await
}

/// Writes down what the next visitor must know.
///
/// # Errors
/// A version that is not the last, and whatever the database says no to.
pub async fn write_access(
    app: &App,
    id: String,
    version: i64,
    (notes, by): (AccessNotes, Actor),
) -> AppResult<()> {
    Ok(app.write(move |tx| note_access(tx, &id, version, (&notes, &by))).await?)
}

/// Writes down what the next visitor must know, inside a write.
///
/// # Errors
/// A version that is not the last, and whatever the database says no to.
pub fn note_access(
    tx: &Transaction<'_>,
    id: &str,
    version: i64,
    (notes, by): (&AccessNotes, &Actor),
) -> Result<(), DbError> {
    BankRow::as_seen(tx, id, version)?;
    BankRow::set_access(tx, id, notes, &by.initials)
}

/// True when there is any bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn any_bank(app: &App) -> Result<bool, DbError> {
    app.db.read(BankRow::any).await
}
