//! Whether an entry may be added to a round, a visit or a run, and what it is asked about.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, past, round, sg, shape};
use jiff::Timestamp;
use proptest::prelude::*;
use rainshadow_core::actor::Actor;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::log::{ImpossibleTime, possible_time};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{VoltsQuestion, VoltsState};
use rainshadow_core::round::{
    CellRecord, Question, ReadingKind, ReadingRefused, RoundEntry, RoundToJudge, RoundUnderWay, accept,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    self, Check, Entry, EntryQuestion, EntryRefused, SeenFinding, Step, StepState, VisitEntry, VisitSheet,
    VisitUnderWay,
};
use rainshadow_core::water::{AmountQuestion, Level, LevelStep, Poured};
use rainshadow_core::wording;

fn noon() -> Timestamp {
    "2026-10-08T12:00:00Z".parse().unwrap()
}

/// Twelve cells at 1.260, read before and now.
fn context() -> RoundToJudge {
    let bank = shape(3, 4, 1);
    let before = past(&bank, 30.0, &[0.0; 12]);
    RoundToJudge { past: vec![before], ..round(bank, &[1260.0; 12]) }
}

fn gravity(id: &str, address: &str, read: f64) -> RoundEntry {
    RoundEntry::of_gravity(id, cell(address), sg(read), noon())
}

/// A round whose first ten cells are read, with more entries behind them.
struct Walk {
    context: RoundToJudge,
    entries: Vec<RoundEntry>,
    records: Vec<CellRecord>,
}

impl Walk {
    fn with(more: Vec<RoundEntry>) -> Self {
        let context = context();
        let ten = context.shape.cells().take(10).enumerate();
        let mut entries: Vec<RoundEntry> =
            ten.map(|(i, cell)| gravity(&format!("first {i}"), &cell.to_string(), 1.260)).collect();
        entries.extend(more);
        RoundEntry::mark_standing(&mut entries);
        let records = RoundEntry::records(&entries);
        Self { context, entries, records }
    }

    fn under_way(&self, taking: bool) -> RoundUnderWay<'_> {
        RoundUnderWay { context: &self.context, entries: &self.entries, records: &self.records, taking }
    }
}

#[test]
fn a_figure_far_from_its_last_one_is_asked_about_and_a_second_that_bears_it_out_stands() {
    let walk = Walk::with(Vec::new());
    let asked = accept(gravity("a", "A4-2", 1.230), &walk.under_way(true), noon()).unwrap();
    let Some(Question::Moved { change, .. }) = asked.question else { panic!("{:?}", asked.question) };
    assert!((change.value() + 30.0).abs() < 0.5, "{change:?}");
    assert!(!asked.entry.stands && !asked.confirmed);
    // kept by the technician it is asked about no more
    let kept = RoundEntry { stands: true, ..gravity("a", "A4-2", 1.230) };
    assert_eq!(accept(kept, &walk.under_way(true), noon()).unwrap().question, None);
    // read again, within what two readings of one sample scatter (SG-7)
    let walk = Walk::with(vec![gravity("a", "A4-2", 1.230)]);
    let again = |read| RoundEntry { supersedes: Some("a".into()), ..gravity("b", "A4-2", read) };
    let second = accept(again(1.233), &walk.under_way(true), noon()).unwrap();
    assert!(second.confirmed && second.entry.stands && second.question.is_none());
    let other = accept(again(1.256), &walk.under_way(true), noon()).unwrap();
    assert!(!other.confirmed && other.question.is_none(), "it is back where the cell was");
}

#[test]
fn an_entry_sent_again_is_asked_about_as_it_was_stored() {
    let stood = RoundEntry { stands: true, ..gravity("a", "A4-2", 1.230) };
    let walk = Walk::with(vec![stood, gravity("b", "A4-3", 1.230)]);
    let again = |id: &str, at: &str| accept(gravity(id, at, 1.230), &walk.under_way(false), noon()).unwrap();
    assert_eq!(again("a", "A4-2").question, None);
    assert!(again("b", "A4-3").question.is_some());
}

#[test]
fn a_closed_visit_takes_corrections_of_its_round_and_nothing_new() {
    let walk = Walk::with(Vec::new());
    let new = accept(gravity("a", "A4-2", 1.260), &walk.under_way(false), noon());
    assert_eq!(new, Err(ReadingRefused::VisitClosed));
    let mended = RoundEntry { supersedes: Some("first 0".into()), ..gravity("a", "A1-1", 1.262) };
    assert!(accept(mended, &walk.under_way(false), noon()).is_ok());
}

#[test]
fn what_names_nothing_or_no_cell_of_the_bank_is_refused() {
    let walk = Walk::with(Vec::new());
    let refused = |entry| accept(entry, &walk.under_way(true), noon()).unwrap_err();
    assert_eq!(refused(gravity("a", "B1-1", 1.260)), ReadingRefused::NoSuchCell(cell("B1-1")));
    let back = RoundEntry { kind: ReadingKind::Withdrawn, gravity: None, ..gravity("a", "A1-1", 1.260) };
    assert_eq!(refused(back), ReadingRefused::NothingTakenBack);
    let empty = RoundEntry { gravity: None, ..gravity("a", "A1-1", 1.260) };
    assert_eq!(refused(empty), ReadingRefused::NoGravity);
    let both = RoundEntry { kind: ReadingKind::NotRead, ..gravity("a", "A1-1", 1.260) };
    assert_eq!(refused(both), ReadingRefused::NoGravity, "a cell that was not read has no gravity");
}

#[test]
fn a_day_ahead_is_a_wrong_zone_and_more_is_no_time() {
    let ahead = |hours: i64| noon().checked_add(jiff::SignedDuration::from_hours(hours)).unwrap();
    assert_eq!(possible_time(ahead(24), noon()), Ok(ahead(24)));
    assert!(matches!(possible_time(ahead(25), noon()), Err(ImpossibleTime::Future { .. })));
    let long_ago = |text: &str| possible_time(text.parse().unwrap(), noon());
    assert!(long_ago("1950-01-01T00:00:00Z").is_ok());
    assert!(matches!(long_ago("1949-12-31T23:59:59Z"), Err(ImpossibleTime::LongAgo(_))));
    let walk = Walk::with(Vec::new());
    let late = RoundEntry { taken_at: ahead(30), ..gravity("a", "A1-1", 1.260) };
    assert!(matches!(accept(late, &walk.under_way(true), noon()), Err(ReadingRefused::Time(_))));
}

struct Visit {
    model: BatteryModel,
    sheet: VisitSheet,
}

impl Visit {
    fn of(model: &str, written: Vec<(&str, Entry)>) -> Self {
        let entry = |(number, (place, entry)): (usize, (&str, Entry))| VisitEntry {
            id: format!("{number}"),
            place: place.parse().unwrap(),
            entry,
            typed: None,
            by: Actor::named("TA", "desk"),
            taken_at: noon(),
        };
        let written = written.into_iter().enumerate().map(entry).collect();
        Self { model: BatteryModel::generic_by_key(model).unwrap(), sheet: VisitSheet::new(written) }
    }

    fn accept(&self, place: &str, entry: &Entry) -> Result<Option<EntryQuestion>, EntryRefused> {
        let bank = shape(self.model.cells, 2, 1);
        let visit = VisitUnderWay { shape: &bank, model: &self.model, sheet: &self.sheet, taking: true };
        visit::accept((place.parse().unwrap(), entry, noon()), &visit, noon())
    }
}

fn flooded() -> Visit {
    Visit::of("flooded-6v-420", vec![("", Entry::Note { text: "cold".into() })])
}

#[test]
fn every_entry_of_a_step_is_noted_where_the_step_measures_it() {
    let visit = flooded();
    let volts = Entry::BatteryVolts { volts: 6.32, stands: false };
    assert_eq!(visit.accept("A1", &volts), Ok(None));
    for place in ["", "A", "A1-1"] {
        let refused = visit.accept(place, &volts).unwrap_err();
        assert_eq!(refused.field(), "place", "{place}");
        assert!(refused.to_string().starts_with("this is noted at a battery, not at"), "{refused}");
    }
    assert!(visit.accept("A", &Entry::StringVolts { volts: 12.6 }).is_ok());
    assert!(visit.accept("A1", &Entry::StringVolts { volts: 12.6 }).is_err());
    assert_eq!(visit.accept("C7", &volts), Err(EntryRefused::NoSuchPlace("C7".into())));
}

#[test]
fn volts_and_water_that_are_unlikely_are_asked_about_and_can_be_kept() {
    let visit = flooded();
    let volts = |volts, stands| visit.accept("A1", &Entry::BatteryVolts { volts, stands }).unwrap();
    let one_short = EntryQuestion::Volts {
        question: VoltsQuestion::CellMissing { cells: 1 },
        volts: 4.2,
        cells: 3,
        state: VoltsState::AtRest,
    };
    assert_eq!(volts(4.2, false), Some(one_short));
    assert_eq!(volts(4.2, true), None);
    let pour = |millilitres, stands| Entry::Water {
        millilitres,
        to_mark: true,
        by_kit: false,
        stands,
        poured: Poured::default(),
    };
    assert_eq!(visit.accept("A1-1", &pour(120.0, false)), Ok(None));
    let much = visit.accept("A1-1", &pour(1500.0, false)).unwrap().unwrap();
    let EntryQuestion::Amount { question: AmountQuestion::MoreThanFits { each }, .. } = much else {
        panic!("{much:?}")
    };
    assert!((each - 1500.0).abs() < 1e-9);
    assert!(wording::entry_question(&much, ReaderUnits::default()).ends_with("Is the unit right?"));
    assert_eq!(visit.accept("A1-1", &pour(1500.0, true)), Ok(None));
    // the level of one cell speaks for that cell alone
    let over = Entry::Level { level: Level::Step { step: LevelStep::Over } };
    let visit = Visit::of("flooded-6v-420", vec![("A1-1", over)]);
    assert!(visit.accept("A1-1", &pour(50.0, false)).unwrap().is_some());
    assert_eq!(visit.accept("A1-2", &pour(50.0, false)), Ok(None));
}

#[test]
fn a_sealed_bank_is_never_opened_on_paper_either() {
    let sealed = Visit::of("agm-12v-100", Vec::new());
    let level = Entry::Level { level: Level::Step { step: LevelStep::Low } };
    assert_eq!(sealed.accept("", &level), Err(EntryRefused::Sealed { what: "level" }));
    let water = Entry::Water {
        millilitres: 100.0,
        to_mark: true,
        by_kit: false,
        stands: true,
        poured: Poured::default(),
    };
    assert_eq!(sealed.accept("", &water), Err(EntryRefused::Sealed { what: "water" }));
    let caps = Entry::Checked { check: Check::Caps, found: None, measured: None };
    assert_eq!(sealed.accept("", &caps), Err(EntryRefused::NoCaps));
}

#[test]
fn what_is_found_is_found_at_its_check_and_is_bad() {
    let visit = flooded();
    let found = |check, kind: &str, severity| {
        let found = SeenFinding { kind: kind.into(), severity, note: String::new(), measured: None };
        visit.accept("A1", &Entry::Checked { check, found: Some(found), measured: None })
    };
    assert_eq!(found(Check::Terminals, "powder", Severity::Watch), Ok(None));
    assert_eq!(found(Check::Terminals, "powder", Severity::Steady), Err(EntryRefused::FoundFine));
    let ghost = found(Check::Terminals, "ghost", Severity::Act).unwrap_err();
    assert_eq!(ghost.field(), "found.kind");
    assert!(ghost.to_string().ends_with("accepted is powder, green, loose, burnt"), "{ghost}");
    let measured = Entry::Checked { check: Check::Top, found: None, measured: Some(3.0) };
    assert_eq!(visit.accept("A1", &measured), Err(EntryRefused::NothingMeasured));
}

#[test]
fn a_step_is_left_out_with_a_reason_and_an_entry_is_taken_back_that_is_there() {
    let visit = flooded();
    let skip =
        |reason: &str| Entry::Step { step: Step::Water, state: StepState::Skipped, reason: reason.into() };
    assert_eq!(visit.accept("", &skip("  ")), Err(EntryRefused::NoReason));
    assert_eq!(visit.accept("", &skip("no water left")), Ok(None));
    assert_eq!(visit.accept("", &Entry::Note { text: " ".into() }), Err(EntryRefused::NoteEmpty));
    assert_eq!(visit.accept("", &Entry::Withdrawn { entry: "0".into() }), Ok(None));
    let unknown = visit.accept("", &Entry::Withdrawn { entry: "7".into() });
    assert_eq!(unknown, Err(EntryRefused::NoSuchEntry));
}

#[test]
fn a_closed_visit_takes_nothing() {
    let (visit, bank) = (flooded(), shape(3, 2, 1));
    let closed = VisitUnderWay { shape: &bank, model: &visit.model, sheet: &visit.sheet, taking: false };
    let note = Entry::Note { text: "late".into() };
    let refused = visit::accept((visit::Place::Bank, &note, noon()), &closed, noon());
    assert_eq!(refused, Err(EntryRefused::VisitClosed));
}

proptest! {
    /// What was asked about and is kept is never asked about again, whatever the figures are.
    #[test]
    fn nothing_that_is_kept_is_asked_about(volts in 0.0..600.0_f64, millilitres in 0.0..1e6_f64) {
        let visit = flooded();
        prop_assert_eq!(visit.accept("A1", &Entry::BatteryVolts { volts, stands: true }), Ok(None));
        let pour = Entry::Water { millilitres, to_mark: false, by_kit: false, stands: true, poured: Poured::default() };
        prop_assert_eq!(visit.accept("A1", &pour), Ok(None));
    }

    /// A gravity that is accepted keeps what was read; only whether it stands is decided.
    #[test]
    fn accepting_changes_nothing_of_a_reading(read in 1.0..1.4_f64, stands: bool) {
        let walk = Walk::with(Vec::new());
        let entry = RoundEntry { stands, ..gravity("a", "A4-2", read) };
        let accepted = accept(entry.clone(), &walk.under_way(true), noon()).unwrap();
        prop_assert_eq!(&accepted.entry, &entry);
        prop_assert!(!stands || accepted.question.is_none());
    }
}
