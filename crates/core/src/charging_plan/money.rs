//! What a year of charging costs, and ten of them.

use super::asked::{ChargingAsked, Prices};
use super::year::{ChargingYear, runs};
use crate::quantity::{OutOfRange, bounds};
use serde::{Deserialize, Serialize};

/// kWh out of the plug for each kWh into the bank (our choice, no source).
const CHARGER: f64 = 1.15;
/// Volts of a bank on charge against its nominal ones.
pub(super) const ON_CHARGE: f64 = 1.15;

/// Money in the house's own currency.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargingMoney {
    /// Litres a year.
    pub litres: f64,
    /// kWh of the plug a year.
    pub plug_kilowatt_hours: f64,
    /// Fuel and mains a year.
    pub sources: f64,
    /// The bank a year: its price over the years it lasts.
    pub bank: f64,
    /// Both a year.
    pub a_year: f64,
    /// Over ten years: sources, and as many banks as wear out, with what is added now.
    pub ten_years: f64,
    /// For each kWh that the loads get; none: they get none.
    pub a_kilowatt_hour: Option<f64>,
}

/// kWh out of a plug for so many Ah into a bank of nominal volts.
pub fn plug_kilowatt_hours(ampere_hours: f64, volts: f64) -> f64 {
    ampere_hours * volts * ON_CHARGE * CHARGER / 1000.0
}

/// What a year costs with these prices, and ten years with what is spent now.
///
/// # Errors
/// [`OutOfRange`] for a price that cannot be.
pub fn charging_money(
    asked: &ChargingAsked,
    year: &ChargingYear,
    prices: &Prices,
    now: f64,
) -> Result<ChargingMoney, OutOfRange> {
    for own in [prices.litre, prices.kilowatt_hour, prices.bank, prices.watt, now] {
        bounds::PRICE.check(own)?;
    }
    let volts = f64::from(asked.shape.system_voltage);
    let hours =
        |own: Option<(f64, f64, u16)>| own.map_or(0.0, |(hours, litres, every)| hours * litres * runs(every));
    let engine = hours(asked.engine.map(|own| (own.hours, own.litres, own.every_days)));
    let generator = hours(asked.generator.map(|own| (own.hours, own.litres, own.every_days)));
    let litres = engine + generator;
    let plug = plug_kilowatt_hours(year.account.shore, volts);
    let sources = litres * prices.litre + plug * prices.kilowatt_hour;
    let bank = prices.bank / year.years[0].max(0.1);
    let used = year.account.used * volts / 1000.0;
    Ok(ChargingMoney {
        litres,
        plug_kilowatt_hours: plug,
        sources,
        bank,
        a_year: sources + bank,
        ten_years: now + 10.0 * (sources + bank),
        a_kilowatt_hour: (used > 0.0).then(|| (sources + bank) / used),
    })
}
