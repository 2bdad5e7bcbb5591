//! Dipper, a river-survey launch: sealed batteries, one block's resistance climbing, uneven cables
//! between the strings.

use super::visits::{Seen, VisitStory};
use super::{NewBank, NewSite, Story, ZONE};
use crate::db::AccessNotes;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{Check, Work};

/// Days before today, case temperature, resistances of the four blocks, and how far B2 rests under
/// its mates.
type Look = (i64, f64, &'static [(&'static str, f64)], &'static [(&'static str, f64)]);
const LOOKS: [Look; 9] = [
    (1080, 14.0, &[("A1", 4.02), ("A2", 4.08), ("B1", 4.05), ("B2", 4.10)], &[]),
    (960, 19.0, &[("A1", 4.03), ("A2", 4.08), ("B1", 4.04), ("B2", 4.14)], &[]),
    (840, 11.0, &[("A1", 4.05), ("A2", 4.11), ("B1", 4.08), ("B2", 4.22)], &[]),
    (715, 17.0, &[("A1", 4.06), ("A2", 4.10), ("B1", 4.09), ("B2", 4.36)], &[]),
    (590, 20.0, &[("A1", 4.08), ("A2", 4.12), ("B1", 4.10), ("B2", 4.52)], &[("B2", -0.02)]),
    (470, 12.0, &[("A1", 4.11), ("A2", 4.15), ("B1", 4.13), ("B2", 4.78)], &[("B2", -0.03)]),
    (345, 18.0, &[("A1", 4.12), ("A2", 4.15), ("B1", 4.15), ("B2", 5.02)], &[("B2", -0.06)]),
    (220, 13.0, &[("A1", 4.15), ("A2", 4.19), ("B1", 4.17), ("B2", 5.31)], &[("B2", -0.09)]),
    (96, 21.0, &[("A1", 4.15), ("A2", 4.18), ("B1", 4.19), ("B2", 5.55)], &[("B2", -0.14)]),
];

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "Dipper".into(),
            kind: "river-survey launch".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, river".into(),
            wet_season: None,
            first_frost: None,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "marine".into(),
            model: "agm-12v-100".into(),
            shape: BankShape {
                system_voltage: 24,
                cells_per_battery: 6,
                series: 2,
                parallel: 2,
                layout: Layout {
                    far_side: "bulkhead".into(),
                    near_side: "engine side".into(),
                    ..Layout::default()
                },
            },
            in_service: Some("2023-04".into()),
            keeper: "TA".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument::digital(),
        people: ["TA", "MO"],
        rounds: Vec::new(),
        visits: LOOKS
            .into_iter()
            .map(|(days_ago, celsius, ohmic, volts_off)| VisitStory {
                // 2.165 V a cell: a full AGM block rests near 12.95 V
                rests_at: Some(1.302),
                ohmic,
                volts_off,
                seen: if days_ago == 345 {
                    let note = "string B has 0.9 m more cable than string A";
                    vec![Seen("B1", Check::Cables, "rubbing", Condition::Watch, note)]
                } else {
                    Vec::new()
                },
                work: match days_ago {
                    715 => vec![(Work::Retorqued, "")],
                    345 => vec![(Work::LoadTested, "B2 0.2 V under its mates"), (Work::Retorqued, "")],
                    _ => Vec::new(),
                },
                ..VisitStory::plain(days_ago, celsius)
            })
            .collect(),
        drinks: None,
        access: AccessNotes {
            cover: "lift-out seat, port side, four turn buttons".into(),
            switch: "rotary switch at the companionway".into(),
            wished: "the bilge pump starts by itself: pull its fuse first".into(),
            ..AccessNotes::default()
        },
        equalize: None,
        equipment: None,
    }
}
