//! What the program costs a machine: starts the release program on the demo, walks every view in a
//! browser, and prints starts, the size of the first screen and the memory of the server. Run by
//! `cargo xtask bench`.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a measuring tool that fails loudly")]

use browser_tests::{DESK, Page};
use serde_json::Value;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

fn program() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../target/release/rainshadow")
}

/// Starts the demo; its process, its address, and how long until it answered.
fn start(folder: &Path) -> (Child, String, Duration) {
    let begin = Instant::now();
    let mut child = Command::new(program())
        .args(["demo", "--today", "2026-10-08", "--listen", "127.0.0.1:0", "--data-dir"])
        .arg(folder)
        .stdout(Stdio::piped())
        .spawn()
        .expect("the release program is built first: cargo build --release --package rainshadow");
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let address = line.split_whitespace().find(|w| w.starts_with("http://")).unwrap();
    (child, address.trim_end_matches('/').to_owned(), begin.elapsed())
}

/// Resident memory of a process, MB.
fn resident(child: &Child) -> f64 {
    let status = std::fs::read_to_string(format!("/proc/{}/status", child.id())).unwrap();
    let line = status.lines().find(|l| l.starts_with("VmRSS")).unwrap();
    let kilobytes: f64 = line.split_whitespace().nth(1).unwrap().parse().unwrap();
    kilobytes / 1024.0
}

/// Scripts, styles and fonts the page on screen fetched, kB as they crossed the wire.
async fn fetched(page: &Page) -> f64 {
    let sizes = "return performance.getEntriesByType('resource').filter(r => /\\.(js|css|woff2?)$/.test(r.name)).reduce((s, r) => s + r.encodedBodySize, 0)";
    page.script(sizes).await.as_f64().unwrap() / 1000.0
}

/// Told by the page itself, from the beginning of its navigation: when its first line is there and a press on it
/// would be answered, and when the last task of more than 50 ms ended.
const WATCH: &str = "window.told = { pressed: null, quiet: 0 }; \
    new PerformanceObserver(l => { for (const e of l.getEntries()) told.quiet = Math.max(told.quiet, e.startTime + e.duration) }) \
        .observe({ type: 'longtask', buffered: true }); \
    const look = () => [...document.querySelectorAll('button')].some(b => b.ariaLabel?.startsWith('Put off: ')) \
        ? setTimeout(() => { told.pressed = performance.now() }, 0) : requestAnimationFrame(look); \
    requestAnimationFrame(look);";

/// How long until Today can be worked with on a processor a quarter as fast: until its lines can be pressed, and
/// until nothing is left to do.
async fn slow_today(base: &str) -> [Duration; 2] {
    let page = Page::at(base, DESK).await;
    page.see("Kestrel Dome").await;
    page.slow_down(4.0).await;
    page.watched_by(WATCH).await;
    page.go("/today").await;
    page.until("its lines can be pressed", "return told.pressed !== null").await;
    page.see("Load the van").await;
    page.until("it is quiet", "return performance.now() > told.quiet + 1000").await;
    let told = page.script("return [told.pressed, told.quiet]").await;
    page.close().await;
    [0, 1].map(|which| Duration::from_secs_f64(told[which].as_f64().unwrap() / 1000.0))
}

async fn walk(base: &str) -> f64 {
    let banks: Value = reqwest::get(format!("{base}/api/banks")).await.unwrap().json().await.unwrap();
    let page = Page::at(base, DESK).await;
    page.see("Kestrel Dome").await;
    page.until("fonts are there", "return document.fonts.status === 'loaded'").await;
    let first = fetched(&page).await;
    for bank in banks.as_array().unwrap() {
        let id = bank["id"].as_str().unwrap();
        let detail: Value =
            reqwest::get(format!("{base}/api/banks/{id}")).await.unwrap().json().await.unwrap();
        // a sealed bank has none
        let round = detail["round"].as_str().map(|round| format!("/rounds/{round}"));
        for path in [
            format!("/banks/{id}"),
            format!("/banks/{id}?cell=A1-1"),
            format!("/banks/{id}/edit"),
            format!("/banks/{id}/round"),
            format!("/banks/{id}/notebook"),
            round.unwrap_or_else(|| "/banks".into()),
            "/banks/new".into(),
            "/library".into(),
            "/banks".into(),
        ] {
            page.go(&path).await;
            page.until(&path, "return !!document.querySelector('h1') && !document.querySelector('.loading')")
                .await;
        }
    }
    page.close().await;
    first
}

#[tokio::main]
async fn main() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("demo");
    let (mut child, _, made) = start(&data);
    child.kill().unwrap();
    child.wait().unwrap();
    println!("demo made and served, from start to address: {made:?}");
    let (mut child, base, warm) = start(&data);
    println!("warm start, from start to address: {warm:?}");
    let [pressed, quiet] = slow_today(&base).await;
    println!("Today on a processor a quarter as fast, until its lines can be pressed: {pressed:?}");
    println!("Today on a processor a quarter as fast, until nothing is left to do: {quiet:?}");
    let first = walk(&base).await;
    println!("first screen, scripts, styles and fonts as sent: {first:.0} kB");
    println!("memory of the server after a browser walked every view: {:.1} MB", resident(&child));
    child.kill().unwrap();
    child.wait().unwrap();
}
