//! Backups: everything in one file that says what must be in it, written, looked at, taken back.

mod manifest;
mod output;
mod read;
mod restore;
mod write;

pub use manifest::{FORMAT, LeftOut, Listed, Manifest};
pub use read::{ArchiveError, verify};
pub use restore::restore;
pub use write::write;

use crate::db::DbError;
use std::path::PathBuf;
use thiserror::Error;

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
    /// The data that is to be backed up is damaged.
    #[error("the data in {path} is not backed up: {why}; `rainshadow doctor` says more")]
    Damaged {
        /// The folder.
        path: PathBuf,
        /// What is wrong with it.
        why: String,
    },
    /// Not a backup that can be taken back.
    #[error("{path} is not taken back: {why}")]
    Archive {
        /// The file.
        path: PathBuf,
        /// What is wrong with it.
        why: ArchiveError,
    },
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
    Database(#[from] DbError),
}

/// An error of the file system, with the file.
fn file(path: &std::path::Path) -> impl Fn(std::io::Error) -> BackupError + '_ {
    move |why| BackupError::File { path: path.to_owned(), why }
}
