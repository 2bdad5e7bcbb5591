//! Rechecks, as a visit shows them: asked for, wanted by a rule, and the one that this visit is for.

use super::VisitContext;
use crate::words;
use rainshadow_core::visit::{Recheck, Step, open_rechecks, recheck_day, rechecks, rechecks_wanted, steps};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A recheck that this visit asks for.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecheckView {
    /// The entry that asks.
    pub entry: String,
    /// "Read the volts again".
    pub title: &'static str,
    /// Its day.
    pub day: String,
    /// Why, in the technician's words.
    pub reason: String,
    /// By whom and when.
    pub by: String,
}

/// A recheck that a rule wants.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecheckOffer {
    /// Which step.
    pub step: Step,
    /// "Read the volts again".
    pub title: &'static str,
    /// In how many hours, as it is sent.
    pub hours: String,
    /// "overnight, 9 Oct".
    pub when: String,
    /// Why, with its rule.
    pub why: &'static str,
}

/// What can be looked at again.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecheckChoice {
    /// Which step.
    pub step: Step,
    /// "Read the volts again".
    pub title: &'static str,
}

/// Rechecks of a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct RechecksView {
    /// Asked for.
    pub asked: Vec<RecheckView>,
    /// Wanted by a rule, and not asked for.
    pub wanted: Vec<RecheckOffer>,
    /// What can be asked for.
    pub choices: Vec<RecheckChoice>,
    /// Said where a recheck of this step was asked for a later day: what is read now does not answer it.
    pub early: Option<String>,
}

/// The step that a short visit is for.
#[derive(Debug, Serialize, ToSchema)]
pub struct OnlyView {
    /// The entry that says so; taken back, the visit is a whole one.
    pub entry: String,
    /// The step.
    pub step: Step,
    /// "Rest check".
    pub name: &'static str,
}

impl VisitContext {
    /// The step that a short visit is for; none: a whole one.
    pub(super) fn only(&self) -> Option<OnlyView> {
        let step = self.sheet.only()?;
        let (entry, _) = self.said(|e| matches!(e, rainshadow_core::visit::Entry::Only { .. }))?;
        Some(OnlyView { entry, step, name: wording::step_name(step) })
    }

    fn early(&self) -> Option<String> {
        // One that is not due yet is answered by no round either.
        let open: Vec<Recheck> = open_rechecks(&self.past, None);
        let own =
            open.iter().find(|own| own.due > self.visit.day() && self.sheet.only() == Some(own.step))?;
        Some(format!(
            "It was asked for {}; what is read before that day does not answer it.",
            words::day(own.due)
        ))
    }

    pub(super) fn rechecks(&self) -> RechecksView {
        let day = self.visit.day();
        let asked = rechecks(&self.sheet, day)
            .into_iter()
            .map(|(entry, own)| RecheckView {
                entry: entry.id.clone(),
                title: wording::recheck_title(own.step),
                day: words::day(own.due),
                reason: own.reason,
                by: self.signed(entry),
            })
            .collect();
        let wanted = rechecks_wanted(&self.sheet, self.judged_by())
            .into_iter()
            .map(|own| RecheckOffer {
                step: own.step,
                title: wording::recheck_title(own.step),
                hours: format!("{:.0}", own.hours),
                when: format!(
                    "{}, {}",
                    wording::recheck_when(own.hours),
                    wording::short_day(recheck_day(day, own.hours), self.today)
                ),
                why: wording::recheck_why(own.why),
            })
            .collect();
        let choices = steps(self.model.construction)
            .into_iter()
            .filter(|step| step.can_be_rechecked())
            .map(|step| RecheckChoice { step, title: wording::recheck_title(step) })
            .collect();
        RechecksView { asked, wanted, choices, early: self.early() }
    }
}
