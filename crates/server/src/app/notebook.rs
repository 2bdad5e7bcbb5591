//! Years of a notebook: dated rounds, and visits of the past where volts or water were noted beside them.

use super::App;
use super::judge_rounds::derive_missing;
use super::refused::AppResult;
use crate::db::{
    BankRow, DbError, ModelRow, NewRound, RoundRow, Site, VisitRow, WholeVisit, house_rules, readings,
};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::round::RoundEntry;

/// The bank that a notebook belongs to, with what judges it and the rounds it has.
pub struct NotebookBank {
    /// The bank.
    pub row: BankRow,
    /// Its site.
    pub site: Site,
    /// Its batteries.
    pub model: BatteryModel,
    /// The rules that judge.
    pub rules: HouseRules,
    /// Its rounds.
    pub rounds: Vec<RoundRow>,
    /// Its visits.
    pub visits: Vec<VisitRow>,
}

/// One day of a notebook.
#[derive(Debug, Clone)]
pub struct NotebookDay {
    /// The visit of the past on which volts or water were noted.
    pub visit: Option<WholeVisit>,
    /// The round with its entries; none where no cell was read.
    pub round: Option<(NewRound, Vec<RoundEntry>)>,
}

/// Reads the bank of a notebook.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn bank_of_notebook(app: &App, bank: String) -> AppResult<NotebookBank> {
    let read = app.db.read(move |db| {
        let row = BankRow::by_id(db, &bank)?;
        Ok(NotebookBank {
            site: Site::by_id(db, &row.site_id)?,
            model: ModelRow::by_id(db, &row.model_id)?,
            rules: house_rules::by_version(db, &row.rules_key, row.rules_version)?,
            rounds: RoundRow::of_bank(db, &bank)?,
            visits: VisitRow::of_bank(db, &bank)?,
            row,
        })
    });
    Ok(read.await?)
}

/// Takes the days of a notebook; the same again changes nothing.
///
/// # Errors
/// Whatever the database says no to.
pub async fn take_notebook(app: &App, bank: String, days: Vec<NotebookDay>) -> AppResult<()> {
    let now = app.clock.now();
    let taken = app.write(move |tx| {
        for NotebookDay { visit, round } in days {
            // What is there from before keeps the moment at which it was written down.
            if let Some(visit) = visit
                && matches!(VisitRow::by_id(tx, &visit.visit.id), Err(DbError::NotFound { .. }))
            {
                visit.take_in(tx, now)?;
            }
            let Some((round, entries)) = round else { continue };
            RoundRow::create(tx, &round)?;
            let row = RoundRow::by_id(tx, &round.id)?;
            for entry in entries {
                readings::append(tx, &row, &entry, now)?;
            }
        }
        derive_missing(tx, &bank).map(drop)
    });
    Ok(taken.await?)
}
