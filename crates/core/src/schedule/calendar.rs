//! SC-3: what the calendar of the house rules asks for, and conditions that are earlier.

use super::days::plus;
use super::left::last_look;
use super::{BankFacts, Consequence, DueItem, Duty, Other, Task, Why, season::MonthDay};
use crate::finding::RuleId;
use crate::severity::Severity;
use jiff::civil::Date;

/// A seasonal round counts when it is taken within a month before its day.
const EARLY_DAYS: i64 = 30;
/// A standby check is made a fortnight before the rain, and three days after the frost.
const BEFORE_RAIN: i64 = 14;
const AFTER_FROST: i64 = 3;
/// Fills after which the forecast alone decides.
const FILLS_KNOWN: usize = 3;
/// A battery that came is read with its first full charges, days (common practice, no source).
const FIRST_READING: i64 = 14;
/// Joints on the road or the water are retorqued so many times as often (common practice, no source).
const SHAKEN: u16 = 2;
/// A test this long overdue costs more than its hour (common practice, no source).
const OVERDUE_COSTS: u16 = 30;

fn every(days: u16, last: Option<Date>, known: Date) -> (Date, Why) {
    let date = plus(last.unwrap_or(known), last.map_or(0, |_| i64::from(days)));
    (date, Why::Every { days, last, spread: None })
}

/// Out of a storage spell to the day the season opens.
fn in_use(facts: &BankFacts, mut item: DueItem) -> DueItem {
    if let Some(season) = facts.season.filter(|s| s.stored(item.date)) {
        item.date = season.opens.after(item.date);
        item.moved_by_storage = true;
        // What was to come while the bank is stored comes no sooner than it is used again.
        if let Why::Consumption { p50, p90, .. } = &mut item.why {
            *p50 = (*p50).max(item.date);
            *p90 = (*p90).max(item.date);
        }
    }
    item
}

/// The earlier of two with the later kept beside it.
fn earlier(first: DueItem, second: Option<DueItem>) -> DueItem {
    let Some(second) = second else { return first };
    let (mut sooner, later) = if second.date < first.date { (second, first) } else { (first, second) };
    sooner.other = Some(Other { date: later.date, why: later.why });
    sooner
}

/// Days until levels are looked at again where plates were found bare: within a month (common practice, no
/// source).
const LOOK_AGAIN_DAYS: i64 = 30;

pub(super) fn water(facts: &BankFacts) -> Option<DueItem> {
    if !facts.model.construction.has_caps() {
        return None;
    }
    let days = facts.rules.water_check_days;
    let (date, why) = every(days, facts.last_water_check, facts.known_since);
    let calendar = DueItem::new(Task::Water, Consequence::Routine, date, why, RuleId::Sc3);
    let forecast = facts.water.map(|w| {
        let why = Why::Consumption {
            cell: w.cell,
            per_day: w.per_day,
            fills: w.fills,
            basis: w.basis,
            p50: w.p50,
            p90: w.p90,
        };
        DueItem::new(Task::Water, Consequence::Harm, w.p10, why, RuleId::Wa2)
    });
    let known = facts.water.is_some_and(|w| w.fills >= FILLS_KNOWN);
    let item = match forecast {
        // Three fills are known: by forecast, whatever the calendar says.
        Some(mut forecast) if known => {
            forecast.other = Some(Other { date: calendar.date, why: calendar.why });
            forecast
        }
        other => earlier(calendar, other),
    };
    // Where plates were found bare the next look is soon, whatever is forecast from the fills before.
    let again = facts.bare_found.clone().map(|(cells, day)| {
        let date = plus(day, LOOK_AGAIN_DAYS);
        DueItem::new(Task::Water, Consequence::Loss, date, Why::FoundBare { cells, day }, RuleId::Wa4)
    });
    let item = match again {
        Some(again) if again.date < item.date => earlier(again, Some(item)),
        _ => item,
    };
    Some(in_use(facts, item))
}

pub(super) fn round(facts: &BankFacts) -> DueItem {
    let caps = facts.model.construction.has_caps();
    let last = if caps { facts.round.as_ref().map(|r| r.day) } else { facts.last_volts };
    let Some(last) = last else {
        let why = Why::FirstRound;
        let item = DueItem::new(Task::Round, Consequence::Routine, facts.known_since, why, RuleId::Sc3);
        return in_use(facts, item);
    };
    let spread = facts.round.as_ref().and_then(|r| r.spread);
    let by_days = facts.rules.round_every_days.map(|days| {
        let why = Why::Every { days, last: Some(last), spread };
        DueItem::new(Task::Round, Consequence::Routine, plus(last, i64::from(days)), why, RuleId::Sc3)
    });
    let turns = facts.season.map(|s| {
        let (opens, closes) = (next(s.opens, last), next(s.closes, last));
        let why = Why::SeasonTurns { opens: opens < closes };
        DueItem::new(Task::Round, Consequence::Routine, opens.min(closes), why, RuleId::Sc3)
    });
    let questioned = facts.round.as_ref().filter(|r| !r.in_question.is_empty()).map(|r| {
        let why = Why::InQuestion { cells: r.in_question.clone() };
        DueItem::new(Task::Round, Consequence::Loss, plus(r.day, 14), why, RuleId::Rd3)
    });
    let came = facts.came.iter().map(|(_, day)| *day).min().map(|day| {
        let why = Why::Came { batteries: facts.came.iter().map(|(battery, _)| *battery).collect() };
        DueItem::new(Task::Round, Consequence::Loss, plus(day, FIRST_READING), why, RuleId::Sc3)
    });
    let questioned = match (questioned, came) {
        (Some(a), Some(b)) => Some(earlier(a, Some(b))),
        (a, b) => a.or(b),
    };
    // A house that reads at the turns of the season only, on a bank without one: twice a year.
    let half_year = || {
        let why = Why::Every { days: 183, last: Some(last), spread };
        DueItem::new(Task::Round, Consequence::Routine, plus(last, 183), why, RuleId::Sc3)
    };
    let first = by_days.map(|d| in_use(facts, d)).or_else(|| turns.clone()).unwrap_or_else(half_year);
    // The turn of the season itself is no storage day to be moved away from.
    let seasonal = turns.filter(|t| *t != first);
    let both = earlier(first, seasonal);
    match questioned {
        Some(asked) if asked.date < both.date => earlier(both, Some(in_use(facts, asked))),
        _ => both,
    }
}

/// The first occurrence that a round within the month before it would not have met.
fn next(day: MonthDay, last: Date) -> Date {
    day.after(plus(last, EARLY_DAYS))
}

pub(super) fn equalize(facts: &BankFacts) -> Option<DueItem> {
    // Nobody equalizes beside a dead cell, acid that was added, layers or missing water, by no calendar.
    if !facts.model.construction.has_caps() || facts.equalize_barred().is_some() {
        return None;
    }
    // Asked for with a suspect cell as its pilot: said once.
    if let Some(item) = super::condition::suspect_cells(facts)
        && matches!(item.why, Why::Suspect { equalize: true, .. })
    {
        return None;
    }
    let wanted = facts.round.as_ref().and_then(|r| {
        let (limit, proven_full) = r.equalize?;
        // A suspect cell carries the equalize in its own item, as its pilot.
        let stale = facts.last_equalize.is_some_and(|e| e > r.day) || !r.suspects.is_empty();
        let why = Why::Spread { spread: r.spread?, limit, proven_full };
        (!stale).then(|| DueItem::new(Task::Equalize, Consequence::Loss, plus(r.day, 7), why, RuleId::Rd4))
    });
    let calendar = (facts.duty == Duty::Cycled).then(|| {
        let days = facts.rules.equalize_every_days;
        let last = facts.last_equalize;
        // Never on record: counted from the day the bank became known.
        let date = plus(last.unwrap_or(facts.known_since), i64::from(days));
        let why = Why::Every { days, last, spread: None };
        DueItem::new(Task::Equalize, Consequence::Routine, date, why, RuleId::Eq2)
    });
    let item = match (wanted, calendar) {
        (Some(wanted), calendar) => earlier(wanted, calendar),
        (None, Some(calendar)) => calendar,
        (None, None) => return None,
    };
    Some(in_use(facts, item))
}

pub(super) fn retorque(facts: &BankFacts) -> DueItem {
    let days = facts.rules.retorque_days;
    let last = facts.last_retorque;
    let (house, why) = if facts.on_the_move {
        (days / SHAKEN, Why::Shaken { days, last })
    } else {
        (days, Why::Every { days, last, spread: None })
    };
    // The maker goes before the house, but not where the road asks for it sooner.
    let maker = facts.model.retorque_days.filter(|own| !facts.on_the_move || *own < house);
    let (after, why) = maker.map_or((house, why), |days| (days, Why::ByMaker { days, last }));
    let date = plus(last.unwrap_or(facts.known_since), i64::from(after));
    in_use(facts, DueItem::new(Task::RetorqueAndClean, Consequence::Routine, date, why, RuleId::Cn1))
}

pub(super) fn test(facts: &BankFacts) -> DueItem {
    let days = match facts.duty {
        Duty::Standby => facts.rules.test_days_standby,
        Duty::Cycled => facts.rules.test_days,
    };
    let last = facts.last_test;
    let date = plus(last.unwrap_or(facts.known_since), i64::from(days));
    let why = Why::Every { days, last, spread: None };
    // SC-1: a test overdue is capacity nobody knows of. What is late shows in the round: the item
    // itself does not know the day.
    let weak = facts.round.as_ref().is_some_and(|r| r.condition == Severity::Act);
    let consequence = if weak { Consequence::Loss } else { Consequence::Routine };
    in_use(facts, DueItem::new(Task::LoadTest, consequence, date, why, RuleId::Lt2))
}

pub(super) fn standby(facts: &BankFacts) -> Vec<DueItem> {
    if facts.duty != Duty::Standby {
        return Vec::new();
    }
    let last = facts.last_standby_check.unwrap_or(facts.known_since);
    let rain = facts.wet_season.map(|day| {
        let date = plus(next(day, plus(last, BEFORE_RAIN)), -BEFORE_RAIN);
        DueItem::new(Task::StandbyWet, Consequence::Routine, date, Why::WetSeason, RuleId::Sc3)
    });
    let frost = facts.first_frost.map(|day| {
        let date = plus(day.after(plus(last, -AFTER_FROST)), AFTER_FROST);
        DueItem::new(Task::StandbyFrost, Consequence::Routine, date, Why::FirstFrost, RuleId::Sc3)
    });
    rain.into_iter().chain(frost).collect()
}

pub(super) fn storage(facts: &BankFacts) -> Option<DueItem> {
    let days = facts.rules.storage_check_days;
    let last = last_look(facts);
    let why = Why::Every { days, last: facts.last_storage_check, spread: None };
    let Some(season) = facts.season else {
        // Stored until further notice.
        let since = facts.stored_since?;
        let date = plus(last.max(since), i64::from(days));
        return Some(DueItem::new(Task::StorageCheck, Consequence::Loss, date, why, RuleId::Sd2));
    };
    // Counted from the last check, or from the day the spell began after it.
    let from = if season.stored(last) { last } else { season.closes.after(last) };
    let opens = season.opens.after(from);
    let date = plus(from, i64::from(days));
    // What falls behind the opening waits for the next spell.
    let date = if date < opens { date } else { plus(season.closes.after(opens), i64::from(days)) };
    Some(DueItem::new(Task::StorageCheck, Consequence::Loss, date, why, RuleId::Sd2))
}

pub(super) fn kit(facts: &BankFacts) -> Option<DueItem> {
    let (fills, last) = facts.kit_fills?;
    let every = facts.rules.kit_inspection_fills;
    let kit = crate::water::kit_inspection(fills, &facts.rules);
    let date = facts.water.map_or(plus(last, i64::from(facts.rules.water_check_days)), |w| w.p10);
    let why = Why::Kit { fills, every };
    kit.due.then(|| {
        in_use(facts, DueItem::new(Task::KitInspection, Consequence::Routine, date, why, RuleId::Wa6))
    })
}

impl Consequence {
    /// What waiting does as of a day with something due on a date: a test a month overdue is a loss
    /// (SC-1).
    #[must_use]
    pub fn as_of(self, task: Task, date: Date, today: Date) -> Self {
        let late = plus(date, i64::from(OVERDUE_COSTS)) <= today;
        if task == Task::LoadTest && late { Self::Loss.min(self) } else { self }
    }
}

impl DueItem {
    /// What waiting does as of a day (SC-1).
    pub fn consequence_on(&self, today: Date) -> Consequence {
        self.consequence.as_of(self.task, self.date, today)
    }
}
