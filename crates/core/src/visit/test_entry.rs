//! What is written down of a load or capacity test.

use crate::cell_volts::CellVoltsWhen;
use crate::discharge::DischargeEvent;
use crate::load_test::{LoadedVolts, RealLoadRead, ShortLoadSetUp};
use serde::{Deserialize, Serialize};

/// What was switched to burn the surface charge off (LT-1).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BurnOff {
    /// A real load was switched on.
    LoadOn,
    /// Everything was switched off, and the batteries rest.
    LoadOff,
}

/// What a load was switched on for, whose seconds count.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TimedLoad {
    /// Seconds under a tester, one battery.
    ShortLoad,
    /// Minutes under the load of the system.
    RealLoad,
}

/// One thing written down of a test.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "test", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TestEntry {
    /// The surface charge is burned off.
    BurnOff {
        /// What was switched.
        switched: BurnOff,
    },
    /// A load was switched on whose seconds count.
    LoadOn {
        /// What for.
        of: TimedLoad,
    },
    /// What loads the batteries for some seconds, one after the other.
    SetUp {
        /// The set-up.
        set_up: ShortLoadSetUp,
    },
    /// One battery under that load.
    ShortLoad {
        /// Its volts.
        read: LoadedVolts,
    },
    /// Minutes under the load of the system itself.
    RealLoad {
        /// What was read.
        read: RealLoadRead,
    },
    /// Something of a timed discharge.
    Discharge {
        /// What.
        event: DischargeEvent,
    },
    /// Hours that the same load ran when the bank was new, and now.
    KnownLoad {
        /// What the load was.
        load: String,
        /// Hours when new.
        when_new: f64,
        /// Hours now.
        now: f64,
    },
    /// Volts of one cell.
    CellVolts {
        /// What the bank did then.
        when: CellVoltsWhen,
        /// V.
        volts: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
}

impl TestEntry {
    /// Entries under the same key at the same place take each other's place; none: each stands for itself.
    pub fn key(&self) -> Option<String> {
        match self {
            Self::SetUp { .. } => Some("short load set-up".into()),
            Self::ShortLoad { .. } => Some("short load".into()),
            Self::CellVolts { when, .. } => Some(format!("cell volts {when:?}")),
            Self::KnownLoad { load, .. } => Some(format!("known load {}", load.trim().to_lowercase())),
            Self::BurnOff { .. } | Self::LoadOn { .. } | Self::RealLoad { .. } | Self::Discharge { .. } => {
                None
            }
        }
    }

    /// True for what the machine times by its own clock: phones go wrong.
    pub const fn is_timed_by_machine(&self) -> bool {
        match self {
            Self::BurnOff { .. } | Self::LoadOn { .. } => true,
            Self::Discharge { event } => event.is_timed_by_machine(),
            _ => false,
        }
    }

    /// True when it is a test of its own, not something that prepares one.
    pub const fn is_a_test(&self) -> bool {
        !matches!(self, Self::BurnOff { .. } | Self::LoadOn { .. } | Self::SetUp { .. })
    }
}
