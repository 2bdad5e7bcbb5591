//! The owner's words: what was found and what it means for him, without the trade's terms.

use super::names;
use super::visit::seen_kind;
use crate::bank::CellAddress;
use crate::finding::{
    ChargerFinding, EqualizeFinding, Finding, FindingKind, LookFinding, OhmicFinding, RoundFinding, Subject,
    WaterFinding,
};
use crate::quantity::units::ReaderUnits;
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

/// A finding for the owner; none for what concerns the technician only.
pub fn owner_finding(finding: &Finding, units: ReaderUnits) -> Option<String> {
    match &finding.kind {
        FindingKind::Round(found) => of_round(finding, found),
        FindingKind::Rest(found) => of_rest(found),
        FindingKind::Ohmic(OhmicFinding::ResistanceRise { battery }) => Some(format!(
            "Battery {} has a higher inner resistance than it should; it has to be load tested.",
            battery.battery
        )),
        FindingKind::Ohmic(OhmicFinding::HotCase { battery, .. }) => Some(format!(
            "Battery {battery} is hotter than the others; its connections and its charge have to be checked."
        )),
        FindingKind::LoadTest(found) => Some(super::tests::owner(finding, found)),
        FindingKind::Joints(found) => Some(super::joints::owner(found)),
        FindingKind::Water(WaterFinding::PlatesBare) => Some(format!(
            "The plates of {} stood dry. They have to be covered at once. Plates that dry out do not recover.",
            names::cells(&finding.cells)
        )),
        FindingKind::Water(WaterFinding::LevelsAtPlates) => Some(format!(
            "The water of {} stands at the plates. It has to be filled up before the plates run dry.",
            names::cells(&finding.cells)
        )),
        FindingKind::Look(found) => Some(of_look(finding, found, units)),
        FindingKind::Equalize(EqualizeFinding::NonResponding { cell }) => Some(format!(
            "One cell of battery {} no longer answers corrective charges; the battery will have to go.",
            cell.cell.battery
        )),
        // The next fill tells more of one that drinks, and nothing has to be done by the owner; the report
        // tells what each run did in a section of its own.
        FindingKind::Water(WaterFinding::UnevenConsumption { .. })
        | FindingKind::Equalize(EqualizeFinding::RunOutcome { .. }) => None,
        FindingKind::Charger(ChargerFinding::TooLittleAir { air }) if air.condition == Severity::Act => Some(
            "The place of the batteries has too little air for the gas they give off; vents or a fan have to be fitted.".into(),
        ),
        FindingKind::Charger(ChargerFinding::TooLittleAir { .. }) => {
            Some("The place of the batteries has too little air for a strong charge; it has to be opened for one.".into())
        }
        FindingKind::Charger(ChargerFinding::LongWithoutFull { .. }) => {
            Some("The batteries have not been brought all the way to full for a long time; they need that once a week.".into())
        }
        FindingKind::Charger(ChargerFinding::OddChargeFactor { .. }) => {
            Some("What goes into the batteries does not match what is taken out; charger and meter have to be looked at.".into())
        }
        FindingKind::Charger(ChargerFinding::NoneFinishes { .. }) => {
            Some("Nothing that charges these batteries brings them all the way to full; they need that once a week.".into())
        }
        FindingKind::Charger(_) => {
            Some("The charger is not set as these batteries want it; it has to be set anew.".into())
        }
    }
}

fn of_look(
    finding: &Finding,
    LookFinding::Seen { check, kind, measured, note }: &LookFinding,
    units: ReaderUnits,
) -> String {
    let place = match finding.subject {
        Subject::Bank => "The bank".to_owned(),
        Subject::String(letter) => format!("String {letter}"),
        other => format!("Battery {other}"),
    };
    let note = if note.is_empty() {
        String::new()
    } else {
        format!(" {}.", names::sentence(note.trim_end_matches('.')))
    };
    let advice = super::found_advice(*check, kind);
    let kind = seen_kind(*check, kind, *measured, units);
    format!("{place}: {} {kind}.{note} {advice}", super::check(*check).to_lowercase())
}

fn of_round(finding: &Finding, found: &RoundFinding) -> Option<String> {
    let who = batteries(finding);
    Some(match found {
        RoundFinding::SuspectCell { sinking: Some(_), .. } => {
            format!("One cell of {who} has been falling behind the others visit by visit. It needs a corrective charge; if that does not bring it back, the battery will have to go.")
        }
        RoundFinding::SuspectCell { .. } => {
            format!("One cell of {who} stands far behind the others. It needs a corrective charge, then a test.")
        }
        RoundFinding::SpreadEqualize { .. } => {
            "The cells have drifted apart: some are charged fully, some are not. A controlled corrective charge brings them together.".into()
        }
        RoundFinding::LowPair { .. } => format!("Two neighbouring cells of {who} are weak together; it has to be watched."),
        RoundFinding::LowBattery { battery, .. } => {
            format!("Battery {battery} takes less charge than its neighbours. A poor connection or a cold corner is more likely than a bad battery.")
        }
        RoundFinding::LowString { letter, .. } => {
            format!("String {letter} takes less charge than the others; its connections have to be checked.")
        }
        RoundFinding::Gradient { .. } => "One end of the bank takes less charge than the other: it stands colder.".into(),
        RoundFinding::LowCells { .. } => format!("Cells of {who} lie a little behind the others; nothing has to be done yet."),
        RoundFinding::SpreadWatch { .. } => "The cells are less alike than they should be; nothing has to be done yet.".into(),
        RoundFinding::ShortOfFull { .. } => {
            "The bank does not get full even after a full charge. Either the charger stops too early or the bank has aged.".into()
        }
        RoundFinding::NeverFull { .. } => {
            "The batteries are not charged fully between visits. Left like that they age fast.".into()
        }
        RoundFinding::FarFromFull { .. } => {
            "The batteries were not full when they were measured; they are charged fully and measured again.".into()
        }
        RoundFinding::AcidInCells { .. } => format!("The acid in a cell of {who} is stronger than it can become by charging: too little water, or somebody added acid."),
        RoundFinding::LowLevels { .. } => "Water is missing, which makes the acid stronger than it should be; it is filled up.".into(),
        RoundFinding::Stratified { .. } => "The acid has settled in layers; a short strong charge mixes it.".into(),
        RoundFinding::DeadCell { .. } => "A cell of the bank no longer gives voltage. The battery it sits in has to be found and taken out.".into(),
        RoundFinding::AboveFull { .. } => "The acid is stronger than it should be: too little water, or somebody added acid.".into(),
        RoundFinding::RestVoltsDisagree { .. } | RoundFinding::HighCells { .. } | RoundFinding::Reread { .. } => return None,
        RoundFinding::OffScale { .. } => format!("A cell of {who} could not be measured at all; it has to be looked into."),
        RoundFinding::NotRead { reason } if reason.is_empty() => return None,
        RoundFinding::NotRead { reason } => format!("A cell of {who} could not be reached: {}.", reason.trim_end_matches('.')),
        RoundFinding::NotJudged { .. } => "The readings of this visit could not be judged; they have to be taken again.".into(),
    })
}

fn of_rest(finding: &RestFinding) -> Option<String> {
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
        RestFinding::StringsApart { lowest, .. } => {
            format!("String {lowest} holds less charge than the others.")
        }
        RestFinding::ParallelApart { lowest, .. } => {
            format!(
                "Battery {lowest} holds less charge than those beside it; they are parted, charged and tested."
            )
        }
        RestFinding::NotHolding { battery, fails: true, .. } => {
            format!(
                "Battery {battery} does not hold its charge: it lost too much while it stood by itself. It has to be tested."
            )
        }
        RestFinding::NotHolding { battery, .. } => {
            format!(
                "Battery {battery} lost a little more than it should while it stood by itself; it is measured again."
            )
        }
        RestFinding::LosesCharge { battery: Some(battery), .. } => {
            format!("Battery {battery} runs down faster than it should while it stands by itself.")
        }
        RestFinding::LosesCharge { battery: None, .. } => {
            "The bank runs down faster than it should while it stands disconnected.".into()
        }
        RestFinding::NotAtRest { .. } | RestFinding::Disagrees { .. } => return None,
    })
}

/// Plates that were found dry, and those of them that are dry still.
pub fn owner_plates_dry(found: &[CellAddress], still: &[CellAddress]) -> String {
    let covered = match still {
        [] => "They were covered on this visit.".to_owned(),
        _ if still.len() == found.len() => "They have to be covered at once.".to_owned(),
        some => format!("Those of {} are dry still and have to be covered at once.", names::cells(some)),
    };
    format!("The plates of {} stood dry. {covered} Plates that dry out do not recover.", names::cells(found))
}

/// Water that had fallen to the plates, and was put back on the visit.
pub fn owner_plates_reached(filled: &[CellAddress]) -> String {
    format!("The water of {} had fallen to the plates. It was filled on this visit.", names::cells(filled))
}

/// What a visit came to, beside what it found.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Seen {
    /// The bank was measured or looked over as a whole.
    Whole,
    /// A part of it was looked at or measured, or in a state that tells little.
    Part,
    /// Work was done, and nothing was looked at or measured.
    WorkAlone,
    /// Neither.
    Nothing,
}

/// The first sentence of a report: from the worst that was left, how many things ask for something, how many
/// were found and put right, and whether anything was looked at or measured at all.
pub fn owner_verdict(worst: Option<Severity>, things: usize, put_right: usize, seen: Seen) -> String {
    if worst.is_none_or(|w| w < Severity::Watch) {
        match seen {
            Seen::Nothing => return "Nothing was measured or looked at on this visit.".into(),
            Seen::WorkAlone => {
                return "Work was done on your batteries; nothing was measured or looked at.".into();
            }
            Seen::Part if put_right == 0 => {
                return "Nothing that was looked at or measured asks for anything; not all of it was.".into();
            }
            Seen::Part | Seen::Whole => {}
        }
    }
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
        _ if put_right == 1 => "Your batteries are in good order; one thing was found and put right.".into(),
        _ if put_right > 1 => format!(
            "Your batteries are in good order; {} things were found and put right.",
            names::number_word(put_right)
        ),
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
