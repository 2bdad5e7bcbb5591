//! A real server of one test.
#![allow(clippy::unwrap_used, clippy::missing_panics_doc, reason = "helpers of tests fail loudly")]

use crate::{LOOK, PATIENCE};
use rainshadow::clock::Clock;
use rainshadow::{Settings, serve};
use serde_json::Value;
use std::path::PathBuf;
use std::time::Instant;
use tempfile::TempDir;
use tokio::net::TcpListener;
use tokio::runtime::Runtime;

/// A server of one test.
pub struct Shop {
    /// Its folder.
    pub folder: TempDir,
    /// Its port, kept when it starts again.
    pub port: u16,
    /// Its time, which a test lets pass.
    pub clock: Clock,
    /// A runtime of its own: when it is shut down, open connections die with it, as in a kill.
    running: Option<Runtime>,
}

impl Shop {
    /// An empty application on the eighth of October 2026.
    pub async fn open() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let clock = Clock::starting("2026-10-08T09:00:00Z".parse().unwrap());
        Self::with(folder, clock, |settings| settings).await
    }

    /// With settings of its own.
    pub async fn with(
        folder: TempDir,
        clock: Clock,
        own: impl FnOnce(Settings) -> Settings + Send + 'static,
    ) -> Self {
        let (port, running) = start(folder.path().to_owned(), 0, clock.clone(), own).await;
        Self { folder, port, clock, running: Some(running) }
    }

    /// An application with the demo banks.
    pub async fn with_demo() -> Self {
        let shop = Self::open().await;
        let done = reqwest::Client::new().post(format!("{}/api/demo", shop.base())).send().await.unwrap();
        assert!(done.status().is_success());
        shop
    }

    /// Its address.
    pub fn base(&self) -> String {
        format!("http://127.0.0.1:{}", self.port)
    }

    /// The path of the page of the bank at a site.
    pub async fn bank(&self, site: &str) -> String {
        let banks = self.get("/api/banks").await;
        let found = banks.as_array().into_iter().flatten().find(|b| b["site"] == site);
        let id = found.and_then(|b| b["id"].as_str()).unwrap_or_else(|| panic!("a bank at {site}"));
        format!("/banks/{id}")
    }

    /// What the server says at a path.
    pub async fn get(&self, path: &str) -> Value {
        reqwest::get(format!("{}{path}", self.base())).await.unwrap().json().await.unwrap()
    }

    /// The text of the page that the server answers with at a path.
    pub async fn text(&self, path: &str) -> String {
        reqwest::get(format!("{}{path}", self.base())).await.unwrap().text().await.unwrap()
    }

    /// Ends the server without a goodbye.
    pub fn kill(&mut self) {
        if let Some(running) = self.running.take() {
            running.shutdown_background();
        }
    }

    /// Starts it again on its folder and port.
    pub async fn restart(&mut self) {
        let (_, running) = start(self.folder.path().to_owned(), self.port, self.clock.clone(), |s| s).await;
        self.running = Some(running);
    }
}

impl Drop for Shop {
    fn drop(&mut self) {
        self.kill();
    }
}

async fn start(
    data_dir: PathBuf,
    port: u16,
    clock: Clock,
    own: impl FnOnce(Settings) -> Settings + Send + 'static,
) -> (u16, Runtime) {
    let deadline = Instant::now() + PATIENCE;
    let listener = loop {
        match std::net::TcpListener::bind(("127.0.0.1", port)) {
            Ok(listener) => break listener,
            Err(error) => assert!(Instant::now() < deadline, "{error}"),
        }
        tokio::time::sleep(LOOK).await;
    };
    let port = listener.local_addr().unwrap().port();
    listener.set_nonblocking(true).unwrap();
    let running = tokio::runtime::Builder::new_multi_thread().worker_threads(1).enable_all().build().unwrap();
    running.spawn(async move {
        // The folder's lock falls when the last connection of a killed server is dropped.
        let settings = own(Settings { data_dir, clock, ..Settings::default() });
        while rainshadow::db::Db::open(&settings.data_dir).is_err() {
            tokio::time::sleep(LOOK).await;
        }
        let listener = TcpListener::from_std(listener).unwrap();
        serve(settings, listener, std::future::pending()).await.unwrap();
    });
    (port, running)
}
