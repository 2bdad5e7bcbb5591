//! High Pasture hut, a summer dairy: last winter it stood on a snow-covered array and came back at
//! half charge.

use super::noise::character;
use super::visits::{Drinks, VisitStory};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::visit::Work;

/// Days before today, electrolyte temperature, gravity, and whether it was proven full.
const ROUNDS: [(i64, f64, f64, bool); 7] = [
    (870, 12.0, 1.262, true),
    (735, 13.0, 1.264, true),
    (505, 11.0, 1.257, true),
    (372, 14.0, 1.263, true),
    // back from the winter under snow
    (140, 6.0, 1.192, false),
    (126, 12.0, 1.254, true),
    (14, 11.0, 1.259, true),
];

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "High Pasture hut".into(),
            kind: "summer dairy, seasonal off-grid".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, heights".into(),
            wet_season: None,
            first_frost: None,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "seasonal off-grid".into(),
            model: "flooded-6v-370".into(),
            shape: BankShape {
                system_voltage: 24,
                cells_per_battery: 3,
                series: 4,
                parallel: 2,
                layout: Layout::default(),
            },
            in_service: Some("2022-06".into()),
            keeper: "TA".into(),
            season_opens: "05-20".parse().ok(),
            season_closes: "10-18".parse().ok(),
            rules: "light_touch".into(),
        },
        instrument: Instrument::hydrometer(),
        people: ["TA", "MO"],
        rounds: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, gravity, proven_full)| RoundStory {
                days_ago,
                celsius,
                truth: Box::new(move |cell| gravity + 0.003 * character(&cell.to_string())),
                oddities: Vec::new(),
                proven_full,
                rest_volts: None,
            })
            .collect(),
        visits: ROUNDS
            .into_iter()
            .map(|(days_ago, celsius, gravity, full)| VisitStory {
                rests_at: Some(gravity),
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
                ..VisitStory::plain(days_ago, celsius)
            })
            .collect(),
        drinks: Some(Drinks { per_day: 0.7, by_battery: false, by_kit: false }),
        access: AccessNotes {
            cover: "trap door under the rug, opens to the stove".into(),
            awkward: "B4 stands under the sill: mirror and torch".into(),
            wished: "the key hangs in the milk shed".into(),
            ..AccessNotes::default()
        },
        equalize: None,
        equipment: None,
    }
}
