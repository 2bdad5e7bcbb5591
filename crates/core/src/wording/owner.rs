//! The owner's words: what was found and what it means for him, without the trade's terms.

use super::names;
use crate::finding::{Finding, FindingKind};
use crate::rest::{Fault, RestFinding};
use crate::severity::Severity;

fn batteries(finding: &Finding) -> String {
    let mut all: Vec<String> = finding.cells.iter().map(|c| c.battery.to_string()).collect();
    all.dedup();
    match all.as_slice() {
        [] => "the bank".into(),
        [one] => format!("battery {one}"),
        [head @ .., last] if all.len() <= 4 => format!("batteries {} and {last}", head.join(", ")),
        _ => format!("{} batteries", names::number_word(all.len())),
    }
}

/// A finding of a round for the owner; none for what concerns the technician only.
pub fn owner_finding(finding: &Finding) -> Option<String> {
    let who = batteries(finding);
    Some(match &finding.kind {
        FindingKind::SuspectCell { sinking: Some(_), .. } => {
            format!("One cell of {who} has been falling behind the others visit by visit. It needs a corrective charge; if that does not bring it back, the battery will have to go.")
        }
        FindingKind::SuspectCell { .. } => {
            format!("One cell of {who} stands far behind the others. It needs a corrective charge, then a test.")
        }
        FindingKind::SpreadEqualize { .. } => {
            "The cells have drifted apart: some are charged fully, some are not. A controlled corrective charge brings them together.".into()
        }
        FindingKind::LowPair { .. } => format!("Two neighbouring cells of {who} are weak together; it has to be watched."),
        FindingKind::LowBattery { battery, .. } => {
            format!("Battery {battery} takes less charge than its neighbours. A poor connection or a cold corner is more likely than a bad battery.")
        }
        FindingKind::LowString { letter, .. } => {
            format!("String {letter} takes less charge than the others; its connections have to be checked.")
        }
        FindingKind::Gradient { .. } => "One end of the bank takes less charge than the other: it stands colder.".into(),
        FindingKind::LowCells { .. } => format!("Cells of {who} lie a little behind the others; nothing has to be done yet."),
        FindingKind::SpreadWatch { .. } => "The cells are less alike than they should be; nothing has to be done yet.".into(),
        FindingKind::ShortOfFull { .. } => {
            "The bank does not get full even after a full charge. Either the charger stops too early or the bank has aged.".into()
        }
        FindingKind::AboveFull { .. } => "The acid is stronger than it should be: too little water, or somebody added acid.".into(),
        FindingKind::RestVoltsDisagree { .. } | FindingKind::HighCells { .. } | FindingKind::Reread { .. } => return None,
        FindingKind::OffScale { .. } => format!("A cell of {who} could not be measured at all; it has to be looked into."),
        FindingKind::NotRead { reason } if reason.is_empty() => return None,
        FindingKind::NotRead { reason } => format!("A cell of {who} could not be reached: {}.", reason.trim_end_matches('.')),
        FindingKind::NotJudged { .. } => "The readings of this visit could not be judged; they have to be taken again.".into(),
    })
}

/// A finding of a rest check for the owner.
pub fn owner_rest(finding: &RestFinding) -> Option<String> {
    Some(match finding {
        RestFinding::CellsMissing { battery, .. } => {
            format!("Battery {battery} has a dead cell. It should be taken out before it harms the others.")
        }
        RestFinding::BatteryLow { battery, .. } => {
            format!("Battery {battery} holds less charge than the others; it is charged alone and tested.")
        }
        RestFinding::StringShort { letter, fault: Fault::OpenLink { .. }, .. } => {
            format!("String {letter} has a bad connection and carries little of the load.")
        }
        RestFinding::StringShort { letter, .. } => {
            format!("String {letter} does not give the voltage it should; a battery in it has failed.")
        }
        RestFinding::Apart { letter, .. } => {
            format!("The batteries of string {letter} are not equally charged.")
        }
        RestFinding::LowCharge { at_most, .. } => {
            format!("The bank was found at {at_most:.0} % charge or less. Left like that it ages fast.")
        }
        RestFinding::Disagrees { .. } => return None,
    })
}

/// The first sentence of a report.
pub fn owner_verdict(worst: Option<Severity>, things: usize) -> String {
    match worst {
        Some(Severity::Act) if things == 1 => "Your batteries need something done soon.".into(),
        Some(Severity::Act) => {
            format!(
                "Your batteries need something done soon: {} things were found.",
                names::number_word(things)
            )
        }
        Some(Severity::Watch) => {
            "Your batteries are in working order, with something to keep an eye on.".into()
        }
        _ => "Your batteries are in good order.".into(),
    }
}

/// What a condition means to an owner.
pub fn owner_condition(condition: Severity) -> &'static str {
    match condition {
        Severity::Act => "needs something done",
        Severity::Watch => "to be watched",
        Severity::Steady => "in order",
        Severity::Reread => "to be measured again",
        Severity::NoReading => "not measured",
    }
}
