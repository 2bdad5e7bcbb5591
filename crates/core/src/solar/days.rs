//! How days vary about the mean of their month: a beta distribution, in an order that is always the same.

use statrs::distribution::{Beta, ContinuousCDF};

/// The brightest day against a clear sky, and how far days scatter (CH-5; our choice, no source).
const BRIGHTEST: f64 = 1.08;
const SCATTER: f64 = 0.30;
/// Seed of the order (any number does: it is kept, so that a plan comes out the same twice).
const SEED: u64 = 0x5eed_0a1d;

/// So many days of a month of a clearness, each against the mean of them: 1 is a mean day. Their mean is 1.
pub fn clear_days(clearness: f64, days: u32, month: u64) -> Vec<f64> {
    let mean = (clearness / BRIGHTEST).clamp(0.01, 0.99);
    let most = 0.9 * (mean * (1.0 - mean)).sqrt();
    let scatter = (SCATTER / BRIGHTEST).min(most);
    let together = mean * (1.0 - mean) / (scatter * scatter) - 1.0;
    let Ok(beta) = Beta::new(mean * together, (1.0 - mean) * together) else {
        return (0..days).map(|_| 1.0).collect();
    };
    let at = |n: u32| beta.inverse_cdf((f64::from(n) + 0.5) / f64::from(days));
    let mut all: Vec<f64> = (0..days).map(at).collect();
    let of_them = all.iter().sum::<f64>() / f64::from(days.max(1));
    for own in &mut all {
        *own /= of_them;
    }
    shuffle(&mut all, SEED ^ month.wrapping_mul(0x9e37_79b9_7f4a_7c15));
    all
}

/// An order by chance that is always the same (xorshift, Marsaglia 2003).
fn shuffle(all: &mut [f64], seed: u64) {
    let mut state = seed | 1;
    for i in (1..all.len()).rev() {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        let Ok(j) = usize::try_from(state % (i as u64 + 1)) else { continue };
        all.swap(i, j);
    }
}
