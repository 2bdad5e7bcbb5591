//! How long each row of a record stands for, and where nothing is known.

use super::MinuteRow;

/// Steps after which nothing is known between two rows (CR-1).
const GAP_STEPS: i64 = 5;

/// A row with the time it stands for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Span<'a> {
    pub row: &'a MinuteRow,
    /// Hours until the next row, or a step where a gap follows.
    pub hours: f64,
    /// True where nothing is known between the row before and this one.
    pub after_gap: bool,
}

impl Span<'_> {
    /// Ah that went in, and that came out.
    pub fn ampere_hours(&self) -> (f64, f64) {
        let own = self.row.amperes.unwrap_or(0.0) * self.hours;
        (own.max(0.0), (-own).max(0.0))
    }
}

/// The usual minutes from one row to the next: their median, at least 1.
pub(super) fn step(rows: &[MinuteRow]) -> i64 {
    let mut all: Vec<i64> = rows.windows(2).map(|pair| pair[1].minute - pair[0].minute).collect();
    all.sort_unstable();
    all.get(all.len() / 2).copied().unwrap_or(1).max(1)
}

pub(super) fn spans(rows: &[MinuteRow]) -> Vec<Span<'_>> {
    let step = step(rows);
    let hours = |minutes: i64| f64::from(i32::try_from(minutes).unwrap_or(i32::MAX)) / 60.0;
    let mut all: Vec<Span<'_>> = Vec::with_capacity(rows.len());
    let mut after_gap = true;
    for (at, row) in rows.iter().enumerate() {
        let to_next = rows.get(at + 1).map_or(step, |next| next.minute - row.minute);
        let gap = to_next > GAP_STEPS * step;
        all.push(Span { row, hours: hours(if gap { step } else { to_next }), after_gap });
        after_gap = gap;
    }
    all
}
