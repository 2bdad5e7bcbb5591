//! House rule sets, kept by version so that an old verdict can be told by its own rules.

use super::error::{found, from_json, to_json};
use super::{DbError, Written};
use rainshadow_core::house_rules::HouseRules;
use rusqlite::{Connection, OptionalExtension, Transaction};

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

/// A set of the shop's own as a new version; banks that hold to it are judged by it from now on. A set
/// that is there is changed by whoever says which version he saw.
pub(crate) fn save(tx: &Transaction<'_>, rules: &HouseRules, seen: Option<i64>) -> Result<Written, DbError> {
    if rules.is_shipped() {
        return Err(DbError::ReadOnly { what: "this house rule set" });
    }
    let body = to_json("house rules", rules)?;
    let version = match latest_version(tx, &rules.key) {
        Ok(version) => {
            let stands = by_version(tx, &rules.key, version)?;
            if to_json("house rules", &stands)? == body {
                return Ok(Written::AlreadyThere);
            }
            super::seen("house rule set", seen, version, &stands)?;
            version + 1
        }
        Err(DbError::NotFound { .. }) => 1,
        Err(other) => return Err(other),
    };
    tx.execute(
        "INSERT INTO house_rules (key, version, body, shipped) VALUES (?, ?, ?, 0)",
        (&rules.key, version, &body),
    )?;
    tx.execute(
        "DELETE FROM assessment WHERE bank_id IN (SELECT id FROM bank WHERE rules_key = ?)",
        [&rules.key],
    )?;
    tx.execute("UPDATE bank SET rules_version = ? WHERE rules_key = ?", (version, &rules.key))?;
    Ok(Written::Created)
}
