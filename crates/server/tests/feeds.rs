//! Feeds over Modbus TCP from a charger that is not there, and from one that goes wrong: marked, said,
//! and the run goes on.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, reading};
use rainshadow::charger_simulator::{Bank, ChargerSimulator, Fault, Shared, panel, serve};
use rainshadow::feed::{Charger, FeedError};
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::Stage;
use rainshadow_core::feed::FeedStage;
use reqwest::Method;
use serde_json::{Value, json};
use std::net::SocketAddr;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpListener;
use tokio::task::JoinHandle;

fn charger_simulator() -> Shared {
    let shape = BankShape {
        system_voltage: 12,
        cells_per_battery: 3,
        series: 2,
        parallel: 1,
        layout: Layout::default(),
    };
    let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    Shared::new(ChargerSimulator::new(Bank { shape, model, charged: 0.99, air: 20.0, odd: Vec::new() }))
}

async fn answering(own: &Shared) -> (SocketAddr, JoinHandle<()>) {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    let own = own.clone();
    (address, tokio::spawn(async move { serve(own, listener, 1.0).await.unwrap() }))
}

/// The error of the next sample, or of the connection before it.
async fn error_of(address: SocketAddr) -> FeedError {
    match Charger::connect(address, 1).await {
        Err(error) => error,
        Ok(mut charger) => charger.sample(0.0).await.unwrap_err(),
    }
}

#[tokio::test]
async fn a_charger_tells_what_its_bank_does() {
    let own = charger_simulator();
    let (address, _task) = answering(&own).await;
    let mut charger = Charger::connect(address, 1).await.unwrap();
    let float = charger.sample(0.0).await.unwrap();
    // CH-1 and CH-2 at 20 °C: 6 · (2.25 + 0.025) = 13.65 V
    assert!((float.volts - 13.65).abs() < 0.05, "{float:?}");
    assert_eq!(float.stage, Some(FeedStage::Holding));
    assert!((float.celsius.unwrap() - 20.0).abs() < 0.5);
    own.hold().switch(Some(Stage::Equalize));
    let equalize = charger.sample(1.0).await.unwrap();
    assert!(equalize.volts > 15.0 && equalize.amperes > 5.0, "{equalize:?}");
    assert_eq!(equalize.stage, Some(FeedStage::Charging));
}

#[tokio::test]
async fn every_wrong_answer_is_told_apart() {
    let own = charger_simulator();
    let (address, task) = answering(&own).await;
    own.hold().go_wrong(Fault::Exception);
    // at every base an exception: no map is there
    assert_eq!(error_of(address).await, FeedError::NoMap(address));
    own.hold().go_wrong(Fault::None);
    let mut charger = Charger::connect(address, 1).await.unwrap();
    own.hold().go_wrong(Fault::Exception);
    let said = charger.sample(0.0).await.unwrap_err().to_string();
    assert!(said.contains("answers with a Modbus exception"), "{said}");
    own.hold().go_wrong(Fault::Short);
    assert!(matches!(error_of(address).await, FeedError::WrongLength { asked: 62, found: 60, .. }));
    own.hold().go_wrong(Fault::Hang);
    assert_eq!(error_of(address).await, FeedError::Hangs(address));
    task.abort();
    let _ = task.await;
    assert_eq!(error_of(address).await, FeedError::Refused(address));
}

#[tokio::test]
async fn a_peer_that_speaks_something_else_is_no_modbus() {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    tokio::spawn(async move {
        let (mut stream, _) = listener.accept().await.unwrap();
        let mut asked = [0; 12];
        let _ = stream.read_exact(&mut asked).await;
        let _ = stream.write_all(b"HTTP/1.1 400 Bad Request\r\n\r\n").await;
        let _ = stream.read(&mut asked).await;
    });
    // what it says has no length that Modbus knows: no answer comes of it, or a broken one
    let error = error_of(address).await;
    assert!(matches!(error, FeedError::Garbled { .. } | FeedError::Hangs(_)), "{error}");
}

#[tokio::test]
async fn the_panel_of_the_simulated_charger_says_what_it_did() {
    let own = charger_simulator();
    assert!(panel::say(&own, "equalize").contains(" V, "));
    let read = panel::say(&own, "read A2-2");
    assert!(read.starts_with("1.2") && read.contains("°C"), "{read}");
    assert_eq!(panel::say(&own, "read B1-1"), "no such cell; say read A1-1");
    assert!(panel::say(&own, "pass 2").ends_with(" 2.00 h"));
    assert_eq!(panel::say(&own, "heat 200"), "heat takes -30 to 90");
    assert_eq!(panel::say(&own, "fault repeat"), "Repeat");
    assert!(panel::say(&own, "dance").contains("not understood"));
}

async fn equipped(shop: &Shop, address: SocketAddr) -> (String, String) {
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    for cell in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"] {
        let mut body = reading(cell, if cell == "A2-2" { "1240" } else { "1277" });
        body["stands"] = json!(true);
        shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &body).await;
    }
    shop.finish(&round, 1, "desk").await;
    let body = json!({"equipment": {"feed": address.to_string()}});
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/equipment"))
        .header("if-match", "\"0\"")
        .json(&body);
    assert!(request.send().await.unwrap().status().is_success());
    let run = id();
    let open = json!({"bank": bank, "kind": "corrective", "temperature": {"typed": "20"}, "pilot": "A2-2"});
    shop.put(&format!("/api/runs/{run}"), &open).await;
    let say = async |what: Value| shop.put(&format!("/api/runs/{run}/entries/{}", id()), &what).await;
    for check in shop.get(&format!("/api/runs/{run}")).await["checks"].as_array().unwrap() {
        say(json!({"what": "confirmed", "check": check["check"]})).await;
    }
    assert!(say(json!({"what": "began"})).await.0.is_success());
    (bank, run)
}

/// The page of a run once it shows what is waited for.
async fn until(shop: &Shop, run: &str, shows: impl Fn(&Value) -> bool) -> Value {
    let begun = std::time::Instant::now();
    loop {
        let page = shop.get(&format!("/api/runs/{run}")).await;
        if shows(&page) {
            return page;
        }
        assert!(begun.elapsed().as_secs() < 60, "{}", page["feed"]);
        tokio::time::sleep(std::time::Duration::from_millis(25)).await;
    }
}

#[tokio::test]
async fn a_charger_that_was_not_switched_is_told_by_sound_and_its_run_counts_for_nothing() {
    let own = charger_simulator();
    let (address, task) = answering(&own).await;
    let shop = Shop::open().await;
    let (bank, run) = equipped(&shop, address).await;
    until(&shop, &run, |p| p["feed"]["live"] == true).await;
    // a whole minute of the feed, then six more that nobody watched
    shop.clock.pass(60);
    until(&shop, &run, |p| p["feed"]["live"] == true).await;
    shop.clock.pass(360);
    let page = until(&shop, &run, |p| p["alarm"] == "charger").await;
    assert!(page["title"].as_str().unwrap().starts_with("Look at the charger"), "{}", page["title"]);
    assert!(page["verdict"].as_str().unwrap().contains("which is no equalize"), "{}", page["verdict"]);
    let lines = shop.get("/api/runs").await;
    assert_eq!(lines[0]["alarm"], "charger", "on the list of runs too");
    own.hold().switch(Some(Stage::Equalize));
    shop.clock.pass(60);
    until(&shop, &run, |p| p["alarm"] != "charger").await;
    let ended = json!({"what": "stopped"});
    assert!(shop.put(&format!("/api/runs/{run}/entries/{}", id()), &ended).await.0.is_success());
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert!(page["runs"][0]["said"].as_str().unwrap().ends_with("stopped by hand"), "{}", page["runs"]);
    task.abort();
}

#[tokio::test]
async fn a_run_with_a_feed_goes_on_whatever_the_feed_does() {
    let own = charger_simulator();
    let (address, task) = answering(&own).await;
    own.hold().switch(Some(Stage::Equalize));
    let shop = Shop::open().await;
    let (_, run) = equipped(&shop, address).await;
    let page = until(&shop, &run, |p| p["feed"]["live"] == true).await;
    assert!(page["volts"].as_str().unwrap().ends_with(" V, by the charger"), "{}", page["volts"]);
    // a reading without volts takes those that the charger told
    let warm = json!({"what": "read", "temperature": {"typed": "20", "unit": "C"}});
    let (status, said) = shop.put(&format!("/api/runs/{run}/entries/{}", id()), &warm).await;
    assert!(status.is_success(), "{said}");
    let reading = &shop.get(&format!("/api/runs/{run}")).await["readings"][0];
    assert_eq!((&reading["volts_told"], &reading["amperes_told"]), (&json!(true), &json!(true)), "{reading}");
    assert!(reading["volts"].as_str().unwrap().parse::<f64>().unwrap() > 13.0, "{reading}");
    own.hold().go_wrong(Fault::Nonsense);
    let page = until(&shop, &run, |p| p["feed"]["marked"].as_i64().unwrap() > 1).await;
    assert!(page["feed"]["said"].as_str().unwrap().contains("did not count"), "{}", page["feed"]);
    own.hold().go_wrong(Fault::Hang);
    let page =
        until(&shop, &run, |p| p["feed"]["said"].as_str().unwrap().contains("within two seconds")).await;
    assert_eq!((&page["feed"]["live"], &page["phase"]), (&json!(false), &json!("running")));
    own.hold().go_wrong(Fault::None);
    until(&shop, &run, |p| p["feed"]["live"] == true).await;
    task.abort();
    let page =
        until(&shop, &run, |p| p["feed"]["said"].as_str().unwrap().contains("refuses the connection")).await;
    assert_eq!((&page["phase"], &page["alarm"]), (&json!("running"), &Value::Null));
    // typed figures take over where the feed is gone
    let typed = json!({"what": "read", "volts": "15.4", "amperes": "8"});
    shop.put(&format!("/api/runs/{run}/entries/{}", id()), &typed).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert!(page["volts"].as_str().unwrap().starts_with("15.4 V, read at "), "{}", page["volts"]);
    let reading = &page["readings"][1];
    assert_eq!((&reading["volts"], &reading["volts_told"]), (&json!("15.4"), &json!(false)), "{reading}");
}
