//! Joints, currents of strings and torque as they are written down on visits: what may be, what is asked about, what they
//! find, and how long it stays open.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::{past, sheet};
use jiff::Timestamp;
use jiff::civil::{Date, date};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::conductor::{Cable, Section};
use rainshadow_core::diagnosis::Measurement;
use rainshadow_core::finding::{Finding, FindingKind, JointFinding};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::joints::{JointFails, JointPart, Pole};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, CurrentBy, Entry, EntryQuestion, EntryRefused, JointEntry, JointQuestion, JointRefused, Judged,
    Left, OnRecord, PastVisit, Repair, Repaired, Step, VisitSheet, VisitUnderWay, Work, accept,
    diagnosis_evidence, joint_findings, joints_of_visit, joints_on_record, last_torqued, open_joint_findings,
    step_that_measures, torque_log,
};
use rainshadow_core::wiring::{Coupling, Wiring};
use rainshadow_core::wording;

const DAY: Date = date(2026, 10, 20);

struct Launch {
    shape: BankShape,
    model: BatteryModel,
    rules: HouseRules,
}

impl Launch {
    fn of(series: u8, parallel: u8) -> Self {
        let model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
        Self { shape: shape(6, series, parallel), model, rules: HouseRules::maker_first() }
    }

    fn new() -> Self {
        Self::of(2, 2)
    }

    fn judged(&self) -> Judged<'_> {
        Judged { shape: &self.shape, model: &self.model, rules: &self.rules }
    }

    fn takes(
        &self,
        sheet: &VisitSheet,
        place: &str,
        entry: &JointEntry,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        let visit = VisitUnderWay { shape: &self.shape, model: &self.model, sheet, taking: true };
        let now = Timestamp::UNIX_EPOCH;
        accept((place.parse().unwrap(), &Entry::Joint { entry: entry.clone() }, now), &visit, now)
    }

    fn asked(&self, sheet: &VisitSheet, place: &str, entry: &JointEntry) -> Option<JointQuestion> {
        match self.takes(sheet, place, entry).unwrap() {
            Some(EntryQuestion::Joint { question, .. }) => Some(question),
            None => None,
            other => panic!("{other:?}"),
        }
    }

    fn refused(&self, place: &str, entry: &JointEntry) -> (&'static str, String) {
        let why = self.takes(&VisitSheet::default(), place, entry).unwrap_err();
        (why.field(), why.to_string())
    }
}

fn drop_of(pole: Pole, part: JointPart, millivolts: f64, amperes: f64) -> JointEntry {
    JointEntry::Drop { pole, part, millivolts, amperes, resolution: 0.1, stands: false }
}

fn torqued(newton_metres: Option<f64>, remade: bool) -> JointEntry {
    JointEntry::Torqued { newton_metres, asked: None, remade, note: String::new(), stands: false }
}

const fn clamped(amperes: f64) -> JointEntry {
    JointEntry::Current { amperes, stands: false }
}

fn written(all: Vec<(&str, JointEntry)>) -> Vec<(&str, Entry)> {
    all.into_iter().map(|(place, entry)| (place, Entry::Joint { entry })).collect()
}

/// Every post of two strings of two at 60 A, B1+ with so many mV.
fn posts(b1: f64) -> Vec<(&'static str, JointEntry)> {
    let mut all = Vec::new();
    for battery in ["A1", "A2", "B1", "B2"] {
        for pole in [Pole::Positive, Pole::Negative] {
            let odd = battery == "B1" && pole == Pole::Positive;
            all.push((battery, drop_of(pole, JointPart::Post, if odd { b1 } else { 3.6 }, 60.0)));
        }
    }
    all
}

fn on(day: Date, all: Vec<(&str, JointEntry)>) -> PastVisit {
    past(day, written(all))
}

fn wiring() -> Wiring {
    let cable =
        || Cable { section: Section::SquareMillimetres(25.0), metres: 0.45, lugs: 2, lug_milliohms: 0.05 };
    let (positive, negative) = (vec![cable()], vec![cable()]);
    let coupling = Some(Coupling::Rails { positive, negative, plus_at: 1, minus_at: 1 });
    Wiring { link: None, coupling }
}

fn wired(mut visit: PastVisit) -> PastVisit {
    visit.sheet.wiring = Some(wiring());
    visit
}

fn codes(found: &[Finding]) -> Vec<&'static str> {
    found.iter().map(|own| own.kind.code()).collect()
}

#[test]
fn the_current_through_a_joint_is_told_by_the_best_that_is_known() {
    let own = Launch::new();
    let told = |visit: &PastVisit, own: &Launch| {
        let read = joints_of_visit(&visit.sheet, &[], own.judged()).unwrap();
        (read.by, read.joints.iter().map(|j| (j.joint.to_string(), j.through)).collect::<Vec<_>>())
    };
    let (by, through) = told(&on(DAY, posts(3.6)), &own);
    assert_eq!(by, CurrentBy::Even);
    assert!(through.iter().all(|(_, amperes)| (amperes - 30.0).abs() < 1e-9), "{through:?}");
    let (by, through) = told(&wired(on(DAY, posts(3.6))), &own);
    assert_eq!(by, CurrentBy::Wiring);
    assert!(through[0].1 > 30.2 && through[4].1 < 29.8, "string B hangs on more cable: {through:?}");
    let mut all = posts(3.6);
    all.extend([("A", clamped(33.9)), ("B", clamped(26.1))]);
    let (by, through) = told(&on(DAY, all.clone()), &own);
    assert_eq!(by, CurrentBy::Clamp);
    assert!((through[0].1 - 33.9).abs() < 1e-9 && (through[4].1 - 26.1).abs() < 1e-9, "{through:?}");
    assert_eq!(
        told(&wired(on(DAY, all)), &own).0,
        CurrentBy::Clamp,
        "what was clamped goes before the cables"
    );
    let one = Launch::of(2, 1);
    let all = vec![("A1", drop_of(Pole::Positive, JointPart::Post, 3.6, 60.0))];
    let (by, through) = told(&on(DAY, all), &one);
    assert_eq!((by, through[0].1), (CurrentBy::OneString, 60.0));
    assert_eq!(joints_of_visit(&sheet(Vec::new()), &[], own.judged()), None);
}

#[test]
fn a_joint_over_its_like_is_found_and_stays_open_until_it_is_remade_or_reads_well() {
    let own = Launch::new();
    let bad = on(DAY, posts(16.5));
    let found = joint_findings(std::slice::from_ref(&bad), own.judged());
    assert_eq!(codes(&found), ["remake_joint"]);
    let FindingKind::Joints(JointFinding::RemakeJoint { joint, times_like, .. }) = &found[0].kind else {
        panic!()
    };
    assert_eq!(joint, "B1+");
    assert!((times_like.unwrap() - 16.5 / 3.6).abs() < 1e-9);
    assert_eq!(found[0].severity, Severity::Act);
    let open = |visits: &[PastVisit]| open_joint_findings(visits, None, own.judged()).len();
    let later = |days, all| on(DAY.checked_add(jiff::Span::new().days(days)).unwrap(), all);
    assert_eq!(open(std::slice::from_ref(&bad)), 1);
    // a look that did not measure it leaves it open
    assert_eq!(
        open(&[bad.clone(), later(30, vec![("A1", drop_of(Pole::Positive, JointPart::Post, 3.6, 60.0))])]),
        1
    );
    assert_eq!(open(&[bad.clone(), later(30, vec![("B1", torqued(Some(9.0), true))])]), 0, "remade");
    assert_eq!(
        open(&[bad.clone(), later(30, vec![("B1", torqued(Some(9.0), false))])]),
        1,
        "tightened alone"
    );
    assert_eq!(open(&[bad.clone(), later(30, posts(3.7))]), 0, "reads like its mates");
    let repaired = Repaired {
        check: Check::Terminals,
        found: "powder".into(),
        repair: Repair::Remade,
        left: Left::PutRight,
        torque: Some(9.0),
        torque_asked: None,
        agent: String::new(),
        coating: String::new(),
        lock_nuts: false,
        part: String::new(),
        note: String::new(),
    };
    let visit = past(date(2026, 11, 1), vec![("B1", Entry::Repaired { repaired })]);
    assert_eq!(open(&[bad.clone(), visit]), 0, "put right in the look-over");
    // remade on the same visit, and read again after it: the new reading speaks
    let mut all = posts(16.5);
    all.push(("B1", torqued(Some(9.0), true)));
    all.push(("B1", drop_of(Pole::Positive, JointPart::Post, 3.8, 60.0)));
    assert!(joint_findings(&[on(DAY, all)], own.judged()).is_empty());
}

#[test]
fn a_joint_is_held_against_its_own_first_value_since_it_was_made() {
    let own = Launch::new();
    // alone it has no mates: only its own past tells
    let read =
        |day, millivolts| on(day, vec![("B1", drop_of(Pole::Positive, JointPart::Post, millivolts, 60.0))]);
    let visits = [read(date(2025, 5, 1), 3.6), read(date(2026, 5, 1), 5.0)];
    let last = joints_of_visit(&visits[1].sheet, &visits[..1], own.judged()).unwrap();
    assert_eq!(last.joints[0].judged.fails, Some(JointFails::OverItsFirst));
    assert!((last.joints[0].judged.times_first.unwrap() - 5.0 / 3.6).abs() < 1e-9);
    let made = on(date(2025, 9, 1), vec![("B1", torqued(None, true))]);
    let anew = [visits[0].clone(), made, read(date(2026, 5, 1), 5.0)];
    let last = joints_of_visit(&anew[2].sheet, &anew[..2], own.judged()).unwrap();
    assert_eq!(last.joints[0].judged.times_first, None, "made anew it begins again");
    let record = joints_on_record(&visits, own.judged());
    let joint = record.joints.values().next().unwrap();
    assert!((joint.before.unwrap().1 - 3.6 / 30.0).abs() < 1e-9, "the value before is kept beside it");
}

#[test]
fn drops_that_the_meter_cannot_tell_find_nothing() {
    let own = Launch::new();
    let mut all = posts(16.5);
    for (_, entry) in &mut all {
        if let JointEntry::Drop { resolution, .. } = entry {
            *resolution = 1.0;
        }
    }
    let visits = [on(DAY, all)];
    assert!(joint_findings(&visits, own.judged()).is_empty());
    let record = joints_on_record(&visits, own.judged());
    assert!(record.joints.values().all(|own| own.read.judged.condition == Severity::NoReading));
    assert!(record.milliohms().is_empty(), "and no share is worked out with them");
}

#[test]
fn strings_are_uneven_by_more_than_the_clamp_may_be_off() {
    let own = Launch::new();
    let found = |a, b| {
        let visits = [on(DAY, vec![("A", clamped(a)), ("B", clamped(b))])];
        joint_findings(&visits, own.judged()).first().map(|own| own.severity)
    };
    assert_eq!(found(31.0, 29.0), None);
    // 5 % of 30 A, and what the meter may be off by: 0.3 A and 3 %
    assert_eq!(found(32.5, 27.5), None);
    assert_eq!(found(33.9, 26.1), Some(Severity::Watch));
    assert_eq!(found(44.0, 16.0), Some(Severity::Act));
    let half = [on(DAY, vec![("A", clamped(44.0))])];
    assert!(joint_findings(&half, own.judged()).is_empty(), "one string alone tells no share");
    // by the cables alone it is watched, not acted on
    let far = Cable { section: Section::SquareMillimetres(6.0), metres: 2.0, lugs: 2, lug_milliohms: 0.05 };
    let (positive, negative) = (vec![far], vec![far]);
    let thin = Wiring {
        link: None,
        coupling: Some(Coupling::Rails { positive, negative, plus_at: 1, minus_at: 1 }),
    };
    let open =
        open_joint_findings(&[on(DAY, vec![("", torqued(Some(9.0), false))])], Some(&thin), own.judged());
    let FindingKind::Joints(JointFinding::StringsShareUnevenly { clamped, remedy, .. }) =
        &open[0].finding.kind
    else {
        panic!()
    };
    assert_eq!((open[0].finding.severity, *clamped), (Severity::Watch, false));
    let said = wording::speak(&open[0].finding, rainshadow_core::quantity::units::ReaderUnits::default());
    assert!(said.advice.starts_with("Take the minus from the other end: then A 50 %"), "{}", said.advice);
    assert!(remedy.is_some());
}

#[test]
fn what_cannot_be_is_refused_by_its_field_and_what_is_odd_is_asked_about() {
    let own = Launch::new();
    let post = |millivolts, amperes| drop_of(Pole::Positive, JointPart::Post, millivolts, amperes);
    assert_eq!(own.refused("A1", &post(-1.0, 60.0)).0, "millivolts");
    assert_eq!(own.refused("A1", &post(3.0, 0.0)).0, "amperes");
    assert_eq!(
        own.refused("A", &post(3.0, 60.0)),
        ("place", "this is noted at a battery, not at string A".into())
    );
    let lead = drop_of(Pole::Positive, JointPart::Lead, 3.0, 60.0);
    assert_eq!(own.refused("A1", &lead).0, "part");
    assert_eq!(own.refused("A1", &clamped(30.0)).0, "place");
    assert_eq!(own.refused("A", &clamped(9000.0)).0, "amperes");
    assert_eq!(own.refused("A", &torqued(Some(9.0), false)).0, "place");
    assert_eq!(own.refused("A1", &torqued(Some(900.0), false)).0, "torque");
    let one = Launch::of(2, 1);
    let why = one.takes(&VisitSheet::default(), "A", &clamped(30.0)).unwrap_err();
    assert_eq!(why, EntryRefused::Joint(JointRefused::OneString));
    let mut wired = sheet(Vec::new());
    wired.wiring = Some(wiring());
    assert_eq!(own.asked(&wired, "A1", &lead), None, "where a lead is bolted it is taken");
    assert!(own.takes(&wired, "B1", &lead).is_err(), "the rail ends there");
    let far = own.asked(&wired, "A1", &post(402.0, 60.0));
    assert_eq!(far, Some(JointQuestion::FarTooMuch { millivolts: 402.0, amperes: 60.0 }));
    let kept = JointEntry::Drop {
        pole: Pole::Positive,
        part: JointPart::Post,
        millivolts: 402.0,
        amperes: 60.0,
        resolution: 0.1,
        stands: true,
    };
    assert_eq!(own.asked(&wired, "A1", &kept), None);
    let a = sheet(written(vec![("A", clamped(30.0))]));
    assert_eq!(own.asked(&a, "B", &clamped(-27.0)), Some(JointQuestion::AgainstTheOthers { amperes: -27.0 }));
    assert_eq!(own.asked(&a, "B", &clamped(27.0)), None);
    let set = |newton_metres| JointEntry::Torqued {
        newton_metres: Some(newton_metres),
        asked: Some(9.0),
        remade: false,
        note: String::new(),
        stands: false,
    };
    assert_eq!(own.asked(&a, "A1", &set(9.5)), None);
    assert_eq!(own.asked(&a, "A1", &set(12.0)), Some(JointQuestion::OffTorque { set: 12.0, asked: 9.0 }));
}

#[test]
fn torque_is_logged_and_counts_where_every_battery_had_it() {
    let own = Launch::new();
    let all = |day, places: &[&'static str]| {
        on(day, places.iter().map(|p| (*p, torqued(Some(9.0), false))).collect())
    };
    let part = all(date(2026, 9, 1), &["A1", "B1"]);
    assert_eq!(last_torqued(std::slice::from_ref(&part), own.judged()), None);
    let whole = all(date(2026, 3, 1), &[""]);
    let each = all(date(2026, 6, 1), &["A1", "A2", "B1", "B2"]);
    assert_eq!(last_torqued(&[whole.clone(), part.clone()], own.judged()), Some(date(2026, 3, 1)));
    assert_eq!(last_torqued(&[whole.clone(), each, part], own.judged()), Some(date(2026, 6, 1)));
    let noted = past(date(2025, 1, 1), vec![("", Entry::Done { work: Work::Retorqued, note: "all".into() })]);
    let visits = [noted, whole];
    let log = torque_log(&visits);
    assert_eq!(log.len(), 2);
    assert_eq!((log[0].note, log[1].newton_metres), ("all", Some(9.0)));
}

#[test]
fn joints_and_currents_are_evidence_of_the_diagnosis() {
    let own = Launch::new();
    let evidence =
        |visits: &[PastVisit]| diagnosis_evidence(visits, &[], own.judged(), &OnRecord::default(), DAY);
    let mut all = posts(16.5);
    all.extend([("A", clamped(33.9)), ("B", clamped(26.1))]);
    let strings = evidence(&[on(DAY, all)]).strings.unwrap();
    assert_eq!((strings.joints_out, strings.currents), (Some(1), vec![33.9, 26.1]));
    assert_eq!(evidence(&[on(DAY, posts(3.6))]).strings.unwrap().joints_out, Some(0));
    assert!(evidence(&[on(DAY, vec![("", torqued(None, false))])]).strings.is_none());
    let seen = |wiring: Wiring| {
        let mut visit = on(DAY, Vec::new());
        visit.sheet.wiring = Some(wiring);
        evidence(&[visit]).seen.into_iter().map(|own| own.sign).collect::<Vec<_>>()
    };
    let thin = Cable { section: Section::SquareMillimetres(6.0), metres: 2.0, lugs: 2, lug_milliohms: 0.05 };
    let rails = |minus_at| {
        let (positive, negative) = (vec![thin], vec![thin]);
        Wiring { link: None, coupling: Some(Coupling::Rails { positive, negative, plus_at: 1, minus_at }) }
    };
    assert_eq!(seen(rails(1)), ["leads_unequal"]);
    assert_eq!(seen(rails(2)), ["leads_equal"]);
    assert!(seen(Wiring::default()).is_empty());
    let step = |own| step_that_measures(own);
    assert_eq!(
        (step(Measurement::Joints), step(Measurement::Currents)),
        (Some(Step::Joints), Some(Step::Joints))
    );
}
