//! Files in and out, as `docs/formats.md` describes them.

pub mod bank_file;
pub mod climate_csv;
pub mod notebook;
pub mod plan_file;
pub mod record_csv;
pub mod text;
