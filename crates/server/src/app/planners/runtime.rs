//! The planner of hours on the bank alone.

mod controls;
mod proven;
mod set;
mod shown;

use self::proven::last_proof;
use self::set::{asked, key_of};
use self::shown::{assumptions, facts, larger, outlasts, volts_chart};
use super::answer::{PlanAnswer, PlanList};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use crate::db::ModelRow;
pub(super) use controls::controls;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::runtime::{RuntimeAsked, RuntimeError, StandIn, judge_proof, runtime};
use rainshadow_core::wording;

/// The answer.
pub(super) fn answer(
    subject: &Subject,
    models: &[ModelRow],
    typed: &mut Typed<'_>,
    units: ReaderUnits,
) -> AppResult<PlanAnswer> {
    let asked = asked(subject, typed);
    let wanted = typed.maybe("wanted", bounds::HOURS_WANTED);
    let volts = typed.whole("stand_in_volts", bounds::SYSTEM_VOLTAGE);
    let at_hand = StandIn { volts, ampere_hours: typed.number("stand_in_ah", bounds::CAPACITY) };
    std::mem::take(&mut typed.faults).none()?;
    let refused = |e: RuntimeError| AppError::refused(key_of(&e, typed), &e);
    let own = runtime(&asked).map_err(refused)?;
    let proof = last_proof(subject);
    // Held against what was known before it: its own capacity test, or a new bank.
    let before = RuntimeAsked { health: subject.health().percent, health_range: None, ..asked.clone() };
    let judged = proof.as_ref().and_then(|(proof, _)| judge_proof(&before, proof).ok());
    let mut lists = vec![outlasts(&asked, wanted, at_hand).map_err(refused)?];
    if let (Some((proof, day)), Some(judged)) = (&proof, &judged) {
        lists.push(PlanList {
            title: format!("The proof of {day}"),
            lines: vec![wording::proof_said(judged, proof.volts)],
            job: None,
            remind: String::new(),
        });
    }
    Ok(PlanAnswer {
        said: wording::runtime_verdict(&own, wanted),
        facts: facts(&own, &asked, units),
        options: larger(subject, models, &asked, &own, wanted)?,
        charts: vec![volts_chart(&own, &asked, proof.as_ref().zip(judged.as_ref()))],
        tables: Vec::new(),
        dates: Vec::new(),
        lists,
        cautions: wording::STAND_IN_CAUTIONS.iter().map(|own| (*own).to_owned()).collect(),
        assumptions: assumptions(subject, &asked),
        rule: wording::RUNTIME_RULE.to_owned(),
    })
}
