//! How often the diagnosis of banks that lived is right: the figures of a set of seeds, as a table.

use super::chance::Chance;
use super::diagnosed::Case;
use super::lived::to_f64;
use super::world::World;
use rainshadow_core::diagnosis::{
    Evidence, Hypothesis, Measurement, Standing, Weights, diagnose, next_measurements, signs,
};
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::ops::Range;

/// Bands of probability that calibration is told by.
const BANDS: [f64; 6] = [0.0, 0.3, 0.5, 0.7, 0.9, 1.01];
/// Minutes that the next measurement is followed for.
const MINUTES: f64 = 90.0;

/// Figures of one set of banks.
#[derive(Debug, Clone, Default)]
pub struct Figures {
    pub banks: f64,
    pub first: f64,
    pub three: f64,
    pub likely: f64,
    pub likely_wrong: f64,
    pub sound: f64,
    pub false_alarms: f64,
    pub sound_named: f64,
    pub not_enough: f64,
    /// Made share of the measurements that such a bank allows.
    pub complete: f64,
    /// By band of what leads: banks, sum of its probability, how often right.
    pub bands: [(f64, f64, f64); 5],
    /// Banks with at most one fault: what it has, what leads, how many.
    pub confusion: BTreeMap<Hypothesis, BTreeMap<Hypothesis, u32>>,
}

fn one(yes: bool) -> f64 {
    f64::from(u8::from(yes))
}

impl Figures {
    /// Of banks by their seeds, each measurement made with this probability.
    pub fn of(seeds: Range<u64>, complete: f64) -> Self {
        Self::of_world(World::USUAL, seeds, complete)
    }

    /// Of banks of another world.
    pub fn of_world(world: World, seeds: Range<u64>, complete: f64) -> Self {
        let mut all = Self::default();
        for seed in seeds {
            all.add(&Case::make_in(world, seed, complete));
        }
        all
    }

    fn add(&mut self, case: &Case) {
        let own = case.diagnosed(&case.evidence, Weights::shipped());
        let first = own.first().unwrap();
        let right = case.right(first.hypothesis);
        let likely = first.standing == Standing::Likely;
        let (caps, strings) = case.kind();
        let can = Measurement::possible(caps, strings);
        self.complete += to_f64(can.iter().filter(|m| case.made.contains(m)).count()) / to_f64(can.len());
        self.banks += 1.0;
        self.first += one(right);
        self.three += one(own.ranked.iter().take(3).any(|r| case.right(r.hypothesis)));
        self.likely += one(likely);
        self.likely_wrong += one(likely && !right);
        self.not_enough += one(!own.enough);
        if case.truth.is_empty() {
            self.sound += 1.0;
            self.sound_named += one(right);
            self.false_alarms += one(likely && !right);
        }
        let band = BANDS.iter().rposition(|low| first.probability >= *low).unwrap_or(0).min(4);
        let (n, sum, hits) = &mut self.bands[band];
        (*n, *sum, *hits) = (*n + 1.0, *sum + first.probability, *hits + one(right));
        if case.truth.len() < 2 {
            let truth = case.truth.first().copied().unwrap_or(Hypothesis::Healthy);
            *self.confusion.entry(truth).or_default().entry(first.hypothesis).or_default() += 1;
        }
    }

    /// How far a probability lies from how often it is right, on average over all banks.
    pub fn calibration_error(&self) -> f64 {
        self.bands.iter().map(|(_, sum, hits)| (sum - hits).abs()).sum::<f64>() / self.banks
    }

    /// One line of a table.
    pub fn row(&self, name: &str) -> String {
        let percent = |own: f64| format!("{:.1} %", 100.0 * own / self.banks);
        format!(
            "| {name} | {:.0} % | {:.0} | {} | {} | {} | {:.1} % of {:.0} | {:.0} % | {:.3} |",
            100.0 * self.complete / self.banks,
            self.banks,
            percent(self.first),
            percent(self.three),
            percent(self.likely_wrong),
            100.0 * self.false_alarms / self.sound,
            self.sound,
            100.0 * self.sound_named / self.sound,
            self.calibration_error(),
        )
    }

    /// Bands of probability, as a table.
    pub fn bands(&self) -> String {
        let mut all = String::from("| said | banks | right |\n|---|---|---|\n");
        for (at, (n, sum, hits)) in self.bands.iter().enumerate().filter(|(_, band)| band.0 > 0.0) {
            let top = (100.0 * BANDS[at + 1]).min(100.0);
            let (low, said) = (100.0 * BANDS[at], 100.0 * sum / n);
            let _ = writeln!(
                all,
                "| {low:.0} to {top:.0} % (mean {said:.0} %) | {n:.0} | {:.0} % |",
                100.0 * hits / n
            );
        }
        all
    }

    /// What leads by what it has, as a table of codes.
    pub fn confusion(&self) -> String {
        let mut all = String::from("| has | led |\n|---|---|\n");
        for (truth, told) in &self.confusion {
            let mut told: Vec<(&Hypothesis, &u32)> = told.iter().collect();
            told.sort_by_key(|(own, n)| (*own != truth, std::cmp::Reverse(**n), **own));
            let told: Vec<String> = told.iter().map(|(own, n)| format!("{} {n}", own.code())).collect();
            let _ = writeln!(all, "| {} | {} |", truth.code(), told.join(", "));
        }
        all
    }
}

/// Share of banks of which the right cause leads after ninety minutes of measuring from nothing: what to measure next
/// followed, and any order.
pub fn followed(seeds: Range<u64>) -> [f64; 2] {
    let banks = to_f64(seeds.clone().count());
    let mut hits = [0.0; 2];
    for seed in seeds {
        let case = Case::make(seed, 1.0);
        for (at, hit) in hits.iter_mut().enumerate() {
            *hit += one(follow(&case, at == 0, &mut Chance::new(seed)));
        }
    }
    hits.map(|own| 100.0 * own / banks)
}

fn follow(case: &Case, by_worth: bool, chance: &mut Chance) -> bool {
    let weights = Weights::shipped();
    let (caps, strings) = case.kind();
    let shape = &case.bank.shape;
    let size = (to_f64(shape.cell_count()), to_f64(shape.batteries().count()));
    let (mut made, mut left) = (Vec::new(), MINUTES);
    let mut evidence = Evidence::default();
    loop {
        let (read, _) = signs(&evidence, shape, &case.bank.model, weights).unwrap();
        let own = diagnose(&read, (caps, strings), weights).unwrap();
        let mut next = next_measurements(&own, &made, size, (caps, strings), weights);
        next.retain(|n| n.minutes <= left);
        if next.is_empty() {
            return case.right(own.first().unwrap().hypothesis);
        }
        let taken = if by_worth { next[0] } else { next[chance.below(next.len())] };
        left -= taken.minutes;
        made.push(taken.measurement);
        evidence = case.measure(&made);
    }
}
