//! Something of a load or capacity test as typed: text turned into quantities, every fault named by its field.

mod figures;
mod real_load;

use figures::{maybe, must, of_cells};
use real_load::real_load;
pub use real_load::{TypedOutput, TypedTestedLoad};

use super::conditions::TypedTemperature;
use super::faults::Faults;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::cell_volts::CellVoltsWhen;
use rainshadow_core::discharge::{
    DischargeEvent, DischargePlan, DischargeReading, DischargedBattery, USUAL_END,
};
use rainshadow_core::load_test::{LoadedVolts, ShortLoadSetUp, TesterLoad};
use rainshadow_core::quantity::{Temperature, bounds, typed};
use rainshadow_core::visit::{BurnOff, Place, TestEntry, TimedLoad};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Minutes between readings where nobody says.
const USUAL_MINUTES: f64 = 15.0;

/// What loads a battery for some seconds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LoadKind {
    /// Half of the capacity, as amperes.
    HalfCapacity,
    /// Half of the cranking rating.
    HalfCranking,
    /// The fixed load of a light tester.
    Fixed,
}

/// How a discharge is meant to run, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TypedPlan {
    /// Current, A; empty: the system's own load.
    #[serde(default)]
    pub amperes: String,
    /// Volts per cell it ends at; empty: 1.75.
    #[serde(default)]
    pub end_per_cell: String,
    /// Temperature at the start; empty: not taken.
    #[serde(default)]
    pub temperature: Option<TypedTemperature>,
    /// True when the charge before was proven full.
    #[serde(default)]
    pub proven_full: bool,
    /// Minutes between readings; empty: 15.
    #[serde(default)]
    pub every_minutes: String,
}

/// Volts of a battery, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TypedDischarged {
    /// "A3".
    pub battery: String,
    /// V; empty: not read.
    pub volts: String,
}

/// Something of a test, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "test", rename_all = "snake_case")]
pub enum TypedTest {
    /// The surface charge is burned off.
    BurnOff {
        /// What was switched.
        switched: BurnOff,
    },
    /// A load was switched on whose seconds count.
    LoadOn {
        /// What for.
        of: TimedLoad,
    },
    /// What loads the batteries for some seconds.
    SetUp {
        /// What.
        load: LoadKind,
        /// Cold cranking amperes of one battery, for half of them.
        #[serde(default)]
        rating: String,
        /// Seconds.
        seconds: String,
        /// Temperature of the batteries; empty: not taken.
        #[serde(default)]
        temperature: Option<TypedTemperature>,
        /// Charge they stand at, per cent; empty: not known.
        #[serde(default)]
        charged: String,
        /// The tester.
        #[serde(default)]
        tester: String,
    },
    /// One battery under that load.
    ShortLoad {
        /// V before.
        before: String,
        /// V at its end.
        at_end: String,
        /// V thirty seconds after; empty: not read.
        #[serde(default)]
        after: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// Minutes under the load of the system.
    RealLoad {
        /// V just off charge; empty: not read.
        #[serde(default)]
        off_charge: String,
        /// V before, settled.
        before: String,
        /// V at ten seconds; empty: not read.
        #[serde(default)]
        at_ten_seconds: String,
        /// V at five minutes.
        at_five_minutes: String,
        /// A of the whole bank.
        amperes: String,
        /// The loads with their plates.
        #[serde(default)]
        loads: Vec<TypedTestedLoad>,
        /// Continuous limit of the inverter, A at the bank; empty: not known.
        #[serde(default)]
        inverter_limit: String,
        /// Volts and hertz it should give; empty: 120 V, 60 Hz.
        #[serde(default)]
        nominal: TypedOutput,
        /// Its output on the bank.
        #[serde(default)]
        output: TypedOutput,
        /// Its output while mains or a generator feed it.
        #[serde(default)]
        output_on_mains: TypedOutput,
    },
    /// A discharge begins: the load is on.
    DischargeBegun {
        /// How it is meant to run.
        plan: TypedPlan,
    },
    /// A reading of it.
    DischargeRead {
        /// A; empty: not read.
        #[serde(default)]
        amperes: String,
        /// V of the place under test; empty: not read.
        #[serde(default)]
        volts: String,
        /// Battery by battery.
        #[serde(default)]
        batteries: Vec<TypedDischarged>,
        /// Hottest electrolyte or case; empty: not read.
        #[serde(default)]
        temperature: Option<TypedTemperature>,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// The load is off, to be switched on again.
    DischargePaused,
    /// It is on again.
    DischargeResumed,
    /// It is off for good.
    DischargeEnded,
    /// A discharge that was timed elsewhere.
    DischargeNoted {
        /// How it ran.
        plan: TypedPlan,
        /// How long, "5:12" or "5.2".
        hours: String,
        /// True when the end voltage was reached.
        reached_end: bool,
        /// Volts of batteries near its end.
        #[serde(default)]
        batteries: Vec<TypedDischarged>,
    },
    /// Hours of a known load.
    KnownLoad {
        /// What the load was.
        load: String,
        /// Hours when new.
        when_new: String,
        /// Hours now.
        now: String,
    },
    /// Volts of one cell.
    CellVolts {
        /// What the bank did then.
        when: CellVoltsWhen,
        /// V.
        typed: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
}

/// What a tester loads a battery of this model with.
pub fn tester_load(f: &mut Faults, load: LoadKind, rating: &str, model: &BatteryModel) -> Option<TesterLoad> {
    Some(match load {
        LoadKind::HalfCapacity => TesterLoad::HalfCapacity { c20: model.c20.ampere_hours() },
        LoadKind::HalfCranking => {
            let rating = f.take("rating", typed::number(rating, bounds::CRANKING_CURRENT))?;
            TesterLoad::HalfCranking { rating }
        }
        LoadKind::Fixed => TesterLoad::Fixed,
    })
}

fn warm(f: &mut Faults, own: Option<&TypedTemperature>) -> Option<Temperature> {
    let own = own.filter(|t| !t.typed.trim().is_empty())?;
    f.take("temperature", typed::temperature(&own.typed, own.unit))
}

fn plan(f: &mut Faults, own: &TypedPlan) -> DischargePlan {
    let amperes = maybe(f, "amperes", &own.amperes, bounds::TEST_CURRENT);
    let end = maybe(f, "end_per_cell", &own.end_per_cell, bounds::END_CELL_VOLTS);
    let temperature = warm(f, own.temperature.as_ref());
    let every = maybe(f, "every_minutes", &own.every_minutes, bounds::READING_MINUTES);
    DischargePlan {
        amperes,
        end_per_cell: end.unwrap_or(USUAL_END),
        temperature,
        proven_full: own.proven_full,
        every_minutes: every.unwrap_or(USUAL_MINUTES),
    }
}

fn batteries(f: &mut Faults, all: &[TypedDischarged], cells: u8) -> Vec<DischargedBattery> {
    let read = all.iter().enumerate().filter(|(_, own)| !own.volts.trim().is_empty());
    let read: Vec<_> = read
        .filter_map(|(at, own)| {
            let volts = f.take(
                &format!("batteries[{at}].volts"),
                typed::number(&own.volts, of_cells(u16::from(cells), "volts of a battery")),
            );
            let battery = f.take(&format!("batteries[{at}].battery"), own.battery.parse());
            Some(DischargedBattery { battery: battery?, volts: volts? })
        })
        .collect();
    read
}

impl TypedTest {
    /// What was typed, at a place of a bank.
    ///
    /// # Errors
    /// [`AppError`] that names the field, what was wrong and what is accepted.
    pub fn parse(&self, place: Place, shape: &BankShape, model: &BatteryModel) -> AppResult<TestEntry> {
        let mut faults = Faults::default();
        let entry = self.read(&mut faults, place, shape, model);
        faults.none()?;
        entry.ok_or_else(|| AppError::field("what", "A figure is missing."))
    }

    fn read(
        &self,
        f: &mut Faults,
        place: Place,
        shape: &BankShape,
        model: &BatteryModel,
    ) -> Option<TestEntry> {
        let discharge = |event| Some(TestEntry::Discharge { event });
        match self {
            Self::BurnOff { switched } => Some(TestEntry::BurnOff { switched: *switched }),
            Self::LoadOn { of } => Some(TestEntry::LoadOn { of: *of }),
            Self::SetUp { load, rating, seconds, temperature, charged, tester } => {
                let load = tester_load(f, *load, rating, model);
                let seconds = must(f, "seconds", seconds, bounds::LOAD_SECONDS);
                let temperature = warm(f, temperature.as_ref());
                let charged = maybe(f, "charged", charged, bounds::STATE_OF_CHARGE);
                let tester = tester.trim().to_owned();
                let set_up = ShortLoadSetUp { load: load?, seconds: seconds?, temperature, charged, tester };
                Some(TestEntry::SetUp { set_up })
            }
            Self::ShortLoad { before, at_end, after, stands } => {
                let range = of_cells(u16::from(shape.cells_per_battery), "volts of a battery");
                let before = must(f, "before", before, range);
                let at_end = must(f, "at_end", at_end, range);
                let after = maybe(f, "after", after, range);
                let read = LoadedVolts { before: before?, at_end: at_end?, after, stands: *stands };
                Some(TestEntry::ShortLoad { read })
            }
            Self::RealLoad { .. } => Some(TestEntry::RealLoad { read: real_load(f, self, shape)? }),
            Self::DischargeBegun { plan: own } => discharge(DischargeEvent::Begun { plan: plan(f, own) }),
            Self::DischargeRead { amperes, volts, batteries: all, temperature, stands } => {
                let range = of_cells(place.cells_in_series(shape), "volts of the place under test");
                let reading = DischargeReading {
                    amperes: maybe(f, "amperes", amperes, bounds::TEST_CURRENT),
                    volts: maybe(f, "volts", volts, range),
                    batteries: batteries(f, all, shape.cells_per_battery),
                    celsius: warm(f, temperature.as_ref()).map(Temperature::celsius),
                    stands: *stands,
                };
                discharge(DischargeEvent::Read { reading })
            }
            Self::DischargePaused => discharge(DischargeEvent::Paused),
            Self::DischargeResumed => discharge(DischargeEvent::Resumed),
            Self::DischargeEnded => discharge(DischargeEvent::Ended),
            Self::DischargeNoted { plan: own, hours, reached_end, batteries: all } => {
                let plan = plan(f, own);
                let hours = f.take("hours", typed::hours(hours, bounds::TEST_HOURS));
                let batteries = batteries(f, all, shape.cells_per_battery);
                let (hours, reached_end) = (hours?, *reached_end);
                discharge(DischargeEvent::Noted { plan, hours, reached_end, batteries })
            }
            Self::KnownLoad { load, when_new, now } => {
                let when_new = f.take("when_new", typed::hours(when_new, bounds::RATE_HOURS));
                let now = f.take("now", typed::hours(now, bounds::RATE_HOURS));
                Some(TestEntry::KnownLoad { load: load.trim().to_owned(), when_new: when_new?, now: now? })
            }
            Self::CellVolts { when, typed: text, stands } => {
                let volts = must(f, "typed", text, bounds::CELL_VOLTS)?;
                Some(TestEntry::CellVolts { when: *when, volts, stands: *stands })
            }
        }
    }
}
