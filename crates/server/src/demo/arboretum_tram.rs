//! Arboretum tram 4, a utility cart: worked hard every day, thirsty, capacity falling test by test.

use super::noise::character;
use super::visits::{Drinks, Seen, VisitStory};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{Check, Work};

/// Days before today, electrolyte temperature, points of spread.
const ROUNDS: [(i64, f64, f64); 10] = [
    (1050, 18.0, 3.0),
    (935, 24.0, 3.2),
    (820, 14.0, 3.5),
    (705, 17.0, 4.0),
    (590, 26.0, 4.5),
    (470, 15.0, 5.2),
    (350, 19.0, 6.0),
    (235, 23.0, 7.0),
    (120, 25.0, 8.2),
    (35, 22.0, 9.0),
];
/// Timed discharges to the cut-off at 56 A: days before today and what was written down.
const TESTS: [(i64, &str); 3] =
    [(705, "56 A to 42.0 V: 113 min"), (350, "56 A to 42.0 V: 97 min"), (35, "56 A to 42.0 V: 76 min")];

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "Arboretum tram 4".into(),
            kind: "utility cart".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, valley".into(),
            wet_season: None,
            first_frost: None,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "cart".into(),
            model: "flooded-8v-170".into(),
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
            in_service: Some("2022-03".into()),
            keeper: "MO".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument::hydrometer(),
        people: ["MO", "TA"],
        rounds: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, apart)| RoundStory {
                days_ago,
                celsius,
                truth: Box::new(move |cell| 1.262 + 0.001 * apart * character(&cell.to_string())),
                oddities: Vec::new(),
                proven_full: true,
                rest_volts: None,
            })
            .collect(),
        visits: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, _)| VisitStory {
                rests_at: Some(1.262),
                fills: true,
                seen: if days_ago == 35 {
                    vec![Seen(
                        "A5",
                        Check::HoldDown,
                        "play",
                        Condition::Watch,
                        "about 5 mm, the strap is worn",
                    )]
                } else {
                    Vec::new()
                },
                work: TESTS
                    .into_iter()
                    .filter(|(day, _)| *day == days_ago)
                    .map(|(_, minutes)| (Work::CapacityTested, minutes))
                    .chain((days_ago == 120).then_some((Work::Equalized, "")))
                    .chain((days_ago == 235).then_some((Work::Retorqued, "")))
                    .collect(),
                ..VisitStory::plain(days_ago, celsius)
            })
            .collect(),
        drinks: Some(Drinks { per_day: 2.5, by_battery: true, by_kit: false }),
        access: AccessNotes {
            cover: "seat base tips forward, prop rod on the left".into(),
            wrenches: "13 mm".into(),
            ..AccessNotes::default()
        },
        equalize: None,
        equipment: None,
    }
}
