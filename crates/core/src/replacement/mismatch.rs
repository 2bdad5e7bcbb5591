//! SM-2: old and new batteries in one string under one limit of volts: who reaches it, who never fills, over weeks.

use crate::battery_model::Construction;
use crate::simulator::{CellKind, Drive, SimCell, SimString, Surroundings};
use serde::{Deserialize, Serialize};

/// A battery of the string.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MismatchBattery {
    /// How much more it gasses than a new one, 1 to 4.
    pub age: f64,
    /// Share of its capacity that is gone, 0 to 0.9.
    pub worn: f64,
    /// Charge it comes with, 0 to 1.
    pub charged: f64,
    /// Self-discharge, times that of a sound one.
    #[serde(default = "sound")]
    pub leak: f64,
}

fn sound() -> f64 {
    1.0
}

/// A string that is cycled every day.
#[derive(Debug, Clone, PartialEq)]
pub struct MismatchAsked {
    /// Kind of its batteries.
    pub construction: Construction,
    /// Ah of one at 20 hours.
    pub c20: f64,
    /// Its batteries in order.
    pub batteries: Vec<MismatchBattery>,
    /// V a cell that the charger holds.
    pub volts: f64,
    /// A of the charger for this string.
    pub amperes: f64,
    /// Hours it charges a day.
    pub hours: f64,
    /// Ah that the string gives a day.
    pub drawn: f64,
    /// Mean of the air, °C.
    pub celsius: f64,
    /// Days to run.
    pub days: u16,
}

/// The string at the end of the charge of a day.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MismatchDay {
    /// Day, from 1.
    pub day: u16,
    /// Charge of each battery, per cent of what is left of it.
    pub charges: Vec<f64>,
    /// V a cell of each.
    pub volts: Vec<f64>,
}

/// What the string showed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MismatchRun {
    /// Day by day.
    pub days: Vec<MismatchDay>,
    /// Current at the end of the last charge, A.
    pub amperes: f64,
}

/// Runs it day by day: charged by day, drawn by night.
pub fn mismatch(asked: &MismatchAsked) -> MismatchRun {
    let kind = CellKind::of(asked.construction);
    let cell = |own: &MismatchBattery| {
        let mut made =
            SimCell::aged(kind, asked.c20, own.age, own.worn).charged_to(own.charged).at(asked.celsius);
        made.leak(own.leak);
        made
    };
    // A cell stands for each battery, since those of one battery are alike, and one for all that are alike.
    let mut kinds: Vec<(MismatchBattery, f64)> = Vec::new();
    let mut kind_of = Vec::with_capacity(asked.batteries.len());
    for own in &asked.batteries {
        let at = kinds.iter().position(|(other, _)| other == own).unwrap_or_else(|| {
            kinds.push((*own, 0.0));
            kinds.len() - 1
        });
        kinds[at].1 += 1.0;
        kind_of.push(at);
    }
    let mut string = SimString::of_alike(kinds.iter().map(|(own, n)| (cell(own), *n)).collect());
    let count = f64::from(u32::try_from(asked.batteries.len()).unwrap_or(1));
    let around = Surroundings::Air(asked.celsius);
    let hours = asked.hours.clamp(0.5, 20.0);
    let rest = 24.0 - hours;
    let night = Drive::Current(-asked.drawn / rest);
    let charge = Drive::Charger { volts: asked.volts * count, amperes: asked.amperes };
    let mut run = MismatchRun { days: Vec::with_capacity(usize::from(asked.days)), amperes: 0.0 };
    for day in 1..=asked.days {
        string.step(night, rest, around);
        let end = string.step(charge, hours, around);
        run.amperes = end.amperes;
        run.days.push(MismatchDay {
            day,
            charges: kind_of.iter().map(|at| 100.0 * string.cells()[*at].state_of_charge()).collect(),
            volts: kind_of.iter().map(|at| string.cells()[*at].volts()).collect(),
        });
    }
    run
}

/// Volts of each battery at the end of charge, where all current gasses: gassing currents at a voltage, A, in a string that is
/// held at a limit, V, with a Tafel slope, V for ten times the current.
pub fn end_of_charge(gassing: &[f64], at: f64, limit: f64, slope: f64) -> (f64, Vec<f64>) {
    let count = f64::from(u32::try_from(gassing.len()).unwrap_or(1));
    let logs: f64 = gassing.iter().map(|own| own.log10()).sum();
    let current = 10f64.powf((limit - count * at + slope * logs) / (slope * count));
    (current, gassing.iter().map(|own| at + slope * (current / own).log10()).collect())
}
