//! What charges a bank.

use crate::charge::ChargerSettings;
use serde::{Deserialize, Serialize};

/// What a source of charge is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SourceKind {
    /// Between solar panels and the bank.
    SolarController,
    /// An inverter that charges from mains or generator.
    InverterCharger,
    /// On an engine.
    Alternator,
    /// A generator with its own charger.
    Generator,
    /// From a shore or workshop plug.
    ShoreCharger,
    /// Holds a full bank full.
    Maintainer,
    /// Wind or water.
    Turbine,
}

impl SourceKind {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 7] = [
        Self::SolarController,
        Self::InverterCharger,
        Self::ShoreCharger,
        Self::Alternator,
        Self::Generator,
        Self::Maintainer,
        Self::Turbine,
    ];

    /// True where it can bring a bank all the way to full; an engine's alternator stops near 80 %, and a
    /// maintainer holds what is full already (common practice, no source).
    pub const fn finishes(self) -> bool {
        !matches!(self, Self::Alternator | Self::Maintainer)
    }
}

/// One source of charge.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Source {
    /// What it is; none: not told.
    #[serde(default)]
    pub kind: Option<SourceKind>,
    /// What it is called; may be empty.
    #[serde(default)]
    pub name: String,
    /// What it is set to, stage by stage; a stage it does not have is none.
    #[serde(default)]
    pub settings: ChargerSettings,
    /// Current it has for the bank, A; none: not told.
    #[serde(default)]
    pub amperes: Option<f64>,
}

/// Which source a finding is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SourceRef {
    /// Its place among the sources, from 1.
    pub number: u8,
    /// What it is; none: not told.
    pub kind: Option<SourceKind>,
    /// True where another of the same kind stands there.
    pub one_of_several: bool,
}
