//! Whether a bank wants an equalize, and what a run of it needs today.

mod view;

use super::breakdown::setpoint_breakdown;
use crate::app::App;
use crate::app::charger::ASSUMED;
use crate::app::equalize_context::{EqualizeContext, runs_with_hours};
use crate::app::fresh::{self, Wanted};
use crate::app::refused::{AppError, AppResult};
use crate::app::run_outcomes::RunOutcome;
use crate::app::typed::conditions::TypedTemperature;
use crate::db::Connection;
use crate::db::{BankRow, DbError, RunRow};
use crate::words;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::charge::settings_audit;
use rainshadow_core::equalize::{DayPlan, RunKind, RunPlan, RunToPlan, pilot, plan_day, watched};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Temperature, typed};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::Deserialize;
use utoipa::ToSchema;
pub use view::EarlierRun;
pub use view::EqualizePage;
use view::{HouseView, LoadView, PlanFigure, PlanView, RunKindView, WatchedBefore};

/// What is asked.
#[derive(Debug, Clone, PartialEq, Default, Deserialize, ToSchema)]
#[serde(default)]
pub struct PlanAsked {
    /// Kind; left out: the one that is wanted.
    pub kind: Option<RunKind>,
    /// Electrolyte temperature; empty: that of the last round.
    pub temperature: Option<TypedTemperature>,
    /// Pilot; left out: the lowest cell.
    pub pilot: Option<String>,
}

/// Runs that are over, newest first, in words.
fn in_words(runs: &[(RunRow, RunOutcome)], hours: &[f64]) -> Vec<EarlierRun> {
    let line = |((run, answer), hours): (&(RunRow, RunOutcome), &f64)| {
        let judged = answer.judged.as_ref();
        EarlierRun {
            id: run.id.clone(),
            day: words::day(run.day()),
            said: wording::run_over(run.kind, *hours, run.ended_why),
            outcome: judged.map(|j| wording::outcome_short(&j.outcome)).unwrap_or_default(),
            condition: answer.severity(),
        }
    };
    runs.iter().zip(hours).rev().map(line).collect()
}

/// The runs of a bank that are over, newest first, in words.
pub fn earlier_runs(db: &Connection, bank: &BankRow) -> Result<Vec<EarlierRun>, DbError> {
    let (runs, hours) = runs_with_hours(db, bank)?;
    Ok(in_words(&runs, &hours))
}

impl EqualizeContext {
    fn plan_view(
        &self,
        asked: &RunToPlan,
        plan: &RunPlan,
        units: ReaderUnits,
        pilot: Option<CellAddress>,
    ) -> PlanView {
        let set = &plan.setpoint;
        // By the bank's own charger where it compensates, else by the usual 5 mV.
        let charger = self.equipment.fitted.equipment.charger.compensates.unwrap_or_default();
        let day = plan_day(asked.kind, plan.hours, &self.equipment.fitted.equipment.day).ok();
        let told = &self.equipment.fitted.equipment.charger;
        let cells = self.bank.shape.cells_in_series();
        let audited = settings_audit(&self.model, cells, asked.temperature, told).ok();
        let stage = audited
            .as_ref()
            .and_then(|a| a.stages.iter().find(|s| s.stage == rainshadow_core::charge::Stage::Equalize));
        let watched = pilot.map(|p| watched(&self.bank.shape, &self.gravities, p)).unwrap_or_default();
        PlanView {
            setpoint: format!("{:.1}", set.volts),
            typed_compensating: format!("{:.1}", set.typed_into(charger, asked.temperature)),
            breakdown: setpoint_breakdown(set, asked.temperature, units),
            figures: wording::plan_figures(plan, units).into_iter().map(PlanFigure::from).collect(),
            loads: asked
                .loads
                .iter()
                .map(|l| LoadView {
                    name: l.name.clone(),
                    highest: format!("{:.1}", l.highest_volts),
                    disconnect: plan.disconnect.contains(l),
                })
                .collect(),
            day_condition: day.as_ref().map_or(Severity::Steady, DayPlan::condition),
            day: day.as_ref().map(wording::day_plan).unwrap_or_default(),
            charger: stage.map(wording::audited_stage).unwrap_or_default(),
            charger_condition: stage.map_or(Severity::NoReading, |s| s.condition),
            watched: watched
                .iter()
                .map(|cell| {
                    let last = self.gravities.iter().find(|(own, _)| own == cell);
                    WatchedBefore {
                        cell: cell.to_string(),
                        gravity: last.map(|(_, g)| g.to_string()).unwrap_or_default(),
                    }
                })
                .collect(),
        }
    }

    fn page(self, asked: &PlanAsked, units: ReaderUnits) -> AppResult<EqualizePage> {
        let sent = asked.temperature.as_ref().filter(|t| !t.typed.trim().is_empty());
        let temperature = match sent {
            Some(t) => Some(
                typed::temperature(&t.typed, t.unit)
                    .map_err(|e| AppError::field("temperature", wording::stopped(&e.to_string())))?,
            ),
            None => self.round_temperature,
        };
        let temperature_from = match (sent, self.round_temperature, self.round) {
            (Some(_), _, _) => "as typed".to_owned(),
            (None, Some(_), Some(day)) => format!("of the round of {}; measure it today", words::day(day)),
            _ => "assumed; measure it today".to_owned(),
        };
        let at = temperature.or_else(|| Temperature::from_celsius(ASSUMED).ok());
        let kind = asked.kind.or(self.wanted.own.kind).unwrap_or(RunKind::Corrective);
        let caps = self.model.construction.has_caps();
        let chosen = match asked.pilot.as_deref().map(str::trim).filter(|t| !t.is_empty() && caps) {
            Some(text) => {
                let cell: CellAddress =
                    text.parse().map_err(|e| AppError::field("pilot", format!("{e}.")))?;
                if !self.bank.shape.contains(cell) {
                    return Err(AppError::field("pilot", format!("This bank has no cell {cell}.")));
                }
                Some(cell)
            }
            None => pilot(&self.bank.shape, &self.gravities).filter(|_| caps),
        };
        let planned = at.map(|at| self.planned(kind, at));
        let (plan, refused) = match &planned {
            Some(Ok((asked, plan))) => (Some(self.plan_view(asked, plan, units, chosen)), String::new()),
            Some(Err(error)) => (None, wording::stopped(&error.to_string())),
            None => (None, String::new()),
        };
        let houses = std::iter::once((true, &self.wanted.own))
            .chain(self.wanted.others.iter().map(|h| (false, h)))
            .map(|(own, h)| HouseView {
                own,
                said: wording::house_says(h, self.wanted.barred, self.today),
                wants: h.kind.is_some(),
            })
            .collect();
        let kinds = [RunKind::Corrective, RunKind::Preventive, RunKind::Stir];
        let shown = TypedTemperature {
            typed: sent
                .map(|t| t.typed.clone())
                .or(at.map(|t| units.type_temperature(t)))
                .unwrap_or_default(),
            unit: sent.map_or(units.temperature, |t| t.unit),
        };
        Ok(EqualizePage {
            description: wording::describe_bank(&self.bank.shape, &self.model),
            round_day: self.round.map(words::day).unwrap_or_default(),
            verdict: wording::wanted_verdict(&self.wanted, self.today),
            locked: self.wanted.locked,
            asked_for: self.wanted.own.kind.is_some(),
            reasons: self
                .wanted
                .own
                .reasons
                .iter()
                .map(|r| wording::wanted_reason(r, self.today))
                .chain(wording::barred_why(self.wanted.barred).map(str::to_owned))
                .chain(
                    self.non_responding.iter().map(|cell| wording::non_responding_reason(*cell, self.today)),
                )
                .collect(),
            houses,
            kinds: kinds
                .into_iter()
                .map(|k| RunKindView {
                    kind: k,
                    name: wording::run_kind_name(k),
                    purpose: wording::run_kind_for(k),
                    wanted: self.wanted.own.kind == Some(k),
                })
                .collect(),
            kind,
            temperature: shown,
            temperature_from,
            plan,
            refused,
            pilot: chosen.map(|c| c.to_string()),
            cells: if caps { self.bank.shape.cells().map(|c| c.to_string()).collect() } else { Vec::new() },
            rule: format!(
                "EQ-1, EQ-2: {}. House: {}. Figures of {}: {}. Maker’s manual first.",
                rainshadow_core::finding::RuleId::Eq2.source(),
                self.rules.name,
                self.model.name,
                self.model.source
            ),
            open_run: self.open.as_ref().map(|r| r.id.clone()),
            earlier: in_words(&self.runs, &self.hours),
            site: self.site.name.clone(),
            name: self.bank.name.clone(),
            bank: self.bank.id.clone(),
        })
    }
}

/// Reads whether a bank wants an equalize, with the plan of a run.
///
/// # Errors
/// What was asked for and does not fit, and whatever the reading fails with.
pub async fn equalize_page(
    app: &App,
    id: String,
    asked: &PlanAsked,
    units: ReaderUnits,
) -> AppResult<EqualizePage> {
    let today = app.clock.today();
    let context =
        fresh::read(app, Wanted::Bank(id.clone()), move |db| EqualizeContext::read(db, &id, today)).await?;
    context.page(asked, units)
}
