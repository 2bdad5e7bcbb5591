//! The folder of the demo: one that it made empty itself, and no other.

use crate::db::{Db, DbError, Held, OpenError, demo_made, is_demo, open_to_read, typed_digest};
use indicatif::ProgressBar;
use jiff::Timestamp;
use jiff::civil::Date;
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Why the demo did not start; nothing was touched.
#[derive(Debug, Error)]
pub enum DemoFolderError {
    /// Somebody else's folder.
    #[error(
        "{0} was not made by this demo, so it is left alone; name a folder that is empty or not there yet with --data-dir"
    )]
    NotOurs(PathBuf),
    /// The file system.
    #[error("the demo folder {path} cannot be made or renewed: {why}")]
    Files {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: std::io::Error,
    },
    /// It could not be opened.
    #[error("{0}")]
    Open(#[from] OpenError),
    /// It could not be written.
    #[error("the demo could not be written: {0}")]
    Seed(#[from] DbError),
}

/// Where the demo says that it made a folder: its id there, and what it held when it was new.
const MARK: &str = "rainshadow-demo";
/// What a folder of the demo holds; with anything else in it, it is kept.
const KNOWN: [&str; 7] = [
    MARK,
    "rainshadow.db",
    "rainshadow.db-wal",
    "rainshadow.db-shm",
    "rainshadow.db-wal-expected",
    "rainshadow.lock",
    crate::photos::FOLDER,
];

fn is_empty(folder: &Path) -> std::io::Result<bool> {
    match std::fs::read_dir(folder) {
        Ok(mut entries) => Ok(entries.next().is_none()),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => Ok(true),
        Err(error) => Err(error),
    }
}

/// Id and first digest from the mark of a folder; none where it was not made by this demo.
fn mark(folder: &Path) -> Option<(String, String)> {
    let text = std::fs::read_to_string(folder.join(MARK)).ok()?;
    let line = |name: &str| text.lines().find_map(|l| l.strip_prefix(name)).map(|v| v.trim().to_owned());
    let (id, digest) = (line("folder ")?, line("contents ").unwrap_or_default());
    // A mark is easily copied or planted: the database must know it.
    let db = open_to_read(folder).ok()?;
    is_demo(&db, &id).ok()?.then_some((id, digest))
}

fn make(folder: &Path, today: Date, now: Timestamp, told: &ProgressBar) -> Result<(), DemoFolderError> {
    let id = uuid::Uuid::now_v7().to_string();
    let db = Db::open(folder)?;
    let digest = db.write_now(|tx| {
        super::seed(tx, today, told)?;
        demo_made(tx, &id, now)?;
        typed_digest(tx)
    })?;
    let text = format!("made by `rainshadow demo`\nfolder {id}\ncontents {digest}\n");
    std::fs::write(folder.join(MARK), text)
        .map_err(|why| DemoFolderError::Files { path: folder.to_owned(), why })
}

/// A name beside the folder that is free: "demo-data-kept-2026-10-08".
fn aside(folder: &Path) -> PathBuf {
    let day = crate::words::local_day(Timestamp::now(), "UTC");
    let name = folder.file_name().unwrap_or_default().to_string_lossy().into_owned();
    let named = |end: &str| folder.with_file_name(format!("{name}-kept-{day}{end}"));
    let numbered = (2..).map(|n| named(&format!("-{n}")));
    std::iter::once(named("")).chain(numbered).find(|path| !path.exists()).unwrap_or_else(|| named("-x"))
}

/// Takes an old demo away: deleted when nothing was typed into it, else kept under another name,
/// which is answered.
fn take_away(folder: &Path, digest: &str) -> Result<Option<PathBuf>, DemoFolderError> {
    let files = |why| DemoFolderError::Files { path: folder.to_owned(), why };
    // A server that runs on it holds it.
    let held = Held::take(folder)?;
    let untouched = open_to_read(folder).is_ok_and(|db| typed_digest(&db).is_ok_and(|now| now == digest));
    let mut entries = std::fs::read_dir(folder).map_err(files)?;
    let ours = entries.all(|e| e.is_ok_and(|e| e.file_name().to_str().is_some_and(|n| KNOWN.contains(&n))));
    let kept = if untouched && ours {
        std::fs::remove_dir_all(folder).map_err(files)?;
        None
    } else {
        let aside = aside(folder);
        std::fs::rename(folder, &aside).map_err(files)?;
        Some(aside)
    };
    drop(held);
    Ok(kept)
}

/// Makes the demo where nothing is yet, or leaves one that it made before as it is; renewed when asked.
/// Where the old one holds something that was typed, the answer is where it was moved to. `told` counts
/// the banks that are written.
///
/// # Errors
/// [`DemoFolderError`] in one line; a folder that the demo did not make is never touched.
pub fn prepare(
    folder: &Path,
    fresh: bool,
    today: Date,
    now: Timestamp,
    told: &ProgressBar,
) -> Result<Option<PathBuf>, DemoFolderError> {
    let files = |why| DemoFolderError::Files { path: folder.to_owned(), why };
    if is_empty(folder).map_err(files)? {
        make(folder, today, now, told)?;
        return Ok(None);
    }
    let (_, digest) = mark(folder).ok_or_else(|| DemoFolderError::NotOurs(folder.to_owned()))?;
    if !fresh {
        return Ok(None);
    }
    let kept = take_away(folder, &digest)?;
    make(folder, today, now, told)?;
    Ok(kept)
}
