//! RP-1, the money: over one horizon, with what is needed again bought again and what is left of it at the end credited.

use serde::{Deserialize, Serialize};

/// What an option costs over a horizon.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CostOver {
    /// Years it is counted over.
    pub horizon: f64,
    /// All of it, at today's worth.
    pub money: f64,
    /// A year.
    pub a_year: f64,
    /// For each delivered kWh; none: none is delivered.
    pub a_kilowatt_hour: Option<f64>,
}

/// Money now for so many years, then whole banks at a price and of a life, to the horizon; unused life at its end is credited
/// pro rata, and what is paid later is worth less by the interest (a share a year).
pub fn cost_over(
    (now, years): (f64, f64),
    (bank, life): (f64, f64),
    horizon: f64,
    interest: f64,
    kilowatt_hours_a_year: f64,
) -> CostOver {
    let worth = |money: f64, at: f64| money / (1.0 + interest).powf(at);
    let life = life.max(0.1);
    let mut money = now;
    let mut at = years.max(0.0);
    let mut last = (now, 0.0, years);
    while at < horizon - 1e-9 {
        money += worth(bank, at);
        last = (bank, at, life);
        at += life;
    }
    let (price, bought, lasts) = last;
    let unused = (bought + lasts - horizon).max(0.0);
    if lasts > 0.0 {
        money -= worth(price * unused / lasts, horizon);
    }
    let delivered = kilowatt_hours_a_year * horizon;
    CostOver {
        horizon,
        money,
        a_year: if horizon > 0.0 { money / horizon } else { 0.0 },
        a_kilowatt_hour: (delivered > 0.0).then(|| money / delivered),
    }
}
