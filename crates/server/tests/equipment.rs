//! What charges a bank and hangs on it, as typed: what does not fit is named field by field, what fits
//! is planned with.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::readers::{as_person, imperial};
use crate::common::runs::{open_run, read_bank};
use crate::common::{Shop, answer};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn put(shop: &Shop, bank: &str, version: i64, equipment: Value) -> (StatusCode, Value) {
    let request = shop
        .request(Method::PUT, &format!("/api/banks/{bank}/equipment"))
        .header("if-match", format!("\"{version}\""))
        .json(&json!({"equipment": equipment}));
    answer(request.send().await.unwrap()).await
}

fn faults(said: &Value) -> Vec<&str> {
    said["errors"].as_array().unwrap().iter().map(|e| e["field"].as_str().unwrap()).collect()
}

#[tokio::test]
async fn every_field_that_does_not_fit_is_named_at_once() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let body = json!({
        "charger": {"absorption": "many", "compensates": true, "millivolts": "12", "amperes": "-3"},
        "sun_from": "9:00", "sun_to": "8:00", "dark": "25:00",
        "loads": [{"name": "", "highest_volts": "60"}, {"name": "drive", "highest_volts": "lots"}],
        "enclosure": "0", "feed": "charger.example", "feed_unit": "300",
    });
    let (status, said) = put(&shop, &bank, 0, body).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let mut fields = faults(&said);
    fields.sort_unstable();
    assert_eq!(
        fields,
        [
            "absorption",
            "amperes",
            "dark",
            "enclosure",
            "feed",
            "feed_unit",
            "loads[0].name",
            "loads[1].highest_volts",
            "millivolts",
            "sun_to"
        ]
    );
    // nothing of it was kept
    assert_eq!(shop.get(&format!("/api/banks/{bank}/equipment")).await["version"], 0);
}

#[tokio::test]
async fn sun_fuel_and_what_compensates_go_into_the_plan() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let body = json!({
        "charger": {"equalize": "61.9", "compensates": true, "reference": {"typed": "68", "unit": "F"}},
        "fuel_rate": {"typed": "1", "unit": "us_gallon"}, "fuel_there": {"typed": "4", "unit": "us_gallon"},
        "dark": "18:30",
    });
    let (status, said) = put(&shop, &bank, 0, body.clone()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    let asked = json!({"kind": "corrective", "temperature": {"typed": "10"}});
    let (_, page) = shop.send(Method::POST, &format!("/api/banks/{bank}/equalize"), &asked).await;
    let plan = &page["plan"];
    // CH-2: 63.72 V at 10 °C; a charger stated at 20 °C adds 24 · 0.005 · 10 = 1.2 V by itself
    assert_eq!((&plan["setpoint"], &plan["typed_compensating"]), (&json!("63.7"), &json!("62.5")));
    // 4.5 h are 5.25 h by the clock at 3.785 L an hour: 19.9 L of the 15.1 that are there
    let day = plan["day"].to_string();
    assert!(day.contains("Fuel: 19.9 L as a rule") && day.contains("there are 15.1 L"), "{day}");
    assert_eq!(plan["day_condition"], "act");
    // what was typed comes back as typed
    let again = shop.get(&format!("/api/banks/{bank}/equipment")).await;
    assert_eq!((&again["equipment"]["fuel_rate"], &again["person"]), (&body["fuel_rate"], &json!("TA")));
}

#[tokio::test]
async fn a_sealed_bank_with_a_flooded_charger_is_told_so() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let body = json!({"charger": {"absorption": "28.8", "equalize": "31", "flooded_only": true}});
    let (_, said) = put(&shop, &bank, 0, body).await;
    // CH-3: AGM on a flooded-only charger, or an equalize left on for sealed: act
    assert_eq!(said["first"]["now"]["condition"], "act");
    assert!(
        said["first"]["now"]["verdict"].as_str().unwrap().contains("only dries sealed ones out"),
        "{said}"
    );
    let equalize = &said["first"]["now"]["stages"].as_array().unwrap()[1];
    assert!(equalize["said"].as_str().unwrap().contains("Sealed batteries vent under an equalize"));
}

#[tokio::test]
async fn what_stands_there_is_told_whole_and_reaches_visit_field_sheet_and_van() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let body = json!({
        "charger": {"kind": "shore_charger", "absorption": "28.8", "float": "27.2", "amperes": "25"},
        "others": [
            {"kind": "alternator", "name": "engine", "absorption": "29.9", "amperes": "40"},
            {"kind": "solar_controller", "float": "27.2"},
            {},
        ],
        "fan": "", "inlet": {"size": "38", "pipe": true, "count": "2"}, "outlet": {"size": "30"},
        "fittings": [
            {"kind": "fuse", "whereto": "bilge pump, unswitched", "amperes": "10"},
            {"kind": "balancer", "whereto": "both strings"},
        ],
        "surroundings": ["engine_heat", "living_space"],
        "could_hole": "a seat bolt over A2", "own_numbers": "1, 2, , 4",
        "hook_up": [{"from": "A1 +", "to": "string fuse A", "mark": "red"}, {}],
    });
    let (status, said) = put(&shop, &bank, 0, body).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(said["first"]["said"], "Shore charger, 25 A: absorption 28.8 V, float 27.2 V");
    let others = said["others"].as_array().unwrap();
    assert_eq!(others.len(), 2, "an empty one is none");
    assert_eq!(
        (&others[0]["now"]["condition"], &others[1]["now"]["condition"]),
        (&json!("act"), &json!("steady"))
    );
    // two pipes of 38 mm are 22.7 cm² in, 30 cm² out; 12 cells, 200 Ah, boost 8 mA/Ah: 0.96 m³/h, 26.9 cm²
    assert_eq!(said["air_condition"], "watch");
    assert!(said["air"].as_str().unwrap().contains("27 cm² low and high"), "{said}");
    assert_eq!(said["own_numbers"][2], json!({"name": "B2", "meaning": "4"}));
    assert_eq!(said["hook_up"], json!(["A1 + to string fuse A, red"]));

    // The page of the bank and its state hear of the alternator.
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(
        (&page["charger"], &page["condition"]),
        (&json!("Change the alternator: absorption is off."), &json!("act"))
    );
    assert!(page["findings"].to_string().contains("The alternator: absorption too high"), "{page}");
    // What is due says it too, today, and leads to where it is put right.
    let due = shop.get("/api/today").await;
    let own = due["items"]
        .as_array()
        .unwrap()
        .iter()
        .find(|i| i["equipment"] == true && i["condition"] == "act")
        .unwrap();
    assert_eq!(
        (&own["said"]["title"], &own["day"]),
        (
            &json!("The alternator: absorption too high; too little air for a boost charge or an equalize"),
            &json!("today")
        ),
        "{own}"
    );

    // So does whoever goes there.
    let visit = shop.visit(&bank).await;
    let page = shop.get(&format!("/api/visits/{visit}")).await;
    let stands = page["stands_there"].to_string();
    for line in [
        "Could hole a case: a seat bolt over A2",
        "Beside an engine",
        "Fuse, 10 A: bilge pump",
        "Balancers are fitted",
    ] {
        assert!(stands.contains(line), "{line}: {stands}");
    }
    assert_eq!(page["own_numbers"], json!(["A1 is 1", "A2 is 2", "B2 is 4"]));
    let sheet = shop.text(&format!("/api/banks/{bank}/field-sheet")).await;
    assert!(sheet.contains("A1 + to string fuse A, red") && sheet.contains("a seat bolt over A2"));
}

#[tokio::test]
async fn of_other_sources_air_and_cables_every_field_that_does_not_fit_is_named() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("agm-12v-100", 24, 2, 2).await;
    let body = json!({
        "others": [{"absorption": "14.4"}, {"float": "many"}],
        "fan": "-1", "inlet": {"size": "50", "pipe": true, "count": "0"}, "outlet": {"size": "wide"},
        "fittings": [{"kind": "fuse", "amperes": "big"}],
        "own_numbers": "1, 2, 3, 4, 5", "hook_up": [{"from": "A1 +"}],
    });
    let (status, said) = put(&shop, &bank, 0, body).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    let mut fields = faults(&said);
    fields.sort_unstable();
    let expected = [
        "fan",
        "fittings[0].amperes",
        "hook_up[0].to",
        "inlet.count",
        "others[0].absorption",
        "others[1].float",
        "outlet.size",
        "own_numbers",
    ];
    assert_eq!(fields, expected);
    assert!(said.to_string().contains("It suits a bank of 12 V"), "{said}");
    assert!(said.to_string().contains("5 numbers are too many for 4 batteries"), "{said}");
    let (_, twice) = put(&shop, &bank, 0, json!({"own_numbers": "1, 1"})).await;
    assert!(twice.to_string().contains("stands twice"), "{twice}");
    let (_, odd) = put(&shop, &bank, 0, json!({"surroundings": ["volcano"]})).await;
    assert!(odd["detail"].as_str().is_some_and(|said| said.contains("volcano")), "{odd}");
}

#[tokio::test]
async fn whoever_chose_inches_reads_and_types_the_air_in_them() {
    let shop = Shop::open().await;
    let bank = shop.bank_of("flooded-6v-420", 48, 8, 2).await;
    let body =
        json!({"enclosure": "35", "fan": "10", "outlet": {"size": "4", "pipe": true}, "length": "inch"});
    let (status, said) = put(&shop, &bank, 0, body.clone()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    // for a reader of millimetres: 35 ft³ are 0.991 m³, 10 ft³/min 17.0 m³/h, a 4 in pipe 81.1 cm²
    let told = &said["equipment"];
    assert_eq!(
        (&told["enclosure"], &told["fan"], &told["length"]),
        (&json!("0.991"), &json!("17.0"), &json!("millimetre"))
    );
    assert_eq!(told["outlet"], json!({"size": "81.073", "pipe": false, "count": ""}));
    let who = imperial(&shop).await;
    let own = as_person(&shop, &who, &format!("/api/banks/{bank}/equipment")).await;
    for field in ["enclosure", "fan", "length"] {
        assert_eq!(own["equipment"][field], body[field], "as typed");
    }
    assert_eq!(own["equipment"]["outlet"]["size"], "4");
    let air = own["air"].as_str().unwrap();
    assert!(
        air.contains("11.9 cubic feet a minute") && air.contains("87 in²") && !air.contains("cm²"),
        "{air}"
    );
}

#[tokio::test]
async fn before_an_equalize_what_is_known_of_the_air_is_said_beside_what_it_asks_for() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    read_bank(&shop, &bank, "1240").await;
    let run = open_run(&shop, &bank).await;
    let said = async || {
        let page = shop.get(&format!("/api/runs/{run}")).await;
        let all = page["checks"].as_array().unwrap().clone();
        all.iter().find(|c| c["check"] == "air").unwrap()["what"].as_str().unwrap().to_owned()
    };
    assert!(said().await.ends_with("What is there is not told: see for yourself."), "{}", said().await);
    // 0.05 · 6 cells · 22.5 A of 5 %: 3.4 m³/h, 94 cm² (VE-1)
    for (version, vents, part) in [
        (0, json!({"fan": "50"}), "are enough."),
        (1, json!({"inlet": {"size": "20"}}), "Only one opening is told: open a second way"),
        (2, json!({"inlet": {"size": "2"}, "outlet": {"size": "2"}}), "are too little: open the place"),
    ] {
        assert_eq!(put(&shop, &bank, version, vents).await.0, StatusCode::OK);
        assert!(said().await.contains(part), "{part}: {}", said().await);
    }
}
