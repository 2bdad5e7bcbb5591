//! WA-1: water split by overcharge, by Faraday's law.

use crate::quantity::Charge;
use serde::{Deserialize, Serialize};

/// Faraday constant, C/mol (source key `codata-2018`; exact since 2019).
pub const FARADAY_CONSTANT: f64 = 96_485.332_12;
/// Molar mass of water, g/mol (source key `codata-2018`, from memory).
pub const WATER_MOLAR_MASS: f64 = 18.015_28;
/// Density of water at 25 °C, g/mL (source key `crc`, from memory).
pub const WATER_DENSITY_25: f64 = 0.997_047;
/// Molar volume of an ideal gas at 0 °C and 1 atm, L/mol (source key `codata-2018`).
const MOLAR_VOLUME_0: f64 = 22.413_969_5;
/// Coulombs in one ampere-hour.
const COULOMBS: f64 = 3600.0;
/// Electrons that split one molecule of water.
const ELECTRONS: f64 = 2.0;

/// Grams of water that one ampere-hour of overcharge splits in one cell: 0.336.
pub fn grams_per_ampere_hour() -> f64 {
    COULOMBS / (ELECTRONS * FARADAY_CONSTANT) * WATER_MOLAR_MASS
}

/// Millilitres, at 25 °C, that one ampere-hour of overcharge splits in one cell: 0.337.
pub fn millilitres_per_ampere_hour() -> f64 {
    grams_per_ampere_hour() / WATER_DENSITY_25
}

/// Ampere-hours of overcharge that boiled off so many mL in so many cells in series; a bank of
/// several strings counts all of its cells and the current of one string.
pub fn overcharge_of(millilitres: f64, cells: u32) -> f64 {
    millilitres / (millilitres_per_ampere_hour() * f64::from(cells.max(1)))
}

/// Overcharge of a day as a share of the rated capacity, per cent; zero over no time.
pub fn overcharge_a_day(ampere_hours: f64, days: f64, c20: Charge) -> f64 {
    if days > 0.0 { ampere_hours / days / c20.ampere_hours() * 100.0 } else { 0.0 }
}

/// Millilitres that so many ampere-hours of overcharge boil off in so many cells.
pub fn water_of(ampere_hours: f64, cells: u32) -> f64 {
    ampere_hours * millilitres_per_ampere_hour() * f64::from(cells)
}

/// Litres of hydrogen that one cell frees per so many ampere-hours, at this temperature and 1 atm.
pub fn hydrogen_litres(ampere_hours: f64, celsius: f64) -> f64 {
    ampere_hours * COULOMBS / (ELECTRONS * FARADAY_CONSTANT) * MOLAR_VOLUME_0 * (celsius + 273.15) / 273.15
}

/// What overcharge as a share of the ampere-hours discharged says of a cycled flooded bank (WA-1,
/// common practice, no source).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OverchargeShare {
    /// Under 2 %: never fully charged.
    NeverFull,
    /// 2 to 4 %: little.
    Little,
    /// 4 to 20 %: normal by age and alloy.
    Normal,
    /// 20 to 25 %: much.
    Much,
    /// Above 25 %: overcharge or heat.
    Overcharge,
}

impl OverchargeShare {
    /// From ampere-hours of overcharge and of discharge; none where nothing was discharged.
    pub fn of(overcharge: f64, discharged: f64) -> Option<Self> {
        if discharged <= 0.0 || !overcharge.is_finite() || overcharge < 0.0 {
            return None;
        }
        Some(match overcharge / discharged {
            s if s < 0.02 => Self::NeverFull,
            s if s < 0.04 => Self::Little,
            s if s <= 0.20 => Self::Normal,
            s if s <= 0.25 => Self::Much,
            _ => Self::Overcharge,
        })
    }

    /// In words.
    pub fn said(self) -> &'static str {
        match self {
            Self::NeverFull => "under 2 %: a cycled bank that uses so little water is never fully charged",
            Self::Little => "2 to 4 %: little; look whether the charge is finished",
            Self::Normal => "4 to 20 %: normal by age and alloy",
            Self::Much => "20 to 25 %: much; check setpoints and temperature sensor",
            Self::Overcharge => "above 25 %: overcharge or heat",
        }
    }
}
