//! Banks whose truth is known, made by a physics of their own, and how often the judge tells it.
#![allow(
    dead_code,
    clippy::unwrap_used,
    clippy::cast_possible_truncation,
    reason = "each user takes its own part, and helpers fail loudly"
)]

pub mod ails;
pub mod bank;
pub mod chance;
pub mod diagnosed;
pub mod figures;
pub mod lived;
pub mod measured;
pub mod runs;
pub mod sighted;
pub mod told;
pub mod water;
pub mod world;
