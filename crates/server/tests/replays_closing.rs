//! Service calls that end in storage or on standby, written down whole: the report says how the bank was left.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use crate::common::visits::step;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn described(shop: &Shop, bank: &str, more: &Value) {
    let version = shop.get(&format!("/api/banks/{bank}")).await["bank"]["version"].clone();
    let mut body = json!({"site_name": "High Pasture hut", "zone": "UTC", "layout": {"rows_per_string": 1}});
    for (key, value) in more.as_object().unwrap() {
        body[key] = value.clone();
    }
    let request = shop.request(Method::POST, &format!("/api/banks/{bank}/description"));
    let request = request.header("if-match", format!("\"{version}\"")).json(&body);
    let (status, said) = crate::common::answer(request.send().await.unwrap()).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{said}");
}

async fn closing(shop: &Shop, visit: &str) -> Value {
    step(&shop.get(&format!("/api/visits/{visit}")).await, "close_up").clone()
}

fn items(step: &Value) -> Vec<String> {
    step["closing"].as_array().unwrap().iter().map(|c| c["item"].as_str().unwrap().to_owned()).collect()
}

async fn titles(shop: &Shop, bank: &str) -> Vec<String> {
    let due = shop.get(&format!("/api/banks/{bank}")).await["due"].clone();
    due.as_array().unwrap().iter().map(|d| d["title"].as_str().unwrap().to_owned()).collect()
}

/// A hut that closes for the winter: charged, filled, disconnected.
#[tokio::test(flavor = "multi_thread")]
async fn a_seasonal_bank_is_closed_down_for_the_winter() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-370", 24, 4, 2).await;
    described(&shop, &bank, &json!({"season_opens": "05-15", "season_closes": "10-18"})).await;
    assert!(titles(&shop, &bank).await.contains(&"Charge full before the season closes".to_owned()));
    let visit = shop.visit(&bank).await;
    let step = closing(&shop, &visit).await;
    assert_eq!(
        (&step["left_as"], &step["season_wanted"]),
        (&json!("stored"), &json!(false)),
        "ten days before"
    );
    let asked = items(&step);
    assert!(!asked.contains(&"switch_on".to_owned()) && asked.contains(&"full_for_storage".to_owned()));
    shop.said(&visit, "", json!({"kind": "water", "typed": "3.2", "unit": "litre", "to_mark": true})).await;
    shop.said(&visit, "", json!({"kind": "left_as", "how": "stored"})).await;
    for item in &asked {
        shop.said(&visit, "", json!({"kind": "closed", "item": item})).await;
    }
    let report = shop.report(&visit).await;
    let done = report.under("What was done");
    let left = "Left in storage: charged full before it is stored; levels put right for the months to come; \
                nothing draws, equipment in standby neither; disconnects left as wanted; \
                charger or maintainer left as wanted";
    assert!(done.contains(&left.to_owned()), "{done:?}");
    assert!(!report.says("Not ticked") && !report.says("switched on"), "{}", report.all());
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let due = shop.get(&format!("/api/banks/{bank}")).await["due"].clone();
    let day = |title: &str| {
        let own = due.as_array().unwrap().iter().find(|d| d["title"] == title).unwrap();
        own["day"].as_str().unwrap().to_owned()
    };
    assert_eq!(day("Charge full before the season closes"), "11 Oct 2027", "this year's is done");
    // what is stored is looked at: 60 days from the end of the season
    assert_eq!(day("Storage check"), "17 Dec");
}

/// A bank in use all year that is left standing: nobody knows until when.
#[tokio::test(flavor = "multi_thread")]
async fn a_bank_without_a_season_that_is_stored_is_asked_until_when() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 12, 1, 1).await;
    let visit = shop.visit(&bank).await;
    assert_eq!(closing(&shop, &visit).await["left_as"], "in_use");
    let odd = json!({"kind": "closed", "item": "caps_on", "none_here": true});
    let (status, said) = shop.say(&visit, "", odd).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said.to_string().contains("only an alarm, a lamp and a float switch can be missing"), "{said}");
    shop.said(&visit, "", json!({"kind": "left_as", "how": "stored"})).await;
    assert_eq!(closing(&shop, &visit).await["season_wanted"], true);
    shop.close_visit(&visit, 1, "desk").await;
    let due = titles(&shop, &bank).await;
    assert!(due.contains(&"Say when it is used again".to_owned()), "{due:?}");
    assert!(due.contains(&"Storage check".to_owned()), "{due:?}");
    described(&shop, &bank, &json!({"season_opens": "04-01", "season_closes": "10-01"})).await;
    assert!(!titles(&shop, &bank).await.contains(&"Say when it is used again".to_owned()));
}

/// Half a year on standby: volts, alarm, lamp, and no float switch.
#[tokio::test(flavor = "multi_thread")]
async fn a_standby_bank_is_checked_at_half_year() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 1).await;
    described(&shop, &bank, &json!({"duty": "standby", "site_name": "Larch Point repeater"})).await;
    let visit = shop.visit(&bank).await;
    let step = closing(&shop, &visit).await;
    assert_eq!(step["left_as"], "standby");
    let float = step["closing"].as_array().unwrap().iter().find(|c| c["item"] == "float_switch").unwrap();
    assert_eq!(float["may_be_missing"], true);
    let on_float = json!({"kind": "state_volts", "state": "on_charge", "typed": "27.2", "note": "on float"});
    shop.said(&visit, "", on_float).await;
    shop.said(
        &visit,
        "A2",
        json!({"kind": "checked", "check": "terminals",
        "found": {"kind": "powder", "severity": "watch", "note": "white, negative"}}),
    )
    .await;
    shop.said(
        &visit,
        "A2",
        json!({"kind": "repaired", "check": "terminals", "found": "powder", "repair": "cleaned",
        "left": "put_right"}),
    )
    .await;
    shop.said(
        &visit,
        "",
        json!({"kind": "done", "work": "standby_checked", "note": "relay held for 20 min"}),
    )
    .await;
    shop.said(&visit, "", json!({"kind": "left_as", "how": "standby"})).await;
    for item in items(&step).iter().filter(|item| *item != "float_switch" && *item != "tops_wiped") {
        shop.said(&visit, "", json!({"kind": "closed", "item": item})).await;
    }
    shop.said(&visit, "", json!({"kind": "closed", "item": "float_switch", "none_here": true})).await;
    let step = closing(&shop, &visit).await;
    let float = step["closing"].as_array().unwrap().iter().find(|c| c["item"] == "float_switch").unwrap();
    assert_eq!(float["missing"], "no float switch here");

    let report = shop.report(&visit).await;
    let done = report.under("What was done");
    assert_eq!(
        done,
        [
            "Looked at: terminals; not looked at: case, top, lid and valves, hold-down, spacing, cables and links, \
             insulation, fuse and disconnect, vent path and fan, temperature sensor, what hangs above and \
             volts from post to tray",
            "Voltage of the bank measured on charge (on float): 27.20 V",
            "Left on standby: lamp of the charger shows what it should; alarm tried; no float switch here",
            "Standby check done (relay held for 20 min)",
        ],
        "{}",
        report.all()
    );
    let found = report.under("What was found");
    assert!(
        found.iter().any(|said| said.contains("powder") && said.contains("It was left in order.")),
        "{found:?}"
    );
    // only what nobody answered is not ticked
    assert!(report.says("Not ticked at closing Tops wiped dry"), "{}", report.all());
    assert!(!report.says("Float switch lifted"));
}
