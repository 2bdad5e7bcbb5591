//! The planner of a replacement: one battery is failing; what each way costs, lasts and does to its string.

mod shown;

use super::answer::{PlanAnswer, PlanFact, PlanList, PlanOption, SchoolSays, SchoolView};
use super::control::{Control, ControlKind, degrees, figure, group, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::spread;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::replacement::{
    ReplacementAsked, ReplacementError, ReplacementKind, ReplacementOption, ReplacementPrices, UsedKind,
    best_option, replacement_options,
};
use rainshadow_core::replacing::{UsedBattery, one_new};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::Job;
use rainshadow_core::wording;
use shown::{chart, drawn, parts};

/// Capacity that a failing battery is taken to have where nobody tested it, per cent (our choice, no source).
const FAILING: f64 = 60.0;

/// What it begins with.
pub(super) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let what = |key, label: &str, value: String, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    let addresses: Vec<(String, String)> =
        subject.shape.batteries().map(|own| (own.to_string(), own.to_string())).collect();
    let (failing, found) = subject.failing.as_ref().map_or_else(
        || {
            (
                addresses.first().map_or(String::new(), |own| own.0.clone()),
                "nothing found: choose it".to_owned(),
            )
        },
        |(own, why)| (own.to_string(), why.clone()),
    );
    let c20 = subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel);
    let months = subject.years.map_or(String::new(), |own| figure((own * 12.0).round()));
    let absorption = subject.sources.iter().find_map(|own| own.settings.absorption);
    let cells = f64::from(subject.shape.cells_in_series());
    let (volts, volts_from) = absorption.map_or_else(
        || (figure(subject.model.setpoints.absorption), "absorption of the model"),
        |own| (figure((own / cells * 1000.0).round() / 1000.0), "its charger\u{2019}s setting"),
    );
    let amperes = subject.sources.iter().find_map(|own| own.amperes);
    let mean = subject.known.as_ref().and_then(|(_, site)| site.climate).map(|own| own.of_year());
    let mut all = group(
        "What is failing",
        [
            Control::new(ControlKind::Choice, ("failing", "Battery"), failing, found).options(addresses),
            what("failing_health", "It has left", figure(FAILING), "our choice; type its test").unit("%"),
            what("months", "The bank is", months, "in service since; empty: not known").unit("months"),
            subject.health_control(),
            years_control(subject),
            subject.gassing_control(),
        ],
    );
    all.extend(group(
        "How it is used",
        [
            Control::new(ControlKind::Slider, ("depth", "Depth of a day"), "25", "typed")
                .unit("%")
                .range(5.0, 80.0, 5.0),
            what("volts", "Absorption", volts, volts_from).unit("V a cell"),
            what(
                "amperes",
                "Charger",
                figure(amperes.unwrap_or((c20 / 10.0).round())),
                if amperes.is_some() { "equipment of the bank" } else { "a tenth of C20" },
            )
            .unit("A"),
            Control::new(ControlKind::Slider, ("hours", "It charges"), "8", "typed")
                .unit("h a day")
                .range(1.0, 16.0, 0.5),
            what(
                "celsius",
                "Air",
                typed_degrees(mean.unwrap_or(20.0).round(), unit),
                if mean.is_some() { "mean of the site" } else { "our choice" },
            )
            .unit(degrees(unit)),
        ],
    ));
    let used = |own: Control| own.when("used", &["same_model", "other_model", "other_chemistry", "starter"]);
    all.extend(group(
        "A used one at hand",
        [
            Control::new(ControlKind::Choice, ("used", "There is"), "none", "typed").options([
                ("none", "none"),
                ("same_model", "one of the same model"),
                ("other_model", "one of another model, same kind"),
                ("other_chemistry", "one of another chemistry"),
                ("starter", "a starting battery"),
            ]),
            used(
                what("used_months", "It is", String::new(), "its date code; empty: not known").unit("months"),
            ),
            used(
                what("used_capacity", "It has left", String::new(), "its test; empty: not tested").unit("%"),
            ),
        ],
    ));
    all.extend(group(
        "Money, own currency",
        [
            what("battery", "A new battery", "0".into(), "typed").unit(""),
            what("used_price", "The used one", "0".into(), "typed"),
            what("core", "Paid back for an old one", "0".into(), "core credit"),
            what("labour", "Work, a battery", "0".into(), "typed"),
            what("interest", "Interest", "0".into(), "RP-1: 0 unless set").unit("% a year"),
        ],
    ));
    all
}

/// Years that its sound batteries have left, by its capacity tests.
fn years_control(subject: &Subject) -> Control {
    let told = subject.years_by_tests();
    let source = match (&subject.remaining, told) {
        (Some((own, last)), _) => wording::remaining_life(own, *last),
        (None, _) => "no capacity tests; empty: by age and use (LF-1, LF-2)".into(),
    };
    let begin = told.map_or(String::new(), |own| figure((own[0] * 10.0).round() / 10.0));
    Control::new(ControlKind::Figure, ("years_left", "Its batteries last"), begin, source).unit("years more")
}

/// The same as it is set: as its tests range where they told it, else a half either way.
fn years_left(subject: &Subject, typed: &mut Typed<'_>) -> Option<[f64; 3]> {
    let best = typed.maybe("years_left", bounds::YEARS)?;
    let told = subject.years_by_tests().filter(|own| (own[0] - best).abs() < 0.06);
    Some(told.unwrap_or_else(|| spread(best)))
}

fn used(typed: &mut Typed<'_>) -> Option<(UsedKind, UsedBattery)> {
    let kind = match typed.text("used") {
        "same_model" => UsedKind::SameModel,
        "other_model" => UsedKind::OtherModel,
        "other_chemistry" => UsedKind::OtherChemistry,
        "starter" => UsedKind::Starter,
        _ => return None,
    };
    let months = typed.maybe("used_months", bounds::AGE_MONTHS);
    let capacity = typed.maybe("used_capacity", bounds::CAPACITY_PERCENT);
    Some((kind, UsedBattery { months, capacity, milliohms: None }))
}

fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<ReplacementAsked> {
    let failing: Option<BatteryAddress> = typed.faults.take("failing", typed.text("failing").parse());
    let percent = bounds::Bounds { high: 30.0, unit: "%", decimals: 0, ..bounds::INTEREST };
    let prices = ReplacementPrices {
        battery: typed.number("battery", bounds::PRICE),
        used: typed.number("used_price", bounds::PRICE),
        core: typed.number("core", bounds::PRICE),
        labour: typed.number("labour", bounds::PRICE),
        interest: typed.number("interest", percent) / 100.0,
    };
    let own = ReplacementAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        failing: failing.unwrap_or(BatteryAddress { string: 0, battery: 1 }),
        months: typed.maybe("months", bounds::AGE_MONTHS),
        health: typed.number("health", bounds::CAPACITY_PERCENT),
        failing_health: typed.number("failing_health", bounds::CAPACITY_PERCENT),
        years_left: years_left(subject, typed),
        gassing: typed.maybe("gassing", bounds::CELL_AGE),
        used: used(typed),
        depth: typed.number("depth", bounds::CYCLE_DEPTH),
        celsius: typed.degrees("celsius"),
        volts: typed.number("volts", bounds::CELL_VOLTAGE),
        amperes: typed.number("amperes", bounds::BANK_CURRENT),
        hours: typed.number("hours", bounds::HOUR_OF_DAY),
        prices,
        rules: subject.rules.clone(),
    };
    std::mem::take(&mut typed.faults).none()?;
    Ok(own)
}

fn key_of(error: &ReplacementError) -> &'static str {
    match error.field() {
        "prices" => "battery",
        other => other,
    }
}

/// What each school would do: its age limit for a new one, its planned depth for what is left.
fn schools(own: &ReplacementOption, asked: &ReplacementAsked) -> Vec<SchoolView> {
    let view = |house: HouseRules| {
        let (says, why) = match own.kind {
            _ if own.refused.is_some() && own.kind != ReplacementKind::NewOne => {
                (SchoolSays::WouldNot, String::new())
            }
            ReplacementKind::NewOne => {
                let limit = format!("new ones up to {} months", house.one_new_block_months);
                match one_new(asked.months, &house).condition {
                    Severity::Steady => (SchoolSays::Would, limit),
                    Severity::Act => (SchoolSays::WouldNot, limit),
                    _ => (SchoolSays::May, limit),
                }
            }
            ReplacementKind::UsedMatch => (
                if own.condition < Severity::Watch { SchoolSays::Would } else { SchoolSays::May },
                String::new(),
            ),
            ReplacementKind::DropString => {
                let deep = f64::from(house.planned_depth_percent);
                let says = if own.depth > deep { SchoolSays::WouldNot } else { SchoolSays::May };
                (says, format!("plans {deep:.0} % deep"))
            }
            ReplacementKind::WholeBank => (SchoolSays::May, String::new()),
            ReplacementKind::Wait => (SchoolSays::WouldNot, String::new()),
        };
        SchoolView { name: house.name, says, why }
    };
    HouseRules::shipped().into_iter().map(view).collect()
}

fn key_of_kind(kind: ReplacementKind) -> &'static str {
    match kind {
        ReplacementKind::NewOne => "new_one",
        ReplacementKind::UsedMatch => "used_match",
        ReplacementKind::DropString => "drop_string",
        ReplacementKind::WholeBank => "whole_bank",
        ReplacementKind::Wait => "wait",
    }
}

fn option(own: &ReplacementOption, asked: &ReplacementAsked, best: bool) -> PlanOption {
    let [years, low, high] = own.years;
    let told = asked.prices != ReplacementPrices::default();
    let place = usize::from(asked.failing.battery) - 1;
    let mut figures = vec![
        PlanFact::new("years", format!("{years:.1}"), "").note(format!("{low:.1} to {high:.1}")),
        PlanFact::new("depth of a day", format!("{:.0}", own.depth), "%"),
    ];
    if told {
        figures.push(PlanFact::new("money now", format!("{:.0}", own.money), ""));
        figures.push(
            PlanFact::new("money a year", format!("{:.0}", own.cost.a_year), "")
                .note(format!("over {:.1} years", own.cost.horizon)),
        );
        figures.push(PlanFact::new(
            "for 100 kWh",
            own.cost.a_kilowatt_hour.map_or(String::new(), |own| format!("{:.1}", 100.0 * own)),
            "",
        ));
    }
    if let Some(day) = own.run.as_ref().and_then(|run| run.days.last()) {
        let mates = (0..day.charges.len()).find(|at| *at != place).unwrap_or(0);
        let fact = |name: String, n: usize| {
            PlanFact::new(name, format!("{:.0}", day.charges[n]), "%")
                .note(format!("{:.2} V a cell", day.volts[n]))
        };
        figures.push(fact(format!("{} after 90 days", asked.failing), place));
        figures.push(fact("its mates".into(), mates));
    }
    PlanOption {
        key: key_of_kind(own.kind).into(),
        name: wording::replacement_kind(own.kind, asked.failing),
        about: String::new(),
        condition: own.condition,
        best,
        figures,
        comes_to: wording::replacement_does(own, asked.failing, f64::from(asked.rules.planned_depth_percent)),
        schools: schools(own, asked),
        refused: own.refused.map(wording::replacement_refused).unwrap_or_default().to_owned(),
        go: None,
        string: drawn(own, asked),
    }
}

/// The answer.
pub(super) fn answer(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<PlanAnswer> {
    let asked = asked(subject, typed)?;
    let all = replacement_options(&asked).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let told = asked.prices != ReplacementPrices::default();
    let best = best_option(&all, told);
    let own = &all[best];
    let day = wording::replacement_day(own.kind, asked.failing, &subject.model);
    let mut assumptions = vec![
        "Sound batteries have what age and use leave of their life (LF-1, LF-2); a range of a half either way.".to_owned(),
        "The string is run for 90 days as it is charged and drawn here; a cell stands for each battery.".to_owned(),
    ];
    if asked.months.is_none() {
        assumptions.push("Nobody said how old the bank is: three years are taken.".into());
    }
    if asked.used.as_ref().is_some_and(|(_, own)| own.months.is_none()) {
        assumptions
            .push("The used battery has no age: it is taken to be as old as the bank, and watched.".into());
    }
    if !told {
        assumptions.push(
            "No prices are typed: what changes least and lasts a year or more is advised, whatever it costs."
                .into(),
        );
    }
    Ok(PlanAnswer {
        said: wording::replacement_verdict(&all, best, asked.failing),
        facts: vec![
            PlanFact::new(
                "bank",
                asked.months.map_or("age not known".into(), |own| format!("{own:.0}")),
                "months",
            )
            .note(format!("a new one goes in up to {}", asked.rules.one_new_block_months)),
            PlanFact::new("its batteries have left", format!("{:.0}", asked.health), "%"),
            PlanFact::new(format!("{} has", asked.failing), format!("{:.0}", asked.failing_health), "%"),
        ],
        options: all.iter().enumerate().map(|(at, own)| option(own, &asked, at == best)).collect(),
        charts: vec![chart(&all, best, &asked)],
        tables: vec![parts(own, subject)],
        dates: Vec::new(),
        lists: vec![PlanList {
            title: "The day, in order".into(),
            lines: day,
            job: own.kind.brings_in().then_some(Job::Replacement),
            remind: wording::replacement_reminder(own.kind, asked.failing),
        }],
        cautions: vec![
            "Tools are insulated, rings and watches off: a wrench across posts welds itself there.".into(),
            "A battery weighs more than it looks: two people, or a strap made for it.".into(),
        ],
        assumptions,
        rule: wording::REPLACEMENT_RULE.to_owned(),
    })
}
