//! Minutes under the load of the system, as typed.

use super::TypedTest;
use super::figures::{maybe, must, of_cells};
use crate::app::typed::faults::Faults;
use rainshadow_core::bank::BankShape;
use rainshadow_core::load_test::{InverterOutput, LoadOnPlate, RealLoadRead};
use rainshadow_core::quantity::{Bounds, bounds};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

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

fn output_of(
    f: &mut Faults,
    field: &str,
    own: &TypedOutput,
    nominal: &TypedOutput,
) -> Option<InverterOutput> {
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

/// Minutes under the load of the system, as typed.
pub(super) fn real_load(f: &mut Faults, own: &TypedTest, shape: &BankShape) -> Option<RealLoadRead> {
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
    let output = output_of(f, "output", on_bank, nominal);
    let output_on_mains = output_of(f, "output_on_mains", output_on_mains, nominal);
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
