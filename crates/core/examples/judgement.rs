//! How often the judge tells the truth of made banks: `cargo run --release -p rainshadow-core --example
//! judgement [FIRST_SEED] [BANKS]`.
#![allow(missing_docs, clippy::print_stdout, reason = "tells its figures")]

#[path = "../tests/truth/mod.rs"]
mod truth;

use std::collections::BTreeMap;
use std::ops::Range;
use truth::bank::{Fault, make};
use truth::told::{PAIRS, Told, causes, of_two, share};

const FAULTS: [Fault; 38] = [
    Fault::Healthy,
    Fault::Spread(20.0),
    Fault::Spread(25.0),
    Fault::Spread(40.0),
    Fault::LowCells(1, 20.0),
    Fault::LowCells(1, 30.0),
    Fault::LowCells(1, 50.0),
    Fault::LowCells(2, 30.0),
    Fault::LowCells(2, 50.0),
    Fault::LowCells(3, 40.0),
    Fault::HighCells(1, 30.0),
    Fault::HighCells(2, 30.0),
    Fault::HighCells(3, 30.0),
    Fault::Battery(20.0),
    Fault::Battery(30.0),
    Fault::Battery(50.0),
    Fault::String(20.0),
    Fault::String(30.0),
    Fault::String(50.0),
    Fault::Gradient(20.0),
    Fault::Gradient(30.0),
    Fault::Gradient(50.0),
    Fault::AcidInCells(1, 30.0),
    Fault::AcidInCells(3, 30.0),
    Fault::AcidInAll(20.0),
    Fault::AcidInAll(25.0),
    Fault::AcidInAll(40.0),
    Fault::LowLevels(15.0),
    Fault::LowLevels(20.0),
    Fault::LowLevels(26.0),
    Fault::ShortOfFull(20.0),
    Fault::ShortOfFull(40.0),
    Fault::NotFull(25.0),
    Fault::NotFull(60.0),
    Fault::Stratified(20.0),
    Fault::Stratified(25.0),
    Fault::Stratified(40.0),
    Fault::DeadCell,
];

fn main() {
    let mut words = std::env::args().skip(1).filter_map(|w| w.parse::<u64>().ok());
    let (first, banks) = (words.next().unwrap_or(1), words.next().unwrap_or(2000));
    let seeds = first..first + banks;
    alarms(&seeds);
    println!("\n## Shape and what leads\n");
    for fault in FAULTS {
        for history in [false, true] {
            told(&seeds, fault, history);
        }
    }
    two_faults(&seeds);
    misread(&seeds);
    runs(u32::try_from(banks / 5).unwrap_or(1));
    water(&seeds);
}

fn alarms(seeds: &Range<u64>) {
    println!("## False alarms and what is seen\n");
    for history in [false, true] {
        let alarms = share(seeds.clone(), Fault::Healthy, history, |t, _| t.alarms());
        println!(
            "even banks told to watch, history {history}: {:.1} % of {}",
            alarms.percent(),
            alarms.banks
        );
        let (mut large, mut told, mut leads) = (0, 0, BTreeMap::<&str, usize>::new());
        for made in seeds.clone().filter_map(|seed| make(seed, Fault::Healthy, history)) {
            if made.round.shape.cell_count() > 48 {
                let judged = Told::of(&made);
                large += 1;
                told += usize::from(judged.alarms());
                *leads.entry(judged.lead_code()).or_default() += 1;
            }
        }
        println!("  with more than 48 cells: {told} of {large} ({leads:?})");
    }
    for points in [15.0, 20.0, 25.0, 30.0] {
        let seen = share(seeds.clone(), Fault::Spread(points), false, |t, _| t.alarms());
        println!("a spread of {points} seen: {:.1} %", seen.percent());
    }
    for points in [20.0, 30.0, 50.0] {
        let named = share(seeds.clone(), Fault::LowCells(1, points), false, |t, m| t.names(m.cells[0]));
        println!("a cell {points} low named: {:.1} %", named.percent());
    }
}

fn told(seeds: &Range<u64>, fault: Fault, history: bool) {
    let mut shapes: BTreeMap<&str, usize> = BTreeMap::new();
    let mut leads: BTreeMap<&str, usize> = BTreeMap::new();
    let (mut right, mut led, mut equalize, mut n) = (0usize, 0usize, 0usize, 0usize);
    for seed in seeds.clone() {
        let Some(made) = make(seed, fault, history) else { continue };
        let told = Told::of(&made);
        n += 1;
        *shapes.entry(told.shape()).or_default() += 1;
        *leads.entry(told.lead_code()).or_default() += 1;
        right += usize::from(told.shape_is_right(&made));
        led += usize::from(causes(fault).contains(&told.lead_code()));
        equalize += usize::from(told.equalizes());
    }
    #[expect(clippy::cast_precision_loss, reason = "counts of banks")]
    let percent = |k: usize| 100.0 * k as f64 / n as f64;
    let list = |all: &BTreeMap<&str, usize>| {
        let mut sorted: Vec<_> = all.iter().filter(|(_, k)| percent(**k) >= 1.0).collect();
        sorted.sort_by_key(|(_, k)| std::cmp::Reverse(**k));
        sorted.iter().map(|(s, k)| format!("{s} {:.0}", percent(**k))).collect::<Vec<_>>().join(", ")
    };
    println!(
        "{fault:?}, history {history}, {n} banks: shape right {:.1} % ({}); leads {:.1} % ({}); told to equalize {:.1} %",
        percent(right),
        list(&shapes),
        percent(led),
        list(&leads),
        percent(equalize)
    );
}

fn two_faults(seeds: &Range<u64>) {
    println!("\n## Two faults\n");
    for (faults, lead, _) in PAIRS {
        let (banks, [leads, named, equalize]) = of_two(seeds.clone(), faults, lead);
        println!(
            "{faults:?}, {banks} banks: {lead} leads {leads:.1} %, all cells named {named:.1} %, told to equalize {equalize:.1} %"
        );
    }
}

fn misread(seeds: &Range<u64>) {
    println!("\n## One cell read wrong\n");
    for points in [20.0, 30.0, 36.0, 100.0] {
        for history in [false, true] {
            let wrong = Fault::Misread(points);
            let asked = share(seeds.clone(), wrong, history, |t, m| t.asks_about(m.cells[0]));
            let alarms = share(seeds.clone(), wrong, history, |t, _| t.alarms());
            println!(
                "by {points} points, history {history}: asked about {:.1} %, told to watch {:.1} %",
                asked.percent(),
                alarms.percent()
            );
        }
    }
}

fn runs(runs: u32) {
    println!("\n## Runs of an equalize\n");
    for (what, tau, onset) in [
        ("usual cells", (0.8, 3.0), (0.0, 0.5)),
        ("late starters", (0.8, 2.0), (2.0, 3.0)),
        ("slow cells", (4.0, 5.0), (0.0, 0.3)),
    ] {
        for minutes in [10.0, 15.0, 20.0, 30.0] {
            let (left, done, earliest) = truth::runs::told(minutes, tau, onset, runs);
            println!(
                "{what}, read every {minutes:.0} minutes: {left:.1} points left where the rule ends it ({done:.0} %), the first at {earliest:.1} h"
            );
        }
    }
}

fn water(seeds: &Range<u64>) {
    println!("\n## Water\n");
    for logged in [
        truth::water::Logged::ByCell,
        truth::water::Logged::Totals,
        truth::water::Logged::SeasonalWithClimate,
        truth::water::Logged::SeasonalWithout,
        truth::water::Logged::Growing,
    ] {
        let (within, before) = truth::water::shares(seeds.clone(), logged);
        println!("{logged:?}: {within:.1} % within P10 to P90, {before:.1} % dry before P10");
    }
}
