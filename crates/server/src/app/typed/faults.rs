//! Every field that does not fit, collected, so that a person mends all at once.

use crate::app::refused::{AppError, AppResult, Fault};
use rainshadow_core::wording::stopped;

/// Faults found so far.
#[derive(Default)]
pub struct Faults(Vec<Fault>);

impl Faults {
    /// The value, or none with the fault kept under its field.
    pub fn take<T, E: std::fmt::Display>(&mut self, field: &str, result: Result<T, E>) -> Option<T> {
        result.map_err(|e| self.0.push((field.to_owned(), stopped(&e.to_string())))).ok()
    }

    /// True while every field fits.
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// Nothing, or all faults as one refusal.
    pub fn none(self) -> Result<(), AppError> {
        if self.0.is_empty() { Ok(()) } else { Err(AppError::Fields { faults: self.0, said: None }) }
    }
}

/// The value, or the refusal of its field.
///
/// # Errors
/// What was wrong, as the core says it, under the field.
pub fn refused<T, E: std::fmt::Display>(field: &str, result: Result<T, E>) -> AppResult<T> {
    result.map_err(|e| AppError::field(field, stopped(&e.to_string())))
}

/// Text that is not empty.
pub fn filled(text: Option<&String>) -> Option<&str> {
    text.map(|t| t.trim()).filter(|t| !t.is_empty())
}

#[cfg(test)]
mod tests {
    use super::*;
    use rainshadow_core::quantity::{bounds, typed};

    #[test]
    fn all_faults_are_one_refusal_in_sentences_by_field() {
        let mut faults = Faults::default();
        assert_eq!(faults.take("hours", typed::number("5", bounds::HOURS)), Some(5.0));
        assert_eq!(faults.take("volts", typed::number("many", bounds::VOLTAGE)), None);
        assert_eq!(faults.take("c20", typed::number("-3", bounds::CAPACITY)), None);
        let refused = faults.none().unwrap_err();
        let said: Vec<(&str, &str)> =
            refused.faults().iter().map(|(field, said)| (field.as_str(), said.as_str())).collect();
        assert_eq!(
            said,
            [
                ("volts", "“many” is not a number; voltage is accepted as 0.0 to 600.0 V."),
                ("c20", "Capacity -3 is not possible here; accepted is 1 to 5000 Ah."),
            ]
        );
        assert!(Faults::default().none().is_ok());
    }

    #[test]
    fn blank_text_is_no_entry() {
        assert_eq!(filled(Some(&" 5 ".to_owned())), Some("5"));
        assert_eq!(filled(Some(&"  ".to_owned())), None);
        assert_eq!(filled(None), None);
    }
}
