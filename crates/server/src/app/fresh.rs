//! Pages that rest on derived rows: what is missing is worked out and kept before they are read. Where
//! the disk takes nothing any more they are read all the same, and what was worked out is thrown away
//! again; a bank with a row that cannot be read holds up no other.

use super::App;
use super::bank_state::refresh;
use super::judge_rounds::derive_missing;
use super::records::judged::JudgedYear;
use crate::db::{BankRow, Connection, Transaction};
use crate::db::{DbError, assessments, derived, due};
use std::collections::BTreeSet;
use std::sync::Arc;

/// Banks worked out in one write: who wants to write meanwhile waits for a few, not for all.
const PART: usize = 8;

/// What a page rests on.
#[derive(Debug, Clone)]
pub enum Wanted {
    /// What is due on every bank.
    All,
    /// What is due on one bank.
    Bank(String),
    /// The judgement of every round of some banks.
    Judged(Vec<String>),
}

/// Why a bank cannot be shown, without what stands in the row.
pub fn said(error: &DbError) -> String {
    let what = if let DbError::BadRow { what, .. } = error { what } else { "row" };
    format!("A row cannot be read ({what}); “rainshadow doctor” names it and can set it aside.")
}

/// A derived row that cannot be read goes with all that is derived of its bank.
fn forget(tx: &Transaction<'_>, bank: &str, what: &str, why: &str) -> Result<(), DbError> {
    tracing::warn!(bank, what, why, "what is derived of a bank is derived anew");
    derived::forget(tx, bank)
}

/// Works out some banks, each by itself: one that cannot be read is told, and the others are kept.
fn work_out(
    tx: &Transaction<'_>,
    banks: &[String],
    each: impl Fn(&Transaction<'_>, &str) -> Result<(), DbError>,
) -> Result<Vec<(String, String)>, DbError> {
    let mut unreadable = Vec::new();
    let anew = |bank: &String| match each(tx, bank) {
        Err(DbError::BadDerived { bank: of, what, why }) => {
            forget(tx, &of, what, &why)?;
            each(tx, bank)
        }
        done => done,
    };
    for bank in banks {
        tx.execute_batch("SAVEPOINT bank")?;
        match anew(bank) {
            Ok(()) => tx.execute_batch("RELEASE bank")?,
            Err(error) if error.is_of_storage() => return Err(error),
            Err(error) => {
                tracing::error!(%error, bank, "a bank cannot be worked out");
                unreadable.push((bank.clone(), said(&error)));
                tx.execute_batch("ROLLBACK TO bank; RELEASE bank")?;
            }
        }
    }
    Ok(unreadable)
}

fn todo(db: &Connection, wanted: &Wanted) -> Result<Vec<String>, DbError> {
    let stale = || due::stale(db);
    Ok(match wanted {
        Wanted::All => stale()?,
        Wanted::Bank(id) => stale()?.into_iter().filter(|own| own == id).collect(),
        Wanted::Judged(banks) => {
            let mut todo = Vec::new();
            for bank in banks {
                if !assessments::missing(db, bank)?.is_empty() {
                    todo.push(bank.clone());
                }
            }
            todo
        }
    })
}

fn one(wanted: &Wanted, tx: &Transaction<'_>, bank: &str) -> Result<(), DbError> {
    match wanted {
        Wanted::Judged(_) => derive_missing(tx, bank).map(drop),
        _ => refresh(tx, bank),
    }
}

/// Years of records that are not kept. They are judged beside the writer, since one takes as long as many
/// saved readings; what cannot be read is told by who works the bank out.
fn years_missing(db: &Connection, banks: &[String]) -> Vec<JudgedYear> {
    let year = |bank: &String| JudgedYear::missing(db, &BankRow::by_id(db, bank)?);
    banks.iter().filter_map(|bank| year(bank).ok().flatten()).collect()
}

/// Works out what is missing and keeps it.
///
/// # Errors
/// Whatever the database fails with.
pub(super) async fn kept(app: &App, wanted: &Wanted) -> Result<(), DbError> {
    let asked = wanted.clone();
    let missing = app.db.read(move |db| todo(db, &asked)).await?;
    let commits = app.db.commits();
    let missing: Vec<String> =
        missing.into_iter().filter(|bank| !app.unreadable.is_known(bank, commits)).collect();
    for part in missing.chunks(PART) {
        let (banks, asked): (Arc<[String]>, _) = (part.into(), wanted.clone());
        let years = if let Wanted::Judged(_) = wanted {
            Vec::new()
        } else {
            let banks = Arc::clone(&banks);
            app.db.read(move |db| Ok(years_missing(db, &banks))).await?
        };
        let worked_out = Arc::clone(&banks);
        let found = app.db.write(move |tx| {
            years.iter().try_for_each(|year| year.keep(tx))?;
            work_out(tx, &worked_out, |tx, bank| one(&asked, tx, bank))
        });
        app.unreadable.keep(found.await?, &banks, app.db.commits());
    }
    Ok(())
}

/// Works out everything that is missing, so that the first page does not wait for it.
pub async fn catch_up(app: App) {
    if let Err(error) = kept(&app, &Wanted::All).await {
        tracing::warn!(?error, "not everything could be derived at the start");
    }
}

/// Reads a page after what it rests on was worked out. Where it meets a derived row that cannot be read,
/// all that is derived of that bank is derived anew, and it is read once more.
///
/// # Errors
/// Whatever the reading fails with; a disk that takes nothing is none.
pub async fn read<T: Send + 'static>(
    app: &App,
    wanted: Wanted,
    page: impl FnOnce(&Connection) -> Result<T, DbError> + Clone + Send + 'static,
) -> Result<T, DbError> {
    let mut forgotten = BTreeSet::new();
    loop {
        match read_once(app, wanted.clone(), page.clone()).await {
            Err(DbError::BadDerived { bank, what, why }) if forgotten.insert(bank.clone()) => {
                app.write(move |tx| forget(tx, &bank, what, &why)).await?;
            }
            done => return done,
        }
    }
}

async fn read_once<T: Send + 'static>(
    app: &App,
    wanted: Wanted,
    page: impl FnOnce(&Connection) -> Result<T, DbError> + Send + 'static,
) -> Result<T, DbError> {
    match kept(app, &wanted).await {
        Ok(()) => app.db.read(page).await,
        Err(error) if error.is_of_storage() => {
            tracing::warn!(%error, "read without keeping what was derived");
            let done = app.db.unwritten(move |tx| {
                let missing = todo(tx, &wanted)?;
                work_out(tx, &missing, |tx, bank| one(&wanted, tx, bank))?;
                page(tx)
            });
            done.await
        }
        Err(error) => Err(error),
    }
}
