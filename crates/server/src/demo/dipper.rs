//! Dipper, a river-survey launch: sealed batteries, one block's resistance climbing, uneven cables
//! between the strings.

use super::joints_made::{Jointed, clamped, drop_at, torqued};
use super::tests_made::{Made, short};
use super::visits::{Seen, VisitStory};
use super::years::{Hour, Planned, Use, Years};
use super::{NewBank, NewSite, Story, ZONE};
use crate::app::typed::cable::TypedCable;
use crate::app::typed::equipment::{
    CouplingKind, TypedCharger, TypedConnection, TypedEquipment, TypedFitting, TypedWiring,
};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::equipment::{FittingKind, SourceKind, Surroundings};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::joints::{JointPart, Pole};
use rainshadow_core::severity::Severity;
use rainshadow_core::simulator::{ChargerSettings, Climate};
use rainshadow_core::visit::{Check, Work};

/// Days before today on which it was looked at.
const LOOKS: [i64; 9] = [1080, 960, 840, 715, 590, 470, 345, 220, 96];

fn years() -> Years {
    Years {
        model: "agm-12v-100",
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
        climate: Climate { mean: 15.0, year: 4.0, day: 2.0 },
        seed: 0xd199_0005,
        charger: ChargerSettings {
            absorption: 28.8,
            float: 27.24,
            per_degree: -0.05,
            tail: 2.0,
            longest: 6.0,
        },
        // string B has 0.9 m more cable
        shares: &[0.56, 0.44],
        amperes: 25.0,
        age: 1.0,
        hour,
        // B2 dries out and sulfates from its third year on
        fault: |days_ago, name, cell| {
            if name.starts_with("B2-") && days_ago < 880 {
                cell.harden(0.000_125);
                cell.wear(0.000_07);
            }
        },
        planned: LOOKS.map(|days_ago| Planned { days_ago, full: true, ..Planned::default() }).to_vec(),
        run: None,
    }
}

/// Out on the river three days a week from spring to autumn, on the shore line else.
fn hour(hour: &Hour) -> Use {
    let out = hour.season > -0.5 && matches!(hour.days_ago % 7, 1 | 3 | 4) && (8..15).contains(&hour.of_day);
    let engine = out && matches!(hour.of_day, 8 | 14);
    Use {
        load: if out { 9.0 } else { 0.4 },
        source: if engine {
            45.0
        } else if out {
            0.0
        } else {
            25.0
        },
        ..Use::default()
    }
}

pub(super) fn story(_today: Date) -> Story {
    let years = years();
    Story {
        site: NewSite {
            name: "Dipper".into(),
            kind: "river-survey launch".into(),
            zone: ZONE.into(),
            region: "Hollin Basin, river".into(),
            wet_season: None,
            first_frost: None,
            climate: None,
            lows: None,
            latitude: None,
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "marine".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
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
            .map(|days_ago| VisitStory {
                seen: if days_ago == 345 {
                    let note = "string B has 0.9 m more cable than string A";
                    vec![Seen("B1", Check::Cables, "rubbing", Severity::Watch, note)]
                } else {
                    Vec::new()
                },
                work: match days_ago {
                    715 => vec![(Work::Retorqued, "")],
                    _ => Vec::new(),
                },
                tests: tests(days_ago),
                joints: joints(days_ago),
                ..VisitStory::plain(days_ago)
            })
            .collect(),
        pours: None,
        access: AccessNotes {
            cover: "lift-out seat, port side, four turn buttons".into(),
            switch: "rotary switch at the companionway".into(),
            wished: "the bilge pump starts by itself: pull its fuse first".into(),
            ..AccessNotes::default()
        },
        equipment: Some(equipment()),
        years,
        journal: include_str!("journals/dipper.jsonl"),
        log: None,
    }
}

/// Short loads of the four: B2 gives way a little, then clearly.
fn tests(days_ago: i64) -> Vec<Made> {
    let read: &[(&str, f64, f64, f64)] = match days_ago {
        345 => &[
            ("A1", 12.84, 11.52, 12.55),
            ("A2", 12.83, 11.49, 12.54),
            ("B1", 12.83, 11.50, 12.55),
            ("B2", 12.80, 11.31, 12.47),
        ],
        96 => &[
            ("A1", 12.83, 11.48, 12.53),
            ("A2", 12.83, 11.46, 12.53),
            ("B1", 12.82, 11.47, 12.52),
            ("B2", 12.71, 10.86, 12.21),
        ],
        _ => return Vec::new(),
    };
    short(100.0, 19.0, read)
}

/// Joints and currents at sixty amperes: B1+ was like its mates a year ago and is not now.
fn joints(days_ago: i64) -> Vec<Jointed> {
    let read = |millivolts: [f64; 10]| {
        let all = [
            ("A1", Pole::Positive, JointPart::Lead),
            ("A1", Pole::Positive, JointPart::Post),
            ("A1", Pole::Negative, JointPart::Post),
            ("A2", Pole::Positive, JointPart::Post),
            ("A2", Pole::Negative, JointPart::Post),
            ("A2", Pole::Negative, JointPart::Lead),
            ("B1", Pole::Positive, JointPart::Post),
            ("B1", Pole::Negative, JointPart::Post),
            ("B2", Pole::Positive, JointPart::Post),
            ("B2", Pole::Negative, JointPart::Post),
        ];
        all.into_iter()
            .zip(millivolts)
            .map(|(at, millivolts)| drop_at(at, millivolts, 60.0))
            .collect::<Vec<_>>()
    };
    match days_ago {
        345 => {
            let mut all = read([3.4, 3.8, 3.7, 3.9, 3.7, 3.5, 3.7, 3.4, 3.3, 3.5]);
            all.push(torqued(9.0));
            all
        }
        96 => {
            let mut all = read([3.2, 4.0, 3.7, 4.3, 4.0, 3.5, 16.5, 3.2, 2.9, 3.2]);
            all.extend([clamped("A", 33.9), clamped("B", 26.2)]);
            all
        }
        _ => Vec::new(),
    }
}

/// A shore charger, the engine’s alternator, and how the launch is wired.
fn equipment() -> TypedEquipment {
    let fitting = |kind, whereto: &str, amperes: &str| TypedFitting {
        kind,
        whereto: whereto.into(),
        amperes: amperes.into(),
    };
    let cable = |from: &str, to: &str, mark: &str| TypedConnection {
        from: from.into(),
        to: to.into(),
        mark: mark.into(),
    };
    TypedEquipment {
        charger: TypedCharger {
            kind: Some(SourceKind::ShoreCharger),
            name: "under the chart table".into(),
            absorption: "28.8".into(),
            float: "27.2".into(),
            amperes: "25".into(),
            ..TypedCharger::default()
        },
        others: vec![TypedCharger {
            kind: Some(SourceKind::Alternator),
            name: "engine".into(),
            absorption: "28.8".into(),
            amperes: "40".into(),
            ..TypedCharger::default()
        }],
        fittings: vec![
            fitting(FittingKind::Switch, "companionway, both strings", ""),
            fitting(FittingKind::Fuse, "string A, at its positive post", "125"),
            fitting(FittingKind::Fuse, "string B, at its positive post", "125"),
            fitting(FittingKind::Fuse, "bilge pump, unswitched", "10"),
        ],
        surroundings: vec![Surroundings::EngineHeat],
        could_hole: "a seat bolt over A2, 30 mm long".into(),
        own_numbers: "1, 2, 3, 4".into(),
        wiring: TypedWiring {
            link: typed_cable("25", "0.30"),
            by: Some(CouplingKind::Rails),
            positive: vec![typed_cable("25", "0.45")],
            negative: vec![typed_cable("25", "0.45")],
            plus_at: "A".into(),
            minus_at: "A".into(),
        },
        hook_up: vec![
            cable("A1 +", "string fuse A", "red"),
            cable("B1 +", "string fuse B", "red, two bands"),
            cable("A2 −", "shunt", "black"),
            cable("B2 −", "shunt", "black, two bands"),
        ],
        ..TypedEquipment::default()
    }
}

fn typed_cable(section: &str, metres: &str) -> TypedCable {
    TypedCable { section: section.into(), length: metres.into(), ..TypedCable::default() }
}
