//! Derived rows: what is due on every bank, forgotten by triggers when an input changes, worked out
//! anew when somebody asks.

use super::error::{from_json, to_json};
use super::visit_entries::past_visits;
use super::{BankRow, DbError, ModelRow, RoundRow, Site, assessments};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::schedule::{
    BankFacts, Consequence, DueItem, Duty, Habits, JudgedRound, Postponed, Reminder, RoundCharge, Season,
    Task, WaterDates, due, never_full,
};
use rainshadow_core::visit::{
    PastVisit, Work, electrical_findings, kit_fills, last_done, last_volts, last_water_check, open_findings,
    plates_bare, water_history,
};
use rainshadow_core::water::{WaterForecast, forecast};
use rusqlite::{Connection, OptionalExtension, Transaction};
use std::collections::{BTreeMap, BTreeSet};

/// Counts changes of the rules that change due items.
const REVISION: i64 = 5;

/// A due item as far as a list is ordered and counted by it.
#[derive(Debug, Clone, PartialEq)]
pub struct DueLine {
    /// The bank.
    pub bank: String,
    /// Which of the items of its bank.
    pub place: i64,
    /// What.
    pub task: Task,
    /// What waiting does as of today.
    pub consequence: Consequence,
    /// When.
    pub date: Date,
    /// Size of the bank, kWh.
    pub kwh: f64,
}

/// One due item of one bank.
#[derive(Debug, Clone, PartialEq)]
pub struct DueRow {
    /// The bank.
    pub bank: String,
    /// The item.
    pub item: DueItem,
    /// P90 of the water it takes, mL.
    pub water: f64,
    /// Size of the bank, kWh.
    pub kwh: f64,
}

/// Places whose battery came after the last readings, with the day it came.
type Came = Vec<(BatteryAddress, Date)>;

/// The last finished round as judged, with the charge of the one before, and what came since.
fn judged(db: &Connection, bank: &str) -> Result<(Option<JudgedRound>, Came), DbError> {
    let mut newest: Option<JudgedRound> = None;
    let mut came = Came::new();
    let mut charges = Vec::new();
    for round in RoundRow::of_bank(db, bank)?.into_iter().filter(|r| r.finished_at.is_some()).take(2) {
        let assessment = if charges.is_empty() {
            let standing = super::standing(db, &round)?;
            newest = standing.as_ref().map(|s| JudgedRound::of(round.day(), &s.assessment));
            if super::RunRow::equalized_since(db, bank, round.started_at)? {
                newest = newest.map(JudgedRound::answered);
            }
            standing.map(|s| {
                came = s.came;
                s.assessment
            })
        } else {
            assessments::derived(db, &round.id)?.map(|d| d.assessment)
        };
        let percent = assessment.and_then(|a| Some(a.state_of_charge?.percent));
        charges.push(RoundCharge { percent, proven_full: round.conditions.proven_full.is_some() });
    }
    Ok((newest.map(|judged| JudgedRound { never_full: never_full(&charges), ..judged }), came))
}

fn later(day: Date, days: f64) -> Date {
    #[expect(clippy::cast_possible_truncation, reason = "clamped to a hundred years")]
    let whole = days.clamp(-36_500.0, 36_500.0).floor() as i64;
    day.checked_add(whole.days()).unwrap_or(day)
}

/// The forecast of a bank and the day it was made for.
pub(crate) fn water_forecast(
    visits: &[PastVisit],
    bank: &BankRow,
    model: &rainshadow_core::battery_model::BatteryModel,
    today: Date,
) -> Option<WaterForecast> {
    forecast(&water_history(visits, &bank.shape, model, today), model)
}

/// Everything that is known of a bank when its due items are worked out, and its forecast with the
/// day it counts from.
pub(crate) fn facts(
    db: &Connection,
    bank: &BankRow,
) -> Result<(BankFacts, Option<(Date, WaterForecast)>), DbError> {
    let site = Site::by_id(db, &bank.site_id)?;
    let model = ModelRow::by_id(db, &bank.model_id)?;
    let rules = super::house_rules::of_bank(db, bank)?;
    let visits = past_visits(db, bank)?;
    // Dates are absolute, so the list keeps from day to day: counted from the last look.
    let from = visits.last().map(|v| v.day);
    let ahead = from.and_then(|day| Some((day, water_forecast(&visits, bank, &model, day)?)));
    let season = bank.season_opens.zip(bank.season_closes).map(|(opens, closes)| Season { opens, closes });
    let postponed = postponed(db, &bank.id)?;
    let (round, came) = judged(db, &bank.id)?;
    let known_since = BankRow::known_since(db, &bank.id)?;
    let silent = super::silent_of(db, bank)?;
    let facts = BankFacts {
        duty: Duty::of(&bank.duty),
        season,
        wet_season: site.wet_season,
        first_frost: site.first_frost,
        known_since,
        round,
        came: if model.construction.has_caps() { came } else { super::came_after_volts(db, &bank.id)? },
        last_volts: last_volts(&visits),
        last_water_check: last_water_check(&visits),
        silent: silent.clone(),
        last_equalize: last_equalize(db, &visits, &bank.id)?,
        last_retorque: last_done(&visits, &[Work::Retorqued, Work::Cleaned]),
        last_test: last_done(&visits, &[Work::LoadTested, Work::CapacityTested]),
        last_standby_check: last_done(&visits, &[Work::StandbyChecked]),
        last_storage_check: last_done(&visits, &[Work::StorageChecked]),
        water: ahead.as_ref().map(|(day, f)| WaterDates {
            p10: later(*day, f.days.p10),
            p50: later(*day, f.days.p50),
            p90: later(*day, f.days.p90),
            cell: f.cell,
            per_day: f.per_day_now(),
            fills: f.thirst.fills,
            basis: f.basis,
        }),
        plates_bare: plates_bare(&visits, &bank.shape, &model),
        kit_fills: kit_fills(&visits),
        findings: open_findings(&visits)
            .into_iter()
            .chain(electrical_findings(&visits, &bank.shape, &model, &rules))
            .chain(super::unanswered(&silent))
            .collect(),
        reminders: reminders(db, &bank.id)?,
        postponed,
        habits: Habits {
            rounds: super::rounds::minutes_of_rounds(db, &bank.id)?,
            fills: super::visits::minutes_of_fills(db, &bank.id)?,
        },
        shape: bank.shape.clone(),
        model,
        rules,
    };
    Ok((facts, ahead))
}

/// The last equalize: a run that ended by the rule or at its cap, or one that was noted.
pub(crate) fn last_equalize(
    db: &Connection,
    visits: &[PastVisit],
    bank: &str,
) -> Result<Option<Date>, DbError> {
    let ran = super::RunRow::last_equalize(db, bank)?;
    Ok(last_done(visits, &[Work::Equalized]).into_iter().chain(ran).max())
}

fn reminders(db: &Connection, bank: &str) -> Result<Vec<Reminder>, DbError> {
    db.prepare_cached(
        "SELECT id, day, text FROM reminder WHERE bank_id = ? AND done_by IS NULL ORDER BY day, id",
    )?
    .query_map([bank], |row| Ok((row.get(0)?, row.get::<_, String>(1)?, row.get(2)?)))?
    .map(|row| {
        let (id, day, text) = row?;
        Ok(Reminder { id, day: super::error::day(&day)?, text })
    })
    .collect()
}

fn postponed(db: &Connection, bank: &str) -> Result<Vec<Postponed>, DbError> {
    db.prepare_cached(
        "SELECT task, subject, from_day, until_day, reason, person FROM postponement WHERE bank_id = ? ORDER BY rowid DESC",
    )?
    .query_map([bank], |row| {
        let texts: [String; 6] = [row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?, row.get(5)?];
        Ok(texts)
    })?
    .map(|row| {
        let [task, of, from, until, reason, by] = row?;
        Ok(Postponed {
            task: from_json("postponement", &task)?,
            of,
            from: super::error::day(&from)?,
            until: super::error::day(&until)?,
            reason,
            by,
        })
    })
    .collect()
}

/// Forgets what older rules worked out, and what was not worked out since something changed.
pub(super) fn forget_older(db: &Connection) -> Result<(), DbError> {
    db.execute(
        "DELETE FROM due_item WHERE bank_id NOT IN (SELECT bank_id FROM due_state WHERE revision = ?)",
        [REVISION],
    )?;
    Ok(())
}

/// Banks whose due items are not worked out.
pub(crate) fn stale(db: &Connection) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT b.id FROM bank b LEFT JOIN due_state d ON d.bank_id = b.id AND d.revision = ? \
         WHERE b.archived_at IS NULL AND d.bank_id IS NULL",
    )?;
    let rows = query.query_map([REVISION], |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// Works out what is due on a bank, unless somebody did so meanwhile.
pub(crate) fn refresh(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
    let fresh = tx
        .prepare_cached("SELECT 1 FROM due_state WHERE bank_id = ? AND revision = ?")?
        .exists((id, REVISION))?;
    if fresh && assessments::missing(tx, id)?.is_empty() {
        return Ok(());
    }
    assessments::derive_missing(tx, id)?;
    let bank = BankRow::by_id(tx, id)?;
    let (facts, ahead) = facts(tx, &bank)?;
    tx.prepare_cached("DELETE FROM due_item WHERE bank_id = ?")?.execute([id])?;
    let mut insert = tx.prepare_cached(
        "INSERT INTO due_item (bank_id, place, consequence, day, task, body) VALUES (?, ?, ?, ?, ?, ?)",
    )?;
    for (place, item) in (0i64..).zip(due(&facts)) {
        insert.execute((
            id,
            place,
            rank(item.consequence),
            item.date.to_string(),
            to_json("task", &item.task)?,
            to_json("due item", &item)?,
        ))?;
    }
    let forecast = ahead.map(|a| to_json("forecast", &a)).transpose()?;
    tx.prepare_cached(
        "INSERT OR REPLACE INTO due_state (bank_id, revision, kwh, forecast) VALUES (?, ?, ?, ?)",
    )?
    .execute((id, REVISION, facts.kilowatt_hours(), forecast))?;
    Ok(())
}

fn rank(consequence: Consequence) -> i64 {
    match consequence {
        Consequence::Harm => 0,
        Consequence::Loss => 1,
        Consequence::Routine => 2,
    }
}

/// A forecast by the text it is kept as; many items of one bank share it.
type Ahead = Option<(Date, WaterForecast)>;

fn consequence(rank: i64) -> Consequence {
    match rank {
        0 => Consequence::Harm,
        1 => Consequence::Loss,
        _ => Consequence::Routine,
    }
}

/// Everything due until a day on banks that are not archived, in no order.
pub(crate) fn lines(db: &Connection, day: Date, today: Date) -> Result<Vec<DueLine>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT d.bank_id, d.place, d.task, d.consequence, d.day, s.kwh FROM due_item d \
         JOIN due_state s ON s.bank_id = d.bank_id JOIN bank b ON b.id = d.bank_id \
         WHERE b.archived_at IS NULL AND d.day <= ?",
    )?;
    let mut found = query.query([day.to_string()])?;
    let mut all = Vec::new();
    while let Some(row) = found.next()? {
        let task: Task = from_json("task", row.get_ref(2)?.as_str().unwrap_or_default())?;
        let date = super::error::day(row.get_ref(4)?.as_str().unwrap_or_default())?;
        all.push(DueLine {
            bank: row.get(0)?,
            place: row.get(1)?,
            consequence: consequence(row.get(3)?).as_of(task, date, today),
            task,
            date,
            kwh: row.get(5)?,
        });
    }
    Ok(all)
}

/// The items of some banks until a day, whole, by bank and place.
pub(crate) fn items(
    db: &Connection,
    banks: &BTreeSet<&str>,
    day: Date,
    today: Date,
) -> Result<BTreeMap<(String, i64), DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d \
               JOIN due_state s ON s.bank_id = d.bank_id WHERE d.bank_id = ?1 AND d.day <= ?2";
    let mut all = BTreeMap::new();
    for bank in banks {
        let rows = rows(db, sql, &[bank, &day.to_string()], today)?;
        all.extend(rows.into_iter().map(|(place, row)| ((row.bank.clone(), place), row)));
    }
    Ok(all)
}

/// Rows of bank, item, kWh, forecast and place.
fn rows(db: &Connection, sql: &str, given: &[&str], today: Date) -> Result<Vec<(i64, DueRow)>, DbError> {
    let mut query = db.prepare_cached(sql)?;
    let mut found = query.query(rusqlite::params_from_iter(given))?;
    let mut all: Vec<(i64, DueRow)> = Vec::new();
    let mut last: Option<(String, Ahead)> = None;
    while let Some(row) = found.next()? {
        let bank: String = row.get(0)?;
        let item: DueItem = from_json("due item", row.get_ref(1)?.as_str().unwrap_or_default())?;
        if last.as_ref().is_none_or(|(own, _)| *own != bank) {
            let text: Option<String> = row.get(3)?;
            let ahead = text.map(|t| from_json("forecast", &t)).transpose()?;
            last = Some((bank.clone(), ahead));
        }
        let water = last
            .as_ref()
            .and_then(|(_, ahead)| ahead.as_ref())
            .map_or(0.0, |(made_on, forecast)| item.water_to_carry(*made_on, forecast, today));
        all.push((row.get(4)?, DueRow { bank, item, water, kwh: row.get(2)? }));
    }
    Ok(all)
}

/// Everything due until a day on banks that are not archived, bank by bank.
pub(crate) fn until(db: &Connection, day: Date, today: Date) -> Result<Vec<DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
               JOIN bank b ON b.id = d.bank_id WHERE b.archived_at IS NULL AND d.day <= ? ORDER BY d.bank_id, d.place";
    Ok(rows(db, sql, &[&day.to_string()], today)?.into_iter().map(|(_, row)| row).collect())
}

/// What is due on one bank: what the month ahead asks for by consequence, then the rest by date.
pub(crate) fn of_bank(db: &Connection, bank: &str, today: Date) -> Result<Vec<DueRow>, DbError> {
    let sql = "SELECT d.bank_id, d.body, s.kwh, s.forecast, d.place FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
               WHERE d.bank_id = ? ORDER BY d.place";
    let mut all: Vec<DueRow> = rows(db, sql, &[bank], today)?.into_iter().map(|(_, row)| row).collect();
    let month = today.checked_add(31.days()).unwrap_or(today);
    all.sort_by_key(|row| {
        let later = row.item.date > month;
        (later, if later { Consequence::Harm } else { row.item.consequence_on(today) }, row.item.date)
    });
    Ok(all)
}

/// The first due day after a day.
pub(crate) fn next_after(db: &Connection, day: Date) -> Result<Option<Date>, DbError> {
    let next: Option<String> = db
        .prepare_cached(
            "SELECT d.day FROM due_item d JOIN bank b ON b.id = d.bank_id \
             WHERE b.archived_at IS NULL AND d.day > ? ORDER BY d.day LIMIT 1",
        )?
        .query_row([day.to_string()], |row| row.get(0))
        .optional()?;
    next.as_deref().map(super::error::day).transpose()
}
