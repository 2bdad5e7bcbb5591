//! When joints were set to torque: the log, and the last time it was every joint.

use super::{Check, Entry, JointEntry, Judged, PastVisit, Place, VisitEntry, Work};
use jiff::civil::Date;

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
