//! Derived rows: what is due on every bank, forgotten by triggers when an input changes, worked out
//! anew when somebody asks.

use super::error::{from_json, to_json};
use super::visit_entries::past_visits;
use super::{BankRow, DbError, ModelRow, RoundRow, Site, assessments};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::finding::FindingKind;
use rainshadow_core::round::{Assessment, Condition};
use rainshadow_core::schedule::{
    BankFacts, Consequence, DueItem, Duty, Habits, JudgedRound, Postponed, Reminder, Season, Task,
    WaterDates, due,
};
use rainshadow_core::visit::{
    PastVisit, Work, kit_fills, last_done, last_volts, last_water_check, open_findings, plates_bare,
    water_history,
};
use rainshadow_core::water::{WaterForecast, forecast};
use rusqlite::{Connection, Transaction};

/// Counts changes of the rules that change due items.
const REVISION: i64 = 1;

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

fn judged(db: &Connection, bank: &str) -> Result<Option<JudgedRound>, DbError> {
    let Some(round) = RoundRow::of_bank(db, bank)?.into_iter().find(|r| r.finished_at.is_some()) else {
        return Ok(None);
    };
    let Some(derived) = assessments::derived(db, &round.id)? else { return Ok(None) };
    let day = crate::words::local_day(round.started_at, &round.zone);
    Ok(Some(judged_round(day, &derived.assessment)))
}

/// What a judged round asks for.
fn judged_round(day: Date, assessment: &Assessment) -> JudgedRound {
    let mut found = JudgedRound {
        day,
        condition: assessment.condition,
        spread: assessment.spread.map(|s| s.points),
        suspects: Vec::new(),
        equalize: None,
        off_full: None,
        in_question: Vec::new(),
    };
    for finding in &assessment.findings {
        match &finding.kind {
            FindingKind::SuspectCell { deviation, sinking, .. } => {
                found.suspects.extend(finding.cells.iter().map(|c| (*c, *deviation, sinking.is_some())));
            }
            FindingKind::SpreadEqualize { proven_full, .. } => {
                found.equalize = finding.tolerance.as_ref().map(|t| (t.limit.used, *proven_full));
            }
            FindingKind::ShortOfFull { short, .. } => found.off_full = Some(*short),
            FindingKind::AboveFull { above, .. } => found.off_full = Some(*above),
            FindingKind::Reread { .. } => found.in_question.extend(&finding.cells),
            _ => {}
        }
    }
    found
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
    let known_since = BankRow::known_since(db, &bank.id)?;
    let facts = BankFacts {
        duty: Duty::of(&bank.duty),
        season,
        wet_season: site.wet_season,
        first_frost: site.first_frost,
        known_since,
        round: judged(db, &bank.id)?,
        last_volts: last_volts(&visits),
        last_water_check: last_water_check(&visits),
        last_equalize: last_done(&visits, &[Work::Equalized]),
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
        findings: open_findings(&visits),
        reminders: reminders(db, &bank.id)?,
        postponed,
        habits: Habits { rounds: super::rounds::minutes_of_rounds(db, &bank.id)? },
        shape: bank.shape.clone(),
        model,
        rules,
    };
    Ok((facts, ahead))
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

/// Banks whose due items are not worked out.
pub(crate) fn stale(db: &Connection) -> Result<Vec<String>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT b.id FROM bank b LEFT JOIN due_state d ON d.bank_id = b.id AND d.revision = ? \
         WHERE b.archived_at IS NULL AND d.bank_id IS NULL",
    )?;
    let rows = query.query_map([REVISION], |row| row.get(0))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

fn water_of(item: &DueItem, ahead: Option<&(Date, WaterForecast)>) -> f64 {
    let Some((day, forecast)) = ahead.filter(|_| matches!(item.task, Task::Water | Task::Equalize)) else {
        return 0.0;
    };
    let days = day.until(item.date).map_or(0, |span| span.get_days());
    forecast.need_in(f64::from(days.max(0))).1
}

/// Works out what is due on a bank.
pub(crate) fn refresh(tx: &Transaction<'_>, id: &str) -> Result<(), DbError> {
    assessments::derive_missing(tx, id)?;
    let bank = BankRow::by_id(tx, id)?;
    let (facts, ahead) = facts(tx, &bank)?;
    tx.prepare_cached("DELETE FROM due_item WHERE bank_id = ?")?.execute([id])?;
    let mut insert = tx.prepare_cached(
        "INSERT INTO due_item (bank_id, place, consequence, day, water, body) VALUES (?, ?, ?, ?, ?, ?)",
    )?;
    for (place, item) in (0i64..).zip(due(&facts)) {
        insert.execute((
            id,
            place,
            rank(item.consequence),
            item.date.to_string(),
            water_of(&item, ahead.as_ref()),
            to_json("due item", &item)?,
        ))?;
    }
    tx.prepare_cached("INSERT OR REPLACE INTO due_state (bank_id, revision, kwh) VALUES (?, ?, ?)")?
        .execute((id, REVISION, facts.kilowatt_hours()))?;
    Ok(())
}

fn rank(consequence: Consequence) -> i64 {
    match consequence {
        Consequence::Harm => 0,
        Consequence::Loss => 1,
        Consequence::Routine => 2,
    }
}

/// Everything due until a day on banks that are not archived, by consequence, date and size.
pub(crate) fn until(db: &Connection, day: Date) -> Result<Vec<DueRow>, DbError> {
    db.prepare_cached(
        "SELECT d.bank_id, d.body, d.water, s.kwh FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
         JOIN bank b ON b.id = d.bank_id WHERE b.archived_at IS NULL AND d.day <= ? \
         ORDER BY d.consequence, d.day, s.kwh DESC, d.bank_id, d.place",
    )?
    .query_map([day.to_string()], |row| {
        Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?, row.get(2)?, row.get(3)?))
    })?
    .map(|row| {
        let (bank, body, water, kwh) = row?;
        Ok(DueRow { bank, item: from_json("due item", &body)?, water, kwh })
    })
    .collect()
}

/// What is due on one bank, most pressing first.
pub(crate) fn of_bank(db: &Connection, bank: &str) -> Result<Vec<DueRow>, DbError> {
    db.prepare_cached(
        "SELECT d.bank_id, d.body, d.water, s.kwh FROM due_item d JOIN due_state s ON s.bank_id = d.bank_id \
         WHERE d.bank_id = ? ORDER BY d.place",
    )?
    .query_map([bank], |row| {
        Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?, row.get(2)?, row.get(3)?))
    })?
    .map(|row| {
        let (bank, body, water, kwh) = row?;
        Ok(DueRow { bank, item: from_json("due item", &body)?, water, kwh })
    })
    .collect()
}

/// The first due day after a day.
pub(crate) fn next_after(db: &Connection, day: Date) -> Result<Option<Date>, DbError> {
    let next: Option<String> = db
        .prepare_cached(
            "SELECT min(d.day) FROM due_item d JOIN bank b ON b.id = d.bank_id \
             WHERE b.archived_at IS NULL AND d.day > ?",
        )?
        .query_row([day.to_string()], |row| row.get(0))?;
    next.as_deref().map(super::error::day).transpose()
}

/// True when the bank has anything in it that waiting makes worse.
pub(crate) fn worst(rows: &[DueRow]) -> Option<Condition> {
    rows.iter().map(|r| r.item.consequence).min().map(|c| match c {
        Consequence::Harm => Condition::Act,
        Consequence::Loss => Condition::Watch,
        Consequence::Routine => Condition::Steady,
    })
}
