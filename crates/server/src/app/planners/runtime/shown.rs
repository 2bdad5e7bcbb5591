//! How hours on the bank alone are shown: larger banks, volts on the way.

use super::super::answer::{
    ChartFoot, ChartLimit, PlanChart, PlanFact, PlanList, PlanOption, PlanSeries, SeriesLook,
};
use super::super::subject::Subject;
use crate::app::refused::{AppError, AppResult};
use crate::db::ModelRow;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::runtime::{
    ProofJudged, Runtime, RuntimeAsked, RuntimeError, RuntimeLoad, RuntimeProof, StandIn, capacity_for,
    load_for, runtime, stand_in,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// Larger banks that are shown at most.
pub(super) const LARGER: usize = 5;

/// Age from which another string of new batteries is refused beside an old one, times the house's limit for one new battery.
pub(super) const TOO_OLD: f64 = 1.0;

pub(super) fn hours(name: &str, own: rainshadow_core::runtime::HoursRange) -> PlanFact {
    // Of a new bank no range is known.
    let known = own.high - own.low > 0.01 * own.hours;
    let note = if known { wording::hours_span(own) } else { String::new() };
    PlanFact::new(name, wording::lasting(own.hours), "").note(note)
}

pub(super) fn facts(own: &Runtime, asked: &RuntimeAsked, units: ReaderUnits) -> Vec<PlanFact> {
    let mut all = vec![PlanFact::new("mean current", format!("{:.2}", own.amperes), "A")];
    all.extend(own.alarm.map(|alarm| hours("to the alarm", alarm)));
    all.push(hours("until it is over", own.empty));
    all.push(PlanFact::new("what ends it", wording::ended(own, asked, units), ""));
    all.push(PlanFact::new("drawn by then", format!("{:.0}", own.drawn), "Ah"));
    if own.freezes_under > 0.0 {
        all.push(PlanFact::new("freezes under", format!("{:.0}", own.freezes_under), "% of charge"));
    }
    all
}

pub(super) fn outlasts(
    asked: &RuntimeAsked,
    wanted: Option<f64>,
    at_hand: StandIn,
) -> Result<PlanList, RuntimeError> {
    let mut lines = Vec::new();
    if let Some(hours) = wanted {
        lines.push(wording::capacity_wanted(capacity_for(asked, hours)?, asked.model.c20.ampere_hours()));
        lines.extend(load_for(asked, hours)?.map(wording::load_wanted));
    }
    lines.push(match stand_in(asked, at_hand)? {
        Ok(own) => wording::stand_in_said(own, at_hand.volts, at_hand.ampere_hours),
        Err(why) => wording::sentence(&format!("{why}; they cannot stand in.")),
    });
    Ok(PlanList { title: "If the outage outlasts it".into(), lines, job: None, remind: String::new() })
}

/// Why another string beside this one is refused; empty: it is not.
pub(super) fn second_string(subject: &Subject) -> String {
    let months = subject.years.map(|years| years * 12.0);
    let limit = f64::from(subject.rules.one_new_block_months) * TOO_OLD;
    match months {
        Some(own) if own > limit => format!(
            "Refused by RP-2: new strings beside one of {own:.0} months; the house takes up to {limit:.0}."
        ),
        _ => String::new(),
    }
}

/// This bank, larger ones of the library, and a second string.
pub(super) fn larger(
    subject: &Subject,
    models: &[ModelRow],
    asked: &RuntimeAsked,
    now: &Runtime,
    wanted: Option<f64>,
) -> AppResult<Vec<PlanOption>> {
    let fits = |own: &BatteryModel| {
        own.construction == asked.model.construction
            && own.cells == asked.model.cells
            && own.c20 > asked.model.c20
    };
    let mut others: Vec<BatteryModel> = models.iter().map(|own| own.model.clone()).filter(fits).collect();
    others.sort_by(|a, b| a.c20.ampere_hours().total_cmp(&b.c20.ampere_hours()));
    others.dedup_by(|a, b| a.c20 == b.c20);
    others.truncate(LARGER);
    let new = RuntimeAsked { health: 100.0, health_range: None, ..asked.clone() };
    let held = |own: &Runtime| own.alarm.map_or(own.empty.hours, |alarm| alarm.hours);
    let enough = |own: &Runtime| wanted.is_some_and(|hours| held(own) >= hours);
    let option = |key: String, name: String, about: &str, own: &Runtime, refused: String| PlanOption {
        key,
        name,
        about: about.into(),
        condition: match wanted {
            Some(_) if !enough(own) => Severity::Watch,
            _ => Severity::Steady,
        },
        best: false,
        figures: own
            .alarm
            .map(|alarm| hours("to the alarm", alarm))
            .into_iter()
            .chain([hours("until it is over", own.empty)])
            .collect(),
        comes_to: match wanted {
            Some(hours) if enough(own) => format!("Holds the {hours:.0} h wanted."),
            Some(hours) => format!("Falls {} short.", wording::lasting(hours - held(own))),
            None => String::new(),
        },
        schools: Vec::new(),
        refused,
        go: None,
        string: None,
    };
    let ah = |own: f64| format!("{own:.0} Ah a string");
    let mut all = vec![option(
        "now".into(),
        "As it is".into(),
        &ah(asked.model.c20.ampere_hours()),
        now,
        String::new(),
    )];
    for model in others {
        let c20 = model.c20.ampere_hours();
        let own =
            runtime(&RuntimeAsked { model, ..new.clone() }).map_err(|e| AppError::refused("load", &e))?;
        all.push(option(
            format!("ah_{c20:.0}"),
            format!("{c20:.0} Ah"),
            "new, of the library",
            &own,
            String::new(),
        ));
    }
    let mut shape = asked.shape.clone();
    shape.parallel = shape.parallel.saturating_add(1);
    let own = runtime(&RuntimeAsked { shape, ..asked.clone() }).map_err(|e| AppError::refused("load", &e))?;
    let one_more = if asked.shape.parallel == 1 { "A second string" } else { "One more string" };
    all.push(option("string".into(), one_more.into(), "of the same batteries", &own, second_string(subject)));
    if let Some(best) = all.iter().position(|own| own.condition == Severity::Steady && own.refused.is_empty())
    {
        all[best].best = true;
    }
    Ok(all)
}

pub(super) fn volts_chart(
    own: &Runtime,
    asked: &RuntimeAsked,
    proof: Option<(&(RuntimeProof, String), &ProofJudged)>,
) -> PlanChart {
    let of = |pick: fn(&rainshadow_core::runtime::RuntimePoint) -> Option<f64>| -> Vec<[f64; 2]> {
        own.curve.iter().filter_map(|p| Some([p.hour, pick(p)?])).collect()
    };
    let mut band = of(|p| p.low);
    band.extend(of(|p| p.high).into_iter().rev());
    let mut series = vec![
        PlanSeries { name: "range".into(), look: SeriesLook::Band, points: band },
        PlanSeries { name: "predicted".into(), look: SeriesLook::Best, points: of(|p| p.volts) },
    ];
    if let Some(((proof, day), judged)) = proof {
        let measured = proof.readings.iter().copied().chain([[proof.hours, proof.volts]]);
        if judged.curve.len() > 1 {
            series.push(PlanSeries {
                name: format!("predicted for {:.1} A", proof.amperes),
                look: SeriesLook::Other,
                points: judged.curve.clone(),
            });
        }
        series.push(PlanSeries {
            name: format!("proof of {day}"),
            look: SeriesLook::Dots,
            points: measured.collect(),
        });
    }
    let mut limits =
        vec![ChartLimit { at: asked.empty_volts(), name: format!("empty at {:.1} V", asked.empty_volts()) }];
    limits.extend(asked.alarm.map(|at| ChartLimit { at, name: format!("alarm at {at:.1} V") }));
    PlanChart {
        title: "Volts on the way".into(),
        unit: "V".into(),
        foot: ChartFoot::Hours,
        foot_unit: "h".into(),
        span: None,
        spoken: format!(
            "Volts fall from {:.1} to {:.1} in {}",
            own.curve.first().and_then(|p| p.volts).unwrap_or_default(),
            asked.empty_volts(),
            wording::lasting(own.empty.hours)
        ),
        series,
        limits,
    }
}

pub(super) fn assumptions(subject: &Subject, asked: &RuntimeAsked) -> Vec<String> {
    let mut all = Vec::new();
    if subject.discharges.is_empty() && subject.known.is_some() {
        all.push("No timed discharge is on record: the capacity left is taken as typed.".into());
    }
    if matches!(asked.load, RuntimeLoad::Bursts { .. }) {
        all.push("Volts are those under a run: an alarm that waits goes later.".into());
    }
    if asked.temperature > 25.0 {
        all.push("Warmth above 25 \u{b0}C is not credited.".into());
    }
    all.push("Capacity is never taken above that at 20 hours.".into());
    all
}
