//! The list of banks.

use crate::app::App;
use crate::app::bank_state::bank_state;
use crate::app::fresh::{self, Wanted};
use crate::app::refused::AppResult;
use crate::db::{BankListRow, BankRow, Connection, DbError, ModelRow};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, PlanBattery};
use rainshadow_core::bank_state::BankState;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::{self, DueReader};
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;

/// One bank in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankSummary {
    /// Id.
    pub id: String,
    /// Site.
    pub site: String,
    /// What the site is.
    pub site_kind: String,
    /// Name within the site.
    pub name: String,
    /// What it does.
    pub duty: String,
    /// "48 V flooded, 2 strings of 8 six-volt batteries, 420 Ah each".
    pub description: String,
    /// Its condition.
    pub condition: Severity,
    /// The one sentence.
    pub verdict: String,
    /// Day of the last round, as said.
    pub last_day: Option<String>,
    /// Day of the last readings to sort by.
    pub last_date: Option<String>,
    /// Finished rounds.
    pub rounds: u32,
    /// An open round.
    pub open_round: Option<String>,
    /// True when archived.
    pub archived: bool,
    /// Rows of cases for the small plan, each cell's condition.
    pub mini: Vec<Vec<Vec<Severity>>>,
    /// Addresses of its cells, for finding one.
    pub cells: Vec<String>,
    /// True when its rows cannot be read; the sentence says why.
    pub unreadable: bool,
}

/// Rows of cases with the condition of each cell, for the small plan; of a sealed bank one mark a case,
/// for its volts are taken at the posts.
pub fn mini(shape: &BankShape, state: &BankState, has_caps: bool) -> Vec<Vec<Vec<Severity>>> {
    let cells: HashMap<_, _> = state.cells.iter().copied().collect();
    let batteries: HashMap<_, _> = state.batteries.iter().copied().collect();
    let context = |battery: &PlanBattery| -> Vec<Severity> {
        if has_caps {
            battery.cells.iter().map(|cell| cells.get(cell).copied().unwrap_or_default()).collect()
        } else {
            vec![batteries.get(&battery.address).copied().unwrap_or_default()]
        }
    };
    shape.plan().rows.iter().map(|row| row.batteries.iter().map(context).collect()).collect()
}

fn summary(db: &Connection, row: BankListRow, today: Date) -> Result<BankSummary, DbError> {
    let model = ModelRow::by_id(db, &row.bank.model_id)?;
    let state = bank_state(db, &row.bank)?;
    let reader = DueReader {
        construction: model.construction,
        cells: row.bank.shape.cell_count(),
        today,
        units: ReaderUnits::default(),
    };
    Ok(BankSummary {
        description: wording::describe_bank(&row.bank.shape, &model),
        condition: state.condition,
        verdict: wording::bank_verdict(&state, &reader),
        last_day: state.read_on.map(words::day),
        last_date: state.read_on.map(|d| d.to_string()),
        rounds: row.rounds,
        open_round: row.open_round,
        archived: row.bank.archived_at.is_some(),
        mini: mini(&row.bank.shape, &state, model.construction.has_caps()),
        cells: row.bank.shape.cells().map(|c| c.to_string()).collect(),
        site: row.site_name,
        site_kind: row.site_kind,
        name: row.bank.name,
        duty: row.bank.duty,
        id: row.bank.id,
        unreadable: false,
    })
}

/// A bank that cannot be read, as far as it can be named.
fn unreadable(id: String, place: String, why: &DbError) -> BankSummary {
    BankSummary {
        id,
        site: place,
        site_kind: String::new(),
        name: String::new(),
        duty: String::new(),
        description: String::new(),
        condition: Severity::NoReading,
        verdict: fresh::said(why),
        last_day: None,
        last_date: None,
        rounds: 0,
        open_round: None,
        archived: false,
        mini: Vec::new(),
        cells: Vec::new(),
        unreadable: true,
    }
}

/// Every bank with its condition, archived ones too; one that cannot be read says so.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn bank_list(app: &App) -> AppResult<Vec<BankSummary>> {
    let today = app.clock.today();
    let banks = fresh::read(app, Wanted::All, move |db| {
        let mut rest = BankRow::titles(db)?;
        let mut all = Vec::new();
        for row in BankRow::list(db)? {
            let id = row.bank.id.clone();
            let place = rest.remove(&id).unwrap_or_default();
            match summary(db, row, today) {
                Err(error @ DbError::BadRow { .. }) => all.push(unreadable(id, place, &error)),
                other => all.push(other?),
            }
        }
        let bad = DbError::BadRow { what: "description of a bank", why: String::new() };
        all.extend(rest.into_iter().map(|(id, place)| unreadable(id, place, &bad)));
        Ok(all)
    });
    Ok(banks.await?)
}
