//! Volts and water of a notebook column: a visit of the past, entered later.

use super::NotebookQuery;
use crate::app::notebook::NotebookBank;
use crate::app::refused::{AppError, AppResult};
use crate::app::typed::visit_entry::{TypedBody, parse};
use crate::app::typed::water::WaterUnit;
use crate::db::{NewVisit, WholeVisit};
use crate::formats::notebook::{Column, Figure, OfBank};
use jiff::Timestamp;
use rainshadow_core::actor::Actor;
use rainshadow_core::quantity::units::{ReaderUnits, VolumeUnit};
use rainshadow_core::rest::VoltsState;
use rainshadow_core::visit::{Entry, EntryQuestion, Place, VisitEntry, VisitSheet, VisitUnderWay, accept};
use rainshadow_core::water::Poured;

/// What was said of a figure: what it is asked about, or nothing.
pub(super) type Judged = AppResult<Option<EntryQuestion>>;

/// The volts and the water of a column.
pub(super) fn figures(column: &Column) -> impl Iterator<Item = (OfBank, &Figure)> {
    let volts = column.volts.iter().map(|own| (OfBank::Volts, own));
    volts.chain(column.water.iter().map(|own| (OfBank::Water, own)))
}

/// A figure as it would be typed on a visit; `stands` keeps it whatever is asked about it.
fn body(what: OfBank, figure: &Figure, kept: &NotebookQuery, stands: bool) -> TypedBody {
    let typed = figure.typed.clone();
    match what {
        OfBank::Volts => TypedBody::StateVolts {
            state: VoltsState::AtRest,
            typed,
            hours: None,
            amperes: None,
            note: String::new(),
            stands,
        },
        OfBank::Water => TypedBody::Water {
            typed,
            unit: WaterUnit::named(figure.unit).unwrap_or(match kept.volume {
                VolumeUnit::Litre => WaterUnit::Litre,
                VolumeUnit::UsGallon => WaterUnit::UsGallon,
            }),
            to_mark: true,
            by_kit: false,
            stands,
            poured: Poured::default(),
        },
    }
}

fn entry(body: &TypedBody, bank: &NotebookBank) -> AppResult<Entry> {
    parse(body, Place::Bank, &bank.row.shape, &bank.model, ReaderUnits::default())
}

/// Whether a figure can be taken, and what it would be asked about on a visit.
pub(super) fn judged(what: OfBank, figure: &Figure, bank: &NotebookBank, kept: &NotebookQuery) -> Judged {
    let entry = entry(&body(what, figure, kept, false), bank)?;
    let (shape, model) = (&bank.row.shape, &bank.model);
    let sheet = VisitSheet::new(Vec::new());
    let visit = VisitUnderWay { shape, model, sheet: &sheet, taking: true };
    accept((Place::Bank, &entry, Timestamp::UNIX_EPOCH), &visit, Timestamp::MAX)
        .map_err(|why| AppError::refused(why.field(), &why))
}

/// The visit that a column tells of; none where it tells of cells alone.
pub(super) fn visit(
    bank: &NotebookBank,
    (import, column): (&str, &Column),
    began: Timestamp,
    (kept, by, now): (&NotebookQuery, &Actor, Timestamp),
) -> AppResult<Option<WholeVisit>> {
    if !column.is_visit() {
        return Ok(None);
    }
    let id = super::visit_id(import, &column.heading());
    let entries = figures(column).map(|(what, figure)| {
        let body = body(what, figure, kept, true);
        Ok(VisitEntry {
            id: super::derived_id(&format!("{id} {what:?}")),
            place: Place::Bank,
            entry: entry(&body, bank)?,
            typed: serde_json::to_string(&body).ok(),
            by: by.clone(),
            taken_at: now,
        })
    });
    Ok(Some(WholeVisit {
        entries: entries.collect::<AppResult<_>>()?,
        photos: Vec::new(),
        closed_by: Some(by.initials.clone()),
        visit: NewVisit {
            bank: bank.row.id.clone(),
            started_at: began,
            ended_at: Some(began),
            zone: bank.site.zone.clone(),
            by: by.clone(),
            sent: format!("notebook {import} {}", column.heading()),
            id,
        },
    }))
}
