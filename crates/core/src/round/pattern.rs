//! RD-5: the pattern of a round, as level and as shape.

use super::centre::{median, spread};
use super::shape::{Shape, WHOLE_POINTS};
use crate::bank::CellAddress;
use crate::instrument::Limit;
use crate::quantity::{Points, SpecificGravity};
use serde::{Deserialize, Serialize};

/// Turns a median absolute deviation into a standard deviation for normal scatter.
const MAD_TO_SIGMA: f64 = 1.4826;
/// A cell this many sigmas below its mates stands alone (RD-5).
const LONE_SIGMAS: f64 = -3.5;
/// How far a battery or a string must lie under the others to be low as a whole: the rule's ten
/// points, or what the instrument explains for one cell.
pub(crate) fn whole_limit(uncertainty: Points) -> Limit {
    Limit::wider_of(Points::new(WHOLE_POINTS), Points::new(2.0 * uncertainty.value()))
}

/// Level of a proven-full, mixed round against the model's full gravity.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Level {
    /// Short of full: undercharge or sulfation; an equalize tells which.
    Low,
    /// Full.
    Full,
    /// Above full: acid was added, or the levels are low.
    High,
}

impl Level {
    /// Centre against full: below −10 low, above +15 high, limits widened by noise.
    pub(super) fn of(
        centre: SpecificGravity,
        full: SpecificGravity,
        uncertainty: Points,
    ) -> (Self, Points, Limit) {
        let off = centre - full;
        let noise = Points::new(2.0 * uncertainty.value());
        let low = Limit::wider_of(Points::new(10.0), noise);
        let high = Limit::wider_of(Points::new(15.0), noise);
        if -off > low.used {
            (Self::Low, off, low)
        } else if off > high.used {
            (Self::High, off, high)
        } else {
            (Self::Full, off, low)
        }
    }
}

/// The shape of judged cells: first match of RD-5.
pub(super) fn shape(
    cells: &[(CellAddress, SpecificGravity)],
    centre: SpecificGravity,
    uncertainty: Points,
    even: Points,
    rows: &[Vec<CellAddress>],
) -> Shape {
    if cells.len() < 3 {
        return Shape::TooFew;
    }
    let is_even = |rest: &[(CellAddress, SpecificGravity)]| spread(rest).is_none_or(|s| s.points < even);
    if is_even(cells) {
        return Shape::Even;
    }
    let deviation = |sg: SpecificGravity| (sg - centre).value();
    let mut absolute: Vec<f64> = cells.iter().map(|(_, sg)| deviation(*sg).abs()).collect();
    let mad = median(&mut absolute).unwrap_or(0.0);
    let sigma = (MAD_TO_SIGMA * mad).max(uncertainty.value()).max(f64::MIN_POSITIVE);
    let (low, rest): (Vec<_>, Vec<_>) =
        cells.iter().copied().partition(|(_, sg)| deviation(*sg) / sigma <= LONE_SIGMAS);
    let mut low: Vec<CellAddress> = low.into_iter().map(|(cell, _)| cell).collect();
    low.sort_unstable();
    match low.as_slice() {
        [cell] if is_even(&rest) => return Shape::LoneCell { cell: *cell },
        [a, b] if a.battery == b.battery && a.cell + 1 == b.cell && is_even(&rest) => {
            return Shape::Pair { cells: [*a, *b] };
        }
        _ => {}
    }
    let under = whole_limit(uncertainty).used;
    low_battery(cells, centre, under)
        .or_else(|| low_string(cells, centre, under))
        .or_else(|| super::gradient::along_a_row(cells, rows))
        .unwrap_or(Shape::Drift)
}

fn low_battery(
    cells: &[(CellAddress, SpecificGravity)],
    centre: SpecificGravity,
    limit: Points,
) -> Option<Shape> {
    low_group(cells, centre, limit, |cell| cell.battery).map(|battery| Shape::Battery { battery })
}

fn low_string(
    cells: &[(CellAddress, SpecificGravity)],
    centre: SpecificGravity,
    limit: Points,
) -> Option<Shape> {
    low_group(cells, centre, limit, |cell| cell.battery.string)
        .map(|string| Shape::String { letter: crate::bank::string_letter(string) })
}

/// The one group of at least two cells whose cells all lie below centre and whose median lies the
/// limit or more under the others. Where several groups do, none is "the" low one: every battery
/// of a low string qualifies, and then it is the string that is low.
fn low_group<K: Ord + Copy>(
    cells: &[(CellAddress, SpecificGravity)],
    centre: SpecificGravity,
    limit: Points,
    key: impl Fn(CellAddress) -> K,
) -> Option<K> {
    let mut keys: Vec<K> = cells.iter().map(|(cell, _)| key(*cell)).collect();
    keys.sort_unstable();
    keys.dedup();
    let middle = |group: &[(CellAddress, SpecificGravity)]| {
        median(&mut group.iter().map(|(_, sg)| sg.value() * 1000.0).collect::<Vec<_>>())
    };
    let is_low = |k: &K| {
        let (own, others): (Vec<_>, Vec<_>) = cells.iter().partition(|(cell, _)| key(*cell) == *k);
        let under = middle(&others).zip(middle(&own)).map(|(others, own)| Points::new(others - own));
        own.len() >= 2 && own.iter().all(|(_, sg)| *sg < centre) && under.is_some_and(|u| u >= limit)
    };
    let mut low = keys.into_iter().filter(is_low);
    low.next().filter(|_| low.next().is_none())
}
