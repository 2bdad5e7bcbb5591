//! Larch Point repeater, a radio relay: exemplary, on float from one check to the next.

use super::joints_made::{Jointed, drop_at};
use super::tests_made::{real, stopped};
use super::visits::{Pours, VisitStory};
use super::years::{Hour, Planned, Use, Years, month_day, months};
use super::{NewBank, NewSite, RoundStory, Story, ZONE};
use crate::db::AccessNotes;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::joints::{JointPart, Pole};
use rainshadow_core::simulator::{ChargerSettings, Climate, SimCell};
use rainshadow_core::visit::Work;

/// Air where it stands.
const CLIMATE: Climate = Climate { mean: 15.0, year: 5.0, day: 1.5 };

/// Rounds, oldest first: days before today.
const ROUNDS: [i64; 9] = [1096, 959, 822, 685, 548, 411, 274, 137, 1];

/// The rectifier carries the relay; the bank stands by, full, in a cool hut.
fn years() -> Years {
    Years {
        model: "tubular-2v-300",
        shape: BankShape {
            system_voltage: 24,
            cells_per_battery: 1,
            series: 12,
            parallel: 1,
            layout: Layout { rows_per_string: 2, ..Layout::default() },
        },
        climate: CLIMATE,
        seed: 0x1a4c_0001,
        charger: ChargerSettings {
            absorption: 28.8,
            float: 26.76,
            per_degree: -0.06,
            tail: 1.5,
            longest: 16.0,
        },
        shares: &[1.0],
        amperes: 30.0,
        age: 0.5,
        hour,
        fault: |_, _, _: &mut SimCell| {},
        planned: ROUNDS
            .map(|days_ago| Planned { days_ago, full: true, fills: true, ..Planned::default() })
            .to_vec(),
        run: None,
    }
}

/// Volts of the cells when the relay had run 41 hours on them.
const PROOF: [f64; 12] = [2.021, 2.020, 2.020, 2.019, 2.020, 2.021, 2.020, 2.020, 2.019, 2.020, 2.021, 2.020];

fn hour(hour: &Hour) -> Use {
    // 41 hours on the bank alone, to see that it can.
    let alone = hour.days_ago == 170 || (hour.days_ago == 171 && hour.of_day >= 7);
    Use { load: 3.2, source: if alone { 0.0 } else { 30.0 }, ..Use::default() }
}

pub(super) fn story(today: Date) -> Story {
    let years = years();
    Story {
        site: NewSite {
            name: "Larch Point repeater".into(),
            kind: "radio relay, standby".into(),
            zone: ZONE.into(),
            region: "Hollin Basin".into(),
            wet_season: month_day(today, 24),
            first_frost: month_day(today, 12),
            climate: months(&CLIMATE, today),
            lows: None,
            latitude: Some(47.8),
            southern: false,
        },
        bank: NewBank {
            site: String::new(),
            name: String::new(),
            duty: "standby".into(),
            model: years.model.into(),
            shape: years.shape.clone(),
            in_service: Some("2022-05".into()),
            keeper: "TA".into(),
            season_opens: None,
            season_closes: None,
            rules: "close_watch".into(),
        },
        instrument: Instrument::digital(),
        people: ["MO", "TA"],
        rounds: ROUNDS.into_iter().map(|days_ago| RoundStory::plain(days_ago, true)).collect(),
        visits: ROUNDS
            .into_iter()
            .map(|days_ago| VisitStory {
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
                    1 => vec![(Work::StandbyChecked, ""), (Work::Retorqued, "")],
                    _ => Vec::new(),
                },
                // Volts of the twelve cells under the relay with its heater on.
                tests: match days_ago {
                    137 => vec![
                        real(("relay and heater", 12.4, 12.0), [25.42, 25.06, 24.98]),
                        stopped(3.2, 1.95, 15.0, 41.0, &PROOF),
                    ],
                    1 => vec![real(("relay and heater", 12.3, 12.0), [25.40, 25.04, 24.96])],
                    _ => Vec::new(),
                },
                joints: match days_ago {
                    137 => joints(12.4),
                    1 => joints(12.3),
                    _ => Vec::new(),
                },
                ..VisitStory::plain(days_ago)
            })
            .collect(),
        pours: Some(Pours { by_battery: false, own: "", by_kit: false }),
        access: AccessNotes {
            switch: "breaker row above the rack, second from left".into(),
            wrenches: "18 mm, insulated".into(),
            ..AccessNotes::default()
        },
        equipment: None,
        years,
        journal: include_str!("journals/larch_point.jsonl"),
        log: None,
    }
}

/// Every joint of the twelve cells under the relay and its heater: all alike.
fn joints(amperes: f64) -> Vec<Jointed> {
    let mut all = Vec::new();
    for (battery, millivolts) in (1u8..=12).zip([1.3, 1.2, 1.4, 1.3, 1.2, 1.5, 1.3, 1.3, 1.4, 1.2, 1.3, 1.3])
    {
        for (pole, more) in [(Pole::Positive, 0.0), (Pole::Negative, 0.1)] {
            all.push(drop_at((&format!("A{battery}"), pole, JointPart::Post), millivolts + more, amperes));
        }
    }
    all
}
