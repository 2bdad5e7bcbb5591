//! A visit: one service call in the order of the trade, written down once.

mod accept;
mod capacities;
mod caution;
mod check;
mod closing;
mod corrected;
mod corrective;
mod electrical;
mod entry;
mod entry_checked;
mod evidence;
mod evidence_seen;
mod found_and_done;
mod held;
mod instrument_check;
mod instruments_checked;
mod job;
mod joint_accept;
mod joint_entry;
mod joint_refused;
mod joint_rounds;
mod judged;
mod left;
mod load_tests;
mod open_findings;
mod open_joints;
mod open_tests;
mod open_unproven;
mod place;
mod progress;
mod ran_dry;
mod recheck;
mod recheck_wanted;
mod record;
mod refused;
mod repair;
mod resistance_history;
mod sheet;
mod step;
mod steps;
mod test_accept;
mod test_entry;
mod test_refused;
mod torque_log;
mod van;
mod volts_by_state;
mod water_added;
mod work;

pub use accept::accept;
pub use capacities::capacities_by_day;
pub use caution::Caution;
pub use check::{Check, FoundKind, PLAY_ACT_MM, PLAY_WATCH_MM, SeenFinding, TRAY_WATCH_VOLTS, checks};
pub use closing::{ClosingItem, LeftAs, closing_items};
pub use corrected::Corrected;
pub use corrective::{CorrectiveAction, Measurement};
pub use electrical::{
    Gravities, Resistance, baseline_of_another_tester, electrical_findings, gravities, last_electrical,
    ohmic, ohmic_baselines, open_electrical_findings, rest_sheet,
};
pub use entry::{Entry, VisitEntry};
pub use entry_checked::ImpossibleEntry;
pub use evidence::{OnRecord, RoundOnRecord, diagnosis_evidence, step_that_measures};
pub use found_and_done::{FoundAndDone, RepairedOnly};
pub use instrument_check::{CheckedInstrument, DISTILLED, InstrumentChecked};
pub use instruments_checked::instruments_checked;
pub use job::{
    Job, JobLine, JobSeen, JobTask, Polarity, PolarityQuestion, TaskBy, TaskState, job_lines, job_tasks,
    polarities,
};
pub use joint_entry::JointEntry;
pub use joint_refused::{JointQuestion, JointRefused};
pub use joint_rounds::{
    CurrentBy, JointOnRecord, JointRead, JointsOfVisit, JointsOnRecord, joints_of_visit, joints_of_visits,
    joints_on_record,
};
pub use judged::Judged;
pub use load_tests::{
    BURN_MINUTES, BURN_REST_MINUTES, Burned, DischargeRecord, KnownLoad, PastDischarge, burned, cell_volts,
    discharge_under_way, discharges, is_tested, known_loads, last_test, load_on, past_discharges, real_loads,
    recharge_owed, same_load, set_up, short_load,
};
pub use open_findings::{answered_findings, left_severity, open_before, open_findings};
pub use open_joints::{joint_findings, open_joint_findings};
pub use open_tests::{open_test_findings, test_findings};
pub use open_unproven::{open_unproven, unproven_findings};
pub use place::{Place, PlaceError};
pub use progress::StepProgress;
pub use ran_dry::{RanDry, ran_dry};
pub use recheck::{Recheck, open_rechecks, recheck_day, rechecks};
pub use recheck_wanted::{RecheckWanted, RecheckWhy, rechecks_wanted};
pub use record::{
    PastFill, PastVisit, at_plates, bare_found, charged_for_storage, fills, kit_fills, last_done, last_volts,
    last_water_check, plates_bare, stored_since, uneven, water_history,
};
pub use refused::{EntryQuestion, EntryRefused};
pub use repair::{Left, Repair, Repaired};
pub use resistance_history::{ResistanceHistory, ResistanceOnDay, resistance_history};
pub use sheet::VisitSheet;
pub use step::{Step, StepState};
pub use steps::{StepWork, VisitUnderWay, steps, steps_of};
pub use test_entry::{BurnOff, TestEntry, TimedLoad};
pub use test_refused::{TestQuestion, TestRefused};
pub use torque_log::{TorqueSet, last_torqued, torque_log};
pub use van::{Gear, GearGroup, GearItem, Tool, Trip, VanLoad, van_load};
pub use volts_by_state::{VoltsLine, volts_before, volts_by_state};
pub use water_added::{UnevenLevels, WaterAdded};
pub use work::Work;
