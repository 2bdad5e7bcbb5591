//! Signs of all evidence on record: a newer one of a kind takes the place of an older.

use super::evidence::said;
use super::{
    Evidence, InstrumentCheck, Measurement, RestVoltsRead, RoundRead, Sign, Weights, capacity, gravity,
    levels, loaded, volts,
};
use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::quantity::{OutOfRange, SpecificGravity, bounds};
use thiserror::Error;

/// Why evidence cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum EvidenceError {
    /// A figure outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// A place that the bank does not have.
    #[error("the bank has no {0}")]
    NoSuchPlace(String),
    /// A sign that no table has.
    #[error("\u{201c}{0}\u{201d} is no sign; the table of weights names them")]
    NoSuchSign(String),
}

/// Rises of a resistance that are signs.
const RISEN: f64 = 0.30;
const RISEN_A_FIFTH: f64 = 0.20;
/// Of the limit that their middle passes, the least of all has at least this (what a tester scatters).
const LEAST_OF_ALL: f64 = 0.75;
/// Points an instrument is off in distilled water that matter (our choice, no source).
pub const HYDROMETER_OFF: f64 = 6.0;
/// V on 12 V a meter is off that matter (our choice, no source).
pub const METER_OFF: f64 = 0.06;

fn sign(key: &str, seen: String) -> Sign {
    Sign::new(key, seen, "")
}

fn possible(evidence: &Evidence, shape: &BankShape) -> Result<(), EvidenceError> {
    for round in &evidence.rounds {
        bounds::SPREAD_NOISE.check(round.noise)?;
        for own in &round.cells {
            if !shape.contains(own.cell) {
                return Err(EvidenceError::NoSuchPlace(own.cell.to_string()));
            }
            own.below_mark.map(|mm| bounds::LEVEL.check(mm)).transpose()?;
        }
    }
    let there = |battery| shape.batteries().any(|own| own == battery);
    for own in evidence.rest.iter().flat_map(|r| &r.batteries) {
        bounds::VOLTAGE.check(own.value)?;
        if !there(own.battery) {
            return Err(EvidenceError::NoSuchPlace(own.battery.to_string()));
        }
    }
    for own in evidence.resistances.iter().flat_map(|r| &r.batteries) {
        bounds::RESISTANCE.check(own.value)?;
        own.first.map(|first| bounds::RESISTANCE.check(first)).transpose()?;
        if !there(own.battery) {
            return Err(EvidenceError::NoSuchPlace(own.battery.to_string()));
        }
    }
    let compared = evidence.short_loads.iter().flat_map(|r| &r.batteries);
    for own in compared.chain(evidence.held.iter().flat_map(|r| &r.batteries)) {
        bounds::VOLTAGE.check(own.value)?;
        own.first.map(|first| bounds::VOLTAGE.check(first)).transpose()?;
        if !there(own.battery) {
            return Err(EvidenceError::NoSuchPlace(own.battery.to_string()));
        }
    }
    for own in &evidence.discharges {
        bounds::TESTED_CAPACITY.check(own.percent)?;
    }
    Ok(())
}

/// Every sign of what is on record of a bank, and the measurements it stands on.
///
/// # Errors
/// [`EvidenceError`] for what cannot be.
pub fn signs(
    evidence: &Evidence,
    shape: &BankShape,
    model: &BatteryModel,
    weights: &Weights,
) -> Result<(Vec<Sign>, Vec<Measurement>), EvidenceError> {
    possible(evidence, shape)?;
    let kept = evidence.kept();
    let mut all = Vec::new();
    let sealed = !model.construction.has_caps();
    let as_read = kept.in_order();
    let beside = volts::against_gravity(&as_read.0, if sealed { &[] } else { &as_read.1 }, (shape, model));
    // Two figures that agree say nothing for instruments of which one was found wrong.
    let wrong = kept.distilled.iter().any(|check| check.off.abs() > HYDROMETER_OFF)
        || kept.meter.iter().any(|check| check.off.abs() > METER_OFF);
    all.extend(beside.filter(|own| !(wrong && own.sign == "volts_agree_with_gravity")));
    let put_right = kept.put_right();
    let evidence = &put_right;
    let (rest, rounds) = evidence.in_order();
    if !sealed {
        all.extend(gravity::signs(&rounds, model));
        // Whoever looked tells better than a round.
        let looked = evidence.seen.iter().any(|own| own.sign.starts_with("plates_"));
        all.extend(levels::sign(&rounds, model).filter(|_| !looked));
        let distilled = evidence.distilled.iter().max_by_key(|check| check.day);
        all.extend(distilled.map(|check| {
            let by = format!("{:+.0} points", check.off);
            checked(check, &by, HYDROMETER_OFF, ["distilled_off", "distilled_right"])
        }));
    }
    all.extend(volts::signs(&rest, shape, model));
    let meter = evidence.meter.iter().max_by_key(|check| check.day);
    all.extend(meter.map(|check| {
        let by = format!("{:+.2} V on 12 V", check.off);
        checked(check, &by, METER_OFF, ["meter_off", "meter_right"])
    }));
    let short = evidence.short_loads.iter().max_by_key(|read| read.day);
    all.extend(short.and_then(|read| loaded::short_load(read, shape)));
    let held = evidence.held.iter().max_by_key(|read| read.day);
    all.extend(held.and_then(|read| loaded::held(read, shape, model)));
    all.extend(ohmic(evidence, sealed));
    all.extend(capacity::signs(&evidence.discharges));
    all.extend(water(evidence));
    all.extend(record(evidence));
    all.extend(settings(evidence));
    all.extend(strings(evidence));
    let old = evidence.age.zip(evidence.design_life).filter(|(age, life)| *age > 0.8 * life);
    all.extend(old.map(|(age, life)| sign("old", format!("{age:.1} of {life:.0} years"))));
    let young = evidence.age.zip(evidence.design_life).filter(|(age, life)| *age < 0.5 * life);
    all.extend(young.map(|(age, life)| sign("young", format!("{age:.1} of {life:.0} years"))));
    for seen in &evidence.seen {
        if weights.row(&seen.sign).is_none() {
            return Err(EvidenceError::NoSuchSign(seen.sign.clone()));
        }
        all.push(Sign { sign: seen.sign.clone(), seen: String::new(), of: seen.of.clone() });
    }
    let mut made: Vec<Measurement> =
        all.iter().filter_map(|own| weights.row(&own.sign)).map(|row| row.measurement).collect();
    made.extend(evidence.measured());
    made.sort_unstable();
    made.dedup();
    Ok((all, made))
}

/// What an instrument beside what it should show is a sign of.
fn checked(check: &InstrumentCheck, by: &str, most: f64, [off, right]: [&str; 2]) -> Sign {
    let key = if check.off.abs() > most { off } else { right };
    Sign::new(key, format!("{by} on {}", said(check.day)), &check.instrument)
}

impl Evidence {
    /// Volts at rest and rounds, the oldest first.
    fn in_order(&self) -> (Vec<&RestVoltsRead>, Vec<&RoundRead>) {
        let mut rest: Vec<_> = self.rest.iter().collect();
        rest.sort_by_key(|r| r.day);
        let mut rounds: Vec<_> = self.rounds.iter().filter(|r| !r.cells.is_empty()).collect();
        rounds.sort_by_key(|r| r.day);
        (rest, rounds)
    }

    /// What instruments read that were found to be off, less what they are off by.
    fn put_right(&self) -> Self {
        let mut own = self.clone();
        for round in &mut own.rounds {
            let same = |check: &&InstrumentCheck| {
                check.instrument.is_empty()
                    || round.instrument.is_empty()
                    || check.instrument == round.instrument
            };
            let check = self.distilled.iter().filter(same).max_by_key(|check| check.day);
            if let Some(check) = check.filter(|check| check.off.abs() > HYDROMETER_OFF) {
                for cell in &mut round.cells {
                    let right = cell.gravity.value() - check.off / 1000.0;
                    cell.gravity = SpecificGravity::corrected(right);
                }
            }
        }
        let meter = self.meter.iter().max_by_key(|check| check.day);
        if let Some(check) = meter.filter(|check| check.off.abs() > METER_OFF) {
            let right = 1.0 - check.off / 12.0;
            own.rest.iter_mut().flat_map(|r| &mut r.batteries).for_each(|b| b.value *= right);
        }
        own
    }
}

/// Resistances of the newest reading against first values, else mates.
fn ohmic(evidence: &Evidence, sealed: bool) -> Option<Sign> {
    let newest = evidence.resistances.iter().filter(|r| !r.batteries.is_empty()).max_by_key(|r| r.day)?;
    let based = newest.batteries.iter().all(|b| b.first.is_some());
    let mut values: Vec<f64> = newest.batteries.iter().map(|b| b.value).collect();
    let few = values.len() < 4;
    let lowest = values.iter().copied().fold(f64::INFINITY, f64::min);
    let mates = if few { lowest } else { crate::round::median(&mut values)? };
    let over_first: Vec<f64> =
        newest.batteries.iter().filter_map(|b| Some(b.value / b.first? - 1.0)).collect();
    let over_mates: Vec<f64> = newest.batteries.iter().map(|b| b.value / mates - 1.0).collect();
    let count = |all: &[f64], by: f64| all.iter().filter(|rise| **rise >= by).count();
    let n = newest.batteries.len();
    let most = over_first.iter().chain(&over_mates).copied().fold(f64::NEG_INFINITY, f64::max);
    let seen = format!("{:+.0} % at most", 100.0 * most);
    let worse: Vec<f64> = newest
        .batteries
        .iter()
        .map(|b| {
            (b.value / mates - 1.0).max(b.first.map_or(f64::NEG_INFINITY, |first| b.value / first - 1.0))
        })
        .collect();
    let together = based && n > 1 && count(&over_first, LEAST_OF_ALL * RISEN_A_FIFTH) == n;
    let middle = crate::round::median(&mut over_first.clone()).unwrap_or(0.0);
    let alike = count(&over_mates, RISEN_A_FIFTH) == 0;
    let key = if together && middle >= RISEN && count(&over_first, LEAST_OF_ALL * RISEN) == n {
        if sealed { "all_risen_sealed" } else { "all_risen" }
    } else if together && alike && middle >= RISEN_A_FIFTH {
        "all_risen_a_fifth"
    } else {
        match (count(&worse, RISEN), count(&worse, RISEN_A_FIFTH)) {
            (2.., _) => "several_risen",
            (1, _) => "one_risen",
            (0, 1..) => "some_risen_a_fifth",
            _ if based => "near_baseline",
            _ if n > 1 => "near_mates",
            _ => return None,
        }
    };
    Some(sign(key, seen))
}

fn water(evidence: &Evidence) -> Vec<Sign> {
    let Some(own) = &evidence.water else { return Vec::new() };
    let mut all = Vec::new();
    if let Some(share) = own.share {
        let (key, seen) = match (own.on_float, share) {
            (true, times) if times > 3.0 => ("drinks_much", format!("{times:.1} times what is expected")),
            (false, share) if share > 0.25 => {
                ("drinks_much", format!("{:.0} % of what is drawn", 100.0 * share))
            }
            (false, share) if share < 0.02 => {
                ("hardly_drinks", format!("{:.1} % of what is drawn", 100.0 * share))
            }
            (true, times) => ("drinks_as_usual", format!("{times:.1} times what is expected")),
            (false, share) => ("drinks_as_usual", format!("{:.0} % of what is drawn", 100.0 * share)),
        };
        all.push(sign(key, seen));
    }
    all.extend(own.per_degree.and_then(|rise| match rise {
        r if r > 0.045 => Some(sign("drinks_with_heat", format!("{:.1} % a degree", 100.0 * r))),
        r if r < 0.03 => Some(sign("drinks_evenly_over_heat", format!("{:.1} % a degree", 100.0 * r))),
        _ => None,
    }));
    // Of next to nothing, one drinks a multiple of another by chance.
    if all.iter().any(|own| own.sign == "hardly_drinks") {
        return all;
    }
    let odd = own.furthest_battery.filter(|times| !(0.6..=1.5).contains(times));
    all.extend(odd.map(|times| sign("one_drinks_odd", format!("{times:.1} times its mates"))));
    let apart = own.strings_apart.filter(|times| *times >= 1.3);
    all.extend(apart.map(|times| sign("strings_drink_apart", format!("{times:.1} times"))));
    all
}

fn record(evidence: &Evidence) -> Vec<Sign> {
    let Some(own) = &evidence.record else { return Vec::new() };
    let mut all = Vec::new();
    let gap = own.longest_gap.unwrap_or(0.0);
    if let Some(full) = own.full_days {
        let seen = format!("full on {:.0} % of the days, {gap:.0} days without at most", 100.0 * full);
        let key = match full {
            f if f < 0.1 && gap > 10.0 => Some("hardly_full"),
            f if f < 0.2 || gap > 10.0 => Some("seldom_full"),
            f if f > 1.0 / 3.0 => Some("often_full"),
            _ => None,
        };
        all.extend(key.map(|key| sign(key, seen)));
    }
    all.extend(own.charge_factor.and_then(|factor| match factor {
        f if f > 1.30 => Some(sign("charge_factor_high", format!("{f:.2} times what came out"))),
        f if f < 1.02 => Some(sign("charge_factor_low", format!("{f:.2} times what came out"))),
        _ => None,
    }));
    all.extend(own.gassing_hours.map(|hours| {
        let key = match hours {
            h if h > 4.5 => "gasses_long",
            h if h < 0.5 => "gasses_little",
            _ => "gasses_as_usual",
        };
        sign(key, format!("{hours:.1} h a day"))
    }));
    all.extend(own.held_off.map(|off| {
        let key = if off.abs() > 0.05 { "held_volts_off" } else { "held_volts_right" };
        sign(key, format!("{off:+.3} V a cell"))
    }));
    all.extend(
        own.held_follow
            .map(|follow| sign(if follow { "held_volts_follow" } else { "held_volts_flat" }, String::new())),
    );
    all.extend(own.standing_draw.map(|share| {
        let key = if share > 0.009 { "draws_standing" } else { "draws_little" };
        sign(key, format!("{:.1} % of C20 a day", 100.0 * share))
    }));
    all
}

fn settings(evidence: &Evidence) -> Vec<Sign> {
    let Some(own) = &evidence.settings else { return Vec::new() };
    let mut all = Vec::new();
    all.extend(own.absorption_off.map(|off| {
        let key = if off.abs() > 0.045 { "absorption_off" } else { "absorption_right" };
        sign(key, format!("{off:+.3} V a cell"))
    }));
    all.extend(
        own.compensates.map(|own| sign(if own { "compensates" } else { "no_compensation" }, String::new())),
    );
    let long = own.absorption_hours.filter(|hours| *hours >= 6.0);
    all.extend(long.map(|hours| sign("absorption_long", format!("{hours:.0} h"))));
    all
}

/// Currents of strings that differ by less from an even share are alike; by more, and not by a quarter, nothing is told
/// (our choice, no source).
const ALIKE: f64 = 0.10;

fn strings(evidence: &Evidence) -> Vec<Sign> {
    let Some(own) = &evidence.strings else { return Vec::new() };
    let mut all = Vec::new();
    all.extend(own.joints_out.map(|n| {
        if n > 0 { sign("joint_out", format!("{n} of them")) } else { sign("joints_alike", String::new()) }
    }));
    let sum: f64 = own.currents.iter().sum();
    if own.currents.len() > 1 && sum.abs() > 0.0 {
        let even = sum / f64::from(u32::try_from(own.currents.len()).unwrap_or(1));
        let shares: Vec<f64> = own.currents.iter().map(|a| a / even).collect();
        let (low, high) = shares.iter().fold((f64::INFINITY, 0.0f64), |(l, h), s| (l.min(*s), h.max(*s)));
        let seen = format!("{:.0} to {:.0} % of even", 100.0 * low, 100.0 * high);
        let key = match (low, high) {
            (l, _) if l < 0.2 => Some("string_carries_little"),
            (l, h) if (1.0 - l).max(h - 1.0) > 0.25 => Some("strings_share_apart"),
            (l, h) if (1.0 - l).max(h - 1.0) > ALIKE => None,
            _ => Some("strings_share"),
        };
        all.extend(key.map(|key| sign(key, seen)));
    }
    all.extend(own.to_case.map(|[a, b]| {
        let leaks = a.abs() > 1.0 && b.abs() > 1.0 || a.abs() > 3.0 || b.abs() > 3.0;
        sign(if leaks { "leaks_to_case" } else { "no_leak" }, format!("{a:.1} and {b:.1} V"))
    }));
    all
}
