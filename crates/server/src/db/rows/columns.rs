//! What each column of text is made by, so that it can be looked over.

use super::super::{AccessNotes, ChangeKind, ChangeMore, Fitted, PhotoOf, PlannedRun, Theme};
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charging_record::ReadToEnd;
use rainshadow_core::equalize::{RunEntry, RunKind};
use rainshadow_core::house_rules::{HouseRules, Overrides};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::Conditions;
use rainshadow_core::schedule::Task;
use rainshadow_core::visit::Entry;
use rusqlite::types::ValueRef;
use serde::de::DeserializeOwned;
use std::fmt::Display;

/// Looks a value over by what it is made by.
type Look = fn(ValueRef<'_>) -> Result<(), String>;

fn said<T, E: Display>(result: Result<T, E>) -> Result<(), String> {
    result.map(drop).map_err(|e| e.to_string())
}

/// The text that stands there.
pub(super) fn text(value: ValueRef<'_>) -> Result<&str, String> {
    value.as_str().map_err(|e| e.to_string())
}

fn json<T: DeserializeOwned>(value: ValueRef<'_>) -> Result<(), String> {
    said(serde_json::from_str::<T>(text(value)?))
}

/// A word as it stands in the JSON of an enumeration.
fn word<T: DeserializeOwned>(value: ValueRef<'_>) -> Result<(), String> {
    said(serde_json::from_value::<T>(text(value)?.into()))
}

fn at(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<jiff::Timestamp>())
}

fn day(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<jiff::civil::Date>())
}

fn zone(value: ValueRef<'_>) -> Result<(), String> {
    said(jiff::tz::TimeZone::get(text(value)?))
}

fn hash(value: ValueRef<'_>) -> Result<(), String> {
    if crate::photos::is_hash(text(value)?) { Ok(()) } else { Err("it is no hash".into()) }
}

fn battery(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<BatteryAddress>())
}

fn shape(value: ValueRef<'_>) -> Result<(), String> {
    let shape: BankShape = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(shape.checked())
}

fn model(value: ValueRef<'_>) -> Result<(), String> {
    let model: BatteryModel = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(model.checked())
}

fn instrument(value: ValueRef<'_>) -> Result<(), String> {
    let instrument: Instrument = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(instrument.checked())
}

fn latitude(value: ValueRef<'_>) -> Result<(), String> {
    said(rainshadow_core::quantity::bounds::LATITUDE.check(value.as_f64().map_err(|e| e.to_string())?))
}

fn conditions(value: ValueRef<'_>) -> Result<(), String> {
    let conditions: Conditions = serde_json::from_str(text(value)?).map_err(|e| e.to_string())?;
    said(conditions.checked())
}

fn gravity(value: ValueRef<'_>) -> Result<(), String> {
    said(SpecificGravity::try_from(value.as_f64().map_err(|e| e.to_string())?))
}

fn temperature(value: ValueRef<'_>) -> Result<(), String> {
    said(Temperature::from_celsius(value.as_f64().map_err(|e| e.to_string())?))
}

fn day_of_year(value: ValueRef<'_>) -> Result<(), String> {
    said(text(value)?.parse::<rainshadow_core::schedule::MonthDay>())
}

fn unit(value: ValueRef<'_>) -> Result<(), String> {
    said(super::super::readings::unit_of(text(value)?))
}

fn packed(value: ValueRef<'_>) -> Result<(), String> {
    let bytes = value.as_blob().map_err(|e| e.to_string())?;
    super::super::records::not_packed(bytes).map_or(Ok(()), |why| Err(why.into()))
}

/// What each column is made by; where nothing stands, nothing is looked at.
pub(super) const COLUMNS: [(&str, &str, Look); 86] = [
    ("person", "units", json::<ReaderUnits>),
    ("person", "theme", json::<Theme>),
    ("person", "created_at", at),
    ("site", "zone", zone),
    ("site", "wet_season", day_of_year),
    ("site", "first_frost", day_of_year),
    ("site", "climate", json::<rainshadow_core::water::MonthlyMeans>),
    ("site", "latitude", latitude),
    ("site", "lows", json::<rainshadow_core::water::RecordLows>),
    ("battery_model", "body", model),
    ("battery_model_before", "body", model),
    ("battery_model_before", "until", at),
    ("house_rules", "body", json::<HouseRules>),
    ("instrument", "body", instrument),
    ("bank", "overrides", json::<Overrides>),
    ("bank", "access", json::<AccessNotes>),
    ("bank", "created_at", at),
    ("bank", "archived_at", at),
    ("bank", "season_opens", day_of_year),
    ("bank", "season_closes", day_of_year),
    ("bank_model_before", "until_day", day),
    ("bank_model_before", "at", at),
    ("layout", "shape", shape),
    ("layout", "from_day", day),
    ("placement", "battery", battery),
    ("placement", "from_day", day),
    ("placement", "to_day", day),
    ("visit", "started_at", at),
    ("visit", "ended_at", at),
    ("visit", "zone", zone),
    ("round", "started_at", at),
    ("round", "finished_at", at),
    ("round", "zone", zone),
    ("round", "conditions", conditions),
    ("round", "origin", word::<super::super::Origin>),
    ("reading", "kind", word::<rainshadow_core::round::ReadingKind>),
    ("reading", "gravity", gravity),
    ("reading", "temperature", temperature),
    ("reading", "temperature_unit", unit),
    ("reading", "taken_at", at),
    ("reading", "received_at", at),
    ("visit_entry", "body", json::<Entry>),
    ("visit_entry", "taken_at", at),
    ("visit_entry", "received_at", at),
    ("photo", "what", word::<PhotoOf>),
    ("photo", "hash", hash),
    ("photo", "small_hash", hash),
    ("photo", "taken_at", at),
    ("reminder", "day", day),
    ("reminder", "job", word::<rainshadow_core::visit::Job>),
    ("postponement", "task", json::<Task>),
    ("postponement", "from_day", day),
    ("postponement", "until_day", day),
    ("block_change", "kind", json::<ChangeKind>),
    ("block_change", "more", json::<ChangeMore>),
    ("block_change", "day", day),
    ("block_change", "battery", battery),
    ("block_change", "other", battery),
    ("block_change", "at", at),
    ("equipment", "body", json::<Fitted>),
    ("equipment", "at", at),
    ("run", "kind", json::<RunKind>),
    ("run", "opened_at", at),
    ("run", "ended_at", at),
    ("run", "zone", zone),
    ("run", "instrument", instrument),
    ("run", "plan", json::<PlannedRun>),
    ("run_entry", "body", json::<RunEntry>),
    ("run_entry", "at", at),
    ("plan", "entries", json::<std::collections::BTreeMap<String, String>>),
    ("plan", "begun", json::<std::collections::BTreeMap<String, String>>),
    ("plan", "made_at", at),
    ("plan", "unit", unit),
    ("plan", "withdrawn_at", at),
    ("record_import", "other_way", json::<Vec<rainshadow_core::charging_record::OtherWay>>),
    ("record_import", "made_at", at),
    ("record_import", "told", json::<ReadToEnd>),
    ("record_import", "finished_at", at),
    ("record_import", "withdrawn_at", at),
    ("record_day", "minutes", packed),
    ("device", "paired_at", at),
    ("device", "seen_at", at),
    ("device", "revoked_at", at),
    ("calendar_feed", "made_at", at),
    ("calendar_feed", "revoked_at", at),
    ("event_log", "at", at),
];

#[cfg(test)]
mod tests {
    use super::*;
    use rusqlite::Connection;

    /// Names, words and ids: any text is one. What was typed beside what is kept is read as far as it can be.
    const PLAIN: [&str; 33] = [
        "id",
        "initials",
        "without",
        "name",
        "kind",
        "sent",
        "region",
        "typed",
        "key",
        "duty",
        "keeper",
        "in_service",
        "access_by",
        "serial",
        "date_code",
        "person",
        "device",
        "closed_by",
        "report",
        "finished_by",
        "temperature_typed",
        "reason",
        "what",
        "subject",
        "note",
        "removed_by",
        "text",
        "done_by",
        "undone_by",
        "ended_why",
        "token_hash",
        "said",
        "mark",
    ];
    /// Looked over by the floors above, or written by hand from here alone.
    const ELSEWHERE: [&str; 10] = [
        // read where it can be, and else left out
        "feed_sample.stage",
        // held by a reference
        "bank.rules_key",
        "reading.supersedes",
        "plan.planner",
        "record_import.source",
        "record_import.header",
        "record_import.file",
        "device.scope",
        "site.created_at",
        "battery_model.created_at",
    ];
    /// Derived, and compared with what is derived anew; or what was set aside.
    const NOT_TYPED: [&str; 6] =
        ["assessment", "judged_cell", "due_item", "due_state", "record_judged", "set_aside"];

    #[test]
    fn every_column_of_text_is_looked_over_or_takes_any() {
        let mut db = Connection::open_in_memory().unwrap();
        crate::db::open::migrate_empty(&mut db);
        let sql = "SELECT m.name, c.name FROM sqlite_schema m JOIN pragma_table_info(m.name) c \
                   WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%' AND c.type IN ('TEXT', 'BLOB')";
        let mut query = db.prepare(sql).unwrap();
        let all = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?))).unwrap();
        let missing: Vec<String> = all
            .map(Result::<(String, String), _>::unwrap)
            .filter(|(table, column)| {
                let place = format!("{table}.{column}");
                let plain =
                    column.ends_with("_id") || column.ends_with("_block") || PLAIN.contains(&column.as_str());
                let looked_over = COLUMNS.iter().any(|(t, c, _)| t == table && c == column);
                // The entry of a run or a visit has its kind in its body.
                !(looked_over
                    || plain
                    || ELSEWHERE.contains(&place.as_str())
                    || NOT_TYPED.contains(&table.as_str()))
            })
            .map(|(table, column)| format!("{table}.{column}"))
            .collect();
        assert_eq!(missing, Vec::<String>::new());
    }
}
