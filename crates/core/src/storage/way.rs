//! In which way a bank is left.

use super::error::StorageError;
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};

/// One way to leave a bank.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "way", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StorageWay {
    /// Everything off.
    Disconnected,
    /// Something goes on drawing.
    OnLoads {
        /// A of the bank, day and night.
        amperes: f64,
    },
    /// On its array, with what snow leaves of the harvest.
    OnArray {
        /// What controller and loads draw, A of the bank, day and night.
        amperes: f64,
        /// Harvest of a day by month without snow, Ah of the bank, January first.
        #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
        harvest: [f64; 12],
        /// Share of it that snow leaves, 0 to 1, by month.
        #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 12, max_items = 12))]
        snow: [f64; 12],
    },
    /// On a maintainer that holds it full.
    Maintained {
        /// V per cell at 25 °C; none: the float of the model.
        #[serde(default)]
        volts: Option<f64>,
        /// True where it follows the temperature (CH-2).
        #[serde(default)]
        follows: bool,
    },
    /// Disconnected, and carried to where it does not freeze.
    Indoors {
        /// Mean there, °C.
        mean: f64,
        /// Coldest there, °C.
        low: f64,
    },
}

/// Which way, without its figures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StorageWayKind {
    /// Everything off.
    Disconnected,
    /// Something goes on drawing.
    OnLoads,
    /// On its array.
    OnArray,
    /// On a maintainer.
    Maintained,
    /// Carried indoors.
    Indoors,
}

impl StorageWay {
    /// Which way.
    pub const fn kind(&self) -> StorageWayKind {
        match self {
            Self::Disconnected => StorageWayKind::Disconnected,
            Self::OnLoads { .. } => StorageWayKind::OnLoads,
            Self::OnArray { .. } => StorageWayKind::OnArray,
            Self::Maintained { .. } => StorageWayKind::Maintained,
            Self::Indoors { .. } => StorageWayKind::Indoors,
        }
    }

    /// Says whether it can be.
    pub(super) fn check(&self) -> Result<(), StorageError> {
        match self {
            Self::Disconnected => {}
            Self::OnLoads { amperes } => {
                bounds::STANDING_DRAW.check(*amperes)?;
            }
            Self::OnArray { amperes, harvest, snow } => {
                bounds::STANDING_DRAW.check(*amperes)?;
                for own in harvest {
                    bounds::HARVEST.check(*own)?;
                }
                for own in snow {
                    bounds::SNOW_SHARE.check(*own)?;
                }
            }
            Self::Maintained { volts, .. } => {
                volts.map(|own| bounds::CELL_VOLTAGE.check(own)).transpose()?;
            }
            Self::Indoors { mean, low } => {
                bounds::MEAN_TEMPERATURE.check(*mean)?;
                bounds::MEAN_TEMPERATURE.check(*low)?;
                if low > mean {
                    return Err(StorageError::LowOverMean { low: *low, mean: *mean });
                }
            }
        }
        Ok(())
    }
}
