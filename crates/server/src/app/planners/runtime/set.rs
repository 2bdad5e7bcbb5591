//! What is set, as the core takes it.

use super::super::subject::Subject;
use super::super::typed::Typed;
use super::proven::bare;
use rainshadow_core::discharge::USUAL_END;
use rainshadow_core::quantity::bounds;
use rainshadow_core::runtime::{Inverter, RuntimeAsked, RuntimeError, RuntimeLoad};

pub(super) fn load(typed: &mut Typed<'_>) -> RuntimeLoad {
    match typed.text("load") {
        "bursts" => RuntimeLoad::Bursts {
            amount: typed.number("amount", bounds::RUNTIME_LOAD),
            seconds: typed.number("seconds", bounds::BURST_SECONDS),
            every: typed.number("every", bounds::BURST_SECONDS),
            surge: typed.number("surge", bounds::SURGE),
            standing: typed.number("standing", bounds::RUNTIME_LOAD),
        },
        "by_hour" => RuntimeLoad::ByHour {
            amounts: typed.numbers("amounts", bounds::RUNTIME_LOAD),
            from: u8::try_from(typed.whole("from_hour", bounds::HOUR_OF_DAY)).unwrap_or(0),
        },
        _ => RuntimeLoad::Continuous { amount: typed.number("amount", bounds::RUNTIME_LOAD) },
    }
}

/// Key of the control that an error of the core is about.
pub(super) fn key_of(error: &RuntimeError, typed: &Typed<'_>) -> &'static str {
    match (error.field(), typed.text("load")) {
        ("load", "by_hour") => "amounts",
        ("load", _) if matches!(error, RuntimeError::RunsIntoTheNext { .. }) => "seconds",
        ("load", _) => "amount",
        (other, _) => other,
    }
}

pub(super) fn asked(subject: &Subject, typed: &mut Typed<'_>) -> RuntimeAsked {
    let load = load(typed);
    let percent =
        bounds::Bounds { low: 50.0, high: 100.0, unit: "%", decimals: 0, ..bounds::INVERTER_EFFICIENCY };
    let inverter = (typed.text("in") == "watts").then(|| Inverter {
        efficiency: typed.number("efficiency", percent) / 100.0,
        idle: typed.number("idle", bounds::INVERTER_IDLE),
    });
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let low = typed.maybe("health_low", bounds::CAPACITY_PERCENT);
    let high = typed.maybe("health_high", bounds::CAPACITY_PERCENT);
    let health_range =
        (low.is_some() || high.is_some()).then(|| [low.unwrap_or(health), high.unwrap_or(health)]);
    let own = RuntimeAsked {
        load,
        inverter,
        temperature: typed.degrees("temperature"),
        health,
        health_range,
        charged: typed.number("charged", bounds::STATE_OF_CHARGE),
        depth: typed.number("depth", bounds::CYCLE_DEPTH),
        exponent: typed.maybe("exponent", bounds::PEUKERT),
        alarm: typed.maybe("alarm", bounds::VOLTAGE),
        empty: typed.maybe("empty", bounds::VOLTAGE),
        ..bare(subject, RuntimeLoad::Continuous { amount: 0.0 })
    };
    // 1.75 V a cell is what the hours of the rule end at: asked for by itself it is no other end.
    let usual = own
        .empty
        .is_some_and(|volts| (volts / f64::from(own.shape.cells_in_series()) - USUAL_END).abs() < 1e-6);
    RuntimeAsked { empty: own.empty.filter(|_| !usual), ..own }
}
