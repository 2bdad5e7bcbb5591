//! Kestrel Dome, a ridge-top observatory: one cell of string B drifts away for a year; an equalize
//! helped all but that cell; a corner battery stands in the cold.

use super::noise::character;
use super::{NewBank, NewSite, Oddity, RoundStory, Story, ZONE};
use rainshadow_core::bank::{BankShape, CellAddress, Layout};
use rainshadow_core::instrument::{Instrument, InstrumentKind};
use rainshadow_core::quantity::Points;

/// Rounds, oldest first: days before today, electrolyte temperature, and the points that B5-2
/// stands below its mates.
const ROUNDS: [(i64, f64, f64); 12] = [
    (473, 21.0, 2.0),
    (431, 15.5, 3.0),
    (389, 9.0, 5.0),
    (346, 7.5, 8.0),
    (300, 9.5, 10.0),
    // an equalize came between this round and the next
    (257, 14.0, 13.0),
    (214, 17.5, 13.0),
    (171, 22.0, 16.0),
    (128, 25.5, 20.0),
    (85, 24.0, 24.0),
    (43, 20.0, 28.0),
    (1, 16.0, 33.0),
];

/// Index of the first round after the equalize.
const AFTER_EQUALIZE: usize = 6;

fn truth(round: usize, sag: f64, cell: CellAddress) -> f64 {
    let name = cell.to_string();
    // Cells grow apart by a little each round; the equalize draws them together again.
    let rounds_apart = f64::from(
        u32::try_from(if round < AFTER_EQUALIZE { round } else { round - AFTER_EQUALIZE }).unwrap_or(0),
    );
    let mut points = 1264.0 + character(&name) * (2.0 + 0.35 * rounds_apart);
    if name == "B5-2" {
        points -= sag;
    }
    if name.starts_with("A7-") {
        points -= 4.0 + 1.3 * rounds_apart;
    }
    points / 1000.0
}

pub(super) fn story() -> Story {
    Story {
        site: NewSite {
            name: "Kestrel Dome".into(),
            kind: "ridge-top observatory, off-grid solar".into(),
            zone: ZONE.into(),
            region: "Hollin Basin".into(),
            wet_season: None,
            first_frost: None,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "off-grid solar".into(),
            model: "flooded-6v-420".into(),
            shape: BankShape {
                system_voltage: 48,
                cells_per_battery: 3,
                series: 8,
                parallel: 2,
                layout: Layout::default(),
            },
            in_service: Some("2023".into()),
            keeper: "TA".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: Instrument {
            kind: InstrumentKind::Hydrometer,
            resolution: Points::new(1.0),
            repeatability: Points::new(2.5),
            corrects_for_temperature: false,
        },
        people: ["TA", "MO"],
        rounds: ROUNDS
            .into_iter()
            .enumerate()
            .map(|(i, (days_ago, celsius, sag))| RoundStory {
                days_ago,
                celsius,
                truth: Box::new(move |cell| truth(i, sag, cell)),
                oddities: match i {
                    4 => vec![("A3-1", Oddity::MisreadFirst(-30.0))],
                    11 => vec![("B8-3", Oddity::NotRead("vent cap seized")), ("A2-3", Oddity::Misread(18.0))],
                    _ => Vec::new(),
                },
                proven_full: true,
                rest_volts: (i == 11).then_some(50.68),
            })
            .collect(),
    }
}
