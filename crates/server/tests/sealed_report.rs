//! The report of a sealed bank.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use reqwest::{Method, StatusCode};
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn the_report_of_a_sealed_bank_compares_volts_and_resistance_and_knows_no_caps() {
    let shop = Shop::open().await;
    assert_eq!(shop.send(Method::POST, "/api/demo", &json!(null)).await.0, StatusCode::CREATED);
    let banks = shop.get("/api/banks").await;
    let launch = banks.as_array().unwrap().iter().find(|b| b["site"] == "Dipper").unwrap();
    let page = shop.get(&format!("/api/banks/{}", launch["id"].as_str().unwrap())).await;
    let last = page["visits"][0]["id"].as_str().unwrap();
    let report = shop.request(Method::GET, &format!("/api/visits/{last}/report")).send().await.unwrap();
    let report = report.text().await.unwrap();
    let milliohms = |row: &str| -> Vec<f64> {
        row.split(['<', '>', ' ']).filter_map(|t| t.parse().ok()).filter(|v| (3.0..9.0).contains(v)).collect()
    };
    let rows = report.split("<tr>").filter(|r| r.contains("<td>B2</td>"));
    let figures = rows.map(milliohms).find(|all| all.len() == 2).expect("B2, compared");
    // read 220 and 96 days before the day of the demo, with the scatter of its instrument: 0.03 mΩ
    let journal = rainshadow::demo::DemoBank::by_name("dipper").unwrap().unwrap().journal;
    for (shown, ago) in figures.iter().zip([220, 96]) {
        let truth = journal.day(ago).unwrap().milliohms[3];
        assert!((shown - truth).abs() < 0.12, "{ago} days ago: {shown} of {truth}");
    }
    assert!(report.contains("mΩ, this visit") && !report.contains("caps"), "a sealed bank has no caps");
}
