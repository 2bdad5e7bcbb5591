//! The planner of hours on the bank alone: what it asks for, and what it answers.

use super::answer::{
    ChartFoot, ChartLimit, PlanAnswer, PlanChart, PlanFact, PlanList, PlanOption, PlanSeries, SeriesLook,
};
use super::control::{Control, ControlKind, degrees, figure, group, several, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
use crate::db::ModelRow;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::USUAL_END;
use rainshadow_core::quantity::bounds;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::runtime::{
    Inverter, ProofJudged, Runtime, RuntimeAsked, RuntimeError, RuntimeLoad, RuntimeProof, StandIn,
    capacity_for, judge_proof, load_for, runtime, stand_in,
};
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::Place;
use rainshadow_core::wording;

/// Alarm that is begun with, V a cell (our choice, no source).
const ALARM: f64 = 1.95;
/// Capacity that an untested bank has at least, per cent (CT-1: where a standby life ends; our choice, no source).
const UNTESTED: f64 = 80.0;
/// Larger banks that are shown at most.
const LARGER: usize = 5;
/// Age from which another string of new batteries is refused beside an old one, times the house's limit for one new battery.
const TOO_OLD: f64 = 1.0;

/// The last steady discharge of the whole bank, with what its end showed.
fn last_proof(subject: &Subject) -> Option<(RuntimeProof, String)> {
    subject.discharges.iter().rev().find_map(|own| {
        if own.place != Place::Bank {
            return None;
        }
        let points: Vec<[f64; 2]> = own
            .now
            .points
            .iter()
            .filter(|p| p.under_load)
            .filter_map(|p| Some([p.hours, p.volts?]))
            .collect();
        let [hours, volts] = *points.last()?;
        let amperes = own.now.ampere_hours / own.now.elapsed.max(1e-6);
        let temperature = own.now.plan.temperature.map_or(25.0, |own| own.celsius());
        let readings = points[..points.len() - 1].to_vec();
        let proof = RuntimeProof { amperes, hours, volts, temperature, readings };
        (hours > 0.0 && amperes > 0.0).then(|| (proof, wording::short_day(own.day, subject.today)))
    })
}

fn standby(subject: &Subject) -> bool {
    subject.known.as_ref().is_some_and(|(bank, _)| Duty::of(&bank.duty) == Duty::Standby)
}

/// Health by what the last proof ended at, where that tells it; else by its capacity test.
fn health_control(subject: &Subject) -> [Control; 3] {
    let unknown = subject.health();
    let (mut best, mut range, mut source) = (unknown.percent, unknown.range, unknown.source);
    if let Some((proof, day)) = last_proof(subject) {
        let base = bare(subject, RuntimeLoad::Continuous { amount: proof.amperes });
        if let Ok(judged) = judge_proof(&base, &proof) {
            if judged.tells {
                best = judged.health[0].min(100.0);
                range = Some([judged.health[1].min(best), judged.health[2].clamp(best, 100.0)]);
                source = format!("volts at the end of the proof of {day}");
            } else {
                source = format!("{source}; the proof of {day} was too short to tell");
            }
        }
    }
    // What nobody tested may be anything between the end of a standby life and new.
    let untested = range.is_none() && !source.starts_with("volts") && subject.discharges.is_empty();
    let range = if untested { Some([UNTESTED.min(best), best]) } else { range };
    let end = |at: usize| range.map_or(String::new(), |own| figure(own[at].round()));
    [
        Control::new(ControlKind::Figure, ("health", "Capacity left"), figure(best.round()), source)
            .unit("%"),
        Control::new(ControlKind::Figure, ("health_low", "At least"), end(0), "empty: not known").unit("%"),
        Control::new(ControlKind::Figure, ("health_high", "At most"), end(1), "empty: not known").unit("%"),
    ]
}

/// The bank with nothing set but its load.
fn bare(subject: &Subject, load: RuntimeLoad) -> RuntimeAsked {
    RuntimeAsked {
        model: subject.model.clone(),
        shape: subject.shape.clone(),
        load,
        inverter: None,
        temperature: 25.0,
        health: 100.0,
        health_range: None,
        charged: 100.0,
        depth: 100.0,
        exponent: None,
        alarm: None,
        empty: None,
    }
}

/// What it begins with.
pub(super) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let cells = f64::from(subject.shape.cells_in_series());
    let proof = last_proof(subject);
    let c20 = subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel);
    let (load, from) = proof.as_ref().map_or_else(
        || (figure((c20 / 50.0 * 10.0).round() / 10.0), "a fiftieth of C20; type what it is".to_owned()),
        |(own, day)| (figure((own.amperes * 100.0).round() / 100.0), format!("mean of the proof of {day}")),
    );
    let mean = subject.known.as_ref().and_then(|(_, site)| site.climate).map(|own| own.celsius());
    let coldest = mean.map(|own| own.into_iter().fold(f64::MAX, f64::min));
    let (celsius, where_from) = coldest.map_or((15.0, "our choice".to_owned()), |own| {
        (own.max(-20.0).round(), "coldest month of the site; type that of the room".to_owned())
    });
    let depth = if standby(subject) || subject.known.is_none() {
        ("100", "drawn empty when it must be".to_owned())
    } else {
        ("80", format!("not further than 80 %; the house plans {} %", subject.rules.planned_depth_percent))
    };
    let [health, low, high] = health_control(subject);
    let what = |key, label: &str, value: String, source: &str| {
        Control::new(ControlKind::Figure, (key, label), value, source)
    };
    let load_controls = [
        Control::new(ControlKind::Choice, ("load", "It draws"), "continuous", "typed").options([
            ("continuous", "all the time"),
            ("bursts", "in bursts"),
            ("by_hour", "by the hour"),
        ]),
        Control::new(ControlKind::Choice, ("in", "Measured in"), "amperes", "")
            .options([("amperes", "A at the bank"), ("watts", "W behind an inverter")]),
        what("amount", "Load", load, &from).when("load", &["continuous", "bursts"]),
        what("seconds", "A run takes", "15".into(), "typed").unit("s").when("load", &["bursts"]),
        what("every", "One every", "240".into(), "typed").unit("s").when("load", &["bursts"]),
        what("surge", "Its start takes", "0".into(), "RT-2; A·s above the run").when("load", &["bursts"]),
        what("standing", "Besides all the time", "0".into(), "typed").when("load", &["bursts"]),
        Control::new(
            ControlKind::Hours,
            ("amounts", "From midnight on"),
            several(vec!["2".to_owned(); 24]),
            "typed",
        )
        .when("load", &["by_hour"]),
        what("from_hour", "On its own from", "18".into(), "hour of the day")
            .unit("h")
            .when("load", &["by_hour"]),
        Control::new(ControlKind::Slider, ("efficiency", "Inverter gives"), "88", "RT-3: 85 to 92")
            .unit("%")
            .range(70.0, 98.0, 1.0)
            .when("in", &["watts"]),
        what("idle", "Inverter takes", "10".into(), "its plate; measure it").unit("W").when("in", &["watts"]),
    ];
    let bank = [
        health,
        low,
        high,
        Control::new(ControlKind::Slider, ("charged", "Begins at"), "100", "full")
            .unit("% of charge")
            .range(20.0, 100.0, 5.0),
        what("temperature", "Electrolyte", typed_degrees(celsius, unit), &where_from).unit(degrees(unit)),
        what(
            "exponent",
            "Exponent of Peukert",
            String::new(),
            "empty: rate table of the model, or what is usual",
        ),
        Control::new(ControlKind::Slider, ("depth", "Down to"), depth.0, depth.1)
            .unit("% deep")
            .range(10.0, 100.0, 5.0),
    ];
    let ends = [
        what(
            "alarm",
            "Alarm at",
            figure((ALARM * cells * 10.0).round() / 10.0),
            "1.95 V a cell; its own setting wins; empty: none",
        )
        .unit("V"),
        what("empty", "Empty at", figure((USUAL_END * cells * 10.0).round() / 10.0), "1.75 V a cell, CT-1")
            .unit("V"),
        what("wanted", "Wanted", String::new(), "empty: not told").unit("h"),
    ];
    let other = [
        what("stand_in_volts", "Batteries at hand", "12".into(), "a vehicle, a boat").unit("V"),
        what("stand_in_ah", "Each of", "70".into(), "typed").unit("Ah"),
    ];
    let mut all = group("The load", load_controls);
    all.extend(group("The bank now", bank));
    all.extend(group("What ends it", ends));
    all.extend(group("If the outage outlasts it", other));
    all
}

fn load(typed: &mut Typed<'_>) -> RuntimeLoad {
    match typed.text("load") {
        "bursts" => RuntimeLoad::Bursts {
            amount: typed.number("amount", bounds::RUNTIME_LOAD),
            seconds: typed.number("seconds", bounds::BURST_SECONDS),
            every: typed.number("every", bounds::BURST_SECONDS),
            surge: typed.number("surge", bounds::SURGE),
            standing: typed.number("standing", bounds::RUNTIME_LOAD),
        },
        "by_hour" => RuntimeLoad::ByHour {
            amounts: typed.numbers("amounts", bounds::RUNTIME_LOAD),
            from: u8::try_from(typed.whole("from_hour", bounds::HOUR_OF_DAY)).unwrap_or(0),
        },
        _ => RuntimeLoad::Continuous { amount: typed.number("amount", bounds::RUNTIME_LOAD) },
    }
}

/// Key of the control that an error of the core is about.
fn key_of(error: &RuntimeError, typed: &Typed<'_>) -> &'static str {
    match (error.field(), typed.text("load")) {
        ("load", "by_hour") => "amounts",
        ("load", _) if matches!(error, RuntimeError::RunsIntoTheNext { .. }) => "seconds",
        ("load", _) => "amount",
        (other, _) => other,
    }
}

fn asked(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<RuntimeAsked> {
    let load = load(typed);
    let percent =
        bounds::Bounds { low: 50.0, high: 100.0, unit: "%", decimals: 0, ..bounds::INVERTER_EFFICIENCY };
    let inverter = (typed.text("in") == "watts").then(|| Inverter {
        efficiency: typed.number("efficiency", percent) / 100.0,
        idle: typed.number("idle", bounds::INVERTER_IDLE),
    });
    let health = typed.number("health", bounds::CAPACITY_PERCENT);
    let low = typed.maybe("health_low", bounds::CAPACITY_PERCENT);
    let high = typed.maybe("health_high", bounds::CAPACITY_PERCENT);
    let health_range =
        (low.is_some() || high.is_some()).then(|| [low.unwrap_or(health), high.unwrap_or(health)]);
    let own = RuntimeAsked {
        load,
        inverter,
        temperature: typed.degrees("temperature"),
        health,
        health_range,
        charged: typed.number("charged", bounds::STATE_OF_CHARGE),
        depth: typed.number("depth", bounds::CYCLE_DEPTH),
        exponent: typed.maybe("exponent", bounds::PEUKERT),
        alarm: typed.maybe("alarm", bounds::VOLTAGE),
        empty: typed.maybe("empty", bounds::VOLTAGE),
        ..bare(subject, RuntimeLoad::Continuous { amount: 0.0 })
    };
    // 1.75 V a cell is what the hours of the rule end at: asked for by itself it is no other end.
    let usual = own
        .empty
        .is_some_and(|volts| (volts / f64::from(own.shape.cells_in_series()) - USUAL_END).abs() < 1e-6);
    Ok(RuntimeAsked { empty: own.empty.filter(|_| !usual), ..own })
}

/// The answer.
pub(super) fn answer(
    subject: &Subject,
    models: &[ModelRow],
    typed: &mut Typed<'_>,
    units: ReaderUnits,
) -> AppResult<PlanAnswer> {
    let asked = asked(subject, typed)?;
    let wanted = typed.maybe("wanted", bounds::HOURS_WANTED);
    let volts = typed.whole("stand_in_volts", bounds::SYSTEM_VOLTAGE);
    let at_hand = StandIn { volts, ampere_hours: typed.number("stand_in_ah", bounds::CAPACITY) };
    std::mem::take(&mut typed.faults).none()?;
    let refused = |e: RuntimeError| AppError::refused(key_of(&e, typed), &e);
    let own = runtime(&asked).map_err(refused)?;
    let proof = last_proof(subject);
    let judged = proof.as_ref().and_then(|(proof, _)| judge_proof(&asked, proof).ok());
    let mut lists = vec![outlasts(&asked, wanted, at_hand).map_err(refused)?];
    if let (Some((proof, day)), Some(judged)) = (&proof, &judged) {
        lists.push(PlanList {
            title: format!("The proof of {day}"),
            lines: vec![wording::proof_said(judged, proof.volts)],
        });
    }
    Ok(PlanAnswer {
        said: wording::runtime_verdict(&own, wanted),
        facts: facts(&own, &asked, units),
        options: larger(subject, models, &asked, &own, wanted)?,
        charts: vec![volts_chart(&own, &asked, proof.as_ref().zip(judged.as_ref()))],
        tables: Vec::new(),
        dates: Vec::new(),
        lists,
        cautions: wording::STAND_IN_CAUTIONS.iter().map(|own| (*own).to_owned()).collect(),
        assumptions: assumptions(subject, &asked),
        rule: wording::RUNTIME_RULE.to_owned(),
    })
}

fn hours(name: &str, own: rainshadow_core::runtime::HoursRange) -> PlanFact {
    PlanFact::new(name, wording::lasting(own.hours), "").note(wording::hours_span(own))
}

fn facts(own: &Runtime, asked: &RuntimeAsked, units: ReaderUnits) -> Vec<PlanFact> {
    let mut all = vec![PlanFact::new("mean current", format!("{:.2}", own.amperes), "A")];
    all.extend(own.alarm.map(|alarm| hours("to the alarm", alarm)));
    all.push(hours("until it is over", own.empty).note(wording::hours_span(own.empty)));
    all.push(PlanFact::new("what ends it", wording::ended(own, asked, units), ""));
    all.push(PlanFact::new("drawn by then", format!("{:.0}", own.drawn), "Ah"));
    if own.freezes_under > 0.0 {
        all.push(PlanFact::new("freezes under", format!("{:.0}", own.freezes_under), "% of charge"));
    }
    all
}

fn outlasts(asked: &RuntimeAsked, wanted: Option<f64>, at_hand: StandIn) -> Result<PlanList, RuntimeError> {
    let mut lines = Vec::new();
    if let Some(hours) = wanted {
        lines.push(wording::capacity_wanted(capacity_for(asked, hours)?, asked.model.c20.ampere_hours()));
        lines.extend(load_for(asked, hours)?.map(wording::load_wanted));
    }
    lines.push(match stand_in(asked, at_hand)? {
        Ok(own) => wording::stand_in_said(own, at_hand.volts, at_hand.ampere_hours),
        Err(why) => wording::sentence(&format!("{why}; they cannot stand in.")),
    });
    Ok(PlanList { title: "If the outage outlasts it".into(), lines })
}

/// Why another string beside this one is refused; empty: it is not.
fn second_string(subject: &Subject) -> String {
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
fn larger(
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

fn volts_chart(
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
        series.push(PlanSeries {
            name: format!("predicted for {:.1} A", proof.amperes),
            look: SeriesLook::Other,
            points: judged.curve.clone(),
        });
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

fn assumptions(subject: &Subject, asked: &RuntimeAsked) -> Vec<String> {
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
