//! The battery that is failing, by what is on record.

use crate::app::diagnosis::diagnosed_by;
use crate::app::standing::standing;
use crate::db::{BankRow, Connection, DbError, RoundRow};
use jiff::civil::Date;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::diagnosis::{Hypothesis, Standing};
use rainshadow_core::quantity::Points;
use rainshadow_core::round::JudgedCell;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::PastVisit;
use rainshadow_core::wording;

/// By the last judged round, else by the diagnosis; none: nothing speaks against one of them.
pub(super) fn failing(
    db: &Connection,
    bank: &BankRow,
    visits: &[PastVisit],
    today: Date,
) -> Result<Option<(BatteryAddress, String)>, DbError> {
    match by_round(db, bank, today)? {
        Some(own) => Ok(Some(own)),
        None => by_diagnosis(db, bank, visits, today),
    }
}

/// A weak or shorted cell that is likely or possible, where one sign says in which battery.
fn by_diagnosis(
    db: &Connection,
    bank: &BankRow,
    visits: &[PastVisit],
    today: Date,
) -> Result<Option<(BatteryAddress, String)>, DbError> {
    let own = diagnosed_by(db, bank, visits, today)?.diagnosis;
    let cell = |kind| matches!(kind, Hypothesis::WeakCell | Hypothesis::ShortedCell);
    let believed = |standing| matches!(standing, Standing::Likely | Standing::Possible);
    let found = own.ranked.iter().filter(|own| cell(own.hypothesis) && believed(own.standing));
    Ok(found.into_iter().find_map(|own| {
        let battery = wording::hypothesis_place(own).and_then(place)?;
        Some((battery, format!("diagnosis: {}", wording::hypothesis_placed(own))))
    }))
}

/// "A5", or the battery of "A5-2".
fn place(text: &str) -> Option<BatteryAddress> {
    text.parse().ok().or_else(|| text.parse::<CellAddress>().ok().map(|own| own.battery))
}

/// The battery of the worst cell of the last judged round; none: none is worth watching.
fn by_round(
    db: &Connection,
    bank: &BankRow,
    today: Date,
) -> Result<Option<(BatteryAddress, String)>, DbError> {
    let last = RoundRow::of_bank(db, &bank.id)?.into_iter().find(|own| own.finished_at.is_some());
    let Some(round) = last else { return Ok(None) };
    let Some(judged) = standing(db, &round)? else { return Ok(None) };
    let watched = judged.assessment.cells.iter().filter(|own| own.condition >= Severity::Watch);
    let low = |own: &&JudgedCell| own.deviation.map_or(0.0, Points::value);
    let worst = watched.min_by(|a, b| low(a).total_cmp(&low(b))).filter(|own| low(own) < 0.0);
    Ok(worst.map(|own| {
        let day = wording::short_day(round.day(), today);
        (own.cell.battery, format!("{} stood {:.0} points under its mates on {day}", own.cell, -low(&own)))
    }))
}
