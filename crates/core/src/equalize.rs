//! Equalizing: what a run needs, and when it is to be paused, stopped, or read again.

mod plan;
mod stop;

pub use plan::{Expected, Load, PlanError, RunPlan, RunToPlan, plan_run};
pub use stop::{
    ABORT_AT, Advice, LEAST_HOURS, PAUSE_AT, RESUME_BELOW, RISE_LEFT, RunKind, RunReading, RunState,
    judge_run,
};
