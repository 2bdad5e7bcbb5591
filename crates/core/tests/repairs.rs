//! What was found on a visit, what was done about it, and how it was left.

#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::{sheet, written};
use jiff::Timestamp;
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::units::{NEWTON_METRES_PER_POUND_FOOT, TorqueUnit};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, Entry, EntryRefused, FoundAndDone, Left, PastVisit, Place, Repair, Repaired, SeenFinding,
    VisitEntry, VisitSheet, VisitUnderWay, accept, answered_findings, at_plates, bare_found, left_severity,
    open_findings,
};
use rainshadow_core::water::{Level, LevelStep, Poured};
use rainshadow_core::wording;
use std::collections::HashSet;

fn model() -> BatteryModel {
    BatteryModel::generic_by_key("flooded-6v-420").unwrap()
}

fn found(kind: &str, severity: Severity) -> Entry {
    let seen = SeenFinding { kind: kind.into(), severity, note: String::new(), measured: None };
    Entry::Checked { check: Check::Terminals, found: Some(seen), measured: None }
}

fn fine() -> Entry {
    Entry::Checked { check: Check::Terminals, found: None, measured: None }
}

fn done(kind: &str, repair: Repair, left: Left) -> Entry {
    Entry::Repaired {
        repaired: Repaired {
            check: Check::Terminals,
            found: kind.into(),
            repair,
            left,
            torque: repair.takes_torque().then_some(12.0),
            torque_asked: None,
            agent: String::new(),
            coating: String::new(),
            lock_nuts: false,
            part: String::new(),
            note: String::new(),
        },
    }
}

fn level(step: LevelStep) -> Entry {
    Entry::Level { level: Level::Step { step } }
}

fn water(to_mark: bool) -> Entry {
    Entry::Water { millilitres: 120.0, to_mark, by_kit: false, stands: false, poured: Poured::default() }
}

#[test]
fn powder_and_a_loose_nut_on_one_post_both_stay_and_each_has_its_repair() {
    let sheet = sheet(vec![
        ("A1", found("powder", Severity::Watch)),
        ("A1", found("loose", Severity::Act)),
        ("A1", done("powder", Repair::Cleaned, Left::PutRight)),
        ("A1", done("loose", Repair::Tightened, Left::Better)),
    ]);
    let all = sheet.found_and_done();
    let told: Vec<String> =
        all.iter().map(|f| wording::owner_found_and_done(f, ReaderUnits::default())).collect();
    assert_eq!(
        told,
        [
            "Battery A1, terminals: white powder. Cleaned. It was left in order.",
            "Battery A1, terminals: loose. Tightened, torque 12 N\u{b7}m (8.9 lbf\u{b7}ft). It is better now, and not yet in order.",
        ]
    );
    assert_eq!(
        all.iter().map(FoundAndDone::severity).collect::<Vec<_>>(),
        [Severity::Steady, Severity::Watch]
    );
    assert_eq!(wording::found_and_put_right(&all).unwrap(), "two things found, one put right");
}

#[test]
fn what_is_found_again_after_a_repair_stands_as_it_was_found() {
    let again = sheet(vec![
        ("A1", found("powder", Severity::Watch)),
        ("A1", done("powder", Repair::Cleaned, Left::PutRight)),
        ("A1", found("powder", Severity::Act)),
    ]);
    let all = again.found_and_done();
    assert_eq!((all.len(), all[0].left, all[0].repairs.len()), (1, Left::AsFound, 1));
    // and what was called fine before something was found there is not
    let late = sheet(vec![("A1", fine()), ("A1", found("green", Severity::Watch)), ("A2", fine())]);
    let places: Vec<String> = late.standing().map(|k| format!("{} {}", k.id, k.place)).collect();
    assert_eq!(places, ["1 A1", "2 A2"]);
}

#[test]
fn a_finding_is_open_until_a_repair_puts_it_right_on_whatever_visit() {
    let visit =
        |day, entries| PastVisit { day: date(2026, day, 1), sheet: sheet(entries), temperature: None };
    let first =
        visit(1, vec![("A1", found("green", Severity::Act)), ("A1", found("powder", Severity::Watch))]);
    let better = visit(2, vec![("A1", done("green", Repair::Cleaned, Left::Better))]);
    let right = visit(3, vec![("A1", done("green", Repair::Remade, Left::PutRight))]);
    let open = |visits: &[PastVisit]| -> Vec<(String, Severity)> {
        let all = open_findings(visits);
        all.iter()
            .map(|f| (wording::speak(&f.finding, ReaderUnits::default()).headline, f.finding.severity))
            .collect()
    };
    let green = |severity| ("A1, terminals: green copper".to_owned(), severity);
    let powder = ("A1, terminals: white powder".to_owned(), Severity::Watch);
    assert_eq!(open(std::slice::from_ref(&first)), [green(Severity::Act), powder.clone()]);
    assert_eq!(open(&[first.clone(), better.clone()]), [green(Severity::Watch), powder.clone()]);
    assert_eq!(open(&[first.clone(), better, right]), std::slice::from_ref(&powder));
    // fine for the whole bank answers earlier visits, not what this visit found at one place itself
    let glance = visit(4, vec![("A2", found("loose", Severity::Act)), ("", fine())]);
    assert_eq!(open(&[first.clone(), glance]), [("A2, terminals: loose".to_owned(), Severity::Act)]);
    // nor what was noted as better beside it
    let beside = visit(5, vec![("A1", done("green", Repair::Cleaned, Left::Better)), ("", fine())]);
    assert_eq!(open(&[first, beside]), [green(Severity::Watch)]);
}

#[test]
fn a_repair_needs_no_finding_and_is_told_by_itself() {
    let sheet = sheet(vec![("A2", done("loose", Repair::Tightened, Left::PutRight))]);
    assert!(sheet.found_and_done().is_empty());
    let only = sheet.repaired_only();
    assert_eq!(
        wording::owner_repaired_only(&only[0], true, ReaderUnits::default()),
        "Battery A2, terminals: loose, from before. Tightened, torque 12 N\u{b7}m (8.9 lbf\u{b7}ft). It was left in order."
    );
    let unheard_of = wording::owner_repaired_only(&only[0], false, ReaderUnits::default());
    assert!(unheard_of.starts_with("Battery A2, terminals: loose. Tightened"), "{unheard_of}");
}

#[test]
fn what_was_open_is_as_bad_as_it_was_left_and_answered_when_it_is_called_fine() {
    let visit =
        |day, entries| PastVisit { day: date(2026, day, 1), sheet: sheet(entries), temperature: None };
    let first = visit(1, vec![("A1", found("loose", Severity::Act)), ("A2", found("green", Severity::Act))]);
    let severity = |repair, left| {
        let visits = [first.clone(), visit(2, vec![("A1", done("loose", repair, left))])];
        left_severity(&visits, &visits[1].sheet.repaired_only()[0])
    };
    assert_eq!(severity(Repair::LeftAsItIs, Left::AsFound), Severity::Act);
    assert_eq!(severity(Repair::Tightened, Left::Better), Severity::Watch);
    assert_eq!(severity(Repair::Tightened, Left::PutRight), Severity::Steady);
    // repaired or found again it is told as that, called fine it is answered
    let again = visit(2, vec![("A1", found("loose", Severity::Act)), ("A2", fine())]);
    let answered: Vec<String> =
        answered_findings(&[first, again]).iter().map(|f| f.subject.to_string()).collect();
    assert_eq!(answered, ["A2"]);
    assert!(answered_findings(&[]).is_empty());
}

#[test]
fn plates_found_bare_stay_found_when_they_were_filled() {
    let (shape, model) = (shape(3, 2, 1), model());
    let filled = sheet(vec![
        ("A1-1", level(LevelStep::PlatesBare)),
        ("A1-2", level(LevelStep::PlatesBare)),
        ("A1", water(true)),
        ("A1-1", level(LevelStep::AtMark)),
    ]);
    let now = PastVisit { day: date(2026, 10, 1), sheet: filled.clone(), temperature: None };
    let seen = PastVisit {
        day: date(2026, 10, 9),
        sheet: sheet(vec![("", level(LevelStep::AtMark))]),
        temperature: None,
    };
    let last = bare_found(std::slice::from_ref(&now), &shape, &model).unwrap();
    assert_eq!((last.0.len(), last.1), (2, date(2026, 10, 1)));
    assert_eq!(bare_found(&[now, seen], &shape, &model), None, "the next look answers");
    let bare = |sheet: &VisitSheet| -> Vec<String> {
        let found = sheet.levels_as_found(&shape).into_iter();
        found.filter(|(_, l)| l.bare(&model)).map(|(cell, _)| cell.to_string()).collect()
    };
    assert_eq!(bare(&filled), ["A1-1", "A1-2"], "a look after the fill is another look");
    assert!(filled.bare_as_left(&shape, &model).is_empty());
    let left = filled.levels(&shape);
    assert!(left.iter().filter(|(c, _)| c.battery.battery == 1).all(|(_, l)| !l.bare(&model)));
    // a level that was mistyped and typed again before any water is one look
    let mended = sheet(vec![("A1-1", level(LevelStep::PlatesBare)), ("A1-1", level(LevelStep::AtMark))]);
    assert!(bare(&mended).is_empty());
    let dry = sheet(vec![("A2-1", level(LevelStep::PlatesBare)), ("A1", water(true))]);
    assert_eq!(dry.bare_as_left(&shape, &model), ["A2-1".parse().unwrap()]);
    // a level left at the plates is open too, until water goes in
    let low = sheet(vec![("A2-1", level(LevelStep::AtPlates)), ("A2-2", level(LevelStep::AtPlates))]);
    let low = PastVisit { day: date(2026, 10, 1), sheet: low, temperature: None };
    let water = sheet(vec![("A2-1", water(true))]);
    let filled = PastVisit { day: date(2026, 10, 2), sheet: water, temperature: None };
    let standing = |visits: &[PastVisit]| at_plates(visits, &shape, &model).unwrap().0;
    assert_eq!(standing(std::slice::from_ref(&low)).len(), 2);
    assert_eq!(standing(&[low, filled]), ["A2-2".parse().unwrap()]);
    let cells = ["A1-1".parse().unwrap(), "A2-1".parse().unwrap()];
    assert!(wording::owner_plates_dry(&cells, &[]).contains("They were covered on this visit."));
    assert!(wording::owner_plates_dry(&cells, &cells[1..]).contains("Those of A2-1 are dry still"));
}

#[test]
fn repairs_that_cannot_be_are_refused_at_their_field() {
    let (shape, model, empty) = (shape(3, 2, 1), model(), VisitSheet::default());
    let visit = VisitUnderWay { shape: &shape, model: &model, sheet: &empty, taking: true };
    let now = Timestamp::now();
    let refused = |change: &dyn Fn(&mut Repaired)| {
        let Entry::Repaired { mut repaired } = done("loose", Repair::Tightened, Left::PutRight) else {
            unreachable!()
        };
        change(&mut repaired);
        accept((Place::Bank, &Entry::Repaired { repaired }, now), &visit, now)
    };
    assert_eq!(refused(&|_| {}), Ok(None));
    let field = |change: &dyn Fn(&mut Repaired)| refused(change).map_err(|why| why.field());
    assert_eq!(field(&|r| r.found = "moss".into()), Err("found"));
    assert_eq!(field(&|r| r.repair = Repair::Cleaned), Err("torque"));
    assert_eq!(
        refused(&|r| {
            r.repair = Repair::LeftAsItIs;
            r.torque = None;
        }),
        Err(EntryRefused::NothingDone)
    );
}

/// Source: NIST Special Publication 811 (2008), appendix B.8: pound-force foot, 1.355 818 N\u{b7}m.
#[test]
fn a_wrench_in_pound_feet_says_the_same() {
    assert!((NEWTON_METRES_PER_POUND_FOOT - 1.355_818).abs() < 1e-6);
    assert_eq!(TorqueUnit::PoundFoot.size(), (NEWTON_METRES_PER_POUND_FOOT, "lbf\u{b7}ft"));
    assert_eq!(wording::torque(10.0), "10 N\u{b7}m (7.4 lbf\u{b7}ft)");
}

/// What a technician may write down about three posts, in any order.
fn entries() -> impl Strategy<Value = Vec<VisitEntry>> {
    let places = prop::sample::select(vec!["", "A1", "A2"]);
    let kinds = prop::sample::select(vec!["powder", "loose", "green"]);
    let lefts = prop::sample::select(vec![Left::PutRight, Left::Better, Left::AsFound]);
    let one = (places, kinds, lefts, 0u8..8, any::<prop::sample::Index>());
    prop::collection::vec(one, 1..24).prop_map(|all| {
        let mut entries: Vec<VisitEntry> = Vec::new();
        for (n, (place, kind, left, what, index)) in all.into_iter().enumerate() {
            let entry = match what {
                0..=2 => found(kind, Severity::Act),
                3 | 4 => done(kind, Repair::Cleaned, left),
                5 | 6 if !entries.is_empty() => Entry::Withdrawn { entry: index.get(&entries).id.clone() },
                _ => fine(),
            };
            entries.push(written(&format!("e{n}"), place, entry));
        }
        entries
    })
}

proptest! {
    #[test]
    fn everything_found_is_told_whatever_came_after(entries in entries()) {
        let sheet = VisitSheet::new(entries.clone());
        let all = sheet.found_and_done();
        // of everything found that was not taken back, each kind at each place is told once
        let taken: HashSet<&str> = entries.iter().filter_map(|e| match &e.entry {
            Entry::Withdrawn { entry } => Some(entry.as_str()),
            _ => None,
        }).collect();
        for entry in &entries {
            let Entry::Checked { found: Some(seen), .. } = &entry.entry else { continue };
            if taken.contains(entry.id.as_str()) { continue }
            let told = all.iter().filter(|f| f.entry.place == entry.place && f.found.kind == seen.kind).count();
            prop_assert_eq!(told, 1, "{} at {}", seen.kind, entry.place);
        }
        for own in &all {
            let said = wording::owner_found_and_done(own, ReaderUnits::default());
            // never in order and open at once
            prop_assert_eq!(own.open().is_none(), own.left == Left::PutRight);
            prop_assert_eq!(said.contains("left in order") || said.contains("put right"), own.left == Left::PutRight, "{}", said);
            // nothing is called fine where something was found after it
            let later_fine = sheet.standing().any(|k| k.entry == fine() && k.place == own.entry.place);
            prop_assert!(!later_fine || own.left != Left::AsFound || !own.repairs.is_empty(), "{}", said);
        }
        // what is left open today is what the next visit finds open
        let open = open_findings(&[PastVisit { day: date(2026, 1, 1), sheet: sheet.clone(), temperature: None }]);
        let ids: HashSet<String> = open.iter().map(|f| f.finding.id.clone()).collect();
        let wanted: HashSet<String> = all.iter().filter_map(|f| Some(f.open()?.id)).collect();
        let only = sheet.repaired_only();
        let open = only.iter().filter(|own| own.left != Left::PutRight).map(|own| own.entry.id.clone());
        let wanted: HashSet<String> = wanted.into_iter().chain(open).collect();
        prop_assert_eq!(ids, wanted);
        // told once, all repairs are told
        let repairs = sheet.standing().filter(|k| matches!(k.entry, Entry::Repaired { .. })).count();
        let told: usize = all.iter().map(|f| f.repairs.len()).sum::<usize>() + only.iter().map(|own| own.repairs.len()).sum::<usize>();
        prop_assert_eq!(told, repairs);
    }
}

#[test]
fn work_is_told_with_its_numbers_and_means() {
    let Entry::Repaired { repaired } = done("powder", Repair::Remade, Left::PutRight) else { unreachable!() };
    let told = Repaired {
        torque_asked: Some(11.0),
        agent: "bicarbonate".into(),
        coating: "acid-free grease".into(),
        lock_nuts: true,
        part: "new washer".into(),
        ..repaired.clone()
    };
    // 1 lbf·ft is 1.3558 N·m (NIST SP 811, appendix B.8): 12 and 11 N·m are 8.9 and 8.1 lbf·ft
    assert_eq!(
        wording::repaired(&told),
        "remade, torque 12 N·m (8.9 lbf·ft), the model asks for 11 N·m (8.1 lbf·ft), with bicarbonate, \
         coated with acid-free grease, lock nuts on, new washer"
    );
    assert_eq!(wording::repaired(&repaired), "remade, torque 12 N·m (8.9 lbf·ft)");
}
