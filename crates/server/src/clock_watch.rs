//! Notices that somebody set the machine's clock while a run or a discharge is on: hours nobody waited must not end
//! it, and hours that passed must not be lost.

use crate::app::runs::note_clock_set;
use crate::app::visits::note_clock_set_in_discharges;
use crate::clock::Clock;
use crate::db::Db;
use std::time::Duration;

/// How often it is looked at.
const EVERY: Duration = Duration::from_secs(2);
/// A machine that keeps its clock right nudges it by less, s.
const NUDGED: f64 = 5.0;

/// Seconds by which the hands moved more than time passed since the last look.
struct Watch {
    wall: jiff::Timestamp,
    steady: f64,
}

impl Watch {
    fn new(clock: &Clock) -> Self {
        Self { wall: clock.now(), steady: clock.seconds() }
    }

    /// By how much the clock was set since the last look; none when it was not.
    fn look(&mut self, clock: &Clock) -> Option<f64> {
        let now = Self::new(clock);
        let moved = now.wall.duration_since(self.wall).as_secs_f64() - (now.steady - self.steady);
        *self = now;
        (moved.abs() > NUDGED * clock.speed()).then_some(moved)
    }
}

/// Watches until the server goes down.
pub async fn watch_clock(db: Db, clock: Clock) {
    let mut watch = Watch::new(&clock);
    loop {
        tokio::time::sleep(EVERY).await;
        if let Some(seconds) = watch.look(&clock) {
            tracing::warn!(seconds, "the clock of this machine was set");
            let (hours, now) = (seconds / 3600.0, clock.now());
            let noted = async {
                note_clock_set(&db, hours, now).await?;
                note_clock_set_in_discharges(&db, hours, now).await
            };
            if let Err(error) = noted.await {
                tracing::error!(%error, "not noted that the clock was set");
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_clock_that_is_set_is_noticed_once_and_time_that_passes_is_not() {
        let clock = Clock::new(None);
        let mut watch = Watch::new(&clock);
        assert_eq!(watch.look(&clock), None);
        clock.pass(3600);
        assert_eq!(watch.look(&clock), None);
        clock.set_by(-1800);
        let moved = watch.look(&clock).unwrap();
        assert!((moved + 1800.0).abs() < 1.0, "{moved}");
        assert_eq!(watch.look(&clock), None);
    }
}
