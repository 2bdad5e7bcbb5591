//! Groups of evidence: of each the strongest sign counts.

use serde::{Deserialize, Serialize};
use strum::{EnumString, IntoStaticStr, VariantArray};

/// A group of evidence.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    PartialOrd,
    Ord,
    Hash,
    Serialize,
    Deserialize,
    VariantArray,
    EnumString,
    IntoStaticStr,
)]
#[serde(rename_all = "snake_case")]
#[strum(serialize_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Group {
    /// Gravities.
    Gravity,
    /// Volts, at rest, under load, held.
    Volts,
    /// What it drinks.
    Water,
    /// Resistances.
    Ohmic,
    /// Timed discharges.
    Capacity,
    /// The record of its charging.
    Record,
    /// What the charger is set to.
    Settings,
    /// Joints.
    Joints,
    /// Currents of the strings, leakage to earth.
    Strings,
    /// What the eye found.
    Sight,
}
