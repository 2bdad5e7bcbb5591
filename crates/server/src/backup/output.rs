//! The file a backup is written into: without a name until it is whole, so that nothing is left of one
//! that was killed.

use std::fs::File;
use std::path::{Path, PathBuf};

/// A file that gets its name at the end.
pub struct Output {
    file: File,
    target: PathBuf,
    /// The name it has meanwhile where the file system knows no files without one.
    part: Option<PathBuf>,
}

/// The folder a file lies in.
pub fn folder_of(file: &Path) -> &Path {
    file.parent().filter(|p| !p.as_os_str().is_empty()).unwrap_or(Path::new("."))
}

#[cfg(target_os = "linux")]
fn nameless(folder: &Path) -> Option<File> {
    use rustix::fs::{Mode, OFlags};
    let flags = OFlags::TMPFILE | OFlags::RDWR | OFlags::CLOEXEC;
    rustix::fs::open(folder, flags, Mode::RUSR | Mode::WUSR).ok().map(File::from)
}

#[cfg(not(target_os = "linux"))]
fn nameless(_folder: &Path) -> Option<File> {
    None
}

#[cfg(target_os = "linux")]
fn name(file: &File, target: &Path) -> std::io::Result<()> {
    use rustix::fs::{AtFlags, CWD};
    use std::os::fd::AsRawFd;
    let own = format!("/proc/self/fd/{}", file.as_raw_fd());
    Ok(rustix::fs::linkat(CWD, own, CWD, target, AtFlags::SYMLINK_FOLLOW)?)
}

#[cfg(not(target_os = "linux"))]
fn name(_file: &File, _target: &Path) -> std::io::Result<()> {
    Err(std::io::ErrorKind::Unsupported.into())
}

impl Output {
    /// Begins a file that will be called `target`.
    ///
    /// # Errors
    /// Whatever the file system fails with.
    pub fn begin(target: &Path) -> std::io::Result<Self> {
        let folder = folder_of(target);
        if let Some(file) = nameless(folder) {
            return Ok(Self { file, target: target.to_owned(), part: None });
        }
        let mut part = target.as_os_str().to_owned();
        part.push(".part");
        let part = PathBuf::from(part);
        // One that was left by a kill: nobody but this command makes such a name.
        let _ = std::fs::remove_file(&part);
        let mut options = File::options();
        let file = crate::db::folder::private(options.create_new(true).read(true).write(true)).open(&part)?;
        Ok(Self { file, target: target.to_owned(), part: Some(part) })
    }

    /// Where to write.
    pub fn file(&self) -> &File {
        &self.file
    }

    /// Gives the whole file its name; one that is there is never replaced.
    ///
    /// # Errors
    /// `AlreadyExists` and whatever the file system fails with.
    pub fn finish(mut self) -> std::io::Result<()> {
        self.file.sync_all()?;
        match &self.part {
            None => name(&self.file, &self.target)?,
            Some(part) => {
                if self.target.exists() {
                    return Err(std::io::ErrorKind::AlreadyExists.into());
                }
                std::fs::rename(part, &self.target)?;
            }
        }
        self.part = None;
        crate::db::folder::sync(folder_of(&self.target))
    }
}

impl Drop for Output {
    fn drop(&mut self) {
        if let Some(part) = &self.part {
            let _ = std::fs::remove_file(part);
        }
    }
}
