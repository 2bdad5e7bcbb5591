//! A folder that ails: looked over, set right as far as it can be, and one bad row holds up no other bank.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{Shop, id, seeded};
use base64::Engine as _;
use rainshadow::doctor::{look, repair};
use reqwest::{Method, StatusCode};
use serde_json::json;
use std::path::Path;
use std::process::Command;
use std::sync::LazyLock;
use tempfile::TempDir;

fn sql(folder: &Path, statement: &str) {
    let db = rusqlite::Connection::open(folder.join("rainshadow.db")).unwrap();
    db.execute_batch("PRAGMA foreign_keys = OFF").unwrap();
    assert!(db.execute(statement, []).unwrap() > 0, "{statement}");
}

/// Made once: each test has a copy.
fn demo() -> TempDir {
    static MADE: LazyLock<TempDir> = LazyLock::new(|| {
        let folder = tempfile::tempdir().unwrap();
        seeded(folder.path());
        folder
    });
    copy_of(MADE.path())
}

fn copy_of(folder: &Path) -> TempDir {
    let copy = tempfile::tempdir().unwrap();
    let done = Command::new("cp").arg("-r").arg(folder.join(".")).arg(copy.path()).status().unwrap();
    assert!(done.success());
    copy
}

#[test]
fn a_sound_folder_is_sound_while_a_server_runs_on_it() {
    let folder = demo();
    let running = rainshadow::db::Db::open(folder.path()).unwrap();
    let found = look(folder.path()).unwrap();
    assert_eq!((found.faults, found.notes), (Vec::new(), Vec::new()));
    assert!(repair(folder.path()).unwrap_err().to_string().contains("locked by another program"));
    drop(running);
}

#[test]
fn every_kind_of_row_is_named_when_it_cannot_be_read() {
    for (statement, words) in [
        ("UPDATE reading SET gravity = 12.65 WHERE seq = 7", "row 7 of reading cannot be read: gravity"),
        ("UPDATE reading SET kind = 'guess' WHERE seq = 8", "of reading cannot be read: kind"),
        (
            "UPDATE visit_entry SET body = '{\"kind\":\"ghost\"}' WHERE seq = 3",
            "of visit_entry cannot be read: body",
        ),
        ("UPDATE round SET conditions = '{\"hours' WHERE rowid = 2", "of round cannot be read: conditions"),
        ("UPDATE site SET zone = 'Nowhere/Land' WHERE rowid = 1", "of site cannot be read: zone"),
        ("UPDATE instrument SET body = 'a stick' WHERE id = 1", "of instrument cannot be read: body"),
        ("UPDATE equipment SET at = 'noon' WHERE rowid = 1", "of equipment cannot be read: at"),
        ("UPDATE run SET plan = '{}'", "of run cannot be read: plan"),
        (
            "UPDATE layout SET shape = json_set(shape, '$.series', 0) WHERE rowid = 1",
            "of layout cannot be read: shape",
        ),
        ("UPDATE battery_model SET body = '{}' WHERE rowid = 1", "of battery_model cannot be read: body"),
        ("UPDATE site SET wet_season = 'often' WHERE rowid = 1", "of site cannot be read: wet_season"),
        ("UPDATE equipment SET typed = '{'", "of equipment cannot be read: typed"),
        (
            "INSERT INTO plan (id, planner, name, entries, begun, unit, said, made_at, person, device, sent) \
             VALUES ('p', 'dance', '', '{}', '{}', 'C', '', '2026-10-08T09:00:00Z', '', '', '')",
            "of plan cannot be read: planner dance is no planner",
        ),
        (
            "INSERT INTO plan (id, planner, name, entries, begun, unit, said, made_at, person, device, sent) \
             VALUES ('p', 'storage', '', '{}', '{}', 'K', '', '2026-10-08T09:00:00Z', '', '', '')",
            "of plan cannot be read: unit",
        ),
        ("UPDATE record_import SET source = '[]'", "of record_import cannot be read: source"),
        ("UPDATE record_import SET told = '{'", "of record_import cannot be read: told"),
        (
            "UPDATE record_day SET minutes = substr(minutes, 1, 20) WHERE rowid = 3",
            "row 3 of record_day cannot be read: minutes it breaks off inside a row",
        ),
        ("DELETE FROM site WHERE rowid = 1", "point at rows that are not there"),
    ] {
        let folder = demo();
        sql(folder.path(), statement);
        let faults = look(folder.path()).unwrap().faults;
        assert!(faults.iter().any(|f| f.contains(words)), "{statement}: {faults:?}");
    }
}

#[test]
fn a_bad_reading_is_set_aside_with_what_took_its_place_and_the_rest_is_judged_anew() {
    let folder = demo();
    let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    let first: i64 = db
        .query_row("SELECT seq FROM reading WHERE id IN (SELECT supersedes FROM reading)", [], |row| {
            row.get(0)
        })
        .unwrap();
    let rows = |table: &str| -> i64 {
        db.query_row(&format!("SELECT count(*) FROM {table}"), [], |row| row.get(0)).unwrap()
    };
    let before = rows("reading");
    sql(folder.path(), &format!("UPDATE reading SET taken_at = 'noon' WHERE seq = {first}"));
    let found = repair(folder.path()).unwrap();
    assert_eq!(found.faults, Vec::<String>::new());
    assert!(found.repaired.iter().any(|r| r.contains("2 set aside")), "{:?}", found.repaired);
    assert_eq!((rows("reading"), rows("set_aside")), (before - 2, 2));
    let (table, reason, contents): (String, String, String) = db
        .query_row("SELECT from_table, reason, contents FROM set_aside", [], |r| {
            Ok((r.get(0)?, r.get(1)?, r.get(2)?))
        })
        .unwrap();
    assert!(
        table == "reading" && reason.contains("taken_at") && contents.contains("\"gravity\":"),
        "{contents}"
    );
    assert_eq!(look(folder.path()).unwrap().faults, Vec::<String>::new());
}

#[test]
fn a_cache_that_differs_from_what_it_is_derived_of_is_found_and_derived_anew() {
    let folder = demo();
    sql(folder.path(), "UPDATE assessment SET verdict = 'All is well.' WHERE rowid = 3");
    let faults = look(folder.path()).unwrap().faults;
    assert!(faults.len() == 1 && faults[0].contains("the judgement of round"), "{faults:?}");
    assert_eq!(repair(folder.path()).unwrap().faults, Vec::<String>::new());
}

#[tokio::test(flavor = "multi_thread")]
async fn photographs_that_are_gone_altered_or_listed_nowhere_are_told_apart() {
    let shop = Shop::open().await;
    let bank = shop.bank().await;
    let visit = id();
    shop.put(&format!("/api/visits/{visit}"), &json!({"bank": bank})).await;
    for shade in [10, 60] {
        let path = format!("/api/visits/{visit}/photos/{}?what=other", id());
        shop.request(Method::PUT, &path).body(crate::common::jpeg(40, 30, shade)).send().await.unwrap();
    }
    let folder = shop.close().await;
    let photos = folder.path().join("photos");
    let files: Vec<_> = std::fs::read_dir(&photos).unwrap().map(|e| e.unwrap().path()).collect();
    std::fs::remove_file(&files[0]).unwrap();
    std::fs::write(&files[1], "painted over").unwrap();
    std::fs::write(photos.join("holiday.jpg"), "mine").unwrap();
    let found = look(folder.path()).unwrap();
    let all = found.faults.join("\n");
    assert!(all.contains("is listed and missing") && all.contains("was altered"), "{all}");
    assert!(
        found.notes.iter().any(|n| n.contains("photos/holiday.jpg is listed nowhere")),
        "{:?}",
        found.notes
    );
    assert!(photos.join("holiday.jpg").exists(), "nothing is deleted");
}

#[test]
fn a_log_that_is_lost_is_told_and_done_without_when_that_is_wanted() {
    let folder = demo();
    let running = rainshadow::db::Db::open(folder.path()).unwrap();
    let copy = tempfile::tempdir().unwrap();
    for name in ["rainshadow.db", "rainshadow.db-wal-expected"] {
        std::fs::copy(folder.path().join(name), copy.path().join(name)).unwrap();
    }
    drop(running);
    assert!(look(copy.path()).unwrap().faults[0].contains("the log of the database is missing"));
    let found = repair(copy.path()).unwrap();
    assert!(found.repaired[0].contains("without its log") && found.faults.is_empty(), "{found:?}");
    drop(rainshadow::db::Db::open(copy.path()).unwrap());
}

#[test]
fn the_command_says_what_it_found_and_fails_when_something_is_wrong() {
    let folder = demo();
    let run = |repair: bool| {
        let mut command = Command::new(env!("CARGO_BIN_EXE_rainshadow"));
        command.arg("doctor").arg("--data-dir").arg(folder.path());
        if repair {
            command.arg("--repair");
        }
        let output = command.output().unwrap();
        (output.status.success(), String::from_utf8(output.stdout).unwrap())
    };
    let (sound, said) = run(false);
    assert!(sound && said.ends_with("is sound\n"), "{said}");
    sql(folder.path(), "UPDATE equipment SET at = 'soon'");
    sql(folder.path(), "UPDATE visit_entry SET taken_at = 'then' WHERE seq = 4");
    let (sound, said) = run(false);
    assert!(!sound && said.contains("fault: row 4 of visit_entry"), "{said}");
    let (sound, said) = run(true);
    assert!(sound && said.contains("repaired: ") && said.ends_with("is sound\n"), "{said}");
}

#[tokio::test(flavor = "multi_thread")]
async fn one_bad_row_takes_neither_today_nor_list_nor_calendar_down_for_the_others() {
    for statement in [
        "UPDATE visit_entry SET body = '{}' WHERE visit_id IN (SELECT id FROM visit WHERE bank_id = (SELECT b.id FROM bank b JOIN site s ON s.id = b.site_id WHERE s.name = 'Dipper'))",
        "UPDATE bank SET access = 'x' WHERE site_id = (SELECT id FROM site WHERE name = 'Dipper')",
        "UPDATE layout SET shape = json_set(shape, '$.system_voltage', 7) WHERE bank_id = (SELECT b.id FROM bank b JOIN site s ON s.id = b.site_id WHERE s.name = 'Dipper')",
    ] {
        let folder = demo();
        sql(folder.path(), statement);
        let shop = Shop::open_in(folder).await;
        let today = shop.get("/api/today").await;
        assert!(today["total"].as_i64().unwrap() > 0, "{statement}");
        let told = &today["unreadable"];
        assert_eq!(told.as_array().unwrap().len(), 1, "{statement}: {told}");
        assert!(told[0]["place"].as_str().unwrap().starts_with("Dipper"), "{told}");
        assert!(told[0]["why"].as_str().unwrap().contains("rainshadow doctor"), "{told}");
        let list = shop.get("/api/banks").await;
        let (bad, good): (Vec<_>, Vec<_>) =
            list.as_array().unwrap().iter().partition(|b| b["unreadable"] == true);
        assert_eq!((bad.len(), good.len()), (1, 5), "{statement}: {list}");
        assert!(bad[0]["verdict"].as_str().unwrap().contains("cannot be read"), "{}", bad[0]);
        let calendar = shop.request(Method::GET, "/api/calendar.ics").send().await.unwrap();
        assert_eq!(calendar.status(), StatusCode::OK);
        assert!(calendar.text().await.unwrap().contains("Kestrel Dome"));
    }
}

#[test]
fn a_file_of_a_monitor_that_cannot_be_read_is_set_aside_with_its_days() {
    let folder = demo();
    let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    let rows = |table: &str| -> i64 {
        db.query_row(&format!("SELECT count(*) FROM {table}"), [], |row| row.get(0)).unwrap()
    };
    let (files, days) = (rows("record_import"), rows("record_day"));
    assert!(files == 1 && days > 300);
    let first: Vec<u8> =
        db.query_row("SELECT minutes FROM record_day ORDER BY rowid", [], |row| row.get(0)).unwrap();
    sql(folder.path(), "UPDATE record_import SET other_way = 'nope'");
    let found = repair(folder.path()).unwrap();
    assert_eq!(found.faults, Vec::<String>::new());
    assert_eq!((rows("record_import"), rows("record_day"), rows("set_aside")), (0, 0, days + 1));
    // the minutes are there as they were
    let kept: String = db
        .query_row(
            "SELECT contents FROM set_aside WHERE from_table = 'record_day' ORDER BY rowid",
            [],
            |row| row.get(0),
        )
        .unwrap();
    let kept: serde_json::Value = serde_json::from_str(&kept).unwrap();
    let bytes = base64::prelude::BASE64_STANDARD.decode(kept["minutes"].as_str().unwrap()).unwrap();
    assert_eq!(bytes, first);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_derived_row_that_cannot_be_read_is_derived_anew_when_somebody_looks() {
    let shop = Shop::open_in(demo()).await;
    shop.get("/api/today").await;
    let before = shop.get("/api/banks").await;
    let sound = shop.close().await;
    for statements in [
        ["UPDATE due_item SET body = '{' WHERE place = 0", "UPDATE record_judged SET judged = '{'"],
        ["UPDATE due_item SET task = 'dance'", "UPDATE judged_cell SET corrected = 12.65"],
        ["UPDATE due_item SET day = '2026-00-00'", "UPDATE assessment SET condition = 'dance'"],
        ["UPDATE due_state SET state = '{'", "UPDATE assessment SET body = '{'"],
        ["UPDATE due_state SET forecast = '{'", "DELETE FROM record_judged"],
    ] {
        let folder = copy_of(sound.path());
        for statement in statements {
            sql(folder.path(), statement);
        }
        let shop = Shop::open_in(folder).await;
        let today = shop.get("/api/today").await;
        assert!(today["total"].as_i64().unwrap() > 0, "{statements:?}: {today}");
        assert_eq!(today["unreadable"], json!([]), "{statements:?}");
        assert_eq!(shop.get("/api/banks").await, before, "{statements:?}");
        let calendar = shop.request(Method::GET, "/api/calendar.ics").send().await.unwrap();
        assert_eq!(calendar.status(), StatusCode::OK, "{statements:?}");
        for bank in before.as_array().unwrap() {
            let bank = bank["id"].as_str().unwrap();
            for page in ["", "/diagnosis", "/record"] {
                shop.get(&format!("/api/banks/{bank}{page}")).await;
            }
        }
        assert_eq!(look(shop.close().await.path()).unwrap().faults, Vec::<String>::new(), "{statements:?}");
    }
}
