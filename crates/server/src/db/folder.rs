//! The data folder: held by one process, read by its owner alone, and never opened with less in it
//! than it had.

use super::open_error::OpenError;
use std::fs::{File, TryLockError};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};

/// Folder of the photographs under the data folder.
pub const PHOTOS: &str = "photos";
/// Name of the database in the data folder.
pub const DATABASE: &str = "rainshadow.db";
/// Its write-ahead log: commits that are not in the database file yet.
const LOG: &str = "rainshadow.db-wal";
/// Stands beside the database while the log belongs to it.
const MARKER: &str = "rainshadow.db-wal-expected";
const MARKED: &str = "While this file is here, rainshadow.db is not whole without rainshadow.db-wal: copy both, \
    or use `rainshadow backup`.\n";
/// A database that is being made; it holds nothing yet.
const UNBORN: &str = "rainshadow.db-new";
const LOCK: &str = "rainshadow.lock";

/// The folder, held for this process; the locks fall with it, however it ends.
#[derive(Debug)]
pub struct Held {
    folder: PathBuf,
    /// True once the database is open.
    opened: AtomicBool,
    _lock: File,
    /// The folder itself is locked too: the lock file can be deleted under a running server.
    #[cfg(unix)]
    _directory: File,
}

fn locked(file: &File, folder: &Path) -> Result<(), OpenError> {
    file.try_lock().map_err(|error| match error {
        TryLockError::WouldBlock => OpenError::Locked { path: folder.to_owned() },
        TryLockError::Error(why) => OpenError::Folder { path: folder.to_owned(), why },
    })
}

impl Held {
    /// Takes the folder, makes it when it is missing; a second program is told at its start.
    ///
    /// # Errors
    /// [`OpenError`] in one line.
    pub fn take(folder: &Path) -> Result<Self, OpenError> {
        let fail = |why| OpenError::Folder { path: folder.to_owned(), why };
        if !folder.exists() {
            make_private(folder).map_err(fail)?;
        }
        #[cfg(unix)]
        let directory = {
            let directory = File::open(folder).map_err(fail)?;
            locked(&directory, folder)?;
            directory
        };
        let mut options = File::options();
        options.create(true).write(true).truncate(false);
        let lock = private(&mut options).open(folder.join(LOCK)).map_err(fail)?;
        locked(&lock, folder)?;
        Ok(Self {
            folder: folder.to_owned(),
            opened: AtomicBool::new(false),
            _lock: lock,
            #[cfg(unix)]
            _directory: directory,
        })
    }

    /// Refuses a folder that has lost something.
    ///
    /// # Errors
    /// [`OpenError`] that says what is missing.
    pub(super) fn checked(&self) -> Result<(), OpenError> {
        let at = |name: &str| self.folder.join(name);
        let path = || self.folder.clone();
        let Ok(database) = at(DATABASE).metadata() else {
            if [LOG, MARKER, PHOTOS].iter().any(|name| at(name).exists()) {
                return Err(OpenError::DatabaseMissing { path: path() });
            }
            return Ok(());
        };
        if database.len() == 0 {
            return Err(OpenError::DatabaseEmpty { path: path() });
        }
        if Self::log_is_missing(&self.folder) {
            return Err(OpenError::LogMissing { path: path() });
        }
        Ok(())
    }

    /// Takes the rights of others away from what is the owner's alone.
    ///
    /// # Errors
    /// Whatever the file system fails with.
    pub(super) fn keep_private(&self) -> Result<(), OpenError> {
        let fail = |why| OpenError::Folder { path: self.folder.clone(), why };
        let at = |name: &str| self.folder.join(name);
        keep_private(&self.folder, 0o700).map_err(fail)?;
        for name in [DATABASE, LOG, "rainshadow.db-shm"] {
            if at(name).exists() {
                keep_private(&at(name), 0o600).map_err(fail)?;
            }
        }
        Ok(())
    }

    /// Where a database is made that nobody sees before it is whole.
    pub(super) fn unborn(&self) -> Result<PathBuf, OpenError> {
        let path = self.folder.join(UNBORN);
        let fail = |why| OpenError::Folder { path: self.folder.clone(), why };
        if path.exists() {
            std::fs::remove_file(&path).map_err(fail)?;
        }
        private(File::options().create_new(true).write(true)).open(&path).map_err(fail)?;
        Ok(path)
    }

    /// Gives a database that is whole its name.
    pub(super) fn born(&self) -> Result<(), OpenError> {
        let fail = |why| OpenError::Folder { path: self.folder.clone(), why };
        let (unborn, database) = (self.folder.join(UNBORN), self.folder.join(DATABASE));
        File::open(&unborn).and_then(|file| file.sync_all()).map_err(fail)?;
        std::fs::rename(unborn, database).map_err(fail)?;
        sync(&self.folder).map_err(fail)
    }

    /// Says that the log belongs to the database from now on; called when it is there.
    pub(super) fn mark(&self) -> Result<(), OpenError> {
        let marker = self.folder.join(MARKER);
        let fail = |why| OpenError::Folder { path: self.folder.clone(), why };
        if !marker.exists() {
            let mut file =
                private(File::options().create_new(true).write(true)).open(&marker).map_err(fail)?;
            std::io::Write::write_all(&mut file, MARKED.as_bytes()).map_err(fail)?;
            file.sync_all().map_err(fail)?;
            sync(&self.folder).map_err(fail)?;
        }
        self.opened.store(true, Ordering::SeqCst);
        Ok(())
    }

    /// True for a folder whose database was not closed and has lost its log.
    pub fn log_is_missing(folder: &Path) -> bool {
        folder.join(MARKER).exists() && !folder.join(LOG).exists()
    }

    /// Takes the loss of a log as it is: for a folder that was looked at and is wanted all the same.
    ///
    /// # Errors
    /// Whatever the file system fails with.
    pub fn do_without_log(&self) -> std::io::Result<bool> {
        let (marker, log) = (self.folder.join(MARKER), self.folder.join(LOG));
        if log.exists() || !marker.exists() {
            return Ok(false);
        }
        std::fs::remove_file(marker)?;
        Ok(true)
    }
}

impl Drop for Held {
    fn drop(&mut self) {
        // Closed properly, SQLite puts the log into the database and takes it away. A folder that was
        // refused keeps its marker.
        if self.opened.load(Ordering::SeqCst) && !self.folder.join(LOG).exists() {
            let _ = std::fs::remove_file(self.folder.join(MARKER));
        }
    }
}

/// A folder that only its owner looks into, with those above it.
///
/// # Errors
/// Whatever the file system fails with.
pub fn make_private(folder: &Path) -> std::io::Result<()> {
    if let Some(above) = folder.parent().filter(|p| !p.as_os_str().is_empty()) {
        std::fs::create_dir_all(above)?;
    }
    let mut builder = std::fs::DirBuilder::new();
    #[cfg(unix)]
    std::os::unix::fs::DirBuilderExt::mode(&mut builder, 0o700);
    match builder.create(folder) {
        Err(error) if error.kind() == std::io::ErrorKind::AlreadyExists && folder.is_dir() => Ok(()),
        done => done,
    }
}

/// Options for a new file that only its owner reads.
pub fn private(options: &mut std::fs::OpenOptions) -> &mut std::fs::OpenOptions {
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(options, 0o600);
    options
}

/// Takes rights of others away from a file or folder that has them.
fn keep_private(path: &Path, mode: u32) -> std::io::Result<()> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let found = path.metadata()?.permissions().mode() & 0o777;
        if found & 0o077 != 0 {
            tracing::warn!(path = %path.display(), found = format!("{found:o}"), now = format!("{mode:o}"),
                "others could read this; they no longer can");
            std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode))?;
        }
    }
    Ok(())
}

/// Makes a rename or a new name in a folder outlive a loss of power.
///
/// # Errors
/// Whatever the file system fails with.
pub fn sync(folder: &Path) -> std::io::Result<()> {
    #[cfg(unix)]
    File::open(folder)?.sync_all()?;
    Ok(())
}
