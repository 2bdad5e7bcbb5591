//! Larch Point repeater, a radio relay: exemplary, checked on its dates.

use super::noise::character;
use super::visits::{Drinks, VisitStory};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::visit::Work;

/// Rounds, oldest first: days before today and electrolyte temperature.
const ROUNDS: [(i64, f64); 9] = [
    (1096, 19.0),
    (959, 11.0),
    (822, 18.5),
    (685, 10.5),
    (548, 19.5),
    (411, 12.0),
    (274, 17.0),
    (137, 20.0),
    (1, 13.0),
];

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "Larch Point repeater".into(),
            kind: "radio relay, standby".into(),
            zone: ZONE.into(),
            region: "Hollin Basin".into(),
            wet_season: "11-01".parse().ok(),
            first_frost: "10-20".parse().ok(),
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "standby".into(),
            model: "tubular-2v-300".into(),
            shape: BankShape {
                system_voltage: 24,
                cells_per_battery: 1,
                series: 12,
                parallel: 1,
                layout: Layout { rows_per_string: 2, ..Layout::default() },
            },
            in_service: Some("2022-05".into()),
            keeper: "TA".into(),
            season_opens: None,
            season_closes: None,
            rules: "close_watch".into(),
        },
        instrument: Instrument::digital(),
        people: ["MO", "TA"],
        rounds: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius)| RoundStory {
                days_ago,
                celsius,
                truth: Box::new(|cell| 1.2405 + 0.0015 * character(&cell.to_string())),
                oddities: Vec::new(),
                proven_full: true,
                rest_volts: None,
            })
            .collect(),
        visits: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius)| VisitStory {
                rests_at: Some(1.2405),
                fills: true,
                work: match days_ago {
                    1096 | 685 | 274 => vec![(Work::StandbyChecked, "")],
                    548 => vec![
                        (Work::StandbyChecked, ""),
                        (Work::Retorqued, "one link of A6 took a quarter turn"),
                    ],
                    137 => vec![
                        (Work::StandbyChecked, ""),
                        (Work::LoadTested, "relay ran 41 h on the bank alone"),
                        (Work::Cleaned, ""),
                    ],
                    1 => vec![(Work::StandbyChecked, ""), (Work::LoadTested, ""), (Work::Retorqued, "")],
                    _ => Vec::new(),
                },
                ..VisitStory::plain(days_ago, celsius)
            })
            .collect(),
        drinks: Some(Drinks { per_day: 0.45, by_battery: false, by_kit: false }),
        access: AccessNotes {
            switch: "breaker row above the rack, second from left".into(),
            wrenches: "18 mm, insulated".into(),
            ..AccessNotes::default()
        },
        equalize: None,
        equipment: None,
    }
}
