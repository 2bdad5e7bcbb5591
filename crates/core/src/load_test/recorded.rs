//! What is written down of load tests at a bank: its cells and its capacity are known there.

use super::{
    InverterOutput, LoadOnPlate, RealLoad, RealLoadError, ShortLoad, ShortLoadReading, TesterLoad,
    judge_real_load, load_current,
};
use crate::quantity::{OutOfRange, Temperature, bounds};
use serde::{Deserialize, Serialize};

/// What loads the batteries of a visit, and how they stand.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShortLoadSetUp {
    /// What loads them.
    pub load: TesterLoad,
    /// Seconds of the load, 5 to 60; usually 10 or 15.
    pub seconds: f64,
    /// Temperature of the batteries; none: not taken.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<f64>))]
    pub temperature: Option<Temperature>,
    /// Charge they stand at, per cent; none: not known.
    #[serde(default)]
    pub charged: Option<f64>,
    /// The tester, in the technician's words.
    #[serde(default)]
    pub tester: String,
}

impl ShortLoadSetUp {
    /// The set-up itself when every figure in it can be.
    ///
    /// # Errors
    /// [`OutOfRange`] with the figure and what is accepted.
    pub fn checked(self) -> Result<Self, OutOfRange> {
        load_current(self.load)?;
        bounds::LOAD_SECONDS.check(self.seconds)?;
        self.charged.map(|percent| bounds::STATE_OF_CHARGE.check(percent)).transpose()?;
        Ok(self)
    }

    /// The test of some batteries of so many cells.
    pub fn of(&self, cells: u8, batteries: Vec<ShortLoadReading>) -> ShortLoad {
        ShortLoad {
            cells,
            load: self.load,
            seconds: self.seconds,
            temperature: self.temperature,
            charged: self.charged,
            batteries,
        }
    }

    /// True when another test loaded the same way: only then its volts compare.
    pub fn is_like(&self, other: &Self) -> bool {
        let tester = |own: &Self| (own.load == TesterLoad::Fixed).then(|| own.tester.trim().to_lowercase());
        self.load == other.load && tester(self) == tester(other)
    }
}

/// Volts of one battery around the load.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoadedVolts {
    /// V before it.
    pub before: f64,
    /// V at its end.
    pub at_end: f64,
    /// V thirty seconds after it; none: not read.
    #[serde(default)]
    pub after: Option<f64>,
    /// True when asked about and kept.
    #[serde(default)]
    pub stands: bool,
}

/// Minutes under the load of the system itself, as read at a bank.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RealLoadRead {
    /// Volts of the bank off charge, just taken off it; none: not read.
    #[serde(default)]
    pub off_charge: Option<f64>,
    /// Volts before the load, settled.
    pub before: f64,
    /// Volts at ten seconds; none: not read.
    #[serde(default)]
    pub at_ten_seconds: Option<f64>,
    /// Volts at five minutes.
    pub at_five_minutes: f64,
    /// Current of the whole bank, A.
    pub amperes: f64,
    /// The loads with their plates.
    #[serde(default)]
    pub loads: Vec<LoadOnPlate>,
    /// Continuous limit of the inverter, A at the bank; none: not known.
    #[serde(default)]
    pub inverter_limit: Option<f64>,
    /// Output of the inverter on the bank; none: not read.
    #[serde(default)]
    pub output: Option<InverterOutput>,
    /// Output of the inverter while mains or a generator feed it; none: not read.
    #[serde(default)]
    pub output_on_mains: Option<InverterOutput>,
}

impl RealLoadRead {
    /// The test on a bank of so many cells in series and so many Ah.
    pub fn of(&self, cells: u16, c20: f64) -> RealLoad {
        RealLoad {
            cells,
            c20,
            before: self.before,
            at_ten_seconds: self.at_ten_seconds,
            at_five_minutes: self.at_five_minutes,
            amperes: self.amperes,
            loads: self.loads.clone(),
            inverter_limit: self.inverter_limit,
            output: self.output,
            output_on_mains: self.output_on_mains,
        }
    }

    /// The reading itself when it can be of a bank of so many cells in series.
    ///
    /// # Errors
    /// [`RealLoadError`] for what cannot have been.
    pub fn checked(self, cells: u16) -> Result<Self, RealLoadError> {
        // The capacity of the bank was checked when it was described.
        judge_real_load(&self.of(cells, bounds::BANK_CAPACITY.high))?;
        let per_cell = |v: f64| bounds::CHARGED_CELL_VOLTS.check(v / f64::from(cells));
        self.off_charge.map(per_cell).transpose()?;
        Ok(self)
    }
}
