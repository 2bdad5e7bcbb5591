//! Visits for a job: begun from a plan or a reminder, worked through, told in the report, answered when closed.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, opening, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn begun(shop: &Shop, bank: &str, job: &str) -> String {
    let visit = id();
    let (status, said) = shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank, "job": job})).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    visit
}

async fn job(shop: &Shop, visit: &str) -> Value {
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let step = page["steps"].as_array().unwrap().iter().find(|own| own["step"] == "job").unwrap().clone();
    step["job"].clone()
}

fn line<'a>(job: &'a Value, task: &str) -> &'a Value {
    job["lines"].as_array().unwrap().iter().find(|own| own["task"] == task).unwrap()
}

async fn remind(shop: &Shop, bank: &str, day: &str, job: Option<&str>) -> String {
    let reminder = id();
    let body = json!({"bank": bank, "day": day, "text": "Put it away", "job": job});
    let (status, said) = shop.put(&format!("/api/reminders/{reminder}"), &body).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    reminder
}

async fn reminders(shop: &Shop, bank: &str) -> Vec<String> {
    let today = shop.get("/api/today").await;
    let all = today["items"].as_array().unwrap().clone();
    let own = all.into_iter().filter(|own| own["task"] == "reminder" && own["bank"] == bank);
    own.map(|own| format!("{} {}", own["date"].as_str().unwrap(), own["job"].as_str().unwrap_or("-")))
        .collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_is_replaced_line_by_line_and_the_owner_reads_what_was_done() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = begun(&shop, &bank, "replacement").await;
    assert_eq!(shop.get(&format!("/api/visits/{visit}")).await["job"], "Replacement");
    let first = job(&shop, &visit).await;
    assert!(first["lines"].as_array().unwrap().iter().all(|own| own["state"] == "open"), "{first}");
    // the reading of a battery that comes in, with the probes the wrong way round, then right
    let (status, asked) = shop.say(&visit, "A2", json!({"kind": "polarity", "typed": "-6.31"})).await;
    assert_eq!((status, &asked["saved"]), (StatusCode::OK, &json!(false)));
    assert!(asked["question"].as_str().unwrap().contains("joined to nothing"), "{asked}");
    shop.said(&visit, "A2", json!({"kind": "polarity", "typed": "6.31"})).await;
    let read = job(&shop, &visit).await;
    assert_eq!(line(&read, "polarity_read")["done"], "1 read right; nothing is on record as come in yet");
    let change = json!({
        "kind": "replaced", "battery": "A2", "day": "2026-10-08", "serial": "77-1", "date_code": "K6",
        "reason": "dead cell"
    });
    let (status, said) = shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &change).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    let now = job(&shop, &visit).await;
    assert_eq!(line(&now, "change_on_record")["state"], "done");
    assert_eq!(line(&now, "polarity_read")["state"], "done");
    let own = now["polarity"].as_array().unwrap().iter().find(|own| own["battery"] == "A2").unwrap();
    assert_eq!((&own["came_in"], &own["said"]), (&json!(true), &json!("right")));
    for what in [
        json!({"kind": "job_task", "task": "taken_apart"}),
        json!({"kind": "done", "work": "charged_full"}),
        json!({"kind": "job_task", "task": "old_ones_safe", "none_here": true}),
    ] {
        shop.said(&visit, "", what).await;
    }
    let late = job(&shop, &visit).await;
    assert!(line(&late, "old_ones_safe")["done"].as_str().unwrap().starts_with("no old one left here, "));
    let report = shop.report(&visit).await;
    assert!(report.says("Replacement: 4 of 10 lines done; not done: photographs of every lead"));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_no_line_of_the_job_is_refused_by_its_field() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = begun(&shop, &bank, "storage_preparation").await;
    for (place, what, field, part) in [
        ("", json!({"kind": "job_task", "task": "labelled"}), "task", "belongs to another job"),
        (
            "",
            json!({"kind": "job_task", "task": "disconnected", "none_here": true}),
            "none_here",
            "never missing",
        ),
        ("A", json!({"kind": "job_task", "task": "disconnected"}), "place", "noted at the bank"),
        ("A1", json!({"kind": "polarity", "typed": "12,x"}), "typed", "12,x"),
        ("A1", json!({"kind": "polarity", "typed": "-900"}), "typed", "-600"),
    ] {
        let (status, said) = shop.say(&visit, place, what.clone()).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{what}: {said}");
        assert_eq!(said["errors"][0]["field"], field, "{what}: {said}");
        assert!(said["detail"].as_str().unwrap().contains(part), "{what}: {said}");
    }
    let (status, said) =
        shop.put(&format!("/api/visits/{}", id()), &json!({"bank": bank, "job": "spring_cleaning"})).await;
    assert!(status.is_client_error() && said.to_string().contains("job"), "{said}");
    // a visit like others has no such list
    let other = shop.bank_of("flooded-12v-105", 12, 1, 1).await;
    let plain = shop.visit(&other).await;
    let (status, said) = shop.say(&plain, "", json!({"kind": "job_task", "task": "disconnected"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("for no job"), "{said}");
}

/// A phone whose clock runs a day ahead of the server's: what it wrote down is told in the order in which it was done.
#[tokio::test(flavor = "multi_thread")]
async fn a_round_after_the_charge_counts_whatever_the_clock_of_the_phone_shows() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = begun(&shop, &bank, "storage_preparation").await;
    let charged = json!({"place": "", "what": {"kind": "done", "work": "charged_full"}, "taken_at": "2026-10-09T08:00:00Z"});
    let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &charged).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    for (at, state) in [("2026-10-09T07:30:00Z", "open"), ("2026-10-09T08:30:00Z", "done")] {
        let round = id();
        let mut body = opening(&bank);
        body["visit"] = json!(visit);
        assert_eq!(shop.put(&format!("/api/rounds/{round}"), &body).await.0, StatusCode::CREATED);
        for battery in ["A1", "A2"] {
            for cell in 1..=3 {
                let mut own = reading(&format!("{battery}-{cell}"), "1.275");
                own["taken_at"] = json!(at);
                let path = format!("/api/rounds/{round}/readings/{}", id());
                assert_eq!(shop.put(&path, &own).await.0, StatusCode::CREATED);
            }
        }
        shop.finish(&round, 1, "desk").await;
        assert_eq!(line(&job(&shop, &visit).await, "read_after_charge")["state"], state, "{at}");
    }
    shop.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_for_a_job_answers_its_reminder_and_leaves_others() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    remind(&shop, &bank, "2026-10-18", Some("storage_preparation")).await;
    remind(&shop, &bank, "2026-10-12", None).await;
    remind(&shop, &bank, "2026-10-14", Some("spring_check")).await;
    assert_eq!(
        reminders(&shop, &bank).await,
        ["2026-10-12 -", "2026-10-14 spring_check", "2026-10-18 storage_preparation"]
    );
    let visit = begun(&shop, &bank, "storage_preparation").await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let close = page["steps"].as_array().unwrap().iter().find(|own| own["step"] == "close_up").unwrap();
    assert_eq!(close["left_as"], "stored", "what is put away is left in storage");
    // the closing list takes what is written down already, and lets it be taken back only where it was written
    shop.said(&visit, "", json!({"kind": "done", "work": "charged_full"})).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let close = page["steps"].as_array().unwrap().iter().find(|own| own["step"] == "close_up").unwrap();
    let full =
        close["closing"].as_array().unwrap().iter().find(|own| own["item"] == "full_for_storage").unwrap();
    assert!(full["done"].as_str().unwrap().starts_with("written down already, "), "{full}");
    assert_eq!(full["entry"], json!(null));
    assert_eq!(reminders(&shop, &bank).await.len(), 3, "open: nothing is answered yet");
    assert_eq!(
        shop.close_visit(&visit, 7, "desk").await.0,
        StatusCode::PRECONDITION_FAILED,
        "changed meanwhile"
    );
    assert_eq!(reminders(&shop, &bank).await.len(), 3, "not closed: nothing is answered");
    let (status, said) = shop.close_visit(&visit, 1, "desk").await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(reminders(&shop, &bank).await, ["2026-10-12 -", "2026-10-14 spring_check"]);
    let report = shop.report(&visit).await;
    assert!(
        report.says("12 Oct Put it away") && !report.says("18 Oct Put it away"),
        "what it answered does not come next"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_check_answers_one_reminder_of_a_check_and_the_spring_check_those_that_are_left() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    for day in ["2026-09-02", "2026-10-12", "2026-11-05"] {
        remind(&shop, &bank, day, Some("storage_check")).await;
    }
    let visit = begun(&shop, &bank, "storage_check").await;
    shop.said(&visit, "", json!({"kind": "done", "work": "storage_checked"})).await;
    shop.said(&visit, "", json!({"kind": "job_task", "task": "charged_if_asked", "none_here": true})).await;
    let own = job(&shop, &visit).await;
    assert!(
        line(&own, "charged_if_asked")["done"].as_str().unwrap().starts_with("no charge wanted"),
        "{own}"
    );
    let (status, said) = shop.close_visit(&visit, 1, "desk").await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(reminders(&shop, &bank).await, ["2026-11-05 storage_check"]);
    let spring = begun(&shop, &bank, "spring_check").await;
    let (status, said) = shop.close_visit(&spring, 1, "desk").await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(reminders(&shop, &bank).await, Vec::<String>::new());
    shop.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_file_brings_the_job_of_its_visits_along() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = begun(&shop, &bank, "spring_check").await;
    shop.said(&visit, "", json!({"kind": "job_task", "task": "coated"})).await;
    shop.said(&visit, "A1", json!({"kind": "polarity", "typed": "-6.2", "stands": true})).await;
    shop.close_visit(&visit, 1, "desk").await;
    let mut file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let there = Shop::open().await;
    let (status, said) = there.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let same = job(&there, &visit).await;
    assert_eq!((&same["name"], &line(&same, "coated")["state"]), (&json!("Spring check"), &json!("done")));
    // a stranger's file is checked as what is typed
    let entries = file["visits"][0]["entries"].as_array_mut().unwrap();
    let own = entries.iter_mut().find(|own| own["entry"]["kind"] == "polarity").unwrap();
    own["entry"]["volts"] = json!(-9000.0);
    let last = Shop::open().await;
    let (status, said) = last.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
}
