//! Sites: where banks stand.

use super::error::{found, from_json, month_day, to_json};
use super::{DbError, Written};
use rainshadow_core::schedule::MonthDay;
use rainshadow_core::water::{MonthlyMeans, RecordLows};
use rusqlite::{Connection, OptionalExtension, Row, Transaction};
use serde::{Deserialize, Serialize};

/// A site as sent by its maker.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct NewSite {
    /// Name.
    pub name: String,
    /// What it is, in the shop's words: "ridge-top observatory, off-grid solar".
    #[serde(default)]
    pub kind: String,
    /// IANA time zone.
    pub zone: String,
    /// Region, for sorting the day's drive; may be empty.
    #[serde(default)]
    pub region: String,
    /// First day of the wet season; none: unknown.
    #[serde(default)]
    pub wet_season: Option<MonthDay>,
    /// Usual day of the first hard frost; none: unknown.
    #[serde(default)]
    pub first_frost: Option<MonthDay>,
    /// Twelve monthly mean temperatures, January first, °C; none: unknown.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub climate: Option<MonthlyMeans>,
    /// Lowest air on record in each month, January first, °C; none: unknown.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lows: Option<RecordLows>,
    /// Degrees from the equator, south negative; none: unknown.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub latitude: Option<f64>,
    /// True south of the equator.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub southern: bool,
}

/// What of a site is put right with one of its banks.
#[derive(Debug, Clone, PartialEq)]
pub struct SiteEdit {
    /// Name.
    pub name: String,
    /// What it is.
    pub kind: String,
    /// IANA time zone.
    pub zone: String,
    /// Region.
    pub region: String,
    /// First day of the wet season.
    pub wet_season: Option<MonthDay>,
    /// Usual day of the first hard frost.
    pub first_frost: Option<MonthDay>,
    /// Twelve monthly mean temperatures, January first, °C; none: unknown.
    pub climate: Option<MonthlyMeans>,
    /// Lowest air on record in each month, January first, °C; none: unknown.
    pub lows: Option<RecordLows>,
    /// Degrees from the equator, south negative; none: unknown.
    pub latitude: Option<f64>,
    /// True south of the equator.
    pub southern: bool,
}

/// A site.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Site {
    /// Id.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is.
    pub kind: String,
    /// IANA time zone.
    pub zone: String,
    /// Region.
    pub region: String,
    /// First day of the wet season.
    pub wet_season: Option<MonthDay>,
    /// Usual day of the first hard frost.
    pub first_frost: Option<MonthDay>,
    /// Twelve monthly mean temperatures, January first, °C; none: unknown.
    pub climate: Option<MonthlyMeans>,
    /// Lowest air on record in each month, January first, °C; none: unknown.
    pub lows: Option<RecordLows>,
    /// Degrees from the equator, south negative; none: unknown.
    pub latitude: Option<f64>,
    /// True south of the equator.
    pub southern: bool,
}

const SELECT: &str = "SELECT id, name, kind, zone, region, wet_season, first_frost, southern, climate, lows, latitude FROM site";

/// A site without its days and its climate, and those as texts.
type Raw = (Site, [Option<String>; 4]);

fn raw(row: &Row<'_>) -> rusqlite::Result<Raw> {
    let site = Site {
        id: row.get(0)?,
        name: row.get(1)?,
        kind: row.get(2)?,
        zone: row.get(3)?,
        region: row.get(4)?,
        wet_season: None,
        first_frost: None,
        climate: None,
        lows: None,
        latitude: row.get(10)?,
        southern: row.get(7)?,
    };
    Ok((site, [row.get(5)?, row.get(6)?, row.get(8)?, row.get(9)?]))
}

fn built((site, [wet, frost, climate, lows]): Raw) -> Result<Site, DbError> {
    let climate = climate.map(|text| from_json("climate of a site", &text)).transpose()?;
    let lows = lows.map(|text| from_json("record lows of a site", &text)).transpose()?;
    Ok(Site { wet_season: month_day(wet)?, first_frost: month_day(frost)?, climate, lows, ..site })
}

fn text_of<T: Serialize>(climate: Option<&T>) -> Result<Option<String>, DbError> {
    climate.map(|own| to_json("climate of a site", own)).transpose()
}

impl Site {
    /// Stores a new site.
    pub(crate) fn create(
        tx: &Transaction<'_>,
        id: &str,
        new: &NewSite,
        now: jiff::Timestamp,
    ) -> Result<Written, DbError> {
        let sent = to_json("site", new)?;
        if let Some(before) = super::sent_before(tx, "site", id)? {
            return super::same_or_conflict("site", id, &before, &sent);
        }
        tx.execute(
            "INSERT INTO site (id, name, kind, zone, region, wet_season, first_frost, southern, climate, lows, latitude, sent, \
             created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                id,
                &new.name,
                &new.kind,
                &new.zone,
                &new.region,
                new.wet_season.map(|d| d.to_string()),
                new.first_frost.map(|d| d.to_string()),
                new.southern,
                text_of(new.climate.as_ref())?,
                text_of(new.lows.as_ref())?,
                new.latitude,
                &sent,
                now.to_string(),
            ),
        )?;
        Ok(Written::Created)
    }

    /// Puts a site right.
    pub(super) fn edit(tx: &Transaction<'_>, id: &str, edit: &SiteEdit) -> Result<(), DbError> {
        tx.execute(
            "UPDATE site SET name = ?2, kind = ?3, zone = ?4, region = ?5, wet_season = ?6, first_frost = ?7, \
             southern = ?8, climate = ?9, lows = ?10, latitude = ?11, version = version + 1 WHERE id = ?1 \
             AND (name, kind, zone, region, coalesce(wet_season, ''), coalesce(first_frost, ''), southern, \
             coalesce(climate, ''), coalesce(lows, ''), coalesce(latitude, 999)) <> \
             (?2, ?3, ?4, ?5, coalesce(?6, ''), coalesce(?7, ''), ?8, coalesce(?9, ''), coalesce(?10, ''), \
             coalesce(?11, 999))",
            (
                id,
                &edit.name,
                &edit.kind,
                &edit.zone,
                &edit.region,
                edit.wet_season.map(|d| d.to_string()),
                edit.first_frost.map(|d| d.to_string()),
                edit.southern,
                text_of(edit.climate.as_ref())?,
                text_of(edit.lows.as_ref())?,
                edit.latitude,
            ),
        )?;
        Ok(())
    }

    /// All sites by name.
    pub(crate) fn all(db: &Connection) -> Result<Vec<Self>, DbError> {
        let mut query = db.prepare_cached(&format!("{SELECT} ORDER BY name"))?;
        let rows = query.query_map([], raw)?;
        rows.map(|row| built(row?)).collect()
    }

    /// One site.
    pub(crate) fn by_id(db: &Connection, id: &str) -> Result<Self, DbError> {
        let row = db.prepare_cached(&format!("{SELECT} WHERE id = ?"))?.query_row([id], raw).optional()?;
        built(found(row, "site", id)?)
    }
}
