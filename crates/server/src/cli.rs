//! The command line.

pub mod backup;
pub mod calc;
pub mod demo;
pub mod doctor;
pub mod serve;
pub mod serve_args;
pub mod settings;
pub mod simulate;

mod counted;

pub use counted::{counting, reading};

use clap::{Parser, Subcommand};
use std::path::PathBuf;

/// Rainshadow keeps deep-cycle battery banks healthy: readings, verdicts and their reasons.
#[derive(Debug, Parser)]
#[command(version, about)]
pub struct Cli {
    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// What to do.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Start the application on a data folder.
    Serve(Box<serve::ServeArgs>),
    /// Print which settings hold, and where each was set.
    Settings(Box<serve::ServeArgs>),
    /// Start it with invented demo banks.
    Demo(demo::DemoArgs),
    /// Compute one thing: one JSON object in, one out.
    Calc(calc::CalcArgs),
    /// Throw derived verdicts away and derive them anew from the readings.
    Rederive {
        /// The data folder.
        #[arg(long)]
        data_dir: PathBuf,
    },
    /// Write everything into one file, photographs included; the server may be running.
    Backup(backup::BackupArgs),
    /// Restore a backup into an empty folder.
    Restore(backup::RestoreArgs),
    /// Look a data folder over: pages, references, every row, photographs, caches.
    Doctor(doctor::DoctorArgs),
    /// Stand in for a device that is not there.
    #[command(subcommand)]
    Simulate(simulate::Simulate),
    /// Print the OpenAPI document.
    Openapi,
}
