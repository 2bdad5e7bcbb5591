//! Accepted ranges of what is planned with: storage, hours, sun, sources, money.

use super::{Bounds, table};

/// What a bank stands and draws while nobody uses it (common practice, no source).
pub const STANDING_DRAW: Bounds = table("standing draw", 0.0, 200.0, "A", 0);
/// Ampere-hours of a bank that an array brings on a day (our choice, no source).
pub const HARVEST: Bounds = table("harvest of a day", 0.0, 20_000.0, "Ah", 0);
/// Share of the harvest that snow leaves.
pub const SNOW_SHARE: Bounds = table("share that snow leaves", 0.0, 1.0, "", 2);
/// Self-discharge of a month at 25 °C (common practice, no source).
pub const MONTHLY_LOSS: Bounds = table("self-discharge of a month", 0.0, 40.0, "%", 0);
/// What dirty, wet tops add to it (common practice, no source).
pub const DIRTY_TOPS: Bounds = table("loss over dirty tops in a month", 0.0, 10.0, "%", 0);
/// A load of a bank on its own, A at the bank or W behind an inverter (our choice, no source).
pub const RUNTIME_LOAD: Bounds = table("load", 0.0, 50_000.0, "", 0);
/// Seconds of a run, and from one to the next (our choice, no source).
pub const BURST_SECONDS: Bounds = table("seconds of a run", 1.0, 86_400.0, "s", 0);
/// What a start takes above its run (our choice, no source).
pub const SURGE: Bounds = table("surge of a start", 0.0, 100_000.0, "A\u{b7}s", 0);
/// Watts out for each watt into an inverter.
pub const INVERTER_EFFICIENCY: Bounds = table("efficiency of the inverter", 0.5, 1.0, "", 2);
/// What an inverter takes for itself (common practice, no source).
pub const INVERTER_IDLE: Bounds = table("idle watts of the inverter", 0.0, 2000.0, "W", 0);
/// Volts per cell at which an alarm goes (common practice, no source).
pub const ALARM_CELL_VOLTS: Bounds = table("alarm voltage of a cell", 1.6, 2.15, "V", 2);
/// Hours that a bank is wanted to hold (our choice, no source).
pub const HOURS_WANTED: Bounds = table("hours wanted", 0.1, 8760.0, "h", 1);
/// Where on earth.
pub const LATITUDE: Bounds = table("latitude", -90.0, 90.0, "\u{b0}", 0);
/// Height over the sea.
pub const ALTITUDE: Bounds = table("altitude", -430.0, 5500.0, "m", 0);
/// An array by its plates (our choice, no source).
pub const ARRAY_WATTS: Bounds = table("array", 0.0, 200_000.0, "W", 0);
/// From level.
pub const TILT: Bounds = table("tilt", 0.0, 90.0, "\u{b0}", 0);
/// From north over east.
pub const AZIMUTH: Bounds = table("azimuth", 0.0, 360.0, "\u{b0}", 0);
/// What is left of what an array promises by its plates (common practice, no source).
pub const ARRAY_LEFT: Bounds = table("share left of the plates\u{2019} watts", 0.2, 1.0, "", 2);
/// Light of a month on level ground against a clear sky.
pub const CLEARNESS: Bounds = table("clearness", 0.1, 1.0, "", 2);
/// Current at a battery with its loads off; none or less never fills it (our choice, no source).
pub const NET_CURRENT: Bounds = table("charging current", -5000.0, 5000.0, "A", 0);
/// Times a load of a month against its mean (our choice, no source).
pub const LOAD_TIMES: Bounds = table("share of the loads", 0.0, 10.0, "", 1);
/// Days from one charge to the next.
pub const EVERY_DAYS: Bounds = table("days between charges", 1.0, 365.0, "days", 0);
/// Days of a stay (our choice, no source).
pub const STAY_DAYS: Bounds = table("days of the stay", 1.0, 180.0, "days", 0);
/// A price in the house's own currency (our choice, no source).
pub const PRICE: Bounds = table("price", 0.0, 1_000_000.0, "", 0);
/// What the coldest night lies under the mean of its month (our choice, no source).
pub const UNDER_MEAN: Bounds = table("coldest night under the mean", 0.0, 60.0, "\u{b0}", 0);
/// Wh that the loads of a bank take in a day (our choice, no source).
pub const DAILY_ENERGY: Bounds = table("energy a day", 0.0, 1_000_000.0, "Wh", 0);
/// Days that a bank has to do without a source (our choice, no source).
pub const AUTONOMY: Bounds = table("days without a source", 0.1, 30.0, "days", 1);
/// Times that a bank is made larger, so that it still serves when it is old.
pub const AGEING: Bounds = table("factor of ageing", 1.0, 2.0, "", 2);
/// Interest a year, a share (our choice, no source).
pub const INTEREST: Bounds = table("interest a year", 0.0, 0.3, "", 2);
