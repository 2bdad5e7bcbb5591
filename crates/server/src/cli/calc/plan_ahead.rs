//! The topics that look ahead: a storage spell, hours under a load.

use super::{CalcError, Topic, chosen_model, computed, schema};
use jiff::civil::Date;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::life::gassing;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::runtime::{
    Inverter, ProofJudged, Runtime, RuntimeAsked, RuntimeError, RuntimeLoad, RuntimeProof, StandIn,
    StandInHours, capacity_for, judge_proof, load_for, runtime, stand_in,
};
use rainshadow_core::storage::{
    MonthlyLoss, StorageAir, StorageAsked, StoragePlan, StorageWay, plan_storage, usual_self_discharge,
};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

pub(super) fn shape_of(shape: BankShape, model: &BatteryModel) -> Result<BankShape, CalcError> {
    let impossible = |why: String| CalcError::Impossible { path: "shape", why };
    let shape = shape.checked().map_err(|e| impossible(e.to_string()))?;
    if shape.cells_per_battery == model.cells {
        return Ok(shape);
    }
    let found = shape.cells_per_battery;
    Err(impossible(format!("a battery of this model has {} cells, not {found}", model.cells)))
}

fn whole() -> f64 {
    100.0
}

fn sixty() -> u16 {
    60
}

/// SD-1, SD-2: a bank that is left over a season.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct StorageInput {
    /// How it is made up.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// Day it is left.
    #[schema(value_type = String)]
    from: Date,
    /// Day it is taken into use again.
    #[schema(value_type = String)]
    until: Date,
    /// Air at the site by month.
    air: StorageAir,
    /// Charge it is left with, per cent; 100 when left out.
    #[serde(default = "whole")]
    charged: f64,
    /// Capacity that is left, per cent; 100 when left out.
    #[serde(default = "whole")]
    health: f64,
    /// Years in service, which its usual self-discharge goes by.
    #[serde(default)]
    years: f64,
    /// What it loses by itself; none: what such batteries of that age do.
    #[serde(default)]
    loss: Option<MonthlyLoss>,
    /// How much more its cells gas than new ones, 1 to 4; by its years when left out.
    #[serde(default)]
    age: Option<f64>,
    /// Water over the plates of a cell that may go, mL.
    #[serde(default)]
    reserve: Option<f64>,
    /// Days after which a stored bank is looked at at the latest; 60 when left out.
    #[serde(default = "sixty")]
    check_days: u16,
    /// The ways to compare.
    ways: Vec<StorageWay>,
}

/// How it comes through.
#[derive(Debug, Serialize, ToSchema)]
struct StorageSaid {
    /// The one sentence on top.
    said: String,
    /// Way by way, in words.
    ways_said: Vec<String>,
    /// Where its limits come from.
    rule: &'static str,
    /// What it loses by itself, as taken.
    loss: MonthlyLoss,
    /// The figures.
    #[serde(flatten)]
    plan: StoragePlan,
}

fn storage_topic(input: StorageInput) -> Result<StorageSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let shape = shape_of(input.shape, &model)?;
    super::within(rainshadow_core::quantity::bounds::YEARS, "years", input.years)?;
    let (inside, _) = usual_self_discharge(model.construction, input.years);
    let by_years = gassing(model.construction, Some(input.years), None).times;
    let loss = input.loss.unwrap_or(MonthlyLoss { inside, tops: 0.0 });
    let asked = StorageAsked {
        model,
        shape,
        from: input.from,
        until: input.until,
        air: input.air,
        charged: input.charged,
        health: input.health,
        loss,
        age: input.age.unwrap_or(by_years),
        reserve: input.reserve,
        check_days: input.check_days,
        ways: input.ways,
    };
    let plan =
        plan_storage(&asked).map_err(|e| CalcError::Impossible { path: e.field(), why: e.to_string() })?;
    let units = ReaderUnits::default();
    let ways_said = plan.ways.iter().map(|own| {
        let name = wording::storage_way(own.way.kind());
        format!("{name}: {}", wording::way_comes_to(own, units))
    });
    Ok(StorageSaid {
        said: wording::storage_verdict(&plan, units),
        ways_said: ways_said.collect(),
        rule: wording::STORAGE_RULE,
        loss,
        plan,
    })
}

fn twenty_five() -> f64 {
    25.0
}

/// RT-1 to RT-3: a bank on its own under a load.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct RuntimeInput {
    /// How it is made up.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// What draws: A at the bank, or W behind the inverter.
    load: RuntimeLoad,
    /// What stands between; none: nothing.
    #[serde(default)]
    inverter: Option<Inverter>,
    /// Electrolyte, °C; 25 when left out.
    #[serde(default = "twenty_five")]
    temperature: f64,
    /// Capacity that is left, per cent; 100 when left out.
    #[serde(default = "whole")]
    health: f64,
    /// Between which it lies.
    #[serde(default)]
    health_range: Option<[f64; 2]>,
    /// Charge it begins with, per cent; 100 when left out.
    #[serde(default = "whole")]
    charged: f64,
    /// How deep it may go, per cent of what it gives; 100 when left out.
    #[serde(default = "whole")]
    depth: f64,
    /// Peukert's exponent; none: the rate table of the model, or what is usual.
    #[serde(default)]
    exponent: Option<f64>,
    /// V of the bank at which its alarm goes.
    #[serde(default)]
    alarm: Option<f64>,
    /// V of the bank at which it counts as empty; 1.75 a cell when left out.
    #[serde(default)]
    empty: Option<f64>,
    /// Hours that are wanted.
    #[serde(default)]
    wanted: Option<f64>,
    /// Batteries at hand that would stand in.
    #[serde(default)]
    stand_in: Option<StandIn>,
    /// A proof to hold against the prediction.
    #[serde(default)]
    proof: Option<RuntimeProof>,
}

/// How long it holds.
#[derive(Debug, Serialize, ToSchema)]
struct RuntimeSaid {
    /// The one sentence on top.
    said: String,
    /// Where its limits come from.
    rule: &'static str,
    /// C20 of a string from which the hours wanted are there, Ah; none: not asked, or no size does.
    capacity_for_wanted: Option<f64>,
    /// Share of the load that lasts as long as wanted; none: not asked, or all of it does.
    load_for_wanted: Option<f64>,
    /// What batteries at hand buy; none: not asked, or they do not fit.
    stand_in: Option<StandInHours>,
    /// Why they do not fit.
    stand_in_refused: Option<String>,
    /// The proof beside its prediction.
    proof: Option<ProofJudged>,
    /// The figures.
    #[serde(flatten)]
    runtime: Runtime,
}

fn runtime_topic(input: RuntimeInput) -> Result<RuntimeSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let shape = shape_of(input.shape, &model)?;
    let asked = RuntimeAsked {
        model,
        shape,
        load: input.load,
        inverter: input.inverter,
        temperature: input.temperature,
        health: input.health,
        health_range: input.health_range,
        charged: input.charged,
        depth: input.depth,
        exponent: input.exponent,
        alarm: input.alarm,
        empty: input.empty,
    };
    let refused = |e: RuntimeError| CalcError::Impossible { path: e.field(), why: e.to_string() };
    let own = runtime(&asked).map_err(refused)?;
    let wanted = input
        .wanted
        .map(|hours| super::within(rainshadow_core::quantity::bounds::HOURS_WANTED, "wanted", hours))
        .transpose()?;
    let size = wanted.map(|hours| capacity_for(&asked, hours)).transpose().map_err(refused)?.flatten();
    let load = wanted.map(|hours| load_for(&asked, hours)).transpose().map_err(refused)?.flatten();
    let other = input.stand_in.map(|own| stand_in(&asked, own)).transpose().map_err(refused)?;
    let proof = input.proof.map(|own| judge_proof(&asked, &own)).transpose().map_err(refused)?;
    Ok(RuntimeSaid {
        said: wording::runtime_verdict(&own, wanted),
        rule: wording::RUNTIME_RULE,
        capacity_for_wanted: size,
        load_for_wanted: load,
        stand_in: other.and_then(Result::ok),
        stand_in_refused: other.and_then(Result::err).map(|e| e.to_string()),
        proof,
        runtime: own,
    })
}

pub(super) static TOPICS: [Topic; 2] = [
    Topic {
        name: "storage",
        about: "SD-1, SD-2, SG-5: a storage spell day by day in every way to leave a bank, recharges, looks, freezing",
        run: |bytes| computed(bytes, storage_topic),
        schema: schema::<StorageInput, StorageSaid>,
    },
    Topic {
        name: "runtime",
        about: "RT-1 to RT-3: hours under a load to the alarm and until empty, capacity and load for the hours wanted, a proof",
        run: |bytes| computed(bytes, runtime_topic),
        schema: schema::<RuntimeInput, RuntimeSaid>,
    },
];
