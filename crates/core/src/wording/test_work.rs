//! What load and capacity tests of a visit came to, for the owner: what was done, and the figure.

use super::names;
use super::{cell_volts_when, discharge_time};
use crate::discharge::CapacityResult;
use crate::load_test::load_current;
use crate::visit::{
    Judged, PastVisit, VisitSheet, cell_volts, discharges, known_loads, past_discharges, real_loads,
    same_load, set_up, short_load,
};

fn capacity(result: &CapacityResult) -> String {
    match (result.percent, result.range) {
        (Some(percent), Some([low, high])) if !result.at_least => {
            format!(": {percent:.0} % of the rated capacity ({low:.0} to {high:.0} %)")
        }
        (Some(percent), _) => format!(
            ": at least {percent:.0} % of the rated capacity; it was stopped before the end, or not proven full before"
        ),
        _ => ": no percentage can be told".into(),
    }
}

/// Every test of a visit, a sentence each.
pub fn test_work(sheet: &VisitSheet, past: &[PastVisit], bank: Judged<'_>) -> Vec<String> {
    let mut all = Vec::new();
    if let Some((test, judged)) = short_load(sheet, past, bank) {
        let amperes = load_current(test.load).ok().flatten();
        let load = amperes.map_or_else(|| "a tester".into(), |a| format!("{a:.0} A"));
        let lowest = judged.iter().min_by(|a, b| a.per_twelve.total_cmp(&b.per_twelve));
        let lowest = lowest
            .and_then(|own| {
                let read = test.batteries.iter().find(|b| b.battery == own.battery)?;
                Some(format!("; the lowest, {}, held {:.2} V", own.battery, read.at_end))
            })
            .unwrap_or_default();
        let tester = set_up(sheet).map(|own| own.tester.as_str()).filter(|own| !own.is_empty());
        let with = tester.map(|own| format!(" ({own})")).unwrap_or_default();
        all.push(format!(
            "{} {} loaded with {load} for {:.0} seconds{with}{lowest}",
            names::sentence(&names::number_word(judged.len())),
            if judged.len() == 1 { "battery" } else { "batteries" },
            test.seconds
        ));
    }
    for (_, test, judged) in real_loads(sheet, bank) {
        all.push(format!(
            "Voltage read under the load of the system: {:.2} V before, {:.2} V after five minutes at {:.0} A ({:.2} V on 12 V less; a sound bank falls {:.2} V)",
            test.before, test.at_five_minutes, test.amperes, judged.drop, judged.expected
        ));
    }
    let before = past_discharges(past, bank);
    for own in discharges(sheet).into_iter().filter(|own| !own.is_under_way()) {
        let last = same_load(&before, own.begun.place, own.plan.amperes);
        let now = own.now(bank, last.and_then(|d| d.now.reached), own.begun.taken_at);
        let Some(result) = &now.result else { continue };
        let then = last.and_then(|d| Some((d.day, d.now.reached?)));
        let then = then
            .map(|(day, hours)| format!("; {} on {}", discharge_time(hours), day.strftime("%-d %b %Y")))
            .unwrap_or_default();
        all.push(format!(
            "Timed discharge of {}: {} at {:.1} A{then}{}",
            own.begun.place.said(),
            discharge_time(result.hours),
            result.ampere_hours / result.hours,
            capacity(result)
        ));
    }
    for own in known_loads(sheet) {
        let [then, now] = own.hours.map(discharge_time);
        all.push(format!("{} ran for {now}; {then} when new", names::sentence(own.load)));
    }
    for (when, cells) in cell_volts(sheet, bank) {
        let n = cells.len();
        let lowest = cells.iter().min_by(|a, b| a.volts.total_cmp(&b.volts));
        let lowest =
            lowest.map(|own| format!("; the lowest, {}, {:.2} V", own.cell, own.volts)).unwrap_or_default();
        let noun = if n == 1 { "cell" } else { "cells" };
        all.push(format!(
            "Voltage of {} {noun} read {}{lowest}",
            names::number_word(n),
            cell_volts_when(when)
        ));
    }
    all
}
