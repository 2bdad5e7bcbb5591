//! One cell's line against the bank's median.

use crate::app::App;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::db::assessments::{CellRound, cell_line};
use crate::db::visit_entries::past_visits;
use crate::db::{BankRow, DbError, banks_of_block_at};
use crate::words;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::quantity::Points;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{PastVisit, Place, open_before};
use rainshadow_core::wording::{self, signed};
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

/// What one visit found and did at a battery.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellWork {
    /// Day as said.
    pub day: String,
    /// "terminals: white powder; cleaned; put right".
    pub said: String,
}

/// What was found, done and left at a battery or its cells, newest first.
fn work(visits: &[PastVisit], battery: BatteryAddress, units: ReaderUnits) -> Vec<CellWork> {
    let here = |place: Place| match place {
        Place::Battery(own) => own == battery,
        Place::Cell(cell) => cell.battery == battery,
        Place::Bank | Place::String(_) => false,
    };
    let of = |(at, visit): (usize, &PastVisit)| -> Vec<CellWork> {
        let line = |said: String| CellWork { day: words::day(visit.day), said };
        let found = visit.sheet.found_and_done().into_iter().filter(|own| here(own.entry.place)).map(|own| {
            format!("{}: {}", wording::check(own.check).to_lowercase(), wording::found_and_done(&own, units))
        });
        let only = visit.sheet.repaired_only().into_iter().filter(|own| here(own.place)).map(|own| {
            let before = open_before(&visits[..at], &own);
            format!(
                "{}: {}",
                wording::check(own.check).to_lowercase(),
                wording::repaired_only(&own, before, units)
            )
        });
        let corrected = visit.sheet.corrected().into_iter().filter(|own| here(own.entry.place)).map(|own| {
            format!("{}: {}", wording::measurement(own.measurement), wording::corrected_and_left(&own))
        });
        found.chain(only).chain(corrected).map(line).collect()
    };
    visits.iter().enumerate().rev().flat_map(of).collect()
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
    /// What was found, done and left at its battery, newest first.
    pub work: Vec<CellWork>,
}

/// Reads the line of a cell.
///
/// # Errors
/// A place the bank does not have, and whatever the reading fails with.
pub async fn cell_page(app: &App, id: String, cell: CellAddress, units: ReaderUnits) -> AppResult<CellPage> {
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
        let work = work(&past_visits(db, &bank)?, cell.battery, units);
        Ok(CellPage { cell: cell.to_string(), block, points, work })
    });
    Ok(page.await?)
}
