//! House rule sets: where good practitioners disagree, as named sets of choices.
//!
//! Three ship and are read-only: [`HouseRules::maker_first`], [`HouseRules::close_watch`] and
//! [`HouseRules::light_touch`]. Their numbers are common practice without a source.

mod choices;
mod times;

pub use choices::{CHOICES, Choice, ChoiceError, Overrides, overridden, value};
pub use times::WorkTimes;

use crate::battery_model::BatteryModel;
use crate::diagnosis::HouseWeights;
use crate::electrolyte::Correction;
use crate::quantity::Points;
use serde::{Deserialize, Serialize};

/// A set of choices that judges a bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HouseRules {
    /// Stable key: `maker_first`, `close_watch`, `light_touch`.
    pub key: String,
    /// Name as the shop says it.
    pub name: String,
    /// What it suits, one line.
    pub suits: String,
    /// True when the maker's own limits win over this set's.
    pub maker_limits_win: bool,
    /// Spread across the bank to keep an eye on, points.
    pub spread_watch: Points,
    /// Spread across the bank that asks for a corrective equalize, points.
    pub spread_equalize: Points,
    /// A cell this far below its mates is suspect, points.
    pub cell_suspect: Points,
    /// How gravity is brought to the reference temperature.
    pub correction: Correction,
    /// Every cell is read at least every so many days; none: start and end of season.
    pub round_every_days: Option<u16>,
    /// Equalize a cycled flooded bank at the latest after so many days.
    pub equalize_every_days: u16,
    /// Look at the water at the latest after so many days.
    pub water_check_days: u16,
    /// Hand inspection behind a watering kit every so many fills.
    pub kit_inspection_fills: u8,
    /// Planned depth of discharge, per cent.
    pub planned_depth_percent: u8,
    /// Retorque and clean every so many days.
    pub retorque_days: u16,
    /// Load or capacity test every so many days, cycled banks.
    pub test_days: u16,
    /// Days between load or capacity tests of standby banks.
    pub test_days_standby: u16,
    /// Hours of rest before volts are settled.
    pub settled_hours: u8,
    /// Hours of rest before volts are usable.
    pub usable_hours: u8,
    /// Storage check at the latest after so many days.
    pub storage_check_days: u16,
    /// One new block may join a bank up to this age, months.
    pub one_new_block_months: u8,
    /// How long work takes, until one's own visits tell better.
    #[serde(default)]
    pub times: WorkTimes,
    /// Weights of the diagnosis that this house takes otherwise than those that ship.
    #[serde(default, skip_serializing_if = "HouseWeights::is_empty")]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, BTreeMap<String, i8>>))]
    pub weights: HouseWeights,
}

/// Limits in force for one bank after the maker had his say.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BalanceLimits {
    /// Spread to watch.
    pub watch: Points,
    /// Spread to equalize.
    pub equalize: Points,
    /// Cell below its mates.
    pub suspect: Points,
    /// True when the equalize limit is the maker's.
    pub equalize_is_makers: bool,
}

impl HouseRules {
    /// The default: the battery model's own limits where entered, middle-of-the-road values
    /// elsewhere.
    pub fn maker_first() -> Self {
        Self {
            key: "maker_first".into(),
            name: "Maker first".into(),
            suits: "any bank: the maker's limits where entered, middle of the road elsewhere".into(),
            maker_limits_win: true,
            spread_watch: Points::new(15.0),
            spread_equalize: Points::new(30.0),
            cell_suspect: Points::new(50.0),
            correction: Correction::default(),
            round_every_days: Some(90),
            equalize_every_days: 90,
            water_check_days: 30,
            kit_inspection_fills: 4,
            planned_depth_percent: 50,
            retorque_days: 180,
            test_days: 365,
            test_days_standby: 180,
            settled_hours: 24,
            usable_hours: 4,
            storage_check_days: 60,
            one_new_block_months: 12,
            times: WorkTimes::default(),
            weights: HouseWeights::new(),
        }
    }

    /// Tight tolerances and monthly habits; suits standby and costly banks.
    pub fn close_watch() -> Self {
        Self {
            key: "close_watch".into(),
            name: "Close watch".into(),
            suits: "standby and costly banks: tight tolerances, monthly habits".into(),
            maker_limits_win: false,
            spread_watch: Points::new(10.0),
            spread_equalize: Points::new(20.0),
            cell_suspect: Points::new(30.0),
            correction: Correction::default(),
            round_every_days: Some(30),
            equalize_every_days: 60,
            water_check_days: 14,
            kit_inspection_fills: 2,
            planned_depth_percent: 40,
            retorque_days: 90,
            test_days: 180,
            test_days_standby: 90,
            settled_hours: 24,
            usable_hours: 6,
            storage_check_days: 30,
            one_new_block_months: 6,
            times: WorkTimes::default(),
            weights: HouseWeights::new(),
        }
    }

    /// Seasonal habits and wide tolerances; suits remote seasonal sites.
    pub fn light_touch() -> Self {
        Self {
            key: "light_touch".into(),
            name: "Light touch".into(),
            suits: "remote seasonal sites: wide tolerances, seasonal habits".into(),
            maker_limits_win: false,
            spread_watch: Points::new(30.0),
            spread_equalize: Points::new(70.0),
            cell_suspect: Points::new(70.0),
            correction: Correction::default(),
            round_every_days: None,
            equalize_every_days: 180,
            water_check_days: 60,
            kit_inspection_fills: 6,
            planned_depth_percent: 60,
            retorque_days: 365,
            test_days: 730,
            test_days_standby: 365,
            settled_hours: 12,
            usable_hours: 2,
            storage_check_days: 90,
            one_new_block_months: 18,
            times: WorkTimes::default(),
            weights: HouseWeights::new(),
        }
    }

    /// The three sets that ship, default first.
    pub fn shipped() -> [Self; 3] {
        [Self::maker_first(), Self::close_watch(), Self::light_touch()]
    }

    /// True for a set that ships: copied, never edited.
    pub fn is_shipped(&self) -> bool {
        Self::shipped().iter().any(|s| s.key == self.key)
    }

    /// The limits of balance for a bank of this model.
    pub fn balance_limits(&self, model: &BatteryModel) -> BalanceLimits {
        let makers = model.maker_spread_limit.filter(|_| self.maker_limits_win);
        let equalize = makers.unwrap_or(self.spread_equalize);
        BalanceLimits {
            watch: if self.spread_watch > equalize { equalize } else { self.spread_watch },
            equalize,
            suspect: self.cell_suspect,
            equalize_is_makers: makers.is_some(),
        }
    }
}
