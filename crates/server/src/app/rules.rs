//! The rules a bank is judged by.

use crate::db::{BankRow, Connection, DbError, house_rules};
use rainshadow_core::house_rules::{HouseRules, overridden};

/// The set of a bank, with its own choices over it.
pub fn rules_of(db: &Connection, bank: &BankRow) -> Result<HouseRules, DbError> {
    let set = house_rules::by_version(db, &bank.rules_key, bank.rules_version)?;
    overridden(&set, &bank.overrides).map_err(|e| DbError::BadRow { what: "overrides", why: e.to_string() })
}
