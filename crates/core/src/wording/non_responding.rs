//! A cell that did not answer an equalize, in words.

use super::names::short_day;
use crate::equalize::NonRespondingCell;
use jiff::civil::Date;

/// "did not answer the equalize of 26 Aug".
pub(super) fn non_responding_clause(cell: NonRespondingCell, today: Date) -> String {
    clause(cell, &short_day(cell.last, today))
}

fn clause(cell: NonRespondingCell, last: &str) -> String {
    match cell.times {
        0 | 1 => format!("did not answer the equalize of {last}"),
        n => format!(
            "did not answer {} equalizes running, the last of {last}",
            super::names::number_word(n.into())
        ),
    }
}

/// What the runs say of the cell a finding is about, and what is to be done then.
pub(super) fn non_responding_words(cell: NonRespondingCell) -> (String, String) {
    let (own, battery) = (cell.cell, cell.cell.battery);
    let seen = format!("{own} {}.", clause(cell, &cell.last.strftime("%-d %b %Y").to_string()));
    let advice = if cell.is_given_up() {
        format!("Plan to replace {battery}; a load test tells how much it holds back.")
    } else {
        format!("Equalize once more with {own} as the pilot; if it does not answer again, replace {battery}.")
    };
    (seen, advice)
}

/// Why a run is worth it or not for a cell that did not answer, as a reason of the page that decides.
pub fn non_responding_reason(cell: NonRespondingCell, today: Date) -> String {
    let clause = non_responding_clause(cell, today);
    if cell.is_given_up() {
        format!(
            "{} {clause}: another one brings the others together, not this cell. Replace {} first.",
            cell.cell, cell.cell.battery
        )
    } else {
        format!("{} {clause}; one that does not answer twice is replaced.", cell.cell)
    }
}
