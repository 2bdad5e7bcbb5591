//! One current picture of each main view, from the demo data: `cargo xtask screenshots`.
#![allow(clippy::unwrap_used, reason = "a tool that fails loudly")]

#[path = "../../server/tests/common/acting.rs"]
mod acting;

use browser_tests::{DESK, PHONE, Page, Shop};
use std::path::{Path, PathBuf};

/// Readings of the demo's observatory for a round that is under way: uncorrected, at 16 °C.
const FIRST: [(&str, &str); 19] = [
    ("A1-1", "269"),
    ("A1-2", "270"),
    ("A1-3", "268"),
    ("A2-1", "271"),
    ("A2-2", "269"),
    ("A2-3", "270"),
    ("A3-1", "270"),
    ("A3-2", "274"),
    ("A3-3", "273"),
    ("A4-1", "272"),
    ("A4-2", "271"),
    ("A4-3", "268"),
    ("A5-1", "269"),
    ("A5-2", "270"),
    ("A5-3", "270"),
    ("A6-1", "270"),
    ("A6-2", "269"),
    ("A6-3", "269"),
    ("A7-1", "258"),
];

fn file(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/screenshots").join(format!("{name}.png"))
}

async fn begin(page: &Page, bank: &str) {
    page.go(&format!("/banks/{bank}/round")).await;
    page.fill("Hours since charge", "26").await;
    page.fill("Hours since a heavy load", "25").await;
    page.fill("Electrolyte", "16").await;
}

async fn places(page: &Page, bank: &str) {
    page.go("/banks").await;
    page.picture(&file("banks")).await;
    page.go(&format!("/banks/{bank}")).await;
    page.picture(&file("bank")).await;
    page.go(&format!("/banks/{bank}?cell=B5-2")).await;
    page.until(
        "its line is drawn",
        "return document.querySelector('[aria-label^=Corrected]')?.innerText.includes('median')",
    )
    .await;
    page.script("document.querySelector('.cell').scrollIntoView({ block: 'end' })").await;
    page.picture(&file("cell")).await;
    page.go("/library").await;
    page.picture(&file("library")).await;
}

/// A visit under way: look over, rest check of a sealed bank, water, close up.
async fn visit(page: &Page, kestrel: &str, dipper: &str) {
    page.go(&format!("/banks/{kestrel}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    page.press_in("Safety", "It is so").await;
    page.see("confirmed by TA").await;
    page.script("document.activeElement.blur(); scrollTo(0, 0)").await;
    page.picture(&file("visit")).await;
    page.press("Water").await;
    page.see("Water added").await;
    page.script("document.activeElement.blur()").await;
    for (i, key) in ["3", "3", "3", "2", "3", "3", "4", "3", "3", "3", "2", "1"].into_iter().enumerate() {
        let cell = format!("A{}-{}", i / 3 + 1, i % 3 + 1);
        page.until(
            &format!("at {cell}"),
            &format!("return document.querySelector('.levels h2').innerText === '{cell}' && !document.querySelector('.levels .btn').disabled"),
        )
        .await;
        page.keys(key).await;
    }
    page.see("12 of 48").await;
    page.picture(&file("visit-water")).await;
    page.go(&format!("/banks/{dipper}/joints")).await;
    page.see("the strings then share").await;
    page.picture(&file("joints")).await;
}

/// The printed report of the last visit, as the browser shows it.
async fn report(page: &Page, shop: &Shop, kestrel: &str) {
    let bank = shop.get(&format!("/api/banks/{kestrel}")).await;
    let last = bank["visits"].as_array().unwrap().iter().find(|v| v["open"] == false).unwrap();
    page.go(&format!("/api/visits/{}/report", last["id"].as_str().unwrap())).await;
    page.picture(&file("report")).await;
}

/// The readings of a run under way, half an hour apart: pilot, the two low cells, temperature.
const RUN: [(f64, f64, f64, f64); 7] = [
    (1.236, 1.262, 1.263, 18.0),
    (1.241, 1.264, 1.264, 20.5),
    (1.246, 1.265, 1.266, 22.5),
    (1.250, 1.266, 1.266, 24.5),
    (1.252, 1.267, 1.267, 26.0),
    (1.254, 1.267, 1.268, 27.5),
    (1.255, 1.268, 1.268, 29.0),
];

/// Plan, run under way, and the bench. The path of the run.
async fn run(page: &Page, shop: &Shop, bank: &str) -> String {
    let client = acting::acting();
    acting::introduce(&client, &shop.base()).await;
    let put = async |path: String, body: serde_json::Value| {
        let sent = client.put(format!("{}{path}", shop.base())).json(&body).send().await.unwrap();
        let (status, said) = (sent.status(), sent.text().await.unwrap());
        assert!(status.is_success(), "{path}: {said}");
    };
    page.go(&format!("/banks/{bank}/equalize")).await;
    page.fill("Electrolyte now", "18").await;
    page.see("Setpoint").await;
    page.script("document.activeElement.blur()").await;
    page.see("as typed").await;
    page.picture(&file("equalize")).await;
    let id = "018f0000-0000-7000-8000-0000000000aa";
    let degrees = |c: f64| serde_json::json!({"typed": c.to_string(), "unit": "C"});
    let open = serde_json::json!({"bank": bank, "kind": "corrective", "temperature": degrees(18.0), "pilot": "B5-2", "set_to": "62.7"});
    put(format!("/api/runs/{id}"), open).await;
    let mut number = 0;
    let mut say = async |what: serde_json::Value| {
        number += 1;
        put(format!("/api/runs/{id}/entries/018f0000-0000-7000-8000-0000000{number:05}"), what).await;
    };
    let page_of = shop.get(&format!("/api/runs/{id}")).await;
    for check in page_of["checks"].as_array().unwrap() {
        say(serde_json::json!({"what": "confirmed", "check": check["check"]})).await;
    }
    for (i, (pilot, low, other, celsius)) in RUN.into_iter().enumerate() {
        // Typed as read: warm acid is lighter, SG-1 backwards.
        let read = |g: f64| format!("{:.3}", g - 0.00072 * (celsius - 25.0));
        let gravities = [read(pilot), read(low), read(other)];
        say(serde_json::json!({"what": "read", "gravities": gravities, "temperature": degrees(celsius), "volts": "62.4", "amperes": "34", "stands": true})).await;
        if i == 0 {
            say(serde_json::json!({"what": "began"})).await;
        }
        shop.clock.pass(if i + 1 < RUN.len() { 1800 } else { 760 });
    }
    page.go(&format!("/runs/{id}")).await;
    page.see("Keep going to the").await;
    page.picture(&file("run")).await;
    let hut = shop.bank("High Pasture hut").await;
    page.go(&format!("{hut}/plan?planner=storage")).await;
    page.see("short of freezing").await;
    page.see("coldest to expect").await;
    page.picture(&file("plan")).await;
    format!("/runs/{id}")
}

/// A timed discharge under way: minutes, volts of the bank, and how far A5 lies under its mates.
const DISCHARGE: [(i64, f64, f64); 8] = [
    (1, 48.60, 0.0),
    (5, 48.20, 0.0),
    (10, 47.90, 0.0),
    (15, 47.62, 0.01),
    (20, 47.36, 0.02),
    (25, 47.10, 0.05),
    (30, 46.78, 0.09),
    (35, 46.35, 0.14),
];

async fn discharge(page: &Page, shop: &Shop, bank: &str) {
    page.go(&format!("/banks/{bank}")).await;
    page.press("Begin a visit").await;
    page.see("Make safe before anything is touched").await;
    let visit = page.path().await;
    page.go(&format!("{visit}?step=load_test&test=discharge")).await;
    page.fill("Current, A", "75").await;
    page.fill("Electrolyte or case at the start", "20").await;
    page.fill("Minutes between readings", "5").await;
    page.press("Proven full before").await;
    page.press("The load is on: begin").await;
    page.see("On discharge").await;
    let mut last = 0;
    for (minute, volts, under) in DISCHARGE {
        shop.clock.pass((minute - last) * 60);
        last = minute;
        page.press("Enter a reading").await;
        page.fill("Volts of the bank", &format!("{volts:.2}")).await;
        page.fill("Amperes", "75").await;
        for (battery, by) in
            ["A1", "A2", "A3", "A4", "A5", "A6"].into_iter().zip([0.0, 0.01, -0.01, 0.02, -under, 0.0])
        {
            page.fill(&format!("{battery}, V"), &format!("{:.2}", volts / 6.0 + by)).await;
        }
        page.press("Keep this reading").await;
        page.until_count("button", "Keep this reading", 0).await;
    }
    shop.clock.pass(198);
    page.reload().await;
    page.see("A5 bends away first").await;
    page.picture(&file("discharge")).await;
}

async fn notebook(page: &Page, bank: &str) {
    page.go(&format!("/banks/{bank}/notebook")).await;
    page.press("A CSV file").await;
    let years = "cell;2022-03-14;2022-09-20;2023-01-05\ntemperature;18 C;64 F;\nA1-1;242;1,241;240\n\
        A2-1;241;12.65;239\nA3-1;240;241;240\nA4-1;242;241;241\nA5-1;241;240;240\nA6-1;242;242;241\n\
        A7-1;241;240;204\nA8-1;241;241;240\nA13-1;240;240;240\n";
    page.fill("Or paste the table here", years).await;
    page.press("Check").await;
    page.see("to look at again").await;
    page.picture(&file("notebook")).await;
}

#[tokio::main]
async fn main() {
    let shop = Shop::with_demo().await;
    let banks = shop.get("/api/banks").await;
    let id = |i: usize| banks[i]["id"].as_str().unwrap().to_owned();
    let (kestrel, larch, dipper, tram) = (id(3), id(4), id(1), id(0));

    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    page.go("/today").await;
    page.see("Load the van").await;
    page.picture(&file("today")).await;
    places(&page, &kestrel).await;
    report(&page, &shop, &kestrel).await;
    notebook(&page, &larch).await;
    let phone = Page::open(&shop, PHONE).await;
    phone.wear("light").await;
    phone.go("/today").await;
    phone.see("Load the van").await;
    phone.picture(&file("today-phone")).await;
    phone.close().await;
    page.go(&format!("/banks/{tram}/diagnosis")).await;
    page.see("A range is told from five tests on").await;
    page.picture(&file("diagnosis")).await;
    begin(&page, &kestrel).await;
    page.press("Begin the round").await;
    page.see("0 of 48 read").await;
    let round = page.path().await;
    for (cell, figure) in FIRST {
        page.read(cell, figure).await;
    }
    page.at_cell("A7-2").await;
    page.keys("257").await;
    page.until("it is previewed", "return !!document.querySelector('.led')?.innerText.includes('1.251')")
        .await;
    page.picture(&file("round")).await;
    page.wear("shed").await;
    page.at_cell("A7-2").await;
    page.read("A7-2", "231").await;
    page.see("Re-read this cell?").await;
    page.until("it is previewed", "return !!document.querySelector('.led')?.innerText.includes('1.225')")
        .await;
    page.wear("light").await;
    visit(&page, &kestrel, &dipper).await;
    let run = run(&page, &shop, &kestrel).await;
    page.close().await;

    let phone = Page::open(&shop, PHONE).await;
    phone.wear("light").await;
    phone.go(&run).await;
    phone.see("Keep going to the").await;
    phone.picture(&file("run-phone")).await;
    phone.go(&round).await;
    phone.choose("Cell", "A7-2").await;
    phone.see("Re-read this cell?").await;
    phone
        .until("it is previewed", "return document.querySelector('.figure')?.innerText.includes('1.225')")
        .await;
    phone.picture(&file("round-phone")).await;
    phone.close().await;

    // Its minutes pass for every bank: last.
    let page = Page::open(&shop, DESK).await;
    page.wear("light").await;
    discharge(&page, &shop, &tram).await;
    page.close().await;
}
