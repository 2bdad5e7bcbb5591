//! The month ahead, a line for each bank.

use super::Line;
use jiff::ToSpan;
use jiff::civil::{Date, Weekday};
use rainshadow_core::schedule::Task;
use rainshadow_core::severity::Severity;
use serde::Serialize;
use utoipa::ToSchema;

/// Days of the strip ahead.
pub const AHEAD: i64 = 31;
/// Banks of the strip; the list below it has them all.
const LINES: usize = 20;

/// One mark in the strip of the month.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripMark {
    /// Days from today.
    pub offset: i32,
    /// Its mark.
    pub condition: Severity,
    /// In a word or two.
    pub said: String,
}

/// One line of the strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripLine {
    /// The bank.
    pub bank: String,
    /// Site and name.
    pub site: String,
    /// Marks by day.
    pub marks: Vec<StripMark>,
}

/// Where a month begins in the strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripMonth {
    /// Days from today.
    pub offset: i32,
    /// Its name.
    pub name: String,
}

/// The days of the strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct StripCalendar {
    /// Weekends, days from today.
    pub weekends: Vec<i32>,
    /// Every day as written: day of the month.
    pub days: Vec<String>,
    /// Months over it.
    pub months: Vec<StripMonth>,
}

impl StripCalendar {
    /// The month from a day on.
    pub fn of(today: Date) -> Self {
        let dates: Vec<(i32, Date)> =
            (0..).zip((0..=AHEAD).filter_map(|d| today.checked_add(d.days()).ok())).collect();
        let weekend = |d: Date| matches!(d.weekday(), Weekday::Saturday | Weekday::Sunday);
        Self {
            weekends: dates.iter().filter(|(_, d)| weekend(*d)).map(|(offset, _)| *offset).collect(),
            days: dates.iter().map(|(_, d)| d.day().to_string()).collect(),
            months: dates
                .iter()
                .filter(|(offset, d)| *offset == 0 || d.day() == 1)
                .map(|(offset, d)| StripMonth { offset: *offset, name: d.strftime("%B").to_string() })
                .collect(),
        }
    }
}

/// A task in a word or two.
pub fn short_task(task: Task) -> &'static str {
    match task {
        Task::CoverPlates => "cover plates",
        Task::SuspectCell => "suspect cell",
        Task::SeenFinding => "put right",
        Task::Water => "water",
        Task::Round => "round",
        Task::Equalize => "equalize",
        Task::Charge => "charging",
        Task::RetorqueAndClean => "retorque",
        Task::LoadTest => "load test",
        Task::StandbyWet | Task::StandbyFrost => "standby check",
        Task::StorageCheck => "storage check",
        Task::ChargeForStorage => "charge for storage",
        Task::SayWhenUsed => "when used",
        Task::Recharge => "recharge",
        Task::KitInspection => "look behind kit",
        Task::Recheck => "recheck",
        Task::Reminder => "reminder",
    }
}

/// The marks of the most pressing banks.
pub fn strip(lines: &[Line<'_>], today: Date) -> Vec<StripLine> {
    let mut all: Vec<StripLine> = Vec::new();
    for (line, bank) in lines {
        // What is late stands on today.
        let offset = today.until(line.date).map_or(0, |s| s.get_days()).max(0);
        let mark =
            StripMark { offset, condition: line.consequence.condition(), said: short_task(line.task).into() };
        let room = all.len() < LINES;
        match all.iter_mut().find(|l| l.bank == line.bank) {
            // One mark a day: lines are in order of consequence, so the first is the worst.
            Some(own) if own.marks.iter().any(|m| m.offset == offset) => {}
            Some(own) => own.marks.push(mark),
            None if room => {
                all.push(StripLine { bank: line.bank.clone(), site: bank.title.clone(), marks: vec![mark] });
            }
            None => {}
        }
    }
    for line in &mut all {
        line.marks.sort_by_key(|m| m.offset);
    }
    all
}
