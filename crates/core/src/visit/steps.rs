//! The steps of a visit, one module each: where it applies, its cautions, what is written down in it, how
//! far it is, and how long it takes.

mod close_up;
mod equalize;
mod job;
mod joints;
mod load_test;
mod look_over;
mod make_safe;
mod rest_check;
mod round;
mod water;

use super::{
    Caution, CorrectiveAction, Entry, EntryQuestion, EntryRefused, InstrumentChecked, Place, Step, VisitSheet,
};
use crate::bank::BankShape;
use crate::battery_model::{BatteryModel, Construction};
use crate::house_rules::WorkTimes;
use strum::VariantArray;

/// The visit that something is to be written down on.
#[derive(Debug, Clone, Copy)]
pub struct VisitUnderWay<'a> {
    /// Its bank.
    pub shape: &'a BankShape,
    /// The batteries of the bank.
    pub model: &'a BatteryModel,
    /// What is written down.
    pub sheet: &'a VisitSheet,
    /// False when it is closed.
    pub taking: bool,
}

/// What the time of a step depends on.
#[derive(Debug, Clone, Copy)]
pub struct StepWork<'a> {
    /// Cells of the bank.
    pub cells: f64,
    /// Batteries of the bank.
    pub batteries: f64,
    /// Minutes and seconds of the house.
    pub times: WorkTimes,
    /// Minutes of one's own last rounds, walked from end to end.
    pub rounds: &'a [f64],
    /// Minutes of one's own last fills.
    pub fills: &'a [f64],
}

impl StepWork<'_> {
    /// Minutes of what is done cell by cell, getting ready included.
    fn by_cell(&self, seconds: u16) -> f64 {
        f64::from(self.times.set_up_minutes) + f64::from(seconds) / 60.0 * self.cells
    }

    /// The median of one's own minutes, once there are three.
    fn own(past: &[f64]) -> Option<f64> {
        /// Visits of one's own before they replace the rule.
        const OWN_VISITS: usize = 3;
        (past.len() >= OWN_VISITS).then(|| crate::round::median(&mut past.to_vec())).flatten()
    }
}

/// How far a step is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Done {
    /// Things done in it.
    pub done: usize,
    /// Things there are to do; 0 where that is open.
    pub of: usize,
}

/// One step of a visit.
pub(super) trait VisitStep {
    /// True when a bank of this construction has it: a sealed bank has no caps, so no round, no water, no
    /// equalize.
    fn applies(&self, construction: Construction) -> bool;

    /// Its cautions on this bank, in the order of the hazard.
    fn cautions(&self, shape: &BankShape, construction: Construction) -> Vec<Caution>;

    /// True when an entry is one of this step.
    fn takes(&self, entry: &Entry) -> bool;

    /// Whether an entry of this step may be added, and what it is asked about.
    fn accept(
        &self,
        _place: Place,
        _entry: &Entry,
        _visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        Ok(None)
    }

    /// How far it is by what the sheet holds.
    fn progress(&self, sheet: &VisitSheet, shape: &BankShape, construction: Construction) -> Done;

    /// Minutes it takes on a bank; 0 where it is part of another.
    fn minutes(&self, work: &StepWork<'_>) -> f64;
}

/// Something that was done about a measurement says what.
fn corrected(action: CorrectiveAction, note: &str) -> Result<(), EntryRefused> {
    if action == CorrectiveAction::Other && note.trim().is_empty() {
        return Err(EntryRefused::SayWhat);
    }
    Ok(())
}

/// What the check of an instrument is asked about.
fn instrument_asked(entry: &Entry) -> Option<EntryQuestion> {
    let Entry::InstrumentCheck { instrument, shown, should, stands: false } = entry else { return None };
    let checked = InstrumentChecked { instrument: *instrument, shown: *shown, should: *should };
    checked.is_odd().then_some(EntryQuestion::Instrument { checked })
}

/// The module of a step.
pub(super) fn of(step: Step) -> &'static dyn VisitStep {
    match step {
        Step::MakeSafe => &make_safe::MakeSafe,
        Step::LookOver => &look_over::LookOver,
        Step::RestCheck => &rest_check::RestCheck,
        Step::Round => &round::Round,
        Step::Water => &water::Water,
        Step::Equalize => &equalize::Equalize,
        Step::LoadTest => &load_test::LoadTest,
        Step::Job => &job::JobStep,
        Step::Joints => &joints::Joints,
        Step::CloseUp => &close_up::CloseUp,
    }
}

impl Step {
    /// Its cautions on this bank, in the order of the hazard.
    pub fn cautions(self, shape: &BankShape, construction: Construction) -> Vec<Caution> {
        of(self).cautions(shape, construction)
    }

    /// Minutes it takes on a bank; 0 where it is part of another.
    pub fn minutes(self, work: &StepWork<'_>) -> f64 {
        of(self).minutes(work)
    }
}

/// The steps that apply: a sealed bank has no caps, so no round, no water and no equalize.
pub fn steps(construction: Construction) -> Vec<Step> {
    let all = Step::VARIANTS.iter().copied();
    all.filter(|step| of(*step).applies(construction)).collect()
}

/// The steps of a visit: all that apply, with its job where it has one, or those of one that is for one step alone.
pub fn steps_of(sheet: &VisitSheet, construction: Construction) -> Vec<Step> {
    let only = sheet.only();
    let wanted =
        |step: &Step| only.is_none_or(|only| matches!(step, Step::MakeSafe | Step::CloseUp) || *step == only);
    let has = |step: &Step| of(*step).applies(construction) || (*step == Step::Job && sheet.job().is_some());
    Step::VARIANTS.iter().copied().filter(has).filter(wanted).collect()
}

/// Entries of a sheet that stand and are of a kind.
fn count(sheet: &VisitSheet, pick: impl Fn(&Entry) -> bool) -> usize {
    sheet.standing().filter(|k| pick(&k.entry)).count()
}

/// Those of some cautions that apply.
fn applying(all: &[(Caution, bool)]) -> Vec<Caution> {
    all.iter().filter(|(_, applies)| *applies).map(|(caution, _)| *caution).collect()
}
