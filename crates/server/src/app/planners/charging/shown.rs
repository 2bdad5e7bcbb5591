//! How a year of charging is shown: options, pictures, tables.

use super::super::answer::{
    ChartFoot, ChartLimit, PlanChart, PlanFact, PlanOption, PlanSeries, PlanTable, SchoolSays, SchoolView,
    SeriesLook,
};
use super::super::subject::Subject;
use super::tried::Tried;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::charge::time_to_full;
use rainshadow_core::charging_plan::plug_kilowatt_hours;
use rainshadow_core::charging_plan::{
    ChargingAsked, ChargingDay, ChargingYear, MONTH_DAYS, Prices, depth_curve,
};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::design_life;
use rainshadow_core::severity::Severity;
use rainshadow_core::water::MONTHS;
use rainshadow_core::wording;

pub(super) fn money_said(own: f64) -> String {
    format!("{own:.0}")
}

/// Years that a new bank lasts so, or why they are not told.
fn life(year: &ChargingYear) -> PlanFact {
    let name = "years of a new bank";
    if year.runs_empty() {
        return PlanFact::new(name, "not told", "");
    }
    let [years, shortest, longest] = year.years;
    PlanFact::new(name, format!("{years:.1}"), "").note(format!("{shortest:.1} to {longest:.1}, LF"))
}

pub(super) fn option(own: &Tried, best: bool, told: bool) -> PlanOption {
    let year = &own.year;
    let caps = own.asked.model.construction.has_caps();
    let mut figures = vec![
        PlanFact::new("full days a year", year.full_days.to_string(), ""),
        PlanFact::new("longest without", year.longest_without.to_string(), "days"),
        PlanFact::new("depth of a day", format!("{:.0}", year.depth), "%"),
        life(year),
    ];
    if told {
        figures.push(PlanFact::new("spent now", money_said(own.spent), ""));
        figures.push(PlanFact::new("fuel and mains a year", money_said(own.money.sources), ""));
        // The price of a bank over years that nobody knows tells nothing.
        if !year.runs_empty() {
            figures.push(PlanFact::new("with the bank, a year", money_said(own.money.a_year), ""));
            figures.push(PlanFact::new("in ten years", money_said(own.money.ten_years), ""));
        }
    }
    let bad = year.condition(caps) == Severity::Act;
    let schools = HouseRules::shipped().into_iter().map(|house| {
        let deep = f64::from(house.planned_depth_percent);
        let says = if year.depth > deep || bad { SchoolSays::WouldNot } else { SchoolSays::Would };
        SchoolView { name: house.name, says, why: format!("plans {deep:.0} % deep") }
    });
    PlanOption {
        key: own.key.into(),
        name: own.name.clone(),
        about: own.about.clone(),
        condition: year.condition(caps),
        best,
        figures,
        comes_to: wording::charging_comes_to(year),
        schools: schools.collect(),
        refused: String::new(),
        go: None,
        string: None,
    }
}

pub(super) fn facts(subject: &Subject, year: &ChargingYear) -> Vec<PlanFact> {
    let a_day = |own: f64| format!("{:.1}", own / 365.0);
    let mut all = vec![
        PlanFact::new("full on", year.full_days.to_string(), "days of 365"),
        PlanFact::new("used", a_day(year.account.used), "Ah a day"),
    ];
    let recorded = subject.record.as_ref().filter(|(own, _)| own.known_days > 0);
    all.extend(recorded.map(|(own, _)| {
        let full = format!("{} of {}", own.full_days, own.known_days);
        PlanFact::new("full by its record", full, "days")
            .note(format!("longest without {}", own.longest_without_full))
    }));
    for (name, own) in [
        ("sun", year.account.solar),
        ("engine", year.account.engine),
        ("generator", year.account.generator),
        ("plug", year.account.shore),
    ] {
        if own > 0.0 {
            all.push(PlanFact::new(format!("from the {name}"), a_day(own), "Ah a day"));
        }
    }
    all
}

/// How long each source that can finish takes from half, with its fuel and money.
pub(super) fn to_full(asked: &ChargingAsked, prices: &Prices) -> AppResult<PlanTable> {
    const FROM: f64 = 50.0;
    let capacity =
        asked.model.c20.ampere_hours() * f64::from(asked.shape.parallel) * (asked.health / 100.0).min(1.0);
    let mut rows = Vec::new();
    let volts = f64::from(asked.shape.system_voltage);
    for (name, own) in [("generator", asked.generator), ("plug", asked.shore)] {
        let Some(own) = own else { continue };
        let time = time_to_full(asked.model.construction, capacity, own.amperes, FROM)
            .map_err(|e| AppError::refused("health", &e))?;
        let Some(time) = time else { continue };
        let litres = own.litres * time.hours();
        let plug = if own.litres > 0.0 { 0.0 } else { plug_kilowatt_hours(time.ampere_hours, volts) };
        let money = litres * prices.litre + plug * prices.kilowatt_hour;
        rows.push(vec![
            format!("the {name}, {:.0} A", own.amperes),
            wording::lasting(time.hours()),
            if litres > 0.0 { format!("{litres:.1} L") } else { format!("{plug:.1} kWh") },
            money_said(money),
        ]);
    }
    if asked.engine.is_some() {
        rows.push(vec![
            "the engine".into(),
            "never".into(),
            "its regulator holds low volts".into(),
            String::new(),
        ]);
    }
    let heads = ["From half to full", "takes", "fuel or mains", "money"];
    Ok(PlanTable {
        title: "Time to full (CH-4), loads off".into(),
        heads: heads.iter().map(|own| (*own).to_owned()).collect(),
        rows,
    })
}

/// Highest charge of each day, and the days that are full.
pub(super) fn days_chart(title: &str, year: &ChargingYear) -> PlanChart {
    let point = |(n, own): (usize, &ChargingDay)| {
        let day = f64::from(u32::try_from(n).unwrap_or(0)) + 0.5;
        [month_of_day(day), own.highest]
    };
    let full = year.days.iter().enumerate().filter(|(_, own)| own.full).map(point);
    PlanChart {
        title: format!("{title}: highest charge of each day"),
        unit: "%; dots are full days".into(),
        foot: ChartFoot::Months,
        foot_unit: String::new(),
        span: Some([0.0, 110.0]),
        series: vec![
            PlanSeries {
                name: "charge".into(),
                look: SeriesLook::Bars,
                points: year.days.iter().enumerate().map(point).collect(),
            },
            PlanSeries {
                name: format!("{} full", year.full_days),
                look: SeriesLook::Marks,
                points: full.map(|[x, _]| [x, 104.0]).collect(),
            },
        ],
        limits: vec![ChartLimit { at: 100.0, name: "full".into() }],
        spoken: format!("full on {} days, {} the longest without", year.full_days, year.longest_without),
    }
}

/// Where a day of the year stands on a foot of months.
pub(super) fn month_of_day(day: f64) -> f64 {
    let mut left = day;
    for (month, days) in (0u8..).zip(MONTH_DAYS) {
        if left < f64::from(days) {
            return f64::from(month) + left / f64::from(days);
        }
        left -= f64::from(days);
    }
    12.0
}

/// The most Ah of a month, from all sources or used.
pub(super) fn most_of_a_month(year: &ChargingYear) -> f64 {
    year.months.iter().flat_map(|own| [own.account.came(), own.account.used]).fold(1.0, f64::max)
}

pub(super) fn months_chart(year: &ChargingYear) -> PlanChart {
    let of = |pick: &dyn Fn(&rainshadow_core::charging_plan::ChargingMonth) -> f64| -> Vec<[f64; 2]> {
        let months = (0u8..).zip(&year.months);
        months.map(|(month, own)| [f64::from(month) + 0.5, pick(own)]).collect()
    };
    PlanChart {
        title: "Sources against use".into(),
        unit: "Ah a month at the posts".into(),
        foot: ChartFoot::Months,
        foot_unit: String::new(),
        span: Some([0.0, most_of_a_month(year)]),
        series: vec![
            PlanSeries {
                name: "from all sources".into(),
                look: SeriesLook::Bars,
                points: of(&|own| own.account.came()),
            },
            PlanSeries { name: "used".into(), look: SeriesLook::Best, points: of(&|own| own.account.used) },
        ],
        limits: Vec::new(),
        spoken: year
            .months
            .iter()
            .zip(MONTHS)
            .map(|(own, name)| format!("{name} {:.0} of {:.0}", own.account.came(), own.account.used))
            .collect::<Vec<_>>()
            .join("; "),
    }
}

pub(super) fn depth_chart(subject: &Subject, year: &ChargingYear) -> PlanChart {
    let curve = depth_curve(subject.model.construction, design_life(subject.model.construction));
    let points: Vec<[f64; 2]> = curve.iter().map(|own| [own.depth, own.years]).collect();
    let here =
        curve.iter().min_by(|a, b| (a.depth - year.depth).abs().total_cmp(&(b.depth - year.depth).abs()));
    let mine = here.map(|own| [year.depth, own.years]);
    PlanChart {
        title: "Depth against life".into(),
        unit: "years of a cycle a day, LF-1 and LF-2".into(),
        foot: ChartFoot::Figure,
        foot_unit: "% deep".into(),
        span: Some([0.0, design_life(subject.model.construction)]),
        series: vec![
            PlanSeries { name: "years".into(), look: SeriesLook::Best, points },
            PlanSeries {
                name: format!("this bank, {:.0} %", year.depth),
                look: SeriesLook::Dots,
                points: mine.into_iter().collect(),
            },
        ],
        limits: Vec::new(),
        spoken: curve
            .iter()
            .map(|own| format!("{:.0} %: {:.1} years", own.depth, own.years))
            .collect::<Vec<_>>()
            .join("; "),
    }
}

pub(super) fn months_table(year: &ChargingYear) -> PlanTable {
    let heads =
        ["Month", "full days", "lowest, %", "used, Ah", "sun", "engine", "generator", "plug", "missed"];
    let rows = year.months.iter().zip(MONTHS).map(|(own, name)| {
        let a = own.account;
        let figures = [a.used, a.solar, a.engine, a.generator, a.shore, a.missed];
        let mut row = vec![name.to_owned(), own.full_days.to_string(), format!("{:.0}", own.lowest.max(0.0))];
        row.extend(figures.iter().map(|own| format!("{own:.0}")));
        row
    });
    PlanTable {
        title: "Month by month".into(),
        heads: heads.iter().map(|own| (*own).to_owned()).collect(),
        rows: rows.collect(),
    }
}
