//! Banks that drink by a known rate, season and growth, filled now and then: does the range hold?

use super::chance::Chance;
use jiff::ToSpan;
use jiff::civil::{Date, date};
use rainshadow_core::bank::CellAddress;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::water::{Interval, MARGIN_MM, MonthlyMeans, WaterHistory, forecast};

/// What is logged of the water, and what the bank does.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Logged {
    /// By cell, at a site without much of a season.
    ByCell,
    /// Totals, at a site without much of a season.
    Totals,
    /// Totals where the seasons swing, with the climate of the site.
    SeasonalWithClimate,
    /// The same without it.
    SeasonalWithout,
    /// Totals of a bank that drinks more each year.
    Growing,
}

/// What became of one forecast.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Outcome {
    DryBefore,
    Within,
    DryAfter,
}

struct Site {
    mean: f64,
    swing: f64,
    lag: f64,
    weather: Vec<f64>,
}

impl Site {
    fn climate(&self, day: f64) -> f64 {
        self.mean + self.swing * (std::f64::consts::TAU * (day - 200.0 - self.lag) / 365.25).cos()
    }

    /// What the electrolyte had on a day.
    fn at(&self, day: f64) -> f64 {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "months of some years")]
        let month = (day / 30.4).max(0.0) as usize;
        self.climate(day) + self.weather[month % self.weather.len()]
    }
}

pub fn outcome(seed: u64, logged: Logged) -> Outcome {
    let mut chance = Chance::new(seed ^ 0x0077_a7e5);
    let seasonal = matches!(logged, Logged::SeasonalWithClimate | Logged::SeasonalWithout);
    let site = Site {
        mean: chance.between(9.0, 22.0),
        swing: if seasonal { chance.between(5.0, 11.0) } else { chance.between(0.0, 3.0) },
        lag: chance.between(-10.0, 20.0),
        weather: (0..240).map(|_| 1.2 * chance.normal()).collect(),
    };
    let model = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let shape = super::bank::shape(chance.one_of(&[(6, 2, 1), (3, 8, 1), (6, 4, 1), (3, 8, 2)]));
    let cells: Vec<CellAddress> = shape.cells().collect();
    let own: Vec<f64> = cells.iter().map(|_| (1.0 + 0.13 * chance.normal()).max(0.6)).collect();
    let growth = if logged == Logged::Growing { chance.between(0.1, 0.35) } else { 0.20 * chance.normal() };
    let rate = chance.between(0.8, 3.0);
    let first = date(2020, 1, 1).checked_add(i64::try_from(chance.below(365)).unwrap().days()).unwrap();
    // Days from New Year 2020 on.
    let start = f64::from(first.day_of_year());
    let drinks =
        |day: f64| rate * (growth * (day - start) / 365.25).exp() * 1.06f64.powf(site.at(day) - 25.0);
    let (mut day, mut bank, mut by_cell) = (start, Vec::new(), vec![Vec::new(); cells.len()]);
    let fills = 3 + chance.below(10);
    for _ in 0..fills {
        let days = chance.between(30.0, 90.0).round();
        let noise = (0.15 * chance.normal()).exp();
        let mut sum = 0.0;
        let mut at = day;
        while at < day + days {
            sum += drinks(at + 0.5) * noise;
            at += 1.0;
        }
        // The thermometer on the two days of filling.
        let log = f64::midpoint(site.at(day), site.at(day + days)) + 1.0 * chance.normal();
        let mut total = 0.0;
        for (i, factor) in own.iter().enumerate() {
            let ml = sum * factor * (1.0 + 0.07 * chance.normal());
            total += ml;
            by_cell[i].push(Interval { days, millilitres: ml.max(0.0), temperature: Some(log) });
        }
        let n = f64::from(u32::try_from(own.len()).unwrap());
        bank.push(Interval { days, millilitres: total / n, temperature: Some(log) });
        day += days;
    }
    let today: Date = first.checked_add((day - start) as i64 * 1.day()).unwrap();
    let climate = (logged == Logged::SeasonalWithClimate).then(|| {
        let means: [f64; 12] =
            std::array::from_fn(|m| site.climate((f64::from(u32::try_from(m).unwrap()) + 0.5) * 30.4375));
        MonthlyMeans::try_from(means).unwrap()
    });
    let history = WaterHistory {
        bank,
        cells: if logged == Logged::ByCell { cells.into_iter().zip(by_cell).collect() } else { Vec::new() },
        days_since_fill: Some(0.0),
        levels: Vec::new(),
        expected_temperature: None,
        cell_count: u32::try_from(own.len()).unwrap(),
        today: Some(today),
        climate,
        southern: false,
        compensates: false,
    };
    let told = forecast(&history, &model).unwrap();
    let reserve =
        (model.fill_mark_above_plates.unwrap().millimetres() - MARGIN_MM) * model.free_area.unwrap();
    let thirstiest = own.iter().copied().fold(0.0, f64::max);
    let noise = (0.15 * chance.normal()).exp();
    let (mut gone, mut after) = (0.0, 0.0);
    while gone < reserve && after < 4000.0 {
        gone += drinks(day + after + 0.5) * noise * thirstiest;
        after += 1.0;
    }
    if after < told.days.p10 {
        Outcome::DryBefore
    } else if after > told.days.p90 {
        Outcome::DryAfter
    } else {
        Outcome::Within
    }
}

/// Shares of a number of histories, per cent: within P10 to P90, and dry before P10.
pub fn shares(seeds: std::ops::Range<u64>, logged: Logged) -> (f64, f64) {
    let (mut n, mut within, mut before) = (0.0, 0.0, 0.0);
    for seed in seeds {
        n += 1.0;
        match outcome(seed, logged) {
            Outcome::Within => within += 1.0,
            Outcome::DryBefore => before += 1.0,
            Outcome::DryAfter => {}
        }
    }
    (100.0 * within / n, 100.0 * before / n)
}
