//! What a browser must fetch: the first screen and each later route, as sent, against their limits.

use crate::tools::root;
use flate2::{Compression, write::GzEncoder};
use serde_json::Value;
use std::collections::BTreeSet;
use std::io::Write as _;
use std::path::Path;

/// Scripts, styles and fonts of the first screen, kB.
const FIRST_SCREEN: f64 = 290.0;
/// What any later route fetches beyond it, kB.
const LATER_ROUTE: f64 = 160.0;

/// Where the first screen begins, and the page it leads to.
const ENTRY: &str = "index.html";
const FIRST_PAGE: &str = "src/features/today/TodayView.vue";
/// A page that stands inside another is fetched with it.
const INSIDE: [(&str, &str); 4] = [
    ("src/features/bank/BankNow.vue", "src/features/bank/BankView.vue"),
    ("src/features/bank/BankHistory.vue", "src/features/bank/BankView.vue"),
    ("src/features/bank/BankCharger.vue", "src/features/bank/BankView.vue"),
    ("src/features/bank/BankBatteries.vue", "src/features/bank/BankView.vue"),
];
/// Charts with axes, fetched when the first one is shown.
const CHART_PART: &str = "src/components/chart/AxesChart.vue";

/// The parts of a build and what each fetches at once.
struct Build(Value);

impl Build {
    /// Files that are fetched for a part: itself, what it imports, their styles.
    fn files(&self, part: &str, into: &mut BTreeSet<String>, seen: &mut BTreeSet<String>) {
        if !seen.insert(part.to_owned()) {
            return;
        }
        let texts = |key: &str| -> Vec<String> {
            let list = self.0[part][key].as_array().cloned().unwrap_or_default();
            list.iter().filter_map(|v| v.as_str().map(str::to_owned)).collect()
        };
        into.extend(self.0[part]["file"].as_str().map(str::to_owned));
        into.extend(texts("css"));
        into.extend(texts("assets").into_iter().filter(|a| is_font(a)));
        for import in texts("imports") {
            self.files(&import, into, seen);
        }
    }

    fn of(&self, parts: &[&str]) -> BTreeSet<String> {
        let (mut files, mut seen) = (BTreeSet::new(), BTreeSet::new());
        for part in parts {
            self.files(part, &mut files, &mut seen);
        }
        files
    }

    /// The views that the router fetches, and the chart.
    fn routes(&self) -> Vec<String> {
        let parts = self.0.as_object().into_iter().flatten();
        parts
            .filter(|(name, part)| part["isDynamicEntry"] == true && (is_page(name) || *name == CHART_PART))
            .map(|(name, _)| name.clone())
            .collect()
    }
}

/// A view that the router fetches, by itself or inside another.
fn is_page(part: &str) -> bool {
    part.ends_with("View.vue") || INSIDE.iter().any(|(inner, _)| *inner == part)
}

/// A browser of today takes this format and leaves the other.
fn is_font(path: &str) -> bool {
    Path::new(path).extension().is_some_and(|e| e == "woff2")
}

/// Bytes as they are sent: packed, but for fonts, which are.
fn sent(path: &Path) -> Result<usize, String> {
    let bytes = std::fs::read(path).map_err(|e| format!("{}: {e}", path.display()))?;
    if is_font(&path.to_string_lossy()) {
        return Ok(bytes.len());
    }
    let mut packed = GzEncoder::new(Vec::new(), Compression::default());
    packed.write_all(&bytes).map_err(|e| e.to_string())?;
    Ok(packed.finish().map_err(|e| e.to_string())?.len())
}

fn kilobytes(files: &BTreeSet<String>) -> Result<f64, String> {
    let dist = root().join("web/dist");
    let bytes = files.iter().map(|file| sent(&dist.join(file))).sum::<Result<usize, _>>()?;
    Ok(f64::from(u32::try_from(bytes).unwrap_or(u32::MAX)) / 1000.0)
}

/// Measures what was built; what is above its limit fails.
pub fn within_limits() -> Result<(), String> {
    let manifest = root().join("web/dist/.vite/manifest.json");
    let text = std::fs::read_to_string(&manifest).map_err(|e| format!("{}: {e}", manifest.display()))?;
    let build = Build(serde_json::from_str(&text).map_err(|e| e.to_string())?);
    let first = build.of(&[ENTRY, FIRST_PAGE]);
    let size = kilobytes(&first)?;
    eprintln!("\n== sizes as sent\n{size:8.1} kB  first screen, limit {FIRST_SCREEN} kB");
    let mut above =
        Vec::from_iter((size > FIRST_SCREEN).then(|| format!("the first screen is {size:.1} kB")));
    for route in build.routes() {
        let outer = INSIDE.iter().find(|(inner, _)| *inner == route).map(|(_, outer)| *outer);
        let parts: Vec<&str> = [Some(route.as_str()), outer].into_iter().flatten().collect();
        let more = kilobytes(&build.of(&parts).difference(&first).cloned().collect())?;
        eprintln!("{more:8.1} kB  {route}, limit {LATER_ROUTE} kB");
        above.extend((more > LATER_ROUTE).then(|| format!("{route} is {more:.1} kB more")));
    }
    if above.is_empty() { Ok(()) } else { Err(format!("too large: {}", above.join("; "))) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn a_route_fetches_what_it_imports_and_nothing_that_is_fetched_later() {
        let build = Build(json!({
            "index.html": {"file": "i.js", "css": ["i.css"], "assets": ["a.woff", "a.woff2"], "imports": ["_x.js"]},
            "_x.js": {"file": "x.js", "imports": ["index.html"]},
            "src/features/a/AView.vue": {"file": "a.js", "imports": ["_x.js"], "isDynamicEntry": true, "dynamicImports": ["late"]},
            "late": {"file": "late.js", "isDynamicEntry": true},
        }));
        let names = |parts: &[&str]| build.of(parts).into_iter().collect::<Vec<_>>().join(" ");
        assert_eq!(names(&["index.html"]), "a.woff2 i.css i.js x.js");
        assert_eq!(names(&["src/features/a/AView.vue"]), "a.js a.woff2 i.css i.js x.js");
        assert_eq!(build.routes(), ["src/features/a/AView.vue"]);
    }
}
