//! High Pasture hut, a summer dairy: last winter it stood on a snow-covered array and came back at
//! half charge.

use super::visits::{Pours, VisitStory};
use super::years::{Hour, Planned, Use, Years, array, filled, month_day, months};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::simulator::{ChargerSettings, Climate, SimCell};
use rainshadow_core::visit::Work;
use rainshadow_core::water::RecordLows;

/// Air where it stands.
/// How far its lowest on record lie under the means of their months, °C.
const LOWS_UNDER: f64 = 24.0;

const CLIMATE: Climate = Climate { mean: 6.5, year: 7.5, day: 4.0 };

/// Days before today, and whether it was charged to the end before it was read.
const ROUNDS: [(i64, bool); 7] = [
    (870, true),
    (735, true),
    (505, true),
    (372, true),
    // back from the winter under snow
    (140, false),
    (126, true),
    (14, true),
];
/// Days on which it was only filled.
const FILLED: [i64; 6] = [830, 780, 450, 410, 90, 50];
/// Days before today of the opening and the closing of the dairy this year.
const OPENS: i64 = 141;
const CLOSES: i64 = -10;

fn years() -> Years {
    Years {
        model: "flooded-6v-370",
        shape: BankShape {
            system_voltage: 24,
            cells_per_battery: 3,
            series: 4,
            parallel: 2,
            layout: Layout::default(),
        },
        climate: CLIMATE,
        seed: 0x4197_0003,
        charger: ChargerSettings {
            absorption: 29.6,
            float: 27.0,
            per_degree: -0.06,
            tail: 15.0,
            longest: 1.0,
        },
        shares: &[0.5, 0.5],
        amperes: 40.0,
        age: 1.0,
        hour,
        fault: |_, _, _: &mut SimCell| {},
        planned: ROUNDS
            .map(|(days_ago, full)| Planned {
                days_ago,
                full,
                fills: full,
                equalize: if days_ago == 126 { 4.0 } else { 0.0 },
                ..Planned::default()
            })
            .into_iter()
            .chain(FILLED.map(filled))
            .collect(),
        run: None,
    }
}

/// In season it milks at dawn and dusk; out of it a radio is left on and one small panel. Last winter
/// that lay under snow.
fn hour(hour: &Hour) -> Use {
    let of_year = hour.days_ago.rem_euclid(365);
    let in_season = of_year <= OPENS || of_year >= 365 + CLOSES;
    let milking = matches!(hour.of_day, 5 | 6 | 17 | 18);
    let load = match (in_season, milking) {
        (true, true) => 30.0,
        (true, false) => 2.0,
        (false, _) => 0.08,
    };
    let snow = (142..=262).contains(&hour.days_ago);
    let panels = match (snow, in_season) {
        (true, _) => 0.0,
        (false, true) => 45.0,
        (false, false) => 1.2,
    };
    Use { load, source: array(hour, panels), ..Use::default() }
}

pub(super) fn story(today: Date) -> Story {
    let years = years();
    Story {
        site: NewSite {
            name: "High Pasture hut".into(),
            kind: "summer dairy, seasonal off-grid".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, heights".into(),
            wet_season: None,
            first_frost: None,
            climate: months(&CLIMATE, today),
            lows: months(&CLIMATE, today).map(|means| RecordLows::under(&means, LOWS_UNDER)),
            latitude: Some(46.5),
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "seasonal off-grid".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
            in_service: Some("2022-06".into()),
            keeper: "TA".into(),
            season_opens: month_day(today, -OPENS),
            season_closes: month_day(today, -CLOSES),
            rules: "light_touch".into(),
        },
        instrument: Instrument::hydrometer(),
        people: ["TA", "MO"],
        rounds: ROUNDS
            .into_iter()
            .map(|(days_ago, proven_full)| RoundStory::plain(days_ago, proven_full))
            .collect(),
        visits: ROUNDS
            .into_iter()
            .map(|(days_ago, full)| VisitStory {
                fills: full,
                work: match days_ago {
                    735 | 372 => vec![(Work::Retorqued, ""), (Work::LoadTested, "")],
                    126 => vec![(Work::ChargedFull, "generator, nine hours"), (Work::Equalized, "")],
                    _ => Vec::new(),
                },
                note: if days_ago == 140 {
                    "The array lay under snow from January on; the radio drew all winter."
                } else {
                    ""
                },
                ..VisitStory::plain(days_ago)
            })
            .chain(FILLED.map(VisitStory::filled))
            .collect(),
        pours: Some(Pours { by_battery: false, own: "", by_kit: false }),
        access: AccessNotes {
            cover: "trap door under the rug, opens to the stove".into(),
            awkward: "B4 stands under the sill: mirror and torch".into(),
            wished: "the key hangs in the milk shed".into(),
            ..AccessNotes::default()
        },
        equipment: None,
        years,
        journal: include_str!("journals/high_pasture.jsonl"),
        log: None,
    }
}
