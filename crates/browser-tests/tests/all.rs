//! Tasks of a technician in a real browser; one module for each task, in one program, since each test
//! program links all of the application.

mod bank_model;
mod closing;
mod diagnosis;
mod each_field;
mod equalize;
mod equipment;
mod first_bank;
mod forms;
mod found_done_left;
mod history;
mod instruments;
mod jobs;
mod joints;
mod load_tests;
mod looks;
mod lost_answers;
mod notebook;
mod overlays;
mod past_fills;
mod places;
mod plans;
mod proxy;
mod rechecks;
mod records;
mod replacements;
mod round_on_the_desk;
mod round_on_the_phone;
mod today;
mod visit_on_the_desk;
mod visit_on_the_phone;
mod weights;
