//! Files of monitors that are not read to their end: the sender goes away, the folder takes nothing, the bank is
//! archived.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::records::{big, days, half_read, page, read, source};
use crate::common::{Shop, answer, id};
use reqwest::{Method, StatusCode};
use serde_json::json;

#[tokio::test]
async fn an_archived_bank_takes_no_record_and_a_file_that_breaks_off_leaves_nothing() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let text = days("2026-06-01T00:00:00Z", 90, 58.0);
    let nowhere = shop.get(&format!("/api/records/{}/progress", id())).await;
    assert_eq!(nowhere, json!({"bytes": 0, "lines": 0, "reached": ""}));
    let record = id();
    let (pieces, sender) = half_read(&shop, &bank, &record, &text).await;
    pieces.send(Err(std::io::Error::other("gone"))).await.unwrap();
    assert!(sender.await.unwrap().is_err(), "the sender went away");
    assert_eq!(page(&shop, &bank).await["files"], json!([]));
    // Nobody waits for the answer any more, and what was kept goes all the same.
    let db = rusqlite::Connection::open(shop.folder.path().join("rainshadow.db")).unwrap();
    let left = || db.query_row("SELECT count(*) FROM record_import", [], |row| row.get::<_, i64>(0)).unwrap();
    let gone = async {
        while left() > 0 {
            tokio::task::yield_now().await;
        }
    };
    tokio::time::timeout(std::time::Duration::from_secs(30), gone).await.expect("rows of it are left");
    let own = source(&shop, &text).await;
    shop.send(Method::POST, &format!("/api/banks/{bank}/archive"), &json!({})).await;
    let (status, _) = read(&shop, &bank, &id(), &own, &text).await;
    assert_eq!(status, StatusCode::CONFLICT);
    shop.close().await;
}

#[tokio::test]
async fn rows_that_the_folder_does_not_take_are_no_fault_of_the_file() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let text = days("2026-06-01T00:00:00Z", 90, 58.0);
    let (pieces, sender) = half_read(&shop, &bank, &id(), &text).await;
    // another program holds the database when the rows are to be kept
    let other = rusqlite::Connection::open(shop.folder.path().join("rainshadow.db")).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    pieces.send(Ok(text[text.len() / 2..].to_owned())).await.unwrap();
    drop(pieces);
    let (status, said) = answer(sender.await.unwrap().unwrap()).await;
    assert_eq!(
        (status, &said["type"]),
        (StatusCode::SERVICE_UNAVAILABLE, &json!("/problems/busy")),
        "{said}"
    );
    other.execute_batch("ROLLBACK").unwrap();
    assert_eq!(page(&shop, &bank).await["files"], json!([]));
    shop.close().await;
}
