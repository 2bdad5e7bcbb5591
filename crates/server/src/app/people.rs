//! People the folder knows, kept in memory: who acts is named by every entry.

use crate::db::{Db, DbError, Person};
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
    /// A person; none where the folder knows nobody by that id.
    ///
    /// # Errors
    /// Whatever reading a person fails with.
    pub async fn find(&self, db: &Db, id: &str) -> Result<Option<Person>, DbError> {
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
