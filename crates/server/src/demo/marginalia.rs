//! Marginalia, a mobile library coach: charged by short engine runs, never full; gravity low and
//! level, almost no water used.

use super::visits::{Pours, Seen, VisitStory};
use super::years::{Hour, Planned, Use, Years, months};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::severity::Severity;
use rainshadow_core::simulator::{ChargerSettings, Climate, SimCell};
use rainshadow_core::visit::{Check, Work};

/// Air where it stands.
const CLIMATE: Climate = Climate { mean: 14.0, year: 8.0, day: 4.0 };

/// Days before today.
const ROUNDS: [i64; 9] = [1030, 905, 783, 661, 540, 418, 296, 174, 52];

fn years() -> Years {
    Years {
        model: "flooded-6v-225",
        shape: BankShape {
            system_voltage: 12,
            cells_per_battery: 3,
            series: 2,
            parallel: 3,
            layout: Layout {
                near_side: "hatch side".into(),
                far_side: "chassis side".into(),
                ..Layout::default()
            },
        },
        climate: CLIMATE,
        seed: 0x3a26_0002,
        charger: ChargerSettings { absorption: 14.2, float: 13.6, per_degree: 0.0, tail: 13.0, longest: 4.0 },
        shares: &[1.0 / 3.0; 3],
        amperes: 30.0,
        age: 1.0,
        hour,
        fault: |_, _, _: &mut SimCell| {},
        planned: ROUNDS.map(|days_ago| Planned { days_ago, fills: true, ..Planned::default() }).to_vec(),
        run: None,
    }
}

/// The library is lit all day; the engine runs for ten minutes in the morning and in the afternoon. A
/// week in the garage, twice a year, is all the shore charge that it ever got, the last summer none.
fn hour(hour: &Hour) -> Use {
    let garage = matches!(hour.days_ago, 990..=996 | 800..=806 | 620..=626 | 440..=446 | 255..=261);
    if garage {
        return Use { load: 0.5, source: 30.0, ..Use::default() };
    }
    let engine = matches!(hour.of_day, 8 | 15);
    let open = (9..17).contains(&hour.of_day);
    Use {
        load: if open { 2.05 } else { 0.2 },
        source: if engine { 65.0 } else { 0.0 },
        minutes: engine.then_some(10.0),
        shakes: engine,
    }
}

pub(super) fn story(today: Date) -> Story {
    let years = years();
    Story {
        site: NewSite {
            name: "Marginalia".into(),
            kind: "mobile library coach".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, valley".into(),
            wet_season: None,
            first_frost: None,
            climate: months(&CLIMATE, today),
            lows: None,
            latitude: Some(43.6),
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "coach".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
            in_service: Some("2022-11".into()),
            keeper: "MO".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument::refractometer(),
        people: ["MO", "TA"],
        rounds: ROUNDS.into_iter().map(|days_ago| RoundStory::plain(days_ago, false)).collect(),
        visits: ROUNDS
            .into_iter()
            .map(|days_ago| VisitStory {
                fills: true,
                seen: if days_ago == 52 {
                    vec![Seen(
                        "",
                        Check::Sensor,
                        "missing",
                        Severity::Watch,
                        "the alternator regulator has none",
                    )]
                } else {
                    Vec::new()
                },
                work: match days_ago {
                    661 | 174 => vec![(Work::Retorqued, ""), (Work::Cleaned, "")],
                    418 => vec![(Work::LoadTested, "")],
                    _ => Vec::new(),
                },
                note: if days_ago == 52 {
                    "Driven 20 minutes a day at most; no shore charge all summer."
                } else {
                    ""
                },
                ..VisitStory::plain(days_ago)
            })
            .collect(),
        pours: Some(Pours { by_battery: false, own: "", by_kit: true }),
        access: AccessNotes {
            cover: "slide-out tray, two pins, faces the hatch".into(),
            switch: "key switch under the driver's seat".into(),
            ..AccessNotes::default()
        },
        equipment: None,
        years,
        journal: include_str!("journals/marginalia.jsonl"),
        log: Some(include_bytes!("journals/marginalia_monitor.csv.gz")),
    }
}
