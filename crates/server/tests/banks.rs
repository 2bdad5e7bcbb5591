//! Banks, sites, models and people over HTTP.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn a_draft_is_drawn_or_told_which_counts_would_fit() {
    let shop = Shop::open().await;
    let draft = |series: u8| json!({"model": "flooded-8v-170", "shape": {"system_voltage": 48, "cells_per_battery": 1, "series": series, "parallel": 1}});
    let (status, said) = shop.send(Method::POST, "/api/banks/preview", &draft(5)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("48 V needs 6 in series"), "{said}");
    let (status, drawn) = shop.send(Method::POST, "/api/banks/preview", &draft(6)).await;
    assert_eq!((status, drawn["cells"].as_i64()), (StatusCode::OK, Some(24)));
    assert_eq!(drawn["description"], "48 V flooded, 6 eight-volt batteries in one string, 170 Ah each");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_of_which_nothing_is_written_down_is_deleted() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    // a round without a reading, an empty visit and a plan that was thrown away hold nothing
    let round = shop.round(&bank).await;
    let plan = format!("/api/plans/{}", id());
    let asked = json!({"planner": "storage", "name": "winter", "asked": {"bank": bank, "values": {}}});
    shop.put(&plan, &asked).await;
    shop.send(Method::DELETE, &plan, &json!(null)).await;
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["deletable"], true);
    let (status, said) = shop.send(Method::DELETE, &format!("/api/banks/{bank}"), &json!(null)).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
    let gone = shop.request(Method::GET, &format!("/api/rounds/{round}")).send().await.unwrap();
    assert_eq!(gone.status(), StatusCode::NOT_FOUND);
    let folder = shop.close().await;
    let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    let who = "SELECT person FROM event_log WHERE what LIKE ? AND subject = ?";
    for (what, subject) in [("bank deleted%", bank.as_str()), ("plan thrown away", &plan[11..])] {
        let said: String = db.query_row(who, [what, subject], |row| row.get(0)).unwrap();
        assert_eq!(said, "TA on desk", "{what}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_of_which_anything_is_written_down_is_archived_and_never_deleted() {
    let shop = Shop::open().await;
    // a sealed bank has no gravity, and years of visits and tests all the same
    let sealed = shop.bank_of("agm-12v-100", 12, 1, 1).await;
    let visit = shop.visit(&sealed).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let noted = shop.bank().await;
    let visit = shop.visit(&noted).await;
    shop.said(&visit, "", json!({"kind": "note", "text": "acid on the floor"})).await;
    let pictured = shop.bank().await;
    let visit = shop.visit(&pictured).await;
    shop.photo(&visit, "what=wiring", crate::common::jpeg(9, 9, 9)).await;
    let read = shop.bank().await;
    let round = shop.round(&read).await;
    shop.read(&round, "A1-1", "265").await;
    let equalized = shop.bank().await;
    crate::common::runs::open_run(&shop, &equalized).await;
    let changed = shop.bank().await;
    let cracked = json!({"day": "2026-10-08", "kind": "replaced", "battery": "A1", "reason": "cracked"});
    shop.put(&format!("/api/banks/{changed}/changes/{}", id()), &cracked).await;
    let planned = shop.bank().await;
    let asked = json!({"planner": "storage", "name": "winter", "asked": {"bank": planned, "values": {}}});
    shop.put(&format!("/api/plans/{}", id()), &asked).await;
    let reminded = shop.bank().await;
    for day in ["2026-11-01", "2026-12-01"] {
        let look = json!({"bank": reminded, "day": day, "text": "look"});
        shop.put(&format!("/api/reminders/{}", id()), &look).await;
    }
    for (bank, held) in [
        (&sealed, "1 visit;"),
        (&noted, "1 visit;"),
        (&pictured, "1 visit;"),
        (&read, "1 round;"),
        (&equalized, "1 run of an equalize"),
        (&changed, "1 change of a battery;"),
        (&planned, "1 kept plan;"),
        (&reminded, "2 reminders;"),
    ] {
        assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["deletable"], false, "{held}");
        let (status, said) = shop.send(Method::DELETE, &format!("/api/banks/{bank}"), &json!(null)).await;
        assert_eq!((status, &said["type"]), (StatusCode::CONFLICT, &json!("/problems/written-down")));
        let said = said["detail"].as_str().unwrap();
        assert!(said.contains(held) && said.contains("archived, not deleted"), "{held}: {said}");
    }
    let archived = async || {
        let all = shop.get("/api/banks").await;
        all.as_array().unwrap().iter().any(|own| own["id"] == read && own["archived"] == true)
    };
    shop.send(Method::POST, &format!("/api/banks/{read}/archive"), &json!(null)).await;
    assert!(archived().await);
    shop.send(Method::POST, &format!("/api/banks/{read}/restore"), &json!(null)).await;
    assert!(!archived().await);
}

#[tokio::test(flavor = "multi_thread")]
async fn fields_that_cannot_be_are_named() {
    let shop = Shop::open().await;
    let (_, said) = shop.put(&format!("/api/sites/{}", id()), &json!({"name": " ", "zone": "UTC"})).await;
    assert_eq!(said["errors"][0]["field"], "name");
    let (_, said) =
        shop.put(&format!("/api/sites/{}", id()), &json!({"name": "Dipper", "zone": "Nowhere"})).await;
    assert_eq!(said["errors"][0]["field"], "zone");
    let (_, said) = shop.put("/api/sites/17", &json!({"name": "Dipper", "zone": "UTC"})).await;
    assert_eq!(said["errors"][0]["field"], "id");
    let (_, said) = shop
        .put(&format!("/api/people/{}", id()), &json!({"initials": "TOOLONG", "single_keys": true}))
        .await;
    assert_eq!(said["errors"][0]["field"], "initials");
    let (status, said) =
        shop.put(&format!("/api/people/{}", id()), &json!({"initials": 7, "single_keys": true})).await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("initials"))
    );
    let raw =
        shop.request(Method::PUT, &format!("/api/sites/{}", id())).body("{\"name\":").send().await.unwrap();
    assert_eq!(raw.status(), StatusCode::BAD_REQUEST);
    assert_eq!(raw.headers()["content-type"], "application/problem+json");
}

#[tokio::test(flavor = "multi_thread")]
async fn shipped_models_are_read_only_and_a_shop_keeps_its_own() {
    let shop = Shop::open().await;
    let models = shop.get("/api/models").await;
    assert!(models.as_array().unwrap().len() >= 12, "cart, marine, standby and sealed sizes ship");
    let mut own = models[0]["typed"].clone();
    own["name"] = json!("Own 6 V 420 Ah");
    own["acid_volume"] = json!({"typed": "1,5", "unit": "us_gallon"});
    let own_id = id();
    assert_eq!(shop.put(&format!("/api/models/{own_id}"), &own).await.0, StatusCode::CREATED);
    let kept = shop.get("/api/models").await[0].clone();
    assert_eq!(kept["typed"]["acid_volume"], own["acid_volume"], "kept as typed, with its unit");
    // 1.5 US gal of 3785.411784 mL, exact by definition
    assert!((kept["model"]["acid_volume"].as_f64().unwrap() - 5_678.117_676).abs() < 1e-6);
    assert_eq!(kept["acid"], "5.7 L", "and said in the reader's unit");
    own["full_gravity"] = json!("1.1");
    own["c20"] = json!("plenty");
    let (status, said) = shop.put(&format!("/api/models/{}", id()), &own).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(said["errors"][0]["field"], "c20", "{said}");
    own["c20"] = json!("420");
    let (_, said) = shop.put(&format!("/api/models/{}", id()), &own).await;
    assert_eq!(said["errors"][0]["field"], "full_gravity", "{said}");
    let (status, _) = shop.put("/api/models/flooded-6v-420", &own).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "a shipped model has no id a client could make");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_description_of_a_bank_is_put_right_and_its_readings_stay() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "265").await;
    shop.finish(&round, 1, "desk").await;
    let edit = |site: &str, rows: u8, day: &str| {
        json!({"site_name": site, "site_kind": "library coach", "zone": "Etc/GMT+7", "name": "under the floor",
            "duty": "coach", "in_service": day,
            "layout": {"rows_per_string": rows, "far_side": "chassis rail"}})
    };
    let send = async |body: &serde_json::Value, version: &str| {
        let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
        crate::common::answer(request.header("if-match", version).json(body).send().await.unwrap()).await
    };
    for (body, field) in [
        (edit(" ", 1, "2021"), "site_name"),
        (edit("Marginalia", 3, "2021"), "rows"),
        (edit("Marginalia", 1, "2031"), "in_service"),
    ] {
        let (status, said) = send(&body, "\"2\"").await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some(field))
        );
    }
    assert_eq!(send(&edit("Marginalia coach", 2, "2021-05"), "\"2\"").await.0, StatusCode::NO_CONTENT);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        (page["site"]["name"].as_str(), page["bank"]["in_service"].as_str()),
        (Some("Marginalia coach"), Some("2021-05"))
    );
    assert_eq!(
        (page["plan"]["rows"].as_array().unwrap().len(), page["plan"]["far_side"].as_str()),
        (2, Some("chassis rail"))
    );
    assert_eq!(page["cells"][0]["gravity"], "1.265");
    let (status, said) = send(&edit("Somebody else's", 1, ""), "\"2\"").await;
    assert_eq!(
        (status, said["theirs"]["name"].as_str()),
        (StatusCode::PRECONDITION_FAILED, Some("under the floor"))
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn a_site_edited_through_one_of_its_banks_is_not_overwritten_through_another() {
    let shop = Shop::open().await;
    let first = shop.bank().await;
    let site = shop.get(&format!("/api/banks/{first}")).await["site"]["id"].clone();
    let second = id();
    let shape = json!({"system_voltage": 12, "cells_per_battery": 1, "series": 2, "parallel": 1});
    let body = json!({"site": site, "name": "house bank", "model": "flooded-6v-225", "rules": "maker_first", "shape": shape});
    assert_eq!(shop.put(&format!("/api/banks/{second}"), &body).await.0, StatusCode::CREATED);
    let send = async |bank: &str, name: &str| {
        let body = json!({"site_name": name, "zone": "UTC", "layout": {"rows_per_string": 1}});
        let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
        crate::common::answer(request.header("if-match", "\"2\"").json(&body).send().await.unwrap()).await.0
    };
    assert_eq!(shop.get(&format!("/api/banks/{second}")).await["bank"]["version"], 2);
    assert_eq!(send(&first, "Marginalia coach").await, StatusCode::NO_CONTENT);
    assert_eq!(send(&second, "Somebody else's name").await, StatusCode::PRECONDITION_FAILED);
    assert_eq!(shop.get(&format!("/api/banks/{second}")).await["site"]["name"], "Marginalia coach");
}

#[tokio::test(flavor = "multi_thread")]
async fn another_house_rule_set_judges_the_same_readings_anew() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    for (cell, typed) in
        [("A1-1", "277"), ("A1-2", "276"), ("A1-3", "277"), ("A2-1", "277"), ("A2-2", "252"), ("A2-3", "276")]
    {
        shop.read_kept(&round, cell, typed).await;
    }
    shop.finish(&round, 1, "desk").await;
    let condition = async |rules: &str| {
        shop.change(&format!("/api/banks/{bank}/house-rules"), &json!({ "rules": rules })).await;
        shop.get(&format!("/api/banks/{bank}")).await["condition"].as_str().unwrap().to_owned()
    };
    assert_eq!(
        condition("close_watch").await,
        "act",
        "25 points ask for an equalize from √(20² + 13.3²) = 24.0"
    );
    assert_eq!(condition("maker_first").await, "watch");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_request_from_another_host_or_page_is_refused() {
    let shop = Shop::open().await;
    for (name, value) in
        [("host", "rebound.example"), ("origin", "http://elsewhere.example"), ("origin", "null")]
    {
        let response = shop.request(Method::GET, "/api/meta").header(name, value).send().await.unwrap();
        assert_eq!(response.status(), StatusCode::FORBIDDEN, "{name} {value}");
    }
    let response = shop.request(Method::GET, "/api/meta").header("origin", &shop.base).send().await.unwrap();
    assert_eq!(response.status(), StatusCode::OK);
    let policy = response.headers()["content-security-policy"].to_str().unwrap();
    assert!(policy.contains("default-src 'self'") && !policy.contains("script-src"), "{policy}");
    let missing = shop.request(Method::GET, "/api/nothing").send().await.unwrap();
    assert_eq!(missing.status(), StatusCode::NOT_FOUND);
    assert_eq!(missing.headers()["content-type"], "application/problem+json");
    let docs = shop.request(Method::GET, "/api/docs/").send().await.unwrap().text().await.unwrap();
    assert!(!docs.contains("http://") && !docs.contains("https://"), "the page loads nothing from elsewhere");
}

#[tokio::test(flavor = "multi_thread")]
async fn the_demo_loads_into_an_empty_application_only() {
    let shop = Shop::open().await;
    assert_eq!(shop.get("/api/meta").await["empty"], true);
    assert_eq!(shop.send(Method::POST, "/api/demo", &json!(null)).await.0, StatusCode::CREATED);
    let banks = shop.get("/api/banks").await;
    let names: Vec<&str> = banks.as_array().unwrap().iter().map(|b| b["site"].as_str().unwrap()).collect();
    assert_eq!(
        names,
        [
            "Arboretum tram 4",
            "Dipper",
            "High Pasture hut",
            "Kestrel Dome",
            "Larch Point repeater",
            "Marginalia"
        ]
    );
    assert!(banks[3]["verdict"].as_str().unwrap().contains("B5-2 has sunk"), "{}", banks[3]["verdict"]);
    assert_eq!((banks[4]["condition"].as_str(), banks[4]["rounds"].as_i64()), (Some("steady"), Some(9)));
    assert_eq!(banks[3]["last_date"], "2026-10-07", "the demo ends the day before");
    assert_eq!(shop.send(Method::POST, "/api/demo", &json!(null)).await.0, StatusCode::CONFLICT);
}
