//! Which way of a replacement is advised.

use super::options::{ReplacementKind, ReplacementOption};
use crate::severity::Severity;

/// Years that a way lasts at the least to be worth its work (our choice, no source).
const WORTH_IT: f64 = 1.0;

impl ReplacementOption {
    fn is_sound(&self) -> bool {
        self.refused.is_none() && self.condition < Severity::Act
    }
}

/// With prices: the one that costs least a year among those that are not refused and do no harm. Without: what changes least
/// and lasts a year or more, else the whole bank. Waiting is none while anything else is.
pub fn best_option(all: &[ReplacementOption], priced: bool) -> usize {
    if priced { cheapest(all) } else { least_changed(all) }
}

fn cheapest(all: &[ReplacementOption]) -> usize {
    let by_money = |a: &(usize, &ReplacementOption), b: &(usize, &ReplacementOption)| {
        a.1.cost.a_year.total_cmp(&b.1.cost.a_year).then(a.1.condition.cmp(&b.1.condition))
    };
    let found = all.iter().enumerate().filter(|(_, own)| own.is_sound()).min_by(by_money);
    found.map_or(all.len().saturating_sub(1), |(at, _)| at)
}

fn least_changed(all: &[ReplacementOption]) -> usize {
    const ORDER: [ReplacementKind; 3] =
        [ReplacementKind::UsedMatch, ReplacementKind::NewOne, ReplacementKind::DropString];
    let lasts = |own: &ReplacementOption| own.is_sound() && own.years[0] >= WORTH_IT;
    let at = |kind: ReplacementKind| all.iter().position(|own| own.kind == kind);
    let found = ORDER.into_iter().filter_map(at).find(|at| lasts(&all[*at]));
    found.or_else(|| at(ReplacementKind::WholeBank)).unwrap_or(0)
}
