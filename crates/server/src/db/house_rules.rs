//! House rule sets, kept by version so that an old verdict can be told by its own rules.

use super::DbError;
use super::error::{found, from_json, to_json};
use rainshadow_core::house_rules::HouseRules;
use rusqlite::{Connection, OptionalExtension, Transaction};
use serde_json::Value;

/// Stores the sets that ship; a changed set becomes the next version.
pub(super) fn ship(tx: &Transaction<'_>) -> Result<(), DbError> {
    for rules in HouseRules::shipped() {
        let body = to_json("house rules", &rules)?;
        let latest: Option<(i64, String)> = tx
            .query_row(
                "SELECT version, body FROM house_rules WHERE key = ? ORDER BY version DESC LIMIT 1",
                [&rules.key],
                |row| Ok((row.get(0)?, row.get(1)?)),
            )
            .optional()?;
        let version = match latest {
            Some((_, stored)) if stored == body => continue,
            Some((version, _)) => version + 1,
            None => 1,
        };
        tx.execute(
            "INSERT INTO house_rules (key, version, body, shipped) VALUES (?, ?, ?, 1)",
            (&rules.key, version, &body),
        )?;
    }
    Ok(())
}

/// The latest version of every set, in the order they ship.
pub(crate) fn latest(db: &Connection) -> Result<Vec<HouseRules>, DbError> {
    db.prepare_cached(
        "SELECT body FROM house_rules h WHERE version = (SELECT max(version) FROM house_rules WHERE key = h.key) \
         ORDER BY rowid",
    )?
    .query_map([], |row| row.get::<_, String>(0))?
    .map(|body| from_json("house rules", &body?))
    .collect()
}

/// The latest version number of a set.
pub(crate) fn latest_version(db: &Connection, key: &str) -> Result<i64, DbError> {
    let version: Option<i64> = db
        .prepare_cached("SELECT max(version) FROM house_rules WHERE key = ?")?
        .query_row([key], |row| row.get(0))?;
    found(version, "house rule set", key)
}

/// One version of a set.
pub(crate) fn by_version(db: &Connection, key: &str, version: i64) -> Result<HouseRules, DbError> {
    let body: Option<String> = db
        .prepare_cached("SELECT body FROM house_rules WHERE key = ? AND version = ?")?
        .query_row((key, version), |row| row.get(0))
        .optional()?;
    from_json("house rules", &found(body, "house rule set", key)?)
}

/// Single choices of a house rule set taken otherwise by one bank, by the name of the choice.
pub type Overrides = std::collections::BTreeMap<String, Option<f64>>;

/// The rules a bank is judged by: its set, with the bank's own choices over it.
pub(crate) fn of_bank(db: &Connection, bank: &super::BankRow) -> Result<HouseRules, DbError> {
    let set = by_version(db, &bank.rules_key, bank.rules_version)?;
    with_overrides(&set, &bank.overrides)
}

/// Days and hours are whole; what is left out is nothing.
fn number(value: Option<f64>) -> Value {
    match value {
        #[expect(clippy::cast_possible_truncation, reason = "whole and small, or refused by the rule's type")]
        Some(whole) if whole.fract() == 0.0 && whole.abs() < 1e9 => Value::from(whole as i64),
        Some(value) => Value::from(value),
        None => Value::Null,
    }
}

/// A set with single choices taken otherwise.
pub(crate) fn with_overrides(set: &HouseRules, overrides: &Overrides) -> Result<HouseRules, DbError> {
    if overrides.is_empty() {
        return Ok(set.clone());
    }
    let bad = |why: String| DbError::BadRow { what: "overrides", why };
    let mut body = serde_json::to_value(set).map_err(|e| bad(e.to_string()))?;
    if let Some(body) = body.as_object_mut() {
        body.extend(overrides.iter().map(|(choice, value)| (choice.clone(), number(*value))));
    }
    let mut rules: HouseRules = serde_json::from_value(body).map_err(|e| bad(e.to_string()))?;
    rules.name = format!("{}, with this bank's own choices", set.name);
    Ok(rules)
}
