//! WA-2: when the next fill is due, and how much water to carry.

use super::season::{Calendar, Season};
use super::thirstiest::{OWN_VARIANCE, of_cells, of_totals};
use super::{DaysRange, Interval, MARGIN_MM, MonthlyMeans, WaterUse, prior_rate};
use crate::bank::CellAddress;
use crate::battery_model::BatteryModel;
use jiff::ToSpan;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// What is known of a bank's water.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WaterHistory {
    /// Intervals of the whole bank, mL per cell on the mean, oldest first.
    pub bank: Vec<Interval>,
    /// Intervals by cell, where amounts were logged by cell or battery.
    #[serde(default)]
    pub cells: Vec<(CellAddress, Vec<Interval>)>,
    /// Days since the last fill to the mark; none: never filled on record.
    pub days_since_fill: Option<f64>,
    /// Levels noted since then, mm over the plates, with the days since each look.
    #[serde(default)]
    pub levels: Vec<(CellAddress, f64, f64)>,
    /// One temperature to expect until the next fill, °C, where somebody knows it; else it is worked out.
    #[serde(default)]
    pub expected_temperature: Option<f64>,
    /// Cells in the bank.
    pub cell_count: u32,
    /// The day it is: without it nobody knows the time of year.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub today: Option<Date>,
    /// Twelve monthly mean temperatures of the site, January first, °C.
    #[serde(default)]
    pub climate: Option<MonthlyMeans>,
    /// True south of the equator.
    #[serde(default)]
    pub southern: bool,
    /// True where the charger compensates for temperature.
    #[serde(default)]
    pub compensates: bool,
}

impl WaterHistory {
    /// Level of every cell that was looked at since the fill, mm over the plates, and the days since its last look.
    fn last_seen(&self) -> BTreeMap<CellAddress, (f64, f64)> {
        let mut all: BTreeMap<CellAddress, (f64, f64)> = BTreeMap::new();
        for (cell, mm, ago) in &self.levels {
            let own = all.entry(*cell).or_insert((*mm, *ago));
            if *ago <= own.1 {
                *own = (*mm, *ago);
            }
        }
        all
    }

    /// Where every cell was looked at, the thirstiest stood at least so high so many days ago, whichever it is.
    fn all_seen(&self) -> Option<(f64, f64)> {
        let all = self.last_seen();
        let every = u32::try_from(all.len()).is_ok_and(|n| n >= self.cell_count);
        every.then(|| all.into_values().reduce(|a, b| (a.0.min(b.0), a.1.max(b.1))))?
    }
}

/// What a forecast rests on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Basis {
    /// Fills logged by cell or battery.
    ByCell,
    /// Totals only: the thirstiest cell is taken as such banks usually have it.
    Totals,
    /// No two fills yet: what such a battery usually drinks.
    Prior,
}

/// One cell.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellForecast {
    /// The cell.
    pub cell: CellAddress,
    /// What it drinks against the median cell.
    pub factor: f64,
    /// Days from today until it stands at the margin; negative: already under it.
    pub days: DaysRange,
}

/// The next fill.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WaterForecast {
    /// What it rests on.
    pub basis: Basis,
    /// Days from today until the thirstiest cell stands 10 mm over its plates.
    pub days: DaysRange,
    /// That cell, where cells are known.
    pub cell: Option<CellAddress>,
    /// What the mean cell drinks, or the median one where cells are known.
    pub consumption: WaterUse,
    /// Water of one cell from the mark down to the margin, mL.
    pub reserve: f64,
    /// Days since the last fill to the mark.
    pub days_since_fill: f64,
    /// Cell by cell, where known.
    pub cells: Vec<CellForecast>,
    /// Cells of the bank.
    pub cell_count: u32,
}

/// WA-2 for a bank; none for a model without fill mark or free area, or a bank never filled.
pub fn forecast(history: &WaterHistory, model: &BatteryModel) -> Option<WaterForecast> {
    let since = history.days_since_fill?;
    let area = model.free_area?;
    let mark = model.fill_mark_above_plates?.millimetres();
    let reserve = (mark - MARGIN_MM).max(0.0) * area;
    let known: Vec<(CellAddress, Vec<Interval>)> =
        history.cells.iter().filter(|(_, own)| !own.is_empty()).cloned().collect();
    let (middle, factors) = of_cells(&known);
    let intervals = if known.is_empty() { &history.bank } else { &middle };
    let season = season(history, intervals, since);
    let consumption = WaterUse::of(intervals, prior_rate(model.c20), season, history.compensates);
    let left = |cell: Option<CellAddress>, factor: f64, own: f64| {
        // A level seen since the fill knows better than any forecast.
        let seen = match cell {
            Some(cell) => history.last_seen().remove(&cell),
            None => history.all_seen(),
        };
        let (from, millilitres) = seen
            .map_or((0.0, reserve), |(mm, ago)| ((since - ago).max(0.0), (mm - MARGIN_MM).max(0.0) * area));
        less(consumption.days_for(millilitres, from, factor, own), since)
    };
    let cells: Vec<CellForecast> = factors
        .into_iter()
        .map(|(cell, factor)| CellForecast { cell, factor, days: left(Some(cell), factor, 0.0) })
        .collect();
    let first = cells.iter().min_by(|a, b| a.days.p10.total_cmp(&b.days.p10));
    let (basis, days, cell) = if let Some(first) = first {
        (Basis::ByCell, first.days, Some(first.cell))
    } else {
        let basis = if consumption.fills == 0 { Basis::Prior } else { Basis::Totals };
        (basis, left(None, of_totals(history.cell_count), OWN_VARIANCE), None)
    };
    let seen = history
        .levels
        .iter()
        .filter(|(cell, _, _)| cells.iter().all(|c| c.cell != *cell))
        .map(|(cell, _, _)| (left(Some(*cell), 1.0, OWN_VARIANCE), *cell));
    let sooner = seen.min_by(|a, b| a.0.p10.total_cmp(&b.0.p10)).filter(|(d, _)| d.p10 < days.p10);
    let (days, cell) = sooner.map_or((days, cell), |(d, c)| (d, Some(c)));
    Some(WaterForecast {
        basis,
        days,
        cell,
        consumption,
        reserve,
        days_since_fill: since,
        cells,
        cell_count: history.cell_count,
    })
}

/// The source of temperatures: what somebody expects, the climate, a wave, or one for all.
fn season(history: &WaterHistory, intervals: &[Interval], since: f64) -> Season {
    if let Some(celsius) = history.expected_temperature {
        return Season::Flat { celsius, expected: true };
    }
    #[expect(clippy::cast_possible_truncation, reason = "days of years")]
    let fill = history.today.and_then(|today| today.checked_sub((since.round() as i64).days()).ok());
    let calendar = fill.map(|day| Calendar {
        fill_day: f64::from(day.day_of_year()),
        climate: history.climate,
        southern: history.southern,
    });
    Season::of(intervals, calendar)
}

fn less(days: DaysRange, gone: f64) -> DaysRange {
    DaysRange { p10: days.p10 - gone, p50: days.p50 - gone, p90: days.p90 - gone }
}

impl WaterForecast {
    /// Water to bring the whole bank back to the mark so many days from today, mL: half the time
    /// less, nine in ten less (what to carry).
    pub fn need_in(&self, days: f64) -> (f64, f64) {
        let until = (self.days_since_fill + days).max(0.0);
        let cells = f64::from(self.cell_count);
        let (_, most) = self.consumption.range_between(0.0, until, 1.0);
        (self.consumption.between(0.0, until, 1.0) * cells, most * cells)
    }

    /// mL a day and cell now.
    pub fn per_day_now(&self) -> f64 {
        self.consumption.rate_at(self.days_since_fill)
    }
}
