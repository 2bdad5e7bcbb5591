//! What every verdict looks like: whom it is about, a code with measured quantities, the rule, its
//! tolerance and whose it is, the source, how sure, and what another house would say.
//!
//! A finding holds no sentences; [`crate::wording`] makes them.

mod charger_kind;
mod equalize_call;
mod joint_kind;
mod kind;
mod lead;
mod load_test_kind;
mod rule;
mod subject;

pub mod charger;
pub mod charging_record;
pub mod equalize;
pub mod joint;
pub mod load_test;
pub mod look;
pub mod ohmic;
pub mod rest;
pub mod round;
pub mod water;

pub use equalize_call::{BarredBy, EqualizeCall};
pub use lead::{equalize_bar, in_order, merged};
pub(crate) use lead::{explain, without_barred_equalize};

pub use charger_kind::ChargerFinding;
pub use joint_kind::{JointFinding, ShareRemedy};
pub use kind::{
    Against, EqualizeFinding, FindingKind, LookFinding, OhmicFinding, RoundFinding, WaterFinding,
};
pub use load_test_kind::LoadTestFinding;
pub use rule::RuleId;
pub use subject::{Equipment, Subject};

use crate::bank::CellAddress;
use crate::instrument::Limit;
use crate::round::Shape;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// A limit, in the unit of what it limits.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "unit", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Bound {
    /// Points of gravity.
    Points(Limit),
    /// Volts of a battery, a string or the bank.
    Volts {
        /// The limit, V.
        volts: f64,
        /// True when the meter, not the rule, set it.
        by_meter: bool,
    },
    /// Volts of one cell.
    VoltsPerCell {
        /// The limit, V.
        volts: f64,
    },
    /// Rise of a resistance over its reference: 0.2 is a fifth.
    Rise {
        /// Watched from here.
        watch: f64,
        /// Investigated from here.
        investigate: f64,
        /// Acted on from here.
        act: f64,
    },
    /// Times the median of the mates.
    Factor {
        /// Less than this is odd.
        low: f64,
        /// More than this is odd.
        high: f64,
    },
    /// Charge, per cent.
    Percent {
        /// The limit.
        percent: f64,
    },
    /// Charge lost standing, per cent a day.
    PercentADay {
        /// The limit.
        percent: f64,
    },
    /// Degrees over the mates, °C.
    Celsius {
        /// The limit.
        degrees: f64,
    },
    /// Length, mm.
    Millimetres {
        /// The limit.
        millimetres: f64,
    },
}

/// What judged, and whose it is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tolerance {
    /// The limit.
    pub limit: Bound,
    /// Whose it is: a house rule set by name, or the maker.
    pub whose: String,
}

impl Tolerance {
    /// A limit that is the same in every house.
    pub fn of_every_house(limit: Bound) -> Self {
        Self { limit, whose: EVERY_HOUSE.into() }
    }

    /// The limit in points of gravity; none where it is another quantity.
    pub fn points(&self) -> Option<Limit> {
        match self.limit {
            Bound::Points(limit) => Some(limit),
            _ => None,
        }
    }
}

/// Owner of a tolerance that no house changes.
pub const EVERY_HOUSE: &str = "every house rule set";

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
    /// Its id, alike for one thing found again: `suspect_cell A3-2`; what the eye found has its entry's.
    pub id: String,
    /// Whom it is about.
    pub subject: Subject,
    /// What was found.
    pub kind: FindingKind,
    /// How bad.
    pub severity: Severity,
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
    /// Id of the finding that explains it (RD-9); none for a cause.
    #[serde(default)]
    pub explained_by: Option<String>,
    /// Whether it asks for an equalize.
    #[serde(default)]
    pub equalize: EqualizeCall,
    /// What would explain the cells of a round nearly as well.
    #[serde(default)]
    pub beside: Option<Shape>,
}

impl Finding {
    /// A finding that is written down and not measured, in every house alike.
    pub fn recorded(subject: Subject, kind: FindingKind, severity: Severity, rule: RuleId) -> Self {
        let id = format!("{} {subject}", kind.code()).trim_end().to_owned();
        let cells = Vec::new();
        let (tolerance, certainty, other_houses) = (None, Certainty::Recorded, Vec::new());
        Self {
            id,
            subject,
            kind,
            severity,
            cells,
            rule,
            tolerance,
            certainty,
            other_houses,
            explained_by: None,
            equalize: EqualizeCall::NotAsked,
            beside: None,
        }
    }

    /// What a round found; none where something else was judged.
    pub fn of_round(&self) -> Option<&RoundFinding> {
        match &self.kind {
            FindingKind::Round(own) => Some(own),
            _ => None,
        }
    }

    /// What volts at rest found.
    pub fn of_rest(&self) -> Option<&crate::rest::RestFinding> {
        match &self.kind {
            FindingKind::Rest(own) => Some(own),
            _ => None,
        }
    }
}
