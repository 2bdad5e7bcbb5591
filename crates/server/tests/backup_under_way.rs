//! Backups taken while others write, and those that are killed.
#![allow(clippy::unwrap_used, clippy::semicolon_if_nothing_returned, reason = "helpers fail loudly")]

use crate::common::seeded;
use rainshadow::backup::{restore, verify, write};
use std::path::Path;
use std::process::{Command, Stdio};
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};

const PROGRAM: &str = env!("CARGO_BIN_EXE_rainshadow");

/// Ends the writer, whatever happens to the test.
struct Ends<'a>(&'a AtomicBool);
impl Drop for Ends<'_> {
    fn drop(&mut self) {
        self.0.store(true, Ordering::SeqCst);
    }
}

/// Names in a folder, sorted.
fn names(folder: &Path) -> Vec<String> {
    let mut all: Vec<String> =
        std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().file_name().into_string().unwrap()).collect();
    all.sort();
    all
}

#[test]
fn a_backup_ends_while_others_write_and_holds_one_moment() {
    let folder = tempfile::tempdir().unwrap();
    seeded(folder.path());
    let (done, written) = (AtomicBool::new(false), AtomicU32::new(0));
    let out = tempfile::tempdir().unwrap();
    std::thread::scope(|scope| {
        let _ends = Ends(&done);
        scope.spawn(|| {
            let db = rusqlite::Connection::open(folder.path().join("rainshadow.db")).unwrap();
            while !done.load(Ordering::SeqCst) {
                // two rows that belong together
                db.execute_batch(
                    "BEGIN; INSERT INTO event_log (at, what, subject) VALUES ('', 'twin', 'a'); \
                     INSERT INTO event_log (at, what, subject) VALUES ('', 'twin', 'b'); COMMIT;",
                )
                .unwrap();
                written.fetch_add(1, Ordering::SeqCst);
            }
        });
        while written.load(Ordering::SeqCst) == 0 {
            std::thread::yield_now();
        }
        for n in 0..5 {
            let file = out.path().join(format!("{n}.tar"));
            write(folder.path(), &file).unwrap();
            let target = out.path().join(format!("{n}"));
            restore(&file, &target, false, &indicatif::ProgressBar::hidden()).unwrap();
            let db = rusqlite::Connection::open(target.join("rainshadow.db")).unwrap();
            let twins: i64 =
                db.query_row("SELECT count(*) FROM event_log WHERE what = 'twin'", [], |r| r.get(0)).unwrap();
            assert!(twins > 0 && twins % 2 == 0, "{twins}");
        }
    });
}

#[test]
fn a_backup_that_is_killed_leaves_nothing_beside_its_file() {
    let folder = tempfile::tempdir().unwrap();
    seeded(folder.path());
    for spin in 0..12u32 {
        let out = tempfile::tempdir().unwrap();
        let mut child = Command::new(PROGRAM)
            .arg("backup")
            .arg(out.path().join("b.tar"))
            .arg("--data-dir")
            .arg(folder.path())
            .stdout(Stdio::null())
            .spawn()
            .unwrap();
        // killed earlier and later, by the amount of work done meanwhile and not by a clock
        for _ in 0..spin * 40 {
            let _ = names(folder.path());
        }
        child.kill().unwrap();
        child.wait().unwrap();
        let left = names(out.path());
        assert!(left.is_empty() || left == ["b.tar"], "{left:?}");
        if !left.is_empty() {
            verify(&out.path().join("b.tar"), &indicatif::ProgressBar::hidden()).unwrap();
        }
    }
}
