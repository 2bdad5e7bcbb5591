//! Records of monitors over HTTP: looked at, read to their end, judged with their bank, taken out again.
#![allow(clippy::unwrap_used, clippy::cast_precision_loss, reason = "helpers fail loudly; hours of weeks")]

use crate::common::records::{big, days, days_of, look, page, read, source};
use crate::common::{Shop, answer, id};
use jiff::{SignedDuration, Timestamp};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::fmt::Write as _;

#[tokio::test]
async fn a_file_is_looked_at_read_and_judged_and_its_source_is_remembered() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let empty = page(&shop, &bank).await;
    assert_eq!(
        (&empty["verdict"], empty["days"].as_array().unwrap().len()),
        (&json!("Nothing of its charging is on record yet."), 0)
    );
    let text = days("2026-08-01T00:00:00Z", 30, 58.0);
    let (_, looked) = look(&shop, &[("bank", &bank)], text.clone()).await;
    assert_eq!(
        looked["asks"],
        json!([{"field": "positive", "said": "Say what a current over zero means: into the bank, out of it, or what a charger gives."}])
    );
    assert_eq!((&looked["remembered"], looked["understood"].as_array().unwrap().len()), (&json!(false), 0));
    let own = source(&shop, &text).await;
    let record = id();
    let (status, taken) = read(&shop, &bank, &record, &own, &text).await;
    assert_eq!(status, StatusCode::OK, "{taken}");
    assert_eq!(
        taken["said"],
        "4320 lines from 1 Aug 2026 00:00 to 30 Aug 2026 23:50, kept as 4320 rows of a minute."
    );
    assert_eq!((&taken["lines"], &taken["faults"]), (&json!([]), &json!([])));
    // Its year is judged and what is due is worked out before anybody looks.
    let db = rusqlite::Connection::open(shop.folder.path().join("rainshadow.db")).unwrap();
    for table in ["record_judged", "due_state"] {
        let rows = db.query_row(&format!("SELECT count(*) FROM {table}"), [], |row| row.get::<_, i64>(0));
        assert_eq!(rows.unwrap(), 1, "{table}");
    }
    // The same again, after a lost answer, changes nothing; another under the same id is refused.
    assert_eq!(read(&shop, &bank, &record, &own, &text).await, (StatusCode::OK, taken));
    let mut other = own.clone();
    other["positive"] = "discharges".into();
    assert_eq!(read(&shop, &bank, &record, &other, &text).await.0, StatusCode::CONFLICT);
    let shown = page(&shop, &bank).await;
    assert_eq!(shown["verdict"], "It reached full on every one of 30 days.", "{shown}");
    assert_eq!((shown["days"].as_array().unwrap().len(), &shown["days"][3]["full"]), (30, &json!(true)));
    assert_eq!(shown["facts"][0], json!({"label": "full days", "value": "30 of 30"}));
    assert_eq!((&shown["files"][0]["file"], &shown["later"]), (&json!("monitor.csv"), &Value::Null));
    // The next file of that source asks for nothing any more.
    let next = days("2026-08-31T00:00:00Z", 2, 58.0);
    let (_, again) = look(&shop, &[("bank", &bank)], next).await;
    assert_eq!(
        (&again["remembered"], &again["asks"], &again["source"]["name"]),
        (&json!(true), &json!([]), &json!("monitor"))
    );
    let first = &again["understood"][0];
    assert_eq!((&first["at"], &first["amperes"]), (&json!("31 Aug 2026 00:00"), &json!("-2.00 A")));
    shop.close().await;
}

#[tokio::test]
async fn what_a_record_shows_joins_the_bank_and_goes_when_it_is_taken_out() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let headlines = async || {
        let own = shop.get(&format!("/api/banks/{bank}")).await;
        let all = own["findings"].as_array().unwrap().clone();
        all.into_iter().map(|f| f["headline"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(headlines().await, Vec::<String>::new());
    let text = days("2026-08-01T00:00:00Z", 40, 52.4);
    let record = id();
    let own = source(&shop, &text).await;
    assert_eq!(read(&shop, &bank, &record, &own, &text).await.0, StatusCode::OK);
    assert_eq!(headlines().await, ["40 days without a full charge"]);
    let shown = page(&shop, &bank).await;
    assert_eq!(shown["gap"]["said"], "40 days without a full charge, where 7 to 10 are the limit");
    let told = shop.get(&format!("/api/banks/{bank}/diagnosis")).await;
    assert!(told["groups"].to_string().contains("charging"), "{}", told["groups"]);
    let send = async |method, path: &str| shop.send(method, path, &json!({})).await.0;
    assert_eq!(send(Method::DELETE, &format!("/api/records/{record}")).await, StatusCode::NO_CONTENT);
    assert_eq!(headlines().await, Vec::<String>::new());
    let out = page(&shop, &bank).await;
    assert_eq!((&out["files"][0]["withdrawn"], &out["shown"]), (&json!(true), &Value::Null));
    assert_eq!(send(Method::POST, &format!("/api/records/{record}/put-back")).await, StatusCode::NO_CONTENT);
    assert_eq!(headlines().await, ["40 days without a full charge"]);
    shop.close().await;
}

#[tokio::test]
async fn the_record_of_another_bank_is_refused_and_nothing_of_it_is_kept() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 12, 2, 3).await;
    let text = days("2026-08-01T00:00:00Z", 200, 58.0);
    let own = source(&shop, &text).await;
    let (status, said) = read(&shop, &bank, &id(), &own, &text).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let said = said["errors"][0]["message"].as_str().unwrap();
    assert!(
        said.contains(
            "a bank of 6 cells in series stands between 9.0 and 16.5 V: is it the record of another bank?"
        ),
        "{said}"
    );
    assert_eq!(page(&shop, &bank).await["files"], json!([]));
    // What has to be told, and what cannot be, names its field.
    let field = async |change: fn(&mut Value)| {
        let mut other = own.clone();
        change(&mut other);
        let (status, said) = read(&shop, &bank, &id(), &other, &text).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        said["errors"][0]["field"].as_str().unwrap().to_owned()
    };
    assert_eq!(field(|own| own["positive"] = Value::Null).await, "positive");
    assert_eq!(field(|own| own["columns"][2] = "volts".into()).await, "columns");
    assert_eq!(field(|own| own["name"] = " ".into()).await, "name");
    let (status, _) = look(&shop, &[], &b"\x89PNG\r\n\x1a\n\x00\x00"[..]).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    shop.close().await;
}

#[tokio::test]
async fn a_current_that_runs_the_other_way_is_turned_round_and_said() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let text = days("2026-08-01T00:00:00Z", 20, 58.0);
    let mut own = source(&shop, &text).await;
    own["positive"] = "discharges".into();
    let (status, taken) = read(&shop, &bank, &id(), &own, &text).await;
    assert_eq!(status, StatusCode::OK);
    assert!(
        taken["lines"][0]
            .as_str()
            .unwrap()
            .starts_with("The current is written the other way round than was said"),
        "{taken}"
    );
    assert_eq!(page(&shop, &bank).await["verdict"], "It reached full on every one of 20 days.");
    // Somebody turned the sensor round in the middle of a day.
    let other = big(&shop).await;
    let lines: Vec<&str> = text.lines().collect();
    let turned = |line: &&str| {
        let mut fields: Vec<String> = line.split(',').map(ToOwned::to_owned).collect();
        fields[2] = format!("{}", -fields[2].parse::<f64>().unwrap());
        fields.join(",")
    };
    let from = 1 + 144 * 9 + 60;
    let flips: Vec<String> =
        lines[..from].iter().map(|own| (*own).to_owned()).chain(lines[from..].iter().map(turned)).collect();
    own["positive"] = "charges".into();
    let (_, taken) = read(&shop, &other, &id(), &own, &(flips.join("\n") + "\n")).await;
    let said = taken["lines"][0].as_str().unwrap();
    assert!(said.starts_with("From 10 Aug 2026 ") && said.contains("It was turned round there."), "{said}");
    let [one, two] = [page(&shop, &bank).await, page(&shop, &other).await];
    assert_eq!(two["verdict"], "It reached full on every one of 20 days.", "{two}");
    assert_eq!(one["facts"][0], two["facts"][0]);
    shop.close().await;
}

#[tokio::test]
async fn two_sources_tell_together_and_years_are_shown_one_by_one() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let text = days("2025-06-01T00:00:00Z", 480, 55.6);
    let own = source(&shop, &text).await;
    assert_eq!(read(&shop, &bank, &id(), &own, &text).await.0, StatusCode::OK);
    let last = page(&shop, &bank).await;
    assert_eq!(last["verdict"], "It never reached full in 365 days.");
    assert_eq!((last["shown"][1].as_str(), last["later"].as_str()), (Some("2026-09-23"), None));
    let earlier = last["earlier"].as_str().unwrap();
    assert_eq!(earlier, "2025-09-23");
    let before = shop.get(&format!("/api/banks/{bank}/record?until={earlier}")).await;
    assert_eq!(
        (before["days"].as_array().unwrap().len(), before["later"].as_str()),
        (115, Some("2026-09-23"))
    );
    let odd =
        shop.request(Method::GET, &format!("/api/banks/{bank}/record?until=spring")).send().await.unwrap();
    assert_eq!(odd.status(), StatusCode::UNPROCESSABLE_ENTITY);
    // The controller says itself when the bank is full; its current is not that of the bank.
    let from: Timestamp = "2026-09-20T00:03:00Z".parse().unwrap();
    let mut states = String::from("Time;Output current (A);Charge state\n");
    for k in 0..96 {
        let state = if k % 48 < 30 { "Bulk" } else { "Float" };
        writeln!(states, "{};30,5;{state}", from + SignedDuration::from_mins(30 * k)).unwrap();
    }
    let mut controller = source(&shop, &states).await;
    assert_eq!((&controller["decimal_comma"], &controller["delimiter"]), (&json!(true), &json!(";")));
    controller["positive"] = "of_charger".into();
    assert_eq!(read(&shop, &bank, &id(), &controller, &states).await.0, StatusCode::OK);
    let both = page(&shop, &bank).await;
    assert_eq!(
        both["verdict"],
        "It reached full on 2 of 365 days; the longest it went without was 361 days."
    );
    assert_eq!(both["facts"][2], last["facts"][2], "what came out is told by the monitor alone");
    shop.close().await;
}

#[tokio::test]
async fn a_planner_begins_with_what_the_record_shows_and_a_kept_plan_goes_stale_by_it() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    let control = async |key: &str| {
        let form = shop.get(&format!("/api/planners/charging?bank={bank}")).await;
        form["controls"].as_array().unwrap().iter().find(|own| own["key"] == key).unwrap().clone()
    };
    assert_eq!(control("loads").await["source"], "a tenth of C20 a day; type what they are");
    let plan = id();
    let sent = json!({"planner": "charging", "name": "as it is", "asked": {"bank": bank, "values": {}}});
    assert_eq!(shop.put(&format!("/api/plans/{plan}"), &sent).await.0, StatusCode::CREATED);
    let stale = async || shop.get(&format!("/api/plans?bank={bank}")).await[0]["stale"].clone();
    assert_eq!(stale().await, json!([]));
    let text = days("2026-08-01T00:00:00Z", 30, 58.0);
    let own = source(&shop, &text).await;
    assert_eq!(read(&shop, &bank, &id(), &own, &text).await.0, StatusCode::OK);
    // 2 A until eight and from four to six, 40 and 48 A by turns in the evening; by day it is always charged: 2 A there too.
    let loads = control("loads").await;
    let hours: Vec<f64> =
        loads["value"].as_str().unwrap().split_whitespace().map(|own| own.parse().unwrap()).collect();
    assert_eq!((hours.len(), hours[3], hours[10], hours[16], hours[20]), (24, 2.0, 2.0, 2.0, 44.0));
    let by_hand = 18.0 * 2.0 + 6.0 * 44.0;
    let said =
        format!("{by_hand:.1} Ah a day, as drawn while nothing charged, record of 1 Aug 2026 to 30 Aug 2026");
    assert_eq!(loads["source"], said);
    assert!(stale().await[0].as_str().unwrap().contains("Loads"), "{}", stale().await);
    let body = json!({"bank": bank, "values": {}});
    let (_, answer) = shop.send(Method::POST, "/api/planners/charging", &body).await;
    let fact =
        answer["facts"].as_array().unwrap().iter().find(|own| own["name"] == "full by its record").unwrap();
    assert_eq!(fact["value"], "30 of 30");
    shop.close().await;
}

#[tokio::test]
async fn a_large_file_that_is_refused_is_taken_to_its_end_so_that_its_sender_reads_why() {
    let shop = Shop::open().await;
    let bank = big(&shop).await;
    // Two years and more of lines, of a bank with a quarter of its volts: the first hours tell.
    let text = days_of("2023-01-01T00:00:00Z", 900, |_, step| (13.2, 40.0 + 8.0 * step));
    assert!(text.len() > 4_000_000, "more than any socket holds: {}", text.len());
    let own = source(&shop, &text).await;
    let (status, said) = read(&shop, &bank, &id(), &own, &text).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
    assert!(said["detail"].as_str().unwrap().contains("another bank"), "{said}");
    // and one of no bank at all
    let (status, said) = read(&shop, &id(), &id(), &own, &text).await;
    assert_eq!(status, StatusCode::NOT_FOUND, "{said}");
    shop.close().await;
}

#[tokio::test]
async fn a_file_of_no_bank_has_its_local_times_in_the_zone_that_is_told() {
    let shop = Shop::open().await;
    let mut text = days("2026-08-01T00:00:00Z", 20, 58.0);
    text = text.replace('Z', "");
    let told = json!({
        "name": "monitor", "delimiter": ",", "positive": "charges", "clock": "site",
        "columns": ["time", "volts", "amperes", "celsius"],
    });
    let judged = |zone: &'static str| {
        let request = shop.request(Method::POST, "/api/records/judged").query(&[
            ("source", told.to_string()),
            ("model", "flooded-6v-420".into()),
            ("system_voltage", "48".into()),
            ("strings", "2".into()),
            ("zone", zone.into()),
        ]);
        let body = text.clone();
        async move { answer(request.body(body).send().await.unwrap()).await }
    };
    let (status, here) = judged("UTC").await;
    assert_eq!(status, StatusCode::OK, "{here}");
    let (_, there) = judged("Etc/GMT-9").await;
    let first = |own: &Value| own["page"]["days"][0]["day"].as_str().unwrap().to_owned();
    // told in its own zone a day is a day: the same file shows the same days wherever it stands
    assert_eq!((first(&here), first(&there)), ("2026-08-01".to_owned(), "2026-08-01".to_owned()));
    assert_eq!(here["page"]["facts"], there["page"]["facts"]);
    let (status, said) = judged("Moon/Crater").await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("zone")));
    shop.close().await;
}
