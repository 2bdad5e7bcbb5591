//! `rainshadow doctor`.

use crate::doctor::{DoctorError, Found, look, repair};
use clap::Args;
use std::io::Write as _;
use std::path::PathBuf;
use thiserror::Error;

/// Which folder, and what to do.
#[derive(Debug, Args)]
pub struct DoctorArgs {
    /// The data folder.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
    /// Set rows aside that cannot be read, into a table of their own, and derive anew what is kept
    /// otherwise; no server may be running.
    #[arg(long)]
    pub repair: bool,
}

/// What came of it.
#[derive(Debug, Error)]
pub enum Examined {
    /// Something is wrong.
    #[error("{0} faults in {1}")]
    Faults(usize, PathBuf),
    /// Nothing could be looked at.
    #[error("{0}")]
    Failed(#[from] DoctorError),
}

/// Looks a folder over and says what was found.
///
/// # Errors
/// [`Examined`] when anything is wrong with it.
pub fn run(args: &DoctorArgs) -> Result<(), Examined> {
    let Found { faults, notes, repaired } =
        if args.repair { repair(&args.data_dir)? } else { look(&args.data_dir)? };
    let mut out = std::io::stdout();
    for (word, lines) in [("repaired", &repaired), ("fault", &faults), ("note", &notes)] {
        for line in lines {
            let _ = writeln!(out, "{word}: {line}");
        }
    }
    if faults.is_empty() {
        let _ = writeln!(out, "{} is sound", args.data_dir.display());
        return Ok(());
    }
    Err(Examined::Faults(faults.len(), args.data_dir.clone()))
}
