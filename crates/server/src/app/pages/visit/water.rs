//! Levels and water as they stand: the order of filling, what each cell needs, the next fill.

use super::VisitContext;
use crate::app::typed::visit_entry::TypedBody;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::finding::{self, RoundFinding};
use rainshadow_core::quantity::{Length, Volume};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Entry, VisitEntry, Work, fills, kit_fills};
use rainshadow_core::water::{
    FillWay, Level, LevelStep, WaterForecast, fill_order, kit_inspection, need, overcharge_a_day,
    overcharge_of,
};
use rainshadow_core::wording::{self, SpokenFinding};
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// One cell: its level, its need, its thirst.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellWater {
    /// The cell.
    pub cell: String,
    /// Its level; none: not looked at.
    pub step: Option<LevelStep>,
    /// mm over the plates, for its picture.
    pub over_plates: Option<f64>,
    /// Its condition by level.
    pub condition: Severity,
    /// Water to the mark, in the reader's unit.
    pub need: Option<String>,
    /// Water added on this visit, mL, for its picture.
    pub added: f64,
    /// Water added in the reader's unit; none: none.
    pub added_said: Option<String>,
    /// "40 to 62 mL a month"; none where it is not known by cell.
    pub consumption: Option<String>,
}

/// One entry of water.
#[derive(Debug, Serialize, ToSchema)]
pub struct WaterEntryView {
    /// Entry.
    pub entry: String,
    /// "A3-2, 60 mL to the mark".
    pub said: String,
    /// By whom and when.
    pub by: String,
}

/// Something that water is poured with.
#[derive(Debug, Serialize, ToSchema)]
pub struct WayChoice {
    /// Which.
    pub way: FillWay,
    /// As said.
    pub said: &'static str,
    /// True where cells fill behind tubes: a kit has a flow indicator.
    pub unseen: bool,
}

/// In the order of how much it does by itself.
const FILL_WAYS: [FillWay; 7] = [
    FillWay::Bottle,
    FillWay::Jug,
    FillWay::Bulb,
    FillWay::Syringe,
    FillWay::SelfClosingFiller,
    FillWay::WateringKit,
    FillWay::GravityReservoir,
];

/// The fill mark in section, mm.
#[derive(Debug, Serialize, ToSchema)]
pub struct FillSection {
    /// Height of the mark over the plates.
    pub mark: f64,
    /// The mark over the plates in the reader's unit.
    pub mark_said: String,
    /// Margin over the plates that is kept, mm.
    pub margin: f64,
    /// Where the mark is, in words.
    pub words: String,
}

/// Levels and water.
#[derive(Debug, Serialize, ToSchema)]
pub struct WaterView {
    /// What to do now, in order.
    pub order: String,
    /// True when plates show or are about to.
    pub cover_first: bool,
    /// Cells in electrical order.
    pub cells: Vec<CellWater>,
    /// Water added on this visit, in the reader's unit; empty: none.
    pub total: String,
    /// Water the noted levels need to the mark, in the reader's unit; empty: unknown.
    pub total_need: String,
    /// How the levels stood apart when first looked at; empty: alike.
    pub uneven: String,
    /// What water is poured with.
    pub ways: Vec<WayChoice>,
    /// Entries of water.
    pub entries: Vec<WaterEntryView>,
    /// The next fill; empty: no fill is known yet.
    pub forecast: String,
    /// The temperatures that it was made with; empty: no forecast.
    pub temperatures: String,
    /// What the water since the last fill tells of charging; empty: nothing yet.
    pub overcharge: String,
    /// What uneven thirst says.
    pub findings: Vec<SpokenFinding>,
    /// What the watering kit asks; empty: no kit.
    pub kit: String,
    /// The fill mark in section; none where the model publishes none.
    pub section: Option<FillSection>,
}

/// The amount as it was typed, where it is said in another measure: " (3 US cups)".
fn typed_amount(entry: &VisitEntry, said: &str) -> String {
    let body = entry.typed.as_deref().and_then(|typed| serde_json::from_str(typed).ok());
    match body {
        Some(TypedBody::Water { typed, unit, .. })
            if !typed.trim().is_empty() && !said.ends_with(unit.name()) =>
        {
            format!(" ({} {})", typed.trim(), unit.name())
        }
        _ => String::new(),
    }
}

impl VisitContext {
    /// An amount of water in the reader's unit.
    pub fn say(&self, millilitres: f64) -> String {
        Volume::from_millilitres(millilitres).map(|v| self.units.say_volume(v)).unwrap_or_default()
    }

    fn cell_water(
        &self,
        cell: CellAddress,
        level: Option<Level>,
        added: f64,
        ahead: Option<&WaterForecast>,
    ) -> CellWater {
        let consumption = ahead.and_then(|f| f.cells.iter().find(|c| c.cell == cell)).map(|c| {
            let since = ahead.map_or(0.0, |f| f.days_since_fill);
            let (low, most) =
                ahead.map(|f| f.consumption.range_between(since, since + 30.4, c.factor)).unwrap_or_default();
            format!("{} to {} a month", self.say(low), self.say(most))
        });
        CellWater {
            cell: cell.to_string(),
            step: level.map(|l| l.step(&self.model)),
            over_plates: level.map(|l| l.over_plates(&self.model)),
            condition: level.map_or(Severity::NoReading, |l| l.condition(&self.model)),
            need: level
                .and_then(|l| need(l, &self.model))
                .filter(|v| v.millilitres() > 0.5)
                .map(|v| self.units.say_volume(v)),
            added,
            added_said: (added > 0.0).then(|| self.say(added)),
            consumption,
        }
    }

    fn overcharge(&self) -> String {
        let fills = fills(&self.all_visits(), &self.bank.shape);
        let [.., before, last] = fills.as_slice() else { return String::new() };
        let days = before.day.until(last.day).map_or(0, |s| s.get_days());
        if days < 1 || last.unknown {
            return String::new();
        }
        let cells = u32::try_from(self.bank.shape.cell_count()).unwrap_or(u32::MAX);
        let ampere_hours = overcharge_of(last.millilitres, cells);
        let a_day = overcharge_a_day(ampere_hours, f64::from(days), self.model.c20);
        format!(
            "{} in {days} days is {ampere_hours:.0} Ah of overcharge a string (WA-1), {a_day:.1} % of C20 a day.",
            self.say(last.millilitres)
        )
    }

    fn kit(&self) -> String {
        let Some((fills, _)) = kit_fills(&self.all_visits()) else { return String::new() };
        let kit = kit_inspection(fills, &self.rules);
        let times = if fills == 1 { "once".to_owned() } else { format!("{fills} times") };
        if kit.due {
            format!(
                "Filled by the kit {times} since anybody looked: look into every cell on this visit (WA-6)."
            )
        } else {
            format!(
                "Filled by the kit {times} since anybody looked; the house asks for a look every {} fills.",
                kit.every
            )
        }
    }

    /// Levels and water.
    pub(super) fn water(&self) -> WaterView {
        let shape = &self.bank.shape;
        let levels = self.sheet.levels(shape);
        let done = self.sheet.done();
        let was = |wanted: Work| done.iter().any(|(work, _)| *work == wanted);
        let proven = self.rounds.iter().any(|(round, _, _)| round.conditions.is_proven_full());
        let equalizing = self.due_equalize() && !was(Work::Equalized);
        let order = fill_order(
            &levels,
            &self.model,
            proven || was(Work::ChargedFull) || was(Work::Equalized),
            equalizing,
        );
        let added = self.sheet.water_by_cell(shape);
        let ahead = self.forecast();
        let by_cell: BTreeMap<CellAddress, Level> = levels.iter().copied().collect();
        let total = self.sheet.water_added();
        let missing: f64 =
            levels.iter().filter_map(|(_, l)| need(*l, &self.model)).map(Volume::millilitres).sum();
        WaterView {
            order: wording::fill_order(&order),
            cover_first: matches!(order, rainshadow_core::water::FillOrder::CoverFirst { .. }),
            cells: shape
                .cells()
                .map(|cell| {
                    let amount = added.get(&cell).copied().unwrap_or(0.0);
                    self.cell_water(cell, by_cell.get(&cell).copied(), amount, ahead.as_ref())
                })
                .collect(),
            total: if total.any { wording::amount_added(&total, self.units) } else { String::new() },
            uneven: self
                .sheet
                .uneven_levels(shape, &self.model)
                .map(|uneven| wording::uneven_levels(&uneven, self.units))
                .unwrap_or_default(),
            ways: FILL_WAYS
                .map(|way| WayChoice { way, said: wording::fill_way(way), unseen: way.fills_unseen() })
                .into(),
            total_need: if missing > 0.0 { self.say(missing) } else { String::new() },
            entries: self.water_entries(),
            temperatures: ahead
                .as_ref()
                .map(|f| wording::forecast_temperatures(f, self.units))
                .unwrap_or_default(),
            forecast: ahead.map(|f| wording::forecast_line(&f, self.units)).unwrap_or_default(),
            overcharge: self.overcharge(),
            findings: self
                .uneven()
                .iter()
                .map(|u| wording::speak(&finding::water::uneven(u), self.units))
                .collect(),
            kit: self.kit(),
            section: self.model.fill_mark_above_plates.map(|mark: Length| FillSection {
                mark: mark.millimetres(),
                mark_said: self.units.say_length(mark),
                margin: rainshadow_core::water::MARGIN_MM,
                words: self.model.fill_mark.clone(),
            }),
        }
    }

    /// True when the last round asks for an equalize.
    fn due_equalize(&self) -> bool {
        self.judged().is_some_and(|judged| {
            judged.findings.iter().any(|f| matches!(f.of_round(), Some(RoundFinding::SpreadEqualize { .. })))
        })
    }

    fn water_entries(&self) -> Vec<WaterEntryView> {
        let said = |own: &VisitEntry| match &own.entry {
            Entry::Water { millilitres, to_mark, by_kit, poured, .. } => {
                let typed = typed_amount(own, &self.say(*millilitres));
                let said = wording::poured(*millilitres, *to_mark, *by_kit, *poured, self.units);
                Some(format!("{}: {said}{typed}", own.place.said()))
            }
            Entry::Lamp { lamp } => Some(wording::lamp(own.place, *lamp)),
            other => wording::spilled(own.place, other, self.units),
        };
        self.sheet
            .standing()
            .filter_map(|k| {
                let said = said(k)?;
                Some(WaterEntryView { entry: k.id.clone(), said, by: self.signed(k) })
            })
            .collect()
    }
}
