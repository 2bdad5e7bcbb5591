//! What to load in the van.

use super::Line;
use crate::db::Connection;
use crate::db::{AccessNotes, BankBrief, BankRow, DbError, DueRow, ModelRow};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::battery_model::Construction;
use rainshadow_core::quantity::Volume;
use rainshadow_core::quantity::units::{MILLILITRES_PER_US_GALLON, ReaderUnits, VolumeUnit};
use rainshadow_core::schedule::{Task, Why};
use rainshadow_core::visit::{GearGroup, Trip, van_load};
use rainshadow_core::wording;
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use utoipa::ToSchema;

/// Visits loaded for where nobody chose: more than this nobody drives to in three days.
const VISITS: usize = 12;
/// Banks that can be chosen beside those; the filters bring up the others.
const OTHERS: usize = 60;

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

/// Banks with something due in the month, most pressing first: those that are loaded for, and as many
/// more as anybody will look through. Where nobody chose, what is due within three days is loaded for.
pub fn trips(lines: &[Line<'_>], load: Option<&str>, today: Date) -> Vec<VanTrip> {
    let soon = today.checked_add(3.days()).unwrap_or(today);
    let asked: Option<BTreeSet<&str>> = load.map(|ids| ids.split(',').filter(|id| !id.is_empty()).collect());
    let mut at: HashMap<&str, usize> = HashMap::new();
    let mut all: Vec<VanTrip> = Vec::new();
    let mut taken = 0;
    for (line, bank) in lines {
        let place = *at.entry(&line.bank).or_insert_with(|| {
            all.push(VanTrip { bank: line.bank.clone(), site: bank.title.clone(), chosen: false });
            all.len() - 1
        });
        let Some(trip) = all.get_mut(place).filter(|t| !t.chosen) else { continue };
        trip.chosen = match &asked {
            Some(ids) => ids.contains(line.bank.as_str()),
            None => line.date <= soon && taken < VISITS,
        };
        taken += usize::from(trip.chosen);
    }
    let mut others = 0;
    all.retain(|trip| {
        others += usize::from(!trip.chosen);
        trip.chosen || others <= OTHERS
    });
    all.sort_by(|a, b| a.site.cmp(&b.site));
    all
}

/// Spares that the open findings of a bank call for.
fn spares(due: &[&DueRow]) -> Vec<String> {
    let mut spares: Vec<String> = due
        .iter()
        .filter_map(|row| match &row.item.why {
            Why::Found { finding, .. } => Some(wording::spare(finding)).filter(|spare| !spare.is_empty()),
            _ => None,
        })
        .collect();
    spares.dedup();
    spares
}

fn said(millilitres: f64, units: ReaderUnits) -> String {
    Volume::from_millilitres(millilitres.min(100_000.0)).map(|v| units.say_volume(v)).unwrap_or_default()
}

/// What to load for the trips that are chosen, from all that is due there.
pub fn van(
    db: &Connection,
    trips: Vec<VanTrip>,
    rows: &BTreeMap<(String, i64), DueRow>,
    banks: &HashMap<String, BankBrief>,
    units: ReaderUnits,
) -> Result<VanView, DbError> {
    struct Loaded<'a> {
        title: &'a str,
        construction: Construction,
        tasks: Vec<Task>,
        water: f64,
        spares: Vec<String>,
        access: AccessNotes,
    }
    let mut loaded: Vec<Loaded<'_>> = Vec::new();
    for trip in trips.iter().filter(|t| t.chosen) {
        let Some(bank) = banks.get(&trip.bank) else { continue };
        let from = (trip.bank.clone(), 0);
        let due: Vec<&DueRow> =
            rows.range(from..).take_while(|((id, _), _)| *id == trip.bank).map(|(_, row)| row).collect();
        loaded.push(Loaded {
            title: &trip.site,
            construction: ModelRow::by_id(db, &bank.model)?.construction,
            tasks: due.iter().map(|row| row.item.task).collect(),
            water: due.iter().map(|row| row.water).fold(0.0, f64::max),
            spares: spares(&due),
            access: BankRow::by_id(db, &trip.bank)?.access,
        });
    }
    let drives: Vec<Trip<'_>> = loaded
        .iter()
        .map(|l| Trip {
            site: l.title,
            construction: l.construction,
            tasks: &l.tasks,
            water: l.water,
            spares: &l.spares,
            wrenches: l.access.wrenches.trim(),
            awkward: l.access.awkward.trim(),
        })
        .collect();
    let load = van_load(&drives);
    let by_bank = loaded
        .iter()
        .filter(|l| l.water > 0.0)
        .map(|l| VanWater { site: l.title.to_owned(), said: said(l.water, units) })
        .collect();
    let (water, unit) = match units.volume {
        VolumeUnit::Litre => {
            (format!("{:.1}", (load.water / 500.0).ceil() / 2.0), "litres of distilled water")
        }
        VolumeUnit::UsGallon => {
            let tenths = (load.water / MILLILITRES_PER_US_GALLON * 10.0).ceil();
            (format!("{:.1}", tenths / 10.0), "US gallons of distilled water")
        }
    };
    Ok(VanView {
        water,
        unit: unit.into(),
        by_bank,
        spare: said(load.spare, units),
        things: load
            .gear
            .into_iter()
            .map(|g| VanThing { group: g.group, what: wording::gear(&g), whereto: g.whereto })
            .collect(),
        trips,
    })
}
