//! What the room must hear during a run.

use super::{Advice, Phase, RunNow};
use serde::{Deserialize, Serialize};

/// What the room must hear, the most pressing first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Alarm {
    /// The charger is to be stopped: by the rule, the cap or the heat.
    Stop,
    /// It is to be paused: too warm.
    Pause,
    /// The charger gives what is no equalize.
    Charger,
    /// A pause for a reading was perhaps forgotten.
    Resume,
    /// A reading is due.
    Reading,
}

impl RunNow {
    /// What the room must hear; none: nothing. Stop is heard in a pause too.
    pub fn alarm(&self) -> Option<Alarm> {
        let running = self.phase == Phase::Running;
        if !running && !matches!(self.phase, Phase::Paused { .. }) {
            return None;
        }
        match self.state.advice {
            advice if advice.stops() => Some(Alarm::Stop),
            Advice::Pause if running => Some(Alarm::Pause),
            _ if running && self.compliance.off_setpoint.is_some() => Some(Alarm::Charger),
            _ if self.pause_forgotten() => Some(Alarm::Resume),
            _ if self.reading_in.is_some_and(|left| left <= 0.0) => Some(Alarm::Reading),
            _ => None,
        }
    }

    /// Water that one cell lost at most, mL: parallel strings share the current (WA-1).
    pub fn water_a_cell(&self, strings: u8) -> f64 {
        crate::water::water_of(self.ampere_hours / f64::from(strings.max(1)), 1)
    }
}
