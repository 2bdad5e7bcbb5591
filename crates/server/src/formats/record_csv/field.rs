//! One field of a record: a figure, or a word of state.

use rainshadow_core::feed::FeedStage;

/// Words that stand for nothing.
const NOTHING: [&str; 8] = ["", "-", "--", "---", "nan", "null", "n/a", "none"];

/// A figure, with or without its unit behind it; `Ok(None)` where nothing was told.
pub(super) fn figure(text: &str, decimal_comma: bool) -> Result<Option<f64>, ()> {
    let text = text.trim();
    // Most figures are just that.
    if let Some(own) = text.parse::<f64>().ok().filter(|own| own.is_finite() && !decimal_comma) {
        return Ok(Some(own));
    }
    if NOTHING.contains(&text.to_lowercase().as_str()) {
        return Ok(None);
    }
    let bare = text.trim_end_matches(|c: char| c.is_alphabetic() || c == '\u{b0}' || c == ' ' || c == '%');
    // A minus as printers set it.
    let mut bare = bare.replace('\u{2212}', "-");
    if decimal_comma {
        bare = bare.replace('.', "").replace(',', ".");
    }
    bare.parse::<f64>().ok().filter(|own| own.is_finite()).map(Some).ok_or(())
}

/// What a source says it does, by common words; none: a word that is not known.
pub(super) fn state(text: &str) -> Option<FeedStage> {
    const WORDS: [(&str, FeedStage); 16] = [
        ("discharg", FeedStage::Discharging),
        ("invert", FeedStage::Discharging),
        ("float", FeedStage::Holding),
        ("hold", FeedStage::Holding),
        ("storage", FeedStage::Holding),
        ("bulk", FeedStage::Charging),
        ("absor", FeedStage::Charging),
        ("boost", FeedStage::Charging),
        ("equal", FeedStage::Charging),
        ("charg", FeedStage::Charging),
        ("full", FeedStage::Full),
        ("empty", FeedStage::Empty),
        ("test", FeedStage::Testing),
        ("off", FeedStage::Off),
        ("idle", FeedStage::Off),
        ("stand", FeedStage::Off),
    ];
    let text = text.trim().to_lowercase();
    WORDS.iter().find(|(word, _)| text.contains(word)).map(|(_, stage)| *stage)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_are_read_as_programs_write_them() {
        for (text, comma, value) in [
            ("12.64", false, Some(12.64)),
            ("-3.2 A", false, Some(-3.2)),
            ("\u{2212}3.2", false, Some(-3.2)),
            ("12,64", true, Some(12.64)),
            ("1.012,5 Ah", true, Some(1012.5)),
            ("21 \u{b0}C", false, Some(21.0)),
            ("1e1", false, Some(10.0)),
            ("---", false, None),
            ("NaN", false, None),
            (" ", true, None),
        ] {
            assert_eq!(figure(text, comma), Ok(value), "{text}");
        }
        for text in ["12.6.4", "full", "0x1F", "12,64"] {
            assert_eq!(figure(text, false), Err(()), "{text}");
        }
    }

    #[test]
    fn words_of_state_are_known_and_others_are_not() {
        assert_eq!(state("Absorption"), Some(FeedStage::Charging));
        assert_eq!(state("DISCHARGING"), Some(FeedStage::Discharging));
        assert_eq!(state("Float charge"), Some(FeedStage::Holding));
        assert_eq!(state("7"), None);
    }
}
