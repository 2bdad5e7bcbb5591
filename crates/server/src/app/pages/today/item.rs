//! One due item as the list shows it.

use crate::app::bank_state::bank_state;
use crate::db::Connection;
use crate::db::{BankListRow, BankRow, DbError, DueRow, ModelRow};
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::{Consequence, Task};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Job, Step};
use rainshadow_core::wording::{self, DueReader, SpokenDue};
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;

/// One due item in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct DueView {
    /// The bank.
    pub bank: String,
    /// Its site.
    pub site: String,
    /// Name of the bank within the site.
    pub name: String,
    /// What waiting does.
    pub consequence: Consequence,
    /// Its mark.
    pub condition: Severity,
    /// What.
    pub task: Task,
    /// Which one of its kind, for postponing.
    pub about: String,
    /// In words.
    pub said: SpokenDue,
    /// Due day.
    pub date: String,
    /// As said: "today", "Sat 10 Oct", "3 days late".
    pub day: String,
    /// True when it is over.
    pub late: bool,
    /// "4 h 30 min".
    pub minutes: String,
    /// Rows of cases for the small plan.
    pub mini: Vec<Vec<Vec<Severity>>>,
    /// An open visit.
    pub open_visit: Option<String>,
    /// The one step that a visit for it takes; none: a whole visit.
    pub only: Option<Step>,
    /// The job that a visit for it is for; none: a visit like others.
    pub job: Option<Job>,
    /// True where it is about what stands there: its settings, its air.
    pub equipment: bool,
}

/// "today", "tomorrow", "Sat 10 Oct", "3 days late".
fn day_said(day: Date, today: Date) -> String {
    match today.until(day).map_or(0, |s| s.get_days()) {
        0 => "today".into(),
        1 => "tomorrow".into(),
        -1 => "a day late".into(),
        late if late < 0 => {
            let days = -late;
            if days < 60 { format!("{days} days late") } else { format!("{} months late", days / 30) }
        }
        ahead if ahead > 300 => day.strftime("%-d %b %Y").to_string(),
        _ => day.strftime("%a %-d %b").to_string(),
    }
}

/// Rows of cases, each with the conditions of its cells.
type MiniPlan = Vec<Vec<Vec<Severity>>>;

/// A bank as its items are told.
struct Known {
    row: BankListRow,
    model: BatteryModel,
    mini: MiniPlan,
}

/// Items as they are shown; a bank with several is read once.
pub struct Pages<'a> {
    db: &'a Connection,
    today: Date,
    units: ReaderUnits,
    banks: HashMap<String, Known>,
}

impl<'a> Pages<'a> {
    /// No bank read yet.
    pub fn new(db: &'a Connection, today: Date, units: ReaderUnits) -> Self {
        Self { db, today, units, banks: HashMap::new() }
    }

    fn read(&self, bank: &str) -> Result<Known, DbError> {
        let row = BankRow::list_row(self.db, bank)?;
        let model = ModelRow::by_id(self.db, &row.bank.model_id)?;
        let state = bank_state(self.db, &row.bank)?;
        let mini = super::super::bank_list::mini(&row.bank.shape, &state, model.construction.has_caps());
        Ok(Known { row, model, mini })
    }

    /// One item.
    pub fn view(&mut self, row: &DueRow) -> Result<DueView, DbError> {
        if !self.banks.contains_key(&row.bank) {
            let known = self.read(&row.bank)?;
            self.banks.insert(row.bank.clone(), known);
        }
        let Some(known) = self.banks.get(&row.bank) else {
            return Err(DbError::NotFound { what: "bank", id: row.bank.clone() });
        };
        let reader = DueReader {
            construction: known.model.construction,
            cells: known.row.bank.shape.cell_count(),
            today: self.today,
            units: self.units,
        };
        let consequence = row.item.consequence_on(self.today);
        Ok(DueView {
            bank: row.bank.clone(),
            site: known.row.site_name.clone(),
            name: known.row.bank.name.clone(),
            consequence,
            condition: consequence.condition(),
            task: row.item.task,
            about: row.item.about(),
            said: wording::due(&row.item, &reader),
            date: row.item.date.to_string(),
            day: day_said(row.item.date, self.today),
            late: row.item.date < self.today,
            minutes: wording::minutes(row.item.minutes),
            mini: known.mini.clone(),
            open_visit: known.row.open_visit.clone(),
            only: row.item.only(),
            job: row.item.job(),
            equipment: row.item.is_of_equipment(),
        })
    }
}
