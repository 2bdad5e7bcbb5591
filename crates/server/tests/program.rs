//! The program itself: started, killed, given folders it must refuse.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::acting::{acting, introduce};
use crate::common::{id, opening, reading};
use reqwest::Client;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};

const PROGRAM: &str = env!("CARGO_BIN_EXE_rainshadow");

fn start(folder: &Path) -> (Child, String) {
    let mut child = Command::new(PROGRAM)
        .args(["serve", "--listen", "127.0.0.1:0", "--data-dir"])
        .arg(folder)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let base =
        line.split_whitespace().find(|w| w.starts_with("http://")).unwrap().trim_end_matches('/').to_owned();
    (child, base)
}

fn serve_on(folder: &Path) -> Output {
    Command::new(PROGRAM)
        .args(["serve", "--listen", "127.0.0.1:0", "--data-dir"])
        .arg(folder)
        .output()
        .unwrap()
}

fn one_line(output: &Output) -> String {
    assert!(!output.status.success());
    let said = String::from_utf8(output.stderr.clone()).unwrap();
    assert_eq!(said.trim().lines().count(), 1, "{said}");
    said
}

async fn ready(client: &Client, base: &str) {
    while client.get(format!("{base}/api/meta")).send().await.is_err() {
        tokio::task::yield_now().await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn every_acknowledged_reading_is_there_after_a_kill() {
    let folder = tempfile::tempdir().unwrap();
    let (mut child, base) = start(folder.path());
    let client = acting();
    ready(&client, &base).await;
    introduce(&client, &base).await;
    let put = async |base: &str, path: String, body: Value| {
        client.put(format!("{base}{path}")).json(&body).send().await
    };
    let (site, bank, round) = (id(), id(), id());
    put(&base, format!("/api/sites/{site}"), json!({"name": "Arboretum tram 4", "zone": "UTC"}))
        .await
        .unwrap();
    let shape = json!({"system_voltage": 48, "cells_per_battery": 1, "series": 6, "parallel": 1});
    let body = json!({"site": site, "model": "flooded-8v-170", "rules": "maker_first", "shape": shape});
    put(&base, format!("/api/banks/{bank}"), body).await.unwrap();
    put(&base, format!("/api/rounds/{round}"), opening(&bank)).await.unwrap();
    let mut acknowledged = Vec::new();
    for i in 0..24 {
        let cell = format!("A{}-{}", i / 4 + 1, i % 4 + 1);
        let sent = put(
            &base,
            format!("/api/rounds/{round}/readings/{}", id()),
            reading(&cell, &format!("{}", 250 + i)),
        );
        // Killed with a reading on its way: it may be there or not, but none of the others may miss.
        if i == 17 {
            let (_, killed) = tokio::join!(sent, async { child.kill() });
            killed.unwrap();
            break;
        }
        assert!(sent.await.unwrap().status().is_success());
        acknowledged.push((cell, format!("1.{}", 250 + i)));
    }
    child.wait().unwrap();
    let (mut child, base) = start(folder.path());
    ready(&client, &base).await;
    let page: Value =
        client.get(format!("{base}/api/rounds/{round}")).send().await.unwrap().json().await.unwrap();
    for (cell, says) in acknowledged {
        let stored =
            page["cells"].as_array().unwrap().iter().find(|c| c["view"]["cell"] == cell.as_str()).unwrap();
        assert_eq!(stored["entry"]["says"], says.as_str(), "{cell}");
    }
    child.kill().unwrap();
    child.wait().unwrap();
}

#[test]
fn a_folder_in_use_a_newer_one_and_a_corrupt_one_are_refused_in_one_line() {
    let folder = tempfile::tempdir().unwrap();
    let (mut child, _) = start(folder.path());
    assert!(one_line(&serve_on(folder.path())).contains("locked by another program"));
    child.kill().unwrap();
    child.wait().unwrap();

    let newer = tempfile::tempdir().unwrap();
    let file = newer.path().join("rainshadow.db");
    rusqlite::Connection::open(&file).unwrap().pragma_update(None, "user_version", 99).unwrap();
    let before = std::fs::read(&file).unwrap();
    assert!(one_line(&serve_on(newer.path())).contains("newer version"));
    assert_eq!(std::fs::read(&file).unwrap(), before, "nothing was touched");

    let corrupt = tempfile::tempdir().unwrap();
    let file = corrupt.path().join("rainshadow.db");
    std::fs::write(&file, "this was never a database, and it is long enough to be looked at").unwrap();
    assert!(one_line(&serve_on(corrupt.path())).contains("corrupt or not a database"));
    assert!(std::fs::read_to_string(&file).unwrap().starts_with("this was never"));
}

#[test]
fn a_port_in_use_and_an_address_beyond_loopback_are_refused_in_one_line() {
    let taken = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = taken.local_addr().unwrap().to_string();
    let folder = tempfile::tempdir().unwrap();
    let run = |listen: &str| {
        Command::new(PROGRAM)
            .args(["serve", "--listen", listen, "--data-dir"])
            .arg(folder.path())
            .output()
            .unwrap()
    };
    assert!(one_line(&run(&address)).contains("the port is in use"));
    let said = one_line(&run("0.0.0.0:7480"));
    assert!(said.contains("--host"), "{said}");
}

fn calc(topic: &str, input: &Value) -> Output {
    let mut child = Command::new(PROGRAM)
        .args(["calc", topic])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // a topic that does not exist is refused before anything is read
    let _ = child.stdin.take().unwrap().write_all(input.to_string().as_bytes());
    child.wait_with_output().unwrap()
}

fn answer(output: &Output) -> Value {
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
}

#[test]
fn calc_computes_what_the_rules_say() {
    // BCI, from memory: 1.250 at 110 °F (43.33 °C) and a reference of 80 °F (26.67 °C) is 1.262.
    let corrected =
        answer(&calc("sg-correct", &json!({"gravity": 1.25, "temperature": 43.333, "reference": 26.667})));
    assert!((corrected["corrected"].as_f64().unwrap() - 1.262).abs() < 1e-4);
    // BCI general table, from memory: 1.190 is 50 %.
    let soc = answer(&calc("sg-soc", &json!({"gravity": 1.19})));
    assert!((soc["percent"].as_f64().unwrap() - 50.0).abs() < 1e-6);
    // SG + 0.845, twelve cells by Bode's curve: 1.260 is 2.1096 V.
    let ocv = answer(&calc("ocv-from-sg", &json!({"gravity": 1.26, "cells": 12})));
    assert!((ocv["rule_per_cell"].as_f64().unwrap() - 2.105).abs() < 1e-9);
    assert!((ocv["measured"].as_f64().unwrap() - 12.0 * 2.1096).abs() < 1e-6);
}

#[test]
fn calc_judges_a_round_and_names_a_field_that_does_not_fit() {
    let models: Vec<(&str, _)> = rainshadow_core::battery_model::BatteryModel::generic();
    let cells = ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"];
    let readings: Vec<Value> = cells
        .iter()
        .map(|cell| {
            let read = if *cell == "A2-2" { 1.21 } else { 1.265 };
            json!({"cell": cell, "reading": {"kind": "gravity", "read": read}, "stands": true})
        })
        .collect();
    let mut input = json!({
        "shape": {"system_voltage": 12, "cells_per_battery": 3, "series": 2, "parallel": 1},
        "model": models[0].1, "readings": readings,
        "instrument": {"kind": "digital", "resolution": 1.0, "repeatability": 2.0, "corrects_for_temperature": true},
        "conditions": {"hours_since_load": 5.0, "water_added": "no"},
    });
    let judged = answer(&calc("assess-round", &input));
    assert_eq!(
        judged["verdict"],
        "Charge fully, then equalize with cell A2-2 as the pilot: it stands 55 points below the bank."
    );
    input["conditions"]["hours_since_load"] = json!("soon");
    assert!(one_line(&calc("assess-round", &input)).contains("conditions.hours_since_load"));
    assert!(one_line(&calc("nothing", &json!({}))).contains("calc --list"));
    assert!(
        one_line(&calc("sg-soc", &json!("nonsense")))
            .contains("standard input: found the text “nonsense”; accepted is an object")
    );
}

#[test]
fn calc_answers_for_a_visit_and_names_what_does_not_fit() {
    // Faraday, 0.3371 mL an Ah and cell: 1.344 L of 24 cells is 56 mL a cell.
    let logged = json!({"water": 1344.0, "cells": 24, "discharged": 1661.3});
    let overcharge = answer(&calc("overcharge-from-water", &logged));
    assert!((overcharge["ampere_hours"].as_f64().unwrap() - 166.13).abs() < 0.1, "{overcharge}");
    assert!((overcharge["share"].as_f64().unwrap() - 0.1).abs() < 0.001);
    let none = json!({"water": 100.0, "cells": 0});
    assert!(one_line(&calc("overcharge-from-water", &none)).contains("cells"));

    // 10 mm low is ten times what one millimetre is, and each of 24 cells takes the same.
    let level = |mm: f64, cells: u32| json!({"level": {"as": "millimetres", "mm": mm}, "cells": cells});
    let [one, ten] =
        [answer(&calc("water-need", &level(12.0, 1))), answer(&calc("water-need", &level(2.0, 24)))];
    let gap = ten["each"].as_f64().unwrap() - one["each"].as_f64().unwrap();
    assert!(gap > 50.0 && gap < 500.0, "ten millimetres of a tall cell: {gap}");
    assert!((ten["all"].as_f64().unwrap() - 24.0 * ten["each"].as_f64().unwrap()).abs() < 1e-9);

    // two points of a line do not make a trend; seven on a line are that line
    let few = answer(&calc("trend", &json!({"points": [[0.0, 1.0], [200.0, 2.0]]})));
    assert!(
        few["slope"].is_null() && few["why_none"].as_str().unwrap().contains("five values over 180 days")
    );
    let line: Vec<[f64; 2]> = (0..7).map(|i| [f64::from(i) * 60.0, 1265.0 - f64::from(i) * 2.0]).collect();
    let many = answer(&calc("trend", &json!({"points": line})));
    assert!((many["slope"]["per_year"].as_f64().unwrap() + 2.0 * 365.25 / 60.0).abs() < 0.05, "{many}");
    let back = json!({"points": [[10.0, 1.0], [1.0, 2.0]]});
    assert!(one_line(&calc("trend", &back)).contains("a day comes before the one ahead of it"));
}

#[test]
fn calc_judges_volts_at_rest_and_says_what_is_due() {
    let shape = json!({"system_voltage": 24, "cells_per_battery": 6, "series": 2, "parallel": 2});
    let volts: Vec<Value> = [("A1", 12.85), ("A2", 12.84), ("B1", 12.86), ("B2", 12.1)]
        .iter()
        .map(|(battery, volts)| json!({"battery": battery, "volts": volts}))
        .collect();
    let model = rainshadow_core::battery_model::BatteryModel::generic_by_key("agm-12v-100").unwrap();
    let mut sheet = json!({"shape": shape, "model": model, "batteries": volts,
        "conditions": {"hours_since_charge": 30.0, "hours_since_load": 25.0, "temperature": 25.0}});
    let rest = answer(&calc("rest-volts", &sheet));
    assert!(rest["verdict"].as_str().unwrap().starts_with("B2 rests 0.7"), "{}", rest["verdict"]);
    sheet["batteries"][0]["volts"] = json!(128.5);
    assert!(one_line(&calc("rest-volts", &sheet)).contains("128.5 V at A1 is not possible"));

    let facts = json!({"shape": shape, "model": model, "duty": "cycled", "known_since": "2024-01-01",
        "last_retorque": "2026-01-10"});
    let due = answer(&calc("due", &json!({"facts": facts, "today": "2026-10-08"})));
    let said: Vec<&str> =
        due["items"].as_array().unwrap().iter().map(|i| i["said"]["title"].as_str().unwrap()).collect();
    // 180 days after 10 Jan 2026
    let retorque = due["items"].as_array().unwrap().iter().find(|i| i["item"]["date"] == "2026-07-09");
    assert!(retorque.is_some(), "{said:?}");
    assert!(one_line(&calc("due", &json!({"facts": facts, "today": "soon"}))).contains("today"));
}

#[test]
fn calc_lists_its_topics_and_prints_a_schema_that_stands_alone() {
    let run =
        |args: &[&str]| String::from_utf8(Command::new(PROGRAM).args(args).output().unwrap().stdout).unwrap();
    let list = run(&["calc", "--list"]);
    for topic in [
        "sg-correct",
        "sg-soc",
        "ocv-from-sg",
        "assess-round",
        "rest-volts",
        "water-need",
        "water-forecast",
        "overcharge-from-water",
        "trend",
        "due",
    ] {
        assert!(list.contains(topic));
        let schema: Value = serde_json::from_str(&run(&["calc", topic, "--schema"])).unwrap();
        let text = schema.to_string();
        let defs = schema["$defs"].as_object().unwrap();
        assert!(!text.contains("#/components"), "{topic}");
        for name in text.split("#/$defs/").skip(1).map(|rest| rest.split('"').next().unwrap()) {
            assert!(defs.contains_key(name), "{topic} refers to {name}, which is not there");
        }
    }
}

#[test]
fn calc_sets_a_charger_and_airs_a_bank() {
    // CH-2, common practice, no source: 24 cells, 2.58 V, 10 °C gives 63.72 V
    let asked = json!({"stage": "equalize", "cells": 24, "temperature": 10.0});
    let own = answer(&calc("setpoint", &asked));
    assert!((own["volts"].as_f64().unwrap() - 63.72).abs() < 1e-9, "{own}");
    assert_eq!(
        own["said"],
        "Equalize at 63.7 V: 2.66 V a cell at 10 °C. Type 61.9 V into a charger that compensates by itself."
    );
    let sealed = json!({"stage": "equalize", "cells": 12, "temperature": 25.0, "model_key": "agm-12v-100"});
    assert!(one_line(&calc("setpoint", &sealed)).contains("sealed battery is not equalized"));
    let unknown = json!({"stage": "equalize", "cells": 12, "temperature": 25.0, "reference": 20});
    assert!(one_line(&calc("setpoint", &unknown)).contains("there is no field reference"));

    let settings = json!({"cells": 24, "temperature": 0.0, "settings": {"absorption": 58.8, "float": 54.0}});
    let audit = answer(&calc("settings-audit", &settings));
    assert_eq!(audit["verdict"], "Change the charger: absorption and float are off.");
    assert_eq!(audit["lines"].as_array().unwrap().len(), 2);
    let small = json!({"cells": 24, "temperature": 25.0, "settings": {"absorption": 14.7}});
    assert!(one_line(&calc("settings-audit", &small)).contains("It suits a bank of 12 V"));

    // VE-1, common practice, no source: 24 cells, 840 Ah, boost: 20.16 m³/h, 564 cm²
    let bank = json!({"construction": "flooded", "cells": 24, "capacity": 840.0, "stage": "equalize"});
    let air = answer(&calc("ventilation", &bank));
    assert!((air["airflow"].as_f64().unwrap() - 20.16).abs() < 1e-9, "{air}");
    assert!(air["said"].as_str().unwrap().contains("564 cm²"));
    assert!(
        one_line(&calc(
            "ventilation",
            &json!({"construction": "flooded", "cells": 24, "capacity": 0.0, "stage": "float"})
        ))
        .contains("accepted is 1 to 50000 Ah")
    );
}

#[test]
fn calc_plans_an_equalize() {
    let asked = json!({"kind": "corrective", "cells": 24, "strings": 2, "temperature": 10.0,
        "loads": [{"name": "radio", "highest_volts": 60.0}]});
    let plan = answer(&calc("equalize-plan", &asked));
    assert_eq!(plan["disconnect"][0]["name"], "radio");
    assert_eq!(plan["lines"].as_array().unwrap().len(), 7);
    let sealed = json!({"kind": "stir", "cells": 12, "temperature": 20.0, "model_key": "agm-12v-100"});
    assert!(one_line(&calc("equalize-plan", &sealed)).contains("not equalized"));
}

#[test]
fn calc_says_when_an_equalize_stops() {
    let run = |values: &[f64]| {
        let readings: Vec<Value> =
            (0..).zip(values).map(|(i, v)| json!({"hours": 0.5 * f64::from(i), "gravity": v})).collect();
        json!({"kind": "corrective", "readings": readings})
    };
    let rising = answer(&calc("equalize-stop", &run(&[1.230, 1.236, 1.241, 1.245, 1.248, 1.250])));
    assert_eq!((rising["advice"].as_str(), rising["next_reading"].as_f64()), (Some("go_on"), Some(3.0)));
    assert!(rising["said"].as_str().unwrap().contains("rises by 7.0 points an hour"), "{rising}");
    let flat = answer(&calc("equalize-stop", &run(&[1.259, 1.260, 1.260, 1.261, 1.261, 1.261])));
    assert_eq!(flat["said"], "Stop the charger: the gravity has stopped rising.");
    let mut back = run(&[1.24, 1.25]);
    back["readings"][1]["hours"] = json!(-1.0);
    assert!(one_line(&calc("equalize-stop", &back)).contains("reading 2 is earlier"));
}

#[test]
fn calc_simulates_a_charge() {
    let program = json!({"cells": 6, "capacity": 100.0, "charged": 0.25, "phases": [
        {"drive": "charge", "hours": 24.0, "amperes": 10.0, "volts": 14.7, "until_amperes": 2.0}]});
    let ran = answer(&calc("simulate", &program));
    // SM-1, common practice, no source: from a quarter at 0.1 C to 2.45 V a cell until 2 % takes 11.1 h with its own heat
    let last = ran["moments"].as_array().unwrap().last().unwrap();
    assert!((last["hour"].as_f64().unwrap() - 11.1).abs() < 0.56, "{last}");
    let long = json!({"cells": 6, "capacity": 100.0, "phases": [{"drive": "rest", "hours": 1e9}]});
    assert!(one_line(&calc("simulate", &long)).contains("accepted is 0 to 17532 h"));
}
