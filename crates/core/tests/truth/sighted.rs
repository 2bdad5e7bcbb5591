//! What a look over a bank that lived shows: rates are judgement (no source).

use super::chance::Chance;
use super::lived::Lived;
use super::world::World;
use rainshadow_core::diagnosis::{Hypothesis, SeenSign};

/// A sign, who has it, how often it is seen where it is so and where it is not.
const ODD: [(&str, Hypothesis, f64, f64); 13] = [
    ("tops_wet", Hypothesis::SelfDischarge, 0.80, 0.07),
    ("spits", Hypothesis::Overcharge, 0.40, 0.02),
    ("swollen", Hypothesis::DriedOut, 0.30, 0.01),
    ("powder", Hypothesis::BadJoint, 0.50, 0.10),
    ("hot_lug", Hypothesis::BadJoint, 0.35, 0.01),
    ("bulged", Hypothesis::Frozen, 0.55, 0.01),
    ("acid_trail", Hypothesis::EarthLeakage, 0.55, 0.02),
    ("acid_added", Hypothesis::AcidAdded, 0.45, 0.00),
    ("overflowed", Hypothesis::Diluted, 0.50, 0.02),
    ("no_sensor", Hypothesis::NoTemperatureSensing, 0.60, 0.03),
    ("leads_unequal", Hypothesis::UnevenStrings, 0.70, 0.06),
    ("unswitched_load", Hypothesis::StandingDraw, 0.55, 0.05),
    ("shed_paste", Hypothesis::WornOut, 0.40, 0.02),
];

pub fn sighted(bank: &Lived, world: &World, chance: &mut Chance) -> Vec<SeenSign> {
    let mut keys: Vec<&str> = Vec::new();
    let strings = bank.shares.len() > 1;
    for (key, of, there, else_) in ODD {
        let can = match key {
            "leads_unequal" => strings,
            "swollen" | "bulged" => true,
            "tops_wet" | "spits" | "acid_trail" | "shed_paste" => !bank.sealed || chance.unit() < 0.2,
            _ => of.applies(!bank.sealed, bank.shape.parallel),
        };
        let share = if bank.ails.has(of).is_some() { world.seen * there } else { world.mistaken * else_ };
        if can && chance.unit() < share {
            keys.push(key);
        }
    }
    let bare = bank.cells.iter().any(|cell| cell.lost > 0.13);
    if !bank.sealed && chance.unit() < 0.9 {
        keys.push(if bare { "plates_show" } else { "plates_covered" });
    }
    let normal = |of: &str| !keys.contains(&of);
    let mut more: Vec<&str> = Vec::new();
    if normal("tops_wet") && bank.ails.has(Hypothesis::SelfDischarge).is_none() && chance.unit() < 0.7 {
        more.push("tops_dry");
    }
    if normal("no_sensor")
        && bank.ails.has(Hypothesis::NoTemperatureSensing).is_none()
        && chance.unit() < 0.75
    {
        more.push("sensor_there");
    }
    let uneven = bank.ails.has(Hypothesis::UnevenStrings).is_some();
    if strings && normal("leads_unequal") && !uneven && chance.unit() < 0.75 {
        more.push("leads_equal");
    }
    keys.extend(more);
    keys.into_iter().map(|key| SeenSign { sign: key.into(), of: String::new() }).collect()
}
