//! Plans of the banks of the demo: what they begin with is what is on record, worked out here once more.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use jiff::civil::Date;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn demo() -> (Shop, Value) {
    let shop = Shop::open().await;
    assert_eq!(shop.send(Method::POST, "/api/demo", &json!({})).await.0, StatusCode::CREATED);
    let banks = shop.get("/api/banks").await;
    (shop, banks)
}

fn bank<'a>(banks: &'a Value, site: &str) -> &'a str {
    let own = banks.as_array().unwrap().iter().find(|own| own["site"] == site).unwrap();
    own["id"].as_str().unwrap()
}

async fn control(shop: &Shop, planner: &str, bank: &str, key: &str) -> (String, String) {
    let form = shop.get(&format!("/api/planners/{planner}?bank={bank}")).await;
    let own = form["controls"].as_array().unwrap().iter().find(|own| own["key"] == key).unwrap();
    let text = |field: &str| own[field].as_str().unwrap().to_owned();
    (text("value"), text("source"))
}

async fn answer(shop: &Shop, planner: &str, bank: &str) -> Value {
    let body = json!({"bank": bank, "values": {}});
    let (status, own) = shop.send(Method::POST, &format!("/api/planners/{planner}"), &body).await;
    assert_eq!(status, StatusCode::OK, "{own}");
    own
}

fn middle(mut all: Vec<f64>) -> f64 {
    all.sort_by(f64::total_cmp);
    let half = all.len() / 2;
    if all.len() % 2 == 1 { all[half] } else { f64::midpoint(all[half - 1], all[half]) }
}

/// Theil and Sen, written once more: the median of the slopes of all pairs, through the median of what is left.
fn years_to(end: f64, tests: &[(Date, f64)]) -> f64 {
    let years = |day: Date| f64::from(tests[0].0.until(day).unwrap().get_days()) / 365.25;
    let mut slopes = Vec::new();
    for (n, a) in tests.iter().enumerate() {
        slopes.extend(tests[n + 1..].iter().map(|b| (b.1 - a.1) / (years(b.0) - years(a.0))));
    }
    let slope = middle(slopes);
    let foot = middle(tests.iter().map(|own| own.1 - slope * years(own.0)).collect());
    let now = foot + slope * years(tests.last().unwrap().0);
    (now - end) / -slope
}

#[tokio::test(flavor = "multi_thread")]
async fn the_replacement_of_the_cart_begins_with_its_tests_its_diagnosis_and_its_water() {
    let (shop, banks) = demo().await;
    let tram = bank(&banks, "Arboretum tram 4");
    let (failing, why) = control(&shop, "replacement", tram, "failing").await;
    assert_eq!((failing.as_str(), why.as_str()), ("A5", "diagnosis: a weak cell in A5"));
    let diagnosis = shop.get(&format!("/api/banks/{tram}/diagnosis")).await;
    let health =
        diagnosis["health"].as_array().unwrap().iter().find(|own| own["place"] == "the bank").unwrap();
    let tests: Vec<(Date, f64)> = health["capacities"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|own| own["at_least"] == false)
        .map(|own| (own["date"].as_str().unwrap().parse().unwrap(), own["percent"].as_f64().unwrap()))
        .collect();
    assert!(tests.len() >= 3, "{tests:?}");
    // a cart is cycled: its life ends at 60 % (LF-3)
    let today: Date = "2026-10-08".parse().unwrap();
    let since = f64::from(tests.last().unwrap().0.until(today).unwrap().get_days()) / 365.25;
    let by_hand = (years_to(60.0, &tests) - since).max(0.0);
    let (years, said) = control(&shop, "replacement", tram, "years_left").await;
    assert!((years.parse::<f64>().unwrap() - by_hand).abs() < 0.06, "{years} against {by_hand}: {said}");
    assert!(said.contains("points a year"), "{said}");
    let (health, source) = control(&shop, "replacement", tram, "health").await;
    assert!(
        (health.parse::<f64>().unwrap() - tests.last().unwrap().1).abs() < 0.6
            && source.contains("timed discharge")
    );
    let (_, water) = control(&shop, "replacement", tram, "gassing").await;
    assert!(water.contains("fills"), "{water}");
    // with so little left, a patch lasts no longer than its mates, and a whole bank is advised
    let own = answer(&shop, "replacement", tram).await;
    let best = own["options"].as_array().unwrap().iter().find(|own| own["best"] == true).unwrap();
    assert_eq!(best["key"], "whole_bank", "{}", own["said"]);
    let new = own["options"].as_array().unwrap().iter().find(|own| own["key"] == "new_one").unwrap();
    let left: f64 = new["figures"][0]["value"].as_str().unwrap().parse().unwrap();
    assert!((left - by_hand).abs() < 0.11, "{left} against {by_hand}");
    assert_eq!(own["lists"][0]["job"], "replacement");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_winter_of_the_hut_and_the_year_of_the_coach_begin_with_their_records() {
    let (shop, banks) = demo().await;
    let hut = bank(&banks, "High Pasture hut");
    assert_eq!(control(&shop, "storage", hut, "lows_by").await.0, "climate");
    let site = shop.get(&format!("/api/banks/{hut}")).await["site"].clone();
    assert_eq!(control(&shop, "storage", hut, "latitude").await.0, site["latitude"].to_string());
    let own = answer(&shop, "storage", hut).await;
    let jobs: Vec<&str> =
        own["dates"].as_array().unwrap().iter().filter_map(|own| own["job"].as_str()).collect();
    assert_eq!((jobs.first(), jobs.last()), (Some(&"storage_preparation"), Some(&"spring_check")));
    // the record lows of the site, and no rule of thumb, are what it has to come through
    assert!(!own["assumptions"].to_string().contains("No record lows are typed"), "{}", own["assumptions"]);

    let coach = bank(&banks, "Marginalia");
    let own = answer(&shop, "charging", coach).await;
    let record = shop.get(&format!("/api/banks/{coach}/record")).await;
    let chart = &own["charts"][0];
    assert!(
        chart["title"].as_str().unwrap().starts_with("By its record, 8 Oct 2025 to "),
        "{}",
        chart["title"]
    );
    let full = record["days"].as_array().unwrap().iter().filter(|own| own["full"] == true).count();
    assert_eq!(chart["series"][1]["points"].as_array().unwrap().len(), full, "a dot for each full day");
    assert_eq!(own["charts"][1]["title"], "As it is set here: highest charge of each day");
    // each in its month, January first
    let places: Vec<f64> =
        chart["series"][0]["points"].as_array().unwrap().iter().map(|p| p[0].as_f64().unwrap()).collect();
    assert!(places.windows(2).all(|w| w[0] <= w[1]) && places[0] >= 0.0 && places[places.len() - 1] <= 12.0);
}
