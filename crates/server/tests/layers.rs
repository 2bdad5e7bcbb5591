//! The floors of the house, read from the source: arrows go down only, and no file stands in a circle.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

/// A module by its path in the crate.
type Module = Vec<String>;

/// A crate as its files take names from one another.
struct House {
    files: BTreeMap<Module, String>,
    /// Names that a file gives on from elsewhere.
    given_on: BTreeMap<(Module, String), Vec<String>>,
    defined: BTreeSet<(Module, String)>,
}

fn folder(of: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(of).join("src")
}

/// The source without comments, texts and the tests at its foot.
fn bare(text: &str) -> String {
    let text = text.split("#[cfg(test)]\nmod tests").next().unwrap_or_default();
    let mut out = String::new();
    for line in text.lines() {
        let mut inside = false;
        let mut before = ' ';
        let mut chars = line.chars().peekable();
        while let Some(c) = chars.next() {
            if c == '"' && before != '\\' && before != '\'' {
                inside = !inside;
            }
            if !inside && c == '/' && chars.peek() == Some(&'/') {
                break;
            }
            if !inside {
                out.push(c);
            }
            before = c;
        }
        out.push('\n');
    }
    out
}

fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !c.is_alphanumeric() && c != '_').filter(|w| !w.is_empty())
}

/// `a::{b, c::{d}}` as its three paths.
fn expanded(tree: &str) -> Vec<Vec<String>> {
    let tree = tree.trim();
    let Some(open) = tree.find('{') else {
        let path = tree.split(" as ").next().unwrap_or_default();
        return vec![path.split("::").map(|p| p.trim().to_owned()).filter(|p| !p.is_empty()).collect()];
    };
    let head: Vec<String> =
        tree[..open].split("::").map(|p| p.trim().to_owned()).filter(|p| !p.is_empty()).collect();
    let body = &tree[open + 1..tree.rfind('}').unwrap_or(tree.len())];
    let (mut depth, mut from, mut parts) = (0, 0, Vec::new());
    for (at, c) in body.char_indices() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            ',' if depth == 0 => {
                parts.push(&body[from..at]);
                from = at + 1;
            }
            _ => {}
        }
    }
    parts.push(&body[from..]);
    let inner = parts.into_iter().filter(|p| !p.trim().is_empty()).flat_map(expanded);
    inner.map(|tail| head.iter().cloned().chain(tail).collect()).collect()
}

/// The trees of all `use` lines; true for those that give names on.
fn uses(text: &str) -> Vec<(bool, String)> {
    let mut all = Vec::new();
    let mut rest = text;
    while let Some(at) = rest.find("use ") {
        let alone = rest[..at].chars().next_back().is_none_or(char::is_whitespace);
        let head = rest[..at].rsplit('\n').next().unwrap_or_default().trim();
        rest = &rest[at + 4..];
        if alone && (head.is_empty() || head.starts_with("pub")) {
            let end = rest.find(';').unwrap_or(rest.len());
            all.push((head.starts_with("pub"), rest[..end].to_owned()));
            rest = &rest[end..];
        }
    }
    all
}

fn collect(root: &Path, at: &Path, files: &mut BTreeMap<Module, String>) {
    for entry in fs::read_dir(at).unwrap().flatten() {
        let path = entry.path();
        if path.is_dir() {
            collect(root, &path, files);
        } else if path.extension().is_some_and(|e| e == "rs") && !path.ends_with("main.rs") {
            let own = path.strip_prefix(root).unwrap().with_extension("");
            let module: Module = own.iter().map(|p| p.to_string_lossy().into_owned()).collect();
            let module = if module == ["lib"] { Module::new() } else { module };
            files.insert(module, bare(&fs::read_to_string(&path).unwrap()));
        }
    }
}

impl House {
    fn read(root: &Path) -> Self {
        let mut files = BTreeMap::new();
        collect(root, root, &mut files);
        let (mut given_on, mut defined) = (BTreeMap::new(), BTreeSet::new());
        for (module, text) in &files {
            let all: Vec<&str> = words(text).collect();
            for pair in all.windows(2) {
                if ["fn", "struct", "enum", "trait", "type", "const", "static"].contains(&pair[0]) {
                    defined.insert((module.clone(), pair[1].to_owned()));
                }
            }
            for (_, tree) in uses(text).into_iter().filter(|(public, _)| *public) {
                for path in expanded(&tree) {
                    if let Some(name) = path.last().cloned() {
                        given_on.insert((module.clone(), name), path);
                    }
                }
            }
        }
        Self { files, given_on, defined }
    }

    /// The file in which what a path names is made; none for what is not of this crate.
    fn made_in(&self, from: &Module, path: &[String], steps: usize) -> Option<Module> {
        let mut at = from.clone();
        let mut rest = path;
        match rest.first()?.as_str() {
            "crate" => {
                at.clear();
                rest = &rest[1..];
            }
            "super" => {
                while rest.first().is_some_and(|p| p == "super") {
                    at.pop();
                    rest = &rest[1..];
                }
            }
            "self" => rest = &rest[1..],
            first => {
                let child: Module = at.iter().cloned().chain([first.to_owned()]).collect();
                if !self.files.contains_key(&child) {
                    return None;
                }
            }
        }
        while let Some(next) = rest.first() {
            let child: Module = at.iter().cloned().chain([next.clone()]).collect();
            if !self.files.contains_key(&child) {
                break;
            }
            at = child;
            rest = &rest[1..];
        }
        let Some(name) = rest.first() else { return Some(at) };
        let key = (at.clone(), name.clone());
        match self.given_on.get(&key) {
            Some(path) if !self.defined.contains(&key) && steps < 8 => {
                Some(self.made_in(&at, path, steps + 1).unwrap_or(at))
            }
            _ => Some(at),
        }
    }

    /// From which files each file takes names; what it gives on only, and what a child takes from the file
    /// it is declared in, are no arrows.
    fn arrows(&self) -> BTreeMap<Module, BTreeSet<Module>> {
        let mut all: BTreeMap<Module, BTreeSet<Module>> = BTreeMap::new();
        for (module, text) in &self.files {
            let mut paths: Vec<Vec<String>> = Vec::new();
            for (_, tree) in uses(text).into_iter().filter(|(public, _)| !public) {
                paths.extend(expanded(&tree));
            }
            // Use lines are read above; what is left names its paths in full.
            let own = uses(text).into_iter().fold(text.clone(), |own, (_, tree)| own.replacen(&tree, " ", 1));
            let spaced: String = own
                .chars()
                .map(|c| if c.is_alphanumeric() || c == '_' || c == ':' { c } else { ' ' })
                .collect();
            for word in spaced.split_whitespace().filter(|w| w.contains("::")) {
                let path: Vec<String> =
                    word.split("::").filter(|p| !p.is_empty()).map(ToOwned::to_owned).collect();
                paths.push(path);
            }
            let to = paths.iter().filter_map(|path| self.made_in(module, path, 0));
            let own = to.filter(|to| to != module && !module.starts_with(to));
            all.entry(module.clone()).or_default().extend(own);
        }
        all
    }
}

/// Files from which a file can be reached along the arrows.
fn reached(arrows: &BTreeMap<Module, BTreeSet<Module>>, from: &Module) -> BTreeSet<Module> {
    let mut seen = BTreeSet::new();
    let mut todo: Vec<&Module> = arrows.get(from).into_iter().flatten().collect();
    while let Some(at) = todo.pop() {
        if seen.insert(at.clone()) {
            todo.extend(arrows.get(at).into_iter().flatten());
        }
    }
    seen
}

#[test]
fn no_file_of_core_or_server_stands_in_a_circle() {
    for of in ["core", "server"] {
        let house = House::read(&folder(of));
        let arrows = house.arrows();
        assert!(arrows.values().map(BTreeSet::len).sum::<usize>() > 200, "the arrows of {of} are not read");
        let circles: Vec<String> = arrows
            .keys()
            .filter(|file| reached(&arrows, file).contains(*file))
            .map(|file| {
                let back = arrows[file].iter().filter(|to| reached(&arrows, to).contains(file));
                format!("{} -> {:?}", file.join("/"), back.map(|m| m.join("/")).collect::<Vec<_>>())
            })
            .collect();
        assert!(circles.is_empty(), "{of}: {circles:#?}");
    }
}

/// Rooms from the lowest floor up, and what each may not take from.
const FLOORS: [(&str, &[&str]); 4] = [
    ("db", &["app", "http", "report", "demo", "cli", "feed", "formats", "charger_simulator", "serve"]),
    ("app", &["http", "report", "demo", "cli", "feed", "formats", "charger_simulator", "serve"]),
    ("http", &["cli", "serve"]),
    ("report", &["demo", "cli", "serve"]),
];

#[test]
fn no_floor_takes_from_one_above_it() {
    let house = House::read(&folder("server"));
    let mut wrong = Vec::new();
    for (from, to) in house.arrows() {
        for (floor, above) in FLOORS {
            let room = from.first().is_some_and(|room| room == floor);
            for target in
                to.iter().filter(|to| room && to.first().is_some_and(|t| above.contains(&t.as_str())))
            {
                wrong.push(format!("{} -> {}", from.join("/"), target.join("/")));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

#[test]
fn sql_and_sentences_stay_on_their_floors() {
    let house = House::read(&folder("server"));
    let has = |text: &str, word: &str| words(text).any(|own| own == word);
    let room = |module: &Module, room: &str| module.first().is_some_and(|own| own == room);
    let sentences: Vec<String> = house
        .files
        .iter()
        .filter(|(module, text)| room(module, "db") && has(text, "wording"))
        .map(|(module, _)| module.join("/"))
        .collect();
    assert!(sentences.is_empty(), "db says sentences: {sentences:?}");
    let rusqlite: Vec<String> = house
        .files
        .iter()
        .filter(|(module, text)| !room(module, "db") && has(text, "rusqlite"))
        .map(|(module, _)| module.join("/"))
        .collect();
    assert!(rusqlite.is_empty(), "rusqlite is known outside db: {rusqlite:?}");
}

#[test]
fn only_use_cases_open_transactions() {
    let house = House::read(&folder("server"));
    let mut wrong = Vec::new();
    for (module, text) in &house.files {
        if !module.first().is_some_and(|own| ["http", "report", "formats", "cli"].contains(&own.as_str())) {
            continue;
        }
        // `TcpListener` is told of connections too, in lower case.
        let named = words(text).find(|w| ["Connection", "Transaction"].contains(w)).map(ToOwned::to_owned);
        let calls = [
            ".db.read",
            ".db.write",
            ".db.unwritten",
            ".app.write",
            "state.write",
            "read(|db|",
            "read(move |db|",
        ];
        let called = calls.iter().find(|call| text.contains(*call)).map(ToString::to_string);
        wrong.extend(named.or(called).map(|what| format!("{}: {what}", module.join("/"))));
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

#[test]
fn rows_are_written_by_use_cases_alone() {
    let house = House::read(&folder("server"));
    // The doctor, the archive and the door of the folder work on the file itself.
    let own = ["db", "app", "doctor", "backup"];
    let rooms = house.files.iter().filter(|(module, _)| !module.first().is_some_and(|m| own.contains(&&**m)));
    let mut wrong = Vec::new();
    for (module, text) in rooms {
        let row = ["create", "append", "finish", "close", "thin", "set_access", "save"];
        let calls = row.iter().map(|verb| format!("::{verb}(tx")).chain([".save(tx".into()]);
        wrong.extend(
            calls.filter(|call| text.contains(call)).map(|call| format!("{}: {call}", module.join("/"))),
        );
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
    let of = |file: &[&str]| &house.files[&file.iter().map(ToString::to_string).collect::<Module>()];
    assert!(of(&["app", "feeds"]).contains("::thin(tx"), "the calls are found where they are");
}

#[test]
fn the_core_knows_nothing_of_the_rest() {
    let house = House::read(&folder("core"));
    for (module, text) in &house.files {
        for stranger in ["rusqlite", "axum", "tokio", "reqwest", "rainshadow_server"] {
            assert!(!words(text).any(|own| own == stranger), "{} knows {stranger}", module.join("/"));
        }
    }
}

#[test]
fn no_file_is_longer_than_four_hundred_lines() {
    let mut long = Vec::new();
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut todo = vec![root.join("crates"), root.join("web/src"), root.join("xtask")];
    while let Some(at) = todo.pop() {
        for entry in fs::read_dir(&at).unwrap().flatten() {
            let path = entry.path();
            let name = entry.file_name().to_string_lossy().into_owned();
            if path.is_dir() {
                if !["node_modules", "dist", "target"].contains(&name.as_str()) {
                    todo.push(path);
                }
            } else if path.extension().is_some_and(|e| ["rs", "ts", "vue"].iter().any(|own| e == *own))
                && !name.ends_with(".gen.ts")
            {
                let lines = fs::read_to_string(&path).unwrap().lines().count();
                if lines > 400 {
                    long.push(format!("{}: {lines}", path.strip_prefix(&root).unwrap_or(&path).display()));
                }
            }
        }
    }
    assert!(long.is_empty(), "{long:#?}");
}
