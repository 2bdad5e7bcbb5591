//! The demo as it is written from the journals: the same truth in every figure, on any day of any year.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use rainshadow::db::Db;
use rainshadow::demo::DemoBank;
use rusqlite::Connection;
use serde_json::Value;
use std::process::Command;

/// The demo made for a day.
fn made(day: &str) -> (tempfile::TempDir, Connection) {
    let folder = tempfile::tempdir().unwrap();
    let db = Db::open(folder.path()).unwrap();
    let told = indicatif::ProgressBar::hidden();
    db.write_now(|tx| rainshadow::demo::seed(tx, day.parse().unwrap(), &told)).unwrap();
    assert_eq!(Some(told.position()), told.length(), "banks are counted to the last");
    drop(db);
    let open = Connection::open(folder.path().join("rainshadow.db")).unwrap();
    (folder, open)
}

fn text(db: &Connection, sql: &str) -> Vec<String> {
    let mut query = db.prepare(sql).unwrap();
    let rows = query.query_map([], |row| row.get::<_, Option<String>>(0)).unwrap();
    rows.map(|r| r.unwrap().unwrap_or_default()).collect()
}

#[test]
fn seasons_move_along_with_the_day_that_the_demo_is_made_for() {
    for (day, opens, closes, frost, wet) in [
        ("2026-10-08", "05-20", "10-18", "10-20", "11-01"),
        ("2027-03-01", "10-11", "03-11", "03-13", "03-25"),
        ("2028-02-29", "10-11", "03-10", "03-12", "03-24"),
    ] {
        let (_folder, db) = made(day);
        assert_eq!(
            text(&db, "SELECT season_opens FROM bank WHERE season_opens IS NOT NULL"),
            [opens],
            "{day}"
        );
        assert_eq!(
            text(&db, "SELECT season_closes FROM bank WHERE season_closes IS NOT NULL"),
            [closes],
            "{day}"
        );
        assert_eq!(text(&db, "SELECT first_frost FROM site WHERE first_frost IS NOT NULL"), [frost], "{day}");
        assert_eq!(text(&db, "SELECT wet_season FROM site WHERE wet_season IS NOT NULL"), [wet], "{day}");
    }
}

/// What an entry of visits tells, by bank: its key and its figure.
fn entries(db: &Connection, site: &str, kind: &str, figure: &str) -> Vec<f64> {
    let sql = format!(
        "SELECT e.body FROM visit_entry e JOIN visit v ON v.id = e.visit_id JOIN bank b ON b.id = v.bank_id \
         JOIN site s ON s.id = b.site_id WHERE s.name = '{site}' ORDER BY e.taken_at"
    );
    let all = text(db, &sql);
    let tells = |body: &String| {
        let body: Value = serde_json::from_str(body).ok()?;
        (body["kind"] == kind).then(|| body[figure].as_f64()).flatten()
    };
    all.iter().filter_map(tells).collect()
}

#[test]
fn what_is_poured_is_what_the_cells_lost() {
    let (_folder, db) = made("2026-10-08");
    for (site, bank) in [("Arboretum tram 4", "arboretum_tram"), ("High Pasture hut", "high_pasture")] {
        let poured: f64 = entries(&db, site, "water", "millilitres").iter().sum();
        let journal = DemoBank::by_name(bank).unwrap().unwrap().journal;
        let lost: f64 = journal
            .0
            .iter()
            .filter_map(|line| match line {
                rainshadow::demo::Line::Day(day) => Some(day.cells.iter().map(|c| c.lost()).sum::<f64>()),
                _ => None,
            })
            .sum();
        assert!(poured > 10_000.0, "{site}: {poured} mL");
        // the jug is read to 5 mL, the eye is off by a few per cent; one visit of the hut fills nothing
        assert!((poured / lost - 1.0).abs() < 0.06, "{site}: poured {poured}, lost {lost}");
    }
}

#[test]
fn volts_at_rest_are_those_of_the_acid_that_was_read() {
    let (_folder, db) = made("2026-10-08");
    let volts = entries(&db, "Larch Point repeater", "battery_volts", "volts");
    let journal = DemoBank::by_name("larch_point").unwrap().unwrap().journal;
    let last = journal.day(1).unwrap();
    let read = &volts[volts.len() - 12..];
    for (volts, cell) in read.iter().zip(&last.cells) {
        assert!((volts - cell.volts()).abs() < 0.02, "{volts} of {}", cell.volts());
        // SG-3: rest volts of a cell are its gravity and 0.845, within what the table bends
        assert!((cell.volts() - cell.gravity() - 0.845).abs() < 0.02, "{cell:?}");
    }
}

fn simulate(bank: &[&str]) -> (bool, String) {
    let program = env!("CARGO_BIN_EXE_rainshadow");
    let done = Command::new(program).args(["simulate", "years"]).args(bank).output().unwrap();
    let said = if done.status.success() { done.stdout } else { done.stderr };
    (done.status.success(), String::from_utf8(said).unwrap())
}

#[test]
fn the_years_of_a_bank_are_printed_and_an_unknown_one_is_refused_with_the_known_ones() {
    let (fine, names) = simulate(&[]);
    assert!(fine && names.trim().split(", ").count() == 6, "{names}");
    let (fine, said) = simulate(&["atlantis"]);
    assert!(!fine && said.contains("there is no demo bank “atlantis”; accepted is kestrel_dome"), "{said}");
    let (fine, journal) = simulate(&["larch_point"]);
    assert!(fine);
    let first: Value = serde_json::from_str(journal.lines().next().unwrap()).unwrap();
    assert_eq!((first["day"]["days_ago"].as_i64(), journal.lines().count()), (Some(1096), 9));
}
