//! Somebody who acts, on a device of his own: who that is stands in the headers of a request.
#![allow(dead_code, clippy::unwrap_used, reason = "each file uses its own part, and helpers fail loudly")]

use reqwest::{Client, StatusCode};
use serde_json::json;
use uuid::Uuid;

/// The id of a person in these tests.
pub fn person(initials: &str) -> String {
    Uuid::from_u128(initials.bytes().fold(0x70, |id, letter| (id << 8) | u128::from(letter))).to_string()
}

/// A client of TA at the desk.
pub fn acting() -> Client {
    let mut headers = reqwest::header::HeaderMap::new();
    headers.insert("rainshadow-person", person("TA").parse().unwrap());
    headers.insert("rainshadow-device", "desk".parse().unwrap());
    Client::builder().default_headers(headers).build().unwrap()
}

/// Makes a person known.
pub async fn known(client: &Client, base: &str, initials: &str) {
    let body = json!({"initials": initials, "single_keys": true, "theme": "light"});
    let sent =
        client.put(format!("{base}/api/people/{}", person(initials))).json(&body).send().await.unwrap();
    // Somebody who changed his units since is known all the same.
    assert!(sent.status().is_success() || sent.status() == StatusCode::PRECONDITION_REQUIRED);
}

/// Makes TA known, as a page does when it is opened.
pub async fn introduce(client: &Client, base: &str) {
    known(client, base, "TA").await;
}
