//! What to measure next: what is expected to settle most for its minutes.

use super::score::{probabilities, says, stronger, total};
use super::{Diagnosis, Group, Hypothesis, Measurement, Row, Weights};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use strum::VariantArray;

/// Shares of outcomes before anything is known: what a sound bank shows, what it does not, nothing of both (tried on
/// simulated banks).
const NORMAL: f64 = 0.8;
const ODD: f64 = 0.15;
const NOTHING: f64 = 0.05;
/// Where a measurement shows no normal sign.
const ODD_ALONE: f64 = 0.4;
const NOTHING_ALONE: f64 = 0.6;

/// A measurement with what it is worth.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextMeasurement {
    /// Which.
    pub measurement: Measurement,
    /// Minutes of attention.
    pub minutes: f64,
    /// Uncertainty that it is expected to take away, bits.
    pub gain: f64,
}

/// Minutes to get ready for any of them (our choice, no source): else what takes two minutes is always first.
const READY: f64 = 5.0;

fn entropy(chances: &[f64]) -> f64 {
    -chances.iter().filter(|p| **p > 0.0).map(|p| p * p.log2()).sum::<f64>()
}

/// Points of one group so far, by hypothesis.
type Points = BTreeMap<Hypothesis, BTreeMap<Group, i8>>;

fn scores(hypotheses: &[Hypothesis], points: &Points, more: Option<&Row>) -> Vec<f64> {
    let of = |hypothesis: &Hypothesis| {
        let mut own = points.get(hypothesis).cloned().unwrap_or_default();
        if let Some(row) = more {
            let added = says(row, *hypothesis);
            let before = own.get(&row.group).copied().unwrap_or(0);
            if added != 0 && stronger(added, before) {
                own.insert(row.group, added);
            }
        }
        total(*hypothesis, own.into_values())
    };
    hypotheses.iter().map(of).collect()
}

/// What could be measured next, the most settled per minute first; `made` are those on record.
pub fn next_measurements(
    diagnosis: &Diagnosis,
    made: &[Measurement],
    (cells, batteries): (f64, f64),
    (has_caps, strings): (bool, u8),
    weights: &Weights,
) -> Vec<NextMeasurement> {
    let hypotheses: Vec<Hypothesis> = diagnosis.ranked.iter().map(|r| r.hypothesis).collect();
    let points: Points = diagnosis
        .ranked
        .iter()
        .map(|r| (r.hypothesis, r.speaks.iter().map(|s| (s.group, s.points)).collect()))
        .collect();
    let now = probabilities(&scores(&hypotheses, &points, None));
    let open = entropy(&now);
    let wanted = |m: &&Measurement| m.applies(has_caps, strings) && !made.contains(m);
    let mut all: Vec<NextMeasurement> = Measurement::VARIANTS
        .iter()
        .filter(wanted)
        .map(|measurement| {
            let rows: Vec<&Row> = weights.rows().iter().filter(|r| r.measurement == *measurement).collect();
            let gain = open - expected(&hypotheses, &points, &now, &rows);
            let minutes = measurement.minutes(cells, batteries);
            NextMeasurement { measurement: *measurement, minutes, gain: gain.max(0.0) }
        })
        .collect();
    let worth = |own: &NextMeasurement| own.gain / (own.minutes + READY);
    all.sort_by(|a, b| worth(b).total_cmp(&worth(a)).then(a.measurement.cmp(&b.measurement)));
    all
}

/// Uncertainty that is left on average after a measurement of these outcomes.
fn expected(hypotheses: &[Hypothesis], points: &Points, now: &[f64], rows: &[&Row]) -> f64 {
    let normal = rows.iter().filter(|r| r.normal).count();
    let odd = rows.len() - normal;
    let share =
        |of: f64, n: usize| if n == 0 { 0.0 } else { of / f64::from(u32::try_from(n).unwrap_or(u32::MAX)) };
    let (of_normal, of_odd, nothing) = if normal == 0 {
        (0.0, share(ODD_ALONE, odd), NOTHING_ALONE)
    } else {
        (share(NORMAL, normal), share(ODD, odd), NOTHING)
    };
    // How likely each outcome is under each hypothesis, made to sum to one.
    let mut outcomes: Vec<(Option<&Row>, Vec<f64>)> = rows
        .iter()
        .map(|row| {
            let base = if row.normal { of_normal } else { of_odd };
            let likely = |h: &Hypothesis| base * 10f64.powf(f64::from(says(row, *h)) / 4.0);
            (Some(*row), hypotheses.iter().map(likely).collect())
        })
        .collect();
    outcomes.push((None, vec![nothing; hypotheses.len()]));
    for i in 0..hypotheses.len() {
        let sum: f64 = outcomes.iter().map(|(_, likely)| likely[i]).sum();
        for (_, likely) in &mut outcomes {
            likely[i] /= sum;
        }
    }
    outcomes
        .iter()
        .map(|(row, likely)| {
            let chance: f64 = likely.iter().zip(now).map(|(l, p)| l * p).sum();
            let after = probabilities(&scores(hypotheses, points, *row));
            chance * entropy(&after)
        })
        .sum()
}
