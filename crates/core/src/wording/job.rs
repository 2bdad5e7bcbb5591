//! The words of jobs that a visit is for.

use super::names::{lower, words};
use crate::battery_model::Construction;
use crate::visit::{Job, JobLine, JobTask, Polarity, PolarityQuestion, TaskBy, TaskState};

/// A job, as it stands on the path and over the visit.
pub const fn job_name(job: Job) -> &'static str {
    match job {
        Job::StoragePreparation => "Storage preparation",
        Job::SpringCheck => "Spring check",
        Job::Replacement => "Replacement",
        Job::StorageCheck => "Storage check",
    }
}

/// What a job is about, one sentence.
pub const fn job_about(job: Job) -> &'static str {
    match job {
        Job::StoragePreparation => {
            "Full, clean, tight and disconnected: what is put away so comes through the months (SD-3)."
        }
        Job::SpringCheck => {
            "Cracks are looked for before anything is charged; then charge, volts, and the volts again a day later (SD-3)."
        }
        Job::Replacement => {
            "What comes in is read by the meter before it is joined, charged with its mates, and has its first round the same day."
        }
        Job::StorageCheck => {
            "What is put away is looked at, its volts read, and charged before it falls too low (SD-2)."
        }
    }
}

/// A line of a job, as asked.
pub const fn job_task(task: JobTask) -> &'static str {
    match task {
        JobTask::Photographed => "Photographs of every lead and link as they stand",
        JobTask::CasesLookedAt => {
            "Cases looked at for cracks, bulges and wet spots before anything is charged: it may have frozen"
        }
        JobTask::AgeRead => {
            "Age read off the date codes: does the record agree, how much of its life is behind it"
        }
        JobTask::TakenApart => {
            "Loads off, then taken apart: the grounded end first, each lead marked as it comes off"
        }
        JobTask::ChangeOnRecord => "What came in, and where the old one went, is on record",
        JobTask::PolarityRead => "Polarity of each new battery read by the meter, before it is joined",
        JobTask::Joined => "Joined as photographed, links first, the grounded end last",
        JobTask::Cleaned => "Cases and tops cleaned and dry: tops that stay wet lose charge",
        JobTask::LevelsLookedAt => "Levels looked at; plates that show are covered before the charge",
        JobTask::ReadBeforeCharge => "Every cell read before the charge",
        JobTask::ChargedFull => "Charged full",
        JobTask::VoltsRead => {
            "Settled volts of every battery read; those short of their mates are looked into first"
        }
        JobTask::VoltsAgain => {
            "Volts again after 24 hours, put down as a recheck; a load test where one fell behind"
        }
        JobTask::ReadAfterCharge => "Every cell read after the charge",
        JobTask::EqualizedIfNeeded => "Equalized where the round asks for it",
        JobTask::WateredToMark => {
            "Water to the mark, after the charge; where it freezes, let it gas again until that is mixed in: fresh water lies on top and \
             freezes as water does"
        }
        JobTask::HoldDownsFast => "Hold-downs fast",
        JobTask::Torqued => "Corrosion looked for, joints at the maker’s torque",
        JobTask::Coated => "Joints coated against corrosion",
        JobTask::Disconnected => {
            "Whatever draws is disconnected, or left in the way that was chosen; a note at the switch says which"
        }
        JobTask::NothingDraws => "Nothing draws: switches and disconnects stand as they were left",
        JobTask::ChargedIfAsked => {
            "Charged full where its volts ask for it: at three quarters of a charge at the latest"
        }
        JobTask::StorageChecked => "Checked: the next is counted from today",
        JobTask::VentsClear => "Screens, vents and covers: shut to animals, open to air",
        JobTask::Labelled => "Each new one labelled: place, date code, the day it came in",
        JobTask::OldOnesSafe => "Old ones upright, posts covered, their numbers and history with them",
    }
}

/// A line that a bank has not.
pub const fn job_task_missing(task: JobTask) -> &'static str {
    match task {
        JobTask::Coated => "no coating wanted",
        JobTask::VentsClear => "no vents here",
        JobTask::ChargedIfAsked => "no charge wanted",
        JobTask::OldOnesSafe => "no old one left here",
        _ => "none here",
    }
}

/// A line of a job that calls for a charge, in the words of the job: a new battery is freshened, a winter is charged
/// away over a night.
pub fn job_task_of(job: Job, task: JobTask, construction: Construction) -> &'static str {
    match (job, task) {
        (Job::Replacement, JobTask::ChargedFull) => {
            "Freshening charge: new and old together, until the last cell is full"
        }
        (Job::Replacement, JobTask::ReadAfterCharge) => {
            "First round with the new ones: the baseline from now on"
        }
        (Job::Replacement, JobTask::VoltsRead) if !construction.has_caps() => {
            "Volts and resistance of every battery: the baseline from now on"
        }
        (Job::SpringCheck, JobTask::ChargedFull) => {
            "Charged over a night, with air, until the current is down at its tail"
        }
        (Job::StorageCheck, JobTask::CasesLookedAt) => {
            "Cases looked at for cracks, bulges and wet spots: it may have frozen"
        }
        (Job::StorageCheck, JobTask::VoltsRead) => {
            "Settled volts of every battery, all loads off, against what was expected"
        }
        (Job::StoragePreparation, JobTask::ChargedFull) => {
            "Charged full first, until the current is down at its tail"
        }
        (_, task) => job_task(task),
    }
}

/// How far a line is that is neither done nor open: "2 of 4 read right".
pub fn job_task_part(line: &JobLine<'_>) -> Option<String> {
    match (line.state, line.task.by()) {
        (TaskState::Part { done, of: 0 }, TaskBy::Polarity) => {
            Some(format!("{done} read right; nothing is on record as come in yet"))
        }
        (TaskState::Part { done, of }, TaskBy::Polarity) => Some(format!("{done} of {of} read right")),
        (TaskState::Part { done, of }, _) => Some(format!("{done} of {of}")),
        _ => None,
    }
}

/// How a battery stands before it is joined.
pub fn polarity_said(own: Option<&Polarity>) -> &'static str {
    match own {
        None => "not read",
        Some(own) if own.right() => "right",
        Some(_) => "reversed: it is joined to nothing",
    }
}

/// What is asked about the volts of a battery that stands alone.
pub(super) fn polarity_question(question: PolarityQuestion, place: &str) -> String {
    match question {
        PolarityQuestion::Reversed { volts } => format!(
            "{place} shows {volts:.2} V: the probes are swapped, or its posts are. Read it again, red on the post marked positive. A reversed battery is joined to nothing."
        ),
        PolarityQuestion::Flat { volts } => format!(
            "{place} shows {volts:.2} V, flat for a battery that comes in. Do the probes touch the posts? Re-read it; flat, it goes back."
        ),
        PolarityQuestion::High { volts, cells } => format!(
            "{place} shows {volts:.2} V, more than {cells} cells show by themselves. Is another battery or a charger joined to it?"
        ),
    }
}

/// What the owner is told of a job: what was done of it, and what was not.
pub fn owner_job(job: Job, lines: &[JobLine<'_>], construction: Construction) -> String {
    let said = |wanted: &dyn Fn(TaskState) -> bool| -> Vec<String> {
        let own = lines.iter().filter(|line| wanted(line.state));
        own.map(|line| lower(job_task_of(job, line.task, construction))).collect()
    };
    let done = lines.iter().filter(|line| line.state == TaskState::Done).count();
    let open = said(&|state| matches!(state, TaskState::Open | TaskState::Part { .. }));
    let head = if open.is_empty() {
        format!("{}: every line done", job_name(job))
    } else {
        format!("{}: {done} of {} lines done", job_name(job), lines.len())
    };
    let left: Vec<&str> = open.iter().map(String::as_str).collect();
    let missing: Vec<&str> = lines
        .iter()
        .filter(|line| line.state == TaskState::NotWanted)
        .map(|line| match line.entry {
            Some(_) => job_task_missing(line.task),
            None => "a step was left out",
        })
        .collect();
    let mut all = head;
    if !left.is_empty() {
        all = format!("{all}; not done: {}", left.join("; "));
    }
    if !missing.is_empty() {
        all = format!("{all}; {}", words(&missing));
    }
    all
}
