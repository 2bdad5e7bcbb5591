//! What the charger's feed says during a run.

use super::view::FeedView;
use crate::app::run_context::RunContext;
use rainshadow_core::equalize::Phase;
use rainshadow_core::feed::Answering;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;

impl RunContext {
    pub(super) fn feed(&self, connected: bool, pace: f64, units: ReaderUnits) -> FeedView {
        let age = |at| self.at.duration_since(at).as_secs_f64() / pace.max(1.0);
        let last = self.last.as_ref().map(|(at, sample)| (age(*at), sample));
        let state = Answering::of(connected, last, self.now.phase == Phase::Running);
        let at = self.last.as_ref().map(|(at, _)| self.time(*at)).unwrap_or_default();
        // Figures of a charger that is not connected any more are nobody's.
        let sample = self.last.as_ref().map(|(_, sample)| sample).filter(|_| connected);
        FeedView {
            connected,
            live: state.is_live(),
            said: wording::feed_said(state, &at, self.marked),
            condition: state.condition(),
            marked: self.marked,
            volts: sample.map(|s| format!("{:.1}", s.volts)).unwrap_or_default(),
            amperes: sample.map(|s| format!("{:.1}", s.amperes)).unwrap_or_default(),
            temperature: sample
                .and_then(|s| s.celsius)
                .map(|c| wording::degrees(c, units))
                .unwrap_or_default(),
        }
    }
}
