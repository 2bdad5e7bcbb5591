//! Battery models: those that ship, and the shop's own.

use super::App;
use super::refused::AppResult;
use crate::db::{ModelRow, Written};
use rainshadow_core::battery_model::BatteryModel;

/// All battery models, the shop's own first.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn all_models(app: &App) -> AppResult<Vec<ModelRow>> {
    Ok(app.db.read(ModelRow::all).await?)
}

/// The figures of one.
///
/// # Errors
/// No model of that id, and whatever the reading fails with.
pub async fn model_of(app: &App, id: String) -> AppResult<BatteryModel> {
    Ok(app.db.read(move |db| ModelRow::by_id(db, &id)).await?)
}

/// A new battery model, with its figures as typed.
///
/// # Errors
/// Whatever the database says no to.
pub async fn create_model(
    app: &App,
    id: String,
    model: BatteryModel,
    typed: Option<String>,
) -> AppResult<Written> {
    let now = app.clock.now();
    Ok(app.write(move |tx| ModelRow::create(tx, &id, &model, typed.as_deref(), now)).await?)
}
