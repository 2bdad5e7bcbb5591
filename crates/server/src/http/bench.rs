//! The bench: calculators that need no bank.

use super::acting::Reader;
use super::error::{ApiError, ApiResult, Problem};
use super::extract::Body;
use super::state::AppState;
use crate::app::battery_models::model_of;
use crate::app::pages::breakdown::BreakdownLine;
use crate::app::pages::equipment::AuditView;
use crate::app::typed::conditions::TypedTemperature;
use crate::app::typed::equipment::{TypedCharger, TypedEquipment};
use crate::app::typed::faults::{Faults, filled};
use axum::Json;
use axum::extract::State;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::charge::{Stage, setpoint, settings_audit};
use rainshadow_core::quantity::air::typed_room;
use rainshadow_core::quantity::{bounds, typed};
use rainshadow_core::ventilation::{GassingBank, Ventilation, ventilation};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A bank to ventilate, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedGassing {
    /// Construction of its batteries.
    pub construction: Construction,
    /// Cells in series.
    pub cells: String,
    /// Capacity of the whole bank, Ah.
    pub capacity: String,
    /// Stage of charging.
    pub stage: Stage,
    /// Current, A; empty: the one the standard plans with.
    #[serde(default)]
    pub current: String,
    /// Air around it, in cubic metres or cubic feet as the reader measures lengths; empty: not told.
    #[serde(default)]
    pub enclosure: String,
}

/// What the air must do, in words and numbers.
#[derive(Debug, Serialize, ToSchema)]
pub struct VentilationSaid {
    /// The air, for the reader: "20.2 m³ an hour".
    pub airflow_said: String,
    /// In words.
    pub said: String,
    /// How it comes about, line by line.
    pub breakdown: Vec<BreakdownLine>,
    /// Rule and source.
    pub rule: String,
    /// The figures.
    #[serde(flatten)]
    pub ventilation: Ventilation,
}

fn cells(f: &mut Faults, text: &str) -> Option<u16> {
    let number = f.take("cells", typed::number(text, bounds::PROGRAM_CELLS))?;
    let whole = (number.fract().abs() < 1e-9).then_some(number);
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "1 to 120, checked above")]
    let cells = f.take("cells", whole.ok_or("cells in series are counted whole"))? as u16;
    Some(cells)
}

/// VE-1 for any bank.
#[utoipa::path(
    post, path = "/api/bench/ventilation", operation_id = "bench_ventilation", request_body = TypedGassing,
    responses((status = 200, body = VentilationSaid), (status = "default", body = Problem))
)]
pub async fn air(Reader(units): Reader, Body(asked): Body<TypedGassing>) -> ApiResult<Json<VentilationSaid>> {
    let mut faults = Faults::default();
    let f = &mut faults;
    let cells = cells(f, &asked.cells);
    let capacity = f.take("capacity", typed::number(&asked.capacity, bounds::BANK_CAPACITY));
    let current =
        filled(Some(&asked.current)).and_then(|t| f.take("current", typed::number(t, bounds::BANK_CURRENT)));
    let enclosure =
        filled(Some(&asked.enclosure)).and_then(|t| f.take("enclosure", typed_room(t, units.length)));
    faults.none()?;
    let (cells, capacity) =
        cells.zip(capacity).ok_or_else(|| ApiError::field("cells", "A figure is missing."))?;
    let bank = GassingBank {
        construction: asked.construction,
        cells,
        capacity,
        stage: asked.stage,
        current,
        enclosure,
    };
    let own =
        ventilation(&bank).map_err(|e| ApiError::field("capacity", wording::stopped(&e.to_string())))?;
    let how = if own.by_current {
        format!("0.05 \u{d7} {cells} cells \u{d7} {:.1} A", current.unwrap_or_default())
    } else {
        format!(
            "0.05 \u{d7} {cells} cells \u{d7} {:.0} mA/Ah \u{d7} {capacity:.0} Ah \u{f7} 1000",
            own.gassing
        )
    };
    let (airflow, airflow_unit) = units.show_airflow(own.airflow);
    Ok(Json(VentilationSaid {
        airflow_said: units.say_airflow(own.airflow),
        said: wording::ventilation_line(&own, units),
        breakdown: vec![
            BreakdownLine::new(how, format!("{airflow:.2} {airflow_unit}")),
            BreakdownLine::new(wording::opening_rule(units), units.say_area(own.opening)),
            BreakdownLine::new("hydrogen freed at 25 °C", format!("{:.1} L/h", own.hydrogen)),
            BreakdownLine::new(
                wording::distance_rule(own.gassing, capacity, units),
                wording::length(own.distance, units),
            ),
        ],
        rule: format!(
            "VE-1: {}. Alarm at 1 % hydrogen; it burns from 4 %. Local codes first.",
            rainshadow_core::finding::RuleId::Ve1.source()
        ),
        ventilation: own,
    }))
}

/// A charger to audit, as typed.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
pub struct TypedAudit {
    /// Id of the battery model.
    pub model: String,
    /// Cells in series.
    pub cells: String,
    /// Temperature of the batteries.
    pub temperature: TypedTemperature,
    /// The charger.
    pub charger: TypedCharger,
}

/// A setpoint in words.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetpointLine {
    /// "equalize".
    pub stage: &'static str,
    /// In words, or why there is none.
    pub said: String,
    /// Volts of the bank; empty: none.
    pub volts: String,
    /// What to type into a charger that compensates; empty: none.
    pub to_type: String,
}

/// What the charger should be, and what it is.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchCharger {
    /// CH-1 and CH-2, stage by stage.
    pub setpoints: Vec<SetpointLine>,
    /// CH-3; none while nothing is typed of the settings.
    pub audit: Option<AuditView>,
    /// Where the model's figures come from.
    pub source: String,
}

fn setpoint_lines(
    model: &BatteryModel,
    cells: u16,
    at: rainshadow_core::quantity::Temperature,
    units: rainshadow_core::quantity::units::ReaderUnits,
    charger: rainshadow_core::charge::ChargerTemperature,
) -> Vec<SetpointLine> {
    [Stage::Absorption, Stage::Float, Stage::Equalize]
        .into_iter()
        .map(|stage| match setpoint(model, stage, cells, at, charger, None) {
            Ok(set) => SetpointLine {
                stage: stage.word(),
                said: wording::setpoint_line(&set, at, units),
                volts: format!("{:.1}", set.volts),
                to_type: format!("{:.1}", set.to_type),
            },
            Err(error) => SetpointLine {
                stage: stage.word(),
                said: wording::stopped(&error.to_string()),
                volts: String::new(),
                to_type: String::new(),
            },
        })
        .collect()
}

/// CH-1 to CH-3 for any bank.
#[utoipa::path(
    post, path = "/api/bench/charger", operation_id = "bench_charger", request_body = TypedAudit,
    responses((status = 200, body = BenchCharger), (status = "default", body = Problem))
)]
pub async fn charger(
    State(state): State<AppState>,
    Reader(units): Reader,
    Body(asked): Body<TypedAudit>,
) -> ApiResult<Json<BenchCharger>> {
    let mut faults = Faults::default();
    let cells = cells(&mut faults, &asked.cells);
    let at = faults.take("temperature", typed::temperature(&asked.temperature.typed, asked.temperature.unit));
    faults.none()?;
    let (cells, at) = cells.zip(at).ok_or_else(|| ApiError::field("cells", "A figure is missing."))?;
    let settings = TypedEquipment::settings(&asked.charger)?;
    let model = model_of(&state, asked.model.clone()).await?;
    let nothing = settings.absorption.is_none() && settings.float.is_none() && settings.equalize.is_none();
    let audit = if nothing {
        None
    } else {
        let judged = settings_audit(&model, cells, at, &settings)
            .map_err(|e| ApiError::field(e.field(), wording::stopped(&e.to_string())))?;
        Some(AuditView::of(&judged, at, units, ""))
    };
    let compensates = settings.compensates.unwrap_or_default();
    Ok(Json(BenchCharger {
        setpoints: setpoint_lines(&model, cells, at, units, compensates),
        audit,
        source: format!("Figures of {}: {}.", model.name, model.source),
    }))
}
