//! Whether a feed answers during a run, and what that asks of the room.

use super::{FeedStage, STOPPED_AFTER, Sample};
use crate::severity::Severity;

/// How a feed stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Answering {
    /// No charger is connected.
    NotConnected,
    /// One is, and has not answered yet.
    NotYet,
    /// It did answer and has stopped.
    Stopped {
        /// What it did at last.
        stage: Option<FeedStage>,
    },
    /// It answers.
    Answers {
        /// What it does.
        stage: Option<FeedStage>,
    },
    /// It answers, and says that it does not put the current of a run into the bank while the run is on.
    LeftRun {
        /// What it does.
        stage: FeedStage,
    },
}

impl Answering {
    /// From the last sample that counts and the seconds since; `runs` while a run is on.
    pub fn of(connected: bool, last: Option<(f64, &Sample)>, runs: bool) -> Self {
        match (connected, last) {
            (false, _) => Self::NotConnected,
            (true, None) => Self::NotYet,
            (true, Some((age, sample))) if age.abs() >= STOPPED_AFTER => {
                Self::Stopped { stage: sample.stage }
            }
            (true, Some((_, sample))) => match sample.stage {
                Some(stage) if runs && !stage.charges() => Self::LeftRun { stage },
                stage => Self::Answers { stage },
            },
        }
    }

    /// True while it answers.
    pub const fn is_live(self) -> bool {
        matches!(self, Self::Answers { .. } | Self::LeftRun { .. })
    }

    /// Its mark.
    pub const fn condition(self) -> Severity {
        match self {
            Self::NotConnected => Severity::NoReading,
            Self::NotYet | Self::Stopped { .. } | Self::LeftRun { .. } => Severity::Watch,
            Self::Answers { .. } => Severity::Steady,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn sample(stage: FeedStage) -> Sample {
        Sample { at: 0.0, volts: 62.0, amperes: 30.0, celsius: None, stage: Some(stage), heartbeat: None }
    }

    #[test]
    fn a_feed_stops_after_ten_seconds_and_never_before() {
        let own = sample(FeedStage::Charging);
        assert!(Answering::of(true, Some((9.9, &own)), true).is_live());
        let stopped = Answering::of(true, Some((10.0, &own)), true);
        assert_eq!(stopped, Answering::Stopped { stage: Some(FeedStage::Charging) });
        // a clock that was set back must not make an old sample new
        assert!(!Answering::of(true, Some((-3600.0, &own)), true).is_live());
    }

    #[test]
    fn a_charger_on_float_is_asked_about_only_while_a_run_is_on() {
        let own = sample(FeedStage::Holding);
        let during = Answering::of(true, Some((1.0, &own)), true);
        assert_eq!(
            (during, during.condition()),
            (Answering::LeftRun { stage: FeedStage::Holding }, Severity::Watch)
        );
        assert_eq!(Answering::of(true, Some((1.0, &own)), false).condition(), Severity::Steady);
    }

    #[test]
    fn without_a_charger_nothing_is_missed() {
        let own = sample(FeedStage::Charging);
        assert_eq!(Answering::of(false, Some((1.0, &own)), true).condition(), Severity::NoReading);
        assert_eq!(Answering::of(true, None, true).condition(), Severity::Watch);
    }
}
