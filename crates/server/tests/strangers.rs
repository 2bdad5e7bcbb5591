//! Files from elsewhere: everything in them passes what typing passes, and nothing of a refused one is
//! kept.
#![allow(
    clippy::unwrap_used,
    clippy::too_many_lines,
    clippy::semicolon_if_nothing_returned,
    reason = "helpers fail loudly, and a list of cases is as long as it is"
)]

use crate::common::runs::{begun, read_as, read_bank, say};
use crate::common::{Shop, id};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// A bank with a visit, an entry of each kind that has figures, a photograph, a round and a run.
async fn lived_in(shop: &Shop) -> Value {
    let bank = shop.bank().await;
    read_bank(shop, &bank, "1240").await;
    let run = begun(shop, &bank).await;
    say(shop, &run, read_as("1240", "20")).await;
    say(shop, &run, json!({"what": "stopped"})).await;
    let page = shop.get(&format!("/api/runs/{run}")).await;
    let visit = page["visit"].as_str().unwrap().to_owned();
    let entry = async |place: &str, what: Value| {
        let body = json!({"place": place, "what": what, "taken_at": "2026-10-08T09:00:00Z"});
        let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
    };
    entry("A1", json!({"kind": "battery_volts", "typed": "6.31"})).await;
    entry("A1-1", json!({"kind": "level", "step": "low"})).await;
    entry("A1-1", json!({"kind": "water", "typed": "0.1", "unit": "litre", "to_mark": true})).await;
    entry("", json!({"kind": "note", "text": "all well"})).await;
    let photo = format!("/api/visits/{visit}/photos/{}?what=other", id());
    let sent = shop.request(Method::PUT, &photo).body(crate::common::jpeg(64, 48, 30)).send().await.unwrap();
    assert_eq!(sent.status(), StatusCode::CREATED);
    let typed = json!({"charger": {"absorption": "14.7", "float": "13.6", "amperes": "30"}});
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/equipment"))
        .header("if-match", "\"0\"")
        .json(&json!({"equipment": typed}));
    assert!(request.send().await.unwrap().status().is_success());
    let change = json!({"day": "2026-10-08", "kind": "replaced", "battery": "A2", "reason": "cracked"});
    shop.put(&format!("/api/banks/{bank}/changes/{}", id()), &change).await;
    shop.get(&format!("/api/banks/{bank}/export.json")).await
}

type Spoil = fn(&mut Value);

#[tokio::test(flavor = "multi_thread")]
async fn a_hostile_file_is_refused_by_the_field_that_cannot_be_and_nothing_of_it_is_kept() {
    let shop = Shop::open().await;
    let good = lived_in(&shop).await;
    let cases: Vec<(&str, Spoil)> = vec![
        ("visits[0].photographs[0].hash", |f| {
            f["visits"][0]["photographs"][0]["hash"] = json!("../../SECRET")
        }),
        ("visits[0].photographs[0].small_hash", |f| {
            f["visits"][0]["photographs"][0]["small_hash"] = json!("A".repeat(64))
        }),
        ("visits[0].photographs[0].width", |f| f["visits"][0]["photographs"][0]["width"] = json!(4_000_000)),
        ("visits[0].photographs[0].place", |f| f["visits"][0]["photographs"][0]["place"] = json!("Z9")),
        ("pictures", |f| f["pictures"] = json!({})),
        ("pictures", |f| {
            // a good picture under its own hash that no visit has
            let stray = crate::common::jpeg(11, 9, 200);
            f["pictures"][rainshadow::photos::hash_of(&stray)] = json!(STANDARD.encode(&stray));
        }),
        ("pictures", |f| f["pictures"] = json!({"../../x": STANDARD.encode(crate::common::jpeg(9, 9, 1))})),
        ("pictures", |f| {
            f["pictures"] = json!({"0".repeat(64): STANDARD.encode(crate::common::jpeg(9, 9, 1))})
        }),
        ("pictures", |f| f["pictures"] = json!({"0".repeat(64): "<script>"})),
        ("entry.volts", |f| {
            f["visits"][0]["entries"][0]["entry"] = json!({"kind": "battery_volts", "volts": 1e300})
        }),
        ("visits[0].entries[0].entry", |f| {
            f["visits"][0]["entries"][0]["entry"] = json!({"kind": "battery_volts", "volts": 900.0})
        }),
        ("visits[0].entries[0].entry", |f| {
            f["visits"][0]["entries"][0]["entry"] =
                json!({"kind": "level", "level": {"by": "millimetres", "mm": -900.0}})
        }),
        ("visits[0].entries[0].entry", |f| {
            f["visits"][0]["entries"][0]["entry"] = json!({"kind": "case_temperature", "celsius": 400.0})
        }),
        ("visits[0].entries[0].place", |f| f["visits"][0]["entries"][0]["place"] = json!("somewhere")),
        ("visits[0].entries[0].entry", |f| f["visits"][0]["entries"][0]["place"] = json!("Q7")),
        ("visits[0].entries[0].taken_at", |f| {
            f["visits"][0]["entries"][0]["taken_at"] = json!("9999-01-01T00:00:00Z")
        }),
        ("visits[0].entries[0].id", |f| f["visits"][0]["entries"][0]["id"] = json!("17")),
        ("visits[0].entries[1].id", |f| {
            f["visits"][0]["entries"][1]["id"] = f["visits"][0]["entries"][0]["id"].clone()
        }),
        ("visits[0].id", |f| f["visits"][0]["id"] = json!("' OR 1=1 --")),
        ("visits[0].zone", |f| f["visits"][0]["zone"] = json!("Nowhere/Land")),
        ("visits[0].started_at", |f| {
            f["visits"][0]["ended_at"] = json!("2026-10-01T00:00:00Z");
            f["visits"][0]["started_at"] = json!("2026-10-02T00:00:00Z");
        }),
        ("visits[0].started_at", |f| f["visits"][0]["started_at"] = json!("1816-01-01T00:00:00Z")),
        ("site.zone", |f| f["site"]["zone"] = json!("Mars/Crater")),
        ("site.id", |f| f["site"]["id"] = json!("site")),
        ("site.name", |f| f["site"]["name"] = json!("x".repeat(3_000_000))),
        ("bank.id", |f| f["bank"]["id"] = json!("BANK")),
        ("bank.in_service", |f| f["bank"]["in_service"] = json!("the dawn of time")),
        ("bank.rules", |f| f["bank"]["rules"] = json!("no_such_rules")),
        ("bank.shape", |f| f["bank"]["shape"]["parallel"] = json!(250)),
        ("bank", |f| f["bank"]["model"] = json!("flooded-6v-420")),
        ("model.shipped", |f| f["model"]["shipped"] = json!(false)),
        ("model.figures.full_gravity", |f| f["model"]["figures"]["full_gravity"] = json!(9.0)),
        ("notes.overrides", |f| f["notes"]["overrides"] = json!({"a_rule_nobody_knows": 5.0})),
        ("notes.overrides", |f| f["notes"]["overrides"] = json!({"spread_equalize": 900.0})),
        ("notes.access.cover", |f| f["notes"]["access"]["cover"] = json!("x".repeat(5_000))),
        ("blocks[1]", |f| f["blocks"][1] = f["blocks"][0].clone()),
        ("blocks[0].battery", |f| f["blocks"][0]["battery"] = json!("K9")),
        ("blocks[0].block", |f| f["blocks"][0]["block"] = json!("block")),
        ("blocks[0].from", |f| f["blocks"][0]["from"] = json!("0000-13-45")),
        ("changes[0].columns", |f| f["changes"][0]["columns"] = json!([])),
        ("changes[0].columns[3]", |f| f["changes"][0]["columns"][3] = json!(id())),
        ("changes[0].day", |f| f["changes"][0]["day"] = json!("yesterday")),
        ("described_at", |f| f["described_at"] = json!("2150-01-01T00:00:00Z")),
        ("rounds[0].instrument.resolution", |f| f["rounds"][0]["instrument"]["resolution"] = json!(1e308)),
        ("rounds[0].instrument", |f| f["rounds"][0]["instrument"]["repeatability"] = json!(-5.0)),
        ("rounds[0].conditions", |f| f["rounds"][0]["conditions"]["hours_since_load"] = json!(-40.0)),
        ("rounds[0].bank", |f| f["rounds"][0]["bank"] = json!(id())),
        ("rounds[0].visit", |f| f["rounds"][0]["visit"] = json!(id())),
        ("rounds[0].readings[0].cell", |f| f["rounds"][0]["readings"][0]["cell"] = json!("C9-9")),
        ("rounds[0].readings[0].gravity", |f| f["rounds"][0]["readings"][0]["gravity"] = json!(null)),
        ("rounds[0].readings[1].id", |f| {
            f["rounds"][0]["readings"][1]["id"] = f["rounds"][0]["readings"][0]["id"].clone()
        }),
        ("rounds[0].readings[0].supersedes", |f| f["rounds"][0]["readings"][0]["supersedes"] = json!(id())),
        ("rounds[0].readings[0].person", |f| f["rounds"][0]["readings"][0]["person"] = json!("\u{0}\u{1b}")),
        ("equipment[0].version", |f| f["equipment"][0]["version"] = json!(-3)),
        ("equipment[0].typed", |f| f["equipment"][0]["typed"] = json!("{}x")),
        ("equipment[0].fitted.feed", |f| {
            f["equipment"][0]["fitted"]["feed"] = json!({"address": "198.51.100.7:502", "unit": 1})
        }),
        ("runs[0].entries[0].id", |f| f["runs"][0]["entries"][0]["id"] = json!("x")),
        ("runs[0].opened_at", |f| f["runs"][0]["opened_at"] = json!("soon")),
        ("runs[0].visit", |f| f["runs"][0]["visit"] = json!(id())),
        ("runs[0].watched", |f| f["runs"][0]["watched"] = json!([{"block": id(), "cell": 1}])),
        ("runs[0].feed[0]", |f| f["runs"][0]["feed"] = json!([{"minute": 5, "columns": [1.0]}])),
        ("format", |f| f["format"] = json!("rainshadow-bank/99")),
        ("rounds[0].readings", |f| f["rounds"][0]["readings"] = json!({"a": 1})),
    ];
    assert!(cases.len() >= 60);
    let other = Shop::open().await;
    for (field, spoil) in cases {
        let mut file = good.clone();
        spoil(&mut file);
        assert_ne!(file, good, "{field}: nothing was spoilt");
        let (status, said) = other.send(Method::POST, "/api/import", &file).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{field}: {said}");
        let fields: Vec<&str> =
            said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect();
        assert!(fields.iter().any(|f| f.contains(field)), "{field}: {fields:?} {}", said["detail"]);
        assert_eq!(other.get("/api/banks").await, json!([]), "{field}: nothing of it is kept");
        let photos = std::fs::read_dir(other.folder.path().join("photos")).map_or(0, Iterator::count);
        assert_eq!(photos, 0, "{field}: no picture of it is kept");
    }
    // untouched it is taken, and again it changes nothing
    let (status, said) = other.send(Method::POST, "/api/import", &good).await;
    assert_eq!((status, &said["new"]), (StatusCode::OK, &json!(true)), "{said}");
    let (_, again) = other.send(Method::POST, "/api/import", &good).await;
    assert_eq!(again["new"], false);
    let bank = good["bank"]["id"].as_str().unwrap();
    assert_eq!(other.get(&format!("/api/banks/{bank}/export.json")).await, good);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_two_banks_cannot_both_have_is_said_and_no_internal_error() {
    let shop = Shop::open().await;
    let mut file = lived_in(&shop).await;
    // another bank that claims the same batteries
    file["bank"]["id"] = json!(id());
    let bank = file["bank"]["id"].clone();
    for round in file["rounds"].as_array_mut().unwrap() {
        round["bank"] = bank.clone();
    }
    let (status, said) = shop.send(Method::POST, "/api/import", &file).await;
    assert!(status.is_client_error(), "{status}: {said}");
    assert_eq!(shop.get("/api/banks").await.as_array().unwrap().len(), 1);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_report_is_made_of_entries_and_never_taken_from_a_file() {
    let shop = Shop::open().await;
    let mut file = lived_in(&shop).await;
    assert!(file["visits"][0].get("report").is_none(), "no page travels");
    file["visits"][0]["report"] = json!("<script>alert(1)</script>");
    file["visits"][0]["ended_at"] = json!("2026-10-08T11:00:00Z");
    let other = Shop::open().await;
    let (status, said) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let visit = file["visits"][0]["id"].as_str().unwrap();
    let report = other.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    let policy = report.headers()["content-security-policy"].to_str().unwrap().to_owned();
    assert!(policy.contains("default-src 'none'") && !policy.contains("script"), "{policy}");
    let text = report.text().await.unwrap();
    assert!(!text.contains("<script") && text.contains("all well"), "made of the entries");
    assert!(text.contains("data:image/jpeg;base64,"), "with its own picture");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mark_in_a_note_reaches_no_picture_of_another_visit_and_eats_nothing() {
    let shop = Shop::open().await;
    let file = lived_in(&shop).await;
    let hash = file["visits"][0]["photographs"][0]["hash"].as_str().unwrap();
    let bank = shop.bank_of("flooded-6v-225", 12, 2, 1).await;
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    for text in [format!("look: {{photo:{hash}}}"), "an open {photo: mark".into(), "the last word".into()] {
        let body = json!({"what": {"kind": "note", "text": text}, "taken_at": "2026-10-08T09:00:00Z"});
        shop.put(&format!("/api/visits/{visit}/entries/{}", id()), &body).await;
    }
    let report = shop.request(Method::GET, &format!("/api/visits/{visit}/report")).send().await.unwrap();
    let text = report.text().await.unwrap();
    assert!(!text.contains("data:image/jpeg"), "it is another visit's");
    assert!(
        text.contains("an open {photo: mark")
            && text.contains("the last word")
            && text.ends_with("</html>\n") | text.contains("</html>")
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn every_text_has_a_length_wherever_it_is_typed() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let long = "x".repeat(5_000_000);
    let mut round = crate::common::opening(&bank);
    round["conditions"]["proven_full"] = json!(long);
    let mut reading = crate::common::reading("A1-1", "270");
    reading["reason"] = json!("y".repeat(4001));
    let own = shop.round(&bank).await;
    for (path, body, field) in [
        (format!("/api/rounds/{}", id()), round, "conditions.proven_full"),
        (format!("/api/rounds/{own}/readings/{}", id()), reading, "reason"),
        (format!("/api/sites/{}", id()), json!({"name": "z".repeat(121), "zone": "UTC"}), "name"),
        (
            format!("/api/sites/{}", id()),
            json!({"name": "Larch", "zone": "UTC", "region": "a\u{7}b"}),
            "region",
        ),
        (format!("/api/visits/{}", id()), json!({"bank": bank, "day": "q".repeat(4001)}), "day"),
        (
            format!("/api/reminders/{}", id()),
            json!({"bank": bank, "day": "2026-11-01", "text": "w".repeat(4001)}),
            "text",
        ),
    ] {
        let (status, said) = shop.put(&path, &body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{path}: {said}");
        assert_eq!(said["errors"][0]["field"], field, "{path}: {said}");
        assert!(said.to_string().len() < 2000, "a refusal is short");
    }
    let long_device = shop
        .request(Method::PUT, &format!("/api/visits/{}", id()))
        .header("rainshadow-device", "d".repeat(81))
        .json(&json!({"bank": bank}));
    let (status, said) = crate::common::answer(long_device.send().await.unwrap()).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("device")));
    let photo = format!("/api/visits/{}/photos/{}?what=other&note={}", id(), id(), "p".repeat(4001));
    let sent = shop.request(Method::PUT, &photo).body(crate::common::jpeg(9, 9, 9)).send().await.unwrap();
    assert_eq!(sent.status(), StatusCode::UNPROCESSABLE_ENTITY);
}
