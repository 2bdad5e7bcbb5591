//! The log of a round, of a visit and of a run: one way to write, whatever is written down.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::runs::{begun, open_run};
use crate::common::{Shop, id, reading};
use reqwest::{Method, StatusCode};
use rusqlite::Connection;
use serde_json::{Value, json};

/// One log: its name, where its entries are put, two bodies, and the table they are rows of.
struct Log {
    name: &'static str,
    path: String,
    one: Value,
    other: Value,
    table: &'static str,
}

fn note(text: &str) -> Value {
    json!({"what": {"kind": "note", "text": text}, "taken_at": "2026-10-08T09:00:00Z"})
}

/// A round, a visit and a run, each of a bank of its own.
async fn logs(shop: &Shop) -> Vec<Log> {
    let round = shop.round(&shop.bank().await).await;
    let visit = shop.visit(&shop.bank().await).await;
    let run = open_run(shop, &shop.bank().await).await;
    vec![
        Log {
            name: "round",
            path: format!("/api/rounds/{round}/readings"),
            one: reading("A1-1", "270"),
            other: reading("A1-1", "240"),
            table: "reading",
        },
        Log {
            name: "visit",
            path: format!("/api/visits/{visit}/entries"),
            one: note("cold"),
            other: note("warm"),
            table: "visit_entry",
        },
        Log {
            name: "run",
            path: format!("/api/runs/{run}/entries"),
            one: json!({"what": "note", "text": "fan on"}),
            other: json!({"what": "note", "text": "fan off"}),
            table: "run_entry",
        },
    ]
}

fn rows(folder: &std::path::Path, table: &str) -> i64 {
    let db = Connection::open(folder.join("rainshadow.db")).unwrap();
    db.query_row(&format!("SELECT count(*) FROM {table}"), [], |row| row.get(0)).unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_entry_again_is_one_and_another_under_its_id_is_refused() {
    let shop = Shop::open().await;
    let logs = logs(&shop).await;
    for log in &logs {
        let path = format!("{}/{}", log.path, id());
        assert_eq!(shop.put(&path, &log.one).await.0, StatusCode::CREATED, "{}", log.name);
        assert_eq!(shop.put(&path, &log.one).await.0, StatusCode::OK, "{}", log.name);
        let (status, said) = shop.put(&path, &log.other).await;
        assert_eq!(
            (status, &said["type"]),
            (StatusCode::CONFLICT, &json!("/problems/other-body")),
            "{}: {said}",
            log.name
        );
    }
    // after a restart too: what is there is told by what is on disk
    let shop = shop.restart().await;
    for log in &logs {
        assert_eq!(shop.put(&format!("{}/{}", log.path, id()), &log.one).await.0, StatusCode::CREATED);
    }
    let folder = shop.close().await;
    for log in &logs {
        assert_eq!(rows(folder.path(), log.table), 2, "{}", log.name);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_entry_sent_by_many_at_once_under_one_id_is_one_row() {
    let shop = Shop::open().await;
    let logs = logs(&shop).await;
    for log in &logs {
        let path = format!("{}/{}", log.path, id());
        let send = || shop.put(&path, &log.one);
        let (a, b, c, d) = tokio::join!(send(), send(), send(), send());
        let mut answers = [a.0, b.0, c.0, d.0];
        answers.sort();
        assert_eq!(
            answers,
            [StatusCode::OK, StatusCode::OK, StatusCode::OK, StatusCode::CREATED],
            "{}",
            log.name
        );
    }
    let folder = shop.close().await;
    for log in &logs {
        assert_eq!(rows(folder.path(), log.table), 1, "{}", log.name);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_id_that_another_log_of_its_kind_holds_is_refused() {
    let shop = Shop::open().await;
    let (first, second) = (logs(&shop).await, logs(&shop).await);
    for (own, other) in first.iter().zip(&second) {
        let entry = id();
        assert_eq!(shop.put(&format!("{}/{entry}", own.path), &own.one).await.0, StatusCode::CREATED);
        let (status, said) = shop.put(&format!("{}/{entry}", other.path), &other.one).await;
        assert_eq!(
            (status, &said["type"]),
            (StatusCode::CONFLICT, &json!("/problems/other-body")),
            "{}: {said}",
            own.name
        );
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_lost_answer_sends_again_after_the_end_is_answered_and_what_is_new_is_not() {
    let shop = Shop::open().await;
    // a visit that was closed
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let path = format!("/api/visits/{visit}/entries/{}", id());
    shop.put(&path, &note("cold")).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    assert_eq!(shop.put(&path, &note("cold")).await.0, StatusCode::OK);
    let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &note("late")).await;
    assert_eq!((status, &said["type"]), (StatusCode::CONFLICT, &json!("/problems/visit-closed")), "{said}");
    // a run that was stopped: pausing it again is no pause, unless it is the same
    let bank = shop.bank().await;
    let run = begun(&shop, &bank).await;
    let path = format!("/api/runs/{run}/entries/{}", id());
    let pause = json!({"what": "paused", "why": "other"});
    assert_eq!(shop.put(&path, &pause).await.0, StatusCode::CREATED);
    shop.put(&format!("/api/runs/{run}/entries/{}", id()), &json!({"what": "stopped"})).await;
    assert_eq!(shop.put(&path, &pause).await.0, StatusCode::OK);
    let (status, said) = shop.put(&format!("/api/runs/{run}/entries/{}", id()), &pause).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().starts_with("The run is over: stopped by hand"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_several_change_is_changed_by_who_saw_it_as_it_stands() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "270").await;
    for path in [format!("/api/rounds/{round}/finish"), format!("/api/visits/{visit}/close")] {
        let post = async |version: Option<&str>, device: &str| {
            let mut request = shop.request(Method::POST, &path).header("rainshadow-device", device);
            if let Some(version) = version {
                request = request.header("if-match", version);
            }
            crate::common::answer(request.send().await.unwrap()).await
        };
        assert_eq!(post(None, "desk").await.0, StatusCode::PRECONDITION_REQUIRED, "{path}");
        assert_eq!(post(Some("\"1\""), "desk").await.0, StatusCode::OK, "{path}");
        // the answer was lost: the same hand may say it again, another is shown what stands
        assert_eq!(post(Some("\"1\""), "desk").await.0, StatusCode::OK, "{path}");
        let (status, said) = post(Some("\"1\""), "phone").await;
        assert_eq!(status, StatusCode::PRECONDITION_FAILED, "{path}: {said}");
        assert!(said["detail"].as_str().unwrap().starts_with("TA on desk"), "{said}");
        assert_eq!(said["theirs"]["version"], 2, "{said}");
    }
}
