//! What was taken back or taken out is put back as it was: amounts of water, readings of a run, photographs.

#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, id, jpeg, runs};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// Takes an entry back; the id of what took it back.
async fn withdraw(shop: &Shop, log: &str, body: Value) -> String {
    let back = id();
    let (status, said) = shop.put_by(("TA", "desk"), &format!("{log}/entries/{back}"), &body).await;
    assert_eq!((status, &said["saved"]), (StatusCode::CREATED, &json!(true)), "{said}");
    back
}

#[tokio::test(flavor = "multi_thread")]
async fn water_that_was_taken_back_counts_again_when_that_is_taken_back() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let water =
        json!({"kind": "water", "typed": "300", "unit": "millilitre", "to_mark": true, "stands": true});
    shop.said(&visit, "A1-1", water).await;
    let now = async || shop.get(&format!("/api/visits/{visit}")).await;
    let poured = step(&now().await, "water")["water"]["total"].clone();
    let entry = step(&now().await, "water")["water"]["entries"][0]["entry"].clone();
    let log = format!("/api/visits/{visit}");
    let what = |entry: &Value| json!({"place": "", "what": {"kind": "withdrawn", "entry": entry}, "taken_at": "2026-10-08T09:05:00Z"});
    let back = withdraw(&shop, &log, what(&entry)).await;
    assert_eq!(step(&now().await, "water")["water"]["total"], "");
    withdraw(&shop, &log, what(&json!(back))).await;
    let page = now().await;
    assert_eq!(step(&page, "water")["water"]["total"], poured);
    assert_eq!(step(&page, "water")["water"]["entries"][0]["entry"], entry, "it is the same entry");
    let (status, said) = shop.say(&visit, "", what(&json!(id()))["what"].clone()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "nothing of that name was written: {said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_of_a_run_that_was_taken_back_stands_again() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    runs::read_bank(&shop, &bank, "1240").await;
    let run = runs::begun(&shop, &bank).await;
    runs::say(&shop, &run, runs::read_as("1240", "20")).await;
    let readings = async || shop.get(&format!("/api/runs/{run}")).await["readings"].clone();
    let before = readings().await;
    let log = format!("/api/runs/{run}");
    let taken = withdraw(&shop, &log, json!({"what": "withdrawn", "entry": before[0]["id"]})).await;
    assert_eq!(readings().await, json!([]));
    withdraw(&shop, &log, json!({"what": "withdrawn", "entry": taken})).await;
    assert_eq!(readings().await, before);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photograph_that_was_taken_out_is_put_back_while_the_visit_is_open() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    assert_eq!(shop.photo(&visit, "what=other", jpeg(40, 30, 9)).await.0, StatusCode::CREATED);
    let photos = async || shop.get(&format!("/api/visits/{visit}")).await["photos"].clone();
    let before = photos().await;
    let photo = before[0]["id"].as_str().unwrap().to_owned();
    let ask = async |method: Method, path: &str| shop.request(method, path).send().await.unwrap().status();
    let out = format!("/api/photos/{photo}");
    let back = format!("/api/photos/{photo}/restore");
    assert_eq!(ask(Method::DELETE, &out).await, StatusCode::NO_CONTENT);
    assert_eq!(photos().await, json!([]));
    assert_eq!(ask(Method::POST, &back).await, StatusCode::NO_CONTENT);
    assert_eq!(photos().await, before);
    assert_eq!(ask(Method::POST, &format!("/api/photos/{}/restore", id())).await, StatusCode::NOT_FOUND);
    // closed, its photographs stay as they are
    assert_eq!(ask(Method::DELETE, &out).await, StatusCode::NO_CONTENT);
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    assert_eq!(ask(Method::POST, &back).await, StatusCode::CONFLICT);
}
