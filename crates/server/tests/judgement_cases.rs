//! Inputs that once misled, each with the sentence that is right.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow::cli::calc::{CalcArgs, run};
use serde_json::Value;
use std::path::Path;

/// What `calc` answers for a case, or the one line of its refusal.
fn answered(case: &str) -> Result<Value, String> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/judgement_cases");
    let file = std::fs::read_dir(folder).unwrap().flatten().map(|e| e.path()).find(|path| {
        path.file_name().is_some_and(|name| name.to_string_lossy().starts_with(&format!("{case}-")))
    });
    let file = file.unwrap_or_else(|| panic!("there is no case {case}"));
    let name = file.file_name().unwrap().to_string_lossy().into_owned();
    let topic = name.trim_end_matches(".json").rsplit('.').next().unwrap().to_owned();
    let mut out = Vec::new();
    let args = CalcArgs { topic: Some(topic), list: false, schema: false };
    run(&args, std::fs::File::open(&file).unwrap(), &mut out).map_err(|e| e.to_string())?;
    Ok(serde_json::from_slice(&out).unwrap())
}

fn answer(case: &str) -> Value {
    answered(case).unwrap_or_else(|why| panic!("case {case} is refused: {why}"))
}

fn refusal(case: &str) -> String {
    answered(case).err().unwrap_or_else(|| panic!("case {case} is answered"))
}

/// The verdict, and what leads: its code and advice.
fn lead(case: &str) -> (String, String, String) {
    let said = answer(case);
    let first = &said["findings"][0];
    let text = |v: &Value| v.as_str().unwrap_or_default().to_owned();
    assert!(first["explained_by"].is_null(), "case {case}: what is explained leads");
    (text(&said["verdict"]), text(&first["id"]), text(&first["advice"]))
}

#[test]
fn the_cause_leads_each_round() {
    for (case, verdict, code) in [
        ("01", "Check the levels before anything else: the bank stands 60 points above full.", "above_full"),
        ("02a", "Check the levels before anything else: the bank stands 35 points above full.", "above_full"),
        ("02b", "Check the levels before anything else: the bank stands 35 points above full.", "above_full"),
        (
            "02c",
            "Find out why it does not fill: the bank stands 53 points short of full after a full charge.",
            "short_of_full",
        ),
        (
            "03",
            "Look into A8-3: it stands 55 points above full, by acid or by lost water.",
            "acid_in_cells A8-3",
        ),
        ("04", "Watch string B: it stands low as a whole.", "low_string B"),
        (
            "05",
            "Equalize with cell A8-3 as the pilot: it stands alone, 40 points below an even bank.",
            "low_cells A8-3",
        ),
        (
            "08",
            "Test cell A8-3: it has sunk 30 points below the bank, and the gap has grown for 9 months.",
            "suspect_cell A8-3",
        ),
        ("09", "Find the dead cell: the bank rests 2.1 V under what its acid should give.", "dead_cell"),
        (
            "10",
            "Charge fully, then read: the bank stands 185 points under full, and nobody knows that it was full.",
            "far_from_full",
        ),
        (
            "11",
            "Charge fully, then read: the bank stands 25 points under full, and nobody knows that it was full.",
            "far_from_full",
        ),
        (
            "37",
            "Test cell A8-3: it has sunk 28 points below the bank, and the gap has grown for 10 months.",
            "suspect_cell A8-3",
        ),
    ] {
        let (said, id, advice) = lead(case);
        assert_eq!((said.as_str(), id.as_str()), (verdict, code), "case {case}");
        let asked = |text: &str| text.contains("qualize");
        assert!(asked(&said) == asked(&advice) || case == "02c", "case {case}: {said} {advice}");
    }
}

#[test]
fn nobody_is_told_to_equalize_what_must_not_be() {
    for case in ["01", "02a", "02b", "03", "07", "09", "10", "11", "14"] {
        let said = answer(case);
        assert!(!said["verdict"].as_str().unwrap().contains("qualize"), "case {case}: {}", said["verdict"]);
        for finding in said["findings"].as_array().unwrap() {
            assert!(!finding["advice"].as_str().unwrap().contains("qualize"), "case {case}: {finding}");
        }
    }
    // a low string does not make the healthy one high, nor the bank half short of full
    let string = answer("04");
    let told: Vec<&str> =
        string["findings"].as_array().unwrap().iter().map(|f| f["id"].as_str().unwrap()).collect();
    assert_eq!(told, ["low_string B", "spread_watch"]);
    assert_eq!(string["findings"][1]["explained_by"], "low_string B");
}

#[test]
fn volts_at_rest_say_what_they_can() {
    for (case, verdict, condition) in [
        (
            "12",
            "String A rests 1.20 V under string B. Keep them apart; charge string A by itself to the end, rest it, read it again, then its batteries one by one.",
            "watch",
        ),
        ("13", "Four batteries read, alike; the bank rests at 94 to 100 % charged.", "steady"),
        (
            "14",
            "A2 is short of a cell. End the routine: isolate A2, read its cells, load test it alone. Do not charge it in the string.",
            "act",
        ),
        (
            "16",
            "These are not volts at rest. Switch the chargers off at their source, let it rest, then read the volts again.",
            "watch",
        ),
        ("17", "Not settled: volts are kept, no percentage is told from them.", "no_reading"),
    ] {
        let said = answer(case);
        assert_eq!(said["verdict"], verdict, "case {case}");
        assert_eq!(said["assessment"]["condition"], condition, "case {case}");
    }
    assert!(answer("16")["assessment"]["charge"].is_null(), "no percentage of volts that are not at rest");
}

#[test]
fn a_plan_is_one_that_can_be_followed() {
    assert!(refusal("18").ends_with("that is no equalize; disconnect what has the lowest limit first"));
    assert_eq!(
        answer("19")["said"],
        "Equalize at 63.7 V: 2.66 V a cell at 10 °C. Type 61.9 V into a charger that compensates by itself."
    );
    let stir = answer("20");
    let hours = &stir["hours"];
    assert_eq!((hours["low"].as_f64(), hours["high"].as_f64()), (Some(1.0), Some(1.0)), "{hours}");
    let small = answer("21")["lines"].to_string();
    assert!(small.contains("2 A, never above 42 A") && !small.contains("2 to 2"), "{small}");
}

#[test]
fn a_run_is_stopped_by_what_it_shows() {
    for (case, advice) in [("22", "falling"), ("23", "not_answering"), ("24", "abort"), ("26", "pause")] {
        assert_eq!(answer(case)["advice"], advice, "case {case}");
    }
}

#[test]
fn what_is_typed_wrong_is_refused_by_its_field() {
    for (case, line) in [
        ("06", "readings: A1-1 is given twice; one reading a cell is taken"),
        ("15", "strings: this bank has no string J; it has 1"),
        ("27", "reference: reference temperature 80 is not possible here; accepted is 10 to 35 °C"),
        (
            "28",
            "correction.per_celsius: temperature coefficient -5 is not possible here; accepted is 0.0003 to 0.0012 per °C",
        ),
        ("29", "referense: no such field; `rainshadow calc TOPIC --schema` names those that are taken"),
        ("30", "celsius: electrolyte temperature -300 is not possible here; accepted is -40 to 80 °C"),
        ("31", "points: number 1e308 is not possible here; accepted is -1000000000 to 1000000000"),
        (
            "32",
            "history.temperature: mean temperature 77 is not possible here; accepted is -40 to 50 °C. Is it 77 °F, which is 25 °C?",
        ),
    ] {
        assert_eq!(refusal(case), line, "case {case}");
    }
}

#[test]
fn figures_stay_within_what_can_be() {
    let ran = answer("33");
    for moment in ran["moments"].as_array().unwrap() {
        let (charge, gravity) =
            (moment["state_of_charge"].as_f64().unwrap(), moment["gravity"].as_f64().unwrap());
        assert!((0.0..=1.0).contains(&charge) && (0.98..=1.4).contains(&gravity), "{moment}");
    }
    assert_eq!(answer("34")["items"][0]["item"]["consequence"], "loss", "a test eleven months overdue");
    let winter = answer("35");
    let days = &winter["days"];
    assert!(days["p10"].as_f64() < days["p50"].as_f64() && days["p50"].as_f64() < days["p90"].as_f64());
    assert!(answer("36")["rule_error"].as_f64().unwrap() > 0.5, "the plain rule is off in the cold as well");
}
