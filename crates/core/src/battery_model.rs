//! What a maker publishes about one battery: the numbers that win over every rule of thumb.

mod generic;

use crate::electrolyte::{SocPoint, StateOfCharge};
use crate::interpolate::line;
use crate::quantity::{Charge, Length, OutOfRange, Points, SpecificGravity, Temperature, Volume, bounds};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// How the battery is built.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Construction {
    /// Flooded, flat plates.
    Flooded,
    /// Flooded, tubular positive plates.
    FloodedTubular,
    /// Absorbed glass mat, sealed.
    Agm,
    /// Gelled electrolyte, sealed.
    Gel,
}

impl Construction {
    /// True when the cells have caps and free electrolyte: gravity, level and water exist.
    pub fn has_caps(self) -> bool {
        matches!(self, Self::Flooded | Self::FloodedTubular)
    }

    /// The word of the trade.
    pub fn word(self) -> &'static str {
        match self {
            Self::Flooded => "flooded",
            Self::FloodedTubular => "flooded tubular",
            Self::Agm => "AGM",
            Self::Gel => "gel",
        }
    }
}

/// One row of a rate table.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RatePoint {
    /// Hours of the discharge.
    pub hours: f64,
    /// Capacity at that rate.
    pub capacity: Charge,
}

/// Charging setpoints, volts per cell at 25 °C.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Setpoints {
    /// Absorption.
    pub absorption: f64,
    /// Float.
    pub float: f64,
    /// Equalize; on sealed batteries the maker's own conditioning voltage, as a rule none.
    pub equalize: Option<f64>,
}

/// Gravities are printed to a thousandth, so half of one apart they are the same, points.
const PRINTED: Points = Points::new(0.5);

/// A battery model.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BatteryModel {
    /// Name as on the case.
    pub name: String,
    /// Where the figures come from.
    pub source: String,
    /// Construction.
    pub construction: Construction,
    /// Cells in one case, 1 to 6.
    pub cells: u8,
    /// Capacity at the 20-hour rate.
    pub c20: Charge,
    /// Capacity at other rates, fastest first; may be empty.
    #[serde(default)]
    pub rates: Vec<RatePoint>,
    /// Gravity of a full cell at the reference temperature.
    pub full_gravity: SpecificGravity,
    /// Gravity of a discharged cell.
    pub discharged_gravity: SpecificGravity,
    /// State of charge over gravity, fullest first; empty: scaled between full and discharged.
    #[serde(default)]
    pub soc_table: Vec<SocPoint>,
    /// Temperature the gravities are stated at.
    pub reference_temperature: Temperature,
    /// Charging setpoints.
    pub setpoints: Setpoints,
    /// Where the fill mark is, in words.
    pub fill_mark: String,
    /// Height of the fill mark over the plates.
    pub fill_mark_above_plates: Option<Length>,
    /// Electrolyte in one cell.
    pub acid_volume: Option<Volume>,
    /// Free area over the plates of one cell, mL of water per mm of level (WA-3).
    #[serde(default)]
    pub free_area: Option<f64>,
    /// Spread of gravity at which the maker asks for an equalize, points.
    #[serde(default)]
    pub maker_spread_limit: Option<Points>,
    /// Torque of its posts, N·m; none: not published.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub post_torque: Option<f64>,
    /// Days after which its maker has joints set to torque again; none: not published.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub retorque_days: Option<u16>,
    /// Where the maker's own conditioning voltage of a sealed battery is written; without it a sealed
    /// battery carries no equalize setpoint (EQ-1).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub conditioning_source: Option<String>,
}

/// Why a battery model cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ModelError {
    /// A number outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// No name.
    #[error("the battery model has no name; type the name on the case")]
    NoName,
    /// Full below discharged.
    #[error("full-charge gravity {full} is not above the discharged gravity {discharged}")]
    FullNotAboveDischarged {
        /// As given.
        full: SpecificGravity,
        /// As given.
        discharged: SpecificGravity,
    },
    /// The table runs the wrong way.
    #[error(
        "row {row} of the state-of-charge table does not fall: both per cent and gravity must be lower in every row than in the one before"
    )]
    TableDoesNotFall {
        /// Row, counted from one.
        row: usize,
    },
    /// The table's full row and the full gravity tell different stories.
    #[error(
        "the charge table is full at {row}, but the full-charge gravity is {full}; put one of them right"
    )]
    TableNotFullAtFull {
        /// Gravity of the row at 100 %.
        row: SpecificGravity,
        /// The full-charge gravity.
        full: SpecificGravity,
    },
    /// The rate table runs the wrong way.
    #[error(
        "row {row} of the rate table does not rise: both hours and Ah must be higher in every row than in the one before"
    )]
    RatesDoNotRise {
        /// Row, counted from one.
        row: usize,
    },
    /// An equalize setpoint on a sealed battery.
    #[error(
        "a sealed battery has no equalize setpoint unless its maker gives a conditioning voltage; leave it empty, or say where the maker writes it"
    )]
    EqualizeOnSealed,
}

impl ModelError {
    /// The figure it is about.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange(refused) if refused.bounds == bounds::FULL_GRAVITY => "full_gravity",
            Self::OutOfRange(refused) if refused.bounds == bounds::REFERENCE_TEMPERATURE => {
                "reference_temperature"
            }
            Self::OutOfRange(refused) if refused.bounds == bounds::FREE_AREA => "free_area",
            Self::OutOfRange(refused) if refused.bounds == bounds::MAKER_SPREAD => "maker_spread_limit",
            Self::OutOfRange(_) => "model",
            Self::NoName => "name",
            Self::FullNotAboveDischarged { .. } => "full_gravity",
            Self::TableDoesNotFall { .. } | Self::TableNotFullAtFull { .. } => "soc_table",
            Self::RatesDoNotRise { .. } => "rates",
            Self::EqualizeOnSealed => "equalize",
        }
    }
}

impl BatteryModel {
    /// The model itself when its figures are possible and agree with each other.
    ///
    /// # Errors
    /// [`ModelError`] naming the figure.
    pub fn checked(self) -> Result<Self, ModelError> {
        if self.name.trim().is_empty() {
            return Err(ModelError::NoName);
        }
        bounds::CELLS.check(f64::from(self.cells))?;
        self.post_torque.map(|t| bounds::TORQUE.check(t)).transpose()?;
        self.retorque_days.map(|days| bounds::RETORQUE_DAYS.check(f64::from(days))).transpose()?;
        bounds::FULL_GRAVITY.check(self.full_gravity.value())?;
        bounds::REFERENCE_TEMPERATURE.check(self.reference_temperature.celsius())?;
        for volts in [Some(self.setpoints.absorption), Some(self.setpoints.float), self.setpoints.equalize] {
            volts.map(|v| bounds::CELL_VOLTAGE.check(v)).transpose()?;
        }
        if self.full_gravity <= self.discharged_gravity {
            return Err(ModelError::FullNotAboveDischarged {
                full: self.full_gravity,
                discharged: self.discharged_gravity,
            });
        }
        for (row, pair) in self.soc_table.windows(2).enumerate() {
            bounds::STATE_OF_CHARGE.check(pair[0].percent)?;
            bounds::STATE_OF_CHARGE.check(pair[1].percent)?;
            if pair[1].percent >= pair[0].percent || pair[1].gravity >= pair[0].gravity {
                return Err(ModelError::TableDoesNotFall { row: row + 2 });
            }
        }
        let full_row = self.soc_table.first().filter(|row| row.percent >= 100.0);
        if let Some(row) = full_row.filter(|row| (row.gravity - self.full_gravity).abs() > PRINTED) {
            return Err(ModelError::TableNotFullAtFull { row: row.gravity, full: self.full_gravity });
        }
        for (row, pair) in self.rates.windows(2).enumerate() {
            if pair[1].hours <= pair[0].hours || pair[1].capacity <= pair[0].capacity {
                return Err(ModelError::RatesDoNotRise { row: row + 2 });
            }
        }
        if let Some(area) = self.free_area {
            bounds::FREE_AREA.check(area)?;
        }
        if let Some(limit) = self.maker_spread_limit {
            bounds::MAKER_SPREAD.check(limit.value())?;
        }
        let sourced = self.conditioning_source.as_deref().is_some_and(|s| !s.trim().is_empty());
        if !self.construction.has_caps() && self.setpoints.equalize.is_some() && !sourced {
            return Err(ModelError::EqualizeOnSealed);
        }
        Ok(self)
    }

    /// What the rate table tells at 20 hours where that is another capacity than C20: the two are one figure, so one
    /// of them is of another battery. None where they agree, as sheets round, or where no rows lie around 20 hours.
    pub fn rates_against_c20(&self) -> Option<Charge> {
        /// How far sheets round, as a share (our choice, no source).
        const PRINTED: f64 = 0.05;
        let c20 = self.c20.ampere_hours();
        self.capacity_at_twenty_hours().filter(|at| (at.ampere_hours() - c20).abs() > PRINTED * c20)
    }

    /// What the rate table tells at 20 hours, straight in logarithms between its rows (CT-1); none where no rows lie
    /// around it.
    fn capacity_at_twenty_hours(&self) -> Option<Charge> {
        /// Hours of C20.
        const HOURS: f64 = 20.0;
        let exact = self.rates.iter().find(|row| (row.hours - HOURS).abs() < 1e-9);
        let between = || {
            let pair = self.rates.windows(2).find(|pair| pair[0].hours < HOURS && HOURS < pair[1].hours)?;
            let part = (HOURS / pair[0].hours).ln() / (pair[1].hours / pair[0].hours).ln();
            let (low, high) = (pair[0].capacity.ampere_hours(), pair[1].capacity.ampere_hours());
            Charge::from_ampere_hours(low * (high / low).powf(part)).ok()
        };
        exact.map(|row| row.capacity).or_else(between)
    }

    /// Nominal volts of one battery: two per cell.
    pub fn nominal_volts(&self) -> u16 {
        2 * u16::from(self.cells)
    }

    /// Gravity of a cell at a state of charge, per cent: the other way round.
    pub fn gravity_at(&self, percent: f64) -> SpecificGravity {
        let percent = percent.clamp(0.0, 100.0);
        if self.soc_table.len() < 2 {
            let (full, flat) = (self.full_gravity.value(), self.discharged_gravity.value());
            return SpecificGravity::corrected(flat + (full - flat) * percent / 100.0);
        }
        let rising: Vec<[f64; 2]> =
            self.soc_table.iter().rev().map(|row| [row.percent, row.gravity.value()]).collect();
        SpecificGravity::corrected(line(&rising, 1, percent))
    }

    /// State of charge of a cell at this corrected gravity (SG-2).
    pub fn state_of_charge(&self, corrected: SpecificGravity) -> StateOfCharge {
        StateOfCharge::from_gravity(corrected, &self.soc_table, self.full_gravity, self.discharged_gravity)
    }
}
