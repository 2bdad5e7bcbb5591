//! The topic that tells what is left of a life.

use super::{CalcError, Topic, chosen_model, computed, schema};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::life::{
    CapacityOnDay, CyclesAllowed, LifeUse, RemainingLife, Wear, cycles_allowed, remaining_by_tests,
    remaining_by_wear, wear,
};
use rainshadow_core::schedule::Duty;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// LF-1 to LF-3: a bank with its tests, its use, or both.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct LifeAsked {
    /// What it is for: it ends at 80 % where it stands by, at 60 % where it is cycled.
    duty: Duty,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
    /// Timed discharges by day.
    #[serde(default)]
    tests: Vec<CapacityOnDay>,
    /// How it was used; none: not known.
    #[serde(default)]
    used: Option<LifeUse>,
    /// Depth of a cycle to tell how many there are of, per cent; none: not asked.
    #[serde(default)]
    depth: Option<f64>,
}

/// What its use took, and leaves.
#[derive(Debug, Serialize, ToSchema)]
struct WearSaid {
    /// One sentence.
    said: String,
    /// Shares of a life that ends at 80 % of the capacity.
    wear: Wear,
    /// Years left at the rate so far, to 80 %: best, shortest, longest; none: nothing is used yet.
    years_left: Option<[f64; 3]>,
}

/// What is left of it.
#[derive(Debug, Serialize, ToSchema)]
struct LifeSaid {
    /// By its tests, one sentence; none: no test is given.
    said: Option<String>,
    /// By its tests.
    by_tests: RemainingLife,
    /// By its use; none: not given.
    by_wear: Option<WearSaid>,
    /// Cycles of the depth asked; none: not asked.
    cycles: Option<CyclesAllowed>,
}

fn life_topic(input: LifeAsked) -> Result<LifeSaid, CalcError> {
    let impossible = |path, why: String| CalcError::Impossible { path, why };
    let model = chosen_model(input.model, input.model_key)?;
    let by_tests =
        remaining_by_tests(&input.tests, input.duty).map_err(|e| impossible("tests", e.to_string()))?;
    let last = input.tests.iter().map(|own| own.day).max();
    let by_wear = input
        .used
        .map(|used| {
            let own = wear(&used, model.construction).map_err(|e| impossible("used", e.to_string()))?;
            Ok::<_, CalcError>(WearSaid {
                said: wording::wear_said(&own, !used.cycles.is_empty()),
                years_left: remaining_by_wear(&own),
                wear: own,
            })
        })
        .transpose()?;
    let table = rainshadow_core::life::CycleTable::usual(model.construction);
    let cycles = input.depth.map(|depth| cycles_allowed(&table, depth));
    Ok(LifeSaid {
        said: last.map(|day| wording::remaining_life(&by_tests, day)),
        by_tests,
        by_wear,
        cycles: cycles.transpose().map_err(|e| impossible("depth", e.to_string()))?,
    })
}

pub(super) static TOPICS: [Topic; 1] = [Topic {
    name: "remaining-life",
    about: "LF-1 to LF-3: what is left of a bank by its tests and by its use",
    run: |bytes| computed(bytes, life_topic),
    schema: schema::<LifeAsked, LifeSaid>,
}];
