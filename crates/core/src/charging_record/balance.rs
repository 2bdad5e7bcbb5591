//! What goes in and comes out: the charge factor from full to full, and how deep the bank is (CR-1).

use super::RecordedBank;
use super::span::Span;

/// Ah per 100 Ah of C20 that come out between two fulls which tell a charge factor.
const ENOUGH_OUT: f64 = 0.10;

/// Ah in and out between two fulls that tell a charge factor: enough came out, and nothing is unknown between.
pub(super) fn from_full_to_full(spans: &[Span<'_>], fulls: &[usize], bank: &RecordedBank) -> Vec<(f64, f64)> {
    let between = |pair: &[usize]| {
        let own = &spans[pair[0] + 1..=pair[1]];
        if own.iter().any(|span| span.after_gap || span.row.amperes.is_none()) {
            return None;
        }
        let sum = own.iter().map(Span::ampere_hours).fold((0.0, 0.0), |a, b| (a.0 + b.0, a.1 + b.1));
        (sum.1 >= ENOUGH_OUT * bank.c20).then_some(sum)
    };
    fulls.windows(2).filter_map(between).collect()
}

/// Share of C20 that is out, row by row: none before the first full and from a gap to the next one.
pub(super) fn depths(spans: &[Span<'_>], fulls: &[usize], bank: &RecordedBank) -> Vec<Option<f64>> {
    let mut out: Option<f64> = None;
    let mut next = fulls.iter().copied().peekable();
    spans
        .iter()
        .enumerate()
        .map(|(at, span)| {
            let unknown = span.after_gap || span.row.amperes.is_none();
            out = out.filter(|_| !unknown).map(|ah| {
                let (charged, drawn) = span.ampere_hours();
                (ah + drawn - charged / bank.returned()).max(0.0)
            });
            if next.next_if_eq(&at).is_some() {
                out = Some(0.0);
            }
            out.map(|ah| ah / bank.c20)
        })
        .collect()
}
