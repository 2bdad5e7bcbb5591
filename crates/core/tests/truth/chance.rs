//! Chance for made banks: reproducible, and shared with nothing that judges.

/// The generator `SplitMix64`.
#[derive(Debug, Clone)]
pub struct Chance(u64);

impl Chance {
    /// From a seed.
    pub fn new(seed: u64) -> Self {
        Self(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) ^ 0x5851_f42d_4c95_7f2d)
    }

    fn bits(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    /// From 0 up to 1.
    pub fn unit(&mut self) -> f64 {
        f64::from(u32::try_from(self.bits() >> 32).unwrap_or(0)) / 4_294_967_296.0
    }

    /// Between two values.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    /// A whole number under `n`.
    pub fn below(&mut self, n: usize) -> usize {
        usize::try_from(self.bits() % u64::try_from(n.max(1)).unwrap_or(1)).unwrap_or(0)
    }

    /// One of several.
    pub fn one_of<T: Copy>(&mut self, all: &[T]) -> T {
        all[self.below(all.len())]
    }

    /// A normal number, mean 0, standard deviation 1 (Box and Muller).
    pub fn normal(&mut self) -> f64 {
        let (a, b) = (self.unit().max(1e-12), self.unit());
        (-2.0 * a.ln()).sqrt() * (std::f64::consts::TAU * b).cos()
    }
}
