//! Calculators and topics of tests: what they answer, and what they refuse by its field.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use rainshadow::cli::calc::{CalcArgs, run};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn calc(topic: &str, input: &Value) -> Result<Value, String> {
    let args = CalcArgs { topic: Some(topic.to_owned()), list: false, schema: false };
    let mut out = Vec::new();
    run(&args, input.to_string().as_bytes(), &mut out).map_err(|e| e.to_string())?;
    Ok(serde_json::from_slice(&out).unwrap())
}

/// Source: Peukert\u{2019}s equation in its closed form.
#[test]
fn peukert_by_exponent_and_by_two_discharges() {
    let own = calc("peukert", &json!({"c20": 100.0, "amperes": 25.0, "exponent": 1.2})).unwrap();
    assert!((own["hours"].as_f64().unwrap() - 2.8991).abs() < 5e-5, "{own}");
    assert_eq!(own["said"], "100 Ah last 2 h 54 min at 25.0 A: 72.5 Ah come out.");
    let two = json!({"c20": 100.0, "amperes": 17.0, "discharges": [[5.0, 20.0], [17.0, 5.0]]});
    assert!((calc("peukert", &two).unwrap()["exponent"].as_f64().unwrap() - 1.1328).abs() < 5e-5);
    let none = calc("peukert", &json!({"c20": 100.0, "amperes": 0.0})).unwrap_err();
    assert!(none.starts_with("amperes:") && none.contains("accepted is 0.1 to 5000.0 A"), "{none}");
    let same = json!({"c20": 100.0, "amperes": 5.0, "discharges": [[5.0, 20.0], [5.0, 20.0]]});
    assert!(calc("peukert", &same).unwrap_err().contains("needs two rates"));
}

#[test]
fn a_timed_discharge_is_told_with_its_range_and_no_better_than_its_evidence() {
    let asked = |hours: f64, temperature: Value, reached_end: bool, duty: &str| {
        calc(
            "capacity-test",
            &json!({
                "drawn": {"kind": "constant", "amperes": 21.0, "hours": hours},
                "temperature": temperature, "reached_end": reached_end, "duty": duty, "model_key": "flooded-6v-420",
            }),
        )
        .unwrap()
    };
    let whole = asked(20.0, json!(25.0), true, "standby");
    assert_eq!((whole["percent"].as_f64().unwrap().round(), &whole["condition"]), (100.0, &json!("steady")));
    let short = asked(15.0, json!(25.0), true, "standby");
    assert_eq!(short["condition"], "act");
    assert!(
        short["said"].as_str().unwrap().contains("Plan its replacement: standby ends at 80 %."),
        "{short}"
    );
    assert_eq!(asked(15.0, json!(25.0), true, "cycled")["condition"], "watch");
    let stopped = asked(10.0, json!(25.0), false, "standby");
    assert!(stopped["said"].as_str().unwrap().starts_with("At least 50 %"), "{stopped}");
    assert_eq!(stopped["condition"], "no_reading");
    let unknown = asked(20.0, json!(null), true, "standby");
    assert_eq!((&unknown["percent"], &unknown["not_told"]), (&json!(null), &json!("temperature_unknown")));
    let back = json!({"drawn": {"kind": "changing", "readings": [[0.0, 20.0], [2.0, 20.0], [1.0, 20.0]]}, "reached_end": true});
    let said = calc("capacity-test", &back).unwrap_err();
    assert!(said.starts_with("drawn:") && said.contains("reading 3 comes before the one above it"), "{said}");
}

#[test]
fn both_load_tests_are_one_topic() {
    let short = json!({
        "kind": "short", "cells": 6, "load": {"kind": "half_cranking", "rating": 600.0}, "seconds": 15.0,
        "temperature": 21.0, "charged": 100.0,
        "batteries": [{"battery": "A1", "before": 12.7, "at_end": 10.4}, {"battery": "A2", "before": 12.7, "at_end": 9.1, "after": 12.2}],
    });
    let own = calc("load-test", &short).unwrap();
    assert_eq!(own["said"], "A2 falls too far under the load: charge, test again, then replace.");
    assert_eq!(own["amperes"], 300.0);
    assert_eq!(
        own["lines"][1],
        "A2: 9.10 V on 12 V, 0.50 V under the 9.60 V it should hold, 1.30 V under its mates, 3.10 V back within 30 s."
    );
    let real = json!({
        "kind": "real", "cells": 6, "c20": 75.0, "before": 12.66, "at_five_minutes": 12.2, "amperes": 10.0,
        "loads": [{"name": "pump", "amperes": 10.0, "plate": 5.0}], "inverter_limit": 11.0,
    });
    let own = calc("load-test", &real).unwrap();
    assert!(own["said"].as_str().unwrap().starts_with("It holds as a sound bank does"), "{own}");
    let lines = own["lines"].to_string();
    assert!(
        lines.contains(
            "Pump draws 10.0 A and its plate says 5.0 A: it is worn or blocked. That is no fault of the bank."
        ),
        "{lines}"
    );
    assert!(lines.contains("91 % of the inverter\u{2019}s limit: nothing more beside it."), "{lines}");
    let mut odd = real;
    odd["at_five_minutes"] = json!(13.0);
    assert!(calc("load-test", &odd).unwrap_err().contains("a load never raises volts"));
}

async fn ask(shop: &Shop, path: &str, body: &Value) -> (StatusCode, Value) {
    shop.send(Method::POST, path, body).await
}

#[tokio::test]
async fn the_calculators_answer_as_typed_and_name_every_field_that_does_not_fit() {
    let shop = Shop::open().await;
    let discharge = |strings: &str, hours: &str, typed: &str| {
        json!({
            "model": "flooded-6v-420", "strings": strings, "amperes": "42", "hours": hours,
            "temperature": {"typed": typed, "unit": "F"}, "reached_end": true, "duty": "cycled",
        })
    };
    let (status, said) = ask(&shop, "/api/bench/capacity-test", &discharge("2", "20:00", "77")).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert!(said["said"].as_str().unwrap().starts_with("100 % of its rated capacity"), "{said}");
    assert_eq!(said["breakdown"][0]["value"], "840.0 Ah");
    let (status, said) = ask(&shop, "/api/bench/capacity-test", &discharge("1.5", "20:75", "cold")).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let fields: Vec<&str> =
        said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
    assert_eq!(fields, ["strings", "hours", "temperature"]);
    assert!(said.to_string().contains("typed 5:12 or 5.2"), "{said}");
    let load = |rating: &str, at_end: &str| {
        json!({
            "model": "agm-12v-100", "load": "half_cranking", "rating": rating, "seconds": "15",
            "temperature": {"typed": "21", "unit": "C"}, "charged": "90",
            "batteries": [{"before": "12.7", "at_end": at_end, "after": ""}, {"before": "", "at_end": ""}],
        })
    };
    let (status, said) = ask(&shop, "/api/bench/short-load", &load("600", "9.2")).await;
    assert_eq!((status, &said["set"]), (StatusCode::OK, &json!("300 A")), "{said}");
    assert_eq!(said["lines"][0]["condition"], "act");
    for (rating, at_end, field) in
        [("", "9.2", "rating"), ("600", "13", "batteries[0].at_end"), ("600", "x", "batteries[0].at_end")]
    {
        let (status, said) = ask(&shop, "/api/bench/short-load", &load(rating, at_end)).await;
        assert_eq!(
            (status, &said["errors"][0]["field"]),
            (StatusCode::UNPROCESSABLE_ENTITY, &json!(field)),
            "{said}"
        );
    }
}

#[test]
fn resistances_in_any_unit_are_held_against_first_values_and_mates() {
    let batteries = |shown: [f64; 4]| -> Vec<Value> {
        let names = ["A1", "A2", "B1", "B2"].into_iter().zip(shown);
        names.map(|(battery, shown)| json!({"battery": battery, "shown": shown})).collect()
    };
    let own = calc("ohmic", &json!({"batteries": batteries([4.0, 4.1, 4.0, 5.3])})).unwrap();
    assert_eq!(own["lines"][3], "B2: 5.30 mΩ, +31 %: investigate.");
    // 30 % less conductance is 43 % more resistance
    let siemens = json!({"unit": "siemens", "batteries": batteries([250.0, 250.0, 250.0, 175.0])});
    assert_eq!(calc("ohmic", &siemens).unwrap()["lines"][3], "B2: 5.71 mΩ, +43 %: investigate.");
    let none = calc("ohmic", &json!({"batteries": batteries([4.0, 0.0, 4.0, 4.0])})).unwrap_err();
    assert!(none.starts_with("batteries[1].shown:"), "{none}");
}

#[test]
fn holding_joints_and_shares_are_told_in_one_sentence_each() {
    let held = json!({"volts": 12.55, "hours": 100.0, "model_key": "agm-12v-100", "first": {"volts": 12.80, "days": 4.0}});
    let own = calc("holding", &held).unwrap();
    assert_eq!(own["holds"], "fails");
    assert!(
        own["said"]
            .as_str()
            .unwrap()
            .starts_with("It does not hold its charge: -0.25 V on 12 V against full."),
        "{own}"
    );
    let early = json!({"volts": 12.7, "hours": 3.0, "model_key": "agm-12v-100"});
    assert!(calc("holding", &early).unwrap_err().contains("24 h and more"));
    let joint = |name: &str, drop: f64| json!({"joint": name, "millivolts": drop});
    let round = json!({"amperes": 60.0, "joints": [joint("A1+", 7.0), joint("A2+", 7.2), joint("B1+", 16.5), joint("B2+", 6.9)]});
    assert_eq!(
        calc("joints", &round).unwrap()["said"],
        "Remake B1+: clean, dry, to torque, then measure again."
    );
    let string = json!({"milliohms": 8.1});
    let link = json!({"section": {"square_millimetres": 25.0}, "metres": 0.9});
    let bank = json!({"strings": [string, string], "positive": [link], "negative": [link],
        "take_off": {"at": "rails", "positive": 1, "negative": 1}, "amperes": 60.0});
    let own = calc("parallel-share", &bank).unwrap();
    assert_eq!(own["cheapest"], "move_negative", "{own}");
    let mut odd = bank;
    odd["positive"] = json!([]);
    assert!(calc("parallel-share", &odd).unwrap_err().contains("need 1 links on the positive rail"));
}

#[tokio::test(flavor = "multi_thread")]
async fn parallel_strings_are_typed_by_section_or_gauge_and_refused_by_their_field() {
    let shop = Shop::open().await;
    let asked = |section: &str, unit: &str, negative: &str| {
        json!({"strings": [{"milliohms": "8.1"}, {"milliohms": "8.1"}, {"milliohms": ""}], "section": section,
            "section_unit": unit, "metres": "0.9", "positive": "1", "negative": negative, "amperes": "60"})
    };
    let post = async |body: Value| shop.send(Method::POST, "/api/bench/parallel-share", &body).await;
    let (status, own) = post(asked("25", "square_millimetres", "1")).await;
    assert_eq!(status, StatusCode::OK, "{own}");
    assert!(
        own["said"].as_str().unwrap().contains("take the minus from the other end; then A 50 %, B 50 %"),
        "{own}"
    );
    assert_eq!(own["lines"].as_array().unwrap().iter().filter(|l| l["cheapest"] == true).count(), 1);
    // 4/0 is thick enough as it is
    let (_, thick) = post(asked("4/0", "awg", "1")).await;
    assert_eq!(thick["lines"][0]["even"], true, "{thick}");
    for (section, unit, negative, field) in [
        ("0", "square_millimetres", "1", "section"),
        ("thick", "awg", "1", "section"),
        ("25", "square_millimetres", "3", "negative"),
        ("25", "square_millimetres", "first", "negative"),
    ] {
        let (status, said) = post(asked(section, unit, negative)).await;
        assert_eq!(
            (status, &said["errors"][0]["field"]),
            (StatusCode::UNPROCESSABLE_ENTITY, &json!(field)),
            "{said}"
        );
    }
}

#[test]
fn a_bank_is_diagnosed_by_its_readings_and_told_what_to_measure_next() {
    let batteries = |b2: f64| -> Value {
        let all = [("A1", 4.0), ("A2", 4.1), ("B1", 4.0), ("B2", b2)];
        all.map(|(battery, value)| json!({"battery": battery, "value": value, "first": 4.0})).to_vec().into()
    };
    let shape = json!({"system_voltage": 24, "cells_per_battery": 6, "series": 2, "parallel": 2});
    let ask = |evidence: Value| {
        calc("diagnose", &json!({"shape": shape, "model_key": "agm-12v-100", "evidence": evidence}))
    };
    let none = ask(json!({})).unwrap();
    assert_eq!(none["said"], "Not enough to tell: fewer than two groups of evidence stand.");
    assert!(none["next_said"].as_str().unwrap().starts_with("Next: "), "{none}");
    let mut weak = json!({
        "resistances": [{"day": "2026-03-01", "batteries": batteries(5.6)}],
        "discharges": [{"day": "2026-03-02", "percent": 71.0, "batteries_read": true, "early": ["B2"]}],
        "seen": [{"sign": "one_gives_way", "of": "B2"}],
    });
    let own = ask(weak.clone()).unwrap();
    assert_eq!(own["said"], "Possible: a weak cell in B2, or a shorted cell in B2.");
    // Its volts at rest, like its mates', rule the short out.
    let rested: Value =
        ["A1", "A2", "B1", "B2"].map(|battery| json!({"battery": battery, "value": 12.86})).to_vec().into();
    weak["rest"] = json!([{"day": "2026-03-01", "settled": true, "proven_full": true, "batteries": rested}]);
    let own = ask(weak).unwrap();
    assert_eq!(own["ranked"][0]["hypothesis"], "weak_cell", "{}", own["said"]);
    assert_eq!(own["said"], "Likely: a weak cell in B2.");
    let ghost = ask(json!({"seen": [{"sign": "a_ghost"}]})).unwrap_err();
    assert!(ghost.contains("a_ghost"), "{ghost}");
    let odd = ask(json!({"discharges": [{"day": "2026-03-02", "percent": 900.0}]})).unwrap_err();
    assert!(odd.contains("0 to 200 %"), "{odd}");
}

#[test]
fn what_is_left_of_a_life_is_told_by_tests_and_by_use() {
    let tests = |percents: &[f64]| -> Value {
        let years = percents.iter().zip(2022..);
        years.map(|(percent, year)| json!({"day": format!("{year}-01-01"), "percent": percent})).collect()
    };
    let asked = json!({
        "duty": "standby", "tests": tests(&[100.0, 97.0, 90.0, 87.0, 82.0]), "depth": 50.0,
        "used": {"cycles": [[50.0, 240.0]], "calendar": [{"years": 2.0, "temperature": 25.0}]}
    });
    let own = calc("remaining-life", &asked).unwrap();
    assert!(
        own["said"].as_str().unwrap().starts_with("It falls 5 points a year (3 to 5): 80 % in June 2026"),
        "{}",
        own["said"]
    );
    assert_eq!(own["by_tests"]["ends"]["kind"], "years");
    assert_eq!(own["cycles"]["cycles"], 1200.0);
    let left = own["by_wear"]["years_left"][0].as_f64().unwrap();
    assert!((left - 3.0).abs() < 1e-9, "{left}");
    let few = calc("remaining-life", &json!({"duty": "cycled", "tests": tests(&[90.0])})).unwrap();
    assert_eq!(few["said"], "Its end is told from three tests on: 2 more to go.");
    let odd = calc("remaining-life", &json!({"duty": "cycled", "tests": tests(&[900.0])})).unwrap_err();
    assert!(odd.contains("0 to 200 %"), "{odd}");
    let deep = calc("remaining-life", &json!({"duty": "cycled", "depth": 0.0})).unwrap_err();
    assert!(deep.contains("1 to 100 %"), "{deep}");
}

/// Four days of hourly samples: 20 A for six hours, charged to absorption, the tail for an hour.
fn samples(per_cell: f64) -> Vec<Value> {
    let hour = |k: i64| -> Value {
        let (volts, amperes) = match k % 24 {
            0..6 => (2.02, -20.0),
            8..14 => (2.30, 20.0),
            14 => (per_cell, 14.4),
            15 => (per_cell, 6.0),
            _ => (2.10, 0.0),
        };
        let at = jiff::Timestamp::from_second(1_772_409_600 + 3600 * k).unwrap();
        json!({"at": at.to_string(), "volts": 24.0 * volts, "amperes": amperes, "celsius": 25.0})
    };
    (0..96).map(hour).collect()
}

#[test]
fn the_record_of_a_monitor_is_read_and_what_is_wrong_with_it_named() {
    let shape = json!({"system_voltage": 48, "cells_per_battery": 3, "series": 8, "parallel": 1});
    let ask = |samples: Vec<Value>, zone: &str| {
        calc(
            "charging-record",
            &json!({"shape": shape, "model_key": "flooded-6v-420", "samples": samples, "zone": zone}),
        )
    };
    let own = ask(samples(2.45), "UTC").unwrap();
    assert_eq!(own["said"], "It reached full on every one of 4 days.", "{own}");
    let lines = own["lines"].to_string();
    assert!(
        lines.contains("1.17 Ah went in for each that came out, in 3 intervals from full to full"),
        "{lines}"
    );
    assert!(lines.contains("29 % was out at the deepest."), "{lines}");
    assert_eq!((&own["evidence"]["full_days"], &own["evidence"]["longest_gap"]), (&json!(1.0), &json!(0.0)));
    // The diagnosis takes it as it is.
    let asked =
        json!({"shape": shape, "model_key": "flooded-6v-420", "evidence": {"record": own["evidence"]}});
    let told = calc("diagnose", &asked).unwrap();
    assert!(
        told["signs"].to_string().contains("often_full") || told.to_string().contains("often_full"),
        "{told}"
    );
    let low = ask(samples(2.33), "UTC").unwrap();
    assert_eq!(low["said"], "It never reached full in 4 days.");
    assert!(low["lines"].to_string().contains("V under the absorption that is asked for"), "{low}");
    let mut odd = samples(2.45);
    odd[3]["volts"] = json!(1e300);
    let why = ask(odd, "UTC").unwrap_err();
    assert!(why.contains("samples[3].volts") && why.contains("0 to 800 V"), "{why}");
    assert!(ask(samples(2.45), "Nowhere/Land").unwrap_err().contains("there is no zone"));
    let other: Vec<Value> = samples(2.45)
        .into_iter()
        .map(|mut own| {
            own["volts"] = json!(12.8);
            own
        })
        .collect();
    assert!(ask(other, "UTC").unwrap_err().contains("is it the record of another bank?"));
    assert!(ask(Vec::new(), "UTC").unwrap_err().contains("two samples or more"));
    let mut back = samples(2.45);
    back.swap(40, 10);
    assert!(ask(back, "UTC").unwrap()["backwards"].as_u64().unwrap() > 0);
}
