//! A real server on a port of its own, on a data folder of its own.
#![allow(
    dead_code,
    clippy::unwrap_used,
    reason = "each test file uses its own part, and helpers fail loudly"
)]

pub mod acting;
pub mod proxy;
pub mod readers;
pub mod records;
pub mod report;
pub mod runs;
pub mod visits;

use acting::{acting, introduce, known, person};
use rainshadow::clock::Clock;
use rainshadow::{Settings, serve};
use reqwest::{Client, Method, RequestBuilder, Response, StatusCode};
use serde_json::{Value, json};
use tempfile::TempDir;
use tokio::net::TcpListener;
use tokio::sync::oneshot;
use uuid::Uuid;

pub struct Shop {
    pub base: String,
    pub folder: TempDir,
    /// Its time: passed on, or set, by the test.
    pub clock: Clock,
    client: Client,
    stop: Option<oneshot::Sender<()>>,
}

impl Shop {
    /// Starts on the eighth of October 2026.
    pub async fn open() -> Self {
        Self::open_in(tempfile::tempdir().unwrap()).await
    }

    pub async fn open_in(folder: TempDir) -> Self {
        Self::start(folder, Vec::new()).await
    }

    /// Reached by these names too.
    pub async fn open_as(hosts: Vec<String>) -> Self {
        Self::start(tempfile::tempdir().unwrap(), hosts).await
    }

    async fn start(folder: TempDir, hosts: Vec<String>) -> Self {
        Self::start_at(folder, hosts, Clock::starting("2026-10-08T09:00:00Z".parse().unwrap())).await
    }

    /// Stops and starts again on the same folder; time goes on.
    pub async fn restart(self) -> Self {
        let clock = self.clock.clone();
        Self::start_at(self.close().await, Vec::new(), clock).await
    }

    async fn start_at(folder: TempDir, hosts: Vec<String>, clock: Clock) -> Self {
        Self::start_with(folder, clock, |settings| Settings { hosts, ..settings }).await
    }

    /// With settings of its own.
    pub async fn open_with(own: impl FnOnce(Settings) -> Settings) -> Self {
        let clock = Clock::starting("2026-10-08T09:00:00Z".parse().unwrap());
        Self::start_with(tempfile::tempdir().unwrap(), clock, own).await
    }

    async fn start_with(folder: TempDir, clock: Clock, own: impl FnOnce(Settings) -> Settings) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let (stop, stopped) = oneshot::channel();
        let plain =
            Settings { data_dir: folder.path().to_owned(), clock: clock.clone(), ..Settings::default() };
        let settings = own(plain);
        let scheme = if settings.tls.is_some() { "https" } else { "http" };
        let base = format!("{scheme}://{}", listener.local_addr().unwrap());
        tokio::spawn(async move {
            serve(settings, listener, async move {
                let _ = stopped.await;
            })
            .await
            .unwrap();
        });
        let open = Self { base, folder, clock, client: acting(), stop: Some(stop) };
        if scheme == "http" {
            introduce(&open.client, &open.base).await;
        }
        open
    }

    pub fn request(&self, method: Method, path: &str) -> RequestBuilder {
        self.client.request(method, format!("{}{path}", self.base))
    }

    /// A request of somebody on a device of his own.
    pub async fn request_by(
        &self,
        (who, device): (&str, &str),
        method: Method,
        path: &str,
    ) -> RequestBuilder {
        known(&self.client, &self.base, who).await;
        self.request(method, path)
            .header("rainshadow-person", person(who))
            .header("rainshadow-device", device)
    }

    /// What somebody on a device of his own puts.
    pub async fn put_by(&self, by: (&str, &str), path: &str, body: &Value) -> (StatusCode, Value) {
        answer(self.request_by(by, Method::PUT, path).await.json(body).send().await.unwrap()).await
    }

    pub async fn get(&self, path: &str) -> Value {
        let response = self.request(Method::GET, path).send().await.unwrap();
        assert_eq!(response.status(), StatusCode::OK, "{path}");
        response.json().await.unwrap()
    }

    pub async fn send(&self, method: Method, path: &str, body: &Value) -> (StatusCode, Value) {
        answer(self.request(method, path).json(body).send().await.unwrap()).await
    }

    pub async fn put(&self, path: &str, body: &Value) -> (StatusCode, Value) {
        self.send(Method::PUT, path, body).await
    }

    /// Changes a shared thing as somebody does who has just looked at it.
    pub async fn change(&self, path: &str, body: &Value) -> (StatusCode, Value) {
        let seen = match path.strip_prefix("/api/banks/").and_then(|rest| rest.split_once('/')) {
            Some((bank, _)) => format!("/api/banks/{bank}"),
            None => path.to_owned(),
        };
        let looked = self.request(Method::GET, &seen).send().await.unwrap();
        let etag = looked.headers().get("etag").expect("a version to name").clone();
        let request = self.request(Method::PUT, path).header("if-match", etag).json(body);
        answer(request.send().await.unwrap()).await
    }

    pub async fn csv(
        &self,
        method: Method,
        path: &str,
        body: impl Into<reqwest::Body>,
    ) -> (StatusCode, Value) {
        answer(self.request(method, path).header("content-type", "text/csv").body(body).send().await.unwrap())
            .await
    }

    /// A site and a 12 V bank of two six-volt batteries; its id.
    pub async fn bank(&self) -> String {
        self.bank_of("flooded-6v-225", 12, 2, 1).await
    }

    pub async fn bank_of(&self, model: &str, volts: u16, series: u8, parallel: u8) -> String {
        let (site, bank) = (id(), id());
        let (status, _) =
            self.put(&format!("/api/sites/{site}"), &json!({"name": "Marginalia", "zone": "UTC"})).await;
        assert_eq!(status, StatusCode::CREATED);
        let body = json!({
            "site": site, "model": model, "rules": "maker_first",
            "shape": {"system_voltage": volts, "cells_per_battery": 1, "series": series, "parallel": parallel},
        });
        let (status, said) = self.put(&format!("/api/banks/{bank}"), &body).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        bank
    }

    /// Opens a round at rest, mixed, 25 °C, proven full.
    pub async fn round(&self, bank: &str) -> String {
        let round = id();
        let (status, said) = self.put(&format!("/api/rounds/{round}"), &opening(bank)).await;
        assert_eq!(status, StatusCode::CREATED, "{said}");
        round
    }

    pub async fn read(&self, round: &str, cell: &str, typed: &str) -> (StatusCode, Value) {
        self.put(&format!("/api/rounds/{round}/readings/{}", id()), &reading(cell, typed)).await
    }

    /// A reading that was asked about and stands.
    pub async fn read_kept(&self, round: &str, cell: &str, typed: &str) -> (StatusCode, Value) {
        let mut body = reading(cell, typed);
        body["stands"] = json!(true);
        self.put(&format!("/api/rounds/{round}/readings/{}", id()), &body).await
    }

    pub async fn finish(&self, round: &str, version: i64, device: &str) -> (StatusCode, Value) {
        let request = self
            .request(Method::POST, &format!("/api/rounds/{round}/finish"))
            .header("if-match", format!("\"{version}\""))
            .header("rainshadow-device", device);
        answer(request.send().await.unwrap()).await
    }

    /// Stops politely and gives the folder back.
    pub async fn close(mut self) -> TempDir {
        let _ = self.stop.take().unwrap().send(());
        // The lock on the folder falls when the server is gone.
        while rainshadow::db::Db::open(self.folder.path()).is_err() {
            tokio::task::yield_now().await;
        }
        self.folder
    }
}

pub async fn answer(response: Response) -> (StatusCode, Value) {
    let status = response.status();
    let text = response.text().await.unwrap();
    (status, serde_json::from_str(&text).unwrap_or(Value::String(text)))
}

/// A folder with the demo in it.
pub fn seeded(folder: &std::path::Path) {
    let db = rainshadow::db::Db::open(folder).unwrap();
    db.write_now(|tx| {
        rainshadow::demo::seed(tx, "2026-10-08".parse().unwrap(), &indicatif::ProgressBar::hidden())
    })
    .unwrap();
}

/// A photograph of one colour.
pub fn jpeg(width: u32, height: u32, shade: u8) -> Vec<u8> {
    let picture = image::RgbImage::from_pixel(width, height, image::Rgb([shade, 120, 90]));
    let mut out = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut out, image::ImageFormat::Jpeg).unwrap();
    out.into_inner()
}

pub fn id() -> String {
    Uuid::now_v7().to_string()
}

pub fn opening(bank: &str) -> Value {
    json!({
        "bank": bank,
        "instrument": {"kind": "hydrometer", "resolution": 5.0, "repeatability": 3.0, "corrects_for_temperature": false},
        "conditions": {
            "hours_since_charge": "26", "hours_since_load": "25", "water_added": "no",
            "proven_full": "tail current held",
            "temperature": {"known": "one_for_all", "typed": "77", "unit": "F"},
        },
    })
}

pub fn reading(cell: &str, typed: &str) -> Value {
    json!({
        "cell": cell, "kind": "gravity", "typed": typed,
        "taken_at": "2026-10-08T09:00:00Z",
    })
}
