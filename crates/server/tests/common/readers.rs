//! Who reads in what units.

use super::{Shop, answer, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// A person who reads °F, US gallons and inches; the id to ask with.
pub async fn imperial(shop: &Shop) -> String {
    let person = id();
    let units = json!({"temperature": "F", "volume": "us_gallon", "length": "inch"});
    let body = json!({"initials": "mo", "units": units, "theme": "shed", "single_keys": false});
    let (status, _) = shop.put(&format!("/api/people/{person}"), &body).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    person
}

/// What a page says to somebody.
pub async fn as_person(shop: &Shop, person: &str, path: &str) -> Value {
    let request = shop.request(Method::GET, path).header("rainshadow-person", person);
    answer(request.send().await.unwrap()).await.1
}
