//! Planners and records by the clock: `cargo xtask bench`, a release build. Figures of `docs/performance.md`.
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::cast_precision_loss,
    reason = "a measuring program that fails loudly"
)]

#[path = "../tests/common/acting.rs"]
mod acting;

use jiff::{SignedDuration, Timestamp};
use rainshadow::clock::Clock;
use rainshadow::db::Db;
use rainshadow::{Settings, serve};
use reqwest::Client;
use serde_json::{Value, json};
use std::fmt::Write as _;
use std::path::Path;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Lines of the long log.
const LINES: usize = 5_000_000;
/// Answers of each planner that are timed.
const ASKED: usize = 200;

fn percentile(times: &mut [Duration], share: f64) -> Duration {
    times.sort_unstable();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a place in a list")]
    let at = (share * (times.len() - 1) as f64).round() as usize;
    times[at]
}

/// Memory in use, MB: now, and the most there was.
fn memory() -> (f64, f64) {
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let kilobytes = |name: &str| -> f64 {
        let line = status.lines().find(|line| line.starts_with(name)).unwrap();
        line.split_whitespace().nth(1).unwrap().parse().unwrap()
    };
    (kilobytes("VmRSS:") / 1024.0, kilobytes("VmHWM:") / 1024.0)
}

async fn post(client: &Client, path: &str, body: &Value) -> Duration {
    let begin = Instant::now();
    let response = client.post(path).json(body).send().await.unwrap();
    assert!(response.status().is_success(), "{path}: {}", response.text().await.unwrap());
    response.bytes().await.unwrap();
    begin.elapsed()
}

/// Every planner on banks of the demo, a control moved each time.
async fn planners(client: &Client, base: &str) {
    let banks: Vec<Value> =
        client.get(format!("{base}/api/banks")).send().await.unwrap().json().await.unwrap();
    let id = |site: &str| banks.iter().find(|own| own["site"] == site).unwrap()["id"].clone();
    for (planner, site, key, from, step) in [
        ("storage", "High Pasture hut", "charge", 40.0, 0.25),
        ("runtime", "Larch Point repeater", "amount", 2.0, 0.05),
        ("charging", "Kestrel Dome", "watts", 300.0, 5.0),
        ("charging", "Marginalia", "watts", 100.0, 5.0),
        ("replacement", "Kestrel Dome", "price", 150.0, 1.0),
        ("size", "Kestrel Dome", "days", 1.0, 0.01),
    ] {
        let form: Value = client
            .get(format!("{base}/api/planners/{planner}?bank={}", id(site).as_str().unwrap()))
            .send()
            .await
            .unwrap()
            .json()
            .await
            .unwrap();
        let known = form["controls"].as_array().unwrap().iter().any(|own| own["key"] == key);
        let mut times = Vec::new();
        for turn in 0..ASKED {
            let value = format!("{:.2}", from + step * turn as f64);
            let mut values = json!({});
            if known {
                values[key] = value.into();
            }
            if planner == "charging" {
                values["solar"] = "yes".into();
            }
            let body = json!({"bank": id(site), "values": values});
            times.push(post(client, &format!("{base}/api/planners/{planner}"), &body).await);
        }
        let (p50, p95) = (percentile(&mut times, 0.5), percentile(&mut times, 0.95));
        println!("planner {planner} on {site}, a control moved {ASKED} times: p50 {p50:?}, p95 {p95:?}");
    }
}

/// A log of five million lines, so many seconds apart, handed over as it is made.
fn log(seconds: i64) -> impl Iterator<Item = Result<String, std::io::Error>> + Clone {
    let end: Timestamp = "2026-10-07T00:00:00Z".parse().unwrap();
    let first = end - SignedDuration::from_secs(seconds * i64::try_from(LINES).unwrap());
    (0..LINES / 5000).map(move |part| {
        let mut text = String::with_capacity(5000 * 48);
        if part == 0 {
            text.push_str("Time,Voltage (V),Current (A),Temp (\u{b0}C),State\n");
        }
        for line in part * 5000..(part + 1) * 5000 {
            let at = first + SignedDuration::from_secs(seconds * i64::try_from(line).unwrap());
            let hour = at.as_second().rem_euclid(86_400) as f64 / 3600.0;
            let (volts, amperes, state) = match hour {
                h if h < 8.0 => (49.9, -2.0, "Off"),
                h if h < 14.0 => (54.0, 48.0 + (line % 2) as f64, "Bulk"),
                h if h < 16.0 => (58.0, 14.0 + (line % 2) as f64, "Absorption"),
                _ => (48.8, -38.0 - (line % 2) as f64, "Off"),
            };
            writeln!(text, "{at},{volts:.2},{amperes:.1},24.5,{state}").unwrap();
        }
        Ok(text)
    })
}

async fn records(client: &Client, base: &str, seconds: i64) {
    let banks: Vec<Value> =
        client.get(format!("{base}/api/banks")).send().await.unwrap().json().await.unwrap();
    let dome =
        banks.iter().find(|own| own["site"] == "Kestrel Dome").unwrap()["id"].as_str().unwrap().to_owned();
    let source = json!({
        "name": "monitor", "delimiter": ",", "positive": "charges",
        "columns": ["time", "volts", "amperes", "celsius", "state"],
    });
    let record = Uuid::now_v7();
    let request = client
        .put(format!("{base}/api/banks/{dome}/records/{record}"))
        .query(&[("source", source.to_string()), ("file", "long.csv".into())])
        .timeout(Duration::from_mins(5));
    // The server takes no body of unknown length, so the log is made twice: to be measured, and to be sent.
    let length: usize = log(seconds).map(|part| part.unwrap().len()).sum();
    let before = memory().0;
    let begin = Instant::now();
    let body = reqwest::Body::wrap_stream(tokio_stream::iter(log(seconds)));
    let answer = request.header("content-length", length).body(body).send().await.unwrap();
    let status = answer.status();
    let said: Value = answer.json().await.unwrap();
    let took = begin.elapsed();
    assert!(status.is_success(), "{said}");
    let (now, most) = memory();
    println!(
        "{LINES} lines, {seconds} s apart, made and read: {took:?}; memory {before:.0} MB before, {now:.0} after, {most:.0} at most, client and all"
    );
    println!("  {}", said["said"]);
    let begin = Instant::now();
    let page = client.get(format!("{base}/api/banks/{dome}/record")).send().await.unwrap();
    let bytes = page.bytes().await.unwrap().len();
    let first = begin.elapsed();
    let begin = Instant::now();
    client.get(format!("{base}/api/banks/{dome}/record")).send().await.unwrap().bytes().await.unwrap();
    println!(
        "  its last year judged and shown: {first:?} at first, {:?} again, {bytes} bytes; {:.0} MB at most",
        begin.elapsed(),
        memory().1
    );
    client.delete(format!("{base}/api/records/{record}")).send().await.unwrap();
}

async fn measured(folder: &Path) {
    let day = "2026-10-08".parse().unwrap();
    let data = folder.join("demo");
    let db = Db::open(&data).unwrap();
    db.write_now(|tx| rainshadow::demo::seed(tx, day, &indicatif::ProgressBar::hidden())).unwrap();
    drop(db);
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let base = format!("http://{}", listener.local_addr().unwrap());
    let settings = Settings { data_dir: data, clock: Clock::new(Some(day)), ..Settings::default() };
    tokio::spawn(serve(settings, listener, std::future::pending()));
    let client = acting::acting();
    acting::introduce(&client, &base).await;
    planners(&client, &base).await;
    records(&client, &base, 10).await;
    records(&client, &base, 60).await;
}

fn main() {
    let folder = tempfile::tempdir_in(".").unwrap();
    tokio::runtime::Runtime::new().unwrap().block_on(measured(folder.path()));
}
