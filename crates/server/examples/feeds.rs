//! The figures of feeds in `docs/performance.md`: an hour of twenty chargers a second apart on a
//! simulated clock, and thirty real seconds of twenty over Modbus TCP; nothing lost, memory flat.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a measuring program that fails loudly")]

#[path = "../tests/common/acting.rs"]
mod acting;

use rainshadow::charger_simulator::{Bank, ChargerSimulator, Shared, serve as stand};
use rainshadow::clock::Clock;
use rainshadow::db::{Db, FeedSample};
use rainshadow::feed::Keeper;
use rainshadow::{Settings, serve};
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::Stage;
use rainshadow_core::feed::{FeedStage, FeedWatch, Sample};
use reqwest::{Client, Method};
use rusqlite::Connection;
use serde_json::{Value, json};
use std::path::Path;
use std::time::{Duration, Instant};
use tokio::net::TcpListener;
use uuid::Uuid;

const CHARGERS: usize = 20;
const SECONDS: u32 = 3600;
const REAL: Duration = Duration::from_secs(30);

fn bank() -> Bank {
    let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    let shape = BankShape {
        system_voltage: 12,
        cells_per_battery: 3,
        series: 2,
        parallel: 1,
        layout: Layout::default(),
    };
    Bank { shape, model, charged: 0.97, air: 20.0, odd: Vec::new() }
}

/// Memory of this process, MB.
fn memory() -> f64 {
    let text = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = text.lines().find_map(|l| l.strip_prefix("VmRSS:")).unwrap_or("0 kB");
    line.trim().trim_end_matches(" kB").trim().parse::<f64>().unwrap_or(0.0) / 1024.0
}

struct Shop {
    base: String,
    client: Client,
}

impl Shop {
    async fn send(&self, method: Method, path: &str, version: Option<i64>, body: &Value) -> Value {
        let mut request = self.client.request(method, format!("{}{path}", self.base)).json(body);
        if let Some(version) = version {
            request = request.header("if-match", format!("\"{version}\""));
        }
        let answer = request.send().await.unwrap();
        let (status, text) = (answer.status(), answer.text().await.unwrap());
        assert!(status.is_success(), "{path}: {text}");
        serde_json::from_str(&text).unwrap_or_default()
    }
}

/// Twenty banks; their ids.
async fn banks(shop: &Shop) -> Vec<String> {
    let site = Uuid::now_v7().to_string();
    shop.send(
        Method::PUT,
        &format!("/api/sites/{site}"),
        None,
        &json!({"name": "Hollin Basin", "zone": "UTC"}),
    )
    .await;
    let mut all = Vec::new();
    for number in 0..CHARGERS {
        let id = Uuid::now_v7().to_string();
        let shape = json!({"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1});
        let body = json!({"site": site, "name": format!("bank {number}"), "model": "flooded-6v-225", "rules": "maker_first", "shape": shape});
        shop.send(Method::PUT, &format!("/api/banks/{id}"), None, &body).await;
        all.push(id);
    }
    all
}

/// An hour of twenty chargers, a sample a second each, through what judges and keeps them.
async fn simulated(folder: &Path, banks: &[String]) {
    // The lock on the folder falls when the last task of the server is gone.
    let db = loop {
        match Db::open(folder) {
            Ok(db) => break db,
            Err(_) => tokio::time::sleep(Duration::from_millis(50)).await,
        }
    };
    let from = jiff::Timestamp::from_second(1_790_000_000).unwrap();
    let clock = move || from;
    let (keeper, work) = Keeper::new(db, clock);
    let kept = tokio::spawn(work);
    let mut chargers: Vec<(ChargerSimulator, FeedWatch)> = banks
        .iter()
        .map(|_| {
            let mut own = ChargerSimulator::new(bank());
            own.switch(Some(Stage::Equalize));
            (own, FeedWatch::new(6, 225.0))
        })
        .collect();
    let (begun, before) = (Instant::now(), memory());
    let mut half = 0.0;
    for second in 0..SECONDS {
        let at = from.checked_add(jiff::SignedDuration::from_secs(i64::from(second))).unwrap();
        for (id, (own, watch)) in banks.iter().zip(&mut chargers) {
            own.pass(1.0 / 3600.0);
            let (volts, amperes, _) = own.display();
            let heartbeat = u16::try_from(second % 60_000).ok();
            let celsius = Some(own.celsius());
            let sample = Sample {
                at: f64::from(second),
                volts,
                amperes,
                celsius,
                stage: Some(FeedStage::Charging),
                heartbeat,
            };
            let mark = watch.judge(&sample);
            assert!(keeper.take(FeedSample { bank: id.clone(), at, sample, mark }).await);
        }
        if second == SECONDS / 2 {
            half = memory();
        }
    }
    drop(keeper);
    kept.await.unwrap();
    let took = begun.elapsed().as_secs_f64();
    let to = from.as_millisecond() + i64::from(SECONDS) * 1000;
    let counted: i64 = Connection::open(folder.join("rainshadow.db"))
        .unwrap()
        .query_row("SELECT count(*) FROM feed_sample WHERE at < ?", [to], |row| row.get(0))
        .unwrap();
    println!(
        "{counted} samples of {CHARGERS} chargers on a simulated clock kept in {took:.1} s; memory {before:.1} MB before, {half:.1} MB half-way, {:.1} MB after",
        memory()
    );
    assert_eq!(usize::try_from(counted).unwrap(), CHARGERS * SECONDS as usize, "a sample was lost");
}

/// Opens a run on a bank, so that its charger is asked every second.
async fn open_run(shop: &Shop, bank: &str, port: u16) {
    let equipment = json!({"equipment": {"feed": format!("127.0.0.1:{port}")}});
    shop.send(Method::PUT, &format!("/api/banks/{bank}/equipment"), Some(0), &equipment).await;
    let body = json!({"bank": bank, "kind": "corrective", "temperature": {"typed": "20"}, "pilot": "A1-1"});
    shop.send(Method::PUT, &format!("/api/runs/{}", Uuid::now_v7()), None, &body).await;
}

#[tokio::main(flavor = "multi_thread", worker_threads = 2)]
async fn main() {
    let folder = tempfile::tempdir().unwrap();
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let shop = Shop { base: format!("http://{}", listener.local_addr().unwrap()), client: acting::acting() };
    let settings =
        Settings { data_dir: folder.path().to_owned(), clock: Clock::new(None), ..Settings::default() };
    let (end, asked) = tokio::sync::oneshot::channel::<()>();
    let server = tokio::spawn(serve(settings, listener, async move {
        let _ = asked.await;
    }));
    acting::introduce(&shop.client, &shop.base).await;
    let ids = banks(&shop).await;
    for id in &ids {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let port = listener.local_addr().unwrap().port();
        let own = Shared::new(ChargerSimulator::new(bank()));
        own.hold().switch(Some(Stage::Equalize));
        tokio::spawn(stand(own, listener, 1.0));
        open_run(&shop, id, port).await;
    }
    tokio::time::sleep(Duration::from_secs(5)).await;
    let (from, before) = (jiff::Timestamp::now().as_millisecond(), memory());
    tokio::time::sleep(REAL).await;
    let (to, after) = (jiff::Timestamp::now().as_millisecond(), memory());
    tokio::time::sleep(Duration::from_secs(3)).await;
    let db = Connection::open(folder.path().join("rainshadow.db")).unwrap();
    let mut least = i64::MAX;
    let mut widest = 0;
    for id in &ids {
        let mut query = db
            .prepare("SELECT at FROM feed_sample WHERE bank_id = ? AND at BETWEEN ? AND ? ORDER BY at")
            .unwrap();
        let times: Vec<i64> =
            query.query_map((id, from, to), |row| row.get(0)).unwrap().map(Result::unwrap).collect();
        least = least.min(i64::try_from(times.len()).unwrap());
        widest = times.windows(2).map(|p| p[1] - p[0]).max().unwrap_or(i64::MAX).max(widest);
    }
    println!(
        "{CHARGERS} chargers over Modbus TCP for {} s: at least {least} samples each, widest gap {widest} ms; memory {before:.1} MB before, {after:.1} MB after",
        REAL.as_secs()
    );
    drop(db);
    let _ = end.send(());
    server.await.unwrap().unwrap();
    simulated(folder.path(), &ids).await;
}
