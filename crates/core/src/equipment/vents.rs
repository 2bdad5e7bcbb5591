//! VE-1 held against the fan and the openings that are really there.

use crate::severity::Severity;
use crate::ventilation::Ventilation;
use serde::{Deserialize, Serialize};

/// The fan and the openings of the place of a bank.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Vents {
    /// What a fan moves, m³/h; none: no fan is told.
    #[serde(default)]
    pub fan: Option<f64>,
    /// Free area by which air comes in low, cm²; none: not told.
    #[serde(default)]
    pub inlet: Option<f64>,
    /// Free area by which it leaves high, cm²; none: not told.
    #[serde(default)]
    pub outlet: Option<f64>,
}

impl Vents {
    /// True where nothing was told.
    pub const fn is_untold(&self) -> bool {
        self.fan.is_none() && self.inlet.is_none() && self.outlet.is_none()
    }
}

/// The air as it is against what the bank asks for.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AirJudged {
    /// What is there.
    pub vents: Vents,
    /// What a boost charge or an equalize asks for.
    pub boost: Ventilation,
    /// What float asks for.
    pub float: Ventilation,
    /// Steady: enough for a boost charge; watch: enough for float only, or one opening alone was told; act: not
    /// even for float.
    pub condition: Severity,
    /// True where an opening in or out is missing, and no fan moves enough.
    pub one_way: bool,
}

/// VE-1: a fan that moves the airflow, or openings in and out of the area each; none where nothing was told.
pub fn judge_air(vents: Vents, boost: Ventilation, float: Ventilation) -> Option<AirJudged> {
    if vents.is_untold() {
        return None;
    }
    let smaller = vents.inlet.unwrap_or(0.0).min(vents.outlet.unwrap_or(0.0));
    // A fan needs a way for the air as well; how wide that must be the standard leaves to its maker.
    let enough = |own: &Ventilation| vents.fan.unwrap_or(0.0) >= own.airflow || smaller >= own.opening;
    let larger = vents.inlet.unwrap_or(0.0).max(vents.outlet.unwrap_or(0.0));
    let one_way = !enough(&boost) && larger > 0.0 && (vents.inlet.is_none() || vents.outlet.is_none());
    let condition = match (enough(&boost), enough(&float)) {
        (true, _) => Severity::Steady,
        (false, true) => Severity::Watch,
        (false, false) if one_way && larger >= float.opening => Severity::Watch,
        (false, false) => Severity::Act,
    };
    Some(AirJudged { vents, boost, float, condition, one_way })
}
