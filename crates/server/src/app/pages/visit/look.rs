//! The look-over as it stands.

use super::VisitContext;
use rainshadow_core::schedule::OpenFinding;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, Entry, Left, PastVisit, Repair, Repaired, RepairedOnly, VisitEntry, checks, open_findings,
};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// Something that can be found.
#[derive(Debug, Serialize, ToSchema)]
pub struct KindView {
    /// Its key.
    pub key: &'static str,
    /// In words.
    pub said: &'static str,
    /// How bad it usually is.
    pub severity: Severity,
}

/// One look.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckedView {
    /// Entry.
    pub entry: String,
    /// Where: "A3", empty for the bank.
    pub place: String,
    /// Where, in words.
    pub place_said: String,
    /// What was found, in words; none: fine.
    pub found: Option<String>,
    /// Key of its kind.
    pub kind: Option<String>,
    /// How bad; steady where it is fine.
    pub severity: Severity,
    /// In the technician's words.
    pub note: String,
    /// By whom and when.
    pub by: String,
    /// What was done about it, in the order it was written down.
    pub repairs: Vec<RepairView>,
    /// What to do about it; empty where it is fine or was put right.
    pub advice: &'static str,
    /// How it was left; none where nothing was found.
    pub left: Option<Left>,
    /// How it was left, in words; empty where nothing is written down about it.
    pub left_said: &'static str,
}

/// What was done about something.
#[derive(Debug, Serialize, ToSchema)]
pub struct RepairView {
    /// Entry.
    pub entry: String,
    /// In words: "tightened, torque 12 N·m (8.9 lbf·ft)".
    pub said: String,
    /// How it was left, in words.
    pub left: &'static str,
    /// By whom and when.
    pub by: String,
}

impl RepairView {
    fn of(context: &VisitContext, (written, repaired): (&VisitEntry, &Repaired)) -> Self {
        Self {
            entry: written.id.clone(),
            said: wording::repaired(repaired),
            left: wording::left(repaired.left),
            by: context.signed(written),
        }
    }
}

/// A repair that can be noted.
#[derive(Debug, Serialize, ToSchema)]
pub struct RepairKind {
    /// Which.
    pub repair: Repair,
    /// In words.
    pub said: &'static str,
    /// True when a torque can be noted with it here.
    pub torque: bool,
    /// True when it is cleaned with something.
    pub cleans: bool,
    /// True for joints, which are coated and may get lock nuts.
    pub joint: bool,
}

/// What earlier visits found and did not put right, with what this visit did about it.
#[derive(Debug, Serialize, ToSchema)]
pub struct OpenBefore {
    /// Where: "A3", empty for the bank.
    pub place: String,
    /// Where, in words.
    pub place_said: String,
    /// Key of its kind.
    pub kind: String,
    /// What was found and when, with what was done about it then.
    pub said: String,
    /// What this visit did about it.
    pub repairs: Vec<RepairView>,
}

/// One check.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckView {
    /// Which.
    pub check: Check,
    /// As asked.
    pub said: &'static str,
    /// True when it is looked at battery by battery.
    pub each_battery: bool,
    /// What is measured, with its unit in the reader's system; none: nothing.
    pub measures: Option<String>,
    /// What can be found.
    pub kinds: Vec<KindView>,
    /// Looks of this visit.
    pub looks: Vec<CheckedView>,
    /// What is usually done about it, the likeliest first.
    pub repairs: Vec<RepairKind>,
    /// Torque that the model asks for: "12 N·m (8.9 lbf·ft)"; none: it publishes none, or nothing is turned here.
    pub torque_asked: Option<String>,
    /// What is still open from earlier visits.
    pub open_before: Vec<OpenBefore>,
    /// What the last visit that found something here put right, in words.
    pub last_time: Vec<String>,
    /// True for what a bank can be without.
    pub can_be_absent: bool,
    /// The entry that says that there is none here; none: nobody said so on this visit.
    pub not_here: Option<String>,
    /// True when the last visit that looked said that there is none here.
    pub none_before: bool,
}

impl VisitContext {
    /// True when the last visit that said anything of a check said that the bank has none.
    fn none_before(&self, check: Check) -> bool {
        let told = self.past.iter().rev().find(|v| v.sheet.checked(check) || v.sheet.not_here(check));
        told.is_some_and(|visit| visit.sheet.not_here(check))
    }

    /// Every check with what was seen.
    pub(super) fn checks(&self) -> Vec<CheckView> {
        let open = open_findings(&self.past);
        checks(self.model.construction)
            .into_iter()
            .map(|check| CheckView {
                check,
                said: wording::check(check),
                each_battery: check.each_battery(),
                measures: check.measures().map(|(what, unit)| {
                    let inches = self.units.length == rainshadow_core::quantity::units::LengthUnit::Inch;
                    let unit = if unit == "mm" && inches { "in" } else { unit };
                    format!("{what}, {unit}")
                }),
                torque_asked: (check == Check::Terminals)
                    .then_some(self.model.post_torque)
                    .flatten()
                    .map(wording::torque),
                kinds: check
                    .kinds()
                    .iter()
                    .map(|k| KindView {
                        key: k.key,
                        said: wording::found_kind(check, k.key).unwrap_or(k.key),
                        severity: k.severity,
                    })
                    .collect(),
                can_be_absent: check.can_be_absent(),
                not_here: self
                    .said(|e| matches!(e, Entry::NotHere { check: own } if *own == check))
                    .filter(|_| self.sheet.not_here(check))
                    .map(|(entry, _)| entry),
                none_before: self.none_before(check),
                looks: self.looks(check),
                repairs: check
                    .usual_repairs()
                    .iter()
                    .map(|repair| RepairKind {
                        repair: *repair,
                        said: wording::repair(*repair),
                        torque: check.has_torque() && repair.takes_torque(),
                        cleans: repair.cleans(),
                        joint: matches!(check, Check::Terminals | Check::Cables)
                            && *repair != Repair::LeftAsItIs,
                    })
                    .collect(),
                open_before: self.open_before(check, &open),
                last_time: self.last_time(check),
            })
            .collect()
    }

    /// What earlier visits left open at a check.
    fn open_before(&self, check: Check, open: &[OpenFinding]) -> Vec<OpenBefore> {
        let mine = self.sheet.repaired_only();
        self.past
            .iter()
            .flat_map(|visit| visit.sheet.found_and_done().into_iter().map(move |own| (visit.day, own)))
            .filter(|(_, own)| own.check == check && open.iter().any(|f| f.finding.id == own.entry.id))
            .map(|(day, own)| {
                let at = |r: &&RepairedOnly<'_>| {
                    r.place == own.entry.place && r.check == check && r.found == own.found.kind
                };
                let done = mine.iter().filter(at).flat_map(|r| r.repairs.iter());
                let repairs = done.map(|r| RepairView::of(self, *r));
                OpenBefore {
                    place: own.entry.place.to_string(),
                    place_said: own.entry.place.said(),
                    kind: own.found.kind.clone(),
                    said: format!(
                        "{}, {}",
                        wording::found_and_done(&own, self.units),
                        crate::words::day(day)
                    ),
                    repairs: repairs.collect(),
                }
            })
            .collect()
    }

    /// What the last visit that put something right at a check found and did.
    fn last_time(&self, check: Check) -> Vec<String> {
        let right = |visit: &PastVisit| -> Vec<String> {
            let all = visit.sheet.found_and_done();
            let own = all.iter().filter(|own| own.check == check && own.left == Left::PutRight);
            let day = crate::words::day(visit.day);
            own.map(|own| {
                format!("{}: {}, {day}", own.entry.place.said(), wording::found_and_done(own, self.units))
            })
            .collect()
        };
        self.past.iter().rev().map(right).find(|said| !said.is_empty()).unwrap_or_default()
    }

    fn looks(&self, check: Check) -> Vec<CheckedView> {
        let done = self.sheet.found_and_done();
        self.sheet
            .standing()
            .filter_map(|k| match &k.entry {
                Entry::Checked { check: own, found, measured } if *own == check => {
                    let about = done.iter().find(|own| own.entry.id == k.id);
                    let repairs = about.map(|own| own.repairs.as_slice()).unwrap_or_default();
                    Some(CheckedView {
                        repairs: repairs.iter().map(|r| RepairView::of(self, *r)).collect(),
                        advice: about
                            .filter(|own| own.left != Left::PutRight)
                            .map_or("", |own| wording::found_advice(check, &own.found.kind)),
                        left: about.map(|own| own.left),
                        left_said: about
                            .filter(|own| own.left != Left::AsFound || !own.repairs.is_empty())
                            .map_or("", |own| wording::left(own.left)),
                        entry: k.id.clone(),
                        place: k.place.to_string(),
                        place_said: k.place.said(),
                        found: found
                            .as_ref()
                            .map(|f| wording::seen_kind(check, &f.kind, f.measured, self.units)),
                        kind: found.as_ref().map(|f| f.kind.clone()),
                        severity: found.as_ref().map_or(Severity::Steady, |f| f.severity),
                        note: match (found, measured, check.measures()) {
                            (Some(f), _, _) => f.note.clone(),
                            (None, Some(value), Some(_)) => wording::measured_said(check, *value, self.units),
                            _ => String::new(),
                        },
                        by: self.signed(k),
                    })
                }
                _ => None,
            })
            .collect()
    }
}
