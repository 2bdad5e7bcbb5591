//! Photographs of a visit: listed when their files are written, taken out, read.

use super::App;
use super::refused::AppResult;
use crate::db::{PhotoRow, VisitRow, Written};
use crate::photos::{self, Prepared};
use rainshadow_core::actor::Actor;
use std::io;
use std::sync::Arc;

/// The zone of a visit.
///
/// # Errors
/// No such visit, and whatever the reading fails with.
pub async fn zone_of_visit(app: &App, visit: String) -> AppResult<String> {
    Ok(app.db.read(move |db| Ok(VisitRow::by_id(db, &visit)?.zone)).await?)
}

/// Lists a photograph on a visit that is open; its files are written in the same step and get their names
/// when the row is on disk.
///
/// # Errors
/// A closed visit, too many photographs, and whatever the database or the disk says no to.
pub async fn write_photograph(app: &App, row: PhotoRow, prepared: Arc<Prepared>) -> AppResult<Written> {
    let folder = app.db.folder().to_owned();
    let (files, at) = (Arc::clone(&prepared), folder.clone());
    let stored = app
        .write(move |tx| {
            let written = row.write_down(tx)?;
            if written == Written::Created {
                files.write(&at)?;
            }
            Ok(written)
        })
        .await;
    let named = tokio::task::spawn_blocking(move || match stored {
        Ok(written) => {
            if let Err(error) = prepared.name(&folder) {
                tracing::error!(%error, "a photograph is named at the next start");
            }
            Ok(written)
        }
        Err(error) => {
            prepared.forget(&folder);
            Err(error)
        }
    });
    Ok(named.await.map_err(|_join| crate::db::DbError::Crashed)??)
}

/// The bytes of a photograph, small or whole, or why its file, by its hash, cannot be read.
///
/// # Errors
/// No such photograph, and whatever the reading fails with.
pub async fn photograph(
    app: &App,
    id: String,
    small: bool,
) -> AppResult<Result<Vec<u8>, (io::Error, String)>> {
    let folder = app.db.folder().to_owned();
    let read = app.db.read(move |db| {
        let hash = PhotoRow::hash(db, &id, small)?;
        Ok(photos::read(&folder, &hash).map_err(|error| (error, hash)))
    });
    Ok(read.await?)
}

/// Takes a photograph out of its visit; its file stays, as every reading does.
///
/// # Errors
/// A closed visit, and whatever the database says no to.
pub async fn remove_photograph(app: &App, id: String, by: Actor) -> AppResult<()> {
    Ok(app.write(move |tx| PhotoRow::remove(tx, &id, &by.initials)).await?)
}

/// What is written under a photograph, for whoever saw what stood there before.
///
/// # Errors
/// A closed visit, words that somebody changed since, and whatever the database says no to.
pub async fn write_caption(app: &App, id: String, seen: String, caption: String) -> AppResult<()> {
    Ok(app.write(move |tx| PhotoRow::caption(tx, &id, (&seen, &caption))).await?)
}

/// Puts a photograph that was taken out back into its visit.
///
/// # Errors
/// A closed visit, and whatever the database says no to.
pub async fn put_back_photograph(app: &App, id: String) -> AppResult<()> {
    Ok(app.write(move |tx| PhotoRow::put_back(tx, &id)).await?)
}
