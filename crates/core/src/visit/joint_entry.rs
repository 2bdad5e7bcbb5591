//! What is written down of joints, currents of strings and torque.

use crate::joints::{JointPart, Pole};
use serde::{Deserialize, Serialize};

/// One thing written down of the joints of a bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "joint", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum JointEntry {
    /// Millivolts across a joint of a battery.
    Drop {
        /// At which post.
        pole: Pole,
        /// What of it.
        #[serde(default)]
        part: JointPart,
        /// mV.
        millivolts: f64,
        /// Current of the whole bank then, A.
        amperes: f64,
        /// What the meter resolves, mV.
        resolution: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Current of a string by a clamp meter.
    Current {
        /// A; negative where it runs against the others.
        amperes: f64,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Joints of a battery, or of the whole bank, were set to torque.
    Torqued {
        /// N·m that was set; none: by hand, without a torque wrench.
        newton_metres: Option<f64>,
        /// N·m that the model asks for, as it was known then.
        #[serde(default)]
        asked: Option<f64>,
        /// True when they were taken apart, cleaned and made anew.
        #[serde(default)]
        remade: bool,
        /// In the technician's words.
        #[serde(default)]
        note: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
}

impl JointEntry {
    /// Entries under the same key at the same place take each other's place; none: each stands for itself.
    pub fn key(&self) -> Option<String> {
        match self {
            Self::Drop { pole, part, .. } => Some(format!("joint {pole:?} {part:?}")),
            Self::Current { .. } => Some("string current".into()),
            Self::Torqued { .. } => None,
        }
    }
}
