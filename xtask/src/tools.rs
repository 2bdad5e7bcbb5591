//! Running other programs, and finding them.

use std::path::{Path, PathBuf};
use std::process::Command;

/// The top of the repository.
pub fn root() -> PathBuf {
    let manifest = Path::new(env!("CARGO_MANIFEST_DIR"));
    manifest.parent().map_or_else(|| manifest.to_owned(), Path::to_owned)
}

/// Runs a program at a place in the repository and says which one failed.
pub fn run(place: &str, program: &str, arguments: &[&str]) -> Result<(), String> {
    eprintln!("\n== {program} {}", arguments.join(" "));
    let status = Command::new(program)
        .args(arguments)
        .current_dir(root().join(place))
        .status()
        .map_err(|e| format!("{program} cannot be started: {e}"))?;
    if status.success() { Ok(()) } else { Err(format!("{program} {} failed", arguments.join(" "))) }
}

/// What a program prints.
pub fn output(place: &str, program: &str, arguments: &[&str]) -> Result<Vec<u8>, String> {
    let done = Command::new(program)
        .args(arguments)
        .current_dir(root().join(place))
        .stderr(std::process::Stdio::inherit())
        .output()
        .map_err(|e| format!("{program} cannot be started: {e}"))?;
    if done.status.success() {
        Ok(done.stdout)
    } else {
        Err(format!("{program} {} failed", arguments.join(" ")))
    }
}

/// True when a program is on the path, or named by an environment variable.
pub fn is_there(program: &str, variable: &str) -> bool {
    std::env::var_os(variable).is_some()
        || std::env::var_os("PATH")
            .is_some_and(|path| std::env::split_paths(&path).any(|dir| dir.join(program).is_file()))
}

/// Installs the web application's packages when the lock file is newer than what is installed.
pub fn web_packages() -> Result<(), String> {
    let at = |name: &str| root().join("web").join(name).metadata().and_then(|m| m.modified()).ok();
    let fresh =
        at("node_modules/.package-lock.json") >= at("package-lock.json") && at("node_modules").is_some();
    if fresh { Ok(()) } else { run("web", "npm", &["ci", "--no-audit", "--no-fund"]) }
}

/// Builds the web application into `web/dist`.
pub fn web_build() -> Result<(), String> {
    web_packages()?;
    run("web", "npm", &["run", "--silent", "build"])
}
