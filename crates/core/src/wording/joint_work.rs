//! What was done about joints and strings on a visit, for the owner.

use super::names;
use super::strings::currents_said;
use super::torque::torque;
use crate::severity::Severity;
use crate::visit::{Entry, JointEntry, Judged, PastVisit, Place, joints_of_visit};

fn measured(visits: &[PastVisit], bank: Judged<'_>) -> Vec<String> {
    let Some((now, before)) = visits.split_last() else { return Vec::new() };
    let Some(own) = joints_of_visit(&now.sheet, before, bank) else { return Vec::new() };
    let mut all = Vec::new();
    if let Some(first) = own.joints.first() {
        let bad: Vec<String> = own
            .joints
            .iter()
            .filter(|read| read.judged.fails.is_some())
            .map(|read| read.judged.joint.clone())
            .collect();
        let bad: Vec<&str> = bad.iter().map(String::as_str).collect();
        let told = own.joints.iter().any(|read| read.judged.condition != Severity::NoReading);
        let came = match (bad.as_slice(), told) {
            ([], true) => "none differs from its like".into(),
            ([], false) => "nothing could be told from it yet".into(),
            (bad, _) => format!("{} had too much resistance", names::words(bad)),
        };
        let connections = if own.joints.len() == 1 { "connection" } else { "connections" };
        all.push(format!(
            "{} {connections} measured at {:.0} A: {came}",
            names::sentence(&names::number_word(own.joints.len())),
            first.amperes
        ));
    }
    if let Some(amperes) = own.all_clamped() {
        all.push(format!("Current of every string measured: {}", currents_said(&amperes)));
    }
    all
}

/// Everything done about the joints on the last of these visits, a sentence each.
pub fn joint_work(visits: &[PastVisit], bank: Judged<'_>) -> Vec<String> {
    let mut all = measured(visits, bank);
    for kept in visits.last().iter().flat_map(|visit| visit.sheet.standing()) {
        let Entry::Joint { entry: JointEntry::Torqued { newton_metres, remade, note, .. } } = &kept.entry
        else {
            continue;
        };
        let which = match kept.place {
            Place::Bank => "Every connection".to_owned(),
            place => format!("Connections of {}", place.said()),
        };
        let what = if *remade { "made anew" } else { "tightened" };
        let to = newton_metres.map(|set| format!(" to {}", torque(set))).unwrap_or_default();
        let note = if note.is_empty() { String::new() } else { format!(" ({note})") };
        all.push(format!("{which} {what}{to}{note}"));
    }
    all
}
