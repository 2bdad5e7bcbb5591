//! Calculators of tests that need no bank: a timed discharge, a short load.

use super::acting::Reader;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::Body;
use super::state::AppState;
use crate::app::battery_models::model_of;
use crate::app::pages::breakdown::BreakdownLine;
use crate::app::typed::conditions::TypedTemperature;
use crate::app::typed::faults::{Faults, filled};
use crate::app::typed::test_entry::{LoadKind, tester_load};
use axum::Json;
use axum::extract::State;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::discharge::{CapacityTest, Drawn, capacity_condition, capacity_test};
use rainshadow_core::finding::RuleId;
use rainshadow_core::load_test::{
    ShortLoad, ShortLoadError, ShortLoadReading, judge_short_load, load_current,
};
use rainshadow_core::quantity::{Bounds, Temperature, bounds, typed};
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A timed discharge, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedDischarge {
    /// Id of the battery model.
    pub model: String,
    /// Strings that shared the current.
    pub strings: String,
    /// Current of the bank, A.
    pub amperes: String,
    /// How long, "5:12" or "5.2".
    pub hours: String,
    /// Temperature of the electrolyte at the start; empty: not taken.
    pub temperature: TypedTemperature,
    /// True when the end voltage was reached.
    pub reached_end: bool,
    /// What the bank is for.
    pub duty: Duty,
}

/// What it proved.
#[derive(Debug, Serialize, ToSchema)]
pub struct DischargeSaid {
    /// The one sentence.
    pub said: String,
    /// How a bank of that duty stands by it.
    pub condition: Severity,
    /// How it comes about, line by line.
    pub breakdown: Vec<BreakdownLine>,
    /// Rule and source.
    pub rule: String,
}

fn temperature(f: &mut Faults, own: &TypedTemperature) -> Option<Temperature> {
    let text = filled(Some(&own.typed))?;
    f.take("temperature", typed::temperature(text, own.unit))
}

fn counted(f: &mut Faults, field: &str, text: &str, range: Bounds) -> Option<u8> {
    let number = f.take(field, typed::number(text, range))?;
    let whole = (number.fract().abs() < 1e-9).then_some(number);
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 12, checked above")]
    let counted = f.take(field, whole.ok_or("they are counted whole"))? as u8;
    Some(counted)
}

/// CT-1 for any bank.
#[utoipa::path(
    post, path = "/api/bench/capacity-test", operation_id = "bench_capacity_test", request_body = TypedDischarge,
    responses((status = 200, body = DischargeSaid), (status = "default", body = Problem))
)]
pub async fn capacity(
    State(state): State<AppState>,
    Body(asked): Body<TypedDischarge>,
) -> ApiResult<Json<DischargeSaid>> {
    let mut faults = Faults::default();
    let f = &mut faults;
    let strings = counted(f, "strings", &asked.strings, bounds::PARALLEL);
    let amperes = f.take("amperes", typed::number(&asked.amperes, bounds::TEST_CURRENT));
    let hours = f.take("hours", typed::hours(&asked.hours, bounds::TEST_HOURS));
    let at = temperature(f, &asked.temperature);
    faults.none()?;
    let (Some(strings), Some(amperes), Some(hours)) = (strings, amperes, hours) else {
        return Err(ApiError::field("hours", "A figure is missing."));
    };
    let model = model_of(&state, asked.model).await?;
    let test = CapacityTest {
        model: &model,
        strings,
        drawn: &Drawn::Constant { amperes, hours },
        temperature: at,
        reached_end: asked.reached_end,
    };
    let result =
        capacity_test(&test).map_err(|e| ApiError::field("hours", wording::stopped(&e.to_string())))?;
    let condition = capacity_condition(&result, asked.duty);
    let lines = wording::capacity_lines(&result).into_iter();
    Ok(Json(DischargeSaid {
        said: wording::capacity_verdict(&result, condition, asked.duty),
        condition,
        breakdown: lines.map(|(what, value)| BreakdownLine::new(what, value)).collect(),
        rule: format!(
            "CT-1: {}. Figures of {}: {}. Maker\u{2019}s manual first.",
            RuleId::Ct1.source(),
            model.name,
            model.source
        ),
    }))
}

/// One battery under the load, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedLoaded {
    /// Volts before it.
    pub before: String,
    /// Volts at its end.
    pub at_end: String,
    /// Volts thirty seconds after it; empty: not read.
    #[serde(default)]
    pub after: String,
}

/// A short load, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedShortLoad {
    /// Id of the battery model.
    pub model: String,
    /// What loads it.
    pub load: LoadKind,
    /// Cold cranking amperes of one battery, for half of them.
    #[serde(default)]
    pub rating: String,
    /// Seconds of the load.
    pub seconds: String,
    /// Temperature of the batteries; empty: not taken.
    pub temperature: TypedTemperature,
    /// Charge they stand at, per cent; empty: not known.
    #[serde(default)]
    pub charged: String,
    /// Battery by battery; a line of nothing is left out.
    pub batteries: Vec<TypedLoaded>,
}

/// One battery in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct LoadedLine {
    /// "2: 9.10 V on 12 V, 0.50 V under the 9.60 V it should hold."
    pub said: String,
    /// How it stands.
    pub condition: Severity,
}

/// What the load showed.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShortLoadSaid {
    /// The one sentence; empty: nothing is read yet.
    pub said: String,
    /// The current to set; empty: the tester's own.
    pub set: String,
    /// Battery by battery.
    pub lines: Vec<LoadedLine>,
    /// Rule and source.
    pub rule: String,
}

fn loaded(f: &mut Faults, at: usize, own: &TypedLoaded, cells: u8) -> Option<ShortLoadReading> {
    let per_cell = bounds::LOADED_CELL_VOLTS;
    let all = f64::from(cells);
    let range = Bounds {
        quantity: "volts of a battery",
        low: per_cell.low * all,
        high: per_cell.high * all,
        ..per_cell
    };
    let mut volts =
        |field: &str, text: &String| f.take(&format!("batteries[{at}].{field}"), typed::number(text, range));
    let (before, at_end) = (volts("before", &own.before), volts("at_end", &own.at_end));
    let after = filled(Some(&own.after)).map(|_| volts("after", &own.after));
    let number = u8::try_from(at + 1).unwrap_or(u8::MAX);
    Some(ShortLoadReading {
        battery: BatteryAddress { string: 0, battery: number },
        before: before?,
        at_end: at_end?,
        after: after.flatten(),
        first: None,
    })
}

/// LT-2 for any batteries.
#[utoipa::path(
    post, path = "/api/bench/short-load", operation_id = "bench_short_load", request_body = TypedShortLoad,
    responses((status = 200, body = ShortLoadSaid), (status = "default", body = Problem))
)]
pub async fn short_load(
    State(state): State<AppState>,
    Reader(_units): Reader,
    Body(asked): Body<TypedShortLoad>,
) -> ApiResult<Json<ShortLoadSaid>> {
    let model = model_of(&state, asked.model.clone()).await?;
    let mut faults = Faults::default();
    let f = &mut faults;
    let load = tester_load(f, asked.load, &asked.rating, &model);
    let seconds = f.take("seconds", typed::number(&asked.seconds, bounds::LOAD_SECONDS));
    let at = temperature(f, &asked.temperature);
    let charged = filled(Some(&asked.charged))
        .and_then(|t| f.take("charged", typed::number(t, bounds::STATE_OF_CHARGE)));
    let typed_in = |own: &TypedLoaded| !(own.before.trim().is_empty() && own.at_end.trim().is_empty());
    let batteries: Vec<Option<ShortLoadReading>> = asked
        .batteries
        .iter()
        .enumerate()
        .filter(|(_, own)| typed_in(own))
        .map(|(at, own)| loaded(f, at, own, model.cells))
        .collect();
    faults.none()?;
    let (Some(load), Some(seconds)) = (load, seconds) else {
        return Err(ApiError::field("seconds", "A figure is missing."));
    };
    let set = load_current(load).map_err(|e| ApiError::field("rating", wording::stopped(&e.to_string())))?;
    let test = ShortLoad {
        cells: model.cells,
        load,
        seconds,
        temperature: at,
        charged,
        batteries: batteries.into_iter().flatten().collect(),
    };
    let judged = if test.batteries.is_empty() {
        Vec::new()
    } else {
        judge_short_load(&test)
            .map_err(|e| ApiError::field(&field_of(&e), wording::stopped(&e.to_string())))?
    };
    let said = if judged.is_empty() { String::new() } else { wording::short_load_verdict(&test, &judged) };
    Ok(Json(ShortLoadSaid {
        said,
        set: set.map(|amperes| format!("{amperes:.0} A")).unwrap_or_default(),
        lines: judged
            .iter()
            .map(|own| LoadedLine { said: wording::short_load_line(own), condition: own.condition })
            .collect(),
        rule: format!(
            "LT-2: {}; the table for half the cranking rating is BCI, from memory. No capacity test. Maker\u{2019}s manual first.",
            RuleId::Lt2.source()
        ),
    }))
}

/// The field that a refusal is about.
fn field_of(error: &ShortLoadError) -> String {
    match error {
        ShortLoadError::Raised { battery, .. } | ShortLoadError::Twice(battery) => {
            format!("batteries[{}].at_end", battery.battery.saturating_sub(1))
        }
        ShortLoadError::OutOfRange(_) | ShortLoadError::NoBattery => "batteries".into(),
    }
}
