//! What amounts of water can be poured in: the most that is possible, and what is asked about.

use super::{Level, LevelStep};
use crate::battery_model::BatteryModel;
use crate::quantity::{Length, Volume};

/// Electrolyte of a cell where the model publishes none, mL: more than any cell of the trade holds
/// (common practice, no source).
const ACID_UNKNOWN: f64 = 5000.0;
/// Height from bare plates to the plates' tops that a fill can still bring back, mm (common practice,
/// no source).
const UNDER_TOPS_MM: f64 = 10.0;

/// The most water that can be noted for some cells, mL: more than all their electrolyte never goes
/// into them.
pub fn most_water(cells: usize, model: &BatteryModel) -> f64 {
    model.acid_volume.map_or(ACID_UNKNOWN, Volume::millilitres) * count(cells)
}

/// What is asked about an amount before it is kept.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum AmountQuestion {
    /// A level was noted over the mark, and water was added.
    OverTheMark,
    /// More than fits between bare plates and the fill mark.
    MoreThanFits {
        /// mL for each cell.
        each: f64,
    },
}

/// The question that an amount raises, mL, poured into cells that stand at these levels. No question
/// about none. Without a free area in the model nobody can say what fits.
pub fn amount_question(
    millilitres: f64,
    cells: usize,
    levels: &[Level],
    model: &BatteryModel,
) -> Option<AmountQuestion> {
    if millilitres <= 0.0 {
        return None;
    }
    if let Some(over) = over_the_mark(levels, model) {
        return Some(over);
    }
    let mark = model.fill_mark_above_plates.map(Length::millimetres)?;
    let fits = model.free_area? * (mark + UNDER_TOPS_MM);
    let each = millilitres / count(cells);
    (each > fits).then_some(AmountQuestion::MoreThanFits { each })
}

/// What is asked about water that goes where a level stood over the mark already.
pub fn over_the_mark(levels: &[Level], model: &BatteryModel) -> Option<AmountQuestion> {
    let over = levels.iter().any(|level| level.step(model) == LevelStep::Over);
    over.then_some(AmountQuestion::OverTheMark)
}

/// A fill is of one cell at least.
fn count(cells: usize) -> f64 {
    f64::from(u32::try_from(cells).unwrap_or(u32::MAX).max(1))
}
