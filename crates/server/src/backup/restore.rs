//! Taking a backup back: into a folder of its own beside the wanted one, and when all is well, one rename.

use super::manifest::Manifest;
use super::output::folder_of;
use super::read::{Keep, unpack};
use super::{BackupError, file};
use crate::db::folder::{make_private, sync};
use indicatif::ProgressBar;
use std::path::Path;

/// Restores into a folder that is empty or not there yet; `told` counts the bytes that are read.
///
/// # Errors
/// [`BackupError`] in one line; a restore that failed leaves nothing behind.
pub fn restore(
    path: &Path,
    target: &Path,
    unverified: bool,
    told: &ProgressBar,
) -> Result<Manifest, BackupError> {
    let fail = file(target);
    match std::fs::read_dir(target).map(|mut entries| entries.next().is_some()) {
        Ok(true) => return Err(BackupError::NotEmpty(target.to_owned())),
        Err(error) if error.kind() != std::io::ErrorKind::NotFound => return Err(fail(error)),
        _ => {}
    }
    let above = folder_of(target);
    let made_above = !above.exists();
    if made_above {
        make_private(above).map_err(&fail)?;
    }
    let done = into_place(path, target, above, unverified, told);
    if done.is_err() && made_above {
        let _ = std::fs::remove_dir(above);
    }
    done
}

fn into_place(
    path: &Path,
    target: &Path,
    above: &Path,
    unverified: bool,
    told: &ProgressBar,
) -> Result<Manifest, BackupError> {
    let fail = file(target);
    let name = target.file_name().unwrap_or_default().to_string_lossy().into_owned();
    let prefix = format!(".{name}.restoring-");
    let mut builder = tempfile::Builder::new();
    builder.prefix(&prefix);
    #[cfg(unix)]
    builder.permissions(std::os::unix::fs::PermissionsExt::from_mode(0o700));
    let beside = builder.tempdir_in(above).map_err(&fail)?;
    let manifest = unpack(path, beside.path(), Keep::All, unverified, told)?;
    for folder in [beside.path().join(crate::photos::FOLDER).as_path(), beside.path()] {
        sync(folder).map_err(&fail)?;
    }
    // Onto an empty folder too; it stays empty when this fails.
    std::fs::rename(beside.path(), target).map_err(&fail)?;
    let _ = beside.keep();
    sync(above).map_err(&fail)?;
    Ok(manifest)
}
