//! Battery models: those that ship, and the shop's own.

use super::App;
use super::refused::{AppError, AppResult};
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

/// Keeps a battery model of the shop's own, with its figures as typed: a new one, or one that is put right by
/// whoever saw the version that stands.
///
/// # Errors
/// Other cells or another construction than the banks that stand on it, and whatever the database says no to.
pub async fn save_model(
    app: &App,
    id: String,
    model: BatteryModel,
    typed: Option<String>,
    seen: Option<i64>,
) -> AppResult<Written> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| {
        let Some(seen) = seen else {
            return Ok(ModelRow::create(tx, &id, &model, typed.as_deref(), now)?);
        };
        let stands = ModelRow::all(tx)?.into_iter().find(|row| row.id == id && row.banks > 0);
        if let Some(stands) = stands {
            let banks = if stands.banks == 1 {
                "a bank stands".into()
            } else {
                format!("{} banks stand", stands.banks)
            };
            let other = |field: &str, what: &str| {
                let said =
                    format!("{banks} on this model, so its {what} stays; make a model of its own instead.");
                AppError::field(field, rainshadow_core::wording::sentence(&said))
            };
            if stands.model.cells != model.cells {
                return Err(other("cells", "number of cells"));
            }
            if stands.model.construction.has_caps() != model.construction.has_caps() {
                return Err(other("construction", "construction, with caps or sealed,"));
            }
        }
        Ok(ModelRow::correct(tx, &id, &model, typed.as_deref(), (seen, now))?)
    })
    .await
}
