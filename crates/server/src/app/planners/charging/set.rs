//! What is set on a year of charging, as the core takes it.

use super::super::climate::means;
use super::super::subject::Subject;
use super::super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::charging_plan::{ChargingAsked, ChargingError, EngineUse, PlugUse, Prices};
use rainshadow_core::quantity::bounds;
use rainshadow_core::solar::{SolarArray, SolarSky};

pub(super) fn percent(own: bounds::Bounds) -> bounds::Bounds {
    bounds::Bounds { low: own.low * 100.0, high: own.high * 100.0, unit: "%", decimals: 0, ..own }
}

pub(super) fn solar(typed: &mut Typed<'_>) -> Option<(SolarArray, SolarSky)> {
    if !typed.is_set("solar") {
        return None;
    }
    let array = SolarArray {
        watts: typed.number("watts", bounds::ARRAY_WATTS),
        tilt: typed.number("tilt", bounds::TILT),
        azimuth: typed.number("azimuth", bounds::AZIMUTH),
        left: typed.number("left", percent(bounds::ARRAY_LEFT)) / 100.0,
    };
    let sky = SolarSky {
        latitude: typed.number("latitude", bounds::LATITUDE),
        altitude: typed.number("altitude", bounds::ALTITUDE),
        clearness: typed.numbers::<12>("clearness", percent(bounds::CLEARNESS)).map(|own| own / 100.0),
        snow: typed.numbers::<12>("snow", percent(bounds::SNOW_SHARE)).map(|own| own / 100.0),
    };
    Some((array, sky))
}

pub(super) fn plug(typed: &mut Typed<'_>, name: &str, from: u8, litres: bool) -> Option<PlugUse> {
    typed.is_set(name).then(|| PlugUse {
        amperes: typed.number(&format!("{name}_amperes"), bounds::BANK_CURRENT),
        hours: typed.number(&format!("{name}_hours"), bounds::HOUR_OF_DAY),
        every_days: typed.whole(&format!("{name}_every"), bounds::EVERY_DAYS),
        from,
        litres: if litres { typed.number(&format!("{name}_litres"), bounds::FUEL) } else { 0.0 },
    })
}

pub(super) fn engine(typed: &mut Typed<'_>) -> Option<EngineUse> {
    typed.is_set("engine").then(|| EngineUse {
        amperes: typed.number("engine_amperes", bounds::BANK_CURRENT),
        hours: typed.number("engine_hours", bounds::HOUR_OF_DAY),
        every_days: typed.whole("engine_every", bounds::EVERY_DAYS),
        volts: typed.number("engine_volts", bounds::CELL_VOLTAGE),
        litres: typed.number("engine_litres", bounds::FUEL),
    })
}

pub(super) fn prices(typed: &mut Typed<'_>) -> Prices {
    Prices {
        litre: typed.number("litre", bounds::PRICE),
        kilowatt_hour: typed.number("kilowatt_hour", bounds::PRICE),
        bank: typed.number("bank_price", bounds::PRICE),
        watt: typed.number("watt", bounds::PRICE),
    }
}

pub(super) fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<(ChargingAsked, Prices, u8, u16)> {
    let loads = typed.numbers("loads", bounds::RUNTIME_LOAD);
    let loads_by_month =
        typed.numbers::<12>("loads_by_month", percent(bounds::LOAD_TIMES)).map(|own| own / 100.0);
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let (solar, engine) = (solar(typed), engine(typed));
    let generator = plug(typed, "generator", 8, true);
    let shore = plug(typed, "shore", 20, false);
    let (prices, air) = (prices(typed), means(subject, typed));
    let month = typed.whole(
        "stay_month",
        bounds::Bounds { low: 1.0, high: 12.0, quantity: "month", ..bounds::EVERY_DAYS },
    );
    let days = typed.whole("stay_days", bounds::STAY_DAYS);
    std::mem::take(&mut typed.faults).none()?;
    let means = air.ok_or_else(|| AppError::field("means", "A figure is missing."))?;
    let own = ChargingAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        health,
        loads,
        loads_by_month,
        means,
        solar,
        engine,
        generator,
        shore,
        planned_depth: f64::from(subject.rules.planned_depth_percent),
    };
    Ok((own, prices, u8::try_from(month).unwrap_or(1), days))
}

pub(super) fn key_of(error: &ChargingError) -> &'static str {
    match error.field() {
        "sources" => "engine",
        "prices" => "litre",
        other => other,
    }
}
