//! What the owner is told of a visit: what was found, what was done about it, how it was left.

use crate::app::visit_context::VisitContext;
use crate::db::PhotoRow;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::finding::{self, Finding};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, FoundAndDone, Place, answered_findings, at_plates, left_severity, open_before,
};
use rainshadow_core::wording;

/// What the owner is told of one thing.
pub(super) struct OwnerLine {
    /// How bad it is as it was left.
    pub condition: Severity,
    /// In the owner's words.
    pub said: String,
    /// What was looked at, where and what was found there; none for what was measured.
    looked: Option<(Place, Check, String)>,
}

impl OwnerLine {
    fn measured(condition: Severity, said: String) -> Self {
        Self { condition, said, looked: None }
    }

    /// True when a photograph shows it: taken at the place and check, of this very finding or of all there.
    pub(super) fn shown_by(&self, photo: &PhotoRow) -> bool {
        let Some((place, check, kind)) = &self.looked else { return false };
        let (of, found) = photo.subject.split_once(' ').unwrap_or((&photo.subject, ""));
        let here = photo.place == *place && of.replace('_', "") == check_key(*check);
        here && (found.is_empty() || found == kind)
    }
}

fn check_key(check: Check) -> String {
    format!("{check:?}").to_lowercase()
}

/// Something that was seen: found, done, left, and what is still to be done about it.
fn look_line(own: &FoundAndDone<'_>, units: ReaderUnits) -> OwnerLine {
    let advice = own
        .open()
        .map(|_| format!(" {}", wording::found_advice(own.check, &own.found.kind)))
        .unwrap_or_default();
    OwnerLine {
        condition: own.severity(),
        said: format!("{}{advice}", wording::owner_found_and_done(own, units)),
        looked: Some((own.entry.place, own.check, own.found.kind.clone())),
    }
}

/// What the owner is told, the worst first: each thing as it was found, what was done about it, how it was left.
pub(super) fn owner_lines(context: &VisitContext) -> Vec<OwnerLine> {
    let seen = context.sheet.found_and_done();
    let corrected = context.sheet.corrected();
    let mut all: Vec<OwnerLine> = context
        .findings()
        .iter()
        // What a cause explains is told to whoever judges, not to the owner.
        .filter(|finding| finding.explained_by.is_none())
        .filter_map(|finding| {
            if let Some(own) = seen.iter().find(|own| own.entry.id == finding.id) {
                return Some(look_line(own, context.units));
            }
            let said = wording::owner_finding(finding, context.units)?;
            let done = corrected.iter().filter(|own| own.is_about(finding));
            let done = done.map(|own| format!("{}.", wording::sentence(&wording::corrected_and_left(own))));
            let told: Vec<String> = std::iter::once(said).chain(done).collect();
            Some(OwnerLine::measured(finding.severity, told.join(" ")))
        })
        .collect();
    all.extend(seen.iter().filter(|own| own.open().is_none()).map(|own| look_line(own, context.units)));
    let visits = context.all_visits();
    all.extend(context.sheet.repaired_only().iter().map(|own| {
        let condition = left_severity(&visits, own);
        let said = wording::owner_repaired_only(own, open_before(&context.past, own), context.units);
        let advice = (condition >= Severity::Watch).then(|| wording::found_advice(own.check, own.found));
        let said = advice.into_iter().fold(said, |said, advice| format!("{said} {advice}"));
        OwnerLine { condition, said, looked: Some((own.place, own.check, own.found.to_owned())) }
    }));
    all.extend(answered_findings(&visits).iter().map(|finding| {
        OwnerLine::measured(Severity::Steady, wording::owner_answered(finding, context.units))
    }));
    // Plates that stood dry lead what is as bad: they do not recover.
    if let Some((condition, said)) = bare(context) {
        all.insert(0, OwnerLine::measured(condition, said));
    }
    let low = at_plates(&visits[context.past.len()..], &context.bank.shape, &context.model);
    all.extend(low.and_then(|(cells, _)| {
        let finding = finding::water::levels_at_plates(&cells)?;
        let said = wording::owner_finding(&finding, context.units)?;
        Some(OwnerLine::measured(finding.severity, said))
    }));
    let filled = context.sheet.filled_from_plates(&context.bank.shape, &context.model);
    all.extend(
        (!filled.is_empty())
            .then(|| OwnerLine::measured(Severity::Steady, wording::owner_plates_reached(&filled))),
    );
    all.sort_by_key(|line| std::cmp::Reverse(line.condition));
    all
}

/// Cells whose plates were found dry, for the owner; still dry they need something done.
fn bare(context: &VisitContext) -> Option<(Severity, String)> {
    let dry: Vec<CellAddress> = context
        .sheet
        .levels_as_found(&context.bank.shape)
        .into_iter()
        .filter(|(_, level)| level.bare(&context.model))
        .map(|(cell, _)| cell)
        .collect();
    let left = context.sheet.bare_as_left(&context.bank.shape, &context.model);
    let severity = if left.is_empty() { Severity::Watch } else { Severity::Act };
    (!dry.is_empty()).then(|| (severity, wording::owner_plates_dry(&dry, &left)))
}

/// What was done about something measured that no line above tells of.
pub(super) fn corrected_besides(context: &VisitContext) -> Vec<String> {
    let told: Vec<Finding> = context
        .findings()
        .into_iter()
        .filter(|f| f.explained_by.is_none() && wording::owner_finding(f, context.units).is_some())
        .collect();
    let corrected = context.sheet.corrected();
    let besides = corrected.iter().filter(|own| !told.iter().any(|finding| own.is_about(finding)));
    besides.map(wording::corrected_at).collect()
}
