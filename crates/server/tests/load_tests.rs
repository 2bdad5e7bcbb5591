//! Load and capacity tests over HTTP: guided, timed by the machine, told in the visit, the report, the bank and what is
//! due.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, id};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn test(test: Value) -> Value {
    let mut entry = json!({"kind": "test"});
    entry["test"] = test;
    entry
}

fn plan(amperes: &str) -> Value {
    json!({"amperes": amperes, "temperature": {"typed": "20", "unit": "C"}, "proven_full": true, "every_minutes": "5"})
}

fn reading(volts: &str, amperes: &str) -> Value {
    test(json!({"test": "discharge_read", "volts": volts, "amperes": amperes}))
}

async fn tests(shop: &Shop, visit: &str) -> Value {
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    step(&page, "load_test")["tests"].clone()
}

/// Two strings of two twelve-volt AGM batteries.
async fn launch(shop: &Shop) -> String {
    shop.bank_of("agm-12v-100", 24, 2, 2).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_that_gives_way_is_told_everywhere_until_it_is_loaded_again() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let visit = shop.visit(&bank).await;
    let load = |before: &str, at_end: &str| {
        test(json!({"test": "short_load", "before": before, "at_end": at_end, "after": "12.4"}))
    };
    let (status, said) = shop.say(&visit, "A1", load("12.8", "11.4")).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("what loads the batteries"), "{said}");
    let set_up = json!({"test": "set_up", "load": "half_capacity", "seconds": "15", "charged": "100",
        "temperature": {"typed": "20", "unit": "C"}, "tester": "carbon pile"});
    shop.said(&visit, "", test(set_up)).await;
    assert_eq!(tests(&shop, &visit).await["set_up_said"], "Set 50 A for 15 s.");
    // the count goes on where it was when the page is loaded again
    shop.said(&visit, "A1", test(json!({"test": "load_on", "of": "short_load"}))).await;
    shop.clock.pass(9);
    let on = &tests(&shop, &visit).await["load_on"];
    assert_eq!((&on["place"], on["seconds"].as_f64().unwrap().round()), (&json!("A1"), 9.0));
    for (battery, at_end) in [("A1", "11.48"), ("A2", "11.46"), ("B1", "11.47"), ("B2", "10.86")] {
        shop.said(&visit, battery, load("12.8", at_end)).await;
    }
    let own = tests(&shop, &visit).await;
    assert!(own["load_on"].is_null(), "its volts are written down");
    assert_eq!(
        own["short_load_verdict"],
        "B2 falls further than the others or than before: a timed discharge tells how much it holds."
    );
    assert_eq!(own["findings"][0]["headline"], "B2 falls further under load than it should");
    let report = shop.report(&visit).await;
    assert!(
        report
            .under("What was found")
            .join(" ")
            .contains("Battery B2 gives way under load more than the others")
    );
    let done = report.under("What was done").join(" ");
    assert!(
        done.contains(
            "Four batteries loaded with 50 A for 15 seconds (carbon pile); the lowest, B2, held 10.86 V"
        ),
        "{done}"
    );
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["condition"], "watch");
    assert!(page["findings"].to_string().contains("B2 falls further under load"), "{}", page["findings"]);
    // loaded again, and sound
    let next = shop.visit(&bank).await;
    let again = json!({"test": "set_up", "load": "half_capacity", "seconds": "15"});
    shop.said(&next, "", test(again)).await;
    for battery in ["A1", "A2", "B1", "B2"] {
        shop.said(&next, battery, load("12.8", "11.46")).await;
    }
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert!(!page["findings"].to_string().contains("under load"), "{}", page["findings"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_discharge_goes_on_over_a_restart_and_on_another_device_and_is_owed_a_charge() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-8v-170", 48, 6, 1).await;
    let visit = shop.visit(&bank).await;
    shop.said(&visit, "", test(json!({"test": "discharge_begun", "plan": plan("56")}))).await;
    shop.clock.pass(60);
    shop.said(&visit, "", reading("48.5", "56")).await;
    shop.clock.pass(29 * 60);
    let shop = shop.restart().await;
    // somebody else, on a phone whose clock is wrong
    let entry = id();
    let path = format!("/api/visits/{visit}/entries/{entry}");
    let body = json!({"place": "", "what": reading("47.2", "56"), "taken_at": "2026-10-08T04:00:00Z"});
    assert_eq!(shop.put_by(("MO", "phone"), &path, &body).await.0, StatusCode::CREATED);
    // the same again, by an answer that was lost, is the same entry at the same time
    shop.clock.pass(120);
    assert_eq!(shop.put_by(("MO", "phone"), &path, &body).await.0, StatusCode::OK);
    let own = &tests(&shop, &visit).await["discharge"];
    assert_eq!(own["readings"].as_array().unwrap().len(), 2);
    assert_eq!(own["readings"][1]["at"], "30 min");
    assert!((own["elapsed_seconds"].as_f64().unwrap() - 1920.0).abs() < 1.0, "{own}");
    assert_eq!(own["phase"], "running");
    // a second device cannot begin another
    let (status, said) =
        shop.say(&visit, "", test(json!({"test": "discharge_begun", "plan": plan("56")}))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["detail"].as_str().unwrap().contains("A discharge is on"), "{said}");
    // nobody leaves while the load is on
    let (status, said) = shop.close_visit(&visit, 1, "desk").await;
    assert_eq!((status, &said["title"]), (StatusCode::CONFLICT, &json!("A discharge is on")));
    shop.said(&visit, "", test(json!({"test": "discharge_paused"}))).await;
    shop.clock.pass(600);
    shop.said(&visit, "", test(json!({"test": "discharge_resumed"}))).await;
    shop.clock.pass(44 * 60);
    shop.said(&visit, "", reading("41.9", "56")).await;
    let own = &tests(&shop, &visit).await["discharge"];
    assert_eq!(
        (&own["alarm"], &own["verdict"]),
        (&json!("stop"), &json!("The end voltage is reached: load off now, then press Stop."))
    );
    shop.said(&visit, "", test(json!({"test": "discharge_ended"}))).await;
    let own = tests(&shop, &visit).await["discharge"].clone();
    assert_eq!((&own["phase"], &own["condition"]), (&json!("ended"), &json!("watch")));
    assert!(own["doubts"].to_string().contains("10 min between"), "{}", own["doubts"]);
    let said = shop.report(&visit).await.under("What was done").join(" ");
    assert!(
        said.contains("Timed discharge of the bank: 1 h 1") && said.contains("% of the rated capacity"),
        "{said}"
    );
    let due = shop.get(&format!("/api/visits/{visit}")).await["due"].to_string();
    assert!(due.contains("Charge it fully") && due.contains("what stays empty sulfates"), "{due}");
    shop.said(&visit, "", json!({"kind": "done", "work": "charged_full"})).await;
    let due = shop.get(&format!("/api/visits/{visit}")).await["due"].to_string();
    assert!(!due.contains("Charge it fully"), "{due}");
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    // its own past on the next visit
    let next = shop.visit(&bank).await;
    let before = tests(&shop, &next).await["past_discharges"].clone();
    assert!(before[0]["said"].as_str().unwrap().ends_with("at 56.0 A, the bank"), "{before}");
    // and all of it travels
    let other = Shop::open().await;
    let file = shop.get(&format!("/api/banks/{bank}/export.json")).await;
    let (status, done) = other.send(Method::POST, "/api/import", &file).await;
    assert_eq!(status, StatusCode::OK, "{done}");
    let there = other.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(step(&there, "load_test")["tests"]["discharge"]["breakdown"], own["breakdown"]);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_surface_charge_is_burned_off_by_the_clock_of_the_machine() {
    let shop = Shop::open().await;
    let visit = shop.visit(&launch(&shop).await).await;
    let switched = |to: &str| test(json!({"test": "burn_off", "switched": to}));
    let (status, _) = shop.say(&visit, "", switched("load_off")).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    shop.said(&visit, "", switched("load_on")).await;
    shop.clock.pass(6 * 60);
    let own = tests(&shop, &visit).await["burn_off"].clone();
    assert_eq!(own["said"], "Long enough: load off, everything off, batteries isolated.");
    shop.said(&visit, "", switched("load_off")).await;
    shop.clock.pass(29 * 60);
    assert_eq!(tests(&shop, &visit).await["burn_off"]["off"], false);
    shop.clock.pass(61);
    assert_eq!(tests(&shop, &visit).await["burn_off"]["said"], "The surface charge is off: test now.");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_worn_pump_is_told_and_the_bank_stays_what_it_is() {
    let shop = Shop::open().await;
    let bank = launch(&shop).await;
    let visit = shop.visit(&bank).await;
    for battery in ["A1", "A2", "B1", "B2"] {
        shop.said(&visit, battery, json!({"kind": "battery_volts", "typed": "12.85"})).await;
    }
    let before = shop.get(&format!("/api/banks/{bank}")).await["condition"].clone();
    let real = json!({"test": "real_load", "before": "25.5", "at_five_minutes": "25.3", "amperes": "12",
        "loads": [{"name": "bilge pump", "amperes": "12", "plate": "6"}]});
    shop.said(&visit, "", test(real.clone())).await;
    let own = tests(&shop, &visit).await;
    assert_eq!(own["real_loads"][0]["condition"], "steady");
    assert_eq!(own["findings"][0]["headline"], "Bilge pump draws 2.0 times its plate");
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["condition"], before, "a worn pump is no fault of the bank");
    assert!(page["findings"].to_string().contains("Bilge pump"), "{}", page["findings"]);
    // bad input, by its field
    let mut odd = real;
    odd["at_five_minutes"] = json!("26.9");
    odd["loads"][0]["plate"] = json!("half");
    let (status, said) = shop.say(&visit, "", test(odd)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(said["errors"][0]["field"], "loads[0].plate", "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn every_figure_that_cannot_be_is_refused_by_its_field_and_nothing_is_written() {
    let shop = Shop::open().await;
    let visit = shop.visit(&launch(&shop).await).await;
    for (place, own, field) in [
        ("", json!({"test": "discharge_begun", "plan": {"amperes": "0"}}), "amperes"),
        ("", json!({"test": "discharge_begun", "plan": {"amperes": "-5"}}), "amperes"),
        (
            "",
            json!({"test": "discharge_begun", "plan": {"amperes": "20", "end_per_cell": "2.2"}}),
            "end_per_cell",
        ),
        (
            "",
            json!({"test": "discharge_begun", "plan": {"amperes": "20", "every_minutes": "0"}}),
            "every_minutes",
        ),
        ("", json!({"test": "discharge_read", "volts": "25"}), "what"),
        (
            "",
            json!({"test": "discharge_noted", "plan": {"amperes": ""}, "hours": "5:00", "reached_end": true}),
            "amperes",
        ),
        (
            "",
            json!({"test": "discharge_noted", "plan": {"amperes": "20"}, "hours": "long", "reached_end": true}),
            "hours",
        ),
        ("", json!({"test": "known_load", "load": "lamps", "when_new": "20", "now": "0"}), "now"),
        ("A1-1", json!({"test": "cell_volts", "when": "near_end", "typed": "12.6"}), "typed"),
        ("A1", json!({"test": "cell_volts", "when": "near_end", "typed": "1.8"}), "place"),
        ("", json!({"test": "set_up", "load": "half_cranking", "rating": "", "seconds": "900"}), "rating"),
    ] {
        let (status, said) = shop.say(&visit, place, test(own.clone())).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{own}: {said}");
        assert_eq!(said["errors"][0]["field"], field, "{own}: {said}");
    }
    let own = tests(&shop, &visit).await;
    assert!(own["discharge"].is_null() && own["cells"] == json!([]) && own["known_loads"] == json!([]));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_discharge_of_a_past_day_known_loads_and_cells_are_told_with_what_they_are_worth() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-8v-170", 48, 6, 1).await;
    let visit = shop.visit(&bank).await;
    let near_end = json!([{"battery": "A1", "volts": "7.02"}, {"battery": "A2", "volts": "7.03"},
        {"battery": "A3", "volts": "7.00"}, {"battery": "A4", "volts": "7.02"}, {"battery": "A5", "volts": "6.88"},
        {"battery": "A6", "volts": "7.04"}]);
    let noted = json!({"test": "discharge_noted", "plan": plan("56"), "hours": "1:16", "reached_end": true, "batteries": near_end});
    shop.said(&visit, "", test(noted)).await;
    shop.said(
        &visit,
        "",
        test(json!({"test": "known_load", "load": "fridge and lamps", "when_new": "20", "now": "15:30"})),
    )
    .await;
    for (cell, volts) in [("A5-1", "1.80"), ("A5-2", "1.81"), ("A5-3", "1.62"), ("A5-4", "1.80")] {
        shop.said(&visit, cell, test(json!({"test": "cell_volts", "when": "near_end", "typed": volts})))
            .await;
    }
    let own = tests(&shop, &visit).await;
    let found: Vec<&str> =
        own["findings"].as_array().unwrap().iter().map(|f| f["headline"].as_str().unwrap()).collect();
    assert!(found.contains(&"A5 gives out first"), "{found:?}");
    assert!(found.contains(&"A5-3 is under its mates near the end of a discharge"), "{found:?}");
    assert!(found.contains(&"The same load runs 78 % of the time it did when new"), "{found:?}");
    assert!(found.iter().any(|f| f.starts_with("The bank holds 6")), "{found:?}");
    assert_eq!(own["known_loads"][0]["said"], "Fridge and lamps: 15 h 30 min now, 20 h when new, 78 %.");
    // taken back, its findings go too
    let entry = own["discharge"]["entry"].as_str().unwrap().to_owned();
    shop.said(&visit, "", json!({"kind": "withdrawn", "entry": entry})).await;
    let left = tests(&shop, &visit).await;
    assert!(left["discharge"].is_null());
    assert!(!left["findings"].to_string().contains("gives out first"));
}
