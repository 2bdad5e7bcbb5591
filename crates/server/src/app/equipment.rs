//! What charges a bank and what hangs on it.

use super::App;
use super::equalize_context::EqualizeContext;
use super::refused::AppResult;
use super::typed::equipment::TypedEquipment;
use crate::db::{BankRow, EquipmentRow, ModelRow, Transaction};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;

/// The equipment of a bank, with all that its settings are judged by.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn equipment_of(app: &App, bank: String) -> AppResult<EqualizeContext> {
    let today = app.clock.today();
    Ok(app.db.read(move |db| EqualizeContext::read(db, &bank, today)).await?)
}

/// Tells what charges a bank; false when another version came between, which is read then.
///
/// # Errors
/// What does not fit, by its field, and whatever the database says no to.
pub async fn fit_equipment(
    app: &App,
    bank: String,
    version: i64,
    (equipment, by): (TypedEquipment, Actor),
) -> AppResult<(EqualizeContext, bool)> {
    let (now, today) = (app.clock.now(), app.clock.today());
    app.write_or_refuse(move |tx| {
        let stored = fit(tx, &bank, version, (&equipment, &by), now)?;
        Ok((EqualizeContext::read(tx, &bank, today)?, stored))
    })
    .await
}

/// Tells what charges a bank, inside a write; false when another version came between.
///
/// # Errors
/// What does not fit, by its field, and whatever the database says no to.
pub fn fit(
    tx: &Transaction<'_>,
    bank: &str,
    version: i64,
    (equipment, by): (&TypedEquipment, &Actor),
    now: Timestamp,
) -> AppResult<bool> {
    let row = BankRow::by_id(tx, bank)?;
    let model = ModelRow::by_id(tx, &row.model_id)?;
    let size = (row.shape.cells_in_series(), row.shape.batteries().count(), row.shape.parallel);
    let fitted = equipment.canonical(&model, size)?;
    let typed = serde_json::to_string(equipment).unwrap_or_default();
    Ok(EquipmentRow::append(tx, bank, version, (&fitted, &typed, by), now)?)
}
