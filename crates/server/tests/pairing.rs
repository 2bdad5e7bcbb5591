//! Devices are let in by a code that the desk opens, and shut out again.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use reqwest::{Method, StatusCode};
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn a_phone_is_let_in_by_its_code_and_shut_out_again() {
    let shop = Shop::open_as(vec!["bench.local".into()]).await;
    let port = shop.base.rsplit(':').next().unwrap().to_owned();
    let phone = |method: Method, path: &str, cookie: Option<&str>| {
        let request = shop.request(method, path).header("host", format!("bench.local:{port}"));
        match cookie {
            Some(cookie) => request.header("cookie", cookie),
            None => request,
        }
    };
    let status = async |request: reqwest::RequestBuilder| request.send().await.unwrap().status();
    assert_eq!(status(phone(Method::GET, "/api/banks", None)).await, StatusCode::FORBIDDEN);
    assert_eq!(status(phone(Method::POST, "/api/devices/code", None)).await, StatusCode::FORBIDDEN);
    let elsewhere = shop.request(Method::GET, "/api/meta").header("host", "evil.example");
    assert_eq!(status(elsewhere).await, StatusCode::FORBIDDEN);
    let (_, opened) = shop.send(Method::POST, "/api/devices/code", &json!({})).await;
    assert_eq!(opened["address"], format!("http://bench.local:{port}/pair"));
    assert!(opened["qr"].as_str().unwrap().contains("<svg"));
    let code = opened["code"].as_str().unwrap();
    let wrong = if code == "00000000" { "00000001" } else { "00000000" };
    let typed = |code: &str| {
        phone(Method::POST, "/api/pair", None).json(&json!({"code": code, "name": "MO's phone"}))
    };
    assert_eq!(status(typed(wrong)).await, StatusCode::UNPROCESSABLE_ENTITY);
    let answer = typed(code).send().await.unwrap();
    assert_eq!(answer.status(), StatusCode::NO_CONTENT);
    let cookie = answer.headers()["set-cookie"].to_str().unwrap().to_owned();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    assert_eq!(status(typed(code)).await, StatusCode::UNPROCESSABLE_ENTITY, "good once");
    let cookie = cookie.split(';').next().unwrap();
    assert_eq!(status(phone(Method::GET, "/api/banks", Some(cookie))).await, StatusCode::OK);
    assert_eq!(
        status(phone(Method::POST, "/api/devices/code", Some(cookie))).await,
        StatusCode::FORBIDDEN,
        "codes are opened on the desk"
    );
    let devices = shop.get("/api/devices").await;
    assert_eq!(devices["devices"][0]["name"], "MO's phone");
    let device = devices["devices"][0]["id"].as_str().unwrap();
    shop.send(Method::POST, &format!("/api/devices/{device}/revoke"), &json!({})).await;
    assert_eq!(status(phone(Method::GET, "/api/banks", Some(cookie))).await, StatusCode::FORBIDDEN);
}

#[tokio::test(flavor = "multi_thread")]
async fn on_loopback_alone_there_is_nothing_to_pair() {
    let shop = Shop::open().await;
    let (status, said) = shop.send(Method::POST, "/api/devices/code", &json!({})).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(said["detail"].as_str().unwrap().contains("--listen and --host"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn guessing_codes_voids_them_and_then_shuts_the_door() {
    let shop = Shop::open_as(vec!["bench.local".into()]).await;
    let port = shop.base.rsplit(':').next().unwrap().to_owned();
    let open = async || {
        let (_, opened) = shop.send(Method::POST, "/api/devices/code", &json!({})).await;
        opened["code"].as_str().unwrap().to_owned()
    };
    let typed = async |code: &str| {
        let request = shop.request(Method::POST, "/api/pair").header("host", format!("bench.local:{port}"));
        let answer = request.json(&json!({"code": code, "name": "stranger"})).send().await.unwrap();
        (answer.status(), answer.text().await.unwrap())
    };
    let mut wrong_ones = 0;
    for _ in 0..2 {
        let code = open().await;
        for guess in 0..5 {
            let wrong = format!("{guess:08}");
            let (status, said) = typed(if wrong == code { "99999999" } else { &wrong }).await;
            wrong_ones += 1;
            let wanted = if wrong_ones < 10 {
                StatusCode::UNPROCESSABLE_ENTITY
            } else {
                StatusCode::TOO_MANY_REQUESTS
            };
            assert_eq!(status, wanted, "{wrong_ones}: {said}");
        }
    }
    let (status, said) = typed("12345678").await;
    assert_eq!(status, StatusCode::TOO_MANY_REQUESTS, "{said}");
    assert!(said.contains("/problems/locked"), "{said}");
    // who stands at the desk opens the door again
    let code = open().await;
    assert_eq!(typed(&code).await.0, StatusCode::NO_CONTENT);
}
