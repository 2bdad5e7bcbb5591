//! A year of charging, in words.

use crate::charging_plan::{ChargingYear, MOST_DAYS_WITHOUT, Stay};

/// Where its limits come from.
pub const CHARGING_RULE: &str = "CH-4 and CH-5: common practice; clear sky by Ineichen, diffuse light by Erbs, on the array by Hay and Davies, \
     from memory; LF-1 and LF-2: common practice. Maker\u{2019}s manual first.";

fn days(n: u32) -> String {
    if n == 1 { "one day".into() } else { format!("{n} days") }
}

/// "Full at least every 7 days." or how long it goes without.
fn charging_gap(year: &ChargingYear) -> String {
    match (year.full_days, year.longest_without) {
        (0, _) => "It never reaches full.".into(),
        (_, gap) if gap <= MOST_DAYS_WITHOUT => format!("It is full again within {}.", days(gap + 1)),
        (_, gap) => {
            format!("It goes {} without a full charge; {MOST_DAYS_WITHOUT} are the limit.", days(gap))
        }
    }
}

/// What a year comes to, and how far the years of a life that are told beside it can be trusted.
pub fn charging_comes_to(year: &ChargingYear) -> String {
    let gap = charging_gap(year);
    let missed = year.account.missed / 365.0;
    match (year.runs_empty(), year.sulfates()) {
        (true, _) => format!(
            "The loads miss {missed:.1} Ah a day: it runs empty, and no table tells the life of such a bank."
        ),
        (false, true) => format!("{gap} Sulfation takes more of its life than the years above tell."),
        (false, false) => gap,
    }
}

/// "No source finishes the charge: it is never full. A night a week on a plug makes 57 full days."
pub fn charging_verdict(year: &ChargingYear, better: Option<(&str, &ChargingYear)>) -> String {
    let (used, missed) = (year.account.used / 365.0, year.account.missed / 365.0);
    let empty = || {
        let begun = match year.empty_after {
            None => String::new(),
            Some(0) => " Full at New Year, it is empty within a day.".into(),
            Some(n) => format!(" Full at New Year, it is empty after {}.", days(n)),
        };
        if year.account.came() <= 0.0 {
            return format!("Nothing charges it: no sun, engine, generator or plug is told.{begun}");
        }
        format!(
            "It runs empty: {:.0} Ah a day are wanted, and its sources bring {used:.0}.{begun}",
            used + missed
        )
    };
    let head = match year.full_days {
        _ if year.runs_empty() => empty(),
        0 => "No source finishes the charge: it is never full.".to_owned(),
        n if year.longest_without <= MOST_DAYS_WITHOUT => {
            format!(
                "It is full on {n} days of the year, and never longer than {} without.",
                days(year.longest_without)
            )
        }
        n => format!(
            "It is full on {n} days of the year, and once goes {} without.",
            days(year.longest_without)
        ),
    };
    match better {
        Some((name, own)) if own.full_days > year.full_days => {
            format!("{head} {name} makes it {}.", days(own.full_days))
        }
        Some((name, _)) => format!("{head} {name} costs less in ten years."),
        None => head,
    }
}

/// How a stay goes.
pub fn stay_said(own: &Stay, planned_depth: f64) -> String {
    let end = format!("it goes down to {:.0} % of charge", own.lowest.max(0.0));
    match (own.empty_on, own.charge_on) {
        (Some(day), Some(first)) => format!(
            "From full and on its sun alone it is empty on day {day}; charge it on day {first}, when {planned_depth:.0} % is out."
        ),
        (None, Some(first)) => format!(
            "From full and on its sun alone {end}; charge it on day {first}, when {planned_depth:.0} % is out."
        ),
        _ => format!("From full and on its sun alone it lasts: {end}."),
    }
}
