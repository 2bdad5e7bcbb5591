//! Figures of a plan and of a run with how they come about.

use super::{hours_minutes, run_kind};
use crate::equalize::{ABORT_AT, PAUSE_AT, RunKind, RunNow, RunPlan};
use crate::quantity::units::ReaderUnits;
use crate::quantity::{Temperature, Volume};

/// "17 to 42"; one figure where both are the same.
fn range(low: f64, high: f64) -> String {
    let (low, high) = (format!("{low:.0}"), format!("{high:.0}"));
    if low == high { high } else { format!("{low} to {high}") }
}

/// A figure with how it comes about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Figure {
    /// What.
    pub name: &'static str,
    /// Its value.
    pub value: String,
    /// Its unit; empty where the value says it.
    pub unit: &'static str,
    /// How it comes about.
    pub how: String,
}

fn volume(millilitres: f64, units: ReaderUnits) -> String {
    Volume::from_millilitres(millilitres).map(|v| units.say_volume(v)).unwrap_or_default()
}

/// A temperature of a log in the reader's unit.
pub fn degrees(celsius: f64, units: ReaderUnits) -> String {
    Temperature::from_celsius(celsius).map(|t| units.say_temperature(t)).unwrap_or_default()
}

/// Current, hours, water, air and fan of a plan.
pub fn plan_figures(plan: &RunPlan, units: ReaderUnits) -> Vec<Figure> {
    let own = if plan.hours_are_own { "by this bank\u{2019}s own runs" } else { "as such runs usually go" };
    let (airflow, airflow_unit) = units.show_airflow(plan.air.airflow);
    let short =
        if plan.source_too_small { " The source has less: it will take longer, or not finish." } else { "" };
    vec![
        Figure {
            name: "Current",
            value: range(plan.current.low, plan.current.high),
            unit: "A",
            how: format!("2 to 5 % of C20, never above {:.0} A (EQ-4).{short}", plan.most_current),
        },
        Figure {
            name: "Hours",
            value: format!("{:.1}", plan.hours.middle),
            unit: "h",
            how: format!(
                "{:.1} to {:.1} h, {own}; stopped at {:.0} h, finished or not",
                plan.hours.low, plan.hours.high, plan.cap
            ),
        },
        Figure {
            name: "Boils off, at most",
            value: volume(plan.water.high, units),
            unit: "",
            how: format!(
                "{} as a rule; all current counted as gassing (WA-1)",
                volume(plan.water.middle, units)
            ),
        },
        Figure {
            name: "Air",
            value: format!("{airflow:.1}"),
            unit: airflow_unit,
            how: format!(
                "or openings of {} low and high; no spark within {} of a vent (VE-1)",
                units.say_area(plan.air.opening),
                super::length(plan.air.distance, units)
            ),
        },
        Figure {
            name: "Fan from",
            value: format!("{:.1}", plan.fan_from),
            unit: "V",
            how: "2.37 V a cell, where gassing sets in; common practice".into(),
        },
    ]
}

/// "17 to 42 A suit it, never above 84 A".
pub fn most_amperes(plan: &RunPlan) -> String {
    format!(
        "{} A suit it, never above {:.0} A",
        range(plan.current.low, plan.current.high),
        plan.most_current
    )
}

/// How the water of a run comes about.
pub fn run_water(run: &RunNow, cells_in_series: u16, strings: u8, units: ReaderUnits) -> String {
    format!(
        "{:.1} Ah of the bank over {cells_in_series} cells in series, {} a cell (WA-1); all of it counted as gassing",
        run.ampere_hours,
        volume(run.water_a_cell(strings), units)
    )
}

/// How its air comes about.
pub fn run_air(plan: &RunPlan, units: ReaderUnits) -> String {
    format!(
        "VE-1; openings of {} low and high; a fan from {:.1} V on",
        units.say_area(plan.air.opening),
        plan.fan_from
    )
}

/// "EQ-4 ends any corrective run at 8:00".
pub fn run_cap(kind: RunKind) -> String {
    format!("EQ-4 ends any {} run at {}", run_kind(kind), hours_minutes(kind.cap()))
}

/// "pause at 46 °C, stop at 52 °C".
pub fn run_limits(units: ReaderUnits) -> String {
    format!("pause at {}, stop at {}", degrees(PAUSE_AT, units), degrees(ABORT_AT, units))
}
