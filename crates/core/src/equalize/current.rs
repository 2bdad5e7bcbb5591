//! What went into the bank during a run: from the feed where there is one, else as it was read.

use super::timeline::On;
use super::{FeedMinute, RunFrame, TakenReading};

/// Ampere-hours while it was on: minutes of the feed where there are any, else the last current that
/// was read, else the one that was meant.
pub(super) fn ampere_hours(
    spans: &[On],
    readings: &[TakenReading],
    feed: &[FeedMinute],
    frame: &RunFrame<'_>,
) -> f64 {
    let mut by_feed = 0.0;
    let mut fed_hours = Vec::new();
    for minute in feed {
        let on = spans.iter().map(|s| overlap(*s, minute.at, minute.at + minute.hours)).sum::<f64>();
        if on > 0.0 {
            by_feed += minute.amperes.max(0.0) * on;
            fed_hours.push((minute.at, minute.at + minute.hours));
        }
    }
    // What is left between readings, by the current read last.
    let mut marks: Vec<(f64, f64)> = vec![(f64::MIN, frame.meant_amperes)];
    let read = readings.iter().filter_map(|r| Some((r.at, r.amperes?)));
    if let Some(first) = read.clone().next() {
        marks[0].1 = first.1;
    }
    marks.extend(read);
    let mut typed = 0.0;
    for (i, (from, amperes)) in marks.iter().enumerate() {
        let to = marks.get(i + 1).map_or(f64::MAX, |m| m.0);
        for span in spans {
            let all = overlap(*span, *from, to);
            let covered: f64 = fed_hours.iter().map(|(a, b)| overlap(*span, a.max(*from), b.min(to))).sum();
            typed += amperes * (all - covered).max(0.0);
        }
    }
    by_feed + typed
}

fn overlap(span: On, from: f64, to: f64) -> f64 {
    (span.to.min(to) - span.from.max(from)).max(0.0)
}

/// Hours for which a minute of a feed still tells what flows.
const FRESH: f64 = 2.0 / 60.0;

/// The minute of a feed that a moment falls into, or the one just before; hours from the opening by the
/// machine's clock. None where the feed was away then.
pub fn feed_at(feed: &[FeedMinute], at: f64) -> Option<&FeedMinute> {
    feed.iter().rev().find(|minute| minute.at <= at).filter(|minute| at - minute.at <= FRESH)
}
