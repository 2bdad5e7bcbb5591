//! An equalize through HTTP: planned, prepared, run, stopped, and what it did.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::runs::{begun, celsius, confirm_all, open_run, read_as, read_bank, say};
use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

#[tokio::test]
async fn a_bank_with_a_wide_spread_is_planned_with_its_figures_and_their_reasons() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let path = format!("/api/banks/{bank}/equalize");
    let (_, page) = shop.send(Method::POST, &path, &json!({})).await;
    assert_eq!(page["verdict"], "Nothing to decide by: read every cell first.");
    read_bank(&shop, &bank, "1240").await;
    let (status, page) = shop.send(Method::POST, &path, &json!({"temperature": celsius("10")})).await;
    assert_eq!(status, StatusCode::OK, "{page}");
    assert!(
        page["verdict"].as_str().unwrap().starts_with("Equalize: spread 37 points, limit 33"),
        "{}",
        page["verdict"]
    );
    assert_eq!((&page["kind"], &page["pilot"]), (&json!("corrective"), &json!("A2-2")));
    assert_eq!(page["houses"].as_array().unwrap().len(), 3);
    // 6 cells: 2.58 − 0.005 · (10 − 25) = 2.655 V a cell, 15.93 V (CH-2)
    assert_eq!(page["plan"]["setpoint"], "15.9");
    let (status, said) = shop.send(Method::POST, &path, &json!({"temperature": celsius("120")})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().ends_with("Is it 120 °F, which is 49 °C."), "{said}");
    let (_, cold) = shop.send(Method::POST, &path, &json!({"temperature": celsius("2")})).await;
    assert!(
        cold["plan"].is_null() && cold["refused"].as_str().unwrap().contains("below 5 °C"),
        "{}",
        cold["refused"]
    );
}

#[tokio::test]
async fn a_run_is_planned_by_the_warmest_battery_of_the_last_round() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = id();
    let mut body = crate::common::opening(&bank);
    body["conditions"]["temperature"] = json!({"known": "per_battery", "batteries": [
        {"battery": "A1", "typed": "12", "unit": "C"}, {"battery": "A2", "typed": "20", "unit": "C"}]});
    assert_eq!(shop.put(&format!("/api/rounds/{round}"), &body).await.0, StatusCode::CREATED);
    for (cell, typed) in [
        ("A1-1", "1270"),
        ("A1-2", "1272"),
        ("A1-3", "1268"),
        ("A2-1", "1270"),
        ("A2-2", "1230"),
        ("A2-3", "1271"),
    ] {
        shop.read(&round, cell, typed).await;
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let (_, page) = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await;
    // the warmest decides what all are charged with: 6 · (2.58 − 0.005 · (20 − 25)) = 15.63 V (CH-2)
    assert_eq!(page["plan"]["setpoint"], "15.6", "{page}");
}

#[tokio::test]
async fn sealed_banks_are_locked() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 1).await;
    let (_, page) = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await;
    assert_eq!((&page["locked"], &page["plan"]), (&json!(true), &Value::Null));
    let body = json!({"bank": bank, "kind": "corrective", "temperature": celsius("20")});
    let (status, said) = shop.put(&format!("/api/runs/{}", id()), &body).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("not equalized unless its maker"), "{said}");
}

#[tokio::test]
async fn settings_of_another_bank_are_refused_and_kept_ones_judged() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let path = format!("/api/banks/{bank}/equipment");
    let put = |version: i64, body: Value| {
        let request =
            shop.request(Method::PUT, &path).header("if-match", format!("\"{version}\"")).json(&body);
        async { crate::common::answer(request.send().await.unwrap()).await }
    };
    let with = |charger: Value| json!({"equipment": {"charger": charger, "loads": [{"name": "dome drive", "highest_volts": "60"}]}});
    // CH-1: 14.7 V is the ceiling of a 12 V bank
    let (status, said) = put(0, with(json!({"absorption": "14.7"}))).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("absorption"))
    );
    assert!(said["detail"].as_str().unwrap().contains("It suits a bank of 12 V"), "{said}");
    // 24 cells: 58.8 V is right at 25 °C; a float of 55.7 V is right only in the cold (CH-2)
    let (status, page) = put(0, with(json!({"absorption": "58.8", "float": "55.7"}))).await;
    assert_eq!(status, StatusCode::OK, "{page}");
    let stages: Vec<&str> = page["first"]["now"]["stages"]
        .as_array()
        .unwrap()
        .iter()
        .map(|s| s["condition"].as_str().unwrap())
        .collect();
    assert_eq!(stages, ["steady", "act"]);
    // the same again is there, another from a stale page shows what stands
    assert_eq!(put(0, with(json!({"absorption": "58.8", "float": "55.7"}))).await.0, StatusCode::OK);
    let (status, said) = put(0, with(json!({"absorption": "57.6"}))).await;
    assert_eq!(
        (status, &said["theirs"]["equipment"]["charger"]["float"]),
        (StatusCode::PRECONDITION_FAILED, &json!("55.7"))
    );
    let (_, plan) = shop
        .send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({"temperature": celsius("25")}))
        .await;
    // 24 · 2.58 = 61.92 V, more than the drive takes
    assert_eq!(
        plan["plan"]["loads"][0],
        json!({"name": "dome drive", "highest": "60.0", "disconnect": true})
    );
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        (&page["charger"], &page["charger_condition"]),
        (&json!("Change the charger: float is off."), &json!("act"))
    );
}

#[tokio::test]
async fn a_run_begins_only_when_all_is_seen_to_or_left_out_with_a_reason() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = open_run(&shop, &bank).await;
    let (status, said) = say(&shop, &run, json!({"what": "began"})).await;
    assert_eq!((status, said["errors"].as_array().unwrap().len()), (StatusCode::UNPROCESSABLE_ENTITY, 9));
    let (status, said) =
        say(&shop, &run, json!({"what": "skipped", "check": "loads_off", "reason": " "})).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("reason")));
    confirm_all(&shop, &run).await;
    say(&shop, &run, json!({"what": "skipped", "check": "loads_off", "reason": "nothing is connected"}))
        .await;
    assert_eq!(say(&shop, &run, json!({"what": "began"})).await.0, StatusCode::CREATED);
    assert_eq!(say(&shop, &run, json!({"what": "began"})).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!(page["phase"], "running");
    let left: Vec<&Value> = page["checks"].as_array().unwrap().iter().filter(|c| c["reason"] != "").collect();
    assert_eq!((left.len(), &left[0]["reason"]), (1, &json!("nothing is connected")));
    // a second run on the same bank is refused and named
    let body = json!({"bank": bank, "kind": "stir", "temperature": celsius("20"), "pilot": "A1-1"});
    let (status, said) = shop.put(&format!("/api/runs/{}", id()), &body).await;
    assert_eq!((status, &said["theirs"]["run"]), (StatusCode::CONFLICT, &json!(run)));
    assert!(said["detail"].as_str().unwrap().starts_with("A run by TA is under way"), "{said}");
    // nobody closes the visit while the charger is on equalize
    let visit = page["visit"].as_str().unwrap();
    let close = shop.request(Method::POST, &format!("/api/visits/{visit}/close")).header("if-match", "\"1\"");
    let (status, said) = crate::common::answer(close.json(&json!({})).send().await.unwrap()).await;
    assert_eq!((status, &said["theirs"]["run"]), (StatusCode::CONFLICT, &json!(run)), "{said}");
    // the report shows what was left out
    let report = shop.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    assert!(report.text().await.unwrap().contains("Nothing is connected."));
}

#[tokio::test]
async fn a_run_is_watched_asked_about_stopped_and_taken_back() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = begun(&shop, &bank).await;
    assert_eq!(say(&shop, &run, read_as("1240", "20")).await.0, StatusCode::CREATED);
    shop.clock.pass(1800);
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!((&page["alarm"], &page["elapsed"]), (&json!("reading"), &json!("0:30")));
    // a gravity that fell by 50 points is asked about; nothing is stored until it is kept
    let (status, said) = say(&shop, &run, read_as("1190", "21")).await;
    assert_eq!((status, &said["saved"]), (StatusCode::OK, &json!(false)));
    assert!(said["question"].as_str().unwrap().starts_with("Re-read A2-2? It fell"), "{said}");
    let mut kept = read_as("1190", "21");
    kept["stands"] = json!(true);
    assert_eq!(say(&shop, &run, kept).await.0, StatusCode::CREATED);
    let page = shop.get(&format!("/api/runs/{run}")).await;
    let wrong = page["readings"][1]["id"].clone();
    say(&shop, &run, json!({"what": "withdrawn", "entry": wrong})).await;
    let path = format!("/api/runs/{run}/entries/{}", id());
    assert_eq!(shop.put_by(("MO", "desk"), &path, &read_as("1246", "22")).await.0, StatusCode::CREATED);
    // what is impossible is refused with its field, and the run goes on
    for (body, field, part) in [
        (json!({"what": "read", "temperature": celsius("120")}), "temperature", "which is 49 °C"),
        (json!({"what": "read", "volts": "61.8"}), "volts", "accepted is 11.4 to 17.4 V"),
        (json!({"what": "read", "gravities": ["12.6"]}), "gravities[0]", "looks like volts"),
        (json!({"what": "read"}), "gravities[0]", "Nothing is typed yet"),
        (json!({"what": "resumed"}), "what", "not paused"),
    ] {
        let (status, said) = say(&shop, &run, body).await;
        assert_eq!(
            (status, &said["errors"][0]["field"]),
            (StatusCode::UNPROCESSABLE_ENTITY, &json!(field)),
            "{said}"
        );
        assert!(said["detail"].as_str().unwrap().contains(part), "{said}");
    }
    assert_eq!(say(&shop, &run, json!({"what": "stopped"})).await.0, StatusCode::CREATED);
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!(page["verdict"], "The run is over: stopped by hand before the rule.");
    assert_eq!(say(&shop, &run, json!({"what": "taken_back"})).await.0, StatusCode::CREATED);
    assert_eq!(shop.get(&format!("/api/runs/{run}")).await["phase"], "running");
    say(&shop, &run, json!({"what": "stopped"})).await;
    shop.clock.pass(60);
    let (status, said) = say(&shop, &run, json!({"what": "taken_back"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
    // the report tells the same run as its page, with who was at it
    let page = shop.get(&format!("/api/runs/{run}")).await;
    let report = shop.report(page["visit"].as_str().unwrap()).await;
    for said in [
        page["verdict"].as_str().unwrap(),
        "visit of 8 Oct 2026 by TA and MO",
        "An equalize was begun (corrective) and stopped by hand after 0:30 h",
        "A reading was taken back.",
        "The stop was taken back.",
        "watched by TA",
    ] {
        assert!(report.says(said), "{said}: {}", report.all());
    }
    for line in page["log"].as_array().unwrap() {
        let told = format!(
            "{}, {}: {}",
            line["at"].as_str().unwrap(),
            line["by"].as_str().unwrap(),
            line["said"].as_str().unwrap()
        );
        assert!(report.says(&told), "{told}: {}", report.all());
    }
}

#[tokio::test]
async fn who_did_not_stay_is_not_called_a_watcher_and_a_round_without_the_pilot_judges_nothing() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = open_run(&shop, &bank).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    for check in page["checks"].as_array().unwrap() {
        let alone = json!({"what": "skipped", "check": "somebody_stays", "reason": "called away"});
        let what = if check["check"] == "somebody_stays" {
            alone
        } else {
            json!({"what": "confirmed", "check": check["check"]})
        };
        assert_eq!(say(&shop, &run, what).await.0, StatusCode::CREATED);
    }
    say(&shop, &run, json!({"what": "began"})).await;
    say(&shop, &run, read_as("1240", "25")).await;
    shop.clock.pass(3600);
    say(&shop, &run, read_as("1250", "25")).await;
    say(&shop, &run, json!({"what": "stopped"})).await;
    shop.clock.pass(2 * 3600);
    let round = shop.round(&bank).await;
    for cell in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-3"] {
        shop.read_kept(&round, cell, "1277").await;
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/runs/{run}")).await;
    let unread = page["after"]["unread"].as_str().unwrap();
    assert!(unread.starts_with("Not judged: A2-2 has no reading"), "{unread}");
    let report = shop.report(page["visit"].as_str().unwrap()).await;
    assert_eq!(page["person"], "", "nobody stays with it");
    for said in [unread, "Nobody is noted as having stayed with it", "Called away."] {
        assert!(report.says(said), "{said}: {}", report.all());
    }
    assert!(!report.says("watched by TA") && !report.says("not been read yet"), "{}", report.all());
}

#[tokio::test]
async fn heat_pauses_and_ends_a_run() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = begun(&shop, &bank).await;
    let warm = |t: &str| json!({"what": "read", "temperature": celsius(t), "stands": true});
    say(&shop, &run, warm("46")).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!(page["alarm"], "pause");
    say(&shop, &run, json!({"what": "paused", "why": "heat"})).await;
    let (status, said) = say(&shop, &run, json!({"what": "resumed"})).await;
    assert_eq!((status, &said["saved"]), (StatusCode::OK, &json!(false)), "{said}");
    say(&shop, &run, warm("38")).await;
    assert_eq!(say(&shop, &run, json!({"what": "resumed"})).await.0, StatusCode::CREATED);
    say(&shop, &run, warm("53")).await;
    assert_eq!(shop.get(&format!("/api/runs/{run}")).await["alarm"], "stop");
    say(&shop, &run, json!({"what": "stopped"})).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!(page["verdict"], "The run is over: stopped because it was too hot. Do not start again today.");
}

#[tokio::test]
async fn the_benches_compute_the_published_figures() {
    let shop = Shop::open().await;
    let body = json!({"construction": "flooded", "cells": "24", "capacity": "840", "stage": "equalize"});
    let (_, air) = shop.send(Method::POST, "/api/bench/ventilation", &body).await;
    // VE-1's check: 24 cells, 840 Ah, 20 mA/Ah: 20.16 m³/h and 564 cm²
    assert_eq!(
        (&air["breakdown"][0]["value"], &air["breakdown"][1]["value"]),
        (&json!("20.16 m³/h"), &json!("564 cm²"))
    );
    let (status, said) = shop
        .send(
            Method::POST,
            "/api/bench/ventilation",
            &json!({"construction": "flooded", "cells": "2.5", "capacity": "many", "stage": "float"}),
        )
        .await;
    assert_eq!((status, said["errors"].as_array().unwrap().len()), (StatusCode::UNPROCESSABLE_ENTITY, 2));
    let body = json!({"model": "flooded-6v-420", "cells": "24", "temperature": celsius("10"), "charger": {"equalize": "61.8", "compensates": false}});
    let (_, bench) = shop.send(Method::POST, "/api/bench/charger", &body).await;
    // CH-2's check: 63.72 V at 10 °C; 61.8 is 0.08 V a cell under it
    assert_eq!(
        (&bench["setpoints"][2]["volts"], &bench["audit"]["condition"]),
        (&json!("63.7"), &json!("act"))
    );
}
