//! RD-7: batteries and strings against one another. Those of one string are alike, and so are those that stand
//! side by side.

use super::RestFinding;
use super::charge::METER;
use super::sheet::{BatteryVolts, RestSheet};
use crate::bank::string_letter;
use crate::instrument::spread_of_noise;
use crate::quantity::Points;

/// Batteries of one string rest within this of each other, V per cell: 0.1 V on 12 V (RD-7).
pub(super) const STRING_SPREAD: f64 = 0.1 / 6.0;

/// Strings by themselves, within as much of one another as the batteries of one string; one that is short of
/// a cell or more is told so already.
pub(super) fn strings_apart(sheet: &RestSheet, found: &[RestFinding]) -> Option<RestFinding> {
    let short = |letter| {
        found.iter().any(|f| matches!(f, RestFinding::StringShort { letter: own, .. } if *own == letter))
    };
    let whole: Vec<(char, f64)> = sheet
        .strings
        .iter()
        .map(|s| (string_letter(s.string), s.volts))
        .filter(|(own, _)| !short(*own))
        .collect();
    let lowest = whole.iter().min_by(|a, b| a.1.total_cmp(&b.1))?;
    let highest = whole.iter().max_by(|a, b| a.1.total_cmp(&b.1))?;
    let limit = STRING_SPREAD * f64::from(sheet.shape.cells_in_series());
    let apart = highest.1 - lowest.1;
    (apart > limit + 1e-9).then_some(RestFinding::StringsApart {
        lowest: lowest.0,
        highest: highest.0,
        apart,
        limit,
    })
}

/// The lowest and the highest of some batteries; none where none was read.
fn ends<'a>(own: &[&'a BatteryVolts]) -> Option<(&'a BatteryVolts, &'a BatteryVolts)> {
    let lowest = own.iter().min_by(|a, b| a.volts.total_cmp(&b.volts))?;
    let highest = own.iter().max_by(|a, b| a.volts.total_cmp(&b.volts))?;
    Some((lowest, highest))
}

/// Batteries of one string within 0.1 V per 12 V, or what the meter can tell.
pub(super) fn apart(sheet: &RestSheet) -> Vec<RestFinding> {
    let cells = f64::from(sheet.shape.cells_per_battery);
    (0..sheet.shape.parallel)
        .filter_map(|string| {
            let own: Vec<&BatteryVolts> =
                sheet.batteries.iter().filter(|b| b.battery.string == string).collect();
            let (lowest, highest) = ends(&own)?;
            let rule = STRING_SPREAD * cells;
            let noise =
                spread_of_noise(own.len(), Points::new(METER * cells / 2.0 * 1000.0)).value() / 1000.0;
            let (spread, limit) = (highest.volts - lowest.volts, rule.max(noise));
            (spread > limit + 1e-9).then(|| RestFinding::Apart {
                letter: string_letter(string),
                spread,
                limit,
                lowest: lowest.battery,
                highest: highest.battery,
                by_meter: noise > rule,
                sealed: !sheet.model.construction.has_caps(),
            })
        })
        .collect()
}

/// Batteries in parallel, one to a string, within as much of one another as those of one string; one that is told
/// to lack a cell or to lag is told so already.
pub(super) fn in_parallel(sheet: &RestSheet, found: &[RestFinding]) -> Option<RestFinding> {
    if sheet.shape.series != 1 || sheet.shape.parallel < 2 {
        return None;
    }
    let told = |own: &BatteryVolts| {
        found.iter().any(|f| {
            matches!(f, RestFinding::CellsMissing { battery, .. } | RestFinding::BatteryLow { battery, .. } if *battery == own.battery)
        })
    };
    let own: Vec<&BatteryVolts> = sheet.batteries.iter().filter(|b| !told(b)).collect();
    let (lowest, highest) = ends(&own)?;
    let limit = STRING_SPREAD * f64::from(sheet.shape.cells_per_battery);
    let apart = highest.volts - lowest.volts;
    (apart > limit + 1e-9).then_some(RestFinding::ParallelApart {
        lowest: lowest.battery,
        highest: highest.battery,
        apart,
        limit,
    })
}
