//! A small reproducible source of chance: the same demo on every machine.

/// xorshift64*.
pub(super) struct Noise(u64);

impl Noise {
    /// From a seed.
    pub(super) fn new(seed: u64) -> Self {
        Self(seed | 1)
    }

    fn bits(&mut self) -> u64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        self.0.wrapping_mul(0x2545_f491_4f6c_dd1d)
    }

    /// A normal number, mean 0, standard deviation 1 (sum of twelve uniform ones).
    pub(super) fn normal(&mut self) -> f64 {
        let uniform = |bits: u64| f64::from(u32::try_from(bits >> 32).unwrap_or(0)) / f64::from(u32::MAX);
        (0..12).map(|_| uniform(self.bits())).sum::<f64>() - 6.0
    }

    /// An id.
    pub(super) fn id(&mut self) -> String {
        let mut bytes = [0u8; 16];
        bytes[..8].copy_from_slice(&self.bits().to_be_bytes());
        bytes[8..].copy_from_slice(&self.bits().to_be_bytes());
        uuid::Builder::from_random_bytes(bytes).into_uuid().to_string()
    }
}

/// A number between −1 and 1 that always belongs to the same cell: cells differ a little for life.
pub(super) fn character(cell: &str) -> f64 {
    let mut hash = cell.bytes().fold(0x811c_9dc5_u32, |h, b| (h ^ u32::from(b)).wrapping_mul(0x0100_0193));
    // Names that differ in their last letter alone lie far apart.
    hash = (hash ^ (hash >> 16)).wrapping_mul(0x85eb_ca6b);
    hash = (hash ^ (hash >> 13)).wrapping_mul(0xc2b2_ae35);
    hash ^= hash >> 16;
    f64::from(hash) / f64::from(u32::MAX) * 2.0 - 1.0
}
