//! Why plates that showed, or nearly, ask for something, in words.

use super::names;
use crate::schedule::Why;
use jiff::civil::Date;

/// Why plates or levels at them are due on a day; empty for what is due otherwise.
pub(super) fn why(why: &Why, date: Date, today: Date) -> String {
    let day = |d: Date| names::short_day(d, today);
    match why {
        Why::PlatesBare { cells } => {
            let verb = if cells.len() == 1 { "showed its" } else { "showed their" };
            format!(
                "{} {verb} plates on {}; plates that dry out do not recover.",
                names::cells(cells),
                day(date)
            )
        }
        Why::FoundBare { cells, day: found } => format!(
            "The plates of {} were found bare on {}; a look within a month tells how fast they drink now.",
            names::cells(cells),
            day(*found)
        ),
        Why::LevelsAtPlates { cells } => format!(
            "{} stood at the plates on {} and got no water; the next charges bare them.",
            names::cells(cells),
            day(date)
        ),
        _ => String::new(),
    }
}
