//! The look-over as it stands.

use super::VisitContext;
use rainshadow_core::finding::{FindingKind, LookFinding};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, Entry, checks, open_findings};
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
    /// What to do about it.
    pub advice: &'static str,
    /// Looks of this visit.
    pub looks: Vec<CheckedView>,
    /// What is still open from earlier visits, in words.
    pub open_before: Vec<String>,
}

impl VisitContext {
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
                kinds: check
                    .kinds()
                    .iter()
                    .map(|k| KindView {
                        key: k.key,
                        said: wording::found_kind(check, k.key).unwrap_or(k.key),
                        severity: k.severity,
                    })
                    .collect(),
                advice: wording::check_advice(check),
                looks: self.looks(check),
                open_before: open
                    .iter()
                    .filter_map(|f| match &f.finding.kind {
                        FindingKind::Look(LookFinding::Seen { check: own, kind, measured, .. })
                            if *own == check =>
                        {
                            let what = wording::seen_kind(check, kind, *measured);
                            let place = wording::subject(f.finding.subject);
                            Some(format!("{place}: {what}, seen {}", crate::words::day(f.day)))
                        }
                        _ => None,
                    })
                    .collect(),
            })
            .collect()
    }

    fn looks(&self, check: Check) -> Vec<CheckedView> {
        self.sheet
            .standing()
            .filter_map(|k| match &k.entry {
                Entry::Checked { check: own, found, measured } if *own == check => Some(CheckedView {
                    entry: k.id.clone(),
                    place: k.place.to_string(),
                    place_said: k.place.said(),
                    found: found.as_ref().map(|f| wording::seen_kind(check, &f.kind, f.measured)),
                    kind: found.as_ref().map(|f| f.kind.clone()),
                    severity: found.as_ref().map_or(Severity::Steady, |f| f.severity),
                    note: match (found, measured, check.measures()) {
                        (Some(f), _, _) => f.note.clone(),
                        (None, Some(value), Some((_, unit))) => format!("{value:.1} {unit}"),
                        _ => String::new(),
                    },
                    by: self.signed(k),
                }),
                _ => None,
            })
            .collect()
    }
}
