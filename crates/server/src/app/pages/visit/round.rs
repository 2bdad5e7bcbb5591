//! The rounds of a visit.

use super::VisitContext;
use crate::words;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A round of the visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitRound {
    /// Id.
    pub id: String,
    /// True when it is finished.
    pub finished: bool,
    /// Cells read.
    pub read: usize,
    /// Its sentence, once finished.
    pub verdict: String,
    /// Its condition.
    pub condition: Severity,
    /// When it began.
    pub at: String,
}

impl VisitContext {
    pub(super) fn round_views(&self) -> Vec<VisitRound> {
        self.rounds
            .iter()
            .map(|(round, judged, read)| VisitRound {
                id: round.id.clone(),
                finished: round.finished_at.is_some(),
                read: *read,
                verdict: judged.as_ref().map(|a| wording::verdict(a, self.units)).unwrap_or_default(),
                condition: judged.as_ref().map_or(Severity::NoReading, |a| a.condition),
                at: words::local_minute(round.started_at, &round.zone).strftime("%-H:%M").to_string(),
            })
            .collect()
    }
}
