//! How water gets into the cells, how well its amount is known, and what goes wrong beside it.

use serde::{Deserialize, Serialize};

/// How well an amount of water is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum AmountKnown {
    /// Measured out.
    #[default]
    Measured,
    /// Estimated by eye.
    Estimated,
    /// Nobody measured it: only where it was filled to is known.
    Unknown,
}

/// What water is poured with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FillWay {
    /// A bottle.
    Bottle,
    /// A jug with a spout.
    Jug,
    /// A squeezed bulb.
    Bulb,
    /// A syringe.
    Syringe,
    /// A filler that closes by itself at the level.
    SelfClosingFiller,
    /// A single-point watering kit.
    WateringKit,
    /// A reservoir over the bank that feeds by gravity.
    GravityReservoir,
}

impl FillWay {
    /// True where cells fill by themselves behind tubes, and nobody looks into them (WA-6).
    pub fn fills_unseen(self) -> bool {
        matches!(self, Self::WateringKit | Self::GravityReservoir)
    }
}

/// How water was poured, beside its amount.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Poured {
    /// How well its amount is known.
    #[serde(default)]
    pub amount: AmountKnown,
    /// What it was poured with; none: not said.
    #[serde(default)]
    pub how: Option<FillWay>,
    /// Whether the flow indicator of a kit stood still at the end; none: there is none, or nobody looked.
    #[serde(default)]
    pub flow_stopped: Option<bool>,
}

/// Electrolyte that went where it does not belong, or was taken out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Spill {
    /// Acid ran out over the top: the cell lost acid for good.
    Spilled,
    /// Filled over the mark.
    Overfilled,
    /// Drawn off down to the mark.
    DrawnOff,
}

/// What an electronic level lamp shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LevelLamp {
    /// Bright: the probe stands in the electrolyte.
    Bright,
    /// Dim: it is about to come out.
    Dim,
    /// Off: it stands dry, or has no power.
    Off,
}
