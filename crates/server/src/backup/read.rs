//! Reading a backup: every file by name, kind, size and hash, the database by its own checks, before
//! anybody believes it.

use super::manifest::{self, FORMAT, Listed, MODE, Manifest, hash_in};
use super::{BackupError, file};
use crate::db::facts_of_file;
use crate::db::folder::{DATABASE, make_private, private};
use crate::photos;
use indicatif::ProgressBar;
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::fs::File;
use std::io::{Read, Seek, SeekFrom, Write};
use std::path::Path;
use thiserror::Error;

/// Largest manifest that is read, bytes: a million photographs take less.
const MOST_MANIFEST: u64 = 256 * 1024 * 1024;
/// What closes an archive.
const END: u64 = 1024;

/// What is wrong with a backup.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum ArchiveError {
    /// No archive.
    #[error("it is no backup of Rainshadow, or it is damaged ({0})")]
    NotABackup(String),
    /// The end is missing.
    #[error("it is cut off: its end is missing")]
    CutOff,
    /// Something after the end.
    #[error("something stands behind its end that does not belong to it")]
    Trailing,
    /// A link, a device, a folder.
    #[error("“{0}” in it is a link or another thing that is no plain file")]
    NotAFile(String),
    /// A file that a backup does not have.
    #[error("“{0}” in it is nothing that a backup holds")]
    UnknownName(String),
    /// Rights that no backup gives.
    #[error("“{name}” in it has the mode {mode:o}; a backup gives every file {MODE:o}")]
    Mode {
        /// Which file.
        name: String,
        /// Its mode.
        mode: u32,
    },
    /// Two of a name.
    #[error("“{0}” stands in it twice")]
    Twice(String),
    /// No manifest.
    #[error(
        "it has no manifest: it was cut off, or a version before 0.2 wrote it; such a one is taken with --unverified, on trust"
    )]
    NoManifest,
    /// A manifest of another version.
    #[error("its format is “{0}”; this version reads {FORMAT}")]
    OtherFormat(String),
    /// A manifest that is none.
    #[error("its manifest cannot be read ({0})")]
    BadManifest(String),
    /// Listed and not there.
    #[error("“{0}” is listed and missing")]
    Missing(String),
    /// There and not listed.
    #[error("“{0}” is in it and not listed")]
    NotListed(String),
    /// Another size or other bytes.
    #[error("“{0}” is not what was backed up: size or contents differ")]
    Altered(String),
    /// The database.
    #[error("{0}")]
    Database(String),
    /// Other rows than listed.
    #[error("its database has {found} rows of {table} where {listed} are listed")]
    Rows {
        /// Table.
        table: String,
        /// Counted.
        found: u64,
        /// Listed.
        listed: u64,
    },
    /// A photograph that the database lists.
    #[error("the photograph {0} is listed in the database and missing")]
    PhotoMissing(String),
}

/// Where the files of a backup go.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Keep {
    /// All of them.
    All,
    /// The database alone, to look into it.
    Database,
}

/// What was found in an archive.
struct Found {
    files: BTreeMap<String, Listed>,
    manifest: Option<Vec<u8>>,
    /// Where the last file ends, in whole blocks.
    end: u64,
}

fn unpack_one(entry: &mut impl Read, target: Option<&Path>) -> std::io::Result<(u64, String)> {
    let mut out =
        target.map(|path| private(File::options().create_new(true).write(true)).open(path)).transpose()?;
    let (mut digest, mut size, mut piece) = (Sha256::new(), 0, vec![0; 1 << 16]);
    loop {
        let read = entry.read(&mut piece)?;
        if read == 0 {
            break;
        }
        digest.update(&piece[..read]);
        size += read as u64;
        if let Some(out) = &mut out {
            out.write_all(&piece[..read])?;
        }
    }
    if let Some(out) = out {
        out.sync_all()?;
    }
    Ok((size, photos::hex(&digest.finalize())))
}

fn unpacked(
    archive: &File,
    folder: &Path,
    keep: Keep,
    unverified: bool,
    told: &ProgressBar,
) -> Result<Found, ArchiveError> {
    let length = archive.metadata().map_or(0, |m| m.len());
    // Where the file that is being read ends.
    let end = std::cell::Cell::new(0);
    let broken = |e: std::io::Error| {
        if length < end.get() { ArchiveError::CutOff } else { ArchiveError::NotABackup(e.to_string()) }
    };
    let mut found = Found { files: BTreeMap::new(), manifest: None, end: 0 };
    told.set_length(length);
    let mut tar = tar::Archive::new(told.wrap_read(archive));
    for entry in tar.entries().map_err(&broken)? {
        let mut entry = entry.map_err(&broken)?;
        let name = String::from_utf8_lossy(&entry.path_bytes()).into_owned();
        if entry.header().entry_type() != tar::EntryType::Regular {
            return Err(ArchiveError::NotAFile(name));
        }
        let photo = hash_in(&name).is_some();
        if name != DATABASE && name != manifest::NAME && !photo {
            return Err(ArchiveError::UnknownName(name));
        }
        let mode = entry.header().mode().map_err(&broken)?;
        // Files of a version before the manifest have the rights they had on the disk.
        if mode != MODE && !unverified {
            return Err(ArchiveError::Mode { name, mode });
        }
        if found.manifest.is_some() || found.files.contains_key(&name) {
            return Err(ArchiveError::Twice(name));
        }
        found.end = entry.raw_file_position() + entry.size().next_multiple_of(512);
        end.set(found.end);
        if name == manifest::NAME {
            let mut text = Vec::new();
            let size = entry.size();
            entry.by_ref().take(MOST_MANIFEST).read_to_end(&mut text).map_err(&broken)?;
            if text.len() as u64 != size {
                return Err(ArchiveError::CutOff);
            }
            found.manifest = Some(text);
            continue;
        }
        let wanted = keep == Keep::All || name == DATABASE;
        let target = wanted.then(|| folder.join(&name));
        let (size, sha256) = unpack_one(&mut entry, target.as_deref()).map_err(&broken)?;
        if size != entry.size() {
            return Err(ArchiveError::CutOff);
        }
        found.files.insert(name.clone(), Listed { name, size, sha256 });
    }
    Ok(found)
}

/// The archive ends where its last file does, in two empty blocks and nothing more.
fn ends(mut archive: &File, end: u64) -> Result<(), ArchiveError> {
    let broken = |e: std::io::Error| ArchiveError::NotABackup(e.to_string());
    let length = archive.metadata().map_err(broken)?.len();
    if length < end + END {
        return Err(ArchiveError::CutOff);
    }
    archive.seek(SeekFrom::Start(end)).map_err(broken)?;
    let mut last = Vec::new();
    archive.take(END).read_to_end(&mut last).map_err(broken)?;
    if length > end + END || last.iter().any(|byte| *byte != 0) {
        return Err(ArchiveError::Trailing);
    }
    Ok(())
}

fn listed(found: &mut Found) -> Result<Manifest, ArchiveError> {
    #[derive(serde::Deserialize)]
    struct Format {
        format: String,
    }
    let text = found.manifest.take().ok_or(ArchiveError::NoManifest)?;
    let bad = |e: serde_json::Error| ArchiveError::BadManifest(e.to_string());
    let Format { format } = serde_json::from_slice(&text).map_err(bad)?;
    if format != FORMAT {
        return Err(ArchiveError::OtherFormat(format));
    }
    let manifest: Manifest = serde_json::from_slice(&text).map_err(bad)?;
    for file in &manifest.files {
        match found.files.get(&file.name) {
            None => return Err(ArchiveError::Missing(file.name.clone())),
            Some(own) if own != file => return Err(ArchiveError::Altered(file.name.clone())),
            Some(_) => {}
        }
    }
    match found.files.keys().find(|name| !manifest.files.iter().any(|f| f.name == **name)) {
        Some(extra) => Err(ArchiveError::NotListed(extra.clone())),
        None => Ok(manifest),
    }
}

/// The database by its own checks, and every photograph that it lists.
fn database(folder: &Path, found: &Found, manifest: Option<&Manifest>) -> Result<Manifest, ArchiveError> {
    if !found.files.contains_key(DATABASE) {
        return Err(ArchiveError::Missing(DATABASE.into()));
    }
    let (facts, hashes) = facts_of_file(&folder.join(DATABASE))
        .map_err(|e| ArchiveError::Database(format!("its database is damaged ({e})")))?;
    if let Some(why) = facts.refusal() {
        return Err(ArchiveError::Database(why));
    }
    let mut whole = manifest.cloned().unwrap_or_else(|| Manifest {
        format: "before manifests".into(),
        program: String::new(),
        made_at: String::new(),
        database: facts.clone(),
        files: found.files.values().cloned().collect(),
        left_out: Vec::new(),
    });
    for (table, listed) in &whole.database.rows {
        let rows = facts.rows.get(table).copied().unwrap_or_default();
        if rows != *listed {
            return Err(ArchiveError::Rows { table: table.clone(), found: rows, listed: *listed });
        }
    }
    if facts != whole.database {
        return Err(ArchiveError::Database("its database is another than the one listed".into()));
    }
    for hash in hashes {
        let there = found.files.contains_key(&manifest::photo_name(&hash));
        if there || whole.left_out.iter().any(|l| l.hash == hash) {
            continue;
        }
        if manifest.is_some() {
            return Err(ArchiveError::PhotoMissing(hash));
        }
        whole.left_out.push(manifest::LeftOut { hash, why: "it is not in the backup".into() });
    }
    Ok(whole)
}

/// Unpacks a backup into a folder that is there and empty, and checks everything.
pub(super) fn unpack(
    path: &Path,
    folder: &Path,
    keep: Keep,
    unverified: bool,
    told: &ProgressBar,
) -> Result<Manifest, BackupError> {
    let archive = File::open(path).map_err(file(path))?;
    make_private(&folder.join(photos::FOLDER)).map_err(file(folder))?;
    let checked = || {
        let mut found = unpacked(&archive, folder, keep, unverified, told)?;
        if found.files.is_empty() && found.manifest.is_none() {
            return Err(ArchiveError::NotABackup("it holds no file".into()));
        }
        if unverified && found.manifest.is_none() {
            return database(folder, &found, None);
        }
        let manifest = listed(&mut found)?;
        ends(&archive, found.end)?;
        database(folder, &found, Some(&manifest))
    };
    checked().map_err(|why| BackupError::Archive { path: path.to_owned(), why })
}

/// Looks whether a backup can be taken back, without taking it back; `told` counts the bytes that are read.
///
/// # Errors
/// [`BackupError`] that says what is wrong with it.
pub fn verify(path: &Path, told: &ProgressBar) -> Result<Manifest, BackupError> {
    let scratch = tempfile::Builder::new().prefix("rainshadow-verify-").tempdir().map_err(file(path))?;
    unpack(path, scratch.path(), Keep::Database, false, told)
}
