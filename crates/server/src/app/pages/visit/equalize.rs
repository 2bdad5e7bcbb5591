//! The equalize of a visit: whether it is wanted, and its runs.

use super::VisitContext;
use crate::app::equalize_context::EqualizeContext;
use crate::app::run_context::RunContext;
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

impl VisitContext {
    /// Runs of this visit, as they stand now.
    pub(super) fn runs(&self, db: &Connection, now: jiff::Timestamp) -> Result<Vec<VisitRun>, DbError> {
        RunRow::of_visit(db, &self.visit)?
            .into_iter()
            .map(|run| {
                let over = run.ended_at.is_some();
                let at = run.ended_at.unwrap_or(now);
                let context = RunContext::of(db, run, at)?;
                let found = if over { context.outcome(db)?.finding } else { None };
                Ok(VisitRun {
                    id: context.run.id.clone(),
                    said: format!(
                        "{}, {} h",
                        wording::run_kind(context.run.kind),
                        wording::hours_minutes(context.now.elapsed)
                    ),
                    verdict: found.as_ref().map_or_else(
                        || context.verdict(self.units),
                        |f| wording::outcome_verdict(f, self.units),
                    ),
                    condition: found.map_or(Severity::NoReading, |f| f.severity),
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
        let context = EqualizeContext::read(db, &self.bank.id, self.today)?;
        Ok((wording::wanted_verdict(&context.wanted, self.today), context.wanted.own.kind.is_some()))
    }
}
