//! The topics that cost money: a year of charging, a replacement, a size.

use super::plan_ahead::shape_of;
use super::{CalcError, Topic, chosen_model, computed, schema};
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{TimeToFull, time_to_full};
use rainshadow_core::charging_plan::{
    ChargingAsked, ChargingError, ChargingMoney, ChargingYear, DepthPoint, EngineUse, PlugUse, Prices, Stay,
    charging_money, charging_year, depth_curve, stay,
};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::design_life;
use rainshadow_core::replacement::{
    ReplacementAsked, ReplacementOption, ReplacementPrices, UsedKind, replacement_options,
};
use rainshadow_core::replacing::UsedBattery;
use rainshadow_core::sizing::{SizeNeeded, SizedLayout, SizingAsked, layout_of, size_needed};
use rainshadow_core::solar::{SolarArray, SolarSky};
use rainshadow_core::water::MonthlyMeans;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

fn whole() -> f64 {
    100.0
}

fn alike() -> [f64; 12] {
    [1.0; 12]
}

fn half() -> f64 {
    50.0
}

/// A stay to look at.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct StayAsked {
    /// Month, 1 to 12.
    month: u8,
    /// Days.
    days: u16,
}

/// A source that fills it from a charge.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct FillAsked {
    /// A at the battery, loads off.
    amperes: f64,
    /// From a charge, per cent.
    from: f64,
}

/// CH-4, CH-5: a bank with its sources and loads.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct ChargingInput {
    /// How it is made up.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// Capacity that is left, per cent; 100 when left out.
    #[serde(default = "whole")]
    health: f64,
    /// A drawn by hour of the day, from midnight on.
    #[schema(value_type = Vec<f64>, min_items = 24, max_items = 24)]
    loads: [f64; 24],
    /// Times as much by month, January first; 1 when left out.
    #[serde(default = "alike")]
    #[schema(value_type = Vec<f64>, min_items = 12, max_items = 12)]
    loads_by_month: [f64; 12],
    /// Mean of the electrolyte by month, °C.
    means: MonthlyMeans,
    /// Its array; with the sky.
    #[serde(default)]
    array: Option<SolarArray>,
    /// The sky over it; with the array.
    #[serde(default)]
    sky: Option<SolarSky>,
    /// Its engine.
    #[serde(default)]
    engine: Option<EngineUse>,
    /// Its generator.
    #[serde(default)]
    generator: Option<PlugUse>,
    /// Its plug.
    #[serde(default)]
    shore: Option<PlugUse>,
    /// How deep the house plans, per cent; 50 when left out.
    #[serde(default = "half")]
    planned_depth: f64,
    /// Prices.
    #[serde(default)]
    prices: Prices,
    /// A stay to look at.
    #[serde(default)]
    stay: Option<StayAsked>,
    /// A charge to time.
    #[serde(default)]
    fill: Option<FillAsked>,
}

/// How its year goes.
#[derive(Debug, Serialize, ToSchema)]
struct ChargingSaid {
    /// The one sentence on top.
    said: String,
    /// Where its limits come from.
    rule: &'static str,
    /// What it costs.
    money: ChargingMoney,
    /// Depth against life.
    depth_curve: Vec<DepthPoint>,
    /// The stay asked for.
    stay: Option<Stay>,
    /// The charge asked for; none: not asked, or it never fills.
    time_to_full: Option<TimeToFull>,
    /// The figures.
    #[serde(flatten)]
    year: ChargingYear,
}

fn charging_topic(input: ChargingInput) -> Result<ChargingSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let shape = shape_of(input.shape, &model)?;
    let solar = match (input.array, input.sky) {
        (Some(array), Some(sky)) => Some((array, sky)),
        (None, None) => None,
        _ => {
            let why = "an array is given with its sky, or neither".to_owned();
            return Err(CalcError::Impossible { path: "array", why });
        }
    };
    let asked = ChargingAsked {
        model,
        shape,
        health: input.health,
        loads: input.loads,
        loads_by_month: input.loads_by_month,
        means: input.means,
        solar,
        engine: input.engine,
        generator: input.generator,
        shore: input.shore,
        planned_depth: input.planned_depth,
    };
    let refused = |e: ChargingError| CalcError::Impossible { path: e.field(), why: e.to_string() };
    let year = charging_year(&asked).map_err(refused)?;
    let money = charging_money(&asked, &year, &input.prices, 0.0)
        .map_err(|e| CalcError::Impossible { path: "prices", why: e.to_string() })?;
    let construction = asked.model.construction;
    let capacity = asked.model.c20.ampere_hours() * f64::from(asked.shape.parallel);
    let fill = input.fill.map(|own| time_to_full(construction, capacity, own.amperes, own.from));
    Ok(ChargingSaid {
        said: wording::charging_verdict(&year, None),
        rule: wording::CHARGING_RULE,
        money,
        depth_curve: depth_curve(construction, design_life(construction)),
        stay: input.stay.map(|own| stay(&asked, own.month, own.days)).transpose().map_err(refused)?,
        time_to_full: fill
            .transpose()
            .map_err(|e| CalcError::Impossible { path: "fill", why: e.to_string() })?
            .flatten(),
        year,
    })
}

fn twenty() -> f64 {
    20.0
}

/// A used battery at hand.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct UsedInput {
    /// What it is beside the bank's.
    #[serde(default)]
    kind: UsedKind,
    /// Its age, months.
    #[serde(default)]
    months: Option<f64>,
    /// Its capacity, per cent.
    #[serde(default)]
    capacity: Option<f64>,
    /// Its resistance, mΩ.
    #[serde(default)]
    milliohms: Option<f64>,
}

/// RP-1, RP-2, SM-2: one battery is failing.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct ReplacementInput {
    /// How it is made up.
    shape: BankShape,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// The one that is failing: "B5".
    failing: BatteryAddress,
    /// Age of the bank, months.
    #[serde(default)]
    months: Option<f64>,
    /// Capacity that its sound batteries have left, per cent; 100 when left out.
    #[serde(default = "whole")]
    health: f64,
    /// Capacity that the failing one has left, per cent.
    failing_health: f64,
    /// Years that its sound batteries have left: best, least, most.
    #[serde(default)]
    years_left: Option<[f64; 3]>,
    /// How much more its sound batteries gas than new ones, 1 to 4; by age when left out.
    #[serde(default)]
    gassing: Option<f64>,
    /// A used one at hand.
    #[serde(default)]
    used: Option<UsedInput>,
    /// Depth of a day, per cent of C20.
    depth: f64,
    /// Mean of the air, °C; 20 when left out.
    #[serde(default = "twenty")]
    celsius: f64,
    /// V a cell of absorption; that of the model when left out.
    #[serde(default)]
    volts: Option<f64>,
    /// A of the charger.
    amperes: f64,
    /// Hours it charges a day.
    hours: f64,
    /// Prices.
    prices: ReplacementPrices,
    /// House rules: `maker_first`, `close_watch`, `light_touch`; the first when left out.
    #[serde(default)]
    rules: Option<String>,
}

/// What each option comes to.
#[derive(Debug, Serialize, ToSchema)]
struct ReplacementSaid {
    /// Option by option in words.
    said: Vec<String>,
    /// Where its limits come from.
    rule: &'static str,
    /// The options.
    options: Vec<ReplacementOption>,
}

fn replacement_topic(input: ReplacementInput) -> Result<ReplacementSaid, CalcError> {
    let model = chosen_model(input.model, input.model_key)?;
    let shape = shape_of(input.shape, &model)?;
    let house = HouseRules::shipped();
    let rules = match &input.rules {
        None => HouseRules::maker_first(),
        Some(key) => house.into_iter().find(|own| own.key == *key).ok_or_else(|| CalcError::Impossible {
            path: "rules",
            why: format!(
                "there are no rules \u{201c}{key}\u{201d}; accepted is maker_first, close_watch, light_touch"
            ),
        })?,
    };
    let asked = ReplacementAsked {
        volts: input.volts.unwrap_or(model.setpoints.absorption),
        model,
        shape,
        failing: input.failing,
        months: input.months,
        health: input.health,
        failing_health: input.failing_health,
        years_left: input.years_left,
        gassing: input.gassing,
        used: input.used.map(|own| {
            (own.kind, UsedBattery { months: own.months, capacity: own.capacity, milliohms: own.milliohms })
        }),
        depth: input.depth,
        celsius: input.celsius,
        amperes: input.amperes,
        hours: input.hours,
        prices: input.prices,
        rules,
    };
    let options = replacement_options(&asked)
        .map_err(|e| CalcError::Impossible { path: e.field(), why: e.to_string() })?;
    let planned = f64::from(asked.rules.planned_depth_percent);
    let line = |own: &ReplacementOption| {
        let name = wording::replacement_kind(own.kind, asked.failing);
        let does = wording::replacement_does(own, asked.failing, planned);
        format!("{name}: {}", own.refused.map_or(does, |why| wording::replacement_refused(why).to_owned()))
    };
    Ok(ReplacementSaid { said: options.iter().map(line).collect(), rule: wording::REPLACEMENT_RULE, options })
}

/// RP-3: what a bank is to do, with models to lay out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct SizeInput {
    /// What it is to do.
    asked: SizingAsked,
    /// Keys of generic models to lay out; all of them when left out.
    #[serde(default)]
    model_keys: Option<Vec<String>>,
    /// Whole models beside them.
    #[serde(default)]
    models: Vec<BatteryModel>,
}

/// A layout with its model.
#[derive(Debug, Serialize, ToSchema)]
struct LayoutSaid {
    /// Name of the model.
    model: String,
    /// What it comes to.
    said: String,
    /// The figures; none: it does not make the volts, or needs more than five strings.
    layout: Option<SizedLayout>,
}

/// How large it has to be.
#[derive(Debug, Serialize, ToSchema)]
struct SizeSaid {
    /// Where its limits come from.
    rule: &'static str,
    /// What is needed.
    needed: SizeNeeded,
    /// Layouts.
    layouts: Vec<LayoutSaid>,
}

fn size_topic(input: SizeInput) -> Result<SizeSaid, CalcError> {
    let refused = |e: rainshadow_core::sizing::SizingError| CalcError::Impossible {
        path: e.field(),
        why: e.to_string(),
    };
    let needed = size_needed(&input.asked).map_err(refused)?;
    let mut models = Vec::new();
    match input.model_keys {
        Some(keys) => {
            for key in keys {
                models.push(chosen_model(None, Some(key))?);
            }
        }
        None if input.models.is_empty() => {
            models.extend(BatteryModel::generic().into_iter().map(|own| own.1));
        }
        None => {}
    }
    for own in input.models {
        models.push(chosen_model(Some(own), None)?);
    }
    let mut layouts = Vec::new();
    for model in models {
        let layout = layout_of(&input.asked, &model).map_err(refused)?;
        let said = layout.as_ref().map_or_else(
            || "does not make the volts, or needs more than five strings".to_owned(),
            wording::layout_said,
        );
        layouts.push(LayoutSaid { model: model.name, said, layout });
    }
    Ok(SizeSaid { rule: wording::SIZE_RULE, needed, layouts })
}

pub(super) static TOPICS: [Topic; 3] = [
    Topic {
        name: "charging",
        about: "CH-4, CH-5: a year of sun, engine, generator and plug against loads; full days, life, money, a stay, time to full",
        run: |bytes| computed(bytes, charging_topic),
        schema: schema::<ChargingInput, ChargingSaid>,
    },
    Topic {
        name: "replacement",
        about: "RP-1, RP-2, SM-2: one battery is failing; options with money, years and what the string does for 90 days",
        run: |bytes| computed(bytes, replacement_topic),
        schema: schema::<ReplacementInput, ReplacementSaid>,
    },
    Topic {
        name: "size",
        about: "RP-3: how large a bank has to be, and layouts of known models",
        run: |bytes| computed(bytes, size_topic),
        schema: schema::<SizeInput, SizeSaid>,
    },
];
