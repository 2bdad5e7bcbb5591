//! Topics of a visit: rest volts, water, trends, what is due.

#![expect(
    clippy::needless_pass_by_value,
    reason = "every topic has the same shape: it takes its input and may refuse it"
)]

use super::{CalcError, Topic, computed, schema, within};
use rainshadow_core::bank::string_letter;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::finding::{self, Finding};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{OutOfRange, Volume, bounds};
use rainshadow_core::rest::{RestAssessment, RestSheet, judge_rest};
use rainshadow_core::round::{Slope, slope};
use rainshadow_core::schedule::{BankFacts, DueItem, due_on};
use rainshadow_core::water::{
    Level, OverchargeShare, WaterForecast, WaterHistory, forecast, hydrogen_litres, mean_temperature, need,
    overcharge_of,
};
use rainshadow_core::wording::{self, DueReader, SpokenDue, SpokenFinding};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A rest check with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct RestSaid {
    /// The one sentence on top.
    verdict: String,
    /// What the reading is worth.
    grade: String,
    /// The findings in words.
    findings: Vec<SpokenFinding>,
    /// The same as codes with their quantities.
    found: Vec<Finding>,
    /// The judgement.
    assessment: RestAssessment,
}

/// WA-3: a level to fill up.
#[derive(Debug, Deserialize, ToSchema)]
struct WaterNeed {
    /// The level.
    level: Level,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// Cells that stand so; 1 when left out.
    #[serde(default = "one")]
    cells: u32,
}

fn one() -> u32 {
    1
}

/// Water to the mark.
#[derive(Debug, Serialize, ToSchema)]
struct Needed {
    /// mL a cell; none where the model gives no free area.
    each: Option<f64>,
    /// mL for all cells.
    all: Option<f64>,
    /// mm over the plates that the level comes to.
    over_plates: f64,
}

/// WA-2: what is known of a bank's water.
#[derive(Debug, Deserialize, ToSchema)]
struct ToForecast {
    /// Fills and levels.
    history: WaterHistory,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

/// WA-1: litres logged.
#[derive(Debug, Deserialize, ToSchema)]
struct Logged {
    /// Water added, mL.
    water: Volume,
    /// Cells it went into; all of the bank.
    cells: u32,
    /// Ah discharged from one string in the same time.
    #[serde(default)]
    discharged: Option<f64>,
    /// Temperature of the gas, °C; 25 when left out.
    #[serde(default = "warm")]
    celsius: f64,
}

fn warm() -> f64 {
    25.0
}

/// What the litres tell.
#[derive(Debug, Serialize, ToSchema)]
struct Overcharge {
    /// Ah of overcharge of one string.
    ampere_hours: f64,
    /// Hydrogen freed by all cells, L.
    hydrogen: f64,
    /// As a share of the Ah discharged.
    share: Option<f64>,
    /// What that share says.
    says: Option<OverchargeShare>,
    /// The same in words.
    said: Option<String>,
}

/// RD-6: a series.
#[derive(Debug, Deserialize, ToSchema)]
struct Series {
    /// Day and value, oldest first.
    points: Vec<(f64, f64)>,
}

/// A slope, or why there is none.
#[derive(Debug, Serialize, ToSchema)]
struct Trended {
    /// Slope with its 80 % interval.
    slope: Option<Slope>,
    /// Why there is none: at least five values over 180 days are needed.
    why_none: Option<String>,
}

/// SC-1 to SC-3: what is known of a bank.
#[derive(Debug, Deserialize, ToSchema)]
struct ToDue {
    /// The bank.
    facts: BankFacts,
    /// The day it is, for the words.
    #[schema(value_type = String)]
    today: jiff::civil::Date,
}

/// One due item with its words.
#[derive(Debug, Serialize, ToSchema)]
struct DueSaid {
    /// In words.
    said: SpokenDue,
    /// The item.
    item: DueItem,
}

/// What is due, most pressing first.
#[derive(Debug, Serialize, ToSchema)]
struct DueList {
    /// Items.
    items: Vec<DueSaid>,
}

fn model_of(model: Option<BatteryModel>, key: Option<String>) -> Result<BatteryModel, CalcError> {
    let model = if let Some(model) = model {
        model
    } else {
        let key = key.unwrap_or_else(|| "flooded-6v-420".into());
        BatteryModel::generic_by_key(&key).ok_or_else(|| CalcError::Impossible {
            path: "model_key",
            why: format!("there is no generic model “{key}”"),
        })?
    };
    model.checked().map_err(|e| CalcError::Impossible { path: "model", why: e.to_string() })
}

fn rest_volts(mut sheet: RestSheet) -> Result<RestSaid, CalcError> {
    let impossible = |path, why: String| CalcError::Impossible { path, why };
    sheet.shape = sheet.shape.checked().map_err(|e| impossible("shape", e.to_string()))?;
    sheet.model = sheet.model.checked().map_err(|e| impossible("model", e.to_string()))?;
    let on = |battery| sheet.shape.contains(rainshadow_core::bank::CellAddress { battery, cell: 1 });
    if let Some(stray) = sheet.batteries.iter().find(|b| !on(b.battery)) {
        return Err(impossible("batteries", format!("this bank has no battery {}", stray.battery)));
    }
    if let Some(stray) = sheet.strings.iter().find(|s| s.string >= sheet.shape.parallel) {
        let (letter, all) = (string_letter(stray.string), sheet.shape.parallel);
        return Err(impossible("strings", format!("this bank has no string {letter}; it has {all}")));
    }
    let highest = 2.9 * f64::from(sheet.shape.cells_in_series());
    if let Some(odd) = sheet.strings.iter().find(|s| !(0.0..=highest).contains(&s.volts)) {
        let why = format!("{} V is not possible; accepted is 0 to {highest:.1} V", odd.volts);
        return Err(impossible("strings", why));
    }
    let most = 2.9 * f64::from(sheet.shape.cells_per_battery);
    if let Some(odd) = sheet.batteries.iter().find(|b| !(0.0..=most).contains(&b.volts)) {
        let why = format!("{} V at {} is not possible; accepted is 0 to {most:.1} V", odd.volts, odd.battery);
        return Err(impossible("batteries", why));
    }
    let assessment = judge_rest(&sheet);
    let found = finding::merged(finding::rest::of_judged(&assessment, &sheet));
    Ok(RestSaid {
        verdict: found.first().map_or_else(
            || wording::rest_line(&assessment.summary()),
            |first| {
                let lead = wording::speak(first, ReaderUnits::default());
                format!("{}. {}", lead.headline, lead.advice)
            },
        ),
        grade: assessment.grade.said().into(),
        findings: found.iter().map(|f| wording::speak(f, ReaderUnits::default())).collect(),
        found,
        assessment,
    })
}

fn water_need(input: WaterNeed) -> Result<Needed, CalcError> {
    let model = model_of(input.model, input.model_key)?;
    if let Level::Millimetres { mm } = input.level {
        Level::measured(mm).map_err(|e| CalcError::Impossible { path: "level.mm", why: e.to_string() })?;
    }
    let each = need(input.level, &model).map(Volume::millilitres);
    Ok(Needed {
        each,
        all: each.map(|e| e * f64::from(input.cells)),
        over_plates: input.level.over_plates(&model),
    })
}

fn water_forecast(input: ToForecast) -> Result<WaterForecast, CalcError> {
    let model = model_of(input.model, input.model_key)?;
    let bad = |i: &&rainshadow_core::water::Interval| !(i.days > 0.0 && i.millilitres >= 0.0);
    let all = || input.history.bank.iter().chain(input.history.cells.iter().flat_map(|(_, own)| own));
    if let Some(odd) = all().find(bad) {
        let why = format!(
            "{} mL in {} days is not possible; accepted is 0 mL or more in more than 0 days",
            odd.millilitres, odd.days
        );
        return Err(CalcError::Impossible { path: "history", why });
    }
    let impossible = |path, e: OutOfRange| CalcError::Impossible { path, why: e.to_string() };
    for interval in all() {
        bounds::FILL_DAYS.check(interval.days).map_err(|e| impossible("history.days", e))?;
        bounds::VOLUME.check(interval.millilitres).map_err(|e| impossible("history.millilitres", e))?;
        interval.temperature.map_or(Ok(()), |t| mean_of("history.temperature", t))?;
    }
    if let Some(since) = input.history.days_since_fill {
        bounds::FILL_DAYS.check(since).map_err(|e| impossible("history.days_since_fill", e))?;
    }
    input.history.expected_temperature.map_or(Ok(()), |t| mean_of("history.expected_temperature", t))?;
    within(bounds::BANK_CELLS, "history.cell_count", f64::from(input.history.cell_count))?;
    forecast(&input.history, &model).ok_or(CalcError::Impossible {
        path: "history",
        why: "a forecast needs a fill to the mark on record, and a model with a fill mark and a free area"
            .into(),
    })
}

fn mean_of(path: &'static str, celsius: f64) -> Result<(), CalcError> {
    mean_temperature(celsius).map(|_| ()).map_err(|e| CalcError::Impossible { path, why: e.to_string() })
}

fn overcharge(input: Logged) -> Result<Overcharge, CalcError> {
    if input.cells == 0 {
        return Err(CalcError::Impossible {
            path: "cells",
            why: "0 is not possible; accepted is 1 or more".into(),
        });
    }
    within(bounds::BANK_CELLS, "cells", f64::from(input.cells))?;
    within(bounds::ELECTROLYTE_TEMPERATURE, "celsius", input.celsius)?;
    if let Some(discharged) = input.discharged {
        within(bounds::ANY_NUMBER, "discharged", discharged)?;
    }
    let ampere_hours = overcharge_of(input.water.millilitres(), input.cells);
    let share = input.discharged.filter(|d| *d > 0.0).map(|d| ampere_hours / d);
    let says = input.discharged.and_then(|d| OverchargeShare::of(ampere_hours, d));
    Ok(Overcharge {
        ampere_hours,
        hydrogen: hydrogen_litres(ampere_hours, input.celsius) * f64::from(input.cells),
        share,
        says,
        said: says.map(|s| s.said().into()),
    })
}

fn trend(input: Series) -> Result<Trended, CalcError> {
    for (day, value) in &input.points {
        within(bounds::ANY_NUMBER, "points", *day)?;
        within(bounds::ANY_NUMBER, "points", *value)?;
    }
    if input.points.windows(2).any(|p| p[1].0 < p[0].0) {
        return Err(CalcError::Impossible {
            path: "points",
            why: "a day comes before the one ahead of it; give them oldest first".into(),
        });
    }
    let slope = slope(&input.points);
    let why_none = slope.is_none().then(|| "at least five values over 180 days are needed".to_owned());
    Ok(Trended { slope, why_none })
}

fn due_list(input: ToDue) -> Result<DueList, CalcError> {
    let shape = input.facts.shape.clone().checked();
    shape.map_err(|e| CalcError::Impossible { path: "facts.shape", why: e.to_string() })?;
    let reader = DueReader {
        construction: input.facts.model.construction,
        cells: input.facts.shape.cell_count(),
        today: input.today,
        units: ReaderUnits::default(),
    };
    // What waiting does hangs on the day: a test long overdue is a loss.
    let items = due_on(&input.facts, input.today)
        .into_iter()
        .map(|item| DueSaid { said: wording::due(&item, &reader), item });
    Ok(DueList { items: items.collect() })
}

pub(super) static TOPICS: [Topic; 6] = [
    Topic {
        name: "rest-volts",
        about: "RD-7: what volts at rest say",
        run: |bytes| computed(bytes, rest_volts),
        schema: schema::<RestSheet, RestSaid>,
    },
    Topic {
        name: "water-need",
        about: "WA-3: water to the mark",
        run: |bytes| computed(bytes, water_need),
        schema: schema::<WaterNeed, Needed>,
    },
    Topic {
        name: "water-forecast",
        about: "WA-2: thirst and the next fill",
        run: |bytes| computed(bytes, water_forecast),
        schema: schema::<ToForecast, WaterForecast>,
    },
    Topic {
        name: "overcharge-from-water",
        about: "WA-1: what the litres tell of charging",
        run: |bytes| computed(bytes, overcharge),
        schema: schema::<Logged, Overcharge>,
    },
    Topic {
        name: "trend",
        about: "RD-6: slope over time with its 80 % interval",
        run: |bytes| computed(bytes, trend),
        schema: schema::<Series, Trended>,
    },
    Topic {
        name: "due",
        about: "SC-1 to SC-3: what is due when, and why",
        run: |bytes| computed(bytes, due_list),
        schema: schema::<ToDue, DueList>,
    },
];
