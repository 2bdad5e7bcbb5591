//! The job that a visit is for, line by line.

use super::{Done, StepWork, VisitStep, VisitUnderWay, applying};
use crate::bank::BankShape;
use crate::battery_model::Construction;
use crate::visit::caution::{GROUNDED_UP_TO, HIGHER_VOLTAGE};
use crate::visit::job::polarity_question;
use crate::visit::{
    Caution, Entry, EntryQuestion, EntryRefused, Job, JobTask, Place, VisitSheet, job_tasks, polarities,
};

pub(super) struct JobStep;

impl VisitStep for JobStep {
    /// A visit has it where it is for a job; the kind of bank does not tell.
    fn applies(&self, _construction: Construction) -> bool {
        false
    }

    fn cautions(&self, shape: &BankShape, _construction: Construction) -> Vec<Caution> {
        applying(&[
            (Caution::NegativeFirst, shape.system_voltage <= GROUNDED_UP_TO),
            (Caution::WrenchSlips, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
        ])
    }

    fn takes(&self, entry: &Entry) -> bool {
        matches!(entry, Entry::Job { .. } | Entry::JobTask { .. } | Entry::Polarity { .. })
    }

    fn accept(
        &self,
        place: Place,
        entry: &Entry,
        visit: &VisitUnderWay<'_>,
    ) -> Result<Option<EntryQuestion>, EntryRefused> {
        let (wanted, fits) = match entry {
            Entry::Polarity { .. } => ("a battery", matches!(place, Place::Battery(_))),
            _ => ("the bank", place == Place::Bank),
        };
        if !fits {
            return Err(EntryRefused::OtherPlace { wanted, at: place.said() });
        }
        match entry {
            Entry::JobTask { task, none_here } => {
                let job = visit.sheet.job().ok_or(EntryRefused::NoJob)?;
                let known = job_tasks(job, visit.model.construction);
                if !known.contains(task) || !task.is_taken(*none_here) {
                    return Err(EntryRefused::NotOfTheJob);
                }
                if *none_here && !task.may_be_missing() {
                    return Err(EntryRefused::TaskAlwaysThere);
                }
                match visit.sheet.reversed().first() {
                    Some(battery) if *task == JobTask::Joined => {
                        Err(EntryRefused::ReversedStands(battery.to_string()))
                    }
                    _ => Ok(None),
                }
            }
            Entry::Polarity { volts, stands: false } => {
                let question = polarity_question(*volts, visit.shape.cells_per_battery);
                Ok(question.map(|question| EntryQuestion::Polarity { question, place }))
            }
            _ => Ok(None),
        }
    }

    /// Lines that were ticked here; what other steps answer is counted by whoever holds them.
    fn progress(&self, sheet: &VisitSheet, _shape: &BankShape, construction: Construction) -> Done {
        let Some(job) = sheet.job() else { return Done { done: 0, of: 0 } };
        let lines = crate::visit::job_lines(job, construction, sheet, &crate::visit::JobSeen::default());
        Done { done: lines.iter().filter(|line| line.is_answered()).count(), of: lines.len() }
    }

    /// Its lines are the other steps of the visit, and what is told there.
    fn minutes(&self, _work: &StepWork<'_>) -> f64 {
        0.0
    }
}

impl VisitSheet {
    /// The job that the visit is for; none: a visit like others.
    pub fn job(&self) -> Option<Job> {
        self.standing().find_map(|k| match k.entry {
            Entry::Job { job } => Some(job),
            _ => None,
        })
    }

    /// Batteries that read reversed, and stand so.
    pub fn reversed(&self) -> Vec<crate::bank::BatteryAddress> {
        polarities(self).into_iter().filter(|own| !own.right()).map(|own| own.battery).collect()
    }
}
