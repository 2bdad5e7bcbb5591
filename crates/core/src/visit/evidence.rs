//! What is on record of a bank as a diagnosis takes it (DG-1): of its visits, its rounds and its chargers.

use super::evidence_seen::seen;
use super::held::held_since;
use super::instruments_checked::checks_on_record;
use super::load_tests::{loaded, past_discharges, set_up};
use super::{
    JointOnRecord, Judged, PastVisit, Place, Step, joints_on_record, ohmic, ohmic_baselines, uneven,
};
use crate::charge::Stage;
use crate::charging_record::ChargingRecordJudged;
use crate::diagnosis::{
    CellGravity, ChargerSettings, Evidence, HeldRead, InstrumentCheck, MeasuredBattery, Measurement,
    ResistancesRead, RestVoltsRead, RoundRead, ShortLoadRead, StringMeasured, TimedDischarge, WaterUse,
};
use crate::equipment::EquipmentJudged;
use crate::ohmic::Against;
use crate::quantity::{Temperature, bounds};
use crate::rest::METER_ON_POSTS;
use crate::round::Assessment;
use crate::severity::Severity;
use crate::water::{Level, LevelStep};
use jiff::civil::Date;
use std::collections::BTreeMap;

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
        Measurement::LookOver | Measurement::Earth => Some(Step::LookOver),
        Measurement::Round | Measurement::DistilledWater => Some(Step::Round),
        Measurement::RestVolts | Measurement::Ohmic | Measurement::MeterCheck | Measurement::Holding => {
            Some(Step::RestCheck)
        }
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
    /// The record of its charging, where it is of late.
    pub record: Option<&'a ChargingRecordJudged>,
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
        held: held(visits, bank).into_iter().collect(),
        distilled: instrument_checks(visits, true),
        meter: instrument_checks(visits, false),
        strings: strings(visits, bank),
        water: water(visits, bank),
        settings: on_record.equipment.and_then(|own| settings(own, bank)),
        record: on_record.record.map(ChargingRecordJudged::evidence),
        age: on_record.age,
        design_life: on_record.design_life,
        seen: seen(visits, bank),
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
        settled: conditions.free_of_surface_charge(bank.rules),
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

/// What the batteries stood at before and after the newest time that they stood disconnected.
fn held(visits: &[PastVisit], bank: Judged<'_>) -> Option<HeldRead> {
    visits.iter().enumerate().rev().find_map(|(at, visit)| {
        let since = held_since(&visit.sheet, &visits[..at], bank)?;
        let before = |battery| since.volts.iter().find(|(own, _)| *own == battery).map(|(_, volts)| *volts);
        let now = visit.sheet.battery_volts().into_iter();
        let temperature = visit.sheet.rested().and_then(|told| told.temperature);
        Some(HeldRead {
            day: visit.day,
            days: since.days,
            temperature: temperature.map(Temperature::celsius),
            noise: METER_ON_POSTS,
            batteries: now
                .map(|own| MeasuredBattery {
                    battery: own.battery,
                    value: own.volts,
                    first: before(own.battery),
                })
                .collect(),
        })
    })
}

/// Instruments that were held against what they should show: those that read gravity, or meters.
fn instrument_checks(visits: &[PastVisit], of_gravity: bool) -> Vec<InstrumentCheck> {
    let own = checks_on_record(visits).into_iter();
    own.filter(|(_, check)| check.instrument.reads_gravity() == of_gravity)
        .map(|(day, check)| InstrumentCheck {
            day,
            instrument: if of_gravity { check.instrument.key().to_owned() } else { String::new() },
            off: check.off(),
        })
        .collect()
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
