//! RD-9: what leads, and what a cause explains.

use super::{
    BarredBy, EqualizeCall, Finding, FindingKind, LoadTestFinding, LookFinding, RoundFinding, Subject,
    Tolerance, WaterFinding,
};
use crate::bank::BatteryAddress;
use crate::quantity::Points;
use crate::rest::{Fault, RestFinding};
use crate::severity::Severity;
use crate::visit::Check;

/// Harm that is done now, before anything else.
const HARM: u8 = 0;
/// Ranks of what was found by other means than gravity begin here.
const BESIDE_GRAVITY: u8 = 30;

/// The place of a finding among causes: less leads.
fn rank(finding: &Finding) -> u8 {
    match &finding.kind {
        FindingKind::Round(found) => of_round(found, finding),
        FindingKind::Water(WaterFinding::PlatesBare)
        | FindingKind::Rest(
            RestFinding::CellsMissing { .. }
            | RestFinding::StringShort { fault: Fault::ShortedCells { .. } | Fault::BatteryReversed, .. },
        )
        | FindingKind::Look(LookFinding::Seen { check: Check::Case, .. }) => HARM,
        FindingKind::Equalize(_) => BESIDE_GRAVITY,
        FindingKind::Rest(_) => BESIDE_GRAVITY + 1,
        FindingKind::Ohmic(_) => BESIDE_GRAVITY + 2,
        FindingKind::LoadTest(_) | FindingKind::Joints(_) => BESIDE_GRAVITY + 3,
        FindingKind::Look(_) => BESIDE_GRAVITY + 4,
        FindingKind::Water(WaterFinding::LevelsAtPlates) => HARM + 1,
        FindingKind::Water(_) => BESIDE_GRAVITY + 5,
        FindingKind::Charger(_) => BESIDE_GRAVITY + 6,
    }
}

fn of_round(found: &RoundFinding, finding: &Finding) -> u8 {
    match found {
        RoundFinding::DeadCell { .. } => HARM,
        RoundFinding::LowLevels { .. } => 1,
        RoundFinding::AboveFull { .. } => 2,
        RoundFinding::AcidInCells { .. } => 3,
        RoundFinding::ShortOfFull { .. } => 4,
        RoundFinding::NeverFull { .. } => 5,
        RoundFinding::FarFromFull { .. } => 6,
        RoundFinding::Stratified { .. } => 7,
        RoundFinding::LowString { .. } => 8,
        RoundFinding::LowBattery { .. } => 9,
        RoundFinding::LowPair { .. } => 10,
        RoundFinding::LowCells { named: true, alone: false, .. } => 11,
        RoundFinding::LowCells { alone: true, .. } | RoundFinding::SuspectCell { alone: true, .. } => 12,
        RoundFinding::HighCells { named: true, .. } => 13,
        RoundFinding::SuspectCell { .. } => 14,
        RoundFinding::OffScale { .. } => 15,
        RoundFinding::Gradient { .. } => 16,
        RoundFinding::SpreadEqualize { .. } | RoundFinding::SpreadWatch { .. } => 17,
        RoundFinding::LowCells { .. } | RoundFinding::HighCells { .. } => 18,
        RoundFinding::RestVoltsDisagree { .. } => 19,
        RoundFinding::Reread { .. } | RoundFinding::NotRead { .. } | RoundFinding::NotJudged { .. } => {
            20 + u8::from(finding.severity == Severity::NoReading)
        }
    }
}

fn is_spread(finding: &Finding) -> bool {
    matches!(finding.of_round(), Some(RoundFinding::SpreadEqualize { .. } | RoundFinding::SpreadWatch { .. }))
}

/// Low levels or acid in all cells or in some.
fn is_strong_acid(found: &RoundFinding) -> bool {
    matches!(
        found,
        RoundFinding::LowLevels { .. } | RoundFinding::AboveFull { .. } | RoundFinding::AcidInCells { .. }
    )
}

impl Finding {
    /// True where it says that a cell gives nothing.
    pub(crate) fn is_dead(&self) -> bool {
        match &self.kind {
            FindingKind::Round(found) => matches!(found, RoundFinding::DeadCell { .. }),
            FindingKind::Rest(found) => matches!(
                found,
                RestFinding::CellsMissing { .. }
                    | RestFinding::StringShort {
                        fault: Fault::ShortedCells { .. } | Fault::BatteryReversed,
                        ..
                    }
            ),
            _ => false,
        }
    }
}

/// Cells by themselves, named as such or not.
fn is_single(found: &RoundFinding) -> bool {
    matches!(
        found,
        RoundFinding::SuspectCell { .. } | RoundFinding::LowCells { .. } | RoundFinding::HighCells { .. }
    )
}

/// True where all cells of one finding are cells of the other.
fn holds(cause: &Finding, other: &Finding) -> bool {
    let own = |cell: crate::bank::CellAddress| match cause.subject {
        Subject::Battery(battery) => cell.battery == battery,
        Subject::String(letter) => crate::bank::string_letter(cell.battery.string) == letter,
        _ => cause.cells.contains(&cell),
    };
    !other.cells.is_empty() && other.cells.iter().all(|cell| own(*cell))
}

/// A battery that is short of a cell, loses its charge or lags explains that its string, or what stands beside
/// it, rests apart, that its string is short, and that its own volts and gravity disagree. One that loses its
/// charge lags for that.
fn explains_volts(cause: &Finding, other: &Finding) -> bool {
    let FindingKind::Rest(
        own @ (RestFinding::CellsMissing { battery, .. }
        | RestFinding::NotHolding { battery, .. }
        | RestFinding::LosesCharge { battery: Some(battery), .. }
        | RestFinding::BatteryLow { battery, .. }),
    ) = &cause.kind
    else {
        return false;
    };
    let lags = matches!(own, RestFinding::BatteryLow { .. });
    match &other.kind {
        FindingKind::Rest(RestFinding::Apart { lowest, .. } | RestFinding::ParallelApart { lowest, .. }) => {
            lowest == battery
        }
        FindingKind::Rest(RestFinding::Disagrees { battery: own, .. }) => own == battery,
        FindingKind::Rest(
            RestFinding::LosesCharge { battery: Some(own), .. }
            | RestFinding::BatteryLow { battery: own, .. },
        ) => own == battery && !lags,
        FindingKind::Rest(RestFinding::StringShort { letter, fault, .. }) => {
            let own = crate::bank::string_letter(battery.string) == *letter;
            own && matches!(fault, Fault::ShortedCells { .. } | Fault::Low)
        }
        _ => false,
    }
}

impl Finding {
    /// The battery whose case is bulging, cracked, leaking or hot; none where it says no such thing.
    pub(crate) fn damaged_battery(&self) -> Option<BatteryAddress> {
        let bars = self.equalize == EqualizeCall::Barred { by: BarredBy::DamagedCase };
        self.subject.battery().filter(|_| bars && matches!(self.kind, FindingKind::Look(_)))
    }
}

/// What is damaged is taken out: its volts, resistance and gravity ask for nothing of their own.
fn explains_of_damaged(battery: BatteryAddress, cause: &Finding, other: &Finding) -> bool {
    match &other.kind {
        FindingKind::Rest(RestFinding::Apart { lowest, .. } | RestFinding::ParallelApart { lowest, .. }) => {
            *lowest == battery
        }
        FindingKind::Rest(_) | FindingKind::Ohmic(_) | FindingKind::LoadTest(_) | FindingKind::Joints(_) => {
            other.subject.battery() == Some(battery)
        }
        FindingKind::Round(RoundFinding::LowBattery { battery: own, .. }) => *own == battery,
        FindingKind::Round(found) => {
            (is_single(found) || matches!(found, RoundFinding::LowPair { .. })) && holds(cause, other)
        }
        _ => false,
    }
}

/// True where a bank short of full is full at the high end of its gradient: only the cold end is short.
fn is_full_at(high: Points, other: &Finding) -> bool {
    let Some(RoundFinding::ShortOfFull { short, .. }) = other.of_round() else { return false };
    let limit = other.tolerance.as_ref().and_then(Tolerance::points);
    limit.is_some_and(|limit| (short.value() + high.value()).abs() <= limit.used.value())
}

/// A battery that ran dry, or was opened: what the eye saw of it is told under what is still to be done.
fn explains_what_was_seen(cause: &Finding, other: &Finding) -> bool {
    let unproven = matches!(cause.kind, FindingKind::LoadTest(LoadTestFinding::Unproven { .. }));
    let seen = match &other.kind {
        FindingKind::Look(LookFinding::Seen { check: Check::Caps, kind, .. }) => kind == "dry",
        FindingKind::Look(LookFinding::Seen { check: Check::Seal, kind, .. }) => kind != "vents",
        _ => false,
    };
    unproven && seen && cause.subject == other.subject
}

/// Whether a cause explains another finding of the same bank. `singles` is true where the cells that stand
/// by themselves are few and the rest is even.
fn explains(cause: &Finding, other: &Finding, singles: bool) -> bool {
    if let Some(battery) = cause.damaged_battery() {
        return explains_of_damaged(battery, cause, other);
    }
    let Some(found) = other.of_round() else {
        return explains_volts(cause, other) || explains_what_was_seen(cause, other);
    };
    if cause.is_dead() {
        let emptier = matches!(
            found,
            RoundFinding::ShortOfFull { .. }
                | RoundFinding::FarFromFull { .. }
                | RoundFinding::Stratified { .. }
                | RoundFinding::RestVoltsDisagree { .. }
        );
        // Volts of the whole bank do not say which cell: the one that stands alone is it.
        let alone = matches!(
            found,
            RoundFinding::SuspectCell { alone: true, .. } | RoundFinding::LowCells { alone: true, .. }
        );
        let own = if cause.of_round().is_some() { alone } else { is_single(found) && holds(cause, other) };
        return emptier || own;
    }
    let Some(cause_found) = cause.of_round() else { return false };
    match cause_found {
        found_strong if is_strong_acid(found_strong) => {
            is_spread(other) || matches!(found, RoundFinding::HighCells { .. })
        }
        RoundFinding::Stratified { .. } => matches!(
            found,
            RoundFinding::ShortOfFull { .. }
                | RoundFinding::FarFromFull { .. }
                | RoundFinding::NeverFull { .. }
        ),
        RoundFinding::NeverFull { .. } => matches!(found, RoundFinding::FarFromFull { .. }),
        // Cells in it are judged by what it leaves of them: one that still stands out is not explained by it.
        RoundFinding::LowString { .. }
        | RoundFinding::LowBattery { .. }
        | RoundFinding::HighCells { named: true, .. } => is_spread(other),
        RoundFinding::LowPair { .. } => is_spread(other) || is_single(found) && holds(cause, other),
        RoundFinding::Gradient { high, .. } => is_spread(other) || is_full_at(*high, other),
        RoundFinding::LowCells { named: true, alone: false, .. } => {
            is_spread(other) || matches!(found, RoundFinding::SuspectCell { .. }) && holds(cause, other)
        }
        own if is_single(own) => singles && is_spread(other),
        _ => false,
    }
}

/// Sets what explains each finding of a round: the cause that leads among those that do. A cause is as bad
/// as what it explains.
pub(crate) fn explain(findings: &mut [Finding], singles: bool) {
    explain_where(findings, singles, |_| true);
}

/// The same for all that is known of a bank: what the round explains stays, and what is left may be explained
/// by what other means found.
fn explain_further(findings: &mut [Finding]) {
    explain_where(findings, false, |finding| finding.explained_by.is_none());
}

fn explain_where(findings: &mut [Finding], singles: bool, open: impl Fn(&Finding) -> bool) {
    let causes: Vec<Option<usize>> = (0..findings.len())
        .map(|i| {
            let of = |j: &usize| *j != i && explains(&findings[*j], &findings[i], singles);
            let cause = || (0..findings.len()).filter(of).min_by_key(|j| rank(&findings[*j]));
            open(&findings[i]).then(cause).flatten()
        })
        .collect();
    // Twice, for what is explained by something that is explained itself.
    for _ in 0..2 {
        for (i, cause) in causes.iter().enumerate() {
            if let Some(j) = *cause {
                findings[i].explained_by = Some(findings[j].id.clone());
                findings[j].severity = findings[j].severity.max(findings[i].severity);
            }
        }
    }
}

/// What forbids an equalize among what was found by any means; none where nothing does.
pub fn equalize_bar<'a>(findings: impl IntoIterator<Item = &'a Finding>) -> Option<BarredBy> {
    let barred = findings.into_iter().filter_map(|finding| {
        if finding.is_dead() {
            return Some(BarredBy::DeadCell);
        }
        match finding.equalize {
            EqualizeCall::Barred { by } => Some(by),
            _ => None,
        }
    });
    barred.min_by_key(|by| (*by != BarredBy::DamagedCase, !by.does_harm()))
}

/// Takes the advice to equalize back from every finding where something forbids one.
pub(crate) fn without_barred_equalize(findings: &mut [Finding]) {
    let Some(by) = equalize_bar(findings.iter()) else { return };
    for finding in findings {
        if !matches!(finding.kind, FindingKind::Round(_) | FindingKind::Rest(_)) {
            continue;
        }
        finding.equalize = EqualizeCall::Barred { by };
        let FindingKind::Round(found) = &mut finding.kind else { continue };
        if let RoundFinding::SpreadEqualize { spread, ends, .. } = found {
            *found = RoundFinding::SpreadWatch { spread: *spread, ends: *ends };
            finding.id = finding.id.replace("spread_equalize", "spread_watch");
        }
    }
}

/// Findings of a bank by all means, each of which may explain others or forbid an equalize, in the order in
/// which they are told.
#[must_use]
pub fn merged(mut findings: Vec<Finding>) -> Vec<Finding> {
    without_barred_equalize(&mut findings);
    explain_further(&mut findings);
    in_order(findings)
}

/// Findings in the order in which they are told: what leads first, each with what it explains after it.
#[must_use]
pub fn in_order(mut findings: Vec<Finding>) -> Vec<Finding> {
    let is_cause = |f: &Finding| f.explained_by.is_none();
    // A round is one story: its causes stand by rank, as bad as the worst of them.
    let round = findings.iter().filter(|f| f.of_round().is_some() && is_cause(f)).map(|f| f.severity).max();
    findings.sort_by_key(|f| {
        let as_bad = if f.of_round().is_some() && f.severity >= Severity::Watch {
            round.unwrap_or(f.severity)
        } else {
            f.severity
        };
        let harm = rank(f) == HARM && f.severity >= Severity::Watch;
        (!harm, std::cmp::Reverse(as_bad), rank(f), std::cmp::Reverse(f.severity))
    });
    let (causes, mut folded): (Vec<Finding>, Vec<Finding>) = findings.into_iter().partition(is_cause);
    let mut all = Vec::with_capacity(causes.len() + folded.len());
    for cause in causes {
        let mut under = vec![cause.id.clone()];
        all.push(cause);
        while let Some(at) =
            folded.iter().position(|f| f.explained_by.as_ref().is_some_and(|id| under.contains(id)))
        {
            let next = folded.remove(at);
            under.push(next.id.clone());
            all.push(next);
        }
    }
    all.extend(folded);
    all
}
