//! CV-1 during a discharge: the battery that bends away from its mates, and since when.

use super::point::DischargePoint;
use crate::bank::BatteryAddress;
use crate::round::median;
use serde::{Deserialize, Serialize};

/// A battery so far under its mates near the end holds a cell that is as far under its own, V (common practice, no
/// source).
pub const UNDER_MATES: f64 = 0.10;
/// A battery that has fallen so far against its mates since the start has bent away, V (our choice, no source).
const BENT: f64 = 0.03;
/// Batteries from which the median of the mates is one; fewer are held against the best of them.
const FOR_A_MEDIAN: usize = 4;
/// Volts of a cell that is still sound when its battery is at its end: one that lacks more than one such cell drives one
/// backwards (common practice, no source).
const SOUND_CELL: f64 = 1.83;

/// One battery at the last reading that has it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargedMate {
    /// Which.
    pub battery: BatteryAddress,
    /// V.
    pub volts: f64,
    /// V against its mates: negative is under them; none: it has none.
    pub against_mates: Option<f64>,
    /// The same at every reading that has it: hours of load and V.
    pub way: Vec<[f64; 2]>,
    /// Hours of load at which it bent away; none: it did not.
    pub knee: Option<f64>,
    /// True when it is the weak one: a tenth of a volt under its mates, and falling against them.
    pub weak: bool,
    /// True when its volts tell of a cell that is driven backwards: stop.
    pub reversed: bool,
}

/// What each of some batteries is held against.
fn mates(volts: &[f64]) -> Option<f64> {
    match volts.len() {
        0 | 1 => None,
        n if n < FOR_A_MEDIAN => volts.iter().copied().max_by(f64::total_cmp),
        _ => median(&mut volts.to_vec()),
    }
}

/// Every battery that was read, by the last reading that has it; `cells` are those of one battery.
pub fn discharged_mates(points: &[DischargePoint], cells: u8) -> Vec<DischargedMate> {
    let mut all: Vec<DischargedMate> = Vec::new();
    for point in points {
        let read: Vec<f64> = point.batteries.iter().map(|own| own.volts).collect();
        let middle = mates(&read);
        for own in &point.batteries {
            let at = all.iter().position(|known| known.battery == own.battery).unwrap_or_else(|| {
                all.push(DischargedMate {
                    battery: own.battery,
                    volts: own.volts,
                    against_mates: None,
                    way: Vec::new(),
                    knee: None,
                    weak: false,
                    reversed: false,
                });
                all.len() - 1
            });
            let known = &mut all[at];
            known.volts = own.volts;
            known.against_mates = middle.map(|middle| own.volts - middle);
            known.way.extend(known.against_mates.map(|against| [point.hours, against]));
        }
    }
    for own in &mut all {
        let first = own.way.first().map_or(0.0, |[_, against]| *against);
        let bent = |[_, against]: &&[f64; 2]| against - first <= -BENT + 1e-9;
        // Since then, and for good: one that came back had been misread.
        own.knee = own.way.iter().rev().take_while(bent).last().map(|[hours, _]| *hours);
        let under = own.against_mates.is_some_and(|against| against <= -UNDER_MATES + 1e-9);
        // One reading tells a battery that is under, not whether it falls.
        own.weak = under && (own.knee.is_some() || own.way.len() == 1);
        own.reversed = cells > 1 && own.volts < f64::from(cells - 1) * SOUND_CELL;
    }
    all.sort_by_key(|own| own.battery);
    all
}
