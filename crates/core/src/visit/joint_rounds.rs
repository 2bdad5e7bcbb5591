//! Joints and currents of strings as the visits of a bank have them on record, and what they come to (CN-1, ST-1).

use super::electrical::resistances;
use super::{Check, Entry, JointEntry, Judged, Left, PastVisit, Place, VisitEntry, VisitSheet};
use crate::bank::BatteryAddress;
use crate::joints::{Joint, JointDrop, JointJudged, JointRound, judge_joints};
use crate::quantity::bounds::TEST_CURRENT;
use crate::wiring::{StringCurrents, Wiring, WiringKnown, WiringShare, judge_wiring, string_currents};
use jiff::civil::Date;
use std::collections::BTreeMap;

/// Times the currents and the joints are worked out from one another: a joint changes the current by little.
const ROUNDS: usize = 3;

/// What the current through a joint is told by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum CurrentBy {
    /// One string: all of it goes through every joint.
    OneString,
    /// A clamp meter on every string.
    Clamp,
    /// The wiring as it is described (ST-1).
    Wiring,
    /// Nobody knows better: the strings share it evenly.
    Even,
}

/// One joint as it was read on a visit.
#[derive(Debug, Clone, PartialEq)]
pub struct JointRead {
    /// Which.
    pub joint: Joint,
    /// Its entry.
    pub entry: String,
    /// Current of the bank then, A.
    pub amperes: f64,
    /// Current through it, A.
    pub through: f64,
    /// As judged.
    pub judged: JointJudged,
}

/// The joints and currents of one visit.
#[derive(Debug, Clone, PartialEq)]
pub struct JointsOfVisit {
    /// Joint by joint.
    pub joints: Vec<JointRead>,
    /// What the currents through them are told by.
    pub by: CurrentBy,
    /// Currents by clamp meter, string by string; none: that string was not clamped.
    pub clamped: Vec<Option<f64>>,
}

impl JointsOfVisit {
    /// Currents of all strings; none where one of them was not clamped.
    pub fn all_clamped(&self) -> Option<Vec<f64>> {
        let all: Option<Vec<f64>> = self.clamped.iter().copied().collect();
        all.filter(|own| own.len() > 1)
    }
}

/// Millivolts as written down: joint, mV, A of the bank, resolution, entry.
type Written<'a> = (Joint, f64, f64, f64, &'a VisitEntry);

fn drops(sheet: &VisitSheet) -> Vec<Written<'_>> {
    let own = sheet.standing().filter_map(|k| match (k.place, &k.entry) {
        (
            Place::Battery(battery),
            Entry::Joint { entry: JointEntry::Drop { pole, part, millivolts, amperes, resolution, .. } },
        ) => Some((Joint { battery, pole: *pole, part: *part }, *millivolts, *amperes, *resolution, k)),
        _ => None,
    });
    let mut all: Vec<Written<'_>> = own.collect();
    all.sort_by_key(|own| own.0);
    all
}

fn clamped(sheet: &VisitSheet, strings: u8) -> Vec<Option<f64>> {
    let mut all = vec![None; usize::from(strings)];
    for kept in sheet.standing() {
        if let (Place::String(string), Entry::Joint { entry: JointEntry::Current { amperes, .. } }) =
            (kept.place, &kept.entry)
            && let Some(own) = all.get_mut(usize::from(string))
        {
            *own = Some(*amperes);
        }
    }
    all
}

/// What the visits before leave for the joints of the next one.
#[derive(Default)]
struct Before {
    /// The first value of every joint since it was last made, mΩ.
    firsts: BTreeMap<Joint, f64>,
    /// Resistances of batteries that were read last, mΩ.
    batteries: BTreeMap<BatteryAddress, f64>,
}

impl Before {
    fn read(&mut self, sheet: &VisitSheet) {
        for (battery, own) in resistances(sheet) {
            self.batteries.extend(own.milliohms.map(|milliohms| (battery, milliohms)));
        }
    }

    /// The joints of a visit by what was before it, which it then adds to.
    fn next(&mut self, sheet: &VisitSheet, bank: Judged<'_>) -> Option<JointsOfVisit> {
        self.read(sheet);
        let own = judged(sheet, bank, self);
        for read in own.iter().flat_map(|own| &own.joints).filter(|read| read.judged.resolved) {
            self.firsts.entry(read.joint).or_insert(read.judged.milliohms);
        }
        // What is read again on the same visit after it was remade is taken from the next visit on.
        self.firsts.retain(|joint, _| !sheet.standing().any(|kept| remakes(kept, joint.battery)));
        own
    }
}

/// The currents of the strings of a visit for one A of the bank, and what tells them.
fn currents(
    sheet: &VisitSheet,
    clamped: Option<&[f64]>,
    known: Option<&WiringKnown<'_>>,
    strings: u8,
) -> (CurrentBy, Option<StringCurrents>) {
    let taken_off = sheet.wiring.as_ref().and_then(Wiring::taken_off_rails);
    let clamped = clamped.and_then(|amperes| StringCurrents::clamped(amperes, taken_off));
    let by_wiring = || known.and_then(|known| string_currents(known).ok().flatten());
    match (strings, clamped) {
        (0 | 1, _) => (CurrentBy::OneString, None),
        (_, Some(own)) => (CurrentBy::Clamp, Some(own)),
        _ => by_wiring().map_or((CurrentBy::Even, None), |own| (CurrentBy::Wiring, Some(own))),
    }
}

fn judged(sheet: &VisitSheet, bank: Judged<'_>, before: &Before) -> Option<JointsOfVisit> {
    let strings = bank.shape.parallel;
    let drops = drops(sheet);
    let mut own = JointsOfVisit { joints: Vec::new(), by: CurrentBy::Even, clamped: clamped(sheet, strings) };
    if drops.is_empty() && own.clamped.iter().all(Option::is_none) {
        return None;
    }
    let clamped = own.all_clamped();
    let even = 1.0 / f64::from(strings.max(1));
    let mut ohms: BTreeMap<Joint, f64> = BTreeMap::new();
    for _ in 0..ROUNDS {
        let known = sheet.wiring.as_ref().map(|wiring| WiringKnown {
            shape: bank.shape,
            model: bank.model,
            wiring,
            batteries: &before.batteries,
            joints: &ohms,
            bad: &[],
        });
        let (by, share) = currents(sheet, clamped.as_deref(), known.as_ref(), strings);
        // Through a joint that carries nothing nothing is told.
        let through = |joint: Joint| {
            share.as_ref().and_then(|share| share.through(joint)).unwrap_or(even).abs().max(1e-3)
        };
        own.by = by;
        let round = JointRound {
            amperes: drops.first().map_or(1.0, |own| own.2),
            // The coarsest meter speaks for all.
            resolution: drops.iter().map(|own| own.3).fold(0.0, f64::max),
            joints: drops
                .iter()
                .map(|(joint, millivolts, amperes, _, _)| JointDrop {
                    joint: joint.to_string(),
                    like: String::new(),
                    millivolts: *millivolts,
                    amperes: Some((amperes * through(*joint)).max(TEST_CURRENT.low)),
                    baseline: before.firsts.get(joint).copied(),
                })
                .collect(),
        };
        let Ok(told) = judge_joints(&round) else { break };
        own.joints = drops
            .iter()
            .zip(told)
            .map(|((joint, _, amperes, _, entry), judged)| JointRead {
                joint: *joint,
                entry: entry.id.clone(),
                amperes: *amperes,
                through: amperes * through(*joint),
                judged,
            })
            .collect();
        ohms = own.joints.iter().map(|own| (own.joint, own.judged.milliohms)).collect();
    }
    Some(own)
}

/// True for joints of a battery that were taken apart and made anew by an entry.
fn remakes(kept: &VisitEntry, battery: BatteryAddress) -> bool {
    let here = kept.place == Place::Bank || kept.place == Place::Battery(battery);
    here && match &kept.entry {
        Entry::Joint { entry: JointEntry::Torqued { remade, .. } } => *remade,
        Entry::Repaired { repaired } => repaired.check == Check::Terminals && repaired.left == Left::PutRight,
        _ => false,
    }
}

/// The joints and currents of a visit as judged; none where nothing of them is written down.
pub fn joints_of_visit(sheet: &VisitSheet, before: &[PastVisit], bank: Judged<'_>) -> Option<JointsOfVisit> {
    let mut state = Before::default();
    for visit in before {
        state.next(&visit.sheet, bank);
    }
    state.next(sheet, bank)
}

/// The joints and currents of every visit that has any, with its day; visits are oldest first.
pub fn joints_of_visits(visits: &[PastVisit], bank: Judged<'_>) -> Vec<(Date, JointsOfVisit)> {
    let mut state = Before::default();
    visits.iter().filter_map(|visit| Some((visit.day, state.next(&visit.sheet, bank)?))).collect()
}

/// A joint as it was read last.
#[derive(Debug, Clone, PartialEq)]
pub struct JointOnRecord {
    /// Day of its visit.
    pub day: Date,
    /// As read.
    pub read: JointRead,
    /// True where it was remade after it was read: how it is now nobody measured.
    pub remade: bool,
    /// The value before, mΩ, and its day; none: it was read once.
    pub before: Option<(Date, f64)>,
}

/// Everything on record of the joints and currents of a bank.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct JointsOnRecord {
    /// Every joint that was read, as it was last.
    pub joints: BTreeMap<Joint, JointOnRecord>,
    /// What the currents of the newest round are told by, and the A of the bank then, with its day.
    pub round: Option<(Date, CurrentBy, f64)>,
    /// Currents of all strings as they were clamped last.
    pub clamped: Option<(Date, Vec<f64>)>,
    /// Which of the visits clamped them.
    pub clamped_on: Option<usize>,
    /// Resistances of batteries that were read last, mΩ.
    pub batteries: BTreeMap<BatteryAddress, f64>,
}

impl JointsOnRecord {
    /// Joints that are to be remade.
    pub fn bad(&self) -> Vec<Joint> {
        let own = self.joints.iter().filter(|(_, own)| own.read.judged.fails.is_some() && !own.remade);
        own.map(|(joint, _)| *joint).collect()
    }

    /// Resistances of joints as they are now, mΩ; what is not resolved or was remade is left out.
    pub fn milliohms(&self) -> BTreeMap<Joint, f64> {
        let own = self.joints.iter().filter(|(_, own)| own.read.judged.resolved && !own.remade);
        own.map(|(joint, own)| (*joint, own.read.judged.milliohms)).collect()
    }

    /// How the strings share a current by all of it (ST-1); none where nobody told how they come together.
    pub fn share(&self, wiring: &Wiring, bank: Judged<'_>, amperes: f64) -> Option<WiringShare> {
        let known = WiringKnown {
            shape: bank.shape,
            model: bank.model,
            wiring,
            batteries: &self.batteries,
            joints: &self.milliohms(),
            bad: &self.bad(),
        };
        judge_wiring(&known, amperes).ok().flatten()
    }
}

/// Everything on record of the joints and currents of a bank; visits are oldest first.
pub fn joints_on_record(visits: &[PastVisit], bank: Judged<'_>) -> JointsOnRecord {
    let (mut all, mut state) = (JointsOnRecord::default(), Before::default());
    for (at, visit) in visits.iter().enumerate() {
        let own = state.next(&visit.sheet, bank);
        let order = |id: &str| visit.sheet.all().iter().position(|own| own.id == id);
        for (joint, kept) in &mut all.joints {
            kept.remade |= visit.sheet.standing().any(|entry| remakes(entry, joint.battery));
        }
        let Some(own) = own else { continue };
        if let Some(amperes) = own.all_clamped() {
            (all.clamped, all.clamped_on) = (Some((visit.day, amperes)), Some(at));
        }
        if let Some(first) = own.joints.first() {
            all.round = Some((visit.day, own.by, first.amperes));
        }
        for read in own.joints {
            let later = |entry: &VisitEntry| order(&entry.id) > order(&read.entry);
            let remade =
                visit.sheet.standing().any(|entry| remakes(entry, read.joint.battery) && later(entry));
            let before = all.joints.get(&read.joint).map(|old| (old.day, old.read.judged.milliohms));
            let joint = read.joint;
            all.joints.insert(joint, JointOnRecord { day: visit.day, read, remade, before });
        }
    }
    all.batteries = state.batteries;
    all
}
