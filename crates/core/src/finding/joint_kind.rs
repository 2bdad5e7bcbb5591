//! The codes of what joints and strings show (CN-1, ST-1), each with its measured quantities.

use crate::parallel_share::ShareChange;
use serde::{Deserialize, Serialize};
use strum::IntoStaticStr;

/// What joints and strings show.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, IntoStaticStr)]
#[serde(tag = "code", rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum JointFinding {
    /// A joint stands far over its like, or over its own first value.
    RemakeJoint {
        /// Which: "B1+".
        joint: String,
        /// mΩ.
        milliohms: f64,
        /// Times the middle of its like; none: fewer than three are alike.
        times_like: Option<f64>,
        /// Times its own first value; none: not on record.
        times_first: Option<f64>,
    },
    /// The strings share a current unevenly.
    StringsShareUnevenly {
        /// Share of each, in order.
        shares: Vec<f64>,
        /// True where a clamp meter read it; false where the wiring alone tells it.
        clamped: bool,
        /// What evens them with the least work; none: nothing that is described does.
        remedy: Option<ShareRemedy>,
    },
}

/// What evens the strings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShareRemedy {
    /// Joints that are remade.
    pub remade: Vec<String>,
    /// What is changed.
    pub change: ShareChange,
    /// The battery that a new one takes the place of.
    #[serde(default)]
    pub renewed: Option<String>,
    /// The shares then.
    pub shares: Vec<f64>,
}
