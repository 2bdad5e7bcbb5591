//! How long a bank holds its load, in words.

use super::names::number_word;
use super::storage::coldness;
use crate::quantity::units::ReaderUnits;
use crate::runtime::{Ended, HoursRange, ProofJudged, Runtime, RuntimeAsked, StandInHours};

/// Where its limits come from.
pub const RUNTIME_RULE: &str = "RT-1 to RT-3: the rate table of the model, else Peukert (CT-2), never above the capacity at 20 hours; cold by \
     IEEE 485, from memory; volts on the way by the cell model. Maker\u{2019}s manual first.";

/// What is said where batteries are put in the place of the bank.
pub const STAND_IN_CAUTIONS: [&str; 4] = [
    "Rectifier and charger off first; a starting battery on the bank\u{2019}s charger is overcharged or starved.",
    "Read the polarity of every post with the meter before anything is joined.",
    "A fuse at the first post, sized for the load; no spark where the bank has been gassing.",
    "Not beside the bank but in its place: two kinds in parallel push current into each other.",
];

/// Hours as a person says them: "58 hours", "3 h 30 min", "12 days".
pub fn lasting(hours: f64) -> String {
    if hours >= 24.0 * 14.0 {
        format!("{:.0} days", hours / 24.0)
    } else if hours >= 10.0 {
        format!("{hours:.0} hours")
    } else {
        let minutes = (hours * 60.0).round();
        let (whole, rest) = ((minutes / 60.0).floor(), minutes % 60.0);
        match (whole, rest) {
            (w, r) if w < 1.0 => format!("{r:.0} min"),
            (w, r) if r < 1.0 => format!("{w:.0} h"),
            (w, r) => format!("{w:.0} h {r:.0} min"),
        }
    }
}

/// "54 to 60".
pub fn hours_span(own: HoursRange) -> String {
    let told = |hours: f64| if hours >= 10.0 { format!("{hours:.0}") } else { format!("{hours:.1}") };
    format!("{} to {} h", told(own.low), told(own.high))
}

/// What ends it.
pub fn ended(own: &Runtime, asked: &RuntimeAsked, units: ReaderUnits) -> String {
    match own.ended {
        Ended::Empty => format!("{:.1} V, empty", asked.empty_volts()),
        Ended::Depth => format!("{:.0} % deep, as deep as it may go", asked.depth),
        Ended::Freezing => format!(
            "6 \u{b0}C short of freezing: at {} it freezes under {:.0} % of charge",
            coldness(asked.temperature, units),
            own.freezes_under
        ),
        Ended::Year => "a year; a load this small is a standing draw".into(),
    }
}

/// "It holds the load 58 hours to the alarm, and 72 are wanted."
pub fn runtime_verdict(own: &Runtime, wanted: Option<f64>) -> String {
    let (hours, to) = match own.alarm {
        Some(alarm) => (alarm.hours, " to the alarm"),
        None => (own.empty.hours, ""),
    };
    let head = format!("It holds the load {}{to}", lasting(hours));
    let empty = format!("empty after {}", lasting(own.empty.hours));
    match wanted {
        Some(wanted) if hours >= wanted => {
            format!("{head}; {} are wanted, so it is enough.", hours_of(wanted))
        }
        Some(wanted) => format!("{head}, and {} are wanted: it falls short.", hours_of(wanted)),
        None if own.alarm.is_some() => format!("{head}, and is {empty}."),
        None => format!("{head}."),
    }
}

fn hours_of(hours: f64) -> String {
    if (hours - hours.round()).abs() < 0.05 { format!("{hours:.0} h") } else { format!("{hours:.1} h") }
}

/// Which capacity gives the hours wanted.
pub fn capacity_wanted(c20: Option<f64>, now: f64) -> String {
    match c20 {
        Some(c20) if c20 <= now => "These batteries are enough.".into(),
        Some(c20) => format!("From {:.0} Ah a string on such a bank gives the hours wanted.", c20.ceil()),
        None => "No size of such a bank gives the hours wanted; take load off it.".into(),
    }
}

/// Which load lasts as long as wanted.
pub fn load_wanted(share: f64) -> String {
    if share < 0.02 {
        "Not even a fiftieth of the load would last as long as wanted.".into()
    } else {
        format!(
            "Take off {:.0} % of the load, and what is left lasts as long as wanted.",
            100.0 * (1.0 - share)
        )
    }
}

/// What batteries in the place of the bank buy: "Two of 12 V in series: 12 hours."
pub fn stand_in_said(own: StandInHours, volts: u16, ampere_hours: f64) -> String {
    let count = number_word(usize::from(own.series));
    let head = super::sentence(&if own.series == 1 {
        format!("one battery of {volts} V, {ampere_hours:.0} Ah, in its place")
    } else {
        format!("{count} batteries of {volts} V, {ampere_hours:.0} Ah each, in series in its place")
    });
    format!("{head}: about {}, half drawn and taken as 80 % sound.", lasting(own.hours))
}

/// A proof beside its prediction.
pub fn proof_said(own: &ProofJudged, read: f64) -> String {
    let [best, low, high] = own.health;
    let off = own.over.abs();
    let beside = if off < 0.005 {
        "as predicted".to_owned()
    } else {
        format!(
            "{off:.2} V {} the {:.2} V predicted",
            if own.over > 0.0 { "over" } else { "under" },
            own.predicted
        )
    };
    if own.tells {
        format!("It ended at {read:.2} V, {beside}: a health of {best:.0} % fits, {low:.0} to {high:.0} %.")
    } else {
        format!("It ended at {read:.2} V, {beside}; it went too short a way to tell the health.")
    }
}
