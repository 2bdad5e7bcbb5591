//! The joints of a bank by name: `A1+` is what is bolted to the positive post of A1, `A1+ lead` the end of the cable that
//! leaves from there to the next string or to the busbar.

use crate::bank::{BankShape, BatteryAddress};
use serde::{Deserialize, Serialize};
use std::fmt;

/// Plus or minus.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Pole {
    /// Plus.
    Positive,
    /// Minus.
    Negative,
}

/// What of a post.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum JointPart {
    /// Post to lug: it carries the current of the string.
    #[default]
    Post,
    /// The lead from there to the next string, away from the take-off, or its other end at the busbar.
    Lead,
}

/// One joint.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Joint {
    /// At which battery.
    pub battery: BatteryAddress,
    /// At which of its posts.
    pub pole: Pole,
    /// What of it.
    pub part: JointPart,
}

impl fmt::Display for Joint {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let sign = if self.pole == Pole::Positive { '+' } else { '\u{2212}' };
        let lead = if self.part == JointPart::Lead { " lead" } else { "" };
        write!(f, "{}{sign}{lead}", self.battery)
    }
}

/// The joints of a bank along its strings, from plus to minus; `leads` says at which ends of which strings a lead of its
/// own is bolted: string (0 is A) and pole.
pub fn joints_of(shape: &BankShape, leads: &[(u8, Pole)]) -> Vec<Joint> {
    let mut all = Vec::new();
    for string in 0..shape.parallel {
        let at = |battery, pole, part| Joint { battery: BatteryAddress { string, battery }, pole, part };
        let lead = |pole| leads.contains(&(string, pole));
        if lead(Pole::Positive) {
            all.push(at(1, Pole::Positive, JointPart::Lead));
        }
        for battery in 1..=shape.series {
            all.push(at(battery, Pole::Positive, JointPart::Post));
            all.push(at(battery, Pole::Negative, JointPart::Post));
        }
        if lead(Pole::Negative) {
            all.push(at(shape.series, Pole::Negative, JointPart::Lead));
        }
    }
    all
}
