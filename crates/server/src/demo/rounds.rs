//! Rounds of the demo: every cell read with the scatter of an instrument, written by the road of a
//! typed reading.

use super::journal::DayFound;
use super::noise::Noise;
use super::{Oddity, RoundStory, bad, done, told};
use crate::app::judge_rounds::round_context;
use crate::app::live_rounds::LiveRound;
use crate::app::readings::add_reading;
use crate::app::rounds::{RoundToOpen, begin_round, end_round};
use crate::db::{DbError, RoundRow, Transaction};
use jiff::Timestamp;
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::typed;
use rainshadow_core::round::{ReadingKind, RoundEntry};
use std::sync::Arc;

/// Opens a round; it joins the open visit of its bank.
pub(super) fn begin(tx: &Transaction<'_>, open: RoundToOpen, when: Timestamp) -> Result<LiveRound, DbError> {
    let id = open.id.clone();
    told::<_, ()>(begin_round(tx, open, (when, when)).map(Ok))?;
    let row = RoundRow::by_id(tx, &id)?;
    let context = Arc::new(round_context(tx, &row)?);
    LiveRound::load(tx, row, context)
}

/// Finishes a round; it is judged.
pub(super) fn end(tx: &Transaction<'_>, live: &LiveRound, when: Timestamp) -> Result<(), DbError> {
    done(&end_round(tx, (&live.row.id, live.row.version), &live.row.by, when)?)
}

/// One cell read in thousandths, looked at twice by the shop's habit.
pub(super) fn read_as(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    cell: CellAddress,
    shown: f64,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let text = format!("{:03.0}", shown - 1000.0);
    let read = typed::gravity(&text).map_err(|e| bad(&e))?;
    let new = RoundEntry {
        typed: Some(text),
        stands: true,
        by: live.row.by.clone(),
        ..RoundEntry::of_gravity(&noise.id(), cell, read, when)
    };
    told::<_, ()>(add_reading(tx, live, new, (when, when)).map(Ok))
}

/// What the float of an instrument shows of a cell, in points over 1.000: the truth at its temperature,
/// the scatter of the hand, the nearest mark.
pub(super) fn sample(
    row: &RoundRow,
    shape: &BankShape,
    found: &DayFound,
    cell: CellAddress,
    noise: &mut Noise,
) -> Result<f64, DbError> {
    let place = shape.cells().position(|own| own == cell);
    let truth = place.and_then(|p| found.cells.get(p)).ok_or_else(|| bad(&"no such cell in the journal"))?;
    let coefficient = HouseRules::maker_first().correction.coefficient();
    // SG-1 backwards: warm acid is lighter.
    let warm =
        if row.instrument.corrects_for_temperature { 0.0 } else { coefficient * (found.celsius - 25.0) };
    let mark = row.instrument.resolution.value();
    let scatter = 0.6 * row.instrument.repeatability.value() * noise.normal();
    Ok((((truth.gravity() - warm) * 1000.0 + scatter) / mark).round() * mark)
}

/// One cell of a round: typed in three digits, appended.
pub(super) fn take(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    round: &RoundStory,
    cell: CellAddress,
    shown: f64,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let oddity = round.oddities.iter().find(|(address, _)| *address == cell.to_string()).map(|(_, o)| o);
    let mut append = |kind, points: Option<f64>, reason: Option<&str>, supersedes: Option<String>, stands| {
        let text = points.map(|p| format!("{:03.0}", p - 1000.0));
        let new = RoundEntry {
            id: noise.id(),
            cell,
            kind,
            gravity: text.as_deref().map(typed::gravity).transpose().map_err(|e| bad(&e))?,
            typed: text,
            temperature: None,
            temperature_typed: None,
            reason: reason.map(Into::into),
            stands,
            supersedes,
            by: live.row.by.clone(),
            taken_at: when,
            standing: true,
        };
        let id = new.id.clone();
        told::<_, ()>(add_reading(tx, live, new, (when, when)).map(Ok))?;
        Ok::<String, DbError>(id)
    };
    match oddity {
        Some(Oddity::NotRead(why)) => {
            append(ReadingKind::NotRead, None, Some(why), None, false)?;
        }
        Some(Oddity::Misread(by)) => {
            append(ReadingKind::Gravity, Some(shown + by), None, None, false)?;
        }
        Some(Oddity::MisreadFirst(by)) => {
            let first = append(ReadingKind::Gravity, Some(shown + by), None, None, false)?;
            append(ReadingKind::Gravity, Some(shown), None, Some(first), false)?;
        }
        // Everything else was looked at twice by the shop's habit and stands.
        None => {
            append(ReadingKind::Gravity, Some(shown), None, None, true)?;
        }
    }
    Ok(())
}
