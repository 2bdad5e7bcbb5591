//! Load and capacity tests as a visit shows them.

mod discharge;

pub use discharge::{DischargeView, PastDischargeLine};

use super::VisitContext;
use crate::app::typed::test_entry::TypedTest;
use crate::app::typed::visit_entry::TypedBody;
use jiff::Timestamp;
use rainshadow_core::cell_volts::CellVoltsWhen;
use rainshadow_core::discharge::{MINUTES_TESTS, RATED_HOURS};
use rainshadow_core::finding::{Finding, FindingKind, RuleId, load_test};
use rainshadow_core::load_test::{UNDER_MATES, load_current};
use rainshadow_core::round::median;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    BURN_MINUTES, BURN_REST_MINUTES, Burned, Entry, Place, TestEntry, TimedLoad, VisitEntry, burned,
    cell_volts, known_loads, load_on, real_loads, set_up, short_load,
};
use rainshadow_core::wording::{self, SpokenFinding};
use serde::Serialize;
use utoipa::ToSchema;

/// Burning the surface charge off (LT-1).
#[derive(Debug, Serialize, ToSchema)]
pub struct BurnOffView {
    /// What to do, or how far it is.
    pub said: String,
    /// Seconds of load so far; none: no load is on.
    pub loading_seconds: Option<f64>,
    /// Seconds of rest so far; none: nothing rests.
    pub resting_seconds: Option<f64>,
    /// Seconds that the load lasts at least, and the rest.
    pub load_seconds: f64,
    /// Seconds of rest.
    pub rest_seconds: f64,
    /// True when it is off.
    pub off: bool,
}

/// A load that is on, whose seconds count.
#[derive(Debug, Serialize, ToSchema)]
pub struct LoadOnView {
    /// The entry that says so.
    pub entry: String,
    /// Where.
    pub place: String,
    /// What for.
    pub of: TimedLoad,
    /// Seconds since.
    pub seconds: f64,
}

/// One battery of the short load.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShortLoadLine {
    /// Which.
    pub battery: String,
    /// Its entry; empty: not tested.
    pub entry: String,
    /// V before; empty: not tested.
    pub before: String,
    /// V at the end.
    pub at_end: String,
    /// V thirty seconds after; empty: not read.
    pub after: String,
    /// V against the middle of those tested, for its height; none: not tested.
    pub deviation: Option<f64>,
    /// What it comes to.
    pub said: String,
    /// How it stands.
    pub condition: Severity,
    /// By whom and when.
    pub by: String,
}

/// A line of a test that is one line.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestLine {
    /// Its entry.
    pub entry: String,
    /// The one sentence.
    pub said: String,
    /// More of it.
    pub more: Vec<String>,
    /// How it stands.
    pub condition: Severity,
    /// By whom and when.
    pub by: String,
}

/// A state that cells are read in.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellVoltsChoice {
    /// Which.
    pub when: CellVoltsWhen,
    /// As said.
    pub said: &'static str,
}

/// The tests of a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestsView {
    /// The one sentence.
    pub verdict: String,
    /// What a test needs first.
    pub first: Vec<String>,
    /// Burning the surface charge off.
    pub burn_off: BurnOffView,
    /// What loads the batteries, as typed last; none yet.
    pub set_up: Option<TypedBody>,
    /// "Set 110 A for 15 s"; empty: not said yet.
    pub set_up_said: String,
    /// Seconds of the load; none: not said yet.
    pub load_seconds: Option<f64>,
    /// A load that is on, whose seconds count; none: none is.
    pub load_on: Option<LoadOnView>,
    /// Battery by battery, along the plan.
    pub short_load: Vec<ShortLoadLine>,
    /// Volts of the middle of those tested; empty: none was.
    pub short_load_middle: String,
    /// Half-height of its band, V: as far as mates may differ.
    pub short_load_band: f64,
    /// The one sentence of the short load; empty: none was made.
    pub short_load_verdict: String,
    /// Rule and source.
    pub short_load_rule: String,
    /// Real loads, in order.
    pub real_loads: Vec<TestLine>,
    /// Rule and source.
    pub real_load_rule: String,
    /// Known loads.
    pub known_loads: Vec<TestLine>,
    /// Single cells.
    pub cells: Vec<TestLine>,
    /// States that cells are read in.
    pub cell_states: Vec<CellVoltsChoice>,
    /// Rule and source.
    pub cell_rule: String,
    /// The last discharge of this visit; none: none was made.
    pub discharge: Option<DischargeView>,
    /// Discharges of earlier visits, the newest first.
    pub past_discharges: Vec<PastDischargeLine>,
    /// Currents that are usual, A, with what they are: twenty hours, five hours, those of carts.
    pub usual_currents: Vec<UsualCurrent>,
    /// How many seconds of the clock pass in one.
    pub pace: f64,
    /// What was found.
    pub findings: Vec<SpokenFinding>,
}

/// A current that is usual.
#[derive(Debug, Serialize, ToSchema)]
pub struct UsualCurrent {
    /// A, as typed.
    pub amperes: String,
    /// "5 hours".
    pub said: String,
}

fn is_of_test(finding: &Finding) -> bool {
    matches!(finding.kind, FindingKind::LoadTest(_))
}

impl VisitContext {
    fn burn_off(&self, at: Timestamp) -> BurnOffView {
        let own = burned(&self.sheet, at);
        let (loading, resting) = match own {
            Some(Burned::Loading(on)) => (Some(on * 60.0), None),
            // What was loaded too short rests for nothing.
            Some(own @ Burned::Resting { rested, .. }) if own.was_long_enough() => {
                (None, Some(rested * 60.0))
            }
            _ => (None, None),
        };
        BurnOffView {
            said: wording::burn_off(own),
            loading_seconds: loading,
            resting_seconds: resting,
            load_seconds: BURN_MINUTES[0] * 60.0,
            rest_seconds: BURN_REST_MINUTES * 60.0,
            off: own.is_some_and(Burned::is_off),
        }
    }

    fn entry_of(&self, place: Place, pick: impl Fn(&TestEntry) -> bool) -> Option<&VisitEntry> {
        let here =
            |k: &&VisitEntry| k.place == place && matches!(&k.entry, Entry::Test { test } if pick(test));
        self.sheet.standing().filter(here).last()
    }

    fn short_load_lines(&self) -> (Vec<ShortLoadLine>, String, Option<f64>) {
        let made = short_load(&self.sheet, &self.past, self.judged_by());
        let verdict =
            made.as_ref().map(|(test, judged)| wording::short_load_verdict(test, judged)).unwrap_or_default();
        let middle = made.as_ref().and_then(|(test, _)| {
            median(&mut test.batteries.iter().map(|own| own.at_end).collect::<Vec<_>>())
        });
        let line = |battery| {
            let own = made.as_ref().and_then(|(test, judged)| {
                let at = judged.iter().position(|own| own.battery == battery)?;
                Some((test.batteries[at], judged[at]))
            });
            let entry =
                self.entry_of(Place::Battery(battery), |test| matches!(test, TestEntry::ShortLoad { .. }));
            let volts = |v: Option<f64>| v.map(|v| format!("{v:.2}")).unwrap_or_default();
            ShortLoadLine {
                battery: battery.to_string(),
                entry: entry.map(|e| e.id.clone()).unwrap_or_default(),
                before: volts(own.map(|(read, _)| read.before)),
                at_end: volts(own.map(|(read, _)| read.at_end)),
                after: volts(own.and_then(|(read, _)| read.after)),
                deviation: own.zip(middle).map(|((read, _), middle)| read.at_end - middle),
                said: own.map(|(_, judged)| wording::short_load_line(&judged)).unwrap_or_default(),
                condition: own.map_or(Severity::NoReading, |(_, judged)| judged.condition),
                by: entry.map(|e| self.signed(e)).unwrap_or_default(),
            }
        };
        (self.bank.shape.batteries().map(line).collect(), verdict, middle)
    }

    fn set_up(&self) -> (Option<TypedBody>, String, Option<f64>) {
        let Some(own) = set_up(&self.sheet) else { return (None, String::new(), None) };
        let entry = self.entry_of(Place::Bank, |test| matches!(test, TestEntry::SetUp { .. }));
        let typed = entry.and_then(|e| serde_json::from_str::<TypedBody>(e.typed.as_deref()?).ok());
        let typed = typed.filter(|body| matches!(body, TypedBody::Test { test: TypedTest::SetUp { .. } }));
        let seconds = own.seconds;
        let said = match load_current(own.load).ok().flatten() {
            Some(amperes) => format!("Set {amperes:.0} A for {seconds:.0} s."),
            None => format!("The tester\u{2019}s own load for {seconds:.0} s."),
        };
        (typed, said, Some(seconds))
    }

    fn real_load_lines(&self) -> Vec<TestLine> {
        let line = |(entry, test, judged): &(&VisitEntry, _, _)| TestLine {
            entry: entry.id.clone(),
            said: wording::real_load_verdict(judged),
            more: wording::real_load_lines(test, judged),
            condition: judged.condition,
            by: self.signed(entry),
        };
        real_loads(&self.sheet, self.judged_by()).iter().map(line).collect()
    }

    fn known_load_lines(&self) -> Vec<TestLine> {
        let own = known_loads(&self.sheet);
        let line = |own: &rainshadow_core::visit::KnownLoad<'_>| {
            let [then, now] = own.hours.map(wording::discharge_time);
            TestLine {
                entry: own.entry.id.clone(),
                said: format!(
                    "{}: {now} now, {then} when new, {:.0} %.",
                    wording::sentence(own.load),
                    100.0 * own.share
                ),
                more: vec!["CT-3: hours of a load that is not measured are a hint, no capacity.".into()],
                condition: load_test::known_load(own.load, own.hours, own.share, self.duty())
                    .map_or(Severity::Steady, |found| found.severity),
                by: self.signed(own.entry),
            }
        };
        own.iter().map(line).collect()
    }

    fn cell_lines(&self) -> Vec<TestLine> {
        let mut all = Vec::new();
        for (when, cells) in cell_volts(&self.sheet, self.judged_by()) {
            for own in &cells {
                let is_it =
                    |test: &TestEntry| matches!(test, TestEntry::CellVolts { when: own, .. } if *own == when);
                let entry = self.entry_of(Place::Cell(own.cell), is_it);
                all.push(TestLine {
                    entry: entry.map(|e| e.id.clone()).unwrap_or_default(),
                    said: format!("{}: {}.", own.cell, wording::cell_volts_said(own, when)),
                    more: Vec::new(),
                    condition: own.condition,
                    by: entry.map(|e| self.signed(e)).unwrap_or_default(),
                });
            }
        }
        all
    }

    fn usual_currents(&self) -> Vec<UsualCurrent> {
        let strings = f64::from(self.bank.shape.parallel);
        let c20 = self.model.c20.ampere_hours() * strings;
        let mut all = vec![(c20 / RATED_HOURS, "20 hours".to_owned())];
        let five = self.model.rates.iter().find(|r| (r.hours - 5.0).abs() < 1e-6);
        all.extend(five.map(|r| (r.capacity.ampere_hours() * strings / r.hours, "5 hours".into())));
        if self.bank.shape.parallel == 1 {
            all.extend(MINUTES_TESTS.map(|a| (a, "minutes test".to_owned())));
        }
        let said = |(amperes, said): (f64, String)| UsualCurrent { amperes: format!("{amperes:.1}"), said };
        all.into_iter().map(said).collect()
    }

    /// The tests as they stand.
    pub(super) fn tests(&self, at: Timestamp, pace: f64) -> TestsView {
        let (short_load, short_load_verdict, middle) = self.short_load_lines();
        let (set_up, set_up_said, load_seconds) = self.set_up();
        let all = self.findings();
        let spoken = wording::speak_all(&all, self.units);
        let findings: Vec<SpokenFinding> =
            all.iter().zip(spoken).filter(|(f, _)| is_of_test(f)).map(|(_, said)| said).collect();
        let discharge = self.discharge(at);
        let verdict = match (&discharge, findings.first()) {
            (Some(own), _) => own.verdict.clone(),
            (None, Some(first)) => format!("{}.", first.headline),
            (None, None) if !short_load_verdict.is_empty() => short_load_verdict.clone(),
            (None, None) => "A meter shows twelve volts on a dead battery: the load tells.".into(),
        };
        let states = [
            CellVoltsWhen::NearEnd,
            CellVoltsWhen::OnFloat,
            CellVoltsWhen::OnCharge,
            CellVoltsWhen::AtRestFull,
        ];
        TestsView {
            verdict,
            first: wording::TEST_NEEDS.map(ToOwned::to_owned).to_vec(),
            burn_off: self.burn_off(at),
            set_up,
            set_up_said,
            load_seconds,
            load_on: load_on(&self.sheet).map(|(own, of)| LoadOnView {
                entry: own.id.clone(),
                place: own.place.to_string(),
                of,
                seconds: at.duration_since(own.taken_at).as_secs_f64().max(0.0),
            }),
            short_load,
            short_load_middle: middle.map(|v| format!("{v:.2}")).unwrap_or_default(),
            short_load_band: UNDER_MATES * f64::from(self.bank.shape.cells_per_battery) / 6.0,
            short_load_verdict,
            short_load_rule: format!(
                "LT-2: {}; the table for half the cranking rating is BCI, from memory. No capacity test. Maker\u{2019}s manual first.",
                RuleId::Lt2.source()
            ),
            real_loads: self.real_load_lines(),
            real_load_rule: format!("LT-3: {}. Maker\u{2019}s manual first.", RuleId::Lt3.source()),
            known_loads: self.known_load_lines(),
            cells: self.cell_lines(),
            cell_states: states
                .into_iter()
                .map(|when| CellVoltsChoice { when, said: wording::cell_volts_when(when) })
                .collect(),
            cell_rule: format!("CV-1: {}. Maker\u{2019}s manual first.", RuleId::Cv1.source()),
            discharge,
            past_discharges: self.past_discharge_lines(),
            usual_currents: self.usual_currents(),
            pace,
            findings,
        }
    }
}
