//! Something of joints, currents of strings or torque as typed: text turned into quantities, every fault named by its field.

use super::faults::{Faults, filled};
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::joints::{JointPart, Pole};
use rainshadow_core::quantity::torque::typed_torque;
use rainshadow_core::quantity::units::TorqueUnit;
use rainshadow_core::quantity::{bounds, typed};
use rainshadow_core::visit::JointEntry;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a meter resolves where nobody says, mV (common practice, no source).
pub const USUAL_RESOLUTION: f64 = 0.1;

/// Something of joints, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "joint", rename_all = "snake_case")]
pub enum TypedJoint {
    /// Millivolts across a joint of a battery.
    Drop {
        /// At which post.
        pole: Pole,
        /// What of it.
        #[serde(default)]
        part: JointPart,
        /// mV.
        millivolts: String,
        /// Current of the whole bank, A.
        amperes: String,
        /// What the meter resolves, mV; empty: 0.1.
        #[serde(default)]
        resolution: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Current of a string by a clamp meter.
    Current {
        /// A.
        amperes: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Joints were set to torque.
    Torqued {
        /// Torque; empty: without a torque wrench.
        #[serde(default)]
        torque: String,
        /// What it is typed in.
        #[serde(default)]
        torque_unit: TorqueUnit,
        /// True when they were made anew.
        #[serde(default)]
        remade: bool,
        /// In the technician’s words.
        #[serde(default)]
        note: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
}

impl TypedJoint {
    /// What was typed, on a bank of these batteries.
    ///
    /// # Errors
    /// [`AppError`] that names the field, what was wrong and what is accepted.
    pub fn parse(&self, model: &BatteryModel) -> AppResult<JointEntry> {
        let mut faults = Faults::default();
        let entry = self.read(&mut faults, model);
        faults.none()?;
        entry.ok_or_else(|| AppError::field("what", "A figure is missing."))
    }

    fn read(&self, f: &mut Faults, model: &BatteryModel) -> Option<JointEntry> {
        Some(match self {
            Self::Drop { pole, part, millivolts, amperes, resolution, stands } => {
                let millivolts = f.take("millivolts", typed::number(millivolts, bounds::JOINT_DROP));
                let amperes = f.take("amperes", typed::number(amperes, bounds::TEST_CURRENT));
                let resolution = filled(Some(resolution)).map_or(Some(USUAL_RESOLUTION), |t| {
                    f.take("resolution", typed::number(t, bounds::METER_RESOLUTION))
                });
                JointEntry::Drop {
                    pole: *pole,
                    part: *part,
                    millivolts: millivolts?,
                    amperes: amperes?,
                    resolution: resolution?,
                    stands: *stands,
                }
            }
            Self::Current { amperes, stands } => JointEntry::Current {
                amperes: f.take("amperes", typed::number(amperes, bounds::STRING_CURRENT))?,
                stands: *stands,
            },
            Self::Torqued { torque, torque_unit, remade, note, stands } => JointEntry::Torqued {
                newton_metres: filled(Some(torque))
                    .and_then(|text| f.take("torque", typed_torque(text, *torque_unit))),
                asked: model.post_torque,
                remade: *remade,
                note: note.trim().to_owned(),
                stands: *stands,
            },
        })
    }
}
