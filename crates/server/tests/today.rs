//! Today and the calendar over HTTP: right after every entry, put off with a reason.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn demo() -> Shop {
    let shop = Shop::open().await;
    let (status, _) = shop.send(Method::POST, "/api/demo", &json!({})).await;
    assert_eq!(status, StatusCode::CREATED);
    shop
}

fn find<'a>(page: &'a Value, site: &str, task: &str) -> Option<&'a Value> {
    page["items"].as_array().unwrap().iter().find(|i| i["site"] == site && i["task"] == task)
}

async fn bank_of(shop: &Shop, site: &str) -> String {
    let banks = shop.get("/api/banks").await;
    let bank = banks.as_array().unwrap().iter().find(|b| b["site"] == site).unwrap();
    bank["id"].as_str().unwrap().to_owned()
}

#[tokio::test(flavor = "multi_thread")]
async fn the_list_goes_by_consequence_overdue_first_and_says_why() {
    let shop = demo().await;
    let page = shop.get("/api/today").await;
    assert_eq!((page["banks"].as_i64(), page["cells"].as_i64()), (Some(6), Some(150)));
    assert_eq!(page["verdict"], "Nothing comes to harm today. Four banks lose if put off; start at Dipper.");
    let rank = |item: &Value| match item["consequence"].as_str().unwrap() {
        "harm" => 0,
        "loss" => 1,
        _ => 2,
    };
    let items = page["items"].as_array().unwrap();
    assert!(
        items
            .windows(2)
            .all(|w| (rank(&w[0]), w[0]["date"].as_str()) <= (rank(&w[1]), w[1]["date"].as_str()))
    );
    // plates that show are harm; a cell that only costs capacity is loss (SC-1)
    assert_eq!((&items[0]["site"], &items[0]["task"]), (&json!("Arboretum tram 4"), &json!("water")));
    let first = find(&page, "Kestrel Dome", "suspect_cell").unwrap();
    assert_eq!(first["consequence"], "loss");
    assert_eq!(
        (first["said"]["title"].as_str(), first["day"].as_str()),
        (Some("Equalize once more, with B5-2 as pilot"), Some("today"))
    );
    assert!(first["said"]["rule"].as_str().unwrap().starts_with("RD-8"));
    // the water of the cart is told with its range, in litres and in gallons
    let water = find(&page, "Arboretum tram 4", "water").unwrap();
    assert!(water["said"]["why"].as_str().unwrap().contains("most likely"), "{water}");
    assert!(page["van"]["by_bank"].as_array().unwrap().iter().any(|w| w["site"] == "Arboretum tram 4"));
}

#[tokio::test(flavor = "multi_thread")]
async fn the_list_is_right_after_every_new_entry() {
    let shop = demo().await;
    let bank = bank_of(&shop, "Arboretum tram 4").await;
    assert!(find(&shop.get("/api/today").await, "Arboretum tram 4", "retorque_and_clean").is_some());
    assert!(shop.get("/api/today").await.to_string().contains("A5, hold-down"));
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    let say = async |place: &str, what: Value| {
        let body = json!({"place": place, "what": what, "taken_at": "2026-10-08T09:00:00Z"});
        let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
    };
    say("", json!({"kind": "done", "work": "retorqued"})).await;
    let page = shop.get("/api/today").await;
    assert!(find(&page, "Arboretum tram 4", "retorque_and_clean").is_none());
    assert_eq!(find(&page, "Arboretum tram 4", "water").unwrap()["open_visit"], visit);
    say("", json!({"kind": "water", "typed": "1.9", "unit": "litre", "to_mark": true})).await;
    assert!(find(&shop.get("/api/today").await, "Arboretum tram 4", "water").is_none(), "filled today");
    say("A5", json!({"kind": "checked", "check": "hold_down"})).await;
    let page = shop.get("/api/today").await.to_string();
    assert!(!page.contains("A5, hold-down"), "put right");
    assert!(page.contains("A5 gives out first"), "what its last discharge showed is still open");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_put_off_moves_with_its_reason_and_bad_days_are_named() {
    let shop = demo().await;
    let page = shop.get("/api/today").await;
    let item = find(&page, "Kestrel Dome", "suspect_cell").unwrap();
    let put_off = |until: &str, reason: &str| {
        json!({
            "bank": item["bank"], "task": item["task"], "about": item["about"], "from": item["date"],
            "until": until, "reason": reason, })
    };
    for (until, reason, field) in [
        ("2026-10-08", "snow", "until"),
        ("soon", "snow", "until"),
        ("2026-10-12", "", "reason"),
        ("2029-01-01", "x", "until"),
    ] {
        let (status, said) = shop.put(&format!("/api/postponements/{}", id()), &put_off(until, reason)).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some(field)),
            "{said}"
        );
    }
    let (status, _) =
        shop.put(&format!("/api/postponements/{}", id()), &put_off("2026-10-12", "road is closed")).await;
    assert_eq!(status, StatusCode::CREATED);
    let page = shop.get("/api/today").await;
    let moved = find(&page, "Kestrel Dome", "suspect_cell").unwrap();
    assert_eq!(moved["day"], "Mon 12 Oct");
    assert_eq!(moved["said"]["postponed"], "put off from 8 Oct by TA: road is closed");
}

#[tokio::test(flavor = "multi_thread")]
async fn reminders_come_and_go_and_filters_narrow() {
    let shop = demo().await;
    let bank = bank_of(&shop, "Larch Point repeater").await;
    let reminder = id();
    let body = json!({"bank": bank, "day": "2026-10-10", "text": "take the new key along"});
    assert_eq!(shop.put(&format!("/api/reminders/{reminder}"), &body).await.0, StatusCode::CREATED);
    let page = shop.get("/api/today").await;
    assert_eq!(
        find(&page, "Larch Point repeater", "reminder").unwrap()["said"]["title"],
        "Take the new key along"
    );
    let (status, said) = shop
        .put(&format!("/api/reminders/{}", id()), &json!({"bank": bank, "day": "10 Oct", "text": "x"}))
        .await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("day"))
    );
    shop.send(Method::POST, &format!("/api/reminders/{reminder}/done"), &json!({})).await;
    assert!(find(&shop.get("/api/today").await, "Larch Point repeater", "reminder").is_none());
    let narrow = shop.get("/api/today?keeper=MO&duty=coach").await;
    assert_eq!(narrow["banks"], 1);
    assert!(narrow["items"].as_array().unwrap().iter().all(|i| i["site"] == "Marginalia"), "{narrow}");
    assert_eq!(narrow["keepers"], json!(["MO", "TA"]));
}

#[tokio::test(flavor = "multi_thread")]
async fn the_calendar_is_a_feed_other_programs_read() {
    let shop = demo().await;
    let text = shop.request(Method::GET, "/api/calendar.ics").send().await.unwrap().text().await.unwrap();
    let parsed: icalendar::Calendar = text.parse().unwrap();
    assert!(parsed.events().count() > 20);
    // RFC 5545: lines end with CR LF and hold up to 75 octets, the end of a day is the next one
    assert!(
        text.starts_with("BEGIN:VCALENDAR\r\n") && text.lines().all(|l| l.len() <= 75),
        "long lines are folded"
    );
    let first = text.find("SUMMARY:Kestrel Dome: Equalize once more\\, with B5-2 as pilot").unwrap();
    let event = &text[text[..first].rfind("BEGIN:VEVENT").unwrap()..];
    assert!(
        event.contains("DTSTART;VALUE=DATE:20261008") && event.contains("DTEND;VALUE=DATE:20261009"),
        "{event}"
    );
    let again = shop.request(Method::GET, "/api/calendar.ics").send().await.unwrap().text().await.unwrap();
    let uids =
        |t: &str| t.lines().filter(|l| l.starts_with("UID")).map(ToOwned::to_owned).collect::<Vec<_>>();
    assert_eq!(uids(&text), uids(&again), "a subscriber sees the same events");
    let bank = bank_of(&shop, "Dipper").await;
    let one = shop
        .request(Method::GET, &format!("/api/calendar.ics?bank={bank}"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    assert!(one.contains("Dipper") && !one.contains("Kestrel"));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_field_sheet_has_a_box_for_every_cell_along_the_path() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let sheet = shop
        .request(Method::GET, &format!("/api/banks/{bank}/field-sheet"))
        .send()
        .await
        .unwrap()
        .text()
        .await
        .unwrap();
    for part in
        ["A1-1", "A2-3", "Goggles or face shield", "Terminals", "3 mm below the vent well", "Every cap on"]
    {
        assert!(sheet.contains(part), "{part}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn three_fills_of_ones_own_tell_how_long_the_next_one_takes() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let minutes = async || {
        let page = shop.get("/api/today").await;
        let items = page["items"].as_array().unwrap().clone();
        items.iter().find(|i| i["task"] == "water").unwrap()["minutes"].as_str().unwrap().to_owned()
    };
    assert_eq!(minutes().await, "15 min", "six cells at half a minute and ten to get there");
    for hour in [7, 8, 9] {
        let visit = id();
        let open = json!({"bank": bank, "day": "2026-09-01"});
        assert!(shop.put(&format!("/api/visits/{visit}"), &open).await.0.is_success());
        for (cell, minute) in [("A1-1", 0), ("A1-2", 15), ("A2-3", 33)] {
            let body = json!({"place": cell, "what": {"kind": "level", "step": "low"},
                "taken_at": format!("2026-09-01T{hour:02}:{minute:02}:00Z")});
            let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
            assert!(status.is_success(), "{said}");
        }
        let version = shop.get(&format!("/api/visits/{visit}")).await["version"].as_i64().unwrap();
        let close = shop.request(Method::POST, &format!("/api/visits/{visit}/close"));
        let sent = close.header("if-match", format!("\"{version}\"")).json(&json!({}));
        assert!(sent.send().await.unwrap().status().is_success());
    }
    assert_eq!(minutes().await, "45 min", "33 minutes from the first cell to the last");
}

#[tokio::test(flavor = "multi_thread")]
async fn many_due_banks_are_counted_and_the_van_is_loaded_for_the_most_pressing() {
    let shop = Shop::open().await;
    for _ in 0..31 {
        shop.bank().await;
    }
    let page = shop.get("/api/today").await;
    let trips = page["van"]["trips"].as_array().unwrap();
    let chosen = trips.iter().filter(|t| t["chosen"] == true).count();
    assert_eq!((page["banks"].as_i64(), trips.len(), chosen), (Some(31), 31, 12));
    // every bank asks for several things on its first day, more than a page shows
    let (total, shown) = (page["total"].as_u64().unwrap(), page["items"].as_array().unwrap().len());
    assert!(total > 60 && shown == 60, "{total} and {shown}");
    let rest = shop.get("/api/today?from=60").await["items"].as_array().unwrap().clone();
    assert_eq!(rest.len() as u64, total - 60);
    let all: std::collections::BTreeSet<String> = page["items"]
        .as_array()
        .unwrap()
        .iter()
        .chain(&rest)
        .map(|i| format!("{} {} {}", i["bank"], i["task"], i["about"]))
        .collect();
    assert_eq!(all.len() as u64, total, "none twice, none left out");
    // chosen by hand, also one that was not among them
    let other = trips.iter().find(|t| t["chosen"] == false).unwrap()["bank"].as_str().unwrap();
    let page = shop.get(&format!("/api/today?load={other}")).await;
    let trips = page["van"]["trips"].as_array().unwrap();
    let chosen: Vec<&Value> = trips.iter().filter(|t| t["chosen"] == true).collect();
    assert!(chosen.len() == 1 && chosen[0]["bank"] == other, "{chosen:?}");
    assert_eq!(shop.get("/api/today?from=9999").await["items"], json!([]));
}
