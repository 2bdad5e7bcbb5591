//! The log of torque, line by line.

use crate::words;
use rainshadow_core::visit::TorqueSet;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One tightening.
#[derive(Debug, Serialize, ToSchema)]
pub struct TorqueLine {
    /// Its entry.
    pub entry: String,
    /// "22 Oct 2026".
    pub day: String,
    /// "the bank", "B1".
    pub place: String,
    /// "9 N·m (6.6 lbf·ft)"; empty: not told.
    pub torque: String,
    /// What the model asked for then; empty: not published, or not told.
    pub asked: String,
    /// "remade", "tightened".
    pub what: &'static str,
    /// In the technician’s words.
    pub note: String,
    /// By whom.
    pub by: String,
}

impl TorqueLine {
    pub(super) fn of(own: &TorqueSet<'_>) -> Self {
        let torque = |t: Option<f64>| t.map(wording::torque).unwrap_or_default();
        Self {
            entry: own.entry.id.clone(),
            day: words::day(own.day),
            place: own.entry.place.said(),
            torque: torque(own.newton_metres),
            asked: torque(own.asked),
            what: if own.remade { "remade" } else { "tightened" },
            note: own.note.to_owned(),
            by: own.entry.by.said(),
        }
    }
}
