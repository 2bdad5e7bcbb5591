//! Load and capacity tests of the demo, as a technician would have written them down.

use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::discharge::{DischargeEvent, DischargePlan, DischargedBattery};
use rainshadow_core::load_test::{LoadOnPlate, LoadedVolts, RealLoadRead, ShortLoadSetUp, TesterLoad};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::visit::TestEntry;

/// A test with where it was written down.
pub(super) type Made = (String, TestEntry);

/// A timed discharge from a proven full charge to its end, with the batteries near it where they were read.
pub(super) fn timed(amperes: f64, end_per_cell: f64, celsius: f64, minutes: f64, near_end: &[f64]) -> Made {
    let plan = DischargePlan {
        amperes: Some(amperes),
        end_per_cell,
        temperature: Temperature::from_celsius(celsius).ok(),
        proven_full: true,
        every_minutes: 5.0,
    };
    let batteries = (1u8..).zip(near_end);
    let batteries = batteries.map(|(battery, volts)| DischargedBattery {
        battery: BatteryAddress { string: 0, battery },
        volts: *volts,
    });
    let event = DischargeEvent::Noted {
        plan,
        hours: minutes / 60.0,
        reached_end: true,
        batteries: batteries.collect(),
    };
    (String::new(), TestEntry::Discharge { event })
}

/// A discharge that was stopped before its end, with the volts of the batteries then.
pub(super) fn stopped(amperes: f64, end_per_cell: f64, celsius: f64, hours: f64, volts: &[f64]) -> Made {
    let (whole, entry) = timed(amperes, end_per_cell, celsius, 60.0 * hours, volts);
    let entry = match entry {
        TestEntry::Discharge { event: DischargeEvent::Noted { plan, hours, batteries, .. } } => {
            let event = DischargeEvent::Noted { plan, hours, reached_end: false, batteries };
            TestEntry::Discharge { event }
        }
        other => other,
    };
    (whole, entry)
}

/// A short load at half the capacity for 15 s: battery, volts before, at the end, and half a minute later.
pub(super) fn short(c20: f64, celsius: f64, read: &[(&str, f64, f64, f64)]) -> Vec<Made> {
    let set_up = ShortLoadSetUp {
        load: TesterLoad::HalfCapacity { c20 },
        seconds: 15.0,
        temperature: Temperature::from_celsius(celsius).ok(),
        charged: Some(100.0),
        tester: "carbon pile".into(),
    };
    let mut all = vec![(String::new(), TestEntry::SetUp { set_up })];
    all.extend(read.iter().map(|(battery, before, at_end, after)| {
        let read = LoadedVolts { before: *before, at_end: *at_end, after: Some(*after), stands: false };
        ((*battery).to_owned(), TestEntry::ShortLoad { read })
    }));
    all
}

/// Five minutes under the load of the system: its name, A, A on its plate; volts before, at ten seconds and at five
/// minutes.
pub(super) fn real(load: (&str, f64, f64), [before, at_ten, at_five]: [f64; 3]) -> Made {
    let (name, amperes, plate) = load;
    let read = RealLoadRead {
        off_charge: None,
        before,
        at_ten_seconds: Some(at_ten),
        at_five_minutes: at_five,
        amperes,
        loads: vec![LoadOnPlate { name: name.into(), amperes, plate: Some(plate) }],
        inverter_limit: None,
        output: None,
        output_on_mains: None,
    };
    (String::new(), TestEntry::RealLoad { read })
}
