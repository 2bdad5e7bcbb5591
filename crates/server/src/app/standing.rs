//! The last round as it stands today: where batteries were replaced or moved since, their readings
//! went along, and the places of new ones are unread. The round itself stays as it was judged.

use super::judge_rounds::round_context;
use crate::db::assessments::derived;
use crate::db::came::{Came, came_after_round, changed_since};
use crate::db::{BankRow, Connection, DbError, RoundRow, readings};
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::round::{Assessment, RoundEntry, RoundToJudge, judge};
use std::collections::HashMap;

/// A round for the batteries that stand in the bank now.
#[derive(Debug, Clone, PartialEq)]
pub struct Standing {
    /// Its judgement.
    pub assessment: Assessment,
    /// What it was judged from, where that differs from the round's own.
    input: Option<RoundToJudge>,
    /// Places whose battery came after the round and was not read on it, with the day it came.
    pub came: Came,
}

impl Standing {
    /// What it was judged from.
    pub(crate) fn input(&self, db: &Connection, round: &RoundRow) -> Result<RoundToJudge, DbError> {
        if let Some(input) = &self.input {
            return Ok(input.clone());
        }
        let mut input = round_context(db, round)?;
        input.readings = readings::records_of(db, round)?;
        Ok(input)
    }
}

/// The round for the batteries that stand there now; none while it is not judged.
pub(crate) fn standing(db: &Connection, round: &RoundRow) -> Result<Option<Standing>, DbError> {
    let Some(assessment) = derived(db, &round.id)? else { return Ok(None) };
    if !changed_since(db, round)? {
        return Ok(Some(Standing { assessment, input: None, came: Vec::new() }));
    }
    let mut input = round_context(db, round)?;
    let places: HashMap<String, BatteryAddress> =
        BankRow::placements(db, &round.bank_id)?.into_iter().map(|(place, block)| (block, place)).collect();
    input.readings = RoundEntry::records(&readings::at(db, round, &places)?);
    Ok(Some(Standing { assessment: judge(&input), input: Some(input), came: came_after_round(db, round)? }))
}
