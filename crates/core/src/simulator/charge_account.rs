//! Where the ampere-hours went.

/// Ampere-hours of one cell since it began. What was charged is what was stored, gassed, lost by
/// itself and drawn: conservation is a law, not a result.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct ChargeAccount {
    /// Put in.
    pub charged: f64,
    /// Taken out.
    pub discharged: f64,
    /// Split water or, recombined, made heat.
    pub gassed: f64,
    /// Lost by self-discharge.
    pub self_discharged: f64,
    /// Asked for below empty or above full, where the model holds: none in proper use.
    pub beyond: f64,
}
