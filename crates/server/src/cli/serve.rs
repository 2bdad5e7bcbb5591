//! `rainshadow serve`.

use crate::clock::Clock;
use crate::serve::{ServeError, Settings, serve};
use clap::Args;
use std::io::Write;
use std::net::SocketAddr;
use std::path::PathBuf;
use thiserror::Error;
use tokio::net::TcpListener;

/// Where and on which day.
#[derive(Debug, Args)]
pub struct ServeArgs {
    /// Folder that holds everything; created when missing.
    #[arg(long, default_value = "rainshadow-data")]
    pub data_dir: PathBuf,
    /// Address to listen on; beyond loopback devices must pair, and --host names how they reach it.
    #[arg(long, default_value = "127.0.0.1:7480")]
    pub listen: SocketAddr,
    /// A name by which devices reach this machine, as 192.168.0.7 or bench.local; may be repeated.
    #[arg(long)]
    pub host: Vec<String>,
    /// Believe that today is this day, as 2026-10-08.
    #[arg(long)]
    pub today: Option<jiff::civil::Date>,
    /// Let the clock go so many times as fast, 1 to 3600: a run of hours in minutes, with a simulated
    /// charger of the same speed.
    #[arg(long, default_value_t = 1.0)]
    pub speed: f64,
}

/// Why the server did not start.
#[derive(Debug, Error)]
pub enum StartError {
    /// Beyond loopback.
    #[error(
        "{0} is reached from other machines, so devices must pair before they are let in, and requests are told \
         apart by the name they use: add --host with the name or address that phones type, as --host 192.168.0.7"
    )]
    NotLoopback(SocketAddr),
    /// A name that is no host name.
    #[error(
        "\u{201c}{0}\u{201d} is no host name; accepted is a name or address without http:// and without a port, as bench.local"
    )]
    NotAHost(String),
    /// The port.
    #[error("cannot listen on {address}: {why}")]
    Listen {
        /// The address.
        address: SocketAddr,
        /// Why.
        why: String,
    },
    /// The rest.
    #[error("{0}")]
    Serve(#[from] ServeError),
}

/// Resolves at Ctrl-C or a polite kill.
async fn asked_to_stop() {
    let interrupt = tokio::signal::ctrl_c();
    #[cfg(unix)]
    {
        let mut polite = match tokio::signal::unix::signal(tokio::signal::unix::SignalKind::terminate()) {
            Ok(signal) => signal,
            Err(error) => {
                tracing::warn!(%error, "no handler for a polite kill");
                let _ = interrupt.await;
                return;
            }
        };
        tokio::select! { _ = interrupt => {}, _ = polite.recv() => {} }
    }
    #[cfg(not(unix))]
    let _ = interrupt.await;
}

/// Starts, prints the address, and serves until stopped.
///
/// # Errors
/// [`StartError`] in one line.
pub async fn run(args: ServeArgs) -> Result<(), StartError> {
    if !args.listen.ip().is_loopback() && args.host.is_empty() {
        return Err(StartError::NotLoopback(args.listen));
    }
    let plain =
        |h: &&String| !h.is_empty() && h.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '.' | '-'));
    if let Some(odd) = args.host.iter().find(|h| !plain(h)) {
        return Err(StartError::NotAHost(odd.clone()));
    }
    let listener = TcpListener::bind(args.listen).await.map_err(|error| StartError::Listen {
        address: args.listen,
        why: if error.kind() == std::io::ErrorKind::AddrInUse {
            "the port is in use; stop the other program or choose another with --listen".into()
        } else {
            error.to_string()
        },
    })?;
    let address = listener.local_addr().map_err(ServeError::from)?;
    // Printed once the folder is known to be usable, so that an address always answers.
    let settings = Settings {
        data_dir: args.data_dir,
        // A run that is watched faster may go past midnight: its day must not begin anew.
        clock: match args.today {
            Some(day) if args.speed > 1.0 => Clock::on(day),
            fixed => Clock::new(fixed),
        }
        .faster(args.speed),
        hosts: args.host,
    };
    let _ = writeln!(
        std::io::stdout(),
        "Rainshadow is at http://{address}/ (data in {})",
        settings.data_dir.display()
    );
    serve(settings, listener, asked_to_stop()).await?;
    Ok(())
}
