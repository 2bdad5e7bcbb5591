//! A round as it is opened: its conditions and instrument as typed.

use super::conditions::TypedConditions;
use super::instrument::NamedInstrument;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A round as it is opened.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct OpenRound {
    /// Its bank.
    pub bank: String,
    /// When it begins; now when left out.
    #[serde(default)]
    pub started_at: Option<String>,
    /// Conditions as typed.
    pub conditions: TypedConditions,
    /// What reads the cells.
    pub instrument: NamedInstrument,
    /// True to walk the path from its end.
    #[serde(default)]
    pub reversed: bool,
}
