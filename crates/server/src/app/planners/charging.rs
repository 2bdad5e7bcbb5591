//! The planner of charging: does any source finish, what a change does, and what it costs.

use super::answer::{
    ChartFoot, ChartLimit, PlanAnswer, PlanChart, PlanFact, PlanList, PlanOption, PlanSeries, PlanTable,
    SchoolSays, SchoolView, SeriesLook,
};
use super::control::{Control, ControlKind, figure, group, several};
use super::storage::{CLEARNESS, climate_controls, means};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::charge::time_to_full;
use rainshadow_core::charging_plan::{
    ChargingAsked, ChargingDay, ChargingError, ChargingMoney, ChargingYear, EngineUse, MONTH_DAYS,
    MOST_DAYS_WITHOUT, PlugUse, Prices, charging_money, charging_year, depth_curve, stay,
};
use rainshadow_core::equipment::SourceKind;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::design_life;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::severity::Severity;
use rainshadow_core::solar::{SolarArray, SolarSky};
use rainshadow_core::water::MONTHS;
use rainshadow_core::wording;

/// Nights on shore that are tried: one in so many days.
const WEEKLY: u16 = 7;
/// Watts that an array is tried with where there is none, for each Ah of the bank (our choice, no source).
const WATTS_PER_AH: f64 = 1.0;

/// Amperes of a source of the books, with where they come from.
fn amperes_of(sources: &[rainshadow_core::equipment::Source], kinds: &[SourceKind]) -> Option<f64> {
    sources.iter().find(|own| own.kind.is_some_and(|kind| kinds.contains(&kind)))?.amperes
}

/// What it begins with.
pub(super) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let c20 = subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel);
    let own = |kinds: &[SourceKind]| amperes_of(&subject.sources, kinds);
    let what = |key, label: &str, value: String, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    let check = |key, label: &str, on: bool, source: &str| {
        Control::new(ControlKind::Check, (key, label), if on { "yes" } else { "no" }, source)
    };
    let tenth = figure((c20 / 10.0).round());
    let amperes = |own: Option<f64>| {
        own.map_or((tenth.clone(), "a tenth of C20; type what it has"), |a| {
            (figure(a), "equipment of the bank")
        })
    };
    let has = |kinds: &[SourceKind]| {
        subject.sources.iter().any(|own| own.kind.is_some_and(|kind| kinds.contains(&kind)))
    };
    let (solar, engine) = (has(&[SourceKind::SolarController]), has(&[SourceKind::Alternator]));
    let (generator, shore) =
        (has(&[SourceKind::Generator]), has(&[SourceKind::ShoreCharger, SourceKind::InverterCharger]));
    let (engine_a, engine_from) = amperes(own(&[SourceKind::Alternator]));
    let (generator_a, generator_from) = amperes(own(&[SourceKind::Generator]));
    let (shore_a, shore_from) = amperes(own(&[SourceKind::ShoreCharger, SourceKind::InverterCharger]));
    // A tenth of the capacity a day, most of it in the evening.
    let evening = |hour: u8| if (17..23).contains(&hour) { 3.0 } else { 0.35 };
    let mean = c20 / 10.0 / (0..24).map(evening).sum::<f64>();
    let loads = several((0..24).map(|hour| figure((mean * evening(hour) * 10.0).round() / 10.0)));
    let mut all = group(
        "What is drawn",
        [
            Control::new(
                ControlKind::Hours,
                ("loads", "Loads from midnight on"),
                loads,
                "a tenth of C20 a day; type what they are",
            )
            .unit("A"),
            Control::new(
                ControlKind::Months,
                ("loads_by_month", "Of that, month by month"),
                several(vec!["100".to_owned(); 12]),
                "typed",
            )
            .unit("%"),
            subject.health_control(),
        ],
    );
    all.extend(group(
        "Sun",
        [
            check(
                "solar",
                "It has an array",
                solar || subject.known.is_none(),
                if solar { "equipment of the bank" } else { "" },
            ),
            what(
                "watts",
                "Array",
                figure((WATTS_PER_AH * c20).round()),
                "a watt for each Ah; type its plates",
            )
            .unit("W")
            .when("solar", &["yes"]),
            Control::new(ControlKind::Slider, ("tilt", "Tilt"), "45", "typed; 0 is flat")
                .unit("\u{b0}")
                .range(0.0, 90.0, 5.0)
                .when("solar", &["yes"]),
            what("azimuth", "Looks to", "180".into(), "180 is south").unit("\u{b0}").when("solar", &["yes"]),
            what(
                "latitude",
                "Latitude",
                if subject.southern() { "-35" } else { "47" }.into(),
                "typed; south is negative",
            )
            .unit("\u{b0}")
            .when("solar", &["yes"]),
            what("altitude", "Height over the sea", "400".into(), "typed").unit("m").when("solar", &["yes"]),
            Control::new(
                ControlKind::Slider,
                ("left", "Left of its watts"),
                "75",
                "CH-5: heat, dirt, wires, controller",
            )
            .unit("%")
            .range(40.0, 95.0, 5.0)
            .when("solar", &["yes"]),
            Control::new(
                ControlKind::Months,
                ("clearness", "Light against a clear sky"),
                several(vec![figure(100.0 * CLEARNESS); 12]),
                "our choice; weather services tell it",
            )
            .unit("%")
            .when("solar", &["yes"]),
            Control::new(
                ControlKind::Months,
                ("snow", "Snow leaves"),
                several(vec!["100".to_owned(); 12]),
                "typed",
            )
            .unit("%")
            .when("solar", &["yes"]),
        ],
    ));
    all.extend(group(
        "Engine",
        [
            check(
                "engine",
                "An engine charges it",
                engine,
                if engine { "equipment of the bank" } else { "" },
            ),
            what("engine_amperes", "Alternator", engine_a, engine_from).unit("A").when("engine", &["yes"]),
            Control::new(ControlKind::Slider, ("engine_hours", "Runs"), "0.5", "typed")
                .unit("h a day")
                .range(0.0, 8.0, 0.25)
                .when("engine", &["yes"]),
            what("engine_every", "One day in", "1".into(), "1 is every day").when("engine", &["yes"]),
            what("engine_volts", "Regulator holds", "2.35".into(), "CH-4: 2.33 to 2.37")
                .unit("V a cell")
                .when("engine", &["yes"]),
            what("engine_litres", "It burns", "2".into(), "typed").unit("L an hour").when("engine", &["yes"]),
        ],
    ));
    all.extend(group(
        "Generator",
        [
            check(
                "generator",
                "A generator charges it",
                generator,
                if generator { "equipment of the bank" } else { "" },
            ),
            what("generator_amperes", "Its charger", generator_a, generator_from)
                .unit("A")
                .when("generator", &["yes"]),
            Control::new(ControlKind::Slider, ("generator_hours", "Runs"), "4", "typed")
                .unit("h")
                .range(0.0, 14.0, 0.5)
                .when("generator", &["yes"]),
            what("generator_every", "One day in", "7".into(), "1 is every day").when("generator", &["yes"]),
            what("generator_litres", "It burns", "1.5".into(), "typed")
                .unit("L an hour")
                .when("generator", &["yes"]),
        ],
    ));
    all.extend(group(
        "Shore or workshop",
        [
            check("shore", "A plug charges it", shore, if shore { "equipment of the bank" } else { "" }),
            what("shore_amperes", "Its charger", shore_a, shore_from).unit("A").when("shore", &["yes"]),
            what("shore_hours", "Plugged for", "10".into(), "a night").unit("h").when("shore", &["yes"]),
            Control::new(ControlKind::Slider, ("shore_every", "One night in"), "30", "typed")
                .unit("days")
                .range(1.0, 90.0, 1.0)
                .when("shore", &["yes"]),
        ],
    ));
    let money = |key, label: &str, value: &str, unit: &str| {
        what(key, label, value.into(), "typed; 0: not told").unit(unit)
    };
    all.extend(group(
        "A stay",
        [
            Control::new(ControlKind::Choice, ("stay_month", "In"), "1", "typed").options(
                MONTHS.iter().enumerate().map(|(n, name)| ((n + 1).to_string(), (*name).to_owned())),
            ),
            Control::new(ControlKind::Slider, ("stay_days", "For"), "7", "typed")
                .unit("days")
                .range(1.0, 60.0, 1.0),
        ],
    ));
    all.extend(group(
        "Money, own currency",
        [
            money("litre", "Fuel", "0", "a litre"),
            money("kilowatt_hour", "Mains", "0", "a kWh"),
            money("bank_price", "The bank, fitted", "0", ""),
            money("watt", "Array, fitted", "0", "a watt"),
        ],
    ));
    all.extend(group("The air", climate_controls(subject, unit)));
    all
}

fn percent(own: bounds::Bounds) -> bounds::Bounds {
    bounds::Bounds { low: own.low * 100.0, high: own.high * 100.0, unit: "%", decimals: 0, ..own }
}

fn solar(typed: &mut Typed<'_>) -> Option<(SolarArray, SolarSky)> {
    if !typed.is_set("solar") {
        return None;
    }
    let array = SolarArray {
        watts: typed.number("watts", bounds::ARRAY_WATTS),
        tilt: typed.number("tilt", bounds::TILT),
        azimuth: typed.number("azimuth", bounds::AZIMUTH),
        left: typed.number("left", percent(bounds::ARRAY_LEFT)) / 100.0,
    };
    let sky = SolarSky {
        latitude: typed.number("latitude", bounds::LATITUDE),
        altitude: typed.number("altitude", bounds::ALTITUDE),
        clearness: typed.numbers::<12>("clearness", percent(bounds::CLEARNESS)).map(|own| own / 100.0),
        snow: typed.numbers::<12>("snow", percent(bounds::SNOW_SHARE)).map(|own| own / 100.0),
    };
    Some((array, sky))
}

fn plug(typed: &mut Typed<'_>, name: &str, from: u8, litres: bool) -> Option<PlugUse> {
    typed.is_set(name).then(|| PlugUse {
        amperes: typed.number(&format!("{name}_amperes"), bounds::BANK_CURRENT),
        hours: typed.number(&format!("{name}_hours"), bounds::HOUR_OF_DAY),
        every_days: typed.whole(&format!("{name}_every"), bounds::EVERY_DAYS),
        from,
        litres: if litres { typed.number(&format!("{name}_litres"), bounds::FUEL) } else { 0.0 },
    })
}

fn engine(typed: &mut Typed<'_>) -> Option<EngineUse> {
    typed.is_set("engine").then(|| EngineUse {
        amperes: typed.number("engine_amperes", bounds::BANK_CURRENT),
        hours: typed.number("engine_hours", bounds::HOUR_OF_DAY),
        every_days: typed.whole("engine_every", bounds::EVERY_DAYS),
        volts: typed.number("engine_volts", bounds::CELL_VOLTAGE),
        litres: typed.number("engine_litres", bounds::FUEL),
    })
}

fn prices(typed: &mut Typed<'_>) -> Prices {
    Prices {
        litre: typed.number("litre", bounds::PRICE),
        kilowatt_hour: typed.number("kilowatt_hour", bounds::PRICE),
        bank: typed.number("bank_price", bounds::PRICE),
        watt: typed.number("watt", bounds::PRICE),
    }
}

fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<(ChargingAsked, Prices, u8, u16)> {
    let loads = typed.numbers("loads", bounds::RUNTIME_LOAD);
    let loads_by_month =
        typed.numbers::<12>("loads_by_month", percent(bounds::LOAD_TIMES)).map(|own| own / 100.0);
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let (solar, engine) = (solar(typed), engine(typed));
    let generator = plug(typed, "generator", 8, true);
    let shore = plug(typed, "shore", 20, false);
    let (prices, air) = (prices(typed), means(subject, typed));
    let month = typed.whole(
        "stay_month",
        bounds::Bounds { low: 1.0, high: 12.0, quantity: "month", ..bounds::EVERY_DAYS },
    );
    let days = typed.whole("stay_days", bounds::STAY_DAYS);
    std::mem::take(&mut typed.faults).none()?;
    let means = air.ok_or_else(|| AppError::field("means", "A figure is missing."))?;
    let own = ChargingAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        health,
        loads,
        loads_by_month,
        means,
        solar,
        engine,
        generator,
        shore,
        planned_depth: f64::from(subject.rules.planned_depth_percent),
    };
    Ok((own, prices, u8::try_from(month).unwrap_or(1), days))
}

fn key_of(error: &ChargingError) -> &'static str {
    match error.field() {
        "sources" => "engine",
        "prices" => "litre",
        other => other,
    }
}

/// A way to go: the year as it is, or with one thing changed.
struct Tried {
    key: &'static str,
    name: String,
    about: String,
    spent: f64,
    asked: ChargingAsked,
    year: ChargingYear,
    money: ChargingMoney,
}

fn tried(
    (key, name, about): (&'static str, String, String),
    asked: ChargingAsked,
    prices: &Prices,
    spent: f64,
) -> AppResult<Tried> {
    let year = charging_year(&asked).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let money = charging_money(&asked, &year, prices, spent).map_err(|e| AppError::refused("litre", &e))?;
    Ok(Tried { key, name, about, spent, asked, year, money })
}

/// The year as it is, and with a night on shore each week, more array, more bank.
fn ways(asked: &ChargingAsked, prices: &Prices) -> AppResult<Vec<Tried>> {
    let mut all = vec![tried(("now", "As it is".into(), String::new()), asked.clone(), prices, 0.0)?];
    let capacity = asked.model.c20.ampere_hours() * f64::from(asked.shape.parallel);
    let own = asked.shore.map_or(capacity / 10.0, |own| own.amperes);
    if asked.shore.is_none_or(|own| own.every_days > WEEKLY) {
        let shore = PlugUse { amperes: own, hours: 12.0, every_days: WEEKLY, from: 20, litres: 0.0 };
        let about = format!("{own:.0} A for twelve hours, one night in seven");
        all.push(tried(
            ("shore_night", "A night a week on a plug".into(), about),
            ChargingAsked { shore: Some(shore), ..asked.clone() },
            prices,
            0.0,
        )?);
    }
    if let Some((array, sky)) = asked.solar {
        let larger = SolarArray { watts: array.watts * 1.5, ..array };
        let spent = prices.watt * (larger.watts - array.watts);
        let about = format!("{:.0} W for {:.0}", larger.watts, array.watts);
        all.push(tried(
            ("array", "Half as much array again".into(), about),
            ChargingAsked { solar: Some((larger, sky)), ..asked.clone() },
            prices,
            spent,
        )?);
    }
    let mut shape = asked.shape.clone();
    shape.parallel = shape.parallel.saturating_add(1);
    let more = prices.bank / f64::from(asked.shape.parallel);
    let wider = Prices { bank: prices.bank + more, ..*prices };
    let about = format!("{} strings of new batteries", shape.parallel);
    all.push(tried(
        ("bank", "One more string".into(), about),
        ChargingAsked { shape, health: 100.0, ..asked.clone() },
        &wider,
        more,
    )?);
    Ok(all)
}

fn condition(year: &ChargingYear, has_caps: bool) -> Severity {
    let cycled = year.depth > 5.0;
    match year.longest_without {
        _ if year.account.missed > 0.001 * year.account.used.max(1.0) => Severity::Act,
        gap if cycled && has_caps && gap > MOST_DAYS_WITHOUT => Severity::Act,
        gap if gap > MOST_DAYS_WITHOUT => Severity::Watch,
        _ => Severity::Steady,
    }
}

fn money_said(own: f64) -> String {
    format!("{own:.0}")
}

fn option(own: &Tried, best: bool, told: bool) -> PlanOption {
    let year = &own.year;
    let [years, shortest, longest] = year.years;
    let mut figures = vec![
        PlanFact::new("full days a year", year.full_days.to_string(), ""),
        PlanFact::new("longest without", year.longest_without.to_string(), "days"),
        PlanFact::new("depth of a day", format!("{:.0}", year.depth), "%"),
        PlanFact::new("years of a new bank", format!("{years:.1}"), "")
            .note(format!("{shortest:.1} to {longest:.1}, LF")),
    ];
    if told {
        figures.push(PlanFact::new("spent now", money_said(own.spent), ""));
        figures.push(PlanFact::new("fuel and mains a year", money_said(own.money.sources), ""));
        figures.push(PlanFact::new("with the bank, a year", money_said(own.money.a_year), ""));
        figures.push(PlanFact::new("in ten years", money_said(own.money.ten_years), ""));
    }
    let bad = condition(year, own.asked.model.construction.has_caps()) == Severity::Act;
    let schools = HouseRules::shipped().into_iter().map(|house| {
        let deep = f64::from(house.planned_depth_percent);
        let says = if year.depth > deep || bad { SchoolSays::WouldNot } else { SchoolSays::Would };
        SchoolView { name: house.name, says, why: format!("plans {deep:.0} % deep") }
    });
    let missed = year.account.missed / 365.0;
    PlanOption {
        key: own.key.into(),
        name: own.name.clone(),
        about: own.about.clone(),
        condition: condition(year, own.asked.model.construction.has_caps()),
        best,
        figures,
        comes_to: if missed > 0.05 {
            format!("The loads miss {missed:.1} Ah a day: it runs empty.")
        } else {
            wording::charging_gap(year)
        },
        schools: schools.collect(),
        refused: String::new(),
        go: None,
    }
}

/// The first that is sound and costs least; where none is, the one with the most full days.
fn best_of(all: &[Tried]) -> usize {
    let caps = |own: &Tried| own.asked.model.construction.has_caps();
    let sound: Vec<usize> =
        (0..all.len()).filter(|at| condition(&all[*at].year, caps(&all[*at])) != Severity::Act).collect();
    let by_money = |a: &usize, b: &usize| all[*a].money.ten_years.total_cmp(&all[*b].money.ten_years);
    sound.into_iter().min_by(by_money).unwrap_or_else(|| {
        (0..all.len()).max_by_key(|at| (all[*at].year.full_days, usize::MAX - at)).unwrap_or(0)
    })
}

/// The answer.
pub(super) fn answer(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<PlanAnswer> {
    let (asked, prices, month, days) = asked(subject, typed)?;
    let all = ways(&asked, &prices)?;
    let best = best_of(&all);
    let told = prices != Prices::default();
    let own = stay(&asked, month, days).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let mut charts = vec![days_chart("As it is", &all[0].year)];
    if best != 0 {
        charts.push(days_chart(&all[best].name, &all[best].year));
    }
    charts.push(months_chart(&all[0].year));
    charts.push(depth_chart(subject, &all[0].year));
    Ok(PlanAnswer {
        said: wording::charging_verdict(&all[0].year, (best != 0).then_some((all[best].name.as_str(), &all[best].year))),
        facts: facts(&all[0].year),
        options: all.iter().enumerate().map(|(at, own)| option(own, at == best, told)).collect(),
        charts,
        tables: vec![months_table(&all[0].year), to_full(&asked, &prices)?],
        dates: Vec::new(),
        lists: vec![PlanList {
            title: format!("A stay of {days} days in {}", MONTHS[usize::from(month) - 1]),
            lines: vec![wording::stay_said(&own, asked.planned_depth)],
        }],
        cautions: vec!["Charge where air moves: charging makes hydrogen. An engine or a generator runs outdoors only.".into()],
        assumptions: vec![
            "Hours are by the sun: noon is when it stands highest.".into(),
            "A hot alternator gives half of its plate, and its regulator never finishes (CH-4).".into(),
            "Days scatter about the mean of their month, always alike; every year begins as the one before it ended.".into(),
            "Years are those of a new bank used so, to 80 % of its capacity.".into(),
        ],
        rule: wording::CHARGING_RULE.to_owned(),
    })
}

fn facts(year: &ChargingYear) -> Vec<PlanFact> {
    let a_day = |own: f64| format!("{:.1}", own / 365.0);
    let mut all = vec![
        PlanFact::new("full on", year.full_days.to_string(), "days of 365"),
        PlanFact::new("used", a_day(year.account.used), "Ah a day"),
    ];
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
fn to_full(asked: &ChargingAsked, prices: &Prices) -> AppResult<PlanTable> {
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
        let plug = if own.litres > 0.0 { 0.0 } else { time.ampere_hours * volts * 1.15 * 1.15 / 1000.0 };
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
fn days_chart(title: &str, year: &ChargingYear) -> PlanChart {
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
fn month_of_day(day: f64) -> f64 {
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
fn most_of_a_month(year: &ChargingYear) -> f64 {
    year.months.iter().flat_map(|own| [own.account.came(), own.account.used]).fold(1.0, f64::max)
}

fn months_chart(year: &ChargingYear) -> PlanChart {
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

fn depth_chart(subject: &Subject, year: &ChargingYear) -> PlanChart {
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

fn months_table(year: &ChargingYear) -> PlanTable {
    let heads =
        ["Month", "full days", "lowest, %", "used, Ah", "sun", "engine", "generator", "plug", "missed"];
    let rows = year.months.iter().zip(MONTHS).map(|(own, name)| {
        let a = own.account;
        let figures = [a.used, a.solar, a.engine, a.generator, a.shore, a.missed];
        let mut row = vec![name.to_owned(), own.full_days.to_string(), format!("{:.0}", own.lowest)];
        row.extend(figures.iter().map(|own| format!("{own:.0}")));
        row
    });
    PlanTable {
        title: "Month by month".into(),
        heads: heads.iter().map(|own| (*own).to_owned()).collect(),
        rows: rows.collect(),
    }
}
