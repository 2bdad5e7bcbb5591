//! Several people and devices at once: nothing is overwritten, nothing is lost.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::collections::BTreeSet;

#[tokio::test(flavor = "multi_thread")]
async fn two_devices_at_both_ends_of_a_bank_lose_nothing() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let round = shop.round(&bank).await;
    let path: Vec<String> = shop.get(&format!("/api/rounds/{round}")).await["path"]
        .as_array()
        .unwrap()
        .iter()
        .map(|c| c.as_str().unwrap().to_owned())
        .collect();
    let walk = async |cells: Vec<String>, person: &str, device: &str| {
        for cell in cells {
            let path = format!("/api/rounds/{round}/readings/{}", id());
            let (status, said) = shop.put_by((person, device), &path, &reading(&cell, "262")).await;
            assert_eq!(status, StatusCode::CREATED, "{said}");
        }
    };
    let (near, far) = path.split_at(24);
    let far: Vec<String> = far.iter().rev().cloned().collect();
    tokio::join!(walk(near.to_vec(), "TA", "desk"), walk(far, "MO", "phone"));
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["read"], 48);
    let people: BTreeSet<&str> =
        page["cells"].as_array().unwrap().iter().map(|c| c["entry"]["person"].as_str().unwrap()).collect();
    assert_eq!(people, BTreeSet::from(["MO", "TA"]));
}

#[tokio::test(flavor = "multi_thread")]
async fn an_undo_takes_back_ones_own_entry_and_not_the_others() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    shop.read(&round, "A1-1", "270").await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    shop.put_by(("MO", "phone"), &path, &reading("A1-2", "271")).await;
    let undo = async |device: &str| {
        let request = shop.request(Method::GET, &format!("/api/rounds/{round}"));
        let page = request.header("rainshadow-device", device).send().await.unwrap();
        page.json::<Value>().await.unwrap()["undo_cell"].as_str().map(ToOwned::to_owned)
    };
    assert_eq!(undo("desk").await.as_deref(), Some("A1-1"));
    assert_eq!(undo("phone").await.as_deref(), Some("A1-2"));
    assert_eq!(undo("tablet").await, None);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_lost_answer_sent_again_by_many_at_once_is_one_entry() {
    let shop = Shop::open().await;
    let round = shop.round(&shop.bank().await).await;
    let path = format!("/api/rounds/{round}/readings/{}", id());
    let body = reading("A1-1", "270");
    let sent = (0..8).map(|_| shop.request(Method::PUT, &path).json(&body).send());
    let mut created = 0;
    for response in futures_of(sent).await {
        assert!(response.is_success());
        created += usize::from(response == StatusCode::CREATED);
    }
    assert_eq!(created, 1, "one made it, the others found it there");
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    assert_eq!(page["cells"][0]["entries"].as_array().unwrap().len(), 1);
}

/// The statuses of requests that run at the same time.
async fn futures_of(
    sent: impl Iterator<Item = impl Future<Output = reqwest::Result<reqwest::Response>> + Send + 'static>,
) -> Vec<StatusCode> {
    let running: Vec<_> = sent.map(tokio::spawn).collect();
    let mut statuses = Vec::new();
    for task in running {
        statuses.push(task.await.unwrap().unwrap().status());
    }
    statuses
}

#[tokio::test(flavor = "multi_thread")]
async fn conditions_edited_by_two_show_the_second_what_stands() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    let edit = async |hours: &str, version: &str| {
        let mut body = opening(&bank);
        body["conditions"]["hours_since_charge"] = json!(hours);
        let request = shop.request(Method::POST, &format!("/api/rounds/{round}/conditions"));
        crate::common::answer(request.header("if-match", version).json(&body).send().await.unwrap()).await
    };
    let (status, page) = edit("30", "\"1\"").await;
    assert_eq!((status, page["version"].as_i64()), (StatusCode::OK, Some(2)));
    let (status, said) = edit("12", "\"1\"").await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert!(
        said["detail"].as_str().unwrap().contains("changed this round while you were editing it"),
        "{said}"
    );
    assert_eq!(said["theirs"]["opened"]["conditions"]["hours_since_charge"], "30");
}

#[tokio::test(flavor = "multi_thread")]
async fn an_open_round_is_found_again_from_the_list_and_the_bank_until_it_is_finished() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "270").await;
    assert_eq!(shop.get("/api/banks").await[0]["open_round"], round);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["open_round"], round);
    assert_eq!(page["round"], Value::Null, "an open round is no verdict yet");
    shop.finish(&round, 1, "desk").await;
    let list = shop.get("/api/banks").await;
    assert_eq!((&list[0]["open_round"], &list[0]["rounds"]), (&Value::Null, &json!(1)));
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["round"], round);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_correction_after_finishing_is_judged_anew_and_the_first_figure_stays_on_record() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    let mut ids = Vec::new();
    for (cell, typed) in
        [("A1-1", "277"), ("A1-2", "276"), ("A1-3", "277"), ("A2-1", "276"), ("A2-2", "277"), ("A2-3", "246")]
    {
        ids.push(shop.read(&round, cell, typed).await.1["id"].clone());
    }
    shop.finish(&round, 1, "desk").await;
    let verdict =
        async || shop.get(&format!("/api/banks/{bank}")).await["verdict"].as_str().unwrap().to_owned();
    assert!(verdict().await.starts_with("Re-read A2-3"), "{}", verdict().await);
    let mut right = reading("A2-3", "276");
    right["supersedes"] = ids[5].clone();
    shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &right).await;
    assert!(verdict().await.starts_with("The bank is even"), "{}", verdict().await);
    let page = shop.get(&format!("/api/rounds/{round}")).await;
    let cell = page["cells"].as_array().unwrap().iter().find(|c| c["view"]["cell"] == "A2-3").unwrap();
    let said: Vec<&str> =
        cell["entries"].as_array().unwrap().iter().map(|e| e["says"].as_str().unwrap()).collect();
    assert_eq!(said, ["1.246", "1.276"]);
}
