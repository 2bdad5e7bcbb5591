//! Runs of an equalize as tests make them.

use super::{Shop, id, reading};
use reqwest::StatusCode;
use serde_json::{Value, json};

/// Every cell of the two batteries read, one of them low.
pub async fn read_bank(shop: &Shop, bank: &str, low: &str) -> String {
    let round = shop.round(bank).await;
    for cell in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"] {
        let mut body = reading(cell, if cell == "A2-2" { low } else { "1277" });
        body["stands"] = json!(true);
        shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &body).await;
    }
    let (status, said) = shop.finish(&round, 1, "desk").await;
    assert_eq!(status, StatusCode::OK, "{said}");
    round
}

pub fn celsius(typed: &str) -> Value {
    json!({"typed": typed, "unit": "C"})
}

/// Opens a run with A2-2 as its pilot; its id.
pub async fn open_run(shop: &Shop, bank: &str) -> String {
    let run = id();
    let body = json!({"bank": bank, "kind": "corrective", "temperature": celsius("20"), "pilot": "A2-2"});
    let (status, said) = shop.put(&format!("/api/runs/{run}"), &body).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    run
}

/// Writes one thing down.
pub async fn say(shop: &Shop, run: &str, what: Value) -> (StatusCode, Value) {
    shop.put_by(("TA", "phone"), &format!("/api/runs/{run}/entries/{}", id()), &what).await
}

pub async fn confirm_all(shop: &Shop, run: &str) {
    let page = shop.get(&format!("/api/runs/{run}")).await;
    for check in page["checks"].as_array().unwrap() {
        let (status, said) = say(shop, run, json!({"what": "confirmed", "check": check["check"]})).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
    }
}

/// Opens a run, sees to everything and begins it; its id.
pub async fn begun(shop: &Shop, bank: &str) -> String {
    let run = open_run(shop, bank).await;
    confirm_all(shop, &run).await;
    say(shop, &run, json!({"what": "began"})).await;
    run
}

pub fn read_as(pilot: &str, temperature: &str) -> Value {
    json!({"what": "read", "gravities": [pilot, "1277", "1277"], "temperature": celsius(temperature), "volts": "15.9", "amperes": "9"})
}

/// A whole run to its end by the rule; the visit it belongs to.
pub async fn whole_run(shop: &Shop, bank: &str) -> (String, String) {
    let run = begun(shop, bank).await;
    for pilot in ["1240", "1247", "1252", "1255", "1256", "1256", "1257"] {
        let (status, said) = say(shop, &run, read_as(pilot, "25")).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        if pilot == "1256" {
            let page = shop.get(&format!("/api/runs/{run}")).await;
            assert!(page["forecast"].as_str().unwrap().starts_with("Plateau 1.2"), "{}", page["forecast"]);
        }
        shop.clock.pass(1800);
    }
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!(page["alarm"], "stop", "{}", page["rule"]);
    assert!(page["verdict"].as_str().unwrap().starts_with("Stop: the gravity has stopped rising."));
    say(shop, &run, json!({"what": "stopped"})).await;
    (run, page["visit"].as_str().unwrap().to_owned())
}
