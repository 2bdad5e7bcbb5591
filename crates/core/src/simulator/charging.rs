//! How a charging current parts into what charges and what gasses.

/// Gassing by volts: Tafel's law around 2.23 V.
const TAFEL: f64 = 11.0;
const TAFEL_AT: f64 = 2.23;

/// How much more gasses at volts per cell than at [`TAFEL_AT`].
pub(super) fn tafel(volts: f64) -> f64 {
    (TAFEL * (volts - TAFEL_AT)).exp()
}

/// The two ways a charging current goes at some volts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Charging {
    pub(super) rest: f64,
    pub(super) resistance: f64,
    pub(super) gassing: f64,
}

impl Charging {
    pub(super) fn gas(&self, volts: f64) -> f64 {
        self.gassing * tafel(volts)
    }

    /// No more than the lower of the volts at which either way alone would take it all.
    #[cold]
    #[inline(never)]
    fn most(&self, current: f64) -> f64 {
        let main = self.rest + current * self.resistance;
        if current > 0.0 { main.min(TAFEL_AT + (current / self.gassing).ln() / TAFEL) } else { main }
    }

    /// Volts at which main and gassing current together are `current`, 1/h, and how fast they rise
    /// with it. From above, Newton's steps on a convex curve never pass the solution; from a guess
    /// below it the first one goes too far up, and is held to the bound.
    pub(super) fn solve(&self, current: f64, guess: f64) -> (f64, f64) {
        let mut volts = if guess > self.rest { guess } else { self.most(current) };
        let conductance = 1.0 / self.resistance;
        let mut slope = conductance;
        for _ in 0..30 {
            let gas = self.gas(volts);
            slope = conductance + TAFEL * gas;
            let step = ((volts - self.rest) * conductance + gas - current) / slope;
            volts -= step;
            // What is left of the error is about ten times the square of the step.
            if step.abs() < 1e-5 {
                break;
            }
            if step.abs() > 0.02 {
                volts = volts.min(self.most(current));
            }
        }
        (volts, 1.0 / slope)
    }
}
