//! CH-5, the sun: position, clear sky and the harvest of an array.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use jiff::civil::{Date, date};
use proptest::prelude::*;
use rainshadow_core::solar::{
    SolarArray, SolarSky, clear_days, clear_sky, diffuse_share, extraterrestrial, month_harvest, on_plane,
    sun_at, sunset_angle,
};
use std::path::Path;

/// Clear-sky irradiation of a day, kWh/m², level and on a plane, by quarters of an hour.
fn clear_day(latitude: f64, altitude: f64, day: Date, plane: (f64, f64)) -> [f64; 2] {
    let mut all = [0.0; 2];
    for step in 0..288 {
        let sun = sun_at(latitude, day, (f64::from(step) + 0.5) / 12.0);
        let sky = clear_sky(sun, day, altitude);
        all[0] += sky.horizontal / 12_000.0;
        all[1] += on_plane(sky, sun, day, plane) / 12_000.0;
    }
    all
}

/// Published table made with pvlib (Ineichen, Linke turbidity 3.0, Hay-Davies): the ratio to June within 0.05, and the figures
/// themselves within 3 %.
#[test]
fn a_clear_day_gives_what_the_reference_library_says() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/published/clear_sky.csv");
    let mut reader = csv::ReaderBuilder::new().comment(Some(b'#')).from_path(path).unwrap();
    let rows: Vec<(Date, [f64; 2])> = reader
        .records()
        .map(|own| own.unwrap())
        .map(|own| (own[0].parse().unwrap(), [own[1].parse().unwrap(), own[2].parse().unwrap()]))
        .collect();
    assert_eq!(rows.len(), 12);
    let june = rows.iter().find(|(day, _)| day.month() == 6).unwrap();
    let own_june = clear_day(47.0, 400.0, june.0, (30.0, 180.0));
    for (day, wanted) in &rows {
        let own = clear_day(47.0, 400.0, *day, (30.0, 180.0));
        for at in 0..2 {
            let ratio = own[at] / own_june[at] - wanted[at] / june.1[at];
            assert!(ratio.abs() < 0.05, "{day} {at}: {ratio}");
            assert!((own[at] / wanted[at] - 1.0).abs() < 0.03, "{day} {at}: {} {}", own[at], wanted[at]);
        }
    }
}

/// Geometry: at noon of a solstice and an equinox the sun stands at 90° less the latitude, plus or less 23.44°.
#[test]
fn the_sun_stands_where_geometry_says() {
    let noon = |latitude: f64, day: Date| {
        let highest = (0..96).map(|n| sun_at(latitude, day, 11.0 + f64::from(n) / 48.0).zenith);
        highest.fold(180.0, f64::min)
    };
    for (day, declination) in
        [(date(2026, 6, 21), 23.44), (date(2026, 12, 21), -23.44), (date(2026, 3, 20), 0.0)]
    {
        for latitude in [-35.0f64, 0.0, 47.0, 60.0] {
            let wanted = (latitude - declination).abs();
            assert!((noon(latitude, day) - wanted).abs() < 0.35, "{day} {latitude}");
        }
    }
    // In the morning it stands in the east, in the afternoon in the west.
    let day = date(2026, 4, 1);
    assert!((sun_at(47.0, day, 7.0).azimuth - 90.0).abs() < 15.0);
    assert!((sun_at(47.0, day, 17.0).azimuth - 270.0).abs() < 15.0);
    // Nearest in January, 3.3 % more than the mean (Spencer, from memory).
    assert!((extraterrestrial(date(2026, 1, 3)) / extraterrestrial(date(2026, 7, 4)) - 1.068).abs() < 0.003);
}

/// By hand from the published relation: 1.391 − 3.560·0.5 + 4.189·0.25 − 2.137·0.125 in winter.
#[test]
fn the_whole_sky_gives_the_share_that_the_published_relation_says() {
    assert!((diffuse_share(70.0, 0.5) - 0.391_125).abs() < 1e-9);
    assert!((diffuse_share(100.0, 0.5) - 0.429_125).abs() < 1e-9);
    assert!((sunset_angle(0.0, date(2026, 7, 1)) - 90.0).abs() < 1e-9);
    assert!(
        (sunset_angle(80.0, date(2026, 12, 21))).abs() < 1e-9
            && sunset_angle(80.0, date(2026, 6, 21)) > 179.0
    );
}

fn sky(clearness: f64) -> SolarSky {
    SolarSky { latitude: 47.0, altitude: 400.0, clearness: [clearness; 12], snow: [1.0; 12] }
}

fn array(tilt: f64) -> SolarArray {
    SolarArray { watts: 1000.0, tilt, azimuth: 180.0, left: 0.75 }
}

/// A dull December at 47° N on a plane of 60°: clearness times a tilted clear sky would say nearly twice what the light of a
/// dull sky gives.
#[test]
fn a_dull_winter_gives_half_of_what_clearness_times_a_tilted_clear_sky_would() {
    let day = date(2026, 12, 15);
    let [clear_level, clear_tilted] = clear_day(47.0, 400.0, day, (60.0, 180.0));
    let clearness = 0.45;
    let own = month_harvest(&array(60.0), &sky(clearness), day);
    assert!((own.horizontal / (clearness * clear_level) - 1.0).abs() < 0.01);
    let naive = clearness * clear_tilted;
    assert!(naive / own.on_array > 1.6, "{naive} against {}", own.on_array);
    // A clear month keeps nearly all of it.
    let bright = month_harvest(&array(60.0), &sky(1.0), day);
    assert!((bright.on_array / clear_tilted - 1.0).abs() < 0.12, "{} {clear_tilted}", bright.on_array);
    assert!((own.watt_hours / (own.on_array * 1000.0 * 0.75) - 1.0).abs() < 1e-9);
    // Losses and snow by the share they leave.
    let snowed = SolarSky { snow: [0.2; 12], ..sky(clearness) };
    let under = month_harvest(&array(60.0), &snowed, day);
    assert!((under.watt_hours / own.watt_hours - 0.2).abs() < 1e-9);
}

#[test]
fn south_of_the_equator_the_array_looks_north_and_summer_is_in_january() {
    let south = SolarSky { latitude: -47.0, ..sky(0.6) };
    let north_facing = SolarArray { azimuth: 0.0, ..array(30.0) };
    let at = |array: &SolarArray, month: i8| month_harvest(array, &south, date(2026, month, 15)).watt_hours;
    assert!(at(&north_facing, 7) > 1.3 * at(&array(30.0), 7));
    assert!(at(&north_facing, 1) > 1.5 * at(&north_facing, 7));
}

#[test]
fn days_of_a_month_scatter_about_their_mean_and_come_out_the_same_twice() {
    for clearness in [0.2, 0.45, 0.6, 0.9] {
        let days = clear_days(clearness, 31, 3);
        let mean = days.iter().sum::<f64>() / 31.0;
        assert!((mean - 1.0).abs() < 1e-12);
        assert!(days.iter().all(|own| *own >= 0.0 && own * clearness < 1.3));
        assert_eq!(days, clear_days(clearness, 31, 3));
        assert_ne!(days, clear_days(clearness, 31, 4));
    }
    // Standard deviation 0.30 of clear (our choice): a month at half clear.
    let days = clear_days(0.5, 3000, 1);
    let spread = (days.iter().map(|own| (own - 1.0).powi(2)).sum::<f64>() / 3000.0).sqrt() * 0.5;
    assert!((spread - 0.30).abs() < 0.01, "{spread}");
}

#[test]
fn what_cannot_be_is_refused_with_its_field() {
    let e = SolarSky { latitude: 95.0, ..sky(0.5) }.check().unwrap_err();
    assert_eq!(e.field(), "latitude");
    assert!(e.to_string().contains("-90 to 90"), "{e}");
    let mut clearness = [0.5; 12];
    clearness[3] = 4.0;
    let e = SolarSky { clearness, ..sky(0.5) }.check().unwrap_err();
    assert!(e.field() == "clearness" && e.to_string().starts_with("April: clearness 4"), "{e}");
    assert_eq!(SolarArray { watts: -5.0, ..array(30.0) }.check().unwrap_err().field(), "watts");
    assert_eq!(SolarArray { tilt: 120.0, ..array(30.0) }.check().unwrap_err().field(), "tilt");
}

proptest! {
    /// More watts never harvest less, nor does more clearness on an array that looks to the equator; nothing is negative or
    /// unending. (One that looks away lives on the diffuse light of dull days.)
    #[test]
    fn harvest_rises_with_what_gives_it(
        latitude in -65.0..65.0f64, clearness in 0.1..0.9f64, more in 0.0..0.1f64, tilt in 0.0..60.0f64,
        aside in -60.0..60.0f64, month in 1..=12i8,
    ) {
        let azimuth = if latitude < 0.0 { (360.0 + aside) % 360.0 } else { 180.0 + aside };
        let day = date(2026, month, 15);
        let at = |clearness: f64, watts: f64| {
            let sky = SolarSky { latitude, ..sky(clearness) };
            month_harvest(&SolarArray { watts, tilt, azimuth, left: 0.75 }, &sky, day).watt_hours
        };
        let now = at(clearness, 500.0);
        prop_assert!(now.is_finite() && now >= 0.0);
        prop_assert!(at(clearness, 600.0) >= now);
        prop_assert!(at(clearness + more, 500.0) >= now * 0.98 - 1e-9, "{} {}", at(clearness + more, 500.0), now);
    }
}
