//! Settled volts of an invented bank.

use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::rest::{BatteryVolts, RestConditions, RestSheet};

/// Volts of every battery in the order of the string, 26 h after charge and load; batteries of six cells
/// are sealed.
pub fn rest_sheet(shape: BankShape, volts: &[f64]) -> RestSheet {
    let batteries = shape
        .batteries()
        .zip(volts)
        .map(|(battery, volts)| BatteryVolts { battery, volts: *volts, gravity: None, stands: true })
        .collect();
    let sealed = shape.cells_per_battery == 6;
    RestSheet {
        model: BatteryModel::generic_by_key(if sealed { "agm-12v-100" } else { "flooded-6v-225" }).unwrap(),
        rules: HouseRules::maker_first(),
        conditions: RestConditions {
            hours_since_charge: Some(26.0),
            hours_since_load: Some(26.0),
            ..RestConditions::default()
        },
        batteries,
        strings: Vec::new(),
        held: None,
        shape,
    }
}
