//! People the folder knows, kept in memory: who acts is named by every entry.

use super::App;
use super::refused::AppResult;
use crate::db::{Db, DbError, Person, Transaction};
use jiff::Timestamp;
use std::collections::HashMap;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Mutex, PoisonError};

/// People by id, each with the count of changes when they were read.
#[derive(Default)]
pub struct KnownPeople {
    changes: AtomicU64,
    by_id: Mutex<HashMap<String, (u64, Person)>>,
}

impl KnownPeople {
    async fn find(&self, db: &Db, id: &str) -> Result<Option<Person>, DbError> {
        let changes = self.changes.load(Ordering::SeqCst);
        let known = self.by_id.lock().unwrap_or_else(PoisonError::into_inner).get(id).cloned();
        if let Some((_, person)) = known.filter(|(at, _)| *at == changes) {
            return Ok(Some(person));
        }
        let asked = id.to_owned();
        let found = db.read(move |db| Ok(Person::by_id(db, &asked).ok())).await?;
        if let Some(person) = &found {
            let mut by_id = self.by_id.lock().unwrap_or_else(PoisonError::into_inner);
            by_id.insert(id.to_owned(), (changes, person.clone()));
        }
        Ok(found)
    }

    /// Says that somebody changed.
    pub fn changed(&self) {
        self.changes.fetch_add(1, Ordering::SeqCst);
    }
}

/// A person; none where the folder knows nobody by that id.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn known_person(app: &App, id: &str) -> AppResult<Option<Person>> {
    Ok(app.people.find(&app.db, id).await?)
}

/// Everybody, by initials.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn all_people(app: &App) -> AppResult<Vec<Person>> {
    Ok(app.db.read(Person::all).await?)
}

/// One person.
///
/// # Errors
/// Nobody by that id, and whatever the reading fails with.
pub async fn person_of(app: &App, id: String) -> AppResult<Person> {
    Ok(app.db.read(move |db| Person::by_id(db, &id)).await?)
}

/// Keeps a person, new or changed by whoever saw the version that stands; the version from now on.
///
/// # Errors
/// Somebody else's change, and whatever the database says no to.
pub async fn save_person(app: &App, person: Person, seen: Option<i64>) -> AppResult<i64> {
    let now = app.clock.now();
    let version = app.write(move |tx| keep_person(tx, &person, seen, now)).await?;
    app.people.changed();
    Ok(version)
}

/// Keeps a person, inside a write; the version from now on.
///
/// # Errors
/// Somebody else's change, and whatever the database says no to.
pub fn keep_person(
    tx: &Transaction<'_>,
    person: &Person,
    seen: Option<i64>,
    now: Timestamp,
) -> Result<i64, DbError> {
    person.save(tx, seen, now)
}
