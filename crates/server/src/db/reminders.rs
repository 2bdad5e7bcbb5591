//! Own reminders, and what was put off.

use super::error::{found, to_json};
use super::{DbError, Written};
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::schedule::Task;
use rainshadow_core::visit::Job;
use rusqlite::Transaction;

/// A reminder as it is made.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewReminder {
    /// Its bank.
    pub bank: String,
    /// Its day.
    pub day: Date,
    /// What.
    pub text: String,
    /// The job that it is of; none: no visit for a job.
    pub job: Option<Job>,
    /// Who, on which device.
    pub by: Actor,
}

/// Something put off.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewPostponement {
    /// Its bank.
    pub bank: String,
    /// What.
    pub task: Task,
    /// Which one of its kind.
    pub of: String,
    /// From which due date.
    pub from: Date,
    /// Until.
    pub until: Date,
    /// Why.
    pub reason: String,
    /// Who, on which device.
    pub by: Actor,
}

impl NewReminder {
    /// Stores it.
    pub(crate) fn store(&self, tx: &Transaction<'_>, id: &str) -> Result<Written, DbError> {
        let of = (&self.bank, self.day.to_string(), &self.text, &self.by.initials);
        let sent = match self.job {
            // As it was sent before there were jobs.
            None => to_json("reminder", &of)?,
            Some(job) => to_json("reminder", &(of, job))?,
        };
        if let Some(before) = super::sent_before(tx, "reminder", id)? {
            return super::same_or_conflict("reminder", id, &before, &sent);
        }
        super::BankRow::by_id(tx, &self.bank)?;
        tx.execute(
            "INSERT INTO reminder (id, bank_id, day, text, person_id, person, sent, job) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            (
                id,
                &self.bank,
                self.day.to_string(),
                &self.text,
                &self.by.id,
                &self.by.initials,
                &sent,
                self.job.map(<&str>::from),
            ),
        )?;
        Ok(Written::Created)
    }
}

/// Says that a reminder is done.
pub(crate) fn reminder_done(tx: &Transaction<'_>, id: &str, by: &str) -> Result<(), DbError> {
    let changed = tx.execute("UPDATE reminder SET done_by = ? WHERE id = ?", (by, id))?;
    found((changed > 0).then_some(()), "reminder", id)
}

/// Says of the reminders of a job that are due by a day that they are done.
pub(crate) fn job_done(
    tx: &Transaction<'_>,
    (bank, job): (&str, Job),
    until: Date,
    by: &str,
) -> Result<(), DbError> {
    tx.execute(
        "UPDATE reminder SET done_by = ? WHERE bank_id = ? AND job = ? AND day <= ? AND done_by IS NULL",
        (by, bank, <&str>::from(job), until.to_string()),
    )?;
    Ok(())
}

impl NewPostponement {
    /// Stores it; the latest of one item stands.
    pub(crate) fn store(&self, tx: &Transaction<'_>, id: &str) -> Result<Written, DbError> {
        let task = to_json("postponement", &self.task)?;
        let sent = to_json(
            "postponement",
            &(
                &self.bank,
                &task,
                &self.of,
                self.from.to_string(),
                self.until.to_string(),
                &self.reason,
                &self.by.initials,
            ),
        )?;
        if let Some(before) = super::sent_before(tx, "postponement", id)? {
            return super::same_or_conflict("postponement", id, &before, &sent);
        }
        super::BankRow::by_id(tx, &self.bank)?;
        tx.execute(
            "INSERT INTO postponement (id, bank_id, task, subject, from_day, until_day, reason, person_id, person, sent) \
             VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                id,
                &self.bank,
                &task,
                &self.of,
                self.from.to_string(),
                self.until.to_string(),
                &self.reason,
                &self.by.id,
                &self.by.initials,
                &sent,
            ),
        )?;
        Ok(Written::Created)
    }
}
