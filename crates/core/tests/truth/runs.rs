//! Runs of an equalize whose plateau is known.

use super::chance::Chance;
use rainshadow_core::equalize::{Advice, RunKind, RunReading, RunSoFar, judge_run};
use rainshadow_core::quantity::{Points, SpecificGravity};

/// A run: where it starts and goes, how fast, and when it starts to rise.
#[derive(Debug, Clone, Copy)]
pub struct Truth {
    start: f64,
    plateau: f64,
    tau: f64,
    onset: f64,
}

impl Truth {
    fn at(self, hours: f64) -> f64 {
        self.plateau - (self.plateau - self.start) * (-(hours - self.onset).max(0.0) / self.tau).exp()
    }
}

/// How a run ended: what was advised, when, and the points that were still to come.
pub fn live(truth: Truth, minutes: f64, chance: &mut Chance) -> (Advice, f64, f64) {
    let sg = |points: f64| SpecificGravity::new(1.0 + points / 1000.0).unwrap();
    let mut readings: Vec<RunReading> = Vec::new();
    let mut cells: Vec<Vec<(f64, SpecificGravity)>> = vec![Vec::new(); 3];
    let mut hours = 0.0;
    loop {
        // three cells alike, a hydrometer with marks of five points and a scatter of three
        let mut sum = 0.0;
        for own in &mut cells {
            let shown = ((truth.at(hours) + 3.0 * chance.normal()) / 5.0).round() * 5.0;
            own.push((hours, sg(shown)));
            sum += shown / 3.0;
        }
        readings.push(RunReading { hours, gravity: Some(sg(sum)), celsius: Some(30.0) });
        let so_far = RunSoFar {
            kind: RunKind::Corrective,
            readings: &readings,
            followed: &cells,
            full: sg(265.0),
            noise: Points::new(3.3292),
            now: hours,
            paused: false,
        };
        let advice = judge_run(&so_far).advice;
        if advice.stops() {
            return (advice, hours, truth.plateau - truth.at(hours));
        }
        hours += minutes / 60.0;
    }
}

/// Mean of the points that were left, the share that the rule ended, and the earliest end.
pub fn told(minutes: f64, tau: (f64, f64), onset: (f64, f64), runs: u32) -> (f64, f64, f64) {
    let mut chance = Chance::new(u64::from(runs) + 100);
    let (mut left, mut done, mut earliest) = (0.0, 0.0, f64::INFINITY);
    for _ in 0..runs {
        let plateau = 262.0 + 4.0 * chance.normal();
        let truth = Truth {
            start: plateau - chance.between(25.0, 60.0),
            plateau,
            tau: chance.between(tau.0, tau.1),
            onset: chance.between(onset.0, onset.1),
        };
        let (advice, hours, to_come) = live(truth, minutes, &mut chance);
        if advice == Advice::Done {
            done += 1.0;
            left += to_come;
            earliest = earliest.min(hours);
        }
    }
    (left / f64::max(done, 1.0), 100.0 * done / f64::from(runs), earliest)
}
