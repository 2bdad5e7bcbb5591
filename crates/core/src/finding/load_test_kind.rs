//! The codes of what load and capacity tests show (LT-2, LT-3, CT-1, CT-3, CV-1), each with its measured quantities.

use crate::cell_volts::{CellVoltsJudged, CellVoltsWhen};
use crate::discharge::DischargedMate;
use crate::load_test::ShortLoadJudged;
use crate::recovery::{RecoveryStage, SlowCharge};
use crate::schedule::Duty;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use strum::IntoStaticStr;

/// What a test shows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LoadTestFinding {
    /// A battery falls too far under some seconds of load.
    FallsUnderLoad {
        /// As judged.
        battery: ShortLoadJudged,
    },
    /// The bank falls too far under the load of the system.
    FallsUnderRealLoad {
        /// V on 12 V it fell.
        drop: f64,
        /// V on 12 V that a sound one falls.
        expected: f64,
        /// Current, A.
        amperes: f64,
        /// True when it is weak, not only watched.
        weak: bool,
    },
    /// A load draws more than its plate says: it is worn or blocked, no fault of the bank.
    LoadOverPlate {
        /// What it is.
        name: String,
        /// A it draws.
        amperes: f64,
        /// A on its plate.
        plate: f64,
    },
    /// The loads together come near the inverter's limit, or over it.
    InverterLoad {
        /// Share of its continuous limit.
        share: f64,
    },
    /// The inverter gives other volts or hertz than it should.
    InverterOutput {
        /// True when mains or a generator fed it then.
        on_mains: bool,
    },
    /// A timed discharge shows less than the duty asks for.
    CapacityFalls {
        /// Per cent of the rated capacity.
        percent: f64,
        /// Its range, per cent.
        range: [f64; 2],
        /// Hours it lasted.
        hours: f64,
        /// Mean current, A.
        amperes: f64,
        /// What the bank is for.
        duty: Duty,
    },
    /// From its first timed discharge to the last the capacity fell by more than both tell for certain.
    CapacitySinks {
        /// Per cent of the rated capacity, first and last.
        percent: [f64; 2],
        /// Lower end of the first range, upper end of the last, per cent.
        ranges: [f64; 2],
    },
    /// One battery gives out before its mates in a discharge.
    GivesOutFirst {
        /// As judged.
        battery: DischargedMate,
    },
    /// The same load runs for less long than when the bank was new.
    KnownLoadFalls {
        /// What the load is.
        load: String,
        /// Hours when new, and now.
        hours: [f64; 2],
    },
    /// It ran dry, or was opened though it is sealed, and no timed discharge has proven it since.
    Unproven {
        /// The day it was found.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        day: Date,
        /// True for a sealed one.
        sealed: bool,
        /// What is next.
        stage: RecoveryStage,
        /// The slow charge that it takes.
        charge: SlowCharge,
    },
    /// A cell shows fewer volts than it should, or than its mates.
    CellVolts {
        /// As judged.
        cell: CellVoltsJudged,
        /// What the bank did then.
        when: CellVoltsWhen,
    },
}
