//! The driver of a browser, and the browser it starts.

use std::process::Stdio;
use tempfile::TempDir;
use thirtyfour::prelude::*;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, BufReader};
use tokio::process::{Child, Command};

/// How often a start is tried: the driver takes a free port of one of the machine's addresses, and leaves when
/// the other has that one in use. Nothing of a page has happened by then.
const TRIES: usize = 10;

/// What a browser is told in every test.
const FLAGS: [&str; 16] = [
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--no-first-run",
    "--no-default-browser-check",
    "--disable-background-networking",
    "--disable-backgrounding-occluded-windows",
    "--disable-renderer-backgrounding",
    "--disable-component-update",
    "--disable-sync",
    "--disable-extensions",
    "--hide-scrollbars",
    // Nothing is seen half faded: the pages keep still for who asked for it, and are whole all the same.
    "--force-prefers-reduced-motion",
    "--force-device-scale-factor=1",
    "--lang=en-US",
];

/// A browser that runs, with what must live as long as it does.
pub struct Browser {
    pub driver: WebDriver,
    _chromedriver: Child,
    _profile: TempDir,
}

impl Browser {
    /// Starts one, with more that it is told.
    pub async fn start(more: &[&str]) -> Self {
        let mut why = String::new();
        for _ in 0..TRIES {
            match Self::tried(more).await {
                Ok(browser) => return browser,
                Err(said) => why = said,
            }
        }
        panic!("no browser starts in {TRIES} tries; `cargo xtask test` installs it: {why}");
    }

    async fn tried(more: &[&str]) -> Result<Self, String> {
        let (chromedriver, port) = chromedriver().await?;
        let profile = tempfile::tempdir().map_err(|error| error.to_string())?;
        let mut caps = DesiredCapabilities::chrome();
        let binary = std::env::var("CHROMIUM").unwrap_or_else(|_| "/usr/bin/chromium".into());
        caps.set_binary(&binary).map_err(|error| error.to_string())?;
        let own = format!("--user-data-dir={}", profile.path().display());
        for flag in FLAGS.iter().chain(more).copied().chain([own.as_str()]) {
            caps.add_arg(flag).map_err(|error| error.to_string())?;
        }
        let address = format!("http://127.0.0.1:{port}");
        let driver = WebDriver::new(address, caps).await.map_err(|error| error.to_string())?;
        Ok(Self { driver, _chromedriver: chromedriver, _profile: profile })
    }
}

/// The driver, and the port it says it listens on.
async fn chromedriver() -> Result<(Child, String), String> {
    let program = std::env::var("CHROMEDRIVER").unwrap_or_else(|_| "chromedriver".into());
    let mut child = Command::new(&program)
        .arg("--port=0")
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .kill_on_drop(true)
        .spawn()
        .map_err(|error| format!("{program}: {error}"))?;
    let (Some(out), Some(mut err)) = (child.stdout.take(), child.stderr.take()) else {
        return Err(format!("{program} has no output"));
    };
    // What it says is read to its end all the time, or it would stop in the middle of a line.
    let errors = tokio::spawn(async move {
        let mut said = String::new();
        err.read_to_string(&mut said).await.ok();
        said
    });
    let mut lines = BufReader::new(out).lines();
    let mut said = String::new();
    while let Ok(Some(line)) = lines.next_line().await {
        if let Some((_, port)) = line.split_once("started successfully on port ") {
            let port = port.trim_end_matches('.').to_owned();
            tokio::spawn(async move { while let Ok(Some(_)) = lines.next_line().await {} });
            return Ok((child, port));
        }
        said.push_str(&line);
        said.push('\n');
    }
    Err(format!("{program} left: {said}{}", errors.await.unwrap_or_default()))
}
