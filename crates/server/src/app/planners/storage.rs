//! The planner of a storage spell: what it asks for, and what it answers.

use super::answer::{
    ChartFoot, ChartLimit, PlanAnswer, PlanChart, PlanDate, PlanFact, PlanList, PlanOption, PlanSeries,
    SchoolSays, SchoolView, SeriesLook,
};
use super::control::{Control, ControlKind, degrees, figure, group, several, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::electrolyte::FREEZING_MARGIN;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::severity::Severity;
use rainshadow_core::solar::{SolarArray, SolarSky, month_harvest};
use rainshadow_core::storage::{
    LOWS_UNDER_MEANS, MonthlyLoss, StorageAir, StorageAsked, StorageError, StoragePlan, StorageWay,
    StorageWayKind, StoredDay, StoredWay, plan_storage, usual_self_discharge,
};
use rainshadow_core::water::{INVENTED_CLIMATES, InventedClimate, MARGIN_MM, MonthlyMeans};
use rainshadow_core::wording;

/// Spell that is begun with where the bank tells no season: mid-October, and until May.
const SPELL: [(i8, i8); 2] = [(10, 18), (5, 2)];
/// Light of a clear sky that gets through on a mean day, where nobody knows better (our choice, no source).
pub(super) const CLEARNESS: f64 = 0.55;
/// Key of the climate that is begun with where a site has none.
const FIRST_CLIMATE: &str = "cold_inland";

fn next(day: (i8, i8), after: Date) -> Date {
    let on = |year: i16| Date::new(year, day.0, day.1).unwrap_or(after);
    if on(after.year()) > after { on(after.year()) } else { on(after.year() + 1) }
}

/// First and last day of the next spell.
fn spell(subject: &Subject) -> ([Date; 2], String) {
    let season = subject.known.as_ref().and_then(|(bank, _)| bank.season());
    if let Some(own) = season {
        let closes = own.closes.after(subject.today.yesterday().unwrap_or(subject.today));
        let from = if own.stored(subject.today) { subject.today } else { closes };
        return ([from, own.opens.after(from)], "its season".into());
    }
    let from = next(SPELL[0], subject.today);
    ([from, next(SPELL[1], from)], "our choice".into())
}

/// Twelve means as controls: the site's own, or those of an invented climate.
pub(super) fn climate_controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let own = subject.known.as_ref().and_then(|(_, site)| site.climate);
    let begin = if own.is_some() { "own" } else { FIRST_CLIMATE };
    let source = if own.is_some() { "climate of the site" } else { "no climate of the site is known" };
    let invented =
        INVENTED_CLIMATES.iter().map(|own| (own.key.to_owned(), format!("{} (invented)", own.name)));
    let options = [("own".to_owned(), "means by month".to_owned())].into_iter().chain(invented);
    let southern = subject.southern();
    let first = InventedClimate::by_key(FIRST_CLIMATE).map(|own| own.means(southern));
    let means = own.or(first).map(|own| own.celsius()).unwrap_or_default();
    let typed = several(means.iter().map(|own| typed_degrees(*own, unit)));
    vec![
        Control::new(ControlKind::Choice, ("climate", "Air outside"), begin, source).options(options),
        Control::new(ControlKind::Months, ("means", "Mean of the month"), typed, source)
            .unit(degrees(unit))
            .when("climate", &["own"]),
    ]
}

/// The means that are set.
pub(super) fn means(subject: &Subject, typed: &mut Typed<'_>) -> Option<MonthlyMeans> {
    let southern = subject.southern();
    match typed.text("climate") {
        "own" | "" => {
            let own = typed.months_of_degrees("means");
            typed.faults.take("means", MonthlyMeans::try_from(own))
        }
        key => {
            let found = InventedClimate::by_key(key).map(|own| own.means(southern));
            typed.faults.take("climate", found.ok_or(format!("there is no climate \u{201c}{key}\u{201d}")))
        }
    }
}

/// What it begins with.
pub(super) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let ([from, until], season) = spell(subject);
    let years = subject.years.unwrap_or(0.0);
    let (loss, [low, high]) = usual_self_discharge(subject.model.construction, years);
    let age = subject.years.map_or("age not known".to_owned(), |own| format!("{own:.1} years old"));
    let health = subject.health_control();
    let bank = [
        Control::new(ControlKind::Day, ("from", "Left on"), from.to_string(), season.clone()),
        Control::new(ControlKind::Day, ("until", "Used again on"), until.to_string(), season),
        Control::new(ControlKind::Slider, ("charged", "Left at"), "100", "charged full first (SD-3)")
            .unit("% of charge")
            .range(20.0, 100.0, 5.0),
        health,
        Control::new(
            ControlKind::Figure,
            ("self_discharge", "Self-discharge"),
            figure((loss * 10.0).round() / 10.0),
            format!("SD-1, {age}; {low:.0} to {high:.0} usual"),
        )
        .unit("% a month at 25 \u{b0}C"),
        Control::new(
            ControlKind::Slider,
            ("tops", "Dirty, wet tops"),
            "0",
            "SD-1: 2 to 10 where they are; 0 cleaned",
        )
        .unit("% a month")
        .range(0.0, 10.0, 1.0),
    ];
    let lows = vec![
        Control::new(
            ControlKind::Choice,
            ("lows_by", "Coldest on record"),
            "under",
            "not on record: our choice",
        )
        .options([("under", "so much under the mean"), ("own", "by month")]),
        Control::new(
            ControlKind::Figure,
            ("lows_under", "Under the mean of its month"),
            match unit {
                TemperatureUnit::Celsius => figure(LOWS_UNDER_MEANS),
                TemperatureUnit::Fahrenheit => figure((LOWS_UNDER_MEANS * 1.8).round()),
            },
            "our choice; type what the site has seen",
        )
        .unit(degrees(unit))
        .when("lows_by", &["under"]),
        Control::new(ControlKind::Months, ("lows", "Record low of the month"), "", "typed")
            .unit(degrees(unit))
            .when("lows_by", &["own"]),
    ];
    let air = climate_controls(subject, unit).into_iter().chain(lows);
    let mut all = group("The spell", bank);
    all.extend(group("The air", air));
    all.extend(group("Ways to leave it", ways_controls(unit)));
    all
}

fn ways_controls(unit: TemperatureUnit) -> Vec<Control> {
    let check = |key, label, value| Control::new(ControlKind::Check, (key, label), value, "");
    let figure_of = |key, label: &str, value: &str, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    vec![
        check("disconnected", "Disconnect it", "yes"),
        check("on_loads", "Leave it on its loads", "no"),
        figure_of("draw", "They draw", "0.1", "typed; read it with a clamp")
            .unit("A")
            .when("on_loads", &["yes"]),
        check("on_array", "Leave it on the array", "yes"),
        figure_of("array_draw", "Controller and loads draw", "0.1", "typed; read it with a clamp")
            .unit("A")
            .when("on_array", &["yes"]),
        figure_of("watts", "Array", "400", "typed").unit("W").when("on_array", &["yes"]),
        figure_of("tilt", "Tilt", "45", "typed").unit("\u{b0}").when("on_array", &["yes"]),
        figure_of("azimuth", "Looks to", "180", "180 is south").unit("\u{b0}").when("on_array", &["yes"]),
        figure_of("latitude", "Latitude", "47", "typed; south is negative")
            .unit("\u{b0}")
            .when("on_array", &["yes"]),
        Control::new(
            ControlKind::Months,
            ("snow", "Snow leaves, of the harvest"),
            "5 5 20 80 100 100 100 100 100 90 40 10",
            "our choice; type what you have seen",
        )
        .unit("%")
        .when("on_array", &["yes"]),
        check("maintained", "Keep it on a maintainer", "yes"),
        figure_of("maintainer_volts", "It holds", "", "empty: float of the model")
            .unit("V a cell")
            .when("maintained", &["yes"]),
        check("maintainer_follows", "It follows the temperature", "no").when("maintained", &["yes"]),
        check("indoors", "Carry it indoors", "no"),
        figure_of("indoors_mean", "Mean there", &typed_degrees(10.0, unit), "typed")
            .unit(degrees(unit))
            .when("indoors", &["yes"]),
        figure_of("indoors_low", "Coldest there", &typed_degrees(3.0, unit), "typed")
            .unit(degrees(unit))
            .when("indoors", &["yes"]),
    ]
}

/// The sky over an array as it is set, its clearness taken alike in all months.
fn array_way(typed: &mut Typed<'_>, volts: f64) -> StorageWay {
    let amperes = typed.number("array_draw", bounds::STANDING_DRAW);
    let array = SolarArray {
        watts: typed.number("watts", bounds::ARRAY_WATTS),
        tilt: typed.number("tilt", bounds::TILT),
        azimuth: typed.number("azimuth", bounds::AZIMUTH),
        left: 0.75,
    };
    let latitude = typed.number("latitude", bounds::LATITUDE);
    let percent = bounds::Bounds { high: 100.0, unit: "%", decimals: 0, ..bounds::SNOW_SHARE };
    let snow: [f64; 12] = typed.numbers::<12>("snow", percent).map(|own| own / 100.0);
    let sky = SolarSky { latitude, altitude: 0.0, clearness: [CLEARNESS; 12], snow: [1.0; 12] };
    let mut harvest = [0.0; 12];
    for (own, month) in harvest.iter_mut().zip(1_i8..) {
        let middle = Date::new(2026, month, 15).unwrap_or(Date::MIN);
        *own = month_harvest(&array, &sky, middle).watt_hours / volts;
    }
    StorageWay::OnArray { amperes, harvest, snow }
}

fn ways(typed: &mut Typed<'_>, volts: f64) -> Vec<StorageWay> {
    let mut all = Vec::new();
    if typed.is_set("disconnected") {
        all.push(StorageWay::Disconnected);
    }
    if typed.is_set("on_loads") {
        all.push(StorageWay::OnLoads { amperes: typed.number("draw", bounds::STANDING_DRAW) });
    }
    if typed.is_set("on_array") {
        all.push(array_way(typed, volts));
    }
    if typed.is_set("maintained") {
        let volts = typed.maybe("maintainer_volts", bounds::CELL_VOLTAGE);
        all.push(StorageWay::Maintained { volts, follows: typed.is_set("maintainer_follows") });
    }
    if typed.is_set("indoors") {
        all.push(StorageWay::Indoors {
            mean: typed.degrees("indoors_mean"),
            low: typed.degrees("indoors_low"),
        });
    }
    all
}

/// Key of the control that an error of the core is about.
fn key_of(error: &StorageError) -> &'static str {
    match error.field() {
        "air" => "lows",
        "ways" => "disconnected",
        other => other,
    }
}

/// mL over the plates of a cell down to the margin that is kept; none: sealed, or the model does not say.
fn reserve(subject: &Subject) -> Option<f64> {
    let model = &subject.model;
    let above = model.fill_mark_above_plates?.millimetres();
    model.construction.has_caps().then_some((above - MARGIN_MM).max(0.0) * model.free_area?)
}

fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<StorageAsked> {
    let volts = f64::from(subject.shape.system_voltage);
    let (from, until) = (typed.day("from"), typed.day("until"));
    let means = means(subject, typed);
    let lows = if typed.text("lows_by") == "own" {
        Some(typed.months_of_degrees("lows"))
    } else {
        let under = typed.number("lows_under", bounds::UNDER_MEAN);
        let under = if typed.is_fahrenheit() { under / 1.8 } else { under };
        means.map(|own| own.celsius().map(|mean| (mean - under).max(bounds::MEAN_TEMPERATURE.low)))
    };
    let charged = typed.number("charged", bounds::STATE_OF_CHARGE);
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let loss = MonthlyLoss {
        inside: typed.number("self_discharge", bounds::MONTHLY_LOSS),
        tops: typed.number("tops", bounds::DIRTY_TOPS),
    };
    let ways = ways(typed, volts);
    std::mem::take(&mut typed.faults).none()?;
    let missing = || AppError::field("from", "A figure is missing.");
    Ok(StorageAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        from: from.ok_or_else(missing)?,
        until: until.ok_or_else(missing)?,
        air: StorageAir { means: means.ok_or_else(missing)?, lows },
        charged,
        health,
        loss,
        age: subject.years.map_or(1.0, |years| (1.0 + years / 5.0).min(4.0)),
        reserve: reserve(subject),
        check_days: subject.rules.storage_check_days,
        ways,
    })
}

/// The answer.
pub(super) fn answer(subject: &Subject, typed: &mut Typed<'_>, units: ReaderUnits) -> AppResult<PlanAnswer> {
    let asked = asked(subject, typed)?;
    let plan = plan_storage(&asked).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let best = &plan.ways[plan.best];
    Ok(PlanAnswer {
        said: wording::storage_verdict(&plan, units),
        facts: facts(best, units),
        options: options(&plan, &asked, units),
        charts: vec![charge_chart(&plan), freezing_chart(&plan, units)],
        tables: Vec::new(),
        dates: dates(best, subject.model.construction.has_caps(), subject.today),
        lists: vec![
            list("Before it is left", wording::storage_before(subject.model.construction.has_caps())),
            list("When it is used again", wording::storage_after(subject.model.construction.has_caps())),
        ],
        cautions: wording::STORAGE_CAUTIONS.iter().map(|own| (*own).to_owned()).collect(),
        assumptions: assumptions(subject, &asked, typed, units),
        rule: wording::STORAGE_RULE.to_owned(),
    })
}

fn list(title: &str, lines: Vec<&'static str>) -> PlanList {
    PlanList { title: title.into(), lines: lines.into_iter().map(ToOwned::to_owned).collect() }
}

fn facts(best: &StoredWay, units: ReaderUnits) -> Vec<PlanFact> {
    let worst = wording::short_day(best.worst.day, best.worst.day);
    vec![
        PlanFact::new("coldest to expect", wording::coldness(best.worst.coldest, units), "").note(worst),
        PlanFact::new("it freezes there at", wording::coldness(best.worst.freezes, units), ""),
        PlanFact::new("kept short of freezing", wording::apart(FREEZING_MARGIN, units), "").note("SG-5"),
    ]
}

fn key_of_way(kind: StorageWayKind) -> &'static str {
    match kind {
        StorageWayKind::Disconnected => "disconnected",
        StorageWayKind::OnLoads => "on_loads",
        StorageWayKind::OnArray => "on_array",
        StorageWayKind::Maintained => "maintained",
        StorageWayKind::Indoors => "indoors",
    }
}

/// What each school would do: it looks at a stored bank as often as its own rules say.
fn schools(own: &StoredWay, condition: Severity) -> Vec<SchoolView> {
    HouseRules::shipped()
        .into_iter()
        .map(|house| {
            let says = match condition {
                Severity::Act => SchoolSays::WouldNot,
                Severity::Steady => SchoolSays::Would,
                _ => SchoolSays::May,
            };
            let days = own.days.len();
            let looks = days / usize::from(house.storage_check_days.max(1));
            let why = format!("{looks} looks, every {} days", house.storage_check_days);
            SchoolView { name: house.name, says, why }
        })
        .collect()
}

fn options(plan: &StoragePlan, asked: &StorageAsked, units: ReaderUnits) -> Vec<PlanOption> {
    let last = |own: &StoredWay| own.days.last().map_or(0.0, |day| day.charge);
    let of = |(at, own): (usize, &StoredWay)| {
        let kind = own.way.kind();
        let until = wording::short_day(asked.until, asked.until);
        let litres = f64::from(u32::try_from(asked.shape.cell_count()).unwrap_or(0)) * own.water;
        let mut figures = vec![
            PlanFact::new("freezes at, worst night", wording::coldness(own.worst.freezes, units), "")
                .note(wording::short_day(own.worst.day, own.worst.day)),
            PlanFact::new("short of freezing", wording::apart(own.worst.margin(), units), ""),
            PlanFact::new(format!("charge on {until}"), format!("{:.0}", last(own)), "%"),
            PlanFact::new("lowest", format!("{:.0}", own.lowest.charge), "%")
                .note(wording::short_day(own.lowest.day, own.lowest.day)),
            PlanFact::new("charges meanwhile", own.recharges.len().to_string(), ""),
        ];
        if asked.model.construction.has_caps() {
            let volume = rainshadow_core::quantity::Volume::from_millilitres(litres);
            let said = volume.map(|own| units.say_volume(own)).unwrap_or_default();
            figures.push(PlanFact::new("water lost", said, ""));
        }
        PlanOption {
            key: key_of_way(kind).into(),
            name: wording::storage_way(kind).into(),
            about: String::new(),
            condition: plan.conditions[at],
            best: at == plan.best,
            figures,
            comes_to: wording::sentence(&wording::way_comes_to(own, units)),
            schools: schools(own, plan.conditions[at]),
            refused: String::new(),
            go: None,
        }
    };
    plan.ways.iter().enumerate().map(of).collect()
}

/// Milliseconds of noon of a day.
pub(super) fn at(day: Date) -> f64 {
    let noon = day.at(12, 0, 0, 0).in_tz("UTC");
    #[expect(clippy::cast_precision_loss, reason = "milliseconds of this century")]
    let at = noon.map_or(0.0, |own| own.timestamp().as_millisecond() as f64);
    at
}

fn look(plan: &StoragePlan, at: usize) -> SeriesLook {
    match plan.conditions[at] {
        _ if at == plan.best => SeriesLook::Best,
        Severity::Act => SeriesLook::Bad,
        _ => SeriesLook::Other,
    }
}

/// Every few days is enough to draw a season.
fn thinned(days: &[StoredDay], of: impl Fn(&StoredDay) -> f64) -> Vec<[f64; 2]> {
    let every = (days.len() / 120).max(1);
    let last = days.len().saturating_sub(1);
    let keep = days.iter().enumerate().filter(|(n, _)| n % every == 0 || *n == last);
    keep.map(|(_, day)| [at(day.day), of(day)]).collect()
}

fn short_name(kind: StorageWayKind) -> &'static str {
    match kind {
        StorageWayKind::Disconnected => "disconnected",
        StorageWayKind::OnLoads => "on its loads",
        StorageWayKind::OnArray => "on the array",
        StorageWayKind::Maintained => "maintained",
        StorageWayKind::Indoors => "indoors",
    }
}

fn charge_chart(plan: &StoragePlan) -> PlanChart {
    let series = plan.ways.iter().enumerate().map(|(n, own)| {
        let end = own.days.last().map_or(0.0, |day| day.charge);
        PlanSeries {
            name: format!("{end:.0} {}", short_name(own.way.kind())),
            look: look(plan, n),
            points: thinned(&own.days, |day| day.charge),
        }
    });
    let spoken = plan.ways.iter().map(|own| {
        let end = own.days.last().map_or(0.0, |day| day.charge);
        format!(
            "{}: lowest {:.0} %, {end:.0} % at the end",
            wording::storage_way(own.way.kind()),
            own.lowest.charge
        )
    });
    PlanChart {
        title: "State of charge".into(),
        unit: "%".into(),
        foot: ChartFoot::Days,
        foot_unit: String::new(),
        span: Some([0.0, 100.0]),
        spoken: spoken.collect::<Vec<_>>().join("; "),
        series: series.collect(),
        limits: vec![ChartLimit { at: 75.0, name: "charge at 75 %".into() }],
    }
}

fn freezing_chart(plan: &StoragePlan, units: ReaderUnits) -> PlanChart {
    let shown = |celsius: f64| match units.temperature {
        TemperatureUnit::Celsius => celsius,
        TemperatureUnit::Fahrenheit => celsius * 1.8 + 32.0,
    };
    let outside = plan.ways.iter().find(|own| own.way.kind() != StorageWayKind::Indoors);
    let cold = outside.or(plan.ways.first()).map(|own| PlanSeries {
        name: "coldest to expect".into(),
        look: SeriesLook::Field,
        points: thinned(&own.days, |day| shown(day.coldest)),
    });
    let freezes = plan.ways.iter().enumerate().map(|(n, own)| PlanSeries {
        name: short_name(own.way.kind()).into(),
        look: look(plan, n),
        points: thinned(&own.days, |day| shown(day.freezes)),
    });
    let spoken = plan.ways.iter().map(|own| {
        format!(
            "{}: {} short of freezing at the worst",
            wording::storage_way(own.way.kind()),
            wording::apart(own.worst.margin(), units)
        )
    });
    PlanChart {
        title: "Where it freezes, against the coldest nights".into(),
        unit: degrees(units.temperature).into(),
        foot: ChartFoot::Days,
        foot_unit: String::new(),
        span: None,
        spoken: spoken.collect::<Vec<_>>().join("; "),
        series: cold.into_iter().chain(freezes).collect(),
        limits: Vec::new(),
    }
}

fn dates(best: &StoredWay, has_caps: bool, today: Date) -> Vec<PlanDate> {
    let (Some(first), Some(last)) = (best.days.first(), best.days.last()) else { return Vec::new() };
    let date = |day: Date, what: String| PlanDate {
        day: day.to_string(),
        said: wording::short_day(day, today),
        what,
    };
    let begin = if has_caps {
        "charge full, read every cell, water to the mark"
    } else {
        "charge full, read the volts"
    };
    let name = wording::storage_way(best.way.kind()).to_lowercase();
    let mut all: Vec<(Date, String)> = vec![(first.day, format!("{begin}; then {name}"))];
    all.extend(best.recharges.iter().map(|(day, why)| (*day, wording::storage_recharge(*why).to_owned())));
    all.extend(best.checks.iter().map(|own| (own.day, wording::storage_check(own))));
    let spring = last.day.checked_sub(1.days()).unwrap_or(last.day);
    all.push((spring, "look for cracks first, then charge, then a round".into()));
    all.sort_by_key(|own| own.0);
    all.into_iter().map(|(day, what)| date(day, what)).collect()
}

fn assumptions(
    subject: &Subject,
    asked: &StorageAsked,
    typed: &Typed<'_>,
    units: ReaderUnits,
) -> Vec<String> {
    let mut all = Vec::new();
    if typed.text("lows_by") != "own" {
        let under = match units.temperature {
            TemperatureUnit::Celsius => typed.text("lows_under").to_owned() + " \u{b0}C",
            TemperatureUnit::Fahrenheit => typed.text("lows_under").to_owned() + " \u{b0}F",
        };
        all.push(format!(
            "No record lows are typed: the coldest night is taken {under} under the mean of its month."
        ));
    }
    if !matches!(typed.text("climate"), "own" | "") {
        all.push("The air is that of an invented climate, of no place.".into());
    }
    if subject.discharges.is_empty() && subject.known.is_some() {
        all.push("No timed discharge is on record: its capacity is taken as typed above.".into());
    }
    if subject.years.is_none() {
        all.push("Nobody said how old it is: it is taken as new.".into());
    }
    if asked.ways.iter().any(|own| own.kind() == StorageWayKind::OnArray) {
        all.push(format!("A mean winter day is taken to bring {:.0} % of a clear one.", 100.0 * CLEARNESS));
    }
    all.push(
        "The electrolyte stands at the mean of the air, and on the coldest night at the lowest of it.".into(),
    );
    all
}
