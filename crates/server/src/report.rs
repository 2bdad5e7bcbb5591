//! What is printed: the report of a visit and the blank field sheet, each one self-contained page.

use base64::Engine as _;

mod appendix;
mod bank_plan;
mod compared;
mod field_sheet;
mod owner_lines;
mod plan_chart;
mod plan_page;
mod plan_svg;
mod run_section;
mod seen;
mod style;
mod table;
mod visit_report;

pub use field_sheet::field_sheet;
pub use plan_page::plan_page;
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

/// The faces the application is set in, put into the page so that it looks the same anywhere; none
/// when the web application is not built.
fn faces() -> String {
    let face = |weight: u16, file: &str| {
        let bytes = crate::http::web_app::built_asset(file)?;
        let data = base64::engine::general_purpose::STANDARD.encode(bytes);
        Some(format!(
            "@font-face{{font-family:'Atkinson Hyperlegible Next';font-weight:{weight};\
             src:url(data:font/woff2;base64,{data}) format('woff2')}}"
        ))
    };
    [
        (400, "atkinson-hyperlegible-next-latin-400-normal"),
        (600, "atkinson-hyperlegible-next-latin-600-normal"),
    ]
    .into_iter()
    .filter_map(|(weight, file)| face(weight, file))
    .collect()
}

/// A whole page with the print style.
pub(crate) fn page(title: &str, body: &str) -> String {
    format!(
        "<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><link rel=\"icon\" href=\"data:,\"><title>{}</title>\
         <meta name=\"viewport\" content=\"width=device-width\"><style>{}</style></head><body>{body}</body></html>",
        escaped(title),
        faces() + style::STYLE
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
