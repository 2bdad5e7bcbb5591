//! How long a model should last at a current: by its rate table, or by Peukert where it has none.

use super::peukert::{RATED_HOURS, peukert_hours, usual_exponents};
use crate::battery_model::BatteryModel;
use serde::{Deserialize, Serialize};

/// Where a rated time comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RatedFrom {
    /// Between two rows of the model's rate table, straight in logarithms.
    Table,
    /// Beyond its rows: by the exponents that are usual.
    BeyondTable,
    /// By Peukert from the capacity at 20 hours: the model has no rate table.
    Peukert,
}

/// How long a new battery lasts at a current at 25 °C.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RatedTime {
    /// Hours.
    pub hours: f64,
    /// Hours at the exponent that gives least.
    pub low: f64,
    /// Hours at the exponent that gives most.
    pub high: f64,
    /// Where it comes from.
    pub from: RatedFrom,
}

/// Rows as current, A, and hours, the highest current first; empty where the table does not fall in current.
fn rows(model: &BatteryModel) -> Vec<(f64, f64)> {
    let all: Vec<(f64, f64)> =
        model.rates.iter().map(|r| (r.capacity.ampere_hours() / r.hours, r.hours)).collect();
    let falls = all.windows(2).all(|pair| pair[0].0 > pair[1].0);
    if falls && all.len() > 1 { all } else { Vec::new() }
}

/// From one row on, by each usual exponent; slower than the row nothing is credited beyond its capacity.
fn from_row(row: (f64, f64), amperes: f64, exponents: [f64; 3], from: RatedFrom) -> RatedTime {
    let at = |k: f64| (row.1 * (row.0 / amperes).powf(k)).min(row.0 * row.1 / amperes);
    let [a, b, c] = exponents.map(at);
    RatedTime { hours: b, low: a.min(c), high: a.max(c), from }
}

/// How long one battery or one string of the model should last at a current, A.
pub fn rated_time(model: &BatteryModel, amperes: f64) -> RatedTime {
    let exponents = usual_exponents(model.construction);
    let rows = rows(model);
    let (Some(first), Some(last)) = (rows.first(), rows.last()) else {
        let c20 = model.c20.ampere_hours();
        let [a, b, c] = exponents.map(|k| peukert_hours(c20, amperes, k));
        return RatedTime { hours: b, low: a.min(c), high: a.max(c), from: RatedFrom::Peukert };
    };
    if amperes > first.0 {
        return from_row(*first, amperes, exponents, RatedFrom::BeyondTable);
    }
    if amperes < last.0 {
        return from_row(*last, amperes, exponents, RatedFrom::BeyondTable);
    }
    let pair = rows.windows(2).find(|pair| amperes >= pair[1].0).unwrap_or(&rows[..2]);
    let part = (pair[0].0 / amperes).ln() / (pair[0].0 / pair[1].0).ln();
    let hours = pair[0].1 * (pair[1].1 / pair[0].1).powf(part);
    RatedTime { hours, low: hours, high: hours, from: RatedFrom::Table }
}

/// The current, A, at which the model should last so many hours: the other way round.
pub(super) fn rated_current(model: &BatteryModel, hours: f64) -> f64 {
    let c20 = model.c20.ampere_hours();
    let (mut low, mut high) = (c20 / 1e4 / RATED_HOURS, c20 * 1e3);
    for _ in 0..200 {
        let middle = (low * high).sqrt();
        if rated_time(model, middle).hours > hours {
            low = middle;
        } else {
            high = middle;
        }
    }
    (low * high).sqrt()
}
