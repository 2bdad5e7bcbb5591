//! Whatever is written down, in whatever order, and taken back: the report tells everything found, contradicts
//! nothing, and the bank's page agrees with it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id};
use proptest::prelude::*;
use proptest::sample::Index;
use proptest::test_runner::{Config, TestRunner};
use reqwest::StatusCode;
use serde_json::{Value, json};
use std::collections::BTreeSet;

/// What is looked at, a kind that is found there, and how the report says it.
const KINDS: [(&str, &str, &str); 4] = [
    ("terminals", "powder", "terminals: white powder"),
    ("terminals", "loose", "terminals: loose"),
    ("hold_down", "missing", "hold-down: missing"),
    ("top", "nest", "top: nest or droppings"),
];
const PLACES: [&str; 2] = ["A1", "A2"];

#[derive(Debug, Clone)]
enum Typed {
    Found(usize, usize),
    Repaired(usize, usize, &'static str),
    Fine(usize, usize),
    Charged(usize),
    TakenBack(Index),
}

fn typed() -> impl Strategy<Value = Vec<Typed>> {
    let place = 0..PLACES.len();
    let kind = 0..KINDS.len();
    let left = prop::sample::select(vec!["put_right", "better", "as_found"]);
    let one =
        (0u8..9, place, kind, left, any::<Index>()).prop_map(|(what, place, kind, left, index)| match what {
            0..=3 => Typed::Found(place, kind),
            4 | 5 => Typed::Repaired(place, kind, left),
            6 => Typed::Fine(place, kind),
            7 => Typed::Charged(place),
            _ => Typed::TakenBack(index),
        });
    prop::collection::vec(one, 1..14)
}

fn body(own: &Typed) -> (&'static str, Value) {
    match own {
        Typed::Found(place, kind) => {
            let (check, kind, _) = KINDS[*kind];
            (PLACES[*place], json!({"kind": "checked", "check": check, "found": {"kind": kind}}))
        }
        Typed::Repaired(place, kind, left) => {
            let (check, kind, _) = KINDS[*kind];
            let repaired =
                json!({"kind": "repaired", "check": check, "found": kind, "repair": "cleaned", "left": left});
            (PLACES[*place], repaired)
        }
        Typed::Fine(place, kind) => (PLACES[*place], json!({"kind": "checked", "check": KINDS[*kind].0})),
        Typed::Charged(place) => {
            let done =
                json!({"kind": "corrected", "measurement": "rest_volts", "action": "charged_by_itself"});
            (PLACES[*place], done)
        }
        Typed::TakenBack(_) => ("", Value::Null),
    }
}

/// Types all of it; what was found and was not taken back, and the visit.
async fn written(shop: &Shop, bank: &str, all: &[Typed]) -> (String, BTreeSet<(usize, usize)>) {
    let visit = shop.visit(bank).await;
    let mut stand: Vec<(String, Typed)> = Vec::new();
    for own in all {
        if let Typed::TakenBack(index) = own {
            if stand.is_empty() {
                continue;
            }
            let (entry, _) = stand.remove(index.index(stand.len()));
            shop.said(&visit, "", json!({"kind": "withdrawn", "entry": entry})).await;
            continue;
        }
        let (place, what) = body(own);
        let entry = id();
        let request = json!({"place": place, "what": what, "taken_at": "2026-10-08T09:00:00Z"});
        let (status, said) = shop.put(&format!("/api/visits/{visit}/entries/{entry}"), &request).await;
        assert!(status.is_success(), "{said}");
        stand.push((entry, own.clone()));
    }
    let found = stand.iter().filter_map(|(_, own)| match own {
        Typed::Found(place, kind) => Some((*place, *kind)),
        _ => None,
    });
    (visit, found.collect())
}

/// "Needs something done.", "To be watched." or "In order.": how a line of the report begins.
fn severity(line: &str) -> u8 {
    match line {
        line if line.starts_with("Needs something done.") => 2,
        line if line.starts_with("To be watched.") => 1,
        line if line.starts_with("In order.") => 0,
        other => panic!("{other}"),
    }
}

async fn agrees(shop: &Shop, all: &[Typed]) {
    let bank = shop.bank().await;
    let (visit, found) = written(shop, &bank, all).await;
    let report = shop.report(&visit).await;
    let lines: Vec<String> = report.under("What was found");
    let told: Vec<&String> = lines.iter().filter(|line| line.contains("Battery A")).collect();
    for (place, kind) in &found {
        let what = format!("Battery {}, {}", PLACES[*place], KINDS[*kind].2);
        let times = told.iter().filter(|line| line.contains(&what) && !line.contains("from before")).count();
        assert_eq!(times, 1, "{what} in {lines:?} after {all:?}");
    }
    for line in &told {
        let known = KINDS.iter().any(|(_, _, said)| line.contains(said));
        assert!(known, "nobody typed {line}");
        let right =
            line.contains("It was left in order.") || line.contains("It was put right on this visit.");
        assert_eq!(severity(line) == 0, right, "{line} after {all:?}");
    }
    let worst = told.iter().map(|line| severity(line)).max();
    let verdict = report.verdict();
    let part = match worst {
        Some(2) => "need something done soon",
        Some(1) => "working order, with something to keep an eye on",
        _ => "",
    };
    assert!(verdict.contains(part), "{verdict} with {lines:?} after {all:?}");
    let good = verdict.contains("in good order") || verdict.contains("asks for anything");
    assert!(!good || worst.unwrap_or(0) == 0, "{verdict} with {lines:?} after {all:?}");
    for (place, own) in PLACES.iter().enumerate() {
        let charged = format!("Battery {own}, volts: charged by itself; not read again on this visit");
        let typed = all.iter().any(|t| matches!(t, Typed::Charged(at) if *at == place));
        assert!(typed || !report.says(&charged), "{charged} after {all:?}");
    }
    assert_eq!(shop.close_visit(&visit, 1, "desk").await.0, StatusCode::OK);
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    let wanted = match worst {
        Some(2) => "act",
        Some(1) => "watch",
        _ => "no_reading",
    };
    let condition = page["condition"].as_str().unwrap();
    assert!(
        condition == wanted || (wanted == "no_reading" && condition == "steady"),
        "{condition}: {lines:?}"
    );
}

#[test]
fn everything_found_is_told_and_nothing_contradicts_it_whatever_the_order() {
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build().unwrap();
    let shop = runtime.block_on(Shop::open());
    let mut runner = TestRunner::new(Config { cases: 32, failure_persistence: None, ..Config::default() });
    runner
        .run(&typed(), |all| {
            runtime.block_on(agrees(&shop, &all));
            Ok(())
        })
        .unwrap();
}
