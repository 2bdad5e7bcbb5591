//! The state of a bank over HTTP: the same findings on its page, in the list, on the day and in the report,
//! and what its lenses and trends show.
#![allow(
    clippy::unwrap_used,
    clippy::float_cmp,
    reason = "helpers fail loudly, and what is typed comes back"
)]

use crate::common::runs::{celsius, read_bank};
use crate::common::visits::visit_on;
use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn water(millilitres: f64) -> Value {
    json!({"kind": "water", "typed": millilitres.to_string(), "unit": "millilitre", "to_mark": true, "stands": true})
}

fn rested() -> Value {
    json!({"kind": "rested", "hours_since_charge": "30", "hours_since_load": "30"})
}

fn volts(typed: &str) -> Value {
    json!({"kind": "battery_volts", "typed": typed, "stands": true})
}

#[tokio::test(flavor = "multi_thread")]
async fn a_hot_case_of_a_sealed_bank_is_due_under_its_own_rule_and_told_everywhere() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 48, 4, 1).await;
    let case = |t: &str| json!({"kind": "case_temperature", "temperature": {"typed": t, "unit": "C"}});
    let ohmic = |typed: &str| json!({"kind": "ohmic", "typed": typed, "unit": "milliohm"});
    let mut said = vec![("", rested())];
    for (battery, warm) in [("A1", "24"), ("A2", "24"), ("A3", "31"), ("A4", "25")] {
        said.extend([(battery, volts("12.85")), (battery, ohmic("4.1")), (battery, case(warm))]);
    }
    let visit = visit_on(&shop, &bank, "2026-10-08", &said).await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let found = &page["findings"][0];
    assert_eq!((&found["id"], &found["severity"]), (&json!("hot_case A3"), &json!("watch")), "{page}");
    assert!(found["rule"].as_str().unwrap().starts_with("OH-1"), "{found}");
    assert_eq!(page["condition"], "watch");
    // the list and the day say the same
    let list = shop.get("/api/banks").await;
    assert_eq!((&list[0]["verdict"], &list[0]["condition"]), (&page["verdict"], &page["condition"]));
    let today = shop.get("/api/today").await;
    let due = today["items"].as_array().unwrap().iter().find(|i| i["about"] == "hot_case A3").unwrap();
    assert_eq!(due["said"]["title"], found["headline"]);
    assert!(due["said"]["rule"].as_str().unwrap().starts_with("OH-1"), "{due}");
    // and the report tells the owner
    let report = shop.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    let report = report.text().await.unwrap();
    assert!(report.contains("Battery A3 is hotter than the others"), "{report}");
    // put off under its id, it stays put off when it is measured a little otherwise
    let body = json!({"bank": bank, "task": "seen_finding", "about": "hot_case A3", "from": due["date"], "until": "2026-12-01", "reason": "fan comes"});
    let (status, answer) = shop.put(&format!("/api/postponements/{}", id()), &body).await;
    assert_eq!(status, StatusCode::CREATED, "{answer}");
    let today = shop.get("/api/today").await;
    assert!(today["items"].as_array().unwrap().iter().all(|i| i["about"] != "hot_case A3"), "put off");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_loose_hold_down_is_in_the_sentence_of_an_even_bank() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let loose =
        json!({"kind": "checked", "check": "hold_down", "found": {"kind": "missing", "severity": "act"}});
    visit_on(&shop, &bank, "2026-10-08", &[("A1", loose)]).await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["condition"], "act");
    let verdict = page["verdict"].as_str().unwrap();
    assert!(verdict.starts_with("A1, hold-down: missing. Secure it"), "{verdict}");
    let list = shop.get("/api/banks").await;
    assert_eq!(list[0]["verdict"], page["verdict"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn plates_that_show_lead_on_the_page_and_in_the_report() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let loose =
        json!({"kind": "checked", "check": "hold_down", "found": {"kind": "missing", "severity": "act"}});
    let bare = json!({"kind": "level", "step": "plates_bare"});
    let visit = visit_on(&shop, &bank, "2026-10-08", &[("A1", loose), ("A2-1", bare)]).await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert!(page["verdict"].as_str().unwrap().starts_with("Plates of A2-1 stand bare."), "{page}");
    assert_eq!(page["findings"][0]["id"], "plates_bare");
    let report = shop.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    let report = report.text().await.unwrap();
    let lead = report.split("<p class=\"lead\">").nth(1).unwrap();
    assert!(lead.starts_with("The plates of A2-1 stood dry."), "{lead}");
}

#[tokio::test(flavor = "multi_thread")]
async fn an_archived_bank_keeps_its_condition_after_the_rules_changed_and_asks_for_nothing() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let loose =
        json!({"kind": "checked", "check": "hold_down", "found": {"kind": "missing", "severity": "act"}});
    visit_on(&shop, &bank, "2026-10-08", &[("A1", loose)]).await;
    let round = shop.round(&bank).await;
    for cell in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"] {
        shop.read(&round, cell, "265").await;
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let before = shop.get("/api/banks").await[0].clone();
    let (status, _) = shop.send(Method::POST, &format!("/api/banks/{bank}/archive"), &json!({})).await;
    assert!(status.is_success(), "{status}");
    // as a folder of older rules is opened: nothing derived is left
    let folder = shop.close().await;
    let db = rainshadow::db::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    db.execute_batch("DELETE FROM assessment; DELETE FROM due_state; DELETE FROM due_item;").unwrap();
    drop(db);
    let shop = Shop::open_in(folder).await;
    let list = shop.get("/api/banks").await;
    assert_eq!(list[0]["archived"], true);
    for same in ["condition", "verdict", "mini", "last_day"] {
        assert_eq!(list[0][same], before[same], "{same}");
    }
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!((&page["due"], page["history"].as_array().unwrap().len()), (&json!([]), 1), "{page}");
    assert_eq!(shop.get("/api/today").await["items"], json!([]));
}

#[tokio::test(flavor = "multi_thread")]
async fn lenses_show_what_was_typed_and_trends_what_follows_from_it() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let cells = ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"];
    let fill = |amounts: [f64; 6]| -> Vec<(&'static str, Value)> {
        cells.into_iter().zip(amounts).map(|(cell, ml)| (cell, water(ml))).collect()
    };
    visit_on(&shop, &bank, "2026-03-01", &fill([60.0; 6])).await;
    visit_on(&shop, &bank, "2026-05-30", &fill([90.0, 90.0, 90.0, 90.0, 180.0, 90.0])).await;
    let mut last = fill([90.0, 90.0, 90.0, 90.0, 200.0, 40.0]);
    last.extend([("", rested()), ("A1", volts("6.40")), ("A2", volts("6.30"))]);
    visit_on(&shop, &bank, "2026-08-28", &last).await;
    let looked = json!({"kind": "level", "step": "at_plates"});
    visit_on(&shop, &bank, "2026-09-20", &[("A1-2", looked)]).await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let lens = &page["lenses"]["water_use"];
    let of = |lens: &Value, place: &str| {
        lens["values"].as_array().unwrap().iter().find(|v| v["place"] == place).unwrap().clone()
    };
    // the last fill: the median is 90 mL; more than 1.5 and less than 0.6 times it is odd (WA-5)
    assert_eq!(lens["line"], 90.0);
    assert_eq!(
        (&of(lens, "A2-2")["value"], &of(lens, "A2-2")["condition"]),
        (&json!(200.0), &json!("watch"))
    );
    assert_eq!(of(lens, "A2-3")["condition"], "watch");
    assert_eq!(of(lens, "A1-1")["condition"], "steady");
    // over two fills it is evidence, and reaches the page of a flooded bank
    let uneven: Vec<&str> = page["findings"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|f| f["rule"].as_str().unwrap().starts_with("WA-5"))
        .map(|f| f["headline"].as_str().unwrap())
        .collect();
    assert_eq!(uneven, ["A2-2 drinks more than its mates"]);
    // volts: 6.35 in the middle, 0.05 V each way; 0.1 V on 12 V is 0.05 V on 6 V (RD-7)
    let rest = &page["lenses"]["rest_volts"];
    assert_eq!((rest["line_said"].as_str(), of(rest, "A1")["figure"].as_str()), (Some("6.35"), Some("6.40")));
    assert!((of(rest, "A1")["value"].as_f64().unwrap() - 0.05).abs() < 1e-9);
    assert!(
        page["findings"].as_array().unwrap().iter().any(|f| f["headline"] == "String A rests 0.10 V apart")
    );
    // one level since: the fill brought all others to the mark
    let level = &page["lenses"]["level"];
    assert_eq!((level["values"].as_array().unwrap().len(), &of(level, "A1-2")["value"]), (1, &json!(0.0)));
    // water a month: 630 mL in 90 days, then 600 mL in 90 days
    let trend = page["trends"].as_array().unwrap().iter().find(|t| t["title"] == "Water used").unwrap();
    let values: Vec<f64> =
        trend["points"].as_array().unwrap().iter().map(|p| p["value"].as_f64().unwrap()).collect();
    assert_eq!((values.len(), trend["unit"].as_str()), (2, Some("mL a month, whole bank")));
    assert!(
        (values[0] - 630.0 / 90.0 * 30.4).abs() < 1e-6 && (values[1] - 600.0 / 90.0 * 30.4).abs() < 1e-6,
        "{values:?}"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn an_exported_bank_carries_its_state_and_nobody_who_takes_it_in_believes_it() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 1).await;
    let loose = json!({"kind": "checked", "check": "hold_down", "found": {"kind": "play"}, "measured": "12"});
    visit_on(&shop, &bank, "2026-10-01", &[("A1", loose)]).await;
    let path = format!("/api/banks/{bank}/export.json");
    let mut file = shop.get(&path).await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!((&file["state"]["condition"], &page["condition"]), (&json!("act"), &json!("act")));
    let ids = |findings: &Value| -> Vec<String> {
        findings.as_array().unwrap().iter().map(|f| f["id"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(ids(&file["state"]["findings"]), ids(&page["findings"]));
    // whatever stands there, it is worked out anew
    file["state"] = json!({"condition": "steady", "findings": "none at all"});
    let other = Shop::open().await;
    let (status, said) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(other.get(&path).await["state"], shop.get(&path).await["state"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn nobody_is_told_to_equalize_beside_a_battery_that_volts_found_short_of_a_cell() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let equalize = || async {
        let (_, page) = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await;
        page
    };
    assert!(equalize().await["verdict"].as_str().unwrap().starts_with("Equalize: spread"));

    visit_on(&shop, &bank, "2026-10-08", &[("", rested()), ("A1", volts("6.36")), ("A2", volts("4.28"))])
        .await;
    let page = equalize().await;
    assert_eq!(page["verdict"], "No equalize now. Find the dead cell first.");
    let why = "A cell gives no volts: charging against it heats it and overcharges its mates.";
    assert_eq!((&page["asked_for"], &page["reasons"]), (&json!(false), &json!([why])));
    assert_eq!(page["houses"][0]["said"], "Maker first would wait. Find the dead cell first.");
    assert!(page["plan"].is_null() && page["refused"].as_str().unwrap().contains("dead cell"), "{page}");
    // nor does anybody begin one by another way
    let run = json!({"bank": bank, "kind": "corrective", "temperature": celsius("20"), "pilot": "A2-2"});
    let (status, said) = shop.put(&format!("/api/runs/{}", id()), &run).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("kind")),
        "{said}"
    );
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["findings"][0]["id"], "cells_missing A2", "{}", page["findings"]);
    let today = shop.get("/api/today").await["verdict"].clone();
    assert_eq!(today, "One bank comes to harm if left. Start at Marginalia.");
    let due = page["due"].to_string();
    assert_eq!(page["due"][0]["condition"], "act", "harm: {due}");
    assert!(!due.contains("qualize"), "{due}");

    // read again and whole, it may be equalized
    visit_on(&shop, &bank, "2026-10-08", &[("", rested()), ("A1", volts("6.36")), ("A2", volts("6.33"))])
        .await;
    assert!(equalize().await["verdict"].as_str().unwrap().starts_with("Equalize: spread"));
}
