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
