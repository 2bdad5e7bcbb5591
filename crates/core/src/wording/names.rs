//! Cells, counts and durations in words.

use crate::bank::CellAddress;
use jiff::civil::Date;

/// "three", "six"; digits from thirteen on.
pub(super) fn number_word(n: usize) -> String {
    const WORDS: [&str; 13] = [
        "no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
        "twelve",
    ];
    WORDS.get(n).map_or_else(|| n.to_string(), |w| (*w).to_owned())
}

/// "first", "second"; "13th" from thirteen on.
pub(super) fn ordinal(n: usize) -> String {
    const WORDS: [&str; 12] = [
        "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth",
        "eleventh", "twelfth",
    ];
    if let Some(word) = n.checked_sub(1).and_then(|i| WORDS.get(i)) {
        return (*word).to_owned();
    }
    let ending = match (n % 10, n % 100) {
        (_, 11..=13) => "th",
        (1, _) => "st",
        (2, _) => "nd",
        (3, _) => "rd",
        _ => "th",
    };
    format!("{n}{ending}")
}

/// "float", "absorption and float", "absorption, float and equalize".
pub(super) fn words(words: &[&str]) -> String {
    match words {
        [] => String::new(),
        [one] => (*one).into(),
        [head @ .., last] => format!("{} and {last}", head.join(", ")),
    }
}

/// "A1-2", "A1-2 and B3-1", "A1-2, A1-3 and B3-1"; beyond five the first four and how many more.
pub(super) fn cells(cells: &[CellAddress]) -> String {
    let shown: Vec<String> = cells.iter().map(ToString::to_string).collect();
    match shown.as_slice() {
        [] => "no cell".into(),
        [one] => one.clone(),
        [head @ .., last] if shown.len() <= 5 => format!("{} and {last}", head.join(", ")),
        all => format!("{} and {} more", all[..4].join(", "), all.len() - 4),
    }
}

/// "16 days", "5 months", "2 years": the word that suits a technician's memory.
pub(super) fn span(days: f64) -> String {
    let plural = |n: f64, one: &str| if n < 1.5 { format!("1 {one}") } else { format!("{n:.0} {one}s") };
    match days {
        d if d < 1.0 => "less than a day".into(),
        d if d < 75.0 => plural(d.round(), "day"),
        d if d < 730.0 => plural((d / 30.44).round(), "month"),
        d => plural((d / 365.25).round(), "year"),
    }
}

/// "1 point", "31 points".
pub(super) fn points(value: f64) -> String {
    let whole = value.abs().round();
    if whole < 1.5 && whole > 0.5 { "1 point".into() } else { format!("{whole:.0} points") }
}

/// First letter in upper case.
pub fn sentence(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |c| c.to_uppercase().collect::<String>() + chars.as_str())
}

/// As it stands inside a sentence: "in use".
pub(super) fn lower(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |c| c.to_lowercase().collect::<String>() + chars.as_str())
}

/// A sentence with a stop at its end, unless it has one.
pub fn stopped(text: &str) -> String {
    let said = sentence(text);
    if said.ends_with(['.', '?', '!']) { said } else { format!("{said}.") }
}

/// "8 Oct", with the year where it is another.
pub fn short_day(day: Date, today: Date) -> String {
    let form = if day.year() == today.year() { "%-d %b" } else { "%-d %b %Y" };
    day.strftime(form).to_string()
}

/// "3:12".
pub fn hours_minutes(hours: f64) -> String {
    let minutes = (hours * 60.0).floor().max(0.0);
    format!("{:.0}:{:02.0}", (minutes / 60.0).floor(), minutes % 60.0)
}

/// Hours as people say them: "less than an hour", "1 hour", "26 hours", "4 days".
pub fn hours(hours: f64) -> String {
    /// From here on people count days.
    const DAYS_FROM: f64 = 72.0;
    if hours < 1.0 {
        "less than an hour".into()
    } else if hours < 1.5 {
        "1 hour".into()
    } else if hours < DAYS_FROM {
        format!("{hours:.0} hours")
    } else {
        format!("{:.0} days", hours / 24.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_joined_as_they_are_said() {
        assert_eq!(words(&["float"]), "float");
        assert_eq!(words(&["absorption", "float"]), "absorption and float");
        assert_eq!(words(&["absorption", "float", "equalize"]), "absorption, float and equalize");
    }

    #[test]
    fn long_lists_of_cells_are_cut_and_counted() {
        let all: Vec<CellAddress> =
            ["A1-1", "A1-2", "A1-3", "A2-1", "A2-2", "A2-3"].map(|a| a.parse().unwrap()).to_vec();
        assert_eq!(cells(&all[..1]), "A1-1");
        assert_eq!(cells(&all[..2]), "A1-1 and A1-2");
        assert_eq!(cells(&all), "A1-1, A1-2, A1-3, A2-1 and 2 more");
    }

    #[test]
    fn errors_become_sentences_with_one_stop() {
        assert_eq!(stopped("the bank is full"), "The bank is full.");
        assert_eq!(stopped("Is the unit right?"), "Is the unit right?");
        assert_eq!(sentence("\u{e9}tat"), "\u{c9}tat");
    }

    #[test]
    fn ordinals_read_as_spoken() {
        let said: Vec<String> = [1, 4, 13, 21, 22, 23, 111].into_iter().map(ordinal).collect();
        assert_eq!(said, ["first", "fourth", "13th", "21st", "22nd", "23rd", "111th"]);
    }

    #[test]
    fn spans_use_the_word_a_person_would() {
        assert_eq!(span(16.0), "16 days");
        assert_eq!(span(1.0), "1 day");
        assert_eq!(span(92.0), "3 months");
        assert_eq!(span(1100.0), "3 years");
    }
}
