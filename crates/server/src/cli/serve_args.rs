//! The flags of a server.

use clap::Args;
use serde::{Deserialize, Serialize};
use std::net::{IpAddr, SocketAddr};
use std::path::PathBuf;

/// How the log is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, clap::ValueEnum)]
#[serde(rename_all = "lowercase")]
pub enum LogStyle {
    /// A line a person reads.
    #[default]
    Text,
    /// A line a machine reads.
    Json,
}

/// Where, how it is reached, and on which day. Every setting is a flag, a name in the environment
/// (`RAINSHADOW_DATA_DIR`) and a line of a file (`data_dir = "..."`); `rainshadow settings` says what holds.
#[derive(Debug, Clone, Default, Args, Serialize)]
pub struct ServeArgs {
    /// A file of settings, TOML.
    #[arg(long)]
    #[serde(skip)]
    pub config: Option<PathBuf>,
    /// Folder that holds everything; created when missing [default: rainshadow-data].
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub data_dir: Option<PathBuf>,
    /// Address to listen on; beyond loopback devices must pair, and --host names how they reach it
    /// [default: 127.0.0.1:7480].
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub listen: Option<SocketAddr>,
    /// A name by which devices reach this machine, as 192.168.0.7 or bench.local; may be repeated.
    #[arg(long)]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub host: Vec<String>,
    /// An address by which they reach it through a proxy, as <https://banks.example>; may be repeated.
    #[arg(long)]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub public_url: Vec<String>,
    /// Address of a proxy whose forwarded headers count; may be repeated.
    #[arg(long)]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub trusted_proxy: Vec<IpAddr>,
    /// Certificate for serving TLS directly, PEM.
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tls_cert: Option<PathBuf>,
    /// Key of the certificate, PEM.
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tls_key: Option<PathBuf>,
    /// How the log is written [default: text].
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub log: Option<LogStyle>,
    /// How much is logged: error, warn, info (every request), debug [default: warn].
    #[arg(long)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub log_level: Option<String>,
    /// Believe that today is this day, as 2026-10-08.
    #[arg(long)]
    #[serde(skip)]
    pub today: Option<jiff::civil::Date>,
    /// Let the clock go so many times as fast, 1 to 3600: a run of hours in minutes, with a simulated
    /// charger of the same speed.
    #[arg(long, default_value_t = 1.0)]
    #[serde(skip)]
    pub speed: f64,
}
