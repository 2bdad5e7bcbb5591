//! Which capacity gives the hours that are wanted, and which load lasts that long.

use super::asked::RuntimeAsked;
use super::error::RuntimeError;
use super::hours::{Runtime, runtime};
use crate::battery_model::{BatteryModel, RatePoint};
use crate::quantity::{Charge, bounds};

/// Halvings on a logarithmic scale.
const HALVINGS: u32 = 40;
/// Between which factors of size and load is looked.
const SIZES: [f64; 2] = [0.05, 50.0];

/// Hours that count: to the alarm where there is one.
fn counts(own: &Runtime) -> f64 {
    own.alarm.map_or(own.empty.hours, |alarm| alarm.hours)
}

/// A model of another size: capacity and rates times a factor.
fn sized(model: &BatteryModel, factor: f64) -> Option<BatteryModel> {
    let scaled = |own: Charge| Charge::from_ampere_hours(own.ampere_hours() * factor).ok();
    let rates: Option<Vec<RatePoint>> = model
        .rates
        .iter()
        .map(|own| Some(RatePoint { hours: own.hours, capacity: scaled(own.capacity)? }))
        .collect();
    Some(BatteryModel { c20: scaled(model.c20)?, rates: rates?, ..model.clone() })
}

/// C20 of one string, Ah, from which such a bank holds the load for so many hours, to its alarm where it has one; none: no
/// size up to fifty times its own does.
///
/// # Errors
/// [`RuntimeError`] for what cannot be.
pub fn capacity_for(asked: &RuntimeAsked, hours: f64) -> Result<Option<f64>, RuntimeError> {
    asked.check()?;
    let holds = |factor: f64| -> Result<bool, RuntimeError> {
        let Some(model) = sized(&asked.model, factor) else { return Ok(false) };
        Ok(counts(&runtime(&RuntimeAsked { model, ..asked.clone() })?) >= hours)
    };
    let c20 = asked.model.c20.ampere_hours();
    let all = asked.model.rates.iter().map(|own| own.capacity.ampere_hours()).chain([c20]);
    let (least, most) = all.fold((c20, c20), |(least, most), own| (least.min(own), most.max(own)));
    let mut low = SIZES[0].max(1.001 * bounds::CAPACITY.low / least);
    let mut high = SIZES[1].min(0.999 * bounds::CAPACITY.high / most);
    if !holds(high)? {
        return Ok(None);
    }
    for _ in 0..HALVINGS {
        let middle = (low * high).sqrt();
        if holds(middle)? { high = middle } else { low = middle }
    }
    Ok(Some(high * c20))
}

/// Share of the load that the bank holds for so many hours, to its alarm where it has one, 0 to 1; none: all of it.
///
/// # Errors
/// [`RuntimeError`] for what cannot be.
pub fn load_for(asked: &RuntimeAsked, hours: f64) -> Result<Option<f64>, RuntimeError> {
    if counts(&runtime(asked)?) >= hours {
        return Ok(None);
    }
    let (mut low, mut high) = (0.01, 1.0);
    for _ in 0..HALVINGS {
        let middle = f64::midpoint(low, high);
        let load = asked.load.times(middle);
        if counts(&runtime(&RuntimeAsked { load, ..asked.clone() })?) >= hours {
            low = middle;
        } else {
            high = middle;
        }
    }
    Ok(Some(low))
}
