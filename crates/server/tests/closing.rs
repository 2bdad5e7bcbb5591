//! Closed visits, shared things changed by two, clocks that are set: nothing that was
//! acknowledged is missing where it belongs, and nothing is taken where it would be lost.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, answer, id, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::sync::Arc;

async fn visit(shop: &Shop, bank: &str) -> String {
    let visit = id();
    let (status, said) = shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    visit
}

fn note(text: &str) -> Value {
    json!({"what": {"kind": "note", "text": text}, "taken_at": "2026-10-08T09:00:00Z"})
}

async fn say(shop: &Shop, visit: &str, entry: &str, body: &Value) -> (StatusCode, Value) {
    shop.put(&format!("/api/visits/{visit}/entries/{entry}"), body).await
}

async fn post(shop: &Shop, path: &str, version: i64) -> (StatusCode, Value) {
    let request = shop.request_by(("MO", "phone"), Method::POST, path).await;
    answer(request.header("if-match", format!("\"{version}\"")).send().await.unwrap()).await
}

async fn report(shop: &Shop, visit: &str) -> String {
    shop.request(Method::GET, &format!("/api/visits/{visit}/report"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn every_entry_that_was_acknowledged_stands_in_the_report_the_visit_was_closed_with() {
    let shop = Arc::new(Shop::open().await);
    let bank = shop.bank().await;
    let visit = visit(&shop, &bank).await;
    let writers: Vec<_> = (0..6)
        .map(|writer| {
            let (shop, visit) = (Arc::clone(&shop), visit.clone());
            tokio::spawn(async move {
                let (mut kept, mut refused) = (Vec::new(), 0);
                // each goes on until it is told that the visit is closed
                for n in 0.. {
                    let text = format!("remark {writer}-{n} of many");
                    let (status, said) = say(&shop, &visit, &id(), &note(&text)).await;
                    match status {
                        StatusCode::CREATED => kept.push(text),
                        StatusCode::CONFLICT => {
                            let said = said["detail"].as_str().unwrap();
                            assert!(
                                said.contains("open the visit again, or begin one of your own"),
                                "{said}"
                            );
                            refused += 1;
                            if refused == 3 {
                                break;
                            }
                        }
                        other => panic!("{other}: {said}"),
                    }
                }
                (kept, refused)
            })
        })
        .collect();
    // closed in the middle of it
    loop {
        let page = shop.get(&format!("/api/visits/{visit}")).await;
        if page["notes"].as_array().unwrap().len() >= 40 {
            break;
        }
    }
    assert_eq!(post(&shop, &format!("/api/visits/{visit}/close"), 1).await.0, StatusCode::OK);
    let (mut kept, mut refused) = (Vec::new(), 0);
    for writer in writers {
        let (own, not) = writer.await.unwrap();
        kept.extend(own);
        refused += not;
    }
    let report = report(&shop, &visit).await;
    let missing: Vec<&String> = kept.iter().filter(|text| !report.contains(*text)).collect();
    assert!(missing.is_empty(), "{} of {} are missing", missing.len(), kept.len());
    assert!(kept.len() >= 40 && refused == 18, "{} kept, {refused} refused", kept.len());
}

#[tokio::test(flavor = "multi_thread")]
async fn after_the_close_nothing_new_is_taken_and_a_lost_answer_is_still_answered() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = visit(&shop, &bank).await;
    let round = shop.round(&bank).await;
    let first = shop.read(&round, "A1-1", "270").await.1["id"].as_str().unwrap().to_owned();
    // a round that is being taken keeps the visit open
    let (status, said) = post(&shop, &format!("/api/visits/{visit}/close"), 1).await;
    assert_eq!((status, &said["theirs"]["round"]), (StatusCode::CONFLICT, &json!(round)), "{said}");
    assert!(said["detail"].as_str().unwrap().contains("with 1 cells read; finish it first"), "{said}");
    shop.finish(&round, 1, "desk").await;
    let entry = id();
    assert_eq!(say(&shop, &visit, &entry, &note("before")).await.0, StatusCode::CREATED);
    let shown = id();
    let photo = format!("/api/visits/{visit}/photos/{shown}?what=other");
    let send = async |path: &str| {
        shop.request(Method::PUT, path).body(crate::common::jpeg(40, 30, 9)).send().await.unwrap().status()
    };
    assert_eq!(send(&photo).await, StatusCode::CREATED);
    let (status, page) = post(&shop, &format!("/api/visits/{visit}/close"), 1).await;
    assert_eq!(status, StatusCode::OK, "{page}");
    assert_eq!(say(&shop, &visit, &entry, &note("before")).await.0, StatusCode::OK, "sent again");
    assert_eq!(send(&photo).await, StatusCode::CREATED, "sent again");
    for (status, said) in
        [say(&shop, &visit, &id(), &note("after")).await, shop.read(&round, "A1-2", "271").await]
    {
        assert_eq!(
            (status, &said["type"]),
            (StatusCode::CONFLICT, &json!("/problems/visit-closed")),
            "{said}"
        );
    }
    let late = format!("/api/visits/{visit}/photos/{}?what=other", id());
    assert_eq!(send(&late).await, StatusCode::CONFLICT);
    let taken_out = format!("/api/photos/{shown}");
    let gone = shop.request(Method::DELETE, &taken_out).send().await.unwrap();
    assert_eq!(gone.status(), StatusCode::CONFLICT, "a photograph of a closed visit stays");
    let files = std::fs::read_dir(shop.folder.path().join("photos")).unwrap().count();
    assert_eq!(files, 1, "nothing of the refused one is left");
    // a misread is put right later all the same, and stays beside what stood
    let mut right = reading("A1-1", "275");
    right["supersedes"] = json!(first);
    let (status, said) = shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &right).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    // opened again, it takes what was forgotten
    assert_eq!(post(&shop, &format!("/api/visits/{visit}/reopen"), 2).await.0, StatusCode::OK);
    assert_eq!(say(&shop, &visit, &id(), &note("after all")).await.0, StatusCode::CREATED);
    assert_eq!(post(&shop, &format!("/api/visits/{visit}/close"), 3).await.0, StatusCode::OK);
    assert!(report(&shop, &visit).await.contains("after all"));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_ends_no_earlier_than_it_began_whatever_the_clock_is_set_to() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = visit(&shop, &bank).await;
    shop.clock.set_by(-3 * 3600);
    assert_eq!(post(&shop, &format!("/api/visits/{visit}/close"), 1).await.0, StatusCode::OK);
    let folder = shop.close().await;
    let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    let (began, ended): (String, String) = db
        .query_row("SELECT started_at, ended_at FROM visit", [], |row| Ok((row.get(0)?, row.get(1)?)))
        .unwrap();
    assert!(ended >= began, "{began} to {ended}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_device_is_not_told_to_set_its_clock_when_it_was_the_servers_that_was_moved() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    // the test's clock stands in 2026, and so does the device's
    shop.clock.set_by(-5 * 86_400);
    let (status, said) = shop.read(&round, "A1-1", "270").await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    let mut ahead = reading("A1-2", "270");
    ahead["taken_at"] = json!("2150-01-01T00:00:00Z");
    let (_, said) = shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &ahead).await;
    let said = said["detail"].as_str().unwrap();
    assert!(said.contains("whichever of the two is wrong") && !said.contains("this device"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_two_change_at_once_is_changed_by_the_first_and_shown_to_the_second() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let path = format!("/api/banks/{bank}/access");
    let looked = shop.request(Method::GET, &format!("/api/banks/{bank}")).send().await.unwrap();
    let etag = looked.headers()["etag"].clone();
    let say = async |cover: &str, seen: Option<&reqwest::header::HeaderValue>| {
        let mut request = shop.request(Method::PUT, &path).json(&json!({"notes": {"cover": cover}}));
        if let Some(seen) = seen {
            request = request.header("if-match", seen.clone());
        }
        answer(request.send().await.unwrap()).await
    };
    assert_eq!(say("lifts off", None).await.0, StatusCode::PRECONDITION_REQUIRED);
    assert_eq!(say("lifts off", Some(&etag)).await.0, StatusCode::NO_CONTENT);
    let (status, said) = say("is screwed on", Some(&etag)).await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert_eq!(said["theirs"]["access"]["cover"], "lifts off", "{said}");
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["bank"]["access"]["cover"], "lifts off");
    assert_eq!(
        shop.change(&path, &json!({"notes": {"cover": "is screwed on"}})).await.0,
        StatusCode::NO_CONTENT
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_page_that_is_kept_is_as_fresh_as_one_that_is_made() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let page = format!("/api/banks/{bank}");
    let first = shop.get(&page).await;
    assert_eq!(shop.get(&page).await, first);
    let round = shop.round(&bank).await;
    assert_eq!(shop.get(&page).await["open_round"], round.as_str());
    shop.read(&round, "A1-1", "270").await;
    shop.finish(&round, 1, "desk").await;
    assert_eq!(shop.get(&page).await["round"], round.as_str());
    let visit = visit(&shop, &bank).await;
    assert_eq!(shop.get(&page).await["open_visit"], visit.as_str());
    shop.clock.pass(86_400 * 400);
    let later = shop.get(&page).await;
    assert!(later["due"] != first["due"], "another day is another page");
}
