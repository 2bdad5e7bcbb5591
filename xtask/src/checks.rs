//! `cargo xtask test`: format, lints, types, generated files, every test.

use crate::slowest::Times;
use crate::tools::{is_there, output, root, run, web_build, web_packages};
use std::process::Command;

/// Everything, in the order that fails soonest.
pub fn test() -> Result<(), String> {
    browser()?;
    proxy()?;
    run(".", "cargo", &["fmt", "--all", "--check"])?;
    web_packages()?;
    run("web", "npm", &["run", "--silent", "lint"])?;
    run("web", "npm", &["run", "--silent", "types"])?;
    // Built before the server, which embeds it.
    web_build()?;
    crate::sizes::within_limits()?;
    run(".", "cargo", &["clippy", "--workspace", "--all-targets", "--all-features", "--", "-D", "warnings"])?;
    generated_files_are_fresh()?;
    let mut times = Times::default();
    times.test(&["--workspace", "--exclude", "browser-tests", "--lib", "--bins", "--tests"], &[])?;
    run(".", "cargo", &["test", "--workspace", "--doc"])?;
    documentation()?;
    // One test at a time: one of them opens two browsers, and two are the most at once.
    times.test(&["--package", "browser-tests", "--tests"], &["--test-threads=1"])?;
    times.print_slowest();
    Ok(())
}

/// Installs Debian's browser and its driver when they are missing.
fn browser() -> Result<(), String> {
    if is_there("chromium", "CHROMIUM") && is_there("chromedriver", "CHROMEDRIVER") {
        return Ok(());
    }
    installed(&["chromium", "chromium-driver"])
}

/// Installs the proxy whose documented configuration is tested.
fn proxy() -> Result<(), String> {
    let there = ["/usr/sbin/nginx", "/usr/bin/nginx", "/usr/local/sbin/nginx"];
    if there.iter().any(|path| std::path::Path::new(path).exists()) {
        return Ok(());
    }
    installed(&["nginx-light"])
}

/// Installs Debian's packages; without the rights, says how.
fn installed(packages: &[&str]) -> Result<(), String> {
    let mut install = vec!["apt-get", "install", "--yes", "--no-install-recommends"];
    install.extend(packages);
    eprintln!("== missing: {}; installing Debian's", packages.join(", "));
    let done = Command::new("apt-get").arg("update").status().is_ok_and(|s| s.success())
        && Command::new(install[0])
            .args(&install[1..])
            .env("DEBIAN_FRONTEND", "noninteractive")
            .status()
            .is_ok_and(|s| s.success());
    if done {
        Ok(())
    } else {
        Err(format!("the tests need Debian's {}; run: sudo {}", packages.join(" and "), install.join(" ")))
    }
}

fn documentation() -> Result<(), String> {
    eprintln!("\n== cargo doc");
    let status = Command::new("cargo")
        .args(["doc", "--workspace", "--no-deps", "--quiet"])
        .env("RUSTDOCFLAGS", "-D warnings")
        .current_dir(root())
        .status()
        .map_err(|e| e.to_string())?;
    if status.success() { Ok(()) } else { Err("the documentation has warnings".into()) }
}

fn openapi() -> Result<Vec<u8>, String> {
    output(".", "cargo", &["run", "--quiet", "--package", "rainshadow", "--", "openapi"])
}

/// Writes `openapi.json`, the web's types and the journals of the demo anew.
pub fn generate() -> Result<(), String> {
    std::fs::write(root().join("openapi.json"), openapi()?).map_err(|e| e.to_string())?;
    let banks = String::from_utf8(simulated("")?).map_err(|e| e.to_string())?;
    for bank in banks.trim().split(", ") {
        let path = format!("crates/server/src/demo/journals/{bank}.jsonl");
        std::fs::write(root().join(path), simulated(bank)?).map_err(|e| e.to_string())?;
    }
    web_packages()?;
    run("web", "npm", &["run", "--silent", "api"])
}

/// The journal of a demo bank, lived through anew; their names without one.
fn simulated(bank: &str) -> Result<Vec<u8>, String> {
    let mut arguments = vec!["run", "--quiet", "--package", "rainshadow", "--", "simulate", "years"];
    arguments.extend((!bank.is_empty()).then_some(bank));
    output(".", "cargo", &arguments)
}

fn generated_files_are_fresh() -> Result<(), String> {
    let stale = |what: &str| format!("{what} is stale; run `cargo xtask generate` and commit it");
    let read = |path: &str| std::fs::read(root().join(path)).map_err(|e| format!("{path}: {e}"));
    if openapi()? != read("openapi.json")? {
        return Err(stale("openapi.json"));
    }
    let fresh = root().join("target/schema.gen.ts");
    let path = fresh.display().to_string();
    run("web", "npx", &["--no-install", "openapi-typescript", "../openapi.json", "-o", &path])?;
    if std::fs::read(&fresh).map_err(|e| e.to_string())? != read("web/src/api/schema.gen.ts")? {
        return Err(stale("web/src/api/schema.gen.ts"));
    }
    Ok(())
}

/// The figures of `docs/performance.md`.
pub fn bench() -> Result<(), String> {
    browser()?;
    web_build()?;
    crate::sizes::within_limits()?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow", "--example", "figures"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow", "--example", "visits"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow", "--example", "feeds"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow-core", "--example", "simulator"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow-core", "--example", "tests"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow-core", "--example", "plans"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow", "--example", "plans"])?;
    run(".", "cargo", &["build", "--release", "--package", "rainshadow"])?;
    run(".", "cargo", &["run", "--release", "--package", "rainshadow", "--example", "pages"])?;
    run(".", "cargo", &["run", "--package", "browser-tests", "--example", "walk"])
}

/// The pictures of `docs/screenshots`, from the demo data.
pub fn screenshots() -> Result<(), String> {
    browser()?;
    web_build()?;
    run(".", "cargo", &["run", "--package", "browser-tests", "--example", "screenshots"])
}
