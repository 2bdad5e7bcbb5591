//! Volts in every state of the bank, as a visit shows them.

use super::VisitContext;
use rainshadow_core::rest::VoltsState;
use rainshadow_core::visit::{Place, VoltsLine, volts_before, volts_by_state};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A state to choose.
#[derive(Debug, Serialize, ToSchema)]
pub struct StateChoice {
    /// Which.
    pub state: VoltsState,
    /// As said.
    pub said: &'static str,
    /// True where its hours are asked: since when it rests.
    pub has_hours: bool,
}

/// One reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct StateLine {
    /// Its entry.
    pub entry: String,
    /// Where: "the bank", "A1".
    pub place: String,
    /// The state with all that was noted: "with a small load (two lamps, 3.0 A)".
    pub state: String,
    /// Volts as shown.
    pub volts: String,
    /// Volts of six such cells, where it is no 12-volt place.
    pub per_twelve: Option<String>,
    /// What it tells: a charge, how long to wait, how far it fell.
    pub tells: String,
    /// "12.72 on 3 Oct"; none: never read so before.
    pub before: Option<String>,
    /// By whom and when.
    pub by: String,
}

/// The states there are, in the order of the trade.
pub(super) fn states() -> Vec<StateChoice> {
    let all = VoltsState::all().iter();
    all.map(|state| StateChoice {
        state: *state,
        said: wording::volts_state_name(*state),
        has_hours: state.is_rest(),
    })
    .collect()
}

impl VisitContext {
    /// What the same place showed in the same state on the last visit that read it.
    pub(super) fn before(&self, place: Place, state: VoltsState) -> Option<String> {
        let (day, volts) = volts_before(&self.past, place, state)?;
        Some(format!("{volts:.2} on {}", wording::short_day(day, self.today)))
    }

    /// How long to wait until volts that are not settled tell a charge.
    pub(super) fn wait(&self) -> Option<String> {
        let read = !self.sheet.battery_volts().is_empty() || !self.sheet.string_volts().is_empty();
        let wait = self.sheet.rested().filter(|_| read)?.wait(&self.rules)?;
        Some(format!("{}.", wording::sentence(&wording::wait_said(wait))))
    }

    /// Every reading of a state, in the order made.
    pub fn state_lines(&self) -> Vec<VoltsLine<'_>> {
        volts_by_state(&self.sheet, self.judged_by())
    }

    pub(super) fn by_state(&self) -> Vec<StateLine> {
        let lines = self.state_lines();
        let view = |line: &VoltsLine<'_>| StateLine {
            entry: line.entry.id.clone(),
            place: line.entry.place.said(),
            state: wording::sentence(&wording::volts_state_said(line)),
            volts: format!("{:.2} V", line.volts),
            per_twelve: (line.cells != 6).then(|| format!("{:.2} V on 12 V", line.per_twelve())),
            tells: wording::sentence(&wording::volts_tell(line)),
            before: self.before(line.entry.place, line.state),
            by: self.signed(line.entry),
        };
        lines.iter().map(view).collect()
    }
}
