//! Topics of charging: setpoints, what the charger is set to, ventilation, the simulator.

#![expect(
    clippy::needless_pass_by_value,
    reason = "every topic has the same shape: it takes its input and may refuse it"
)]

use super::{CalcError, Topic, chosen_model, computed, schema};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{
    ChargerSettings, ChargerTemperature, Setpoint, SettingsAudit, Stage, setpoint, settings_audit,
};
use rainshadow_core::electrolyte::Correction;
use rainshadow_core::equalize::{
    Load, RunKind, RunPlan, RunReading, RunSoFar, RunState, RunToPlan, judge_run, plan_run,
};
use rainshadow_core::instrument::{Instrument, TemperatureKnowledge};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Points, Temperature};
use rainshadow_core::simulator::{Program, Ran, simulate};
use rainshadow_core::ventilation::{GassingBank, Ventilation, ventilation};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// CH-2: a stage of a bank at a temperature.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct SetpointAsked {
    /// Stage.
    stage: Stage,
    /// Cells in series, 1 to 240.
    cells: u16,
    /// Electrolyte, °C.
    temperature: Temperature,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// How the charger compensates by itself.
    #[serde(default)]
    charger: ChargerTemperature,
    /// Lowest limit of anything that stays connected, V.
    #[serde(default)]
    limit: Option<f64>,
}

/// A setpoint with its sentence.
#[derive(Debug, Serialize, ToSchema)]
struct SetpointSaid {
    /// In words.
    said: String,
    /// The setpoint.
    #[serde(flatten)]
    setpoint: Setpoint,
}

/// CH-3: settings to audit.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct AuditAsked {
    /// Cells in series, 1 to 240.
    cells: u16,
    /// Temperature of the bank, °C.
    temperature: Temperature,
    /// What the charger is set to.
    settings: ChargerSettings,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

/// An audit with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct AuditSaid {
    /// The one sentence on top.
    verdict: String,
    /// Stage by stage.
    lines: Vec<String>,
    /// The audit.
    #[serde(flatten)]
    audit: SettingsAudit,
}

/// A run to plan.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct PlanAsked {
    /// What it is for.
    kind: RunKind,
    /// Cells in series, 1 to 240.
    cells: u16,
    /// Strings in parallel; 1 when left out.
    #[serde(default = "one")]
    strings: u16,
    /// Electrolyte, °C.
    temperature: Temperature,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// How the charger compensates by itself.
    #[serde(default)]
    charger: ChargerTemperature,
    /// Current the source has for the bank, A.
    #[serde(default)]
    source_amperes: Option<f64>,
    /// What is connected.
    #[serde(default)]
    loads: Vec<Load>,
    /// Hours that earlier runs of this kind took.
    #[serde(default)]
    earlier_hours: Vec<f64>,
    /// Air around the bank, m³.
    #[serde(default)]
    enclosure: Option<f64>,
}

fn one() -> u16 {
    1
}

/// A plan with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct PlanSaid {
    /// In words, in the order things are done.
    lines: Vec<String>,
    /// The plan.
    #[serde(flatten)]
    plan: RunPlan,
}

/// EQ-4: a run so far.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct StopAsked {
    /// What the run is for.
    kind: RunKind,
    /// Readings in order of time.
    readings: Vec<RunReading>,
    /// Hours on equalize now; those of the last reading when left out.
    #[serde(default)]
    now: Option<f64>,
    /// True while it is paused.
    #[serde(default)]
    paused: bool,
    /// Uncertainty of one reading of one cell, points; a hydrometer's when left out.
    #[serde(default = "of_a_hydrometer")]
    noise: Points,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

fn of_a_hydrometer() -> Points {
    Instrument::hydrometer().uncertainty(TemperatureKnowledge::OneForAll, Correction::default()).deviation
}

/// Where a run stands, with its sentence.
#[derive(Debug, Serialize, ToSchema)]
struct StopSaid {
    /// In words.
    said: String,
    /// Where it stands.
    #[serde(flatten)]
    state: RunState,
}

/// Ventilation with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct VentilationSaid {
    /// In words.
    said: String,
    /// The figures.
    #[serde(flatten)]
    ventilation: Ventilation,
}

pub(super) static TOPICS: [Topic; 6] = [
    Topic {
        name: "setpoint",
        about: "CH-2: volts of a stage at a temperature, and what to type into the charger",
        run: |bytes| computed(bytes, setpoint_topic),
        schema: schema::<SetpointAsked, SetpointSaid>,
    },
    Topic {
        name: "settings-audit",
        about: "CH-3: what the charger is set to, what it should be, what the deviation does",
        run: |bytes| computed(bytes, audit_topic),
        schema: schema::<AuditAsked, AuditSaid>,
    },
    Topic {
        name: "equalize-plan",
        about: "EQ-3, EQ-4: volts, current, hours, water, air and what to disconnect before a run",
        run: |bytes| computed(bytes, plan_topic),
        schema: schema::<PlanAsked, PlanSaid>,
    },
    Topic {
        name: "equalize-stop",
        about: "EQ-4: whether a run goes on, is paused, or stops",
        run: |bytes| computed(bytes, stop_topic),
        schema: schema::<StopAsked, StopSaid>,
    },
    Topic {
        name: "ventilation",
        about: "VE-1: air and openings for the hydrogen of a charging bank",
        run: |bytes| computed(bytes, ventilation_topic),
        schema: schema::<GassingBank, VentilationSaid>,
    },
    Topic {
        name: "simulate",
        about: "SM-1: a string of cells through charges, loads and rest",
        run: |bytes| computed(bytes, simulate_topic),
        schema: schema::<Program, Ran>,
    },
];

fn series(cells: u16) -> Result<u16, CalcError> {
    if (1..=240).contains(&cells) {
        return Ok(cells);
    }
    let why = format!("{cells} cells in series are not possible here; accepted is 1 to 240");
    Err(CalcError::Impossible { path: "cells", why })
}

fn charger(own: ChargerTemperature, path: &'static str) -> Result<ChargerTemperature, CalcError> {
    own.checked().map_err(|e| CalcError::Impossible { path, why: e.to_string() })
}

fn setpoint_topic(input: SetpointAsked) -> Result<SetpointSaid, CalcError> {
    let cells = series(input.cells)?;
    let model = chosen_model(input.model, input.model_key)?;
    let own = charger(input.charger, "charger")?;
    let setpoint = setpoint(&model, input.stage, cells, input.temperature, own, input.limit)
        .map_err(|e| CalcError::Impossible { path: "stage", why: e.to_string() })?;
    let said = wording::setpoint_line(&setpoint, input.temperature, ReaderUnits::default());
    Ok(SetpointSaid { said, setpoint })
}

fn audit_topic(input: AuditAsked) -> Result<AuditSaid, CalcError> {
    let cells = series(input.cells)?;
    let model = chosen_model(input.model, input.model_key)?;
    let mut settings = input.settings;
    settings.compensates = settings.compensates.map(|c| charger(c, "settings.compensates")).transpose()?;
    let audit = settings_audit(&model, cells, input.temperature, &settings)
        .map_err(|e| CalcError::Impossible { path: e.field(), why: e.to_string() })?;
    Ok(AuditSaid {
        verdict: wording::audit_verdict(&audit),
        lines: audit.stages.iter().map(wording::audited_stage).collect(),
        audit,
    })
}

fn plan_topic(input: PlanAsked) -> Result<PlanSaid, CalcError> {
    let plan = plan_run(&RunToPlan {
        kind: input.kind,
        model: chosen_model(input.model, input.model_key)?,
        cells: series(input.cells)?,
        strings: input.strings,
        temperature: input.temperature,
        charger: charger(input.charger, "charger")?,
        source_amperes: input.source_amperes,
        loads: input.loads,
        earlier_hours: input.earlier_hours,
        enclosure: input.enclosure,
    })
    .map_err(|e| CalcError::Impossible { path: "standard input", why: e.to_string() })?;
    Ok(PlanSaid { lines: wording::run_plan(&plan, ReaderUnits::default()), plan })
}

fn stop_topic(input: StopAsked) -> Result<StopSaid, CalcError> {
    let falls = |pair: &[RunReading]| pair[1].hours < pair[0].hours;
    if let Some(at) = input.readings.windows(2).position(falls) {
        let why = format!("reading {} is earlier than the one before it; give them in order of time", at + 2);
        return Err(CalcError::Impossible { path: "readings", why });
    }
    let last = input.readings.last().map_or(0.0, |r| r.hours);
    let state = judge_run(&RunSoFar {
        kind: input.kind,
        readings: &input.readings,
        followed: &[],
        full: chosen_model(input.model, input.model_key)?.full_gravity,
        noise: input.noise,
        now: input.now.unwrap_or(last).max(last),
        paused: input.paused,
    });
    Ok(StopSaid { said: wording::run_advice(&state, ReaderUnits::default()), state })
}

fn simulate_topic(input: Program) -> Result<Ran, CalcError> {
    simulate(&input).map_err(|e| CalcError::Impossible { path: "standard input", why: e.to_string() })
}

fn ventilation_topic(input: GassingBank) -> Result<VentilationSaid, CalcError> {
    series(input.cells)?;
    let ventilation = ventilation(&input)
        .map_err(|e| CalcError::Impossible { path: "standard input", why: e.to_string() })?;
    Ok(VentilationSaid { said: wording::ventilation_line(&ventilation, ReaderUnits::default()), ventilation })
}
