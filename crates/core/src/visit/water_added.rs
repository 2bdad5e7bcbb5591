//! Water that went in on a visit, as far as it is known.

use super::{Entry, Place, VisitSheet};
use crate::bank::{BankShape, CellAddress};
use crate::battery_model::BatteryModel;
use crate::water::{AmountKnown, FillWay, Level, MARGIN_MM, Spill};
use std::collections::{BTreeMap, BTreeSet};

/// Water added on a visit.
#[derive(Debug, Clone, PartialEq, Default)]
#[expect(clippy::struct_excessive_bools, reason = "each is told by itself")]
pub struct WaterAdded {
    /// mL that are known or estimated.
    pub millilitres: f64,
    /// True when any went in, known or not.
    pub any: bool,
    /// True when some of it brought its place to the mark.
    pub to_mark: bool,
    /// True when some of it was estimated.
    pub estimated: bool,
    /// True when some of it was not measured at all.
    pub unknown: bool,
    /// What it was poured with.
    pub ways: BTreeSet<FillWay>,
    /// mL drawn off again.
    pub drawn_off: f64,
}

/// Cells that stood apart at the first look.
#[derive(Debug, Clone, PartialEq)]
pub struct UnevenLevels {
    /// The lowest cells.
    pub lowest: Vec<CellAddress>,
    /// mm between the lowest and the highest cell.
    pub apart: f64,
}

impl VisitSheet {
    /// Water added in all.
    pub fn water_added(&self) -> WaterAdded {
        let mut all = WaterAdded::default();
        for kept in self.standing() {
            match &kept.entry {
                Entry::Water { millilitres, to_mark, by_kit, poured, .. } => {
                    all.any = true;
                    all.to_mark |= to_mark;
                    all.millilitres += millilitres;
                    all.estimated |= poured.amount == AmountKnown::Estimated;
                    all.unknown |= poured.amount == AmountKnown::Unknown;
                    all.ways.extend(poured.how.or(by_kit.then_some(FillWay::WateringKit)));
                }
                Entry::Spilled { spill: Spill::DrawnOff, millilitres, .. } => {
                    all.drawn_off += millilitres.unwrap_or(0.0);
                }
                _ => {}
            }
        }
        all
    }

    /// Cells whose level somebody looked at, whether they were filled or not.
    pub fn cells_looked_at(&self, shape: &BankShape) -> BTreeSet<CellAddress> {
        let looks = self.standing().filter(|k| matches!(k.entry, Entry::Level { .. }));
        looks.flat_map(|k| k.place.cells(shape)).collect()
    }

    /// Cells that were filled to the mark.
    pub fn cells_filled(&self, shape: &BankShape) -> BTreeSet<CellAddress> {
        let fills = self.standing().filter(|k| matches!(k.entry, Entry::Water { to_mark: true, .. }));
        fills.flat_map(|k| k.place.cells(shape)).collect()
    }

    /// Water by cell, mL: amounts of a battery or of the bank are shared among its cells; what nobody measured is
    /// left out.
    pub fn water_by_cell(&self, shape: &BankShape) -> BTreeMap<CellAddress, f64> {
        let mut by_cell = BTreeMap::new();
        for written in self.standing() {
            if let Entry::Water { millilitres, poured, .. } = &written.entry
                && poured.amount != AmountKnown::Unknown
            {
                let cells = written.place.cells(shape);
                let each = millilitres / f64::from(u32::try_from(cells.len()).unwrap_or(u32::MAX).max(1));
                for cell in cells {
                    *by_cell.entry(cell).or_insert(0.0) += each;
                }
            }
        }
        by_cell
    }

    /// Water that was measured into single cells, mL.
    pub fn water_noted_by_cell(&self) -> BTreeMap<CellAddress, f64> {
        let mut by_cell = BTreeMap::new();
        for written in self.standing() {
            if let (Place::Cell(cell), Entry::Water { millilitres, poured, .. }) =
                (written.place, &written.entry)
                && poured.amount != AmountKnown::Unknown
            {
                *by_cell.entry(cell).or_insert(0.0) += millilitres;
            }
        }
        by_cell
    }

    /// Cells that stood further apart at the first look than the margin that is kept over the plates; none where
    /// they stood alike (common practice, no source).
    pub fn uneven_levels(&self, shape: &BankShape, model: &BatteryModel) -> Option<UnevenLevels> {
        let found = self.levels_as_found(shape);
        let height = |level: &Level| level.over_plates(model);
        let heights = || found.iter().map(|(_, level)| height(level));
        let (low, high) = (heights().reduce(f64::min)?, heights().reduce(f64::max)?);
        let lowest = found.iter().filter(|(_, level)| height(level) <= low + 1e-9).map(|(cell, _)| *cell);
        (high - low >= MARGIN_MM).then(|| UnevenLevels { lowest: lowest.collect(), apart: high - low })
    }
}
