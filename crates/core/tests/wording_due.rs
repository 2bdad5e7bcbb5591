//! What is due, in words: what to do, why, by which rule, what came of the other date, and what stands on
//! top of the list.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::facts::{TODAY, facts, item};
use crate::common::{cell, shape};
use jiff::civil::{Date, date};
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::finding::{self, RuleId};
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits, TemperatureUnit, VolumeUnit};
use rainshadow_core::schedule::{
    BankFacts, Consequence, DueItem, Duty, OpenFinding, Postponed, Season, Task, WaterDates, Why, due,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, SeenFinding};
use rainshadow_core::water::Basis;
use rainshadow_core::wording::{self, DueReader, SpokenDue};

const US: ReaderUnits = ReaderUnits {
    temperature: TemperatureUnit::Fahrenheit,
    volume: VolumeUnit::UsGallon,
    length: LengthUnit::Inch,
};

fn reader(units: ReaderUnits) -> DueReader {
    DueReader { construction: Construction::Flooded, cells: 48, today: TODAY, units }
}

fn spoken(item: &DueItem) -> SpokenDue {
    wording::due(item, &reader(ReaderUnits::default()))
}

fn said(facts: &BankFacts, task: Task) -> SpokenDue {
    spoken(&item(facts, task))
}

fn forecast(per_day: f64, fills: usize) -> WaterDates {
    WaterDates {
        p10: date(2026, 10, 20),
        p50: date(2026, 10, 28),
        p90: date(2026, 11, 9),
        cell: Some(cell("A2-3")),
        per_day,
        fills,
        basis: Basis::ByCell,
    }
}

/// A bank of which nearly everything is due.
fn neglected() -> BankFacts {
    let mut f = facts();
    f.plates_bare = Some((vec![cell("A1-2"), cell("A1-3")], date(2026, 9, 30)));
    f.last_equalize = None;
    f.last_retorque = None;
    f.last_test = Some(date(2024, 2, 1));
    f.water = Some(forecast(2.4, 4));
    f.kit_fills = Some((9, date(2026, 9, 20)));
    f.duty = Duty::Standby;
    f.wet_season = "11-01".parse().ok();
    f.first_frost = "10-20".parse().ok();
    let found =
        SeenFinding { kind: "loose".into(), severity: Severity::Act, note: String::new(), measured: None };
    let finding = finding::look::finding("entry", "A2".parse().unwrap(), Check::Terminals, &found);
    f.findings = vec![OpenFinding { day: date(2026, 10, 5), finding }];
    f
}

#[test]
fn everything_that_is_due_is_told_in_a_title_a_reason_and_a_rule() {
    let all = due(&neglected());
    assert!(all.len() >= 7, "{:?}", all.iter().map(|i| i.task).collect::<Vec<_>>());
    for item in &all {
        let words = spoken(item);
        assert!(words.title.chars().next().is_some_and(char::is_uppercase), "{}", words.title);
        assert!(
            words.why.ends_with('.') && words.why.starts_with(|c: char| c.is_uppercase() || c.is_numeric()),
            "{}",
            words.why
        );
        // the rule by its id, with its title and where it comes from
        assert!(words.rule.starts_with(item.rule.id()) && words.rule.contains("Source: "), "{}", words.rule);
        assert!(words.rule.contains(item.rule.source()), "{}", words.rule);
        assert_eq!(words.postponed, "");
    }
}

#[test]
fn bare_plates_name_the_cells_and_the_day_and_come_first() {
    let all = due(&neglected());
    assert_eq!(
        (all[0].task, all[0].consequence, all[0].rule),
        (Task::CoverPlates, Consequence::Harm, RuleId::Wa4)
    );
    let words = spoken(&all[0]);
    assert!(words.title.starts_with("Cover the plates of A1-2"), "{}", words.title);
    assert!(words.why.contains("showed their plates on 30 Sep"), "{}", words.why);
    let mut one = neglected();
    one.plates_bare = Some((vec![cell("A1-2")], date(2026, 9, 30)));
    assert!(said(&one, Task::CoverPlates).why.contains("showed its plates"), "one cell has its own plates");
    // bare plates come before levels that stand at them, which harm as well
    one.at_plates = Some((vec![cell("A2-1")], date(2026, 9, 30)));
    assert!(said(&one, Task::CoverPlates).title.starts_with("Cover the plates of A1-2"));
    one.plates_bare = None;
    let low = said(&one, Task::CoverPlates);
    assert_eq!(low.title, "Charge fully, then fill A2-1");
    assert!(low.why.contains("A2-1 stood at the plates on 30 Sep and got no water"), "{}", low.why);
    let found = finding::water::levels_at_plates(&[cell("A2-1")]).unwrap();
    assert_eq!(Consequence::of(&found), Consequence::Harm);
    assert_eq!(wording::speak(&found, ReaderUnits::default()).headline, "Levels of A2-1 stand at the plates");
    assert!(
        wording::owner_finding(&found, ReaderUnits::default()).unwrap().contains("before the plates run dry")
    );
}

#[test]
fn plates_found_bare_and_covered_are_looked_at_again_within_a_month() {
    let mut f = facts();
    f.water = Some(forecast(2.0, 4));
    let forecast = item(&f, Task::Water).date;
    f.bare_found = Some((vec![cell("A1-2")], date(2026, 9, 10)));
    let due = item(&f, Task::Water);
    assert_eq!((due.date, due.consequence, due.rule), (date(2026, 10, 10), Consequence::Loss, RuleId::Wa4));
    assert_eq!(due.other.as_ref().map(|o| o.date), Some(forecast), "the forecast is told beside it");
    let said = spoken(&due);
    assert_eq!(said.title, "Look at the levels");
    assert!(said.why.contains("A1-2 were found bare on 10 Sep"), "{}", said.why);
    // a forecast that is sooner stands
    f.bare_found = Some((vec![cell("A1-2")], date(2026, 10, 30)));
    assert_eq!(item(&f, Task::Water).date, forecast);
}

#[test]
fn a_fill_is_told_in_the_units_of_the_reader_with_its_range() {
    let mut f = facts();
    f.water = Some(forecast(2.0, 4));
    let due = item(&f, Task::Water);
    let metric = spoken(&due);
    assert_eq!(metric.title, "Water all 48 cells");
    // 2.0 mL a day for 30.4 days
    assert!(metric.why.contains("61 mL a cell and month cell A2-3"), "{}", metric.why);
    assert!(metric.why.contains("between 20 Oct and 9 Nov, most likely 28 Oct"), "{}", metric.why);
    assert!(metric.why.contains("from 4 fills, cell by cell"), "{}", metric.why);
    let american = wording::due(&due, &reader(US));
    assert!(
        !american.why.contains("mL")
            && american.why.contains("2.1 US fl oz")
            && american.why.contains("0.39 in over its plates"),
        "{}",
        american.why
    );
    f.water = Some(WaterDates { basis: Basis::Prior, fills: 0, ..forecast(2.0, 0) });
    let prior = said(&f, Task::Water);
    let either = format!("{}{}", prior.why, prior.other);
    assert!(either.contains("usually drink"), "a forecast without fills says what it rests on: {either}");
}

#[test]
fn the_date_that_does_not_count_is_told_beside_the_one_that_does() {
    let mut f = facts();
    f.water = Some(forecast(2.0, 4));
    // the calendar would have asked on 31 October
    let later = said(&f, Task::Water);
    assert!(
        later.other.starts_with("Later, 31 Oct: The house asks for a look at the levels every 30 days"),
        "{}",
        later.other
    );
    f.water = Some(WaterDates {
        p10: date(2026, 11, 20),
        p50: date(2026, 11, 28),
        p90: date(2026, 12, 9),
        ..forecast(1.0, 4)
    });
    let overruled = said(&f, Task::Water);
    assert!(overruled.other.starts_with("Overruled, 31 Oct: "), "{}", overruled.other);
    assert!(overruled.other.ends_with("With three fills known the forecast decides."), "{}", overruled.other);
}

#[test]
fn a_suspect_cell_is_equalized_or_tested_by_what_may_still_help() {
    let suspect = |equalize: bool| {
        let mut f = facts();
        let round = f.round.as_mut().unwrap();
        round.condition = Severity::Act;
        round.suspects = vec![(cell("A2-3"), Points::new(-38.0), false)];
        round.equalize = equalize.then(|| (Points::new(30.0), true));
        said(&f, Task::SuspectCell)
    };
    let pilot = suspect(true);
    assert_eq!(pilot.title, "Equalize, with A2-3 as pilot");
    assert!(pilot.why.contains("A2-3 lies 38 points under the bank"), "{}", pilot.why);
    assert!(pilot.why.ends_with("a corrective charge may still bring it back."), "{}", pilot.why);
    let test = suspect(false);
    assert_eq!(test.title, "Test A2-3");
    assert!(test.why.contains("a load test tells a weak cell from one short of charge"), "{}", test.why);
}

#[test]
fn what_was_put_off_says_from_when_by_whom_and_why() {
    let mut f = facts();
    f.last_retorque = Some(date(2025, 6, 1));
    let first = item(&f, Task::RetorqueAndClean);
    f.postponed = vec![Postponed {
        task: Task::RetorqueAndClean,
        of: String::new(),
        from: first.date,
        until: date(2026, 11, 2),
        reason: "owner away".into(),
        by: "TA".into(),
    }];
    let again = item(&f, Task::RetorqueAndClean);
    assert_eq!(again.date, date(2026, 11, 2));
    let words = spoken(&again);
    assert!(
        words.postponed.starts_with("put off from ") && words.postponed.ends_with("by TA: owner away"),
        "{}",
        words.postponed
    );
    // the reason is still that of the day on which it was due
    assert_eq!(words.why, spoken(&first).why);
}

#[test]
fn a_bank_in_storage_says_so_and_a_sealed_one_is_measured_in_volts() {
    let mut f = facts();
    f.season = Some(Season { opens: "05-15".parse().unwrap(), closes: "10-15".parse().unwrap() });
    assert!(said(&f, Task::RetorqueAndClean).why.ends_with("Stored until then."));
    let mut sealed = facts();
    let mut models = BatteryModel::generic().into_iter().map(|(_, model)| model);
    sealed.model = models.find(|m| !m.construction.has_caps() && m.cells == 6).unwrap();
    sealed.shape = shape(6, 2, 1);
    sealed.round = None;
    let reader =
        DueReader { construction: sealed.model.construction, cells: 12, ..reader(ReaderUnits::default()) };
    for item in due(&sealed) {
        let words = wording::due(&item, &reader);
        assert!(!words.title.contains("round") && !words.title.contains("Water"), "{}", words.title);
    }
}

#[test]
fn the_sentence_on_top_counts_by_what_waiting_does() {
    use Consequence::{Harm, Loss, Routine};
    let day = date(2026, 10, 1);
    let said = |pressing: &[(&str, Consequence, Date)]| wording::today_verdict(pressing, None, TODAY);
    assert_eq!(said(&[("Larch Point", Harm, day)]), "One bank comes to harm if left. Start at Larch Point.");
    assert_eq!(
        said(&[("Larch Point", Harm, day), ("Dipper", Harm, day), ("Dipper", Loss, day)]),
        "Two banks come to harm if left. Start at Larch Point."
    );
    assert_eq!(said(&[("Dipper", Loss, day)]), "Nothing comes to harm today. Dipper loses if put off.");
    assert!(said(&[("Dipper", Routine, day)]).starts_with("Only the calendar asks today: Dipper"));
    // two things at one site are one visit
    assert_eq!(said(&[("Dipper", Loss, day), ("Dipper", Loss, day)]), said(&[("Dipper", Loss, day)]));
    // what is due tomorrow does not press today
    let tomorrow = date(2026, 10, 9);
    assert_eq!(said(&[("Dipper", Harm, tomorrow)]), "Nothing is due.");
    assert_eq!(
        wording::today_verdict(&[], Some(date(2026, 10, 12)), TODAY),
        "Nothing is due today. Next visit Monday 12 October."
    );
}

#[test]
fn minutes_are_said_as_a_technician_says_them() {
    let told = [5, 50, 60, 95, 120, 270].map(wording::minutes);
    assert_eq!(told, ["5 min", "50 min", "1 h", "1 h 35 min", "2 h", "4 h 30 min"]);
}

#[test]
fn every_reason_is_a_sentence_in_any_units() {
    let every = Why::Every { days: 30, last: None, spread: None };
    let mut f = facts();
    f.last_equalize = None;
    for units in [ReaderUnits::default(), US] {
        for item in due(&neglected()).iter().chain(&due(&f)) {
            let words = wording::due(item, &reader(units));
            for text in [&words.title, &words.why, &words.other] {
                assert!(!text.contains("  ") && !text.contains("..") && !text.contains("NaN"), "{text}");
            }
        }
    }
    let never = DueItem { why: every, other: None, ..item(&facts(), Task::LoadTest) };
    assert!(spoken(&never).why.ends_with("none is on record."), "{}", spoken(&never).why);
}
