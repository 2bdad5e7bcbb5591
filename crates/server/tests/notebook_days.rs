//! Volts and water of a notebook beside its cells: each such day is a visit of the past, entered later.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::Value;

/// One round with volts and a fill, one fill alone, and figures that cannot be or are unlikely.
const YEARS: &str = "cell,2025-03-14,2025-05-02,2025-06-20,2025-09-20\n\
    volts,51.9,,99,42.1\n\
    water,3.5 L,1 gal,400 L,\n\
    A1-1,265,,263,262\nA1-2,264,,263,262\nA1-3,266,,262,263\n";

fn texts(all: &Value, key: &str) -> Vec<String> {
    all.as_array().unwrap().iter().map(|v| v[key].as_str().unwrap_or_default().to_owned()).collect()
}

#[tokio::test]
async fn a_day_with_volts_or_water_becomes_a_visit_with_its_round() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let path = format!("/api/banks/{bank}/notebook");
    let (status, check) = shop.csv(Method::POST, &path, YEARS).await;
    assert_eq!(status, StatusCode::OK, "{check}");
    assert_eq!(texts(&check["rounds"], "volts"), ["51.9 V", "", "", "42.1 V"]);
    assert_eq!(texts(&check["rounds"], "water"), ["3.5 L", "1 US gal", "", ""]);
    // 99 V no 48 V bank shows; 400 L 48 cells cannot hold
    let why = texts(&check["refused"], "why");
    assert_eq!(texts(&check["refused"], "found"), ["99", "400 L"]);
    assert!(
        why[0].contains("shows 44.40 to 54.00 V at rest") && why[1].contains("can hold in all"),
        "{why:?}"
    );
    assert_eq!(texts(&check["asked"], "cell"), ["volts"], "1.75 V a cell at rest is asked about");

    let take = format!("{path}/{}", id());
    for _ in 0..2 {
        assert_eq!(shop.csv(Method::PUT, &take, YEARS).await.0, StatusCode::OK, "twice is once");
    }
    let visits = shop.get(&format!("/api/banks/{bank}")).await["visits"].clone();
    let whole: Vec<&Value> = visits.as_array().unwrap().iter().filter(|v| v["whole"] != false).collect();
    assert_eq!(whole.len(), 3, "{visits}");
    let day = |day: &str| {
        let own = whole.iter().find(|v| v["day"].as_str().unwrap().contains(day)).unwrap();
        own["id"].as_str().unwrap().to_owned()
    };
    let report = shop.report(&day("14 Mar 2025")).await;
    for said in ["51.90 V", "3.5 L of distilled water", "written down on 8 Oct 2026"] {
        assert!(report.says(said), "{said}: {}", report.all());
    }
    // a page of a notebook has no list that was left open
    assert!(!report.says("Not ticked"), "{}", report.all());
    let fill = shop.report(&day("2 May 2025")).await;
    assert!(
        fill.says("3.8 L of distilled water") && fill.says("nothing was measured or looked at"),
        "{}",
        fill.all()
    );

    // the same days do not come twice
    let (_, again) = shop.csv(Method::POST, &path, "cell,2025-05-02\nwater,2 L\n").await;
    assert!(again["rounds"].as_array().unwrap().is_empty());
    assert!(texts(&again["refused"], "why")[0].contains("has a visit on that day already"), "{again}");
}

#[tokio::test]
async fn the_table_of_a_bank_carries_volts_and_water_and_reads_back() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    shop.csv(Method::PUT, &format!("/api/banks/{bank}/notebook/{}", id()), YEARS).await;
    let table = shop.text(&format!("/api/banks/{bank}/export.csv")).await;
    let lines: Vec<&str> = table.lines().collect();
    assert_eq!(lines[0], "cell,2025-03-14,2025-05-02,2025-06-20,2025-09-20");
    assert_eq!(lines[1], "volts,51.9,,,42.1");
    // a gallon is 3.785 411 784 L (NIST SP 811)
    assert_eq!(lines[2], "water,3.5 L,3.7854 L,,");
    let twin = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    shop.csv(Method::PUT, &format!("/api/banks/{twin}/notebook/{}", id()), table.clone()).await;
    assert_eq!(shop.text(&format!("/api/banks/{twin}/export.csv")).await, table);
}

#[tokio::test]
async fn sealed_batteries_take_no_water_and_gallons_are_those_of_the_reader() {
    let shop = Shop::open().await;
    let sealed = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let path = |bank: &str| format!("/api/banks/{bank}/notebook?volume=us_gallon");
    let (_, check) = shop.csv(Method::POST, &path(&sealed), "cell,2025-03-14\nvolts,25.6\nwater,2\n").await;
    assert_eq!(texts(&check["rounds"], "volts"), ["25.6 V"]);
    assert!(texts(&check["refused"], "why")[0].contains("sealed"), "{check}");
    let flooded = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let (_, check) = shop.csv(Method::POST, &path(&flooded), "cell,2025-03-14\nwater,2\n").await;
    assert_eq!(texts(&check["rounds"], "water"), ["2 US gal"]);
}
