//! A bank: strings of batteries of cells, how it stands, and the address of every cell.

mod address;
mod layout;
mod path;
mod plan;

pub use address::{AddressError, BatteryAddress, CellAddress, string_letter};
pub use layout::{Layout, Side};
pub use path::walk;
pub use plan::{Plan, PlanBattery, PlanRow};

use crate::quantity::{OutOfRange, bounds};
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// What a bank is made of and how it stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BankShape {
    /// Nominal voltage of the system, V.
    pub system_voltage: u16,
    /// Cells in one case, 1 to 6.
    pub cells_per_battery: u8,
    /// Batteries in one string.
    pub series: u8,
    /// Strings in parallel.
    pub parallel: u8,
    /// How it stands.
    #[serde(default)]
    pub layout: Layout,
}

/// Why a bank cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum BankError {
    /// A count outside its range.
    #[error("{0}")]
    OutOfRange(#[from] OutOfRange),
    /// The batteries do not add up to the system voltage.
    #[error("{}", misfit(*.battery_volts, *.series, *.system))]
    DoesNotAddUp {
        /// Volts of one battery.
        battery_volts: u16,
        /// Batteries in series as given.
        series: u8,
        /// System voltage as given.
        system: u16,
    },
    /// More rows than batteries to stand in them.
    #[error("a string of {series} cannot stand in {rows} rows; accepted is 1 to {series}")]
    TooManyRows {
        /// Batteries in a string.
        series: u8,
        /// Rows as given.
        rows: u8,
    },
    /// More tiers than rows.
    #[error("{tiers} tiers cannot hold {rows} rows; accepted is 1 to {rows}")]
    TooManyTiers {
        /// Tiers as given.
        tiers: u8,
        /// Rows of the whole bank.
        rows: u16,
    },
}

impl BankError {
    /// Which of the counts does not fit, by its name in a description: "series", "rows"; "shape" where it is
    /// none of them alone.
    pub fn field(&self) -> &'static str {
        match self {
            Self::OutOfRange(out) if out.bounds == bounds::SERIES => "series",
            Self::OutOfRange(out) if out.bounds == bounds::PARALLEL => "parallel",
            Self::OutOfRange(out) if out.bounds == bounds::SYSTEM_VOLTAGE => "system_voltage",
            Self::OutOfRange(_) => "shape",
            Self::DoesNotAddUp { .. } => "series",
            Self::TooManyRows { .. } => "rows",
            Self::TooManyTiers { .. } => "tiers",
        }
    }
}

/// The sentence for batteries that do not add up, with the counts that would fit.
fn misfit(battery: u16, series: u8, system: u16) -> String {
    let made = battery * u16::from(series);
    let head = match series {
        1 => format!("one battery of {battery} V makes {made} V, not {system} V"),
        _ => format!("{series} batteries of {battery} V in series make {made} V, not {system} V"),
    };
    if system.is_multiple_of(battery) {
        return format!("{head}: {system} V needs {} in series", system / battery);
    }
    let under = system / battery;
    let over = under + 1;
    let fits = if under == 0 {
        format!("1 would make {battery} V")
    } else {
        format!("{under} would make {} V, {over} would make {} V", under * battery, over * battery)
    };
    format!("{head}: no count of {battery} V batteries makes {system} V ({fits})")
}

impl BankShape {
    /// A bank of a system voltage, V, from batteries of 1 to 6 cells in so many strings; every string stands in one row.
    ///
    /// # Errors
    /// [`BankError`], with the counts that would fit.
    pub fn of_batteries(cells_per_battery: u8, system_voltage: u16, parallel: u8) -> Result<Self, BankError> {
        let battery = 2 * u16::from(cells_per_battery.max(1));
        let series = u8::try_from(system_voltage / battery).unwrap_or(u8::MAX).max(1);
        let layout = Layout::default();
        Self { system_voltage, cells_per_battery, series, parallel, layout }.checked()
    }

    /// The shape itself when it can stand and adds up.
    ///
    /// # Errors
    /// [`BankError`], with the counts that would fit.
    pub fn checked(self) -> Result<Self, BankError> {
        bounds::CELLS.check(f64::from(self.cells_per_battery))?;
        bounds::SERIES.check(f64::from(self.series))?;
        bounds::PARALLEL.check(f64::from(self.parallel))?;
        bounds::SYSTEM_VOLTAGE.check(f64::from(self.system_voltage))?;
        let battery_volts = 2 * u16::from(self.cells_per_battery);
        if battery_volts * u16::from(self.series) != self.system_voltage {
            return Err(BankError::DoesNotAddUp {
                battery_volts,
                series: self.series,
                system: self.system_voltage,
            });
        }
        bounds::BANK_CELLS.check(f64::from(u32::try_from(self.cell_count()).unwrap_or(u32::MAX)))?;
        let rows = self.layout.rows_per_string;
        if rows == 0 || rows > self.series {
            return Err(BankError::TooManyRows { series: self.series, rows });
        }
        let all_rows = u16::from(rows) * u16::from(self.parallel);
        if self.layout.tiers == 0 || u16::from(self.layout.tiers) > all_rows {
            return Err(BankError::TooManyTiers { tiers: self.layout.tiers, rows: all_rows });
        }
        Ok(self)
    }

    /// Cells in the whole bank.
    pub fn cell_count(&self) -> usize {
        usize::from(self.cells_per_battery) * usize::from(self.series) * usize::from(self.parallel)
    }

    /// Cells in series in one string.
    pub fn cells_in_series(&self) -> u16 {
        u16::from(self.cells_per_battery) * u16::from(self.series)
    }

    /// Every battery, string by string from the positive post.
    pub fn batteries(&self) -> impl Iterator<Item = BatteryAddress> + '_ {
        (0..self.parallel)
            .flat_map(move |string| (1..=self.series).map(move |battery| BatteryAddress { string, battery }))
    }

    /// Every cell in electrical order.
    pub fn cells(&self) -> impl Iterator<Item = CellAddress> + '_ {
        self.batteries().flat_map(move |battery| {
            (1..=self.cells_per_battery).map(move |cell| CellAddress { battery, cell })
        })
    }

    /// True when the bank has this cell.
    pub fn contains(&self, cell: CellAddress) -> bool {
        cell.battery.string < self.parallel
            && (1..=self.series).contains(&cell.battery.battery)
            && (1..=self.cells_per_battery).contains(&cell.cell)
    }
}
