//! A real browser on a real server: finding things by role and label, as a person does.
#![allow(clippy::unwrap_used, clippy::missing_panics_doc, reason = "helpers of tests fail loudly")]

mod driver;
mod fields;
mod roles;
mod shop;

pub use shop::Shop;

use driver::Browser;
use serde_json::Value;
use std::fmt::Write as _;
use std::path::PathBuf;
use std::time::{Duration, Instant};
use thirtyfour::cdp::domains::emulation::SetDeviceMetricsOverride;
use thirtyfour::error::{WebDriverErrorInner, WebDriverResult};
use thirtyfour::prelude::*;

/// A condition that has not come true by then never will.
const PATIENCE: Duration = Duration::from_secs(40);
/// How often a condition is looked at.
const LOOK: Duration = Duration::from_millis(25);

/// The desk.
pub const DESK: (u32, u32) = (1280, 800);
/// The phone in the battery room.
pub const PHONE: (u32, u32) = (390, 844);

/// A text as a script writes it.
fn quoted(text: &str) -> Value {
    Value::String(text.to_owned())
}

/// A browser with one page.
pub struct Page {
    browser: Browser,
    base: String,
}

/// What was found was drawn anew, or moved away, before anything was done with it.
fn moved(error: &WebDriverError) -> bool {
    matches!(
        error.as_inner(),
        WebDriverErrorInner::StaleElementReference(_) | WebDriverErrorInner::ElementClickIntercepted(_)
    )
}

impl Page {
    /// Opens a browser of this size on the list of the shop's banks.
    pub async fn open(shop: &Shop, size: (u32, u32)) -> Self {
        Self::at(&shop.base(), size).await
    }

    /// Opens a browser of this size at an address.
    pub async fn at(base: &str, size: (u32, u32)) -> Self {
        Self::told(base, size, &[]).await
    }

    /// A browser at an address, with more that it is told.
    pub async fn told(base: &str, size: (u32, u32), more: &[&str]) -> Self {
        let page = Self { browser: Browser::start(more).await, base: base.to_owned() };
        let (width, height) = size;
        page.browser
            .driver
            .cdp()
            .send(SetDeviceMetricsOverride {
                width,
                height,
                device_scale_factor: 1.0,
                mobile: false,
                scale: None,
                screen_orientation: None,
            })
            .await
            .unwrap();
        // Without a window the page may believe that nobody looks at it, and no field ever has the focus.
        let focus = serde_json::json!({ "enabled": true });
        page.browser.driver.cdp().send_raw("Emulation.setFocusEmulationEnabled", focus).await.unwrap();
        page.go("/banks").await;
        page
    }

    /// Goes to a path.
    pub async fn go(&self, path: &str) {
        self.browser.driver.goto(format!("{}{path}", self.base)).await.unwrap();
    }

    /// Makes its processor so many times slower.
    pub async fn slow_down(&self, times: f64) {
        let rate = serde_json::json!({ "rate": times });
        self.browser.driver.cdp().send_raw("Emulation.setCPUThrottlingRate", rate).await.unwrap();
    }

    /// Runs a script in every page before its own.
    pub async fn watched_by(&self, script: &str) {
        let source = serde_json::json!({ "source": script });
        self.browser.driver.cdp().send_raw("Page.addScriptToEvaluateOnNewDocument", source).await.unwrap();
    }

    /// Shows the page as it is printed, or as it is on the screen again.
    pub async fn on_paper(&self, paper: bool) {
        let media = serde_json::json!({ "media": if paper { "print" } else { "" } });
        self.browser.driver.cdp().send_raw("Emulation.setEmulatedMedia", media).await.unwrap();
    }

    /// Sets the light that the device asks for.
    pub async fn in_the_dark(&self, dark: bool) {
        let value = if dark { "dark" } else { "light" };
        let features =
            serde_json::json!({ "features": [{ "name": "prefers-color-scheme", "value": value }] });
        self.browser.driver.cdp().send_raw("Emulation.setEmulatedMedia", features).await.unwrap();
    }

    /// Loads the page anew.
    pub async fn reload(&self) {
        self.browser.driver.refresh().await.unwrap();
    }

    /// The path it shows.
    pub async fn path(&self) -> String {
        self.browser.driver.current_url().await.unwrap().path().to_owned()
    }

    /// Runs a script.
    pub async fn script(&self, script: &str) -> Value {
        self.browser.driver.execute(script, vec![]).await.unwrap().json().clone()
    }

    /// Runs a script that answers by calling its last argument.
    pub async fn script_later(&self, script: &str) -> Value {
        self.browser.driver.execute_async(script, vec![]).await.unwrap().json().clone()
    }

    /// Waits until a script says true; what the page showed when it never did.
    pub async fn until(&self, what: &str, script: &str) {
        let deadline = Instant::now() + PATIENCE;
        while self.script(script).await != Value::Bool(true) {
            if Instant::now() > deadline {
                let shown = self.script("return document.body.innerText").await;
                panic!("never came true: {what}\nthe page shows:\n{}", shown.as_str().unwrap_or_default());
            }
            tokio::time::sleep(LOOK).await;
        }
    }

    /// Waits until the page shows a text.
    pub async fn see(&self, text: &str) {
        let quoted = Value::String(text.to_owned());
        self.until(text, &format!("return document.body.innerText.replace(/\\s+/g, ' ').includes({quoted})"))
            .await;
    }

    /// The first thing that matches, once it is there.
    async fn find(&self, xpath: &str) -> WebElement {
        self.browser
            .driver
            .query(By::XPath(xpath))
            .wait(PATIENCE, LOOK)
            .and_displayed()
            .first()
            .await
            .unwrap_or_else(|e| panic!("{xpath}: {e}"))
    }

    /// Presses a button or a link by its name.
    pub async fn press(&self, name: &str) {
        self.press_in("", name).await;
    }

    /// Presses a button within the part of the page that bears this name.
    pub async fn press_in(&self, part: &str, name: &str) {
        let part = if part.is_empty() { String::new() } else { format!("//*[@aria-label='{part}']") };
        let button = format!(
            "{part}//*[self::button or self::a or self::label or self::summary or @role='button' or @role='menuitem' or @role='tab'][starts-with(normalize-space(.), '{name}') or starts-with(@aria-label, '{name}')][not(@disabled)]"
        );
        let deadline = Instant::now() + PATIENCE;
        loop {
            let element = self.find(&button).await;
            match self.pressed(&element).await {
                // It landed beside what was still coming in.
                Ok(false) if Instant::now() < deadline => {
                    eprintln!("MISSED {name}");
                    tokio::time::sleep(LOOK).await;
                }
                Ok(landed) => {
                    assert!(landed, "{name}: the press never landed");
                    return;
                }
                // It was not pressed.
                Err(error) if moved(&error) && Instant::now() < deadline => tokio::time::sleep(LOOK).await,
                Err(error) => panic!("{name}: {error}"),
            }
        }
    }

    /// Presses an element as a person does: scrolled clear of the bar at the foot of a phone. False when the
    /// press landed beside it, as on what is still sliding in.
    async fn pressed(&self, element: &WebElement) -> WebDriverResult<bool> {
        let aimed =
            "const at = arguments[0]; at.scrollIntoView({ block: 'center' }); window.pressLanded = false;
            at.addEventListener('click', () => { window.pressLanded = true }, { capture: true, once: true })";
        self.browser.driver.execute(aimed, vec![element.to_json()?]).await?;
        element.click().await?;
        Ok(self.script("return window.pressLanded !== false").await == Value::Bool(true))
    }

    /// Types on the keyboard, wherever the focus is.
    pub async fn keys(&self, keys: &str) {
        self.browser.driver.active_element().await.unwrap().send_keys(keys).await.unwrap();
    }

    /// Presses Enter.
    pub async fn enter(&self) {
        self.browser.driver.active_element().await.unwrap().send_keys(Key::Enter + "").await.unwrap();
    }

    /// Gives a file to the file field of the page.
    pub async fn upload(&self, path: &str) {
        let field = self
            .browser
            .driver
            .query(By::Css("input[type=file]"))
            .wait(PATIENCE, LOOK)
            .first()
            .await
            .unwrap();
        field.send_keys(path).await.unwrap();
    }

    /// The large figure field has the focus and shows this cell.
    pub async fn at_cell(&self, cell: &str) {
        let script = format!(
            "const e = document.activeElement; return !!e && e.value === '' && !!e.closest('label') && e.closest('label').innerText.includes('Specific gravity of {cell}')"
        );
        self.until(&format!("at cell {cell}"), &script.replace("innerText", "textContent")).await;
    }

    /// The lines of a table by its name, as they are said.
    pub async fn rows(&self, table: &str) -> Vec<String> {
        let part = format!("document.querySelector('[aria-label={}]')", quoted(table));
        self.until(table, &format!("return !!{part}?.querySelector('tbody tr[data-row-key], li')")).await;
        let lines = format!(
            "return [...{part}.querySelectorAll('tbody tr[data-row-key], li')].map(r => r.innerText.replace(/\\s+/g, ' '))"
        );
        let found = self.script(&lines).await;
        found.as_array().unwrap().iter().map(|line| line.as_str().unwrap().to_owned()).collect()
    }

    /// Reads one cell on the desk: at it, the figure, Enter.
    pub async fn read(&self, cell: &str, figure: &str) {
        self.at_cell(cell).await;
        self.keys(figure).await;
        self.enter().await;
    }

    /// What axe finds, as "rule: where"; faults named in `except` are passed over.
    pub async fn axe(&self, except: &[&str]) -> String {
        let source = std::fs::read_to_string(
            PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../web/node_modules/axe-core/axe.min.js"),
        )
        .expect("axe-core is installed with the web packages");
        self.script(&source).await;
        let found = self
            .browser.driver
            .execute_async(
                "const done = arguments[0]; axe.run().then(r => done(r.violations.map(v => [v.id, v.nodes.map(n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).slice(0, 3).join(' | ')])))",
                vec![],
            )
            .await
            .unwrap();
        let mut said = String::new();
        for violation in found.json().as_array().unwrap() {
            let rule = violation[0].as_str().unwrap();
            if !except.contains(&rule) {
                let _ = writeln!(said, "{rule}: {}", violation[1].as_str().unwrap());
            }
        }
        said
    }

    /// True when nothing is wider than the page.
    pub async fn fits(&self) -> bool {
        self.script("return document.documentElement.scrollWidth <= window.innerWidth").await
            == Value::Bool(true)
    }

    /// Waits until fonts are there and nothing is loading, then writes what is seen as a PNG.
    pub async fn picture(&self, path: &std::path::Path) {
        self.until(
            "nothing is loading",
            "return !!document.querySelector('h1') && !document.querySelector('.loading')",
        )
        .await;
        // A browser that draws nothing, since nobody looks, draws for a picture: that brings the fonts in, and what
        // the last answer changed; only the next one tells that they are there.
        let deadline = Instant::now() + PATIENCE;
        loop {
            self.browser.driver.screenshot_as_png().await.unwrap();
            if self.script("return document.fonts.status === 'loaded'").await == Value::Bool(true) {
                break;
            }
            assert!(Instant::now() < deadline, "the fonts never came");
            tokio::time::sleep(LOOK).await;
        }
        self.browser.driver.screenshot(path).await.unwrap();
    }

    /// Writes what is seen now as a PNG, whether its fonts are there or not: a photograph to hand on.
    pub async fn snapshot(&self, path: &std::path::Path) {
        self.browser.driver.screenshot(path).await.unwrap();
    }

    /// Remembers a theme for this device and loads the page anew.
    pub async fn wear(&self, theme: &str) {
        self.script(&format!(
            "localStorage.setItem('rainshadow.me', JSON.stringify({{ theme: '{theme}', initials: 'TA' }}))"
        ))
        .await;
        self.reload().await;
    }

    /// Closes the browser.
    pub async fn close(self) {
        let _ = self.browser.driver.quit().await;
    }
}
