//! What comes after a run: it outlives the server, its answer is read an hour later, twice silent is a
//! replacement, and clocks that are set change nothing.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::runs::{begun, read_as, read_bank, say, whole_run};
use crate::common::{Shop, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

#[tokio::test]
async fn a_run_outlives_the_server_and_its_answer_is_read_an_hour_after() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = begun(&shop, &bank).await;
    say(&shop, &run, read_as("1240", "20")).await;
    let shop = shop.restart().await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    assert_eq!((&page["phase"], page["readings"].as_array().unwrap().len()), (&json!("running"), 1));
    assert_eq!(shop.get("/api/today").await["runs"][0]["id"], run.as_str());
    say(&shop, &run, json!({"what": "stopped"})).await;
    // cut short by hand: that is no equalize, so the spread still asks for one
    let plan = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await.1;
    assert_eq!(plan["asked_for"], true);
    let (run, visit) = whole_run(&shop, &bank).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    // what the round asked for is answered; the next one reads the answer
    let plan = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await.1;
    assert_eq!(plan["verdict"], "Nothing to decide by: read every cell first.");
    let due = shop.get(&format!("/api/banks/{bank}")).await["due"].to_string();
    assert!(!due.contains("as pilot"), "{due}");
    // neither the visit nor the bank can be thrown away with it
    for path in [format!("/api/visits/{visit}"), format!("/api/banks/{bank}")] {
        let (status, said) = shop.send(Method::DELETE, &path, &json!(null)).await;
        assert_eq!(status, StatusCode::CONFLICT, "{said}");
    }
    assert!(page["after"]["rest_seconds"].as_f64().unwrap() > 3500.0);
    shop.clock.pass(3700);
    let mut round = opening(&bank);
    round["visit"] = json!(visit);
    let after = id();
    let (status, said) = shop.put(&format!("/api/rounds/{after}"), &round).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    for cell in ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"] {
        let figure = if cell == "A2-2" { "1271" } else { "1277" };
        shop.put(&format!("/api/rounds/{after}/readings/{}", id()), &reading(cell, figure)).await;
    }
    shop.finish(&after, 1, "desk").await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    // 37 points before, 6 after: even under 15 (RD-4)
    assert_eq!(page["after"]["verdict"], "Evened: the spread went from 37 to 6 points.");
    let bank_page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(bank_page["runs"][0]["outcome"], "evened");
    let report = shop.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    let report = report.text().await.unwrap();
    assert!(report.contains("Evened: the spread went from 37 to 6 points.") && report.contains("1.256"));
    // exported and taken in elsewhere, nothing of it is lost; taken in again, nothing changes
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let other = Shop::open().await;
    let (status, said) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!((status, &said["new"]), (StatusCode::OK, &json!(true)), "{said}");
    assert_eq!(other.get(&format!("/api/banks/{bank}/export.json")).await, file);
    assert_eq!(other.send(Method::POST, "/api/import", &file).await.1["new"], false);
    let there = other.get(&format!("/api/runs/{run}")).await;
    assert_eq!((&there["after"]["verdict"], &there["water"]), (&page["after"]["verdict"], &page["water"]));
}

#[tokio::test]
async fn a_cell_that_twice_did_not_answer_is_due_for_replacement() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1230").await;
    let equalized = async || {
        shop.clock.pass(60);
        whole_run(&shop, &bank).await;
        shop.clock.pass(3700);
        read_bank(&shop, &bank, "1231").await;
        shop.get(&format!("/api/banks/{bank}")).await
    };
    let has = |text: &Value, part: &str| text.as_str().unwrap().contains(part);
    let once = equalized().await;
    assert!(has(&once["verdict"], " and did not answer the equalize of "), "{}", once["verdict"]);
    let finding = &once["findings"][0];
    assert!(has(&finding["seen"], "A2-2 did not answer the equalize of "), "{finding}");
    assert!(has(&finding["advice"], "if it does not answer again, replace A2"), "{finding}");
    let page = equalized().await;
    assert!(has(&page["verdict"], "Plan to replace battery A2: cell A2-2 stands "), "{}", page["verdict"]);
    let list = shop.get("/api/banks").await;
    assert_eq!(list[0]["verdict"], page["verdict"], "the list says the same");
    let plan = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &json!({})).await.1;
    assert!(
        plan["reasons"].as_array().unwrap().iter().any(|r| has(r, "Replace A2 first")),
        "{}",
        plan["reasons"]
    );
    assert_eq!(page["runs"][0]["outcome"], "A2-2 did not answer");
    let due: Vec<&str> =
        page["due"].as_array().unwrap().iter().map(|d| d["title"].as_str().unwrap()).collect();
    assert!(due.contains(&"A2-2 did not answer two equalizes running"), "{due:?}");
}

#[tokio::test]
async fn a_clock_that_is_set_is_noted_and_ends_no_run() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = begun(&shop, &bank).await;
    shop.clock.set_by(-3 * 3600);
    // noticed within two seconds; the page is asked until it says so
    let page = loop {
        let page = shop.get(&format!("/api/runs/{run}")).await;
        if page["clock"] != "" {
            break page;
        }
        tokio::time::sleep(std::time::Duration::from_millis(25)).await;
    };
    assert!(page["clock"].as_str().unwrap().contains("3 h 00"), "{}", page["clock"]);
    assert_eq!(page["elapsed"], "0:00");
    shop.clock.pass(600);
    assert_eq!(shop.get(&format!("/api/runs/{run}")).await["elapsed"], "0:10");
}

#[tokio::test]
async fn a_clock_that_is_set_back_makes_no_stop_new() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = begun(&shop, &bank).await;
    shop.clock.pass(1200);
    assert!(say(&shop, &run, json!({"what": "stopped"})).await.0.is_success());
    assert!(shop.get(&format!("/api/runs/{run}")).await["take_back_seconds"].as_f64().unwrap() > 5.0);
    shop.clock.set_by(-3600);
    assert_eq!(shop.get(&format!("/api/runs/{run}")).await["take_back_seconds"], 0.0);
    let (status, said) = say(&shop, &run, json!({"what": "taken_back"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("for ten seconds"), "{said}");
}

#[tokio::test]
async fn a_run_that_was_stopped_by_hand_condemns_no_cell() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1230").await;
    for _ in 0..2 {
        shop.clock.pass(60);
        let run = begun(&shop, &bank).await;
        shop.clock.pass(600);
        say(&shop, &run, json!({"what": "stopped"})).await;
        shop.clock.pass(3700);
        read_bank(&shop, &bank, "1231").await;
    }
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let verdict = page["verdict"].as_str().unwrap();
    assert!(
        verdict.starts_with("Equalize with cell A2-2 as the pilot: it stands alone, 46 points"),
        "{verdict}"
    );
    let titles: Vec<&str> =
        page["due"].as_array().unwrap().iter().map(|d| d["title"].as_str().unwrap()).collect();
    assert!(titles.iter().all(|t| !t.contains("did not answer")), "{titles:?}");
}
