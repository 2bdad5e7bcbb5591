//! SG-6: gravity over full, by acid that was added or by water that is gone.

use super::RoundToJudge;
use super::centre;
use super::condition::STEADY_POINTS;
use super::pattern::{OffFull, Pattern};
use super::shape::Shape;
use crate::bank::CellAddress;
use crate::instrument::{Limit, Uncertainty, noise_of_a_cell};
use crate::quantity::{Points, SpecificGravity};

/// A cell this far over full is over it, points (SG-6).
const OVER_FULL: f64 = 15.0;
/// Where single cells are over full and like their mates, the whole bank is from here on, points.
const NEARLY_OVER: f64 = 10.0;
/// Points that acid gains for a level so many mm under its mark (SG-4).
const GAINED: f64 = 15.0;
const FOR_MILLIMETRES: f64 = 13.0;

/// What stands over full.
#[derive(Debug, Clone)]
pub(crate) struct OverFull {
    /// True when the whole bank does.
    pub all: bool,
    /// Cells that do while the others do not; empty for the whole bank.
    pub cells: Vec<CellAddress>,
    /// Highest of them, or the centre of the whole bank, over full.
    pub by: Points,
    /// The limit.
    pub limit: Limit,
    /// Largest recorded lack of level that explains it, mm; none where it is acid, or nobody looked.
    pub low_level: Option<f64>,
    /// Centre of the other cells, where some stand over full by themselves.
    pub centre_of_others: Option<SpecificGravity>,
}

impl OverFull {
    /// Whether the bank, or cells of it, stand over full. It needs no proof of a full charge: nothing else
    /// lifts gravity over it.
    pub(super) fn of(
        round: &RoundToJudge,
        cells: &[(CellAddress, SpecificGravity)],
        pattern: &Pattern,
        uncertainty: Uncertainty,
    ) -> Option<Self> {
        let full = round.model.full_gravity;
        let below = |cell: CellAddress| {
            round.low_levels.iter().find(|l| l.cell == cell).map_or(0.0, |l| l.below_mark.max(0.0))
        };
        let gained = |mm: f64| Points::new(GAINED * mm / FOR_MILLIMETRES);
        let centre_limit = uncertainty.of_centre(cells.len());
        let whole = OffFull::of(pattern.centre(), full, centre_limit);
        let lack = round.low_levels.iter().map(|l| l.below_mark).fold(0.0, f64::max);
        let mut all: Vec<f64> = cells.iter().map(|(cell, _)| below(*cell)).collect();
        let common = super::median(&mut all).unwrap_or(0.0);
        let explained = common > 0.0 && whole.off - gained(common) <= whole.high.used;
        if whole.off > whole.high.used {
            return Some(Self {
                all: true,
                cells: Vec::new(),
                by: whole.off,
                limit: whole.high,
                low_level: explained.then_some(lack),
                centre_of_others: None,
            });
        }
        let noise = noise_of_a_cell(cells.len(), uncertainty.deviation).value();
        let limit =
            Limit::widened(Points::new(OVER_FULL), Points::new(noise.hypot(uncertainty.common.value())));
        // What a gradient says of a cell is not its own.
        let of_line = |cell: CellAddress| {
            let gradient = matches!(pattern.shape, Shape::Gradient { .. });
            let told = pattern.expected.iter().find(|(own, _)| gradient && *own == cell);
            Points::new(told.map_or(0.0, |(_, expected)| expected - pattern.centre))
        };
        let off = |(cell, sg): &(CellAddress, SpecificGravity)| (*sg - full) - of_line(*cell);
        let over: Vec<CellAddress> =
            cells.iter().filter(|c| off(c) > limit.used).map(|(cell, _)| *cell).collect();
        let by = cells.iter().map(off).reduce(Points::max)?;
        // Cells over full that are like their mates tell of the whole bank. A low cell beside them widens the
        // scatter that a pattern is told by: what lies outside the steady band of a cell is unlike its mates too.
        let band = Limit::widened(Points::new(STEADY_POINTS), Points::new(noise)).used;
        let outside = |cell: &CellAddress| {
            let own = cells.iter().find(|(own, _)| own == cell);
            own.is_some_and(|own| off(own) - whole.off > band)
        };
        let apart = over.iter().all(|cell| pattern.high.contains(cell) || outside(cell));
        if !over.is_empty() && !apart {
            return (whole.off.value() > NEARLY_OVER).then(|| Self {
                all: true,
                cells: Vec::new(),
                by: whole.off,
                limit: Limit { used: Points::new(NEARLY_OVER), ..whole.high },
                low_level: explained.then_some(lack),
                centre_of_others: None,
            });
        }
        let others: Vec<_> = cells.iter().filter(|(cell, _)| !over.contains(cell)).copied().collect();
        if over.is_empty() || 2 * over.len() > cells.len() {
            return None;
        }
        let still = |cell: &CellAddress| {
            let sg = cells.iter().find(|(own, _)| own == cell).map(|(_, sg)| *sg);
            sg.is_some_and(|sg| (sg - full) - gained(below(*cell)) > limit.used)
        };
        let named = |cell: &CellAddress| pattern.shape.names(*cell) && pattern.lies_low();
        let plain: Vec<_> =
            others.iter().filter(|(cell, _)| !pattern.high.contains(cell) && !named(cell)).copied().collect();
        let explained = !over.iter().any(still);
        Some(Self {
            all: false,
            low_level: explained.then_some(lack),
            centre_of_others: centre::centre(if plain.is_empty() { &others } else { &plain }),
            cells: over,
            by,
            limit,
        })
    }
}
