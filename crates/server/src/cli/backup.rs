//! `rainshadow backup` and `rainshadow restore`: everything in one file, photographs included.

use crate::photos;
use clap::Args;
use rusqlite::backup::Backup;
use rusqlite::{Connection, OpenFlags};
use std::fs::File;
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::time::Duration;
use thiserror::Error;

/// Name of the database in the folder and in the backup.
const DATABASE: &str = "rainshadow.db";
/// Pages copied at a time, so that a running server goes on writing.
const PAGES: i32 = 256;

/// What to back up, and into which file.
#[derive(Debug, Args)]
pub struct BackupArgs {
    /// The file to write; it must not be there yet.
    pub file: PathBuf,
    /// The data folder; the server may be running on it.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
}

/// What to restore, and into which folder.
#[derive(Debug, Args)]
pub struct RestoreArgs {
    /// A file that `rainshadow backup` wrote.
    pub file: PathBuf,
    /// The folder to restore into; it must be empty or not there yet.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
}

/// Why it was not done; what was there before is untouched.
#[derive(Debug, Error)]
pub enum BackupError {
    /// No database in the folder.
    #[error("there is no Rainshadow data in {0}")]
    NoData(PathBuf),
    /// The file is there already.
    #[error("{0} is there already; name another file, nothing was overwritten")]
    FileThere(PathBuf),
    /// The folder holds something.
    #[error("{0} is not empty; restore into an empty folder, nothing was touched")]
    NotEmpty(PathBuf),
    /// Not a backup.
    #[error("{0} is no backup of Rainshadow, or it is damaged")]
    NotABackup(PathBuf),
    /// A file.
    #[error("{path}: {why}")]
    File {
        /// Which.
        path: PathBuf,
        /// Why.
        why: std::io::Error,
    },
    /// The database.
    #[error("the database could not be copied: {0}")]
    Database(#[from] rusqlite::Error),
}

fn file(path: &Path) -> impl FnOnce(std::io::Error) -> BackupError + '_ {
    move |why| BackupError::File { path: path.to_owned(), why }
}

/// Copies the database as of one moment, then every photograph it lists: a photograph is written
/// before its row, so none that is listed is missing.
///
/// # Errors
/// [`BackupError`] in one line; a half-written file is taken away again.
pub fn backup(args: &BackupArgs) -> Result<(), BackupError> {
    let source = args.data_dir.join(DATABASE);
    if !source.exists() {
        return Err(BackupError::NoData(args.data_dir.clone()));
    }
    if args.file.exists() {
        return Err(BackupError::FileThere(args.file.clone()));
    }
    let part = args.file.with_extension("part");
    let copy = args.file.with_extension("part-db");
    let result = write(args, &source, &copy, &part);
    let _ = std::fs::remove_file(&copy);
    match result {
        Ok(count) => {
            std::fs::rename(&part, &args.file).map_err(file(&args.file))?;
            let _ = writeln!(std::io::stdout(), "{} written, {count} photographs", args.file.display());
            Ok(())
        }
        Err(error) => {
            let _ = std::fs::remove_file(&part);
            Err(error)
        }
    }
}

fn write(args: &BackupArgs, source: &Path, copy: &Path, part: &Path) -> Result<usize, BackupError> {
    let live = Connection::open_with_flags(source, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    let mut snapshot = Connection::open(copy)?;
    Backup::new(&live, &mut snapshot)?.run_to_completion(PAGES, Duration::from_millis(5), None)?;
    let mut query = snapshot.prepare("SELECT hash FROM photo UNION SELECT small_hash FROM photo")?;
    let hashes: Vec<String> = query.query_map([], |row| row.get(0))?.collect::<Result<_, _>>()?;
    drop(query);
    snapshot.execute_batch("PRAGMA journal_mode = DELETE;")?;
    snapshot.close().map_err(|(_, error)| error)?;
    let mut archive = tar::Builder::new(File::create(part).map_err(file(part))?);
    archive.append_path_with_name(copy, DATABASE).map_err(file(copy))?;
    let mut count = 0;
    for hash in &hashes {
        let path = photos::file_of(&args.data_dir, hash);
        if path.exists() {
            archive.append_path_with_name(&path, format!("photos/{hash}.jpg")).map_err(file(&path))?;
            count += 1;
        }
    }
    let out = archive.into_inner().map_err(file(part))?;
    out.sync_all().map_err(file(part))?;
    Ok(count)
}

/// Unpacks a backup into an empty folder and looks whether it is sound.
///
/// # Errors
/// [`BackupError`] in one line; a folder that was not empty is untouched.
pub fn restore(args: &RestoreArgs) -> Result<(), BackupError> {
    let folder = &args.data_dir;
    let holds = std::fs::read_dir(folder).is_ok_and(|mut dir| dir.next().is_some());
    if holds {
        return Err(BackupError::NotEmpty(folder.clone()));
    }
    let not_a_backup = || BackupError::NotABackup(args.file.clone());
    let mut archive = tar::Archive::new(File::open(&args.file).map_err(file(&args.file))?);
    let mut names = Vec::new();
    std::fs::create_dir_all(folder).map_err(file(folder))?;
    for entry in archive.entries().map_err(|_tar| not_a_backup())? {
        let mut entry = entry.map_err(|_tar| not_a_backup())?;
        let name = entry.path().map_err(|_tar| not_a_backup())?.to_string_lossy().into_owned();
        let photo = name
            .strip_prefix("photos/")
            .and_then(|n| n.strip_suffix(".jpg"))
            .is_some_and(|hash| hash.len() == 64 && hash.bytes().all(|b| b.is_ascii_hexdigit()));
        if name != DATABASE && !photo {
            return Err(not_a_backup());
        }
        let target = folder.join(&name);
        if let Some(parent) = target.parent() {
            std::fs::create_dir_all(parent).map_err(file(parent))?;
        }
        entry.unpack(&target).map_err(|_tar| not_a_backup())?;
        names.push(name);
    }
    if !names.iter().any(|n| n == DATABASE) {
        return Err(not_a_backup());
    }
    let restored = Connection::open(folder.join(DATABASE))?;
    let sound: String = restored.query_row("PRAGMA integrity_check(1)", [], |row| row.get(0))?;
    if sound != "ok" {
        return Err(not_a_backup());
    }
    let _ = writeln!(
        std::io::stdout(),
        "restored into {}: the database and {} photographs",
        folder.display(),
        names.len() - 1
    );
    Ok(())
}
