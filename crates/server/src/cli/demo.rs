//! `rainshadow demo`.

use super::counting;
use super::serve::{ServeArgs, StartError, run};
use crate::clock::Clock;
use crate::demo::{DemoFolderError, prepare};
use clap::Args;
use std::io::Write as _;
use std::net::SocketAddr;
use std::path::PathBuf;
use thiserror::Error;

/// Where and on which day.
#[derive(Debug, Args)]
pub struct DemoArgs {
    /// Folder of the demo; kept from start to start.
    #[arg(long, default_value = "demo-data")]
    pub data_dir: PathBuf,
    /// Address to listen on.
    #[arg(long, default_value = "127.0.0.1:7481")]
    pub listen: SocketAddr,
    /// A name by which devices reach this machine; may be repeated.
    #[arg(long)]
    pub host: Vec<String>,
    /// Make the demo anew, ending the day before today.
    #[arg(long)]
    pub fresh: bool,
    /// Believe that today is this day, as 2026-10-08.
    #[arg(long)]
    pub today: Option<jiff::civil::Date>,
    /// Let the clock go so many times as fast, 1 to 3600: a run of hours in minutes, with a simulated
    /// charger of the same speed.
    #[arg(long, default_value_t = 1.0)]
    pub speed: f64,
    /// Make the data and stop.
    #[arg(long)]
    pub no_serve: bool,
}

/// Why the demo did not start.
#[derive(Debug, Error)]
pub enum DemoError {
    /// The folder.
    #[error("{0}")]
    Folder(#[from] DemoFolderError),
    /// The server did not start.
    #[error("{0}")]
    Start(#[from] StartError),
}

/// Makes the demo if it is not there, and serves it.
///
/// # Errors
/// [`DemoError`] in one line.
pub async fn run_demo(args: DemoArgs) -> Result<(), DemoError> {
    let clock = Clock::new(args.today);
    let told = counting("banks of the demo");
    let kept = prepare(&args.data_dir, args.fresh, clock.today(), clock.now(), &told)?;
    told.finish_and_clear();
    if let Some(kept) = kept {
        let said = format!("what was typed into the old demo is kept in {}", kept.display());
        let _ = writeln!(std::io::stderr(), "{said}");
    }
    if args.no_serve {
        return Ok(());
    }
    let serve = ServeArgs {
        data_dir: Some(args.data_dir),
        listen: Some(args.listen),
        host: args.host,
        today: args.today,
        speed: args.speed,
        ..ServeArgs::default()
    };
    Ok(run(serve).await?)
}
