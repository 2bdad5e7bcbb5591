//! What was done about what was measured, and what a second reading showed after it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::{past, sheet};
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::finding::Finding;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::rest::{RestConditions, VoltsState};
use rainshadow_core::visit::{
    CorrectiveAction, Entry, EntryRefused, Gravities, Judged, Measurement, RecheckWhy, Step, VisitSheet,
    VisitUnderWay, accept, electrical_findings, open_rechecks, rechecks_wanted,
};
use rainshadow_core::wording;

fn done(action: CorrectiveAction, note: &str) -> Entry {
    Entry::Corrected { measurement: Measurement::RestVolts, action, note: note.into() }
}

fn state(state: VoltsState, volts: f64) -> Entry {
    Entry::StateVolts { state, volts, hours: None, amperes: None, note: String::new(), stands: true }
}

fn rested() -> Entry {
    let hours = Some(30.0);
    let conditions =
        RestConditions { hours_since_charge: hours, hours_since_load: hours, ..RestConditions::default() };
    Entry::Rested { conditions }
}

fn volts(volts: f64) -> Entry {
    Entry::BatteryVolts { volts, stands: false }
}

/// A bank of two six-volt batteries of which A2 lags.
fn lagging(more: Vec<(&'static str, Entry)>) -> VisitSheet {
    let read = vec![("", rested()), ("A1", volts(6.37)), ("A2", volts(6.12))];
    sheet(read.into_iter().chain(more).collect())
}

fn findings(sheet: &VisitSheet) -> Vec<Finding> {
    let (model, rules) = (BatteryModel::generic_by_key("flooded-6v-420").unwrap(), HouseRules::maker_first());
    let bank = shape(3, 2, 1);
    electrical_findings(
        sheet,
        &[],
        Judged { shape: &bank, model: &model, rules: &rules },
        &Gravities::default(),
    )
}

#[test]
fn what_is_read_at_the_same_battery_after_it_tells_how_it_was_left() {
    let own = lagging(vec![
        ("A2", state(VoltsState::OnCharge, 7.1)),
        ("A2", done(CorrectiveAction::ChargedByItself, "five hours at 12 A.")),
        ("A1", state(VoltsState::AtRest, 6.37)),
        ("A2", state(VoltsState::JustOff, 6.62)),
    ]);
    let all = own.corrected();
    assert_eq!(all.len(), 1);
    assert_eq!(all[0].after, Some((VoltsState::JustOff, 6.62)));
    assert_eq!(
        wording::corrected_at(&all[0]),
        "Battery A2, volts: charged by itself: five hours at 12 A; 6.62 V just off charge after it"
    );
    // nothing is claimed where nobody read again
    let unread = lagging(vec![("A2", done(CorrectiveAction::TakenOut, ""))]);
    assert_eq!(
        wording::corrected_and_left(&unread.corrected()[0]),
        "taken out of its string; not read again on this visit"
    );
    let left = lagging(vec![("A2", done(CorrectiveAction::LeftAsItIs, "no charger here"))]);
    assert_eq!(wording::corrected_and_left(&left.corrected()[0]), "left as it is: no charger here");
}

#[test]
fn it_belongs_to_what_its_own_measurement_found_there_and_silences_nothing() {
    let own = lagging(vec![("A2", done(CorrectiveAction::ChargedByItself, ""))]);
    let before = findings(&lagging(vec![]));
    let all = findings(&own);
    assert_eq!(all, before, "what was measured stays found until it is measured again");
    let lags = all.iter().find(|f| f.subject.battery().is_some()).unwrap();
    assert!(own.corrected()[0].is_about(lags));
    let other = lagging(vec![("A1", done(CorrectiveAction::ChargedByItself, ""))]);
    assert!(!other.corrected()[0].is_about(lags), "another battery");
    let gravity = Entry::Corrected {
        measurement: Measurement::Gravity,
        action: CorrectiveAction::ChargedOn,
        note: String::new(),
    };
    let by_gravity = lagging(vec![("A2", gravity)]);
    assert!(!by_gravity.corrected()[0].is_about(lags), "another measurement");
    assert!(
        wording::corrected_at(&by_gravity.corrected()[0]).ends_with("its gravity tells at the next round")
    );
}

#[test]
fn what_was_charged_is_read_again_after_a_rest() {
    let (model, rules) = (BatteryModel::generic_by_key("flooded-6v-420").unwrap(), HouseRules::maker_first());
    let bank = shape(3, 2, 1);
    let wanted = |sheet: &VisitSheet| -> Vec<_> {
        let judged = Judged { shape: &bank, model: &model, rules: &rules };
        rechecks_wanted(sheet, judged).iter().map(|w| (w.step, w.hours, w.why)).collect()
    };
    let charged = done(CorrectiveAction::ChargedByItself, "");
    let again = (Step::RestCheck, 24.0, RecheckWhy::Charged);
    assert_eq!(wanted(&lagging(vec![("A2", charged.clone())])), [again]);
    let off = ("A2", state(VoltsState::JustOff, 6.6));
    assert_eq!(wanted(&lagging(vec![("A2", charged.clone()), off])), [again]);
    let rest = ("A2", state(VoltsState::AtRest, 6.36));
    assert_eq!(wanted(&lagging(vec![("A2", charged.clone()), rest])), []);
    assert_eq!(wanted(&lagging(vec![("A2", done(CorrectiveAction::TakenOut, ""))])), []);
    // what was done is no reading: it answers no recheck
    let asked = Entry::Recheck { step: Step::RestCheck, hours: 24.0, reason: String::new() };
    let visits = [past(date(2026, 10, 1), vec![("", asked)]), past(date(2026, 10, 3), vec![("A2", charged)])];
    assert_eq!(open_rechecks(&visits, None).len(), 1);
}

#[test]
fn what_cannot_be_done_there_is_refused_by_its_field() {
    let now = "2026-10-08T09:00:00Z".parse().unwrap();
    let bank = shape(3, 2, 1);
    let rules = sheet(vec![]);
    let ask = |key: &str, place: &str, entry: &Entry| {
        let model = BatteryModel::generic_by_key(key).unwrap();
        let visit = VisitUnderWay { shape: &bank, model: &model, sheet: &rules, taking: true };
        accept((place.parse().unwrap(), entry, now), &visit, now).map(|_| ()).map_err(|e| (e.field(), e))
    };
    let flooded = "flooded-6v-420";
    let said = ask(flooded, "A2", &done(CorrectiveAction::Other, " "));
    assert_eq!(said, Err(("note", EntryRefused::SayWhat)));
    assert_eq!(ask(flooded, "A2", &done(CorrectiveAction::Other, "warmed up")), Ok(()));
    let at = ask(flooded, "A2-1", &done(CorrectiveAction::ChargedOn, "")).unwrap_err();
    assert_eq!(at.0, "place", "volts are those of a battery: {}", at.1);
    let gravity = Entry::Corrected {
        measurement: Measurement::Gravity,
        action: CorrectiveAction::ChargedOn,
        note: String::new(),
    };
    assert_eq!(ask(flooded, "A2-1", &gravity), Ok(()));
    let sealed = ask("agm-6v-220", "A2", &gravity).unwrap_err();
    assert!(sealed.1.to_string().contains("sealed"), "{}", sealed.1);
}

proptest! {
    #[test]
    fn the_last_reading_after_it_at_its_battery_is_the_one_that_is_told(
        entries in proptest::collection::vec((0usize..2, 0usize..3, 6.0..7.4f64), 1..12)
    ) {
        let places = ["A1", "A2"];
        let all: Vec<(&str, Entry)> = entries
            .iter()
            .map(|(place, what, volts)| (places[*place], match what {
                0 => done(CorrectiveAction::ALL[*place], ""),
                1 => state(VoltsState::AtRest, *volts),
                _ => state(VoltsState::JustOff, *volts),
            }))
            .collect();
        let own = sheet(all);
        for corrected in own.corrected() {
            let at: usize = corrected.entry.id.parse().unwrap();
            let place = places.iter().position(|p| *p == corrected.entry.place.to_string()).unwrap();
            let last = entries[at..].iter().rev().find(|(p, what, _)| *p == place && *what > 0);
            prop_assert_eq!(corrected.after.map(|(_, volts)| volts), last.map(|(_, _, volts)| *volts));
        }
    }
}
