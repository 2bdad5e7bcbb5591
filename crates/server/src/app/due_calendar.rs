//! What is due in the time ahead, for a calendar.

use super::App;
use super::fresh::{self, Wanted};
use super::refused::AppResult;
use crate::db::{BankRow, Connection, DbError, DueRow, ModelRow, due};
use jiff::civil::Date;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::wording::{self, DueReader, SpokenDue};

/// Something due, for a calendar.
pub struct DueEntry {
    /// What is due.
    pub row: DueRow,
    /// Where: site and bank.
    pub place: String,
    /// In words.
    pub said: SpokenDue,
}

/// Which banks a calendar is of; none of both: every bank.
#[derive(Debug, Clone, Default)]
pub struct CalendarOf {
    /// Only this bank.
    pub bank: Option<String>,
    /// Only banks looked after by these initials.
    pub keeper: Option<String>,
}

fn read(
    db: &Connection,
    of: &CalendarOf,
    (today, end): (Date, Date),
    units: ReaderUnits,
) -> Result<Vec<DueEntry>, DbError> {
    let mut rows = due::until(db, end, today)?;
    rows.sort_by_key(|row| row.item.date);
    let banks = BankRow::list(db)?;
    let models = ModelRow::all(db)?;
    let mut all = Vec::new();
    for row in rows {
        let Some(bank) = banks.iter().find(|b| b.bank.id == row.bank) else { continue };
        let Some(model) = models.iter().find(|m| m.id == bank.bank.model_id) else { continue };
        let other = of.bank.as_ref().is_some_and(|b| *b != row.bank)
            || of.keeper.as_ref().is_some_and(|k| *k != bank.bank.keeper);
        if other {
            continue;
        }
        let reader = DueReader {
            construction: model.model.construction,
            cells: bank.bank.shape.cell_count(),
            today,
            units,
        };
        let place = crate::words::place(&bank.site_name, &bank.bank.name);
        let said = wording::due(&row.item, &reader);
        all.push(DueEntry { row, place, said });
    }
    Ok(all)
}

/// What is due until a day, earliest first.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn due_until(app: &App, of: CalendarOf, end: Date, units: ReaderUnits) -> AppResult<Vec<DueEntry>> {
    let today = app.clock.today();
    Ok(fresh::read(app, Wanted::All, move |db| read(db, &of, (today, end), units)).await?)
}
