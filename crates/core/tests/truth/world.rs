//! How hard the world of made banks is: instruments, what the eye catches, how bad faults are. Judgement, no source.

/// A world that banks live in.
#[derive(Debug, Clone, Copy)]
pub struct World {
    /// Power that how bad a fault is is raised to: over 1, milder.
    pub mildness: f64,
    /// Scatter of readings, and bias of hydrometers, times the usual.
    pub scatter: f64,
    pub bias: f64,
    /// How often what is there is seen, and what is not there is, times the usual.
    pub seen: f64,
    pub mistaken: f64,
    /// Drawn a day, share of the capacity, from and to.
    pub draw: [f64; 2],
}

impl World {
    /// The one that figures are told of.
    pub const USUAL: Self =
        Self { mildness: 1.0, scatter: 1.0, bias: 1.0, seen: 1.0, mistaken: 1.0, draw: [0.16, 0.34] };
    /// One that nothing was settled on: milder faults, poorer instruments, eyes that err more.
    pub const HARDER: Self =
        Self { mildness: 1.6, scatter: 1.7, bias: 1.75, seen: 0.8, mistaken: 2.0, draw: [0.12, 0.45] };
}
