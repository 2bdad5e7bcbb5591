//! What the gravities of a round show, in words.

mod cells;
mod whole;

use super::super::non_responding::non_responding_words;
use super::super::{names, question, unusable};
use super::Words;
use crate::finding::{EqualizeCall, Finding, RoundFinding};
use crate::quantity::units::ReaderUnits;

/// The words of a finding of a round.
pub(super) fn words(finding: &Finding, found: &RoundFinding, units: ReaderUnits) -> Words {
    let cells = names::cells(&finding.cells);
    let words = by_itself(finding, found, &cells, units);
    let (RoundFinding::SuspectCell { after_run: Some(cell), .. }
    | RoundFinding::LowCells { after_run: Some(cell), .. }
    | RoundFinding::SpreadEqualize { after_run: Some(cell), .. }) = found
    else {
        return words;
    };
    let (seen, advice) = non_responding_words(*cell);
    // What forbids an equalize goes before what the runs before would ask for.
    let advice = if matches!(finding.equalize, EqualizeCall::Barred { .. }) { words.advice } else { advice };
    Words { seen: format!("{} {seen}", words.seen), advice, ..words }
}

fn by_itself(finding: &Finding, found: &RoundFinding, cells: &str, units: ReaderUnits) -> Words {
    match found {
        RoundFinding::SuspectCell { .. } => cells::suspect(found, finding, cells),
        RoundFinding::LowCells { .. } => cells::low(found, finding, cells),
        RoundFinding::HighCells { highest, from, .. } => cells::high(*highest, *from, finding, cells),
        RoundFinding::LowPair { .. } | RoundFinding::LowBattery { .. } | RoundFinding::LowString { .. } => {
            cells::group(found, finding.equalize, cells)
        }
        RoundFinding::Gradient { .. } => cells::gradient(found, finding.equalize),
        RoundFinding::SpreadEqualize { .. } | RoundFinding::SpreadWatch { .. } => {
            whole::spread(found, finding.equalize)
        }
        RoundFinding::ShortOfFull { .. }
        | RoundFinding::NeverFull { .. }
        | RoundFinding::FarFromFull { .. } => whole::short_of_full(found, finding.equalize),
        RoundFinding::AboveFull { .. }
        | RoundFinding::AcidInCells { .. }
        | RoundFinding::LowLevels { .. } => whole::over_full(found, finding.cells.len(), cells, units),
        RoundFinding::Stratified { .. }
        | RoundFinding::DeadCell { .. }
        | RoundFinding::RestVoltsDisagree { .. } => whole::rest_volts(found, finding.cells.first()),
        RoundFinding::NotJudged { .. }
        | RoundFinding::Reread { .. }
        | RoundFinding::OffScale { .. }
        | RoundFinding::NotRead { .. } => recorded(found, finding.cells.len(), cells),
    }
}

fn recorded(found: &RoundFinding, count: usize, cells: &str) -> Words {
    match found {
        RoundFinding::NotJudged { reasons } => {
            let why: Vec<&str> = reasons.iter().map(|r| unusable(*r)).collect();
            Words {
                headline: "Kept, not judged".into(),
                seen: names::sentence(&format!("{}.", why.join(", and "))),
                why: "Such readings mislead: the figures stay on record and carry no verdict.",
                advice: "Read again off charge, half an hour after the last heavy load, with the acid mixed."
                    .into(),
            }
        }
        RoundFinding::Reread { question: q } => Words {
            headline: format!("Read {cells} again"),
            seen: question(q),
            why: "A slip of the eye looks like this, and so does a failing cell.",
            advice: "Draw and return the sample twice, then read at eye level.".into(),
        },
        RoundFinding::OffScale { above } => Words {
            headline: format!("{cells} off the scale"),
            seen: format!("The float stood {} the scale.", if *above { "above" } else { "below" }),
            why: if *above {
                "Nothing healthy reads this high: acid was added, or the cell is nearly dry."
            } else {
                "Nothing healthy reads this low: water, a dead short, or a float that sticks."
            },
            advice: "Read it with a second instrument, and check the level.".into(),
        },
        RoundFinding::NotRead { reason } if reason.is_empty() => Words {
            headline: format!("{cells} not read"),
            seen: format!(
                "{} without a reading.",
                if count == 1 { "One cell".into() } else { format!("{count} cells") }
            ),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read them in the next round.".into(),
        },
        RoundFinding::NotRead { reason } => Words {
            headline: format!("{cells} was not read"),
            seen: names::sentence(&format!("{}.", reason.trim_end_matches('.'))),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read it in the next round.".into(),
        },
        _ => unreachable!("called for recorded findings only"),
    }
}
