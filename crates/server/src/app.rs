//! Use cases: what is read together, judged by the core, and written in one transaction.
//!
//! HTTP, report, demo and command line call this floor; it calls `db`, which stores and fetches.

pub(crate) mod bank_facts;
pub(crate) mod bank_state;
pub(crate) mod charger;
pub mod due_told;
pub mod equalize_case;
pub mod judge_rounds;
pub mod rules;
pub mod run_case;
pub mod run_outcomes;
pub mod standing;
pub mod visit_case;
