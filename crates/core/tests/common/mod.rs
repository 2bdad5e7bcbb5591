//! Rounds of invented banks for the tests of judgement.
#![allow(
    dead_code,
    clippy::unwrap_used,
    reason = "each test file uses its own part, and helpers fail loudly"
)]

pub mod document;
pub mod facts;
pub mod rest;
pub mod tests_made;
pub mod visits;

use rainshadow_core::bank::{BankShape, CellAddress, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{Points, SpecificGravity, Temperature};
use rainshadow_core::round::{
    CellReading, CellRecord, Conditions, PastCell, PastRound, RoundTemperature, RoundToJudge, WaterAdded,
};

pub fn cell(address: &str) -> CellAddress {
    address.parse().unwrap()
}

pub fn sg(value: f64) -> SpecificGravity {
    SpecificGravity::new(value).unwrap()
}

/// At rest, mixed, 25 °C (the models' reference), so corrected equals read.
pub fn settled() -> Conditions {
    Conditions {
        charging: false,
        hours_since_charge: Some(26.0),
        hours_since_load: Some(26.0),
        water_added: WaterAdded::No,
        proven_full: Some("tail current held".into()),
        temperature: RoundTemperature::OneForAll { temperature: Temperature::from_celsius(25.0).unwrap() },
        rest_volts: None,
    }
}

pub fn shape(cells: u8, series: u8, parallel: u8) -> BankShape {
    BankShape {
        system_voltage: 2 * u16::from(cells) * u16::from(series),
        cells_per_battery: cells,
        series,
        parallel,
        layout: Layout::default(),
    }
    .checked()
    .unwrap()
}

/// A bank whose cells, in electrical order, read these gravities (in thousandths).
pub fn round(shape: BankShape, thousandths: &[f64]) -> RoundToJudge {
    let readings = shape
        .cells()
        .zip(thousandths)
        .map(|(cell, value)| CellRecord {
            cell,
            reading: CellReading::Gravity { read: sg(value / 1000.0) },
            temperature: None,
            stands: true,
        })
        .collect();
    RoundToJudge {
        shape,
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        rules: HouseRules::maker_first(),
        other_rules: HouseRules::shipped().to_vec(),
        instrument: Instrument::hydrometer(),
        conditions: settled(),
        readings,
        past: Vec::new(),
        low_levels: Vec::new(),
    }
}

/// An earlier round of the same bank with these deviations from 1.260.
pub fn past(shape: &BankShape, days_before: f64, deviations: &[f64]) -> PastRound {
    PastRound {
        days_before,
        instrument: Instrument::hydrometer().kind,
        before_equalize: false,
        cells: shape
            .cells()
            .zip(deviations)
            .map(|(cell, d)| PastCell { cell, corrected: sg(1.260 + d / 1000.0), deviation: Points::new(*d) })
            .collect(),
    }
}

/// A small reproducible source of standard normal numbers (xorshift and Box-Muller).
pub struct Noise(pub u64);

impl Noise {
    pub fn uniform(&mut self) -> f64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        #[allow(clippy::cast_precision_loss, reason = "53 bits are kept on purpose")]
        let share = (self.0 >> 11) as f64 / (1u64 << 53) as f64;
        share.max(1e-12)
    }

    pub fn normal(&mut self) -> f64 {
        (-2.0 * self.uniform().ln()).sqrt() * (std::f64::consts::TAU * self.uniform()).cos()
    }
}
