//! What a backup says of itself; written last, so that a backup that was cut off has none.

use crate::db::DatabaseFacts;
use serde::{Deserialize, Serialize};

/// Name of the manifest in the archive.
pub const NAME: &str = "manifest.json";
/// The format that is written, and read.
pub const FORMAT: &str = "rainshadow-backup/1";
/// Mode of every file in the archive.
pub const MODE: u32 = 0o600;

/// One file of a backup.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Listed {
    /// Its name.
    pub name: String,
    /// Bytes.
    pub size: u64,
    /// SHA-256, hexadecimal.
    pub sha256: String,
}

/// A photograph that is listed in the database and was not there, or not as it was taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct LeftOut {
    /// Its hash, as listed.
    pub hash: String,
    /// Why it is not in the backup.
    pub why: String,
}

/// The contents of a backup.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Manifest {
    /// Format and its version.
    pub format: String,
    /// Version of the program that wrote it.
    pub program: String,
    /// When.
    pub made_at: String,
    /// What the database holds.
    pub database: DatabaseFacts,
    /// Every file but this one.
    pub files: Vec<Listed>,
    /// Photographs that could not be put in.
    pub left_out: Vec<LeftOut>,
}

impl Manifest {
    /// Photographs in the backup, large and small copies.
    pub fn photographs(&self) -> usize {
        self.files.iter().filter(|f| hash_in(&f.name).is_some()).count()
    }
}

/// The name of a photograph in the archive.
pub fn photo_name(hash: &str) -> String {
    format!("{}/{hash}.jpg", crate::photos::FOLDER)
}

/// The hash in the name of a photograph; none for any other name.
pub fn hash_in(name: &str) -> Option<&str> {
    let hash = name.strip_prefix(crate::photos::FOLDER)?.strip_prefix('/')?.strip_suffix(".jpg")?;
    crate::photos::is_hash(hash).then_some(hash)
}
