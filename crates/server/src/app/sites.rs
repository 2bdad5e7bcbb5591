//! Sites.

use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{NewSite, Site, Transaction, Written};
use jiff::Timestamp;
use rainshadow_core::quantity::bounds::{self, longest};
use rainshadow_core::water::{MonthlyMeans, RecordLows};

/// A name a person can find again.
///
/// # Errors
/// Nothing, and more than a name is long.
pub fn name(text: &str, field: &str, what: &str) -> AppResult<String> {
    let (name, most) = (text.trim(), longest("name"));
    if name.is_empty() || name.chars().count() > most {
        return Err(AppError::field(field, format!("{what} needs a name of 1 to {most} characters.")));
    }
    Ok(name.to_owned())
}

/// A time zone this machine knows.
///
/// # Errors
/// A zone it does not know, with what is accepted.
pub fn zone(text: &str) -> AppResult<()> {
    if jiff::tz::TimeZone::get(text).is_err() {
        let said = format!("“{text}” is no time zone; accepted is an IANA name, as UTC or Etc/GMT+7.");
        return Err(AppError::field("zone", said));
    }
    Ok(())
}

/// What is told of its air and its sun fits together.
///
/// # Errors
/// Record lows without means or above them, and a latitude that no place has.
pub fn air(
    (means, lows): (Option<&MonthlyMeans>, Option<RecordLows>),
    latitude: Option<f64>,
) -> AppResult<()> {
    if let Some(lows) = lows {
        let means = means.ok_or_else(|| {
            AppError::field("lows", "Record lows stand beside the means of the months: type those too.")
        })?;
        lows.beside(means).map_err(|e| AppError::refused("lows", &e))?;
    }
    latitude
        .map(|own| bounds::LATITUDE.check(own))
        .transpose()
        .map_err(|e| AppError::refused("latitude", &e))?;
    Ok(())
}

/// All sites by name.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn all_sites(app: &App) -> AppResult<Vec<Site>> {
    Ok(app.db.read(Site::all).await?)
}

/// A new site.
///
/// # Errors
/// A name or zone that does not fit, and whatever the database says no to.
pub async fn create_site(app: &App, id: String, site: NewSite) -> AppResult<Written> {
    let now = app.clock.now();
    app.write_or_refuse(move |tx| add_site(tx, &id, site, now)).await
}

/// A new site, inside a write.
///
/// # Errors
/// A name or zone that does not fit, and whatever the database says no to.
pub fn add_site(tx: &Transaction<'_>, id: &str, mut site: NewSite, now: Timestamp) -> AppResult<Written> {
    site.name = name(&site.name, "name", "The site")?;
    zone(&site.zone)?;
    air((site.climate.as_ref(), site.lows), site.latitude)?;
    Ok(Site::create(tx, id, &site, now)?)
}
