//! The words of rechecks.

use super::names;
use crate::visit::{Recheck, RecheckWhy, Step};
use jiff::civil::Date;

/// What is looked at again: "Volts again".
pub fn recheck_title(step: Step) -> &'static str {
    match step {
        Step::RestCheck => "Read the volts again",
        Step::Round => "Read the gravity again",
        Step::Water => "Look at the levels again",
        Step::LookOver => "Look the bank over again",
        Step::MakeSafe | Step::Job | Step::Equalize | Step::LoadTest | Step::Joints | Step::CloseUp => {
            "Look at it again"
        }
    }
}

/// Why it is due: who asked for it, and why.
pub(super) fn asked_for(recheck: &Recheck, today: Date) -> String {
    let reason = if recheck.reason.is_empty() {
        String::new()
    } else {
        format!(" {}", names::stopped(&names::sentence(&recheck.reason)))
    };
    format!("the visit of {} asked for it.{reason}", names::short_day(recheck.asked, today))
}

/// When: "overnight", "in 24 hours", "in 3 days".
pub fn recheck_when(hours: f64) -> String {
    if (12.0..20.0).contains(&hours) { "overnight".into() } else { format!("in {}", names::hours(hours)) }
}

/// Why a rule wants it, one sentence.
pub fn recheck_why(why: RecheckWhy) -> &'static str {
    match why {
        RecheckWhy::NotSettled => {
            "The volts were not settled: rested over a night they tell the charge (RD-7)."
        }
        RecheckWhy::Holding => {
            "It was charged full: disconnected for a day its volts tell whether it holds (HD-1)."
        }
        RecheckWhy::Held => {
            "It stands full and disconnected: left so for three days its volts tell what it loses a day (HD-1, SD-1)."
        }
        RecheckWhy::Charged => "What was charged tells after a day of rest whether it came back (RD-7).",
        RecheckWhy::Covered => "Plates were only covered: charge fully, then fill to the mark (WA-4).",
        RecheckWhy::Unmixed => {
            "Fresh water lies on the acid until a charge has gassed: gravity counts only then (SG-4)."
        }
    }
}
