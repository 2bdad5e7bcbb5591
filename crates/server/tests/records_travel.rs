//! Records of monitors and kept plans travel with the file of their bank, which is a stranger where it is taken in.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, answer, id};
use reqwest::header::CONTENT_LENGTH;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const LOG: &str =
    "time,V,A\n2026-08-01T00:00:00Z,12.6,1\n2026-08-01T00:10:00Z,12.7,2\n2026-08-02T00:00:00Z,12.8,3\n";

/// A bank with a record that counts, one that was taken out, and a plan.
async fn bank_with_all(shop: &Shop) -> String {
    let bank = shop.bank().await;
    let source = json!({"name": "m", "delimiter": ",", "columns": ["time", "volts", "amperes"], "positive": "charges"});
    for record in [id(), id()] {
        let request = shop
            .request(Method::PUT, &format!("/api/banks/{bank}/records/{record}"))
            .query(&[("source", source.to_string()), ("file", "log.csv".into())]);
        assert_eq!(request.body(LOG).send().await.unwrap().status(), StatusCode::OK);
    }
    let files = shop.get(&format!("/api/banks/{bank}/record")).await["files"].clone();
    let last = files[0]["id"].as_str().unwrap();
    let (status, _) = shop.send(Method::DELETE, &format!("/api/records/{last}"), &json!({})).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    let plan =
        json!({"planner": "runtime", "name": "a pump", "asked": {"bank": bank, "values": {"amount": "7"}}});
    assert_eq!(shop.put(&format!("/api/plans/{}", id()), &plan).await.0, StatusCode::CREATED);
    bank
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_read_and_planned_comes_along_and_comes_once() {
    let shop = Shop::open().await;
    let bank = bank_with_all(&shop).await;
    let path = format!("/api/banks/{bank}/export.json");
    let file = shop.get(&path).await;
    let other = Shop::open().await;
    let (status, done) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!((status, &done["new"]), (StatusCode::OK, &json!(true)), "{done}");
    assert_eq!(other.get(&path).await, file);
    let record = format!("/api/banks/{bank}/record");
    assert_eq!(other.get(&record).await, shop.get(&record).await);
    let plans = format!("/api/plans?bank={bank}");
    assert_eq!(other.get(&plans).await[0]["name"], "a pump");
    assert_eq!(other.send(Method::POST, "/api/import", &file).await.1["new"], false);
    assert_eq!(other.get(&record).await["files"].as_array().unwrap().len(), 2);
    shop.close().await;
    other.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_server_that_went_down_never_read_to_its_end_goes_at_the_next_start() {
    let shop = Shop::open().await;
    let bank = bank_with_all(&shop).await;
    let path = shop.folder.path().join("rainshadow.db");
    let broken = "UPDATE record_import SET finished_at = NULL, first_minute = NULL, last_minute = NULL \
                  WHERE withdrawn_at IS NOT NULL";
    assert_eq!(rusqlite::Connection::open(&path).unwrap().execute(broken, []).unwrap(), 1);
    let shop = shop.restart().await;
    let db = rusqlite::Connection::open(&path).unwrap();
    let count = |sql: &str| db.query_row(sql, [], |row| row.get::<_, i64>(0)).unwrap();
    assert_eq!(count("SELECT count(*) FROM record_import"), 1);
    assert_eq!(count("SELECT count(DISTINCT import_id) FROM record_day"), 1);
    assert_eq!(shop.get(&format!("/api/banks/{bank}/record")).await["files"].as_array().unwrap().len(), 1);
    shop.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_is_being_read_is_not_read_twice_at_a_time() {
    let shop = Shop::open().await;
    let (bank, record) = (shop.bank().await, id());
    let source = json!({"name": "m", "delimiter": ",", "columns": ["time", "volts", "amperes"], "positive": "charges"});
    let read = || {
        shop.request(Method::PUT, &format!("/api/banks/{bank}/records/{record}"))
            .query(&[("source", source.to_string()), ("file", "log.csv".into())])
    };
    let [begins, ends] =
        [format!("{LOG}{}", "\n".repeat(80_000)), "2026-08-03T00:00:00Z,12.8,3\n".to_owned()];
    let length = begins.len() + ends.len();
    let (pieces, slow) = tokio::sync::mpsc::channel::<std::io::Result<String>>(1);
    let slow = reqwest::Body::wrap_stream(tokio_stream::wrappers::ReceiverStream::new(slow));
    let first = tokio::spawn(read().header(CONTENT_LENGTH, length).body(slow).send());
    pieces.send(Ok(begins)).await.unwrap();
    let progress = format!("/api/records/{record}/progress");
    let under_way = async {
        while shop.get(&progress).await["bytes"] == 0 {
            assert!(!first.is_finished());
        }
    };
    tokio::time::timeout(std::time::Duration::from_secs(30), under_way).await.unwrap();
    let (status, said) = answer(read().body(LOG).send().await.unwrap()).await;
    assert_eq!((status, &said["title"]), (StatusCode::CONFLICT, &json!("It is being read")));
    pieces.send(Ok(ends)).await.unwrap();
    drop(pieces);
    assert_eq!(first.await.unwrap().unwrap().status(), StatusCode::OK);
    assert_eq!(answer(read().body(LOG).send().await.unwrap()).await.0, StatusCode::OK, "the same again");
    let files = shop.get(&format!("/api/banks/{bank}/record")).await["files"].clone();
    assert_eq!(files.as_array().unwrap().len(), 1);
    shop.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_of_a_record_or_a_plan_is_named_and_nothing_is_kept() {
    let shop = Shop::open().await;
    let bank = bank_with_all(&shop).await;
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let other = Shop::open().await;
    let change = |of: &dyn Fn(&mut Value)| {
        let mut own = file.clone();
        of(&mut own);
        own
    };
    let day = file["records"][0]["packed_days"].as_object().unwrap().keys().next().unwrap().clone();
    let put = |text: &'static str| {
        let day = day.clone();
        move |own: &mut Value| own["records"][0]["packed_days"][&day] = text.into()
    };
    let (cut, double) = (put("AAAA"), put("AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"));
    let (endless, no_base) = (put("AAAAAIB/AACAfwAAgH//"), put("?"));
    for (field, own) in [
        ("packed_days", change(&cut)),
        ("packed_days", change(&double)),
        ("packed_days", change(&endless)),
        ("packed_days", change(&no_base)),
        ("packed_days", change(&|own| own["records"][0]["packed_days"] = json!({"7": ""}))),
        ("span", change(&|own| own["records"][0]["span"] = json!([29_800_000, 3]))),
        ("source", change(&|own| own["records"][0]["source"] = "{}".into())),
        ("told", change(&|own| own["records"][0]["told"] = "[]".into())),
        ("made_at", change(&|own| own["records"][0]["made_at"] = "noon".into())),
        ("planner", change(&|own| own["plans"][0]["planner"] = "weather".into())),
        ("unit", change(&|own| own["plans"][0]["unit"] = "K".into())),
        ("visit", change(&|own| own["plans"][0]["visit"] = id().into())),
        ("id", change(&|own| own["plans"][0]["id"] = "1".into())),
    ] {
        let request = other.request(Method::POST, "/api/import").json(&own);
        let (status, said) = answer(request.send().await.unwrap()).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{field}: {said}");
        let named = said["errors"][0]["field"].as_str().unwrap();
        assert!(named.contains(field), "{field}: {named}");
    }
    assert_eq!(other.get("/api/banks").await, json!([]));
    shop.close().await;
    other.close().await;
}
