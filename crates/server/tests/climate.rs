//! The climate of a site over HTTP: read from what somebody has, kept with the site, carried in files, and
//! what a forecast of water makes of it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::{step, visit_on};
use crate::common::{Shop, answer};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// A mild place, made up.
const MILD: [f64; 12] = [2.0, 3.0, 7.0, 11.0, 16.0, 20.0, 22.0, 21.0, 17.0, 12.0, 6.0, 3.0];

async fn read(shop: &Shop, asked: &Value) -> (StatusCode, Value) {
    shop.send(Method::POST, "/api/climates/read", asked).await
}

/// Puts the site of a bank right.
async fn describe(shop: &Shop, bank: &str, climate: &Value, southern: bool) -> (StatusCode, Value) {
    let version = shop.get(&format!("/api/banks/{bank}")).await["bank"]["version"].clone();
    let body = json!({"site_name": "Marginalia", "zone": "UTC", "layout": {},
        "climate": climate, "southern": southern});
    let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
    answer(request.header("if-match", format!("\"{version}\"")).json(&body).send().await.unwrap()).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_climate_is_read_as_typed_as_a_table_and_from_those_that_ship() {
    let shop = Shop::open().await;
    let typed: Vec<String> = MILD.iter().map(ToString::to_string).collect();
    let (status, sheet) = read(&shop, &json!({"from": "typed", "typed": typed})).await;
    assert_eq!((status, &sheet["means"]), (StatusCode::OK, &json!(MILD)), "{sheet}");
    assert_eq!(sheet["said"], "11.7 °C over the year; coldest January at 2 °C, warmest July at 22 °C.");
    // out as a table, in again as it was
    let (_, again) = read(&shop, &json!({"from": "csv", "csv": sheet["csv"]})).await;
    assert_eq!(again, sheet);

    // each month that does not fit is named, and nothing else
    let mut odd = typed.clone();
    (odd[6], odd[10]) = ("77".into(), String::new());
    let (status, said) = read(&shop, &json!({"from": "typed", "typed": odd})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let fields: Vec<&str> =
        said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
    assert_eq!(fields, ["typed.6", "typed.10"]);
    let detail = said["detail"].as_str().unwrap();
    assert!(
        detail.contains("Is it 77 °F, which is 25 °C") && detail.contains("November is empty"),
        "{detail}"
    );
    // ten years of days
    let mut days = String::from("date,fahrenheit\n");
    for year in 2015..2025 {
        for (month, day) in (1..=12).flat_map(|month| (1..=28).map(move |day| (month, day))) {
            let line = format!("{year}-{month:02}-{day:02},{}\n", 40 + month);
            days.push_str(&line);
        }
    }
    let (status, sheet) = read(&shop, &json!({"from": "csv", "csv": days})).await;
    assert_eq!(status, StatusCode::OK, "{sheet}");
    assert!(sheet["said"].as_str().unwrap().contains("warmest December at 11.1 °C"), "{sheet}");
    let (_, said) = read(&shop, &json!({"from": "csv", "csv": "month,celsius\n13,4"})).await;
    assert_eq!(said["errors"][0]["field"], "csv", "{said}");
    let (status, _) = read(&shop, &json!({"from": "means", "means": [1, 2, 3]})).await;
    assert!(status.is_client_error());

    let shipped = shop.get("/api/climates").await;
    for own in shipped.as_array().unwrap() {
        let asked = json!({"from": "invented", "key": own["key"], "southern": true});
        let (status, sheet) = read(&shop, &asked).await;
        assert_eq!(status, StatusCode::OK, "{own}");
        assert!(sheet["said"].as_str().unwrap().contains("warmest January"), "{sheet}");
    }
    let (_, said) = read(&shop, &json!({"from": "invented", "key": "moon"})).await;
    assert_eq!(said["errors"][0]["field"], "key");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_climate_stays_with_its_site_travels_in_its_file_and_moves_the_forecast() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let fill =
        json!({"kind": "water", "typed": "600", "unit": "millilitre", "to_mark": true, "stands": true});
    let mut visit = String::new();
    for day in ["2026-04-08", "2026-07-08", "2026-10-08"] {
        visit = visit_on(&shop, &bank, day, &[("", fill.clone())]).await;
    }
    let water = || async {
        let page = shop.get(&format!("/api/visits/{visit}")).await;
        let own = &step(&page, "water")["water"];
        (own["temperatures"].as_str().unwrap().to_owned(), own["forecast"].as_str().unwrap().to_owned())
    };
    let due = || async { shop.get(&format!("/api/banks/{bank}")).await["due"].clone() };
    let (said, flat) = water().await;
    assert_eq!(said, "Reckoned at 25 °C all year: with a climate of the site the season counts too.");
    let before = due().await;

    let mut odd = json!(MILD);
    odd[6] = json!(77.0);
    let (status, said) = describe(&shop, &bank, &odd, false).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
    assert!(said["detail"].as_str().unwrap().contains("July"), "{said}");
    let (status, said) = describe(&shop, &bank, &json!(MILD), false).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
    let (said, mild) = water().await;
    assert_eq!(said, "Reckoned with the climate of the site, 12 °C over the year.");
    // summer fills and a winter ahead: the next one comes later
    assert_ne!(flat, mild);
    assert_ne!(due().await, before, "what is due was derived anew");

    let path = format!("/api/banks/{bank}/export.json");
    let exported = shop.get(&path).await;
    let other = Shop::open().await;
    let (status, said) = other.send(Method::POST, "/api/import", &exported).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let site = other.get(&format!("/api/banks/{bank}")).await["site"].clone();
    assert_eq!((&site["climate"], &site["southern"]), (&json!(MILD), &json!(false)));
    let mut bad = exported.clone();
    bad["site"]["climate"][3] = json!(1e300);
    let (status, said) = Shop::open().await.send(Method::POST, "/api/import", &bad).await;
    assert!(status.is_client_error(), "{status} {said}");

    // taken back, the forecast goes by what was read again
    assert_eq!(describe(&shop, &bank, &Value::Null, true).await.0, StatusCode::NO_CONTENT);
    assert_eq!(water().await.1, flat);
}

#[tokio::test(flavor = "multi_thread")]
async fn record_lows_and_latitude_stay_with_the_site_and_a_plan_begins_with_them() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let typed: Vec<String> = MILD.iter().map(ToString::to_string).collect();
    let lows: Vec<String> = MILD.iter().map(|mean| (mean - 20.0).to_string()).collect();
    let (status, sheet) = read(&shop, &json!({"from": "typed", "typed": typed, "lows": lows})).await;
    assert_eq!(status, StatusCode::OK, "{sheet}");
    assert!(
        sheet["said"].as_str().unwrap().ends_with("Lowest on record \u{2212}18 °C, in January."),
        "{sheet}"
    );
    assert_eq!(
        read(&shop, &json!({"from": "csv", "csv": sheet["csv"]})).await.1,
        sheet,
        "as a table and back"
    );
    // a month above its mean, one that is empty, and none at all
    let mut odd = lows.clone();
    odd[4] = "17".into();
    let (_, said) = read(&shop, &json!({"from": "typed", "typed": typed, "lows": odd})).await;
    assert_eq!(said["errors"][0]["field"], "lows.4", "{said}");
    odd[4] = String::new();
    let (_, said) = read(&shop, &json!({"from": "typed", "typed": typed, "lows": odd})).await;
    assert!(said["detail"].as_str().unwrap().contains("May is empty"), "{said}");

    let put = |climate: Value, lows: Value, latitude: Value| {
        let (shop, bank) = (&shop, &bank);
        async move {
            let version = shop.get(&format!("/api/banks/{bank}")).await["bank"]["version"].clone();
            let body = json!({"site_name": "Marginalia", "zone": "UTC", "layout": {}, "climate": climate,
                "lows": lows, "latitude": latitude});
            let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
            answer(request.header("if-match", format!("\"{version}\"")).json(&body).send().await.unwrap())
                .await
        }
    };
    for (climate, lows, latitude, field) in [
        (Value::Null, sheet["lows"].clone(), Value::Null, "lows"),
        (json!(vec![-30.0; 12]), sheet["lows"].clone(), Value::Null, "lows"),
        (Value::Null, Value::Null, json!(95), "latitude"),
    ] {
        let (status, said) = put(climate, lows, latitude).await;
        assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!(field)));
    }
    let (status, said) = put(sheet["means"].clone(), sheet["lows"].clone(), json!(52.5)).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
    let form = shop.get(&format!("/api/planners/storage?bank={bank}")).await;
    let control = |key: &str| {
        let all = form["controls"].as_array().unwrap();
        all.iter().find(|own| own["key"] == key).unwrap().clone()
    };
    assert_eq!(
        (&control("lows_by")["value"], &control("latitude")["value"]),
        (&json!("climate"), &json!("52.5"))
    );
    let body = json!({"bank": bank, "values": {"from": "2026-11-01", "until": "2027-03-31", "on_array": "no",
        "maintained": "no"}});
    let (status, plan) = shop.send(Method::POST, "/api/planners/storage", &body).await;
    assert_eq!(status, StatusCode::OK, "{plan}");
    assert!(plan.to_string().contains("\u{2212}18 °C"), "by its own record lows: {plan}");

    // means that are typed under the lows of the site are refused where somebody sees it
    let warm = ["-30"; 12].join(" ");
    let body = json!({"bank": bank, "values": {"climate": "own", "means": warm}});
    let (status, said) = shop.send(Method::POST, "/api/planners/storage", &body).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("lows_by")),
        "{said}"
    );

    // its file brings them along, and a stranger's is looked at
    let mut file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let there = Shop::open().await;
    assert_eq!(there.send(Method::POST, "/api/import", &file).await.0, StatusCode::OK);
    let site = there.get(&format!("/api/banks/{bank}")).await["site"].clone();
    assert_eq!((&site["lows"], &site["latitude"]), (&sheet["lows"], &json!(52.5)));
    file["site"]["latitude"] = json!(-123.0);
    let (status, said) = Shop::open().await.send(Method::POST, "/api/import", &file).await;
    assert!(status.is_client_error() && said.to_string().contains("latitude"), "{said}");
}
