//! SC-1 to SC-3: what is due, when, why, and what waiting does.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::cell;
use crate::common::facts::{TODAY, facts, has, item};
use crate::common::shape;
use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::{
    BankFacts, Consequence, Duty, Habits, OpenFinding, Postponed, Reminder, Season, Task, WaterDates, Why,
    due, minutes,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, SeenFinding};
use rainshadow_core::water::{Basis, Interval, WaterHistory, forecast};
use rainshadow_core::wording::{self, DueReader};

#[test]
fn the_calendar_counts_from_the_last_time() {
    // house rules of Maker first (common practice, no source): 30, 90, 90, 180 and 365 days
    let f = facts();
    for (task, day) in [
        (Task::Water, date(2026, 10, 31)),
        (Task::Round, date(2026, 12, 30)),
        (Task::Equalize, date(2026, 11, 30)),
        (Task::RetorqueAndClean, date(2026, 12, 28)),
        (Task::LoadTest, date(2027, 3, 1)),
    ] {
        let found = item(&f, task);
        assert_eq!((found.date, found.consequence), (day, Consequence::Routine), "{task:?}");
    }
}

#[test]
fn standby_banks_are_tested_twice_as_often_and_never_equalized_by_the_calendar() {
    let mut f = facts();
    f.duty = Duty::of("radio relay, standby");
    f.wet_season = Some("11-01".parse().unwrap());
    f.first_frost = Some("10-20".parse().unwrap());
    f.last_standby_check = Some(date(2026, 1, 10));
    assert_eq!(item(&f, Task::LoadTest).date, date(2026, 8, 28));
    assert!(!has(&f, Task::Equalize));
    assert_eq!(item(&f, Task::StandbyWet).date, date(2026, 10, 18));
    assert_eq!(item(&f, Task::StandbyFrost).date, date(2026, 10, 23));
    // checked in early October: this year's rain is met, the frost still comes
    f.last_standby_check = Some(date(2026, 10, 10));
    assert_eq!(item(&f, Task::StandbyWet).date, date(2027, 10, 18));
    assert_eq!(item(&f, Task::StandbyFrost).date, date(2026, 10, 23));
    assert!(!has(&facts(), Task::StandbyWet));
}

fn consumption(p10: Date, fills: usize) -> WaterDates {
    WaterDates { p10, p50: p10, p90: p10, cell: None, per_day: 1.5, fills, basis: Basis::Totals }
}

#[test]
fn water_goes_by_the_earlier_of_forecast_and_calendar_until_three_fills_are_known() {
    let mut f = facts();
    f.water = Some(consumption(date(2026, 11, 20), 2));
    let two = item(&f, Task::Water);
    assert_eq!((two.date, two.consequence), (date(2026, 10, 31), Consequence::Routine));
    assert_eq!(two.other.as_ref().unwrap().date, date(2026, 11, 20), "the later is kept");
    f.water = Some(consumption(date(2026, 11, 20), 3));
    let three = item(&f, Task::Water);
    assert_eq!((three.date, three.consequence), (date(2026, 11, 20), Consequence::Harm));
    assert!(matches!(three.other.unwrap().why, Why::Every { days: 30, .. }));
    f.water = Some(consumption(date(2026, 10, 12), 1));
    assert_eq!(item(&f, Task::Water).consequence, Consequence::Harm);
}

#[test]
fn a_bank_in_storage_is_left_alone_but_for_its_checks() {
    let mut f = facts();
    f.season = Some(Season { opens: "05-15".parse().unwrap(), closes: "10-15".parse().unwrap() });
    let retorque = item(&f, Task::RetorqueAndClean);
    assert_eq!((retorque.date, retorque.moved_by_storage), (date(2027, 5, 15), true));
    // closes 15 October, checked at the latest 60 days later, and before it opens
    assert_eq!(item(&f, Task::StorageCheck).date, date(2026, 12, 14));
    f.last_storage_check = Some(date(2026, 12, 14));
    assert_eq!(item(&f, Task::StorageCheck).date, date(2027, 2, 12));
    f.last_storage_check = Some(date(2027, 4, 20));
    assert_eq!(item(&f, Task::StorageCheck).date, date(2027, 12, 14), "the season opens before the next");
}

#[test]
fn a_fill_that_falls_into_storage_comes_no_sooner_than_the_season_opens() {
    let mut f = facts();
    f.season = Some(Season { opens: "05-15".parse().unwrap(), closes: "10-15".parse().unwrap() });
    let (p50, p90) = (date(2026, 12, 20), date(2027, 6, 2));
    f.water = Some(WaterDates { p50, p90, ..consumption(date(2026, 11, 20), 3) });
    let fill = item(&f, Task::Water);
    assert_eq!((fill.date, fill.moved_by_storage), (date(2027, 5, 15), true));
    let Why::Consumption { p50, p90, .. } = fill.why else { panic!("a forecast of water: {:?}", fill.why) };
    assert_eq!((p50, p90), (date(2027, 5, 15), date(2027, 6, 2)), "the range begins with the season");
}

#[test]
fn a_seasonal_house_reads_at_the_turns_of_the_season() {
    let mut f = facts();
    f.rules = HouseRules::light_touch();
    f.season = Some(Season { opens: "05-15".parse().unwrap(), closes: "10-15".parse().unwrap() });
    // the round of 1 October met the close of this season
    let next = item(&f, Task::Round);
    assert_eq!((next.date, next.why.clone()), (date(2027, 5, 15), Why::SeasonTurns { opens: true }));
    f.round.as_mut().unwrap().day = date(2026, 8, 1);
    assert_eq!(item(&f, Task::Round).why, Why::SeasonTurns { opens: false });
    f.season = None;
    assert_eq!(item(&f, Task::Round).date, date(2027, 1, 31), "without a season: half a year");
}

#[test]
fn readings_left_in_question_bring_the_round_forward() {
    let mut f = facts();
    f.round.as_mut().unwrap().in_question = vec![cell("A2-3")];
    let asked = item(&f, Task::Round);
    assert_eq!((asked.date, asked.consequence), (date(2026, 10, 15), Consequence::Loss));
}

#[test]
fn what_the_eye_found_is_due_by_how_bad_it_is() {
    let mut f = facts();
    let found = |id: &str, severity| {
        let seen = SeenFinding { kind: "green".into(), severity, note: String::new(), measured: None };
        let place = "A3".parse().unwrap();
        OpenFinding {
            day: date(2026, 10, 1),
            finding: rainshadow_core::finding::look::finding(id, place, Check::Terminals, &seen),
        }
    };
    f.findings = vec![found("1", Severity::Watch), found("2", Severity::Act)];
    let seen: Vec<(Date, Consequence)> =
        due(&f).iter().filter(|i| i.task == Task::SeenFinding).map(|i| (i.date, i.consequence)).collect();
    assert_eq!(seen, [(date(2026, 10, 1), Consequence::Harm), (date(2026, 10, 31), Consequence::Loss)]);
    let items = due(&f);
    let act = items.iter().find(|i| i.about() == "2").unwrap();
    let said = wording::due(
        act,
        &DueReader {
            construction: f.model.construction,
            cells: 24,
            today: date(2026, 10, 8),
            units: ReaderUnits::default(),
        },
    );
    assert_eq!(said.title, "A3, terminals: green copper");
    assert!(said.why.starts_with("Clean, dry, reassemble"), "{}", said.why);
}

#[test]
fn what_is_put_off_keeps_its_date_and_reason_until_the_due_date_moves_on() {
    let mut f = facts();
    f.reminders = vec![Reminder {
        id: "r1".into(),
        day: date(2026, 10, 5),
        text: "ask about the fan".into(),
        job: None,
    }];
    f.postponed = vec![Postponed {
        task: Task::Reminder,
        of: "r1".into(),
        from: date(2026, 10, 5),
        until: date(2026, 10, 20),
        reason: "owner away".into(),
        by: "TA".into(),
    }];
    let put_off = item(&f, Task::Reminder);
    assert_eq!(put_off.date, date(2026, 10, 20));
    assert_eq!(put_off.postponed, Some((date(2026, 10, 5), "owner away".into(), "TA".into())));
    // an equalize put off last year says nothing of this year's
    f.postponed = vec![Postponed {
        task: Task::Equalize,
        of: String::new(),
        from: date(2025, 9, 1),
        until: date(2027, 1, 1),
        reason: "x".into(),
        by: "TA".into(),
    }];
    assert_eq!(item(&f, Task::Equalize).date, date(2026, 11, 30));
}

#[test]
fn a_sealed_bank_has_no_water_no_equalize_and_a_round_of_volts() {
    let mut f = facts();
    f.shape = shape(6, 2, 2);
    f.model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    f.last_volts = Some(date(2026, 9, 1));
    assert!(!has(&f, Task::Water) && !has(&f, Task::Equalize) && !has(&f, Task::KitInspection));
    assert_eq!(item(&f, Task::Round).date, date(2026, 11, 30));
}

#[test]
fn time_needed_by_the_rule_and_by_ones_own_rounds() {
    // SC-2 (common practice, no source): 48 cells, 45 s each and 10 min; water 30 s each and 10 min
    let mut f = facts();
    assert_eq!(minutes(Task::Round, &f), 50, "46 minutes, planned in fives");
    assert_eq!(minutes(Task::Water, &f), 35);
    assert_eq!(minutes(Task::LoadTest, &f), 160);
    f.habits.rounds = vec![28.0, 31.0];
    assert_eq!(minutes(Task::Round, &f), 50, "two of one's own are too few");
    f.habits.rounds = vec![28.0, 31.0, 33.0];
    assert_eq!(minutes(Task::Round, &f), 35);
    f.habits.fills = vec![18.0, 44.0, 21.0];
    assert_eq!(minutes(Task::Water, &f), 35, "21 minutes at the cells and 10 to get there");
    // a shop that is quicker says so in its rules
    f.habits = Habits::default();
    f.rules = f.rules.with("round_cell_seconds", Some(20.0)).unwrap();
    f.rules = f.rules.with("set_up_minutes", Some(0.0)).unwrap();
    assert_eq!((minutes(Task::Round, &f), minutes(Task::Water, &f)), (20, 25));
    f.rules = f.rules.with("test_battery_minutes", Some(5.0)).unwrap();
    assert_eq!(minutes(Task::LoadTest, &f), 80);
}

#[test]
fn a_test_a_month_overdue_becomes_a_loss() {
    let f = facts();
    let test = item(&f, Task::LoadTest);
    assert_eq!(test.consequence_on(date(2027, 3, 30)), Consequence::Routine);
    assert_eq!(test.consequence_on(date(2027, 3, 31)), Consequence::Loss);
}

#[test]
fn a_battery_that_came_after_the_round_is_read_within_a_fortnight() {
    let mut f = facts();
    f.came = vec![(cell("B2-1").battery, date(2026, 10, 5))];
    let found = item(&f, Task::Round);
    assert_eq!((found.date, found.consequence), (date(2026, 10, 19), Consequence::Loss));
    assert_eq!(found.other.as_ref().unwrap().date, date(2026, 12, 30), "the calendar is kept");
    let reader = DueReader {
        construction: f.model.construction,
        cells: 48,
        today: TODAY,
        units: ReaderUnits::default(),
    };
    let said = wording::due(&found, &reader);
    assert_eq!(said.title, "First readings of B2");
    assert!(said.why.contains("came after the last readings"), "{}", said.why);
    // a cell left in question on the round is read again by then too
    f.round.as_mut().unwrap().in_question = vec![cell("A1-1")];
    assert_eq!(item(&f, Task::Round).date, date(2026, 10, 15), "the earlier of the two");
}

#[test]
fn a_calendar_that_the_forecast_overrules_is_not_called_later() {
    let mut f = facts();
    f.water = Some(consumption(date(2026, 11, 20), 3));
    let reader = DueReader {
        construction: f.model.construction,
        cells: 48,
        today: TODAY,
        units: ReaderUnits::default(),
    };
    let said = wording::due(&item(&f, Task::Water), &reader);
    assert!(
        said.other.starts_with("Overruled, ") && said.other.contains("forecast decides"),
        "{}",
        said.other
    );
    f.water = Some(consumption(date(2026, 10, 20), 3));
    assert!(wording::due(&item(&f, Task::Water), &reader).other.starts_with("Later, "));
}

#[test]
fn the_sentence_on_top_names_where_to_start() {
    let harm = ("Kestrel Dome", Consequence::Harm, TODAY);
    let later = ("Larch Point repeater", Consequence::Harm, date(2026, 11, 1));
    let say =
        |list: &[(&str, Consequence, Date)]| wording::today_verdict(list, Some(date(2026, 10, 29)), TODAY);
    assert_eq!(say(&[harm, later]), "One bank comes to harm if left. Start at Kestrel Dome.");
    assert_eq!(say(&[later]), "Nothing is due today. Next visit Thursday 29 October.");
    let two = [harm, ("Dipper", Consequence::Harm, TODAY)];
    assert_eq!(say(&two), "Two banks come to harm if left. Start at Kestrel Dome.");
    assert_eq!(wording::minutes(270), "4 h 30 min");
}

#[test]
fn the_maker_goes_before_the_house_for_torque_but_not_where_the_road_asks_sooner() {
    let mut f = facts();
    let of = |f: &BankFacts| {
        let own = item(f, Task::RetorqueAndClean);
        (own.date, own.why)
    };
    let last = f.last_retorque;
    f.model.retorque_days = Some(90);
    let house = date(2026, 12, 28);
    assert_eq!(
        of(&f),
        (house.checked_sub(jiff::Span::new().days(90)).unwrap(), Why::ByMaker { days: 90, last })
    );
    f.model.retorque_days = Some(365);
    assert_eq!(
        of(&f).0,
        house.checked_add(jiff::Span::new().days(185)).unwrap(),
        "later than the house, too"
    );
    f.on_the_move = true;
    assert!(matches!(of(&f).1, Why::Shaken { .. }), "a year is too long on the road");
    f.model.retorque_days = Some(60);
    assert!(matches!(of(&f).1, Why::ByMaker { days: 60, .. }));
}

proptest! {
    #[test]
    fn any_record_gives_a_list_in_order_of_consequence(
        days in prop::collection::vec(prop::option::of(0i32..1500), 8), stored in any::<bool>(), standby in any::<bool>(),
    ) {
        let day = |n: Option<i32>| n.map(|n| date(2022, 9, 1).checked_add(jiff::Span::new().days(n)).unwrap());
        let mut f = facts();
        f.duty = if standby { Duty::Standby } else { Duty::Cycled };
        f.season = stored.then(|| Season { opens: "04-01".parse().unwrap(), closes: "11-01".parse().unwrap() });
        f.last_water_check = day(days[0]);
        f.last_equalize = day(days[1]);
        f.last_retorque = day(days[2]);
        f.last_test = day(days[3]);
        f.last_standby_check = day(days[4]);
        f.last_storage_check = day(days[5]);
        f.water = day(days[6]).map(|d| consumption(d, 3));
        f.round.as_mut().unwrap().day = day(days[7]).unwrap_or(TODAY);
        let items = due(&f);
        prop_assert!(items.windows(2).all(|w| (w[0].consequence, w[0].date) <= (w[1].consequence, w[1].date)));
        let reader = DueReader { construction: f.model.construction, cells: 48, today: TODAY, units: ReaderUnits::default() };
        for item in &items {
            if let Some(other) = &item.other {
                prop_assert!(other.date >= item.date || item.task == Task::Water || item.moved_by_storage, "{item:?}");
            }
            // storage checks are the only thing that falls into a storage spell, but for the turn itself
            let inside = f.season.is_some_and(|s| s.stored(item.date));
            prop_assert!(!inside || matches!(item.task, Task::StorageCheck | Task::StandbyWet | Task::StandbyFrost | Task::Round), "{item:?}");
            let said = wording::due(item, &reader);
            prop_assert!(!said.title.is_empty() && said.why.ends_with('.'), "{said:?}");
        }
    }
}

#[test]
fn water_is_carried_for_fills_and_equalizes_and_grows_with_waiting() {
    let f = facts();
    let model = f.model.clone();
    let month = Interval { days: 30.0, millilitres: 45.0, temperature: Some(25.0) };
    let history = WaterHistory {
        bank: vec![month; 3],
        days_since_fill: Some(0.0),
        expected_temperature: Some(25.0),
        cell_count: 48,
        ..WaterHistory::default()
    };
    let ahead = forecast(&history, &model).unwrap();
    let made = date(2026, 10, 1);
    let water = item(&f, Task::Water);
    let due = water.water_to_carry(made, &ahead, TODAY);
    assert!(due > 0.0, "a month of thirst");
    let late = water.water_to_carry(made, &ahead, date(2026, 12, 31));
    assert!(late > due, "what is late has lost more: {late} against {due}");
    assert!(item(&f, Task::Equalize).water_to_carry(made, &ahead, TODAY) > 0.0);
    assert!(item(&f, Task::Round).water_to_carry(made, &ahead, TODAY).abs() < 1e-9);
}
