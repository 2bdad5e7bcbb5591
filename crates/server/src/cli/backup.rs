//! `rainshadow backup` and `rainshadow restore`.

use super::reading;
use crate::backup::{self, BackupError, Manifest};
use clap::Args;
use std::io::Write as _;
use std::path::PathBuf;

/// What to back up, and into which file.
#[derive(Debug, Args)]
pub struct BackupArgs {
    /// The file to write; it must not be there yet.
    pub file: PathBuf,
    /// The data folder; the server may be running on it.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
    /// Look whether the file can be restored; nothing is written.
    #[arg(long, conflicts_with = "data_dir")]
    pub verify: bool,
}

/// What to restore, and into which folder.
#[derive(Debug, Args)]
pub struct RestoreArgs {
    /// A file that `rainshadow backup` wrote.
    pub file: PathBuf,
    /// The folder to restore into; it must be empty or not there yet.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
    /// Take a backup of a version before 0.2, which has no manifest: only its database is checked.
    #[arg(long)]
    pub unverified: bool,
}

fn say(done: &str, manifest: &Manifest) {
    let rows: u64 = manifest.database.rows.values().sum();
    let photographs = manifest.photographs();
    let _ = writeln!(std::io::stdout(), "{done}: {rows} rows, {photographs} photographs");
    for left in &manifest.left_out {
        let _ = writeln!(std::io::stderr(), "without the photograph {}: {}", left.hash, left.why);
    }
}

/// Writes a backup, or looks at one.
///
/// # Errors
/// [`BackupError`] in one line.
pub fn backup(args: &BackupArgs) -> Result<(), BackupError> {
    if args.verify {
        let told = reading();
        let manifest = backup::verify(&args.file, &told)?;
        told.finish_and_clear();
        say(&format!("{} is whole", args.file.display()), &manifest);
    } else {
        say(&format!("{} written", args.file.display()), &backup::write(&args.data_dir, &args.file)?);
    }
    Ok(())
}

/// Restores a backup.
///
/// # Errors
/// [`BackupError`] in one line; what was there before is untouched.
pub fn restore(args: &RestoreArgs) -> Result<(), BackupError> {
    let told = reading();
    let manifest = backup::restore(&args.file, &args.data_dir, args.unverified, &told)?;
    told.finish_and_clear();
    say(&format!("restored into {}", args.data_dir.display()), &manifest);
    Ok(())
}
