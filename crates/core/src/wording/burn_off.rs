//! The surface charge, and what a test needs first, in words.

use crate::visit::{BURN_MINUTES, BURN_REST_MINUTES, Burned};

/// What a load test needs before it tells anything.
pub const TEST_NEEDS: [&str; 3] = [
    "Charged full, and for a timed discharge proven full.",
    "Surface charge burned off; each battery isolated for a short load.",
    "Temperature of the electrolyte or the cases taken.",
];

/// How far the surface charge is, and what is next (LT-1).
pub fn burn_off(own: Option<Burned>) -> String {
    let [least, most] = BURN_MINUTES;
    match own {
        None => format!(
            "After a full charge and float the volts read high for hours. A real load for {least:.0} to {most:.0} minutes, then everything off, {BURN_REST_MINUTES:.0} minutes of rest; or 24 hours of rest."
        ),
        Some(Burned::Loading(on)) if on < least => {
            format!("The load is on. Leave it on for {least:.0} to {most:.0} minutes.")
        }
        Some(Burned::Loading(_)) => "Long enough: load off, everything off, batteries isolated.".into(),
        Some(own @ Burned::Resting { .. }) if own.is_off() => "The surface charge is off: test now.".into(),
        Some(own @ Burned::Resting { .. }) if !own.was_long_enough() => format!(
            "The load was on for less than {least:.0} minutes: that takes too little off. Switch it on again."
        ),
        Some(Burned::Resting { .. }) => {
            format!("It rests. After {BURN_REST_MINUTES:.0} minutes the volts tell.")
        }
    }
}
