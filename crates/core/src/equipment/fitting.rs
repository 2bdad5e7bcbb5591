//! What else is fitted: switches, fuses, balancers, and how the cables go.

use serde::{Deserialize, Serialize};

/// What a fitting is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FittingKind {
    /// Takes the bank off.
    Switch,
    /// Blows.
    Fuse,
    /// Trips.
    Breaker,
    /// Keeps two banks apart on one source.
    Isolator,
    /// Evens batteries in a string.
    Balancer,
    /// Measures the current of the bank.
    Shunt,
    /// For the charger.
    TemperatureSensor,
    /// Of smoke, gas or low volts.
    Alarm,
    /// In a sump or a reservoir.
    FloatSwitch,
}

impl FittingKind {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 9] = [
        Self::Switch,
        Self::Fuse,
        Self::Breaker,
        Self::Isolator,
        Self::Balancer,
        Self::Shunt,
        Self::TemperatureSensor,
        Self::Alarm,
        Self::FloatSwitch,
    ];
}

/// One fitting.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fitting {
    /// What it is.
    pub kind: FittingKind,
    /// Where it is and what it serves.
    pub whereto: String,
    /// What it is rated for, A; none: not told.
    #[serde(default)]
    pub amperes: Option<f64>,
}

/// One cable, in the order they are connected.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Connection {
    /// From where, as "A1 +".
    pub from: String,
    /// To where.
    pub to: String,
    /// How it is marked: tape, number, size.
    pub mark: String,
}
