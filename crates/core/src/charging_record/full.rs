//! When the bank reached full (CR-1). What stands by is never charged above float: held there at the tail it is full.

use super::RecordedBank;
use super::span::Span;
use crate::feed::FeedStage;

/// Volts a cell under absorption at which it still counts as held there.
const NEAR: f64 = 0.05;
/// Hours that the tail lasts, and that a current which no longer falls does.
const TAIL_HOURS: f64 = 0.5;
const FLAT_HOURS: f64 = 1.0;
/// Share of C20 within which a current no longer falls (CH-4).
const FLAT: f64 = 0.001;
/// Share of C20 that comes out before the bank can be full anew.
const ANEW: f64 = 0.01;

/// Whether a bank that was full still is, row by row: hardly anything came out since, and nothing is unknown.
pub(super) struct StillFull {
    /// Ah that came out since it was full; infinite: not known.
    out: f64,
    /// Ah that may.
    most: f64,
}

impl StillFull {
    pub(super) fn new(bank: &RecordedBank) -> Self {
        Self { out: f64::INFINITY, most: ANEW * bank.c20 }
    }

    /// As the rows so far leave it.
    pub(super) fn is_full(&self) -> bool {
        self.out < self.most
    }

    /// Takes the next row, at which it became full or not.
    pub(super) fn take(&mut self, span: &Span<'_>, became: bool) {
        self.out = match (became, span.after_gap || span.row.amperes.is_none()) {
            (true, _) => 0.0,
            (false, true) => f64::INFINITY,
            (false, false) => self.out + span.ampere_hours().1,
        };
    }
}

/// What lasts while the bank is held at absorption.
#[derive(Debug, Default, Clone, Copy)]
struct HeldSoFar {
    /// Hours with the current at or under the tail, without a break.
    tail: f64,
    /// Hours within the flat band, with its least and most.
    flat: f64,
    band: Option<(f64, f64)>,
    /// True where the last row stood at absorption with the current at the tail.
    at_tail: bool,
}

impl HeldSoFar {
    fn goes_on(&mut self, amperes: f64, hours: f64, bank: &RecordedBank) {
        self.at_tail = amperes <= bank.tail();
        self.tail = if self.at_tail { self.tail + hours } else { 0.0 };
        let (low, high) = self.band.map_or((amperes, amperes), |(l, h)| (l.min(amperes), h.max(amperes)));
        if high - low <= FLAT * bank.c20 {
            (self.flat, self.band) = (self.flat + hours, Some((low, high)));
        } else {
            (self.flat, self.band) = (hours, Some((amperes, amperes)));
        }
    }
}

/// Rows at which the bank became full: at absorption (in standby at float) with the current at the tail for half an hour or no longer falling for
/// one, from absorption to float with the current at the tail, or as the source says itself. Full anew only after it gave
/// a hundredth of C20.
pub(super) fn fulls(spans: &[Span<'_>], bank: &RecordedBank) -> Vec<usize> {
    let mut all = Vec::new();
    let mut held = HeldSoFar::default();
    let mut said = None;
    let mut out_since = f64::INFINITY;
    for (at, span) in spans.iter().enumerate() {
        if span.after_gap {
            (held, said) = (HeldSoFar::default(), None);
        }
        out_since += span.ampere_hours().1;
        let row = span.row;
        let asked = bank.asked_at(row.celsius);
        let per_cell = row.volts.map(|volts| volts / bank.in_series());
        let mut full = false;
        match (per_cell, row.amperes) {
            (Some(volts), Some(amperes)) if volts >= asked - NEAR && amperes >= 0.0 => {
                held.goes_on(amperes, span.hours, bank);
                full |= held.tail >= TAIL_HOURS - 1e-9 || held.flat >= FLAT_HOURS - 1e-9;
            }
            (Some(volts), Some(amperes)) => {
                let floats = volts >= bank.float_at(row.celsius) - NEAR && amperes >= 0.0;
                full |= held.at_tail && floats && amperes <= bank.tail();
                held = HeldSoFar::default();
            }
            _ => held = HeldSoFar::default(),
        }
        if let Some(state) = row.state {
            let ends = said == Some(FeedStage::Charging) && state == FeedStage::Holding;
            full |= ends || state == FeedStage::Full && said != Some(FeedStage::Full);
            said = Some(state);
        }
        if full && out_since >= ANEW * bank.c20 {
            all.push(at);
            out_since = 0.0;
        }
    }
    all
}
