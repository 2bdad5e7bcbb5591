//! WA-2: twelve monthly means of a site, typed, invented, and what a forecast makes of them.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::quantity::{Temperature, typed};
use rainshadow_core::water::{
    INVENTED_CLIMATES, Interval, InventedClimate, MONTHS, MonthlyMeans, RecordLows, WaterHistory, forecast,
};
use rainshadow_core::wording::{climate_line, forecast_temperatures, record_lows_line};

/// A mild place, made up.
const MILD: [f64; 12] = [2.0, 3.0, 7.0, 11.0, 16.0, 20.0, 22.0, 21.0, 17.0, 12.0, 6.0, 3.0];

fn fahrenheit() -> ReaderUnits {
    ReaderUnits { temperature: TemperatureUnit::Fahrenheit, ..ReaderUnits::default() }
}

#[test]
fn a_month_that_no_place_has_is_refused_by_name_and_degrees_fahrenheit_are_asked_about() {
    let mut means = MILD;
    means[6] = 77.0;
    assert_eq!(
        MonthlyMeans::try_from(means).unwrap_err().to_string(),
        "July: mean temperature 77 is not possible here; accepted is -40 to 50 °C. Is it 77 °F, which is 25 °C?"
    );
    means[6] = f64::NAN;
    assert!(MonthlyMeans::try_from(means).is_err());
    // no unit makes it possible: nothing is asked
    means[6] = -60.0;
    assert!(!MonthlyMeans::try_from(means).unwrap_err().to_string().contains("°F"));
    // as JSON by the same constructor
    assert!(serde_json::from_str::<MonthlyMeans>("[1,2,3,4,5,6,7,8,9,10,11,99]").is_err());
    assert!(serde_json::from_str::<MonthlyMeans>("[1,2,3]").is_err());
}

#[test]
fn a_mean_is_typed_in_either_unit_within_one_range() {
    let celsius = |text, unit| typed::mean_temperature(text, unit).map(Temperature::celsius);
    assert!((celsius("77", TemperatureUnit::Fahrenheit).unwrap() - 25.0).abs() < 1e-9);
    assert!((celsius("122", TemperatureUnit::Fahrenheit).unwrap() - 50.0).abs() < 1e-9);
    let said = celsius("123", TemperatureUnit::Fahrenheit).unwrap_err().to_string();
    assert!(said.ends_with("accepted is -40 to 122 °F"), "{said}");
    let said = celsius("77", TemperatureUnit::Celsius).unwrap_err().to_string();
    assert!(said.contains("77 °F") && said.contains("25 °C"), "{said}");
    // electrolyte may be as warm as that
    assert!(typed::temperature("77", TemperatureUnit::Celsius).is_ok());
}

#[test]
fn the_year_turns_round_south_of_the_equator() {
    assert_eq!(INVENTED_CLIMATES.len(), 7);
    for own in &INVENTED_CLIMATES {
        let (north, south) = (own.means(false), own.means(true));
        let warmest = |means: &MonthlyMeans| {
            (0..12).max_by(|a, b| means.celsius()[*a].total_cmp(&means.celsius()[*b])).unwrap()
        };
        assert_eq!((MONTHS[warmest(&north)], MONTHS[warmest(&south)]), ("July", "January"), "{}", own.key);
        assert!((north.of_year() - own.mean).abs() < 0.05 && (south.of_year() - own.mean).abs() < 0.05);
    }
    assert!(InventedClimate::by_key("moon").is_none());
}

#[test]
fn a_forecast_says_which_temperatures_it_was_made_with() {
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let fills =
        |celsius: f64| vec![Interval { days: 90.0, millilitres: 90.0, temperature: Some(celsius) }; 3];
    let history = |bank| WaterHistory {
        bank,
        days_since_fill: Some(0.0),
        cell_count: 48,
        today: Some(date(2026, 10, 8)),
        ..WaterHistory::default()
    };
    let metric = ReaderUnits::default();
    let wave = forecast(&history(fills(18.0)), &model).unwrap();
    assert_eq!(
        forecast_temperatures(&wave, metric),
        "Reckoned with the seasons that its own temperatures show, about 18 °C; a climate of the site tells them better."
    );
    let flat = forecast(&history(Vec::new()), &model).unwrap();
    assert!(forecast_temperatures(&flat, metric).starts_with("Reckoned at 25 °C all year"));
    let climate = MonthlyMeans::try_from(MILD).ok();
    let known = forecast(&WaterHistory { climate, ..history(fills(18.0)) }, &model).unwrap();
    // three fills over nine months to 8 October lie 4.6 °C over the air, of which n/(n + 1) count
    assert_eq!(
        forecast_temperatures(&known, metric),
        "Reckoned with the climate of the site, 12 °C over the year; the cells were read 3 °C warmer."
    );
    assert_eq!(
        forecast_temperatures(&known, fahrenheit()),
        "Reckoned with the climate of the site, 53 °F over the year; the cells were read 6 °F warmer."
    );
    assert_eq!(
        climate_line(&climate.unwrap(), metric),
        "11.7 °C over the year; coldest January at 2 °C, warmest July at 22 °C."
    );
}

#[test]
fn the_lowest_on_record_lies_under_the_mean_of_its_month_and_within_the_table() {
    let means = MonthlyMeans::try_from(MILD).unwrap();
    let lows = RecordLows::under(&means, 18.0);
    assert_eq!(lows.celsius()[..2], [-16.0, -15.0]);
    assert!(lows.beside(&means).is_ok());
    let mut above = lows.celsius();
    above[3] = 12.0;
    let said = RecordLows::try_from(above).unwrap().beside(&means).unwrap_err();
    assert_eq!((said.month, said.to_string().contains("April: record low 12")), (3, true), "{said}");
    above[3] = -75.0;
    assert!(RecordLows::try_from(above).unwrap_err().to_string().contains("-60 to 40"));
    // a cold place seen from a mean of -40: no lower than the table goes
    let cold = MonthlyMeans::try_from([-40.0; 12]).unwrap();
    assert!(RecordLows::under(&cold, 24.0).celsius().iter().all(|low| (low + 60.0).abs() < 1e-9));
    for own in &INVENTED_CLIMATES {
        assert!(own.lows(true).beside(&own.means(true)).is_ok(), "{}", own.key);
    }
    assert_eq!(
        record_lows_line(&lows, ReaderUnits::default()),
        "Lowest on record \u{2212}16 \u{b0}C, in January."
    );
    assert!(record_lows_line(&lows, fahrenheit()).contains("3 \u{b0}F"));
}

proptest! {
    #[test]
    fn a_day_lies_between_the_months_beside_it_and_the_year_has_no_seam(
        means in prop::array::uniform12(-40.0..50.0f64), day in 0.0..366.0f64,
    ) {
        let own = MonthlyMeans::try_from(means).unwrap();
        let (low, high) = means.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), m| (l.min(*m), h.max(*m)));
        prop_assert!((low - 1e-9..=high + 1e-9).contains(&own.on_day(day)));
        prop_assert!((own.on_day(day) - own.on_day(day + 365.25)).abs() < 1e-6);
        // a day on costs no more than a month's step spread over the month
        prop_assert!((own.on_day(day + 0.01) - own.on_day(day)).abs() < (high - low) * 0.01 / 30.0 + 1e-9);
        let json = serde_json::to_string(&own).unwrap();
        prop_assert_eq!(serde_json::from_str::<MonthlyMeans>(&json).unwrap(), own);
    }
}
