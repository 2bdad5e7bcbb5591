//! What is on record of a bank as a diagnosis takes it (DG-1): of its visits, its rounds and its chargers.

use super::load_tests::{loaded, past_discharges, set_up};
use super::{
    Check, JointOnRecord, JointsOnRecord, Judged, PastVisit, Place, Step, joints_on_record, ohmic,
    ohmic_baselines, open_findings, uneven,
};
use crate::charge::Stage;
use crate::diagnosis::{
    CellGravity, ChargerSettings, Evidence, MeasuredBattery, Measurement, ResistancesRead, RestVoltsRead,
    RoundRead, SeenSign, ShortLoadRead, StringMeasured, TimedDischarge, WaterUse,
};
use crate::equipment::EquipmentJudged;
use crate::finding::{FindingKind, LookFinding, Subject};
use crate::ohmic::Against;
use crate::parallel_share::WITHIN;
use crate::quantity::bounds;
use crate::rest::{Grade, RestConditions};
use crate::round::Assessment;
use crate::severity::Severity;
use crate::water::{Level, LevelStep};
use jiff::civil::Date;
use std::collections::BTreeMap;

/// Volts from the posts to the tray or case that leak (our choice, no source).
const LEAKS: f64 = 1.0;

/// A finished round as it was judged.
#[derive(Debug, Clone, Copy)]
pub struct RoundOnRecord<'a> {
    /// Its day.
    pub day: Date,
    /// True when the charge before was proven full.
    pub proven_full: bool,
    /// What read it, in a word.
    pub instrument: &'a str,
    /// How it was judged.
    pub judged: &'a Assessment,
}

/// The step of a visit that keeps what it measures, so that it is evidence from then on; none: no step does.
pub const fn step_that_measures(own: Measurement) -> Option<Step> {
    match own {
        Measurement::LookOver => Some(Step::LookOver),
        Measurement::Round => Some(Step::Round),
        Measurement::RestVolts | Measurement::Ohmic => Some(Step::RestCheck),
        Measurement::ShortLoad | Measurement::Discharge => Some(Step::LoadTest),
        Measurement::Joints | Measurement::Currents => Some(Step::Joints),
        _ => None,
    }
}

/// What a bank is known by beside its visits and rounds.
#[derive(Debug, Clone, Copy, Default)]
pub struct OnRecord<'a> {
    /// Its chargers, judged.
    pub equipment: Option<&'a EquipmentJudged>,
    /// Age, years.
    pub age: Option<f64>,
    /// Design life, years.
    pub design_life: Option<f64>,
}

/// Everything on record of a bank, for the diagnosis of a day.
pub fn diagnosis_evidence(
    visits: &[PastVisit],
    rounds: &[RoundOnRecord<'_>],
    bank: Judged<'_>,
    on_record: &OnRecord<'_>,
    today: Date,
) -> Evidence {
    Evidence {
        today: Some(today),
        rounds: rounds.iter().map(|own| round(own, visits, bank)).collect(),
        rest: visits.iter().filter_map(|visit| rest_volts(visit, rounds, bank)).collect(),
        resistances: last_resistances(visits, bank).into_iter().collect(),
        discharges: timed_discharges(visits, bank),
        short_loads: visits.iter().filter_map(short_load).collect(),
        strings: strings(visits, bank),
        water: water(visits, bank),
        settings: on_record.equipment.and_then(|own| settings(own, bank)),
        age: on_record.age,
        design_life: on_record.design_life,
        seen: seen(visits, bank),
        ..Evidence::default()
    }
}

/// mm that a level stood under its mark: as measured, or by the water that brought it there; none where it was called low
/// by eye and nobody knows how far.
fn below_mark(level: Level, poured: Option<f64>, bank: Judged<'_>) -> Option<f64> {
    let mark = Level::Step { step: LevelStep::AtMark }.over_plates(bank.model);
    let by_eye = (mark - level.over_plates(bank.model)).max(0.0);
    match level {
        Level::Step { step: LevelStep::Low } => Some((poured? / bank.model.free_area?).min(mark)),
        _ => Some(by_eye),
    }
}

fn round(own: &RoundOnRecord<'_>, visits: &[PastVisit], bank: Judged<'_>) -> RoundRead {
    let visit = visits.iter().find(|visit| visit.day == own.day);
    let levels: BTreeMap<_, Level> =
        visit.map(|visit| visit.sheet.levels_as_found(bank.shape).into_iter().collect()).unwrap_or_default();
    let poured = visit.map(|visit| visit.sheet.water_by_cell(bank.shape)).unwrap_or_default();
    let cells = own.judged.cells.iter().filter_map(|cell| {
        let level = levels.get(&cell.cell);
        let below = level.and_then(|level| below_mark(*level, poured.get(&cell.cell).copied(), bank));
        Some(CellGravity {
            cell: cell.cell,
            gravity: cell.corrected?,
            below_mark: below,
            in_question: cell.question.is_some(),
        })
    });
    RoundRead {
        day: own.day,
        proven_full: own.proven_full,
        instrument: own.instrument.to_owned(),
        noise: own
            .judged
            .uncertainty
            .gravity
            .value()
            .clamp(bounds::SPREAD_NOISE.low, bounds::SPREAD_NOISE.high),
        cells: cells.collect(),
    }
}

/// True for volts that say how full a bank is without surface charge.
fn settled(conditions: &RestConditions, bank: Judged<'_>) -> bool {
    let grade = Grade::of(conditions, bank.rules);
    grade == Grade::Settled || grade == Grade::Usable && conditions.surface_charge_removed
}

fn rest_volts(visit: &PastVisit, rounds: &[RoundOnRecord<'_>], bank: Judged<'_>) -> Option<RestVoltsRead> {
    let batteries: Vec<MeasuredBattery> = visit
        .sheet
        .battery_volts()
        .into_iter()
        .map(|own| MeasuredBattery { battery: own.battery, value: own.volts, first: None })
        .collect();
    let conditions = visit.sheet.rested()?;
    let full = rounds.iter().any(|round| round.day == visit.day && round.proven_full);
    (!batteries.is_empty()).then(|| RestVoltsRead {
        day: visit.day,
        settled: settled(conditions, bank),
        proven_full: full || conditions.charged_full,
        batteries,
    })
}

/// Resistances of the last visit that has them, against their baselines.
fn last_resistances(visits: &[PastVisit], bank: Judged<'_>) -> Option<ResistancesRead> {
    visits.iter().enumerate().rev().find_map(|(at, visit)| {
        let judged = ohmic(&visit.sheet, bank.shape, &ohmic_baselines(&visits[..at]));
        let batteries: Vec<MeasuredBattery> = judged
            .iter()
            .map(|own| MeasuredBattery {
                battery: own.battery,
                value: own.milliohms,
                first: own.reference.filter(|_| own.against == Some(Against::OwnFirst)),
            })
            .collect();
        (!batteries.is_empty()).then_some(ResistancesRead { day: visit.day, batteries })
    })
}

/// Discharges of the whole bank that told a capacity.
fn timed_discharges(visits: &[PastVisit], bank: Judged<'_>) -> Vec<TimedDischarge> {
    let whole =
        |place: Place| place == Place::Bank || bank.shape.parallel == 1 && matches!(place, Place::String(_));
    past_discharges(visits, bank)
        .into_iter()
        .filter(|own| whole(own.place))
        .filter_map(|own| {
            let result = own.now.result.as_ref()?;
            // Stopped early it tells no more than that: only a good figure is one.
            let percent = result.percent.filter(|percent| !result.at_least || *percent >= 80.0)?;
            Some(TimedDischarge {
                day: own.day,
                percent,
                batteries_read: own.now.mates.len() > 1,
                early: own.now.mates.iter().filter(|mate| mate.weak).map(|mate| mate.battery).collect(),
            })
        })
        .collect()
}

fn short_load(visit: &PastVisit) -> Option<ShortLoadRead> {
    set_up(&visit.sheet)?;
    let batteries: Vec<MeasuredBattery> = loaded(&visit.sheet)
        .into_values()
        .map(|own| MeasuredBattery { battery: own.battery, value: own.at_end, first: None })
        .collect();
    (!batteries.is_empty()).then_some(ShortLoadRead { day: visit.day, batteries })
}

/// Joints as they were read last, and currents of the strings as they were clamped last.
fn strings(visits: &[PastVisit], bank: Judged<'_>) -> Option<StringMeasured> {
    let own = joints_on_record(visits, bank);
    let told = |joint: &&JointOnRecord| !joint.remade && joint.read.judged.condition != Severity::NoReading;
    let read = own.joints.values().filter(told).count();
    let joints_out = (read > 0).then(|| u16::try_from(own.bad().len()).unwrap_or(u16::MAX));
    let currents = own.clamped.map(|(_, amperes)| amperes).unwrap_or_default();
    let measured = joints_out.is_some() || !currents.is_empty();
    measured.then_some(StringMeasured { joints_out, currents, to_case: None })
}

/// Who drinks unlike the others; what share of the charge becomes gas is not known without a record of it.
fn water(visits: &[PastVisit], bank: Judged<'_>) -> Option<WaterUse> {
    if !bank.model.construction.has_caps() {
        return None;
    }
    let odd = uneven(visits, bank.shape).into_iter().map(|own| own.factor);
    let furthest = odd.max_by(|a, b| a.ln().abs().total_cmp(&b.ln().abs()))?;
    Some(WaterUse { furthest_battery: Some(furthest), ..WaterUse::default() })
}

/// What the charger is set to, of the first source whose absorption is told.
fn settings(own: &EquipmentJudged, bank: Judged<'_>) -> Option<ChargerSettings> {
    let audit = own.sources.iter().find_map(|source| source.audit.as_ref())?;
    let stage = |wanted| audit.stages.iter().find(|stage| stage.stage == wanted);
    let n = f64::from(bank.shape.cells_in_series());
    let off = stage(Stage::Absorption).and_then(|own| Some((own.gets - own.wanted?) / n));
    Some(ChargerSettings { absorption_off: off, ..ChargerSettings::default() })
}

/// The sign that something found by eye is, where it is one.
fn sign_of(check: Check, kind: &str, has_caps: bool) -> Option<&'static str> {
    Some(match (check, kind) {
        (Check::Case, "bulge") if !has_caps => "swollen",
        (Check::Case, "bulge" | "crack") => "bulged",
        (Check::Top, "wet") => "tops_wet",
        (Check::Terminals, "powder" | "green" | "loose") => "powder",
        (Check::Terminals, "burnt") | (Check::Cables, "hot") => "hot_lug",
        (Check::Sensor, "missing" | "off") => "no_sensor",
        (Check::Tray, "track") => "acid_trail",
        _ => return None,
    })
}

/// What the eye found and nobody put right, and what it found in order on the last visit that looked.
fn seen(visits: &[PastVisit], bank: Judged<'_>) -> Vec<SeenSign> {
    let has_caps = bank.model.construction.has_caps();
    let sign = |key: &str, of: String| SeenSign { sign: key.into(), of };
    let mut all = Vec::new();
    for open in open_findings(visits) {
        let FindingKind::Look(LookFinding::Seen { check, kind, measured, .. }) = &open.finding.kind else {
            continue;
        };
        let of = match open.finding.subject {
            Subject::Battery(battery) => battery.to_string(),
            _ => String::new(),
        };
        all.extend(sign_of(*check, kind, has_caps).map(|key| sign(key, of.clone())));
        if *check == Check::Tray && measured.is_some_and(|volts| volts.abs() >= LEAKS) {
            all.push(sign("leaks_to_case", of));
        }
    }
    let looked =
        |check: Check| visits.iter().rev().find(|v| v.sheet.checked(check) && !v.sheet.not_here(check));
    all.extend(leads(visits, bank).map(|key| sign(key, String::new())));
    let open = |keys: &[&str]| all.iter().any(|own: &SeenSign| keys.contains(&own.sign.as_str()));
    let mut normal = Vec::new();
    if looked(Check::Top).is_some() && !open(&["tops_wet"]) {
        normal.push("tops_dry");
    }
    if looked(Check::Sensor).is_some() && !open(&["no_sensor"]) {
        normal.push("sensor_there");
    }
    if let Some(levels) = last_levels(visits, bank).filter(|_| has_caps) {
        normal.push(if levels { "plates_covered" } else { "plates_show" });
    }
    all.extend(normal.into_iter().map(|key| sign(key, String::new())));
    all
}

/// Shares that the cables alone would make of sound batteries are unequal from here, and equal to here, relative (our
/// choice, no source).
const LEADS: [f64; 2] = [WITHIN, 0.02];

/// What the cables say by themselves of how the strings share.
fn leads(visits: &[PastVisit], bank: Judged<'_>) -> Option<&'static str> {
    let wiring = visits.last()?.sheet.wiring.as_ref()?;
    let nothing_read = JointsOnRecord::default();
    let off = nothing_read.share(wiring, bank, 1.0)?.now.furthest;
    match off {
        off if off > LEADS[0] => Some("leads_unequal"),
        off if off <= LEADS[1] => Some("leads_equal"),
        _ => None,
    }
}

/// True where every plate was covered at the last look at the levels; none: nobody looked.
fn last_levels(visits: &[PastVisit], bank: Judged<'_>) -> Option<bool> {
    visits.iter().rev().find_map(|visit| {
        let levels = visit.sheet.levels_as_found(bank.shape);
        let bare = |own: &Level| own.step(bank.model) == LevelStep::PlatesBare;
        (!levels.is_empty()).then(|| !levels.iter().any(|(_, own)| bare(own)))
    })
}
