//! Topics of strings and what they hold: resistance, holding, joints, parallel share.

#![expect(
    clippy::needless_pass_by_value,
    reason = "every topic has the same shape: it takes its input and may refuse it"
)]

use super::{CalcError, Topic, chosen_model, computed, schema, within};
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::joints::{JointJudged, JointRound, judge_joints};
use rainshadow_core::ohmic::{OhmicJudged, OhmicReading, OhmicUnit, judge_ohmic, resistance, rise_word};
use rainshadow_core::parallel_share::{ParallelBank, ShareJudged, judge_shares};
use rainshadow_core::quantity::{Temperature, bounds};
use rainshadow_core::rest::{Held, HeldLoss, Holds, against_full, held_loss, holds};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One battery as a tester shows it.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct OhmicRead {
    /// Which.
    battery: BatteryAddress,
    /// What the tester shows.
    shown: f64,
    /// What it showed first, in the same unit; none: not on record.
    #[serde(default)]
    first: Option<f64>,
    /// Case, °C.
    #[serde(default)]
    temperature: Option<Temperature>,
    /// Case at the first value, °C.
    #[serde(default)]
    first_temperature: Option<Temperature>,
}

/// OH-1: batteries of a bank.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct OhmicAsked {
    /// Unit of the tester; milliohms when left out.
    #[serde(default)]
    unit: OhmicUnit,
    /// Battery by battery.
    batteries: Vec<OhmicRead>,
}

/// As judged.
#[derive(Debug, Serialize, ToSchema)]
struct OhmicSaid {
    /// Battery by battery in words.
    lines: Vec<String>,
    /// Battery by battery.
    batteries: Vec<OhmicJudged>,
}

fn ohmic_topic(input: OhmicAsked) -> Result<OhmicSaid, CalcError> {
    let mut readings = Vec::new();
    for (at, own) in input.batteries.iter().enumerate() {
        let shown = |value: f64, field: &str| {
            resistance(value, input.unit).map_err(|e| CalcError::Input {
                path: format!("batteries[{at}].{field}"),
                why: e.to_string(),
            })
        };
        readings.push(OhmicReading {
            battery: own.battery,
            milliohms: shown(own.shown, "shown")?,
            baseline: own.first.map(|first| shown(first, "first")).transpose()?,
            baseline_temperature: own.first_temperature,
            case_temperature: own.temperature,
        });
    }
    let batteries = judge_ohmic(&readings);
    let line = |own: &OhmicJudged| match own.rise {
        Some(rise) => {
            format!("{}: {:.2} mΩ, {:+.0} %: {}.", own.battery, own.milliohms, 100.0 * rise, rise_word(rise))
        }
        None => format!("{}: {:.2} mΩ, nothing to hold it against.", own.battery, own.milliohms),
    };
    Ok(OhmicSaid { lines: batteries.iter().map(line).collect(), batteries })
}

/// HD-1: volts of a disconnected battery a day or more after a full charge.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct HoldingAsked {
    /// Volts now.
    volts: f64,
    /// Hours since the full charge, disconnected; 24 at least.
    hours: f64,
    /// Volts at first, once settled, and how many days ago; none: read once.
    #[serde(default)]
    first: Option<HeldFirst>,
    /// Cells between the posts; those of the model when left out.
    #[serde(default)]
    cells: Option<u16>,
    /// Standard uncertainty of the meter, V; 0.01 when left out.
    #[serde(default = "hundredth")]
    meter: f64,
    /// Mean temperature meanwhile, °C.
    #[serde(default)]
    temperature: Option<Temperature>,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

/// Volts at first.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct HeldFirst {
    /// V.
    volts: f64,
    /// Days ago.
    days: f64,
}

fn hundredth() -> f64 {
    0.01
}

/// Whether it holds, and what it lost.
#[derive(Debug, Serialize, ToSchema)]
struct HoldingSaid {
    /// In words.
    said: String,
    /// Volts on 12 V against full.
    against_full: f64,
    /// Whether it holds.
    holds: Holds,
    /// What it lost a day; none: it was read once.
    loss: Option<HeldLoss>,
}

fn holding_topic(input: HoldingAsked) -> Result<HoldingSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let cells = f64::from(input.cells.unwrap_or(u16::from(model.cells)));
    within(bounds::BANK_CELLS, "cells", cells)?;
    let volts = within(bounds::VOLTAGE, "volts", input.volts)?;
    within(bounds::HOURS, "hours", input.hours)?;
    if input.hours < rainshadow_core::rest::HOLDING_HOURS {
        let why = format!("{} h tell nothing yet; accepted is 24 h and more", input.hours);
        return Err(CalcError::Impossible { path: "hours", why });
    }
    within(bounds::METER_UNCERTAINTY, "meter", input.meter)?;
    let loss = match input.first {
        Some(first) => {
            within(bounds::FILL_DAYS, "first.days", first.days)?;
            if first.days <= 0.0 {
                let why = "the first reading lies some days ago; accepted is more than 0".to_owned();
                return Err(CalcError::Impossible { path: "first.days", why });
            }
            let before = within(bounds::VOLTAGE, "first.volts", first.volts)?;
            let held = Held {
                volts: [before, volts],
                days: first.days,
                cells,
                meter: input.meter,
                temperature: input.temperature,
            };
            Some(held_loss(&held, &model))
        }
        None => None,
    };
    let against = against_full(volts, cells, &model);
    let holds = holds(against);
    let head = match holds {
        Holds::Holds => "It holds its charge",
        Holds::Watch => "It stands lower than a full one: it loses, or was not quite full",
        Holds::Fails => "It does not hold its charge",
    };
    let told = match &loss {
        Some(HeldLoss { per_day: Some(percent), usual, .. }) => {
            format!(" It lost {percent:.2} % a day; {:.2} to {:.2} % are usual.", usual[0], usual[1])
        }
        Some(own) => format!(" What it lost a day this meter cannot tell: under {:.2} %.", own.least_told),
        None => String::new(),
    };
    let said = format!("{head}: {against:+.2} V on 12 V against full.{told}");
    Ok(HoldingSaid { said, against_full: against, holds, loss })
}

/// A round of joints as judged.
#[derive(Debug, Serialize, ToSchema)]
struct JointsSaid {
    /// In words.
    said: String,
    /// Joint by joint in words.
    lines: Vec<String>,
    /// Joint by joint.
    joints: Vec<JointJudged>,
}

fn joints_topic(input: JointRound) -> Result<JointsSaid, CalcError> {
    let joints =
        judge_joints(&input).map_err(|e| CalcError::Impossible { path: "joints", why: e.to_string() })?;
    Ok(JointsSaid {
        said: wording::joints_verdict(&joints),
        lines: joints.iter().map(wording::joint_line).collect(),
        joints,
    })
}

/// How parallel strings share.
#[derive(Debug, Serialize, ToSchema)]
struct ShareSaid {
    /// In words.
    said: String,
    /// The figures.
    #[serde(flatten)]
    judged: ShareJudged,
}

fn share_topic(input: ParallelBank) -> Result<ShareSaid, CalcError> {
    let judged =
        judge_shares(&input).map_err(|e| CalcError::Impossible { path: "strings", why: e.to_string() })?;
    Ok(ShareSaid { said: wording::shares_verdict(&judged), judged })
}

pub(super) static TOPICS: [Topic; 4] = [
    Topic {
        name: "ohmic",
        about: "OH-1: resistances or conductances against their own first values and their mates",
        run: |bytes| computed(bytes, ohmic_topic),
        schema: schema::<OhmicAsked, OhmicSaid>,
    },
    Topic {
        name: "holding",
        about: "HD-1: whether a disconnected battery holds its charge, and what it lost a day",
        run: |bytes| computed(bytes, holding_topic),
        schema: schema::<HoldingAsked, HoldingSaid>,
    },
    Topic {
        name: "joints",
        about: "CN-1: millivolts across joints against their like",
        run: |bytes| computed(bytes, joints_topic),
        schema: schema::<JointRound, JointsSaid>,
    },
    Topic {
        name: "parallel-share",
        about: "ST-1: how parallel strings share a current, and the cheapest change that evens them",
        run: |bytes| computed(bytes, share_topic),
        schema: schema::<ParallelBank, ShareSaid>,
    },
];
