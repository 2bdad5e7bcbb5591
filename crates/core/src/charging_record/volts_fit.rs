//! Whether the volts of a record are those of the bank at all.

use super::{MinuteRow, RecordError, RecordedBank};

/// Volts a cell that a bank can stand at, least and most.
const STANDS: (f64, f64) = (1.5, 2.75);
/// Volts are counted by tenths.
const TENTHS: f64 = 10.0;

/// Counts the volts of rows as they come.
#[derive(Debug, Clone, Default)]
pub struct VoltsWatch {
    /// How many, by tenths of a volt.
    counts: Vec<u32>,
    all: u64,
}

impl VoltsWatch {
    /// Takes the next row.
    pub fn push(&mut self, row: &MinuteRow) {
        let Some(volts) = row.volts.filter(|own| (0.0..10_000.0).contains(own)) else { return };
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 100,000")]
        let at = (volts * TENTHS).round() as usize;
        if self.counts.len() <= at {
            self.counts.resize(at + 1, 0);
        }
        self.counts[at] = self.counts[at].saturating_add(1);
        self.all += 1;
    }

    /// The middle of them, to a tenth of a volt; none: no volts were told.
    fn median(&self) -> Option<f64> {
        let mut seen = 0;
        let at = self.counts.iter().position(|count| {
            seen += u64::from(*count);
            seen > self.all / 2
        })?;
        Some(f64::from(u32::try_from(at).unwrap_or(u32::MAX)) / TENTHS)
    }

    /// Whether a bank like this can stand there half of the time.
    ///
    /// # Errors
    /// [`RecordError::OtherBank`] where it cannot.
    pub fn check(&self, bank: &RecordedBank) -> Result<(), RecordError> {
        let Some(median) = self.median() else { return Ok(()) };
        let (low, high) = (STANDS.0 * bank.in_series(), STANDS.1 * bank.in_series());
        if (low..=high).contains(&median) {
            return Ok(());
        }
        Err(RecordError::OtherBank { median, cells: bank.cells, low, high })
    }
}
