//! The day the application believes in: the machine's, or a fixed one for pictures and tests.

use jiff::Timestamp;
use jiff::civil::Date;

/// Where "now" comes from.
#[derive(Debug, Clone, Copy, Default)]
pub struct Clock {
    fixed: Option<Date>,
}

impl Clock {
    /// The machine's clock, or a fixed day that never ends.
    pub fn new(fixed: Option<Date>) -> Self {
        Self { fixed }
    }

    /// Now, as an instant. On a fixed day the time of day still runs, in UTC.
    pub fn now(self) -> Timestamp {
        let real = Timestamp::now();
        let fixed = self.fixed.and_then(|day| {
            let time = real.to_zoned_datetime(jiff::tz::TimeZone::UTC).time();
            day.to_datetime(time).to_zoned_datetime(jiff::tz::TimeZone::UTC).ok()
        });
        fixed.map_or(real, |zoned| zoned.timestamp())
    }

    /// Today, in UTC.
    pub fn today(self) -> Date {
        self.now().to_zoned_datetime(jiff::tz::TimeZone::UTC).date()
    }
}
