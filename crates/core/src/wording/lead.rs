//! The sentence of each cause that can lead a round, but for the spread and a cell that is far below.

use super::names;
use crate::finding::{Finding, RoundFinding};
use crate::quantity::units::ReaderUnits;
use crate::round::rest_check::ON_CHARGE_VOLTS;

/// What to do, then why; `equalize` is "Equalize" where it is asked for.
pub(super) fn lead_words(
    lead: &Finding,
    found: &RoundFinding,
    equalize: Option<&str>,
    cells: &str,
    units: ReaderUnits,
) -> String {
    let points = |p: crate::quantity::Points| names::points(p.value());
    match found {
        RoundFinding::LowCells { .. } | RoundFinding::HighCells { .. } => {
            by_cells(lead, found, equalize, cells)
        }
        RoundFinding::LowPair { .. }
        | RoundFinding::LowBattery { .. }
        | RoundFinding::LowString { .. }
        | RoundFinding::Gradient { .. } => by_group(found, equalize, cells),
        RoundFinding::SpreadEqualize { spread, .. } | RoundFinding::SpreadWatch { spread, .. } => {
            format!("Watch the spread: the cells lie {} apart, wider than an even bank.", points(*spread))
        }
        RoundFinding::ShortOfFull { short, .. } => format!(
            "Find out why it does not fill{}: the bank stands {} short of full after a full charge.",
            if equalize.is_some() { ", then equalize" } else { "" },
            points(*short)
        ),
        RoundFinding::NeverFull { now, before } => format!(
            "Find out how it is charged: it stood at {now:.0} % on the last round and at {before:.0} % on the one before."
        ),
        RoundFinding::FarFromFull { short, .. } => format!(
            "Charge fully, then read: the bank stands {} under full, and nobody knows that it was full.",
            points(*short)
        ),
        RoundFinding::AboveFull { above, .. } => {
            format!("Check the levels before anything else: the bank stands {} above full.", points(*above))
        }
        RoundFinding::AcidInCells { above, .. } => {
            let stands = if lead.cells.len() > 1 { "they stand up to" } else { "it stands" };
            format!("Look into {cells}: {stands} {} above full, by acid or by lost water.", points(*above))
        }
        RoundFinding::LowLevels { below_mark, .. } => format!(
            "Put the levels right: up to {} under the mark, they make the acid read high.",
            super::length(*below_mark, units)
        ),
        RoundFinding::Stratified { .. } => {
            "Stir the acid, then read again: the volts say fuller than what was drawn from the top.".into()
        }
        RoundFinding::DeadCell { short, cells: 1, .. } => {
            format!("Find the dead cell: the bank rests {short:.1} V under what its acid should give.")
        }
        RoundFinding::DeadCell { short, cells, .. } => {
            format!(
                "Find the {cells} dead cells: the bank rests {short:.1} V under what its acid should give."
            )
        }
        RoundFinding::RestVoltsDisagree { measured, .. } if *measured > ON_CHARGE_VOLTS => {
            "Read the volts again at rest: no cell that rests stands so high.".into()
        }
        RoundFinding::RestVoltsDisagree { .. } => {
            "Read volts battery by battery: the bank rests under what its gravity should give.".into()
        }
        RoundFinding::Reread { .. } => format!("Re-read {cells} before this round is judged."),
        RoundFinding::OffScale { above } => format!(
            "Find out what is in {cells}: the float stood {} the scale.",
            if *above { "above" } else { "below" }
        ),
        RoundFinding::SuspectCell { .. } | RoundFinding::NotRead { .. } | RoundFinding::NotJudged { .. } => {
            format!("Look at {cells}.")
        }
    }
}

fn by_cells(lead: &Finding, found: &RoundFinding, equalize: Option<&str>, cells: &str) -> String {
    let count = lead.cells.len();
    match (found, equalize) {
        (RoundFinding::LowCells { lowest, alone: true, .. }, Some(first)) => format!(
            "{first} with cell {cells} as the pilot: it stands alone, {} below an even bank.",
            names::points(lowest.value())
        ),
        (RoundFinding::LowCells { lowest, alone: true, .. }, None) => format!(
            "Watch cell {cells}: it stands alone, {} below an even bank.",
            names::points(lowest.value())
        ),
        (RoundFinding::LowCells { lowest, .. }, Some(first)) if count == 1 => format!(
            "{first} with cell {cells} as the pilot: it stands {} below the bank.",
            names::points(lowest.value())
        ),
        (RoundFinding::LowCells { lowest, .. }, Some(first)) => format!(
            "{first} with {} as the pilot: {cells} stand up to {} below the bank.",
            lead.cells[0],
            names::points(lowest.value())
        ),
        (RoundFinding::LowCells { lowest, .. }, None) if count == 1 => {
            format!("Watch cell {cells}: it stands {} below the bank.", names::points(lowest.value()))
        }
        (RoundFinding::LowCells { lowest, .. }, None) => format!(
            "Watch {} low cells, {} the lowest at {} below the bank.",
            names::number_word(count),
            lead.cells[0],
            names::points(lowest.value())
        ),
        (RoundFinding::HighCells { highest, .. }, _) => {
            let stand = if count > 1 { "they stand up to" } else { "it stands" };
            format!("Check the level in {cells}: {stand} {} above the bank.", names::points(highest.value()))
        }
        _ => format!("Look at {cells}."),
    }
}

fn by_group(found: &RoundFinding, equalize: Option<&str>, cells: &str) -> String {
    let (verb, then) = match equalize {
        Some("Equalize") => ("See to", ", then equalize"),
        Some(_) => ("See to", ", charge fully, then equalize"),
        None => ("Watch", ""),
    };
    match found {
        RoundFinding::LowPair { .. } => {
            format!("{verb} {cells}{then}: two neighbours in one case are low together.")
        }
        RoundFinding::LowBattery { battery, .. } => {
            format!("{verb} battery {battery}{then}: all of its cells are low together.")
        }
        RoundFinding::LowString { letter, .. } => {
            format!("{verb} string {letter}{then}: it stands low as a whole.")
        }
        RoundFinding::Gradient { low_end, high_end, .. } => format!(
            "{verb} the cells from {high_end} to {low_end}{then}: they fall towards {low_end}, as from warm to cold."
        ),
        _ => format!("Look at {cells}."),
    }
}
