//! What the gravities of a round show (RD-1 to RD-9, SG-3, SG-6).

mod balance;
mod cells;
mod whole;

use super::{
    Bound, Certainty, Finding, FindingKind, OtherHouse, RoundFinding, RuleId, Subject, Tolerance, explain,
    in_order, without_barred_equalize,
};
use crate::bank::CellAddress;
use crate::house_rules::BalanceLimits;
use crate::instrument::Limit;
use crate::quantity::Points;
use crate::round::condition::CellLimits;
use crate::round::over_full::OverFull;
use crate::round::pattern::OffFull;
use crate::round::{Assessment, FAR_FROM_FULL, RoundToJudge};
use crate::severity::Severity;

/// A finding about cells that are named, worst first.
fn about(cells: Vec<CellAddress>, kind: RoundFinding, severity: Severity, rule: RuleId) -> Finding {
    let subject = match &kind {
        RoundFinding::LowString { letter, .. } => Subject::String(*letter),
        RoundFinding::LowBattery { battery, .. } => Subject::Battery(*battery),
        RoundFinding::SpreadEqualize { .. } | RoundFinding::SpreadWatch { .. } => Subject::Bank,
        _ => Subject::of_cells(&cells),
    };
    Finding { cells, ..Finding::recorded(subject, FindingKind::Round(kind), severity, rule) }
}

/// A bank that two rounds running was neither proven full nor near it (CH-5).
pub(crate) fn never_full((now, before): (f64, f64)) -> Finding {
    let kind = RoundFinding::NeverFull { now, before };
    let limit = Bound::Percent { percent: FAR_FROM_FULL };
    let finding = about(Vec::new(), kind, Severity::Watch, RuleId::Ch5);
    measured(finding, Tolerance::of_every_house(limit), Certainty::Clear)
}

/// A finding with the limit that judged it.
fn measured(finding: Finding, tolerance: Tolerance, certainty: Certainty) -> Finding {
    Finding { tolerance: Some(tolerance), certainty, ..finding }
}

/// Everything the judgement of findings looks at.
pub(crate) struct Case<'a> {
    pub round: &'a RoundToJudge,
    pub assessment: &'a Assessment,
    pub limits: BalanceLimits,
    pub cell_limits: &'a CellLimits,
    /// The centre against full; none where nothing was judged.
    pub off_full: Option<OffFull>,
    /// What stands over full.
    pub over_full: Option<&'a OverFull>,

    /// Cells that were judged and are not in question.
    pub cells: usize,
}

impl Case<'_> {
    fn house(&self) -> String {
        self.round.rules.name.clone()
    }

    fn equalize_owner(&self) -> String {
        if self.limits.equalize_is_makers { "the maker".into() } else { self.house() }
    }

    /// How sure a value beyond a limit is, given the uncertainty of one deviation.
    fn certainty(&self, value: Points, limit: Limit) -> Certainty {
        let doubt = 2.0 * self.assessment.uncertainty.deviation.value();
        if value.abs().value() - limit.used.value() > doubt {
            Certainty::Clear
        } else if limit.noise_rules() {
            Certainty::WithinInstrument
        } else {
            Certainty::NearLimit
        }
    }

    /// The other sets' conditions, where they differ from this one.
    fn others(&self, own: Severity, by: impl Fn(BalanceLimits) -> Severity) -> Vec<OtherHouse> {
        self.round
            .other_rules
            .iter()
            .filter(|rules| rules.key != self.round.rules.key)
            .map(|rules| OtherHouse {
                name: rules.name.clone(),
                condition: by(rules.balance_limits(&self.round.model)),
            })
            .filter(|other| other.condition != own)
            .collect()
    }
}

/// The cell that a dead one explains is likely it: volts of the whole bank do not say which.
fn name_the_likely_cell(all: &mut [Finding]) {
    let folded = |dead: &Finding| {
        let mut own = all.iter().filter(|f| f.explained_by.as_ref() == Some(&dead.id) && f.cells.len() == 1);
        own.find(|f| {
            matches!(f.of_round(), Some(RoundFinding::SuspectCell { .. } | RoundFinding::LowCells { .. }))
        })
        .map(|f| f.cells.clone())
    };
    let likely = all.iter().position(Finding::is_dead).and_then(|at| Some((at, folded(&all[at])?)));
    if let Some((at, cells)) = likely {
        all[at].cells = cells;
    }
}

/// All findings of a judged round, what leads first (RD-9).
pub(crate) fn findings(case: &Case<'_>) -> Vec<Finding> {
    let mut all = Vec::new();
    all.extend(whole::not_judged(case));
    all.extend(cells::suspects(case));
    all.extend(balance::spread(case));
    all.extend(cells::whole_group(case));
    all.extend(cells::gradient(case));
    all.extend(cells::low(case));
    all.extend(cells::high(case));
    all.extend(whole::over_full(case));
    all.extend(whole::short_of_full(case));
    all.extend(whole::rest_volts(case));
    all.extend(cells::questioned(case));
    all.extend(cells::off_scale(case));
    all.extend(cells::not_read(case));
    let call = balance::call(case, &all);
    for finding in &mut all {
        finding.equalize = call;
    }
    without_barred_equalize(&mut all);
    explain(&mut all, cells::singles_explain_the_spread(case));
    name_the_likely_cell(&mut all);
    in_order(all)
}
