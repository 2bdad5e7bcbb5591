//! Starting the server on a listener the caller opened; tests call the same.

mod connections;
mod tls;

pub use tls::{TlsError, TlsFiles};

use crate::clock::Clock;
use crate::db::{Db, OpenError, PhotoRow, RecordRow};
use crate::http;
use crate::reach::{PublicUrl, Reach};
use std::future::Future;
use std::net::IpAddr;
use std::path::PathBuf;
use std::sync::Arc;
use tokio::net::TcpListener;
use tokio::task::JoinSet;

/// How the server runs.
#[derive(Debug, Clone, Default)]
pub struct Settings {
    /// Folder that holds everything; created when missing.
    pub data_dir: PathBuf,
    /// The day it believes in.
    pub clock: Clock,
    /// Names by which devices beyond this machine reach it; empty: none do.
    pub hosts: Vec<String>,
    /// Addresses by which they reach it through a proxy.
    pub public_urls: Vec<PublicUrl>,
    /// Proxies whose forwarded headers count.
    pub trusted_proxies: Vec<IpAddr>,
    /// Certificate and key; none: it speaks plain HTTP.
    pub tls: Option<TlsFiles>,
}

/// Why the server could not start or went down.
#[derive(Debug, thiserror::Error)]
pub enum ServeError {
    /// The data folder.
    #[error("{0}")]
    Open(#[from] OpenError),
    /// The certificate.
    #[error("{0}")]
    Tls(#[from] TlsError),
    /// The network.
    #[error("the network failed: {0}")]
    Network(#[from] std::io::Error),
}

/// Looks after what a crash left of photographs and of records that were being read.
fn sweep(db: &Db) {
    match db.write_now(RecordRow::abandon_all) {
        Ok(0) => {}
        Ok(gone) => tracing::warn!(gone, "records that were never read to their end are gone"),
        Err(error) => tracing::error!(%error, "records that were never read to their end are left"),
    }
    let swept = db.write_now(|tx| {
        Ok(crate::photos::sweep(db.folder(), |hash| PhotoRow::lists(tx, hash).unwrap_or(true))?)
    });
    match swept {
        Ok(0) => {}
        Ok(gone) => tracing::warn!(gone, "files of photographs that were never stored are gone"),
        Err(error) => tracing::error!(%error, "files of photographs that were never stored are left"),
    }
}

/// Serves until `shutdown` resolves, and then for a few seconds those who are being answered.
///
/// # Errors
/// [`ServeError`] when the data folder cannot be used or the listener fails.
pub async fn serve(
    settings: Settings,
    listener: TcpListener,
    shutdown: impl Future<Output = ()> + Send + 'static,
) -> Result<(), ServeError> {
    let tls = settings.tls.as_ref().map(tls::acceptor).transpose()?;
    let db = Db::open(&settings.data_dir)?;
    sweep(&db);
    let reach = Reach {
        port: listener.local_addr()?.port(),
        secure: tls.is_some(),
        hosts: settings.hosts,
        public: settings.public_urls,
        proxies: settings.trusted_proxies,
    };
    let connections = connections::Connections::new(&reach.proxies);
    let state = http::AppState::new(db, settings.clock, reach);
    // After an update every verdict is derived anew: begun before somebody waits for it.
    let mut background = JoinSet::new();
    background.spawn(crate::app::fresh::catch_up(state.app.clone()));
    background.spawn(crate::clock_watch::watch_clock(state.db.clone(), state.clock.clone()));
    background.spawn(crate::feed::collect(state.db.clone(), state.clock.clone(), Arc::clone(&state.feeds)));
    connections::run(listener, http::router(state), tls, connections, shutdown).await;
    background.shutdown().await;
    Ok(())
}
