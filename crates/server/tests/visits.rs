//! A visit over HTTP: opened once, written into by anybody, asked about, closed with its report.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, id, reading};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn photograph() -> Vec<u8> {
    let picture = image::DynamicImage::ImageRgb8(image::RgbImage::from_fn(640, 480, |x, y| {
        let [x, y] = [x, y].map(|v| u8::try_from(v % 256).unwrap());
        image::Rgb([x, y, 80])
    }));
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, image::ImageFormat::Jpeg).unwrap();
    out.into_inner()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bank_has_one_open_visit_and_the_second_is_told_of_it() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let first = shop.visit(&bank).await;
    let body = json!({"bank": bank});
    let (status, said) = shop.put_by(("MO", "phone"), &format!("/api/visits/{}", id()), &body).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert_eq!(said["theirs"]["visit"], first);
    assert!(said["detail"].as_str().unwrap().starts_with("A visit by TA is open"), "{said}");
    // the same request again after a lost answer is no second visit
    let same = json!({"bank": bank});
    assert_eq!(shop.put(&format!("/api/visits/{first}"), &same).await.0, StatusCode::OK);
    // nothing is written down: it can be thrown away, and another begun
    let (status, _) = shop.send(Method::DELETE, &format!("/api/visits/{first}"), &json!({})).await;
    assert_eq!(status, StatusCode::NO_CONTENT);
    let second = shop.visit(&bank).await;
    shop.said(&second, "", json!({"kind": "note", "text": "cold"})).await;
    let (status, said) = shop.send(Method::DELETE, &format!("/api/visits/{second}"), &json!({})).await;
    assert_eq!(status, StatusCode::CONFLICT, "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_that_is_closed_or_has_a_plan_is_not_thrown_away() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let throw_away = async |visit: &str| {
        let (status, said) = shop.send(Method::DELETE, &format!("/api/visits/{visit}"), &json!({})).await;
        (status, said["type"].as_str().unwrap_or_default().to_owned())
    };
    // closed without a word it has a report all the same
    let closed = shop.visit(&bank).await;
    assert_eq!(shop.close_visit(&closed, 1, "desk").await.0, StatusCode::OK);
    assert_eq!(throw_away(&closed).await, (StatusCode::CONFLICT, "/problems/visit-closed".into()));
    assert!(shop.text(&format!("/api/visits/{closed}/report")).await.contains("Marginalia"));
    let planned = shop.visit(&bank).await;
    let plan = format!("/api/plans/{}", id());
    let asked = json!({"planner": "storage", "name": "winter", "visit": planned, "asked": {"bank": bank, "values": {}}});
    assert_eq!(shop.put(&plan, &asked).await.0, StatusCode::CREATED);
    assert_eq!(throw_away(&planned).await, (StatusCode::CONFLICT, "/problems/visit-holds".into()));
    shop.send(Method::DELETE, &plan, &json!({})).await;
    assert_eq!(throw_away(&planned).await.0, StatusCode::NO_CONTENT);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_is_of_today_or_of_a_day_the_bank_was_there() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let try_day = async |day: &str| {
        let body = json!({"bank": bank, "day": day});
        shop.put(&format!("/api/visits/{}", id()), &body).await
    };
    let (status, said) = try_day("2026-10-09").await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("lies in the future"), "{said}");
    assert!(try_day("yesterday").await.1["detail"].as_str().unwrap().contains("as 2026-10-08"));
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let edit = json!({
        "site_name": "Marginalia", "zone": "UTC", "in_service": "2024-05", "layout": page["bank"]["shape"]["layout"],
    });
    let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
    let version = format!("\"{}\"", page["bank"]["version"]);
    request.header("if-match", version).json(&edit).send().await.unwrap();
    let (_, said) = try_day("2024-04-30").await;
    assert!(
        said["detail"].as_str().unwrap().contains("before the bank went into service on 1 May 2024"),
        "{said}"
    );
    assert_eq!(try_day("2024-05-02").await.0, StatusCode::CREATED);
}

#[tokio::test(flavor = "multi_thread")]
async fn volts_of_another_battery_are_refused_and_unlikely_ones_are_asked_about() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let volts =
        |typed: &str, stands: bool| json!({"kind": "battery_volts", "typed": typed, "stands": stands});
    for typed in ["12.65", "1265"] {
        let (status, said) = shop.say(&visit, "A1", volts(typed, true)).await;
        assert_eq!(
            (status, said["errors"][0]["field"].as_str()),
            (StatusCode::UNPROCESSABLE_ENTITY, Some("typed"))
        );
        assert!(said["detail"].as_str().unwrap().contains("12.65 V is more than 3 cells can show"), "{said}");
    }
    let (status, asked) = shop.say(&visit, "A1", volts("4.20", false)).await;
    assert_eq!((status, &asked["saved"]), (StatusCode::OK, &json!(false)));
    assert!(asked["question"].as_str().unwrap().contains("two volts short"), "{asked}");
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(
        step(&page, "rest_check")["rest"]["batteries"][0]["volts"],
        Value::Null,
        "nothing is stored before it is kept"
    );
    shop.said(&visit, "A1", volts("4.20", true)).await;
    shop.said(&visit, "A2", volts("634", false)).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(
        (
            step(&page, "rest_check")["rest"]["batteries"][0]["volts"].as_str(),
            step(&page, "rest_check")["rest"]["batteries"][1]["volts"].as_str()
        ),
        (Some("4.20"), Some("6.34"))
    );
    // no percentage before the rest is noted
    assert_eq!(step(&page, "rest_check")["rest"]["tells_charge"], false);
    let rested = json!({"kind": "rested", "hours_since_charge": "26", "hours_since_load": "25"});
    shop.said(&visit, "", rested).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert!(
        step(&page, "rest_check")["rest"]["batteries"][1]["charge"].as_str().unwrap().contains('%'),
        "{}",
        step(&page, "rest_check")["rest"]
    );
    let (status, _) = shop.say(&visit, "", volts("6.3", false)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "volts are taken at a battery");
    let (status, said) = shop.say(&visit, "A3", volts("6.3", false)).await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("place"))
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn water_is_told_in_any_unit_and_nonsense_is_refused_or_asked_about() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let water = |typed: &str, unit: &str, stands: bool| json!({"kind": "water", "typed": typed, "unit": unit, "to_mark": true, "stands": stands});
    for (typed, part) in [
        ("-1", "is not possible here"),
        ("400", "400 litre is more than the cell of A1-1"),
        ("much", "is not a number"),
    ] {
        let (status, said) = shop.say(&visit, "A1-1", water(typed, "litre", false)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        let part = part.replace("litre", "L");
        assert!(said["detail"].as_str().unwrap().contains(&part), "{typed}: {said}");
    }
    // 22 mm of mark and 15 mL a mm: a litre does not fit between bare plates and the mark
    let (_, asked) = shop.say(&visit, "A1-1", water("1", "litre", false)).await;
    assert!(asked["question"].as_str().unwrap().contains("Is the unit right?"), "{asked}");
    shop.said(&visit, "A1-2", json!({"kind": "level", "step": "over"})).await;
    let (_, asked) = shop.say(&visit, "A1-2", water("50", "millilitre", false)).await;
    assert!(asked["question"].as_str().unwrap().contains("noted over the mark"), "{asked}");
    // a US quart is 946.352946 mL, exact; one cell is over its mark, so the bank's water is asked about too
    let (_, asked) = shop.say(&visit, "", water("1", "us_quart", false)).await;
    assert!(asked["question"].as_str().unwrap().contains("over the mark"), "{asked}");
    shop.said(&visit, "", water("1", "us_quart", true)).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let added: f64 = step(&page, "water")["water"]["cells"]
        .as_array()
        .unwrap()
        .iter()
        .map(|c| c["added"].as_f64().unwrap())
        .sum();
    assert!((added - 946.352_946).abs() < 1e-6, "{added}");
    let entry = step(&page, "water")["water"]["entries"][0]["entry"].clone();
    shop.said(&visit, "", json!({"kind": "withdrawn", "entry": entry})).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(step(&page, "water")["water"]["total"], "");
}

#[tokio::test(flavor = "multi_thread")]
async fn bare_plates_are_told_at_once_and_stay_due_until_they_are_covered() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "", json!({"kind": "level", "step": "at_mark"})).await;
    shop.said(&visit, "A2-1", json!({"kind": "level", "step": "plates_bare"})).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert!(
        step(&page, "water")["water"]["order"].as_str().unwrap().starts_with("Cover the plates of A2-1 now"),
        "{}",
        step(&page, "water")["water"]["order"]
    );
    let today = shop.get("/api/today").await;
    assert_eq!(today["items"][0]["said"]["title"], "Cover the plates of A2-1");
    assert_eq!(today["verdict"], "One bank comes to harm if left. Start at Marginalia.");
    shop.said(
        &visit,
        "A2-1",
        json!({"kind": "water", "typed": "90", "unit": "millilitre", "to_mark": false}),
    )
    .await;
    let today = shop.get("/api/today").await;
    assert!(today["items"].as_array().unwrap().iter().all(|i| i["task"] != "cover_plates"), "{today}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_bank_takes_volts_and_resistance_and_neither_level_nor_round() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let visit = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let names: Vec<&str> =
        page["steps"].as_array().unwrap().iter().map(|s| s["step"].as_str().unwrap()).collect();
    assert_eq!(names, ["make_safe", "look_over", "rest_check", "load_test", "joints", "close_up"]);
    let (status, said) = shop.say(&visit, "A1-1", json!({"kind": "level", "step": "low"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("sealed"), "{said}");
    shop.said(&visit, "", json!({"kind": "rested", "hours_since_charge": "26", "hours_since_load": "26"}))
        .await;
    for (battery, volts, siemens) in
        [("A1", "12.90", "250"), ("A2", "12.91", "248"), ("B1", "1290", "252"), ("B2", "12.78", "160")]
    {
        shop.said(&visit, battery, json!({"kind": "battery_volts", "typed": volts})).await;
        shop.said(&visit, battery, json!({"kind": "ohmic", "typed": siemens, "unit": "siemens"})).await;
    }
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    // 1000/160 = 6.25 mΩ against the median 4.016: 56 % more
    assert_eq!(step(&page, "rest_check")["rest"]["batteries"][3]["ohmic"], "6.25 mΩ");
    assert!(
        page["findings"][0]["headline"].as_str().unwrap().starts_with("B2: resistance +56 %, act"),
        "{}",
        page["findings"]
    );
    let bank_page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(bank_page["condition"], "act");
    assert_eq!(shop.get("/api/banks").await[0]["mini"][1][1][0], "act");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_round_joins_the_open_visit_and_its_verdict_stands_in_the_report() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let caution = json!({"kind": "confirmed", "caution": "acid"});
    shop.said(&visit, "", caution).await;
    let round = shop.round(&bank).await;
    for (address, typed) in
        [("A1-1", "277"), ("A1-2", "275"), ("A1-3", "276"), ("A2-1", "277"), ("A2-2", "276"), ("A2-3", "276")]
    {
        shop.put(&format!("/api/rounds/{round}/readings/{}", id()), &reading(address, typed)).await;
    }
    assert_eq!(shop.get(&format!("/api/rounds/{round}")).await["visit"], visit);
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    let found = json!({"kind": "checked", "check": "terminals", "found": {"kind": "green", "note": "<b>both</b> posts"}});
    shop.said(&visit, "A2", found).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(
        (step(&page, "round")["rounds"][0]["read"].as_i64(), step(&page, "round")["done"].as_i64()),
        (Some(6), Some(6))
    );
    assert_eq!(step(&page, "make_safe")["cautions"][0]["confirmed"], "TA on desk, 9:00");
    let (status, closed) = shop.close_visit(&visit, page["version"].as_i64().unwrap(), "desk").await;
    assert_eq!(status, StatusCode::OK, "{closed}");
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert!(report.contains("Your batteries are in working order, with something to keep an eye on."));
    assert!(
        report.contains("Battery A2, terminals: green copper") && report.contains("&lt;b&gt;both"),
        "{report}"
    );
    assert!(!report.contains("<b>both</b>") && !report.contains("http://") && !report.contains("https://"));
    // a closed visit keeps what it was closed with
    let access = json!({"notes": {"switch": "left"}});
    shop.change(&format!("/api/banks/{bank}/access"), &access).await;
    shop.change(&format!("/api/banks/{bank}/house-rules"), &json!({"rules": "close_watch"})).await;
    let again = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert!(again.contains("Judged by Maker first"), "judged as on that day");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_browser_closing_the_same_visit_is_shown_what_stands() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    shop.said(&visit, "", json!({"kind": "note", "text": "left the gate open"})).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK, "the answer got lost");
    let (status, said) = shop.close_visit(&visit, 1, "phone").await;
    assert_eq!(status, StatusCode::PRECONDITION_FAILED);
    assert!(said["detail"].as_str().unwrap().starts_with("TA on desk closed this visit"), "{said}");
    assert_eq!(said["theirs"]["notes"][0]["text"], "left the gate open");
    let request = shop.request(Method::POST, &format!("/api/visits/{visit}/reopen"));
    let by = json!({});
    let (status, page) =
        crate::common::answer(request.header("if-match", "\"2\"").json(&by).send().await.unwrap()).await;
    assert_eq!((status, &page["closed"]), (StatusCode::OK, &Value::Null));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_step_left_out_needs_its_reason_and_the_report_says_it() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let skip =
        |reason: &str| json!({"kind": "step", "step": "rest_check", "state": "skipped", "reason": reason});
    let (status, said) = shop.say(&visit, "", skip(" ")).await;
    assert_eq!(
        (status, said["errors"][0]["field"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("reason"))
    );
    shop.said(&visit, "", skip("meter is flat")).await;
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert!(report.contains("Left out: rest check, because meter is flat"), "{report}");
}

#[tokio::test(flavor = "multi_thread")]
async fn photographs_are_kept_with_the_visit_shown_next_time_and_stand_in_the_report() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let found = json!({"kind": "checked", "check": "vent_path", "found": {"kind": "nest"}});
    shop.said(&visit, "", found).await;
    let (status, view) = shop.photo(&visit, "what=finding&subject=vent_path", photograph()).await;
    assert_eq!(status, StatusCode::CREATED, "{view}");
    let path = format!("/api/photos/{}", view["id"].as_str().unwrap());
    let bytes = shop.request(Method::GET, &path).send().await.unwrap().bytes().await.unwrap();
    assert!(bytes.starts_with(&[0xff, 0xd8]), "a JPEG");
    let (status, said) = shop.photo(&visit, "what=wiring", b"a text file named .jpg".to_vec()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("JPEG, PNG and WebP are taken"), "{said}");
    let half = photograph()[..9000].to_vec();
    let (_, said) = shop.photo(&visit, "what=wiring", half).await;
    assert!(said["detail"].as_str().unwrap().contains("damaged or cut off"), "{said}");
    let (_, said) = shop.photo(&visit, "what=wiring&place=C7", photograph()).await;
    assert!(said["detail"].as_str().unwrap().contains("C7"), "{said}");
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert_eq!(report.matches("data:image/jpeg;base64,").count(), 1);
    shop.close_visit(&visit, 1, "desk").await;
    let kept = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert_eq!(kept.matches("data:image/jpeg;base64,").count(), 1, "in the kept report too");
    let next = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{next}")).await;
    assert_eq!(page["photos_before"][0]["id"], view["id"]);
    assert_eq!(
        step(&page, "look_over")["checks"]
            .as_array()
            .unwrap()
            .iter()
            .find(|c| c["check"] == "vent_path")
            .unwrap()["open_before"][0]["said"],
        "nested in, nothing is noted as done, 8 Oct 2026"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn two_hundred_photographs_are_more_than_one_visit_takes_and_none_is_lost() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let small = {
        let picture =
            image::DynamicImage::ImageRgb8(image::RgbImage::from_pixel(8, 8, image::Rgb([9, 90, 200])));
        let mut out = std::io::Cursor::new(Vec::new());
        picture.write_to(&mut out, image::ImageFormat::Png).unwrap();
        out.into_inner()
    };
    let mut refused = 0;
    for _ in 0..200 {
        let (status, said) = shop.photo(&visit, "what=other", small.clone()).await;
        if status != StatusCode::CREATED {
            assert!(said["detail"].as_str().unwrap().contains("120 photographs"), "{said}");
            refused += 1;
        }
    }
    assert_eq!(refused, 80);
    assert_eq!(shop.get(&format!("/api/visits/{visit}")).await["photos"].as_array().unwrap().len(), 120);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_visit_outlives_a_server_that_is_killed() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    shop.said(&visit, "A1", json!({"kind": "battery_volts", "typed": "6.35"})).await;
    shop.said(&visit, "A1-1", json!({"kind": "level", "step": "low"})).await;
    let before = shop.get(&format!("/api/visits/{visit}")).await;
    let shop = Shop::open_in(shop.close().await).await;
    assert_eq!(shop.get(&format!("/api/visits/{visit}")).await, before);
}
