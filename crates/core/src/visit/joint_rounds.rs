//! Joints and currents of strings as the visits of a bank have them on record, and what they come to (CN-1, ST-1).

use super::electrical::resistances;
use super::{Check, Entry, JointEntry, Judged, Left, PastVisit, Place, VisitEntry, VisitSheet, Work};
use crate::bank::BatteryAddress;
use crate::joints::{Joint, JointDrop, JointJudged, JointRound, judge_joints};
use crate::wiring::{Wiring, WiringKnown, WiringShare, judge_wiring};
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

/// Resistances of batteries that were read last, mΩ.
fn batteries<'a>(sheets: impl Iterator<Item = &'a VisitSheet>) -> BTreeMap<BatteryAddress, f64> {
    let mut all = BTreeMap::new();
    for sheet in sheets {
        for (battery, own) in resistances(sheet) {
            all.extend(own.milliohms.map(|milliohms| (battery, milliohms)));
        }
    }
    all
}

/// The first value of every joint since it was last made, mΩ.
type Firsts = BTreeMap<Joint, f64>;

fn judged(
    sheet: &VisitSheet,
    bank: Judged<'_>,
    read: &BTreeMap<BatteryAddress, f64>,
    first: &Firsts,
) -> Option<JointsOfVisit> {
    let strings = bank.shape.parallel;
    let clamped = clamped(sheet, strings);
    let drops = drops(sheet);
    if drops.is_empty() && clamped.iter().all(Option::is_none) {
        return None;
    }
    let mut own = JointsOfVisit { joints: Vec::new(), by: CurrentBy::Even, clamped };
    let even = 1.0 / f64::from(strings.max(1));
    let mut ohms: BTreeMap<Joint, f64> = BTreeMap::new();
    for _ in 0..ROUNDS {
        let share = sheet.wiring.as_ref().and_then(|wiring| {
            let known = WiringKnown {
                shape: bank.shape,
                model: bank.model,
                wiring,
                batteries: read,
                joints: &ohms,
                bad: &[],
            };
            judge_wiring(&known, 1.0).ok().flatten()
        });
        let share = clamped_share(&own, share);
        own.by = match (&share, strings) {
            (_, 0 | 1) => CurrentBy::OneString,
            (Some(_), _) if own.all_clamped().is_some() => CurrentBy::Clamp,
            (Some(_), _) => CurrentBy::Wiring,
            (None, _) => CurrentBy::Even,
        };
        let take_off = sheet.wiring.as_ref().map(Wiring::taken_off).unwrap_or_default();
        let through = |joint: Joint| {
            let told = share.as_ref().and_then(|share| share.through(joint, take_off));
            // Through a joint that carries nothing nothing is told.
            told.unwrap_or(if strings > 1 { even } else { 1.0 }).abs().max(1e-3)
        };
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
                    amperes: Some((amperes * through(*joint)).max(crate::quantity::bounds::TEST_CURRENT.low)),
                    baseline: first.get(joint).copied(),
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

/// Shares by clamp meter where every string was clamped, else those of the wiring.
fn clamped_share(own: &JointsOfVisit, wiring: Option<WiringShare>) -> Option<WiringShare> {
    let Some(all) = own.all_clamped() else { return wiring };
    let sum: f64 = all.iter().sum();
    if sum.abs() < f64::EPSILON {
        return wiring;
    }
    let of_one: Vec<f64> = all.iter().map(|own| own / sum).collect();
    Some(match wiring {
        Some(mut own) => {
            own.now.amperes.clone_from(&of_one);
            own.now.shares = of_one;
            own
        }
        None => WiringShare::by_clamp(of_one),
    })
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

/// The first values before a visit, of joints as they were last made.
fn firsts(visits: &[PastVisit], bank: Judged<'_>) -> Firsts {
    let mut all = Firsts::new();
    for (at, visit) in visits.iter().enumerate() {
        let own = is_measured(&visit.sheet).then(|| {
            let read = batteries(visits[..=at].iter().map(|v| &v.sheet));
            judged(&visit.sheet, bank, &read, &Firsts::new())
        });
        if let Some(own) = own.flatten() {
            for joint in own.joints.iter().filter(|own| own.judged.resolved) {
                all.entry(joint.joint).or_insert(joint.judged.milliohms);
            }
        }
        // What is read again on the same visit after it was remade is taken from the next visit on.
        all.retain(|joint, _| !visit.sheet.standing().any(|kept| remakes(kept, joint.battery)));
    }
    all
}

/// True when something was measured of joints or strings.
fn is_measured(sheet: &VisitSheet) -> bool {
    let measured = |e: &Entry| match e {
        Entry::Joint { entry } => !matches!(entry, JointEntry::Torqued { .. }),
        _ => false,
    };
    sheet.standing().any(|k| measured(&k.entry))
}

/// The joints and currents of a visit as judged; none where nothing of them is written down.
pub fn joints_of_visit(sheet: &VisitSheet, before: &[PastVisit], bank: Judged<'_>) -> Option<JointsOfVisit> {
    if !is_measured(sheet) {
        return None;
    }
    let read = batteries(before.iter().map(|v| &v.sheet).chain([sheet]));
    judged(sheet, bank, &read, &firsts(before, bank))
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
    let mut all =
        JointsOnRecord { batteries: batteries(visits.iter().map(|v| &v.sheet)), ..JointsOnRecord::default() };
    for (at, visit) in visits.iter().enumerate() {
        let own = joints_of_visit(&visit.sheet, &visits[..at], bank);
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
    all
}

/// Joints that were set to torque.
#[derive(Debug, Clone, PartialEq)]
pub struct TorqueSet<'a> {
    /// Day of the visit.
    pub day: Date,
    /// The entry.
    pub entry: &'a VisitEntry,
    /// N·m; none: not told, or by hand.
    pub newton_metres: Option<f64>,
    /// N·m that the model asked for then.
    pub asked: Option<f64>,
    /// True where they were made anew.
    pub remade: bool,
    /// In the technician's words.
    pub note: &'a str,
}

/// Every time joints were tightened, oldest first.
pub fn torque_log(visits: &[PastVisit]) -> Vec<TorqueSet<'_>> {
    let of = |day: Date, entry| {
        let set = |newton_metres, asked, remade, note| {
            Some(TorqueSet { day, entry, newton_metres, asked, remade, note })
        };
        match &entry.entry {
            Entry::Joint { entry: JointEntry::Torqued { newton_metres, asked, remade, note, .. } } => {
                set(*newton_metres, *asked, *remade, note.as_str())
            }
            Entry::Repaired { repaired }
                if repaired.check == Check::Terminals && repaired.torque.is_some() =>
            {
                set(repaired.torque, repaired.torque_asked, repaired.repair.takes_torque(), &repaired.note)
            }
            Entry::Done { work: Work::Retorqued, note } => set(None, None, false, note.as_str()),
            _ => None,
        }
    };
    let all = visits.iter().flat_map(|visit| visit.sheet.standing().map(move |entry| (visit.day, entry)));
    all.filter_map(|(day, entry): (Date, &VisitEntry)| of(day, entry)).collect()
}

/// The day every joint was last tightened: for the whole bank, or battery by battery on one visit.
pub fn last_torqued(visits: &[PastVisit], bank: Judged<'_>) -> Option<Date> {
    let whole = |visit: &&PastVisit| {
        let set: Vec<Place> = visit
            .sheet
            .standing()
            .filter(|k| matches!(k.entry, Entry::Joint { entry: JointEntry::Torqued { .. } }))
            .map(|k| k.place)
            .collect();
        let every = || bank.shape.batteries().all(|battery| set.contains(&Place::Battery(battery)));
        set.contains(&Place::Bank) || !set.is_empty() && every()
    };
    visits.iter().rev().find(whole).map(|visit| visit.day)
}
