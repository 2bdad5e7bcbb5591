//! Something of a load or capacity test as typed: text turned into quantities, every fault named by its field.

use super::conditions::TypedTemperature;
use super::faults::{Faults, filled};
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::cell_volts::CellVoltsWhen;
use rainshadow_core::discharge::{
    DischargeEvent, DischargePlan, DischargeReading, DischargedBattery, USUAL_END,
};
use rainshadow_core::load_test::{
    InverterOutput, LoadOnPlate, LoadedVolts, RealLoadRead, ShortLoadSetUp, TesterLoad,
};
use rainshadow_core::quantity::{Bounds, Temperature, bounds, typed};
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

/// Output of an inverter, as typed; all empty: not read.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct TypedOutput {
    /// Volts it gives.
    #[serde(default)]
    pub volts: String,
    /// Hertz it gives.
    #[serde(default)]
    pub hertz: String,
}

/// A load, as typed; all empty: left out.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct TypedTestedLoad {
    /// What it is.
    #[serde(default)]
    pub name: String,
    /// A it draws.
    #[serde(default)]
    pub amperes: String,
    /// A on its plate; empty: not known.
    #[serde(default)]
    pub plate: String,
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

fn maybe(f: &mut Faults, field: &str, text: &str, range: Bounds) -> Option<f64> {
    filled(Some(&text.to_owned())).and_then(|t| f.take(field, typed::number(t, range)))
}

fn must(f: &mut Faults, field: &str, text: &str, range: Bounds) -> Option<f64> {
    f.take(field, typed::number(text, range))
}

fn warm(f: &mut Faults, own: Option<&TypedTemperature>) -> Option<Temperature> {
    let own = own.filter(|t| !t.typed.trim().is_empty())?;
    f.take("temperature", typed::temperature(&own.typed, own.unit))
}

/// Volts between posts with so many cells between them.
fn of_cells(cells: u16, quantity: &'static str) -> Bounds {
    let (own, all) = (bounds::LOADED_CELL_VOLTS, f64::from(cells));
    Bounds { quantity, low: own.low * all, high: own.high * all, ..own }
}

fn plan(f: &mut Faults, own: &TypedPlan) -> Option<DischargePlan> {
    let amperes = maybe(f, "amperes", &own.amperes, bounds::TEST_CURRENT);
    let end = maybe(f, "end_per_cell", &own.end_per_cell, bounds::END_CELL_VOLTS);
    let temperature = warm(f, own.temperature.as_ref());
    let every = maybe(f, "every_minutes", &own.every_minutes, bounds::READING_MINUTES);
    Some(DischargePlan {
        amperes,
        end_per_cell: end.unwrap_or(USUAL_END),
        temperature,
        proven_full: own.proven_full,
        every_minutes: every.unwrap_or(USUAL_MINUTES),
    })
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

fn output(f: &mut Faults, field: &str, own: &TypedOutput, nominal: &TypedOutput) -> Option<InverterOutput> {
    if own.volts.trim().is_empty() && own.hertz.trim().is_empty() {
        return None;
    }
    let volts = must(f, &format!("{field}.volts"), &own.volts, bounds::MAINS_VOLTS);
    let hertz = must(f, &format!("{field}.hertz"), &own.hertz, bounds::HERTZ);
    let nominal_volts = maybe(f, "nominal.volts", &nominal.volts, bounds::MAINS_VOLTS);
    let nominal_hertz = maybe(f, "nominal.hertz", &nominal.hertz, bounds::HERTZ);
    Some(InverterOutput {
        volts: volts?,
        hertz: hertz?,
        nominal_volts: nominal_volts.unwrap_or(120.0),
        nominal_hertz: nominal_hertz.unwrap_or(60.0),
    })
}

fn loads(f: &mut Faults, all: &[TypedTestedLoad]) -> Vec<LoadOnPlate> {
    let given = |own: &TypedTestedLoad| {
        !(own.name.trim().is_empty() && own.amperes.trim().is_empty() && own.plate.trim().is_empty())
    };
    let mut read = Vec::new();
    for (at, own) in all.iter().enumerate().filter(|(_, own)| given(own)) {
        let amperes = must(f, &format!("loads[{at}].amperes"), &own.amperes, bounds::TEST_CURRENT);
        let plate = maybe(f, &format!("loads[{at}].plate"), &own.plate, bounds::TEST_CURRENT);
        let name = match own.name.trim() {
            "" => "load".to_owned(),
            name => name.to_owned(),
        };
        read.extend(amperes.map(|amperes| LoadOnPlate { name, amperes, plate }));
    }
    read
}

fn real_load(f: &mut Faults, own: &TypedTest, shape: &BankShape) -> Option<RealLoadRead> {
    let TypedTest::RealLoad {
        off_charge,
        before,
        at_ten_seconds,
        at_five_minutes,
        amperes,
        loads: all,
        inverter_limit,
        nominal,
        output: on_bank,
        output_on_mains,
    } = own
    else {
        return None;
    };
    let volts = of_cells(shape.cells_in_series(), "volts of the bank");
    let charged = Bounds { high: 3.0 * f64::from(shape.cells_in_series()), ..volts };
    let off_charge = maybe(f, "off_charge", off_charge, charged);
    let before = must(f, "before", before, volts);
    let at_ten_seconds = maybe(f, "at_ten_seconds", at_ten_seconds, volts);
    let at_five_minutes = must(f, "at_five_minutes", at_five_minutes, volts);
    let amperes = must(f, "amperes", amperes, bounds::TEST_CURRENT);
    let loads = loads(f, all);
    let inverter_limit = maybe(f, "inverter_limit", inverter_limit, bounds::TEST_CURRENT);
    let output = output(f, "output", on_bank, nominal);
    let output_on_mains = self::output(f, "output_on_mains", output_on_mains, nominal);
    Some(RealLoadRead {
        off_charge,
        before: before?,
        at_ten_seconds,
        at_five_minutes: at_five_minutes?,
        amperes: amperes?,
        loads,
        inverter_limit,
        output,
        output_on_mains,
    })
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
            Self::DischargeBegun { plan: own } => discharge(DischargeEvent::Begun { plan: plan(f, own)? }),
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
                let (plan, hours, reached_end) = (plan?, hours?, *reached_end);
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
