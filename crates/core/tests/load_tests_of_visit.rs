//! Load and capacity tests as they are written down on a visit: what may be, what is asked about, what they find, and
//! how long it stays open.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::tests_made::{after_nine, event, plan, reading, test, timed_sheet};
use crate::common::visits::{past, sheet};
use jiff::civil::date;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::cell_volts::CellVoltsWhen;
use rainshadow_core::discharge::{DischargeEvent, DischargePlan, DischargeReading, DischargedBattery};
use rainshadow_core::finding::{Equipment, Finding, FindingKind, LoadTestFinding, Subject};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::load_test::{
    InverterOutput, LoadOnPlate, LoadedVolts, RealLoadRead, ShortLoadSetUp, TesterLoad,
};
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    BurnOff, Burned, Entry, EntryQuestion, EntryRefused, Judged, PastVisit, TestEntry, TestQuestion,
    TestRefused, TimedLoad, VisitSheet, VisitUnderWay, Work, accept, burned, discharges, last_test, load_on,
    open_test_findings, recharge_owed, test_findings,
};
use rainshadow_core::wording;

/// Two strings of two twelve-volt AGM batteries.
struct Launch {
    shape: BankShape,
    model: BatteryModel,
    rules: HouseRules,
}

impl Launch {
    fn new() -> Self {
        let model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
        Self { shape: shape(6, 2, 2), model, rules: HouseRules::maker_first() }
    }

    fn judged(&self) -> Judged<'_> {
        Judged { shape: &self.shape, model: &self.model, rules: &self.rules }
    }

    fn found(&self, sheet: &VisitSheet, before: &[PastVisit]) -> Vec<Finding> {
        test_findings(sheet, before, self.judged(), Duty::Standby)
    }

    fn takes(
        &self,
        sheet: &VisitSheet,
        place: &str,
        entry: &Entry,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        let visit = VisitUnderWay { shape: &self.shape, model: &self.model, sheet, taking: true };
        let now = after_nine(0.0);
        accept((place.parse().unwrap(), entry, now), &visit, now)
    }

    fn refused(&self, sheet: &VisitSheet, place: &str, entry: &Entry) -> (&'static str, String) {
        let why = self.takes(sheet, place, entry).unwrap_err();
        (why.field(), why.to_string())
    }
}

fn set_up(tester: &str, load: TesterLoad) -> Entry {
    let set_up = ShortLoadSetUp {
        load,
        seconds: 15.0,
        temperature: None,
        charged: Some(100.0),
        tester: tester.into(),
    };
    test(TestEntry::SetUp { set_up })
}

const HALF: TesterLoad = TesterLoad::HalfCapacity { c20: 100.0 };

fn loaded(before: f64, at_end: f64) -> Entry {
    test(TestEntry::ShortLoad { read: LoadedVolts { before, at_end, after: None, stands: false } })
}

fn launch_loads(b2: f64) -> Vec<(&'static str, Entry)> {
    vec![
        ("", set_up("carbon pile", HALF)),
        ("A1", loaded(12.83, 11.48)),
        ("A2", loaded(12.83, 11.46)),
        ("B1", loaded(12.82, 11.47)),
        ("B2", loaded(12.71, b2)),
    ]
}

fn codes(all: &[Finding]) -> Vec<String> {
    all.iter().map(|f| format!("{} {}", f.kind.code(), f.subject).trim().to_owned()).collect()
}

#[test]
fn a_battery_that_gives_way_stays_open_until_it_is_loaded_again() {
    let own = Launch::new();
    assert_eq!(codes(&own.found(&sheet(launch_loads(10.86)), &[])), ["falls_under_load B2"]);
    assert!(own.found(&sheet(launch_loads(11.40)), &[]).is_empty());
    let failed = past(date(2026, 3, 1), launch_loads(10.86));
    let open = |visits: &[PastVisit]| {
        let open = open_test_findings(visits, own.judged(), Duty::Cycled);
        open.into_iter()
            .map(|o| format!("{} {} {}", o.day, o.finding.kind.code(), o.finding.subject))
            .collect::<Vec<_>>()
    };
    assert_eq!(open(std::slice::from_ref(&failed)), ["2026-03-01 falls_under_load B2"]);
    // others that are loaded again do not answer for it
    let others = past(date(2026, 4, 1), launch_loads(0.0).into_iter().take(3).collect());
    assert_eq!(open(&[failed.clone(), others.clone()]).len(), 1);
    let sound = past(date(2026, 5, 1), launch_loads(11.47));
    assert!(open(&[failed, others, sound]).is_empty());
}

#[test]
fn only_a_test_under_the_same_load_is_its_own_past() {
    let own = Launch::new();
    let first = past(date(2025, 3, 1), launch_loads(11.47));
    // all four fell alike: no mate tells, its own first test does
    let now = |tester: &str, load| {
        let volts = [("A1", 11.0), ("A2", 11.0), ("B1", 11.0), ("B2", 11.0)];
        let mut all = vec![("", set_up(tester, load))];
        all.extend(volts.map(|(battery, v)| (battery, loaded(12.8, v))));
        codes(&own.found(&sheet(all), std::slice::from_ref(&first))).len()
    };
    assert_eq!(now("carbon pile", HALF), 4);
    assert_eq!(now("another word for it", HALF), 4, "the amperes are the load, whatever draws them");
    assert_eq!(now("carbon pile", TesterLoad::HalfCapacity { c20: 90.0 }), 0);
}

fn pumping(amperes: f64, at_five: f64) -> Vec<(&'static str, Entry)> {
    let read = RealLoadRead {
        off_charge: Some(26.2),
        before: 25.4,
        at_ten_seconds: Some(25.2),
        at_five_minutes: at_five,
        amperes: 12.0,
        loads: vec![LoadOnPlate { name: "bilge pump".into(), amperes, plate: Some(6.0) }],
        inverter_limit: Some(13.0),
        output: None,
        output_on_mains: Some(InverterOutput {
            volts: 120.0,
            nominal_volts: 120.0,
            hertz: 62.0,
            nominal_hertz: 60.0,
        }),
    };
    vec![("", test(TestEntry::RealLoad { read }))]
}

#[test]
fn a_pump_that_draws_twice_its_plate_is_a_finding_about_the_pump() {
    let own = Launch::new();
    let found = own.found(&sheet(pumping(12.0, 25.1)), &[]);
    assert_eq!(codes(&found), ["load_over_plate load", "inverter_load load", "inverter_output load"]);
    assert!(found.iter().all(|f| f.subject == Subject::Equipment(Equipment::Load)));
    let said = wording::speak(&found[0], rainshadow_core::quantity::units::ReaderUnits::default());
    assert_eq!(said.headline, "Bilge pump draws 2.0 times its plate");
    assert!(said.why.contains("no fault of the bank"), "{}", said.why);
    let weak = own.found(&sheet(pumping(5.0, 22.4)), &[]);
    let bank = weak.iter().find(|f| f.subject == Subject::Bank).unwrap();
    assert_eq!((bank.kind.code(), bank.severity), ("falls_under_real_load", Severity::Act));
}

#[test]
fn a_discharge_is_what_was_written_between_its_beginning_and_its_end() {
    let own = Launch::new();
    let of_minutes = timed_sheet(vec![
        (0.0, "", event(DischargeEvent::Begun { plan: plan(60.0) })),
        (1.0, "", event(reading(25.3, 60.0))),
        (90.0, "", event(reading(21.5, 60.0))),
        (100.0, "", event(reading(20.9, 60.0))),
        (101.0, "", event(DischargeEvent::Ended)),
        (160.0, "B2", event(DischargeEvent::Begun { plan: plan(20.0) })),
    ]);
    let all = discharges(&of_minutes);
    assert_eq!(
        all.iter().map(|d| (d.begun.place.to_string(), d.is_under_way())).collect::<Vec<_>>(),
        [(String::new(), false), ("B2".to_owned(), true)]
    );
    let now = all[0].now(own.judged(), None, after_nine(500.0));
    assert!((now.reached.unwrap() * 60.0 - 98.333).abs() < 0.01, "{:?}", now.reached);
    // two strings share the 60 A
    let rated = now.result.unwrap().rated.hours;
    assert!((rated - rainshadow_core::discharge::rated_time(&own.model, 30.0).hours).abs() < 1e-9);
    let found = own.found(&of_minutes, &[]);
    assert_eq!(codes(&found), ["capacity_falls"]);
    assert!(
        matches!(
            &found[0].kind,
            FindingKind::LoadTest(LoadTestFinding::CapacityFalls { percent, .. }) if (50.0..65.0).contains(percent)
        ),
        "{:?}",
        found[0].kind
    );
    let done = wording::test_work(&of_minutes, &[], own.judged());
    assert!(done[0].starts_with("Timed discharge of the bank: 1 h 38 min at 60.0 A: "), "{done:?}");
}

#[test]
fn what_cannot_be_is_refused_by_its_field_and_nothing_is_lost() {
    let own = Launch::new();
    let none = sheet(vec![]);
    let on = sheet(vec![
        ("", event(DischargeEvent::Begun { plan: plan(60.0) })),
        ("", event(reading(25.0, 60.0))),
    ]);
    for (sheet, place, entry, field, part) in [
        (&none, "A1", loaded(12.8, 11.4), "what", "what loads the batteries"),
        (&none, "", event(reading(25.0, 60.0)), "what", "no discharge is on"),
        (&on, "", event(DischargeEvent::Begun { plan: plan(20.0) }), "what", "a discharge is on"),
        (&on, "", event(DischargeEvent::Resumed), "what", "not paused"),
        (
            &on,
            "",
            event(DischargeEvent::Read { reading: DischargeReading::default() }),
            "volts",
            "nothing is typed",
        ),
        (&none, "A1-1", event(DischargeEvent::Begun { plan: plan(20.0) }), "place", "a string or a battery"),
        (
            &none,
            "",
            event(DischargeEvent::Begun { plan: DischargePlan { end_per_cell: 2.3, ..plan(20.0) } }),
            "end_per_cell",
            "1.00 to 1.95",
        ),
        (&none, "", test(TestEntry::BurnOff { switched: BurnOff::LoadOff }), "what", "switch it on first"),
        (
            &none,
            "",
            test(TestEntry::KnownLoad { load: " ".into(), when_new: 20.0, now: 17.0 }),
            "load",
            "say what the load was",
        ),
    ] {
        let (at, said) = own.refused(sheet, place, &entry);
        assert_eq!(at, field, "{said}");
        assert!(said.contains(part), "{said}");
    }
    let ready = sheet(vec![("", set_up("", HALF))]);
    let (at, said) = own.refused(&ready, "A1", &loaded(11.4, 12.8));
    assert_eq!(at, "at_end");
    assert!(said.contains("a load never raises volts"), "{said}");
}

#[test]
fn odd_figures_are_asked_about_and_can_be_kept() {
    let own = Launch::new();
    let on = sheet(vec![
        ("", event(DischargeEvent::Begun { plan: plan(60.0) })),
        ("", event(reading(25.0, 60.0))),
    ]);
    let asked = |sheet: &VisitSheet, place: &str, entry: &Entry| match own.takes(sheet, place, entry).unwrap()
    {
        Some(EntryQuestion::Test { question, .. }) => Some(question),
        _ => None,
    };
    assert!(matches!(asked(&on, "", &event(reading(25.2, 60.0))), Some(TestQuestion::Rose { .. })));
    assert!(matches!(asked(&on, "", &event(reading(24.8, 48.0))), Some(TestQuestion::CurrentOff { .. })));
    assert_eq!(asked(&on, "", &event(reading(24.8, 60.0))), None);
    let kept = DischargeReading { volts: Some(25.2), stands: true, ..DischargeReading::default() };
    assert_eq!(asked(&on, "", &event(DischargeEvent::Read { reading: kept })), None);
    // after a pause it stands higher by right
    let paused = [("", event(DischargeEvent::Paused)), ("", event(DischargeEvent::Resumed))];
    let mut entries =
        vec![("", event(DischargeEvent::Begun { plan: plan(60.0) })), ("", event(reading(25.0, 60.0)))];
    entries.extend(paused);
    assert_eq!(asked(&sheet(entries), "", &event(reading(25.2, 60.0))), None);
    let ready = sheet(vec![("", set_up("", HALF))]);
    assert!(matches!(asked(&ready, "A1", &loaded(12.8, 5.0)), Some(TestQuestion::FellFar { .. })));
    let cell = |volts, stands| test(TestEntry::CellVolts { when: CellVoltsWhen::OnFloat, volts, stands });
    assert!(matches!(asked(&ready, "A1-1", &cell(0.4, false)), Some(TestQuestion::OddCell { .. })));
    assert_eq!(asked(&ready, "A1-1", &cell(0.4, true)), None);
    let other = DischargeReading {
        batteries: vec![DischargedBattery { battery: "A1".parse().unwrap(), volts: 12.0 }],
        ..DischargeReading::default()
    };
    let b = sheet(vec![("B2", event(DischargeEvent::Begun { plan: plan(20.0) }))]);
    let (at, said) = own.refused(&b, "B2", &event(DischargeEvent::Read { reading: other }));
    assert_eq!(at, "batteries");
    assert!(said.contains("A1 is not under test"), "{said}");
    assert!(matches!(
        own.takes(&none_on(), "", &event(DischargeEvent::Ended)),
        Err(EntryRefused::Test(TestRefused::NoneOn))
    ));
}

fn none_on() -> VisitSheet {
    sheet(vec![])
}

#[test]
fn the_surface_charge_is_off_after_five_minutes_of_load_and_half_an_hour_of_rest() {
    let on = || (0.0, "", test(TestEntry::BurnOff { switched: BurnOff::LoadOn }));
    let off = |minutes| (minutes, "", test(TestEntry::BurnOff { switched: BurnOff::LoadOff }));
    assert_eq!(burned(&timed_sheet(vec![]), after_nine(0.0)), None);
    assert!(
        matches!(burned(&timed_sheet(vec![on()]), after_nine(4.0)), Some(Burned::Loading(m)) if (m - 4.0).abs() < 1e-9)
    );
    let rested =
        |load: f64, at: f64| burned(&timed_sheet(vec![on(), off(load)]), after_nine(at)).unwrap().is_off();
    assert!(rested(6.0, 36.0) && !rested(6.0, 35.0) && !rested(3.0, 60.0));
}

#[test]
fn the_load_that_counts_is_the_one_whose_volts_are_not_written_down() {
    let on = |place| (place, test(TestEntry::LoadOn { of: TimedLoad::ShortLoad }));
    let counting = |entries| load_on(&sheet(entries)).map(|(entry, _)| entry.place.to_string());
    assert_eq!(counting(vec![("", set_up("", HALF)), on("A1")]).as_deref(), Some("A1"));
    assert_eq!(counting(vec![("", set_up("", HALF)), on("A1"), ("A1", loaded(12.8, 11.4))]), None);
    assert_eq!(
        counting(vec![("", set_up("", HALF)), on("A1"), ("A1", loaded(12.8, 11.4)), on("A2")]).as_deref(),
        Some("A2")
    );
}

#[test]
fn a_discharge_is_owed_a_charge_until_one_is_on_record() {
    let ended =
        vec![("", event(DischargeEvent::Begun { plan: plan(60.0) })), ("", event(DischargeEvent::Ended))];
    let charged = ("", Entry::Done { work: Work::ChargedFull, note: String::new() });
    let day = date(2026, 9, 1);
    let discharged = past(day, ended.clone());
    assert_eq!(recharge_owed(std::slice::from_ref(&discharged), None), Some(day));
    let mut same_day = ended;
    same_day.push(charged.clone());
    assert_eq!(recharge_owed(&[past(day, same_day)], None), None);
    assert_eq!(recharge_owed(&[discharged.clone(), past(date(2026, 9, 2), vec![charged])], None), None);
    // a later round that was proven full tells as much, one before it does not
    assert_eq!(recharge_owed(std::slice::from_ref(&discharged), Some(date(2026, 9, 5))), None);
    assert_eq!(recharge_owed(std::slice::from_ref(&discharged), Some(date(2026, 8, 5))), Some(day));
    assert_eq!(last_test(&[discharged]), Some(day));
    // one that is entered years later owes nothing
    let noted = DischargeEvent::Noted { plan: plan(56.0), hours: 1.5, reached_end: true, batteries: vec![] };
    assert_eq!(recharge_owed(&[past(day, vec![("", event(noted))])], None), None);
}

#[test]
fn whatever_a_test_finds_is_said_to_the_technician_and_to_the_owner() {
    let own = Launch::new();
    let mut all = own.found(&sheet(launch_loads(10.86)), &[]);
    all.extend(own.found(&sheet(pumping(12.0, 22.4)), &[]));
    let noted = DischargeEvent::Noted {
        plan: plan(60.0),
        hours: 1.2,
        reached_end: true,
        batteries: [("A1", 10.9), ("A2", 10.9), ("B1", 10.9), ("B2", 10.5)]
            .map(|(battery, volts)| DischargedBattery { battery: battery.parse().unwrap(), volts })
            .to_vec(),
    };
    all.extend(own.found(&sheet(vec![("", event(noted))]), &[]));
    let known = TestEntry::KnownLoad { load: "lamps".into(), when_new: 20.0, now: 12.0 };
    all.extend(own.found(&sheet(vec![("", test(known))]), &[]));
    let cells = [("A1-1", 2.2), ("A1-2", 2.2), ("A1-3", 2.05)];
    for when in
        [CellVoltsWhen::OnFloat, CellVoltsWhen::OnCharge, CellVoltsWhen::NearEnd, CellVoltsWhen::AtRestFull]
    {
        let read =
            cells.map(|(cell, volts)| (cell, test(TestEntry::CellVolts { when, volts, stands: true })));
        all.extend(own.found(&sheet(read.to_vec()), &[]));
    }
    let mut codes: Vec<&str> = all.iter().map(|f| f.kind.code()).collect();
    codes.sort_unstable();
    codes.dedup();
    assert_eq!(codes.len(), 9, "every code is among them: {codes:?}");
    let units = rainshadow_core::quantity::units::ReaderUnits::default();
    for (finding, said) in all.iter().zip(wording::speak_all(&all, units)) {
        assert!(!said.headline.is_empty() && !said.seen.is_empty() && !said.advice.is_empty(), "{said:?}");
        let owner = wording::owner_finding(finding, units).unwrap();
        assert!(owner.ends_with('.') && owner.len() > 30, "{owner}");
    }
}

/// Five minutes of load and thirty of rest (LT-1; common practice, no source).
#[test]
fn a_load_that_was_on_too_short_rests_for_nothing() {
    let resting = |loaded, rested| Burned::Resting { loaded, rested };
    for (own, enough, off, part) in [
        (Burned::Loading(2.0), false, false, "Leave it on"),
        (Burned::Loading(5.0), true, false, "Long enough"),
        (resting(2.0, 90.0), false, false, "takes too little off"),
        (resting(5.0, 10.0), true, false, "It rests"),
        (resting(5.0, 30.0), true, true, "test now"),
    ] {
        assert_eq!((own.was_long_enough(), own.is_off()), (enough, off), "{own:?}");
        assert!(wording::burn_off(Some(own)).contains(part), "{own:?}");
    }
    assert!(wording::burn_off(None).contains("24 hours of rest"));
}
