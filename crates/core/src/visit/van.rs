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

/// A thing that is carried for the work of every visit of its kind.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tool {
    /// Bicarbonate for spills.
    Bicarbonate,
    /// For the current of a run.
    ClampMeter,
    /// To flush an eye.
    Eyewash,
    /// Eyes, hands, clothes.
    FaceAndHands,
    /// To pour with, and see by.
    FillerJug,
    /// With a second float.
    Hydrometer,
    /// For a load test.
    LoadTester,
    /// Volts.
    Meter,
    /// Of sealed batteries.
    ResistanceTester,
    /// Of cases.
    SurfaceThermometer,
    /// Of electrolyte.
    ThermometerProbe,
    /// For joints.
    TorqueWrench,
    /// For posts and tops.
    BrushAndGrease,
}

/// What a thing to carry is.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GearItem {
    /// A tool of the trade.
    Tool {
        /// Which.
        tool: Tool,
    },
    /// Wrench sizes that somebody left a note of.
    Wrenches {
        /// As noted.
        sizes: String,
    },
    /// What cells need that are hard to reach, as somebody noted.
    ForAwkwardCells {
        /// As noted.
        note: String,
    },
    /// A spare that a finding calls for.
    Spare {
        /// In the words of the finding.
        what: String,
    },
}

/// One thing to carry.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gear {
    /// What for.
    pub group: GearGroup,
    /// The thing.
    pub item: GearItem,
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
    /// Wrench sizes by its access note; may be empty.
    pub wrenches: &'a str,
    /// Cells that are hard to reach by that note; may be empty.
    pub awkward: &'a str,
}

fn instruments(task: Task, caps: bool) -> &'static [Tool] {
    match task {
        Task::Round if caps => &[Tool::Hydrometer, Tool::ThermometerProbe],
        Task::Round => &[Tool::Meter, Tool::ResistanceTester, Tool::SurfaceThermometer],
        Task::Equalize => &[Tool::Hydrometer, Tool::ThermometerProbe, Tool::ClampMeter],
        // What was tightened is measured, millivolts at a known current.
        Task::RetorqueAndClean => &[Tool::TorqueWrench, Tool::Meter, Tool::ClampMeter],
        Task::LoadTest | Task::StandbyWet | Task::StandbyFrost => &[Tool::LoadTester, Tool::Meter],
        _ => &[Tool::Meter],
    }
}

fn used_up(task: Task) -> &'static [Tool] {
    match task {
        Task::RetorqueAndClean => &[Tool::BrushAndGrease],
        Task::Water => &[Tool::FillerJug],
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
    // Thing by group, with the places that call for it.
    let mut things: BTreeMap<(GearGroup, GearItem), Vec<String>> = BTreeMap::new();
    let mut add = |group, item: GearItem, whereto: Option<&str>| {
        let places = things.entry((group, item)).or_default();
        if let Some(place) = whereto.filter(|p| !places.iter().any(|q| q == p)) {
            places.push(place.to_owned());
        }
    };
    let tool = |tool| GearItem::Tool { tool };
    for worn in [Tool::FaceAndHands, Tool::Eyewash, Tool::Bicarbonate] {
        add(GearGroup::Wear, tool(worn), None);
    }
    add(GearGroup::Measure, tool(Tool::Meter), None);
    for trip in trips {
        for task in trip.tasks {
            for own in instruments(*task, trip.construction.has_caps()) {
                add(GearGroup::Measure, tool(*own), (*own != Tool::Meter).then_some(trip.site));
            }
            for own in used_up(*task) {
                add(GearGroup::Fit, tool(*own), Some(trip.site));
            }
        }
        if !trip.wrenches.is_empty() {
            add(GearGroup::Fit, GearItem::Wrenches { sizes: trip.wrenches.to_owned() }, Some(trip.site));
        }
        if !trip.awkward.is_empty() {
            add(GearGroup::Fit, GearItem::ForAwkwardCells { note: trip.awkward.to_owned() }, Some(trip.site));
        }
        for spare in trip.spares {
            add(GearGroup::Fit, GearItem::Spare { what: spare.clone() }, Some(trip.site));
        }
    }
    let gear = things
        .into_iter()
        .map(|((group, item), places)| Gear { group, item, whereto: places.join(", ") })
        .collect();
    VanLoad { water: need * (1.0 + SPARE), spare: need * SPARE, gear }
}
