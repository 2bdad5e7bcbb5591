//! Service calls written down whole: everything that is typed stands in the report, and nothing else.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use axum::http::StatusCode;
use serde_json::{Value, json};

fn volts(state: &str, typed: &str, more: &Value) -> Value {
    let mut body = json!({"kind": "state_volts", "state": state, "typed": typed});
    for (key, value) in more.as_object().unwrap() {
        body[key] = value.clone();
    }
    body
}

async fn page(shop: &Shop, visit: &str) -> Value {
    shop.get(&format!("/api/visits/{visit}")).await
}

fn rest(page: &Value) -> Value {
    crate::common::visits::step(page, "rest_check")["rest"].clone()
}

async fn item(shop: &Shop, task: &str) -> Option<Value> {
    let today = shop.get("/api/today").await;
    today["items"].as_array().unwrap().iter().find(|i| i["task"] == task).cloned()
}

/// Start of the season: three sealed batteries side by side, charged on the visit, read again after a day.
#[tokio::test(flavor = "multi_thread")]
async fn at_the_start_of_the_season_a_charge_is_held_for_a_day_and_read_again() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 12, 1, 3).await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "", volts("at_rest", "12.31", &json!({"hours": "200"}))).await;
    shop.said(&visit, "", volts("on_charge", "14.3", &json!({"amperes": "18", "note": "shore charger"})))
        .await;
    shop.said(&visit, "", volts("just_off", "13.1", &json!({}))).await;
    shop.said(&visit, "", json!({"kind": "done", "work": "charged_full", "note": "from shore, 7 h"})).await;
    // a day later its volts tell whether it holds: that is offered, and put on the list
    let offered = page(&shop, &visit).await["rechecks"]["wanted"].clone();
    assert_eq!(offered[0]["when"], "in 24 hours, 9 Oct");
    assert!(offered[0]["why"].as_str().unwrap().contains("HD-1"), "{offered}");
    let wish = json!({"kind": "recheck", "step": "rest_check", "hours": "24", "reason": "holds it?"});
    shop.said(&visit, "", wish).await;
    let now = page(&shop, &visit).await;
    assert_eq!(now["rechecks"]["wanted"], json!([]));
    assert_eq!(now["rechecks"]["asked"][0]["day"], "9 Oct 2026");
    let report = shop.report(&visit).await;
    assert_eq!(
        report.under("What was done"),
        [
            "Voltage of the bank measured at rest for 8 days: 12.31 V",
            "Voltage of the bank measured on charge (shore charger, 18 A): 14.30 V",
            "Voltage of the bank measured just off charge: 13.10 V",
            "Charged full (from shore, 7 h)",
        ],
        "{}",
        report.all()
    );
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);

    // it stands on Today as a kind of its own, with the one step it takes
    let due = item(&shop, "recheck").await.unwrap();
    assert_eq!((&due["said"]["title"], &due["only"]), (&json!("Read the volts again"), &json!("rest_check")));
    assert_eq!(due["said"]["why"], "The visit of 8 Oct asked for it. Holds it?");
    // too early it is told so, and stays due
    let early = shop.short_visit(&bank, "rest_check").await;
    let told = page(&shop, &early).await;
    assert!(told["rechecks"]["early"].as_str().unwrap().contains("9 Oct 2026"), "{told}");
    let steps: Vec<&str> =
        told["steps"].as_array().unwrap().iter().map(|s| s["step"].as_str().unwrap()).collect();
    assert_eq!(steps, ["make_safe", "rest_check", "close_up"]);
    shop.said(&early, "", volts("at_rest", "12.9", &json!({"hours": "2"}))).await;
    let report = shop.report(&early).await;
    assert!(!report.says("Looked at:") && !report.says("not looked at"), "{}", report.all());
    assert_eq!(shop.close_visit(&early, 1, "desk").await.0, StatusCode::OK);
    assert!(item(&shop, "recheck").await.is_some());

    shop.clock.pass(25 * 3600);
    let second = shop.short_visit(&bank, "rest_check").await;
    let rested = json!({"kind": "rested", "hours_since_charge": "25", "hours_since_load": "25",
        "charged_full": true, "disconnected": true});
    shop.said(&second, "", rested).await;
    for (battery, typed) in [("A1", "12.84"), ("B1", "12.81"), ("C1", "12.49")] {
        shop.said(&second, battery, json!({"kind": "battery_volts", "typed": typed})).await;
    }
    let told = rest(&page(&shop, &second).await);
    assert_eq!(told["verdict"], "C1 does not hold its charge.");
    let report = shop.report(&second).await;
    assert_eq!(report.verdict(), "Your batteries need something done soon.");
    let found = report.under("What was found");
    assert!(
        found.iter().any(|said| said
            == "Needs something done. Battery C1 does not hold its charge: it lost too much while it stood by itself. It has to be tested."),
        "{found:?}"
    );
    assert_eq!(shop.close_visit(&second, 1, "desk").await.0, StatusCode::OK);
    assert!(item(&shop, "recheck").await.is_none(), "it is answered");
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["condition"], "act");
}

/// A boat bank that nobody knows: read with a small load, by batteries and as a whole, beside the last time.
#[tokio::test(flavor = "multi_thread")]
async fn small_load_volts_stand_beside_those_of_the_last_visit() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 12, 2, 2).await;
    let visit = shop.visit(&bank).await;
    let (status, asked) =
        shop.say(&visit, "", volts("small_load", "13.4", &json!({"note": "cabin lamps"}))).await;
    assert_eq!((status, &asked["saved"]), (StatusCode::OK, &json!(false)), "{asked}");
    assert!(asked["question"].as_str().unwrap().contains("with a small load (10.8 to 13.2 V)"), "{asked}");
    shop.said(&visit, "", volts("small_load", "12.4", &json!({"note": "cabin lamps", "amperes": "3"}))).await;
    shop.said(&visit, "A", volts("small_load", "12.42", &json!({}))).await;
    shop.said(&visit, "B2", volts("small_load", "6.11", &json!({}))).await;
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);

    shop.clock.pass(12 * 24 * 3600);
    let next = shop.visit(&bank).await;
    shop.said(&next, "", volts("at_rest", "12.6", &json!({}))).await;
    shop.said(&next, "", volts("small_load", "12.1", &json!({"note": "cabin lamps"}))).await;
    let lines = rest(&page(&shop, &next).await)["by_state"].clone();
    assert_eq!(lines[0]["state"], "At rest; for how long is not noted");
    assert_eq!(lines[0]["before"], Value::Null);
    assert_eq!(lines[1]["before"], "12.40 on 8 Oct");
    assert_eq!(lines[1]["tells"], "0.50 V under what it showed without the load");
    let report = shop.report(&next).await;
    assert_eq!(
        report.under("What was done"),
        [
            "Voltage of the bank measured at rest; for how long is not noted: 12.60 V",
            "Voltage of the bank measured with a small load (cabin lamps): 12.10 V",
        ]
    );
    // a slip is taken back and leaves nothing behind
    let slip = lines[1]["entry"].clone();
    shop.said(&next, "", json!({"kind": "withdrawn", "entry": slip})).await;
    assert!(!shop.report(&next).await.says("12.10 V"));
}

#[tokio::test(flavor = "multi_thread")]
async fn what_cannot_be_read_or_rechecked_is_refused_at_its_field() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 12, 1, 2).await;
    let visit = shop.visit(&bank).await;
    for (place, what, field, part) in [
        ("", volts("on_charge", "56", &json!({})), "typed", "more than 6 cells can show"),
        ("", volts("at_rest", "12.6", &json!({"hours": "-3"})), "hours", "accepted is 0 to 8760 h"),
        (
            "",
            volts("small_load", "12.2", &json!({"amperes": "many"})),
            "amperes",
            "accepted as 0.0 to 5000.0 A",
        ),
        ("A1-2", volts("at_rest", "2.1", &json!({})), "place", "a battery, a string or the bank"),
        (
            "",
            json!({"kind": "recheck", "step": "rest_check", "hours": "0"}),
            "hours",
            "accepted is 1 to 744 h",
        ),
        ("", json!({"kind": "recheck", "step": "water", "hours": "24"}), "step", "sealed"),
        ("", json!({"kind": "only", "step": "round"}), "step", "sealed"),
    ] {
        let (status, said) = shop.say(&visit, place, what).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        let fault = &said["errors"][0];
        assert_eq!(fault["field"], field, "{said}");
        assert!(fault["message"].as_str().unwrap().contains(part), "{said}");
    }
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    // a short visit for what the bank does not have is refused as a whole: no visit stands
    let (status, said) = shop
        .put(&format!("/api/visits/{}", crate::common::id()), &json!({"bank": bank, "only": "water"}))
        .await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
    assert_eq!(shop.get(&format!("/api/banks/{bank}")).await["open_visit"], Value::Null);
    // one in which nothing was written down is thrown away as any other
    let short = shop.short_visit(&bank, "rest_check").await;
    let (status, said) =
        shop.send(reqwest::Method::DELETE, &format!("/api/visits/{short}"), &json!({})).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
}

/// A paper sheet of an earlier day, between two rounds: it stands at its day, and the round after it is judged anew.
#[tokio::test(flavor = "multi_thread")]
async fn a_visit_from_a_paper_sheet_stands_at_its_day_and_says_when_it_was_written_down() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = crate::common::id();
    let body = json!({"bank": bank, "day": "2026-09-20"});
    assert_eq!(shop.put(&format!("/api/visits/{visit}"), &body).await.0, StatusCode::CREATED);
    let now = page(&shop, &visit).await;
    assert_eq!((&now["past"], &now["day"]), (&json!(true), &json!("20 Sep 2026")));
    let round = shop.round(&bank).await;
    for (cell, typed) in [
        ("A1-1", "1265"),
        ("A1-2", "1260"),
        ("A1-3", "1265"),
        ("A2-1", "1265"),
        ("A2-2", "1260"),
        ("A2-3", "1260"),
    ] {
        assert_eq!(shop.read(&round, cell, typed).await.0, StatusCode::CREATED);
    }
    assert_eq!(shop.finish(&round, 1, "desk").await.0, StatusCode::OK);
    shop.said(&visit, "", json!({"kind": "level", "step": "low"})).await;
    shop.said(&visit, "", json!({"kind": "water", "typed": "600", "unit": "millilitre", "to_mark": true}))
        .await;
    let history = shop.get(&format!("/api/banks/{bank}")).await["history"].clone();
    assert_eq!(history[0]["day"], "20 Sep 2026", "the round is of the day of the visit: {history}");
    let report = shop.report(&visit).await;
    assert!(
        report.place().ends_with("visit of 20 Sep 2026 by TA, written down on 8 Oct 2026"),
        "{}",
        report.place()
    );
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    assert!(shop.get(&format!("/api/banks/{bank}")).await["visits"][0]["day"] == "20 Sep 2026");
    // a visit of today is no past visit
    let today = shop.visit(&bank).await;
    assert_eq!(page(&shop, &today).await["past"], false);
}

/// Half-yearly top-up of a large bank: 76 L by a kit that was just fitted, cells looked into, a spill, a litres log.
#[tokio::test(flavor = "multi_thread")]
async fn a_large_bank_is_topped_up_and_the_kit_that_was_fitted_is_told() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-225", 48, 8, 2).await;
    let first = shop.visit(&bank).await;
    let by_hand = json!({"kind": "water", "typed": "", "to_mark": true,
        "poured": {"amount": "unknown", "how": "jug"}});
    shop.said(&first, "", by_hand).await;
    let report = shop.report(&first).await;
    assert!(report.says("Distilled water added up to the mark, by jug; the amount was not measured"));
    assert_eq!(report.verdict(), "Work was done on your batteries; nothing was measured or looked at.");
    assert_eq!(report.under("What was found"), ["Nothing was looked at or measured."]);
    assert!(!report.says("Nothing is noted yet") && !report.says(" 0 mL"), "{}", report.all());
    assert_eq!(shop.close_visit(&first, 1, "desk").await.0, StatusCode::OK);

    shop.clock.pass(182 * 24 * 3600);
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "A1", json!({"kind": "lamp", "lamp": "off"})).await;
    shop.said(&visit, "A1-1", json!({"kind": "level", "step": "at_plates"})).await;
    shop.said(&visit, "A1-2", json!({"kind": "level", "step": "at_mark"})).await;
    let kit = json!({"kind": "water", "typed": "7.6", "unit": "litre", "to_mark": true,
        "poured": {"how": "watering_kit", "flow_stopped": true}});
    shop.said(&visit, "", kit).await;
    let cups =
        json!({"kind": "water", "typed": "1,5", "unit": "us_cup", "to_mark": true, "poured": {"how": "jug"}});
    shop.said(&visit, "B4", cups).await;
    let spilled = json!({"kind": "spilled", "spill": "spilled", "typed": "2", "unit": "us_ounce", "note": "made harmless with soda"});
    shop.said(&visit, "B4-2", spilled).await;
    shop.said(&visit, "", json!({"kind": "done", "work": "cells_inspected"})).await;
    let report = shop.report(&visit).await;
    assert_eq!(
        report.under("What was done"),
        [
            "Level of 2 of 48 cells looked at",
            "8.0 L of distilled water added up to the mark, by jug and watering kit",
            "Level lamp of A1 off: its probe stands dry, or has no power",
            "59 mL of electrolyte spilled at B4-2 (made harmless with soda)",
            "Every cell behind the watering kit looked into",
        ],
        "{}",
        report.all()
    );
    let water = report.under("Water").join(" ");
    for said in [
        "8.0 L of distilled water went in to bring every cell to its mark.",
        "The last fill was 182 days ago, its amount was not measured.",
        "The levels were uneven when first looked at: A1-1 stood",
    ] {
        assert!(water.contains(said), "{said} in {water}");
    }
    // who measures in gallons is told of gallons
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let entries = crate::common::visits::step(&page, "water")["water"]["entries"].clone();
    assert_eq!(
        entries[1]["said"],
        "the bank: 7.6 L to the mark, by watering kit, the flow indicator stopped"
    );
    assert_eq!(entries[2]["said"], "B4: 355 mL to the mark, by jug (1,5 US cups)");
    let listed = shop.get(&format!("/api/banks/{bank}")).await["visits"][0]["done"].clone();
    assert_eq!(listed, "every cell behind the watering kit looked into, watered, levels looked at");
}

#[tokio::test(flavor = "multi_thread")]
async fn water_that_cannot_be_is_refused_at_its_field() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    let unknown = json!({"amount": "unknown"});
    for (what, field, part) in [
        (
            json!({"kind": "water", "typed": "3", "to_mark": true, "poured": unknown}),
            "typed",
            "leave it empty",
        ),
        (
            json!({"kind": "water", "typed": "", "to_mark": false, "poured": unknown}),
            "to_mark",
            "to the mark",
        ),
        (json!({"kind": "water", "typed": "", "to_mark": true}), "typed", "Water is empty"),
        (
            json!({"kind": "spilled", "spill": "drawn_off", "typed": "900", "unit": "us_cup"}),
            "typed",
            "can hold in all",
        ),
    ] {
        let (status, said) = shop.say(&visit, "A1-1", what).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        assert_eq!(said["errors"][0]["field"], field, "{said}");
        assert!(said["errors"][0]["message"].as_str().unwrap().contains(part), "{said}");
    }
}
