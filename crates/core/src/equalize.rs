//! Equalizing: when a run under way is to be paused, stopped, or read again.

mod stop;

pub use stop::{
    ABORT_AT, Advice, LEAST_HOURS, PAUSE_AT, RESUME_BELOW, RISE_LEFT, RunKind, RunReading, RunState,
    judge_run,
};
