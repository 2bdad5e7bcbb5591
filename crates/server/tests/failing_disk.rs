//! A disk that fails at the n-th write, sync, read or rename of a typical visit, for every n: nothing that
//! was acknowledged is lost, and what is only read is read.
#![cfg(target_os = "linux")]
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::acting::{acting, introduce};
use crate::common::{id, jpeg, opening, reading};
use reqwest::{Client, StatusCode};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::OnceLock;

/// The wrapper of the file system, compiled once by the compiler that the database needs anyway.
fn wrapper() -> &'static Path {
    static BUILT: OnceLock<(tempfile::TempDir, PathBuf)> = OnceLock::new();
    let (_, path) = BUILT.get_or_init(|| {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("failing_disk.so");
        let source = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/failing_disk/failing_disk.c");
        let mut compiler = Command::new("cc");
        compiler.args(["-shared", "-fPIC", "-O1", "-o"]).arg(&path).arg(source).arg("-ldl");
        assert!(compiler.status().unwrap().success());
        (folder, path)
    });
    path
}

/// When which operations fail.
struct Failing {
    kinds: &'static str,
    at: u32,
    for_good: bool,
}

struct Running {
    child: Child,
    base: String,
    switch: PathBuf,
    count: PathBuf,
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

fn start(folder: &Path, scratch: &Path, failing: Option<&Failing>) -> Running {
    let (switch, count) = (scratch.join("on"), scratch.join("count"));
    let _ = std::fs::remove_file(&switch);
    let mut command = Command::new(env!("CARGO_BIN_EXE_rainshadow"));
    command.args(["serve", "--listen", "127.0.0.1:0", "--data-dir"]).arg(folder);
    if let Some(failing) = failing {
        command
            .env("LD_PRELOAD", wrapper())
            .env("DISK_FOLDER", folder)
            .env("DISK_SWITCH", &switch)
            .env("DISK_COUNT", &count)
            .env("DISK_KINDS", failing.kinds)
            .env("DISK_FAIL_AT", failing.at.to_string())
            .env("DISK_FOR_GOOD", if failing.for_good { "1" } else { "0" });
    }
    let mut child = command.stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let base =
        line.split_whitespace().find(|w| w.starts_with("http://")).unwrap().trim_end_matches('/').to_owned();
    Running { child, base, switch, count }
}

/// What was acknowledged: an address, and what must stand there.
type Kept = Vec<(String, String)>;

async fn describe(client: &Client, base: &str) -> String {
    let (site, bank) = (id(), id());
    let shape = json!({"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1});
    for (path, body) in [
        (format!("/api/sites/{site}"), json!({"name": "Marginalia", "zone": "UTC"})),
        (
            format!("/api/banks/{bank}"),
            json!({"site": site, "model": "flooded-6v-225", "rules": "maker_first", "shape": shape}),
        ),
    ] {
        assert!(client.put(format!("{base}{path}")).json(&body).send().await.unwrap().status().is_success());
    }
    bank
}

/// A typical visit: begun, written into, photographed, a round read and finished, closed.
async fn typical_visit(client: &Client, base: &str, bank: &str) -> Kept {
    let mut kept = Kept::new();
    let (visit, round, photo) = (id(), id(), id());
    let send = async |request: reqwest::RequestBuilder| -> Option<Value> {
        let said = request.send().await.unwrap();
        let status = said.status();
        let text = said.text().await.unwrap();
        assert!(
            status.is_success()
                || status == StatusCode::INSUFFICIENT_STORAGE
                || status == StatusCode::INTERNAL_SERVER_ERROR
                || status.is_client_error(),
            "{status}: {text}"
        );
        status.is_success().then(|| serde_json::from_str(&text).unwrap_or(Value::Null))
    };
    let put = |path: String, body: &Value| client.put(format!("{base}{path}")).json(body);
    let began = send(put(format!("/api/visits/{visit}"), &json!({"bank": bank}))).await;
    if began.is_some() {
        kept.push((format!("/api/visits/{visit}"), "\"bank\"".into()));
    }
    for n in 0..2 {
        let text = format!("note {n} {}", id());
        let body = json!({"what": {"kind": "note", "text": text}, "taken_at": "2026-01-08T09:00:00Z"});
        if send(put(format!("/api/visits/{visit}/entries/{}", id()), &body)).await.is_some() {
            kept.push((format!("/api/visits/{visit}"), text));
        }
    }
    let path = format!("{base}/api/visits/{visit}/photos/{photo}?what=other");
    if send(client.put(path).body(jpeg(40, 30, 77))).await.is_some() {
        kept.push((format!("/api/photos/{photo}"), String::new()));
    }
    send(put(format!("/api/rounds/{round}"), &opening(bank))).await;
    for (cell, typed) in [("A1-1", "271"), ("A1-2", "272"), ("A2-3", "273")] {
        if send(put(format!("/api/rounds/{round}/readings/{}", id()), &reading(cell, typed))).await.is_some()
        {
            kept.push((format!("/api/rounds/{round}"), format!("1.{typed}")));
        }
    }
    let post = |path: String, version: i64| {
        let request = client.post(format!("{base}{path}")).header("if-match", format!("\"{version}\""));
        request.json(&json!({}))
    };
    if send(post(format!("/api/rounds/{round}/finish"), 1)).await.is_some() {
        kept.push((format!("/api/rounds/{round}"), "\"finished\":true".into()));
    }
    if send(post(format!("/api/visits/{visit}/close"), 1)).await.is_some() {
        kept.push((format!("/api/visits/{visit}"), "\"closed\":".into()));
    }
    kept
}

/// A folder with a bank in it.
async fn shop() -> (tempfile::TempDir, String) {
    let (folder, scratch) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    let running = start(folder.path(), scratch.path(), None);
    let client = acting();
    introduce(&client, &running.base).await;
    let bank = describe(&client, &running.base).await;
    drop(running);
    (folder, bank)
}

fn copied(folder: &Path) -> tempfile::TempDir {
    let copy = tempfile::tempdir().unwrap();
    for entry in std::fs::read_dir(folder).unwrap() {
        let entry = entry.unwrap();
        if entry.file_type().unwrap().is_file() {
            std::fs::copy(entry.path(), copy.path().join(entry.file_name())).unwrap();
        }
    }
    copy
}

async fn all_there(client: &Client, folder: &Path, scratch: &Path, kept: &Kept, case: &str) {
    let running = start(folder, scratch, None);
    for (path, part) in kept {
        let said = client.get(format!("{}{path}", running.base)).send().await.unwrap();
        assert_eq!(said.status(), StatusCode::OK, "{case}: {path}");
        if !part.is_empty() {
            let text = said.text().await.unwrap();
            assert!(text.contains(part.as_str()), "{case}: {part} is missing from {path}");
        }
    }
    drop(running);
    let found = rainshadow::doctor::look(folder).unwrap();
    assert!(found.faults.is_empty(), "{case}: {:?}", found.faults);
}

/// Every n of one kind of operation, until a visit needs no more of them.
async fn every(kinds: &'static str) {
    let (folder, bank) = shop().await;
    let client = acting();
    let mut at = 1;
    loop {
        let (own, scratch) = (copied(folder.path()), tempfile::tempdir().unwrap());
        let running = start(own.path(), scratch.path(), Some(&Failing { kinds, at, for_good: false }));
        while client.get(format!("{}/api/meta", running.base)).send().await.is_err() {}
        std::fs::write(&running.switch, "").unwrap();
        let kept = typical_visit(&client, &running.base, &bank).await;
        let count: u32 = std::fs::read_to_string(&running.count).unwrap_or_default().parse().unwrap_or(0);
        drop(running);
        all_there(&client, own.path(), scratch.path(), &kept, &format!("{kinds} number {at}")).await;
        if count < at {
            assert!(at > 8, "a visit needs more than {at} of {kinds}");
            // nothing failed in the last turn: then everything was taken
            assert_eq!(kept.len(), 9, "{kept:?}");
            return;
        }
        at += 1;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_disk_that_fails_at_any_write_of_a_visit_loses_nothing_acknowledged() {
    every("w").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_disk_that_fails_at_any_sync_or_rename_of_a_visit_loses_nothing_acknowledged() {
    every("sm").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_disk_that_fails_at_any_read_of_a_visit_loses_nothing_acknowledged() {
    every("r").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_full_disk_takes_nothing_and_everything_is_read() {
    let (folder, bank) = shop().await;
    let (client, scratch) = (acting(), tempfile::tempdir().unwrap());
    // a visit with a finished round, whose derived rows are then forgotten
    let running = start(folder.path(), scratch.path(), None);
    let kept = typical_visit(&client, &running.base, &bank).await;
    assert_eq!(kept.len(), 9);
    drop(running);
    let running = start(folder.path(), scratch.path(), Some(&Failing { kinds: "w", at: 1, for_good: true }));
    while client.get(format!("{}/api/today", running.base)).send().await.is_err() {}
    std::fs::write(&running.switch, "").unwrap();
    let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    db.execute_batch("DELETE FROM assessment; DELETE FROM due_state; DELETE FROM due_item;").unwrap();
    drop(db);
    let visit = kept.iter().find_map(|(path, _)| path.strip_prefix("/api/visits/")).unwrap().to_owned();
    for path in [
        "/api/today".to_owned(),
        "/api/banks".into(),
        "/api/calendar.ics".into(),
        "/api/runs".into(),
        format!("/api/banks/{bank}"),
        format!("/api/banks/{bank}/cells/A1-1"),
        format!("/api/banks/{bank}/export.json"),
        format!("/api/banks/{bank}/field-sheet"),
        format!("/api/visits/{visit}"),
        format!("/api/visits/{visit}/report"),
        "/readyz".into(),
    ] {
        let said = client.get(format!("{}{path}", running.base)).send().await.unwrap();
        assert_eq!(said.status(), StatusCode::OK, "{path}: {}", said.text().await.unwrap_or_default());
    }
    let page: Value =
        client.get(format!("{}/api/banks/{bank}", running.base)).send().await.unwrap().json().await.unwrap();
    assert!(
        !page["history"].as_array().unwrap().is_empty(),
        "judged, though nothing is kept: {}",
        page["history"]
    );
    let said = client
        .put(format!("{}/api/rounds/{}", running.base, id()))
        .json(&opening(&bank))
        .send()
        .await
        .unwrap();
    assert_eq!(said.status(), StatusCode::INSUFFICIENT_STORAGE, "{}", said.text().await.unwrap_or_default());
    // and when there is room again it takes what it is given
    std::fs::remove_file(&running.switch).unwrap();
    let said = client
        .put(format!("{}/api/rounds/{}", running.base, id()))
        .json(&opening(&bank))
        .send()
        .await
        .unwrap();
    assert_eq!(said.status(), StatusCode::CREATED);
}
