//! Equalizing, in the order it is done: whether it is wanted, what a run needs, what is seen to before
//! it, how it goes, when it stops, and what it did.

mod accept;
mod after;
mod alarm;
mod before;
mod compliance;
mod current;
mod day;
mod forecast;
mod frame;
mod non_responding;
mod plan;
mod question;
mod rising;
mod run;
mod run_log;
mod stop;
mod timeline;
mod wanted;
mod watched;

pub use accept::{RunEntryQuestion, RunRefused, RunUnderWay, TAKE_BACK, accept};
pub use after::{CellAnswer, Outcome, REST_HOURS, RunAfter, judge_after};
pub use alarm::Alarm;
pub use before::BeforeCheck;
pub use compliance::{Compliance, Meant, OffSetpoint};
pub use current::feed_at;
pub use day::{DayPlan, DaySource, READING_PAUSE, plan_day};
pub use forecast::{LEAST_READINGS, RunForecast, Within, forecast};
pub use frame::RunFrame;
pub use non_responding::{NonRespondingCell, non_responding, non_responding_cells};
pub use plan::{Expected, Load, PlanError, RunPlan, RunToPlan, plan_run};
pub use question::{NotThisBank, RunQuestion, moved, much_current, volts_on_charge, warmed};
pub use rising::{LEAST_HOURS, SLOPE_LEFT, STARTS_BY, WINDOW_HOURS};
pub use run::{RunNow, run_now};
pub use run_log::{EndWhy, FeedMinute, LoggedEntry, PauseWhy, Phase, RunEntry, TakenReading};
pub use stop::{
    ABORT_AT, Advice, PAUSE_AT, RESUME_BELOW, RunKind, RunReading, RunSoFar, RunState, judge_run,
};
pub use wanted::{BankToEqualize, HouseSays, LastRound, Reason, Wanted, wanted};
pub use watched::{WATCHED, pilot, watched};
