//! The years of the demo banks: what ships is what the simulator makes, and it tells the stories of the
//! sites.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow::demo::{DayFound, DemoBank, Journal, Line};

fn shipped(bank: &str) -> Journal {
    DemoBank::by_name(bank).unwrap().unwrap().journal
}

/// Mathematics of another machine may differ in the last place, and years carry it on.
fn near(shipped: f64, made: f64, by: f64, what: &str) {
    assert!((shipped - made).abs() <= by, "{what}: ships {shipped}, made {made}; run `cargo xtask generate`");
}

fn same_day(bank: &str, a: &DayFound, b: &DayFound) {
    let what = format!("{bank}, {} days ago", a.days_ago);
    assert_eq!((a.days_ago, a.full, a.cells.len()), (b.days_ago, b.full, b.cells.len()), "{what}");
    near(a.celsius, b.celsius, 0.05, &what);
    for (a, b) in a.cells.iter().zip(&b.cells) {
        near(a.gravity(), b.gravity(), 0.0003, &what);
        near(a.volts(), b.volts(), 0.002, &what);
        near(a.lost(), b.lost(), 2.0, &what);
    }
    for (a, b) in a.milliohms.iter().zip(&b.milliohms) {
        near(*a, *b, 0.01, &what);
    }
}

fn ships_what_is_made(bank: &str) {
    let own = DemoBank::by_name(bank).unwrap().unwrap();
    let (shipped, made) = (&own.journal, own.live().unwrap());
    assert_eq!(shipped.0.len(), made.0.len(), "{bank}; run `cargo xtask generate`");
    for (a, b) in shipped.0.iter().zip(&made.0) {
        match (a, b) {
            (Line::Day(a), Line::Day(b)) | (Line::AfterRun(a), Line::AfterRun(b)) => same_day(bank, a, b),
            (Line::Run(a), Line::Run(b)) => {
                let what = format!("{bank}, minute {} of the run", a.minute);
                assert_eq!(a.minute, b.minute, "{what}");
                near(a.amperes, b.amperes, 0.3, &what);
                near(a.volts, b.volts, 0.2, &what);
                for (a, b) in a.gravities.iter().zip(&b.gravities) {
                    near(*a, *b, 0.0015, &what);
                }
            }
            (Line::Discharge { minutes: a, .. }, Line::Discharge { minutes: b, .. }) => {
                near(*a, *b, 1.5, bank);
            }
            (a, b) => panic!("{bank}: ships {a:?}, made {b:?}; run `cargo xtask generate`"),
        }
    }
}

/// The log of a monitor that ships is what the simulator writes: `rainshadow simulate monitor marginalia | gzip -9n`.
#[test]
fn the_log_of_a_monitor_ships_as_it_is_made() {
    let packed = include_bytes!("../src/demo/journals/marginalia_monitor.csv.gz");
    let mut shipped = String::new();
    std::io::Read::read_to_string(&mut flate2::read::GzDecoder::new(&packed[..]), &mut shipped).unwrap();
    let made = DemoBank::by_name("marginalia").unwrap().unwrap().monitor(None).unwrap();
    assert_eq!(shipped.lines().count(), made.lines().count());
    assert_eq!(shipped.lines().next(), made.lines().next());
    for (a, b) in shipped.lines().zip(made.lines()).skip(1) {
        let (a, b): (Vec<&str>, Vec<&str>) = (a.split(',').collect(), b.split(',').collect());
        assert_eq!(a[0], b[0]);
        for (at, within) in [(1, 0.03), (2, 0.3), (3, 0.2)] {
            near(a[at].parse().unwrap(), b[at].parse().unwrap(), within, a[0]);
        }
    }
}

// One test each, so that they run beside one another.
#[test]
fn kestrel_dome_ships_what_is_made() {
    ships_what_is_made("kestrel_dome");
}
#[test]
fn larch_point_ships_what_is_made() {
    ships_what_is_made("larch_point");
}
#[test]
fn marginalia_ships_what_is_made() {
    ships_what_is_made("marginalia");
}
#[test]
fn dipper_ships_what_is_made() {
    ships_what_is_made("dipper");
}
#[test]
fn arboretum_tram_ships_what_is_made() {
    ships_what_is_made("arboretum_tram");
}
#[test]
fn high_pasture_ships_what_is_made() {
    ships_what_is_made("high_pasture");
}

#[test]
fn a_journal_survives_being_printed_and_a_bad_line_is_named() {
    for bank in DemoBank::names() {
        let own = shipped(bank);
        assert_eq!(Journal::parse(&own.print().unwrap()).unwrap(), own, "{bank}");
    }
    let said =
        Journal::parse("{\"discharge\":{\"days_ago\":3,\"minutes\":70.0}}\n{\"day\":4}\n").unwrap_err();
    assert!(said.to_string().contains("line 2"), "{said}");
    assert!(DemoBank::by_name("atlantis").unwrap().is_none());
}

fn median(day: &DayFound) -> f64 {
    let mut all: Vec<f64> = day.cells.iter().map(|c| c.gravity()).collect();
    all.sort_by(f64::total_cmp);
    all[all.len() / 2]
}

#[test]
fn one_cell_drifts_for_a_year_and_the_equalize_helps_all_but_it() {
    let own = shipped("kestrel_dome");
    // electrical order: string B after the 24 cells of string A, then the second cell of its fifth battery
    let drifter = |day: &DayFound| (day.cells[24 + 13].gravity() - median(day)) * 1000.0;
    let behind = |day: &DayFound| (day.cells[18].gravity() - median(day)) * 1000.0;
    let year: Vec<f64> = [389, 257, 128, 1].map(|ago| drifter(own.day(ago).unwrap())).to_vec();
    assert!(year.windows(2).all(|w| w[1] < w[0]) && year[3] < -28.0, "{year:?}");
    let (before, after) = (own.day(43).unwrap(), own.after_run().unwrap());
    assert!(behind(before) < -9.0 && behind(after) > -5.0, "A7-1 came up");
    assert!((drifter(after) - drifter(before)).abs() < 2.0, "B5-2 did not answer");
    assert!(own.run().count() >= 5);
}

#[test]
fn what_a_run_gasses_is_lost_as_water() {
    let own = shipped("kestrel_dome");
    let run: Vec<_> = own.run().collect();
    // Faraday, WA-1: 0.337 mL an ampere-hour and cell; both strings share the current, and what the
    // plates still took up splits no water
    let hours = 0.5;
    let sum = |end: fn(f64, f64) -> f64| -> f64 {
        run.windows(2).map(|w| end(w[0].amperes, w[1].amperes) * hours / 2.0).sum()
    };
    let mean = |day: &DayFound| day.cells.iter().map(|c| c.lost()).sum::<f64>() / 48.0;
    let lost = mean(own.after_run().unwrap()) - mean(own.day(43).unwrap());
    let (least, most) = (0.337 * 0.7 * sum(f64::min), 0.337 * sum(f64::max));
    assert!(lost > least && lost < most, "{lost} mL, between {least} and {most}");
}

#[test]
fn every_bank_lived_through_its_story() {
    let coach = shipped("marginalia");
    for line in &coach.0 {
        let Line::Day(day) = line else { continue };
        assert!(!day.full && median(day) < 1.245, "never full");
        let spread = day.cells.iter().map(|c| (c.gravity() - median(day)).abs()).fold(0.0, f64::max);
        assert!(spread < 0.008, "low and level: {spread}");
        assert!(day.cells.iter().all(|c| c.lost() < 30.0), "almost no water");
    }
    let tram = shipped("arboretum_tram");
    let minutes = [705, 350, 35].map(|ago| tram.minutes(ago).unwrap());
    assert!(minutes[0] > 105.0 && minutes[1] < minutes[0] - 10.0 && minutes[2] < 80.0, "{minutes:?}");
    let hut = shipped("high_pasture");
    let back = (median(hut.day(140).unwrap()) - 1.120) / 0.145;
    assert!((0.4..0.6).contains(&back), "back at half charge: {back}");
    let relay = shipped("larch_point");
    assert!(relay.0.iter().all(|l| matches!(l, Line::Day(d) if d.full)), "always found full");
    let launch = shipped("dipper");
    let block = |ago| launch.day(ago).unwrap().milliohms.clone();
    let (first, last) = (block(1080), block(96));
    assert!(last[3] / last[0] > 1.25 && (first[3] / first[0] - 1.0).abs() < 0.03, "B2 climbs: {last:?}");
}
