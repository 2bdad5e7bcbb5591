//! What to load in the van.

use super::Known;
use crate::db::DueRow;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::quantity::Volume;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::schedule::{Task, Why};
use rainshadow_core::visit::{GearGroup, Trip, van_load};
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use utoipa::ToSchema;

/// Water for one bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanWater {
    /// Site.
    pub site: String,
    /// In the reader's unit.
    pub said: String,
}

/// A thing in the van.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanThing {
    /// What for.
    pub group: GearGroup,
    /// The thing.
    pub what: String,
    /// Where it is needed; empty: everywhere.
    pub whereto: String,
}

/// A bank that can be driven to.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanTrip {
    /// The bank.
    pub bank: String,
    /// Its site and name.
    pub site: String,
    /// True when it is loaded for.
    pub chosen: bool,
}

/// What to load.
#[derive(Debug, Serialize, ToSchema)]
pub struct VanView {
    /// Water to carry as a figure: "5.0".
    pub water: String,
    /// Its unit: "litres of distilled water".
    pub unit: String,
    /// Water by bank, P90 of its forecast.
    pub by_bank: Vec<VanWater>,
    /// A quarter spare.
    pub spare: String,
    /// Things.
    pub things: Vec<VanThing>,
    /// Banks with something due, chosen or not.
    pub trips: Vec<VanTrip>,
}

/// What to load for the chosen banks; where nobody chose, for what is due within three days.
pub fn van(rows: &[(DueRow, &Known)], load: Option<&str>, today: Date, units: ReaderUnits) -> VanView {
    let soon = today.checked_add(3.days()).unwrap_or(today);
    let mut by_bank: BTreeMap<&str, (&Known, Vec<&DueRow>)> = BTreeMap::new();
    for (row, known) in rows {
        by_bank.entry(&row.bank).or_insert((known, Vec::new())).1.push(row);
    }
    let asked: Option<BTreeSet<&str>> = load.map(|ids| ids.split(',').filter(|id| !id.is_empty()).collect());
    let chosen = |bank: &str, due: &[&DueRow]| match &asked {
        Some(ids) => ids.contains(bank),
        None => due.iter().any(|row| row.item.date <= soon),
    };
    let mut trips = Vec::new();
    let mut waters = Vec::new();
    let mut loaded: Vec<(&Known, Vec<Task>, f64, Vec<String>)> = Vec::new();
    for (bank, (known, due)) in &by_bank {
        let take = chosen(bank, due);
        trips.push(VanTrip { bank: (*bank).to_owned(), site: known.title.clone(), chosen: take });
        if !take {
            continue;
        }
        let tasks: Vec<Task> = due.iter().map(|row| row.item.task).collect();
        let water = due.iter().map(|row| row.water).fold(0.0, f64::max);
        let mut spares: Vec<String> = due
            .iter()
            .filter_map(|row| match &row.item.why {
                Why::Seen { spare, .. } if !spare.is_empty() => Some(spare.clone()),
                _ => None,
            })
            .collect();
        spares.dedup();
        if water > 0.0 {
            let said = Volume::from_millilitres(water.min(100_000.0))
                .map(|v| units.say_volume(v))
                .unwrap_or_default();
            waters.push(VanWater { site: known.title.clone(), said });
        }
        loaded.push((known, tasks, water, spares));
    }
    trips.sort_by(|a, b| a.site.cmp(&b.site));
    let drives: Vec<Trip<'_>> = loaded
        .iter()
        .map(|(known, tasks, water, spares)| Trip {
            site: &known.title,
            construction: known.model.construction,
            tasks,
            water: *water,
            spares,
        })
        .collect();
    let load = van_load(&drives);
    let (figure, unit) = match units.volume {
        rainshadow_core::quantity::units::VolumeUnit::Litre => {
            (format!("{:.1}", (load.water / 500.0).ceil() / 2.0), "litres of distilled water")
        }
        rainshadow_core::quantity::units::VolumeUnit::UsGallon => (
            format!(
                "{:.1}",
                (load.water / rainshadow_core::quantity::units::MILLILITRES_PER_US_GALLON * 10.0).ceil()
                    / 10.0
            ),
            "US gallons of distilled water",
        ),
    };
    VanView {
        water: figure,
        unit: unit.into(),
        by_bank: waters,
        spare: Volume::from_millilitres(load.spare.min(100_000.0))
            .map(|v| units.say_volume(v))
            .unwrap_or_default(),
        things: load
            .gear
            .into_iter()
            .map(|g| VanThing { group: g.group, what: g.what, whereto: g.whereto })
            .collect(),
        trips,
    }
}
