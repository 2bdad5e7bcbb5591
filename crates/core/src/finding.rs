//! What every verdict looks like: a code with measured quantities, the rule, its tolerance and
//! whose it is, the source, how sure, and what another house would say.
//!
//! A finding holds no sentences; [`crate::wording`] makes them.

mod of_balance;
mod of_cells;
mod of_round;
mod rule;

pub use rule::RuleId;

use crate::bank::{BatteryAddress, CellAddress};
use crate::house_rules::BalanceLimits;
use crate::instrument::Limit;
use crate::quantity::{Points, SpecificGravity};
use crate::round::condition::CellLimits;
use crate::round::{Assessment, Level, Question, RoundToJudge, Sinking, Unusable};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// What was found, with its measured quantities.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "code", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FindingKind {
    /// The round is kept and not judged.
    NotJudged {
        /// Why.
        reasons: Vec<Unusable>,
    },
    /// One cell far below its mates, or sinking.
    SuspectCell {
        /// Its corrected gravity.
        gravity: SpecificGravity,
        /// Its deviation.
        deviation: Points,
        /// Its deviation in the round before, and how many days ago.
        before: Option<(Points, f64)>,
        /// How fast it sinks, where it does.
        sinking: Option<Sinking>,
        /// True when every other cell is even.
        alone: bool,
    },
    /// Cells below the steady band.
    LowCells {
        /// Deviation of the lowest.
        lowest: Points,
        /// Deviation of the one nearest the band.
        nearest: Points,
        /// True for one cell alone below an even bank.
        alone: bool,
    },
    /// Cells above the steady band.
    HighCells {
        /// Deviation of the highest.
        highest: Points,
    },
    /// Two neighbours in one case are low.
    LowPair {
        /// Their median deviation.
        deviation: Points,
    },
    /// One battery low as a whole.
    LowBattery {
        /// The battery.
        battery: BatteryAddress,
        /// Deviation of its highest cell.
        nearest: Points,
        /// Deviation of its lowest cell.
        lowest: Points,
    },
    /// One string low as a whole.
    LowString {
        /// Its letter.
        letter: char,
        /// Its median against the bank's.
        deviation: Points,
    },
    /// Cells fall along a row.
    Gradient {
        /// Low end of the row.
        low_end: CellAddress,
        /// High end of the row.
        high_end: CellAddress,
        /// Deviation of the low end's cells.
        low: Points,
        /// Deviation of the high end's cells.
        high: Points,
    },
    /// The spread asks for a corrective equalize.
    SpreadEqualize {
        /// Highest less lowest.
        spread: Points,
        /// True when the round was proven full.
        proven_full: bool,
    },
    /// The spread is wider than even.
    SpreadWatch {
        /// Highest less lowest.
        spread: Points,
    },
    /// The whole bank stands short of full after a proven full charge.
    ShortOfFull {
        /// Median less full gravity.
        short: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// The whole bank stands above full (SG-6).
    AboveFull {
        /// Median less full gravity.
        above: Points,
        /// The model's full gravity.
        full: SpecificGravity,
    },
    /// Settled volts and gravity tell different stories (SG-3).
    RestVoltsDisagree {
        /// Volts per cell as measured.
        measured: f64,
        /// Volts per cell that the gravity leads to.
        expected: f64,
    },
    /// A reading is in question.
    Reread {
        /// Why.
        question: Question,
    },
    /// The float stood off the scale.
    OffScale {
        /// True above, false below.
        above: bool,
    },
    /// Cells without a reading.
    NotRead {
        /// The reason, where one cell has one.
        reason: String,
    },
}

/// Whose tolerance judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tolerance {
    /// The limit, points (volts per cell for rest volts).
    pub limit: Limit,
    /// Whose it is: a house rule set by name, or the maker.
    pub whose: String,
}

/// How sure a finding is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Certainty {
    /// Beyond the limit by more than the instrument's doubt.
    Clear,
    /// So near the limit that another reading could fall on the other side.
    NearLimit,
    /// The instrument's noise, not the rule, set the limit.
    WithinInstrument,
    /// Not a matter of measurement.
    Recorded,
}

/// What another house rule set would make of the same numbers.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OtherHouse {
    /// Its name.
    pub name: String,
    /// The condition it would give.
    pub condition: Severity,
}

/// One finding.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Finding {
    /// What was found.
    pub kind: FindingKind,
    /// How bad.
    pub condition: Severity,
    /// The cells it names, worst first; empty for the whole bank.
    pub cells: Vec<CellAddress>,
    /// The rule that made it.
    pub rule: RuleId,
    /// Its tolerance and whose, where it has one.
    pub tolerance: Option<Tolerance>,
    /// How sure.
    pub certainty: Certainty,
    /// Where another house would judge otherwise.
    pub other_houses: Vec<OtherHouse>,
}

/// Everything the judgement of findings looks at.
struct Case<'a> {
    round: &'a RoundToJudge,
    assessment: &'a Assessment,
    limits: BalanceLimits,
    cell_limits: &'a CellLimits,
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
        if limit.noise_rules() {
            Certainty::WithinInstrument
        } else if value.abs().value() - limit.used.value() > doubt {
            Certainty::Clear
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

/// All findings of a judged round, worst first.
pub(crate) fn findings(
    round: &RoundToJudge,
    assessment: &Assessment,
    cell_limits: &CellLimits,
    level: Option<(Level, Points, Limit)>,
) -> Vec<Finding> {
    let case = Case { round, assessment, limits: round.rules.balance_limits(&round.model), cell_limits };
    let mut all = Vec::new();
    all.extend(of_round::not_judged(&case));
    all.extend(of_cells::suspects(&case));
    all.extend(of_balance::spread(&case));
    all.extend(of_cells::whole_group(&case));
    all.extend(of_cells::gradient(&case));
    all.extend(of_cells::low(&case));
    all.extend(of_cells::high(&case));
    all.extend(of_round::level(&case, level));
    all.extend(of_round::rest_volts(&case));
    all.extend(of_cells::questioned(&case));
    all.extend(of_cells::off_scale(&case));
    all.extend(of_cells::not_read(&case));
    // Stable: within one condition the order above stands.
    all.sort_by_key(|finding| std::cmp::Reverse(finding.condition));
    all
}
