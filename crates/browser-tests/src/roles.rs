//! What stands on a page by its role and its name, as somebody who does not see it is told.
#![allow(clippy::missing_panics_doc, reason = "helpers of tests fail loudly")]

use crate::{Page, quoted};
use serde_json::Value;

/// Elements by their role, and what each is called: by its label, or by what it says.
const ROLES: &str = "const roles = { button: 'button, [role=button]', link: 'a[href]', heading: 'h1, h2, h3', listitem: 'li', row: 'tbody tr', \
    img: 'img, [role=img]', checkbox: 'input[type=checkbox]', radio: 'input[type=radio]', field: 'input, textarea', gridcell: 'td' }; \
    const told = e => (e.getAttribute('aria-label') ?? (e.labels?.length ? e.labels[0].textContent : null) ?? e.alt ?? (e.title || e.textContent)).replace(/\\s+/g, ' ').trim(); \
    const of = (role, within) => [...(within ? [...document.querySelectorAll('[aria-label]')].filter(e => told(e) === within) : [document]).flatMap(p => [...p.querySelectorAll(roles[role])])]; \
    const called = (role, name) => of(role, '').filter(e => told(e).startsWith(name)); \
    const states = { pressed: e => e.getAttribute('aria-pressed') === 'true', checked: e => e.checked, disabled: e => e.disabled, invalid: e => e.getAttribute('aria-invalid') === 'true' };";

impl Page {
    /// How many of a role bear a name, or one that begins so.
    pub async fn count(&self, role: &str, name: &str) -> i64 {
        let script = format!("{ROLES} return called({}, {}).length", quoted(role), quoted(name));
        self.script(&script).await.as_i64().unwrap_or_default()
    }

    /// Waits until so many of a role bear a name, or one that begins so.
    pub async fn until_count(&self, role: &str, name: &str, count: i64) {
        let script = format!("{ROLES} return called({}, {}).length === {count}", quoted(role), quoted(name));
        self.until(&format!("{count} of {role} {name}"), &script).await;
    }

    /// True when something of a role and a name can be seen.
    pub async fn shown(&self, role: &str, name: &str) -> bool {
        let script = format!(
            "{ROLES} return called({}, {}).some(e => e.checkVisibility())",
            quoted(role),
            quoted(name)
        );
        self.script(&script).await == Value::Bool(true)
    }

    /// What those of a role are called within the part of the page that bears a label; empty: on all of it.
    pub async fn names(&self, role: &str, within: &str) -> Vec<String> {
        let script = format!("{ROLES} return of({}, {}).map(told)", quoted(role), quoted(within));
        let found = self.script(&script).await;
        let names = found.as_array().into_iter().flatten().filter_map(Value::as_str);
        names.map(str::to_owned).collect()
    }

    /// Waits until so many of a role stand within the part of the page that bears a label.
    pub async fn until_within(&self, within: &str, role: &str, count: usize) {
        let script = format!("{ROLES} return of({}, {}).length === {count}", quoted(role), quoted(within));
        self.until(&format!("{count} of {role} in {within}"), &script).await;
    }

    /// True when what bears a role and a name is in a state: pressed, checked, disabled, invalid.
    pub async fn is(&self, role: &str, name: &str, state: &str) -> bool {
        let script = format!(
            "{ROLES} const e = called({}, {})[0]; return !!e && !!states[{}](e)",
            quoted(role),
            quoted(name),
            quoted(state)
        );
        self.script(&script).await == Value::Bool(true)
    }

    /// Waits until what bears a role and a name is, or is no longer, in a state.
    pub async fn until_is(&self, role: &str, name: &str, state: &str, wanted: bool) {
        let script = format!(
            "{ROLES} const e = called({}, {})[0]; return !!e && !!states[{}](e) === {wanted}",
            quoted(role),
            quoted(name),
            quoted(state)
        );
        self.until(&format!("{role} {name} {state}: {wanted}"), &script).await;
    }

    /// Waits until what is described beside its name says a word: the state of a cell.
    pub async fn until_told(&self, role: &str, name: &str, word: &str) {
        let script = format!(
            "{ROLES} return called({}, {}).some(e => (e.getAttribute('aria-description') ?? '').includes({}))",
            quoted(role),
            quoted(name),
            quoted(word)
        );
        self.until(&format!("{role} {name} is told as {word}"), &script).await;
    }

    /// Waits until the part of the page that bears a label shows a text.
    pub async fn see_in(&self, label: &str, text: &str) {
        let script = format!(
            "{ROLES} return [...document.querySelectorAll('[aria-label]')].some(e => told(e).startsWith({}) && e.textContent.replace(/\\s+/g, ' ').includes({}))",
            quoted(label),
            quoted(text)
        );
        self.until(&format!("{label} shows {text}"), &script).await;
    }

    /// What the part of the page that bears a label says, once it is there.
    pub async fn text(&self, label: &str) -> String {
        let part =
            format!("document.querySelector('[aria-label=' + JSON.stringify({}) + ']')", quoted(label));
        self.until(label, &format!("return !!{part}")).await;
        self.script(&format!("return {part}.innerText")).await.as_str().unwrap_or_default().to_owned()
    }

    /// Waits until a heading says exactly this.
    pub async fn headed(&self, text: &str) {
        let script = format!("{ROLES} return of('heading', '').some(e => told(e) === {})", quoted(text));
        self.until(&format!("a heading says {text}"), &script).await;
    }

    /// Waits until a picture is loaded.
    pub async fn pictured(&self, name: &str) {
        let script = format!("{ROLES} return called('img', {}).some(e => e.naturalWidth > 0)", quoted(name));
        self.until(&format!("the picture {name}"), &script).await;
    }

    /// How far down the page what bears a role and a name begins, pixels.
    pub async fn top(&self, role: &str, name: &str) -> f64 {
        let script = format!(
            "{ROLES} return called({}, {})[0].getBoundingClientRect().top",
            quoted(role),
            quoted(name)
        );
        self.script(&script).await.as_f64().unwrap_or(f64::NAN)
    }
}
