//! What a page shows, read together and said in the reader's words and units.

pub mod bank;
pub mod bank_list;
pub mod breakdown;
pub mod cell;
pub mod diagnosis;
pub mod equalize;
pub mod equipment;
pub mod joints;
pub mod lenses;
pub mod photo;
pub mod record;
pub mod round;
pub mod run;
pub mod run_lines;
pub mod today;
pub mod trends;
pub mod visit;
