//! CH-1 to CH-3 and VE-1: setpoints at a temperature, charger settings, air for the hydrogen.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::charge::{
    ChargerSettings, ChargerTemperature, Effect, FLOAT_LEAST, Held, MOST_PER_CELL, SetpointError, Stage,
    charge_limits, setpoint, settings_audit,
};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::ventilation::{GassingBank, ventilation};
use rainshadow_core::wording;

fn at(celsius: f64) -> Temperature {
    Temperature::from_celsius(celsius).unwrap()
}

fn model(key: &str) -> BatteryModel {
    BatteryModel::generic_by_key(key).unwrap()
}

fn volts(key: &str, stage: Stage, cells: u16, celsius: f64) -> f64 {
    setpoint(&model(key), stage, cells, at(celsius), ChargerTemperature::default(), None).unwrap().volts
}

#[test]
fn setpoints_follow_the_temperature() {
    // CH-2, common practice, no source: 24 cells, 2.58 V, 10 °C gives 63.72 V
    assert!((volts("flooded-6v-420", Stage::Equalize, 24, 10.0) - 63.72).abs() < 1e-9);
    // CH-2, common practice, no source: a 24-cell bank is equalized near 61.8 V, a 6-cell bank near
    // 16.0 V against a normal ceiling of 14.7 V, at temperatures a battery room has
    let warm = volts("flooded-6v-420", Stage::Equalize, 24, 26.0);
    assert!((warm - 61.8).abs() < 0.2, "{warm}");
    let small = volts("flooded-6v-225", Stage::Equalize, 6, 8.0);
    assert!((small - 16.0).abs() < 0.05, "{small}");
    assert!((volts("flooded-6v-225", Stage::Absorption, 6, 25.0) - 14.7).abs() < 1e-9);
    // CH-2, common practice, no source: a float of 55.7 V on 24 cells is right only near 11 °C
    assert!((volts("flooded-6v-420", Stage::Float, 24, 11.0) - 55.7).abs() < 0.05);
}

#[test]
fn a_charger_that_compensates_is_typed_what_it_turns_into_the_same_volts() {
    let charger = ChargerTemperature { reference: 20.0, per_degree: -0.004 };
    let own = setpoint(&model("flooded-6v-420"), Stage::Absorption, 24, at(5.0), charger, None).unwrap();
    // it adds 0.004·15 V a cell by itself
    assert!((own.to_type + 0.06 * 24.0 - own.volts).abs() < 1e-9);
    let plain = ChargerTemperature { per_degree: 0.0, ..ChargerTemperature::default() };
    let own = setpoint(&model("flooded-6v-420"), Stage::Absorption, 24, at(5.0), plain, None).unwrap();
    assert!((own.to_type - own.volts).abs() < 1e-9);
    for (reference, per_degree) in [(25.0, 0.001), (25.0, -0.02), (60.0, -0.005), (25.0, f64::NAN)] {
        assert!(ChargerTemperature { reference, per_degree }.checked().is_err(), "{reference} {per_degree}");
    }
}

#[test]
fn what_stays_connected_and_the_cell_itself_hold_a_setpoint() {
    let flooded = model("flooded-6v-420");
    let charger = ChargerTemperature::default();
    let own = setpoint(&flooded, Stage::Equalize, 24, at(20.0), charger, Some(60.0)).unwrap();
    assert_eq!((own.held, own.volts), (Some(Held::Equipment), 60.0));
    let cold = setpoint(&flooded, Stage::Absorption, 24, at(-30.0), charger, None).unwrap();
    assert_eq!((cold.held, cold.per_cell), (Some(Held::MostPerCell), MOST_PER_CELL));
    let hot = setpoint(&flooded, Stage::Float, 24, at(49.0), charger, None).unwrap();
    assert_eq!((hot.held, hot.per_cell), (Some(Held::FloatLeast), FLOAT_LEAST));
    let said = wording::setpoint_line(&own, at(20.0), ReaderUnits::default());
    assert_eq!(
        said,
        "Equalize at 60.0 V: 2.50 V a cell at 20 °C. It is held down by what stays connected; more would harm that. Type 59.4 V into a charger that compensates by itself."
    );
}

#[test]
fn what_must_not_be_charged_is_refused_with_the_reason() {
    let flooded = model("flooded-6v-420");
    let ask = |key: &str, stage, celsius, limit| {
        setpoint(&model(key), stage, 24, at(celsius), ChargerTemperature::default(), limit).unwrap_err()
    };
    assert_eq!(ask("agm-12v-100", Stage::Equalize, 25.0, None), SetpointError::Locked);
    assert!(matches!(ask("flooded-6v-420", Stage::Float, 51.0, None), SetpointError::TooHot { .. }));
    let cold = ask("flooded-6v-420", Stage::Equalize, 4.0, None).to_string();
    assert_eq!(cold, "the electrolyte is at 4 °C; nothing is equalized below 5 °C");
    let low = ask("flooded-6v-420", Stage::Absorption, 25.0, Some(30.0)).to_string();
    assert!(low.contains("30.0 V") && low.contains("24 cells"), "{low}");
    // a sealed model that carries its maker's conditioning voltage is unlocked by it (EQ-1)
    let mut own = model("agm-12v-100");
    own.setpoints.equalize = Some(2.45);
    assert!(setpoint(&own, Stage::Equalize, 12, at(25.0), ChargerTemperature::default(), None).is_ok());
    assert!(setpoint(&flooded, Stage::Equalize, 24, at(5.0), ChargerTemperature::default(), None).is_ok());
}

fn settings(absorption: f64, float: f64, equalize: Option<f64>) -> ChargerSettings {
    ChargerSettings {
        absorption_hours: None,
        absorption: Some(absorption),
        float: Some(float),
        equalize,
        compensates: None,
        flooded_only: false,
    }
}

#[test]
fn settings_are_judged_per_cell_and_the_effect_is_named() {
    // CH-3: absorption and equalize under 0.03 V a cell fine, to 0.06 watch, above act; float 0.02, 0.04
    let flooded = model("flooded-6v-420");
    for (off, condition) in [
        (0.0, Severity::Steady),
        (0.029, Severity::Steady),
        (0.030, Severity::Watch),
        (0.060, Severity::Watch),
        (0.061, Severity::Act),
    ] {
        for sign in [-1.0, 1.0] {
            let set = settings((2.45 + sign * off) * 24.0, 54.0, None);
            let judged = settings_audit(&flooded, 24, at(25.0), &set).unwrap();
            assert_eq!(judged.stages[0].condition, condition, "{off} {sign}");
            let effect = if sign < 0.0 { Effect::Undercharge } else { Effect::Overcharge };
            let expected = (condition != Severity::Steady).then_some(effect);
            assert_eq!(judged.stages[0].effect, expected, "{off} {sign}");
        }
    }
    let float = settings_audit(&flooded, 24, at(25.0), &settings(58.8, (2.25 + 0.03) * 24.0, None)).unwrap();
    assert_eq!((float.stages[1].condition, float.condition), (Severity::Watch, Severity::Watch));
    assert_eq!(wording::audit_verdict(&float), "Look at the charger: float is off.");
}

#[test]
fn a_setting_that_is_right_in_summer_is_short_in_winter_unless_the_charger_compensates() {
    let flooded = model("flooded-6v-420");
    let set = settings(58.8, 54.0, None);
    assert_eq!(settings_audit(&flooded, 24, at(25.0), &set).unwrap().condition, Severity::Steady);
    let winter = settings_audit(&flooded, 24, at(0.0), &set).unwrap();
    assert_eq!((winter.condition, winter.stages[0].effect), (Severity::Act, Some(Effect::Undercharge)));
    let said = wording::audited_stage(&winter.stages[0]);
    assert!(said.contains("never quite full") && said.ends_with("Type 61.8 V."), "{said}");
    let compensated = ChargerSettings { compensates: Some(ChargerTemperature::default()), ..set };
    assert_eq!(settings_audit(&flooded, 24, at(0.0), &compensated).unwrap().condition, Severity::Steady);
}

#[test]
fn sealed_batteries_are_kept_from_equalizes_and_flooded_chargers() {
    let agm = model("agm-12v-100");
    let on = settings_audit(&agm, 12, at(25.0), &settings(28.8, 27.24, Some(31.0))).unwrap();
    assert_eq!((on.condition, on.stages[2].effect), (Severity::Act, Some(Effect::EqualizeOnSealed)));
    assert_eq!(on.stages[0].condition, Severity::Steady);
    let flooded_only = ChargerSettings { flooded_only: true, ..settings(28.8, 27.24, None) };
    let judged = settings_audit(&agm, 12, at(25.0), &flooded_only).unwrap();
    assert_eq!((judged.condition, judged.charger), (Severity::Act, Some(Effect::FloodedCharger)));
    assert!(wording::audit_verdict(&judged).contains("dries sealed ones out"));
}

#[test]
fn a_setting_of_another_bank_is_refused_with_the_bank_it_suits() {
    let flooded = model("flooded-6v-420");
    let refused = |cells, absorption| {
        let set = ChargerSettings { absorption: Some(absorption), float: None, ..settings(0.0, 0.0, None) };
        settings_audit(&flooded, cells, at(25.0), &set).unwrap_err().to_string()
    };
    assert_eq!(
        refused(24, 14.7),
        "14.7 V of absorption is 0.61 V a cell with 24 cells in series; accepted is 45.6 to 69.6 V. It suits a bank of 12 V"
    );
    assert!(refused(6, 58.8).ends_with("It suits a bank of 48 V"));
    assert!(refused(24, 900.0).ends_with("accepted is 45.6 to 69.6 V"));
    let none = ChargerSettings { absorption: None, float: None, ..settings(0.0, 0.0, None) };
    assert!(settings_audit(&flooded, 24, at(25.0), &none).unwrap_err().to_string().contains("no setting"));
}

fn gassing(construction: Construction, stage: Stage, current: Option<f64>) -> GassingBank {
    GassingBank { construction, cells: 24, capacity: 840.0, stage, current, enclosure: None }
}

#[test]
fn the_air_of_a_bank_follows_the_standard() {
    // VE-1, common practice, no source: 24 cells, 840 Ah, boost 20 mA/Ah: 20.16 m³/h, 564 cm²
    let boost = ventilation(&gassing(Construction::Flooded, Stage::Equalize, None)).unwrap();
    assert!((boost.airflow - 20.16).abs() < 1e-9 && (boost.opening - 564.48).abs() < 1e-9);
    assert!((boost.distance - 28.8 * 20.0_f64.cbrt() * 840.0_f64.cbrt()).abs() < 1e-9);
    // vented float 5, VRLA float 1, VRLA boost 8 mA/Ah (EN/IEC 62485-2, from memory)
    for (construction, stage, share) in [
        (Construction::FloodedTubular, Stage::Float, 5.0 / 20.0),
        (Construction::Agm, Stage::Float, 1.0 / 20.0),
        (Construction::Gel, Stage::Absorption, 8.0 / 20.0),
    ] {
        let own = ventilation(&gassing(construction, stage, None)).unwrap();
        assert!((own.airflow - 20.16 * share).abs() < 1e-9, "{construction:?} {stage:?}");
    }
}

#[test]
fn a_current_above_the_planned_one_asks_for_more_air() {
    let small = ventilation(&gassing(Construction::Flooded, Stage::Equalize, Some(10.0))).unwrap();
    assert!(!small.by_current && (small.airflow - 20.16).abs() < 1e-9, "16.8 A are planned with");
    let large = ventilation(&gassing(Construction::Flooded, Stage::Equalize, Some(33.6))).unwrap();
    assert!(large.by_current && (large.airflow - 0.05 * 24.0 * 33.6).abs() < 1e-9);
    let in_box =
        GassingBank { enclosure: Some(2.0), ..gassing(Construction::Flooded, Stage::Equalize, Some(33.6)) };
    let minutes = ventilation(&in_box).unwrap().minutes_to_alarm.unwrap();
    // WA-1: 0.456 L of hydrogen per Ah and cell at 25 °C; 20 L are 1 % of 2 m³
    assert!((minutes - 20.0 / (24.0 * 33.6 * 0.4564) * 60.0).abs() < 0.02, "{minutes}");
    assert!(
        wording::ventilation_line(&large, ReaderUnits::default())
            .starts_with("Air, by the actual current: 40.3 m³ an hour, or openings of")
    );
    for (capacity, current) in [(0.0, None), (f64::NAN, None), (840.0, Some(-1.0))] {
        let own = GassingBank { capacity, current, ..gassing(Construction::Flooded, Stage::Float, None) };
        assert!(ventilation(&own).is_err(), "{capacity} {current:?}");
    }
}

proptest! {
    #[test]
    fn a_setpoint_keeps_its_bounds_and_falls_with_heat(
        cells in 1u16..=60, celsius in -30.0..50.0f64, warmer in 0.0..20.0f64, stage in prop::sample::select(vec![Stage::Absorption, Stage::Float]),
        limit in prop::option::of(100.0..200.0f64),
    ) {
        let flooded = model("flooded-6v-420");
        let charger = ChargerTemperature::default();
        let own = setpoint(&flooded, stage, cells, at(celsius), charger, limit);
        prop_assume!(own.is_ok());
        let own = own.unwrap();
        prop_assert!(own.per_cell <= MOST_PER_CELL + 1e-9);
        prop_assert!(limit.is_none_or(|l| own.volts <= l + 1e-9));
        prop_assert!(stage != Stage::Float || own.per_cell >= FLOAT_LEAST - 1e-9);
        if let Ok(hot) = setpoint(&flooded, stage, cells, at((celsius + warmer).min(50.0)), charger, limit) {
            prop_assert!(hot.volts <= own.volts + 1e-9);
        }
        // a charger that compensates gets there from what is typed
        prop_assert!((own.to_type + charger.adds(at(celsius)) * f64::from(cells) - own.volts).abs() < 1e-6);
    }

    #[test]
    fn what_the_audit_says_to_type_is_fine_when_it_is_typed(
        cells in prop::sample::select(vec![6u16, 12, 24]), celsius in 6.0..49.0f64, off in -0.2..0.2f64, compensates in any::<bool>(),
    ) {
        let flooded = model("flooded-6v-420");
        let set = ChargerSettings {
            absorption: Some((2.45 + off) * f64::from(cells)),
            compensates: compensates.then(ChargerTemperature::default),
            ..ChargerSettings::default()
        };
        let judged = settings_audit(&flooded, cells, at(celsius), &set).unwrap();
        let again = ChargerSettings { absorption: judged.stages[0].to_type, ..set };
        prop_assert_eq!(settings_audit(&flooded, cells, at(celsius), &again).unwrap().condition, Severity::Steady);
    }

    #[test]
    fn air_grows_with_current_and_cells(cells in 1u16..200, amps in 0.0..500.0f64, more in 0.0..100.0f64) {
        let own = |cells, current| {
            let bank = GassingBank { cells, ..gassing(Construction::Flooded, Stage::Equalize, Some(current)) };
            ventilation(&bank).unwrap().airflow
        };
        prop_assert!(own(cells, amps + more) >= own(cells, amps) - 1e-9);
        prop_assert!(own(cells + 1, amps) > own(cells, amps));
    }
}

/// Volts a cell of CH-1 at 25 °C (common practice, no source) times the cells; −5 mV a cell and degree from there.
#[test]
fn the_limits_of_charge_are_those_of_the_type() {
    let shape = crate::common::shape(6, 2, 2);
    let of = |key: &str| charge_limits(&BatteryModel::generic_by_key(key).unwrap(), &shape);
    let agm = of("agm-12v-100");
    let [cold, middle, hot] = agm.stages[0].volts.map(Option::unwrap);
    assert!((middle - 12.0 * 2.40).abs() < 1e-9);
    assert!((cold - 12.0 * (2.40 + 0.100)).abs() < 1e-9 && (hot - 12.0 * (2.40 - 0.075)).abs() < 1e-9);
    assert!(agm.stages[2].locked && agm.stages[2].volts == [None; 3], "no equalize of a sealed bank");
    // Up to 30 % of two strings of 100 Ah.
    assert!((agm.amperes[1] - 60.0).abs() < 1e-9);
    let gel = of("gel-12v-100");
    assert!(gel.stages[0].volts[1] < agm.stages[0].volts[1] && gel.amperes[1] < agm.amperes[1]);
    let flooded = of("flooded-12v-105");
    assert!(!flooded.stages[2].locked);
    let lines = wording::charge_limit_lines(&agm, ReaderUnits::default());
    assert_eq!(lines[0].1, "30.0 V at 5 °C, 28.8 V at 25 °C, 27.9 V at 40 °C");
    assert!(lines[2].1.contains("locked"), "{lines:?}");
    assert!(lines[4].1.contains("50 °C"), "{lines:?}");
    let said = |construction| wording::never(construction).join(" ");
    assert!(
        said(Construction::Gel).contains("Opened or filled")
            && !said(Construction::Flooded).contains("Opened")
    );
}
