//! What comes after a run, and what the rounds around it say (EQ-5).

use super::view::{AfterView, AnswerCell, CellMark};
use crate::app::run_context::RunContext;
use crate::db::Connection;
use crate::db::DbError;
use crate::words;
use jiff::Timestamp;
use rainshadow_core::equalize::{CellAnswer, REST_HOURS};
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::STEADY_POINTS;
use rainshadow_core::wording;

impl RunContext {
    pub(super) fn after(&self, db: &Connection, units: ReaderUnits) -> Result<Option<AfterView>, DbError> {
        let Some(end) = self.run.ended_at else { return Ok(None) };
        let answer = self.outcome(db)?;
        let left = REST_HOURS * 3600.0 - self.at.duration_since(end).as_secs_f64();
        let from = end.checked_add(jiff::SignedDuration::from_secs(3600)).unwrap_or(end);
        let judged = answer.judged.as_ref();
        let mark = |deviation: Points, condition| CellMark {
            deviation: deviation.value(),
            said: wording::signed(deviation),
            condition,
        };
        Ok(Some(AfterView {
            rest_seconds: left.max(0.0),
            read_from: self.time(from),
            before_day: answer.before.as_ref().map(|r| words::day(r.day())).unwrap_or_default(),
            round_before: answer.before.as_ref().map(|r| r.id.clone()),
            round_after: answer.after.as_ref().map(|r| r.id.clone()),
            watered: self.watered_since(db, end)?,
            verdict: answer.finding.as_ref().map(|f| wording::outcome_verdict(f, units)).unwrap_or_default(),
            finding: answer.finding.as_ref().map(|f| wording::speak(f, units)),
            unread: wording::unread_after(&answer.unread),
            steady_points: judged.map_or(STEADY_POINTS, |j| j.steady().value()),
            cells: judged
                .map(|j| {
                    let cell = |c: &CellAnswer| AnswerCell {
                        cell: c.cell.to_string(),
                        before: mark(c.before, j.condition_before(c)),
                        after: mark(c.after, j.condition_after(c)),
                        said: format!("{} to {}", wording::signed(c.before), wording::signed(c.after)),
                        non_responding: j.is_non_responding(c.cell),
                    };
                    j.cells.iter().map(cell).collect()
                })
                .unwrap_or_default(),
        }))
    }

    fn watered_since(&self, db: &Connection, end: Timestamp) -> Result<bool, DbError> {
        let visit = crate::db::VisitRow::by_id(db, &self.run.visit_id)?;
        Ok(crate::db::visit_entries::of_visit(db, &visit)?.iter().any(|e| {
            matches!(e.entry, rainshadow_core::visit::Entry::Water { to_mark: true, .. }) && e.taken_at > end
        }))
    }
}
