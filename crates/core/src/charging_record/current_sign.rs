//! Which way the current of a record runs: a bank has a resistance, so its volts rise with the current that goes in. Where
//! they fall with it, the current is written the other way round.

use super::MinuteRow;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Share of C20 from which a step of the current is looked at (our choice, no source).
const STEP: f64 = 0.005;
/// Minutes from one row to the next within which a step tells something.
const NEAR: i64 = 30;
/// Steps of a day that tell its sign, and how alike they are: 1 all of one sign, 0 as many of each (our choice, no source).
const STEPS: u32 = 6;
const ALIKE: f64 = 0.4;
/// Days in a row that have to say the same, where not all of the record does.
const DAYS: usize = 2;
const HOURS: i64 = 24;

/// A stretch of a record in which the current runs the other way than it was said to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OtherWay {
    /// First minute of it since 1970, UTC.
    pub from: i64,
    /// The minute after its last.
    pub to: i64,
}

impl OtherWay {
    /// True for a minute within it.
    pub const fn holds(&self, minute: i64) -> bool {
        self.from <= minute && minute < self.to
    }
}

/// What the steps of an hour say.
#[derive(Debug, Clone, Copy, Default)]
struct Hour {
    /// Σ ΔI·ΔV, and of its absolute values.
    sum: f64,
    size: f64,
    steps: u32,
}

/// Looks at rows as they come, in either order of time.
#[derive(Debug, Clone)]
pub struct CurrentWatch {
    c20: f64,
    last: Option<MinuteRow>,
    hours: BTreeMap<i64, Hour>,
    first: i64,
    end: i64,
}

impl CurrentWatch {
    /// Of a bank of so many Ah at twenty hours.
    pub const fn new(c20: f64) -> Self {
        Self { c20, last: None, hours: BTreeMap::new(), first: i64::MAX, end: i64::MIN }
    }

    /// Takes the next row.
    pub fn push(&mut self, row: &MinuteRow) {
        (self.first, self.end) = (self.first.min(row.minute), self.end.max(row.minute + 1));
        let Some((volts, amperes)) = row.volts.zip(row.amperes) else { return };
        let before = self.last.replace(*row).filter(|last| (row.minute - last.minute).abs() <= NEAR);
        let Some((v, a)) = before.and_then(|last| last.volts.zip(last.amperes)) else { return };
        let step = amperes - a;
        if step.abs() < STEP * self.c20 {
            return;
        }
        let own = self.hours.entry(row.minute.div_euclid(60)).or_default();
        let product = step * (volts - v);
        (own.sum, own.size, own.steps) = (own.sum + product, own.size + product.abs(), own.steps + 1);
    }

    /// Whether the current of each day that tells it runs as it was said.
    fn days(&self) -> Vec<(i64, bool)> {
        let mut days: BTreeMap<i64, Hour> = BTreeMap::new();
        for (hour, own) in &self.hours {
            let day = days.entry(hour.div_euclid(HOURS)).or_default();
            (day.sum, day.size) = (day.sum + own.sum, day.size + own.size);
            day.steps += own.steps;
        }
        let tells = |own: &Hour| own.steps >= STEPS && own.sum.abs() >= ALIKE * own.size && own.size > 0.0;
        days.into_iter().filter(|(_, own)| tells(own)).map(|(day, own)| (day, own.sum > 0.0)).collect()
    }

    /// The first hour of what comes after a change between two days: where what was summed up stands furthest out.
    fn changed(&self, from: i64, to: i64, as_said: bool) -> i64 {
        let (mut sum, mut best) = (0.0, (f64::MIN, to * HOURS));
        for (hour, own) in self.hours.range(from * HOURS..(to + 1) * HOURS) {
            sum += if as_said { own.sum } else { -own.sum };
            if sum > best.0 {
                best = (sum, hour + 1);
            }
        }
        best.1
    }

    /// Stretches in which the current runs the other way than it was said to, the oldest first; days that do not tell go with
    /// those before them.
    pub fn other_way(&self) -> Vec<OtherWay> {
        let days = self.days();
        let mut runs: Vec<(bool, i64, i64, usize)> = Vec::new();
        for (day, as_said) in days {
            match runs.last_mut() {
                Some(run) if run.0 == as_said => (run.2, run.3) = (day, run.3 + 1),
                _ => runs.push((as_said, day, day, 1)),
            }
        }
        // A single day among others says too little.
        if runs.len() > 1 {
            runs.retain(|run| run.3 >= DAYS);
        }
        let mut joined: Vec<(bool, i64, i64)> = Vec::new();
        for (as_said, first, last, _) in runs {
            match joined.last_mut() {
                Some(run) if run.0 == as_said => run.2 = last,
                _ => joined.push((as_said, first, last)),
            }
        }
        let mut all = Vec::new();
        let mut from = self.first;
        for (at, (as_said, _, last)) in joined.iter().enumerate() {
            let to = joined.get(at + 1).map_or(self.end, |next| 60 * self.changed(*last, next.1, *as_said));
            if !as_said {
                all.push(OtherWay { from, to });
            }
            from = to;
        }
        all
    }
}

/// Turns the current round where it runs the other way.
pub fn turned(rows: &mut [MinuteRow], other_way: &[OtherWay]) {
    for row in rows.iter_mut().filter(|row| other_way.iter().any(|own| own.holds(row.minute))) {
        row.amperes = row.amperes.map(|own| -own);
    }
}
