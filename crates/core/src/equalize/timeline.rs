//! The time of a run: what its entries say of when it was on, whatever the clock of the machine did.

use super::{LoggedEntry, Phase, RunEntry};
use crate::log::{LogEntry, standing};
use std::collections::HashSet;

/// A span in which the charger was on, hours from the opening as the run counts them.
#[derive(Debug, Clone, Copy)]
pub(super) struct On {
    pub(super) from: f64,
    pub(super) to: f64,
}

/// The clock of the run: the machine's, without the jumps of those who set it, and never back.
struct RunClock {
    jumps: f64,
    last: f64,
}

impl RunClock {
    fn read(&mut self, at: f64) -> f64 {
        self.last = (at - self.jumps).max(self.last);
        self.last
    }
}

/// Entries that stand, with the run's own time.
pub(super) fn timed(log: &[LoggedEntry], now: f64) -> (Vec<(f64, &LoggedEntry)>, f64, f64) {
    let rows: Vec<LogEntry> = log
        .iter()
        .map(|l| match &l.entry {
            RunEntry::Withdrawn { entry } => LogEntry::takes_back(&l.id, entry),
            _ => LogEntry::records(&l.id),
        })
        .collect();
    let stands: HashSet<String> = standing(&rows).into_iter().collect();
    let mut clock = RunClock { jumps: 0.0, last: 0.0 };
    let mut all = Vec::new();
    for logged in log {
        if let RunEntry::ClockSet { hours } = logged.entry {
            clock.jumps += hours;
        }
        let at = clock.read(logged.at);
        if stands.contains(&logged.id) {
            all.push((at, logged));
        }
    }
    let now = clock.read(now);
    (all, now, clock.jumps)
}

/// Spans in which it was on.
pub(super) fn spans(entries: &[(f64, &LoggedEntry)], now: f64) -> (Vec<On>, Phase, Option<f64>) {
    let mut spans = Vec::new();
    let mut since: Option<f64> = None;
    let mut phase = Phase::Before;
    let mut paused_at = None;
    // What a stop that is taken back goes back to.
    let mut before_stop = (None, Phase::Before, None);
    for (at, logged) in entries {
        let closes = matches!(logged.entry, RunEntry::Paused { .. } | RunEntry::Ended { .. });
        if matches!(logged.entry, RunEntry::Ended { .. }) {
            before_stop = (since, phase, paused_at);
        }
        if let Some(from) = since.filter(|_| closes) {
            spans.push(On { from, to: *at });
            since = None;
        }
        match logged.entry {
            RunEntry::Began | RunEntry::Resumed if !matches!(phase, Phase::Ended { .. }) => {
                since = since.or(Some(*at));
                (phase, paused_at) = (Phase::Running, None);
            }
            RunEntry::Paused { why } if phase == Phase::Running => {
                (phase, paused_at) = (Phase::Paused { why }, Some(*at));
            }
            RunEntry::Ended { why } => phase = Phase::Ended { why },
            RunEntry::TakenBack if matches!(phase, Phase::Ended { .. }) => {
                if before_stop.0.is_some() {
                    spans.pop();
                }
                (since, phase, paused_at) = before_stop;
            }
            _ => {}
        }
    }
    if let Some(from) = since {
        spans.push(On { from, to: now });
    }
    (spans, phase, paused_at)
}

/// Hours on until a moment.
pub(super) fn on_until(spans: &[On], at: f64) -> f64 {
    spans.iter().map(|s| (s.to.min(at) - s.from).max(0.0)).sum()
}

/// Hours by which the clock had been set when it showed a time.
pub(super) fn jumps_until(log: &[LoggedEntry], at: f64) -> f64 {
    log.iter()
        .filter(|l| l.at <= at)
        .map(|l| if let RunEntry::ClockSet { hours } = l.entry { hours } else { 0.0 })
        .sum()
}
