//! What was done about what was measured, and what was set anew at the chargers: on the visit, in its report, in
//! the history and on the next visit.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::visits::step;
use crate::common::{Shop, answer, jpeg};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

fn corrected(action: &str, note: &str) -> Value {
    json!({"kind": "corrected", "measurement": "rest_volts", "action": action, "note": note})
}

/// A visit on which A2 rests low.
async fn lagging(shop: &Shop, bank: &str) -> String {
    let visit = shop.visit(bank).await;
    shop.said(&visit, "", json!({"kind": "rested", "hours_since_charge": "30", "hours_since_load": "30"}))
        .await;
    for (place, typed) in [("A1", "6.37"), ("A2", "6.12")] {
        shop.said(&visit, place, json!({"kind": "battery_volts", "typed": typed})).await;
    }
    visit
}

#[tokio::test(flavor = "multi_thread")]
async fn a_battery_that_lags_is_charged_by_itself_and_all_three_are_told() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = lagging(&shop, &bank).await;
    let (status, said) = shop.say(&visit, "A2", corrected("other", " ")).await;
    assert_eq!((status, &said["errors"][0]["field"]), (StatusCode::UNPROCESSABLE_ENTITY, &json!("note")));
    shop.said(&visit, "A2", corrected("charged_by_itself", "five hours at 12 A")).await;
    let off = json!({"kind": "state_volts", "state": "just_off", "typed": "6.62"});
    shop.said(&visit, "A2", off).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let corrective = &step(&page, "rest_check")["corrective"];
    assert_eq!(
        corrective["done"][0]["said"],
        "Charged by itself: five hours at 12 A; 6.62 V just off charge after it"
    );
    assert_eq!(corrective["places"][0], json!({"place": "A2", "said": "battery A2"}), "what was found leads");
    let report = shop.report(&visit).await;
    let told = report.under("What was found").join(" ");
    assert!(
        told.contains("Battery A2 holds less charge than the others")
            && told.contains("Charged by itself: five hours at 12 A; 6.62 V just off charge after it."),
        "{told}"
    );
    let work = report.under("What was done").join(" ");
    assert!(!work.contains("Charged by itself"), "it stands with what was found: {work}");
    assert!(work.contains("6.62 V"), "{work}");
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    // it still asks until it is measured again
    assert_ne!(shop.get(&format!("/api/banks/{bank}")).await["condition"], "steady");
    let cell = shop.get(&format!("/api/banks/{bank}/cells/A2-1")).await;
    assert_eq!(
        cell["work"][0]["said"],
        "volts: charged by itself: five hours at 12 A; 6.62 V just off charge after it"
    );
    let next = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{next}")).await;
    let last = &step(&page, "rest_check")["corrective"]["last_time"];
    assert_eq!(
        last[0],
        "Battery A2, volts: charged by itself: five hours at 12 A; 6.62 V just off charge after it, 8 Oct 2026"
    );
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_done_without_a_finding_stands_in_the_report_and_a_wrong_entry_leaves_it() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    shop.said(&visit, "A1", corrected("taken_out", "")).await;
    let gravity =
        json!({"kind": "corrected", "measurement": "gravity", "action": "shielded", "note": "board put up"});
    shop.said(&visit, "", gravity).await;
    let work = shop.report(&visit).await.under("What was done").join("\n");
    assert!(
        work.contains("Battery A1, volts: taken out of its string; not read again on this visit"),
        "{work}"
    );
    assert!(
        work.contains(
            "gravity: shielded from cold or heat: board put up; its gravity tells at the next round"
        ),
        "{work}"
    );
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let entry = step(&page, "rest_check")["corrective"]["done"][0]["entry"].clone();
    shop.said(&visit, "", json!({"kind": "withdrawn", "entry": entry})).await;
    assert!(!shop.report(&visit).await.all().contains("taken out"));
}

async fn tell(shop: &Shop, bank: &str, version: i64, equipment: Value) {
    let request = shop.request(Method::PUT, &format!("/api/banks/{bank}/equipment"));
    let request = request.header("if-match", format!("\"{version}\"")).json(&json!({"equipment": equipment}));
    let (status, said) = answer(request.send().await.unwrap()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
}

fn charger(absorption: &str, hours: &str, set_anew: bool) -> Value {
    let own = json!({"kind": "shore_charger", "absorption": absorption, "absorption_hours": hours});
    json!({"charger": own, "set_anew": set_anew})
}

#[tokio::test(flavor = "multi_thread")]
async fn a_charger_that_is_set_anew_is_told_as_found_and_left_and_one_told_wrong_is_not() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    tell(&shop, &bank, 0, charger("14.9", "", false)).await;
    let visit = shop.visit(&bank).await;
    // what was only told otherwise, or more of it, is no work at the bank
    tell(&shop, &bank, 1, charger("14.1", "2", false)).await;
    let sources = |page: &Value| step(page, "look_over")["sources"].clone();
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(sources(&page)["told"], json!(["Shore charger: absorption 14.1 V, 2 h of absorption"]));
    assert_eq!(sources(&page)["set"], json!([]));
    assert!(!shop.report(&visit).await.all().contains("14.1 V"));
    // set in two presses: what was found is what stood there before the first
    tell(&shop, &bank, 2, charger("14.5", "2", true)).await;
    tell(&shop, &bank, 3, charger("14.7", "3.5", true)).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let set = [
        "The shore charger: absorption was found at 14.1 V and set to 14.7 V",
        "The shore charger: the hours of absorption were found at 2 h and set to 3.5 h",
    ];
    assert_eq!(sources(&page)["set"], json!(set));
    let work = shop.report(&visit).await.under("What was done");
    for line in set {
        assert!(work.iter().any(|own| own == line), "{line} in {work:?}");
    }
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    shop.clock.pass(3 * 24 * 3600);
    let next = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{next}")).await;
    assert_eq!(sources(&page)["set"], json!([]));
    assert_eq!(sources(&page)["before"][0], format!("{}, 8 Oct 2026", set[0]));
    // what cannot be is refused by its field, and nothing of it is kept
    let request = shop.request(Method::PUT, &format!("/api/banks/{bank}/equipment"));
    let odd = json!({"equipment": charger("14.7", "30", true)});
    let (status, said) = answer(request.header("if-match", "\"4\"").json(&odd).send().await.unwrap()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(said["errors"][0]["field"], "absorption_hours");
    assert!(said.to_string().contains("accepted is 0.1 to 24.0 h"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn each_finding_at_one_place_has_its_own_photograph_and_old_ones_are_shared() {
    let shop = Shop::open().await;
    let visit = shop.visit(&shop.bank().await).await;
    for kind in ["powder", "loose"] {
        let found = json!({"kind": "checked", "check": "terminals", "found": {"kind": kind}});
        shop.said(&visit, "A1", found).await;
    }
    for (subject, shade) in [("terminals%20powder", 40), ("terminals%20loose", 90), ("terminals", 140)] {
        let query = format!("what=finding&place=A1&subject={subject}");
        let (status, view) = shop.photo(&visit, &query, jpeg(64, 48, shade)).await;
        assert_eq!(status, StatusCode::CREATED, "{view}");
    }
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    assert_eq!(page["photos"].as_array().unwrap().len(), 3);
    let report = shop.text(&format!("/api/visits/{visit}/report")).await;
    let parts: Vec<&str> = report.split("class=\"finding\"").skip(1).collect();
    let figures: Vec<usize> = parts.iter().map(|part| part.matches("<figure").count()).collect();
    assert_eq!(figures, [2, 1], "the worse leads and shows what was taken of the whole check too");
}
