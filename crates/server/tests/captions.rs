//! What is written under a photograph: typed on an open visit, printed in the report, seen on the next visit.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, jpeg};
use reqwest::StatusCode;
use serde_json::{Value, json};

fn caption(seen: &str, text: &str) -> Value {
    json!({"seen": seen, "caption": text})
}

#[tokio::test]
async fn a_photograph_carries_words_into_report_and_next_visit() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let (_, photo) = shop.photo(&visit, "what=wiring", jpeg(40, 30, 9)).await;
    let path = format!("/api/photos/{}/caption", photo["id"].as_str().unwrap());
    let words = "two bands of red tape: inverter";
    assert_eq!(shop.put(&path, &caption("", words)).await.0, StatusCode::NO_CONTENT);
    // The same again by somebody whose answer was lost; other words by somebody who saw none are refused.
    assert_eq!(shop.put(&path, &caption("", words)).await.0, StatusCode::NO_CONTENT);
    let (status, said) = shop.put(&path, &caption("", "the shunt")).await;
    assert_eq!(
        (status, &said["theirs"]["caption"]),
        (StatusCode::PRECONDITION_FAILED, &json!(words)),
        "{said}"
    );
    let (status, said) = shop.put(&path, &caption(words, &"x".repeat(100_000))).await;
    assert!(status.is_client_error() && said.to_string().contains("caption"), "{status}");

    // A photograph of another kind on a later visit does not hide the wiring.
    shop.close_visit(&visit, 1, "desk").await;
    assert!(shop.report(&visit).await.all().contains(words));
    assert_eq!(shop.put(&path, &caption(words, "late")).await.0, StatusCode::CONFLICT, "closed is closed");
    shop.clock.pass(86_400);
    let second = shop.visit(&bank).await;
    shop.photo(&second, "what=finding&subject=top&place=A1", jpeg(40, 30, 99)).await;
    shop.close_visit(&second, 1, "desk").await;
    shop.clock.pass(86_400);
    let third = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{third}")).await;
    let before: Vec<(&Value, &Value)> =
        page["photos_before"].as_array().unwrap().iter().map(|p| (&p["what"], &p["note"])).collect();
    assert!(before.contains(&(&json!("wiring"), &json!(words))), "{before:?}");
    assert_eq!(before.len(), 2);
}
