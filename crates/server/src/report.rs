//! What is printed: the report of a visit and the blank field sheet, each one self-contained page.

mod field_sheet;
mod plan_svg;
mod style;
mod visit_report;

pub use field_sheet::field_sheet;
pub use visit_report::{PHOTO_MARK, visit_report};

/// Text made safe to stand in HTML.
pub(crate) fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\'' => out.push_str("&#39;"),
            other => out.push(other),
        }
    }
    out
}

/// A whole page with the print style.
pub(crate) fn page(title: &str, body: &str) -> String {
    format!(
        "<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>{}</title>\
         <meta name=\"viewport\" content=\"width=device-width\"><style>{}</style></head><body>{body}</body></html>",
        escaped(title),
        style::STYLE
    )
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_people_typed_cannot_become_markup() {
        let said = escaped("<script>alert('x')</script> & \"quotes\"");
        assert!(!said.contains('<') && !said.contains('"') && said.contains("&lt;script&gt;"), "{said}");
    }
}
