//! Samples of chargers: raw for a week, by the minute for good.

use super::DbError;
use jiff::Timestamp;
use rainshadow_core::charging_record::MinuteRow;
use rainshadow_core::equalize::FeedMinute;
use rainshadow_core::feed::{FeedStage, Mark, Sample};
use rusqlite::{Connection, OptionalExtension, Transaction};

/// Days that raw samples are kept.
const KEPT_DAYS: i64 = 7;
const DAY: i64 = 86_400_000;
const MINUTE: i64 = 60_000;

/// A sample as it is stored.
#[derive(Debug, Clone, PartialEq)]
pub struct FeedSample {
    /// Its bank.
    pub bank: String,
    /// When, by the clock of the server.
    pub at: Timestamp,
    /// What it says.
    pub sample: Sample,
    /// What it is worth.
    pub mark: Mark,
}

impl FeedSample {
    /// Stores samples and counts them into their minutes. Two samples of a bank in one millisecond are
    /// one.
    pub(crate) fn append(tx: &Transaction<'_>, samples: &[Self]) -> Result<(), DbError> {
        let mut raw = tx.prepare_cached(
            "INSERT OR IGNORE INTO feed_sample (bank_id, at, volts, amperes, celsius, stage, mark) \
             SELECT ?1, ?2, ?3, ?4, ?5, ?6, ?7 WHERE EXISTS (SELECT 1 FROM bank WHERE id = ?1)",
        )?;
        let mut minute = tx.prepare_cached(
            "INSERT INTO feed_minute VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?5, ?7, ?8, ?7, ?9, ?10, ?9, ?11) \
             ON CONFLICT (bank_id, minute) DO UPDATE SET samples = samples + excluded.samples, \
             marked = marked + excluded.marked, volts_sum = volts_sum + excluded.volts_sum, \
             amperes_sum = amperes_sum + excluded.amperes_sum, celsius_sum = celsius_sum + excluded.celsius_sum, \
             celsius_samples = celsius_samples + excluded.celsius_samples, \
             volts_low = min(ifnull(volts_low, excluded.volts_low), ifnull(excluded.volts_low, volts_low)), \
             volts_high = max(ifnull(volts_high, excluded.volts_high), ifnull(excluded.volts_high, volts_high)), \
             amperes_low = min(ifnull(amperes_low, excluded.amperes_low), ifnull(excluded.amperes_low, amperes_low)), \
             amperes_high = max(ifnull(amperes_high, excluded.amperes_high), ifnull(excluded.amperes_high, amperes_high)), \
             celsius_low = min(ifnull(celsius_low, excluded.celsius_low), ifnull(excluded.celsius_low, celsius_low)), \
             celsius_high = max(ifnull(celsius_high, excluded.celsius_high), ifnull(excluded.celsius_high, celsius_high))",
        )?;
        for own in samples {
            let (at, s) = (own.at.as_millisecond(), &own.sample);
            // Not a number cannot be stored; it was nonsense anyhow.
            let number = |v: f64| if v.is_finite() { v } else { -1.0 };
            let stage = s.stage.and_then(|stage| serde_json::to_string(&stage).ok());
            let new = raw.execute((
                &own.bank,
                at,
                number(s.volts),
                number(s.amperes),
                s.celsius,
                stage,
                own.mark.name(),
            ))?;
            if new == 0 {
                continue;
            }
            let good = own.mark == Mark::Good;
            let counts = |v: f64| good.then_some(v);
            minute.execute(rusqlite::params![
                &own.bank,
                at.div_euclid(MINUTE),
                i64::from(good),
                i64::from(!good),
                counts(s.volts),
                counts(s.volts).unwrap_or(0.0),
                counts(s.amperes),
                counts(s.amperes).unwrap_or(0.0),
                s.celsius.filter(|_| good),
                s.celsius.filter(|_| good).unwrap_or(0.0),
                i64::from(good && s.celsius.is_some()),
            ])?;
        }
        Ok(())
    }

    /// Throws raw samples away that are older than a week.
    pub(crate) fn thin(tx: &Transaction<'_>, now: Timestamp) -> Result<usize, DbError> {
        Ok(tx.execute("DELETE FROM feed_sample WHERE at < ?", [now.as_millisecond() - KEPT_DAYS * DAY])?)
    }

    /// The last sample of a bank that counts, as of a moment: a clock that was set back leaves samples
    /// that lie ahead of it.
    pub(crate) fn last_good(
        db: &Connection,
        bank: &str,
        now: Timestamp,
    ) -> Result<Option<(Timestamp, Sample)>, DbError> {
        type Raw = (i64, f64, f64, Option<f64>, Option<String>);
        let row: Option<Raw> = db
            .prepare_cached(
                "SELECT at, volts, amperes, celsius, stage FROM feed_sample WHERE bank_id = ? AND at <= ? AND mark = 'good' \
                 ORDER BY at DESC LIMIT 1",
            )?
            .query_row((bank, now.as_millisecond()), |row| {
                Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?))
            })
            .optional()?;
        Ok(row.and_then(|(at, volts, amperes, celsius, stage)| {
            let stage: Option<FeedStage> = stage.and_then(|s| serde_json::from_str(&s).ok());
            let sample = Sample { at: 0.0, volts, amperes, celsius, stage, heartbeat: None };
            Some((Timestamp::from_millisecond(at).ok()?, sample))
        }))
    }
}

/// The minutes of a feed between two instants, as a run opened at the first counts them, with how many
/// samples were marked.
pub(crate) fn minutes(
    db: &Connection,
    bank: &str,
    from: Timestamp,
    to: Timestamp,
) -> Result<(Vec<FeedMinute>, i64), DbError> {
    let mut query = db.prepare_cached(
        "SELECT minute, samples, marked, volts_sum, amperes_sum, celsius_sum, celsius_samples FROM feed_minute \
         WHERE bank_id = ? AND minute BETWEEN ? AND ? ORDER BY minute",
    )?;
    let first = from.as_millisecond();
    let bounds = (bank, first.div_euclid(MINUTE), to.as_millisecond().div_euclid(MINUTE));
    let mut rows = query.query(bounds)?;
    let (mut all, mut marked) = (Vec::new(), 0);
    while let Some(row) = rows.next()? {
        let (minute, samples): (i64, f64) = (row.get(0)?, row.get(1)?);
        marked += row.get::<_, i64>(2)?;
        if samples < 0.5 {
            continue;
        }
        let warm: f64 = row.get(6)?;
        #[expect(clippy::cast_precision_loss, reason = "minutes of a run are few")]
        let at = (minute * MINUTE - first) as f64 / 3_600_000.0;
        all.push(FeedMinute {
            at,
            hours: 1.0 / 60.0,
            volts: row.get::<_, f64>(3)? / samples,
            amperes: row.get::<_, f64>(4)? / samples,
            celsius: if warm > 0.5 { Some(row.get::<_, f64>(5)? / warm) } else { None },
        });
    }
    Ok((all, marked))
}

/// The first and the last minute that a feed told, since 1970; none: it told nothing.
pub(crate) fn span(db: &Connection, bank: &str) -> Result<Option<(i64, i64)>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT min(minute), max(minute) FROM feed_minute WHERE bank_id = ? AND samples > 0",
    )?;
    let (first, last): (Option<i64>, Option<i64>) =
        query.query_row([bank], |row| Ok((row.get(0)?, row.get(1)?)))?;
    Ok(first.zip(last))
}

/// What a feed told from one minute to before another, as rows of a record.
pub(crate) fn rows(db: &Connection, bank: &str, from: i64, to: i64) -> Result<Vec<MinuteRow>, DbError> {
    let mut query = db.prepare_cached(
        "SELECT minute, volts_sum / samples, amperes_sum / samples, celsius_sum / nullif(celsius_samples, 0) \
         FROM feed_minute WHERE bank_id = ? AND minute >= ? AND minute < ? AND samples > 0 ORDER BY minute",
    )?;
    let rows = query.query_map((bank, from, to), |row| {
        let (volts, amperes, celsius) = (row.get(1)?, row.get(2)?, row.get(3)?);
        Ok(MinuteRow { minute: row.get(0)?, volts, amperes, celsius, state: None })
    })?;
    Ok(rows.collect::<Result<_, _>>()?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::db::Db;

    fn sample(second: i64, volts: f64, mark: Mark) -> FeedSample {
        let at = Timestamp::from_second(1_790_000_040 + second).unwrap();
        let sample =
            Sample { at: 0.0, volts, amperes: 30.0, celsius: Some(24.0), stage: None, heartbeat: None };
        FeedSample { bank: "bank".into(), at, sample, mark }
    }

    /// A database with one bank, which is all that a feed needs of it.
    fn shop(folder: &std::path::Path) -> Db {
        let db = Db::open(folder).unwrap();
        db.write_now(|tx| {
            tx.execute_batch(
                "PRAGMA defer_foreign_keys = ON; \
                 INSERT INTO site (id, name, kind, zone, sent, created_at) VALUES ('site', '', '', 'UTC', '', ''); \
                 INSERT INTO bank (id, site_id, name, duty, model_id, rules_key, rules_version, sent, created_at) \
                 VALUES ('bank', 'site', '', '', 'flooded-6v-420', 'maker_first', 1, '', '')",
            )?;
            Ok(())
        })
        .unwrap();
        db
    }

    #[tokio::test]
    async fn minutes_hold_the_mean_of_what_counts_and_how_many_did_not() {
        let folder = tempfile::tempdir().unwrap();
        let db = shop(folder.path());
        let samples = vec![
            sample(0, 60.0, Mark::Good),
            sample(1, 62.0, Mark::Good),
            sample(2, 655.0, Mark::Nonsense),
            sample(60, 61.0, Mark::Good),
        ];
        let again = samples.clone();
        db.write_now(|tx| FeedSample::append(tx, &samples)).unwrap();
        // the same again, after a lost answer, counts once
        db.write_now(|tx| FeedSample::append(tx, &again)).unwrap();
        let (from, to) = (samples[0].at, samples[3].at);
        let (all, marked) = db.read(move |db| minutes(db, "bank", from, to)).await.unwrap();
        let volts: Vec<f64> = all.iter().map(|m| m.volts).collect();
        assert_eq!((volts, marked), (vec![61.0, 61.0], 1));
        let last = db.read(move |db| FeedSample::last_good(db, "bank", from)).await.unwrap().unwrap();
        assert!((last.1.volts - 60.0).abs() < 1e-9, "what lies ahead of the clock is not the last");
    }

    #[tokio::test]
    async fn raw_samples_go_after_a_week_and_their_minutes_stay() {
        let folder = tempfile::tempdir().unwrap();
        let db = shop(folder.path());
        let samples = vec![sample(0, 60.0, Mark::Good), sample(8 * 86_400, 61.0, Mark::Good)];
        let now = samples[1].at;
        db.write_now(|tx| FeedSample::append(tx, &samples)).unwrap();
        assert_eq!(db.write_now(|tx| FeedSample::thin(tx, now)).unwrap(), 1);
        let from = samples[0].at;
        let (all, _) = db.read(move |db| minutes(db, "bank", from, now)).await.unwrap();
        assert_eq!(all.len(), 2);
    }
}
