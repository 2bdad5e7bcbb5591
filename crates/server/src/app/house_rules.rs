//! House rule sets: those that ship, and the shop's own.

use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{DbError, Written, house_rules as rules};
use rainshadow_core::diagnosis::HouseWeights;
use rainshadow_core::house_rules::{HouseRules, Overrides, overridden};

/// A set with the version that stands, for If-Match.
pub type Versioned = (HouseRules, i64);

/// Every set, the default first.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn all_house_rules(app: &App) -> AppResult<Vec<Versioned>> {
    let read = app.db.read(|db| {
        let versioned = |set: HouseRules| Ok((rules::latest_version(db, &set.key)?, set));
        let all: Result<Vec<_>, DbError> = rules::latest(db)?.into_iter().map(versioned).collect();
        Ok(all?.into_iter().map(|(version, set)| (set, version)).collect())
    });
    Ok(read.await?)
}

/// One set.
///
/// # Errors
/// No set of that key, and whatever the reading fails with.
pub async fn house_rules_of(app: &App, key: String) -> AppResult<Versioned> {
    let read = app.db.read(move |db| {
        let version = rules::latest_version(db, &key)?;
        Ok((rules::by_version(db, &key, version)?, version))
    });
    Ok(read.await?)
}

/// A set of the shop's own as it is described: copied from another, with its own choices.
#[derive(Debug, Clone)]
pub struct OwnRules {
    /// Its key.
    pub key: String,
    /// Key of the set it was copied from.
    pub from: String,
    /// Its name.
    pub name: String,
    /// What it suits.
    pub suits: String,
    /// True when the maker's own limits win over this set's.
    pub maker_limits_win: bool,
    /// Its choices by name; what is left out is as in the set it was copied from.
    pub choices: Overrides,
    /// Weights of the diagnosis that it takes otherwise; none: as in the set it was copied from.
    pub weights: Option<HouseWeights>,
}

/// Keeps a set of the shop's own, new or changed by whoever saw the version that stands; banks that hold
/// to it are judged by it from now on.
///
/// # Errors
/// A key or a choice that cannot be, and whatever the database says no to.
pub async fn save_house_rules(app: &App, own: OwnRules, seen: Option<i64>) -> AppResult<Written> {
    let known = |b: u8| b.is_ascii_alphanumeric() || b == b'-' || b == b'_';
    if own.key.is_empty() || own.key.len() > 64 || !own.key.bytes().all(known) {
        return Err(AppError::field("key", "A key has 1 to 64 letters, digits, - or _."));
    }
    app.write_or_refuse(move |tx| {
        let base = rules::by_version(tx, &own.from, rules::latest_version(tx, &own.from)?)?;
        let mut set = overridden(&base, &own.choices).map_err(|e| AppError::refused(e.field(), &e))?;
        set.key = own.key;
        own.name.trim().clone_into(&mut set.name);
        own.suits.trim().clone_into(&mut set.suits);
        set.maker_limits_win = own.maker_limits_win;
        if let Some(weights) = own.weights {
            set.weights = weights;
        }
        let set = set.checked().map_err(|e| AppError::refused(e.field(), &e))?;
        Ok(rules::save(tx, &set, seen)?)
    })
    .await
}
