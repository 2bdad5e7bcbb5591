//! The program killed again and again while visits are written, photographed and closed: nothing that
//! was acknowledged is lost, and no file is left that nobody lists.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::acting::{acting, introduce};
use crate::common::{id, jpeg};
use reqwest::StatusCode;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};

/// Kills in one test.
const KILLS: u32 = 60;

fn start(folder: &Path) -> (Child, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_rainshadow"))
        .args(["serve", "--listen", "127.0.0.1:0", "--data-dir"])
        .arg(folder)
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let base =
        line.split_whitespace().find(|w| w.starts_with("http://")).unwrap().trim_end_matches('/').to_owned();
    (child, base)
}

/// What the server said that it keeps.
#[derive(Default)]
struct Acknowledged {
    notes: Vec<(String, String)>,
    photos: Vec<(String, String)>,
    /// Visits that were closed, with the notes that their reports must hold.
    closed: Vec<(String, Vec<String>)>,
    /// Of all of these.
    count: Arc<AtomicU32>,
}

impl Acknowledged {
    fn counted(&self) {
        self.count.fetch_add(1, Ordering::SeqCst);
    }
}

/// Works on visits until the server is gone.
async fn work(base: &str, bank: &str, kept: &mut Acknowledged, turn: u32) {
    let client = acting();
    let put = |path: String, body: Value| client.put(format!("{base}{path}")).json(&body).send();
    loop {
        let page = client.get(format!("{base}/api/banks/{bank}")).send().await;
        let Ok(page) = page else { return };
        let Ok(page) = page.json::<Value>().await else { return };
        let visit = if let Some(open) = page["open_visit"].as_str() {
            open.to_owned()
        } else {
            let visit = id();
            let begun = put(format!("/api/visits/{visit}"), json!({"bank": bank})).await;
            if begun.is_err() {
                return;
            }
            visit
        };
        for n in 0..5 {
            let text = format!("note {turn}-{n}-{}", id());
            let body = json!({"what": {"kind": "note", "text": text}, "taken_at": "2026-01-08T09:00:00Z"});
            match put(format!("/api/visits/{visit}/entries/{}", id()), body).await {
                Ok(said) if said.status() == StatusCode::CREATED => {
                    kept.notes.push((visit.clone(), text));
                    kept.counted();
                }
                Ok(said) => panic!("{}", said.text().await.unwrap_or_default()),
                Err(_) => return,
            }
        }
        let photo = id();
        let shade = u8::try_from(kept.photos.len() % 250).unwrap();
        let path = format!("{base}/api/visits/{visit}/photos/{photo}?what=other");
        match client.put(path).body(jpeg(48, 32, shade)).send().await {
            Ok(said) if said.status() == StatusCode::CREATED => {
                kept.photos.push((visit.clone(), photo));
                kept.counted();
            }
            Ok(said) => panic!("{}", said.text().await.unwrap_or_default()),
            Err(_) => return,
        }
        let page = client.get(format!("{base}/api/visits/{visit}")).send().await;
        let Ok(page) = page else { return };
        let Ok(page) = page.json::<Value>().await else { return };
        let closing = client
            .post(format!("{base}/api/visits/{visit}/close"))
            .header("if-match", format!("\"{}\"", page["version"]))
            .json(&json!({}));
        match closing.send().await {
            Ok(said) if said.status() == StatusCode::OK => {
                let own =
                    kept.notes.iter().filter(|(v, _)| *v == visit).map(|(_, text)| text.clone()).collect();
                kept.closed.push((visit, own));
                kept.counted();
            }
            Ok(said) => panic!("{}", said.text().await.unwrap_or_default()),
            Err(_) => return,
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn sixty_kills_lose_nothing_that_was_acknowledged() {
    let folder = tempfile::tempdir().unwrap();
    let (mut child, base) = start(folder.path());
    let client = acting();
    introduce(&client, &base).await;
    let (site, bank) = (id(), id());
    let put = async |path: String, body: Value| {
        assert!(client.put(format!("{base}{path}")).json(&body).send().await.unwrap().status().is_success());
    };
    put(format!("/api/sites/{site}"), json!({"name": "Marginalia", "zone": "UTC"})).await;
    let shape = json!({"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1});
    put(
        format!("/api/banks/{bank}"),
        json!({"site": site, "model": "flooded-6v-225", "rules": "maker_first", "shape": shape}),
    )
    .await;
    child.kill().unwrap();
    child.wait().unwrap();
    let mut kept = Acknowledged::default();
    for turn in 0..KILLS {
        let (mut child, base) = start(folder.path());
        // killed after another amount of work each time: a number of answers, not a time
        let wanted = kept.count.load(Ordering::SeqCst) + turn % 17;
        let (count, done) = (Arc::clone(&kept.count), Arc::new(AtomicBool::new(false)));
        let over = Arc::clone(&done);
        let killer = std::thread::spawn(move || {
            while count.load(Ordering::SeqCst) < wanted && !over.load(Ordering::SeqCst) {
                std::thread::yield_now();
            }
            child.kill().unwrap();
            child.wait().unwrap();
        });
        work(&base, &bank, &mut kept, turn).await;
        done.store(true, Ordering::SeqCst);
        killer.join().unwrap();
    }
    assert!(kept.notes.len() > 200 && !kept.closed.is_empty(), "{} notes", kept.notes.len());
    let (mut child, base) = start(folder.path());
    for (visit, own) in &kept.closed {
        let report = client
            .get(format!("{base}/api/visits/{visit}/report"))
            .send()
            .await
            .unwrap()
            .text()
            .await
            .unwrap();
        for text in own {
            assert!(report.contains(text), "{text} is missing from the report of {visit}");
        }
    }
    for (visit, text) in &kept.notes {
        let page =
            client.get(format!("{base}/api/visits/{visit}")).send().await.unwrap().text().await.unwrap();
        assert!(page.contains(text.as_str()), "{text} is missing");
    }
    for (_, photo) in &kept.photos {
        let said = client.get(format!("{base}/api/photos/{photo}")).send().await.unwrap();
        assert_eq!(said.status(), StatusCode::OK, "the photograph {photo} is missing");
    }
    child.kill().unwrap();
    child.wait().unwrap();
    // every file is listed, and what a kill left half-made is gone
    let flags = rusqlite::OpenFlags::SQLITE_OPEN_READ_ONLY;
    let db = rusqlite::Connection::open_with_flags(folder.path().join("rainshadow.db"), flags).unwrap();
    let mut query = db.prepare("SELECT hash FROM photo UNION SELECT small_hash FROM photo").unwrap();
    let listed: BTreeSet<String> = query
        .query_map([], |row| row.get::<_, String>(0))
        .unwrap()
        .map(|h| format!("{}.jpg", h.unwrap()))
        .collect();
    let files: BTreeSet<String> = std::fs::read_dir(folder.path().join("photos"))
        .unwrap()
        .map(|e| e.unwrap().file_name().into_string().unwrap())
        .collect();
    assert_eq!(files, listed);
    drop(query);
    drop(db);
    let found = rainshadow::doctor::look(folder.path()).unwrap();
    assert!(found.faults.is_empty(), "{:?}", found.faults);
}
