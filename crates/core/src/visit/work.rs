//! Work of a visit that is dated.

use serde::{Deserialize, Serialize};

/// Work that is dated, because the next time is counted from it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Work {
    /// Equalized.
    Equalized,
    /// Joints tightened to torque.
    Retorqued,
    /// Tops and joints cleaned.
    Cleaned,
    /// Load tested.
    LoadTested,
    /// Capacity tested by a timed discharge.
    CapacityTested,
    /// Standby check before the wet season or after first frost.
    StandbyChecked,
    /// Storage check.
    StorageChecked,
    /// Every cell behind the watering kit looked into.
    CellsInspected,
    /// Charged full on this visit.
    ChargedFull,
}

impl Work {
    /// Every kind of work.
    pub const ALL: [Self; 9] = [
        Self::ChargedFull,
        Self::Equalized,
        Self::Cleaned,
        Self::Retorqued,
        Self::LoadTested,
        Self::CapacityTested,
        Self::StandbyChecked,
        Self::StorageChecked,
        Self::CellsInspected,
    ];
}
