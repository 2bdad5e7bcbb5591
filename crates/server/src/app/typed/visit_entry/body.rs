//! What people type on a visit.

use crate::app::typed::conditions::TypedTemperature;
use crate::app::typed::joint_entry::TypedJoint;
use crate::app::typed::test_entry::TypedTest;
use crate::app::typed::water::WaterUnit;
use rainshadow_core::ohmic::OhmicUnit;
use rainshadow_core::quantity::units::{LengthUnit, TorqueUnit};
use rainshadow_core::rest::VoltsState;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Caution, Check, CheckedInstrument, ClosingItem, CorrectiveAction, Job, JobTask, Left, LeftAs,
    Measurement, Repair, Step, StepState, Work,
};
use rainshadow_core::water::{LevelLamp, LevelStep, Poured, Spill};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Something found, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TypedFound {
    /// Key of the kind.
    pub kind: String,
    /// How bad; the usual of its kind when left out.
    #[serde(default)]
    pub severity: Option<Severity>,
    /// In the technician's words.
    #[serde(default)]
    pub note: String,
}

/// What is written down, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum TypedBody {
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
    /// Something was looked at.
    Checked {
        /// What was looked at.
        check: Check,
        /// What was found; none: fine.
        #[serde(default)]
        found: Option<TypedFound>,
        /// Play in the reader's length unit, or volts to the tray.
        #[serde(default)]
        measured: Option<String>,
    },
    /// The bank has nothing to look at there.
    NotHere {
        /// What it is without.
        check: Check,
    },
    /// Something was done about what was found.
    Repaired {
        /// What was looked at.
        check: Check,
        /// Key of the kind that was found.
        found: String,
        /// What was done.
        repair: Repair,
        /// How it was left.
        left: Left,
        /// Torque that was set, as typed; empty: none.
        #[serde(default)]
        torque: Option<String>,
        /// What the wrench shows.
        #[serde(default)]
        torque_unit: TorqueUnit,
        /// What it was cleaned with; empty: not told.
        #[serde(default)]
        agent: String,
        /// What was put on against corrosion; empty: nothing.
        #[serde(default)]
        coating: String,
        /// True where lock nuts were put on.
        #[serde(default)]
        lock_nuts: bool,
        /// The part that was used.
        #[serde(default)]
        part: String,
        /// In the technician's words.
        #[serde(default)]
        note: String,
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
        /// On charge now.
        #[serde(default)]
        charging: bool,
        /// Under load now.
        #[serde(default)]
        loaded: bool,
        /// Hours since the charge ended; empty: unknown.
        #[serde(default)]
        hours_since_charge: Option<String>,
        /// Hours since the last load; empty: unknown.
        #[serde(default)]
        hours_since_load: Option<String>,
        /// A real load burned the surface charge off.
        #[serde(default)]
        surface_charge_removed: bool,
        /// Temperature of the cases.
        #[serde(default)]
        temperature: Option<TypedTemperature>,
        /// What still draws.
        #[serde(default)]
        still_draws: String,
        /// The charge before was a full one.
        #[serde(default)]
        charged_full: bool,
        /// Disconnected from loads and chargers since.
        #[serde(default)]
        disconnected: bool,
    },
    /// Volts of a battery, a string or the bank in a state of its own.
    StateVolts {
        /// What the bank does.
        state: VoltsState,
        /// As typed.
        typed: String,
        /// Hours since charge and load ended, as typed; empty: unknown.
        #[serde(default)]
        hours: Option<String>,
        /// A of the charger or the load, as typed; empty: not shown.
        #[serde(default)]
        amperes: Option<String>,
        /// What charges or draws.
        #[serde(default)]
        note: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Volts of a battery.
    BatteryVolts {
        /// As typed.
        typed: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Volts of a string.
    StringVolts {
        /// As typed.
        typed: String,
    },
    /// Volts from the string's positive post to this battery's negative.
    AlongVolts {
        /// As typed.
        typed: String,
    },
    /// What a resistance or conductance tester shows.
    Ohmic {
        /// As typed.
        typed: String,
        /// Its unit.
        #[serde(default)]
        unit: OhmicUnit,
        /// The tester; empty: not told.
        #[serde(default)]
        tester: String,
        /// True when later readings are held against this one.
        #[serde(default)]
        new_baseline: bool,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Something of joints, currents of strings or torque.
    Joint {
        /// What.
        entry: TypedJoint,
    },
    /// Something of a load or capacity test.
    Test {
        /// What.
        test: TypedTest,
    },
    /// Temperature of a case.
    CaseTemperature {
        /// The temperature.
        temperature: TypedTemperature,
    },
    /// An instrument held against what it should show.
    InstrumentCheck {
        /// Which.
        instrument: CheckedInstrument,
        /// What it shows: gravity in distilled water, or V.
        shown: String,
        /// V that the other meter shows on the same posts; none: distilled water.
        #[serde(default)]
        should: Option<String>,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// A level: a step, or measured.
    Level {
        /// The step.
        #[serde(default)]
        step: Option<LevelStep>,
        /// Over the plates, as typed, negative under them.
        #[serde(default)]
        typed: Option<String>,
        /// Its unit.
        #[serde(default)]
        unit: LengthUnit,
    },
    /// Water added.
    Water {
        /// As typed; empty where the amount is not known.
        typed: String,
        /// Its unit.
        #[serde(default)]
        unit: WaterUnit,
        /// True when it brought the place to the mark.
        to_mark: bool,
        /// True when a watering kit filled it.
        #[serde(default)]
        by_kit: bool,
        /// True when asked about and kept.
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
        /// As typed; empty: not known.
        #[serde(default)]
        typed: Option<String>,
        /// Its unit.
        #[serde(default)]
        unit: WaterUnit,
        /// In the technician's words.
        #[serde(default)]
        note: String,
    },
    /// What a level lamp shows.
    Lamp {
        /// The lamp.
        lamp: LevelLamp,
    },
    /// A step is done again later.
    Recheck {
        /// Which.
        step: Step,
        /// In how many hours, as typed.
        hours: String,
        /// Why.
        #[serde(default)]
        reason: String,
    },
    /// The visit is for one step alone.
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
    /// Volts of a battery before it is joined, the red probe on the post marked positive.
    Polarity {
        /// V, with its sign.
        typed: String,
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
    /// A note.
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
