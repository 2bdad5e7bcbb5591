//! Volts as a person types them: `12.65`, `12,65` and `1265` are the same for a 12-volt battery.

use super::VoltsState;
use crate::quantity::typed::{self, EntryError};
use crate::quantity::{Bounds, bounds};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// No lead-acid cell shows more than this, V: even on an equalize charge.
const MOST_PER_CELL: f64 = 2.9;
/// A cell at rest lies within these, V.
const REST_PER_CELL: (f64, f64) = (1.85, 2.25);

/// What is asked where so many cells cannot show the volts: a point that was forgotten, else another battery.
fn asked(volts: f64, cells: u16, what: &str) -> String {
    let tenths = volts / 10.0;
    let per_cell = tenths / f64::from(cells);
    if (1.0..=MOST_PER_CELL).contains(&per_cell) {
        return format!("Is it {tenths:.1} V?");
    }
    match what {
        "battery" => "Is this another battery, or volts of the string?".into(),
        _ => "Is the point in its place?".into(),
    }
}

/// Volts that cannot be those of this battery.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum VoltsRefused {
    /// No number, or out of all bounds.
    #[error("{0}")]
    Entry(#[from] EntryError),
    /// More than so many cells can show.
    #[error(
        "{volts:.2} V is more than {cells} cells can show; a {} V {what} shows {:.2} to {:.2} V at rest. {}",
        2 * .cells, f64::from(*.cells) * REST_PER_CELL.0, f64::from(*.cells) * REST_PER_CELL.1, asked(*.volts, *.cells, .what)
    )]
    TooMany {
        /// As understood.
        volts: f64,
        /// Cells in series.
        cells: u16,
        /// "battery" or "string".
        what: &'static str,
    },
}

/// Why volts are asked about; they can be kept.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "why", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum VoltsQuestion {
    /// Higher than a rested battery stands.
    High,
    /// Lower than a flat battery stands.
    Low,
    /// About one cell, two volts, is missing.
    CellMissing {
        /// How many cells.
        cells: u8,
    },
}

fn parsed(text: &str, cells: u16) -> Result<f64, VoltsRefused> {
    const VOLTS: Bounds = bounds::VOLTAGE;
    let trimmed = text.trim();
    let digits = trimmed.len() >= 3 && trimmed.bytes().all(|b| b.is_ascii_digit());
    let most = f64::from(cells) * MOST_PER_CELL;
    if digits {
        // Typed without its point: hundredths of a volt, if so many cells could show that at all.
        let whole = trimmed.parse::<f64>().unwrap_or(f64::INFINITY);
        let hundredths = whole / 100.0;
        if whole > most && hundredths >= f64::from(cells) && hundredths <= VOLTS.high {
            return Ok(hundredths);
        }
    }
    Ok(typed::number(text, VOLTS)?)
}

/// What is asked about volts of a battery of so many cells, V; none for a rested one.
pub fn volts_question(volts: f64, cells: u16) -> Option<VoltsQuestion> {
    let per_cell = volts / f64::from(cells);
    if per_cell > REST_PER_CELL.1 {
        return Some(VoltsQuestion::High);
    }
    if per_cell >= REST_PER_CELL.0 {
        return None;
    }
    // Two volts short for each dead cell, the others standing as usual.
    let missing = ((2.1 * f64::from(cells) - volts) / 2.1).round();
    let rest = f64::from(cells) - missing;
    let standing = rest > 0.0 && (REST_PER_CELL.0..=REST_PER_CELL.1).contains(&(volts / rest));
    if cells > 1 && missing >= 1.0 && standing {
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "between 1 and the cells of a string"
        )]
        return Some(VoltsQuestion::CellMissing { cells: missing as u8 });
    }
    Some(VoltsQuestion::Low)
}

/// What is asked about volts that were read in a state; none for those of a sound one.
pub fn state_question(state: VoltsState, volts: f64, cells: u16) -> Option<VoltsQuestion> {
    if state.is_rest() {
        return volts_question(volts, cells);
    }
    let (low, high) = state.usual();
    let per_cell = volts / f64::from(cells);
    if per_cell > high {
        return Some(VoltsQuestion::High);
    }
    (per_cell < low).then_some(VoltsQuestion::Low)
}

fn of(text: &str, cells: u16, what: &'static str) -> Result<f64, VoltsRefused> {
    let volts = parsed(text, cells)?;
    if volts > f64::from(cells) * MOST_PER_CELL {
        return Err(VoltsRefused::TooMany { volts, cells, what });
    }
    Ok(volts)
}

/// Volts of one battery of so many cells.
///
/// # Errors
/// [`VoltsRefused`] for text that is no number and for volts that so many cells cannot show.
pub fn battery_volts(text: &str, cells: u8) -> Result<f64, VoltsRefused> {
    of(text, u16::from(cells), "battery")
}

/// Volts of one string of so many cells in series. A string may truly read a fraction of its volts
/// (an open link), so low volts are a finding and no question.
///
/// # Errors
/// [`VoltsRefused`] as for a battery.
pub fn string_volts(text: &str, cells: u16) -> Result<f64, VoltsRefused> {
    of(text, cells, "string")
}
