//! What a judged round asks for: the part of its findings that the schedule reads.

use crate::bank::CellAddress;
use crate::finding::{BarredBy, Finding, RoundFinding, Tolerance, equalize_bar};
use crate::quantity::Points;
use crate::round::{Assessment, FAR_FROM_FULL};
use crate::severity::Severity;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// What the last round said, as far as it asks for something.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JudgedRound {
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Condition of the bank.
    pub condition: Severity,
    /// Spread, points.
    pub spread: Option<Points>,
    /// Cells that must be acted on: deviation, and whether they sink.
    #[serde(default)]
    pub suspects: Vec<(CellAddress, Points, bool)>,
    /// Spread that asks for an equalize: its limit, and whether the round was proven full.
    #[serde(default)]
    pub equalize: Option<(Points, bool)>,
    /// Short of full after a proven full charge, points (negative), or above it.
    #[serde(default)]
    pub off_full: Option<Points>,
    /// Charge of this round and of the one before, per cent, where neither was proven full and both
    /// were low.
    #[serde(default)]
    pub never_full: Option<(f64, f64)>,
    /// Cells left in question.
    #[serde(default)]
    pub in_question: Vec<CellAddress>,
    /// What it found of the bank that is due by itself (a dead cell, acid in cells, layers, low levels, far
    /// from full), and what that explains.
    #[serde(default)]
    pub found: Vec<Finding>,
    /// What has to be put right before anybody equalizes; none: nothing forbids one.
    #[serde(default)]
    pub barred: Option<BarredBy>,
}

/// A finding that is due by itself.
fn is_due(found: &RoundFinding) -> bool {
    matches!(
        found,
        RoundFinding::DeadCell { .. }
            | RoundFinding::AcidInCells { .. }
            | RoundFinding::Stratified { .. }
            | RoundFinding::LowLevels { .. }
            | RoundFinding::FarFromFull { .. }
    )
}

impl JudgedRound {
    /// A round that asks for nothing.
    pub fn of_nothing(day: Date, condition: Severity, spread: Option<Points>) -> Self {
        Self {
            day,
            condition,
            spread,
            suspects: Vec::new(),
            equalize: None,
            off_full: None,
            never_full: None,
            in_question: Vec::new(),
            found: Vec::new(),
            barred: None,
        }
    }

    /// The round after an equalize: what it asked for is answered, and the next round reads the answer.
    /// A dead cell, acid and missing water are not answered by charging.
    #[must_use]
    pub fn answered(mut self) -> Self {
        self.found.retain(|f| {
            !matches!(f.of_round(), Some(RoundFinding::Stratified { .. } | RoundFinding::FarFromFull { .. }))
        });
        let charged = [BarredBy::Layered, BarredBy::FarFromFull];
        let barred = self.barred.filter(|by| !charged.contains(by));
        Self { suspects: Vec::new(), equalize: None, off_full: None, barred, ..self }
    }

    /// What the findings of a round ask for. The rounds before it are not known here (see
    /// [`never_full`]), nor what came after it.
    pub fn of(day: Date, assessment: &Assessment) -> Self {
        let all = &assessment.findings;
        let due = all.iter().filter(|f| f.explained_by.is_none() && f.of_round().is_some_and(is_due));
        let causes: Vec<String> = due.map(|f| f.id.clone()).collect();
        // What is explained by something due stands folded under it (RD-9).
        let is_folded = |f: &&Finding| f.explained_by.as_ref().is_some_and(|id| causes.contains(id));
        let mut found = Self {
            found: all.iter().filter(|f| causes.contains(&f.id) || is_folded(f)).cloned().collect(),
            barred: equalize_bar(all),
            ..Self::of_nothing(day, assessment.condition, assessment.spread.map(|s| s.points))
        };
        for finding in all.iter().filter(|f| !is_folded(f)) {
            let Some(kind) = finding.of_round() else { continue };
            match kind {
                RoundFinding::SuspectCell { deviation, sinking, .. } => {
                    found.suspects.extend(finding.cells.iter().map(|c| (*c, *deviation, sinking.is_some())));
                }
                RoundFinding::SpreadEqualize { proven_full, .. } => {
                    let limit = finding.tolerance.as_ref().and_then(Tolerance::points);
                    found.equalize = limit.map(|limit| (limit.used, *proven_full));
                }
                RoundFinding::ShortOfFull { short, .. } => found.off_full = Some(*short),
                RoundFinding::AboveFull { above, .. } => found.off_full = Some(*above),
                RoundFinding::Reread { .. } => found.in_question.extend(&finding.cells),
                _ => {}
            }
        }
        found
    }
}

/// How full a round found the bank.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RoundCharge {
    /// Charge, per cent; none where it was not worked out.
    pub percent: Option<f64>,
    /// True when the charge before it was proven full.
    pub proven_full: bool,
}

/// CH-5: charge now and before, per cent, where the last two rounds were neither proven full nor
/// near it. Rounds come newest first.
pub fn never_full(newest_first: &[RoundCharge]) -> Option<(f64, f64)> {
    let far = |r: &RoundCharge| r.percent.filter(|p| !r.proven_full && *p < FAR_FROM_FULL);
    match newest_first {
        [now, before, ..] => Some((far(now)?, far(before)?)),
        _ => None,
    }
}
