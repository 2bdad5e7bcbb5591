//! Settings by flag, environment and file alike; a flag goes before the environment, the environment
//! before the file.

use super::serve_args::{LogStyle, ServeArgs};
use figment::providers::{Env, Format, Serialized, Toml};
use figment::value::{Dict, Map};
use figment::{Figment, Metadata, Profile, Provider, Source};
use serde::{Deserialize, Deserializer, Serialize};
use std::io::Write as _;
use std::net::{IpAddr, SocketAddr};
use std::path::PathBuf;
use thiserror::Error;

/// Before every name in the environment.
const PREFIX: &str = "RAINSHADOW_";

/// What holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Holding {
    /// The data folder.
    pub data_dir: PathBuf,
    /// Address to listen on.
    pub listen: SocketAddr,
    /// Names by which devices reach this machine.
    #[serde(deserialize_with = "list")]
    pub host: Vec<String>,
    /// Addresses by which they reach it through a proxy.
    #[serde(deserialize_with = "list")]
    pub public_url: Vec<String>,
    /// Proxies whose forwarded headers count.
    #[serde(deserialize_with = "list")]
    pub trusted_proxy: Vec<IpAddr>,
    /// Certificate, PEM.
    pub tls_cert: Option<PathBuf>,
    /// Its key, PEM.
    pub tls_key: Option<PathBuf>,
    /// How the log is written.
    pub log: LogStyle,
    /// How much of it: error, warn, info, debug, or a filter by module.
    pub log_level: String,
}

impl Default for Holding {
    fn default() -> Self {
        Self {
            data_dir: "rainshadow-data".into(),
            listen: SocketAddr::from(([127, 0, 0, 1], 7480)),
            host: Vec::new(),
            public_url: Vec::new(),
            trusted_proxy: Vec::new(),
            tls_cert: None,
            tls_key: None,
            log: LogStyle::Text,
            log_level: "warn".into(),
        }
    }
}

/// Several values: a list in the file, parted by commas in the environment.
fn list<'de, D: Deserializer<'de>, T: std::str::FromStr<Err: std::fmt::Display>>(
    deserializer: D,
) -> Result<Vec<T>, D::Error> {
    #[derive(Deserialize)]
    #[serde(untagged)]
    enum Several {
        List(Vec<String>),
        Text(String),
    }
    let texts = match Several::deserialize(deserializer)? {
        Several::List(list) => list,
        Several::Text(text) => text.split(',').map(|t| t.trim().to_owned()).collect(),
    };
    let filled = texts.iter().filter(|t| !t.is_empty());
    filled
        .map(|t| t.parse().map_err(|e| serde::de::Error::custom(format!("\u{201c}{t}\u{201d}: {e}"))))
        .collect()
}

/// A setting that does not hold.
#[derive(Debug, Error)]
#[error("{0}")]
pub struct BadSetting(String);

/// What is given by flags.
struct Flags<'a>(&'a ServeArgs);

impl Provider for Flags<'_> {
    fn metadata(&self) -> Metadata {
        Metadata::named("flag")
            .interpolater(|_profile, keys| format!("--{}", keys.join("-").replace('_', "-")))
    }
    fn data(&self) -> Result<Map<Profile, Dict>, figment::Error> {
        Serialized::defaults(self.0).data()
    }
}

fn figment(args: &ServeArgs) -> Figment {
    let file = args.config.clone().or_else(|| std::env::var_os(format!("{PREFIX}CONFIG")).map(PathBuf::from));
    let mut all = Figment::from(Serialized::defaults(Holding::default()));
    if let Some(file) = file {
        all = all.merge(Toml::file_exact(file));
    }
    all.merge(Env::prefixed(PREFIX).ignore(&["config"])).merge(Flags(args))
}

/// What holds, or which setting does not.
///
/// # Errors
/// [`BadSetting`] in one line with where it was set.
pub fn holding(args: &ServeArgs) -> Result<Holding, BadSetting> {
    figment(args).extract().map_err(|error| BadSetting(error.to_string().replace('\n', "; ")))
}

/// Prints what holds and from where.
///
/// # Errors
/// [`BadSetting`] in one line.
pub fn print(args: &ServeArgs) -> Result<(), BadSetting> {
    let (all, holding) = (figment(args), holding(args)?);
    let values = serde_json::to_value(&holding).map_err(|e| BadSetting(e.to_string()))?;
    for (key, value) in values.as_object().into_iter().flatten() {
        let from = all.find_metadata(key).map_or_else(|| "default".to_owned(), |found| said(found, key));
        let _ = writeln!(std::io::stdout(), "{key:14} {value:<44} {from}");
    }
    Ok(())
}

fn said(found: &Metadata, key: &str) -> String {
    match (found.name.as_ref(), &found.source) {
        ("flag", _) => format!("flag --{}", key.replace('_', "-")),
        (_, Some(Source::File(file))) => format!("file {}", file.display()),
        (name, _) if name.contains("environment") => {
            format!("environment {PREFIX}{}", key.to_uppercase())
        }
        _ => "default".into(),
    }
}
