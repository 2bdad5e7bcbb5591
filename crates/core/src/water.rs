//! Water: levels, how thirsty the cells are, when the next fill is due, and what the litres tell
//! about charging.

mod amount;
mod consumption;
mod faraday;
mod forecast;
mod kit;
mod level;
mod order;
mod uneven;

pub use amount::{AmountQuestion, amount_question, most_water};
pub use consumption::{Consumption, DaysRange, Interval, MARGIN_MM, THIRSTIEST_FACTOR, prior_rate, seasonal};
pub use faraday::{
    FARADAY_CONSTANT, OverchargeShare, WATER_DENSITY_25, WATER_MOLAR_MASS, grams_per_ampere_hour,
    hydrogen_litres, millilitres_per_ampere_hour, overcharge_a_day, overcharge_of, water_of,
};
pub use forecast::{Basis, CellForecast, WaterForecast, WaterHistory, expected_temperature, forecast};
pub use kit::{KitInspection, kit_inspection};
pub use level::{Level, LevelStep, concentrated, need};
pub use order::{FillOrder, fill_order};
pub use uneven::{SPARING, THIRSTY, Uneven, odd_share, uneven_consumption};
