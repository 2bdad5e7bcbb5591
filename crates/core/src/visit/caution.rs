//! Safety cautions in the step where the hazard is. They defer to the maker's manual, local codes
//! and licensed practice; the ones that hurt people when skipped are confirmed by name and time.

use super::Step;
use crate::bank::BankShape;
use crate::battery_model::Construction;
use serde::{Deserialize, Serialize};

/// Nominal volts from which charging reaches 60 V DC: a 48 V bank equalizing is above it.
const HIGHER_VOLTAGE: u16 = 48;

/// A caution.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Caution {
    /// Sulphuric acid: eyes, hands, clothes.
    Acid,
    /// Metal on hands and neck, tools.
    MetalOff,
    /// Hydrogen: air, no flame, no switching.
    Ventilated,
    /// Loads and chargers off, bank isolated.
    Isolated,
    /// 48 V banks on charge and above, inverters.
    HigherVoltage,
    /// Colours differ from rig to rig.
    WiringOnRecord,
    /// Chassis-grounded systems.
    NegativeFirst,
    /// A sealed battery that is hot, hissing or swollen.
    HotSealed,
    /// Cracked or frozen.
    Frozen,
    /// Loose lugs while measuring.
    LooseLugs,
    /// Samples and drops.
    Samples,
    /// What goes into a cell.
    PureWater,
    /// Opening sealed batteries.
    NeverOpen,
    /// Moving batteries.
    Weight,
}

impl Caution {
    /// True when it hurts people if skipped: confirmed by name and time.
    pub fn confirmed(self) -> bool {
        matches!(self, Self::Acid | Self::MetalOff | Self::Ventilated | Self::Isolated | Self::HigherVoltage)
    }

    /// What to do, in the imperative.
    pub fn said(self, construction: Construction) -> &'static str {
        match self {
            Self::Acid if construction.has_caps() => {
                "Goggles or face shield, acid gloves, apron, long sleeves on. Water within reach: acid in the eye is flushed at once for 15 minutes, then a doctor. Bicarbonate for spills, outside the cells only."
            }
            Self::Acid => {
                "Goggles and gloves on: a cracked sealed case leaks acid too. Water within reach: flush eyes at once for 15 minutes, then a doctor."
            }
            Self::MetalOff => {
                "Rings, watch and necklace off. Insulated tools only, none laid on the batteries."
            }
            Self::Ventilated => {
                "Ventilation on and unblocked. No flame, no smoking, no switching near the vents: hydrogen burns from 4 % on."
            }
            Self::Isolated => {
                "Loads off, chargers off at their source, bank isolated. A reading under charge is wrong and caps spit."
            }
            Self::HigherVoltage => {
                "This bank passes 60 V DC on charge or equalize. That, and all mains wiring, is work for a qualified person under local rules."
            }
            Self::WiringOnRecord => {
                "Photograph and label the wiring before anything comes off. Never trust colours: they differ from rig to rig."
            }
            Self::NegativeFirst => {
                "Where the negative is grounded to the chassis it comes off first and goes on last."
            }
            Self::HotSealed => {
                "Hot, hissing or swollen: stop the charge at its source or breaker, never at the posts. Ventilate, leave it, do not move or touch it until it is cool. A smell of rotten eggs means get out."
            }
            Self::Frozen => {
                "Cracked or frozen: do not charge, do not load, do not lift by the posts. Contain the leak; thaw by warming through, inspect, then a slow charge."
            }
            Self::LooseLugs => {
                "Keep hold of loose lugs; probes on the posts themselves, never across two rows."
            }
            Self::Samples => "Return each sample to its own cell. Do not lean over an open cell.",
            Self::PureWater => {
                "Distilled or deionised water only, never acid, never tap. Cover bare plates first; fill to the mark only when charged."
            }
            Self::NeverOpen => {
                "A sealed battery is never opened. Found opened or refilled: note it, treat its capacity as unproven."
            }
            Self::Weight => "Two people or a lift for anything above about 25 kg; keep it upright.",
        }
    }
}

/// The cautions of a step on this bank.
pub fn cautions(step: Step, shape: &BankShape, construction: Construction) -> Vec<Caution> {
    let caps = construction.has_caps();
    let all: &[(Caution, bool)] = match step {
        Step::MakeSafe => &[
            (Caution::Acid, true),
            (Caution::MetalOff, true),
            (Caution::Ventilated, true),
            (Caution::Isolated, true),
            (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE),
            (Caution::WiringOnRecord, true),
            (Caution::NegativeFirst, shape.system_voltage <= 48),
        ],
        Step::LookOver => &[
            (Caution::HotSealed, !caps),
            (Caution::NeverOpen, !caps),
            (Caution::Frozen, true),
            (Caution::Weight, true),
        ],
        Step::RestCheck => &[(Caution::LooseLugs, true)],
        Step::Round => &[(Caution::Samples, true)],
        Step::Equalize => {
            &[(Caution::Ventilated, true), (Caution::HigherVoltage, shape.system_voltage >= HIGHER_VOLTAGE)]
        }
        Step::Water => &[(Caution::PureWater, true), (Caution::Samples, true)],
        Step::CloseUp => &[(Caution::NegativeFirst, shape.system_voltage <= 48)],
    };
    all.iter().filter(|(_, applies)| *applies).map(|(caution, _)| *caution).collect()
}
