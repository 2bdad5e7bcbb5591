//! The planner of a storage spell.

mod controls;
mod set;
mod shown;

use self::set::{asked, key_of};
use self::shown::{assumptions, charge_chart, dates, facts, freezing_chart, options};
use super::answer::{PlanAnswer, PlanList};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
pub(super) use controls::controls;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::storage::plan_storage;
use rainshadow_core::visit::{Job, job_tasks};
use rainshadow_core::wording;

/// The answer.
pub(super) fn answer(subject: &Subject, typed: &mut Typed<'_>, units: ReaderUnits) -> AppResult<PlanAnswer> {
    let asked = asked(subject, typed)?;
    let plan = plan_storage(&asked).map_err(|e| AppError::refused(key_of(&e, typed.text("lows_by")), &e))?;
    let best = &plan.ways[plan.best];
    Ok(PlanAnswer {
        said: wording::storage_verdict(&plan, units),
        facts: facts(best, units),
        options: options(&plan, &asked, units),
        charts: vec![charge_chart(&plan), freezing_chart(&plan, units)],
        tables: Vec::new(),
        dates: dates(best, subject.model.construction.has_caps(), subject.today),
        lists: vec![
            list("Before it is left", Job::StoragePreparation, subject),
            list("When it is used again", Job::SpringCheck, subject),
        ],
        cautions: wording::STORAGE_CAUTIONS.iter().map(|own| (*own).to_owned()).collect(),
        assumptions: assumptions(subject, &asked, typed, units),
        rule: wording::STORAGE_RULE.to_owned(),
    })
}

fn list(title: &str, job: Job, subject: &Subject) -> PlanList {
    let construction = subject.model.construction;
    let lines = job_tasks(job, construction).into_iter();
    let lines = lines.map(|task| wording::job_task_of(job, task, construction).to_owned()).collect();
    PlanList { title: title.into(), lines, job: Some(job), remind: wording::job_name(job).to_owned() }
}
