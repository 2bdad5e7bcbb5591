//! What is pressed while the server is away: sent again under its id, in the order it was pressed, once.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use browser_tests::{DESK, Page, Shop};
use serde_json::{Value, json};

/// A 12 V bank of two six-volt batteries; its id.
async fn coach(shop: &Shop) -> String {
    let client = reqwest::Client::new();
    let (site, bank) = ("018f0000-0000-7000-8000-000000000021", "018f0000-0000-7000-8000-000000000022");
    let put = |path: String, body: Value| client.put(format!("{}{path}", shop.base())).json(&body).send();
    put(format!("/api/sites/{site}"), json!({"name": "Marginalia", "zone": "UTC"})).await.unwrap();
    let shape = json!({"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1});
    let body = json!({"site": site, "model": "flooded-6v-225", "rules": "maker_first", "shape": shape});
    assert!(put(format!("/api/banks/{bank}"), body).await.unwrap().status().is_success());
    bank.to_owned()
}

async fn looks(shop: &Shop, visit: &str) -> Vec<(String, usize)> {
    let page = shop.get(&format!("/api{visit}")).await;
    let steps = page["steps"].as_array().unwrap();
    let over = steps.iter().find(|s| s["step"] == "look_over").unwrap();
    let checks = over["checks"].as_array().unwrap().iter();
    checks
        .map(|c| (c["check"].as_str().unwrap().to_owned(), c["looks"].as_array().unwrap().len()))
        .filter(|(_, looks)| *looks > 0)
        .collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_pressed_on_a_visit_while_the_server_was_away_is_there_once() {
    let mut shop = Shop::open().await;
    let bank = coach(&shop).await;
    let page = Page::open(&shop, DESK).await;
    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await.split('?').next().unwrap().to_owned();

    // a step that there is not is none: the visit is taken up where it was left
    page.go(&format!("{visit}?step=ghost")).await;
    page.see("Make safe before anything is touched").await;

    page.go(&format!("{visit}?step=look_over")).await;
    page.press("Case: fine").await;
    page.until_is("button", "Case: fine", "pressed", true).await;
    // nobody answers: it is told, and nothing looks as if it were stored
    shop.kill();
    page.press("Top: fine").await;
    page.see("The server does not answer").await;
    assert!(!page.is("button", "Top: fine", "pressed").await);
    // back again: the same press is the same entry, and what is pressed at once behind it waits its turn
    shop.restart().await;
    page.script(
        "for (const what of ['Top', 'Terminals', 'Spacing']) document.querySelector(`[aria-label=\"${what}: fine\"]`).click()",
    )
    .await;
    for what in ["Case", "Top", "Terminals", "Spacing"] {
        page.until_is("button", &format!("{what}: fine"), "pressed", true).await;
    }
    let stored = looks(&shop, &visit).await;
    let expected = ["case", "top", "terminals", "spacing"].map(|check| (check.to_owned(), 1));
    assert_eq!(stored, expected);
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn somebody_the_server_does_not_know_introduces_himself_and_nothing_is_lost() {
    let shop = Shop::open().await;
    let bank = coach(&shop).await;
    let page = Page::open(&shop, DESK).await;
    // the folder is another than the one this browser was known in
    page.go("/").await;
    page.script(
        "localStorage.setItem('rainshadow.me', JSON.stringify({id: '018f0000-0000-7000-8000-0000000000ff', initials: 'QZ', device: 'bench', theme: 'light', temperature: 'C', volume: 'litre', length: 'millimetre', singleKeys: true}))",
    )
    .await;
    page.reload().await;
    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    page.press_in("Safety", "It is so").await;
    page.see("confirmed by QZ on bench").await;
    let people = shop.get("/api/people").await;
    let known: Vec<&str> =
        people.as_array().unwrap().iter().map(|p| p["initials"].as_str().unwrap()).collect();
    assert!(known.contains(&"QZ"), "{known:?}");
    page.close().await;
}
