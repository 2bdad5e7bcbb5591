//! EQ-4: does the gravity of a run still rise, has it started to, does it fall? By hours, not by counts of
//! readings.

/// Hours before which no rise of gravity ends a run (EQ-4, common practice, no source).
pub const LEAST_HOURS: f64 = 2.5;
/// A reading as the rules see it: hours on equalize, points over 1.000.
pub(super) type At = (f64, f64);

/// Hours that the slope is taken over.
pub const WINDOW_HOURS: f64 = 2.0;
/// Readings in that window, and the hours they span, before it says anything.
const LEAST_READINGS: usize = 4;
const LEAST_SPAN: f64 = 1.5;
/// A rise of so much that ends a run, points an hour (EQ-4: by simulation it leaves 2 to 3.4 points).
pub const SLOPE_LEFT: f64 = 1.33;
/// Points that the curve through all readings may still have to come.
pub(super) const POINTS_LEFT: f64 = 4.0;
/// Hours after which a cell that has not started may be given up.
pub const STARTS_BY: f64 = 4.0;
/// A cell this near to full need not rise, points.
const NEAR_FULL: f64 = 20.0;
/// Times of onset and time constants that are tried, h.
const ONSETS: f64 = 0.5;
const TAUS: (f64, f64, u32) = (0.25, 20.0, 40);
/// A gravity that falls by no more than this does not, points.
const FALLS_BY: f64 = 2.0;

fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

fn mean(values: impl Iterator<Item = f64>) -> Option<(f64, usize)> {
    let (sum, n) = values.fold((0.0, 0), |(sum, n), v| (sum + v, n + 1));
    (n > 0).then(|| (sum / count(n), n))
}

/// Mean of the first hour and of the last, with how many readings each has.
fn ends(readings: &[At]) -> Option<((f64, usize), (f64, usize))> {
    let (first, last) = (readings.first()?.0, readings.last()?.0);
    let early = mean(readings.iter().filter(|r| r.0 <= first + 1.0 + 1e-9).map(|r| r.1))?;
    let late = mean(readings.iter().filter(|r| r.0 >= last - 1.0 - 1e-9).map(|r| r.1))?;
    Some((early, late))
}

/// Slope over the last two hours and its standard error, points an hour; none while too little was read.
/// `noise` is the standard uncertainty of the mean that is read, points.
pub(super) fn slope(readings: &[At], noise: f64) -> Option<(f64, f64)> {
    let last = readings.last()?.0;
    let window: Vec<At> = readings.iter().copied().filter(|r| r.0 >= last - WINDOW_HOURS - 1e-9).collect();
    if window.len() < LEAST_READINGS || last - window[0].0 < LEAST_SPAN - 1e-9 {
        return None;
    }
    let n = count(window.len());
    let (t, g) = window.iter().fold((0.0, 0.0), |(t, g), r| (t + r.0 / n, g + r.1 / n));
    let tt: f64 = window.iter().map(|r| (r.0 - t).powi(2)).sum();
    let tg: f64 = window.iter().map(|r| (r.0 - t) * (r.1 - g)).sum();
    Some((tg / tt, noise / tt.sqrt()))
}

/// Points that are still to come by the curve that fits best: flat until it starts, then towards its plateau.
pub(super) fn to_come(readings: &[At]) -> Option<f64> {
    let last = readings.last()?.0;
    let latest = STARTS_BY.min(last - LEAST_SPAN).max(0.0);
    let ratio = (TAUS.1 / TAUS.0).powf(1.0 / f64::from(TAUS.2));
    let onsets = (0..=8u32).map(|i| f64::from(i) * ONSETS).filter(|t| *t <= latest + 1e-9);
    let n = count(readings.len());
    let mut best: Option<(f64, f64)> = None;
    for onset in onsets {
        for tau in (0..=TAUS.2).map(|i| TAUS.0 * ratio.powf(f64::from(i))) {
            let x = |t: f64| 1.0 - (-(t - onset).max(0.0) / tau).exp();
            let (mx, my) = readings.iter().fold((0.0, 0.0), |(a, b), r| (a + x(r.0) / n, b + r.1 / n));
            let (xx, xy) = readings.iter().fold((0.0, 0.0), |(a, b), r| {
                let d = x(r.0) - mx;
                (a + d * d, b + d * (r.1 - my))
            });
            if xx < 1e-12 {
                continue;
            }
            let rise = (xy / xx).max(0.0);
            let start = my - rise * mx;
            let error: f64 = readings.iter().map(|r| (r.1 - start - rise * x(r.0)).powi(2)).sum();
            if best.is_none_or(|(least, _)| error < least - 1e-9) {
                best = Some((error, rise * (1.0 - x(last))));
            }
        }
    }
    best.map(|(_, left)| left)
}

/// True when the rule ends the run: long enough, flat by the last two hours, and little to come by the curve.
pub(super) fn is_done(readings: &[At], noise: f64) -> bool {
    let long = readings.last().is_some_and(|r| r.0 >= LEAST_HOURS - 1e-9);
    let flat = slope(readings, noise).is_some_and(|(slope, error)| slope + error / 2.0 <= SLOPE_LEFT);
    long && flat && to_come(readings).is_some_and(|left| left <= POINTS_LEFT)
}

/// True for a cell that is well under full and has not started to rise. `noise` is of one cell, points.
pub(super) fn does_not_answer(readings: &[At], full: f64, noise: f64) -> bool {
    let Some(((early, n1), (late, n2))) = ends(readings) else { return false };
    let gap = full - early;
    let told = 3.0 * noise * (1.0 / count(n1) + 1.0 / count(n2)).sqrt();
    full - late > NEAR_FULL && late - early < told.max(gap / 4.0)
}

/// True when the gravity falls by more than the readings scatter. `noise` is of the mean, points.
pub(super) fn falls(readings: &[At], noise: f64) -> bool {
    let Some(((early, n1), (late, n2))) = ends(readings) else { return false };
    let told = 2.0 * noise * (1.0 / count(n1) + 1.0 / count(n2)).sqrt();
    early - late > FALLS_BY.max(told)
}
