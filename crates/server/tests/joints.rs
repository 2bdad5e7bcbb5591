//! Joints and strings over HTTP: cables told once, drops and currents typed on a visit, what they find and where it is told.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, answer, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn joint(entry: Value) -> Value {
    let mut body = json!({"kind": "joint"});
    body["entry"] = entry;
    body
}

fn drop_of(pole: &str, part: &str, millivolts: &str) -> Value {
    joint(json!({"joint": "drop", "pole": pole, "part": part, "millivolts": millivolts, "amperes": "60"}))
}

fn clamped(amperes: &str) -> Value {
    joint(json!({"joint": "current", "amperes": amperes}))
}

fn cable(section: &str, length: &str) -> Value {
    json!({"section": section, "length": length})
}

fn wiring(section: &str, plus_at: &str) -> Value {
    json!({"link": cable("25", "0.30"), "by": "rails", "positive": [cable(section, "0.45")],
        "negative": [cable("25", "0.45")], "plus_at": plus_at, "minus_at": "A"})
}

async fn tell(shop: &Shop, bank: &str, version: i64, wiring: Value) -> (StatusCode, Value) {
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/equipment"))
        .header("if-match", format!("\"{version}\""))
        .json(&json!({"equipment": {"wiring": wiring}}));
    answer(request.send().await.unwrap()).await
}

/// Two strings of two twelve-volt AGM batteries.
async fn launch(shop: &Shop) -> String {
    shop.bank_of("agm-12v-100", 24, 2, 2).await
}

async fn joints(shop: &Shop, visit: &str) -> Value {
    step(&shop.get(&format!("/api/visits/{visit}")).await, "joints")["joints"].clone()
}

/// Every post of the launch, B1+ with so many mV.
async fn read_all(shop: &Shop, visit: &str, b1: &str) {
    for battery in ["A1", "A2", "B1", "B2"] {
        for pole in ["positive", "negative"] {
            let odd = battery == "B1" && pole == "positive";
            shop.said(visit, battery, drop_of(pole, "post", if odd { b1 } else { "3.6" })).await;
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn cables_are_told_once_and_what_no_bank_has_is_named_by_its_field() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let page = shop.get(&format!("/api/banks/{bank}/joints")).await;
    assert_eq!(page["verdict"], "Nothing is measured of its joints, and nobody has told how it is wired.");
    assert_eq!((&page["wired"], &page["strings"][0]["amperes"]), (&json!(false), &Value::Null));
    let field = |said: &Value| said["errors"][0]["field"].as_str().unwrap().to_owned();
    let (status, said) = tell(&shop, &bank, 0, wiring("0", "A")).await;
    assert_eq!(
        (status, field(&said)),
        (StatusCode::UNPROCESSABLE_ENTITY, "wiring.positive[0].section".into())
    );
    let mut far = wiring("25", "A");
    far["link"]["length"] = json!("1000");
    let (_, said) = tell(&shop, &bank, 0, far).await;
    assert_eq!(field(&said), "wiring.link.length");
    assert!(said["errors"][0]["message"].as_str().unwrap().contains("0.01 to 50.00 m"), "{said}");
    let (_, said) = tell(&shop, &bank, 0, wiring("25", "F")).await;
    assert_eq!(field(&said), "wiring.plus_at");
    let mut missing = wiring("25", "A");
    missing["negative"] = json!([]);
    let (status, _) = tell(&shop, &bank, 0, missing).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(tell(&shop, &bank, 0, wiring("25", "b")).await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}/joints")).await;
    assert_eq!(page["taken_off"], json!([1, 0]));
    assert!(
        page["verdict"].as_str().unwrap().starts_with("As it is wired the strings share within 5 %"),
        "{page}"
    );
    assert_eq!(page["positive"][0]["said"], "0.45 m, 25 mm²");
    // gauge and feet
    let mut gauge = wiring("2/0", "A");
    gauge["positive"][0]["section_unit"] = json!("awg");
    gauge["positive"][0]["length_unit"] = json!("inch");
    assert_eq!(tell(&shop, &bank, 1, gauge).await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}/joints")).await;
    assert_eq!(page["positive"][0]["said"], "0.14 m, 2/0 AWG");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bad_joint_is_told_everywhere_until_it_is_remade() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let visit = shop.visit(&bank).await;
    let (status, said) = shop.say(&visit, "A1", drop_of("positive", "lead", "3.2")).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "no lead is described: {said}");
    assert_eq!(tell(&shop, &bank, 0, wiring("25", "A")).await.0, StatusCode::OK);
    shop.said(&visit, "A1", drop_of("positive", "lead", "3.2")).await;
    read_all(&shop, &visit, "16.5").await;
    let (status, said) = shop.say(&visit, "A2", drop_of("positive", "post", "-3")).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("millivolts"))
    );
    let (_, said) = shop.say(&visit, "A2", drop_of("positive", "post", "402")).await;
    assert_eq!(said["saved"], false);
    assert!(said["question"].as_str().unwrap().contains("Did both probes stand on this joint"), "{said}");
    for (string, amperes) in [("A", "33.9"), ("B", "26.2")] {
        shop.said(&visit, string, clamped(amperes)).await;
    }
    let own = joints(&shop, &visit).await;
    let bad = own["joints"].as_array().unwrap().iter().find(|j| j["name"] == "B1+").unwrap().clone();
    assert_eq!(
        (&bad["condition"], &bad["through"], &bad["milliohms"]),
        (&json!("act"), &json!("26.2"), &json!("0.63"))
    );
    assert_eq!(own["clamps"][1]["amperes"], "26.2");
    assert!(own["verdict"].as_str().unwrap().starts_with("Remake B1+"), "{own}");
    let report = shop.report(&visit).await;
    let done = report.under("What was done").join(" ");
    assert!(done.contains("Nine connections measured at 60 A: B1+ had too much resistance"), "{done}");
    assert!(done.contains("Current of every string measured: A 33.9 A, B 26.2 A"), "{done}");
    assert!(report.under("What was found").join(" ").contains("A connection at the batteries, B1+, is bad"));
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!((&page["condition"], &page["findings"][0]["which"]), (&json!("act"), &json!("B1")));
    let diagnosis = shop.get(&format!("/api/banks/{bank}/diagnosis")).await.to_string();
    assert!(diagnosis.contains("a joint far over its like"), "{diagnosis}");
    // the file of the bank takes wiring and entries along
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await.to_string();
    assert!(file.contains("plus_at") && file.contains("millivolts"), "wiring and drops are in the file");
    let again = shop.short_visit(&bank, "joints").await;
    shop.said(&again, "B1", joint(json!({"joint": "torqued", "torque": "9", "remade": true}))).await;
    shop.said(&again, "B1", drop_of("positive", "post", "3.3")).await;
    assert!(joints(&shop, &again).await["torque"][0]["torque"].as_str().unwrap().starts_with("9 N·m"));
    assert_eq!(shop.close_visit(&again, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_ne!(page["condition"], "act", "{page}");
}

#[tokio::test(flavor = "multi_thread")]
async fn torque_of_every_joint_moves_its_due_date_and_is_asked_about_where_it_is_off() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let visit = shop.visit(&bank).await;
    let (status, said) = shop.say(&visit, "A", joint(json!({"joint": "torqued", "torque": "9"}))).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("place")));
    let (status, said) = shop.say(&visit, "", joint(json!({"joint": "torqued", "torque": "900"}))).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("torque")));
    shop.said(
        &visit,
        "",
        joint(json!({"joint": "torqued", "torque": "9", "note": "A2 took a quarter turn"})),
    )
    .await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}/joints")).await;
    assert!(page["torque_due"].as_str().unwrap().ends_with("the last was today."), "{page}");
    assert_eq!(page["torque"][0]["note"], "A2 took a quarter turn");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_that_moved_leaves_its_joints_behind() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let visit = shop.visit(&bank).await;
    read_all(&shop, &visit, "16.5").await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let bad = async || shop.get(&format!("/api/banks/{bank}")).await["findings"].to_string().contains("B1+");
    let read = async || {
        let page = shop.get(&format!("/api/banks/{bank}/joints")).await;
        let told = page["joints"].as_array().unwrap().iter().filter(|own| own["milliohms"] != "");
        told.map(|own| own["name"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert!(bad().await, "a bad joint stands");
    assert_eq!(read().await.len(), 8);
    shop.clock.pass(3 * 86_400);
    let moved =
        json!({"kind": "swapped", "battery": "A1", "other": "B1", "day": "2026-10-10", "reason": "rotated"});
    let (status, said) = shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &moved).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    assert!(!bad().await, "the joints of both were made anew, wherever they stand now");
    assert_eq!(read().await, ["A2+", "A2-", "B2+", "B2-"].map(|own| own.replace('-', "\u{2212}")));
    // What is read after it is the first of its joint, held against its mates alone.
    let again = shop.short_visit(&bank, "joints").await;
    read_all(&shop, &again, "3.6").await;
    let own = joints(&shop, &again).await;
    assert!(own["joints"].as_array().unwrap().iter().all(|j| j["condition"] != "act"), "{own}");
}
