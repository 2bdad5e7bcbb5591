//! What is set on a storage plan, as the core takes it.

use super::super::climate::{lows_of_climate, means};
use super::super::subject::Subject;
use super::super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use jiff::civil::Date;
use rainshadow_core::quantity::bounds;
use rainshadow_core::solar::{SolarArray, SolarSky, month_harvest};
use rainshadow_core::storage::{MonthlyLoss, StorageAir, StorageAsked, StorageError, StorageWay};
use rainshadow_core::water::{MARGIN_MM, MonthlyMeans, RecordLows};

/// The sky over an array as it is set, its clearness taken alike in all months.
pub(super) fn array_way(typed: &mut Typed<'_>, volts: f64) -> StorageWay {
    let amperes = typed.number("array_draw", bounds::STANDING_DRAW);
    let array = SolarArray {
        watts: typed.number("watts", bounds::ARRAY_WATTS),
        tilt: typed.number("tilt", bounds::TILT),
        azimuth: typed.number("azimuth", bounds::AZIMUTH),
        left: 0.75,
    };
    let latitude = typed.number("latitude", bounds::LATITUDE);
    let percent = bounds::Bounds { high: 100.0, unit: "%", decimals: 0, ..bounds::SNOW_SHARE };
    let light = bounds::Bounds { high: 100.0, unit: "%", decimals: 0, ..bounds::SNOW_SHARE };
    let clearness: [f64; 12] = typed.numbers::<12>("clearness", light).map(|own| own / 100.0);
    let snow: [f64; 12] = typed.numbers::<12>("snow", percent).map(|own| own / 100.0);
    let sky = SolarSky { latitude, altitude: 0.0, clearness, snow: [1.0; 12] };
    let mut harvest = [0.0; 12];
    for (own, month) in harvest.iter_mut().zip(1_i8..) {
        let middle = Date::new(2026, month, 15).unwrap_or(Date::MIN);
        *own = month_harvest(&array, &sky, middle).watt_hours / volts;
    }
    StorageWay::OnArray { amperes, harvest, snow }
}

pub(super) fn ways(typed: &mut Typed<'_>, volts: f64) -> Vec<StorageWay> {
    let mut all = Vec::new();
    if typed.is_set("disconnected") {
        all.push(StorageWay::Disconnected);
    }
    if typed.is_set("on_loads") {
        all.push(StorageWay::OnLoads { amperes: typed.number("draw", bounds::STANDING_DRAW) });
    }
    if typed.is_set("on_array") {
        all.push(array_way(typed, volts));
    }
    if typed.is_set("maintained") {
        let volts = typed.maybe("maintainer_volts", bounds::CELL_VOLTAGE);
        all.push(StorageWay::Maintained { volts, follows: typed.is_set("maintainer_follows") });
    }
    if typed.is_set("indoors") {
        all.push(StorageWay::Indoors {
            mean: typed.degrees("indoors_mean"),
            low: typed.degrees("indoors_low"),
        });
    }
    all
}

/// Key of the control that an error of the core is about.
pub(super) fn key_of(error: &StorageError, lows_by: &str) -> &'static str {
    match error.field() {
        "age" => "gassing",
        "air" => match lows_by {
            "own" => "lows",
            "climate" => "lows_by",
            _ => "lows_under",
        },
        "ways" => "disconnected",
        other => other,
    }
}

/// mL over the plates of a cell down to the margin that is kept; none: sealed, or the model does not say.
pub(super) fn reserve(subject: &Subject) -> Option<f64> {
    let model = &subject.model;
    let above = model.fill_mark_above_plates?.millimetres();
    model.construction.has_caps().then_some((above - MARGIN_MM).max(0.0) * model.free_area?)
}

/// The coldest on record as it is set; none: a fault.
fn lows(subject: &Subject, means: Option<&MonthlyMeans>, typed: &mut Typed<'_>) -> Option<RecordLows> {
    match typed.text("lows_by") {
        "own" => {
            let own = typed.months_of_lows("lows");
            typed.faults.take("lows", RecordLows::try_from(own))
        }
        "climate" => {
            let known = lows_of_climate(subject, typed.text("climate"));
            typed.faults.take(
                "lows_by",
                known.ok_or("the site has no record lows; type them, or how far they lie under the means"),
            )
        }
        _ => {
            let under = typed.number("lows_under", bounds::UNDER_MEAN);
            let under = if typed.is_fahrenheit() { under / 1.8 } else { under };
            means.map(|own| RecordLows::under(own, under))
        }
    }
}

pub(super) fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<StorageAsked> {
    let volts = f64::from(subject.shape.system_voltage);
    let (from, until) = (typed.day("from"), typed.day("until"));
    let by_month = means(subject, typed);
    let coldest = lows(subject, by_month.as_ref(), typed);
    let charged = typed.number("charged", bounds::STATE_OF_CHARGE);
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let loss = MonthlyLoss {
        inside: typed.number("self_discharge", bounds::MONTHLY_LOSS),
        tops: typed.number("tops", bounds::DIRTY_TOPS),
    };
    let told = typed.maybe("gassing", bounds::CELL_AGE);
    let gassing = told.unwrap_or_else(|| subject.gassing().times);
    let ways = ways(typed, volts);
    std::mem::take(&mut typed.faults).none()?;
    let missing = || AppError::field("from", "A figure is missing.");
    Ok(StorageAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        from: from.ok_or_else(missing)?,
        until: until.ok_or_else(missing)?,
        air: StorageAir { means: by_month.ok_or_else(missing)?, lows: coldest },
        charged,
        health,
        loss,
        age: gassing,
        reserve: reserve(subject),
        check_days: subject.rules.storage_check_days,
        ways,
    })
}
