//! CH-3: what the charger is set to against what it should be, and what the deviation does.

use super::{ChargerTemperature, SetpointError, Stage, setpoint};
use crate::battery_model::BatteryModel;
use crate::quantity::Temperature;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// Deviation that is watched and acted on, volts per cell: absorption and equalize, then float (CH-3,
/// common practice, no source).
const LIMITS: (f64, f64) = (0.03, 0.06);
const FLOAT_LIMITS: (f64, f64) = (0.02, 0.04);
/// Volts a cell that a bank on charge can show; a setting outside is of a bank of another voltage
/// (common practice, no source).
pub(crate) const VOLTS_ON_CHARGE: std::ops::RangeInclusive<f64> = 1.9..=2.9;
/// Cells of the banks of the trade: 12, 24, 36 and 48 V, and single cases.
const BANKS: [u16; 7] = [1, 3, 4, 6, 12, 18, 24];

/// What a charger is set to.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargerSettings {
    /// Absorption, V of the bank.
    #[serde(default)]
    pub absorption: Option<f64>,
    /// Hours that absorption is held, h; none: by current, or not told.
    #[serde(default)]
    pub absorption_hours: Option<f64>,
    /// Float, V of the bank.
    #[serde(default)]
    pub float: Option<f64>,
    /// Equalize, V of the bank; none: it is off.
    #[serde(default)]
    pub equalize: Option<f64>,
    /// How it compensates; none: it does not.
    #[serde(default)]
    pub compensates: Option<ChargerTemperature>,
    /// True for a charger that knows flooded batteries only.
    #[serde(default)]
    pub flooded_only: bool,
}

/// A setting that cannot be of this bank.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum SettingsError {
    /// Of a bank of another voltage.
    #[error("{volts:.1} V of {} is {per_cell:.2} V a cell with {cells} cells in series; accepted is {low:.1} to {high:.1} V{}", stage.word(), other_bank(*.other))]
    OtherBank {
        /// Stage.
        stage: Stage,
        /// As set, V.
        volts: f64,
        /// What that is per cell.
        per_cell: f64,
        /// Cells in series.
        cells: u16,
        /// Lowest accepted, V.
        low: f64,
        /// Highest accepted, V.
        high: f64,
        /// Cells that it would suit.
        other: Option<u16>,
    },
    /// No setting at all.
    #[error("no setting is given; type at least one of absorption, float and equalize")]
    Nothing,
}

fn other_bank(cells: Option<u16>) -> String {
    cells.map(|n| format!(". It suits a bank of {} V", 2 * n)).unwrap_or_default()
}

impl SettingsError {
    /// The setting it is about.
    pub const fn field(&self) -> &'static str {
        match self {
            Self::OtherBank { stage, .. } => stage.word(),
            Self::Nothing => "absorption",
        }
    }
}

/// What a deviation does in time.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Effect {
    /// Too low: never full, sulfate stays.
    Undercharge,
    /// Too high: water lost, plates heated and shed.
    Overcharge,
    /// An equalize on sealed batteries: they vent, dry out, and cannot be refilled.
    EqualizeOnSealed,
    /// A charger for flooded batteries on sealed ones.
    FloodedCharger,
}

/// One stage of a charger against what it should be.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AuditedStage {
    /// Stage.
    pub stage: Stage,
    /// As set, V.
    pub set: f64,
    /// What the bank gets from that at its temperature, V.
    pub gets: f64,
    /// What it should get, V; none where the stage should be off.
    pub wanted: Option<f64>,
    /// What to type instead, V.
    pub to_type: Option<f64>,
    /// Deviation, volts per cell.
    pub deviation: Option<f64>,
    /// Condition.
    pub condition: Severity,
    /// What it does; none where it is fine.
    pub effect: Option<Effect>,
}

/// A charger's settings as judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SettingsAudit {
    /// Stage by stage, those that are set.
    pub stages: Vec<AuditedStage>,
    /// Worst of them.
    pub condition: Severity,
    /// Something about the charger as a whole.
    pub charger: Option<Effect>,
}

fn possible(stage: Stage, volts: f64, cells: u16) -> Result<(), SettingsError> {
    let n = f64::from(cells);
    let per_cell = volts / n;
    if VOLTS_ON_CHARGE.contains(&per_cell) {
        return Ok(());
    }
    let other = BANKS.into_iter().find(|b| *b != cells && (2.1..=2.75).contains(&(volts / f64::from(*b))));
    let (low, high) = (VOLTS_ON_CHARGE.start() * n, VOLTS_ON_CHARGE.end() * n);
    Err(SettingsError::OtherBank { stage, volts, per_cell, cells, low, high, other })
}

/// Deviation of a stage that is watched and acted on, volts per cell.
pub const fn limits_of(stage: Stage) -> (f64, f64) {
    if matches!(stage, Stage::Float) { FLOAT_LIMITS } else { LIMITS }
}

fn audited(
    model: &BatteryModel,
    (stage, set): (Stage, f64),
    cells: u16,
    at: Temperature,
    compensates: Option<ChargerTemperature>,
) -> AuditedStage {
    let n = f64::from(cells);
    let gets = set + compensates.map_or(0.0, |c| c.adds(at)) * n;
    let charger = compensates.unwrap_or(ChargerTemperature { per_degree: 0.0, ..Default::default() });
    let wanted = match setpoint(model, stage, cells, at, charger, None) {
        Ok(wanted) => wanted,
        Err(error) => {
            // Too hot or too cold for the stage says nothing of its setting; an equalize that is on
            // for sealed batteries does.
            let locked = error == SetpointError::Locked;
            return AuditedStage {
                stage,
                set,
                gets,
                wanted: None,
                to_type: None,
                deviation: None,
                condition: if locked { Severity::Act } else { Severity::NoReading },
                effect: locked.then_some(Effect::EqualizeOnSealed),
            };
        }
    };
    let deviation = gets / n - wanted.per_cell;
    let (watch, act) = limits_of(stage);
    // Volts are printed to a hundredth: what is on the limit is not over it.
    let size = (deviation.abs() * 1e6).round() / 1e6;
    let condition = if size > act {
        Severity::Act
    } else if size >= watch {
        Severity::Watch
    } else {
        Severity::Steady
    };
    let effect = (condition != Severity::Steady).then_some(if deviation < 0.0 {
        Effect::Undercharge
    } else {
        Effect::Overcharge
    });
    AuditedStage {
        stage,
        set,
        gets,
        wanted: Some(wanted.volts),
        to_type: Some(wanted.to_type),
        deviation: Some(deviation),
        condition,
        effect,
    }
}

/// CH-3: every setting against CH-1 and CH-2 at a temperature.
///
/// # Errors
/// [`SettingsError`] for a setting of a bank of another voltage, or none at all.
pub fn settings_audit(
    model: &BatteryModel,
    cells: u16,
    at: Temperature,
    settings: &ChargerSettings,
) -> Result<SettingsAudit, SettingsError> {
    let set: Vec<(Stage, f64)> = [
        (Stage::Absorption, settings.absorption),
        (Stage::Float, settings.float),
        (Stage::Equalize, settings.equalize),
    ]
    .into_iter()
    .filter_map(|(stage, volts)| Some((stage, volts?)))
    .collect();
    if set.is_empty() {
        return Err(SettingsError::Nothing);
    }
    for (stage, volts) in &set {
        possible(*stage, *volts, cells)?;
    }
    let stages: Vec<AuditedStage> =
        set.into_iter().map(|own| audited(model, own, cells, at, settings.compensates)).collect();
    let charger = (settings.flooded_only && !model.construction.has_caps()).then_some(Effect::FloodedCharger);
    let worst = stages.iter().map(|s| s.condition).max().unwrap_or(Severity::NoReading);
    let condition = if charger.is_some() { Severity::Act } else { worst };
    Ok(SettingsAudit { stages, condition, charger })
}
