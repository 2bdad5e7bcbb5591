//! A string of cells through a list of phases, and what it showed on the way.

use super::{CellKind, Drive, SimCell, SimString, Surroundings};
use crate::quantity::{Bounds, OutOfRange, bounds};
use serde::{Deserialize, Serialize};

/// Which kind of cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Kind {
    /// Flooded deep-cycle.
    #[default]
    Flooded,
    /// AGM.
    Agm,
}

/// What drives the string in a phase.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "drive", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PhaseDrive {
    /// Nothing.
    Rest {
        /// For so long, h.
        hours: f64,
    },
    /// A load.
    Load {
        /// For so long, h.
        hours: f64,
        /// A.
        amperes: f64,
        /// Ends earlier at so many volts a cell.
        #[serde(default)]
        until_volts: Option<f64>,
    },
    /// A charger.
    Charge {
        /// For so long, h.
        hours: f64,
        /// A at most.
        amperes: f64,
        /// Volts of the string at most.
        volts: f64,
        /// Volts per cell and degree it follows the hottest cell by; none: it does not.
        #[serde(default)]
        per_degree: Option<f64>,
        /// Ends earlier at so many amperes.
        #[serde(default)]
        until_amperes: Option<f64>,
    },
}

impl PhaseDrive {
    const fn hours(self) -> f64 {
        match self {
            Self::Rest { hours } | Self::Load { hours, .. } | Self::Charge { hours, .. } => hours,
        }
    }
}

/// What to simulate.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Program {
    /// Kind of the cells.
    #[serde(default)]
    pub kind: Kind,
    /// Cells in series, 1 to 120.
    pub cells: u16,
    /// Capacity at the 20-hour rate, Ah.
    pub capacity: f64,
    /// State of charge at the beginning, 0 to 1.
    #[serde(default = "whole")]
    pub charged: f64,
    /// How much more the cells gas than new ones, 1 to 4.
    #[serde(default = "whole")]
    pub age: f64,
    /// Share of capacity that is gone for good, 0 to 0.9.
    #[serde(default)]
    pub worn: f64,
    /// Air around them, °C.
    #[serde(default = "mild")]
    pub air: f64,
    /// True to hold the electrolyte at that temperature, however it warms itself.
    #[serde(default)]
    pub held: bool,
    /// What happens, in order.
    pub phases: Vec<PhaseDrive>,
    /// Minutes between two points that are told; 60 when left out.
    #[serde(default = "hourly")]
    pub every_minutes: u32,
}

fn whole() -> f64 {
    1.0
}
fn mild() -> f64 {
    25.0
}
fn hourly() -> u32 {
    60
}

/// What the string showed at a moment.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Moment {
    /// Hours from the beginning.
    pub hour: f64,
    /// Phase, counted from one.
    pub phase: usize,
    /// Volts of the string.
    pub volts: f64,
    /// Amperes; charge positive.
    pub amperes: f64,
    /// State of charge of the first cell, 0 to 1.
    pub state_of_charge: f64,
    /// Its gravity as a hydrometer draws it.
    pub gravity: f64,
    /// Its temperature, °C.
    pub celsius: f64,
    /// Water it has lost, mL.
    pub water_lost: f64,
}

/// How a program ran.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ran {
    /// Points, the last of every phase among them.
    pub moments: Vec<Moment>,
    /// Put into each cell, Ah.
    pub charged: f64,
    /// Taken out of each, Ah.
    pub discharged: f64,
    /// Gassed in each, Ah.
    pub gassed: f64,
    /// Lost by itself in each, Ah.
    pub self_discharged: f64,
    /// Capacity that is left, share of the 20-hour rate.
    pub capacity_left: f64,
}

/// Steps of a program, h.
const STEP: f64 = 1.0 / 60.0;
/// Points that are told at most: more nobody reads.
const MOST_MOMENTS: f64 = 20_000.0;

const PROGRAM_HOURS: Bounds = bounds::PROGRAM_HOURS;
const PROGRAM_CELLS: Bounds = bounds::PROGRAM_CELLS;
const SHARE: Bounds = bounds::SHARE;
const AGE: Bounds = bounds::CELL_AGE;
const WORN: Bounds = bounds::WORN;
const AIR: Bounds = bounds::ELECTROLYTE_TEMPERATURE;
const CURRENT: Bounds = bounds::BANK_CURRENT;
const VOLTAGE: Bounds = bounds::VOLTAGE;
const CAPACITY: Bounds = bounds::CAPACITY;
const COMPENSATION: Bounds = bounds::COMPENSATION;

impl Program {
    fn checked(&self) -> Result<(), OutOfRange> {
        PROGRAM_CELLS.check(f64::from(self.cells))?;
        CAPACITY.check(self.capacity)?;
        SHARE.check(self.charged)?;
        AGE.check(self.age)?;
        WORN.check(self.worn)?;
        AIR.check(self.air)?;
        let mut all = 0.0;
        for phase in &self.phases {
            all += PROGRAM_HOURS.check(phase.hours())?;
            match *phase {
                PhaseDrive::Rest { .. } => {}
                PhaseDrive::Load { amperes, until_volts, .. } => {
                    CURRENT.check(amperes)?;
                    until_volts.map(|v| VOLTAGE.check(v)).transpose()?;
                }
                PhaseDrive::Charge { amperes, volts, per_degree, until_amperes, .. } => {
                    CURRENT.check(amperes)?;
                    VOLTAGE.check(volts)?;
                    per_degree.map(|c| COMPENSATION.check(c)).transpose()?;
                    until_amperes.map(|a| CURRENT.check(a)).transpose()?;
                }
            }
        }
        PROGRAM_HOURS.check(all)?;
        Ok(())
    }
}

/// A phase under way.
struct Running<'a> {
    program: &'a Program,
    string: SimString,
    hour: f64,
    moments: Vec<Moment>,
}

impl Running<'_> {
    fn note(&mut self, phase: usize, volts: f64, amperes: f64) {
        let Some(cell) = self.string.cells().first() else { return };
        let moment = Moment {
            hour: self.hour,
            phase,
            volts,
            amperes,
            // A reversed cell is empty, and its acid is still acid.
            state_of_charge: cell.state_of_charge().clamp(0.0, 1.0),
            gravity: cell.gravity_on_top().clamp(bounds::GRAVITY.low, bounds::GRAVITY.high),
            celsius: cell.celsius(),
            water_lost: cell.water_lost(),
        };
        self.moments.push(moment);
    }

    fn phase(&mut self, number: usize, phase: PhaseDrive, every: f64) {
        let cells = f64::from(self.program.cells);
        let around = if self.program.held {
            Surroundings::Held(self.program.air)
        } else {
            Surroundings::Air(self.program.air)
        };
        let (mut left, mut told) = (phase.hours(), 0.0);
        while left > 1e-9 {
            let step = match phase {
                PhaseDrive::Rest { .. } => left.min(every.min(1.0)),
                _ => left.min(STEP),
            };
            let hottest = self.string.cells().iter().map(SimCell::celsius).fold(f64::MIN, f64::max);
            let drive = match phase {
                PhaseDrive::Rest { .. } => Drive::Current(0.0),
                PhaseDrive::Load { amperes, .. } => Drive::Current(-amperes),
                PhaseDrive::Charge { amperes, volts, per_degree, .. } => {
                    let follows = per_degree.unwrap_or(0.0) * cells * (hottest - 25.0);
                    Drive::Charger { volts: volts + follows, amperes }
                }
            };
            let reading = self.string.step(drive, step, around);
            self.hour += step;
            left -= step;
            told += step;
            let done = match phase {
                PhaseDrive::Rest { .. } => false,
                PhaseDrive::Load { until_volts, .. } => {
                    until_volts.is_some_and(|v| reading.volts <= v * cells)
                }
                PhaseDrive::Charge { until_amperes, .. } => {
                    until_amperes.is_some_and(|a| reading.amperes <= a)
                }
            };
            if done || left <= 1e-9 || told >= every - 1e-9 {
                self.note(number, reading.volts, reading.amperes);
                told = 0.0;
            }
            if done {
                return;
            }
        }
    }
}

/// Runs a program.
///
/// # Errors
/// [`OutOfRange`] for a figure that cannot be; two years are the longest.
pub fn simulate(program: &Program) -> Result<Ran, OutOfRange> {
    program.checked()?;
    let kind = match program.kind {
        Kind::Flooded => CellKind::FLOODED,
        Kind::Agm => CellKind::AGM,
    };
    let cell = SimCell::aged(kind, program.capacity, program.age, program.worn)
        .at(program.air)
        .charged_to(program.charged);
    let hours: f64 = program.phases.iter().map(|p| p.hours()).sum();
    let asked = f64::from(program.every_minutes.max(1)) / 60.0;
    let every = asked.max(hours / MOST_MOMENTS);
    let string = SimString::new(vec![cell; usize::from(program.cells)]);
    let mut running = Running { program, string, hour: 0.0, moments: Vec::new() };
    for (number, phase) in (1..).zip(&program.phases) {
        running.phase(number, *phase, every);
    }
    let (charge_account, left) =
        running.string.cells().first().map(|c| (c.charge_account(), c.full())).unwrap_or_default();
    Ok(Ran {
        moments: running.moments,
        charged: charge_account.charged,
        discharged: charge_account.discharged,
        gassed: charge_account.gassed,
        self_discharged: charge_account.self_discharged,
        capacity_left: left,
    })
}
