//! Standard input as a topic takes it: every field known, every number one that can be, and what is wrong
//! said by the field in plain words.

use super::CalcError;
use serde::de::DeserializeOwned;

/// The input of a topic.
///
/// # Errors
/// [`CalcError::Input`] that names the field, what was found and what is accepted.
pub fn read<I: DeserializeOwned>(bytes: &[u8]) -> Result<I, CalcError> {
    let mut json = serde_json::Deserializer::from_slice(bytes);
    let mut track = serde_path_to_error::Track::new();
    let mut unknown: Option<String> = None;
    let read = {
        let tracked = serde_path_to_error::Deserializer::new(&mut json, &mut track);
        serde_ignored::deserialize(tracked, |path| {
            unknown.get_or_insert_with(|| path.to_string());
        })
    };
    let input: I = read.map_err(|e: serde_json::Error| {
        let path = track.path();
        let path = if path.iter().next().is_none() { "standard input".into() } else { path.to_string() };
        CalcError::Input { path, why: plain(&e.to_string()) }
    })?;
    json.end().map_err(|_e| CalcError::Input {
        path: "standard input".into(),
        why: "something stands behind the object; one object is taken".into(),
    })?;
    match unknown {
        Some(path) => Err(CalcError::Input {
            path,
            why: "no such field; `rainshadow calc TOPIC --schema` names those that are taken".into(),
        }),
        None => Ok(input),
    }
}

/// What each kind of value is called by whoever types it.
fn kind(word: &str) -> String {
    let word = word.trim().trim_matches('`');
    match word {
        "f64" | "f32" => "a number".into(),
        "u8" => "a whole number from 0 to 255".into(),
        "u16" => "a whole number from 0 to 65535".into(),
        "u32" | "u64" | "usize" => "a whole number from 0 on".into(),
        "i8" | "i16" | "i32" | "i64" => "a whole number".into(),
        "a boolean" | "bool" => "true or false".into(),
        "a string" | "str" | "string" => "text".into(),
        "a character" => "one letter".into(),
        "a sequence" | "sequence" => "a list".into(),
        "a map" | "map" => "an object".into(),
        "null" | "unit" => "nothing".into(),
        w if w.starts_with("struct ") || w.starts_with("internally tagged enum") => "an object".into(),
        w if w.starts_with("tuple") || w.starts_with("a tuple") || w.starts_with("an array") => {
            "a list".into()
        }
        w if w.contains("enum ") => "one of its words".into(),
        w => w.to_owned(),
    }
}

/// What was found, in the words of whoever typed it: "the text “x”", "a list", "−5".
fn found(word: &str) -> String {
    let word = word.trim();
    let value = |prefix: &str| {
        let rest = word.strip_prefix(prefix)?;
        Some(short(rest.trim().trim_matches('`')))
    };
    if let Some(text) = word.strip_prefix("string ") {
        return format!("the text “{}”", short(text.trim_matches('"')));
    }
    value("integer ")
        .or_else(|| value("floating point "))
        .or_else(|| value("boolean "))
        .unwrap_or_else(|| kind(word))
}

/// Nobody reads three hundred digits.
fn short(text: &str) -> String {
    if text.chars().count() <= 24 {
        return text.to_owned();
    }
    match text.parse::<f64>() {
        Ok(number) => format!("{number:e}"),
        Err(_) => format!("{}…", text.chars().take(24).collect::<String>()),
    }
}

/// The sentence of a parser as a person would say it.
fn plain(why: &str) -> String {
    let why = why.rsplit_once(" at line ").map_or(why, |(said, place)| {
        if place.chars().all(|c| c.is_ascii_digit() || c == ' ' || "column".contains(c)) { said } else { why }
    });
    if let Some(field) = why.strip_prefix("missing field ") {
        return format!("the field {} is missing", field.trim_matches('`'));
    }
    if let Some(rest) = why.strip_prefix("unknown field ") {
        let (field, known) = rest.split_once(", expected ").unwrap_or((rest, ""));
        return format!(
            "there is no field {}; accepted is {}",
            field.trim_matches('`'),
            known.replace('`', "")
        );
    }
    if let Some(rest) = why.strip_prefix("unknown variant ") {
        let (word, known) = rest.split_once(", expected ").unwrap_or((rest, ""));
        let known = known.trim_start_matches("one of ").replace('`', "");
        return format!("“{}” is not known; accepted is {known}", short(word.trim_matches('`')));
    }
    for prefix in ["invalid type: ", "invalid value: ", "invalid length "] {
        if let Some(rest) = why.strip_prefix(prefix) {
            let (is, wanted) = rest.split_once(", expected ").unwrap_or((rest, "something else"));
            return format!("found {}; accepted is {}", found(is), kind(wanted));
        }
    }
    if why.starts_with("EOF") || why.starts_with("expected") || why.starts_with("key must") {
        return "this is no JSON object".into();
    }
    if why.starts_with("number out of range") {
        return "that number is larger than any that is measured".into();
    }
    why.to_owned()
}

#[cfg(test)]
mod tests {
    use super::plain;

    #[test]
    fn what_a_parser_says_becomes_what_a_person_would() {
        for (said, told) in [
            ("missing field `gravity` at line 1 column 2", "the field gravity is missing"),
            (
                "invalid type: string \"x\", expected f64 at line 1 column 9",
                "found the text “x”; accepted is a number",
            ),
            (
                "invalid type: sequence, expected struct Instrument at line 2 column 1",
                "found a list; accepted is an object",
            ),
            (
                "invalid value: integer `-5`, expected u8 at line 1 column 12",
                "found -5; accepted is a whole number from 0 to 255",
            ),
            (
                "unknown variant `boost`, expected one of `absorption`, `float` at line 1 column 3",
                "“boost” is not known; accepted is absorption, float",
            ),
            ("EOF while parsing a value at line 1 column 0", "this is no JSON object"),
        ] {
            assert_eq!(plain(said), told);
        }
    }
}
