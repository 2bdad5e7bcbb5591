//! Water as typed: refused where it cannot be, asked about where it is unlikely.

use super::faults::refused;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::{
    CUPS_PER_GALLON, MILLILITRES_PER_US_GALLON, OUNCES_PER_GALLON, PINTS_PER_GALLON, QUARTS_PER_GALLON,
};
use rainshadow_core::quantity::{Bounds, typed};
use rainshadow_core::visit::Place;
use rainshadow_core::water::most_water;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How water is measured out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WaterUnit {
    /// mL.
    Millilitre,
    /// L.
    #[default]
    Litre,
    /// US fluid ounces.
    UsOunce,
    /// US cups.
    UsCup,
    /// US pints.
    UsPint,
    /// US quarts.
    UsQuart,
    /// US gallons.
    UsGallon,
}

impl WaterUnit {
    /// As it is said.
    pub fn name(self) -> &'static str {
        self.size().1
    }

    /// By the name it is said by.
    pub fn named(name: &str) -> Option<Self> {
        let all = [
            Self::Millilitre,
            Self::Litre,
            Self::UsOunce,
            Self::UsCup,
            Self::UsPint,
            Self::UsQuart,
            Self::UsGallon,
        ];
        all.into_iter().find(|unit| unit.name() == name)
    }

    fn size(self) -> (f64, &'static str) {
        match self {
            Self::Millilitre => (1.0, "mL"),
            Self::Litre => (1000.0, "L"),
            Self::UsOunce => (MILLILITRES_PER_US_GALLON / OUNCES_PER_GALLON, "US fl oz"),
            Self::UsCup => (MILLILITRES_PER_US_GALLON / CUPS_PER_GALLON, "US cups"),
            Self::UsPint => (MILLILITRES_PER_US_GALLON / PINTS_PER_GALLON, "US pt"),
            Self::UsQuart => (MILLILITRES_PER_US_GALLON / QUARTS_PER_GALLON, "US qt"),
            Self::UsGallon => (MILLILITRES_PER_US_GALLON, "US gal"),
        }
    }
}

/// An amount of water in mL, refused where so many cells of a place cannot hold it.
///
/// # Errors
/// [`AppError`] that says what was wrong with the amount and what is accepted.
pub fn millilitres(
    text: &str,
    unit: WaterUnit,
    (place, cells): (Place, usize),
    model: &BatteryModel,
) -> AppResult<f64> {
    let (size, name) = unit.size();
    let range = Bounds {
        quantity: "water",
        low: 0.0,
        high: most_water(cells, model) / size,
        unit: name,
        decimals: if size > 1.0 { 2 } else { 0 },
    };
    refused("typed", typed::number(text, range)).map(|amount| amount * size).map_err(|error| {
        let whole = typed::number(text, Bounds { high: 1e9, ..range });
        if !whole.is_ok_and(|amount| amount > 0.0) {
            return error;
        }
        let holder = if cells == 1 { "the cell".to_owned() } else { format!("the {cells} cells") };
        let said = format!(
            "{text} {name} is more than {holder} of {} can hold in all; accepted is {}.",
            place.said(),
            range.accepted()
        );
        AppError::field("typed", said)
    })
}
