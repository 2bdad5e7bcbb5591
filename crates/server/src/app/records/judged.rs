//! The record of a bank over a year: what its sources tell together, judged (CR-1), and kept.

use crate::db::{BankRow, Connection, DbError, ModelRow, RecordRow, Site, Transaction, feeds, records};
use crate::words;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ToSpan};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charging_record::{
    ChargingRecordJudged, MinuteRow, RecordedBank, charging_record, together, turned,
};
use rainshadow_core::revision::RULES_REVISION;
use rainshadow_core::schedule::Duty;

/// Days that are judged at once: one year.
pub(crate) const YEAR: i64 = 365;

/// The record of a bank and what it is judged by.
pub(crate) struct BankRecord {
    /// The bank as it is judged.
    pub bank: RecordedBank,
    /// Zone of the site.
    pub zone: TimeZone,
    /// Files that count, those that tell what goes in and comes out first, then the last read first.
    imports: Vec<RecordRow>,
    /// First and last minute of all of it, since 1970.
    pub span: (i64, i64),
    id: String,
}

/// A bank as its record is read.
pub(crate) fn recorded(bank: &BankRow, model: &BatteryModel) -> RecordedBank {
    RecordedBank::of(model, &bank.shape, Duty::of(&bank.duty) == Duty::Standby)
}

fn midnight(day: Date, zone: &TimeZone) -> i64 {
    let at = zone.to_ambiguous_timestamp(day.to_datetime(jiff::civil::Time::midnight())).compatible();
    at.map_or(0, |at| at.as_second().div_euclid(60))
}

impl BankRecord {
    /// Of a bank; none: nothing of it is on record.
    pub fn of(db: &Connection, bank: &BankRow) -> Result<Option<Self>, DbError> {
        let mut imports: Vec<RecordRow> =
            RecordRow::of_bank(db, &bank.id)?.into_iter().filter(|own| !own.withdrawn).collect();
        imports.sort_by_key(|own| !own.new.net);
        let spans = imports.iter().filter_map(|own| own.span).chain(feeds::span(db, &bank.id)?);
        let Some(span) = spans.reduce(|a, b| (a.0.min(b.0), a.1.max(b.1))) else { return Ok(None) };
        let model = ModelRow::by_id(db, &bank.model_id)?;
        let zone = words::zone(&Site::by_id(db, &bank.site_id)?.zone);
        Ok(Some(Self { bank: recorded(bank, &model), zone, imports, span, id: bank.id.clone() }))
    }

    /// Its last local day.
    pub fn last_day(&self) -> Date {
        let at = Timestamp::from_second(self.span.1.saturating_mul(60)).unwrap_or_default();
        self.zone.to_datetime(at).date()
    }

    /// Its first local day.
    pub fn first_day(&self) -> Date {
        let at = Timestamp::from_second(self.span.0.saturating_mul(60)).unwrap_or_default();
        self.zone.to_datetime(at).date()
    }

    /// What its sources tell together in the year that ends with a day.
    fn rows(&self, db: &Connection, until: Date) -> Result<Vec<MinuteRow>, DbError> {
        let first = until.checked_sub((YEAR - 1).days()).unwrap_or(Date::MIN);
        let after = until.checked_add(1.day()).unwrap_or(Date::MAX);
        let (from, to) = (midnight(first, &self.zone), midnight(after, &self.zone));
        let mut all = Vec::new();
        for own in &self.imports {
            let mut rows = own.rows(db, from, to)?;
            turned(&mut rows, &own.other_way);
            all = together(all, rows);
        }
        Ok(together(all, feeds::rows(db, &self.id, from, to)?))
    }

    /// The year that ends with a day, judged; none: too little of it is on record.
    pub fn judged(&self, db: &Connection, until: Date) -> Result<Option<ChargingRecordJudged>, DbError> {
        let rows = self.rows(db, until)?;
        Ok(charging_record(&rows, &self.bank, &self.zone).ok())
    }

    /// All that the last year is told from.
    fn key(&self) -> String {
        let imports: Vec<_> = self.imports.iter().map(|own| own.new.id.as_str()).collect();
        format!(
            "{RULES_REVISION} {:?} {} {} {}",
            self.bank,
            self.zone.iana_name().unwrap_or_default(),
            self.last_day(),
            imports.join(" ")
        )
    }

    /// Its last year, as it is kept; worked out where it is not.
    pub fn last_year(&self, db: &Connection) -> Result<Option<ChargingRecordJudged>, DbError> {
        match records::judged(db, &self.id, &self.key())? {
            Some(kept) => Ok(kept.0),
            None => self.judged(db, self.last_day()),
        }
    }

    /// Its last year, worked out; none: it is kept.
    pub fn missing_year(&self, db: &Connection) -> Result<Option<JudgedYear>, DbError> {
        let key = self.key();
        if records::judged(db, &self.id, &key)?.is_some() {
            return Ok(None);
        }
        let judged = self.judged(db, self.last_day())?;
        let text = serde_json::to_string(&judged)
            .map_err(|e| DbError::BadRow { what: "judged record", why: e.to_string() })?;
        Ok(Some(JudgedYear { bank: self.id.clone(), key, text }))
    }
}

/// What the last year of a record tells, to be kept; its key holds all that it was told from, so that it is
/// right whenever it is.
pub(crate) struct JudgedYear {
    bank: String,
    key: String,
    text: String,
}

impl JudgedYear {
    /// Of a bank; none: it is kept, or nothing of it is on record.
    pub fn missing(db: &Connection, bank: &BankRow) -> Result<Option<Self>, DbError> {
        match BankRecord::of(db, bank)? {
            Some(record) => record.missing_year(db),
            None => Ok(None),
        }
    }

    /// Keeps it.
    pub fn keep(&self, tx: &Transaction<'_>) -> Result<(), DbError> {
        records::keep_judged(tx, &self.bank, &self.key, &self.text)
    }
}
