//! Arboretum tram 4, a utility cart: worked hard every day, thirsty, capacity falling test by test.

use super::journal::Journal;
use super::noise::character;
use super::tests_made::{Made, timed};
use super::visits::{Pours, Seen, VisitStory};
use super::years::{Hour, Planned, Use, Years, filled, months};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::severity::Severity;
use rainshadow_core::simulator::{ChargerSettings, Climate};
use rainshadow_core::visit::{Check, Work};

/// Air where it stands.
const CLIMATE: Climate = Climate { mean: 16.0, year: 8.0, day: 4.0 };

/// Days before today.
const ROUNDS: [i64; 10] = [1050, 935, 820, 705, 590, 470, 350, 235, 120, 35];
/// Days on which it was only filled.
const FILLED: [i64; 18] =
    [1012, 973, 897, 858, 782, 743, 667, 628, 550, 510, 430, 390, 312, 273, 197, 158, 92, 63];
/// Days of timed discharges, at so many amperes to so many volts.
const TESTS: [i64; 3] = [705, 350, 35];
const TEST: (f64, f64) = (56.0, 42.0);
/// Capacity that a day of work wears away, share of C20: new plates last, old ones shed.
const WEARS: [(i64, f64); 3] = [(705, 0.000_13), (350, 0.000_34), (0, 0.000_70)];

fn years() -> Years {
    Years {
        model: "flooded-8v-170",
        shape: BankShape {
            system_voltage: 48,
            cells_per_battery: 4,
            series: 6,
            parallel: 1,
            layout: Layout {
                rows_per_string: 2,
                far_side: "seat side".into(),
                near_side: "bed side".into(),
                ..Layout::default()
            },
        },
        climate: CLIMATE,
        seed: 0x7a40_0004,
        charger: ChargerSettings { absorption: 58.8, float: 54.0, per_degree: 0.0, tail: 1.0, longest: 3.2 },
        shares: &[1.0],
        amperes: 20.0,
        age: 1.0,
        hour,
        fault: |days_ago, name, cell| {
            let (_, wears) = WEARS.into_iter().find(|(until, _)| days_ago > *until).unwrap_or_default();
            cell.wear(wears * (1.0 + 0.15 * character(&format!("wears {name}"))));
        },
        planned: ROUNDS
            .map(|days_ago| Planned {
                days_ago,
                full: true,
                fills: true,
                equalize: if days_ago == 120 { 3.0 } else { 0.0 },
                discharge: TESTS.contains(&days_ago).then_some(TEST),
                ..Planned::default()
            })
            .into_iter()
            .chain(FILLED.map(filled))
            .collect(),
        run: None,
    }
}

/// Driven on six days of the week, charged by night.
fn hour(hour: &Hour) -> Use {
    let drives = hour.days_ago % 7 != 3 && (8..17).contains(&hour.of_day) && hour.of_day != 12;
    let plugged = hour.of_day >= 18 || hour.of_day < 6;
    Use {
        load: if drives { 8.5 } else { 0.0 },
        source: if plugged { 20.0 } else { 0.0 },
        shakes: drives,
        ..Use::default()
    }
}

pub(super) fn story(today: Date) -> Story {
    let years = years();
    let journal = include_str!("journals/arboretum_tram.jsonl");
    let found = Journal::parse(journal).unwrap_or_default();
    Story {
        site: NewSite {
            name: "Arboretum tram 4".into(),
            kind: "utility cart".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, valley".into(),
            wet_season: None,
            first_frost: None,
            climate: months(&CLIMATE, today),
            lows: None,
            latitude: Some(44.3),
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "cart".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
            in_service: Some("2022-03".into()),
            keeper: "MO".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument::hydrometer(),
        people: ["MO", "TA"],
        rounds: ROUNDS.into_iter().map(|days_ago| RoundStory::plain(days_ago, true)).collect(),
        visits: ROUNDS
            .into_iter()
            .map(|days_ago| VisitStory {
                fills: true,
                seen: if days_ago == 35 {
                    vec![Seen(
                        "A5",
                        Check::HoldDown,
                        "play",
                        Severity::Watch,
                        "about 5 mm, the strap is worn",
                    )]
                } else {
                    Vec::new()
                },
                work: match days_ago {
                    120 => vec![(Work::Equalized, "")],
                    235 => vec![(Work::Retorqued, "")],
                    _ => Vec::new(),
                },
                tests: found.minutes(days_ago).map(|m| test(days_ago, m)).into_iter().collect(),
                ..VisitStory::plain(days_ago)
            })
            .chain(FILLED.map(VisitStory::filled))
            .collect(),
        pours: Some(Pours { by_battery: true, own: "", by_kit: false }),
        access: AccessNotes {
            cover: "seat base tips forward, prop rod on the left".into(),
            wrenches: "13 mm".into(),
            ..AccessNotes::default()
        },
        equipment: None,
        years,
        journal,
        log: None,
    }
}

/// The test of a day: on the last one somebody read the batteries near the end.
fn test(days_ago: i64, minutes: f64) -> Made {
    const NEAR_END: [f64; 6] = [7.02, 7.03, 7.00, 7.02, 6.88, 7.04];
    let (amperes, cut_off) = TEST;
    let near_end: &[f64] = if days_ago == 35 { &NEAR_END } else { &[] };
    timed(amperes, cut_off / 24.0, 20.0, minutes, near_end)
}
