//! A table of the report.

use super::escaped;
use std::fmt::Write as _;

/// Letters over which a cell is a sentence and no figure.
const FIGURE: usize = 24;

/// Rows under their heads; the first column is text, the others figures, unless one of them holds a sentence.
pub fn table(out: &mut String, head: &[&str], rows: &[Vec<String>]) {
    let is_text = |i: usize| {
        i == 0 || rows.iter().any(|row| row.get(i).is_some_and(|own| own.chars().count() > FIGURE))
    };
    let cell = |tag: &str, i: usize, text: &str| {
        let class = if is_text(i) { "" } else { " class=\"n\"" };
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_stand_to_the_right_and_sentences_to_the_left() {
        let mut out = String::new();
        let row = |own: [&str; 3]| own.map(ToOwned::to_owned).to_vec();
        let rows =
            [row(["A1", "6.32 V", "steady"]), row(["A2", "6.10 V", "stood thirty points under its mates"])];
        table(&mut out, &["Battery", "V", "What is said"], &rows);
        assert!(
            out.contains("<td class=\"n\">6.32 V</td>") && out.contains("<th class=\"n\">V</th>"),
            "{out}"
        );
        assert!(out.contains("<td>steady</td>") && out.contains("<th>What is said</th>"), "{out}");
    }
}
