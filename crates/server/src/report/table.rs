//! A table of the report.

use super::escaped;
use std::fmt::Write as _;

/// Rows under their heads; the first column is text, the others figures.
pub fn table(out: &mut String, head: &[&str], rows: &[Vec<String>]) {
    let cell = |tag: &str, i: usize, text: &str| {
        let class = if i == 0 { "" } else { " class=\"n\"" };
        format!("<{tag}{class}>{}</{tag}>", escaped(text))
    };
    let heads: String = head.iter().enumerate().map(|(i, h)| cell("th", i, h)).collect();
    let _ = write!(out, "<table><tr>{heads}</tr>");
    for row in rows {
        let cells: String = row.iter().enumerate().map(|(i, c)| cell("td", i, c)).collect();
        let _ = write!(out, "<tr>{cells}</tr>");
    }
    out.push_str("</table>");
}
