//! Files of monitors as tests write them, and the roads they take.
#![allow(clippy::cast_precision_loss, reason = "hours of weeks")]

use super::{Shop, answer};
use jiff::{SignedDuration, Timestamp};
use reqwest::header::CONTENT_LENGTH;
use reqwest::{Method, Response, StatusCode};
use serde_json::Value;
use std::fmt::Write as _;
use tokio::sync::mpsc::Sender;
use tokio::task::JoinHandle;

/// Days of a 48 V bank of 840 Ah, a line every ten minutes: 40 A out in the evening, charged by day to so many volts with
/// the current at the tail in the end.
pub fn days(from: &str, count: i64, absorption: f64) -> String {
    days_of(from, count, |hour, step| match hour {
        h if h < 8.0 => (49.9, -2.0),
        h if h < 14.0 => (54.0, 46.0 + 8.0 * step),
        h if h < 16.0 => (absorption, 12.0 + step),
        h if h < 18.0 => (50.6, -2.0),
        _ => (48.6, -40.0 - 8.0 * step),
    })
}

/// The same with any day; `step` is 0 and 1 by turns.
pub fn days_of(from: &str, count: i64, at: impl Fn(f64, f64) -> (f64, f64)) -> String {
    let from: Timestamp = from.parse().unwrap();
    let mut text = String::from("Time,Bank voltage (V),Bank current (A),Temp (\u{b0}C)\n");
    for k in 0..count * 144 {
        let step = (k % 2) as f64;
        let (volts, amperes) = at((k % 144) as f64 / 6.0, step);
        // A bank has a resistance: more goes in, more volts.
        let volts = volts + 0.002 * amperes;
        let when = from + SignedDuration::from_mins(10 * k);
        writeln!(text, "{when},{volts:.2},{amperes:.1},24").unwrap();
    }
    text
}

pub async fn look(
    shop: &Shop,
    query: &[(&str, &str)],
    body: impl Into<reqwest::Body>,
) -> (StatusCode, Value) {
    let request = shop.request(Method::POST, "/api/records/look").query(query);
    answer(request.body(body).send().await.unwrap()).await
}

/// As the file tells, with what it leaves open.
pub async fn source(shop: &Shop, text: &str) -> Value {
    let (status, looked) = look(shop, &[], text.to_owned()).await;
    assert_eq!(status, StatusCode::OK, "{looked}");
    let mut own = looked["source"].clone();
    own["name"] = "monitor".into();
    own["positive"] = "charges".into();
    own
}

pub async fn read(shop: &Shop, bank: &str, record: &str, source: &Value, text: &str) -> (StatusCode, Value) {
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/records/{record}"))
        .query(&[("source", source.to_string()), ("file", "monitor.csv".into())]);
    answer(request.body(text.to_owned()).send().await.unwrap()).await
}

pub async fn page(shop: &Shop, bank: &str) -> Value {
    shop.get(&format!("/api/banks/{bank}/record")).await
}

/// 48 V of two strings, 840 Ah.
pub async fn big(shop: &Shop) -> String {
    shop.bank_of("flooded-6v-420", 48, 8, 2).await
}

/// A file of which the first half has come, and the way for the rest.
pub async fn half_read(
    shop: &Shop,
    bank: &str,
    record: &str,
    text: &str,
) -> (Sender<std::io::Result<String>>, JoinHandle<reqwest::Result<Response>>) {
    let own = source(shop, text).await;
    let (pieces, body) = tokio::sync::mpsc::channel::<std::io::Result<String>>(1);
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/records/{record}"))
        .query(&[("source", own.to_string()), ("file", "monitor.csv".into())])
        .header(CONTENT_LENGTH, text.len())
        .body(reqwest::Body::wrap_stream(tokio_stream::wrappers::ReceiverStream::new(body)));
    let sender = tokio::spawn(request.send());
    pieces.send(Ok(text[..text.len() / 2].to_owned())).await.unwrap();
    let progress = format!("/api/records/{record}/progress");
    let under_way = async { while shop.get(&progress).await["bytes"] == 0 {} };
    tokio::time::timeout(std::time::Duration::from_secs(30), under_way).await.expect("it is being read");
    (pieces, sender)
}
