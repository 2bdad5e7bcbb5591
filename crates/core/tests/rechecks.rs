//! Rechecks: what a visit asks to be looked at again, when it is due, and who has answered it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::{TODAY, facts, item};
use crate::common::shape;
use crate::common::visits::{past, sheet};
use jiff::Timestamp;
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{RestConditions, VoltsState};
use rainshadow_core::schedule::{Task, step_minutes};
use rainshadow_core::visit::{
    Entry, EntryRefused, Judged, Place, RecheckWhy, Step, VisitSheet, VisitUnderWay, Work, accept,
    open_rechecks, recheck_day, rechecks_wanted, steps_of,
};
use rainshadow_core::water::{Level, LevelStep, Poured};
use rainshadow_core::wording::{self, DueReader};

fn recheck(step: Step, hours: f64) -> Entry {
    Entry::Recheck { step, hours, reason: "after the charge".into() }
}

fn volts(volts: f64) -> Entry {
    Entry::BatteryVolts { volts, stands: false }
}

fn wanted(sheet: &VisitSheet, key: &str) -> Vec<(Step, f64, RecheckWhy)> {
    let (model, rules) = (BatteryModel::generic_by_key(key).unwrap(), HouseRules::maker_first());
    let bank = shape(model.cells, 2, 1);
    let judged = Judged { shape: &bank, model: &model, rules: &rules };
    rechecks_wanted(sheet, judged).iter().map(|w| (w.step, w.hours, w.why)).collect()
}

#[test]
fn a_night_is_a_day_later_and_two_days_are_two() {
    let day = date(2026, 10, 31);
    for (hours, due) in [
        (1.0, date(2026, 11, 1)),
        (12.0, date(2026, 11, 1)),
        (24.0, date(2026, 11, 1)),
        (48.0, date(2026, 11, 2)),
        (120.0, date(2026, 11, 5)),
    ] {
        assert_eq!(recheck_day(day, hours), due, "{hours}");
    }
}

#[test]
fn a_recheck_stays_open_until_its_step_is_done_on_its_day_or_later() {
    let first = past(date(2026, 10, 1), vec![("", recheck(Step::RestCheck, 48.0))]);
    let early = past(date(2026, 10, 2), vec![("A1", volts(6.3))]);
    let other = past(date(2026, 10, 4), vec![("", Entry::Note { text: "x".into() })]);
    let made = past(date(2026, 10, 5), vec![("A1", volts(6.3))]);
    let open = |visits: &[_]| open_rechecks(visits, None);
    let all = [first, early, other, made];
    for until in 1..=3 {
        let left = open(&all[..until]);
        assert_eq!(left.len(), 1, "{until}");
        assert_eq!((left[0].due, left[0].reason.as_str()), (date(2026, 10, 3), "after the charge"));
    }
    assert!(open(&all).is_empty(), "read on the 5th, after the 3rd");
    // what the bank did before is noted, and no volts are read: nothing is answered by that
    let conditions = RestConditions { hours_since_charge: Some(50.0), ..RestConditions::default() };
    let noted = past(date(2026, 10, 5), vec![("", Entry::Rested { conditions })]);
    assert_eq!(open(&[all[0].clone(), noted]).len(), 1);
    // volts in any state answer one of the volts
    let state = Entry::StateVolts {
        state: VoltsState::AtRest,
        volts: 12.6,
        hours: Some(26.0),
        amperes: None,
        note: String::new(),
        stands: false,
    };
    let by_state = past(date(2026, 10, 3), vec![("", state)]);
    assert!(open(&[all[0].clone(), by_state]).is_empty());
}

#[test]
fn a_round_answers_one_of_gravity_and_a_later_wish_takes_the_place_of_an_earlier() {
    let visits = [
        past(date(2026, 10, 1), vec![("", recheck(Step::Round, 72.0)), ("", recheck(Step::Water, 48.0))]),
        past(date(2026, 10, 2), vec![("", recheck(Step::Round, 240.0))]),
    ];
    let days: Vec<_> = open_rechecks(&visits, None).iter().map(|r| (r.step, r.due)).collect();
    assert_eq!(days, [(Step::Water, date(2026, 10, 3)), (Step::Round, date(2026, 10, 12))]);
    assert_eq!(open_rechecks(&visits, Some(date(2026, 10, 4))).len(), 2, "a round before its day");
    assert_eq!(open_rechecks(&visits, Some(date(2026, 10, 12))).len(), 1);
}

#[test]
fn rules_want_a_recheck_where_this_visit_cannot_tell() {
    assert_eq!(
        wanted(&sheet(vec![("A1", volts(6.3))]), "flooded-6v-225"),
        [(Step::RestCheck, 12.0, RecheckWhy::NotSettled)]
    );
    let rested = Entry::Rested {
        conditions: RestConditions { hours_since_charge: Some(26.0), ..RestConditions::default() },
    };
    assert!(wanted(&sheet(vec![("", rested), ("A1", volts(6.3))]), "flooded-6v-225").is_empty());
    let full = Entry::Done { work: Work::ChargedFull, note: String::new() };
    assert_eq!(
        wanted(&sheet(vec![("", full.clone())]), "agm-12v-100"),
        [(Step::RestCheck, 24.0, RecheckWhy::Holding)]
    );
    let water = |to_mark| Entry::Water {
        millilitres: 90.0,
        to_mark,
        by_kit: false,
        stands: false,
        poured: Poured::default(),
    };
    assert_eq!(
        wanted(&sheet(vec![("A1-1", water(false))]), "flooded-6v-225"),
        [(Step::Water, 48.0, RecheckWhy::Covered)]
    );
    assert_eq!(
        wanted(&sheet(vec![("", water(true))]), "flooded-6v-225"),
        [(Step::Round, 72.0, RecheckWhy::Unmixed)]
    );
    // what is asked for already is not offered again
    let asked = sheet(vec![("", full), ("", recheck(Step::RestCheck, 24.0))]);
    assert!(wanted(&asked, "agm-12v-100").is_empty());
}

#[test]
fn it_is_due_as_a_kind_of_its_own_with_its_own_minutes() {
    let visits = [past(date(2026, 10, 7), vec![("", recheck(Step::Water, 24.0))])];
    let mut known = facts();
    known.rechecks = open_rechecks(&visits, None);
    let due = item(&known, Task::Recheck);
    assert_eq!((due.date, due.about().as_str()), (TODAY, "water"));
    assert_eq!(due.minutes, step_minutes(Step::Water, &known));
    let reader = DueReader {
        construction: Construction::Flooded,
        cells: 48,
        today: TODAY,
        units: ReaderUnits::default(),
    };
    let said = wording::due(&due, &reader);
    assert_eq!(said.title, "Look at the levels again");
    assert_eq!(said.why, "The visit of 7 Oct asked for it. After the charge.");
}

#[test]
fn a_visit_for_one_step_makes_safe_does_it_and_closes_up() {
    let short = sheet(vec![("", Entry::Only { step: Step::RestCheck })]);
    let all = steps_of(&short, Construction::Flooded);
    assert_eq!(all, [Step::MakeSafe, Step::RestCheck, Step::CloseUp]);
    let widened = VisitSheet::new(vec![
        crate::common::visits::written("1", "", Entry::Only { step: Step::RestCheck }),
        crate::common::visits::written("2", "", Entry::Withdrawn { entry: "1".into() }),
    ]);
    assert_eq!(steps_of(&widened, Construction::Flooded).len(), 9);
}

#[test]
fn what_cannot_be_looked_at_again_and_what_the_bank_lacks_is_refused_by_its_field() {
    let (bank, now) = (shape(6, 2, 1), Timestamp::UNIX_EPOCH);
    let (sealed, empty) = (BatteryModel::generic_by_key("agm-12v-100").unwrap(), sheet(Vec::new()));
    let visit = VisitUnderWay { shape: &bank, model: &sealed, sheet: &empty, taking: true };
    let ask = |entry: Entry| accept((Place::Bank, &entry, now), &visit, now);
    assert_eq!(ask(recheck(Step::Equalize, 24.0)), Err(EntryRefused::NoRecheck));
    assert_eq!(ask(recheck(Step::Water, 24.0)), Err(EntryRefused::NoSuchStep));
    assert_eq!(ask(Entry::Only { step: Step::Round }), Err(EntryRefused::NoSuchStep));
    assert_eq!(EntryRefused::NoRecheck.field(), "step");
    assert_eq!(ask(recheck(Step::RestCheck, 24.0)), Ok(None));
    let out = recheck(Step::RestCheck, 9000.0).checked(Place::Bank, &bank).unwrap_err().to_string();
    assert!(out.contains("accepted is 1 to 744 h"), "{out}");
}

proptest! {
    #[test]
    fn one_recheck_of_a_step_is_open_at_most_and_none_before_it_was_asked(
        plan in proptest::collection::vec((0usize..4, 1.0..700.0f64, 1i8..28), 1..12)
    ) {
        let steps = [Step::LookOver, Step::RestCheck, Step::Round, Step::Water];
        let mut days: Vec<_> = plan.clone();
        days.sort_by_key(|(_, _, day)| *day);
        let visits: Vec<_> = days
            .iter()
            .map(|(step, hours, day)| past(date(2026, 3, *day), vec![
                ("", recheck(steps[*step], *hours)),
                ("A1-1", Entry::Level { level: Level::Step { step: LevelStep::Low } }),
            ]))
            .collect();
        let open = open_rechecks(&visits, None);
        for step in steps {
            prop_assert!(open.iter().filter(|r| r.step == step).count() <= 1);
        }
        prop_assert!(open.iter().all(|r| r.due > r.asked));
    }
}
