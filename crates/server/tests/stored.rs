//! What is on disk: rows pass the same checks on the way out, and the demo tells one coherent story.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, answer};
use rainshadow::db::Db;
use reqwest::{Method, StatusCode};
use rusqlite::Connection;
use serde_json::{Value, json};
use std::path::Path;

fn demo(folder: &Path, day: &str) {
    let db = Db::open(folder).unwrap();
    db.write_now(|tx| rainshadow::demo::seed(tx, day.parse().unwrap(), &indicatif::ProgressBar::hidden()))
        .unwrap();
}

fn open(folder: &Path) -> Connection {
    Connection::open(folder.join("rainshadow.db")).unwrap()
}

/// Every row of a table but what the clock writes, as text.
fn dump(db: &Connection, sql: &str) -> Vec<String> {
    let mut query = db.prepare(sql).unwrap();
    let columns = query.column_count();
    let rows = query.query_map([], |row| {
        let fields = (0..columns).map(|i| row.get::<_, rusqlite::types::Value>(i));
        Ok(format!("{:?}", fields.collect::<Result<Vec<_>, _>>()?))
    });
    rows.unwrap().map(|r| r.unwrap()).collect()
}

#[test]
fn every_table_is_strict_and_points_at_rows_that_exist() {
    let folder = tempfile::tempdir().unwrap();
    demo(folder.path(), "2026-10-08");
    let db = open(folder.path());
    let loose = dump(
        &db,
        "SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND strict = 0 AND name NOT LIKE 'sqlite_%'",
    );
    assert!(loose.is_empty(), "{loose:?}");
    let dangling = dump(&db, "SELECT * FROM pragma_foreign_key_check");
    assert!(dangling.is_empty(), "{dangling:?}");
    let mode: String = db.query_row("PRAGMA journal_mode", [], |row| row.get(0)).unwrap();
    assert_eq!(mode, "wal");
}

#[test]
fn the_demo_of_one_day_is_the_same_every_time_and_ends_the_day_before() {
    let (one, two) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    demo(one.path(), "2026-10-08");
    demo(two.path(), "2026-10-08");
    // a block's id is made by the machine; everything a person sees comes from the seed
    for sql in [
        "SELECT id, bank_id, started_at, conditions FROM round ORDER BY id",
        "SELECT id, round_id, cell, kind, gravity, typed, supersedes, reason FROM reading ORDER BY seq",
        "SELECT round_id, condition, centre, spread, lowest, verdict FROM assessment ORDER BY round_id",
    ] {
        assert_eq!(dump(&open(one.path()), sql), dump(&open(two.path()), sql), "{sql}");
    }
    let last: String =
        open(one.path()).query_row("SELECT max(started_at) FROM round", [], |row| row.get(0)).unwrap();
    assert!(last.starts_with("2026-10-07"), "{last}");
}

#[test]
fn the_demo_came_by_the_road_of_a_typed_reading() {
    let folder = tempfile::tempdir().unwrap();
    demo(folder.path(), "2026-10-08");
    let db = open(folder.path());
    let count = |sql: &str| -> i64 { db.query_row(sql, [], |row| row.get(0)).unwrap() };
    assert_eq!(
        count("SELECT count(*) FROM reading WHERE kind = 'gravity' AND typed IS NULL"),
        0,
        "each was typed"
    );
    assert!(
        count("SELECT count(*) FROM reading WHERE supersedes IS NOT NULL") >= 1,
        "a misread was read again"
    );
    assert!(count("SELECT count(*) FROM reading WHERE kind = 'not_read' AND reason IS NOT NULL") >= 1);
    for (site, least) in [("Kestrel Dome", 8), ("Larch Point repeater", 8)] {
        let rounds = count(&format!(
            "SELECT count(*) FROM round r JOIN bank b ON b.id = r.bank_id JOIN site s ON s.id = b.site_id WHERE s.name = '{site}'"
        ));
        assert!(rounds >= least, "{site}: {rounds}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn the_demos_failing_cell_falls_away_while_its_mates_hold() {
    let shop = Shop::open().await;
    shop.send(Method::POST, "/api/demo", &json!(null)).await;
    let banks = shop.get("/api/banks").await;
    let kestrel = banks[3]["id"].as_str().unwrap();
    let line = async |cell: &str| -> Vec<f64> {
        let page = shop.get(&format!("/api/banks/{kestrel}/cells/{cell}")).await;
        page["points"].as_array().unwrap().iter().map(|p| p["deviation"].as_f64().unwrap()).collect()
    };
    let failing = line("B5-2").await;
    assert!(failing.first().unwrap() - failing.last().unwrap() > 25.0, "{failing:?}");
    for mate in ["B5-1", "B5-3", "A1-1", "B8-1"] {
        let steady = line(mate).await;
        assert!(steady.iter().all(|d| d.abs() <= 10.0), "{mate}: {steady:?}");
    }
    let page = shop.get(&format!("/api/banks/{kestrel}")).await;
    assert!(page["findings"][0]["headline"].as_str().unwrap().starts_with("B5-2"));
}

/// The server on a folder whose row was spoilt behind its back.
async fn spoilt(sql: &str) -> (Shop, String, String) {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let round = shop.round(&bank).await;
    shop.read(&round, "A1-1", "270").await;
    shop.finish(&round, 1, "desk").await;
    let folder = shop.close().await;
    assert!(open(folder.path()).execute(sql, []).unwrap() > 0, "{sql}");
    (Shop::open_in(folder).await, bank, round)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_row_that_cannot_be_is_a_problem_and_never_a_panic_or_a_wrong_number() {
    for sql in [
        "UPDATE reading SET gravity = 12.65",
        "UPDATE reading SET kind = 'guess'",
        "UPDATE reading SET taken_at = 'noon'",
        "UPDATE round SET conditions = '{\"hours'",
        "UPDATE round SET started_at = 'yesterday'",
        "UPDATE instrument SET body = 'a stick'",
    ] {
        let (shop, _, round) = spoilt(sql).await;
        let path = format!("/api/rounds/{round}");
        let (status, said): (StatusCode, Value) =
            answer(shop.request(Method::GET, &path).send().await.unwrap()).await;
        assert_eq!(status, StatusCode::INTERNAL_SERVER_ERROR, "{sql}: {said}");
        assert_eq!(said["type"], "/problems/internal", "{sql}");
        assert!(!said.to_string().contains("12.65"), "causes are logged, not shown: {said}");
        assert_eq!(shop.get("/api/meta").await["empty"], false, "the server goes on after {sql}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_judgement_of_older_rules_is_derived_anew_when_it_is_looked_at() {
    let (shop, bank, _) =
        spoilt("UPDATE assessment SET rules_revision = 0, verdict = 'stale', body = '{}'").await;
    let page = shop.get(&format!("/api/banks/{bank}")).await;
    assert_eq!(page["verdict"], "One cell read, 5 not read: nothing to compare it with yet.");
    assert_eq!(page["history"][0]["verdict"], page["verdict"]);
}

#[test]
fn a_folder_of_the_first_schema_keeps_every_row_when_it_is_opened() {
    let folder = tempfile::tempdir().unwrap();
    {
        let old = open(folder.path());
        old.execute_batch(include_str!("../migrations/0001_first_round.sql")).unwrap();
        old.pragma_update(None, "user_version", 1).unwrap();
        // what the first schema and this one share of the demo: a bank, its round, its readings
        let seeded = tempfile::tempdir().unwrap();
        demo(seeded.path(), "2026-10-08");
        let source = seeded.path().join("rainshadow.db");
        old.execute("ATTACH ? AS now", [source.to_str().unwrap()]).unwrap();
        old.pragma_update(None, "foreign_keys", false).unwrap();
        for table in [
            "person",
            "site",
            "battery_model",
            "house_rules",
            "instrument",
            "bank",
            "layout",
            "block",
            "placement",
            "visit",
            "round",
            "reading",
        ] {
            // Columns that went since are left empty.
            let columns = dump(
                &old,
                &format!(
                    "SELECT name FROM pragma_table_info('{table}', 'main') \
                     WHERE name IN (SELECT name FROM pragma_table_info('{table}', 'now'))"
                ),
            )
            .iter()
            .map(|c| c.trim_start_matches("[Text(\"").trim_end_matches("\")]").to_owned())
            .collect::<Vec<_>>()
            .join(", ");
            old.execute(
                &format!("INSERT INTO main.{table} ({columns}) SELECT {columns} FROM now.{table}"),
                [],
            )
            .unwrap();
        }
    }
    let counts = "SELECT (SELECT count(*) FROM bank), (SELECT count(*) FROM round), (SELECT count(*) FROM reading), (SELECT count(*) FROM visit)";
    let before = dump(&open(folder.path()), counts);
    let every = "SELECT seq, id, round_id, block_id, cell, kind, gravity, typed, temperature, temperature_typed, \
                 temperature_unit, reason, stands, supersedes, person, device, taken_at, received_at, sent \
                 FROM reading ORDER BY seq";
    let readings = dump(&open(folder.path()), every);
    drop(Db::open(folder.path()).unwrap());
    let after = open(folder.path());
    assert_eq!(dump(&after, counts), before);
    assert_eq!(dump(&after, every), readings);
    // who it was is told by the initials alone, as it was written then
    assert_eq!(dump(&after, "SELECT count(person_id) FROM reading"), ["[Integer(0)]"]);
    assert!(dump(&after, "SELECT * FROM pragma_foreign_key_check").is_empty());
    let untouched =
        "SELECT count(*) = (SELECT count(*) FROM bank) FROM bank WHERE access = '{}' AND keeper = ''";
    assert_eq!(dump(&after, untouched), ["[Integer(1)]"]);
}
