//! Which change of charging is advised.

use super::year::{ChargingYear, MOST_DAYS_WITHOUT};
use crate::severity::Severity;

/// Depth of a day, per cent of C20, over which a bank counts as cycled (our choice, no source).
const CYCLED: f64 = 5.0;
/// Share of what is used that may be missed before it is said that the bank runs empty (our choice, no source).
const MISSED: f64 = 0.001;

impl ChargingYear {
    /// True where its loads miss more than a little of what they want. Such a bank stands empty, and no table of cycles or years
    /// tells how soon that ends it.
    pub fn runs_empty(&self) -> bool {
        self.account.missed > MISSED * self.account.used.max(1.0)
    }

    /// True where it goes longer without a full charge than CH-5 has: sulfation takes more of its life than cycles and years do.
    pub fn sulfates(&self) -> bool {
        self.longest_without > MOST_DAYS_WITHOUT
    }

    /// How the bank comes through: act where its loads miss something, or it is cycled and flooded and full too seldom
    /// (CH-5); watch where it is full too seldom otherwise.
    pub fn condition(&self, has_caps: bool) -> Severity {
        let cycled = self.depth > CYCLED;
        match self.sulfates() {
            _ if self.runs_empty() => Severity::Act,
            true if cycled && has_caps => Severity::Act,
            true => Severity::Watch,
            false => Severity::Steady,
        }
    }
}

/// The first of some years, each with its money over ten years, that does no harm and costs least; where all of them do, the
/// one with the most full days.
pub fn best_year(years: &[(&ChargingYear, f64)], has_caps: bool) -> usize {
    let sound = (0..years.len()).filter(|at| years[*at].0.condition(has_caps) != Severity::Act);
    let by_money = |a: &usize, b: &usize| years[*a].1.total_cmp(&years[*b].1);
    let fullest = || (0..years.len()).max_by_key(|at| (years[*at].0.full_days, usize::MAX - at));
    sound.min_by(by_money).or_else(fullest).unwrap_or(0)
}
