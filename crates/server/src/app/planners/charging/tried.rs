//! A year as it is, and with one thing changed.

use super::set::key_of;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::charging_plan::{
    ChargingAsked, ChargingMoney, ChargingYear, PlugUse, Prices, best_year, charging_money, charging_year,
};
use rainshadow_core::solar::SolarArray;

/// Nights on shore that are tried: one in so many days.
pub(super) const WEEKLY: u16 = 7;

/// A way to go: the year as it is, or with one thing changed.
pub(super) struct Tried {
    pub(super) key: &'static str,
    pub(super) name: String,
    pub(super) about: String,
    pub(super) spent: f64,
    pub(super) asked: ChargingAsked,
    pub(super) year: ChargingYear,
    pub(super) money: ChargingMoney,
}

pub(super) fn tried(
    (key, name, about): (&'static str, String, String),
    asked: ChargingAsked,
    prices: &Prices,
    spent: f64,
) -> AppResult<Tried> {
    let year = charging_year(&asked).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let money = charging_money(&asked, &year, prices, spent).map_err(|e| AppError::refused("litre", &e))?;
    Ok(Tried { key, name, about, spent, asked, year, money })
}

/// The year as it is, and with a night on shore each week, more array, more bank.
pub(super) fn ways(asked: &ChargingAsked, prices: &Prices) -> AppResult<Vec<Tried>> {
    let mut all = vec![tried(("now", "As it is".into(), String::new()), asked.clone(), prices, 0.0)?];
    let capacity = asked.model.c20.ampere_hours() * f64::from(asked.shape.parallel);
    let own = asked.shore.map_or(capacity / 10.0, |own| own.amperes);
    if asked.shore.is_none_or(|own| own.every_days > WEEKLY) {
        let shore = PlugUse { amperes: own, hours: 12.0, every_days: WEEKLY, from: 20, litres: 0.0 };
        let about = format!("{own:.0} A for twelve hours, one night in seven");
        all.push(tried(
            ("shore_night", "A night a week on a plug".into(), about),
            ChargingAsked { shore: Some(shore), ..asked.clone() },
            prices,
            0.0,
        )?);
    }
    if let Some((array, sky)) = asked.solar {
        let larger = SolarArray { watts: array.watts * 1.5, ..array };
        let spent = prices.watt * (larger.watts - array.watts);
        let about = format!("{:.0} W for {:.0}", larger.watts, array.watts);
        all.push(tried(
            ("array", "Half as much array again".into(), about),
            ChargingAsked { solar: Some((larger, sky)), ..asked.clone() },
            prices,
            spent,
        )?);
    }
    let mut shape = asked.shape.clone();
    shape.parallel = shape.parallel.saturating_add(1);
    let more = prices.bank / f64::from(asked.shape.parallel);
    let wider = Prices { bank: prices.bank + more, ..*prices };
    let about = format!("{} strings of new batteries", shape.parallel);
    all.push(tried(
        ("bank", "One more string".into(), about),
        ChargingAsked { shape, health: 100.0, ..asked.clone() },
        &wider,
        more,
    )?);
    Ok(all)
}

/// The one that is advised.
pub(super) fn best_of(all: &[Tried]) -> usize {
    let caps = all.first().is_some_and(|own| own.asked.model.construction.has_caps());
    let years: Vec<(&ChargingYear, f64)> = all.iter().map(|own| (&own.year, own.money.ten_years)).collect();
    best_year(&years, caps)
}
