//! What is left of a life, in words.

use crate::life::{EndOfLife, Gassing, GassingBy, RemainingLife, Wear};
use jiff::ToSpan;
use jiff::civil::Date;

fn month(day: Date) -> String {
    day.strftime("%B %Y").to_string()
}

/// A day so many years later.
pub fn years_after(day: Date, years: f64) -> Date {
    #[expect(clippy::cast_possible_truncation, reason = "clamped to a century")]
    let days = (365.25 * years).clamp(0.0, 36_525.0).round() as i64;
    day.checked_add(days.days()).unwrap_or(day)
}

/// "Falls 12 points a year (8 to 15): 60 % in March 2028 (October 2027 to May 2029)." Years count from the last test.
pub fn remaining_life(own: &RemainingLife, last: Date) -> String {
    let later = |years: f64| month(years_after(last, years));
    let slope = own.per_year.filter(|slope| *slope < 0.0).map_or(String::new(), |slope| {
        let range = own.per_year_range.map(|[low, high]| format!(" ({:.0} to {:.0})", -high.min(0.0), -low));
        format!("It falls {:.0} points a year{}", -slope, range.unwrap_or_default())
    });
    let end = own.end;
    match own.ends {
        EndOfLife::TooFew { tests: 0 } => "No capacity was tested: nothing is told of its end.".into(),
        EndOfLife::TooFew { tests } => {
            let more = 3usize.saturating_sub(tests);
            let named = if more == 1 { "one more".to_owned() } else { format!("{more} more") };
            format!("Its end is told from three tests on: {named} to go.")
        }
        EndOfLife::NoDecline => "No decline was seen.".into(),
        EndOfLife::Ended if slope.is_empty() => format!("It has passed {end:.0} %, where its life ends."),
        EndOfLife::Ended => format!("{slope}. It has passed {end:.0} %, where its life ends."),
        EndOfLife::Years { best, range: Some([low, high]) } => {
            format!("{slope}: {end:.0} % in {} ({} to {}).", later(best), later(low), later(high))
        }
        EndOfLife::Years { best, range: None } => {
            format!("{slope}: {end:.0} % in about {}. A range is told from five tests on.", later(best))
        }
        EndOfLife::Beyond { years, shortest } => {
            let at_soonest = shortest.map(|own| format!(", {} at the soonest", later(own)));
            format!("{slope}: {end:.0} % not before {}{}.", later(years), at_soonest.unwrap_or_default())
        }
    }
}

/// The same, where cycles are known of some days on record and taken to have been alike in all its years.
pub fn wear_on_record_said(own: &Wear, days: u32) -> String {
    format!("{} Cycles: had they always been as on the {days} days on record.", wear_said(own, true))
}

/// "Its years have used 34 % of a design life; cycles are not counted."
pub fn wear_said(own: &Wear, counted: bool) -> String {
    let years = format!("{:.1} years have used {:.0} % of its design life", own.years, 100.0 * own.calendar);
    if counted {
        format!(
            "{years}, its cycles {:.0} %: {:.0} % together; at 100 % about 80 % of the capacity is left.",
            100.0 * own.cycles,
            100.0 * own.total
        )
    } else {
        format!("{years} by heat and time; its cycles are not counted.")
    }
}

/// What tells how much a bank gasses: "its water grew 18 % a year over 7 fills".
pub fn gassing_by(own: &Gassing) -> String {
    match own.by {
        GassingBy::Water { a_year, fills } if a_year >= 0.5 => {
            format!("its water grew {a_year:.0} % a year over {fills} fills")
        }
        GassingBy::Water { fills, .. } => format!("its water did not grow over {fills} fills"),
        GassingBy::Age { .. } => "empty: by its age; its water tells it from four fills on".into(),
        GassingBy::Unknown => "empty: by its age, new where nobody told it".into(),
    }
}
