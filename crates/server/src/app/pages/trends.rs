//! What the years say of a bank, as small pictures: spread, lowest cell, water, rest volts, resistance, joints (RD-6).

use crate::db::{BankRow, HistoryRow, RoundRow};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::ohmic::RISE;
use rainshadow_core::quantity::Volume;
use rainshadow_core::quantity::units::{MILLILITRES_PER_US_GALLON, ReaderUnits, VolumeUnit};
use rainshadow_core::rest::judge_rest;
use rainshadow_core::round::{Slope, slope};
use rainshadow_core::visit::{
    Gravities, JointsOfVisit, Judged, PastVisit, ResistanceHistory, fills, joints_of_visits,
    resistance_history, rest_sheet,
};
use serde::Serialize;
use std::collections::{BTreeMap, HashMap};
use utoipa::ToSchema;

/// One value of a trend.
#[derive(Debug, Serialize, ToSchema)]
pub struct TrendPoint {
    /// Day as said.
    pub day: String,
    /// Day to plot by.
    pub date: String,
    /// Value.
    pub value: f64,
}

/// One small multiple.
#[derive(Debug, Serialize, ToSchema)]
pub struct Trend {
    /// What.
    pub title: &'static str,
    /// Unit and basis.
    pub unit: String,
    /// Values, oldest first.
    pub points: Vec<TrendPoint>,
    /// Limit, where it has one.
    pub limit: Option<f64>,
    /// Whose limit.
    pub limit_name: String,
    /// Decimals of the figures.
    pub decimals: u8,
    /// Smallest height of the picture, in the unit.
    pub least: f64,
    /// RD-6 in words: "grows 6 points a year (2 to 11)"; empty under five values or 180 days.
    pub said: String,
    /// True for amounts that are drawn as bars.
    pub bars: bool,
}
fn axis(day: Date) -> f64 {
    f64::from(Date::constant(2000, 1, 1).until(day).map_or(0, |s| s.get_days()))
}

fn trend_words(slope: Option<Slope>, unit: &str, decimals: usize) -> String {
    let Some(s) = slope else { return String::new() };
    let size = |v: f64| format!("{:.decimals$}", v.abs());
    if s.low > 0.0 || s.high < 0.0 {
        let verb = if s.per_year > 0.0 { "grows" } else { "falls" };
        let (small, large) = if s.per_year > 0.0 { (s.low, s.high) } else { (s.high, s.low) };
        format!("{verb} {} {unit} a year ({} to {})", size(s.per_year), size(small), size(large))
    } else {
        "no trend seen".into()
    }
}

fn points(values: &[(Date, f64)]) -> Vec<TrendPoint> {
    values
        .iter()
        .map(|(day, value)| TrendPoint { day: words::day(*day), date: day.to_string(), value: *value })
        .collect()
}

fn slope_of(values: &[(Date, f64)]) -> Option<Slope> {
    slope(&values.iter().map(|(d, v)| (axis(*d), *v)).collect::<Vec<_>>())
}

/// Per cent that the furthest risen battery stood over its first value, day by day.
fn most_risen(all: &[ResistanceHistory]) -> Vec<(Date, f64)> {
    let mut by_day: BTreeMap<Date, f64> = BTreeMap::new();
    for read in all.iter().flat_map(|own| &own.read) {
        let most = by_day.entry(read.day).or_insert(f64::NEG_INFINITY);
        *most = most.max(100.0 * read.rise);
    }
    by_day.into_iter().collect()
}

/// The highest joint of every round of joints that told one, mΩ.
fn worst_joint(visits: &[PastVisit], bank: Judged<'_>) -> Vec<(Date, f64)> {
    let highest = |own: &JointsOfVisit| {
        let resolved = own.joints.iter().filter(|read| read.judged.resolved);
        resolved.map(|read| read.judged.milliohms).max_by(f64::total_cmp)
    };
    joints_of_visits(visits, bank).iter().filter_map(|(day, own)| Some((*day, highest(own)?))).collect()
}

/// RD-6 for the bank: spread, lowest cell, water, rest volts as small multiples.
pub(super) fn trends(
    history: &[HistoryRow],
    rounds: &HashMap<String, RoundRow>,
    visits: &[PastVisit],
    bank: &BankRow,
    (model, rules): (&BatteryModel, &HouseRules),
    units: ReaderUnits,
) -> Vec<Trend> {
    let of = |pick: fn(&HistoryRow) -> Option<f64>| -> Vec<(Date, f64)> {
        history.iter().rev().filter_map(|h| Some((rounds.get(&h.round)?.day(), pick(h)?))).collect()
    };
    let mut all = Vec::new();
    let mut add =
        |title, unit: String, values: &[(Date, f64)], (decimals, least): (u8, f64), words: String| {
            if values.len() > 1 {
                all.push(Trend {
                    title,
                    unit,
                    points: points(values),
                    limit: None,
                    limit_name: String::new(),
                    decimals,
                    least,
                    said: words,
                    bars: false,
                });
            }
        };
    let spread = of(|h| h.spread);
    add(
        "Spread",
        "points, highest less lowest".into(),
        &spread,
        (0, 0.0),
        trend_words(slope_of(&spread), "points", 0),
    );
    let lowest = of(|h| h.lowest_gravity);
    let in_points: Vec<(Date, f64)> = lowest.iter().map(|(d, v)| (*d, v * 1000.0)).collect();
    add(
        "Lowest cell",
        "corrected gravity".into(),
        &lowest,
        (3, 0.02),
        trend_words(slope_of(&in_points), "points", 0),
    );
    let filled = fills(visits, &bank.shape);
    let monthly: Vec<(Date, f64)> = filled
        .windows(2)
        .filter_map(|pair| {
            let days = f64::from(pair[0].day.until(pair[1].day).map_or(0, |s| s.get_days()));
            let volume = Volume::from_millilitres(pair[1].millilitres).ok()?;
            (days >= 1.0).then(|| (pair[1].day, volume.millilitres() / days * 30.4))
        })
        .collect();
    let most = monthly.iter().map(|(_, v)| *v).fold(0.0, f64::max);
    let (size, unit, decimals) = match units.volume {
        VolumeUnit::Litre if most < 1000.0 => (1.0, "mL", 0),
        VolumeUnit::Litre => (1000.0, "L", 1),
        VolumeUnit::UsGallon => (MILLILITRES_PER_US_GALLON, "US gal", 2),
    };
    let monthly: Vec<(Date, f64)> = monthly.into_iter().map(|(day, v)| (day, v / size)).collect();
    let caption = format!("{unit} a month, whole bank");
    let words = trend_words(slope_of(&monthly), unit, usize::from(decimals));
    add("Water used", caption, &monthly, (decimals, 0.0), words);
    let rest: Vec<(Date, f64)> = visits
        .iter()
        .filter_map(|v| {
            let judged = judge_rest(&rest_sheet(
                &v.sheet,
                &[],
                Judged { shape: &bank.shape, model, rules },
                &Gravities::new(),
            ));
            judged.grade.tells_charge().then_some((v.day, judged.median?))
        })
        .collect();
    add("Rest volts", "V, median battery".into(), &rest, (2, 0.2), trend_words(slope_of(&rest), "V", 2));
    let risen = most_risen(&resistance_history(visits, &bank.shape));
    let words = trend_words(slope_of(&risen), "points", 0);
    add("Resistance", "% over its first value, most of any battery".into(), &risen, (0, 5.0), words);
    let joints = worst_joint(visits, Judged { shape: &bank.shape, model, rules });
    let words = trend_words(slope_of(&joints), "mΩ", 2);
    add("Joints", "mΩ, highest of those resolved".into(), &joints, (2, 0.1), words);
    for trend in &mut all {
        match trend.title {
            "Spread" => {
                trend.limit = Some(rules.balance_limits(model).equalize.value());
                trend.limit_name = "house limit".into();
            }
            "Resistance" => {
                trend.limit = Some(100.0 * RISE[0]);
                trend.limit_name = "watch".into();
            }
            "Water used" => trend.bars = true,
            _ => {}
        }
    }
    all
}
