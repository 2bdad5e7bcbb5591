//! A run as it was written down, and where it stands now.

use super::compliance::{Compliance, compliance};
use super::current::ampere_hours;
use super::forecast::{RunForecast, forecast};
use super::frame::RunFrame;
use super::run_log::{EndWhy, FeedMinute, LoggedEntry, PauseWhy, Phase, RunEntry, TakenReading};
use super::timeline::{jumps_until, on_until, spans, timed};
use super::{Advice, BeforeCheck, RunKind, RunReading, RunSoFar, RunState, STARTS_BY, judge_run};
use crate::quantity::{Points, SpecificGravity};
use crate::water::water_of;
use serde::{Deserialize, Serialize};

/// Hours after which a pause for a reading has been forgotten: twice what a reading takes (common
/// practice, no source).
const FORGOTTEN: f64 = 2.0 * super::READING_PAUSE / 60.0;
/// A printed gravity is a multiple of a thousandth: what is on the mark is not under it, points.
const PRINTED: f64 = 1e-6;

/// Where a run stands.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunNow {
    /// How far it is.
    pub phase: Phase,
    /// Hours on equalize, pauses not counted.
    pub elapsed: f64,
    /// Hours since it was paused.
    pub paused_for: Option<f64>,
    /// Readings, oldest first.
    pub readings: Vec<TakenReading>,
    /// What EQ-4 says.
    pub state: RunState,
    /// Hours until the next reading is due; negative: overdue by so much.
    pub reading_in: Option<f64>,
    /// Gravity at or under which the next reading ends the run; none: it cannot end by it yet.
    pub ends_at: Option<SpecificGravity>,
    /// The plateau and the hours left; none before five readings, or when no curve fits them.
    pub forecast: Option<RunForecast>,
    /// Ampere-hours of the bank so far; all of them counted as gassing.
    pub ampere_hours: f64,
    /// Water boiled off, mL of the whole bank: at most.
    pub water: f64,
    /// How much of it was on equalize, as far as volts and amperes tell.
    pub compliance: Compliance,
    /// Hours by which the clock was set while it ran.
    pub clock_set: f64,
    /// Checks that nobody has said anything of.
    pub open_checks: Vec<BeforeCheck>,
}

impl RunNow {
    /// True when a reading was taken in the pause that is on.
    pub fn read_in_pause(&self) -> bool {
        let paused = matches!(self.phase, Phase::Paused { .. });
        paused && self.readings.last().is_some_and(|r| (r.hours - self.elapsed).abs() < 1e-9)
    }

    /// Why it ends when it is stopped now. A run that was hardly on equalize was not ended by any rule of
    /// one: it does not count.
    pub fn ends_as(&self) -> EndWhy {
        let why = match self.state.advice {
            // Four hours were given: stopping then is the choice that the rule leaves.
            Advice::NotAnswering if self.elapsed >= STARTS_BY => EndWhy::Rule,
            advice => EndWhy::by(advice),
        };
        match why {
            EndWhy::Rule | EndWhy::Cap if !self.compliance.is_an_equalize() => EndWhy::Hand,
            why => why,
        }
    }

    /// True when a pause for a reading lasts so long that Resume was perhaps forgotten: hours with the
    /// charger on would not be counted.
    pub fn pause_forgotten(&self) -> bool {
        let reading = matches!(self.phase, Phase::Paused { why: PauseWhy::Reading });
        reading && self.paused_for.is_some_and(|hours| hours > FORGOTTEN)
    }
}

fn mean(gravities: &[Option<SpecificGravity>], watched: usize) -> Option<SpecificGravity> {
    let read: Vec<f64> = gravities.iter().flatten().map(|g| g.value()).collect();
    let all = watched > 0 && read.len() >= watched;
    let n = f64::from(u32::try_from(read.len()).unwrap_or(1).max(1));
    all.then(|| SpecificGravity::corrected(read.iter().sum::<f64>() / n))
}

/// Where a run stands at a moment, hours from its opening by the machine's clock.
pub fn run_now(frame: &RunFrame<'_>, log: &[LoggedEntry], feed: &[FeedMinute], now: f64) -> RunNow {
    let (entries, now, clock_set) = timed(log, now);
    let (on, phase, paused_at) = spans(&entries, now);
    let elapsed = on_until(&on, now);
    let readings: Vec<TakenReading> = entries
        .iter()
        .filter_map(|(at, logged)| {
            let RunEntry::Read { gravities, celsius, volts, amperes } = &logged.entry else { return None };
            Some(TakenReading {
                id: logged.id.clone(),
                at: *at,
                hours: on_until(&on, *at),
                mean: mean(gravities, frame.watched),
                gravities: gravities.clone(),
                celsius: *celsius,
                volts: *volts,
                amperes: *amperes,
            })
        })
        .collect();
    let to_judge: Vec<RunReading> = readings
        .iter()
        .filter(|r| r.mean.is_some() || r.celsius.is_some())
        .map(|r| RunReading { hours: r.hours, gravity: r.mean, celsius: r.celsius })
        .collect();
    let warm = matches!(phase, Phase::Paused { why: PauseWhy::Heat });
    let followed = followed(&readings);
    let so_far = RunSoFar {
        kind: frame.kind,
        readings: &to_judge,
        followed: &followed,
        full: frame.full,
        noise: Points::new(frame.noise),
        now: elapsed,
        paused: warm,
    };
    let state = judge_run(&so_far);
    let open = matches!(phase, Phase::Running | Phase::Paused { .. });
    let gravities: Vec<(f64, f64)> =
        to_judge.iter().filter_map(|r| Some((r.hours, r.gravity?.value()))).collect();
    let said_of: Vec<BeforeCheck> = entries
        .iter()
        .filter_map(|(_, l)| match l.entry {
            RunEntry::Confirmed { check } | RunEntry::Skipped { check, .. } => Some(check),
            _ => None,
        })
        .collect();
    let feed: Vec<FeedMinute> =
        feed.iter().map(|m| FeedMinute { at: m.at - jumps_until(log, m.at), ..*m }).collect();
    let ampere_hours = ampere_hours(&on, &readings, &feed, frame);
    let compliance = compliance(frame.meant, frame.cells, &on, &readings, &feed);
    let goes_on = open && !state.advice.stops();
    let next = next_reading(frame, &readings, elapsed).filter(|_| goes_on);
    RunNow {
        elapsed,
        paused_for: paused_at.filter(|_| open).map(|at| (now - at).max(0.0)),
        reading_in: next.map(|due| due - elapsed),
        ends_at: next.filter(|_| frame.kind != RunKind::Stir).and_then(|due| ends_at(&so_far, due)),
        forecast: (goes_on && frame.kind != RunKind::Stir)
            .then(|| forecast(frame.kind, &gravities, frame.noise))
            .flatten(),
        ampere_hours,
        water: water_of(ampere_hours, u32::from(frame.cells)),
        compliance,
        clock_set,
        open_checks: frame.checks.iter().copied().filter(|c| !said_of.contains(c)).collect(),
        state,
        readings,
        phase,
    }
}

/// Hours on equalize at which the next reading is due: counted from the last one that tells what the
/// run is judged by.
fn next_reading(frame: &RunFrame<'_>, readings: &[TakenReading], elapsed: f64) -> Option<f64> {
    let cap = frame.kind.cap();
    let tells = |r: &&TakenReading| if frame.watched > 0 { r.mean.is_some() } else { r.celsius.is_some() };
    let last = readings.iter().rev().find(tells).map_or(0.0, |r| r.hours);
    let due = last + f64::from(frame.kind.reading_minutes()) / 60.0;
    (elapsed < cap).then_some(due.min(cap))
}

/// Each watched cell by itself: hours on equalize and gravity.
fn followed(readings: &[TakenReading]) -> Vec<Vec<(f64, SpecificGravity)>> {
    let watched = readings.iter().map(|r| r.gravities.len()).max().unwrap_or(0);
    (0..watched)
        .map(|i| readings.iter().filter_map(|r| Some((r.hours, *r.gravities.get(i)?.as_ref()?))).collect())
        .collect()
}

/// The highest mean at which the next reading, taken when it is due, would end the run (EQ-4); none where no
/// figure near the last would.
fn ends_at(run: &RunSoFar<'_>, due: f64) -> Option<SpecificGravity> {
    let last = run.readings.iter().rev().find_map(|r| r.gravity)?;
    let ends = |points: i32| {
        let thousandths = (last.value() * 1000.0 + PRINTED).floor() + f64::from(points);
        let gravity = SpecificGravity::corrected(thousandths / 1000.0);
        let mut readings = run.readings.to_vec();
        readings.push(RunReading { hours: due, gravity: Some(gravity), celsius: None });
        let advice = judge_run(&RunSoFar { readings: &readings, now: due, ..*run }).advice;
        (advice == Advice::Done).then_some(gravity)
    };
    (-3..=6).rev().find_map(ends)
}
