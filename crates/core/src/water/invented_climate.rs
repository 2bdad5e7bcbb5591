//! Climates that ship, to begin with until a site's own is known.

use super::climate::MonthlyMeans;
use super::record_lows::RecordLows;
use super::year::{WARMEST, YEAR};
use std::f64::consts::TAU;

/// An invented climate to begin with until a site's own means are known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InventedClimate {
    /// Stable key.
    pub key: &'static str,
    /// Name.
    pub name: &'static str,
    /// Mean of the year, °C.
    pub mean: f64,
    /// Half of what the warmest month lies above the coldest, °C.
    pub swing: f64,
    /// How far the lowest on record lies under the mean of its month, °C.
    pub lows_under: f64,
}

/// Climates that ship. Invented in round figures and of no place: a wave about its mean.
pub const INVENTED_CLIMATES: [InventedClimate; 7] = [
    InventedClimate { key: "mild_coast", name: "Mild coast", mean: 11.0, swing: 5.0, lows_under: 12.0 },
    InventedClimate {
        key: "temperate_inland",
        name: "Temperate inland",
        mean: 10.0,
        swing: 10.0,
        lows_under: 20.0,
    },
    InventedClimate { key: "cold_inland", name: "Cold inland", mean: 3.0, swing: 16.0, lows_under: 24.0 },
    InventedClimate { key: "high_mountain", name: "High mountain", mean: 2.0, swing: 8.0, lows_under: 20.0 },
    InventedClimate { key: "warm_dry", name: "Warm and dry", mean: 18.0, swing: 9.0, lows_under: 14.0 },
    InventedClimate { key: "hot_desert", name: "Hot desert", mean: 25.0, swing: 10.0, lows_under: 15.0 },
    InventedClimate { key: "tropics", name: "Tropics", mean: 27.0, swing: 1.5, lows_under: 8.0 },
];

impl InventedClimate {
    /// The one of a key.
    pub fn by_key(key: &str) -> Option<&'static Self> {
        INVENTED_CLIMATES.iter().find(|own| own.key == key)
    }

    /// Its lowest on record, alike.
    pub fn lows(&self, southern: bool) -> RecordLows {
        RecordLows::under(&self.means(southern), self.lows_under)
    }

    /// Its means on one side of the equator: a wave with its warmest day on 20 July, or 20 January in the
    /// south, to a tenth of a degree.
    pub fn means(&self, southern: bool) -> MonthlyMeans {
        let warmest = if southern { WARMEST.1 } else { WARMEST.0 };
        let mut means = [0.0; 12];
        for (mean, month) in means.iter_mut().zip(0_u8..) {
            let middle = (f64::from(month) + 0.5) / 12.0 * YEAR;
            let celsius = self.mean + self.swing * (TAU * (middle - warmest) / YEAR).cos();
            *mean = (celsius * 10.0).round() / 10.0;
        }
        MonthlyMeans::known(means)
    }
}
