//! What is due on a bank as a reader is told of it.

use crate::db::DueRow;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::Step;
use rainshadow_core::wording::{self, DueReader, SpokenDue};
use serde::Serialize;
use utoipa::ToSchema;

/// Something due on this bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct VisitDue {
    /// In words.
    #[serde(flatten)]
    pub said: SpokenDue,
    /// How bad waiting is.
    pub condition: Severity,
    /// When, as said.
    pub day: String,
    /// True when it is over.
    pub late: bool,
    /// The one step that a visit for it takes; none: a whole visit.
    pub only: Option<Step>,
}

impl VisitDue {
    /// A due item as this reader is told of it.
    pub fn of(row: &DueRow, reader: &DueReader) -> Self {
        Self {
            said: wording::due(&row.item, reader),
            condition: row.item.consequence_on(reader.today).condition(),
            day: wording::short_day(row.item.date, reader.today),
            late: row.item.date < reader.today,
            only: row.item.only(),
        }
    }
}
