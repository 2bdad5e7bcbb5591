//! Feeds of chargers: whose are asked, when, and what they told.

use crate::db::{BankRow, Db, DbError, EquipmentRow, FeedAddress, FeedSample, ModelRow, RunRow};
use jiff::Timestamp;
use std::collections::HashMap;

/// Every charger that tells something, by its bank.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn told_of(db: &Db) -> Result<HashMap<String, FeedAddress>, DbError> {
    Ok(db.read(EquipmentRow::feeds).await?.into_iter().collect())
}

/// What samples of a bank are judged by: its cells in series and its capacity, Ah.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn size(db: &Db, bank: String) -> Result<(u16, f64), DbError> {
    db.read(move |db| {
        let bank = BankRow::by_id(db, &bank)?;
        let model = ModelRow::by_id(db, &bank.model_id)?;
        Ok((bank.shape.cells_in_series(), model.c20.ampere_hours() * f64::from(bank.shape.parallel)))
    })
    .await
}

/// True while a run of the bank is not over.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn in_a_run(db: &Db, bank: String) -> Result<bool, DbError> {
    db.read(move |db| Ok(RunRow::open_of(db, &bank)?.is_some())).await
}

/// Writes what chargers told.
///
/// # Errors
/// Whatever the write fails with; nothing of it is stored then.
pub async fn append(db: &Db, samples: Vec<FeedSample>) -> Result<(), DbError> {
    db.write(move |tx| FeedSample::append(tx, &samples)).await
}

/// Throws away single samples that their minutes stand for by now.
///
/// # Errors
/// Whatever the write fails with.
pub async fn thin(db: &Db, now: Timestamp) -> Result<(), DbError> {
    db.write(move |tx| FeedSample::thin(tx, now)).await.map(|_thrown_away| ())
}
