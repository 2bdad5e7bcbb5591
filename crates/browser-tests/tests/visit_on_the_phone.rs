//! A visit of a sealed bank on a phone, cut off by a reload, a dead server and a closed browser.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{PHONE, Page, Shop};
use serde_json::{Value, json};

/// A 24 V bank of twelve-volt AGM batteries in two strings; its id.
async fn launch(shop: &Shop) -> String {
    let client = reqwest::Client::new();
    let (site, bank) = ("018f0000-0000-7000-8000-000000000001", "018f0000-0000-7000-8000-000000000002");
    let put = |path: String, body: Value| client.put(format!("{}{path}", shop.base())).json(&body).send();
    put(format!("/api/sites/{site}"), json!({"name": "Dipper", "zone": "UTC"})).await.unwrap();
    let shape = json!({"system_voltage": 24, "cells_per_battery": 6, "series": 2, "parallel": 2});
    let body = json!({"site": site, "model": "agm-12v-100", "rules": "maker_first", "shape": shape});
    assert!(put(format!("/api/banks/{bank}"), body).await.unwrap().status().is_success());
    bank.to_owned()
}

async fn at(page: &Page, battery: &str) {
    page.headed(battery).await;
    page.until_value("Volts at its posts", "").await;
}

async fn battery(page: &Page, address: &str, volts: &str, milliohms: &str) {
    at(page, address).await;
    page.fill("Volts at its posts", volts).await;
    page.fill("Resistance or conductance", milliohms).await;
    page.press("Keep and go on").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_bank_is_visited_and_nothing_is_lost_when_it_is_cut_off() {
    let mut shop = Shop::open().await;
    let bank = launch(&shop).await;
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    assert!(page.fits().await, "make safe fits the phone");
    // access notes come first on the phone
    page.press("Leave a note").await;
    page.fill("Wish I had known", "key with the harbour warden").await;
    page.press("Keep the notes").await;
    page.see("key with the harbour warden").await;
    page.press("Done, on to Look over").await;
    page.see("Look before you measure").await;
    assert!(!page.script("return document.body.innerText").await.as_str().unwrap().contains("Caps"));
    page.press("Leave this step out").await;
    page.press("Leave it out").await;
    page.see("reason").await;
    page.fill("Why Look over is left out", "rain").await;
    page.press("Leave it out").await;
    page.see("What did it do before?").await;
    page.fill("Hours since charge", "30").await;
    page.fill("Hours since load", "30").await;
    page.fill("Cases", "20").await;
    page.press("Note it").await;
    page.see("These volts are settled").await;
    battery(&page, "A1", "12.85", "4.1").await;
    at(&page, "A2").await;

    // the server dies under the figures: they stay on screen, and the same press keeps them
    shop.kill();
    page.fill("Volts at its posts", "12.84").await;
    page.fill("Resistance or conductance", "4.2").await;
    page.press("Keep and go on").await;
    page.see("The server does not answer").await;
    page.until_value("Volts at its posts", "12.84").await;
    shop.restart().await;
    page.press("Keep and go on").await;
    at(&page, "B1").await;
    // a reload takes the visit up where it was
    page.reload().await;
    page.see("12.85").await;
    page.see("12.84").await;
    let visit = page.path().await;
    page.close().await;

    // another browser, on the bank's page: the visit is offered
    let page = Page::open(&shop, PHONE).await;
    page.wear("light").await;
    page.go(&format!("/banks/{bank}")).await;
    page.press("Go on with the visit").await;
    page.see("These volts are settled").await;
    assert_eq!(page.path().await, visit);
    for (address, volts, milliohms) in [("B1", "12.86", "4.1"), ("B2", "12.55", "6.4")] {
        battery(&page, address, volts, milliohms).await;
    }
    page.see("B2 rests 0.29 V under its mates").await;
    page.see("What the volts say").await;
    assert!(page.fits().await, "the rest check fits the phone");
    page.press("Close up").await;
    page.see("Tools counted").await;
    assert!(!page.script("return document.body.innerText").await.as_str().unwrap().contains("Every cap on"));
    assert!(page.fits().await, "closing fits the phone");
    let record = shop.get(&format!("/api{visit}")).await;
    let steps = record["steps"].as_array().unwrap();
    let rest = steps.iter().find(|s| s["step"] == "rest_check").unwrap();
    let volts: Vec<&str> = rest["rest"]["batteries"]
        .as_array()
        .unwrap()
        .iter()
        .map(|b| b["volts"].as_str().unwrap_or_default())
        .collect();
    assert_eq!(volts, ["12.85", "12.84", "12.86", "12.55"], "each once");
    page.close().await;
}
