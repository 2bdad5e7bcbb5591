//! The words of instruments that are held against what they should show.

use super::names;
use crate::diagnosis::{HYDROMETER_OFF, METER_OFF};
use crate::visit::{CheckedInstrument, InstrumentChecked};

/// What it is called: "hydrometer".
pub fn instrument_name(own: CheckedInstrument) -> &'static str {
    match own {
        CheckedInstrument::Hydrometer => "hydrometer",
        CheckedInstrument::Refractometer => "refractometer",
        CheckedInstrument::Digital => "density meter",
        CheckedInstrument::Meter => "voltmeter",
    }
}

/// What it is off by: "8 points high", "0.12 V low on 12 V".
fn off(own: &InstrumentChecked) -> String {
    let off = own.off();
    let way = if off > 0.0 { "high" } else { "low" };
    if own.instrument.reads_gravity() {
        format!("{} {way}", names::points(off.abs().round()))
    } else {
        format!("{:.2} V {way} on 12 V", off.abs())
    }
}

/// A question about a check that is off by more than instruments are.
pub(super) fn instrument_question(own: &InstrumentChecked) -> String {
    if own.instrument.reads_gravity() {
        format!(
            "{:.3} in distilled water is {}. Was acid left in it? Rinse it, take fresh water at room temperature, read it again?",
            own.shown,
            off(own)
        )
    } else {
        format!(
            "{:.2} and {:.2} V are far apart for two meters. Both on the same posts, at rest? Read them again?",
            own.shown, own.should
        )
    }
}

/// What a check came to, and what is done about it.
pub fn instrument_checked(own: &InstrumentChecked) -> String {
    let name = instrument_name(own.instrument);
    let (limit, against) = if own.instrument.reads_gravity() {
        (names::points(HYDROMETER_OFF), "in distilled water")
    } else {
        (format!("{METER_OFF:.2} V on 12 V"), "beside the other meter")
    };
    if !own.matters() {
        return format!("The {name} is right {against}, within {limit} (our choice, no source).");
    }
    format!(
        "The {name} reads {} {against} (limit {limit}; our choice, no source). What was read stays as it was read; the diagnosis takes that off. {} and check it again, else replace it.",
        off(own),
        if own.instrument.reads_gravity() { "Rinse it" } else { "Give it a fresh cell" }
    )
}
