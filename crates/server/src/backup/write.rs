//! Writing a backup.

use super::manifest::{self, FORMAT, LeftOut, Listed, MODE, Manifest, photo_name};
use super::output::{Output, folder_of};
use super::{BackupError, file};
use crate::db::copy_of;
use crate::db::folder::DATABASE;
use crate::photos;
use sha2::{Digest, Sha256};
use std::io::Read;
use std::path::Path;

/// Bytes that are counted and hashed as they are read.
struct Hashed<R> {
    inner: R,
    digest: Sha256,
    size: u64,
}

impl<R: Read> Read for Hashed<R> {
    fn read(&mut self, into: &mut [u8]) -> std::io::Result<usize> {
        let read = self.inner.read(into)?;
        self.digest.update(&into[..read]);
        self.size += read as u64;
        Ok(read)
    }
}

/// Appends one file under a name.
fn append<W: std::io::Write>(
    archive: &mut tar::Builder<W>,
    name: &str,
    size: u64,
    from: impl Read,
) -> std::io::Result<Listed> {
    let mut header = tar::Header::new_ustar();
    header.set_path(name)?;
    header.set_size(size);
    header.set_mode(MODE);
    header.set_mtime(0);
    header.set_cksum();
    let mut hashed = Hashed { inner: from.take(size), digest: Sha256::new(), size: 0 };
    archive.append(&header, &mut hashed)?;
    if hashed.size != size {
        return Err(std::io::Error::new(
            std::io::ErrorKind::UnexpectedEof,
            "it became shorter while it was read",
        ));
    }
    Ok(Listed { name: name.to_owned(), size, sha256: photos::hex(&hashed.digest.finalize()) })
}

/// The bytes of a photograph, when they are what its hash says.
fn sound_photo(folder: &Path, hash: &str) -> Result<Vec<u8>, String> {
    if !photos::is_hash(hash) {
        return Err("its name is no hash".into());
    }
    let bytes = photos::read(folder, hash).map_err(|e| format!("its file cannot be read: {e}"))?;
    if photos::hash_of(&bytes) != hash {
        return Err("its file was altered".into());
    }
    Ok(bytes)
}

/// Copies the database as of one moment, then every photograph it lists: a photograph is written
/// before its row, so none that is listed is missing unless somebody took it away.
///
/// # Errors
/// [`BackupError`] in one line; nothing is left of a backup that failed or was killed.
pub fn write(folder: &Path, target: &Path) -> Result<Manifest, BackupError> {
    if !folder.join(DATABASE).exists() {
        return Err(BackupError::NoData(folder.to_owned()));
    }
    if target.exists() {
        return Err(BackupError::FileThere(target.to_owned()));
    }
    let fail = file(target);
    let output = Output::begin(target).map_err(&fail)?;
    let (copy, database, hashes) = copy_of(folder, folder_of(target))?;
    if let Some(why) = database.refusal() {
        return Err(BackupError::Damaged { path: folder.to_owned(), why });
    }
    let mut archive = tar::Builder::new(std::io::BufWriter::with_capacity(1 << 18, output.file()));
    let size = copy.metadata().map_err(&fail)?.len();
    let mut files = vec![append(&mut archive, DATABASE, size, &copy).map_err(&fail)?];
    let mut left_out = Vec::new();
    for hash in hashes {
        match sound_photo(folder, &hash) {
            Ok(bytes) => {
                let listed = append(&mut archive, &photo_name(&hash), bytes.len() as u64, bytes.as_slice());
                files.push(listed.map_err(&fail)?);
            }
            Err(why) => left_out.push(LeftOut { hash, why }),
        }
    }
    let manifest = Manifest {
        format: FORMAT.into(),
        program: env!("CARGO_PKG_VERSION").into(),
        made_at: jiff::Timestamp::now().to_string(),
        database,
        files,
        left_out,
    };
    let text = serde_json::to_vec_pretty(&manifest).map_err(|e| fail(e.into()))?;
    append(&mut archive, manifest::NAME, text.len() as u64, text.as_slice()).map_err(&fail)?;
    let buffer = archive.into_inner().map_err(&fail)?;
    buffer.into_inner().map_err(|e| fail(e.into_error()))?;
    output.finish().map_err(|why| match why.kind() {
        std::io::ErrorKind::AlreadyExists => BackupError::FileThere(target.to_owned()),
        _ => fail(why),
    })?;
    Ok(manifest)
}
