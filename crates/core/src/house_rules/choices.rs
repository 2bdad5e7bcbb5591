//! Every choice of a house rule set by name: what it is, its unit, its accepted range, its source.

use super::HouseRules;
use crate::diagnosis::{WeightError, Weights};
use crate::quantity::Points;
use serde::Serialize;
use thiserror::Error;

/// One choice that practitioners make differently.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Choice {
    /// Its name in a set: `spread_watch`.
    pub key: &'static str,
    /// In words.
    pub said: &'static str,
    /// Its unit.
    pub unit: &'static str,
    /// Lowest accepted.
    pub low: f64,
    /// Highest accepted.
    pub high: f64,
    /// What it means when left empty; empty text: it cannot be.
    pub when_empty: &'static str,
    /// Where the shipped numbers come from.
    pub source: &'static str,
}

/// A choice outside its range.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ChoiceError {
    /// No such choice.
    #[error("there is no choice “{0}” in a house rule set")]
    Unknown(String),
    /// Out of its range.
    #[error("{said} {found} is not possible; accepted is {low} to {high} {unit}")]
    OutOfRange {
        /// The choice.
        key: &'static str,
        /// In words.
        said: &'static str,
        /// As given.
        found: f64,
        /// Lowest.
        low: f64,
        /// Highest.
        high: f64,
        /// Unit.
        unit: &'static str,
    },
    /// Left empty where a number is needed.
    #[error("{said} is empty; accepted is {low} to {high} {unit}")]
    Empty {
        /// The choice.
        key: &'static str,
        /// In words.
        said: &'static str,
        /// Lowest.
        low: f64,
        /// Highest.
        high: f64,
        /// Unit.
        unit: &'static str,
    },
    /// Half of something that comes whole.
    #[error("{said} {found} is not whole; accepted is a whole number of {unit}")]
    NotWhole {
        /// The choice.
        key: &'static str,
        /// In words.
        said: &'static str,
        /// As given.
        found: f64,
        /// Unit.
        unit: &'static str,
    },
    /// Two choices that contradict each other.
    #[error("{less} must not be more than {more}")]
    Contradiction {
        /// The one that must be smaller.
        less: &'static str,
        /// The one that must be larger.
        more: &'static str,
    },
    /// A weight of the diagnosis that cannot be.
    #[error(transparent)]
    Weight(#[from] WeightError),
    /// A set without a name.
    #[error("the house rule set has no name; give it 1 to 40 characters")]
    NoName,
}

impl ChoiceError {
    /// The choice it is about.
    pub fn field(&self) -> &str {
        match self {
            Self::Unknown(key) => key,
            Self::OutOfRange { key, .. } | Self::Empty { key, .. } | Self::NotWhole { key, .. } => key,
            Self::Contradiction { .. } => "spread_watch",
            Self::Weight(_) => "weights",
            Self::NoName => "name",
        }
    }
}

const CP: &str = "common practice, no source";

macro_rules! choices {
    ($($key:ident $said:literal $unit:literal $low:literal $high:literal $empty:literal;)+) => {
        /// Every choice, in the order of the table.
        pub const CHOICES: &[Choice] = &[$(Choice {
            key: stringify!($key), said: $said, unit: $unit, low: $low, high: $high, when_empty: $empty, source: CP,
        },)+];
    };
}

choices! {
    spread_watch "Spread: watch" "points" 3.0 100.0 "";
    spread_equalize "Spread: equalize" "points" 5.0 150.0 "";
    cell_suspect "Cell below its mates: suspect" "points" 10.0 150.0 "";
    round_every_days "Every-cell round at least every" "days" 7.0 730.0 "start and end of season";
    equalize_every_days "Equalize at the latest, cycled flooded" "days" 7.0 730.0 "";
    water_check_days "Water check at the latest" "days" 3.0 365.0 "";
    kit_inspection_fills "Hand inspection behind a watering kit, every" "fills" 1.0 20.0 "";
    planned_depth_percent "Planned depth of discharge" "%" 10.0 80.0 "";
    retorque_days "Retorque and clean" "days" 30.0 1095.0 "";
    test_days "Load or capacity test" "days" 30.0 1825.0 "";
    test_days_standby "Load or capacity test, standby" "days" 30.0 1825.0 "";
    settled_hours "Rest before volts are settled" "h" 2.0 72.0 "";
    usable_hours "Rest before volts are usable" "h" 1.0 48.0 "";
    storage_check_days "Storage check at the latest" "days" 7.0 180.0 "";
    one_new_block_months "One new block into a bank up to" "months" 1.0 60.0 "";
    round_cell_seconds "Time to read one cell" "s" 10.0 600.0 "";
    fill_cell_seconds "Time to look into one cell and fill it" "s" 5.0 600.0 "";
    set_up_minutes "Time to get at the bank, for a round or a fill" "min" 0.0 240.0 "";
    test_battery_minutes "Time for the load test of one battery" "min" 1.0 240.0 "";
    look_over_minutes "Time to look a bank over, beside 1 min a battery" "min" 1.0 240.0 "";
}

/// The number of a choice in a set; none where it is left empty.
pub fn value(rules: &HouseRules, key: &str) -> Option<f64> {
    Some(match key {
        "spread_watch" => rules.spread_watch.value(),
        "spread_equalize" => rules.spread_equalize.value(),
        "cell_suspect" => rules.cell_suspect.value(),
        "round_every_days" => f64::from(rules.round_every_days?),
        "equalize_every_days" => f64::from(rules.equalize_every_days),
        "water_check_days" => f64::from(rules.water_check_days),
        "kit_inspection_fills" => f64::from(rules.kit_inspection_fills),
        "planned_depth_percent" => f64::from(rules.planned_depth_percent),
        "retorque_days" => f64::from(rules.retorque_days),
        "test_days" => f64::from(rules.test_days),
        "test_days_standby" => f64::from(rules.test_days_standby),
        "settled_hours" => f64::from(rules.settled_hours),
        "usable_hours" => f64::from(rules.usable_hours),
        "storage_check_days" => f64::from(rules.storage_check_days),
        "one_new_block_months" => f64::from(rules.one_new_block_months),
        "round_cell_seconds" => f64::from(rules.times.round_cell_seconds),
        "fill_cell_seconds" => f64::from(rules.times.fill_cell_seconds),
        "set_up_minutes" => f64::from(rules.times.set_up_minutes),
        "test_battery_minutes" => f64::from(rules.times.test_battery_minutes),
        "look_over_minutes" => f64::from(rules.times.look_over_minutes),
        _ => return None,
    })
}

#[expect(
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "checked to be whole and in range"
)]
fn count(value: f64) -> u16 {
    value as u16
}

#[expect(
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "checked to be whole and in range"
)]
fn small(value: f64) -> u8 {
    value as u8
}

impl HouseRules {
    /// The set with one choice taken otherwise.
    ///
    /// # Errors
    /// [`ChoiceError`] for an unknown choice or a number outside its range.
    pub fn with(mut self, key: &str, value: Option<f64>) -> Result<Self, ChoiceError> {
        let choice =
            CHOICES.iter().find(|c| c.key == key).ok_or_else(|| ChoiceError::Unknown(key.to_owned()))?;
        let Choice { key, said, unit, low, high, .. } = *choice;
        let Some(value) = value else {
            if choice.when_empty.is_empty() {
                return Err(ChoiceError::Empty { key, said, low, high, unit });
            }
            self.round_every_days = None;
            return Ok(self);
        };
        if !value.is_finite() || value < low || value > high {
            return Err(ChoiceError::OutOfRange { key, said, found: value, low, high, unit });
        }
        if unit != "points" && value.fract() != 0.0 {
            return Err(ChoiceError::NotWhole { key, said, found: value, unit });
        }
        match key {
            "spread_watch" => self.spread_watch = Points::new(value),
            "spread_equalize" => self.spread_equalize = Points::new(value),
            "cell_suspect" => self.cell_suspect = Points::new(value),
            "round_every_days" => self.round_every_days = Some(count(value)),
            "equalize_every_days" => self.equalize_every_days = count(value),
            "water_check_days" => self.water_check_days = count(value),
            "kit_inspection_fills" => self.kit_inspection_fills = small(value),
            "planned_depth_percent" => self.planned_depth_percent = small(value),
            "retorque_days" => self.retorque_days = count(value),
            "test_days" => self.test_days = count(value),
            "test_days_standby" => self.test_days_standby = count(value),
            "settled_hours" => self.settled_hours = small(value),
            "usable_hours" => self.usable_hours = small(value),
            "storage_check_days" => self.storage_check_days = count(value),
            "one_new_block_months" => self.one_new_block_months = small(value),
            "round_cell_seconds" => self.times.round_cell_seconds = count(value),
            "fill_cell_seconds" => self.times.fill_cell_seconds = count(value),
            "set_up_minutes" => self.times.set_up_minutes = count(value),
            "test_battery_minutes" => self.times.test_battery_minutes = count(value),
            "look_over_minutes" => self.times.look_over_minutes = count(value),
            other => return Err(ChoiceError::Unknown(other.to_owned())),
        }
        Ok(self)
    }

    /// The set itself when its choices are possible and agree with each other.
    ///
    /// # Errors
    /// [`ChoiceError`] naming the choice.
    pub fn checked(self) -> Result<Self, ChoiceError> {
        let name = self.name.trim();
        if name.is_empty() || name.chars().count() > 40 {
            return Err(ChoiceError::NoName);
        }
        for choice in CHOICES {
            self.clone().with(choice.key, value(&self, choice.key))?;
        }
        if self.spread_watch > self.spread_equalize {
            return Err(ChoiceError::Contradiction {
                less: "the spread to watch",
                more: "the spread that asks for an equalize",
            });
        }
        if self.usable_hours > self.settled_hours {
            return Err(ChoiceError::Contradiction {
                less: "rest before volts are usable",
                more: "rest before they are settled",
            });
        }
        Weights::of_house(&self.weights)?;
        Ok(self)
    }
}

/// Single choices taken otherwise, by their names.
pub type Overrides = std::collections::BTreeMap<String, Option<f64>>;

/// A set with single choices taken otherwise.
///
/// # Errors
/// [`ChoiceError`] naming the choice.
pub fn overridden(set: &HouseRules, overrides: &Overrides) -> Result<HouseRules, ChoiceError> {
    let mut rules = set.clone();
    for (key, value) in overrides {
        rules = rules.with(key, *value)?;
    }
    if !overrides.is_empty() {
        rules.name = format!("{}, own choices", set.name);
    }
    rules.checked()
}
