//! Who acts: named by the headers of a request, kept with every row beside the initials of then.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::acting::person;
use crate::common::runs::open_run;
use crate::common::{Shop, answer, id, opening, reading};
use reqwest::{Client, Method, StatusCode};
use rusqlite::Connection;
use serde_json::{Value, json};

/// Who wrote each row of a table, as id, initials and device.
fn wrote(folder: &std::path::Path, table: &str, device: &str) -> Vec<(String, String, String)> {
    let db = Connection::open(folder.join("rainshadow.db")).unwrap();
    let sql = format!("SELECT coalesce(person_id, ''), person, {device} FROM {table} ORDER BY rowid");
    let mut query = db.prepare(&sql).unwrap();
    let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?))).unwrap();
    rows.map(Result::unwrap).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn every_row_carries_the_id_of_who_wrote_it_beside_the_initials_of_then() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "", json!({"kind": "note", "text": "cold"})).await;
    shop.photo(&visit, "what=wiring", crate::common::jpeg(9, 9, 9)).await;
    let round = shop.round(&bank).await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    let (status, said) = shop.put_by(("MO", "phone"), &path, &reading("A1-1", "265")).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    for cell in ["A1-2", "A1-3", "A2-1", "A2-2", "A2-3"] {
        shop.read(&round, cell, "265").await;
    }
    shop.finish(&round, 1, "desk").await;
    let run = open_run(&shop, &bank).await;
    crate::common::runs::say(&shop, &run, json!({"what": "note", "text": "fan on"})).await;
    let equipment = shop.request(Method::PUT, &format!("/api/banks/{bank}/equipment"));
    let body = json!({"equipment": {"feed": "127.0.0.1:502"}});
    assert!(equipment.header("if-match", "\"0\"").json(&body).send().await.unwrap().status().is_success());
    let reminder = json!({"bank": bank, "day": "2026-11-01", "text": "look again"});
    shop.put_by(("MO", "phone"), &format!("/api/reminders/{}", id()), &reminder).await;
    let put_off =
        json!({"bank": bank, "task": "round", "from": "2026-10-08", "until": "2026-10-20", "reason": "rain"});
    shop.put(&format!("/api/postponements/{}", id()), &put_off).await;
    let change = json!({"day": "2026-10-08", "kind": "replaced", "battery": "A1", "reason": "cracked"});
    shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &change).await;
    let folder = shop.close().await;
    let row = |who: &str, device: &str| (person(who), who.to_owned(), device.to_owned());
    for (table, last, device) in [
        ("visit", row("TA", "desk"), "device"),
        ("visit_entry", row("TA", "desk"), "device"),
        ("photo", row("TA", "desk"), "device"),
        ("round", row("TA", "desk"), "device"),
        ("run", row("TA", "desk"), "device"),
        ("run_entry", row("TA", "phone"), "device"),
        ("equipment", row("TA", ""), "''"),
        ("reminder", row("MO", ""), "''"),
        ("postponement", row("TA", ""), "''"),
    ] {
        assert_eq!(wrote(folder.path(), table, device).last(), Some(&last), "{table}");
    }
    let readings = wrote(folder.path(), "reading", "device");
    assert_eq!((&readings[0], &readings[1]), (&row("MO", "phone"), &row("TA", "desk")));
    let finished = wrote(folder.path(), "event_log", "what");
    assert!(finished.contains(&(person("TA"), "TA on desk".into(), "round finished".into())), "{finished:?}");
}

#[tokio::test(flavor = "multi_thread")]
async fn initials_stay_as_they_were_when_a_person_takes_others() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "265").await;
    let other = json!({"initials": "TAB", "single_keys": true});
    let (status, said) = shop.change(&format!("/api/people/{}", person("TA")), &other).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
    shop.read(&round, "A1-2", "265").await;
    let folder = shop.close().await;
    let own: Vec<_> = wrote(folder.path(), "reading", "device");
    assert_eq!(own.iter().map(|(_, initials, _)| initials.as_str()).collect::<Vec<_>>(), ["TA", "TAB"]);
    assert!(own.iter().all(|(by, _, _)| *by == person("TA")));
}

#[tokio::test(flavor = "multi_thread")]
async fn nobody_acts_who_does_not_say_who_and_on_which_device() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let nobody = Client::new();
    let put = async |headers: &[(&str, &str)]| {
        let mut request = nobody.put(format!("{}/api/rounds/{}", shop.base, id())).json(&opening(&bank));
        for (name, value) in headers {
            request = request.header(*name, *value);
        }
        answer(request.send().await.unwrap()).await
    };
    let (known, unknown) = (person("TA"), id());
    for (headers, field) in [
        (&[("rainshadow-person", known.as_str())][..], "rainshadow-device"),
        (&[("rainshadow-device", "desk")], "rainshadow-person"),
        (&[("rainshadow-device", "desk"), ("rainshadow-person", unknown.as_str())], "rainshadow-person"),
        (&[("rainshadow-device", "desk"), ("rainshadow-person", "TA")], "rainshadow-person"),
    ] {
        let (status, said) = put(headers).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        assert_eq!(said["errors"][0]["field"], field, "{said}");
    }
    assert!(shop.get(&format!("/api/banks/{bank}")).await["open_round"].is_null(), "nothing was stored");
    let (status, said) =
        put(&[("rainshadow-person", known.as_str()), ("rainshadow-device", "Frau%20M%C3%BCller")]).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_entry_of_another_person_under_one_id_is_another_entry() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    let body = reading("A1-1", "265");
    assert_eq!(shop.put(&path, &body).await.0, StatusCode::CREATED);
    assert_eq!(shop.put(&path, &body).await.0, StatusCode::OK);
    let (status, said) = shop.put_by(("MO", "phone"), &path, &body).await;
    assert_eq!((status, &said["type"]), (StatusCode::CONFLICT, &json!("/problems/other-body")), "{said}");
    let page: Value = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["read"], 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn every_operation_that_acts_says_in_its_description_who_must_be_named() {
    let shop = Shop::open().await;
    let document = shop.get("/api/openapi.json").await;
    let mut acting = 0;
    for (path, item) in document["paths"].as_object().unwrap() {
        for (method, operation) in item.as_object().unwrap() {
            let named = operation["security"][0]["person"].is_array();
            assert!(!named || method != "get", "{path} only reads");
            acting += usize::from(named);
            let schema = operation["requestBody"]["content"]["application/json"]["schema"].to_string();
            let body = schema.rsplit('/').next().unwrap_or_default().trim_matches(|c| "\"}".contains(c));
            let fields = &document["components"]["schemas"][body]["properties"];
            assert!(fields["device"].is_null() && fields["person"].is_null(), "{method} {path}: {fields}");
        }
    }
    assert_eq!(acting, 32, "operations that write in somebody's name");
}
