//! Joints and the shares of parallel strings in words.

use super::names;
use crate::joints::{JointFails, JointJudged, OVER};
use crate::parallel_share::{ShareChange, ShareJudged, Shares, WITHIN};
use crate::severity::Severity;

/// What one joint shows: "B1+: 0.62 mΩ, 5.2 times its like: remake it."
pub fn joint_line(own: &JointJudged) -> String {
    let mut said = vec![format!("{:.2} mΩ", own.milliohms)];
    said.extend(own.times_like.map(|times| format!("{times:.1} times its like")));
    said.extend(own.times_first.map(|times| format!("{times:.1} times its first value")));
    let then = match (own.resolved, own.fails) {
        (false, _) => "not resolved: use more current",
        (_, Some(JointFails::OverItsLike | JointFails::OverItsFirst)) => "remake it",
        _ if own.condition == Severity::NoReading => "nothing to hold it against",
        _ => "as its like",
    };
    format!("{}: {}: {then}.", own.joint, said.join(", "))
}

/// The one sentence of a round of joints.
pub fn joints_verdict(judged: &[JointJudged]) -> String {
    let bad: Vec<&str> =
        judged.iter().filter(|own| own.fails.is_some()).map(|own| own.joint.as_str()).collect();
    let unresolved = judged.iter().filter(|own| !own.resolved).count();
    if !bad.is_empty() {
        return format!("Remake {}: clean, dry, to torque, then measure again.", names::words(&bad));
    }
    if unresolved == judged.len() {
        return "Not resolved: the drops are too small for this meter. Use more current.".into();
    }
    if judged.iter().all(|own| own.condition == Severity::NoReading) {
        return "Nothing to hold them against yet: three like joints, or their own first values.".into();
    }
    format!("No joint stands more than {:.0} % over its like.", 100.0 * OVER)
}

/// What a change is, in the imperative.
pub const fn share_change(change: ShareChange) -> &'static str {
    match change {
        ShareChange::AsItIs => "leave it as it is",
        ShareChange::MoveNegative => "take the minus from the other end",
        ShareChange::MovePositive => "take the plus from the other end",
        ShareChange::EqualLeads => "two busbars, with leads of one length to every string",
        ShareChange::ThickerLinks => "links twice as thick, taken off at opposite ends",
    }
}

/// "A 56 %, B 44 %".
pub fn shares_said(own: &Shares) -> String {
    shares_of(&own.shares)
}

/// "A 56 %, B 44 %".
pub fn shares_of(shares: &[f64]) -> String {
    let all = (0u8..).zip(shares);
    let all: Vec<String> =
        all.map(|(i, share)| format!("{} {:.0} %", crate::bank::string_letter(i), 100.0 * share)).collect();
    all.join(", ")
}

/// "A 33.9 A, B 26.2 A".
pub fn currents_said(amperes: &[f64]) -> String {
    let all = (0u8..).zip(amperes);
    let all: Vec<String> =
        all.map(|(i, own)| format!("{} {own:.1} A", crate::bank::string_letter(i))).collect();
    all.join(", ")
}

/// The one sentence: how the strings share, and the cheapest change that evens them.
pub fn shares_verdict(own: &ShareJudged) -> String {
    let now = shares_said(&own.now);
    if own.now.even {
        return format!("The strings share within {:.0} % of even: {now}.", 100.0 * WITHIN);
    }
    match own.cheapest.and_then(|change| own.options.iter().find(|o| o.change == change)) {
        Some(option) => format!(
            "The strings share {now}. The cheapest that evens them: {}; then {}.",
            share_change(option.change),
            shares_said(&option.shares)
        ),
        None => format!(
            "The strings share {now}, and no take-off, lead or link evens them: the strings themselves differ. Look for a bad joint or a weak battery first."
        ),
    }
}
