//! The planner of a size: layouts of the library that serve the loads.

use super::answer::{PlanAnswer, PlanFact, PlanLink, PlanOption, PlanTable};
use super::control::{Control, ControlKind, degrees, group, several, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use crate::db::ModelRow;
use rainshadow_core::charge::Stage;
use rainshadow_core::life::daily_cycle_life;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::runtime::{RuntimeAsked, RuntimeLoad, runtime};
use rainshadow_core::severity::Severity;
use rainshadow_core::sizing::{
    AGEING, SizeNeeded, SizedLayout, SizingAsked, SizingError, layout_of, size_needed,
};
use rainshadow_core::ventilation::{GassingBank, ventilation};
use rainshadow_core::wording;

/// Layouts that are shown.
const SHOWN: usize = 6;

/// What it begins with.
pub(super) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let what = |key, label: &str, value: String, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    let volts = subject.shape.system_voltage;
    let c20 = subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel);
    let day = (c20 * f64::from(volts) * 0.2 / 100.0).round() * 100.0;
    let mean = subject.known.as_ref().and_then(|(_, site)| site.climate).map(|own| own.celsius());
    let coldest = mean.map_or(10.0, |own| own.into_iter().fold(f64::MAX, f64::min).max(-20.0));
    let from = if mean.is_some() { "coldest month of the site; type that of the room" } else { "our choice" };
    let planned = subject.rules.planned_depth_percent.to_string();
    let mut all = group(
        "What it is to do",
        [
            what("size_voltage", "System", volts.to_string(), "typed").unit("V"),
            Control::new(ControlKind::Choice, ("by", "Loads"), "day", "typed")
                .options([("day", "by the day"), ("hour", "by the hour")]),
            what("watt_hours", "They take", day.to_string(), "a fifth of its capacity; type what it is")
                .unit("Wh a day")
                .when("by", &["day"]),
            Control::new(
                ControlKind::Hours,
                ("watts", "From midnight on"),
                several(vec!["100".to_owned(); 24]),
                "typed",
            )
            .unit("W")
            .when("by", &["hour"]),
            what("surge", "Highest surge", "0".into(), "typed; 0: none").unit("W"),
            Control::new(
                ControlKind::Slider,
                ("efficiency", "Inverter gives"),
                "88",
                "RT-3: 85 to 92; 100 without one",
            )
            .unit("%")
            .range(70.0, 100.0, 1.0),
            Control::new(ControlKind::Slider, ("days", "Without a source"), "3", "typed")
                .unit("days")
                .range(0.5, 14.0, 0.5),
        ],
    );
    all.extend(group(
        "What it rests on",
        [
            Control::new(ControlKind::Slider, ("depth", "Down to"), planned, "planned depth of the house")
                .unit("% deep")
                .range(20.0, 100.0, 5.0),
            what("temperature", "Coldest electrolyte", typed_degrees(coldest, unit), from)
                .unit(degrees(unit)),
            Control::new(
                ControlKind::Slider,
                ("ageing", "For its old age"),
                AGEING.to_string(),
                "1.25: IEEE 485, from memory",
            )
            .unit("times")
            .range(1.0, 1.5, 0.05),
            what("price", "Batteries", "0".into(), "typed; 0: not told").unit("a kWh of capacity"),
        ],
    ));
    all
}

fn asked(typed: &mut Typed<'_>) -> AppResult<(SizingAsked, f64)> {
    let watt_hours = if typed.text("by") == "hour" {
        typed.numbers::<24>("watts", bounds::RUNTIME_LOAD).iter().sum()
    } else {
        typed.number("watt_hours", bounds::DAILY_ENERGY)
    };
    let share =
        bounds::Bounds { low: 50.0, high: 100.0, unit: "%", decimals: 0, ..bounds::INVERTER_EFFICIENCY };
    let own = SizingAsked {
        system_voltage: typed.whole("size_voltage", bounds::SYSTEM_VOLTAGE),
        watt_hours,
        days: typed.number("days", bounds::AUTONOMY),
        depth: typed.number("depth", bounds::CYCLE_DEPTH),
        efficiency: typed.number("efficiency", share) / 100.0,
        temperature: typed.degrees("temperature"),
        ageing: typed.number("ageing", bounds::AGEING),
        surge: typed.number("surge", bounds::RUNTIME_LOAD),
    };
    let price = typed.number("price", bounds::PRICE);
    std::mem::take(&mut typed.faults).none()?;
    Ok((own, price))
}

fn key_of(error: &SizingError, typed: &Typed<'_>) -> &'static str {
    match error.field() {
        "system_voltage" => "size_voltage",
        "watt_hours" if typed.text("by") == "hour" => "watts",
        other => other,
    }
}

fn option(
    (row, own): (&ModelRow, &SizedLayout),
    (asked, needed): (&SizingAsked, &SizeNeeded),
    price: f64,
    best: bool,
) -> PlanOption {
    let model = &row.model;
    let alone = RuntimeAsked {
        model: model.clone(),
        shape: own.shape.clone(),
        load: RuntimeLoad::Continuous { amount: needed.amperes },
        inverter: None,
        temperature: asked.temperature,
        health: 100.0,
        health_range: None,
        charged: 100.0,
        depth: asked.depth,
        exponent: None,
        alarm: None,
        empty: None,
    };
    let hours = runtime(&alone).map(|own| own.empty.hours).unwrap_or_default();
    let [best_years, low, high] = daily_cycle_life(model.construction, own.daily_depth, 25.0);
    let money = price * own.kilowatt_hours;
    let gassing = GassingBank {
        construction: model.construction,
        cells: own.shape.cells_in_series(),
        capacity: own.c20,
        stage: Stage::Absorption,
        current: None,
        enclosure: None,
    };
    let air = ventilation(&gassing).map(|own| own.airflow).unwrap_or_default();
    let strings = own.shape.parallel;
    let mut figures = vec![
        PlanFact::new("strings", strings.to_string(), "").note(format!("of {} batteries", own.shape.series)),
        PlanFact::new("at its rate", format!("{:.0}", own.at_rate), "Ah")
            .note(format!("{:.0} at 20 hours", own.c20)),
        PlanFact::new("new it lasts", wording::lasting(hours), "")
            .note(format!("to {:.0} % deep", asked.depth)),
        PlanFact::new("depth of a day", format!("{:.0}", own.daily_depth), "%"),
        PlanFact::new("years", format!("{best_years:.1}"), "").note(format!("{low:.1} to {high:.1}, LF")),
        PlanFact::new("weighs about", format!("{:.0}", own.kilograms), "kg"),
        PlanFact::new("share of a string", format!("{:.0}", 100.0 / f64::from(strings)), "%")
            .note(if strings > 1 { "with equal leads" } else { "" }),
        PlanFact::new("air while it gasses", format!("{air:.1}"), "m\u{b3} an hour").note("VE-1"),
        PlanFact::new("cells to water", own.cells_to_water.to_string(), ""),
    ];
    if price > 0.0 {
        figures.push(PlanFact::new("money", format!("{money:.0}"), ""));
        figures.push(PlanFact::new("money a year", format!("{:.0}", money / best_years.max(0.1)), ""));
    }
    PlanOption {
        key: row.id.clone(),
        name: model.name.clone(),
        about: model.construction.word().into(),
        condition: own.condition,
        best,
        figures,
        comes_to: wording::layout_said(own),
        schools: Vec::new(),
        refused: String::new(),
        string: None,
        go: Some(PlanLink {
            label: "Describe this bank".into(),
            to: format!(
                "/banks/new?model={}&volts={}&series={}&strings={strings}",
                row.id, own.shape.system_voltage, own.shape.series
            ),
        }),
    }
}

/// The answer.
pub(super) fn answer(models: &[ModelRow], typed: &mut Typed<'_>) -> AppResult<PlanAnswer> {
    let (asked, price) = asked(typed)?;
    let refused = |e: SizingError| AppError::refused(key_of(&e, typed), &e);
    let needed = size_needed(&asked).map_err(refused)?;
    let mut all: Vec<(&ModelRow, SizedLayout)> = Vec::new();
    let mut too_small = Vec::new();
    for row in models {
        match layout_of(&asked, &row.model).map_err(refused)? {
            Some(own) => all.push((row, own)),
            None => too_small.push(row.model.name.clone()),
        }
    }
    // Steady ones first, few strings before many, no larger than they have to be.
    let rank = |own: &SizedLayout| (own.condition, own.shape.parallel);
    all.sort_by(|a, b| rank(&a.1).cmp(&rank(&b.1)).then(a.1.c20.total_cmp(&b.1.c20)));
    all.truncate(SHOWN);
    let best = all
        .first()
        .filter(|(_, own)| own.condition == Severity::Steady)
        .map(|(row, own)| (row.model.name.as_str(), own));
    let options =
        all.iter().enumerate().map(|(at, (row, own))| option((row, own), (&asked, &needed), price, at == 0));
    let heads = ["What is not proposed", "why"];
    let rows = too_small
        .into_iter()
        .map(|name| vec![name, "does not make the volts, or needs more than five strings".into()]);
    Ok(PlanAnswer {
        said: wording::size_verdict(&needed, best.or(all.first().map(|(row, own)| (row.model.name.as_str(), own)))),
        facts: vec![
            PlanFact::new("a day at the bank", format!("{:.0}", needed.ampere_hours_a_day), "Ah"),
            PlanFact::new("needed", format!("{:.0}", needed.ampere_hours.ceil()), "Ah"),
            PlanFact::new("for the cold", format!("{:.2}", needed.temperature_factor), "times").note("IEEE 485"),
            PlanFact::new("surge", format!("{:.0}", needed.surge_amperes), "A"),
        ],
        options: options.collect(),
        charts: Vec::new(),
        tables: vec![PlanTable {
            title: "Others of the library".into(),
            heads: heads.iter().map(|own| (*own).to_owned()).collect(),
            rows: rows.collect(),
        }],
        dates: Vec::new(),
        lists: Vec::new(),
        cautions: vec!["Weight, acid and gas: the floor, the tray and the air have to be made for it; local codes and licensed practice come first.".into()],
        assumptions: vec![
            "Weight is reckoned at 30 kg for each kWh; the maker\u{2019}s sheet wins.".into(),
            "Years are those of a cycle a day of this depth, at 25 \u{b0}C.".into(),
            "Larger cells are proposed before more than three strings.".into(),
        ],
        rule: wording::SIZE_RULE.to_owned(),
    })
}
