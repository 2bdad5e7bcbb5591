//! Kestrel Dome, a ridge-top observatory: one cell of string B drifts away for a year; an equalize
//! helped all but that cell; a corner battery stands in the cold.

use super::equalize::EqualizeStory;
use super::noise::character;
use super::visits::{Drinks, Seen, VisitStory};
use super::{NewBank, NewSite, Oddity, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use crate::http::{TypedCharger, TypedEquipment, TypedLoad};
use rainshadow_core::bank::{BankShape, CellAddress, Layout};
use rainshadow_core::instrument::{Instrument, InstrumentKind};
use rainshadow_core::quantity::Points;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{Check, Work};

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

/// Rounds before which the bank was equalized: the first ones after it find the cells together.
const AFTER_EQUALIZE: [usize; 2] = [6, 11];

fn truth(round: usize, sag: f64, cell: CellAddress) -> f64 {
    let name = cell.to_string();
    // Cells grow apart by a little each round; the equalize draws them together again.
    let since = AFTER_EQUALIZE.into_iter().filter(|first| *first <= round).max().unwrap_or(0);
    let rounds_apart = f64::from(u32::try_from(round - since).unwrap_or(0));
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
        visits: visits(),
        drinks: Some(Drinks { per_day: 2.6, by_battery: true, by_kit: false }),
        access: AccessNotes {
            cover:
                "two clips at the dome side, lifts towards the aisle; the hinge side carries the vent hose"
                    .into(),
            wrenches: "13 mm posts, 10 mm cover".into(),
            awkward: "A1-1 and B1-1 sit under the beam: mirror; B8 takes the filler jug with the bent spout"
                .into(),
            switch: "red handle left of the door, turns clockwise to off".into(),
            wished: "the path is iced until May, carry water in two cans".into(),
        },
        equalize: Some(EqualizeStory {
            days_ago: 43,
            celsius: 20.0,
            pilot: ("B5-2", 0.20),
            behind: ("A7-", 0.045),
            person: "MO",
        }),
        equipment: Some(equipment()),
    }
}

/// A solar charge controller that does not follow the temperature, and what hangs on the bank.
fn equipment() -> TypedEquipment {
    let load = |name: &str, volts: &str| TypedLoad { name: name.into(), highest_volts: volts.into() };
    TypedEquipment {
        charger: TypedCharger {
            absorption: "58.8".into(),
            float: "54.0".into(),
            equalize: "61.8".into(),
            amperes: "45".into(),
            ..TypedCharger::default()
        },
        sun_from: "9:00".into(),
        sun_to: "16:30".into(),
        dark: "18:20".into(),
        loads: vec![load("dome drive", "60"), load("spectrograph", "58"), load("inverter", "66")],
        enclosure: "14".into(),
        ..TypedEquipment::default()
    }
}

/// Every round's day, and visits between them for water, three years in all.
fn visits() -> Vec<VisitStory> {
    let mut all: Vec<VisitStory> = EARLY
        .into_iter()
        .chain(ROUNDS.map(|(days, celsius, _)| (days, celsius)))
        .map(|(days_ago, celsius)| VisitStory {
            fills: true,
            rests_at: Some(1.264),
            ..VisitStory::plain(days_ago, celsius)
        })
        .collect();
    for visit in &mut all {
        match visit.days_ago {
            1096 => visit.work = vec![(Work::Retorqued, "11 N·m all posts")],
            730 => {
                visit.seen = vec![Seen("A3", Check::Terminals, "powder", Condition::Watch, "negative post")];
                visit.work = vec![(Work::LoadTested, "")];
            }
            640 => {
                visit.put_right = &[("A3", Check::Terminals)];
                visit.work = vec![(Work::Cleaned, ""), (Work::Retorqued, "")];
            }
            257 => {
                visit.work = vec![
                    (Work::ChargedFull, "tail current held"),
                    (Work::Equalized, "three hours, B5-2 as pilot"),
                ];
                visit.note = "All cells came up but B5-2, which gained little.";
            }
            171 => visit.work = vec![(Work::Retorqued, ""), (Work::LoadTested, "all within 0.2 V")],
            43 => {
                visit.seen =
                    vec![Seen("B8", Check::Caps, "seized", Condition::Watch, "cap of the third cell")];
            }
            1 => {
                visit.volts_off = &[("B5", -0.04), ("A7", -0.03)];
                visit.seen = vec![Seen("A6", Check::Terminals, "green", Condition::Watch, "link to A7")];
            }
            _ => {}
        }
    }
    all
}

/// Earlier visits, before the cell began to sink: days before today and temperature.
const EARLY: [(i64, f64); 7] =
    [(1096, 16.5), (1005, 8.0), (914, 12.5), (822, 23.5), (730, 17.0), (640, 8.5), (548, 13.5)];
