//! Banks that lived, diagnosed: how often what they have is named.

use super::ails::Ails;
use super::bank::{SHAPES, shape};
use super::chance::Chance;
use super::lived::{DAYS, Lived};
use super::measured::{Bag, measured};
use super::world::World;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::diagnosis::{Diagnosis, Evidence, Hypothesis, Measurement, Weights, diagnose, signs};
use strum::VariantArray;

/// Faults that such a bank can have.
pub fn faults(has_caps: bool, strings: u8) -> Vec<Hypothesis> {
    let can = |h: &&Hypothesis| **h != Hypothesis::Healthy && h.applies(has_caps, strings);
    Hypothesis::VARIANTS.iter().filter(can).copied().collect()
}

/// A bank with what it has, and what was measured of it.
pub struct Case {
    pub seed: u64,
    /// What it has; empty: nothing.
    pub truth: Vec<Hypothesis>,
    pub bank: Lived,
    pub bag: Bag,
    pub made: Vec<Measurement>,
    pub evidence: Evidence,
    chance: Chance,
}

impl Case {
    /// Makes a bank of a seed; each measurement is made with this probability.
    pub fn make(seed: u64, complete: f64) -> Self {
        Self::make_in(World::USUAL, seed, complete)
    }

    /// The same in another world.
    pub fn make_in(world: World, seed: u64, complete: f64) -> Self {
        let chance = &mut Chance::new(seed);
        let sealed = chance.unit() < 0.25;
        let standby = chance.unit() < 0.2;
        let flooded =
            ["flooded-6v-420", "flooded-6v-225", "flooded-8v-170", "flooded-12v-105", "tubular-2v-300"];
        let key = match (sealed, standby) {
            (true, _) => chance.one_of(&["agm-12v-100", "agm-6v-220"]),
            (false, true) => chance.one_of(&["standby-2v-500", "standby-6v-200"]),
            (false, false) => chance.one_of(&flooded),
        };
        let model = BatteryModel::generic_by_key(key).unwrap();
        let shapes: Vec<BankShape> =
            SHAPES.iter().filter(|own| own.0 == model.cells).map(|own| shape(*own)).collect();
        let shape = shapes[chance.below(shapes.len())].clone();
        let ails = Ails::draw((!sealed, standby), shape.parallel, &world, chance);
        let truth = ails.what.clone();
        let mut bank = Lived::begin(shape, model, standby, ails, chance);
        let last = DAYS - 8 - chance.below(12);
        let mut visits: Vec<(usize, bool)> =
            (1..4).map(|k| (last - k * 90 - chance.below(20), chance.unit() < 0.65)).collect();
        visits.push((last, chance.unit() < 0.7));
        bank.live(&visits, world.draw, chance);
        let bag = Bag::draw(&bank, world, chance);
        let made: Vec<Measurement> =
            Measurement::VARIANTS.iter().copied().filter(|_| chance.unit() < complete).collect();
        let chance = chance.clone();
        let mut own = Self { seed, truth, bank, bag, made, evidence: Evidence::default(), chance };
        own.evidence = own.measure(&own.made);
        own
    }

    /// What measuring so brings; the same every time for the same bank.
    pub fn measure(&self, made: &[Measurement]) -> Evidence {
        measured(&self.bank, &self.bag, made, &mut self.chance.clone())
    }

    pub fn kind(&self) -> (bool, u8) {
        (!self.bank.sealed, self.bank.shape.parallel)
    }

    pub fn diagnosed(&self, evidence: &Evidence, weights: &Weights) -> Diagnosis {
        let (signs, _) = signs(evidence, &self.bank.shape, &self.bank.model, weights).unwrap();
        diagnose(&signs, self.kind(), weights).unwrap()
    }

    pub fn right(&self, own: Hypothesis) -> bool {
        if self.truth.is_empty() { own == Hypothesis::Healthy } else { self.truth.contains(&own) }
    }
}
