//! An equalize from the decision to what it did, on the desk; taken over on the phone; with bad input,
//! a killed server and a feed that is pulled on the way.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

#[path = "../../server/tests/common/acting.rs"]
mod acting;

use acting::{acting, introduce};
use browser_tests::{DESK, PHONE, Page, Shop};
use rainshadow::charger_simulator::{Bank, ChargerSimulator, Shared, serve};
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::BatteryModel;
use serde_json::{Value, json};
use tokio::net::TcpListener;

const BANK: &str = "018f0000-0000-7000-8000-000000000012";
const CELLS: [&str; 6] = ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"];

async fn put(shop: &Shop, path: &str, body: Value) {
    let client = acting();
    let sent = client.put(format!("{}{path}", shop.base())).json(&body).send().await.unwrap();
    let (status, said) = (sent.status(), sent.text().await.unwrap());
    assert!(status.is_success(), "{path}: {said}");
}

/// A round of the bank with A2-2 at a figure, kept as read.
async fn round(shop: &Shop, number: u8, low: &str) {
    let id = format!("018f0000-0000-7000-8000-0000000001{number:02}");
    let instrument = json!({"kind": "hydrometer", "resolution": 5.0, "repeatability": 3.0, "corrects_for_temperature": false});
    let conditions = json!({"hours_since_charge": "26", "hours_since_load": "25", "water_added": "no", "proven_full": "tail current held", "temperature": {"known": "one_for_all", "typed": "25"}});
    let open = json!({"bank": BANK, "instrument": instrument, "conditions": conditions});
    put(shop, &format!("/api/rounds/{id}"), open).await;
    for (i, cell) in CELLS.iter().enumerate() {
        let typed = if *cell == "A2-2" { low } else { "1277" };
        let reading = format!("018f0000-0000-7000-8000-0000000{number:02}{i:03}");
        let body = json!({"cell": cell, "kind": "gravity", "typed": typed, "stands": true, "taken_at": "2026-10-08T09:00:00Z"});
        put(shop, &format!("/api/rounds/{id}/readings/{reading}"), body).await;
    }
    let client = acting();
    let request = client.post(format!("{}/api/rounds/{id}/finish", shop.base())).header("if-match", "\"1\"");
    assert!(request.send().await.unwrap().status().is_success());
}

/// A 12 V bank of two six-volt batteries with one cell 37 points low.
async fn library_coach(shop: &Shop) {
    introduce(&acting(), &shop.base()).await;
    let site = "018f0000-0000-7000-8000-000000000011";
    put(shop, &format!("/api/sites/{site}"), json!({"name": "Marginalia", "zone": "UTC"})).await;
    let shape = json!({"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1});
    let body = json!({"site": site, "model": "flooded-6v-225", "rules": "maker_first", "shape": shape});
    put(shop, &format!("/api/banks/{BANK}"), body).await;
    round(shop, 1, "1240").await;
}

async fn confirm_all(page: &Page) {
    // A check that was left out or confirmed can be confirmed again; those still open are filled in.
    for name in page.names("button", "Before the run").await {
        if name.starts_with("Confirm") && !page.is("button", &name, "pressed").await {
            page.press(&name).await;
            page.until_is("button", &name, "pressed", true).await;
        }
    }
}

/// Types a reading and keeps it; the others stand at 1277.
async fn read(page: &Page, pilot: &str, celsius: &str) {
    page.press("Enter a reading").await;
    page.fill("A2-2, pilot", pilot).await;
    page.fill("A1-1, low", "1277").await;
    page.fill("A1-2, low", "1277").await;
    page.fill("Hottest electrolyte", celsius).await;
    page.press("Keep the reading").await;
}

async fn kept(page: &Page, readings: i64) {
    page.until_count("button", "Take back the reading", readings).await;
}

/// Decided, planned, prepared with what is missing refused, and begun.
async fn begin(page: &Page) {
    page.go(&format!("/banks/{BANK}")).await;
    page.press("Equalize").await;
    page.see("Equalize: spread 37 points, limit 33").await;
    page.see("Light touch would wait").await;
    page.fill("Electrolyte now", "120").await;
    page.press("Stir").await;
    page.see("Is it 120 °F, which is 49 °C").await;
    page.fill("Electrolyte now", "20").await;
    page.press("Corrective").await;
    // CH-2: 6 · (2.58 + 0.005 · 5) = 15.63
    page.see("15.6 V").await;
    page.fill("Typed into the charger", "62.5").await;
    page.press("Prepare the run").await;
    page.see("accepted is 11.4 to 17.4 V").await;
    page.fill("Typed into the charger", "15.6").await;
    page.press("Prepare the run").await;
    page.see("See to these before").await;
    page.press("Begin").await;
    page.see("9 checks are neither confirmed nor left out").await;
    page.press("Leave out: Loads").await;
    page.fill("Why it is left out", "nothing is connected").await;
    page.press_in("Left out", "Leave it out").await;
    page.see("Left out: nothing is connected").await;
    confirm_all(page).await;
    page.press("Begin").await;
    page.see("Keep going; the next reading is at").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_equalize_is_decided_run_stopped_by_the_rule_and_proved() {
    let mut shop = Shop::open().await;
    library_coach(&shop).await;
    let page = Page::open(&shop, DESK).await;
    begin(&page).await;
    assert_eq!(page.axe(&[]).await, "");
    read(&page, "1240", "20").await;
    kept(&page, 1).await;
    shop.clock.pass(1800);
    page.see("Read now").await;
    page.until("the window says so", "return document.title.includes('Reading due')").await;
    // a misread of fifty points is asked about, and put right
    read(&page, "1190", "21").await;
    page.see("Re-read A2-2?").await;
    page.fill("A2-2, pilot", "1247").await;
    page.press("Judge it again").await;
    kept(&page, 2).await;
    // the server dies and comes back; the run went on
    shop.kill();
    page.see("The server does not answer. The run goes on").await;
    shop.restart().await;
    for (i, pilot) in (0..).zip(["1252", "1255", "1256", "1256", "1257"]) {
        shop.clock.pass(1800);
        page.see("Read now").await;
        read(&page, pilot, "24").await;
        kept(&page, 3 + i).await;
        if i == 2 {
            page.see("Plateau 1.2").await;
        }
    }
    page.see("Stop: the gravity has stopped rising").await;
    page.press("Stop").await;
    page.see("stopped by the rule").await;
    page.see("can be taken back").await;
    page.see("Let it rest for an hour").await;
    shop.clock.pass(3700);
    page.see("It has rested").await;
    round(&shop, 2, "1271").await;
    page.see("Evened: the spread went from 37 to 6 points").await;
    page.press("To the bank").await;
    page.press("History").await;
    page.see("evened").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn on_the_phone_heat_pauses_and_ends_a_run_and_a_stop_is_taken_back() {
    let shop = Shop::open().await;
    library_coach(&shop).await;
    let page = Page::open(&shop, PHONE).await;
    begin(&page).await;
    assert!(page.fits().await);
    page.press("Enter a reading").await;
    page.fill("Hottest electrolyte", "47").await;
    page.press("Keep the reading").await;
    page.see("Pause the charger: a cell is at 46 °C or above").await;
    page.press("Paused: it has to cool").await;
    page.see("Wait: go on only once").await;
    page.press("Resume").await;
    page.see("Go on at 47 °C?").await;
    page.press("Stop").await;
    page.see("stopped by hand").await;
    page.press("Take the stop back").await;
    page.see("Wait: go on only once").await;
    // gravities too: the widest table there is has to fit
    read(&page, "1240", "53").await;
    page.see("Stop now, at the charger’s switch").await;
    page.press("Stop").await;
    page.see("Do not start again today").await;
    assert!(page.fits().await);
    page.close().await;
}

/// A charger that is not there, on a port of its own.
async fn charger() -> (Shared, u16, tokio::task::JoinHandle<()>) {
    let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    let shape = BankShape {
        system_voltage: 12,
        cells_per_battery: 3,
        series: 2,
        parallel: 1,
        layout: Layout::default(),
    };
    let own =
        Shared::new(ChargerSimulator::new(Bank { shape, model, charged: 0.99, air: 20.0, odd: Vec::new() }));
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let port = listener.local_addr().unwrap().port();
    let served = own.clone();
    let task = tokio::spawn(async move { serve(served, listener, 1.0).await.unwrap() });
    (own, port, task)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_feed_that_is_pulled_is_said_and_the_run_goes_on() {
    let shop = Shop::open().await;
    library_coach(&shop).await;
    let (own, port, task) = charger().await;
    let page = Page::open(&shop, DESK).await;
    page.go(&format!("/banks/{BANK}/charger")).await;
    page.see("Nobody has said yet what the charger is set to").await;
    page.press("Tell what stands there").await;
    page.fill("Equalize, V", "61.8").await;
    page.fill("Address on your network", "8.8.8.8").await;
    page.press("Keep").await;
    page.see("of your own network").await;
    page.fill("Address on your network", &format!("127.0.0.1:{port}")).await;
    page.press("Keep").await;
    page.see("61.8 V of equalize is 10.30 V a cell with 6 cells in series").await;
    page.fill("Equalize, V", "15.5").await;
    page.press("Keep").await;
    page.see("The charger is set as this bank wants it").await;
    begin(&page).await;
    page.see("The charger says it is holding (float): has it left equalize?").await;
    // a minute of float and six more: the room hears that this is no equalize
    shop.clock.pass(60);
    page.see("The charger says it is holding").await;
    shop.clock.pass(360);
    page.see("Look at the charger: it gives 13.").await;
    page.until("the window says so", "return document.title.includes('Look at the charger')").await;
    own.hold().switch(Some(rainshadow_core::charge::Stage::Equalize));
    page.see("The charger answers, charging").await;
    page.see("by the charger").await;
    shop.clock.pass(60);
    page.see("Keep going; the next reading is at").await;
    // a reading without volts shows those that the charger told
    page.press("Enter a reading").await;
    page.fill("Hottest electrolyte", "20").await;
    page.press("Keep the reading").await;
    page.see("Slanted volts and amperes: as the charger told them").await;
    task.abort();
    page.see("The charger has stopped answering").await;
    page.see("Keep going; the next reading is at").await;
    page.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_benches_answer_as_one_types_and_name_what_does_not_fit() {
    let shop = Shop::open().await;
    let page = Page::open(&shop, DESK).await;
    page.press("Calculators").await;
    page.see("What the bank asks for at this temperature").await;
    // CH-1 and CH-2: 24 · 2.58 = 61.9 at 25 °C
    page.see("61.9").await;
    page.fill("Float, V", "55.7").await;
    page.see("Change the charger: float is off").await;
    page.fill("Float, V", "14.7").await;
    page.see("It suits a bank of 12 V").await;
    page.press("Ventilation").await;
    // VE-1's check value
    page.see("20.16 m³/h").await;
    page.see("564 cm²").await;
    page.fill("Cells in series", "2.5").await;
    page.see("counted whole").await;
    assert_eq!(page.axe(&[]).await, "");
    page.press("Timed discharge").await;
    page.see("of its rated capacity").await;
    page.fill("Electrolyte at the start, °C", "").await;
    page.see("No percentage without the temperature").await;
    page.fill("How long", "5:75").await;
    page.faulty("How long").await;
    assert_eq!(page.axe(&[]).await, "");
    page.press("Short load").await;
    page.see("50 A").await;
    for (battery, at_end) in [("A1", "11.4"), ("A2", "10.9")] {
        page.fill(&format!("{battery}, V before"), "12.7").await;
        page.fill(&format!("{battery}, V at the end"), at_end).await;
    }
    page.see("A2 falls further than the others").await;
    page.fill("A2, V at the end", "13").await;
    page.see("a load never raises volts").await;
    assert_eq!(page.axe(&[]).await, "");
    page.close().await;
}
