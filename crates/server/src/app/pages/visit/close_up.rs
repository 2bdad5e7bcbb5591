//! Closing up: what was done, and the closing list.

use super::VisitContext;
use rainshadow_core::visit::{ClosingItem, Entry, LeftAs, VisitSheet, Work};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// A line of the closing list.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClosingView {
    /// Which.
    pub item: ClosingItem,
    /// As asked.
    pub said: &'static str,
    /// True for what not every bank has.
    pub may_be_missing: bool,
    /// "no float switch here"; empty: nobody said so.
    pub missing: &'static str,
    /// By whom and when; none yet.
    pub done: Option<String>,
    /// Entry that ticked it; none: another step answers it, and it is taken back there.
    pub entry: Option<String>,
}

/// A way in which a bank can be left.
#[derive(Debug, Serialize, ToSchema)]
pub struct LeftChoice {
    /// Which.
    pub how: LeftAs,
    /// As said.
    pub said: &'static str,
}

/// Work that is dated.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkView {
    /// Which.
    pub work: Work,
    /// As said.
    pub said: &'static str,
    /// By whom and when; none yet.
    pub done: Option<String>,
    /// Entry that said so.
    pub entry: Option<String>,
    /// In the technician's words.
    pub note: String,
}

impl VisitContext {
    pub(super) fn work(&self) -> Vec<WorkView> {
        let sealed = !self.model.construction.has_caps();
        Work::ALL
            .into_iter()
            .filter(|work| !sealed || *work != Work::Equalized)
            .filter(|work| *work != Work::CellsInspected || (!sealed && self.has_kit()))
            .map(|work| {
                let said = self.said(|e| matches!(e, Entry::Done { work: own, .. } if *own == work));
                let note = self.sheet.done().into_iter().find(|(own, _)| *own == work);
                let (entry, done) = said.unzip();
                WorkView {
                    work,
                    said: wording::work(work),
                    done,
                    entry,
                    note: note.map(|(_, n)| n).unwrap_or_default(),
                }
            })
            .collect()
    }

    /// True where cells are filled unseen: what stands behind a kit is asked only where there is one.
    fn has_kit(&self) -> bool {
        let unseen = |sheet: &VisitSheet| sheet.standing().any(|k| k.entry.fills_unseen());
        unseen(&self.sheet) || self.past.iter().any(|visit| unseen(&visit.sheet))
    }

    /// How the bank can be left.
    pub(super) fn left_choices() -> Vec<LeftChoice> {
        LeftAs::ALL.into_iter().map(|how| LeftChoice { how, said: wording::left_as(how) }).collect()
    }

    pub(super) fn closing(&self) -> Vec<ClosingView> {
        self.sheet
            .closing(self.model.construction)
            .into_iter()
            .map(|item| {
                let said = self.sheet.closes(item);
                let missing = said.is_some_and(|k| matches!(k.entry, Entry::Closed { none_here: true, .. }));
                let own = said.filter(|k| matches!(k.entry, Entry::Closed { .. }));
                let done = said.map(|k| match own {
                    Some(_) => self.signed(k),
                    None => wording::closed_elsewhere(&self.signed(k)),
                });
                ClosingView {
                    item,
                    said: wording::closing_item(item),
                    may_be_missing: item.may_be_missing(),
                    missing: if missing { wording::closing_none_here(item) } else { "" },
                    done,
                    entry: own.map(|k| k.id.clone()),
                }
            })
            .collect()
    }
}
