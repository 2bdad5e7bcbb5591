//! Visits for a job: which lines it has, what answers them, and what is read before a battery is joined. The order of
//! a storage preparation and of a spring check is that of SD-3; polarity, freshening charge and baseline round are
//! common practice, no source.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::{sheet, written};
use jiff::Timestamp;
use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{
    Check, Entry, EntryQuestion, EntryRefused, Job, JobSeen, JobTask, LeftAs, Place, Step, StepState, TaskBy,
    TaskState, VisitEntry, VisitSheet, VisitUnderWay, Work, accept, job_lines, job_tasks, steps_of,
};
use rainshadow_core::water::{Level, LevelStep};
use rainshadow_core::wording;
use strum::VariantArray;

const FLOODED: Construction = Construction::Flooded;

fn for_job(job: Job, more: Vec<(&'static str, Entry)>) -> VisitSheet {
    let mut all = vec![("", Entry::Job { job })];
    all.extend(more);
    sheet(all)
}

fn state(job: Job, sheet: &VisitSheet, seen: &JobSeen, task: JobTask) -> TaskState {
    job_lines(job, FLOODED, sheet, seen).iter().find(|line| line.task == task).unwrap().state
}

fn done(work: Work) -> Entry {
    Entry::Done { work, note: String::new() }
}

fn at(hour: u8) -> Timestamp {
    format!("2026-10-08T{hour:02}:00:00Z").parse().unwrap()
}

fn ask(sheet: &VisitSheet, place: &str, entry: &Entry) -> Result<Option<EntryQuestion>, EntryRefused> {
    let (bank, model) = (shape(3, 2, 2), BatteryModel::generic_by_key("flooded-6v-225").unwrap());
    let visit = VisitUnderWay { shape: &bank, model: &model, sheet, taking: true };
    accept((place.parse().unwrap(), entry, at(9)), &visit, at(10))
}

#[test]
fn a_storage_preparation_goes_in_the_order_of_the_trade() {
    // SD-3: charge, round, equalize if needed, water, clean, torque, disconnect, screens and vents
    use JobTask as Do;
    assert_eq!(
        job_tasks(Job::StoragePreparation, FLOODED),
        [
            Do::ChargedFull,
            Do::ReadAfterCharge,
            Do::EqualizedIfNeeded,
            Do::WateredToMark,
            Do::Cleaned,
            Do::Torqued,
            Do::Disconnected,
            Do::VentsClear
        ]
    );
    let spring = job_tasks(Job::SpringCheck, FLOODED);
    let place = |task| spring.iter().position(|own| *own == task).unwrap();
    // SD-3: cracks before anything; a round before the charge and one after it; the volts once more a day later
    assert_eq!(place(Do::CasesLookedAt), 0);
    assert!(place(Do::ReadBeforeCharge) < place(Do::ChargedFull));
    assert!(place(Do::LevelsLookedAt) < place(Do::ChargedFull), "bare plates are covered before a charge");
    assert!(
        place(Do::ChargedFull) < place(Do::ReadAfterCharge) && place(Do::VoltsRead) < place(Do::VoltsAgain)
    );
    let new = job_tasks(Job::Replacement, FLOODED);
    let place = |task| new.iter().position(|own| *own == task).unwrap();
    assert_eq!(place(Do::Photographed), 0, "before anything is loosened");
    assert!(place(Do::TakenApart) < place(Do::PolarityRead) && place(Do::PolarityRead) < place(Do::Joined));
    assert!(
        place(Do::Joined) < place(Do::ChargedFull) && place(Do::ChargedFull) < place(Do::ReadAfterCharge)
    );
}

#[test]
fn a_sealed_bank_is_asked_for_volts_and_for_nothing_behind_caps() {
    for job in Job::VARIANTS {
        let tasks = job_tasks(*job, Construction::Agm);
        for task in &tasks {
            let behind_caps = matches!(task.step(), Some(Step::Round | Step::Water | Step::Equalize));
            assert!(!behind_caps, "{job:?}: {task:?}");
        }
        assert!(tasks.contains(&JobTask::VoltsRead), "{job:?} has its baseline by volts");
        let mut once = tasks.clone();
        once.sort();
        once.dedup();
        assert_eq!(once.len(), tasks.len(), "{job:?} asks nothing twice");
    }
}

#[test]
fn a_visit_for_a_job_has_its_list_right_after_making_safe() {
    let path = steps_of(&for_job(Job::Replacement, vec![]), FLOODED);
    assert_eq!(path[..2], [Step::MakeSafe, Step::Job]);
    assert!(!steps_of(&VisitSheet::default(), FLOODED).contains(&Step::Job));
    // taken back, it is a visit like others
    let back =
        sheet(vec![("", Entry::Job { job: Job::Replacement }), ("", Entry::Withdrawn { entry: "0".into() })]);
    assert!(back.job().is_none() && !steps_of(&back, FLOODED).contains(&Step::Job));
}

#[test]
fn what_other_steps_write_down_answers_the_lines() {
    let (job, none) = (Job::SpringCheck, JobSeen::default());
    let empty = for_job(job, vec![]);
    for line in job_lines(job, FLOODED, &empty, &none) {
        assert_eq!(line.state, TaskState::Open, "{:?}", line.task);
    }
    let sheet = for_job(
        job,
        vec![
            ("A1", Entry::Checked { check: Check::Case, found: None, measured: None }),
            ("A", Entry::Level { level: Level::Step { step: LevelStep::Low } }),
            ("", done(Work::Cleaned)),
            ("", Entry::Step { step: Step::RestCheck, state: StepState::Done, reason: String::new() }),
            ("", Entry::Recheck { step: Step::RestCheck, hours: 24.0, reason: String::new() }),
            ("", Entry::JobTask { task: JobTask::Coated, none_here: true }),
        ],
    );
    for task in [
        JobTask::CasesLookedAt,
        JobTask::LevelsLookedAt,
        JobTask::Cleaned,
        JobTask::VoltsRead,
        JobTask::VoltsAgain,
    ] {
        assert_eq!(state(job, &sheet, &none, task), TaskState::Done, "{task:?}");
    }
    assert_eq!(state(job, &sheet, &none, JobTask::Coated), TaskState::NotWanted);
    assert_eq!(state(job, &sheet, &none, JobTask::HoldDownsFast), TaskState::Open);
    // the levels again later answer no recheck of the volts
    let levels =
        for_job(job, vec![("", Entry::Recheck { step: Step::Water, hours: 24.0, reason: String::new() })]);
    assert_eq!(state(job, &levels, &none, JobTask::VoltsAgain), TaskState::Open);
}

#[test]
fn a_round_counts_before_the_charge_or_after_it_by_when_it_was_finished() {
    use TaskState::{Done, NotWanted, Open};
    let job = Job::SpringCheck;
    let charged = |hour| {
        let full = VisitEntry { taken_at: at(hour), ..written("full", "", done(Work::ChargedFull)) };
        VisitSheet::new(vec![written("job", "", Entry::Job { job }), full])
    };
    let seen =
        |rounds: &[u8]| JobSeen { rounds: rounds.iter().map(|h| at(*h)).collect(), ..JobSeen::default() };
    let both = |sheet: &VisitSheet, rounds: &[u8]| {
        let seen = seen(rounds);
        [JobTask::ReadBeforeCharge, JobTask::ReadAfterCharge].map(|task| state(job, sheet, &seen, task))
    };
    assert_eq!(both(&for_job(job, vec![]), &[9]), [Done, Open], "not charged yet");
    assert_eq!(both(&charged(10), &[9]), [Done, Open]);
    assert_eq!(both(&charged(10), &[12]), [Open, Done]);
    assert_eq!(both(&charged(10), &[9, 12]), [Done, Done]);
    let skipped = Entry::Step { step: Step::Round, state: StepState::Skipped, reason: "frozen caps".into() };
    assert_eq!(both(&for_job(job, vec![("", skipped)]), &[]), [NotWanted, NotWanted]);
}

#[test]
fn every_battery_that_came_in_is_read_before_it_is_joined() {
    let job = Job::Replacement;
    let read = |volts: f64| Entry::Polarity { volts, stands: true };
    let came = |all: &[&str]| JobSeen {
        came_in: all.iter().map(|own| own.parse().unwrap()).collect(),
        ..JobSeen::default()
    };
    let now = |entries: Vec<(&'static str, Entry)>, seen: &JobSeen| {
        state(job, &for_job(job, entries), seen, JobTask::PolarityRead)
    };
    assert_eq!(now(vec![], &came(&["B1", "B2"])), TaskState::Part { done: 0, of: 2 });
    assert_eq!(now(vec![("B1", read(6.32))], &came(&["B1", "B2"])), TaskState::Part { done: 1, of: 2 });
    assert_eq!(now(vec![("B1", read(6.32)), ("B2", read(6.3))], &came(&["B1", "B2"])), TaskState::Done);
    // one that is reversed keeps the line open, also where it is none of those on record
    assert_eq!(
        now(vec![("B1", read(6.32)), ("A2", read(-6.3))], &came(&["B1"])),
        TaskState::Part { done: 1, of: 2 }
    );
    assert_eq!(
        now(vec![("B1", read(6.32))], &came(&[])),
        TaskState::Part { done: 1, of: 0 },
        "not on record yet"
    );
    let reversed = for_job(job, vec![("B2", read(-6.3)), ("B2", read(6.3)), ("A1", read(-6.1))]);
    assert_eq!(reversed.reversed().iter().map(ToString::to_string).collect::<Vec<_>>(), ["A1"], "read again");
}

#[test]
fn volts_that_no_new_battery_shows_are_asked_about_and_can_be_kept() {
    let sheet = for_job(Job::Replacement, vec![]);
    let said = |volts: f64| {
        let entry = Entry::Polarity { volts, stands: false };
        ask(&sheet, "B1", &entry).unwrap().map(|q| wording::entry_question(&q, ReaderUnits::default()))
    };
    assert_eq!(said(6.35), None);
    assert!(said(-6.35).unwrap().contains("joined to nothing"));
    assert!(said(2.0).unwrap().contains("flat"));
    assert!(said(12.7).unwrap().contains("more than 3 cells"), "a 12 V battery where 6 V ones stand");
    let kept = Entry::Polarity { volts: -6.35, stands: true };
    assert_eq!(ask(&sheet, "B1", &kept), Ok(None));
    let wrong = ask(&sheet, "B", &kept).unwrap_err();
    assert_eq!(
        (wrong.field(), wrong.to_string().as_str()),
        ("place", "this is noted at a battery, not at string B")
    );
    // while one reads reversed nothing is joined
    let joined = Entry::JobTask { task: JobTask::Joined, none_here: false };
    let reversed = for_job(Job::Replacement, vec![("B1", kept.clone())]);
    let why = ask(&reversed, "", &joined).unwrap_err();
    assert_eq!((why.field(), why), ("task", EntryRefused::ReversedStands("B1".into())));
    let right = for_job(
        Job::Replacement,
        vec![("B1", kept.clone()), ("B1", Entry::Polarity { volts: 6.3, stands: true })],
    );
    assert_eq!(ask(&right, "", &joined), Ok(None));
    let far = Entry::Polarity { volts: -900.0, stands: true };
    assert!(far.checked(Place::Bank, &shape(3, 2, 2)).unwrap_err().to_string().contains("voltage"));
}

/// SD-2: volts with all off, a charge at 75 % at the latest; the calendar counts the next check from this one.
#[test]
fn a_storage_check_charges_where_the_volts_ask_for_it_and_leaves_the_bank_stored() {
    let (job, none) = (Job::StorageCheck, JobSeen::default());
    let checked = |more: Vec<(&'static str, Entry)>| for_job(job, more);
    let charge = |sheet: &VisitSheet| state(job, sheet, &none, JobTask::ChargedIfAsked);
    let no_charge = Entry::JobTask { task: JobTask::ChargedIfAsked, none_here: true };
    assert_eq!(ask(&checked(vec![]), "", &no_charge), Ok(None));
    let tick = Entry::JobTask { task: JobTask::ChargedIfAsked, none_here: false };
    assert_eq!(
        ask(&checked(vec![]), "", &tick),
        Err(EntryRefused::NotOfTheJob),
        "a charge is work of the calendar"
    );
    assert_eq!(charge(&checked(vec![])), TaskState::Open);
    assert_eq!(charge(&checked(vec![("", no_charge.clone())])), TaskState::NotWanted);
    // charged after all
    let both = checked(vec![("", no_charge), ("", done(Work::ChargedFull))]);
    assert_eq!(charge(&both), TaskState::Done);
    assert_eq!(
        state(job, &checked(vec![("", done(Work::StorageChecked))]), &none, JobTask::StorageChecked),
        TaskState::Done
    );
    assert_eq!((both.left_as(), both.left_as_told()), (LeftAs::Stored, None), "stored since before this day");
}

/// A check answers one reminder of a check, and taking the bank into use answers what is left of them.
#[test]
fn a_job_answers_reminders_of_its_own_kind() {
    for job in Job::VARIANTS {
        assert!(job.answers().contains(job), "{job:?}");
    }
    assert!(Job::SpringCheck.answers().contains(&Job::StorageCheck));
    assert!(!Job::StorageCheck.answers().contains(&Job::SpringCheck));
    // warm storage is looked at every month (SD-2)
    assert!(Job::StorageCheck.done_early() < 28 && Job::StoragePreparation.done_early() >= 28);
}

#[test]
fn only_lines_of_the_job_are_ticked_and_only_on_a_visit_for_it() {
    let task = |task, none_here| Entry::JobTask { task, none_here };
    let refused = |sheet: &VisitSheet, entry: Entry| {
        let why = ask(sheet, "", &entry).unwrap_err();
        (why.field(), why)
    };
    let (winter, plain) = (for_job(Job::StoragePreparation, vec![]), VisitSheet::default());
    assert_eq!(ask(&winter, "", &task(JobTask::Disconnected, false)), Ok(None));
    assert_eq!(refused(&plain, task(JobTask::Disconnected, false)), ("task", EntryRefused::NoJob));
    assert_eq!(refused(&winter, task(JobTask::Labelled, false)), ("task", EntryRefused::NotOfTheJob));
    // what the calendar counts from is no tick of its own
    assert_eq!(refused(&winter, task(JobTask::ChargedFull, false)), ("task", EntryRefused::NotOfTheJob));
    assert_eq!(
        refused(&winter, task(JobTask::Disconnected, true)),
        ("none_here", EntryRefused::TaskAlwaysThere)
    );
}

#[test]
fn a_bank_that_is_put_away_is_left_in_storage_unless_somebody_says_otherwise() {
    assert_eq!(for_job(Job::StoragePreparation, vec![]).left_as(), LeftAs::Stored);
    let other = for_job(Job::StoragePreparation, vec![("", Entry::LeftAs { how: LeftAs::Standby })]);
    assert_eq!(other.left_as(), LeftAs::Standby);
    let mut spring = for_job(Job::SpringCheck, vec![]);
    spring.usually_left = LeftAs::Stored;
    assert_eq!(spring.left_as(), LeftAs::InUse, "it is taken into use, whatever the calendar has");
}

#[test]
fn the_owner_is_told_what_was_done_of_a_job_and_what_was_not() {
    let job = Job::StoragePreparation;
    let part = for_job(job, vec![("", done(Work::ChargedFull)), ("", done(Work::Cleaned))]);
    let lines = job_lines(job, FLOODED, &part, &JobSeen::default());
    let said = wording::owner_job(job, &lines, FLOODED);
    assert!(said.starts_with("Storage preparation: 2 of 8 lines done; not done: "), "{said}");
    assert!(said.contains("water to the mark") && !said.contains("charged full"), "{said}");
}

proptest! {
    /// More written down never makes fewer lines answered.
    #[test]
    fn ticks_only_add(ticks in prop::collection::vec(0usize..8, 0..12), job in 0..Job::VARIANTS.len()) {
        let job = Job::VARIANTS[job];
        let mut all: Vec<(&str, Entry)> = vec![("", Entry::Job { job })];
        let mut before = 0;
        for tick in ticks {
            let tasks = job_tasks(job, FLOODED);
            let task = tasks[tick % tasks.len()];
            all.push(("", match task.by() {
                TaskBy::Work(work) => done(work),
                TaskBy::Step(step) => Entry::Step { step, state: StepState::Done, reason: String::new() },
                TaskBy::Check(check) => Entry::Checked { check, found: None, measured: None },
                _ => Entry::JobTask { task, none_here: false },
            }));
            let sheet = sheet(all.clone());
            let lines = job_lines(job, FLOODED, &sheet, &JobSeen::default());
            let answered = lines.iter().filter(|line| line.is_answered()).count();
            prop_assert!(answered >= before);
            before = answered;
        }
    }
}
