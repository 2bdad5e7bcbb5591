//! Kestrel Dome, a ridge-top observatory: one cell of string B drifts away for a year; an equalize
//! helped all but that cell; a corner battery with a damp lid stays behind.

use super::equalize::EqualizeStory;
use super::visits::{Pours, Seen, VisitStory};
use super::years::{Planned, Use, Years, array, months};
use super::{NewBank, NewSite, Oddity, RoundStory, Story, ZONE};
use crate::app::typed::cable::TypedCable;
use crate::app::typed::equipment::{CouplingKind, TypedCharger, TypedEquipment, TypedLoad, TypedWiring};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::equipment::SourceKind;
use rainshadow_core::instrument::{Instrument, InstrumentKind};
use rainshadow_core::quantity::Points;
use rainshadow_core::severity::Severity;
use rainshadow_core::simulator::{ChargerSettings, Climate};
use rainshadow_core::visit::{Check, Repair, Work};

/// Air where it stands.
const CLIMATE: Climate = Climate { mean: 15.0, year: 6.0, day: 2.0 };

/// Days before today on which the cells were read.
const ROUNDS: [i64; 12] = [473, 431, 389, 346, 300, 257, 214, 171, 128, 85, 43, 1];
/// Earlier visits, before the cell began to sink.
const EARLY: [i64; 7] = [1096, 1005, 914, 822, 730, 640, 548];

/// Days before today from which B5-2 sulfates hard, until a day, and how much in all.
const SULFATES: [(i64, i64, f64); 3] = [(520, 257, 0.09), (257, 43, 0.145), (43, 1, 0.007)];
/// Times what a sound battery loses by itself, from so many days before today: the lid of A7 is damp,
/// then wet, then dried.
const LID: [(i64, f64); 3] = [(43, 1.2), (200, 7.5), (330, 2.8)];

fn years() -> Years {
    Years {
        model: "flooded-6v-420",
        shape: BankShape {
            system_voltage: 48,
            cells_per_battery: 3,
            series: 8,
            parallel: 2,
            layout: Layout::default(),
        },
        climate: CLIMATE,
        seed: 0x6e57_0006,
        charger: ChargerSettings { absorption: 58.8, float: 54.0, per_degree: 0.0, tail: 16.0, longest: 1.5 },
        shares: &[0.5, 0.5],
        amperes: 45.0,
        age: 1.0,
        hour: |hour| {
            let night = hour.of_day < 6 || hour.of_day >= 19;
            Use { load: if night { 9.0 } else { 4.0 }, source: array(hour, 70.0).min(45.0), ..Use::default() }
        },
        fault: |days_ago, name, cell| {
            if name == "B5-2" {
                for (from, until, share) in SULFATES {
                    if days_ago <= from && days_ago > until {
                        cell.harden(share / f64::from(i32::try_from(from - until).unwrap_or(1)));
                    }
                }
            }
            if name.starts_with("A7-") {
                cell.leak(
                    LID.into_iter().find(|(from, _)| days_ago <= *from).map_or(1.2, |(_, times)| times),
                );
            }
        },
        planned: EARLY
            .into_iter()
            .chain(ROUNDS)
            .map(|days_ago| Planned {
                days_ago,
                full: true,
                fills: true,
                equalize: if days_ago == 257 { 3.0 } else { 0.0 },
                ..Planned::default()
            })
            .collect(),
        run: Some(EqualizeStory {
            days_ago: 43,
            pilot: "B5-2",
            behind: "A7-",
            instrument: INSTRUMENT,
            person: "MO",
        }),
    }
}

const INSTRUMENT: Instrument = Instrument {
    kind: InstrumentKind::Hydrometer,
    resolution: Points::new(1.0),
    repeatability: Points::new(2.5),
    corrects_for_temperature: false,
};

pub(super) fn story(today: Date) -> Story {
    let years = years();
    Story {
        site: NewSite {
            name: "Kestrel Dome".into(),
            kind: "ridge-top observatory, off-grid solar".into(),
            zone: ZONE.into(),
            region: "Hollin Basin".into(),
            wet_season: None,
            first_frost: None,
            climate: months(&CLIMATE, today),
            lows: None,
            latitude: Some(41.2),
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "off-grid solar".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
            in_service: Some("2023".into()),
            keeper: "TA".into(),
            season_opens: None,
            season_closes: None,
            rules: "maker_first".into(),
        },
        instrument: INSTRUMENT,
        people: ["TA", "MO"],
        rounds: ROUNDS
            .into_iter()
            .enumerate()
            .map(|(i, days_ago)| RoundStory {
                days_ago,
                oddities: match i {
                    4 => vec![("A3-1", Oddity::MisreadFirst(-30.0))],
                    11 => vec![("B8-3", Oddity::NotRead("vent cap seized")), ("A2-3", Oddity::Misread(18.0))],
                    _ => Vec::new(),
                },
                proven_full: true,
                tells_volts: i == 11,
            })
            .collect(),
        visits: visits(),
        pours: Some(Pours { by_battery: true, own: "B5-2", by_kit: false }),
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
        equipment: Some(equipment()),
        years,
        journal: include_str!("journals/kestrel_dome.jsonl"),
        log: None,
    }
}

/// A solar charge controller that does not follow the temperature, and what hangs on the bank.
fn equipment() -> TypedEquipment {
    let load = |name: &str, volts: &str| TypedLoad { name: name.into(), highest_volts: volts.into() };
    let cable =
        |metres: &str| TypedCable { section: "70".into(), length: metres.into(), ..TypedCable::default() };
    TypedEquipment {
        charger: TypedCharger {
            kind: Some(SourceKind::SolarController),
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
        // Taken off at opposite corners.
        wiring: TypedWiring {
            link: cable("0.25"),
            by: Some(CouplingKind::Rails),
            positive: vec![cable("0.90")],
            negative: vec![cable("0.90")],
            plus_at: "A".into(),
            minus_at: "B".into(),
        },
        ..TypedEquipment::default()
    }
}

/// Every round's day, and visits between them for water, three years in all.
fn visits() -> Vec<VisitStory> {
    let mut all: Vec<VisitStory> = EARLY
        .into_iter()
        .chain(ROUNDS)
        .map(|days_ago| VisitStory { fills: true, ..VisitStory::plain(days_ago) })
        .collect();
    for visit in &mut all {
        match visit.days_ago {
            1096 => visit.work = vec![(Work::Retorqued, "11 N·m all posts")],
            730 => {
                visit.seen = vec![Seen("A3", Check::Terminals, "powder", Severity::Watch, "negative post")];
                visit.work = vec![(Work::LoadTested, "")];
            }
            640 => {
                visit.put_right = &[("A3", Check::Terminals, "powder", Repair::Remade)];
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
                    vec![Seen("B8", Check::Caps, "seized", Severity::Watch, "cap of the third cell")];
                visit.work = vec![(Work::Cleaned, "the lid of A7 was wet with acid: neutralized, dried")];
            }
            1 => {
                visit.seen = vec![Seen("A6", Check::Terminals, "green", Severity::Watch, "link to A7")];
            }
            _ => {}
        }
    }
    all
}
