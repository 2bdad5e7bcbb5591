//! One battery is replaced: the house's limit for a new one, a used one with its tests, where the old one goes.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn replaced(battery: &str, day: &str) -> Value {
    json!({"kind": "replaced", "battery": battery, "day": day, "serial": "77-1", "reason": "dead cell"})
}

#[tokio::test(flavor = "multi_thread")]
async fn the_limit_for_a_new_one_is_applied_a_used_one_brings_its_tests_and_the_old_one_goes_somewhere() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let version = shop.get(&format!("/api/banks/{bank}")).await["bank"]["version"].clone();
    let aged = json!({"site_name": "Marginalia", "zone": "UTC", "in_service": "2023-10", "layout": {"rows_per_string": 1}});
    let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
    let request = request.header("if-match", format!("\"{version}\"")).json(&aged);
    assert_eq!(crate::common::answer(request.send().await.unwrap()).await.0, StatusCode::NO_CONTENT);
    let told = shop.get(&format!("/api/banks/{bank}/taken-out")).await;
    assert_eq!(told["one_new_condition"], "act");
    assert!(told["one_new"].as_str().unwrap().contains("this one is 3.0 years old"), "{told}");

    // a new one is asked about, and can be kept
    let visit = shop.visit(&bank).await;
    let mut change = replaced("A2", "2026-10-08");
    change["gone"] = json!("core_credit");
    let path = format!("/api/banks/{bank}/changes/{}", id());
    let (status, said) = shop.put(&path, &change).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("all_the_same"))
    );
    change["all_the_same"] = json!(true);
    assert_eq!(shop.put(&path, &change).await.0, StatusCode::CREATED);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let line = "A2 was replaced by TA: dead cell. The old one went back for its core credit.";
    assert_eq!(page["changes"][0]["said"], line);
    assert!(shop.report(&visit).await.under("What was done").contains(&line.to_owned()));
    // what went back is not offered again; what is kept is
    let left = shop.get(&format!("/api/banks/{bank}/taken-out")).await;
    assert_eq!(left["taken_out"], json!([]));

    let mut odd = replaced("A1", "2026-10-08");
    odd["brought"] = json!({"months": "old", "capacity": "92"});
    let (_, said) = shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &odd).await;
    assert_eq!(said["errors"][0]["field"], "months", "{said}");
    odd["brought"] = json!({"months": "30", "capacity": "92", "milliohms": "3.1"});
    odd["gone"] = json!("kept");
    assert_eq!(shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &odd).await.0, StatusCode::CREATED);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        page["changes"][0]["said"],
        "A1 was replaced by TA: dead cell. What came in: used, 2.5 years old, tested at 92 %, 3.10 mΩ. A match: \
         6 months younger than the bank, tested at 92 % of its capacity (RP-2: within 12 months and 10 %). The old \
         one went to the shelf, to be used again."
    );
    let left = shop.get(&format!("/api/banks/{bank}/taken-out")).await;
    assert_eq!(left["taken_out"].as_array().unwrap().len(), 1);
    // it travels with the bank
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    assert!(file["changes"].to_string().contains("core_credit"), "{}", file["changes"]);
}
