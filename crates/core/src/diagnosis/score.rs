//! The scores: of each group the strongest sign, what leads, how sure, and what is folded under its cause.

use super::{Group, Hypothesis, Measurement, Row, Weights};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use strum::VariantArray;
use thiserror::Error;

/// Points of a fault before anything is known; a healthy bank has none (tried on simulated banks).
const PRIOR: f64 = -4.0;
/// Points that make ten to one (tried on simulated banks).
const TENFOLD: f64 = 4.0;
/// Lead from which a hypothesis is likely, and groups that speak for it.
pub const LEAD: f64 = 6.0;
const FOR_IT: usize = 2;
/// Groups on record from which a healthy bank is called so.
const HEALTHY_GROUPS: usize = 6;
/// Points from which a cause leads what it explains.
const CAUSE: f64 = 5.0;
/// Points that a condition may stand over its cause: more than that it has of its own.
const OVER_CAUSE: f64 = 8.0;
/// Points from which a condition is told under its cause: more speaks for it than against it.
const TOLD_UNDER: f64 = -3.0;
/// What healthy signs are worth together: else six normal groups outvote one fault.
const HEALTHY_ONCE: f64 = 3.0;

/// A sign on record.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sign {
    /// Key of the table: `one_cell_low`.
    pub sign: String,
    /// The figures it was told from: "A5-2 43 points under the median".
    #[serde(default)]
    pub seen: String,
    /// Where, and by which reading; empty: the whole bank.
    #[serde(default)]
    pub of: String,
}

impl Sign {
    /// A sign with the figures it was told from, and where.
    pub(super) fn new(key: &str, seen: String, of: &str) -> Self {
        Self { sign: key.into(), seen, of: of.into() }
    }
}

/// A sign that no table has.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("\u{201c}{0}\u{201d} is no sign; the table of weights names them")]
pub struct SignError(pub String);

/// What one group says of a hypothesis.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Speaks {
    /// The group.
    pub group: Group,
    /// Points: more than zero speaks for it.
    pub points: i8,
    /// The sign that says it.
    pub sign: Sign,
    /// In words.
    pub words: String,
}

/// How sure a hypothesis is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Standing {
    /// It leads by six points, and two groups speak for it.
    Likely,
    /// It leads by less, or stands near what leads.
    Possible,
    /// More speaks against it than for it.
    NotLikely,
}

/// One hypothesis as it stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ranked {
    /// Which.
    pub hypothesis: Hypothesis,
    /// Points, the prior included.
    pub score: f64,
    /// Probability among all.
    pub probability: f64,
    /// What speaks for and against it, the strongest of each group.
    pub speaks: Vec<Speaks>,
    /// The cause that explains it; none: it stands for itself.
    pub under: Option<Hypothesis>,
    /// How sure.
    pub standing: Standing,
}

/// What a bank may have.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Diagnosis {
    /// Every hypothesis that applies, what leads first; what a cause explains stands after it.
    pub ranked: Vec<Ranked>,
    /// Points by which the first leads the next that it does not explain.
    pub lead: f64,
    /// Groups of evidence that stand.
    pub groups: Vec<Group>,
    /// False where fewer than two groups stand: not enough to tell.
    pub enough: bool,
}

/// The strongest of each group for every hypothesis.
pub(super) type Strongest<'a> = BTreeMap<Hypothesis, BTreeMap<Group, (i8, &'a Sign, &'a Row)>>;

/// What a row says of a hypothesis: what a sound bank shows never speaks for a fault.
pub(super) fn says(row: &Row, hypothesis: Hypothesis) -> i8 {
    let own = row.weights.get(&hypothesis).copied().unwrap_or(0);
    let fault = hypothesis != Hypothesis::Healthy;
    // A capacity that is only fair is what worn and badly charged banks show: told by its own line.
    if row.normal && fault && own > 0 { 0 } else { own }
}

/// True where a weight takes the place of another: of greater size, or against on a tie.
pub(super) fn stronger(own: i8, other: i8) -> bool {
    own.abs() > other.abs() || own.abs() == other.abs() && own < other
}

pub(super) fn total(hypothesis: Hypothesis, by_group: impl Iterator<Item = i8>) -> f64 {
    let points: Vec<f64> = by_group.map(f64::from).collect();
    if hypothesis == Hypothesis::Healthy {
        let good: f64 = points.iter().filter(|p| **p > 0.0).sum();
        let bad: f64 = points.iter().filter(|p| **p < 0.0).sum();
        return good.min(HEALTHY_ONCE) + bad;
    }
    PRIOR + points.iter().sum::<f64>()
}

/// Probabilities of scores.
pub(super) fn probabilities(scores: &[f64]) -> Vec<f64> {
    let best = scores.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let all: Vec<f64> = scores.iter().map(|s| 10f64.powf((s - best) / TENFOLD)).collect();
    let sum: f64 = all.iter().sum();
    all.into_iter().map(|p| p / sum).collect()
}

/// Diagnoses a bank by its signs (DG-1); the order of the signs does not matter.
///
/// # Errors
/// [`SignError`] for a sign that the table does not have.
pub fn diagnose(
    signs: &[Sign],
    (has_caps, strings): (bool, u8),
    weights: &Weights,
) -> Result<Diagnosis, SignError> {
    let mut signs: Vec<&Sign> = signs.iter().collect();
    signs.sort_by(|a, b| (&a.sign, &a.of, &a.seen).cmp(&(&b.sign, &b.of, &b.seen)));
    let hypotheses: Vec<Hypothesis> =
        Hypothesis::VARIANTS.iter().copied().filter(|h| h.applies(has_caps, strings)).collect();
    let mut strongest: Strongest<'_> = BTreeMap::new();
    let mut groups: Vec<Group> = Vec::new();
    let mut made: Vec<Measurement> = Vec::new();
    for sign in signs {
        let row = weights.row(&sign.sign).ok_or_else(|| SignError(sign.sign.clone()))?;
        groups.push(row.group);
        made.push(row.measurement);
        for hypothesis in &hypotheses {
            let points = says(row, *hypothesis);
            let own = strongest.entry(*hypothesis).or_default();
            let before = own.get(&row.group).map_or(0, |(points, ..)| *points);
            if points != 0 && stronger(points, before) {
                own.insert(row.group, (points, sign, row));
            }
        }
    }
    groups.sort_unstable();
    groups.dedup();
    made.sort_unstable();
    made.dedup();
    let scores: Vec<f64> = hypotheses
        .iter()
        .map(|h| total(*h, strongest.get(h).into_iter().flatten().map(|(_, (points, ..))| *points)))
        .collect();
    let chances = probabilities(&scores);
    let mut ranked: Vec<Ranked> = hypotheses
        .iter()
        .zip(scores.iter().zip(chances))
        .map(|(hypothesis, (score, probability))| Ranked {
            hypothesis: *hypothesis,
            score: *score,
            probability,
            speaks: strongest
                .get(hypothesis)
                .into_iter()
                .flatten()
                .map(|(group, (points, sign, row))| Speaks {
                    group: *group,
                    points: *points,
                    sign: (*sign).clone(),
                    words: row.words.clone(),
                })
                .collect(),
            under: None,
            standing: Standing::NotLikely,
        })
        .collect();
    let missed = missed(&ranked, &made, weights);
    let of = |own: &Ranked| (missed.get(&own.hypothesis).copied().unwrap_or(0), own.hypothesis);
    ranked.sort_by(|a, b| b.score.total_cmp(&a.score).then(of(a).cmp(&of(b))));
    fold(&mut ranked);
    let ranked = in_order(ranked, &missed);
    let lead = lead(&ranked);
    let mut own = Diagnosis { ranked, lead, enough: groups.len() >= FOR_IT, groups };
    own.stand();
    Ok(own)
}

/// Points that measurements which were made would have given each hypothesis at most, and did not: of two that stand alike
/// the one that was looked for less is the likelier.
fn missed(ranked: &[Ranked], made: &[Measurement], weights: &Weights) -> BTreeMap<Hypothesis, u16> {
    let most = |measurement: Measurement, hypothesis: Hypothesis| {
        let rows = weights.rows().iter().filter(|row| row.measurement == measurement);
        rows.map(|row| says(row, hypothesis)).max().filter(|most| *most > 0).unwrap_or(0)
    };
    let shown = |own: &Ranked, measurement: Measurement| {
        own.speaks.iter().any(|s| {
            s.points > 0 && weights.row(&s.sign.sign).is_some_and(|row| row.measurement == measurement)
        })
    };
    let of = |own: &Ranked| {
        let unseen = made.iter().filter(|measurement| !shown(own, **measurement));
        unseen.map(|measurement| u16::from(most(*measurement, own.hypothesis).unsigned_abs())).sum()
    };
    ranked.iter().map(|own| (own.hypothesis, of(own))).collect()
}

/// Puts conditions under the cause that explains them.
fn fold(ranked: &mut [Ranked]) {
    let causes: Vec<(Hypothesis, f64)> =
        ranked.iter().filter(|r| r.score >= CAUSE).map(|r| (r.hypothesis, r.score)).collect();
    for own in ranked.iter_mut() {
        let explains = |(cause, score): &&(Hypothesis, f64)| {
            cause.explains().contains(&own.hypothesis) && own.score <= score + OVER_CAUSE
        };
        // What the evidence speaks against is no condition that anything would have to explain.
        if own.score < TOLD_UNDER {
            continue;
        }
        // The strongest of those that explain it; what is explained itself still explains.
        let by = causes.iter().filter(explains).max_by(|a, b| a.1.total_cmp(&b.1));
        own.under = by.map(|(cause, _)| *cause);
    }
}

/// What leads first, each cause before what it explains.
fn in_order(ranked: Vec<Ranked>, missed: &BTreeMap<Hypothesis, u16>) -> Vec<Ranked> {
    let (mut causes, folded): (Vec<Ranked>, Vec<Ranked>) =
        ranked.into_iter().partition(|r| r.under.is_none());
    let height = |own: &Ranked| {
        let under = folded.iter().filter(|f| f.under == Some(own.hypothesis)).map(|f| f.score);
        under.fold(own.score, f64::max)
    };
    let heights: BTreeMap<Hypothesis, f64> = causes.iter().map(|own| (own.hypothesis, height(own))).collect();
    let of = |own: &Ranked| heights.get(&own.hypothesis).copied().unwrap_or(own.score);
    let tie = |own: &Ranked| (missed.get(&own.hypothesis).copied().unwrap_or(0), own.hypothesis);
    causes.sort_by(|a, b| of(b).total_cmp(&of(a)).then(tie(a).cmp(&tie(b))));
    let mut all = Vec::with_capacity(causes.len() + folded.len());
    let mut left = folded;
    for cause in causes {
        let mut under = vec![cause.hypothesis];
        all.push(cause);
        while let Some(at) = left.iter().position(|f| f.under.is_some_and(|by| under.contains(&by))) {
            let next = left.remove(at);
            under.push(next.hypothesis);
            all.push(next);
        }
    }
    all.extend(left);
    all
}

fn lead(ranked: &[Ranked]) -> f64 {
    let Some(first) = ranked.first() else { return 0.0 };
    let mut family = vec![first.hypothesis];
    for own in &ranked[1..] {
        if own.under.is_some_and(|by| family.contains(&by)) {
            family.push(own.hypothesis);
        }
    }
    let others = ranked.iter().filter(|r| !family.contains(&r.hypothesis)).map(|r| r.score);
    let own =
        ranked.iter().filter(|r| family.contains(&r.hypothesis)).map(|r| r.score).fold(first.score, f64::max);
    others.fold(f64::NEG_INFINITY, f64::max).mul_add(-1.0, own)
}

impl Diagnosis {
    fn stand(&mut self) {
        let (enough, lead, groups) = (self.enough, self.lead, self.groups.len());
        let best = self.ranked.first().map_or(0.0, |r| r.score);
        for (at, own) in self.ranked.iter_mut().enumerate() {
            let for_it = own.speaks.iter().filter(|s| s.points > 0).count();
            let healthy = own.hypothesis == Hypothesis::Healthy;
            let sure = if healthy { groups >= HEALTHY_GROUPS } else { for_it >= FOR_IT };
            own.standing = match at {
                0 if enough && sure && lead >= LEAD - 1e-9 => Standing::Likely,
                0 => Standing::Possible,
                _ if best - own.score < LEAD && for_it > 0 => Standing::Possible,
                _ => Standing::NotLikely,
            };
        }
    }

    /// What leads.
    pub fn first(&self) -> Option<&Ranked> {
        self.ranked.first()
    }
}
