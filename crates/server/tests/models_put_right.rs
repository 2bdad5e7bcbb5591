//! A battery model that was always wrong is put right, and what was judged by it is judged anew.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, answer, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn put_right(shop: &Shop, model: &str, version: i64, figures: &Value) -> (StatusCode, Value) {
    let request = shop.request(Method::PUT, &format!("/api/models/{model}"));
    answer(request.header("if-match", format!("\"{version}\"")).json(figures).send().await.unwrap()).await
}

/// A model of the shop's own that calls a cell full at 1.300, and its figures as typed.
async fn wrong_model(shop: &Shop) -> (String, Value) {
    let models = shop.get("/api/models").await;
    let shipped = models.as_array().unwrap().iter().find(|m| m["id"] == "flooded-6v-420").unwrap();
    let mut figures = shipped["typed"].clone();
    figures["name"] = json!("Own 6 V 420 Ah");
    figures["full_gravity"] = json!("1.300");
    figures["soc_table"] = json!([]);
    let model = id();
    assert_eq!(shop.put(&format!("/api/models/{model}"), &figures).await.0, StatusCode::CREATED);
    (model, figures)
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_judged_by_wrong_figures_is_judged_anew_and_a_closed_report_stays() {
    let shop = Shop::open().await;
    let (model, mut figures) = wrong_model(&shop).await;
    let bank = shop.bank_of(&model, 6, 1, 1).await;
    let visit = shop.visit(&bank).await;
    let round = shop.round(&bank).await;
    for cell in ["A1-1", "A1-2", "A1-3"] {
        assert_eq!(shop.read(&round, cell, "1265").await.0, StatusCode::CREATED);
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let stands = async || {
        let page = shop.get(&format!("/api/banks/{bank}")).await;
        let evidence = page["evidence"].as_array().unwrap().iter().find(|e| e["before"] == "charge").cloned();
        evidence.unwrap()["figure"].clone()
    };
    let before = stands().await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let closed = shop.text(&format!("/api/visits/{visit}/report")).await;
    // it is put right while the next visit is open
    let open = shop.visit(&bank).await;
    figures["full_gravity"] = json!("1.265");
    assert_eq!(put_right(&shop, &model, 1, &figures).await.0, StatusCode::CREATED);
    let after = stands().await;
    // 1.265 lies 81 % of the way from 1.120 to 1.300, and is full at 1.265 (SG-2, scaled)
    assert_eq!((before, after), (json!("81"), json!("100")));
    assert_eq!(shop.text(&format!("/api/visits/{visit}/report")).await, closed, "what was given out stays");
    assert!(shop.get(&format!("/api/visits/{open}")).await["model"].as_str().unwrap().starts_with("Own 6 V"));
    let kept = shop.get("/api/models").await[0].clone();
    assert_eq!((&kept["version"], &kept["banks"]), (&json!(2), &json!(1)));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_would_break_a_bank_is_refused_and_two_people_do_not_overwrite_each_other() {
    let shop = Shop::open().await;
    let (model, figures) = wrong_model(&shop).await;
    shop.bank_of(&model, 6, 1, 1).await;
    let with = |field: &str, value: Value| {
        let mut changed = figures.clone();
        changed[field] = value;
        changed
    };
    for (body, field, part) in [
        (with("cells", json!("6")), "cells", "A bank stands on this model"),
        (with("construction", json!("agm")), "construction", "A bank stands on this model"),
        (
            with("rates", json!([{"hours": "5", "capacity": "180"}, {"hours": "20", "capacity": "225"}])),
            "rates",
            "tells 225 Ah at 20 hours, but C20 is 420 Ah",
        ),
    ] {
        let mut body = body;
        if field == "construction" {
            body["equalize"] = Value::Null;
        }
        let (status, said) = put_right(&shop, &model, 1, &body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        assert_eq!(said["errors"][0]["field"], field, "{said}");
        assert!(said["errors"][0]["message"].as_str().unwrap().contains(part), "{said}");
    }
    let right = with("full_gravity", json!("1.270"));
    assert_eq!(put_right(&shop, &model, 1, &right).await.0, StatusCode::CREATED);
    assert_eq!(put_right(&shop, &model, 2, &right).await.0, StatusCode::OK, "the same again");
    let other = with("full_gravity", json!("1.280"));
    assert_eq!(
        put_right(&shop, &model, 1, &other).await.0,
        StatusCode::PRECONDITION_FAILED,
        "an older version was seen"
    );
    let (status, said) = put_right(&shop, &id(), 1, &right).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "{said}");
}

/// A bank of one battery on a model, and a round of 1.265 in every cell that was finished on its day.
async fn read_bank(shop: &Shop, bank: &str) -> String {
    let round = shop.round(bank).await;
    for cell in ["A1-1", "A1-2", "A1-3"] {
        assert_eq!(shop.read(&round, cell, "1265").await.0, StatusCode::CREATED);
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    round
}

/// How the rounds of a bank were judged, newest first: far from full at 81 %, or in order.
async fn conditions(shop: &Shop, bank: &str) -> Vec<String> {
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let history = page["history"].as_array().unwrap();
    history.iter().map(|h| h["condition"].as_str().unwrap().to_owned()).collect()
}

async fn exchange(shop: &Shop, bank: &str, model: &str, from: Option<&str>) -> (StatusCode, Value) {
    let version = shop.get(&format!("/api/banks/{bank}/model")).await["version"].clone();
    let request = shop.request(Method::POST, &format!("/api/banks/{bank}/model"));
    let body = json!({"model": model, "from": from});
    answer(request.header("if-match", format!("\"{version}\"")).json(&body).send().await.unwrap()).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_is_given_another_model_from_a_day_on_or_for_always() {
    let shop = Shop::open().await;
    let (wrong, mut figures) = wrong_model(&shop).await;
    figures["name"] = json!("Own 6 V, full at 1.265");
    figures["full_gravity"] = json!("1.265");
    let right = id();
    shop.put(&format!("/api/models/{right}"), &figures).await;
    let bank = shop.bank_of(&wrong, 6, 1, 1).await;
    read_bank(&shop, &bank).await;
    shop.clock.pass(20 * 86_400);
    read_bank(&shop, &bank).await;
    // 81 % of the way to 1.300, 100 % of the way to 1.265 (SG-2, scaled)
    assert_eq!(conditions(&shop, &bank).await, ["watch", "watch"]);
    assert_eq!(exchange(&shop, &bank, &right, Some("2026-10-20")).await.0, StatusCode::NO_CONTENT);
    assert_eq!(conditions(&shop, &bank).await, ["steady", "watch"], "what is before stays");
    let own = shop.get(&format!("/api/banks/{bank}/model")).await;
    assert_eq!((&own["model"], &own["former"][0]["name"]), (&json!(right), &json!("Own 6 V 420 Ah")));
    let said = own["former"][0]["said"].as_str().unwrap();
    assert!(said.starts_with("until 20 Oct 2026; exchanged on 28 Oct 2026 by TA"), "{said}");

    // a file carries both, and a bank that comes from it is judged alike
    let file = shop.text(&format!("/api/banks/{bank}/export.json")).await;
    let there = Shop::open().await;
    there.clock.pass(20 * 86_400);
    let (status, taken) =
        there.send(Method::POST, "/api/import", &serde_json::from_str(&file).unwrap()).await;
    assert!(status.is_success(), "{taken}");
    assert_eq!(conditions(&there, &bank).await, ["steady", "watch"]);

    // it was always that one after all
    assert_eq!(exchange(&shop, &bank, &wrong, None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(conditions(&shop, &bank).await, ["watch", "watch"]);
    assert_eq!(exchange(&shop, &bank, &right, None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(conditions(&shop, &bank).await, ["steady", "steady"]);

    // what does not fit, and a day to come, are named
    for (model, from, field, part) in [
        ("agm-12v-100", None, "model", "accepted is a model of 3 cells in a case, with caps"),
        (wrong.as_str(), Some("2030-01-01"), "from", "lies in the future"),
        (wrong.as_str(), Some("soon"), "from", "is no day"),
        (wrong.as_str(), Some(""), "from", "A day is missing"),
        (right.as_str(), None, "model", "stands on this model already"),
    ] {
        let (status, said) = exchange(&shop, &bank, model, from).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        assert_eq!(said["errors"][0]["field"], field);
        assert!(said["errors"][0]["message"].as_str().unwrap().contains(part), "{said}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn new_figures_from_a_day_on_leave_what_was_before() {
    let shop = Shop::open().await;
    let (model, mut figures) = wrong_model(&shop).await;
    let bank = shop.bank_of(&model, 6, 1, 1).await;
    read_bank(&shop, &bank).await;
    shop.clock.pass(20 * 86_400);
    read_bank(&shop, &bank).await;
    figures["name"] = json!("Own 6 V 420 Ah, sheet of 2026");
    figures["full_gravity"] = json!("1.265");
    let body = json!({"id": id(), "from": "2026-10-20", "model": figures});
    let path = format!("/api/models/{model}/successor");
    assert_eq!(shop.send(Method::POST, &path, &body).await.0, StatusCode::CREATED);
    assert_eq!(shop.send(Method::POST, &path, &body).await.0, StatusCode::OK, "the same again");
    assert_eq!(conditions(&shop, &bank).await, ["steady", "watch"]);
    let banks = |models: &Value| -> Vec<(String, i64)> {
        let own = models.as_array().unwrap().iter().filter(|m| m["shipped"] == false);
        own.map(|m| (m["model"]["name"].as_str().unwrap().to_owned(), m["banks"].as_i64().unwrap())).collect()
    };
    let all = banks(&shop.get("/api/models").await);
    assert!(all.contains(&("Own 6 V 420 Ah".into(), 0)), "{all:?}");
    assert!(all.contains(&("Own 6 V 420 Ah, sheet of 2026".into(), 1)), "{all:?}");
    let (status, said) = shop
        .send(
            Method::POST,
            "/api/models/flooded-6v-420/successor",
            &json!({"id": id(), "from": "2026-10-20", "model": body["model"]}),
        )
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "what ships is not put right: {said}");
}
