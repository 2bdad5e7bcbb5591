//! The steps of a visit: each with what stands in it, told apart by its tag.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn tags(page: &Value) -> Vec<&str> {
    page["steps"].as_array().unwrap().iter().map(|s| s["step"].as_str().unwrap()).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn every_step_carries_what_stands_in_it_and_no_other() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(
        tags(&page),
        [
            "make_safe",
            "look_over",
            "rest_check",
            "round",
            "water",
            "equalize",
            "load_test",
            "joints",
            "close_up"
        ]
    );
    let own: [(&str, &[&str]); 9] = [
        ("make_safe", &[]),
        ("look_over", &["checks"]),
        ("rest_check", &["rest"]),
        ("round", &["rounds", "watered"]),
        ("water", &["water"]),
        ("equalize", &["wanted", "asked", "runs"]),
        ("load_test", &["tests"]),
        ("joints", &["joints"]),
        ("close_up", &["work", "closing", "round_open"]),
    ];
    for (name, fields) in own {
        let found = step(&page, name);
        for (of, others) in own {
            for field in others {
                assert_eq!(found.get(field).is_some(), of == name, "{name}: {field}");
            }
        }
        assert_eq!(fields.iter().filter(|f| found.get(**f).is_some()).count(), fields.len());
        assert!(found["name"].as_str().unwrap().starts_with(char::is_uppercase), "{name}");
        assert!(found["cautions"].is_array() && found["of"].is_u64(), "{name}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_bank_is_not_told_of_steps_it_does_not_have() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 1).await;
    let visit = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(tags(&page), ["make_safe", "look_over", "rest_check", "load_test", "joints", "close_up"]);
    let checks = step(&page, "look_over")["checks"].as_array().unwrap();
    assert!(checks.iter().all(|c| c["check"] != "caps"));
    let (status, said) =
        shop.say(&visit, "", json!({"kind": "step", "step": "ghost", "state": "done"})).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn how_far_a_step_is_follows_what_is_written_down() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let far = async |name: &str| {
        let page = shop.get(&format!("/api/visits/{visit}")).await;
        let found = step(&page, name);
        (found["done"].as_u64().unwrap(), found["of"].as_u64().unwrap())
    };
    assert_eq!(far("make_safe").await, (0, 4), "a 12 V bank does not pass 60 V");
    for caution in ["acid", "metal_off", "ventilated", "isolated"] {
        shop.said(&visit, "", json!({"kind": "confirmed", "caution": caution})).await;
    }
    assert_eq!(far("make_safe").await, (4, 4));
    shop.said(&visit, "A1", json!({"kind": "battery_volts", "typed": "6.34"})).await;
    assert_eq!(far("rest_check").await, (1, 2));
    shop.said(&visit, "", json!({"kind": "level", "step": "at_mark"})).await;
    assert_eq!(far("water").await, (6, 6), "the level of the bank is that of every cell");
    shop.said(&visit, "", json!({"kind": "closed", "item": "tools_counted"})).await;
    assert_eq!(far("close_up").await, (1, 8));
    // a step that is left out says why, and is taken up again
    let state = async || {
        let page = shop.get(&format!("/api/visits/{visit}")).await;
        let found = step(&page, "look_over");
        (found["state"].clone(), found["reason"].clone())
    };
    let say = |state: &str, reason: &str| json!({"kind": "step", "step": "look_over", "state": state, "reason": reason});
    let (status, said) = shop.say(&visit, "", say("skipped", "  ")).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("reason")));
    shop.said(&visit, "", say("skipped", "the lid is frozen shut")).await;
    assert_eq!(state().await, (json!("skipped"), json!("the lid is frozen shut")));
    shop.said(&visit, "", say("open", "")).await;
    assert_eq!(state().await, (Value::Null, json!("")));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_round_and_water_of_the_visit_stand_in_their_steps() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    let page = async || shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(step(&page().await, "round")["watered"], false);
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "270").await;
    let now = page().await;
    assert_eq!(step(&now, "round")["rounds"][0]["id"], json!(round));
    assert_eq!(
        (&step(&now, "round")["done"], &step(&now, "close_up")["round_open"]),
        (&json!(1), &json!(true))
    );
    let pour = json!({"kind": "water", "typed": "60", "unit": "millilitre", "to_mark": true});
    shop.said(&visit, "A1-1", pour).await;
    assert_eq!(step(&page().await, "round")["watered"], true);
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    assert_eq!(step(&page().await, "close_up")["round_open"], false);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_report_certifies_nothing_that_was_only_marked_as_done() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    for name in ["make_safe", "look_over", "rest_check", "water"] {
        shop.said(&visit, "", json!({"kind": "step", "step": name, "state": "done"})).await;
    }
    for (name, why) in [("round", "the hydrometer broke."), ("equalize", "no fuel")] {
        let left = json!({"kind": "step", "step": name, "state": "skipped", "reason": why});
        shop.said(&visit, "", left).await;
    }
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    for said in [
        "<h1>Nothing was measured or looked at on this visit.</h1>",
        "Making safe is marked as done; no precaution was confirmed",
        "The look-over is marked as done; nothing is written down as looked at",
        "The rest check is marked as done; no voltage was read",
        "Water is marked as done; no level was noted and no water went in",
        "Left out: round, because the hydrometer broke",
        "Left out: equalize, because no fuel",
    ] {
        assert!(report.contains(said), "{said}");
    }
    for never in ["Acid of", "in good order", "Everything that was looked at", "Voltage of", "Level of"] {
        assert!(!report.contains(never), "{never}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn the_report_tells_each_step_as_far_as_it_went() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    for caution in ["acid", "metal_off"] {
        shop.said(&visit, "", json!({"kind": "confirmed", "caution": caution})).await;
    }
    let rested = json!({"kind": "rested", "hours_since_charge": "26", "still_draws": "the alarm"});
    shop.said(&visit, "", rested).await;
    shop.said(&visit, "A1", json!({"kind": "battery_volts", "typed": "6.35"})).await;
    shop.said(&visit, "A1", json!({"kind": "level", "step": "at_mark"})).await;
    for check in ["case", "caps"] {
        shop.said(&visit, "", json!({"kind": "checked", "check": check})).await;
    }
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    for said in [
        "Made safe in part: 2 of 4 precautions were confirmed",
        "Looked at: case and caps; not looked at: top,",
        "Voltage of 1 of 2 batteries measured 26 hours after the charge ended, with this still drawing: the alarm",
        "Level of 3 of 6 cells looked at",
    ] {
        assert!(report.contains(said), "{said}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_instrument_named_by_its_kind_has_the_figures_of_its_kind() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let known = shop.get("/api/instruments").await;
    let of = |kind: &str| known.as_array().unwrap().iter().find(|i| i["kind"] == kind).unwrap().clone();
    // SG-7: a float read to its marks, a drop on a prism, an electronic meter that shows single points
    assert_eq!((&of("hydrometer")["resolution"], &of("digital")["resolution"]), (&json!(5.0), &json!(1.0)));
    assert_eq!(of("refractometer")["corrects_for_temperature"], true);
    let mut open = crate::common::opening(&bank);
    open["instrument"] = json!({"kind": "digital"});
    let round = id();
    let (status, said) = shop.put(&format!("/api/rounds/{round}"), &open).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    let file = {
        shop.read(&round, "A1-1", "270").await;
        shop.finish(&round, 1, "desk").await;
        shop.get(&format!("/api/rounds/{round}/export.json")).await
    };
    assert_eq!(file["instrument"], of("digital"));
    open["instrument"] = json!({"kind": "stick"});
    let (status, said) = shop.send(Method::PUT, &format!("/api/rounds/{}", id()), &open).await;
    assert_eq!(
        (status, &said["errors"][0]["field"]),
        (StatusCode::UNPROCESSABLE_ENTITY, &json!("instrument.kind"))
    );
}
