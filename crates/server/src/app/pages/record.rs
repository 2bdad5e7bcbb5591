//! The record of the charging of a bank, a year at a time.

use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::records::judged::{BankRecord, YEAR};
use crate::app::refused::AppResult;
use crate::db::{BankRow, Connection, DbError, RecordRow, Site};
use crate::words;
use jiff::ToSpan;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use rainshadow_core::charging_record::{
    ChargingRecordJudged, MinuteRow, ReadToEnd, RecordError, RecordedBank, charging_record,
};
use rainshadow_core::finding::charging_record::MOST_WITHOUT_FULL;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One day of a record.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RecordDay {
    /// The day.
    pub day: String,
    /// True where it reached full.
    pub full: bool,
    /// The highest charge, per cent of C20; none: not known.
    pub highest: Option<f64>,
    /// The lowest.
    pub lowest: Option<f64>,
    /// The day in one sentence.
    pub said: String,
}

/// The longest run of days without a full charge.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RecordGap {
    /// First day.
    pub from: String,
    /// Last day.
    pub to: String,
    /// "265 days without a full charge, where 7 to 10 are the limit".
    pub said: String,
    /// True where it is longer than a cycled bank should go without.
    pub long: bool,
}

/// A figure of a record.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RecordFact {
    /// What.
    pub label: String,
    /// How much, with its unit.
    pub value: String,
}

/// A file that was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RecordFile {
    /// Id.
    pub id: String,
    /// Name of the file.
    pub file: String,
    /// What it brought, in one sentence.
    pub said: String,
    /// What of it was odd, and what was made of it.
    pub lines: Vec<String>,
    /// When it was read, and by whom.
    pub read: String,
    /// True where it was taken out: it counts for nothing.
    pub withdrawn: bool,
}

/// A year of a record.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RecordPage {
    /// The one sentence.
    pub verdict: String,
    /// "10 Oct 2025 to 9 Oct 2026, by its record"; empty: there is none.
    pub period: String,
    /// A few figures.
    pub facts: Vec<RecordFact>,
    /// The rest in words.
    pub lines: Vec<String>,
    /// Where its limits come from.
    pub rule: String,
    /// Day by day; days of which nothing is on record are not in it.
    pub days: Vec<RecordDay>,
    /// First day and last day of the year that is shown.
    pub shown: Option<[String; 2]>,
    /// The longest run without a full charge.
    pub gap: Option<RecordGap>,
    /// The day that the year before ends with; none: nothing is on record before.
    pub earlier: Option<String>,
    /// The day that the year after ends with; none: this is the last.
    pub later: Option<String>,
    /// Files that were read, the last first.
    pub files: Vec<RecordFile>,
}

fn rounded(own: f64) -> f64 {
    (own * 10.0).round() / 10.0
}

fn facts(own: &ChargingRecordJudged) -> Vec<RecordFact> {
    let known: f64 = own.days.iter().map(|day| day.known_hours).sum::<f64>() / 24.0;
    let fact = |label: &str, value: String| RecordFact { label: label.into(), value };
    let mut all = vec![
        fact("full days", format!("{} of {}", own.full_days, own.known_days)),
        fact("longest without", format!("{} days", own.longest_without_full)),
    ];
    if known > 0.0 && own.out + own.back > 0.0 {
        all.push(fact("out a day", format!("{:.1} Ah", own.out / known)));
        all.push(fact("back a day", format!("{:.1} Ah", own.back / known)));
    }
    all.extend(own.charge_factor.map(|factor| fact("charge factor", format!("{factor:.2}"))));
    all.extend(own.deepest.map(|depth| fact("deepest", format!("{:.0} %", 100.0 * depth))));
    all.extend(own.standing_draw.map(|draw| fact("standing draw", format!("{draw:.1} A"))));
    all
}

/// A year as it is shown.
pub(crate) fn record_shown(
    own: &ChargingRecordJudged,
    bank: &RecordedBank,
    units: ReaderUnits,
    shown: [Date; 2],
) -> RecordPage {
    let days = own.days.iter().filter(|day| (shown[0]..=shown[1]).contains(&day.day)).map(|day| {
        let percent = |depth: f64| rounded(100.0 * (1.0 - depth)).max(0.0);
        RecordDay {
            day: day.day.to_string(),
            full: day.full,
            highest: if day.full { Some(100.0) } else { day.fullest.map(percent) },
            lowest: day.depth.map(percent),
            said: wording::day_on_record(day),
        }
    });
    let gap = own.longest_from_to.map(|[from, to]| RecordGap {
        from: from.to_string(),
        to: to.to_string(),
        said: wording::gap_on_record(own.longest_without_full),
        long: own.longest_without_full > MOST_WITHOUT_FULL,
    });
    RecordPage {
        verdict: wording::charging_record_verdict(own),
        period: wording::period_on_record(shown),
        facts: facts(own),
        lines: wording::charging_record_lines(own, bank, units),
        rule: wording::CHARGING_RECORD_RULE.into(),
        days: days.collect(),
        shown: Some(shown.map(|day| day.to_string())),
        gap,
        earlier: None,
        later: None,
        files: Vec::new(),
    }
}

/// The last year of a file of a bank that is not on the books; days are those of the zone.
///
/// # Errors
/// [`RecordError`] where it tells nothing.
pub fn page_of_file(
    rows: &[MinuteRow],
    bank: &RecordedBank,
    zone: &TimeZone,
    units: ReaderUnits,
) -> Result<RecordPage, RecordError> {
    let own = charging_record(rows, bank, zone)?;
    let ends = own.days.first().zip(own.days.last()).map(|(first, last)| [first.day, last.day]);
    let [first, last] = ends.ok_or(RecordError::TooShort(rows.len()))?;
    let from = last.checked_sub((YEAR - 1).days()).unwrap_or(first).max(first);
    Ok(record_shown(&own, bank, units, [from, last]))
}

/// Where nothing is on record.
fn none() -> RecordPage {
    RecordPage {
        verdict: wording::NOTHING_ON_RECORD.into(),
        period: String::new(),
        facts: Vec::new(),
        lines: Vec::new(),
        rule: wording::CHARGING_RECORD_RULE.into(),
        days: Vec::new(),
        shown: None,
        gap: None,
        earlier: None,
        later: None,
        files: Vec::new(),
    }
}

fn file(own: RecordRow, zone: &TimeZone, zone_name: &str) -> RecordFile {
    let brought: ReadToEnd = serde_json::from_str(&own.told).unwrap_or_default();
    RecordFile {
        said: wording::read_to_end_verdict(&brought, zone),
        lines: wording::read_to_end_lines(&brought, zone),
        read: format!("{}, {}", words::minute(own.new.made_at, zone_name), own.new.by.initials),
        withdrawn: own.withdrawn,
        id: own.new.id,
        file: own.new.file,
    }
}

fn page(db: &Connection, id: &str, until: Option<Date>, units: ReaderUnits) -> Result<RecordPage, DbError> {
    let bank = BankRow::by_id(db, id)?;
    let zone_name = Site::by_id(db, &bank.site_id)?.zone;
    let zone = words::zone(&zone_name);
    let files = RecordRow::of_bank(db, id)?.into_iter().map(|own| file(own, &zone, &zone_name)).collect();
    let Some(record) = BankRecord::of(db, &bank)? else { return Ok(RecordPage { files, ..none() }) };
    let (first, last) = (record.first_day(), record.last_day());
    let until = until.unwrap_or(last).clamp(first, last);
    let from = until.checked_sub((YEAR - 1).days()).unwrap_or(first);
    let judged = if until == last { record.last_year(db)? } else { record.judged(db, until)? };
    let shown = [from.max(first), until];
    let own = match judged {
        Some(judged) => record_shown(&judged, &record.bank, units, shown),
        None => RecordPage {
            verdict: wording::TOO_LITTLE_ON_RECORD.into(),
            shown: Some(shown.map(|d| d.to_string())),
            ..none()
        },
    };
    let earlier = from.checked_sub(1.day()).ok().filter(|day| *day >= first);
    let later = (until < last).then(|| until.checked_add(YEAR.days()).unwrap_or(last).min(last));
    Ok(RecordPage {
        files,
        earlier: earlier.map(|day| day.to_string()),
        later: later.map(|day| day.to_string()),
        ..own
    })
}

/// The year of the record of a bank that ends with a day; the last one where none is named.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn record_page(
    app: &App,
    id: String,
    until: Option<Date>,
    units: ReaderUnits,
) -> AppResult<RecordPage> {
    let wanted = Wanted::Bank(id.clone());
    Ok(fresh::read(app, wanted, move |db| page(db, &id, until, units)).await?)
}
