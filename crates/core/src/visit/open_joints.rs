//! What joints and strings ask for: the last reading of each joint speaks until it is remade or read again.

use super::joint_rounds::{JointOnRecord, JointsOnRecord, joints_on_record};
use super::{Judged, PastVisit};
use crate::finding::{Finding, joint};
use crate::schedule::OpenFinding;
use crate::wiring::Wiring;

fn of_joint(own: &JointOnRecord) -> Option<Finding> {
    if own.remade { None } else { joint::joint(&own.read) }
}

fn of_shares(own: &JointsOnRecord, wiring: Option<&Wiring>, bank: Judged<'_>) -> Option<Finding> {
    let share = wiring.and_then(|wiring| own.share(wiring, bank, 1.0));
    joint::shares(own.clamped.as_ref().map(|(_, amperes)| amperes.as_slice()), share.as_ref())
}

/// What the last of these visits found at joints and strings itself; oldest first.
pub fn joint_findings(visits: &[PastVisit], bank: Judged<'_>) -> Vec<Finding> {
    let Some(now) = visits.last() else { return Vec::new() };
    let all = joints_on_record(visits, bank);
    let own = all.joints.values().filter(|own| now.sheet.stands(&own.read.entry));
    let mut found: Vec<Finding> = own.filter_map(of_joint).collect();
    let clamped = all.clamped_on == Some(visits.len() - 1);
    found.extend(of_shares(&all, now.sheet.wiring.as_ref(), bank).filter(|_| clamped));
    found
}

/// What is open of joints and strings of a bank that is wired like this today.
pub fn open_joint_findings(
    visits: &[PastVisit],
    wiring: Option<&Wiring>,
    bank: Judged<'_>,
) -> Vec<OpenFinding> {
    let all = joints_on_record(visits, bank);
    let own = all.joints.values();
    let mut open: Vec<OpenFinding> =
        own.filter_map(|own| Some(OpenFinding { day: own.day, finding: of_joint(own)? })).collect();
    let day = all.clamped.as_ref().map(|(day, _)| *day).or_else(|| visits.last().map(|v| v.day));
    let shares = of_shares(&all, wiring, bank).zip(day);
    open.extend(shares.map(|(finding, day)| OpenFinding { day, finding }));
    open
}
