//! WA-2: when the next fill is due, and how much water to carry.

use super::{Consumption, DaysRange, Interval, MARGIN_MM, THIRSTIEST_FACTOR, prior_rate, seasonal};
use crate::bank::CellAddress;
use crate::battery_model::BatteryModel;
use serde::{Deserialize, Serialize};

/// Days either side of the same day of other years that tell the temperature to expect.
const SEASON_WINDOW: f64 = 45.0;
const YEAR: f64 = 365.25;

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
    /// Temperature to expect until the next fill, °C.
    #[serde(default)]
    pub expected_temperature: Option<f64>,
    /// Cells in the bank.
    pub cell_count: u32,
}

/// What a forecast rests on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Basis {
    /// Fills logged by cell or battery.
    ByCell,
    /// Totals only: the thirstiest cell is taken at 1.5 times the mean.
    Totals,
    /// No two fills yet: what such a battery usually drinks.
    Prior,
}

/// The thirst of one cell.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellForecast {
    /// The cell.
    pub cell: CellAddress,
    /// Its thirst.
    pub consumption: Consumption,
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
    /// Thirst of the bank, mean of its cells.
    pub consumption: Consumption,
    /// Water of one cell from the mark down to the margin, mL.
    pub reserve: f64,
    /// Days since the last fill to the mark.
    pub days_since_fill: f64,
    /// Temperature it was made for, °C; none: 25.
    pub temperature: Option<f64>,
    /// Cell by cell, where known.
    pub cells: Vec<CellForecast>,
    /// Cells of the bank.
    pub cell_count: u32,
}

/// Mean temperature within 45 days of the same day of the year, from `(day, °C)` on one axis; else
/// the mean of all; none where nothing is known.
pub fn expected_temperature(known: &[(f64, f64)], day: f64) -> Option<f64> {
    let mean = |values: Vec<f64>| {
        let n = u32::try_from(values.len()).ok().filter(|n| *n > 0)?;
        Some(values.iter().sum::<f64>() / f64::from(n))
    };
    let off = |d: f64| {
        let apart = (day - d).rem_euclid(YEAR);
        apart.min(YEAR - apart)
    };
    mean(known.iter().filter(|(d, _)| off(*d) <= SEASON_WINDOW).map(|(_, t)| *t).collect())
        .or_else(|| mean(known.iter().map(|(_, t)| *t).collect()))
}

/// WA-2 for a bank; none for a model without fill mark or free area, or a bank never filled.
pub fn forecast(history: &WaterHistory, model: &BatteryModel) -> Option<WaterForecast> {
    let since = history.days_since_fill?;
    let area = model.free_area?;
    let mark = model.fill_mark_above_plates?.millimetres();
    let reserve = (mark - MARGIN_MM).max(0.0) * area;
    let temperature = history.expected_temperature;
    let prior = prior_rate(model.c20);
    let consumption = Consumption::of(&history.bank, prior);
    let cells: Vec<CellForecast> = history
        .cells
        .iter()
        .filter(|(_, intervals)| !intervals.is_empty())
        .map(|(cell, intervals)| {
            let own = Consumption::of(intervals, prior);
            CellForecast {
                cell: *cell,
                consumption: own,
                days: left(history, *cell, &own, reserve, area, since),
            }
        })
        .collect();
    let first = cells.iter().min_by(|a, b| a.days.p10.total_cmp(&b.days.p10));
    let (basis, days, cell) = if let Some(first) = first {
        (Basis::ByCell, first.days, Some(first.cell))
    } else {
        let thirstiest = consumption.times(THIRSTIEST_FACTOR);
        let basis = if consumption.fills == 0 { Basis::Prior } else { Basis::Totals };
        (basis, less(thirstiest.days_for(reserve, temperature), since), None)
    };
    // A level seen since the fill knows better than any forecast.
    let seen = history.levels.iter().filter_map(|(cell, mm, ago)| {
        let own = cells.iter().find(|c| c.cell == *cell).map_or(consumption, |c| c.consumption);
        (cells.iter().all(|c| c.cell != *cell))
            .then(|| (less(own.days_for((mm - MARGIN_MM).max(0.0) * area, temperature), *ago), *cell))
    });
    let sooner = seen.min_by(|a, b| a.0.p10.total_cmp(&b.0.p10)).filter(|(d, _)| d.p10 < days.p10);
    let (days, cell) = sooner.map_or((days, cell), |(d, c)| (d, Some(c)));
    Some(WaterForecast {
        basis,
        days,
        cell,
        consumption,
        reserve,
        days_since_fill: since,
        temperature,
        cells,
        cell_count: history.cell_count,
    })
}

fn less(days: DaysRange, gone: f64) -> DaysRange {
    DaysRange { p10: days.p10 - gone, p50: days.p50 - gone, p90: days.p90 - gone }
}

/// Days left of one cell: from a level seen since the fill, else from the mark.
fn left(
    history: &WaterHistory,
    cell: CellAddress,
    own: &Consumption,
    reserve: f64,
    area: f64,
    since: f64,
) -> DaysRange {
    let seen = history.levels.iter().filter(|(c, _, _)| *c == cell).min_by(|a, b| a.2.total_cmp(&b.2));
    let temperature = history.expected_temperature;
    match seen {
        Some((_, mm, ago)) => less(own.days_for((mm - MARGIN_MM).max(0.0) * area, temperature), *ago),
        None => less(own.days_for(reserve, temperature), since),
    }
}

impl WaterForecast {
    /// Water to bring the whole bank back to the mark so many days from today, mL: half the time
    /// less, nine in ten less (what to carry).
    pub fn need_in(&self, days: f64) -> (f64, f64) {
        let (middle, most) = self.consumption.use_in(self.days_since_fill + days, self.temperature);
        let cells = f64::from(self.cell_count);
        (middle * cells, most * cells)
    }

    /// mL a day and cell at the temperature to expect.
    pub fn per_day_now(&self) -> f64 {
        self.consumption.per_day * seasonal(self.temperature)
    }
}
