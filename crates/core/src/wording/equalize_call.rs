//! Whether an equalize is advised, in words (RD-9).

use super::names;
use crate::bank::CellAddress;
use crate::finding::{BarredBy, EqualizeCall};

/// What has to be put right before anybody equalizes.
pub(super) struct BarredWords {
    /// As a sentence: "Find the dead cell first."
    pub first: &'static str,
}

impl BarredWords {
    /// None where nothing forbids an equalize.
    pub(super) fn of(call: EqualizeCall) -> Option<Self> {
        let EqualizeCall::Barred { by } = call else { return None };
        let first = match by {
            BarredBy::DeadCell => "Find the dead cell first.",
            BarredBy::Acid => "Find out about the acid first.",
            BarredBy::LowLevels => "Put the levels right first.",
            BarredBy::Layered => "Stir the acid first.",
            BarredBy::Sealed => "Sealed batteries are charged as their maker says, and no further.",
            BarredBy::MissingVolts => "Find the missing volts first.",
            BarredBy::FarFromFull => "Charge fully first.",
        };
        Some(Self { first })
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
