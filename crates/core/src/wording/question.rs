//! The question at the cell (RD-3).

use super::names;
use crate::round::Question;

/// Why the tool asks to re-read, in one or two sentences.
pub fn question(question: &Question) -> String {
    match question {
        Question::OutsideUsual { read } => {
            format!("{read} lies outside 1.050 to 1.330, where cells usually stand.")
        }
        Question::Moved { change, days, neighbours, .. } => {
            let way = if change.value() < 0.0 { "fell" } else { "rose" };
            let moved = format!(
                "It {way} {} against its mates in {}",
                names::points(change.value()),
                names::span(*days)
            );
            match neighbours {
                Some(n) if n.value() < 0.5 => format!("{moved} while its neighbours did not move."),
                Some(n) if n.value() < change.abs().value() / 2.0 => {
                    format!("{moved} while its neighbours moved by {} at most.", n.abs())
                }
                _ => format!("{moved}."),
            }
        }
        Question::FarFromMates { deviation, .. } => {
            let way = if deviation.value() < 0.0 { "below" } else { "above" };
            format!("It stands {} {way} the median of its mates.", names::points(deviation.value()))
        }
    }
}
