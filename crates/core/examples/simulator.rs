//! The figures of the simulator in `docs/performance.md`: 48 cells through a day in seconds, and
//! through a year in minutes.
#![allow(clippy::print_stdout, reason = "a measuring program")]

use rainshadow_core::simulator::{CellKind, Drive, SimCell, SimString, Surroundings};
use std::time::Instant;

/// Two strings of 24 cells with what a day asks of them: a charger by day, a load by night.
fn live(strings: &mut [SimString], hours: f64, step: f64) {
    let mut now = 0.0;
    while now < hours {
        let of_day = now % 24.0;
        let drive = if (8.0..18.0).contains(&of_day) {
            Drive::Charger { volts: 58.8, amperes: 40.0 }
        } else {
            Drive::Current(-8.0)
        };
        for string in &mut *strings {
            string.step(drive, step, Surroundings::Air(18.0));
        }
        now += step;
    }
}

fn main() {
    let bank = || vec![SimString::new(vec![SimCell::new(CellKind::FLOODED, 420.0); 24]); 2];
    for (name, hours, step) in [
        ("a day of 48 cells in seconds", 24.0, 1.0 / 3600.0),
        ("a year of 48 cells in minutes", 8766.0, 1.0 / 60.0),
    ] {
        let mut strings = bank();
        let begin = Instant::now();
        live(&mut strings, hours, step);
        let volts: f64 = strings[0].cells().iter().map(SimCell::volts).sum();
        println!("{name}: {:?}, ends at {volts:.2} V", begin.elapsed());
    }
}
