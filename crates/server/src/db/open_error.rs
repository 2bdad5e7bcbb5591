//! Why a data folder was not opened.

use std::path::PathBuf;
use thiserror::Error;

/// Why a data folder cannot be used; nothing in it was touched.
#[derive(Debug, Error)]
pub enum OpenError {
    /// The folder.
    #[error("the data folder {path} cannot be used: {why}")]
    Folder {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: std::io::Error,
    },
    /// A newer program wrote it.
    #[error(
        "the data folder {path} was written by a newer version (schema {found}, this one knows {known}); start that version, nothing was touched"
    )]
    Newer {
        /// The folder.
        path: PathBuf,
        /// Schema in the file.
        found: usize,
        /// Schema of this program.
        known: usize,
    },
    /// Another program holds it.
    #[error("the database in {path} is locked by another program; stop that one first")]
    Locked {
        /// The folder.
        path: PathBuf,
    },
    /// It is no database.
    #[error("the database in {path} is corrupt or not a database; restore a backup, nothing was touched")]
    Corrupt {
        /// The folder.
        path: PathBuf,
    },
    /// Photographs or a log without their database.
    #[error(
        "the database in {path} is missing, though its other files are there; put rainshadow.db back or restore a backup, nothing was touched"
    )]
    DatabaseMissing {
        /// The folder.
        path: PathBuf,
    },
    /// Nothing in it.
    #[error("the database in {path} is empty (0 bytes); restore a backup, nothing was touched")]
    DatabaseEmpty {
        /// The folder.
        path: PathBuf,
    },
    /// The database was copied without its log, or the log was deleted.
    #[error(
        "the database in {path} was not closed, and its log rainshadow.db-wal, which holds what was saved last, is missing; \
         put it back or restore a backup, or let `rainshadow doctor --repair` open it without; nothing was touched"
    )]
    LogMissing {
        /// The folder.
        path: PathBuf,
    },
    /// The copy that is made before a migration.
    #[error(
        "the database in {path} must be brought up to date, and the copy made before that failed: {why}; nothing was touched"
    )]
    NotCopied {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: String,
    },
    /// Anything else.
    #[error("the database in {path} cannot be opened: {why}")]
    Sqlite {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: String,
    },
    /// What ships could not be stored.
    #[error("the battery models and house rules that ship could not be stored: {0}")]
    Shipped(String),
}
