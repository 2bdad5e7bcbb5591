//! `cargo xtask demo`: builds everything, starts with demo data, prints the address.

use crate::tools;

/// Builds and starts; everything after `demo` goes to `rainshadow demo`.
pub fn demo(arguments: &[String]) -> Result<(), String> {
    tools::web_build()?;
    let mut all: Vec<&str> = vec!["run", "--quiet", "--release", "--package", "rainshadow", "--", "demo"];
    all.extend(arguments.iter().map(String::as_str));
    tools::run(".", "cargo", &all)
}
