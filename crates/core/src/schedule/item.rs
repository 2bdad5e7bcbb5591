//! One thing that is due: what, why, when, how bad waiting is.

use super::facts::Postponed;
use super::task::{Consequence, Task};
use crate::bank::{BatteryAddress, CellAddress};
use crate::equalize::NonRespondingCell;
use crate::finding::{Finding, RuleId};
use crate::quantity::Points;
use crate::visit::{Job, Recheck, Step};
use crate::water::{Basis, WaterForecast};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Why something is due, with its measured quantities.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "why", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Why {
    /// Plates showed and were not covered.
    PlatesBare {
        /// The cells.
        cells: Vec<CellAddress>,
    },
    /// Levels stood at the plates and got no water.
    LevelsAtPlates {
        /// The cells.
        cells: Vec<CellAddress>,
    },
    /// Plates were found bare at the last look, and covered.
    FoundBare {
        /// The cells.
        cells: Vec<CellAddress>,
        /// The day they were found.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        day: Date,
    },
    /// Cells must be acted on.
    Suspect {
        /// The cells, worst first.
        cells: Vec<CellAddress>,
        /// Deviation of the worst.
        deviation: Points,
        /// True when the worst sinks.
        sinking: bool,
        /// True when the spread asks for an equalize too: the worst cell is its pilot.
        equalize: bool,
        /// The worst did not answer the last equalize.
        #[serde(default)]
        non_responding: Option<NonRespondingCell>,
    },
    /// Something was found.
    Found {
        /// What.
        finding: Box<Finding>,
        /// What it explains, which needs nothing done by itself (RD-9).
        #[serde(default)]
        explains: Vec<Finding>,
    },
    /// What stands there does not suit the bank: its settings, its air.
    Equipment {
        /// What, the worst first.
        findings: Vec<Finding>,
    },
    /// The forecast of the next fill.
    Consumption {
        /// The thirstiest cell, where known.
        cell: Option<CellAddress>,
        /// mL a day and cell.
        per_day: f64,
        /// Fills it rests on.
        fills: usize,
        /// What it rests on.
        basis: Basis,
        /// Half the time sooner.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        p50: Date,
        /// Nine in ten sooner.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        p90: Date,
    },
    /// No round yet.
    FirstRound,
    /// Readings were left in question.
    InQuestion {
        /// The cells.
        cells: Vec<CellAddress>,
    },
    /// Batteries came after the last round.
    Came {
        /// Their places.
        batteries: Vec<BatteryAddress>,
    },
    /// The spread asks for an equalize.
    Spread {
        /// Spread.
        spread: Points,
        /// Its limit.
        limit: Points,
        /// True when the round was proven full.
        proven_full: bool,
    },
    /// The bank stands off full after a proven full charge.
    OffFull {
        /// Points from full.
        off: Points,
    },
    /// Two rounds running it was neither full nor near it.
    NeverFull {
        /// Charge now, per cent.
        now: f64,
        /// Charge on the round before, per cent.
        before: f64,
    },
    /// So many days after the last time.
    Every {
        /// House rule, days.
        days: u16,
        /// The last time; none: never on record.
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
        last: Option<Date>,
        /// Spread of the last round, where it says anything.
        spread: Option<Points>,
    },
    /// So many days after the last time, half of what the house asks for: it is on the road or the water.
    Shaken {
        /// House rule, days.
        days: u16,
        /// The last time; none: never on record.
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
        last: Option<Date>,
    },
    /// So many days after the last time, as the maker of the batteries asks for.
    ByMaker {
        /// Days.
        days: u16,
        /// The last time; none: never on record.
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
        last: Option<Date>,
    },
    /// A discharge that nobody charged the bank after.
    Discharged {
        /// Its day.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        day: Date,
    },
    /// Start or end of the season.
    SeasonTurns {
        /// True at its start.
        opens: bool,
    },
    /// Before the end of the season.
    SeasonCloses {
        /// Its last day.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        closes: Date,
    },
    /// It was left in storage, and nobody said until when.
    StoredWithoutSeason {
        /// The day it was left so.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        since: Date,
    },
    /// Before the wet season.
    WetSeason,
    /// After the first hard frost.
    FirstFrost,
    /// Fills through a watering kit since the cells were looked into.
    Kit {
        /// Fills.
        fills: u32,
        /// House rule.
        every: u8,
    },
    /// A visit asked for it to be looked at again.
    Recheck {
        /// What.
        recheck: Recheck,
    },
    /// A reminder.
    Reminder {
        /// Its id.
        id: String,
        /// Its text.
        text: String,
        /// The job that a visit for it is for; none: a visit like others.
        #[serde(default)]
        job: Option<Job>,
    },
}

/// The later of condition and calendar, kept and shown.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Other {
    /// Its date.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub date: Date,
    /// Its reason.
    pub why: Why,
}

/// One thing that is due.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DueItem {
    /// What.
    pub task: Task,
    /// What waiting does.
    pub consequence: Consequence,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub date: Date,
    /// Why.
    pub why: Why,
    /// The rule.
    pub rule: RuleId,
    /// The later date and its reason, where both speak.
    pub other: Option<Other>,
    /// Minutes it takes (SC-2).
    pub minutes: u32,
    /// True when the date was moved out of a storage spell.
    pub moved_by_storage: bool,
    /// Put off, from this date, with the reason and by whom.
    #[cfg_attr(feature = "schema", schema(value_type = Option<(String, String, String)>))]
    pub postponed: Option<(Date, String, String)>,
}

impl DueItem {
    /// An item for one reason.
    pub(super) fn new(task: Task, consequence: Consequence, date: Date, why: Why, rule: RuleId) -> Self {
        Self {
            task,
            consequence,
            date,
            why,
            rule,
            other: None,
            minutes: 0,
            moved_by_storage: false,
            postponed: None,
        }
    }

    /// Which one of its kind it is: a finding or a reminder by its id, the equipment as a whole.
    pub fn about(&self) -> String {
        match &self.why {
            Why::Found { finding, .. } => finding.id.clone(),
            Why::Reminder { id, .. } => id.clone(),
            Why::Equipment { .. } => "equipment".into(),
            Why::Recheck { recheck } => <&str>::from(recheck.step).to_owned(),
            _ => String::new(),
        }
    }

    /// The one step that a visit for it takes; none: a whole visit.
    pub fn only(&self) -> Option<Step> {
        match &self.why {
            Why::Recheck { recheck } => Some(recheck.step),
            _ => None,
        }
    }

    /// The job that a visit for it is for; none: a visit like others.
    pub fn job(&self) -> Option<Job> {
        match (&self.why, self.task) {
            (Why::Reminder { job, .. }, _) => *job,
            (_, Task::StorageCheck) => Some(Job::StorageCheck),
            (_, Task::ChargeForStorage) => Some(Job::StoragePreparation),
            _ => None,
        }
    }

    /// True where it is about what stands there: its settings, its air.
    pub fn is_of_equipment(&self) -> bool {
        matches!(self.why, Why::Equipment { .. })
    }

    /// True when the bank is equalized: by itself, or with a suspect cell as its pilot.
    pub fn equalizes(&self) -> bool {
        self.task == Task::Equalize || matches!(self.why, Why::Suspect { equalize: true, .. })
    }

    /// Water to carry for it, mL, P90 of a forecast made on a day: what the bank has lost by the day
    /// it is due, or by today where that is later. Zero for what takes no water. An equalize takes
    /// as much as a fill, for the gassing uses it up.
    pub fn water_to_carry(&self, made_on: Date, forecast: &WaterForecast, today: Date) -> f64 {
        if self.task != Task::Water && !self.equalizes() {
            return 0.0;
        }
        let days = made_on.until(self.date.max(today)).map_or(0, |span| span.get_days());
        forecast.need_in(f64::from(days.max(0))).1
    }

    /// Puts it off. A due date that moved on by itself makes an old postponement void.
    pub(super) fn postpone(&mut self, own: &Postponed) {
        if own.from >= self.date && own.until > self.date {
            self.postponed = Some((self.date, own.reason.clone(), own.by.clone()));
            self.date = own.until;
        }
    }
}
