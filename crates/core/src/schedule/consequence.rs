//! SC-1: what waiting does, by what was found.

use super::Consequence;
use crate::charge::Effect;
use crate::finding::{ChargerFinding, Finding, FindingKind, OhmicFinding, WaterFinding};
use crate::severity::Severity;

fn overcharges(found: &ChargerFinding) -> bool {
    match found {
        ChargerFinding::TooLittleAir { .. } | ChargerFinding::WrongCharger { .. } => true,
        ChargerFinding::OffSetpoint { stage } => {
            matches!(stage.effect, Some(Effect::Overcharge | Effect::EqualizeOnSealed))
        }
        ChargerFinding::HeldOff { off, .. } => *off > 0.0,
        ChargerFinding::NoneFinishes { .. }
        | ChargerFinding::LongWithoutFull { .. }
        | ChargerFinding::OddChargeFactor { .. }
        | ChargerFinding::HeldFixed => false,
    }
}

impl Consequence {
    /// What waiting with a finding does: harm where it damages cells or people, loss where it costs capacity
    /// or money (SC-1).
    #[must_use]
    pub fn of(finding: &Finding) -> Self {
        let harms = match &finding.kind {
            // What the eye rates as act is a danger by itself: a crack, a hot lug, a blocked vent, no fuse.
            FindingKind::Look(_) => finding.severity == Severity::Act,
            FindingKind::Ohmic(OhmicFinding::HotCase { .. })
            | FindingKind::Water(WaterFinding::PlatesBare | WaterFinding::LevelsAtPlates) => true,
            FindingKind::Ohmic(OhmicFinding::ResistanceRise { battery }) => {
                battery.hotter.is_some() && finding.severity == Severity::Act
            }
            FindingKind::Round(_)
            | FindingKind::Rest(_)
            | FindingKind::LoadTest(_)
            | FindingKind::Joints(_)
            | FindingKind::Water(_)
            | FindingKind::Equalize(_) => finding.is_dead(),
            // Gas that does not leave, and volts that boil or dry the cells.
            FindingKind::Charger(found) => finding.severity == Severity::Act && overcharges(found),
        };
        if harms { Self::Harm } else { Self::Loss }
    }
}
