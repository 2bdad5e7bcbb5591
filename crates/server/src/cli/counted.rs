//! How far a command is, on the error stream of a terminal; nothing where nobody looks.

use indicatif::{ProgressBar, ProgressStyle};

fn styled(template: &str) -> ProgressBar {
    let style = ProgressStyle::with_template(template).unwrap_or_else(|_wrong| ProgressStyle::default_bar());
    ProgressBar::no_length().with_style(style)
}

/// Counts things that are called by a name in the plural.
#[must_use]
pub fn counting(things: &str) -> ProgressBar {
    styled(&format!("{{bar:30}} {{pos}} of {{len}} {things}"))
}

/// Counts the bytes of a file that is read.
#[must_use]
pub fn reading() -> ProgressBar {
    styled("{bar:30} {binary_bytes} of {binary_total_bytes} read, {eta} to go")
}
