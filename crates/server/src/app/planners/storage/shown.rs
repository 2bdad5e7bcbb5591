//! How a storage plan is shown: options, pictures, days.

use super::super::answer::{
    ChartFoot, ChartLimit, PlanChart, PlanDate, PlanFact, PlanOption, PlanSeries, SchoolSays, SchoolView,
    SeriesLook,
};
use super::super::control::degrees;
use super::super::subject::Subject;
use super::super::typed::Typed;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::electrolyte::FREEZING_MARGIN;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::severity::Severity;
use rainshadow_core::storage::{StorageAsked, StoragePlan, StorageWayKind, StoredDay, StoredWay};
use rainshadow_core::visit::Job;
use rainshadow_core::wording;

pub(super) fn facts(best: &StoredWay, units: ReaderUnits) -> Vec<PlanFact> {
    let worst = wording::short_day(best.worst.day, best.worst.day);
    vec![
        PlanFact::new("coldest to expect", wording::coldness(best.worst.coldest, units), "").note(worst),
        PlanFact::new("it freezes there at", wording::coldness(best.worst.freezes, units), ""),
        PlanFact::new("kept short of freezing", wording::apart(FREEZING_MARGIN, units), "").note("SG-5"),
    ]
}

pub(super) fn key_of_way(kind: StorageWayKind) -> &'static str {
    match kind {
        StorageWayKind::Disconnected => "disconnected",
        StorageWayKind::OnLoads => "on_loads",
        StorageWayKind::OnArray => "on_array",
        StorageWayKind::Maintained => "maintained",
        StorageWayKind::Indoors => "indoors",
    }
}

/// What each school would do: it looks at a stored bank as often as its own rules say.
pub(super) fn schools(own: &StoredWay, condition: Severity) -> Vec<SchoolView> {
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

pub(super) fn options(plan: &StoragePlan, asked: &StorageAsked, units: ReaderUnits) -> Vec<PlanOption> {
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
            string: None,
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

pub(super) fn look(plan: &StoragePlan, at: usize) -> SeriesLook {
    match plan.conditions[at] {
        _ if at == plan.best => SeriesLook::Best,
        Severity::Act => SeriesLook::Bad,
        _ => SeriesLook::Other,
    }
}

/// Every few days is enough to draw a season.
pub(super) fn thinned(days: &[StoredDay], of: impl Fn(&StoredDay) -> f64) -> Vec<[f64; 2]> {
    let every = (days.len() / 120).max(1);
    let last = days.len().saturating_sub(1);
    let keep = days.iter().enumerate().filter(|(n, _)| n % every == 0 || *n == last);
    keep.map(|(_, day)| [at(day.day), of(day)]).collect()
}

pub(super) fn short_name(kind: StorageWayKind) -> &'static str {
    match kind {
        StorageWayKind::Disconnected => "disconnected",
        StorageWayKind::OnLoads => "on its loads",
        StorageWayKind::OnArray => "on the array",
        StorageWayKind::Maintained => "maintained",
        StorageWayKind::Indoors => "indoors",
    }
}

pub(super) fn charge_chart(plan: &StoragePlan) -> PlanChart {
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

pub(super) fn freezing_chart(plan: &StoragePlan, units: ReaderUnits) -> PlanChart {
    let shown = |celsius: f64| units.temperature.of_celsius(celsius);
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

pub(super) fn dates(best: &StoredWay, has_caps: bool, today: Date) -> Vec<PlanDate> {
    let (Some(first), Some(last)) = (best.days.first(), best.days.last()) else { return Vec::new() };
    let date = |(day, what, job): (Date, String, Option<Job>)| PlanDate {
        day: day.to_string(),
        said: wording::short_day(day, today),
        what,
        job,
    };
    let begin = if has_caps {
        "charge full, read every cell, water to the mark"
    } else {
        "charge full, read the volts"
    };
    let name = wording::storage_way(best.way.kind()).to_lowercase();
    let before = format!("{begin}; then {name}");
    let mut all = vec![(first.day, before, Some(Job::StoragePreparation))];
    all.extend(
        best.recharges.iter().map(|(day, why)| (*day, wording::storage_recharge(*why).to_owned(), None)),
    );
    all.extend(best.checks.iter().map(|own| (own.day, wording::storage_check(own), Some(Job::StorageCheck))));
    let spring = last.day.checked_sub(1.days()).unwrap_or(last.day);
    let after = "look for cracks first, then charge, then a round".to_owned();
    all.push((spring, after, Some(Job::SpringCheck)));
    all.sort_by_key(|own| own.0);
    all.into_iter().map(date).collect()
}

pub(super) fn assumptions(
    subject: &Subject,
    asked: &StorageAsked,
    typed: &Typed<'_>,
    units: ReaderUnits,
) -> Vec<String> {
    let mut all = Vec::new();
    if typed.text("lows_by") == "under" {
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
        all.push(
            "A mean day brings of a clear one what is set month by month; snow takes its share of that."
                .into(),
        );
    }
    all.push(
        "The electrolyte stands at the mean of the air, and on the coldest night at the lowest of it.".into(),
    );
    all
}
