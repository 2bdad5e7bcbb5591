//! Marginalia, a mobile library coach: charged by short engine runs, never full; gravity low and
//! level, almost no water used.

use super::noise::character;
use super::visits::{Drinks, Seen, VisitStory};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{Check, Work};

/// Days before today, electrolyte temperature, and the gravity it stands at.
const ROUNDS: [(i64, f64, f64); 9] = [
    (1030, 17.0, 1.247),
    (905, 22.0, 1.243),
    (783, 9.0, 1.238),
    (661, 18.0, 1.236),
    (540, 21.5, 1.231),
    (418, 10.5, 1.228),
    (296, 19.0, 1.226),
    (174, 20.5, 1.223),
    (52, 21.0, 1.221),
];

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "Marginalia".into(),
            kind: "mobile library coach".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, valley".into(),
            wet_season: None,
            first_frost: None,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "coach".into(),
            model: "flooded-6v-225".into(),
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
            in_service: Some("2022-11".into()),
            keeper: "MO".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument::refractometer(),
        people: ["MO", "TA"],
        rounds: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, gravity)| RoundStory {
                days_ago,
                celsius,
                truth: Box::new(move |cell| gravity + 0.0018 * character(&cell.to_string())),
                oddities: Vec::new(),
                proven_full: false,
                rest_volts: None,
            })
            .collect(),
        visits: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, gravity)| VisitStory {
                rests_at: Some(gravity),
                fills: true,
                seen: if days_ago == 52 {
                    vec![Seen(
                        "",
                        Check::Sensor,
                        "missing",
                        Condition::Watch,
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
                ..VisitStory::plain(days_ago, celsius)
            })
            .collect(),
        drinks: Some(Drinks { per_day: 0.12, by_battery: false, by_kit: true }),
        access: AccessNotes {
            cover: "slide-out tray, two pins, faces the hatch".into(),
            switch: "key switch under the driver's seat".into(),
            ..AccessNotes::default()
        },
        equalize: None,
        equipment: None,
    }
}
