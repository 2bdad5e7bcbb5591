//! As found, done, as left: what a technician puts right on the visit that found it stays told.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use axum::http::StatusCode;
use serde_json::{Value, json};

fn found(kind: &str, note: &str) -> Value {
    json!({"kind": "checked", "check": "terminals", "found": {"kind": kind, "note": note}})
}

fn repaired(kind: &str, more: &Value) -> Value {
    let mut body = json!({"kind": "repaired", "check": "terminals", "found": kind, "repair": "cleaned", "left": "put_right"});
    for (key, value) in more.as_object().unwrap() {
        body[key] = value.clone();
    }
    body
}

fn terminals(page: &Value) -> Value {
    let steps = page["steps"].as_array().unwrap();
    let look = steps.iter().find(|s| s["step"] == "look_over").unwrap();
    look["checks"].as_array().unwrap().iter().find(|c| c["check"] == "terminals").unwrap().clone()
}

/// A corroded link, remade on the visit that found it; powder beside it that was only brushed off.
#[tokio::test(flavor = "multi_thread")]
async fn a_corroded_link_is_found_remade_and_told_on_this_visit_and_the_next() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "A2", found("green", "link to A1")).await;
    shop.said(&visit, "A2", found("powder", "")).await;
    let wrench = json!({"repair": "remade", "torque": "8", "torque_unit": "pound_foot", "part": "new lug, 35 mm\u{b2}"});
    shop.said(&visit, "A2", repaired("green", &wrench)).await;
    shop.said(&visit, "A2", repaired("powder", &json!({"left": "better", "note": "cover missing."}))).await;
    let seen = terminals(&shop.get(&format!("/api/visits/{visit}")).await);
    assert_eq!(seen["looks"].as_array().unwrap().len(), 2, "two things at one place both stay");
    assert_eq!(seen["looks"][0]["left"], "put_right");
    assert_eq!(
        seen["looks"][0]["repairs"][0]["said"],
        "remade, torque 10.8 N\u{b7}m (8.0 lbf\u{b7}ft), new lug, 35 mm\u{b2}"
    );
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    for said in [
        "<h1>Your batteries are in working order, with something to keep an eye on.</h1>",
        "Battery A2, terminals: green copper. Link to A1. Remade, torque 10.8 N\u{b7}m (8.0 lbf\u{b7}ft), new lug, 35 mm\u{b2}. It was left in order.",
        "Battery A2, terminals: white powder. Cleaned: cover missing. It is better now, and not yet in order.",
    ] {
        assert!(report.contains(said), "{said} in {report}");
    }
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["condition"], "watch", "the powder is open, the link is not");
    assert!(page["visits"].to_string().contains("two things found, one put right"), "{}", page["visits"]);
    // the next visit is told what was done, and what is still open
    let next = shop.visit(&bank).await;
    let seen = terminals(&shop.get(&format!("/api/visits/{next}")).await);
    let said = "A2: green copper; remade, torque 10.8 N\u{b7}m (8.0 lbf\u{b7}ft), new lug, 35 mm\u{b2}; put right, 8 Oct 2026";
    assert_eq!(seen["last_time"], json!([said]));
    let open = &seen["open_before"];
    assert_eq!((open.as_array().unwrap().len(), &open[0]["kind"]), (1, &json!("powder")));
    // put right there without being found again
    shop.said(&next, "A2", repaired("powder", &json!({"part": "cover"}))).await;
    let seen = terminals(&shop.get(&format!("/api/visits/{next}")).await);
    assert_eq!(seen["open_before"][0]["repairs"][0]["said"], "cleaned, cover");
    let report = shop.text(&format!("/api/visits/{next}/report")).await;
    let told = "Battery A2, terminals: white powder, from before. Cleaned, cover. It was left in order.";
    assert!(report.contains(told), "{report}");
    assert_eq!(shop.close_visit(&next, 1, "desk").await.0, StatusCode::OK);
    assert_ne!(shop.get(&format!("/api/banks/{bank}")).await["condition"], "watch");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wrong_entry_is_taken_back_and_a_repair_with_it_stands_alone() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    shop.said(&visit, "A1", found("loose", "")).await;
    let seen = terminals(&shop.get(&format!("/api/visits/{visit}")).await);
    shop.said(&visit, "", json!({"kind": "withdrawn", "entry": seen["looks"][0]["entry"]})).await;
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    assert!(!report.contains("loose"), "what was never there is not told");
    assert!(report.contains("Nothing was measured or looked at on this visit."));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_needs_something_done_and_is_left_as_it_is_still_needs_it_in_the_report() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "A1", found("loose", "")).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let next = shop.visit(&bank).await;
    let left = json!({"repair": "left_as_it_is", "left": "as_found", "note": "no spanner"});
    shop.said(&next, "A1", repaired("loose", &left)).await;
    let report = shop.text(&format!("/api/visits/{next}/report")).await;
    assert!(report.contains("<h1>Your batteries need something done soon.</h1>"), "{report}");
}

#[tokio::test(flavor = "multi_thread")]
async fn plates_that_were_covered_stay_told_and_are_never_called_good_order_alone() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    shop.said(&visit, "A2-1", json!({"kind": "level", "step": "plates_bare"})).await;
    let water = json!({"kind": "water", "typed": "180", "unit": "millilitre", "to_mark": true});
    shop.said(&visit, "A2", water).await;
    shop.said(&visit, "A2-1", json!({"kind": "level", "step": "at_mark"})).await;
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    let told =
        "The plates of A2-1 stood dry. They were covered on this visit. Plates that dry out do not recover.";
    assert!(report.contains(told), "{report}");
    assert!(!report.contains("in good order") && !report.contains("Nothing is noted yet"));
    assert!(report.contains("of distilled water added"), "{report}");
}

#[tokio::test(flavor = "multi_thread")]
async fn cells_left_at_the_plates_are_told_on_the_page_in_the_list_and_in_the_report() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "A1-3", json!({"kind": "level", "step": "at_plates"})).await;
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    let told = "The water of A1-3 stands at the plates. It has to be filled up before the plates run dry.";
    assert!(report.contains(told) && !report.contains("in good order"), "{report}");
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["condition"], "act", "{page}");
    assert!(page["verdict"].as_str().unwrap().starts_with("Levels of A1-3 stand at the plates."), "{page}");
    assert_eq!(shop.get("/api/banks").await[0]["condition"], "act");
    let today = shop.get("/api/today").await;
    let due =
        today["items"].as_array().unwrap().iter().find(|i| i["task"] == "cover_plates").unwrap().clone();
    assert_eq!(due["said"]["title"], "Charge fully, then fill A1-3");
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_open_and_is_looked_at_again_is_told_as_answered() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "A1", found("powder", "")).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let next = shop.visit(&bank).await;
    shop.said(&next, "A1", json!({"kind": "checked", "check": "terminals"})).await;
    let report = shop.text(&format!("/api/visits/{next}/report")).await;
    let told = "A1, terminals: white powder, from before: looked at again, in order.";
    assert!(report.contains(told), "{report}");
}

#[tokio::test(flavor = "multi_thread")]
async fn repairs_that_cannot_be_are_refused_at_their_field() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    for (more, field, part) in [
        (json!({"repair": "tightened", "torque": "900"}), "torque", "accepted is 0.5 to 60.0 N\u{b7}m"),
        (
            json!({"repair": "tightened", "torque": "90", "torque_unit": "pound_foot"}),
            "torque",
            "accepted is 0.4 to 44.3 lbf\u{b7}ft",
        ),
        (json!({"torque": "11"}), "torque", "where a joint is tightened"),
        (json!({"repair": "left_as_it_is"}), "left", "nothing was done about it"),
        (json!({"found": "moss"}), "found", "accepted is powder"),
    ] {
        let (status, said) = shop.say(&visit, "A1", repaired("loose", &more)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        let error = &said["errors"][0];
        assert_eq!(error["field"], field, "{said}");
        let message = error["message"].as_str().unwrap().to_lowercase();
        assert!(message.contains(&part.to_lowercase()), "{message}");
    }
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(terminals(&page)["looks"], json!([]), "nothing was kept");
}

/// What a bank is without is neither fine nor missing, and the next visit is told.
#[tokio::test(flavor = "multi_thread")]
async fn what_is_not_there_is_told_as_such_in_the_report_and_at_the_next_visit() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    for check in ["sensor", "tray"] {
        shop.said(&visit, "", json!({"kind": "not_here", "check": check})).await;
    }
    shop.said(&visit, "", json!({"kind": "checked", "check": "case"})).await;
    let (status, said) = shop.say(&visit, "", json!({"kind": "not_here", "check": "terminals"})).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("check")));
    let report = shop.report(&visit).await;
    let done = report.under("What was done");
    assert!(
        done[0].starts_with(
            "Looked at: case; none here: temperature sensor and volts from post to tray; not looked at: top,"
        ),
        "{done:?}"
    );
    assert_eq!(
        report.verdict(),
        "Nothing that was looked at or measured asks for anything; not all of it was."
    );
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let next = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{next}")).await;
    let checks = crate::common::visits::step(&page, "look_over")["checks"].clone();
    let of = |name: &str| checks.as_array().unwrap().iter().find(|c| c["check"] == name).unwrap().clone();
    assert_eq!((&of("sensor")["none_before"], &of("case")["none_before"]), (&json!(true), &json!(false)));
    // found after all, it is there
    shop.said(&next, "", json!({"kind": "not_here", "check": "sensor"})).await;
    let off = json!({"kind": "checked", "check": "sensor", "found": {"kind": "off"}});
    shop.said(&next, "", off).await;
    assert!(!shop.report(&next).await.says("none here"));
}

/// A sealed battery that somebody opened, with its warning; nobody is told to fill or to open it.
#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_battery_that_was_opened_is_found_and_the_report_warns() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 12, 1, 2).await;
    let visit = shop.visit(&bank).await;
    let opened = json!({"kind": "checked", "check": "seal", "found": {"kind": "refilled", "note": "tap water, by the owner"}});
    shop.said(&visit, "B1", opened).await;
    let left = json!({"kind": "repaired", "check": "seal", "found": "refilled", "repair": "left_as_it_is", "left": "as_found", "note": "not touched"});
    shop.said(&visit, "B1", left).await;
    let report = shop.report(&visit).await;
    assert_eq!(report.verdict(), "Your batteries need something done soon.");
    let found = report.under("What was found").join(" ");
    for said in [
        "Battery B1, lid and valves: refilled by somebody. Tap water, by the owner.",
        "It is not opened again and not filled; its capacity is unproven",
    ] {
        assert!(found.contains(said), "{said} in {found}");
    }
    // a bank with caps has no lid that stays shut
    let flooded = shop.visit(&shop.bank().await).await;
    let (status, said) = shop.say(&flooded, "A1", json!({"kind": "checked", "check": "seal"})).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("check")));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_torque_stands_beside_the_one_that_the_model_asks_for() {
    let shop = Shop::open().await;
    let model = id();
    let mut own = shop.get("/api/models").await[0]["typed"].clone();
    own["name"] = json!("Bluff 6 V");
    own["source"] = json!("label");
    own["post_torque"] = json!("8");
    own["torque_unit"] = json!("pound_foot");
    let (status, said) = shop.put(&format!("/api/models/{model}"), &own).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    own["post_torque"] = json!("900");
    let (_, said) = shop.put(&format!("/api/models/{}", id()), &own).await;
    assert_eq!(said["errors"][0]["field"], "post_torque", "{said}");
    assert!(said.to_string().contains("lbf·ft"), "in the unit that was typed: {said}");

    let bank = shop.bank_of(&model, 12, 2, 1).await;
    let visit = shop.visit(&bank).await;
    let powder = json!({"kind": "checked", "check": "terminals",
        "found": {"kind": "powder", "severity": "watch", "note": ""}});
    shop.said(&visit, "A1", powder).await;
    let remade = json!({"kind": "repaired", "check": "terminals", "found": "powder", "repair": "remade",
        "left": "put_right", "torque": "9", "torque_unit": "pound_foot", "agent": "bicarbonate",
        "coating": "grease", "lock_nuts": true});
    shop.said(&visit, "A1", remade).await;
    let report = shop.report(&visit).await;
    let found = report.under("What was found").join(" ");
    assert!(
        found.contains("Remade, torque 12.2 N·m (9.0 lbf·ft), the model asks for 10.8 N·m (8.0 lbf·ft), with bicarbonate, coated with grease, lock nuts on."),
        "{found}"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn the_history_of_a_battery_tells_what_was_found_and_done_there() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = shop.visit(&bank).await;
    for battery in ["A1", "A2"] {
        let seen = json!({"kind": "checked", "check": "terminals",
            "found": {"kind": "powder", "severity": "watch", "note": ""}});
        shop.said(&visit, battery, seen).await;
    }
    let cleaned = json!({"kind": "repaired", "check": "terminals", "found": "powder", "repair": "cleaned",
        "left": "put_right", "agent": "bicarbonate"});
    shop.said(&visit, "A1", cleaned.clone()).await;
    shop.close_visit(&visit, 1, "desk").await;
    shop.clock.pass(10 * 86_400);
    let later = shop.visit(&bank).await;
    shop.said(&later, "A2", cleaned).await;
    let work = async |cell: &str| shop.get(&format!("/api/banks/{bank}/cells/{cell}")).await["work"].clone();
    assert_eq!(
        work("A1-2").await,
        json!([{"day": "8 Oct 2026", "said": "terminals: white powder; cleaned, with bicarbonate; put right"}])
    );
    assert_eq!(
        work("A2-1").await,
        json!([
            {"day": "18 Oct 2026", "said": "terminals: white powder, from before; cleaned, with bicarbonate; put right"},
            {"day": "8 Oct 2026", "said": "terminals: white powder, nothing is noted as done"},
        ])
    );
}
