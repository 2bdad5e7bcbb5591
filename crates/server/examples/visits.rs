//! The figures of visits in `docs/performance.md`: Today over two thousand banks with five years of
//! monthly visits, a photograph of twelve megapixels, a report with twenty photographs.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a measuring program that fails loudly")]

#[path = "../tests/common/acting.rs"]
mod acting;

use rainshadow::clock::Clock;
use rainshadow::{Settings, serve};
use reqwest::{Client, Method, RequestBuilder};
use rusqlite::Connection;
use serde_json::{Value, json};
use std::io::Cursor;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};
use uuid::Uuid;

const BANKS: u32 = 2000;
const VISITS: u32 = 60;
const CELLS: u32 = 12;

/// A server with a client.
struct Shop {
    base: String,
    client: Client,
}

impl Shop {
    fn ask(&self, method: Method, path: &str) -> RequestBuilder {
        self.client.request(method, format!("{}{path}", self.base))
    }

    async fn put(&self, path: &str, body: &Value) {
        let answer = self.ask(Method::PUT, path).json(body).send().await.unwrap();
        let status = answer.status();
        assert!(status.is_success(), "{path}: {}", answer.text().await.unwrap());
    }

    async fn post(&self, path: &str, version: i64) {
        let request = self.ask(Method::POST, path).header("if-match", format!("\"{version}\""));
        let answer = request.json(&json!({})).send().await.unwrap();
        assert!(answer.status().is_success(), "{path}: {}", answer.text().await.unwrap());
    }

    async fn get(&self, path: &str) -> (Duration, Vec<u8>) {
        let begin = Instant::now();
        let answer = self.ask(Method::GET, path).send().await.unwrap();
        assert!(answer.status().is_success(), "{path}");
        let bytes = answer.bytes().await.unwrap().to_vec();
        (begin.elapsed(), bytes)
    }

    async fn say(&self, visit: &str, place: &str, what: Value) {
        let body = json!({"place": place, "what": what, "taken_at": "2026-10-08T09:00:00Z"});
        self.put(&format!("/api/visits/{visit}/entries/{}", Uuid::now_v7()), &body).await;
    }
}

fn cell(i: u32) -> String {
    format!("A{}-{}", i / 3 + 1, i % 3 + 1)
}

/// One bank of twelve cells with one visit: a round, levels, volts, water. Its id.
async fn first_visit(shop: &Shop) -> String {
    let [site, bank, visit, round] = [(); 4].map(|()| Uuid::now_v7().to_string());
    shop.put(&format!("/api/sites/{site}"), &json!({"name": "High Pasture hut", "zone": "UTC"})).await;
    let shape = json!({"system_voltage": 24, "cells_per_battery": 3, "series": 4, "parallel": 1});
    let body = json!({"site": site, "model": "flooded-6v-420", "rules": "maker_first", "shape": shape, "in_service": "2020"});
    shop.put(&format!("/api/banks/{bank}"), &body).await;
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    let open = json!({"bank": bank, "visit": visit,
        "conditions": {"hours_since_load": "25", "hours_since_charge": "26", "water_added": "no"},
        "instrument": {"kind": "hydrometer", "resolution": 5.0, "repeatability": 3.0, "corrects_for_temperature": false}});
    shop.put(&format!("/api/rounds/{round}"), &open).await;
    for i in 0..CELLS {
        let read = json!({"cell": cell(i), "kind": "gravity", "typed": format!("{}", 262 + i % 4), "taken_at": "2026-10-08T09:00:00Z", "stands": true});
        shop.put(&format!("/api/rounds/{round}/readings/{}", Uuid::now_v7()), &read).await;
    }
    shop.post(&format!("/api/rounds/{round}/finish"), 1).await;
    shop.say(&visit, "", json!({"kind": "rested", "hours_since_charge": "26", "hours_since_load": "25"}))
        .await;
    for battery in 1..=4 {
        shop.say(&visit, &format!("A{battery}"), json!({"kind": "battery_volts", "typed": "6.34"})).await;
    }
    for i in 0..CELLS {
        shop.say(&visit, &cell(i), json!({"kind": "level", "step": "low"})).await;
    }
    shop.say(&visit, "", json!({"kind": "water", "typed": "1.1", "unit": "litre", "to_mark": true})).await;
    let version =
        serde_json::from_slice::<Value>(&shop.get(&format!("/api/visits/{visit}")).await.1).unwrap();
    shop.post(&format!("/api/visits/{visit}/close"), version["version"].as_i64().unwrap()).await;
    bank
}

/// Copies every row of a table `times` times: ids get the number of the copy at this place, instants
/// move back a month each.
fn copy(db: &Connection, table: &str, ids: &[&str], instants: &[&str], (times, place): (u32, u32)) {
    let mut query = db.prepare("SELECT name FROM pragma_table_info(?) WHERE name <> 'seq'").unwrap();
    let columns: Vec<String> = query.query_map([table], |r| r.get(0)).unwrap().map(|c| c.unwrap()).collect();
    let picks: Vec<String> = columns
        .iter()
        .map(|c| {
            if ids.contains(&c.as_str()) {
                format!(
                    "substr({c}, 1, {}) || printf('%03x', n + 2048) || substr({c}, {})",
                    place - 1,
                    place + 3
                )
            } else if instants.contains(&c.as_str()) {
                format!("strftime('%Y-%m-%dT%H:%M:%SZ', {c}, '-' || (n * 30) || ' days')")
            } else {
                c.clone()
            }
        })
        .collect();
    let sql = format!(
        "WITH RECURSIVE k(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM k WHERE n < {times}) \
         INSERT INTO {table} ({}) SELECT {} FROM (SELECT * FROM {table}), k",
        columns.join(", "),
        picks.join(", ")
    );
    db.execute(&sql, []).unwrap();
}

/// Sixty monthly visits of the one bank, then two thousand such banks.
fn multiply(folder: &Path) {
    let db = Connection::open(folder.join("rainshadow.db")).unwrap();
    db.execute_batch(
        "PRAGMA foreign_keys = OFF; PRAGMA synchronous = OFF; BEGIN; \
         DELETE FROM assessment; DELETE FROM judged_cell; UPDATE visit SET report = NULL",
    )
    .unwrap();
    let instants = ["started_at", "ended_at", "finished_at", "taken_at", "received_at"];
    let months = (VISITS - 1, 1);
    copy(&db, "visit", &["id"], &instants, months);
    copy(&db, "visit_entry", &["id", "visit_id"], &instants, months);
    copy(&db, "round", &["id", "visit_id"], &instants, months);
    copy(&db, "reading", &["id", "round_id"], &instants, months);
    let banks = (BANKS - 1, 4);
    copy(&db, "site", &["id"], &[], banks);
    copy(&db, "bank", &["id", "site_id"], &[], banks);
    copy(&db, "layout", &["bank_id"], &[], banks);
    copy(&db, "block", &["id"], &[], banks);
    copy(&db, "placement", &["block_id", "bank_id"], &[], banks);
    copy(&db, "visit", &["id", "bank_id"], &[], banks);
    copy(&db, "visit_entry", &["id", "visit_id", "block_id"], &[], banks);
    copy(&db, "round", &["id", "bank_id", "visit_id"], &[], banks);
    copy(&db, "reading", &["id", "round_id", "block_id"], &[], banks);
    db.execute_batch("COMMIT").unwrap();
}

fn percentiles(name: &str, mut times: Vec<Duration>) {
    times.sort_unstable();
    let at = |share: usize| times[(times.len() * share / 100).min(times.len() - 1)];
    println!("{name}: p50 {:?}, p99 {:?}, of {}", at(50), at(99), times.len());
}

/// A picture of twelve megapixels as a phone takes it.
fn picture(seed: u32) -> Vec<u8> {
    let image = image::RgbImage::from_fn(4000, 3000, |x, y| {
        let spot = |v: u32| u8::try_from((v * 7 + seed * 31 + (x ^ y) % 23) % 256).unwrap();
        image::Rgb([spot(x / 9), spot(y / 7), spot((x + y) / 11)])
    });
    let mut bytes = Cursor::new(Vec::new());
    image.write_to(&mut bytes, image::ImageFormat::Jpeg).unwrap();
    bytes.into_inner()
}

async fn photographs(shop: &Shop, visit: &str) {
    let mut times = Vec::new();
    for n in 0..20 {
        let (photo, bytes) = (Uuid::now_v7(), picture(n));
        let path = format!("/api/visits/{visit}/photos/{photo}?what=wiring");
        let begin = Instant::now();
        let answer = shop.ask(Method::PUT, &path).body(bytes).send().await.unwrap();
        assert!(answer.status().is_success(), "{}", answer.text().await.unwrap());
        let _ = shop.get(&format!("/api/photos/{photo}?small=true")).await;
        times.push(begin.elapsed());
    }
    percentiles("a photograph of 12 MP sent and shown", times);
    let mut times = Vec::new();
    let mut size = 0;
    for _ in 0..10 {
        let (took, report) = shop.get(&format!("/api/visits/{visit}/report")).await;
        size = report.len();
        times.push(took);
    }
    percentiles(&format!("a report with 20 photographs, {} kB", size / 1000), times);
}

async fn today(shop: &Shop, visit: &str) {
    let (first, page) = shop.get("/api/today").await;
    let page: Value = serde_json::from_slice(&page).unwrap();
    println!("Today over {} banks, worked out for the first time: {first:?}", page["banks"]);
    let mut times = Vec::new();
    for _ in 0..200 {
        times.push(shop.get("/api/today").await.0);
    }
    percentiles("Today again", times);
    let mut times = Vec::new();
    for n in 0..100 {
        shop.say(
            visit,
            &cell(n % CELLS),
            json!({"kind": "level", "step": if n % 2 == 0 { "at_mark" } else { "low" }}),
        )
        .await;
        times.push(shop.get("/api/today").await.0);
    }
    percentiles("Today after each new entry", times);
}

#[tokio::main]
async fn main() {
    // A folder named on the command line is kept, to measure again without writing anew.
    let made = tempfile::tempdir_in(".").unwrap();
    let folder = std::env::args().nth(1).map_or_else(|| made.path().to_owned(), PathBuf::from);
    let again = folder.join("rainshadow.db").exists();
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let base = format!("http://{}", listener.local_addr().unwrap());
    let settings = Settings {
        data_dir: folder.clone(),
        clock: Clock::new(Some("2026-10-08".parse().unwrap())),
        ..Settings::default()
    };
    tokio::spawn(serve(settings, listener, std::future::pending()));
    let shop = Shop { base, client: acting::acting() };
    acting::introduce(&shop.client, &shop.base).await;
    let bank = first_visit(&shop).await;
    if !again {
        let begin = Instant::now();
        tokio::task::spawn_blocking(move || multiply(&folder)).await.unwrap();
        println!("{BANKS} banks of {VISITS} visits written in {:?}", begin.elapsed());
    }
    let visit = Uuid::now_v7().to_string();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    if !again {
        photographs(&shop, &visit).await;
    }
    today(&shop, &visit).await;
}
