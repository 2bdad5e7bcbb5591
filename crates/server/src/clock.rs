//! The time the application believes in: the machine's, or a fixed day for pictures and tests; for
//! watching a long run in minutes it can go faster.

use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use std::sync::atomic::{AtomicI64, Ordering};
use std::sync::{Arc, LazyLock};

/// When this process first looked at the time, seconds since the machine started.
static BEGAN: LazyLock<f64> = LazyLock::new(since_boot);

/// Seconds since the machine started, hours asleep among them: a charger does not sleep when the
/// laptop that watches it does.
#[cfg(target_os = "linux")]
fn since_boot() -> f64 {
    let at = rustix::time::clock_gettime(rustix::time::ClockId::Boottime);
    #[expect(clippy::cast_precision_loss, reason = "whole seconds up to centuries")]
    let whole = at.tv_sec as f64;
    #[expect(clippy::cast_precision_loss, reason = "under a milliard")]
    let part = at.tv_nsec as f64;
    whole + part / 1e9
}

/// Hours since start where the system does not tell them asleep too: hours asleep may be missing.
#[cfg(not(target_os = "linux"))]
fn since_boot() -> f64 {
    static FIRST: LazyLock<std::time::Instant> = LazyLock::new(std::time::Instant::now);
    FIRST.elapsed().as_secs_f64()
}

/// Where "now" comes from.
#[derive(Debug, Clone)]
pub struct Clock {
    fixed: Option<Date>,
    /// Where it began, for a clock that begins at a moment of its own.
    began: Option<Timestamp>,
    /// Seconds that pass in one.
    speed: f64,
    /// When it was made, for a clock that goes faster.
    made: Timestamp,
    /// The time and the seconds that had passed when it was made: from there the latest time is counted.
    from_time: Timestamp,
    from_seconds: f64,
    /// Milliseconds by which the hands were moved, as somebody sets the machine's clock.
    set: Arc<AtomicI64>,
    /// Milliseconds that were let pass at once, for tests that do not wait.
    passed: Arc<AtomicI64>,
}

impl Default for Clock {
    fn default() -> Self {
        Self::new(None)
    }
}

impl Clock {
    /// The machine's clock, or a fixed day that never ends.
    pub fn new(fixed: Option<Date>) -> Self {
        LazyLock::force(&BEGAN);
        let clock = Self {
            from_time: Timestamp::now(),
            from_seconds: since_boot() - *BEGAN,
            fixed,
            began: None,
            speed: 1.0,
            made: Timestamp::now(),
            set: Arc::default(),
            passed: Arc::default(),
        };
        Self { from_time: clock.now(), ..clock }
    }

    /// A clock that begins at a moment and goes on from there, into the next day too.
    pub fn starting(at: Timestamp) -> Self {
        Self { began: Some(at), from_time: at, ..Self::new(None) }
    }

    /// A clock that begins on a day at the present time of day, in UTC, and goes on from there.
    pub fn on(day: Date) -> Self {
        Self::starting(Self::new(Some(day)).now())
    }

    /// This clock, going so many times as fast from now on; 1 to 3600.
    #[must_use]
    pub fn faster(mut self, speed: f64) -> Self {
        self.speed = speed.clamp(1.0, 3600.0);
        self
    }

    /// Seconds that pass in one.
    pub fn speed(&self) -> f64 {
        self.speed
    }

    /// Lets time pass at once.
    pub fn pass(&self, seconds: i64) {
        self.passed.fetch_add(seconds * 1000, Ordering::SeqCst);
    }

    /// Moves the hands without time passing, as somebody does who sets the machine's clock.
    pub fn set_by(&self, seconds: i64) {
        self.set.fetch_add(seconds * 1000, Ordering::SeqCst);
    }

    /// Now, as an instant. On a fixed day the time of day still runs, in UTC.
    pub fn now(&self) -> Timestamp {
        let real = Timestamp::now();
        let run = real.duration_since(self.made).as_secs_f64() * (self.speed - 1.0);
        let moved = self.set.load(Ordering::SeqCst) + self.passed.load(Ordering::SeqCst);
        let ahead =
            SignedDuration::try_from_secs_f64(run).unwrap_or_default() + SignedDuration::from_millis(moved);
        let from = self
            .began
            .map_or(real, |began| began.checked_add(real.duration_since(self.made)).unwrap_or(began));
        let real = from.checked_add(ahead).unwrap_or(from);
        let fixed = self.fixed.and_then(|day| {
            let time = real.to_zoned_datetime(TimeZone::UTC).time();
            day.to_datetime(time).to_zoned_datetime(TimeZone::UTC).ok()
        });
        fixed.map_or(real, |zoned| zoned.timestamp())
    }

    /// Seconds that passed since this process began, whatever anybody sets the machine's clock to.
    pub fn seconds(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "milliseconds of a test are few")]
        let passed = self.passed.load(Ordering::SeqCst) as f64 / 1000.0;
        (since_boot() - *BEGAN) * self.speed + passed
    }

    /// The latest time that anybody's right clock can show: where the hands of this machine were moved
    /// back, as it would be had nobody moved them.
    pub fn latest(&self) -> Timestamp {
        let passed =
            SignedDuration::try_from_secs_f64(self.seconds() - self.from_seconds).unwrap_or_default();
        let steady = self.from_time.checked_add(passed).unwrap_or(self.from_time);
        self.now().max(steady).max(Timestamp::now())
    }

    /// Today, in UTC.
    pub fn today(&self) -> Date {
        self.now().to_zoned_datetime(TimeZone::UTC).date()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_fixed_day_keeps_its_date_and_time_still_passes() {
        let clock = Clock::new(Some("2026-10-08".parse().unwrap()));
        let (then, seconds) = (clock.now(), clock.seconds());
        clock.pass(90);
        assert_eq!(clock.today().to_string(), "2026-10-08");
        assert!(clock.seconds() - seconds >= 90.0);
        assert!(clock.now() != then);
    }

    #[test]
    fn a_day_that_is_begun_on_ends_and_the_next_one_comes() {
        let clock = Clock::on("2026-10-08".parse().unwrap());
        assert_eq!(clock.today().to_string(), "2026-10-08");
        clock.pass(86_400);
        assert_eq!(clock.today().to_string(), "2026-10-09");
    }

    #[test]
    fn hands_that_are_moved_back_make_no_right_clock_wrong() {
        let clock = Clock::starting("2100-10-08T09:00:00Z".parse().unwrap());
        clock.set_by(-3 * 86_400);
        let moved = clock.latest().duration_since(clock.now()).as_secs();
        assert!((moved - 3 * 86_400).abs() < 60, "{moved}");
        clock.set_by(3 * 86_400);
        clock.pass(3600);
        assert!(clock.latest().duration_since(clock.now()).as_secs() < 60);
    }

    #[test]
    fn hands_that_are_moved_let_no_time_pass() {
        let clock = Clock::new(None);
        let (then, seconds) = (clock.now(), clock.seconds());
        clock.set_by(7200);
        assert!(clock.now().duration_since(then).as_secs() >= 7200);
        assert!(clock.seconds() - seconds < 60.0);
    }
}
