//! Files in and out over HTTP.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::json;

const YEARS: &str =
    "cell,2025-03-14,2025-09-20\ntemperature,18 C,\nA1-1,265,263\nA1-2,264,12.65\nA1-3,266,\nA9-9,260,260\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_notebook_is_checked_then_its_good_rounds_are_taken_once() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let path = format!("/api/banks/{bank}/notebook");
    let (status, check) = shop.csv(Method::POST, &path, YEARS).await;
    assert_eq!(status, StatusCode::OK, "{check}");
    assert_eq!(check["rounds"][0]["cells"], 3);
    assert_eq!(check["rounds"][1]["temperature"], json!(null));
    let refused: Vec<(i64, &str)> = check["refused"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| (r["line"].as_i64().unwrap(), r["why"].as_str().unwrap()))
        .collect();
    assert_eq!(refused.len(), 2);
    assert!(refused[0].0 == 4 && refused[0].1.contains("volts"), "{refused:?}");
    assert!(refused[1].0 == 6 && refused[1].1.contains("no cell A9-9"), "{refused:?}");
    assert!(shop.get(&format!("/api/banks/{bank}")).await["history"].as_array().unwrap().is_empty());
    let take = format!("{path}/{}", id());
    assert_eq!(shop.csv(Method::PUT, &take, YEARS).await.0, StatusCode::OK);
    assert_eq!(shop.csv(Method::PUT, &take, YEARS).await.0, StatusCode::OK, "sent again after a lost answer");
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["history"].as_array().unwrap().len(), 2);
    assert!(page["history"].as_array().unwrap().iter().all(|h| h["notebook"] == true));
    let (_, again) = shop.csv(Method::POST, &path, YEARS).await;
    assert!(again["rounds"].as_array().unwrap().is_empty(), "another import of the same days is refused");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_exported_imports_again_unchanged() {
    let shop = Shop::open().await;
    shop.send(Method::POST, "/api/demo", &json!(null)).await;
    let banks = shop.get("/api/banks").await;
    let other = Shop::open().await;
    for bank in banks.as_array().unwrap() {
        let path = format!("/api/banks/{}/export.json", bank["id"].as_str().unwrap());
        let file = shop.get(&path).await;
        let (status, done) = other.send(Method::POST, "/api/import", &file).await;
        assert_eq!((status, done["new"].as_bool()), (StatusCode::OK, Some(true)), "{done}");
        assert_eq!(other.get(&path).await, file);
        let (_, again) = other.send(Method::POST, "/api/import", &file).await;
        assert_eq!(again["new"], false);
        let page = format!("/api/banks/{}", bank["id"].as_str().unwrap());
        assert_eq!(other.get(&page).await["findings"], shop.get(&page).await["findings"]);
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_put_right_after_its_export_takes_its_own_file_in_again() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    shop.csv(Method::PUT, &format!("/api/banks/{bank}/notebook/{}", id()), YEARS).await;
    let path = format!("/api/banks/{bank}/export.json");
    let before = shop.get(&path).await;
    shop.change(&format!("/api/banks/{bank}/house-rules"), &json!({"rules": "light_touch"})).await;
    for file in [before, shop.get(&path).await] {
        let (status, done) = shop.send(Method::POST, "/api/import", &file).await;
        assert_eq!((status, done["new"].as_bool()), (StatusCode::OK, Some(false)), "{done}");
    }
    assert_eq!(shop.get(&path).await["bank"]["rules"], "light_touch", "what was put right stays");
}

#[tokio::test(flavor = "multi_thread")]
async fn two_walked_rounds_of_one_day_and_an_unread_cell_come_back_from_the_table() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    for hour in ["07:30", "16:05"] {
        let round = id();
        let mut body = crate::common::opening(&bank);
        body["started_at"] = json!(format!("2026-10-07T{hour}:12Z"));
        shop.put(&format!("/api/rounds/{round}"), &body).await;
        shop.read(&round, "A1-1", "265").await;
        let mut unread = crate::common::reading("A1-2", "");
        unread["kind"] = json!("not_read");
        unread["reason"] = json!("cap seized, twice");
        shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &unread).await;
        shop.finish(&round, 1, "desk").await;
    }
    let table = async |bank: &str| {
        let request = shop.request(Method::GET, &format!("/api/banks/{bank}/export.csv"));
        request.send().await.unwrap().text().await.unwrap()
    };
    let out = table(&bank).await;
    assert!(out.starts_with("cell,2026-10-07 07:30,2026-10-07 16:05\r\n"), "{out}");
    assert!(out.contains("\"not read: cap seized, twice\""), "{out}");
    let twin = shop.bank().await;
    shop.csv(Method::PUT, &format!("/api/banks/{twin}/notebook/{}", id()), out.clone()).await;
    assert_eq!(table(&twin).await, out);
}

#[tokio::test(flavor = "multi_thread")]
async fn an_unlikely_figure_of_a_notebook_is_asked_about_and_can_be_taken() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let years = "cell,2025-03-14\nA1-1,265\nA1-2,264\nA1-3,226\nA2-1,265\nA2-2,263\nA2-3,264\n";
    let (_, check) = shop.csv(Method::POST, &format!("/api/banks/{bank}/notebook"), years).await;
    assert_eq!(
        (check["asked"][0]["cell"].as_str(), check["asked"][0]["found"].as_str()),
        (Some("A1-3"), Some("1.226"))
    );
    assert_eq!(check["rounds"][0]["cells"], 6);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_table_of_a_bank_and_of_a_round_read_back_as_notebooks() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    shop.csv(Method::PUT, &format!("/api/banks/{bank}/notebook/{}", id()), YEARS).await;
    let text = |path: String| {
        let request = shop.request(Method::GET, &path);
        async move { request.send().await.unwrap().text().await.unwrap() }
    };
    let table = text(format!("/api/banks/{bank}/export.csv")).await;
    let twin = shop.bank().await;
    shop.csv(Method::PUT, &format!("/api/banks/{twin}/notebook/{}", id()), table.clone()).await;
    assert_eq!(text(format!("/api/banks/{twin}/export.csv")).await, table);
    let round =
        shop.get(&format!("/api/banks/{bank}")).await["history"][0]["round"].as_str().unwrap().to_owned();
    let one = text(format!("/api/rounds/{round}/export.csv")).await;
    assert!(one.starts_with("cell,2025-09-20\r\n") && one.contains("A1-1,1.263"), "{one}");
    let file = shop.get(&format!("/api/rounds/{round}/export.json")).await;
    assert_eq!(file["format"], "rainshadow-round/1");
    let (_, done) = shop.send(Method::POST, "/api/import", &file).await;
    assert_eq!(done["new"], false, "{done}");
}

#[tokio::test(flavor = "multi_thread")]
async fn files_that_cannot_be_read_say_why_and_change_nothing() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let path = format!("/api/banks/{bank}/notebook");
    for (body, part) in [
        (Vec::new(), "empty"),
        (b"\xEF\xBB\xBF".to_vec(), "empty"),
        (b"A1-1,265\n".to_vec(), "a header is expected"),
        (b"cell,soon\nA1-1,265\n".to_vec(), "no date"),
        (b"\x89PNG\r\n\x1a\n\0\0\0".to_vec(), "not text"),
    ] {
        let (status, said) = shop.csv(Method::POST, &path, body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert_eq!(said["errors"][0]["field"], "file");
        assert!(said["detail"].as_str().unwrap().contains(part), "{said}");
    }
    let utf16: Vec<u8> =
        std::iter::once(0xFEFF).chain(YEARS.encode_utf16()).flat_map(u16::to_le_bytes).collect();
    assert_eq!(shop.csv(Method::POST, &path, utf16).await.1["rounds"][0]["cells"], 3);
    let (status, said) = shop.send(Method::POST, "/api/import", &json!({"format": "something-else"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
    assert!(said["detail"].as_str().unwrap().contains("rainshadow-bank/1"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_of_50_mb_is_refused_with_its_limit() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    // Sent in a stream that stops when the server has answered.
    let response = shop
        .request(Method::POST, &format!("/api/banks/{bank}/notebook"))
        .header("expect", "100-continue")
        .body(vec![b'x'; 50 * 1024 * 1024])
        .send()
        .await;
    // The server may close while the client still writes; whoever gets the answer reads the limit.
    if let Ok(response) = response {
        assert_eq!(response.status(), StatusCode::PAYLOAD_TOO_LARGE);
        assert!(response.text().await.unwrap().contains("larger than 8 MB"));
    }
    assert_eq!(shop.get("/api/meta").await["empty"], false, "the server goes on");
}
