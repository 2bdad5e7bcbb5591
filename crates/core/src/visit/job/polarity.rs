//! Polarity of a battery before it is joined: the red probe on the post that is marked positive.

use crate::bank::BatteryAddress;
use crate::severity::Severity;
use crate::visit::{Entry, Place, VisitSheet};

/// Volts per cell under which a battery that stands alone is flat, or was not read at its posts (RD-7: 1.75 V is as
/// far as a cell is discharged).
const LOW_PER_CELL: f64 = 1.75;
/// Volts per cell that no battery without a charger shows (RD-7, a settled full cell of 1.300 stands at 2.145 V; the
/// charge on its surface adds some tenths, common practice, no source).
const HIGH_PER_CELL: f64 = 2.5;

/// The polarity of a battery as it was read.
#[derive(Debug, Clone, PartialEq)]
pub struct Polarity {
    /// Which battery.
    pub battery: BatteryAddress,
    /// V, the red probe on the post marked positive.
    pub volts: f64,
    /// Its entry.
    pub entry: String,
}

impl Polarity {
    /// True where its posts are as they are marked.
    pub fn right(&self) -> bool {
        self.volts > 0.0
    }

    /// Steady where it is right, act where it is reversed.
    pub fn condition(&self) -> Severity {
        if self.right() { Severity::Steady } else { Severity::Act }
    }
}

/// What a reading is asked about; it can be kept.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum PolarityQuestion {
    /// The meter shows less than nothing: the probes are the wrong way round, or the posts are.
    Reversed {
        /// V.
        volts: f64,
    },
    /// Flat, or not read at its posts.
    Flat {
        /// V.
        volts: f64,
    },
    /// More than a battery of so many cells shows by itself.
    High {
        /// V.
        volts: f64,
        /// Cells.
        cells: u8,
    },
}

/// What volts of a battery of so many cells are asked about.
pub fn question(volts: f64, cells: u8) -> Option<PolarityQuestion> {
    let per_cell = volts.abs() / f64::from(cells.max(1));
    if volts < 0.0 {
        Some(PolarityQuestion::Reversed { volts })
    } else if per_cell < LOW_PER_CELL {
        Some(PolarityQuestion::Flat { volts })
    } else if per_cell > HIGH_PER_CELL {
        Some(PolarityQuestion::High { volts, cells })
    } else {
        None
    }
}

/// Polarities on a sheet, by battery.
pub fn polarities(sheet: &VisitSheet) -> Vec<Polarity> {
    let own = sheet.standing().filter_map(|k| match (k.place, &k.entry) {
        (Place::Battery(battery), Entry::Polarity { volts, .. }) => {
            Some(Polarity { battery, volts: *volts, entry: k.id.clone() })
        }
        _ => None,
    });
    let mut all: Vec<Polarity> = own.collect();
    all.sort_by_key(|own| own.battery);
    all
}
