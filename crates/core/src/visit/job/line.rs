//! How far the lines of a job are.

use super::{Job, JobTask, TaskBy, job_tasks, polarities};
use crate::bank::BatteryAddress;
use crate::battery_model::Construction;
use crate::visit::{Entry, Step, StepState, VisitEntry, VisitSheet};
use jiff::Timestamp;

/// What stands beside the sheet of a visit.
#[derive(Debug, Clone, Default)]
pub struct JobSeen {
    /// When finished rounds of the visit were read to their end, by the clock that its entries have.
    pub rounds: Vec<Timestamp>,
    /// Photographs of the visit.
    pub photographs: usize,
    /// Batteries that came in on its day, by the record.
    pub came_in: Vec<BatteryAddress>,
}

/// How a line stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum TaskState {
    /// Open.
    Open,
    /// Some of it is done.
    Part {
        /// So many.
        done: usize,
        /// Of so many; 0 where nobody knows of how many.
        of: usize,
    },
    /// Done.
    Done,
    /// There is none here, or its step was left out with a reason.
    NotWanted,
}

/// A line of a job as it stands.
#[derive(Debug, Clone)]
pub struct JobLine<'a> {
    /// Which.
    pub task: JobTask,
    /// How it stands.
    pub state: TaskState,
    /// The entry that answers it, where one does.
    pub entry: Option<&'a VisitEntry>,
}

impl JobLine<'_> {
    /// True where nothing is left to do.
    pub fn is_answered(&self) -> bool {
        matches!(self.state, TaskState::Done | TaskState::NotWanted)
    }
}

/// The lines of a job in order, as a visit has them.
pub fn job_lines<'a>(
    job: Job,
    construction: Construction,
    sheet: &'a VisitSheet,
    seen: &JobSeen,
) -> Vec<JobLine<'a>> {
    job_tasks(job, construction).into_iter().map(|task| line(task, sheet, seen)).collect()
}

fn line<'a>(task: JobTask, sheet: &'a VisitSheet, seen: &JobSeen) -> JobLine<'a> {
    let find = |pick: &dyn Fn(&Entry) -> bool| sheet.standing().find(|k| pick(&k.entry));
    let own = find(&|e| matches!(e, Entry::JobTask { task: of, .. } if *of == task));
    let by = |entry: Option<&'a VisitEntry>| (entry.map_or(TaskState::Open, |_| TaskState::Done), entry);
    let whether = |done: bool| (if done { TaskState::Done } else { TaskState::Open }, None);
    let charged = || find(&|e| e.does(crate::visit::Work::ChargedFull)).map(|k| k.taken_at);
    let (state, entry) = match task.by() {
        TaskBy::Tick => match own.map(|k| &k.entry) {
            Some(Entry::JobTask { none_here: true, .. }) => (TaskState::NotWanted, own),
            _ => by(own),
        },
        TaskBy::Work(work) => match (find(&|e| e.does(work)), own) {
            (None, Some(none)) => (TaskState::NotWanted, Some(none)),
            (done, _) => by(done),
        },
        TaskBy::Step(step) => (of_step(sheet, step), None),
        TaskBy::Check(check) => by(find(&|e| matches!(e, Entry::Checked { check: of, .. } if *of == check))),
        TaskBy::Level => by(find(&|e| matches!(e, Entry::Level { .. } | Entry::Water { .. }))),
        TaskBy::RoundBefore => {
            whether(seen.rounds.iter().any(|at| charged().is_none_or(|charged| *at <= charged)))
        }
        TaskBy::RoundAfter => {
            whether(seen.rounds.iter().any(|at| charged().is_some_and(|charged| *at > charged)))
        }
        TaskBy::Recheck => by(find(&|e| matches!(e, Entry::Recheck { step: Step::RestCheck, .. }))),
        TaskBy::Photograph => whether(seen.photographs > 0),
        TaskBy::Record => whether(!seen.came_in.is_empty()),
        TaskBy::Polarity => (of_polarity(sheet, seen), None),
    };
    // A round that was left out is not wanted, before the charge or after it.
    let state = match (state, task.by()) {
        (TaskState::Open, TaskBy::RoundBefore | TaskBy::RoundAfter) if left_out(sheet, Step::Round) => {
            TaskState::NotWanted
        }
        (state, _) => state,
    };
    JobLine { task, state, entry }
}

fn left_out(sheet: &VisitSheet, step: Step) -> bool {
    sheet.state_of(step).0 == Some(StepState::Skipped)
}

fn of_step(sheet: &VisitSheet, step: Step) -> TaskState {
    match sheet.state_of(step).0 {
        Some(StepState::Done) => TaskState::Done,
        Some(StepState::Skipped) => TaskState::NotWanted,
        Some(StepState::Open) | None => TaskState::Open,
    }
}

/// Every battery that came in reads right; where the record has none yet, those that were read are so many done of an
/// unknown number, and one that is reversed keeps the line open.
fn of_polarity(sheet: &VisitSheet, seen: &JobSeen) -> TaskState {
    let read = polarities(sheet);
    let right: Vec<BatteryAddress> = read.iter().filter(|own| own.right()).map(|own| own.battery).collect();
    let mut wanted = seen.came_in.clone();
    wanted.extend(read.iter().map(|own| own.battery).filter(|own| !seen.came_in.contains(own)));
    let done = wanted.iter().filter(|own| right.contains(own)).count();
    match (done, wanted.len()) {
        (_, 0) => TaskState::Open,
        (done, of) if done == of && !seen.came_in.is_empty() => TaskState::Done,
        (done, of) if seen.came_in.is_empty() => {
            TaskState::Part { done, of: if done == of { 0 } else { of } }
        }
        (done, of) => TaskState::Part { done, of },
    }
}
