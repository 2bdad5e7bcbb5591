//! What the charger's feed says during a run.

use super::view::FeedView;
use crate::http::run_case::RunCase;
use rainshadow_core::equalize::Phase;
use rainshadow_core::feed::STOPPED_AFTER;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::Condition;

impl RunCase {
    pub(super) fn feed(&self, connected: bool, pace: f64, units: ReaderUnits) -> FeedView {
        let quiet = |said: &str, condition| FeedView {
            connected,
            live: false,
            said: said.into(),
            condition,
            marked: self.marked,
            volts: String::new(),
            amperes: String::new(),
            temperature: String::new(),
        };
        let Some((at, sample)) = &self.last else {
            return if connected {
                quiet("The charger has not answered yet. Type what its display shows.", Condition::Watch)
            } else {
                quiet("No feed from the charger: type what its display shows.", Condition::NoReading)
            };
        };
        let age = self.at.duration_since(*at).as_secs_f64() / pace.max(1.0);
        let live = connected && (0.0..STOPPED_AFTER).contains(&age.abs());
        let stage = sample.stage.map(|s| format!(", {}", s.word())).unwrap_or_default();
        let away = sample.stage.filter(|s| live && !s.charges() && self.now.phase == Phase::Running);
        let marked = if self.marked > 0 {
            format!(" {} samples of this run did not count.", self.marked)
        } else {
            String::new()
        };
        let (said_, condition) = match (live, away) {
            (true, Some(stage)) => (
                format!("The charger says it is {}: has it left equalize?{marked}", stage.word()),
                Condition::Watch,
            ),
            (true, None) => (format!("The charger answers{stage}.{marked}"), Condition::Steady),
            (false, _) if connected => (
                format!(
                    "The charger has stopped answering; it last did at {}{stage}. The run goes on: type what its display shows.{marked}",
                    self.time(*at)
                ),
                Condition::Watch,
            ),
            (false, _) => {
                return quiet("No feed from the charger: type what its display shows.", Condition::NoReading);
            }
        };
        FeedView {
            connected,
            live,
            said: said_,
            condition,
            marked: self.marked,
            volts: format!("{:.1}", sample.volts),
            amperes: format!("{:.1}", sample.amperes),
            temperature: sample.celsius.map(|c| super::said(c, units)).unwrap_or_default(),
        }
    }
}
