//! `rainshadow calc TOPIC`: one JSON object on standard input, one on standard output, with the
//! same types as the HTTP interface.

#![expect(
    clippy::needless_pass_by_value,
    reason = "every topic has the same shape: it takes its input and may refuse it"
)]

mod bank;
mod charge;
mod diagnose;
mod discharge;
mod input;
mod life;
mod plan_ahead;
mod plan_money;
mod record;
mod strings;
mod visit;

use clap::Args;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::electrolyte::{
    Correction, StateOfCharge, measured_range, measured_rest_voltage, plain_rule_error, rule_rest_voltage,
};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Bounds, Points, SpecificGravity, Temperature, bounds};
use rainshadow_core::round::{Assessment, RoundToJudge, judge};
use rainshadow_core::wording::{self, SpokenFinding};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use std::io::{Read, Write};
use thiserror::Error;
use utoipa::openapi::{RefOr, Schema};
use utoipa::{PartialSchema, ToSchema};

/// Which topic, and whether to compute or to describe.
#[derive(Debug, Args)]
pub struct CalcArgs {
    /// What to compute.
    pub topic: Option<String>,
    /// List the topics.
    #[arg(long)]
    pub list: bool,
    /// Print the JSON Schema of the topic's input and output.
    #[arg(long)]
    pub schema: bool,
}

/// Why nothing was computed.
#[derive(Debug, Error)]
pub enum CalcError {
    /// No such topic.
    #[error("there is no topic “{0}”; `rainshadow calc --list` names them")]
    NoTopic(String),
    /// No topic given.
    #[error("name a topic; `rainshadow calc --list` names them")]
    Missing,
    /// Standard input or output failed.
    #[error("standard input or output failed: {0}")]
    Io(#[from] std::io::Error),
    /// The input does not fit.
    #[error("{path}: {why}")]
    Input {
        /// The field.
        path: String,
        /// Why.
        why: String,
    },
    /// A battery model or bank that cannot be.
    #[error("{path}: {why}")]
    Impossible {
        /// The field.
        path: &'static str,
        /// Why.
        why: String,
    },
}

/// SG-1: a reading to correct.
#[derive(Debug, Deserialize, ToSchema)]
struct SgCorrect {
    /// As read.
    gravity: SpecificGravity,
    /// Electrolyte, °C.
    temperature: Temperature,
    /// Reference, °C; 25 when left out.
    #[serde(default = "twenty_five")]
    reference: Temperature,
    /// How; the plain rule when left out.
    #[serde(default)]
    correction: Correction,
}

fn twenty_five() -> Temperature {
    BatteryModel::generic()[0].1.reference_temperature
}

/// A corrected reading.
#[derive(Debug, Serialize, ToSchema)]
struct SgCorrected {
    /// Corrected.
    corrected: SpecificGravity,
    /// What was added, points.
    added: Points,
    /// What the plain rule may be off here, points.
    rule_error: Points,
}

/// SG-2: a gravity to turn into charge.
#[derive(Debug, Deserialize, ToSchema)]
struct SgSoc {
    /// Corrected gravity.
    gravity: SpecificGravity,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

/// SG-3: a gravity to turn into volts.
#[derive(Debug, Deserialize, ToSchema)]
struct OcvFromSg {
    /// Corrected gravity.
    gravity: SpecificGravity,
    /// Cells in series; 1 when left out.
    #[serde(default = "one")]
    cells: u16,
}

fn one() -> u16 {
    1
}

/// Rest volts.
#[derive(Debug, Serialize, ToSchema)]
struct Ocv {
    /// By the rule of the trade, volts per cell.
    rule_per_cell: f64,
    /// By the measured curve, volts per cell.
    measured_per_cell: f64,
    /// By the measured curve, volts of all cells.
    measured: f64,
    /// Gravities between which the curve was measured.
    measured_from: f64,
    /// And up to.
    measured_to: f64,
    /// Where the gravity lies beyond it: that the curve goes on by its outermost stretch.
    said: Option<String>,
}

/// A judged round with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct JudgedRound {
    /// The one sentence on top.
    verdict: String,
    /// The findings in words.
    findings: Vec<SpokenFinding>,
    /// The judgement.
    assessment: Assessment,
}

/// One topic.
struct Topic {
    name: &'static str,
    about: &'static str,
    run: fn(&[u8]) -> Result<Value, CalcError>,
    schema: fn() -> Value,
}

static TOPICS: [Topic; 4] = [
    Topic {
        name: "sg-correct",
        about: "SG-1: gravity at the reference temperature",
        run: |bytes| computed(bytes, sg_correct),
        schema: schema::<SgCorrect, SgCorrected>,
    },
    Topic {
        name: "sg-soc",
        about: "SG-2: state of charge from gravity",
        run: |bytes| computed(bytes, sg_soc),
        schema: schema::<SgSoc, StateOfCharge>,
    },
    Topic {
        name: "ocv-from-sg",
        about: "SG-3: rest voltage from gravity",
        run: |bytes| computed(bytes, ocv_from_sg),
        schema: schema::<OcvFromSg, Ocv>,
    },
    Topic {
        name: "assess-round",
        about: "RD-1 to RD-8: what a round means",
        run: |bytes| computed(bytes, assess_round),
        schema: schema::<RoundToJudge, JudgedRound>,
    },
];

/// Every topic.
fn all() -> impl Iterator<Item = &'static Topic> {
    TOPICS
        .iter()
        .chain(&visit::TOPICS)
        .chain(&charge::TOPICS)
        .chain(&bank::TOPICS)
        .chain(&discharge::TOPICS)
        .chain(&strings::TOPICS)
        .chain(&diagnose::TOPICS)
        .chain(&life::TOPICS)
        .chain(&record::TOPICS)
        .chain(&plan_ahead::TOPICS)
        .chain(&plan_money::TOPICS)
}

/// A figure against the one table of accepted ranges.
fn within(bounds: Bounds, path: &'static str, value: f64) -> Result<f64, CalcError> {
    bounds.check(value).map_err(|e| CalcError::Impossible { path, why: e.to_string() })
}

fn sg_correct(input: SgCorrect) -> Result<SgCorrected, CalcError> {
    within(bounds::REFERENCE_TEMPERATURE, "reference", input.reference.celsius())?;
    if let Correction::Plain { per_celsius } = input.correction {
        within(bounds::COEFFICIENT, "correction.per_celsius", per_celsius)?;
    }
    let corrected = input.correction.apply(input.gravity, input.temperature, input.reference);
    let rule_error = match input.correction {
        Correction::Plain { .. } => plain_rule_error(input.gravity, input.temperature, input.reference),
        Correction::MeasuredDensity => Points::ZERO,
    };
    Ok(SgCorrected { corrected, added: corrected - input.gravity, rule_error })
}

/// A whole model as given, or a generic one by its key; flooded-6v-420 when neither is given.
fn chosen_model(model: Option<BatteryModel>, key: Option<String>) -> Result<BatteryModel, CalcError> {
    let model = match (model, key) {
        (Some(model), _) => model,
        (None, key) => {
            let key = key.unwrap_or_else(|| "flooded-6v-420".into());
            BatteryModel::generic_by_key(&key).ok_or_else(|| CalcError::Impossible {
                path: "model_key",
                why: format!("there is no generic model “{key}”"),
            })?
        }
    };
    model.checked().map_err(|e| CalcError::Impossible { path: "model", why: e.to_string() })
}

fn sg_soc(input: SgSoc) -> Result<StateOfCharge, CalcError> {
    Ok(chosen_model(input.model, input.model_key)?.state_of_charge(input.gravity))
}

fn ocv_from_sg(input: OcvFromSg) -> Result<Ocv, CalcError> {
    let measured = measured_rest_voltage(input.gravity);
    within(bounds::BANK_CELLS, "cells", f64::from(input.cells))?;
    let (from, to) = measured_range();
    let beyond = !(from..=to).contains(&input.gravity.value());
    Ok(Ocv {
        measured_from: from,
        measured_to: to,
        said: beyond.then(|| {
            format!("The curve was measured from {from:.3} to {to:.3}; beyond that its last stretch goes on.")
        }),
        rule_per_cell: rule_rest_voltage(input.gravity),
        measured_per_cell: measured,
        measured: measured * f64::from(input.cells),
    })
}

fn assess_round(mut input: RoundToJudge) -> Result<JudgedRound, CalcError> {
    let impossible = |path, why: String| CalcError::Impossible { path, why };
    input.shape = input.shape.checked().map_err(|e| impossible("shape", e.to_string()))?;
    input.model = input.model.checked().map_err(|e| impossible("model", e.to_string()))?;
    input.instrument = input.instrument.checked().map_err(|e| impossible("instrument", e.to_string()))?;
    if let Some(stray) = input.readings.iter().find(|r| !input.shape.contains(r.cell)) {
        return Err(impossible("readings", format!("this bank has no cell {}", stray.cell)));
    }
    let mut seen = std::collections::HashSet::new();
    if let Some(twice) = input.readings.iter().find(|r| !seen.insert(r.cell)) {
        let why = format!("{} is given twice; one reading a cell is taken", twice.cell);
        return Err(impossible("readings", why));
    }
    if let Some(odd) = input.past.iter().find(|p| !(0.0..=36_525.0).contains(&p.days_before)) {
        let why = format!("{} days before is not possible; accepted is 0 to 36525", odd.days_before);
        return Err(impossible("past", why));
    }
    input.conditions = input.conditions.checked().map_err(|e| impossible("conditions", e.to_string()))?;
    if let Some(odd) = input.low_levels.iter().find(|l| bounds::LENGTH.check(l.below_mark).is_err()) {
        let why = format!("{} mm is not possible; accepted is {}", odd.below_mark, bounds::LENGTH.accepted());
        return Err(impossible("low_levels", why));
    }
    let assessment = judge(&input);
    Ok(JudgedRound {
        verdict: wording::verdict(&assessment, ReaderUnits::default()),
        findings: assessment.findings.iter().map(|f| wording::speak(f, ReaderUnits::default())).collect(),
        assessment,
    })
}

fn computed<I: DeserializeOwned, O: Serialize>(
    bytes: &[u8],
    compute: fn(I) -> Result<O, CalcError>,
) -> Result<Value, CalcError> {
    let input: I = input::read(bytes)?;
    serde_json::to_value(compute(input)?)
        .map_err(|e| CalcError::Input { path: "output".into(), why: e.to_string() })
}

/// JSON Schema 2020-12 of input and output, from the same descriptions as the OpenAPI document.
fn schema<I: ToSchema + PartialSchema, O: ToSchema + PartialSchema>() -> Value {
    let mut parts: Vec<(String, RefOr<Schema>)> = Vec::new();
    I::schemas(&mut parts);
    O::schemas(&mut parts);
    parts.push((I::name().into_owned(), I::schema()));
    parts.push((O::name().into_owned(), O::schema()));
    let defs: serde_json::Map<String, Value> =
        parts.into_iter().filter_map(|(name, s)| Some((name, serde_json::to_value(s).ok()?))).collect();
    let all = json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "type": "object",
        "properties": {
            "input": { "$ref": format!("#/$defs/{}", I::name()) },
            "output": { "$ref": format!("#/$defs/{}", O::name()) },
        },
        "$defs": defs,
    });
    serde_json::from_str(&all.to_string().replace("#/components/schemas/", "#/$defs/")).unwrap_or(all)
}

/// Computes, lists or describes.
///
/// # Errors
/// [`CalcError`] in one line that names the field.
pub fn run(args: &CalcArgs, mut input: impl Read, mut output: impl Write) -> Result<(), CalcError> {
    if args.list {
        for topic in all() {
            writeln!(output, "{:22} {}", topic.name, topic.about)?;
        }
        return Ok(());
    }
    let name = args.topic.as_deref().ok_or(CalcError::Missing)?;
    let topic = all().find(|t| t.name == name).ok_or_else(|| CalcError::NoTopic(name.to_owned()))?;
    let answer = if args.schema {
        (topic.schema)()
    } else {
        let mut bytes = Vec::new();
        input.read_to_end(&mut bytes)?;
        (topic.run)(&bytes)?
    };
    writeln!(output, "{answer:#}")?;
    Ok(())
}
