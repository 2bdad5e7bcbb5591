//! A feed from a charger: samples as they come, and which of them count.
//!
//! A feed helps the technician watch; it never ends a run. What is wrong with it is said, and what it
//! sent then is kept, marked, and not counted.

mod answering;

pub use answering::Answering;

use serde::{Deserialize, Serialize};

/// Seconds without an answer after which a feed has stopped (common practice, no source).
pub const STOPPED_AFTER: f64 = 10.0;
/// Seconds of the very same figures with a heartbeat that stands after which it repeats itself (common
/// practice, no source).
pub const REPEATS_AFTER: f64 = 30.0;
/// Volts a cell that a charger can report (common practice, no source).
const VOLTS_A_CELL: std::ops::RangeInclusive<f64> = 1.0..=3.0;
/// Temperatures that a battery sensor can report, °C (common practice, no source).
const CELSIUS: std::ops::RangeInclusive<f64> = -40.0..=90.0;
/// A step from one sample to the next that no bank makes: volts a cell, and share of C20 (common
/// practice, no source).
const STEP: (f64, f64) = (0.15, 0.25);
/// Samples in a row on a new level after which it was no jump: the charger changed its stage.
const SETTLES: u8 = 3;

/// What the charger says it does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FeedStage {
    /// Off.
    Off,
    /// Empty.
    Empty,
    /// Discharging.
    Discharging,
    /// Charging: bulk, absorption or equalize.
    Charging,
    /// Full.
    Full,
    /// Holding: float.
    Holding,
    /// Testing.
    Testing,
}

impl FeedStage {
    /// As said.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Off => "off",
            Self::Empty => "empty",
            Self::Discharging => "discharging",
            Self::Charging => "charging",
            Self::Full => "full",
            Self::Holding => "holding (float)",
            Self::Testing => "testing",
        }
    }

    /// True while it puts the current of a run into the bank.
    pub const fn charges(self) -> bool {
        matches!(self, Self::Charging | Self::Testing)
    }
}

/// One sample.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sample {
    /// Seconds from any beginning, the same for all samples of a feed.
    pub at: f64,
    /// Volts of the bank.
    pub volts: f64,
    /// Current of the bank, A; charge positive.
    pub amperes: f64,
    /// Temperature at the battery sensor, °C.
    pub celsius: Option<f64>,
    /// What the charger does.
    pub stage: Option<FeedStage>,
    /// Its heartbeat, which counts up.
    pub heartbeat: Option<u16>,
}

/// What a sample is worth.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Mark {
    /// It counts.
    Good,
    /// Figures that repeat, with a heartbeat that stands.
    Repeats,
    /// A step that no bank makes; counts once three samples stand there.
    Jumps,
    /// Figures that no such bank shows.
    Nonsense,
}

impl Mark {
    /// Stable name, for the database.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Good => "good",
            Self::Repeats => "repeats",
            Self::Jumps => "jumps",
            Self::Nonsense => "nonsense",
        }
    }
}

/// Looks at the samples of one feed as they come.
#[derive(Debug, Clone)]
pub struct FeedWatch {
    cells: f64,
    capacity: f64,
    good: Option<Sample>,
    /// Samples in a row that stand off the last good one, and the last of them.
    off: Option<(u8, Sample)>,
    /// The last sample whatever it was worth, and since when it has been the same.
    last: Option<(Sample, f64)>,
}

impl FeedWatch {
    /// For a bank of so many cells in series and so many Ah.
    pub fn new(cells: u16, capacity: f64) -> Self {
        Self {
            cells: f64::from(cells.max(1)),
            capacity: capacity.max(1.0),
            good: None,
            off: None,
            last: None,
        }
    }

    fn sense(&self, s: &Sample) -> bool {
        s.volts.is_finite()
            && s.amperes.is_finite()
            && VOLTS_A_CELL.contains(&(s.volts / self.cells))
            && s.amperes.abs() <= self.capacity
            && s.celsius.is_none_or(|c| CELSIUS.contains(&c))
    }

    fn near(&self, a: &Sample, b: &Sample) -> bool {
        (a.volts - b.volts).abs() / self.cells <= STEP.0
            && (a.amperes - b.amperes).abs() <= STEP.1 * self.capacity
    }

    /// Seconds since when the sample has been the very same.
    fn same_since(&mut self, s: &Sample) -> f64 {
        let same = |a: &Sample| {
            a.volts.to_bits() == s.volts.to_bits()
                && a.amperes.to_bits() == s.amperes.to_bits()
                && a.celsius.map(f64::to_bits) == s.celsius.map(f64::to_bits)
                && a.heartbeat == s.heartbeat
        };
        let since = self.last.filter(|(last, _)| same(last)).map_or(s.at, |(_, since)| since);
        self.last = Some((*s, since));
        (s.at - since).max(0.0)
    }

    /// What a sample is worth.
    pub fn judge(&mut self, sample: &Sample) -> Mark {
        let same_for = self.same_since(sample);
        if !self.sense(sample) {
            return Mark::Nonsense;
        }
        // A charger without a heartbeat may well show the same figures for a while.
        if sample.heartbeat.is_some() && same_for >= REPEATS_AFTER {
            return Mark::Repeats;
        }
        let Some(good) = self.good else {
            self.good = Some(*sample);
            return Mark::Good;
        };
        // After a silence nobody knows what happened in between.
        if self.near(&good, sample) || sample.at - good.at > STOPPED_AFTER {
            (self.good, self.off) = (Some(*sample), None);
            return Mark::Good;
        }
        let run = match self.off {
            Some((n, last)) if self.near(&last, sample) => n + 1,
            _ => 1,
        };
        if run >= SETTLES {
            (self.good, self.off) = (Some(*sample), None);
            return Mark::Good;
        }
        self.off = Some((run, *sample));
        Mark::Jumps
    }

    /// The last sample that counts.
    pub fn good(&self) -> Option<Sample> {
        self.good
    }
}
