//! Water as typed: refused where it cannot be, asked about where it is unlikely.

use super::error::{ApiError, ApiResult};
use super::parsed::{Parsed, refused};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::units::MILLILITRES_PER_US_GALLON;
use rainshadow_core::quantity::{Bounds, typed};
use rainshadow_core::visit::{Entry, Place, VisitSheet};
use rainshadow_core::water::{Level, amount_question, most_water};
use rainshadow_core::wording;
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
    /// US quarts.
    UsQuart,
    /// US gallons.
    UsGallon,
}

impl WaterUnit {
    fn size(self) -> (f64, &'static str) {
        match self {
            Self::Millilitre => (1.0, "mL"),
            Self::Litre => (1000.0, "L"),
            // By definition a quarter, a hundred-twenty-eighth of a gallon.
            Self::UsOunce => (MILLILITRES_PER_US_GALLON / 128.0, "US fl oz"),
            Self::UsQuart => (MILLILITRES_PER_US_GALLON / 4.0, "US qt"),
            Self::UsGallon => (MILLILITRES_PER_US_GALLON, "US gal"),
        }
    }
}

/// Water poured in, as typed.
pub struct Poured<'a> {
    /// As typed.
    pub text: &'a str,
    /// Its unit.
    pub unit: WaterUnit,
    /// True when it brought the place to the mark.
    pub to_mark: bool,
    /// True when a watering kit filled it.
    pub by_kit: bool,
    /// True when asked about and kept.
    pub stands: bool,
}

impl Poured<'_> {
    /// The amount in mL, refused where the place cannot hold it.
    fn millilitres(&self, place: Place, cells: usize, model: &BatteryModel) -> ApiResult<f64> {
        let (size, name) = self.unit.size();
        let range = Bounds {
            quantity: "water",
            low: 0.0,
            high: most_water(cells, model) / size,
            unit: name,
            decimals: if size > 1.0 { 2 } else { 0 },
        };
        refused("typed", typed::number(self.text, range)).map(|amount| amount * size).map_err(|error| {
            let whole = typed::number(self.text, Bounds { high: 1e9, ..range });
            if !whole.is_ok_and(|amount| amount > 0.0) {
                return error;
            }
            let holder = if cells == 1 { "the cell".to_owned() } else { format!("the {cells} cells") };
            let said = format!(
                "{} {name} is more than {holder} of {} can hold in all; accepted is {}.",
                self.text,
                place.said(),
                range.accepted()
            );
            ApiError::field("typed", said)
        })
    }

    /// As an entry, or as a question.
    ///
    /// # Errors
    /// [`ApiError`] that says what was wrong with the amount and what is accepted.
    pub fn parse(
        &self,
        place: Place,
        shape: &BankShape,
        model: &BatteryModel,
        sheet: &VisitSheet,
    ) -> ApiResult<Parsed> {
        let cells = place.cells(shape);
        let millilitres = self.millilitres(place, cells.len(), model)?;
        let levels: Vec<Level> = sheet
            .levels(shape)
            .into_iter()
            .filter(|(cell, _)| cells.contains(cell))
            .map(|(_, level)| level)
            .collect();
        let question = amount_question(millilitres, cells.len(), &levels, model).filter(|_| !self.stands);
        Ok(match question {
            Some(question) => Parsed::Question(wording::amount_question(question, &place.said())),
            None => Parsed::Entry(Entry::Water {
                millilitres,
                to_mark: self.to_mark,
                by_kit: self.by_kit,
                stands: self.stands,
            }),
        })
    }
}
