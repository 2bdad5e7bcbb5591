//! One cell's line against the bank's median.

use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::db::assessments::{CellRound, cell_line};
use crate::db::{BankRow, DbError, banks_of_block_at};
use crate::words;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::quantity::Points;
use rainshadow_core::wording::signed;
use serde::Serialize;
use utoipa::ToSchema;

/// One round of a cell.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellPoint {
    /// Day as said.
    pub day: String,
    /// Day to plot by.
    pub date: String,
    /// Corrected gravity.
    pub gravity: f64,
    /// Median of the bank then.
    pub median: Option<f64>,
    /// Deviation, points.
    pub deviation: f64,
    /// Deviation in words.
    pub deviation_text: String,
    /// Condition word then.
    pub condition: String,
    /// The bank where its block stood then, if it was another one.
    pub elsewhere: Option<String>,
}

impl CellPoint {
    fn of(own: CellRound) -> Self {
        let date = own.round.day();
        Self {
            day: words::day(date),
            date: date.to_string(),
            gravity: own.corrected,
            median: own.centre,
            deviation: own.deviation,
            deviation_text: signed(Points::new(own.deviation)),
            condition: own.condition,
            elsewhere: own.elsewhere,
        }
    }
}

/// One cell through its rounds.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellPage {
    /// Address.
    pub cell: String,
    /// The block that stands there.
    pub block: String,
    /// Rounds, oldest first.
    pub points: Vec<CellPoint>,
}

/// Reads the line of a cell.
///
/// # Errors
/// A place the bank does not have, and whatever the reading fails with.
pub async fn cell_page(app: &App, id: String, cell: CellAddress) -> AppResult<CellPage> {
    let bank = id.clone();
    let stood = app.db.read(move |db| banks_of_block_at(db, &bank, cell.battery)).await?;
    let page = fresh::read(app, Wanted::Judged(stood), move |db| {
        let bank = BankRow::by_id(db, &id)?;
        let block = BankRow::placements(db, &id)?
            .into_iter()
            .find(|(battery, _)| *battery == cell.battery && bank.shape.contains(cell))
            .map(|(_, block)| block)
            .ok_or_else(|| DbError::NoSuchPlace { bank: bank.name.clone(), address: cell.to_string() })?;
        let points = cell_line(db, &block, cell.cell, &id)?.into_iter().map(CellPoint::of).collect();
        Ok(CellPage { cell: cell.to_string(), block, points })
    });
    Ok(page.await?)
}
