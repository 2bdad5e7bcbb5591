//! What the load and capacity tests of a visit come to.

use super::{BurnOff, Entry, Judged, PastVisit, Place, TestEntry, TimedLoad, VisitEntry, VisitSheet, Work};
use crate::bank::BatteryAddress;
use crate::cell_volts::{CellVolts, CellVoltsJudged, CellVoltsWhen, judge_cell_volts};
use crate::discharge::{
    DischargeEvent, DischargeFrame, DischargeNow, DischargePlan, LoggedEvent, discharge_now, known_load,
    noted_discharge,
};
use crate::load_test::{
    RealLoad, RealLoadJudged, ShortLoad, ShortLoadJudged, ShortLoadReading, ShortLoadSetUp, judge_real_load,
    judge_short_load,
};
use jiff::Timestamp;
use jiff::civil::Date;
use std::collections::BTreeMap;

/// Minutes of a real load that burn the surface charge off, and of rest after it (LT-1; common practice, no source).
pub const BURN_MINUTES: [f64; 2] = [5.0, 15.0];
/// Minutes of rest after it.
pub const BURN_REST_MINUTES: f64 = 30.0;
/// Currents this near to one another are the same load, as a share (our choice, no source).
const SAME_LOAD: f64 = 0.10;

/// A discharge with all that is written down of it.
#[derive(Debug, Clone)]
pub struct DischargeRecord<'a> {
    /// The entry that began it.
    pub begun: &'a VisitEntry,
    /// How it is meant to run.
    pub plan: DischargePlan,
    log: Vec<LoggedEvent>,
}

fn tests(sheet: &VisitSheet) -> impl Iterator<Item = (&VisitEntry, &TestEntry)> {
    sheet.standing().filter_map(|k| match &k.entry {
        Entry::Test { test } => Some((k, test)),
        _ => None,
    })
}

fn hours(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 3600.0
}

/// The discharges of a visit in order; what follows a beginning belongs to it.
pub fn discharges(sheet: &VisitSheet) -> Vec<DischargeRecord<'_>> {
    let mut all: Vec<DischargeRecord<'_>> = Vec::new();
    for (entry, test) in tests(sheet) {
        let TestEntry::Discharge { event } = test else { continue };
        match event {
            DischargeEvent::Begun { plan } | DischargeEvent::Noted { plan, .. } => {
                all.push(DischargeRecord { begun: entry, plan: *plan, log: Vec::new() });
            }
            other => {
                let Some(own) = all.last_mut() else { continue };
                let at = hours(own.begun.taken_at, entry.taken_at);
                own.log.push(LoggedEvent { id: entry.id.clone(), at, event: other.clone() });
            }
        }
    }
    all
}

/// The discharge that is on; none: none is.
pub fn discharge_under_way(sheet: &VisitSheet) -> Option<DischargeRecord<'_>> {
    discharges(sheet).pop().filter(DischargeRecord::is_under_way)
}

impl DischargeRecord<'_> {
    /// True while nobody ended it.
    pub fn is_under_way(&self) -> bool {
        !self.is_noted() && !self.log.iter().any(|own| own.event == DischargeEvent::Ended)
    }

    /// True when it was timed by a watch and a notebook.
    pub fn is_noted(&self) -> bool {
        matches!(
            &self.begun.entry,
            Entry::Test { test: TestEntry::Discharge { event: DischargeEvent::Noted { .. } } }
        )
    }

    /// What is written down of it.
    pub fn log(&self) -> &[LoggedEvent] {
        &self.log
    }

    /// Where it stands at an instant; `last` is how long the same place lasted last time under the same load, h.
    pub fn now(&self, bank: Judged<'_>, last: Option<f64>, at: Timestamp) -> DischargeNow {
        let place = self.begun.place;
        let frame = DischargeFrame {
            model: bank.model,
            cells: place.cells_in_series(bank.shape),
            strings: if place == Place::Bank { bank.shape.parallel } else { 1 },
            last,
        };
        match &self.begun.entry {
            Entry::Test {
                test:
                    TestEntry::Discharge { event: DischargeEvent::Noted { plan, hours, reached_end, batteries } },
            } => noted_discharge(&frame, (plan, *hours, *reached_end), batteries),
            _ => discharge_now(&frame, &self.plan, &self.log, hours(self.begun.taken_at, at)),
        }
    }
}

/// A discharge of the past with its day.
#[derive(Debug, Clone, PartialEq)]
pub struct PastDischarge {
    /// Day of its visit.
    pub day: Date,
    /// What was under test.
    pub place: Place,
    /// Its entry.
    pub id: String,
    /// How it went.
    pub now: DischargeNow,
}

/// Discharges of past visits that are over, oldest first.
pub fn past_discharges(visits: &[PastVisit], bank: Judged<'_>) -> Vec<PastDischarge> {
    let of = |visit: &PastVisit| -> Vec<PastDischarge> {
        let own = discharges(&visit.sheet).into_iter().filter(|own| !own.is_under_way());
        own.map(|own| PastDischarge {
            day: visit.day,
            place: own.begun.place,
            id: own.begun.id.clone(),
            // It is over: the clock says nothing more.
            now: own.now(bank, None, own.begun.taken_at),
        })
        .collect()
    };
    visits.iter().flat_map(of).collect()
}

/// The last discharge of the same place under about the same current that came to its end.
pub fn same_load(past: &[PastDischarge], place: Place, amperes: Option<f64>) -> Option<&PastDischarge> {
    let mean = |own: &PastDischarge| own.now.result.as_ref().map(|r| r.ampere_hours / r.hours);
    let like = |own: &&PastDischarge| {
        own.place == place
            && own.now.reached.is_some()
            && mean(own).zip(amperes).is_some_and(|(then, now)| (then / now - 1.0).abs() <= SAME_LOAD)
    };
    past.iter().rev().find(like)
}

/// The set-up of the short load that stands on a visit.
pub fn set_up(sheet: &VisitSheet) -> Option<&ShortLoadSetUp> {
    tests(sheet).find_map(|(_, test)| match test {
        TestEntry::SetUp { set_up } => Some(set_up),
        _ => None,
    })
}

pub(super) fn loaded(sheet: &VisitSheet) -> BTreeMap<BatteryAddress, ShortLoadReading> {
    let own = tests(sheet).filter_map(|(k, test)| match (k.place, test) {
        (Place::Battery(battery), TestEntry::ShortLoad { read }) => {
            let (before, at_end, after) = (read.before, read.at_end, read.after);
            Some((battery, ShortLoadReading { battery, before, at_end, after, first: None }))
        }
        _ => None,
    });
    own.collect()
}

/// The short load of a visit as judged: against the table, the mates, and the first test under the same load on record.
pub fn short_load(
    sheet: &VisitSheet,
    past: &[PastVisit],
    bank: Judged<'_>,
) -> Option<(ShortLoad, Vec<ShortLoadJudged>)> {
    let set_up = set_up(sheet)?;
    let mut batteries = loaded(sheet);
    for visit in past.iter().rev().filter(|v| self::set_up(&v.sheet).is_some_and(|own| own.is_like(set_up))) {
        for (battery, then) in loaded(&visit.sheet) {
            // Going back in time, the last that is set is the first that was made.
            if let Some(own) = batteries.get_mut(&battery) {
                own.first = Some(then.at_end);
            }
        }
    }
    let test = set_up.of(bank.shape.cells_per_battery, batteries.into_values().collect());
    let judged = judge_short_load(&test).ok()?;
    Some((test, judged))
}

/// Real loads of a visit as judged, in order.
pub fn real_loads<'a>(
    sheet: &'a VisitSheet,
    bank: Judged<'_>,
) -> Vec<(&'a VisitEntry, RealLoad, RealLoadJudged)> {
    let c20 = bank.model.c20.ampere_hours() * f64::from(bank.shape.parallel);
    let own = tests(sheet).filter_map(|(k, test)| match test {
        TestEntry::RealLoad { read } => {
            let test = read.of(bank.shape.cells_in_series(), c20);
            let judged = judge_real_load(&test).ok()?;
            Some((k, test, judged))
        }
        _ => None,
    });
    own.collect()
}

/// A known load: what it was, and the share of the hours that are left.
#[derive(Debug, Clone, PartialEq)]
pub struct KnownLoad<'a> {
    /// Its entry.
    pub entry: &'a VisitEntry,
    /// What the load was.
    pub load: &'a str,
    /// Hours when new, and now.
    pub hours: [f64; 2],
    /// Share that is left.
    pub share: f64,
}

/// Known loads of a visit, in order.
pub fn known_loads(sheet: &VisitSheet) -> Vec<KnownLoad<'_>> {
    let own = tests(sheet).filter_map(|(entry, test)| match test {
        TestEntry::KnownLoad { load, when_new, now } => {
            let share = known_load(*when_new, *now).ok()?;
            Some(KnownLoad { entry, load, hours: [*when_new, *now], share })
        }
        _ => None,
    });
    own.collect()
}

/// Cells of a visit as judged, state by state in the order of the first reading of each.
pub fn cell_volts(sheet: &VisitSheet, bank: Judged<'_>) -> Vec<(CellVoltsWhen, Vec<CellVoltsJudged>)> {
    let mut states: Vec<(CellVoltsWhen, Vec<CellVolts>)> = Vec::new();
    for (entry, test) in tests(sheet) {
        let (Place::Cell(cell), TestEntry::CellVolts { when, volts, .. }) = (entry.place, test) else {
            continue;
        };
        let own = CellVolts { cell, volts: *volts };
        match states.iter_mut().find(|(state, _)| state == when) {
            Some((_, all)) => all.push(own),
            None => states.push((*when, vec![own])),
        }
    }
    for (_, all) in &mut states {
        all.sort_by_key(|own| own.cell);
    }
    let judged = states.into_iter().filter_map(|(when, all)| {
        let judged = judge_cell_volts(when, bank.model, &all).ok()?;
        Some((when, judged))
    });
    judged.collect()
}

/// How far the surface charge is burned off.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Burned {
    /// The load is on, for so many minutes.
    Loading(f64),
    /// The load was on for so many minutes, and the batteries rest since so many.
    Resting {
        /// Minutes of load.
        loaded: f64,
        /// Minutes of rest.
        rested: f64,
    },
}

impl Burned {
    /// True where the load was on long enough to take the surface charge off.
    pub fn was_long_enough(self) -> bool {
        let (Self::Loading(loaded) | Self::Resting { loaded, .. }) = self;
        loaded >= BURN_MINUTES[0] - 1e-9
    }

    /// True when it is off: loaded and rested long enough.
    pub fn is_off(self) -> bool {
        self.was_long_enough()
            && matches!(self, Self::Resting { rested, .. } if rested >= BURN_REST_MINUTES - 1e-9)
    }
}

/// How far the surface charge is burned off at an instant; none: nobody began.
pub fn burned(sheet: &VisitSheet, at: Timestamp) -> Option<Burned> {
    let switched: Vec<(Timestamp, BurnOff)> = tests(sheet)
        .filter_map(|(k, test)| match test {
            TestEntry::BurnOff { switched } => Some((k.taken_at, *switched)),
            _ => None,
        })
        .collect();
    let minutes = |from, to| hours(from, to).max(0.0) * 60.0;
    let (last, what) = *switched.last()?;
    match what {
        BurnOff::LoadOn => Some(Burned::Loading(minutes(last, at))),
        BurnOff::LoadOff => {
            let on = switched.iter().rev().find(|(_, own)| *own == BurnOff::LoadOn).map(|(on, _)| *on)?;
            Some(Burned::Resting { loaded: minutes(on, last), rested: minutes(last, at) })
        }
    }
}

/// The load that was switched on last and whose reading is not written down yet: its entry, and what it is for.
pub fn load_on(sheet: &VisitSheet) -> Option<(&VisitEntry, TimedLoad)> {
    let mut on = None;
    for (entry, test) in tests(sheet) {
        match test {
            TestEntry::LoadOn { of } => on = Some((entry, *of)),
            TestEntry::ShortLoad { .. } | TestEntry::RealLoad { .. } => {
                on = on.filter(|(own, _): &(&VisitEntry, TimedLoad)| own.place != entry.place);
            }
            _ => {}
        }
    }
    on
}

/// True when something was tested on a visit.
pub fn is_tested(sheet: &VisitSheet) -> bool {
    tests(sheet).any(|(_, test)| test.is_a_test())
}

/// The day something was last tested.
pub fn last_test(visits: &[PastVisit]) -> Option<Date> {
    visits.iter().rev().find(|v| is_tested(&v.sheet)).map(|v| v.day)
}

/// The day of the last discharge that nobody charged the bank after; none: it was charged, or none was made. `last_round`
/// is the day of the last round that was proven full.
pub fn recharge_owed(visits: &[PastVisit], last_full_round: Option<Date>) -> Option<Date> {
    let mut owed = None;
    for visit in visits {
        for entry in visit.sheet.standing() {
            match &entry.entry {
                Entry::Test { test: TestEntry::Discharge { event: DischargeEvent::Ended } } => {
                    owed = Some(visit.day);
                }
                Entry::Rested { conditions }
                    if conditions.charged_full && owed.is_some_and(|day| day < visit.day) =>
                {
                    owed = None;
                }
                other if other.does(Work::ChargedFull) => owed = None,
                _ => {}
            }
        }
    }
    owed.filter(|day| last_full_round.is_none_or(|full| full <= *day))
}
