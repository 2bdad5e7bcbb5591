//! The data folder and the demo's: what is held, what is refused, what is never deleted unasked.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::Shop;
use rainshadow::db::Db;
use rainshadow::demo::prepare;
use std::path::{Path, PathBuf};
use tempfile::TempDir;

fn names(folder: &Path) -> Vec<String> {
    let entries = std::fs::read_dir(folder).unwrap();
    let mut all: Vec<String> = entries.map(|e| e.unwrap().file_name().into_string().unwrap()).collect();
    all.sort();
    all
}

fn demo(folder: &Path, fresh: bool) -> Result<Option<PathBuf>, String> {
    let now = "2026-10-08T09:00:00Z".parse().unwrap();
    prepare(folder, fresh, "2026-10-08".parse().unwrap(), now, &indicatif::ProgressBar::hidden())
        .map_err(|e| e.to_string())
}

fn refusal(folder: &Path) -> String {
    Db::open(folder).err().unwrap().to_string()
}

fn banks(folder: &Path) -> i64 {
    let db = rusqlite::Connection::open(folder.join("rainshadow.db")).unwrap();
    db.query_row("SELECT count(*) FROM bank", [], |row| row.get(0)).unwrap()
}

fn all_bytes(folder: &Path) -> Vec<(String, Vec<u8>)> {
    names(folder).into_iter().map(|n| (n.clone(), std::fs::read(folder.join(n)).unwrap())).collect()
}

/// A folder somebody works with.
async fn real() -> TempDir {
    let shop = Shop::open().await;
    shop.bank().await;
    shop.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_demo_leaves_a_real_folder_alone_asked_to_renew_it_or_not() {
    let folder = real().await;
    let before = all_bytes(folder.path());
    for fresh in [false, true] {
        let said = demo(folder.path(), fresh).unwrap_err();
        assert!(said.contains("was not made by this demo") && !said.contains('\n'), "{said}");
        assert_eq!(all_bytes(folder.path()), before, "nothing was touched");
    }
    // with the mark of an older version, or one that was copied, it is still not the demo's
    let other = tempfile::tempdir().unwrap();
    demo(&other.path().join("demo"), false).unwrap();
    let mark = std::fs::read_to_string(other.path().join("demo/rainshadow-demo")).unwrap();
    for planted in ["made by `rainshadow demo`\n", &mark] {
        std::fs::write(folder.path().join("rainshadow-demo"), planted).unwrap();
        for fresh in [false, true] {
            assert!(demo(folder.path(), fresh).unwrap_err().contains("was not made by this demo"));
        }
    }
    assert_eq!(banks(folder.path()), 1);
    let notes = tempfile::tempdir().unwrap();
    std::fs::write(notes.path().join("notes.txt"), "mine").unwrap();
    assert!(demo(notes.path(), false).unwrap_err().contains("was not made by this demo"));
    assert_eq!(names(notes.path()), ["notes.txt"]);
}

#[test]
fn a_demo_is_kept_from_start_to_start_and_renewed_when_nothing_was_typed() {
    let top = tempfile::tempdir().unwrap();
    let folder = top.path().join("demo-data");
    assert_eq!(demo(&folder, false), Ok(None));
    assert_eq!(demo(&folder, false), Ok(None));
    assert_eq!(demo(&folder, true), Ok(None));
    assert_eq!((names(top.path()).len(), banks(&folder)), (1, 6));
}

#[test]
fn what_was_typed_into_a_demo_is_moved_aside_and_not_deleted() {
    let top = tempfile::tempdir().unwrap();
    let folder = top.path().join("demo-data");
    demo(&folder, false).unwrap();
    let db = rusqlite::Connection::open(folder.join("rainshadow.db")).unwrap();
    db.execute("UPDATE person SET initials = 'AB' WHERE initials = 'TA'", []).unwrap();
    drop(db);
    let kept = demo(&folder, true).unwrap().unwrap();
    assert!(kept.file_name().unwrap().to_str().unwrap().starts_with("demo-data-kept-20"), "{kept:?}");
    let people = |folder: &Path| -> i64 {
        let db = rusqlite::Connection::open(folder.join("rainshadow.db")).unwrap();
        db.query_row("SELECT count(*) FROM person WHERE initials = 'AB'", [], |row| row.get(0)).unwrap()
    };
    assert_eq!((people(&kept), people(&folder)), (1, 0));
    // a file of somebody's own in it is as good as typed
    std::fs::write(folder.join("wiring.pdf"), "mine").unwrap();
    let again = demo(&folder, true).unwrap().unwrap();
    assert!(again != kept && again.join("wiring.pdf").exists(), "{again:?}");
}

#[test]
fn a_demo_that_is_being_served_is_not_renewed() {
    let top = tempfile::tempdir().unwrap();
    let folder = top.path().join("demo-data");
    demo(&folder, false).unwrap();
    let running = Db::open(&folder).unwrap();
    let said = demo(&folder, true).unwrap_err();
    assert!(said.contains("locked by another program"), "{said}");
    assert_eq!(banks(&folder), 6);
    drop(running);
    demo(&folder, true).unwrap();
}

#[test]
fn a_second_program_is_kept_out_even_when_the_lock_file_is_gone() {
    let folder = tempfile::tempdir().unwrap();
    let running = Db::open(folder.path()).unwrap();
    std::fs::remove_file(folder.path().join("rainshadow.lock")).unwrap();
    assert!(refusal(folder.path()).contains("locked by another program"));
    drop(running);
    drop(Db::open(folder.path()).unwrap());
}

#[test]
fn a_folder_that_lost_something_is_refused_and_keeps_what_it_has() {
    let empty = tempfile::tempdir().unwrap();
    std::fs::write(empty.path().join("rainshadow.db"), "").unwrap();
    assert!(refusal(empty.path()).contains("is empty (0 bytes)"));
    assert_eq!(std::fs::metadata(empty.path().join("rainshadow.db")).unwrap().len(), 0);

    let gone = tempfile::tempdir().unwrap();
    std::fs::create_dir(gone.path().join("photos")).unwrap();
    assert!(refusal(gone.path()).contains("is missing, though its other files are there"));
    assert!(!gone.path().join("rainshadow.db").exists());

    // copied while it was open, without its log
    let open = tempfile::tempdir().unwrap();
    let running = Db::open(open.path()).unwrap();
    let copy = tempfile::tempdir().unwrap();
    for name in ["rainshadow.db", "rainshadow.db-wal-expected"] {
        std::fs::copy(open.path().join(name), copy.path().join(name)).unwrap();
    }
    for _ in 0..2 {
        let said = refusal(copy.path());
        assert!(said.contains("its log rainshadow.db-wal") && said.contains("doctor --repair"), "{said}");
    }
    drop(running);
    // closed properly nothing is missing, here or in a copy of it
    assert_eq!(names(open.path()), ["rainshadow.db", "rainshadow.lock"]);
    drop(Db::open(open.path()).unwrap());
}

#[cfg(unix)]
#[test]
fn others_on_the_machine_cannot_read_the_folder() {
    use std::os::unix::fs::PermissionsExt;
    let top = tempfile::tempdir().unwrap();
    let folder = top.path().join("data");
    let mode = |path: &Path| path.metadata().unwrap().permissions().mode() & 0o777;
    let running = Db::open(&folder).unwrap();
    let files = ["rainshadow.db", "rainshadow.db-wal", "rainshadow.lock", "rainshadow.db-wal-expected"];
    let modes: Vec<u32> = files.iter().map(|name| mode(&folder.join(name))).collect();
    assert_eq!((mode(&folder), modes), (0o700, vec![0o600; 4]));
    drop(running);
    // opened to others, it is closed to them at the next start
    std::fs::set_permissions(&folder, PermissionsExt::from_mode(0o755)).unwrap();
    std::fs::set_permissions(folder.join("rainshadow.db"), PermissionsExt::from_mode(0o644)).unwrap();
    let running = Db::open(&folder).unwrap();
    assert_eq!((mode(&folder), mode(&folder.join("rainshadow.db"))), (0o700, 0o600));
    drop(running);
}

#[test]
fn a_copy_is_made_before_a_migration() {
    let folder = tempfile::tempdir().unwrap();
    let old = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
    for sql in
        [include_str!("../migrations/0001_first_round.sql"), include_str!("../migrations/0002_visits.sql")]
    {
        old.execute_batch(sql).unwrap();
    }
    old.execute("INSERT INTO site (id, name, kind, zone, sent, created_at) VALUES ('s', 'Larch Point', '', 'UTC', '', '')", [])
        .unwrap();
    old.pragma_update(None, "user_version", 2).unwrap();
    drop(old);
    drop(Db::open(folder.path()).unwrap());
    let copies: Vec<String> =
        names(folder.path()).into_iter().filter(|n| n.starts_with("before-schema-3-")).collect();
    assert_eq!(copies.len(), 1, "{copies:?}");
    let copy = rusqlite::Connection::open(folder.path().join(&copies[0])).unwrap();
    let version: i64 = copy.query_row("PRAGMA user_version", [], |row| row.get(0)).unwrap();
    let site: String = copy.query_row("SELECT name FROM site", [], |row| row.get(0)).unwrap();
    assert_eq!((version, site.as_str()), (2, "Larch Point"));
    // opened again, nothing is left to bring up to date
    drop(copy);
    drop(Db::open(folder.path()).unwrap());
    assert_eq!(names(folder.path()).iter().filter(|n| n.starts_with("before-schema-")).count(), 1);
}
