//! The job of a visit as it stands, line by line.

use super::VisitContext;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::battery_model::Construction;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Entry, Job, JobLine, JobTask, Polarity, Step, TaskBy, TaskState, Work, polarities, steps_of,
};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// How a line of a job stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum JobLineState {
    /// Open.
    Open,
    /// Some of it is done.
    Part,
    /// Done.
    Done,
    /// There is none here, or its step was left out.
    NotWanted,
}

/// What answers a line of a job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum JobAnswer {
    /// A tick in this list.
    Tick,
    /// What is written down in another step.
    Step,
    /// Volts that are put down to be read again.
    Recheck,
    /// A photograph.
    Photograph,
    /// The record of batteries that changed.
    Record,
    /// The polarity of batteries.
    Polarity,
}

impl JobAnswer {
    const fn of(by: TaskBy) -> Self {
        match by {
            TaskBy::Tick | TaskBy::Work(_) => Self::Tick,
            TaskBy::Step(_) | TaskBy::Check(_) | TaskBy::Level | TaskBy::RoundBefore | TaskBy::RoundAfter => {
                Self::Step
            }
            TaskBy::Recheck => Self::Recheck,
            TaskBy::Photograph => Self::Photograph,
            TaskBy::Record => Self::Record,
            TaskBy::Polarity => Self::Polarity,
        }
    }
}

/// A line of a job.
#[derive(Debug, Serialize, ToSchema)]
pub struct JobLineView {
    /// Which.
    pub task: JobTask,
    /// As asked.
    pub said: &'static str,
    /// How it stands.
    pub state: JobLineState,
    /// By whom and when, or how far: "2 of 4 read right"; none: nothing to tell.
    pub done: Option<String>,
    /// Entry that answers it.
    pub entry: Option<String>,
    /// The work that a tick of it writes down; none: not ticked here, or a tick of its own.
    pub work: Option<Work>,
    /// What answers it.
    pub by: JobAnswer,
    /// True for what not every bank has.
    pub may_be_missing: bool,
    /// The step where it is done; none: here.
    pub step: Option<Step>,
    /// Name of that step.
    pub step_name: Option<&'static str>,
}

/// Polarity of a battery.
#[derive(Debug, Serialize, ToSchema)]
pub struct PolarityView {
    /// The battery.
    pub battery: String,
    /// As read: "12.72"; none: not read.
    pub volts: Option<String>,
    /// Steady: right; act: reversed.
    pub condition: Severity,
    /// "right", "reversed: it is joined to nothing".
    pub said: &'static str,
    /// True where the record says that it came in on the day of the visit.
    pub came_in: bool,
    /// Entry.
    pub entry: Option<String>,
}

/// The job of a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct JobView {
    /// Which.
    pub job: Job,
    /// Its name.
    pub name: &'static str,
    /// What it is about.
    pub about: &'static str,
    /// The entry that says so.
    pub entry: String,
    /// Its lines in order.
    pub lines: Vec<JobLineView>,
    /// Polarity, battery by battery; empty where the job reads none.
    pub polarity: Vec<PolarityView>,
}

impl VisitContext {
    /// Its job as it stands; none: a visit like others.
    pub(super) fn job(&self) -> Option<JobView> {
        let job = self.sheet.job()?;
        let (entry, _) = self.said(|e| matches!(e, Entry::Job { .. }))?;
        let construction = self.model.construction;
        let lines = self.job_lines();
        Some(JobView {
            job,
            name: wording::job_name(job),
            about: wording::job_about(job),
            entry,
            polarity: if lines.iter().any(|line| line.task == JobTask::PolarityRead) {
                self.polarity(&self.job_seen.came_in)
            } else {
                Vec::new()
            },
            lines: lines.iter().map(|line| self.job_line(job, line, construction)).collect(),
        })
    }

    fn job_line(&self, job: Job, line: &JobLine<'_>, construction: Construction) -> JobLineView {
        let by = line.task.by();
        let signed = line.entry.map(|entry| self.signed(entry));
        let missing = (line.state == TaskState::NotWanted && line.entry.is_some())
            .then(|| wording::job_task_missing(line.task));
        let step = line.task.step().filter(|step| self.has_step(*step));
        JobLineView {
            task: line.task,
            said: wording::job_task_of(job, line.task, construction),
            state: match line.state {
                TaskState::Open => JobLineState::Open,
                TaskState::Part { .. } => JobLineState::Part,
                TaskState::Done => JobLineState::Done,
                TaskState::NotWanted => JobLineState::NotWanted,
            },
            done: match (missing, signed) {
                (Some(missing), Some(signed)) => Some(format!("{missing}, {signed}")),
                (None, signed) => signed.or_else(|| wording::job_task_part(line)),
                (Some(missing), None) => Some(missing.to_owned()),
            },
            entry: line.entry.map(|entry| entry.id.clone()),
            work: if let TaskBy::Work(work) = by { Some(work) } else { None },
            by: JobAnswer::of(by),
            may_be_missing: line.task.may_be_missing(),
            step,
            step_name: step.map(wording::step_name),
        }
    }

    fn has_step(&self, step: Step) -> bool {
        steps_of(&self.sheet, self.model.construction).contains(&step)
    }

    fn polarity(&self, came_in: &[BatteryAddress]) -> Vec<PolarityView> {
        let read = polarities(&self.sheet);
        let view = |battery: BatteryAddress| {
            let own = read.iter().find(|own| own.battery == battery);
            PolarityView {
                volts: own.map(|own| format!("{:.2}", own.volts)),
                condition: own.map_or(Severity::NoReading, Polarity::condition),
                said: wording::polarity_said(own),
                came_in: came_in.contains(&battery),
                entry: own.map(|own| own.entry.clone()),
                battery: battery.to_string(),
            }
        };
        self.bank.shape.batteries().map(view).collect()
    }
}
