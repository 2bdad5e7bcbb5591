//! Fields, lists and the focus, by label and by name, with the keyboard as a person has it.
#![allow(clippy::unwrap_used, clippy::missing_panics_doc, reason = "helpers of tests fail loudly")]

use crate::{LOOK, PATIENCE, Page, quoted};
use serde_json::Value;
use std::time::Instant;
use thirtyfour::prelude::*;

/// What can have the focus on a page, and what each is called.
const FOCUSABLE: &str = "const named = e => (e.getAttribute('aria-label') ?? (e.labels?.length ? e.labels[0].textContent : null) ?? e.textContent).replace(/\\s+/g, ' ').trim(); \
    const all = [...document.querySelectorAll('a[href], button, input, select, textarea, [tabindex]')].filter(e => e.checkVisibility());";

impl Page {
    /// A field by its label.
    pub async fn field(&self, label: &str) -> WebElement {
        self.find(&format!(
            "//*[@id=//label[starts-with(normalize-space(.), '{label}')]/@for] | //*[self::input or self::select][@aria-label='{label}'] | //label[starts-with(normalize-space(.), '{label}')]//input"
        ))
        .await
    }

    /// Puts the focus on a field or a button by its name.
    pub async fn focus(&self, name: &str) {
        let to = format!(
            "{FOCUSABLE} const to = all.find(e => named(e) === {0}) ?? all.find(e => named(e).startsWith({0})); to?.focus(); return !!to && document.activeElement === to",
            quoted(name)
        );
        self.until(&format!("{name} takes the focus"), &to).await;
    }

    /// Waits until what bears this name has the focus.
    pub async fn focused(&self, name: &str) {
        let is = format!("{FOCUSABLE} return named(document.activeElement).startsWith({})", quoted(name));
        self.until(&format!("the focus is on {name}"), &is).await;
    }

    /// Waits until nothing of a role is shown.
    pub async fn gone(&self, role: &str) {
        let none = format!(
            "return ![...document.querySelectorAll('[role={role}]')].some(e => e.checkVisibility({{ visibilityProperty: true, opacityProperty: true }}))"
        );
        self.until(&format!("no {role} is shown"), &none).await;
    }

    /// Waits until what lies over the page has taken the focus.
    pub async fn within(&self, what: &str) {
        let is = format!("return !!document.activeElement.closest('[role={what}], .ant-{what}')");
        self.until(&format!("the {what} has the focus"), &is).await;
    }

    /// What a field holds.
    pub async fn value(&self, label: &str) -> String {
        self.field(label).await.prop("value").await.unwrap().unwrap_or_default()
    }

    /// Waits until a field holds a text.
    pub async fn until_value(&self, label: &str, text: &str) {
        let deadline = Instant::now() + PATIENCE;
        while self.value(label).await != text {
            assert!(Instant::now() < deadline, "{label} holds {}", self.value(label).await);
            tokio::time::sleep(LOOK).await;
        }
    }

    /// Waits until a field is marked as faulty and says why.
    pub async fn faulty(&self, label: &str) {
        let field = self.field(label).await.to_json().unwrap();
        let marked = "const f = arguments[0]; const said = document.getElementById(f.getAttribute('aria-describedby')); \
                      return f.getAttribute('aria-invalid') === 'true' && !!said?.innerText.trim()";
        let deadline = Instant::now() + PATIENCE;
        while self.browser.driver.execute(marked, vec![field.clone()]).await.unwrap().json()
            != &Value::Bool(true)
        {
            assert!(Instant::now() < deadline, "{label} is not marked as faulty");
            tokio::time::sleep(LOOK).await;
        }
    }

    /// Types into a field, instead of what was there.
    pub async fn fill(&self, label: &str, text: &str) {
        let field = self.field(label).await;
        field.send_keys(Key::Control + "a").await.unwrap();
        field.send_keys(Key::Delete + "").await.unwrap();
        field.send_keys(text).await.unwrap();
    }

    /// Chooses from a list by what it says, with the keyboard alone.
    pub async fn choose(&self, label: &str, option: &str) {
        let to = format!(
            "const to = [...document.querySelectorAll('label')].find(l => l.textContent.trim().startsWith({})); \
             const field = to ? document.getElementById(to.htmlFor) : document.querySelector(`[aria-label=${{JSON.stringify({})}}]`); \
             if (!field || field.disabled) return false; \
             field.scrollIntoView({{ block: 'center' }}); field.focus(); return document.activeElement === field",
            quoted(label),
            quoted(label),
        );
        self.until(&format!("a list to choose {label} from"), &to).await;
        let field = self.browser.driver.active_element().await.unwrap();
        if field.tag_name().await.unwrap() == "select" {
            let select = thirtyfour::components::SelectElement::new(&field).await.unwrap();
            select.select_by_partial_text(option).await.unwrap();
            return;
        }
        self.keys("\u{e015}").await;
        self.until("it is open", "return document.activeElement.getAttribute('aria-expanded') === 'true'")
            .await;
        if self.script("return !document.activeElement.readOnly").await == Value::Bool(true) {
            self.keys(option).await;
        }
        let is = format!(
            "const at = document.getElementById(document.activeElement.getAttribute('aria-activedescendant')); \
             return !!at && (at.getAttribute('aria-label') ?? at.textContent).includes({})",
            quoted(option)
        );
        let deadline = Instant::now() + PATIENCE;
        while self.script(&is).await != Value::Bool(true) {
            assert!(Instant::now() < deadline, "{label}: {option} is not among the choices");
            self.keys("\u{e015}").await;
        }
        self.enter().await;
    }
}
