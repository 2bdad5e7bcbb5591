//! What asks for a proof: batteries that ran dry, or were opened, until a timed discharge.

use super::ran_dry::{RanDry, ran_dry};
use super::{Judged, PastVisit};
use crate::finding::{Finding, load_test};
use crate::recovery::slow_charge;
use crate::schedule::OpenFinding;

fn finding(own: &RanDry, bank: Judged<'_>) -> Finding {
    let cells = own.place.cells_in_series(bank.shape);
    let charge = slow_charge(bank.model, cells);
    load_test::unproven(own.place.into(), (own.day, own.sealed), own.stage, charge)
}

/// Everything that ran dry, or was opened, and that nobody proved since.
pub fn open_unproven(visits: &[PastVisit], bank: Judged<'_>) -> Vec<OpenFinding> {
    let all = ran_dry(visits, bank);
    all.iter().map(|own| OpenFinding { day: own.day, finding: finding(own, bank) }).collect()
}

/// What the last of these visits found dry itself. Of a sealed one that was opened the look tells the same there.
pub fn unproven_findings(visits: &[PastVisit], bank: Judged<'_>) -> Vec<Finding> {
    let all = ran_dry(visits, bank);
    all.iter()
        .filter(|own| own.visit + 1 == visits.len() && !own.sealed)
        .map(|own| finding(own, bank))
        .collect()
}
