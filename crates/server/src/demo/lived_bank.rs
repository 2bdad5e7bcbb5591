//! A bank in the simulator: strings that share what flows, in the air of its room.

use super::noise::character;
use rainshadow_core::bank::{BankShape, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::simulator::{CellKind, Drive, SimCell, SimString, Surroundings};

/// Steps under current, h.
const STEP: f64 = 1.0 / 60.0;

/// The bank.
pub(super) struct LivedBank {
    strings: Vec<SimString>,
    /// Share of the current that each string takes.
    shares: Vec<f64>,
    /// Names of the cells, in electrical order.
    names: Vec<String>,
    /// Air of the room, °C.
    pub air: f64,
    /// Volts at its terminals after the last step.
    pub volts: f64,
    /// Amperes of all strings after the last step; charge positive.
    pub amperes: f64,
}

/// Cells of one make are alike, not equal: gravity that was poured in, size, self-discharge.
const POURED: f64 = 0.0015;
const SIZE: f64 = 0.012;
const SELF_DISCHARGE: f64 = 0.3;

impl LivedBank {
    /// New and full. `age` is how much its cells gas, 1 for a common new cell.
    pub fn new(model: &BatteryModel, shape: &BankShape, shares: &[f64], age: f64) -> Self {
        let kind = if model.construction.has_caps() { CellKind::FLOODED } else { CellKind::AGM };
        let capacity = model.c20.ampere_hours();
        let names: Vec<String> = shape.cells().map(|cell: CellAddress| cell.to_string()).collect();
        let cells: Vec<SimCell> = names
            .iter()
            .map(|name| {
                let own =
                    CellKind { full_gravity: model.full_gravity.value() + POURED * character(name), ..kind };
                let size = 1.0 + SIZE * character(&format!("holds {name}"));
                let mut cell = SimCell::aged(own, capacity * size, age, 0.0);
                cell.leak(1.0 + SELF_DISCHARGE * character(&format!("loses {name}")));
                cell
            })
            .collect();
        let per_string = usize::from(shape.cells_in_series()).max(1);
        let strings = cells.chunks(per_string).map(|s| SimString::new(s.to_vec())).collect();
        Self { strings, shares: shares.to_vec(), names, air: 20.0, volts: 0.0, amperes: 0.0 }
    }

    /// The drive acts on the bank for so many hours; its amperes are those of all strings.
    pub fn pass(&mut self, drive: Drive, hours: f64) {
        let around = Surroundings::Air(self.air);
        let (mut volts, mut amperes) = (0.0, 0.0);
        for (string, share) in self.strings.iter_mut().zip(&self.shares) {
            let own = match drive {
                Drive::Current(all) => Drive::Current(all * share),
                Drive::Charger { volts, amperes } => Drive::Charger { volts, amperes: amperes * share },
            };
            let shown = string.step(own, hours, around);
            volts = shown.volts;
            amperes += shown.amperes;
        }
        (self.volts, self.amperes) = (volts, amperes);
    }

    /// The same in steps of a minute, each told of.
    pub fn pass_minutes(&mut self, hours: f64, mut each: impl FnMut(&mut Self, f64)) {
        let mut left = hours;
        while left > 1e-9 {
            let part = left.min(STEP);
            each(self, part);
            left -= part;
        }
    }

    /// Its cells in electrical order.
    pub fn cells(&self) -> impl Iterator<Item = &SimCell> {
        self.strings.iter().flat_map(SimString::cells)
    }

    /// Each cell with its name.
    pub fn each_cell(&mut self, mut change: impl FnMut(&str, &mut SimCell)) {
        let cells = self.strings.iter_mut().flat_map(|s| s.cells_mut().iter_mut());
        for (name, cell) in self.names.iter().zip(cells) {
            change(name, cell);
        }
    }

    /// The hottest cell, °C.
    pub fn hottest(&self) -> f64 {
        self.cells().map(SimCell::celsius).fold(f64::MIN, f64::max)
    }

    /// Mean of all cells, °C.
    pub fn celsius(&self) -> f64 {
        let all: Vec<f64> = self.cells().map(SimCell::celsius).collect();
        #[expect(clippy::cast_precision_loss, reason = "cells of a bank are few")]
        let count = all.len().max(1) as f64;
        all.iter().sum::<f64>() / count
    }
}
