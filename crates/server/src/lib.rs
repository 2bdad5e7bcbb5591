//! Rainshadow's server: the HTTP interface over the trade's rules, one SQLite file, and the web
//! application it ships with.

pub mod app;
pub mod backup;
pub mod calendar;
pub mod charger_simulator;
pub mod cli;
pub mod clock;
mod clock_watch;
pub mod db;
pub mod demo;
pub mod doctor;
pub mod feed;
pub mod formats;
pub mod http;
pub mod pairing;
pub mod photos;
pub mod reach;
pub mod report;
pub mod serve;
pub mod words;

pub use serve::{Settings, TlsFiles, serve};
