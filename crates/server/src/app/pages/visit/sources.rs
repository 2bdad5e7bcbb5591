//! What charges the bank, on a visit: how it is set, and what was set anew.

use super::VisitContext;
use serde::Serialize;
use utoipa::ToSchema;

/// What charges the bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct SourcesView {
    /// Every source as it is told: "Solar controller, 80 A: absorption 59.2 V".
    pub told: Vec<String>,
    /// What was found and set anew on the day of this visit.
    pub set: Vec<String>,
    /// What was set anew last before it, with its day; empty: nothing was.
    pub before: Vec<String>,
}

impl VisitContext {
    /// What charges it, and what was set anew.
    pub(super) fn sources_view(&self) -> SourcesView {
        let before = self.sources.before.iter();
        let dated = |(day, said): &(jiff::civil::Date, Vec<String>)| -> Vec<String> {
            said.iter().map(|line| format!("{line}, {}", crate::words::day(*day))).collect()
        };
        SourcesView {
            told: self.sources.told.clone(),
            set: self.sources.set.clone(),
            before: before.flat_map(dated).collect(),
        }
    }
}
