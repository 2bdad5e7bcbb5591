//! House rule sets, kept by version so that an old verdict can be told by its own rules.

use super::DbError;
use super::error::{found, from_json, to_json};
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
