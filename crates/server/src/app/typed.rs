//! What people type, turned into core types: every fault named by its field.

pub mod battery_model;
pub mod cable;
pub mod climate;
pub mod conditions;
pub mod day;
pub mod equipment;
pub mod faults;
pub mod instrument;
pub mod joint_entry;
pub mod round;
pub mod run_entry;
pub mod test_entry;
pub mod visit_entry;
pub mod water;
