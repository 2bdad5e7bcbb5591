//! The figures of `docs/performance.md`: `cargo xtask bench`.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a measuring program that fails loudly")]

#[path = "../tests/common/acting.rs"]
mod acting;

use rainshadow::clock::Clock;
use rainshadow::{Settings, serve};
use rainshadow_core::bank::{BankShape, Layout};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{Points, SpecificGravity, Temperature};
use rainshadow_core::round::{
    CellReading, CellRecord, Conditions, PastCell, PastRound, RoundTemperature, RoundToJudge, judge,
};
use reqwest::Client;
use serde_json::json;
use std::hint::black_box;
use std::io::{Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// As the program itself.
#[global_allocator]
static ALLOCATOR: tikv_jemallocator::Jemalloc = tikv_jemallocator::Jemalloc;

/// Median of measured times.
fn p50(mut times: Vec<Duration>) -> Duration {
    times.sort_unstable();
    times[times.len() / 2]
}

fn shape() -> BankShape {
    let layout = Layout::default();
    BankShape { system_voltage: 48, cells_per_battery: 3, series: 8, parallel: 2, layout }.checked().unwrap()
}

/// A little disorder that is the same every time.
fn wobble(i: usize) -> f64 {
    let step = u32::try_from(i * 7 % 11).unwrap();
    f64::from(step) - 5.0
}

fn round_with_history() -> RoundToJudge {
    let shape = shape();
    let sg = |points: f64| SpecificGravity::new(1.262 + points / 1000.0).unwrap();
    let past = (1..=40u32)
        .map(|n| PastRound {
            days_before: 30.0 * f64::from(n),
            instrument: Instrument::hydrometer().kind,
            before_equalize: false,
            cells: shape
                .cells()
                .enumerate()
                .map(|(i, cell)| PastCell {
                    cell,
                    corrected: sg(wobble(i)),
                    deviation: Points::new(if i == 20 { -40.0 + f64::from(n) } else { wobble(i) }),
                })
                .collect(),
        })
        .collect();
    let readings = shape
        .cells()
        .enumerate()
        .map(|(i, cell)| CellRecord {
            cell,
            reading: CellReading::Gravity { read: sg(if i == 20 { -40.0 } else { wobble(i) }) },
            temperature: None,
            stands: true,
        })
        .collect();
    RoundToJudge {
        low_levels: Vec::new(),
        shape,
        model: BatteryModel::generic_by_key("flooded-6v-420").unwrap(),
        rules: HouseRules::maker_first(),
        other_rules: HouseRules::shipped().to_vec(),
        instrument: Instrument::hydrometer(),
        conditions: Conditions {
            temperature: RoundTemperature::OneForAll {
                temperature: Temperature::from_celsius(20.0).unwrap(),
            },
            hours_since_load: Some(5.0),
            ..Conditions::default()
        },
        readings,
        past,
    }
}

fn judging() {
    let round = round_with_history();
    assert!(judge(&round).cells.iter().any(|c| c.sinking.is_some()));
    let times = (0..2000)
        .map(|_| {
            let begin = Instant::now();
            black_box(judge(black_box(&round)));
            begin.elapsed()
        })
        .collect();
    println!("48 cells with 40 earlier rounds judged, p50: {:?}", p50(times));
}

/// Pragmas of the program's own connection that writes.
const AS_WRITTEN: &str = "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON;";

/// A bare connection to a table of three columns with the indexes of readings.
fn three_columns(folder: &Path) -> rusqlite::Connection {
    let db = rusqlite::Connection::open(folder.join("bare.db")).unwrap();
    db.execute_batch(AS_WRITTEN).unwrap();
    db.execute_batch(
        "CREATE TABLE reading (seq INTEGER PRIMARY KEY, id TEXT NOT NULL UNIQUE, round_id TEXT NOT NULL, \
         body TEXT NOT NULL) STRICT; CREATE INDEX reading_by_round ON reading (round_id, seq);",
    )
    .unwrap();
    db
}

/// A bare connection to a copy of the database, with all that its tables hold readings to.
fn copied(folder: &Path) -> rusqlite::Connection {
    let copy = folder.join("copied.db");
    let live = rusqlite::Connection::open(folder.join("data/rainshadow.db")).unwrap();
    live.execute("VACUUM INTO ?", [copy.to_str().unwrap()]).unwrap();
    let db = rusqlite::Connection::open(copy).unwrap();
    db.execute_batch(AS_WRITTEN).unwrap();
    db
}

/// One commit of a row as long as a reading's.
fn commit_three_columns(db: &rusqlite::Connection, round: &str) -> Duration {
    let (id, body) = (Uuid::now_v7().to_string(), "x".repeat(420));
    let begin = Instant::now();
    db.prepare_cached("INSERT INTO reading (id, round_id, body) VALUES (?, ?, ?)")
        .unwrap()
        .execute((&id, round, &body))
        .unwrap();
    begin.elapsed()
}

/// One commit of a reading, its text as long as what is sent.
fn commit_reading(db: &rusqlite::Connection, round: &str, block: &str) -> Duration {
    let (id, person) = (Uuid::now_v7().to_string(), acting::person("TA"));
    let (sent, at) = ("x".repeat(190), "2026-10-08T09:00:00Z");
    let begin = Instant::now();
    db.prepare_cached(
        "INSERT INTO reading (id, round_id, person_id, person, device, sent, block_id, cell, kind, gravity, typed, \
         stands, taken_at, received_at) VALUES (?, ?, ?, 'TA', 'desk', ?, ?, 1, 'gravity', 1.262, '262', 0, ?, ?)",
    )
    .unwrap()
    .execute((&id, round, &person, &sent, block, at, at))
    .unwrap();
    begin.elapsed()
}

async fn describe(client: &Client, base: &str) -> String {
    let (site, bank) = (Uuid::now_v7(), Uuid::now_v7());
    client
        .put(format!("{base}/api/sites/{site}"))
        .json(&json!({"name": "Kestrel Dome", "zone": "UTC"}))
        .send()
        .await
        .unwrap();
    let body = json!({"site": site, "model": "flooded-6v-420", "rules": "maker_first", "shape": shape()});
    assert!(
        client
            .put(format!("{base}/api/banks/{bank}"))
            .json(&body)
            .send()
            .await
            .unwrap()
            .status()
            .is_success()
    );
    bank.to_string()
}

/// Ten years of monthly rounds, as a notebook.
fn ten_years() -> String {
    let row = |label: String, fields: Vec<String>| format!("{label},{}", fields.join(","));
    let months = 0..120usize;
    let dates = months.clone().map(|m| format!("{}-{:02}-05", 2016 + m / 12, m % 12 + 1)).collect();
    let mut lines = vec![row("cell".into(), dates)];
    for (i, cell) in shape().cells().enumerate() {
        let fields = months.clone().map(|m| format!("{:.0}", 262.0 + wobble(i + m))).collect();
        lines.push(row(cell.to_string(), fields));
    }
    lines.join("\n")
}

async fn over_http(folder: &Path) {
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let base = format!("http://{}", listener.local_addr().unwrap());
    let settings = Settings {
        data_dir: folder.join("data"),
        clock: Clock::new(Some("2026-10-08".parse().unwrap())),
        ..Settings::default()
    };
    tokio::spawn(serve(settings, listener, std::future::pending()));
    let client = acting::acting();
    acting::introduce(&client, &base).await;
    let bank = describe(&client, &base).await;
    let path = format!("{base}/api/banks/{bank}/notebook/{}", Uuid::now_v7());
    assert!(client.put(path).body(ten_years()).send().await.unwrap().status().is_success());

    let page = format!("{base}/api/banks/{bank}");
    let mut times = Vec::new();
    for _ in 0..60 {
        let begin = Instant::now();
        let bytes = client.get(&page).send().await.unwrap().bytes().await.unwrap();
        times.push(begin.elapsed());
        assert!(bytes.len() > 10_000);
    }
    println!("bank page with 120 rounds of 48 cells, p50: {:?}", p50(times));

    let mut rounds = Vec::new();
    for _ in 0..15 {
        let round = Uuid::now_v7();
        let open = json!({"bank": bank, "conditions": {"hours_since_load": "5", "water_added": "no"},
            "instrument": {"kind": "hydrometer", "resolution": 5.0, "repeatability": 3.0, "corrects_for_temperature": false}});
        let path = format!("{base}/api/rounds/{round}");
        assert!(client.put(path).json(&open).send().await.unwrap().status().is_success());
        rounds.push(round);
    }
    let (folder, base) = (folder.to_owned(), base.clone());
    let turns = tokio::task::spawn_blocking(move || saving(&folder, &base, &rounds)).await.unwrap();
    let saved = p50(turns.saved);
    println!("a saved reading over HTTP, p50: {saved:?}");
    println!("an empty answer over HTTP, p50: {:?}", p50(turns.empty));
    for (what, commits) in [
        ("a bare rusqlite commit of the same row in the same table", turns.same_table),
        ("a bare rusqlite commit of a row as long in a table of three columns", turns.three_columns),
    ] {
        let commit = p50(commits);
        println!("{what}, p50: {commit:?}, ratio: {:.2}", saved.as_secs_f64() / commit.as_secs_f64());
    }
}

/// One request over a connection that is kept; the status line of the answer.
fn ask(stream: &mut TcpStream, host: &str, what: &str, body: &str) -> String {
    let (length, who) = (body.len(), acting::person("TA"));
    let request = format!(
        "{what} HTTP/1.1\r\nhost: {host}\r\ncontent-type: application/json\r\ncontent-length: {length}\r\n\
         rainshadow-person: {who}\r\nrainshadow-device: desk\r\n\r\n{body}"
    );
    stream.write_all(request.as_bytes()).unwrap();
    let (mut answer, mut piece) = (Vec::new(), [0; 4096]);
    loop {
        let n = stream.read(&mut piece).unwrap();
        assert!(n > 0, "the server hung up");
        answer.extend_from_slice(&piece[..n]);
        let text = String::from_utf8_lossy(&answer);
        let Some((head, rest)) = text.split_once("\r\n\r\n") else { continue };
        let length = head.lines().find_map(|l| l.strip_prefix("content-length: ")).unwrap_or("0");
        if rest.len() >= length.parse().unwrap() {
            return head.lines().next().unwrap_or_default().to_owned();
        }
    }
}

/// What is measured turn by turn, so that all meet the machine in the same mood.
#[derive(Default)]
struct Turns {
    saved: Vec<Duration>,
    /// The same row in the same table, by rusqlite alone.
    same_table: Vec<Duration>,
    three_columns: Vec<Duration>,
    empty: Vec<Duration>,
}

fn saving(folder: &Path, base: &str, rounds: &[Uuid]) -> Turns {
    let (three, same, host) = (three_columns(folder), copied(folder), base.trim_start_matches("http://"));
    let block: String = same.query_row("SELECT id FROM block LIMIT 1", [], |row| row.get(0)).unwrap();
    let mut stream = TcpStream::connect(host).unwrap();
    stream.set_nodelay(true).unwrap();
    let mut turns = Turns::default();
    let shape = shape();
    let all =
        rounds.iter().flat_map(|round| shape.cells().enumerate().map(move |(i, cell)| (round, i, cell)));
    for (round, i, cell) in all {
        let body = json!({"cell": cell, "kind": "gravity", "typed": format!("{:.0}", 262.0 + wobble(i)), "taken_at": "2026-10-08T09:00:00Z"});
        let what = format!("PUT /api/rounds/{round}/readings/{}", Uuid::now_v7());
        let begin = Instant::now();
        let status = ask(&mut stream, host, &what, &body.to_string());
        turns.saved.push(begin.elapsed());
        assert!(status.contains("201"), "{status}");
        turns.same_table.push(commit_reading(&same, &round.to_string(), &block));
        turns.three_columns.push(commit_three_columns(&three, &round.to_string()));
        let begin = Instant::now();
        assert!(ask(&mut stream, host, "GET /healthz", "").contains("200"));
        turns.empty.push(begin.elapsed());
    }
    turns
}

fn demo(folder: &Path) {
    let begin = Instant::now();
    let db = rainshadow::db::Db::open(&folder.join("demo")).unwrap();
    db.write_now(|tx| {
        rainshadow::demo::seed(tx, "2026-10-08".parse().unwrap(), &indicatif::ProgressBar::hidden())
    })
    .unwrap();
    println!("demo made: {:?}", begin.elapsed());
    drop(db);
    let begin = Instant::now();
    rainshadow::db::Db::open(&folder.join("demo")).unwrap();
    println!("demo folder opened again: {:?}", begin.elapsed());
}

fn main() {
    let folder = tempfile::tempdir_in(".").unwrap();
    judging();
    demo(folder.path());
    tokio::runtime::Runtime::new().unwrap().block_on(over_http(folder.path()));
}
