//! Planners over HTTP: what they begin with, what they answer and refuse, and plans that are kept.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::visit_on;
use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn ask(shop: &Shop, planner: &str, bank: Option<&str>, values: Value) -> (StatusCode, Value) {
    let body = json!({"bank": bank, "values": values});
    shop.send(Method::POST, &format!("/api/planners/{planner}"), &body).await
}

fn named<'a>(all: &'a Value, key: &str, value: &str) -> &'a Value {
    all.as_array().unwrap().iter().find(|own| own[key] == value).unwrap_or_else(|| panic!("{value} in {all}"))
}

#[tokio::test]
async fn every_planner_begins_with_its_bank_and_answers_and_serves_banks_that_are_not_on_the_books() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let all = shop.get("/api/planners").await;
    assert_eq!(all.as_array().unwrap().len(), 5);
    for planner in all.as_array().unwrap() {
        let planner = planner["planner"].as_str().unwrap();
        let form = shop.get(&format!("/api/planners/{planner}?bank={bank}")).await;
        assert!(form["controls"].as_array().unwrap().len() > 4, "{planner}");
        for control in form["controls"].as_array().unwrap() {
            assert!(!control["label"].as_str().unwrap().is_empty() && control["group"] != "", "{control}");
        }
        let (status, own) = ask(&shop, planner, Some(&bank), json!({})).await;
        assert_eq!(status, StatusCode::OK, "{planner}: {own}");
        assert!(
            own["said"].as_str().unwrap().ends_with('.') && own["rule"] != "",
            "{planner}: {}",
            own["said"]
        );
        let (status, other) =
            ask(&shop, planner, None, json!({"system_voltage": "12", "strings": "2"})).await;
        assert_eq!(status, StatusCode::OK, "{planner}: {other}");
        let stray = ask(&shop, planner, None, json!({"dance": "1"})).await.1;
        assert_eq!(stray["errors"][0]["field"], "dance");
    }
    let odd = ask(&shop, "storage", None, json!({"system_voltage": "13"})).await;
    assert_eq!(
        (odd.0, &odd.1["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("system_voltage"))
    );
    shop.close().await;
}

#[tokio::test]
async fn what_cannot_be_is_refused_beside_its_control() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let refused = async |planner: &str, values: Value| {
        let (status, own) = ask(&shop, planner, Some(&bank), values).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{planner}: {own}");
        let first = &own["errors"][0];
        (first["field"].as_str().unwrap().to_owned(), first["message"].as_str().unwrap().to_owned())
    };
    let (field, said) = refused("charging", json!({"solar": "yes", "latitude": "95"})).await;
    assert!(field == "latitude" && said.contains("-90 to 90"), "{said}");
    let (field, said) =
        refused("storage", json!({"climate": "own", "means": "1 2 3 4 5 6 7 8 9 10 11"})).await;
    assert!(field == "means" && said.contains("11 figures are there; 12 are needed"), "{said}");
    let (field, said) = refused("charging", json!({"litre": "-2"})).await;
    assert!(field == "litre" && said.contains("0 to 1000000"), "{said}");
    let (field, said) = refused("runtime", json!({"amount": "0"})).await;
    assert!(field == "amount" && said.contains("othing draws"), "{said}");
    let (field, _) = refused("size", json!({"watt_hours": "many"})).await;
    assert_eq!(field, "watt_hours");
    let (field, said) = refused("storage", json!({"until": "2020-01-01"})).await;
    assert!(field == "until" && said.contains("no storage spell"), "{said}");
    let (field, _) = refused("replacement", json!({"failing": "Z9"})).await;
    assert_eq!(field, "failing");
    let (field, said) = refused("runtime", json!({"alarm": "10", "amount": "3"})).await;
    assert!(field == "alarm", "{said}");
    // A used battery without an age is a stated assumption, never a silent default.
    let used = json!({"used": "same_model", "used_capacity": "95"});
    let (status, own) = ask(&shop, "replacement", Some(&bank), used).await;
    assert_eq!(status, StatusCode::OK);
    let said = own["assumptions"].to_string();
    assert!(said.contains("The used battery has no age"), "{said}");
    shop.close().await;
}

#[tokio::test]
async fn degrees_are_taken_and_told_in_the_unit_they_were_typed_in() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let body = |unit: &str, degrees: &str| json!({"bank": bank, "unit": unit, "values": {"load": "continuous", "amount": "5", "temperature": degrees}});
    let hours = async |unit, degrees| {
        let (_, own) = shop.send(Method::POST, "/api/planners/runtime", &body(unit, degrees)).await;
        named(&own["facts"], "name", "until it is over")["value"].as_str().unwrap().to_owned()
    };
    assert_eq!(hours("C", "10").await, hours("F", "50").await);
    assert_ne!(hours("C", "10").await, hours("C", "-10").await);
    let form = shop.get(&format!("/api/planners/storage?bank={bank}&unit=F")).await;
    assert_eq!(named(&form["controls"], "key", "lows_under")["unit"], "\u{b0}F");
    shop.close().await;
}

/// A table of cycles and years knows no bank that stands empty: its life and what hangs on it are not told.
#[tokio::test]
async fn a_bank_that_runs_empty_is_told_no_life_and_no_money_over_it() {
    let shop = Shop::open().await;
    let figures = async |sources: Value| {
        let bank = json!({"system_voltage": "12", "strings": "1", "bank_price": "900", "solar": "no"});
        let mut values = bank.as_object().unwrap().clone();
        values.extend(sources.as_object().unwrap().clone());
        let (status, own) = ask(&shop, "charging", None, Value::Object(values)).await;
        assert_eq!(status, StatusCode::OK, "{own}");
        let first = own["options"][0]["figures"].clone();
        let comes_to = own["options"][0]["comes_to"].as_str().unwrap().to_owned();
        (first, own["said"].as_str().unwrap().to_owned(), comes_to)
    };
    let (empty, said, comes_to) = figures(json!({})).await;
    assert!(comes_to.contains("no table tells the life"), "{comes_to}");
    assert!(said.starts_with("Nothing charges it: "), "{said}");
    assert_eq!(named(&empty, "name", "years of a new bank")["value"], "not told");
    assert!(!empty.to_string().contains("in ten years"), "{empty}");
    let night = |every: &str| json!({"shore": "yes", "shore_amperes": "40", "shore_hours": "10", "shore_every": every});
    let (fed, _, sound) = figures(night("1")).await;
    assert!(named(&fed, "name", "in ten years")["value"].as_str().unwrap().parse::<f64>().unwrap() > 0.0);
    let life = |own: &Value| named(own, "name", "years of a new bank")["note"].as_str().unwrap().to_owned();
    assert!(life(&fed).ends_with(", LF") && !sound.contains("ulfation"), "{fed} {sound}");
    // full every second week, which is over the ten days of CH-5
    let smaller = json!({"loads": vec!["0.1"; 24].join(";")});
    let mut seldom = night("14");
    seldom.as_object_mut().unwrap().extend(smaller.as_object().unwrap().clone());
    let (seldom, _, sulfates) = figures(seldom).await;
    assert!(life(&seldom).ends_with(", LF") && sulfates.contains("Sulfation takes more"), "{sulfates}");
    shop.close().await;
}

async fn keep(shop: &Shop, bank: &str, name: &str, more: Value) -> (String, StatusCode, Value) {
    let id = id();
    let mut body = json!({
        "planner": "storage", "name": name,
        "asked": {"bank": bank, "values": {"tops": "4"}},
    });
    for (key, value) in more.as_object().unwrap() {
        body[key] = value.clone();
    }
    let (status, answer) = shop.put(&format!("/api/plans/{id}"), &body).await;
    (id, status, answer)
}

#[tokio::test]
async fn a_plan_is_kept_compared_written_out_read_back_replaced_and_thrown_away() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let (one, status, said) = keep(&shop, &bank, "dirty tops", json!({})).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    let clean = json!({"asked": {"bank": bank, "values": {"tops": "0", "charged": "80"}}});
    let (two, _, _) = keep(&shop, &bank, "cleaned", clean).await;
    let (_, status, no_name) = keep(&shop, &bank, "  ", json!({})).await;
    assert_eq!((status, &no_name["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("name")));
    let list = shop.get(&format!("/api/plans?bank={bank}")).await;
    assert_eq!((list.as_array().unwrap().len(), &list[0]["name"]), (2, &json!("cleaned")));
    assert_eq!(list[0]["stale"], json!([]));
    let both = shop.get(&format!("/api/plans/compared?left={one}&right={two}")).await;
    let set: Vec<&str> =
        both["set"].as_array().unwrap().iter().map(|own| own["what"].as_str().unwrap()).collect();
    assert_eq!(set, ["Left at", "Dirty, wet tops"], "{both}");
    assert!(both["figures"].as_array().unwrap().iter().any(|own| own["differs"] == true));
    // Out and in again: both files give what was set.
    let kept = shop.get(&format!("/api/plans/{one}")).await;
    for end in ["plan.json", "plan.csv"] {
        let file = shop
            .request(Method::GET, &format!("/api/plans/{one}/{end}"))
            .send()
            .await
            .unwrap()
            .text()
            .await
            .unwrap();
        let (status, read) = shop.send(Method::POST, "/api/plans/read", &json!({"csv": file})).await;
        assert_eq!(status, StatusCode::OK, "{read}");
        assert_eq!((&read["values"], &read["name"]), (&kept["values"], &json!("dirty tops")), "{end}");
    }
    let (status, odd) = shop.send(Method::POST, "/api/plans/read", &json!({"csv": "hello"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(odd["errors"][0]["message"].as_str().unwrap().contains("no plan"), "{odd}");
    let page = shop
        .request(Method::GET, &format!("/api/plans/{one}/printed"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    for part in ["dirty tops", "<svg", "Ways to go", "What it rests on", "Dirty, wet tops", "SD-1"] {
        assert!(page.contains(part), "{part}");
    }
    // The one that takes its place throws it away; a second time is no fault.
    let (_, status, _) = keep(&shop, &bank, "dirty tops, later", json!({"replaces": one})).await;
    assert_eq!(status, StatusCode::CREATED);
    let names = shop.get(&format!("/api/plans?bank={bank}")).await.to_string();
    assert!(!names.contains("\"dirty tops\"") && names.contains("dirty tops, later"), "{names}");
    let (status, _) = shop.send(Method::DELETE, &format!("/api/plans/{two}"), &json!({})).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    assert_eq!(
        shop.request(Method::GET, &format!("/api/plans/{two}")).send().await.unwrap().status(),
        StatusCode::NOT_FOUND
    );
    // An archived bank takes none.
    let archived = shop.send(Method::POST, &format!("/api/banks/{bank}/archive"), &json!({})).await;
    assert!(archived.0.is_success());
    let (_, status, _) = keep(&shop, &bank, "too late", json!({})).await;
    assert_eq!(status, StatusCode::CONFLICT);
    shop.close().await;
}

#[tokio::test]
async fn a_plan_is_stale_when_its_bank_has_new_readings_and_attached_to_a_visit_its_report_tells_it() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = id();
    let opening = json!({"bank": bank});
    let (status, said) = shop.put(&format!("/api/visits/{visit}"), &opening).await;
    assert!(status.is_success(), "{said}");
    let (plan, status, said) = keep(&shop, &bank, "with the visit", json!({"visit": visit})).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    let report = shop
        .request(Method::GET, &format!("/api/visits/{visit}/report"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    assert!(report.contains("What is planned") && report.contains("with the visit:"), "{report}");
    let closing = shop.request(Method::POST, &format!("/api/visits/{visit}/close"));
    assert!(closing.header("if-match", "\"1\"").json(&json!({})).send().await.unwrap().status().is_success());
    let other = shop.bank_of("agm-12v-100", 12, 1, 1).await;
    let (_, status, odd) = keep(&shop, &other, "of another", json!({"visit": visit})).await;
    assert_eq!((status, &odd["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("visit")));
    // A timed discharge of the whole bank is a new reading: the capacity it begins with is another.
    let before = shop.get(&format!("/api/plans/{plan}")).await;
    assert_eq!(before["plan"]["stale"], json!([]));
    let own = json!({"amperes": "30", "temperature": {"typed": "25", "unit": "C"}, "proven_full": true, "every_minutes": "30"});
    let tested = json!({"kind": "test", "test": {
        "test": "discharge_noted", "plan": own, "hours": "5:00", "reached_end": true, "batteries": [],
    }});
    visit_on(&shop, &bank, "2026-10-08", &[("", tested)]).await;
    let now = shop.get(&format!("/api/plans/{plan}")).await;
    let stale = now["plan"]["stale"].to_string();
    assert!(stale.contains("Capacity left: 100 % then"), "{stale}");
    assert_ne!(now["renewed"]["health"], now["values"]["health"]);
    assert_eq!(now["renewed"]["tops"], "4", "what was set stays set");
    shop.close().await;
}

/// The topics of the command line: worked by hand from their rules.
#[test]
fn calc_plans_ahead_with_the_same_rules() {
    use rainshadow::cli::calc::{CalcArgs, run};
    let calc = |topic: &str, input: Value| -> Result<Value, String> {
        let args = CalcArgs { topic: Some(topic.to_owned()), list: false, schema: false };
        let mut out = Vec::new();
        run(&args, input.to_string().as_bytes(), &mut out).map_err(|e| e.to_string())?;
        Ok(serde_json::from_slice(&out).unwrap())
    };
    let shape = json!({"system_voltage": 12, "cells_per_battery": 6, "series": 1, "parallel": 1});
    let one = json!({"shape": shape, "model_key": "flooded-12v-80"});
    let with = |more: Value| {
        let mut own = one.clone();
        own.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        own
    };
    // 80 Ah at 4 A and slower: never more than 20 hours of it.
    let own = calc("runtime", with(json!({"load": {"load": "continuous", "amount": 2.0}, "wanted": 80.0})))
        .unwrap();
    assert!((own["empty"]["hours"].as_f64().unwrap() - 40.0).abs() < 1e-6, "{}", own["empty"]);
    assert!((own["load_for_wanted"].as_f64().unwrap() - 0.5).abs() < 1e-3);
    let none = calc("runtime", with(json!({"load": {"load": "continuous", "amount": 0.0}}))).unwrap_err();
    assert!(none.starts_with("load:"), "{none}");
    let air = json!({"means": [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]});
    let stored =
        json!({"from": "2026-11-01", "until": "2027-03-01", "air": air, "ways": [{"way": "disconnected"}]});
    let own = calc("storage", with(stored)).unwrap();
    // 6.5 % a month at 25 °C, at 0 °C a share of 2^-2.5 of it, 120 days.
    let left = 100.0 * (1.0f64 - 0.065).powf(2f64.powf(-2.5) * 120.0 / 30.4);
    let end = own["ways"][0]["days"].as_array().unwrap().last().unwrap()["charge"].as_f64().unwrap();
    assert!((end - left).abs() < 0.01, "{end} {left}");
    let size = json!({"asked": {"system_voltage": 12, "watt_hours": 240.0, "days": 2.0, "depth": 50.0, "efficiency": 1.0, "temperature": 25.0, "ageing": 1.25}, "model_keys": ["flooded-12v-150"]});
    let own = calc("size", size).unwrap();
    assert!((own["needed"]["ampere_hours"].as_f64().unwrap() - 100.0).abs() < 1e-9);
    assert_eq!(own["layouts"][0]["layout"]["shape"]["parallel"], 1);
    let loads = vec![1.0; 24];
    let fill = json!({"loads": loads, "means": vec![15.0; 12], "shore": {"amperes": 12.0, "hours": 12.0, "every_days": 1, "from": 20}, "fill": {"amperes": 8.0, "from": 80.0}});
    let own = calc("charging", with(fill)).unwrap();
    assert!(
        (own["time_to_full"]["absorption"].as_f64().unwrap() - 4.426).abs() < 0.002,
        "{}",
        own["time_to_full"]
    );
    assert!(own["full_days"].as_u64().unwrap() > 300, "{}", own["full_days"]);
    let own = calc("replacement", with(json!({
        "failing": "A1", "failing_health": 50.0, "months": 30.0, "depth": 30.0, "amperes": 10.0, "hours": 8.0,
        "prices": {"battery": 200.0},
    }))).unwrap();
    assert_eq!(named(&own["options"], "kind", "drop_string")["refused"], "only_string");
    let ghost = calc(
        "replacement",
        with(json!({
            "failing": "C7", "failing_health": 50.0, "depth": 30.0, "amperes": 10.0, "hours": 8.0, "prices": {"battery": 1.0},
        })),
    );
    assert!(ghost.unwrap_err().starts_with("failing:"));
}

#[tokio::test]
async fn the_string_of_a_replacement_is_told_battery_by_battery_and_its_parts_by_what_stands_there() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let asked = json!({"failing": "B5", "months": "6"});
    let (status, own) = ask(&shop, "replacement", Some(&bank), asked).await;
    assert_eq!(status, StatusCode::OK, "{own}");
    let string = |key: &str| named(&own["options"], "key", key)["string"].clone();
    let out = string("drop_string");
    assert_eq!(
        (&out["title"], &out["batteries"], &out["days"]),
        (&json!("String B"), &json!([]), &json!([]))
    );
    let run = string("new_one");
    assert_eq!((run["batteries"].as_array().unwrap().len(), &run["batteries"][4]), (8, &json!("B5")));
    assert_eq!(run["own"], 4);
    let days = run["days"].as_array().unwrap();
    assert_eq!(
        (&days[0]["day"], &days.last().unwrap()["day"]),
        (&json!(1), &json!(90)),
        "from the first day to the last"
    );
    // By the cell model a new one among older ones stands higher as the charge ends.
    let last = days.last().unwrap();
    let volts = |at: usize| last["volts"][at].as_str().unwrap()[..4].parse::<f64>().unwrap();
    assert!(volts(4) > volts(3), "{last}");
    assert_eq!(
        (last["charges"].as_array().unwrap().len(), last["conditions"].as_array().unwrap().len()),
        (8, 8)
    );
    let rows = own["tables"][0]["rows"].to_string();
    assert!(
        rows.contains("vent caps") && rows.contains("section and length of those that come off"),
        "{rows}"
    );
    shop.close().await;
}
