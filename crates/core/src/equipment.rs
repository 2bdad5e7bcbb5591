//! What stands at a bank: what charges it, what hangs on it, the air, switches and fuses, and the place.

mod changes;
mod fitting;
mod judged;
mod source;
mod surroundings;
mod vents;

pub use changes::{Setting, SourceChange, Telling, changes_by_day, source_changes};
pub use fitting::{Connection, Fitting, FittingKind};
pub use judged::{EquipmentJudged, JudgedSource, NeverFinish, judge_equipment};
pub use source::{Source, SourceKind, SourceRef};
pub use surroundings::Surroundings;
pub use vents::{AirJudged, Vents, judge_air};

use crate::charge::ChargerSettings;
use crate::equalize::{DaySource, Load};
use crate::wiring::Wiring;
use serde::{Deserialize, Serialize};

/// The equipment of a bank.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Equipment {
    /// What the first charger is set to: the one an equalize is planned with.
    #[serde(default)]
    pub charger: ChargerSettings,
    /// What it is; none: not told.
    #[serde(default)]
    pub kind: Option<SourceKind>,
    /// What it is called.
    #[serde(default)]
    pub name: String,
    /// Current it has for the bank, A; none: not told.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// What else charges the bank.
    #[serde(default)]
    pub others: Vec<Source>,
    /// Sun, fuel and dark.
    #[serde(default)]
    pub day: DaySource,
    /// What is connected and what it takes.
    #[serde(default)]
    pub loads: Vec<Load>,
    /// Air around the bank, m³; none: not told.
    #[serde(default)]
    pub enclosure: Option<f64>,
    /// Fan and openings as they are.
    #[serde(default)]
    pub vents: Vents,
    /// Switches, fuses, balancers and the like.
    #[serde(default)]
    pub fittings: Vec<Fitting>,
    /// Where it stands.
    #[serde(default)]
    pub surroundings: Vec<Surroundings>,
    /// Where a bolt, a bracket or a rail could hole a case.
    #[serde(default)]
    pub could_hole: String,
    /// The technician's own numbers of the batteries, in the order of the addresses.
    #[serde(default)]
    pub own_numbers: Vec<String>,
    /// Links and cables between batteries and strings, described once.
    #[serde(default)]
    pub wiring: Wiring,
    /// How the cables go, in the order they are connected.
    #[serde(default)]
    pub hook_up: Vec<Connection>,
}

impl Equipment {
    /// Everything that charges the bank, the first charger first.
    pub fn sources(&self) -> Vec<Source> {
        let told = self.charger != ChargerSettings::default()
            || self.kind.is_some()
            || !self.name.is_empty()
            || self.amperes.is_some();
        let first = told.then(|| Source {
            kind: self.kind,
            name: self.name.clone(),
            settings: self.charger.clone(),
            amperes: self.amperes,
        });
        first.into_iter().chain(self.others.iter().cloned()).collect()
    }

    /// True where a balancer is fitted: it hides the spread between batteries.
    pub fn has_balancer(&self) -> bool {
        self.fittings.iter().any(|f| f.kind == FittingKind::Balancer)
    }
}
