//! Equalizing, in the order it is done: whether it is wanted, what a run needs, what is seen to before
//! it, how it goes, when it stops, and what it did.

mod after;
mod alarm;
mod before;
mod current;
mod day;
mod driven;
mod forecast;
mod plan;
mod question;
mod run;
mod silent;
mod stop;
mod timeline;
mod wanted;
mod watched;

pub use after::{CellAnswer, Outcome, REST_HOURS, RunAfter, judge_after};
pub use alarm::Alarm;
pub use before::BeforeCheck;
pub use current::feed_at;
pub use day::{DayPlan, DaySource, READING_PAUSE, plan_day};
pub use driven::{Astray, Driven, Meant};
pub use forecast::{LEAST_READINGS, RunForecast, Within, forecast};
pub use plan::{Expected, Load, PlanError, RunPlan, RunToPlan, plan_run};
pub use question::{NotThisBank, RunQuestion, moved, much_current, volts_on_charge, warmed};
pub use run::{
    EndWhy, FeedMinute, LoggedEntry, PauseWhy, Phase, RunEntry, RunFrame, RunNow, TakenReading, run_now,
};
pub use silent::{SilentCell, silent, silent_cells};
pub use stop::{
    ABORT_AT, Advice, LEAST_HOURS, PAUSE_AT, RESUME_BELOW, RISE_LEFT, RunKind, RunReading, RunState,
    judge_run,
};
pub use wanted::{BankToEqualize, HouseSays, LastRound, Reason, Wanted, wanted};
pub use watched::{WATCHED, pilot, watched};
