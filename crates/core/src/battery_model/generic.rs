//! The generic models that ship: plausible figures of their kind, every one to be replaced by
//! the maker's (common practice, no source).

use super::{BatteryModel, Construction, RatePoint, Setpoints};
use crate::electrolyte::{DEEP_CYCLE_TABLE, GENERAL_TABLE, SocPoint, SocTable};
use crate::quantity::{Charge, Length, SpecificGravity, Temperature, Volume};

/// Electrolyte of a flooded cell, mL per Ah of C20.
const FLOODED_ACID: f64 = 13.7;
/// Electrolyte of a sealed cell, mL per Ah of C20.
const SEALED_ACID: f64 = 9.8;
const SOURCE: &str = "generic, replace by the maker's";

struct Flooded {
    name: &'static str,
    cells: u8,
    c20: f64,
    table: &'static SocTable,
    fill_mark: &'static str,
    above_plates: f64,
    free_area: f64,
}

fn gravity(value: f64) -> SpecificGravity {
    SpecificGravity::corrected(value)
}

fn soc_table(rows: &SocTable) -> Vec<SocPoint> {
    rows.iter()
        .map(|&(percent, sg, volts)| SocPoint {
            percent,
            gravity: gravity(sg),
            cell_volts: (volts > 0.0).then_some(volts),
        })
        .collect()
}

/// Shares of C20 at 5, 10, 20 and 100 h: Peukert k 1.18 up to 20 h, a tenth more at 100 h.
fn rates(c20: f64, shares: [f64; 4]) -> Vec<RatePoint> {
    [5.0, 10.0, 20.0, 100.0]
        .into_iter()
        .zip(shares)
        .filter_map(|(hours, share)| {
            Charge::from_ampere_hours((c20 * share).round())
                .ok()
                .map(|capacity| RatePoint { hours, capacity })
        })
        .collect()
}

fn charge(ampere_hours: f64) -> Charge {
    Charge::from_ampere_hours(ampere_hours).expect("a generic capacity lies in the table of bounds")
}

fn at(celsius: f64) -> Temperature {
    Temperature::from_celsius(celsius).expect("a reference temperature lies in the table of bounds")
}

fn flat(f: &Flooded) -> BatteryModel {
    BatteryModel {
        name: f.name.into(),
        source: SOURCE.into(),
        construction: Construction::Flooded,
        cells: f.cells,
        c20: charge(f.c20),
        rates: rates(f.c20, [0.78, 0.88, 1.0, 1.1]),
        full_gravity: gravity(f.table[0].1),
        discharged_gravity: gravity(if f.table[0].1 > 1.27 { 1.048 } else { 1.120 }),
        soc_table: soc_table(f.table),
        reference_temperature: at(25.0),
        setpoints: Setpoints { absorption: 2.45, float: 2.25, equalize: Some(2.58) },
        fill_mark: f.fill_mark.into(),
        fill_mark_above_plates: Length::from_millimetres(f.above_plates).ok(),
        acid_volume: Volume::from_millilitres((f.c20 * FLOODED_ACID).round()).ok(),
        free_area: Some(f.free_area),
        maker_spread_limit: None,
        post_torque: None,
        retorque_days: None,
        conditioning_source: None,
    }
}

/// A flooded battery that stands full for the day it is needed: weaker acid, 1.215 when full.
fn standby(name: &'static str, cells: u8, c20: f64, (above_plates, free_area): (f64, f64)) -> BatteryModel {
    let f = Flooded {
        name,
        cells,
        c20,
        table: GENERAL_TABLE,
        fill_mark: "at the upper line on the clear case",
        above_plates,
        free_area,
    };
    BatteryModel {
        full_gravity: gravity(1.215),
        discharged_gravity: gravity(1.080),
        soc_table: Vec::new(),
        setpoints: Setpoints { absorption: 2.33, float: 2.20, equalize: Some(2.50) },
        ..flat(&f)
    }
}

/// A sealed battery; electrolyte per Ah as in the one of 100 Ah.
fn sealed(
    name: &str,
    construction: Construction,
    (cells, c20): (u8, f64),
    (absorption, full): (f64, f64),
) -> BatteryModel {
    BatteryModel {
        name: name.into(),
        source: SOURCE.into(),
        construction,
        cells,
        c20: charge(c20),
        rates: rates(c20, [0.87, 0.93, 1.0, 1.05]),
        full_gravity: gravity(full),
        discharged_gravity: gravity(1.100),
        soc_table: Vec::new(),
        reference_temperature: at(25.0),
        setpoints: Setpoints { absorption, float: 2.27, equalize: None },
        fill_mark: "sealed: never opened".into(),
        fill_mark_above_plates: None,
        acid_volume: Volume::from_millilitres(c20 * SEALED_ACID).ok(),
        free_area: None,
        maker_spread_limit: None,
        post_torque: None,
        retorque_days: None,
        conditioning_source: None,
    }
}

fn sealed_models() -> Vec<(&'static str, BatteryModel)> {
    let agm = |name, cells, c20| sealed(name, Construction::Agm, (cells, c20), (2.40, 1.300));
    let gel = |name, cells, c20| sealed(name, Construction::Gel, (cells, c20), (2.35, 1.280));
    vec![
        ("agm-12v-100", agm("AGM 12 V 100 Ah", 6, 100.0)),
        ("agm-12v-200", agm("AGM 12 V 200 Ah", 6, 200.0)),
        ("agm-6v-220", agm("AGM 6 V 220 Ah", 3, 220.0)),
        ("agm-12v-75", agm("AGM 12 V 75 Ah, marine size", 6, 75.0)),
        ("gel-12v-100", gel("Gel 12 V 100 Ah", 6, 100.0)),
        ("gel-6v-180", gel("Gel 6 V 180 Ah, cart size", 3, 180.0)),
    ]
}

impl BatteryModel {
    /// The models that ship, each with its stable key.
    pub fn generic() -> Vec<(&'static str, Self)> {
        let mut all = Self::generic_flooded();
        all.extend(sealed_models());
        all
    }

    fn generic_flooded() -> Vec<(&'static str, Self)> {
        let well = "3 mm below the vent well";
        let flooded = |key, name, cells, c20, table, (above_plates, free_area)| {
            (key, flat(&Flooded { name, cells, c20, table, fill_mark: well, above_plates, free_area }))
        };
        vec![
            flooded("flooded-6v-420", "Flooded 6 V 420 Ah, tall case", 3, 420.0, GENERAL_TABLE, (40.0, 17.0)),
            flooded("flooded-6v-370", "Flooded 6 V 370 Ah, tall case", 3, 370.0, GENERAL_TABLE, (38.0, 17.0)),
            flooded(
                "flooded-6v-225",
                "Flooded 6 V 225 Ah, cart size",
                3,
                225.0,
                DEEP_CYCLE_TABLE,
                (22.0, 15.0),
            ),
            flooded("flooded-8v-170", "Flooded 8 V 170 Ah, cart size", 4, 170.0, GENERAL_TABLE, (20.0, 11.0)),
            (
                "tubular-2v-300",
                Self {
                    name: "Flooded tubular 2 V 300 Ah".into(),
                    construction: Construction::FloodedTubular,
                    rates: rates(300.0, [0.80, 0.90, 1.0, 1.15]),
                    full_gravity: gravity(1.240),
                    discharged_gravity: gravity(1.100),
                    soc_table: Vec::new(),
                    setpoints: Setpoints { absorption: 2.40, float: 2.23, equalize: Some(2.55) },
                    fill_mark: "at the upper line on the clear case".into(),
                    acid_volume: Volume::from_millilitres(300.0 * 17.0).ok(),
                    ..flat(&Flooded {
                        name: "",
                        cells: 1,
                        c20: 300.0,
                        table: GENERAL_TABLE,
                        fill_mark: "",
                        above_plates: 60.0,
                        free_area: 25.0,
                    })
                },
            ),
            flooded(
                "flooded-12v-150",
                "Flooded 12 V 150 Ah, cart size",
                6,
                150.0,
                GENERAL_TABLE,
                (20.0, 8.0),
            ),
            flooded(
                "flooded-12v-105",
                "Flooded 12 V 105 Ah, marine size",
                6,
                105.0,
                GENERAL_TABLE,
                (18.0, 7.0),
            ),
            flooded("flooded-12v-80", "Flooded 12 V 80 Ah, marine size", 6, 80.0, GENERAL_TABLE, (18.0, 5.5)),
            ("standby-2v-500", standby("Flooded flat plate 2 V 500 Ah, standby", 1, 500.0, (70.0, 40.0))),
            ("standby-6v-200", standby("Flooded flat plate 6 V 200 Ah, standby", 3, 200.0, (45.0, 16.0))),
        ]
    }

    /// A shipped model by its key.
    pub fn generic_by_key(key: &str) -> Option<Self> {
        Self::generic().into_iter().find(|(k, _)| *k == key).map(|(_, model)| model)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_shipped_model_is_possible_and_says_that_it_is_generic() {
        let all = BatteryModel::generic();
        assert!(all.len() >= 12, "{}", all.len());
        let keys: std::collections::HashSet<&str> = all.iter().map(|(key, _)| *key).collect();
        assert_eq!(keys.len(), all.len(), "each key once");
        let has =
            |cells, caps| all.iter().any(|(_, m)| m.cells == cells && m.construction.has_caps() == caps);
        for (cells, caps) in [(1, true), (3, true), (4, true), (6, true), (3, false), (6, false)] {
            assert!(has(cells, caps), "{cells} cells, caps {caps}");
        }
        assert!(all.iter().any(|(_, m)| m.construction == Construction::Gel));
        for (key, model) in all {
            assert!(model.source.starts_with("generic"), "{key}");
            assert_eq!(model.rates_against_c20(), None, "{key}");
            assert!(model.clone().checked().is_ok(), "{key}: {:?}", model.checked());
        }
    }
}
