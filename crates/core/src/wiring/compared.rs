//! Currents of strings by a clamp meter, held against what the wiring explains.

use super::WiringShare;

/// What a clamp meter may be off by: this share of its reading, and so many A (common practice, no source).
pub const CLAMP_SHARE: f64 = 0.03;
/// A.
pub const CLAMP_FLAT: f64 = 0.3;

/// Clamped currents against what the wiring explains.
#[derive(Debug, Clone, PartialEq)]
pub struct ClampAgainst {
    /// A that the wiring explains, string by string, of the sum that was clamped.
    pub explained: Vec<f64>,
    /// The furthest that a string is off, A.
    pub furthest: f64,
    /// The string that is.
    pub string: u8,
    /// True where the meter explains every difference.
    pub agrees: bool,
}

/// Holds the currents of all strings against the shares of the wiring; none where one string is not clamped or nothing
/// flows.
pub fn against_clamp(wiring: &WiringShare, clamped: &[f64]) -> Option<ClampAgainst> {
    let sum: f64 = clamped.iter().sum();
    if clamped.len() != wiring.now.shares.len() || sum.abs() < f64::EPSILON {
        return None;
    }
    let explained: Vec<f64> = wiring.now.shares.iter().map(|share| share * sum).collect();
    let off = |i: usize| (clamped[i] - explained[i]).abs();
    let worst = (0..clamped.len()).max_by(|a, b| off(*a).total_cmp(&off(*b)))?;
    let told = |i: usize| CLAMP_SHARE.mul_add(clamped[i].abs(), CLAMP_FLAT);
    Some(ClampAgainst {
        furthest: off(worst),
        string: u8::try_from(worst).ok()?,
        agrees: (0..clamped.len()).all(|i| off(i) <= told(i) + 1e-9),
        explained,
    })
}
