//! The equalize of a visit: whether it is wanted, and its runs.

use super::VisitCase;
use crate::app::equalize_case::EqualizeCase;
use crate::app::run_case::RunCase;
use crate::db::{Connection, DbError, RunRow};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A run of this visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitRun {
    /// Id.
    pub id: String,
    /// "corrective, 4:30".
    pub said: String,
    /// What to do, or what it did.
    pub verdict: String,
    /// Its condition.
    pub condition: Severity,
    /// True when it is over.
    pub over: bool,
}

impl VisitCase {
    /// Runs of this visit, as they stand now.
    pub(super) fn runs(&self, db: &Connection, now: jiff::Timestamp) -> Result<Vec<VisitRun>, DbError> {
        RunRow::of_visit(db, &self.visit)?
            .into_iter()
            .map(|run| {
                let over = run.ended_at.is_some();
                let at = run.ended_at.unwrap_or(now);
                let case = RunCase::of(db, run, at)?;
                let judged = if over { case.outcome(db)?.judged } else { None };
                Ok(VisitRun {
                    id: case.run.id.clone(),
                    said: format!(
                        "{}, {} h",
                        wording::run_kind(case.run.kind),
                        wording::hours_minutes(case.now.elapsed)
                    ),
                    verdict: judged
                        .as_ref()
                        .map_or_else(|| case.verdict(self.units), wording::outcome_verdict),
                    condition: judged.map_or(Severity::NoReading, |j| j.outcome.condition()),
                    over,
                })
            })
            .collect()
    }

    /// Whether an equalize is wanted, while the visit is open.
    pub(super) fn equalize(&self, db: &Connection) -> Result<(String, bool), DbError> {
        if !self.model.construction.has_caps() || self.visit.ended_at.is_some() {
            return Ok((String::new(), false));
        }
        let case = EqualizeCase::read(db, &self.bank.id, self.today)?;
        Ok((wording::wanted_verdict(&case.wanted, self.today), case.wanted.own.kind.is_some()))
    }
}
