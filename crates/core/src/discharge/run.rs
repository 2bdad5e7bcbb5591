//! Where a timed discharge stands: worked out from its log and the clock each time somebody asks, so that no device and
//! no restart can lose it.

use super::ends::{Expected, ends};
use super::log::{DischargeEvent, DischargePlan, DischargedBattery, LoggedEvent};
use super::point::DischargePoint;
use super::weak::{DischargedMate, discharged_mates};
use super::{CapacityResult, CapacityTest, Drawn, capacity_test, rated_time, test_factor};
use crate::battery_model::BatteryModel;
use crate::equalize::Within;
use serde::{Deserialize, Serialize};

/// A current that stays this near to the one that was meant is one current, as a share (our choice, no source).
const CONSTANT_WITHIN: f64 = 0.05;
/// So near its end, V a cell, the volts fall fast: a reading every minute (common practice, no source).
const NEAR_END: f64 = 0.0625;
/// Minutes between readings near the end.
const EVERY_NEAR_END: f64 = 1.0;

/// How far a discharge is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DischargePhase {
    /// The load is on.
    Running,
    /// The load is off, to be switched on again.
    Paused,
    /// It is over.
    Ended,
}

/// What has to be done now.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "advice", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DischargeAdvice {
    /// Keep the load on.
    GoOn,
    /// The end voltage is reached: load off.
    AtEnd,
    /// A battery has a cell that is driven backwards: load off.
    Reversed {
        /// Which.
        battery: crate::bank::BatteryAddress,
    },
    /// Nothing: it is over, or paused.
    Nothing,
}

/// What a discharge is of.
#[derive(Debug, Clone, Copy)]
pub struct DischargeFrame<'a> {
    /// The battery model.
    pub model: &'a BatteryModel,
    /// Cells in series at the place under test.
    pub cells: u16,
    /// Strings that share the current.
    pub strings: u8,
    /// Hours the same place lasted last time under the same load; none: not on record.
    pub last: Option<f64>,
}

/// Where a discharge stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DischargeNow {
    /// How it is meant to run.
    pub plan: DischargePlan,
    /// How far it is.
    pub phase: DischargePhase,
    /// Hours of load so far.
    pub elapsed: f64,
    /// Hours without load between, pauses in all.
    pub paused: f64,
    /// Hours since the pause began; none: it is not paused.
    pub paused_for: Option<f64>,
    /// Readings in order.
    pub points: Vec<DischargePoint>,
    /// Ampere-hours so far.
    pub ampere_hours: f64,
    /// Lowest and highest current read, A; none: none was read.
    pub amperes: Option<[f64; 2]>,
    /// Hours of load until the next reading; negative: overdue; none: none is wanted.
    pub reading_in: Option<f64>,
    /// Hours of load at which the end voltage was reached; none: it was not.
    pub reached: Option<f64>,
    /// Hours of load at which it ends; none: not known, or over.
    pub ends: Option<Within>,
    /// Battery by battery.
    pub mates: Vec<DischargedMate>,
    /// What has to be done now.
    pub advice: DischargeAdvice,
    /// Hours by which the clock was set meanwhile, which are not counted.
    pub clock_set: f64,
    /// True when it was timed by a watch, not here.
    pub noted: bool,
    /// What it came to; none while it is under way, or where it tells nothing.
    pub result: Option<CapacityResult>,
}

impl DischargeNow {
    /// Volts it ends at.
    pub fn end_volts(&self, cells: u16) -> f64 {
        self.plan.end_per_cell * f64::from(cells)
    }

    /// True while somebody has to stay with it.
    pub fn is_under_way(&self) -> bool {
        self.phase != DischargePhase::Ended
    }

    /// The battery that gives out first: driven backwards, else the weak one that is furthest under its mates.
    pub fn weakest(&self) -> Option<&DischargedMate> {
        let under = |own: &&DischargedMate| own.weak || own.reversed;
        let key = |own: &&DischargedMate| own.against_mates.unwrap_or(0.0);
        self.mates.iter().filter(under).min_by(|a, b| key(a).total_cmp(&key(b)))
    }
}

/// The log gone through.
struct Walked {
    phase: DischargePhase,
    elapsed: f64,
    paused: f64,
    paused_for: Option<f64>,
    clock_set: f64,
    points: Vec<DischargePoint>,
}

fn walked(log: &[LoggedEvent], now: f64) -> Walked {
    let mut own = Walked {
        phase: DischargePhase::Running,
        elapsed: 0.0,
        paused: 0.0,
        paused_for: None,
        clock_set: 0.0,
        points: Vec::new(),
    };
    let mut last = 0.0;
    for logged in log {
        // What the clock jumped, nobody waited; and no clock takes hours back that were waited.
        let at = (logged.at - own.clock_set).max(last);
        if let DischargeEvent::ClockSet { hours } = logged.event {
            own.clock_set += hours;
            continue;
        }
        own.pass(at - last);
        last = at;
        match &logged.event {
            DischargeEvent::Read { reading } => own.points.push(DischargePoint {
                id: logged.id.clone(),
                hours: own.elapsed,
                under_load: own.phase == DischargePhase::Running,
                amperes: reading.amperes,
                volts: reading.volts,
                batteries: reading.batteries.clone(),
                celsius: reading.celsius,
            }),
            DischargeEvent::Paused => (own.phase, own.paused_for) = (DischargePhase::Paused, Some(0.0)),
            DischargeEvent::Resumed => (own.phase, own.paused_for) = (DischargePhase::Running, None),
            DischargeEvent::Ended => {
                own.phase = DischargePhase::Ended;
                own.paused_for = None;
                return own;
            }
            _ => {}
        }
    }
    own.pass((now - own.clock_set - last).max(0.0));
    own
}

impl Walked {
    fn pass(&mut self, hours: f64) {
        match self.phase {
            DischargePhase::Running => self.elapsed += hours,
            DischargePhase::Paused => {
                self.paused += hours;
                self.paused_for = self.paused_for.map(|own| own + hours);
            }
            DischargePhase::Ended => {}
        }
    }
}

/// Hours of load at which the volts came down to the end, between the two readings around it; none: they did not.
fn reached(points: &[DischargePoint], end: f64) -> Option<f64> {
    let read: Vec<(f64, f64)> =
        points.iter().filter(|p| p.under_load).filter_map(|p| Some((p.hours, p.volts?))).collect();
    let at = read.iter().position(|(_, volts)| *volts <= end + 1e-9)?;
    let (hours, volts) = read[at];
    let Some((before, higher)) = at.checked_sub(1).map(|i| read[i]) else { return Some(hours) };
    Some(before + (hours - before) * (higher - end) / (higher - volts))
}

/// Hours and A of the readings that have a current, from the start to an end: before the first and after the last it is
/// taken as read next to it.
fn currents(points: &[DischargePoint], meant: Option<f64>, until: f64) -> Vec<[f64; 2]> {
    let mut all: Vec<[f64; 2]> = points
        .iter()
        .filter(|p| p.under_load && p.hours <= until + 1e-9)
        .filter_map(|p| Some([p.hours, p.amperes?]))
        .collect();
    all.dedup_by(|b, a| (b[0] - a[0]).abs() < 1e-6);
    let (first, last) = (all.first().map(|p| p[1]), all.last().map(|p| p[1]));
    if let Some(own) = first.or(meant)
        && all.first().is_none_or(|p| p[0] > 1e-6)
    {
        all.insert(0, [0.0, own]);
    }
    if let Some(own) = last.or(meant)
        && all.last().is_none_or(|p| p[0] < until - 1e-6)
    {
        all.push([until, own]);
    }
    all
}

/// Ampere-hours of readings, by the trapezoid between each two.
fn ampere_hours(currents: &[[f64; 2]]) -> f64 {
    currents.windows(2).map(|pair| pair[0][1].midpoint(pair[1][1]) * (pair[1][0] - pair[0][0])).sum()
}

/// What was drawn until an hour of load: one current where it was meant and held, else the readings.
fn drawn(currents: &[[f64; 2]], meant: Option<f64>, hours: f64) -> Drawn {
    let held = |meant: f64| currents.iter().all(|p| (p[1] / meant - 1.0).abs() <= CONSTANT_WITHIN);
    match meant {
        Some(meant) if held(meant) && hours > 0.0 => {
            let mean = ampere_hours(currents) / hours;
            Drawn::Constant { amperes: if mean > 0.0 { mean } else { meant }, hours }
        }
        _ => Drawn::Changing { readings: currents.to_vec() },
    }
}

fn result(
    frame: &DischargeFrame<'_>,
    plan: &DischargePlan,
    drawn: &Drawn,
    at_end: bool,
) -> Option<CapacityResult> {
    let test = CapacityTest {
        model: frame.model,
        strings: frame.strings,
        drawn,
        temperature: plan.temperature,
        // Of a bank that nobody proved full it is what it had at least.
        reached_end: at_end && plan.proven_full,
    };
    capacity_test(&test).ok()
}

/// Where a discharge stands, so many hours after the load was switched on by the machine's clock.
pub fn discharge_now(
    frame: &DischargeFrame<'_>,
    plan: &DischargePlan,
    log: &[LoggedEvent],
    now: f64,
) -> DischargeNow {
    let own = walked(log, now);
    let end = plan.end_per_cell * f64::from(frame.cells);
    let reached = reached(&own.points, end);
    let over = own.phase == DischargePhase::Ended;
    let until = if over { reached.unwrap_or(own.elapsed) } else { own.elapsed };
    let currents = currents(&own.points, plan.amperes, until);
    let read: Vec<f64> = own.points.iter().filter(|p| p.under_load).filter_map(|p| p.amperes).collect();
    let drawn_now = drawn(&currents, plan.amperes, until);
    let mates = discharged_mates(&own.points, frame.model.cells);
    let running = own.phase == DischargePhase::Running;
    let reversed = mates.iter().find(|m| m.reversed).map(|m| m.battery);
    let mean = if until > 0.0 { ampere_hours(&currents) / until } else { plan.amperes.unwrap_or(0.0) };
    let ends = (!over && reached.is_none() && mean > 0.0).then(|| {
        let warm = plan.temperature.and_then(test_factor).unwrap_or(1.0);
        let rated = rated_time(frame.model, mean / f64::from(frame.strings.max(1))).hours * warm;
        ends(&own.points, frame.cells, plan.end_per_cell, own.elapsed, Expected { rated, last: frame.last })
    });
    let last = own.points.iter().rev().find(|p| p.under_load);
    let near = last
        .and_then(|p| p.volts)
        .is_some_and(|v| v / f64::from(frame.cells.max(1)) < plan.end_per_cell + NEAR_END);
    let every = if near { plan.every_minutes.min(EVERY_NEAR_END) } else { plan.every_minutes };
    let due = last.map_or(0.0, |p| p.hours + every / 60.0);
    DischargeNow {
        advice: match (running, reached, reversed) {
            (false, ..) => DischargeAdvice::Nothing,
            (true, Some(_), _) => DischargeAdvice::AtEnd,
            (true, None, Some(battery)) => DischargeAdvice::Reversed { battery },
            (true, None, None) => DischargeAdvice::GoOn,
        },
        ampere_hours: ampere_hours(&currents),
        amperes: read
            .iter()
            .copied()
            .reduce(f64::min)
            .zip(read.iter().copied().reduce(f64::max))
            .map(<[f64; 2]>::from),
        reading_in: running.then_some(due - own.elapsed),
        result: over.then(|| result(frame, plan, &drawn_now, reached.is_some())).flatten(),
        plan: *plan,
        phase: own.phase,
        elapsed: own.elapsed,
        paused: own.paused,
        paused_for: own.paused_for,
        points: own.points,
        reached,
        ends: ends.flatten(),
        mates,
        clock_set: own.clock_set,
        noted: false,
    }
}

/// A discharge that was timed elsewhere.
pub fn noted_discharge(
    frame: &DischargeFrame<'_>,
    (plan, hours, reached_end): (&DischargePlan, f64, bool),
    batteries: &[DischargedBattery],
) -> DischargeNow {
    let amperes = plan.amperes.unwrap_or_default();
    let point = DischargePoint {
        id: String::new(),
        hours,
        under_load: true,
        amperes: plan.amperes,
        volts: None,
        batteries: batteries.to_vec(),
        celsius: None,
    };
    DischargeNow {
        plan: *plan,
        phase: DischargePhase::Ended,
        elapsed: hours,
        paused: 0.0,
        paused_for: None,
        mates: discharged_mates(std::slice::from_ref(&point), frame.model.cells),
        points: Vec::new(),
        ampere_hours: amperes * hours,
        amperes: plan.amperes.map(|a| [a, a]),
        reading_in: None,
        reached: reached_end.then_some(hours),
        ends: None,
        advice: DischargeAdvice::Nothing,
        clock_set: 0.0,
        noted: true,
        result: result(frame, plan, &Drawn::Constant { amperes, hours }, reached_end),
    }
}
