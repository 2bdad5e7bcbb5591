//! `rainshadow serve`.

pub use super::serve_args::{LogStyle, ServeArgs};
use super::settings::{BadSetting, Holding, holding};
use crate::clock::Clock;
use crate::reach::{BadUrl, PublicUrl};
use crate::serve::{ServeError, Settings, TlsFiles, serve};
use std::io::Write;
use std::net::SocketAddr;
use thiserror::Error;
use tokio::net::TcpListener;

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
    /// An address that is none.
    #[error("{0}")]
    PublicUrl(#[from] BadUrl),
    /// One of two files.
    #[error("--tls-cert and --tls-key are given together or not at all")]
    HalfTls,
    /// A setting.
    #[error("{0}")]
    Setting(#[from] BadSetting),
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

/// Resolves at Ctrl-C or a polite kill; one that comes before anybody waits for it counts as well.
fn asked_to_stop() -> impl Future<Output = ()> {
    #[cfg(unix)]
    let (polite, interrupted) = {
        use tokio::signal::unix::{SignalKind, signal};
        (signal(SignalKind::terminate()), signal(SignalKind::interrupt()))
    };
    async move {
        #[cfg(unix)]
        if let (Ok(mut polite), Ok(mut interrupted)) = (polite, interrupted) {
            tokio::select! { _ = interrupted.recv() => {}, _ = polite.recv() => {} }
            return;
        }
        let _ = tokio::signal::ctrl_c().await;
    }
}

/// What is printed to, and how much.
fn log_to_stderr(holding: &Holding) {
    let level = std::env::var("RUST_LOG").unwrap_or_else(|_unset| holding.log_level.clone());
    let lines = tracing_subscriber::fmt()
        .with_env_filter(tracing_subscriber::EnvFilter::new(level))
        .with_writer(std::io::stderr);
    let _ = match holding.log {
        LogStyle::Text => lines.try_init(),
        LogStyle::Json => lines.json().try_init(),
    };
}

fn settings(holding: &Holding, today: Option<jiff::civil::Date>, speed: f64) -> Result<Settings, StartError> {
    let public_urls =
        holding.public_url.iter().map(|u| u.parse::<PublicUrl>()).collect::<Result<Vec<_>, _>>()?;
    if !holding.listen.ip().is_loopback() && holding.host.is_empty() && public_urls.is_empty() {
        return Err(StartError::NotLoopback(holding.listen));
    }
    let plain =
        |h: &&String| !h.is_empty() && h.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '.' | '-'));
    if let Some(odd) = holding.host.iter().find(|h| !plain(h)) {
        return Err(StartError::NotAHost(odd.clone()));
    }
    let tls = match (&holding.tls_cert, &holding.tls_key) {
        (Some(certificate), Some(key)) => {
            Some(TlsFiles { certificate: certificate.clone(), key: key.clone() })
        }
        (None, None) => None,
        _ => return Err(StartError::HalfTls),
    };
    Ok(Settings {
        data_dir: holding.data_dir.clone(),
        // A run that is watched faster may go past midnight: its day must not begin anew.
        clock: match today {
            Some(day) if speed > 1.0 => Clock::on(day),
            fixed => Clock::new(fixed),
        }
        .faster(speed),
        hosts: holding.host.clone(),
        public_urls,
        trusted_proxies: holding.trusted_proxy.clone(),
        tls,
    })
}

/// Starts, prints the address, and serves until stopped.
///
/// # Errors
/// [`StartError`] in one line.
pub async fn run(args: ServeArgs) -> Result<(), StartError> {
    let holding = holding(&args)?;
    log_to_stderr(&holding);
    let settings = settings(&holding, args.today, args.speed)?;
    let listener = TcpListener::bind(holding.listen).await.map_err(|error| StartError::Listen {
        address: holding.listen,
        why: if error.kind() == std::io::ErrorKind::AddrInUse {
            "the port is in use; stop the other program or choose another with --listen".into()
        } else {
            error.to_string()
        },
    })?;
    let address = listener.local_addr().map_err(ServeError::from)?;
    let stop = asked_to_stop();
    let scheme = if settings.tls.is_some() { "https" } else { "http" };
    // Connections wait in the listener until the folder is known to be usable.
    let _ = writeln!(
        std::io::stdout(),
        "Rainshadow is at {scheme}://{address}/ (data in {})",
        settings.data_dir.display()
    );
    serve(settings, listener, stop).await?;
    Ok(())
}
