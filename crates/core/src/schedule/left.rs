//! How a bank is usually left, and what its storage asks for before and while it is stored (SD-2, SD-3).

use super::days::plus;
use super::{BankFacts, Consequence, DueItem, Duty, Season, Task, Why};
use crate::finding::RuleId;
use crate::visit::LeftAs;
use jiff::civil::Date;

/// Days before the end of a season from which a bank is usually left in storage (common practice, no source).
const CLOSING_DAYS: i64 = 14;
/// Days before the end of a season at which the full charge is asked for: a full charge of a low bank takes days
/// of sun (common practice, no source).
const CHARGE_BEFORE: i64 = 7;
/// A charge within so many days before the end of a season was made for it (common practice, no source).
const CHARGED_FOR: i64 = 45;

/// How a bank of a duty and a season is usually left on a day.
pub fn usually_left(duty: Duty, season: Option<Season>, day: Date) -> LeftAs {
    match (duty, season) {
        (Duty::Standby, _) => LeftAs::Standby,
        (Duty::Cycled, Some(season)) if season.stored(day) || season.stored(plus(day, CLOSING_DAYS)) => {
            LeftAs::Stored
        }
        (Duty::Cycled, _) => LeftAs::InUse,
    }
}

/// The last day on which somebody looked at the bank.
pub(super) fn last_look(facts: &BankFacts) -> Date {
    let seen = [
        facts.last_storage_check,
        facts.round.as_ref().map(|r| r.day),
        facts.last_volts,
        facts.last_water_check,
    ];
    seen.into_iter().flatten().max().unwrap_or(facts.known_since)
}

/// A full charge before the season closes (SD-3).
pub(super) fn charge_before_storage(facts: &BankFacts) -> Option<DueItem> {
    let season = facts.season?;
    let charged = facts.charged_for_storage.map(|day| plus(day, CHARGED_FOR));
    let from = charged.unwrap_or(facts.known_since).max(last_look(facts));
    let closes = season.closes.after(from);
    let why = Why::SeasonCloses { closes };
    Some(DueItem::new(
        Task::ChargeForStorage,
        Consequence::Loss,
        plus(closes, -CHARGE_BEFORE),
        why,
        RuleId::Sd3,
    ))
}

/// A bank that was left in storage and has no season: nobody knows when it is wanted again.
pub(super) fn season_asked(facts: &BankFacts) -> Option<DueItem> {
    let since = facts.stored_since.filter(|_| facts.season.is_none())?;
    let why = Why::StoredWithoutSeason { since };
    Some(DueItem::new(Task::SayWhenUsed, Consequence::Routine, since, why, RuleId::Sd2))
}
