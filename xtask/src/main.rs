//! Rainshadow's build logic: `cargo xtask demo`, `test`, `generate`, `bench` and
//! `screenshots`.

mod checks;
mod demo;
mod sizes;
mod slowest;
mod tools;

use std::process::ExitCode;

const USAGE: &str = "usage: cargo xtask demo [--fresh] [--today DATE] [--listen ADDR]\n\
    \x20      cargo xtask test\n\
    \x20      cargo xtask generate     (openapi.json, the web's types, the demo's journals)\n\
    \x20      cargo xtask sizes        (what a browser fetches, against its limits)\n\
    \x20      cargo xtask bench        (the figures of docs/performance.md)\n\
    \x20      cargo xtask screenshots  (the pictures of docs/screenshots)";

fn main() -> ExitCode {
    let mut arguments = std::env::args().skip(1);
    let result = match arguments.next().as_deref() {
        Some("demo") => demo::demo(&arguments.collect::<Vec<_>>()),
        Some("test") => checks::test(),
        Some("generate") => checks::generate(),
        Some("sizes") => tools::web_build().and_then(|()| sizes::within_limits()),
        Some("bench") => checks::bench(),
        Some("screenshots") => checks::screenshots(),
        _ => Err(USAGE.to_owned()),
    };
    match result {
        Ok(()) => ExitCode::SUCCESS,
        Err(why) => {
            eprintln!("xtask: {why}");
            ExitCode::FAILURE
        }
    }
}
