//! The step of joints and strings.

use super::VisitContext;
use crate::app::pages::joints::{JointsSource, JointsView, joints_view};
use crate::app::typed::joint_entry::USUAL_RESOLUTION;
use rainshadow_core::quantity::torque::torque_unit;
use rainshadow_core::quantity::units::TorqueUnit;
use rainshadow_core::visit::{Entry, JointEntry, Place};
use serde::Serialize;
use utoipa::ToSchema;

/// A string whose current is clamped.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClampLine {
    /// "A".
    pub string: String,
    /// Its entry; empty: not clamped on this visit.
    pub entry: String,
    /// A; empty: not clamped.
    pub amperes: String,
    /// By whom and when.
    pub by: String,
}

/// Joints and strings on a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct JointsStep {
    /// As they stand with this visit.
    #[serde(flatten)]
    pub view: JointsView,
    /// Currents of the strings; empty: there is one.
    pub clamps: Vec<ClampLine>,
    /// Current of the bank as typed last on this visit, A; empty: not typed.
    pub amperes_typed: String,
    /// What the meter resolves as typed last, mV.
    pub resolution_typed: String,
    /// What a torque is typed in.
    pub torque_unit: TorqueUnit,
    /// Entries of torque of this visit.
    pub torqued: Vec<String>,
}

const fn is_torque(entry: &Entry) -> bool {
    matches!(entry, Entry::Joint { entry: JointEntry::Torqued { .. } })
}

impl VisitContext {
    /// Joints and strings as they stand with this visit.
    pub(super) fn joints(&self) -> JointsStep {
        let visits = self.all_visits();
        let wiring = self.sheet.wiring.clone().unwrap_or_default();
        let view = joints_view(&JointsSource {
            judged: self.judged_by(),
            visits: &visits,
            wiring: &wiring,
            now: Some(&self.sheet),
            today: self.today,
        });
        let last = self.sheet.standing().filter_map(|k| match &k.entry {
            Entry::Joint { entry: JointEntry::Drop { amperes, resolution, .. } } => {
                Some((*amperes, *resolution))
            }
            _ => None,
        });
        let last = last.last();
        let clamp = |string: u8| {
            let here = |k: &&rainshadow_core::visit::VisitEntry| {
                k.place == Place::String(string)
                    && matches!(&k.entry, Entry::Joint { entry: JointEntry::Current { .. } })
            };
            let own = self.sheet.standing().find(here);
            let amperes = own.and_then(|k| match &k.entry {
                Entry::Joint { entry: JointEntry::Current { amperes, .. } } => Some(format!("{amperes:.1}")),
                _ => None,
            });
            ClampLine {
                string: Place::String(string).to_string(),
                entry: own.map(|k| k.id.clone()).unwrap_or_default(),
                amperes: amperes.unwrap_or_default(),
                by: own.map(|k| self.signed(k)).unwrap_or_default(),
            }
        };
        let strings = self.bank.shape.parallel;
        JointsStep {
            view,
            clamps: if strings < 2 { Vec::new() } else { (0..strings).map(clamp).collect() },
            amperes_typed: last.map(|(amperes, _)| format!("{amperes:.1}")).unwrap_or_default(),
            resolution_typed: last.map_or(USUAL_RESOLUTION, |(_, own)| own).to_string(),
            torque_unit: torque_unit(self.units),
            torqued: self.sheet.standing().filter(|k| is_torque(&k.entry)).map(|k| k.id.clone()).collect(),
        }
    }
}
