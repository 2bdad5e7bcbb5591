//! What is known of a bank when its due items are worked out.

use super::duty::Duty;
use super::judged_round::JudgedRound;
use super::season::{MonthDay, Season};
use super::task::Task;
use crate::bank::{BankShape, BatteryAddress, CellAddress};
use crate::battery_model::BatteryModel;
use crate::equalize::NonRespondingCell;
use crate::finding::{BarredBy, Finding, equalize_bar};
use crate::house_rules::HouseRules;
use crate::visit::{Job, Recheck};
use crate::water::Basis;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Words of the duty or the site of a bank that travels.
const TRAVELS: [&str; 13] = [
    "coach", "boat", "launch", "marine", "ship", "cart", "tram", "vehicle", "trailer", "truck", "bus", "van",
    "mobile",
];

/// True where the shop's own words say that a bank is on the road or the water.
pub fn on_the_move(words: &str) -> bool {
    let words = words.to_lowercase();
    words.split(|c: char| !c.is_alphanumeric()).any(|word| TRAVELS.contains(&word))
}

/// Something found by eye, by meter or among the settings that nobody has put right yet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OpenFinding {
    /// Day it was found.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// What.
    pub finding: Finding,
}

/// How long the user's own rounds and fills took.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Habits {
    /// Minutes of past rounds of this bank.
    #[serde(default)]
    pub rounds: Vec<f64>,
    /// Minutes from the first level or water noted on a visit of this bank to the last.
    #[serde(default)]
    pub fills: Vec<f64>,
}

/// The next fill as dates.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WaterDates {
    /// One in ten is sooner.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub p10: Date,
    /// Half are sooner.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub p50: Date,
    /// Nine in ten are sooner.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub p90: Date,
    /// The thirstiest cell, where cells are known.
    pub cell: Option<CellAddress>,
    /// mL a day and cell at the temperature to expect.
    pub per_day: f64,
    /// Fills it rests on.
    pub fills: usize,
    /// What it rests on.
    pub basis: Basis,
}

/// A reminder of the technician's own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reminder {
    /// Its id.
    pub id: String,
    /// Day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// What.
    pub text: String,
    /// The job that a visit for it is for; none: a visit like others.
    #[serde(default)]
    pub job: Option<Job>,
}

/// Something put off.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Postponed {
    /// What.
    pub task: Task,
    /// Which one of its kind: a finding or a reminder by its id; empty for the others.
    pub of: String,
    /// Due date it was put off from; a due date that moves on makes it void.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub from: Date,
    /// Until.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub until: Date,
    /// Why.
    pub reason: String,
    /// By whom.
    pub by: String,
}

/// What is known of a bank when its due items are worked out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BankFacts {
    /// What it is made of.
    pub shape: BankShape,
    /// Its batteries.
    pub model: BatteryModel,
    /// The house rules.
    #[serde(default = "HouseRules::maker_first")]
    pub rules: HouseRules,
    /// What it does.
    pub duty: Duty,
    /// True where it is on the road or the water: joints work loose.
    #[serde(default)]
    pub on_the_move: bool,
    /// When it is in use; none: all year.
    #[serde(default)]
    pub season: Option<Season>,
    /// First day of the wet season at the site.
    #[serde(default)]
    pub wet_season: Option<MonthDay>,
    /// Usual day of the first hard frost at the site.
    #[serde(default)]
    pub first_frost: Option<MonthDay>,
    /// Day the bank became known here, or went into service after it.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub known_since: Date,
    /// The last round, as judged.
    #[serde(default)]
    pub round: Option<JudgedRound>,
    /// Places whose battery came after the last readings, and the day it came.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Vec<(BatteryAddress, String)>))]
    pub came: Vec<(BatteryAddress, Date)>,
    /// Last rest check with volts, for sealed banks.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_volts: Option<Date>,
    /// Last look at the levels, or water.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_water_check: Option<Date>,
    /// Last equalize.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_equalize: Option<Date>,
    /// Cells that did not answer the last equalize (EQ-5).
    #[serde(default)]
    pub non_responding: Vec<NonRespondingCell>,
    /// Last retorque.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_retorque: Option<Date>,
    /// Last load or capacity test.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_test: Option<Date>,
    /// Day of the last discharge that nobody charged the bank after.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub recharge_owed: Option<Date>,
    /// Last standby check.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_standby_check: Option<Date>,
    /// Last day the bank was charged full for storage.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub charged_for_storage: Option<Date>,
    /// Day the bank was left in storage; none: the last visit left it otherwise.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub stored_since: Option<Date>,
    /// Last storage check.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_storage_check: Option<Date>,
    /// Forecast of the next fill.
    #[serde(default)]
    pub water: Option<WaterDates>,
    /// Cells whose plates showed at the last look and were not covered, and that day.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<(Vec<CellAddress>, String)>))]
    pub plates_bare: Option<(Vec<CellAddress>, Date)>,
    /// Cells whose level stood at the plates at the last look and that got no water since, and that day.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<(Vec<CellAddress>, String)>))]
    pub at_plates: Option<(Vec<CellAddress>, Date)>,
    /// Cells whose plates were found bare at the last look at levels, covered since or not, and that day.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<(Vec<CellAddress>, String)>))]
    pub bare_found: Option<(Vec<CellAddress>, Date)>,
    /// Fills through a watering kit since the cells were looked into, and the day of the last.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<(u32, String)>))]
    pub kit_fills: Option<(u32, Date)>,
    /// What was found and not put right.
    #[serde(default)]
    pub findings: Vec<OpenFinding>,
    /// What a visit asked to be looked at again, and nobody did.
    #[serde(default)]
    pub rechecks: Vec<Recheck>,
    /// Own reminders.
    #[serde(default)]
    pub reminders: Vec<Reminder>,
    /// What was put off.
    #[serde(default)]
    pub postponed: Vec<Postponed>,
    /// How long the user's own visits took.
    #[serde(default)]
    pub habits: Habits,
}

impl BankFacts {
    /// Size of the bank, kWh: nominal volts times C20 of all strings.
    pub fn kilowatt_hours(&self) -> f64 {
        f64::from(self.shape.system_voltage) * self.model.c20.ampere_hours() * f64::from(self.shape.parallel)
            / 1000.0
    }

    /// What has to be put right before anybody equalizes, by the last round or by any other means; none:
    /// nothing forbids one.
    pub fn equalize_barred(&self) -> Option<BarredBy> {
        let found = equalize_bar(self.findings.iter().map(|open| &open.finding));
        found.or_else(|| self.round.as_ref()?.barred)
    }

    /// True for a bank that is equalized by the calendar: flooded and cycled.
    pub fn cycled_flooded(&self) -> bool {
        self.model.construction.has_caps() && self.duty == Duty::Cycled
    }
}
