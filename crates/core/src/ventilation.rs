//! VE-1: the air that carries the hydrogen of a charging bank away.

use crate::battery_model::Construction;
use crate::charge::Stage;
use crate::quantity::{Bounds, OutOfRange, bounds};
use crate::water::hydrogen_litres;
use serde::{Deserialize, Serialize};

/// Air per cell and ampere of gassing current, m³/h (EN/IEC 62485-2, from memory).
const AIR_PER_AMPERE: f64 = 0.05;
/// Opening of natural vents, in and out each, cm² per m³/h (EN/IEC 62485-2, from memory).
pub const OPENING: f64 = 28.0;
/// Distance kept from sparks, mm for ∛(mA/Ah)·∛Ah (EN/IEC 62485-2, from memory).
pub const DISTANCE: f64 = 28.8;
/// Share of hydrogen in air at which people are warned (VE-1; a quarter of the lower explosive limit).
pub const ALARM_SHARE: f64 = 0.01;
/// Share of hydrogen in air that burns (VE-1).
pub const LOWER_EXPLOSIVE_SHARE: f64 = 0.04;
/// Temperature at which the volume of the gas is told, °C.
const ROOM: f64 = 25.0;

/// Gassing current that the standard plans with, mA per Ah (EN/IEC 62485-2, from memory).
pub const fn gassing_milliamperes(construction: Construction, stage: Stage) -> f64 {
    let vented = matches!(construction, Construction::Flooded | Construction::FloodedTubular);
    match (vented, stage) {
        (true, Stage::Float) => 5.0,
        (true, _) => 20.0,
        (false, Stage::Float) => 1.0,
        (false, _) => 8.0,
    }
}

/// A bank as far as its gas matters.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GassingBank {
    /// Construction of its batteries.
    pub construction: Construction,
    /// Cells in series.
    pub cells: u16,
    /// Capacity of the whole bank at the 20-hour rate, Ah: of all its strings.
    pub capacity: f64,
    /// Stage of charging.
    pub stage: Stage,
    /// Current of the bank, A, where it is known: counts where it is more than the standard plans with.
    #[serde(default)]
    pub current: Option<f64>,
    /// Air in the box or room around it, m³.
    #[serde(default)]
    pub enclosure: Option<f64>,
}

/// What the air must carry away.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ventilation {
    /// Gassing current, mA per Ah.
    pub gassing: f64,
    /// True when the actual current was more than the standard plans with.
    pub by_current: bool,
    /// Air, m³/h.
    pub airflow: f64,
    /// Natural opening, in and out each, cm².
    pub opening: f64,
    /// No spark within this distance of a vent, mm.
    pub distance: f64,
    /// Hydrogen that is freed, L/h at 25 °C.
    pub hydrogen: f64,
    /// Minutes until 1 % hydrogen in the enclosure with no air at all; none where its size is unknown.
    pub minutes_to_alarm: Option<f64>,
}

/// VE-1: `Q = 0.05·n·i_gas·C/1000`, or `0.05·n·I` with the actual current where that is more.
///
/// # Errors
/// [`OutOfRange`] for a capacity, current or enclosure that cannot be.
pub fn ventilation(bank: &GassingBank) -> Result<Ventilation, OutOfRange> {
    const CAPACITY: Bounds = bounds::BANK_CAPACITY;
    const CURRENT: Bounds = bounds::BANK_CURRENT;
    const ENCLOSURE: Bounds = bounds::ENCLOSURE;
    let capacity = CAPACITY.check(bank.capacity)?;
    let planned = gassing_milliamperes(bank.construction, bank.stage) * capacity / 1000.0;
    let actual = bank.current.map(|i| CURRENT.check(i)).transpose()?;
    let enclosure = bank.enclosure.map(|v| ENCLOSURE.check(v)).transpose()?;
    let (amperes, by_current) = match actual {
        Some(actual) if actual > planned => (actual, true),
        _ => (planned, false),
    };
    let n = f64::from(bank.cells);
    let gassing = amperes / capacity * 1000.0;
    let airflow = AIR_PER_AMPERE * n * amperes;
    let hydrogen = n * hydrogen_litres(amperes, ROOM);
    Ok(Ventilation {
        gassing,
        by_current,
        airflow,
        opening: OPENING * airflow,
        distance: DISTANCE * gassing.cbrt() * capacity.cbrt(),
        hydrogen,
        minutes_to_alarm: enclosure
            .filter(|_| hydrogen > 0.0)
            .map(|cubic_metres| ALARM_SHARE * cubic_metres * 1000.0 / hydrogen * 60.0),
    })
}
