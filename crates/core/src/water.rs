//! Water: levels, how thirsty the cells are, when the next fill is due, and what the litres tell
//! about charging.

mod amount;
mod climate;
mod consumption;
mod faraday;
mod forecast;
mod invented_climate;
mod kit;
mod level;
mod order;
mod poured;
mod record_lows;
mod season;
mod thirstiest;
mod uneven;
mod water_use;
mod year;

pub use amount::{AmountQuestion, amount_question, most_water, over_the_mark};
pub use climate::{ClimateRefused, MONTHS, MeanRefused, MonthlyMeans, mean_temperature};
pub use consumption::{DaysRange, Interval, MARGIN_MM, prior_rate};
pub use faraday::{
    FARADAY_CONSTANT, OverchargeShare, WATER_DENSITY_25, WATER_MOLAR_MASS, grams_per_ampere_hour,
    hydrogen_litres, millilitres_per_ampere_hour, overcharge_a_day, overcharge_of, water_of,
};
pub use forecast::{Basis, CellForecast, WaterForecast, WaterHistory, forecast};
pub use invented_climate::{INVENTED_CLIMATES, InventedClimate};
pub use kit::{KitInspection, kit_inspection};
pub use level::{Level, LevelStep, LowLevel, concentrated, need};
pub use order::{FillOrder, fill_order};
pub use poured::{AmountKnown, FillWay, LevelLamp, Poured, Spill};
pub use record_lows::RecordLows;
pub use season::Season;
pub use uneven::{SPARING, THIRSTY, Uneven, odd_share, uneven_consumption};
pub use water_use::WaterUse;
