//! Which instruments were held against what they should show, on a visit and on record.

use super::{Entry, InstrumentChecked, PastVisit, VisitSheet};
use jiff::civil::Date;

/// The checks of a visit, one of each instrument at most.
pub fn instruments_checked(sheet: &VisitSheet) -> Vec<InstrumentChecked> {
    let check = |entry: &Entry| match entry {
        Entry::InstrumentCheck { instrument, shown, should, .. } => {
            Some(InstrumentChecked { instrument: *instrument, shown: *shown, should: *should })
        }
        _ => None,
    };
    sheet.standing().filter_map(|kept| check(&kept.entry)).collect()
}

/// Every check on record, with its day.
pub(super) fn checks_on_record(visits: &[PastVisit]) -> Vec<(Date, InstrumentChecked)> {
    visits
        .iter()
        .flat_map(|visit| instruments_checked(&visit.sheet).into_iter().map(|own| (visit.day, own)))
        .collect()
}
