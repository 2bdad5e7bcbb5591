//! Visits as a technician makes them over HTTP.

use super::report::Report;
use super::{Shop, answer, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

impl Shop {
    pub async fn visit(&self, bank: &str) -> String {
        let visit = id();
        let body = json!({"bank": bank});
        let (status, said) = self.put(&format!("/api/visits/{visit}"), &body).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        visit
    }

    pub async fn say(&self, visit: &str, place: &str, what: Value) -> (StatusCode, Value) {
        let body = json!({
            "place": place, "what": what, "taken_at": "2026-10-08T09:00:00Z",
        });
        self.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await
    }

    pub async fn said(&self, visit: &str, place: &str, what: Value) {
        let (status, said) = self.say(visit, place, what).await;
        assert_eq!((status, &said["saved"]), (StatusCode::CREATED, &json!(true)), "{said}");
    }

    pub async fn close_visit(&self, visit: &str, version: i64, device: &str) -> (StatusCode, Value) {
        let request = self.request(Method::POST, &format!("/api/visits/{visit}/close"));
        let request =
            request.header("if-match", format!("\"{version}\"")).header("rainshadow-device", device);
        answer(request.send().await.unwrap()).await
    }

    /// The report of a visit.
    pub async fn report(&self, visit: &str) -> Report {
        Report::of(&self.text(&format!("/api/visits/{visit}/report")).await)
    }

    /// A visit for one step alone.
    pub async fn short_visit(&self, bank: &str, only: &str) -> String {
        let visit = id();
        let (status, said) =
            self.put(&format!("/api/visits/{visit}"), &json!({"bank": bank, "only": only})).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        visit
    }

    pub async fn photo(&self, visit: &str, query: &str, bytes: Vec<u8>) -> (StatusCode, Value) {
        let path = format!("/api/visits/{visit}/photos/{}?{query}", id());
        answer(self.request(Method::PUT, &path).body(bytes).send().await.unwrap()).await
    }

    pub async fn text(&self, path: &str) -> String {
        let response = self.request(Method::GET, path).send().await.unwrap();
        assert_eq!(response.status(), StatusCode::OK, "{path}");
        response.text().await.unwrap()
    }
}

/// A step of the page of a visit.
pub fn step<'a>(page: &'a Value, name: &str) -> &'a Value {
    page["steps"].as_array().unwrap().iter().find(|s| s["step"] == name).unwrap()
}

/// A visit of a day on which things are said, closed again.
pub async fn visit_on(shop: &Shop, bank: &str, day: &str, said: &[(&str, Value)]) -> String {
    let visit = id();
    let at = format!("{day}T09:00:00Z");
    let body = json!({"bank": bank, "day": day});
    let (status, answer) = shop.put(&format!("/api/visits/{visit}"), &body).await;
    assert_eq!(status, StatusCode::CREATED, "{answer}");
    for (place, what) in said {
        let body = json!({"place": place, "what": what, "taken_at": at});
        let (status, answer) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
        assert_eq!(
            (status, &answer["saved"]),
            (StatusCode::CREATED, &json!(true)),
            "{place} {what}: {answer}"
        );
    }
    let request = shop.request(Method::POST, &format!("/api/visits/{visit}/close"));
    let request = request.header("if-match", "\"1\"").json(&json!({}));
    assert_eq!(request.send().await.unwrap().status(), StatusCode::OK);
    visit
}
