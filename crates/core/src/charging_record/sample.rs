//! Samples as monitors, controllers and inverters write them, thinned to rows of a minute.

use crate::feed::FeedStage;
use crate::quantity::{OutOfRange, bounds};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};

/// Times C20 an hour that no bank takes or gives: a counter that moves so far was set, not counted (our choice, no source).
const NO_CURRENT: f64 = 5.0;

/// A sample of a source; what it does not tell is none.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RecordSample {
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub at: Timestamp,
    /// Volts of the bank.
    #[serde(default)]
    pub volts: Option<f64>,
    /// Amperes into the bank: less than zero on discharge.
    #[serde(default)]
    pub amperes: Option<f64>,
    /// A counter of ampere-hours that rises on charge; taken where no amperes are told.
    #[serde(default)]
    pub ampere_hours: Option<f64>,
    /// °C at the bank.
    #[serde(default)]
    pub celsius: Option<f64>,
    /// What the source says it does.
    #[serde(default)]
    pub state: Option<FeedStage>,
}

impl RecordSample {
    /// The sample, where all its figures can be; else which of them cannot.
    ///
    /// # Errors
    /// The field, and what is accepted there.
    pub fn checked(&self) -> Result<(), (&'static str, OutOfRange)> {
        let told = [
            ("volts", self.volts, bounds::RECORD_VOLTS),
            ("amperes", self.amperes, bounds::RECORD_CURRENT),
            ("ampere_hours", self.ampere_hours, bounds::RECORD_COUNTER),
            ("celsius", self.celsius, bounds::RECORD_TEMPERATURE),
        ];
        let odd = |(field, value, range): (&'static str, Option<f64>, bounds::Bounds)| {
            value.and_then(|own| range.check(own).err()).map(|why| (field, why))
        };
        told.into_iter().find_map(odd).map_or(Ok(()), Err)
    }
}

/// A minute of the record: means of what was told in it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct MinuteRow {
    /// Minutes since 1970, UTC.
    pub minute: i64,
    /// Volts of the bank.
    pub volts: Option<f64>,
    /// Amperes into the bank.
    pub amperes: Option<f64>,
    /// °C.
    pub celsius: Option<f64>,
    /// What the source said last.
    pub state: Option<FeedStage>,
}

/// A mean that grows.
#[derive(Debug, Clone, Copy, Default)]
struct Mean(f64, f64);

impl Mean {
    fn add(&mut self, own: Option<f64>) {
        if let Some(own) = own.filter(|own| own.is_finite()) {
            *self = Self(self.0 + own, self.1 + 1.0);
        }
    }

    fn value(self) -> Option<f64> {
        (self.1 > 0.0).then(|| self.0 / self.1)
    }
}

/// Thins samples to rows of a minute as they come, the oldest first (or all the newest first). What goes against that is
/// counted and left out.
#[derive(Debug, Clone)]
pub struct Thinner {
    c20: f64,
    rows: Vec<MinuteRow>,
    minute: i64,
    means: [Mean; 3],
    state: Option<FeedStage>,
    begun: bool,
    newest_first: bool,
    last: Option<RecordSample>,
    /// Samples that lay on the wrong side of the one before them: a clock that was set back, or two of them.
    pub backwards: u64,
    /// Times that a counter of ampere-hours was set.
    pub counter_set: u64,
}

impl Thinner {
    /// Of a bank of so many Ah at twenty hours.
    pub const fn new(c20: f64) -> Self {
        Self {
            c20,
            rows: Vec::new(),
            minute: 0,
            means: [Mean(0.0, 0.0); 3],
            state: None,
            begun: false,
            newest_first: false,
            last: None,
            backwards: 0,
            counter_set: 0,
        }
    }

    /// The same of a file that begins with the newest sample.
    #[must_use]
    pub const fn newest_first(mut self) -> Self {
        self.newest_first = true;
        self
    }

    /// Amperes of a sample, by its counter where it tells none.
    fn amperes(&mut self, own: &RecordSample) -> Option<f64> {
        let counted =
            own.ampere_hours.zip(self.last.as_ref().and_then(|last| Some((last.ampere_hours?, last.at))));
        if own.amperes.is_some() {
            return own.amperes;
        }
        let (now, (before, at)) = counted?;
        let hours = own.at.duration_since(at).as_secs_f64() / 3600.0;
        let amperes = (now - before) / hours;
        if hours == 0.0 || amperes.abs() > NO_CURRENT * self.c20 {
            self.counter_set += 1;
            return None;
        }
        Some(amperes)
    }

    /// Takes the next sample.
    pub fn push(&mut self, own: &RecordSample) {
        let against = |last: RecordSample| {
            if self.newest_first { own.at > last.at } else { own.at < last.at }
        };
        if self.last.is_some_and(against) {
            self.backwards += 1;
            return;
        }
        let minute = own.at.as_second().div_euclid(60);
        if !self.begun || minute != self.minute {
            self.close();
            (self.minute, self.begun) = (minute, true);
        }
        let amperes = self.amperes(own);
        for (mean, value) in self.means.iter_mut().zip([own.volts, amperes, own.celsius]) {
            mean.add(value);
        }
        self.state = own.state.or(self.state);
        self.last = Some(*own);
    }

    fn close(&mut self) {
        if !self.begun {
            return;
        }
        let [volts, amperes, celsius] = self.means.map(Mean::value);
        let state = self.state.take();
        self.rows.push(MinuteRow { minute: self.minute, volts, amperes, celsius, state });
        self.means = [Mean::default(); 3];
    }

    /// Rows that are whole by now, in the order of the file; they are handed over once.
    pub fn whole_rows(&mut self) -> Vec<MinuteRow> {
        std::mem::take(&mut self.rows)
    }

    /// All rows that were not handed over, in the order of the file.
    pub fn rows(mut self) -> Vec<MinuteRow> {
        self.close();
        self.rows
    }
}
