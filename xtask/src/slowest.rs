//! The ten slowest tests, from the times the test programs print.

use std::io::{BufRead, BufReader, Write};
use std::process::{Command, Stdio};

/// Times of all tests run so far.
#[derive(Default)]
pub struct Times(Vec<(f64, String)>);

impl Times {
    /// Runs tests, passes their output on and keeps their times.
    pub fn test(&mut self, arguments: &[&str], runner: &[&str]) -> Result<(), String> {
        eprintln!("\n== cargo test {}", arguments.join(" "));
        let mut child = Command::new("cargo")
            .arg("test")
            .args(arguments)
            .args(["--", "-Zunstable-options", "--report-time"])
            .args(runner)
            // The runner starts only the built test programs with the variable that lets them print
            // times; the compiler never sees it.
            .env(format!("CARGO_TARGET_{}_RUNNER", host_triple()?), "env RUSTC_BOOTSTRAP=1")
            .current_dir(crate::tools::root())
            .stdout(Stdio::piped())
            .spawn()
            .map_err(|e| format!("cargo cannot be started: {e}"))?;
        if let Some(stdout) = child.stdout.take() {
            for line in BufReader::new(stdout).lines().map_while(Result::ok) {
                let _ = writeln!(std::io::stdout(), "{line}");
                self.0.extend(time_of(&line));
            }
        }
        let status = child.wait().map_err(|e| e.to_string())?;
        if status.success() { Ok(()) } else { Err("tests failed".into()) }
    }

    /// Prints the ten slowest.
    pub fn print_slowest(mut self) {
        self.0.sort_by(|a, b| b.0.total_cmp(&a.0));
        eprintln!("\nThe ten slowest tests:");
        for (seconds, name) in self.0.iter().take(10) {
            eprintln!("{seconds:8.3} s  {name}");
        }
    }
}

/// `test NAME ... ok <1.234s>`.
fn time_of(line: &str) -> Option<(f64, String)> {
    let (name, rest) = line.strip_prefix("test ")?.split_once(" ... ")?;
    let (_, time) = rest.split_once('<')?;
    Some((time.strip_suffix("s>")?.parse().ok()?, name.to_owned()))
}

fn host_triple() -> Result<String, String> {
    let said = crate::tools::output(".", "rustc", &["-vV"])?;
    let said = String::from_utf8_lossy(&said).into_owned();
    let triple = said.lines().find_map(|l| l.strip_prefix("host: ")).ok_or("rustc names no host")?;
    Ok(triple.to_uppercase().replace(['-', '.'], "_"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_timed_line_is_understood_and_others_are_passed_over() {
        assert_eq!(time_of("test a::b ... ok <0.120s>"), Some((0.12, "a::b".into())));
        assert_eq!(time_of("test a::b ... FAILED <2.000s>"), Some((2.0, "a::b".into())));
        assert_eq!(time_of("running 3 tests"), None);
        assert_eq!(time_of("test a ... ok"), None);
    }
}
