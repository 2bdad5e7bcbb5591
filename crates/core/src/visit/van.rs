//! Loading the van: water, protective gear, instruments and spares for the visits chosen.

use crate::battery_model::Construction;
use crate::schedule::Task;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Share of the forecast's P90 that is carried on top.
const SPARE: f64 = 0.25;

/// What a thing in the van is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GearGroup {
    /// Worn.
    Wear,
    /// Measured with.
    Measure,
    /// Fitted or used up.
    Fit,
}

/// One thing to carry.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gear {
    /// What for.
    pub group: GearGroup,
    /// The thing.
    pub what: String,
    /// Where it is needed; empty: everywhere.
    pub whereto: String,
}

/// What to load.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct VanLoad {
    /// Distilled water to carry, mL: the forecasts' P90 and a quarter spare.
    pub water: f64,
    /// That spare, mL.
    pub spare: f64,
    /// Things, in the order of the groups.
    pub gear: Vec<Gear>,
}

/// One visit that was chosen.
pub struct Trip<'a> {
    /// Name of the place.
    pub site: &'a str,
    /// Construction of the batteries.
    pub construction: Construction,
    /// What is to be done there.
    pub tasks: &'a [Task],
    /// P90 of the water it takes, mL.
    pub water: f64,
    /// Spares its open findings call for.
    pub spares: &'a [String],
}

fn instruments(task: Task, caps: bool) -> &'static [&'static str] {
    match task {
        Task::Round if caps => &["Hydrometer and a second float", "Thermometer probe"],
        Task::Round => &["Meter, 0.01 V", "Resistance or conductance tester", "Surface thermometer"],
        Task::Equalize => &["Hydrometer and a second float", "Thermometer probe", "Clamp meter, 0.1 A"],
        Task::RetorqueAndClean => &["Torque wrench"],
        Task::LoadTest | Task::StandbyWet | Task::StandbyFrost => &["Load tester", "Meter, 0.01 V"],
        _ => &["Meter, 0.01 V"],
    }
}

fn used_up(task: Task) -> &'static [&'static str] {
    match task {
        Task::RetorqueAndClean => &["Wire brush, bicarbonate, rags, post grease"],
        Task::Water => &["Filler jug, funnel, torch"],
        _ => &[],
    }
}

/// What to load for these visits: water by the forecasts' P90, gear by what is done, spares by what
/// was found.
pub fn van_load(trips: &[Trip<'_>]) -> VanLoad {
    if trips.is_empty() {
        return VanLoad::default();
    }
    let need: f64 = trips.iter().map(|t| t.water).sum();
    // Thing by group and name, with the places that call for it.
    let mut things: BTreeMap<(GearGroup, String), Vec<String>> = BTreeMap::new();
    let mut add = |group, what: &str, whereto: Option<&str>| {
        let places = things.entry((group, what.to_owned())).or_default();
        if let Some(place) = whereto.filter(|p| !places.iter().any(|q| q == p)) {
            places.push(place.to_owned());
        }
    };
    for what in ["Face shield or goggles, acid gloves, apron", "Eyewash, 1 litre", "Bicarbonate, 1 kg"] {
        add(GearGroup::Wear, what, None);
    }
    add(GearGroup::Measure, "Meter, 0.01 V", None);
    for trip in trips {
        for task in trip.tasks {
            for what in instruments(*task, trip.construction.has_caps()) {
                add(GearGroup::Measure, what, (*what != "Meter, 0.01 V").then_some(trip.site));
            }
            for what in used_up(*task) {
                add(GearGroup::Fit, what, Some(trip.site));
            }
        }
        for spare in trip.spares {
            let mut letters = spare.chars();
            let head: String = letters.next().map(|c| c.to_uppercase().collect()).unwrap_or_default();
            add(GearGroup::Fit, &format!("{head}{}", letters.as_str()), Some(trip.site));
        }
    }
    let gear = things
        .into_iter()
        .map(|((group, what), places)| Gear { group, what, whereto: places.join(", ") })
        .collect();
    VanLoad { water: need * (1.0 + SPARE), spare: need * SPARE, gear }
}
