//! What is written down on a visit, one entry at a time.

use super::{
    Caution, Check, CheckedInstrument, ClosingItem, CorrectiveAction, Job, JobTask, JointEntry, LeftAs,
    Measurement, Place, Repaired, SeenFinding, Step, StepState, TestEntry, Work,
};
use crate::actor::Actor;
use crate::rest::{RestConditions, VoltsState};
use crate::water::{FillWay, Level, LevelLamp, Poured, Spill};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};

/// One entry of a visit. Where it was is kept beside it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Entry {
    /// A caution was confirmed.
    Confirmed {
        /// Which.
        caution: Caution,
    },
    /// A step was done, skipped or taken up again.
    Step {
        /// Which.
        step: Step,
        /// What.
        state: StepState,
        /// Why it was skipped.
        #[serde(default)]
        reason: String,
    },
    /// Something was looked at: fine, or found.
    Checked {
        /// What was looked at.
        check: Check,
        /// What was found; none: fine.
        #[serde(default)]
        found: Option<SeenFinding>,
        /// Measured play or volts, where taken.
        #[serde(default)]
        measured: Option<f64>,
    },
    /// The bank has nothing to look at there: neither fine nor missing.
    NotHere {
        /// What it is without.
        check: Check,
    },
    /// Something was done about what was found.
    Repaired {
        /// What, and how it was left.
        repaired: Repaired,
    },
    /// Something was done about what a measurement showed.
    Corrected {
        /// Which measurement.
        measurement: Measurement,
        /// What was done.
        action: CorrectiveAction,
        /// In the technician's words.
        #[serde(default)]
        note: String,
    },
    /// What the bank did before its volts were read.
    Rested {
        /// Conditions.
        conditions: RestConditions,
    },
    /// Volts at the posts of a battery.
    BatteryVolts {
        /// V.
        volts: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Volts of a battery, a string or the bank in a state of its own; any number of them stand side by side.
    StateVolts {
        /// What the bank did then.
        state: VoltsState,
        /// V.
        volts: f64,
        /// Hours since charge and load ended, for volts at rest; none: unknown.
        #[serde(default)]
        hours: Option<f64>,
        /// A that the charger gives or the load draws, where a meter shows them.
        #[serde(default)]
        amperes: Option<f64>,
        /// What charges or draws, in the technician's words.
        #[serde(default)]
        note: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Volts across an isolated string.
    StringVolts {
        /// V.
        volts: f64,
    },
    /// Volts from the positive post of the string to the negative post of this battery.
    AlongVolts {
        /// V.
        volts: f64,
    },
    /// Internal resistance of a battery.
    Ohmic {
        /// mΩ.
        milliohms: f64,
        /// The tester, in the technician's words; empty: not told.
        #[serde(default)]
        tester: String,
        /// True when later readings are held against this one, as after a change of tester.
        #[serde(default)]
        new_baseline: bool,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Temperature of a case.
    CaseTemperature {
        /// °C.
        celsius: f64,
    },
    /// An instrument held against what it should show.
    InstrumentCheck {
        /// Which.
        instrument: CheckedInstrument,
        /// What it showed: gravity, V.
        shown: f64,
        /// What it should have shown: gravity, V.
        should: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Something of a load or capacity test.
    Test {
        /// What.
        test: TestEntry,
    },
    /// Something of joints, currents of strings or torque.
    Joint {
        /// What.
        entry: JointEntry,
    },
    /// Level of a cell, or of every cell of a place.
    Level {
        /// The level.
        level: Level,
    },
    /// Water added to a cell, a battery or the whole bank.
    Water {
        /// mL in all.
        millilitres: f64,
        /// True when it brought the place to the mark; false for plates that were only covered.
        to_mark: bool,
        /// True when a watering kit filled it.
        #[serde(default)]
        by_kit: bool,
        /// True when the amount was asked about and kept.
        #[serde(default)]
        stands: bool,
        /// With what, and how well the amount is known.
        #[serde(default)]
        poured: Poured,
    },
    /// Electrolyte ran out, was filled over the mark, or was drawn off.
    Spilled {
        /// What happened.
        spill: Spill,
        /// mL, where known.
        #[serde(default)]
        millilitres: Option<f64>,
        /// In the technician's words.
        #[serde(default)]
        note: String,
    },
    /// What a level lamp shows.
    Lamp {
        /// The lamp.
        lamp: LevelLamp,
    },
    /// A step is done again later: a recheck.
    Recheck {
        /// Which.
        step: Step,
        /// In how many hours.
        hours: f64,
        /// Why, in the technician's words.
        #[serde(default)]
        reason: String,
    },
    /// The visit is for one step alone, beside making safe and closing up.
    Only {
        /// Which.
        step: Step,
    },
    /// The visit is for a job.
    Job {
        /// Which.
        job: Job,
    },
    /// A line of the job was done, or there is nothing of the kind.
    JobTask {
        /// Which.
        task: JobTask,
        /// True where the bank has no such thing.
        #[serde(default)]
        none_here: bool,
    },
    /// Volts of a battery before it is joined, the red probe on the post marked positive; under 0: reversed.
    Polarity {
        /// V.
        volts: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Work was done.
    Done {
        /// Which.
        work: Work,
        /// In the technician's words.
        #[serde(default)]
        note: String,
    },
    /// How the bank is left.
    LeftAs {
        /// How.
        how: LeftAs,
    },
    /// A line of the closing list.
    Closed {
        /// Which.
        item: ClosingItem,
        /// True where the bank has no such thing.
        #[serde(default)]
        none_here: bool,
    },
    /// A note for the record and the report.
    Note {
        /// The text.
        text: String,
    },
    /// An earlier entry is taken back.
    Withdrawn {
        /// Its id.
        entry: String,
    },
}

/// An entry with where, by whom and when: from the key that typed it to its row and back.
#[derive(Debug, Clone, PartialEq)]
pub struct VisitEntry {
    /// Its id, made by the device.
    pub id: String,
    /// Where.
    pub place: Place,
    /// What.
    pub entry: Entry,
    /// As typed, with its units, JSON; none where nothing was typed.
    pub typed: Option<String>,
    /// Who, on which device.
    pub by: Actor,
    /// When, by the device.
    pub taken_at: Timestamp,
}

impl Entry {
    /// Entries under the same key at the same place take each other's place; none: each stands for
    /// itself, as every amount of water does. Each kind of thing that was found stands beside the others.
    pub fn key(&self) -> Option<String> {
        Some(match self {
            Self::Confirmed { caution } => format!("confirmed {caution:?}"),
            Self::Step { step, .. } => format!("step {step:?}"),
            Self::Checked { check, found: Some(found), .. } => format!("checked {check:?} {}", found.kind),
            Self::Checked { check, found: None, .. } | Self::NotHere { check } => {
                format!("checked {check:?}")
            }
            Self::Repaired { repaired: Repaired { check, found, repair, .. } } => {
                format!("repaired {check:?} {found} {repair:?}")
            }
            Self::Corrected { measurement, action, .. } => format!("corrected {measurement:?} {action:?}"),
            Self::Rested { .. } => "rested".into(),
            Self::BatteryVolts { .. } => "battery volts".into(),
            Self::StringVolts { .. } => "string volts".into(),
            Self::AlongVolts { .. } => "along volts".into(),
            Self::Ohmic { .. } => "ohmic".into(),
            Self::CaseTemperature { .. } => "case temperature".into(),
            Self::InstrumentCheck { instrument, .. } => format!("instrument check {instrument:?}"),
            Self::Test { test } => return test.key(),
            Self::Joint { entry } => return entry.key(),
            Self::Level { .. } => "level".into(),
            Self::Lamp { .. } => "lamp".into(),
            Self::Done { work, .. } => format!("done {work:?}"),
            Self::Closed { item, .. } => format!("closed {item:?}"),
            Self::Recheck { step, .. } => format!("recheck {step:?}"),
            Self::Only { .. } => "only".into(),
            Self::Job { .. } => "job".into(),
            Self::JobTask { task, .. } => format!("job task {task:?}"),
            Self::Polarity { .. } => "polarity".into(),
            Self::LeftAs { .. } => "left as".into(),
            Self::StateVolts { .. }
            | Self::Water { .. }
            | Self::Spilled { .. }
            | Self::Note { .. }
            | Self::Withdrawn { .. } => {
                return None;
            }
        })
    }

    /// True for water that got in behind tubes, where nobody looks (WA-6).
    pub fn fills_unseen(&self) -> bool {
        matches!(self, Self::Water { by_kit, poured, .. } if *by_kit || poured.how.is_some_and(FillWay::fills_unseen))
    }

    /// True for what the machine times by its own clock: phones go wrong.
    pub const fn is_timed_by_machine(&self) -> bool {
        matches!(self, Self::Test { test } if test.is_timed_by_machine())
    }

    /// True when it says that a work was done.
    pub fn does(&self, work: Work) -> bool {
        matches!(self, Self::Done { work: own, .. } if *own == work)
    }

    /// Stable name of its kind, for the database.
    pub fn kind(&self) -> &'static str {
        match self {
            Self::Confirmed { .. } => "confirmed",
            Self::Step { .. } => "step",
            Self::Checked { .. } => "checked",
            Self::NotHere { .. } => "not_here",
            Self::Repaired { .. } => "repaired",
            Self::Corrected { .. } => "corrected",
            Self::Rested { .. } => "rested",
            Self::BatteryVolts { .. } => "battery_volts",
            Self::StateVolts { .. } => "state_volts",
            Self::StringVolts { .. } => "string_volts",
            Self::AlongVolts { .. } => "along_volts",
            Self::Ohmic { .. } => "ohmic",
            Self::CaseTemperature { .. } => "case_temperature",
            Self::InstrumentCheck { .. } => "instrument_check",
            Self::Test { .. } => "test",
            Self::Joint { .. } => "joint",
            Self::Level { .. } => "level",
            Self::Water { .. } => "water",
            Self::Spilled { .. } => "spilled",
            Self::Lamp { .. } => "lamp",
            Self::Recheck { .. } => "recheck",
            Self::Only { .. } => "only",
            Self::Job { .. } => "job",
            Self::JobTask { .. } => "job_task",
            Self::Polarity { .. } => "polarity",
            Self::Done { .. } => "done",
            Self::LeftAs { .. } => "left_as",
            Self::Closed { .. } => "closed",
            Self::Note { .. } => "note",
            Self::Withdrawn { .. } => "withdrawn",
        }
    }
}
