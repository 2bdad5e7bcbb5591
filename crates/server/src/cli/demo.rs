//! `rainshadow demo`.

use super::serve::{ServeArgs, StartError, run};
use crate::clock::Clock;
use crate::db::{Db, DbError};
use crate::demo::seed;
use crate::serve::ServeError;
use clap::Args;
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
    /// The folder could not be renewed.
    #[error("the demo folder {path} cannot be renewed: {why}")]
    Renew {
        /// The folder.
        path: PathBuf,
        /// Why.
        why: std::io::Error,
    },
    /// The folder is not a demo folder.
    #[error("{0} holds files that are not a demo's; --fresh renews only a folder this command made")]
    NotADemo(PathBuf),
    /// The folder could not be opened.
    #[error("{0}")]
    Open(#[from] crate::db::OpenError),
    /// The demo could not be written.
    #[error("the demo could not be written: {0}")]
    Seed(#[from] DbError),
    /// The server did not start.
    #[error("{0}")]
    Start(#[from] StartError),
}

/// Marks a folder as made by this command, so that `--fresh` never empties another.
const MARK: &str = "rainshadow-demo";

/// Makes the demo if it is not there, and serves it.
///
/// # Errors
/// [`DemoError`] in one line.
pub async fn run_demo(args: DemoArgs) -> Result<(), DemoError> {
    let mark = args.data_dir.join(MARK);
    if args.fresh && args.data_dir.exists() {
        if !mark.exists() {
            return Err(DemoError::NotADemo(args.data_dir));
        }
        std::fs::remove_dir_all(&args.data_dir)
            .map_err(|why| DemoError::Renew { path: args.data_dir.clone(), why })?;
    }
    if !mark.exists() {
        let db = Db::open(&args.data_dir)?;
        let today = Clock::new(args.today).today();
        db.write_now(|tx| seed(tx, today))?;
        std::fs::write(&mark, "made by `rainshadow demo`\n")
            .map_err(|why| DemoError::Renew { path: args.data_dir.clone(), why })?;
    }
    if args.no_serve {
        return Ok(());
    }
    let serve = ServeArgs {
        data_dir: args.data_dir,
        listen: args.listen,
        host: args.host,
        today: args.today,
        speed: args.speed,
    };
    run(serve).await.map_err(|error| match error {
        StartError::Serve(ServeError::Open(open)) => DemoError::Open(open),
        other => DemoError::Start(other),
    })
}
