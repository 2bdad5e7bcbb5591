//! What charges a bank and hangs on it, as typed: what does not fit is named field by field, what fits
//! is planned with.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, answer};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn put(shop: &Shop, bank: &str, version: i64, equipment: Value) -> (StatusCode, Value) {
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/equipment"))
        .header("if-match", format!("\"{version}\""))
        .json(&json!({"equipment": equipment}));
    answer(request.send().await.unwrap()).await
}

fn faults(said: &Value) -> Vec<&str> {
    said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect()
}

#[tokio::test]
async fn every_field_that_does_not_fit_is_named_at_once() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let body = json!({
        "charger": {"absorption": "many", "compensates": true, "millivolts": "12", "amperes": "-3"},
        "sun_from": "9:00", "sun_to": "8:00", "dark": "25:00",
        "loads": [{"name": "", "highest_volts": "60"}, {"name": "drive", "highest_volts": "lots"}],
        "enclosure": "0", "feed": "charger.example", "feed_unit": "300",
    });
    let (status, said) = put(&shop, &bank, 0, body).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let mut fields = faults(&said);
    fields.sort_unstable();
    assert_eq!(
        fields,
        [
            "absorption",
            "amperes",
            "dark",
            "enclosure",
            "feed",
            "feed_unit",
            "loads[0].name",
            "loads[1].highest_volts",
            "millivolts",
            "sun_to"
        ]
    );
    // nothing of it was kept
    assert_eq!(shop.get(&format!("/api/banks/{bank}/equipment")).await["version"], 0);
}

#[tokio::test]
async fn sun_fuel_and_what_compensates_go_into_the_plan() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let body = json!({
        "charger": {"equalize": "61.9", "compensates": true, "reference": {"typed": "68", "unit": "F"}},
        "fuel_rate": {"typed": "1", "unit": "us_gallon"}, "fuel_there": {"typed": "4", "unit": "us_gallon"},
        "dark": "18:30",
    });
    let (status, said) = put(&shop, &bank, 0, body.clone()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let asked = json!({"kind": "corrective", "temperature": {"typed": "10"}});
    let (_, page) = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &asked).await;
    let plan = &page["plan"];
    // CH-2: 63.72 V at 10 °C; a charger stated at 20 °C adds 24 · 0.005 · 10 = 1.2 V by itself
    assert_eq!((&plan["setpoint"], &plan["typed_compensating"]), (&json!("63.7"), &json!("62.5")));
    // 4.5 h are 5.25 h by the clock at 3.785 L an hour: 19.9 L of the 15.1 that are there
    let day = plan["day"].to_string();
    assert!(day.contains("Fuel: 19.9 L as a rule") && day.contains("there are 15.1 L"), "{day}");
    assert_eq!(plan["day_condition"], "act");
    // what was typed comes back as typed
    let again = shop.get(&format!("/api/banks/{bank}/equipment")).await;
    assert_eq!((&again["equipment"]["fuel_rate"], &again["person"]), (&body["fuel_rate"], &json!("TA")));
}

#[tokio::test]
async fn a_sealed_bank_with_a_flooded_charger_is_told_so() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let body = json!({"charger": {"absorption": "28.8", "equalize": "31", "flooded_only": true}});
    let (_, said) = put(&shop, &bank, 0, body).await;
    // CH-3: AGM on a flooded-only charger, or an equalize left on for sealed: act
    assert_eq!(said["now"]["condition"], "act");
    assert!(said["now"]["verdict"].as_str().unwrap().contains("only dries sealed ones out"), "{said}");
    let equalize = &said["now"]["stages"].as_array().unwrap()[1];
    assert!(equalize["said"].as_str().unwrap().contains("Sealed batteries vent under an equalize"));
}
