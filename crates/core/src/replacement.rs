//! RP-1, RP-2 and SM-2: one battery is failing. New one, used match, drop a string, whole bank, or wait: what each costs over
//! one horizon, how long it lasts, and what a mixed string does at the end of its charges.

mod asked;
mod best;
mod cost;
mod mismatch;
mod options;

pub use asked::{ReplacementAsked, ReplacementError, ReplacementPrices, UsedKind};
pub use best::best_option;
pub use cost::{CostOver, cost_over};
pub use mismatch::{MismatchAsked, MismatchBattery, MismatchDay, MismatchRun, end_of_charge, mismatch};
pub use options::{MISMATCH_DAYS, Refused, ReplacementKind, ReplacementOption, filled, replacement_options};
