//! Starting the server on a listener the caller opened; tests call the same.

use crate::clock::Clock;
use crate::db::{Db, OpenError};
use crate::http;
use std::future::Future;
use std::net::SocketAddr;
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
}

/// Why the server could not start or went down.
#[derive(Debug, thiserror::Error)]
pub enum ServeError {
    /// The data folder.
    #[error("{0}")]
    Open(#[from] OpenError),
    /// The network.
    #[error("the network failed: {0}")]
    Network(#[from] std::io::Error),
}

/// Serves until `shutdown` resolves.
///
/// # Errors
/// [`ServeError`] when the data folder cannot be used or the listener fails.
pub async fn serve(
    settings: Settings,
    listener: TcpListener,
    shutdown: impl Future<Output = ()> + Send + 'static,
) -> Result<(), ServeError> {
    let db = Db::open(&settings.data_dir)?;
    let address = listener.local_addr()?;
    let state = http::AppState::new(db, settings.clock, address.port(), &settings.hosts);
    // After an update every verdict is derived anew: begun before somebody waits for it.
    let mut background = JoinSet::new();
    background.spawn(http::catch_up(state.clone()));
    background.spawn(crate::clock_watch::watch_clock(state.db.clone(), state.clock.clone()));
    background.spawn(crate::feed::collect(state.db.clone(), state.clock.clone(), Arc::clone(&state.feeds)));
    let router = http::router(state);
    let service = router.into_make_service_with_connect_info::<SocketAddr>();
    axum::serve(listener, service).with_graceful_shutdown(shutdown).await?;
    background.shutdown().await;
    Ok(())
}
