//! What a report says, read as an owner reads it: by its sentences.

/// A report of a visit.
pub struct Report(String);

fn plain(html: &str) -> String {
    let mut out = String::new();
    let mut inside = false;
    for c in html.chars() {
        match c {
            '<' => inside = true,
            '>' => {
                inside = false;
                out.push(' ');
            }
            c if !inside => out.push(c),
            _ => {}
        }
    }
    let out = out.replace("&amp;", "&").replace("&lt;", "<").replace("&gt;", ">").replace("&quot;", "\"");
    out.split_whitespace().collect::<Vec<_>>().join(" ")
}

impl Report {
    pub fn of(html: &str) -> Self {
        let body = html.find("</style>").map_or(0, |at| at + "</style>".len());
        Self(html[body..].to_owned())
    }

    fn between(&self, from: &str, to: &str) -> &str {
        let Some(at) = self.0.find(from) else { return "" };
        let rest = &self.0[at + from.len()..];
        &rest[..rest.find(to).unwrap_or(rest.len())]
    }

    /// The first sentence.
    pub fn verdict(&self) -> String {
        plain(self.between("<h1>", "</h1>"))
    }

    /// The line of site, bank, day and person.
    pub fn place(&self) -> String {
        plain(self.between("<p class=\"where\">", "</p>"))
    }

    /// What stands under a heading, line by line.
    pub fn under(&self, heading: &str) -> Vec<String> {
        let section = self.between(&format!("<h2>{heading}</h2>"), "<h2>");
        let section = section.split("<section").next().unwrap_or_default();
        let ends = ["</li>", "</p>", "</tr>"];
        let mut parts = vec![section.to_owned()];
        for end in ends {
            parts = parts.iter().flat_map(|part| part.split(end).map(ToOwned::to_owned)).collect();
        }
        parts.iter().map(|part| plain(part)).filter(|part| !part.is_empty()).collect()
    }

    /// True when the words stand anywhere in it.
    pub fn says(&self, words: &str) -> bool {
        plain(&self.0).contains(words)
    }

    /// All of it, for a failing test.
    pub fn all(&self) -> String {
        plain(&self.0)
    }
}
