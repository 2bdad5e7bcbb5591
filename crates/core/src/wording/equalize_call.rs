//! Whether an equalize is advised, in words (RD-9).

use super::names;
use crate::bank::CellAddress;
use crate::finding::{BarredBy, EqualizeCall};

/// What has to be put right before anybody equalizes.
pub(super) struct BarredWords {
    /// As a sentence: "Find the dead cell first."
    pub first: &'static str,
    /// Why, as a sentence.
    pub why: &'static str,
}

impl BarredWords {
    /// None where nothing forbids an equalize.
    pub(super) fn of(call: EqualizeCall) -> Option<Self> {
        let EqualizeCall::Barred { by } = call else { return None };
        let (first, why) = match by {
            BarredBy::DamagedCase => (
                "Take the damaged battery out first.",
                "A case is bulging, cracked, leaking or hot: charging it heats and gasses it further.",
            ),
            BarredBy::DeadCell => (
                "Find the dead cell first.",
                "A cell gives no volts: charging against it heats it and overcharges its mates.",
            ),
            BarredBy::Acid => (
                "Find out about the acid first.",
                "Gravity stands above full: no charge takes acid out of a cell.",
            ),
            BarredBy::LowLevels => (
                "Put the levels right first.",
                "Levels are low: gassing uses up more water, and the acid reads high without it.",
            ),
            BarredBy::Layered => (
                "Stir the acid first.",
                "The acid is layered: until it is mixed nobody knows which cells are low.",
            ),
            BarredBy::Sealed => (
                "Sealed batteries are charged as their maker says, and no further.",
                "The batteries are sealed: the water that an equalize drives off cannot be replaced.",
            ),
            BarredBy::MissingVolts => (
                "Find the missing volts first.",
                "The bank rests lower than its gravity leads to, and nobody has explained it.",
            ),
            BarredBy::FarFromFull => (
                "Charge fully first.",
                "The bank was far from full when it was read: cells that are not full differ for many reasons.",
            ),
        };
        Some(Self { first, why })
    }
}

/// "Equalize" or "Charge fully, then equalize"; none where it is not asked for.
pub(super) fn equalize_first(call: EqualizeCall) -> Option<&'static str> {
    match call {
        EqualizeCall::Asked { proven_full: true } => Some("Equalize"),
        EqualizeCall::Asked { proven_full: false } => Some("Charge fully, then equalize"),
        EqualizeCall::NotAsked | EqualizeCall::Barred { .. } => None,
    }
}

/// The same in the middle of a sentence; empty where it is not asked for.
pub(super) fn then_equalize(call: EqualizeCall) -> &'static str {
    match call {
        EqualizeCall::Asked { proven_full: true } => "equalize",
        EqualizeCall::Asked { proven_full: false } => "charge fully and equalize",
        EqualizeCall::NotAsked | EqualizeCall::Barred { .. } => "",
    }
}

/// "Equalize with A3-2 as the pilot. If it gains under 10 points, plan for a new battery."; none where no
/// equalize is asked for. The pilot is the lowest of the cells.
pub(super) fn pilot_advice(call: EqualizeCall, cells: &[CellAddress]) -> Option<String> {
    let equalize = names::sentence(then_equalize(call));
    let pilot = cells.first().filter(|_| !equalize.is_empty())?;
    Some(format!(
        "{equalize} with {pilot} as the pilot. If it gains under 10 points, plan for a new battery."
    ))
}
