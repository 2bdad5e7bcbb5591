//! Parts of a replacement, and how its string fares.

use crate::app::planners::answer::{
    ChartFoot, PlanChart, PlanSeries, PlanTable, SeriesLook, StringDay, StringRun,
};
use crate::app::planners::subject::Subject;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::replacement::{
    MismatchDay, ReplacementAsked, ReplacementKind, ReplacementOption, filled,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// Batteries, links, washers, grease and what goes back.
pub(super) fn parts(own: &ReplacementOption, subject: &Subject) -> PlanTable {
    let model = &subject.model;
    let mut rows = Vec::new();
    let mut row = |what: String, count: String, note: String| rows.push(vec![what, count, note]);
    if own.bought > 0 {
        row(model.name.clone(), own.bought.to_string(), "one date code for all that are new".into());
    }
    if own.bought > 0 {
        let links = if own.kind == ReplacementKind::WholeBank {
            u16::from(subject.shape.series - 1) * u16::from(subject.shape.parallel)
        } else {
            2
        };
        let link = subject
            .link
            .map_or("section and length of those that come off".into(), |own| wording::cable_said(&own));
        row("links with lugs".into(), links.to_string(), link);
        row(
            "bolts, nuts, washers of a post".into(),
            (own.bought * 2).to_string(),
            wording::torque_for(model),
        );
        if model.construction.has_caps() {
            let cells = own.bought * u16::from(model.cells);
            if subject.kit {
                let manifold = format!("manifold of the watering kit, {} cells", model.cells);
                row(manifold, own.bought.to_string(), "with the plugs of these caps".into());
                row(
                    "tubing from battery to battery".into(),
                    own.bought.to_string(),
                    wording::tubing_by(&subject.shape),
                );
            } else {
                row("vent caps".into(), cells.to_string(), "as the old ones were fitted".into());
            }
        }
        row("thin coating, bicarbonate, rag".into(), "1".into(), String::new());
    }
    if own.kind == ReplacementKind::DropString {
        row("insulating caps for cable ends".into(), "2".into(), String::new());
    }
    if own.out > 0 {
        row(
            "old batteries out".into(),
            own.out.to_string(),
            "back for their core, or kept with their history".into(),
        );
    }
    let heads = ["Part", "how many", ""];
    PlanTable {
        title: "Parts of what is advised".into(),
        heads: heads.iter().map(|own| (*own).to_owned()).collect(),
        rows,
    }
}

/// Charge at the end of each day of the failing place and of its mates, by option.
pub(super) fn chart(all: &[ReplacementOption], best: usize, asked: &ReplacementAsked) -> PlanChart {
    let place = usize::from(asked.failing.battery) - 1;
    let mut series = Vec::new();
    let mut spoken = Vec::new();
    for (at, own) in all.iter().enumerate() {
        let Some(run) = &own.run else { continue };
        let count = asked.shape.series;
        let mate = (0..usize::from(count)).find(|n| *n != place);
        let line = |n: usize| -> Vec<[f64; 2]> {
            run.days.iter().step_by(3).map(|day| [f64::from(day.day), day.charges[n]]).collect()
        };
        let look = match own.condition {
            _ if at == best => SeriesLook::Best,
            Severity::Act => SeriesLook::Bad,
            _ => SeriesLook::Other,
        };
        let name = wording::replacement_kind(own.kind, asked.failing);
        let points = mate.map_or_else(|| line(place), line);
        let end = points.last().map_or(0.0, |own| own[1]);
        spoken.push(format!("{name}: mates {end:.0} %"));
        series.push(PlanSeries { name: format!("{name}: mates"), look, points });
    }
    let least = series.iter().flat_map(|own| own.points.iter().map(|p| p[1])).fold(100.0, f64::min);
    PlanChart {
        title: "Mates in that string, charge at the end of each day".into(),
        unit: "%".into(),
        foot: ChartFoot::Figure,
        foot_unit: "days".into(),
        span: Some([least.min(80.0), 100.0]),
        series,
        limits: Vec::new(),
        spoken: spoken.join("; "),
    }
}

/// Days between two that are shown of a string.
const EVERY: usize = 3;

/// The string day by day.
pub(super) fn drawn(own: &ReplacementOption, asked: &ReplacementAsked) -> Option<StringRun> {
    let title = wording::string_said(asked.failing);
    let place = usize::from(asked.failing.battery) - 1;
    if own.kind == ReplacementKind::DropString {
        return Some(StringRun { title, batteries: Vec::new(), own: place, days: Vec::new() });
    }
    let run = own.run.as_ref()?;
    let cells = f64::from(asked.shape.cells_per_battery);
    let shown = |day: &MismatchDay| StringDay {
        day: day.day,
        charges: day.charges.iter().map(|charge| (charge * 10.0).round() / 10.0).collect(),
        conditions: day.charges.iter().map(|charge| filled(*charge)).collect(),
        volts: day.volts.iter().map(|volts| format!("{:.2} V", volts * cells)).collect(),
    };
    let last = run.days.len().checked_sub(1)?;
    let days = run.days.iter().enumerate().filter(|(n, _)| n % EVERY == 0 || *n == last);
    let batteries = (1..=asked.shape.series).map(|battery| BatteryAddress { battery, ..asked.failing });
    Some(StringRun {
        title,
        batteries: batteries.map(|own| own.to_string()).collect(),
        own: place,
        days: days.map(|(_, day)| shown(day)).collect(),
    })
}
