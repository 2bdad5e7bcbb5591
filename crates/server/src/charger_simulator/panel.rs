//! The front panel of the simulated charger, as words on a terminal.

use super::charger::{Fault, Shared};
use rainshadow_core::bank::CellAddress;
use rainshadow_core::charge::Stage;

/// What can be said.
pub const HELP: &str = "float, absorb, equalize, off: switch the charger\n\
    show: its display\n\
    read A1-1: what a hydrometer draws from a cell, as read\n\
    heat 47: a hot room, °C\n\
    pass 2.5: so many hours at once\n\
    fault hang | exception | short | repeat | nonsense | jump | none: let it go wrong";

fn number(word: Option<&str>) -> Option<f64> {
    word.and_then(|w| w.replace(',', ".").parse().ok()).filter(|n: &f64| n.is_finite())
}

/// Does what is said and tells what it did.
pub fn say(own: &Shared, line: &str) -> String {
    let mut words = line.split_whitespace();
    let mut held = own.hold();
    let switched = |held: &mut super::ChargerSimulator, stage| {
        held.switch(stage);
        let (volts, amperes, _) = held.display();
        format!("{volts:.2} V, {amperes:.1} A")
    };
    match words.next() {
        Some("float") => switched(&mut held, Some(Stage::Float)),
        Some("absorb") => switched(&mut held, Some(Stage::Absorption)),
        Some("equalize") => switched(&mut held, Some(Stage::Equalize)),
        Some("off") => switched(&mut held, None),
        Some("show") => {
            let (volts, amperes, hours) = held.display();
            format!("{volts:.2} V, {amperes:.1} A, {:.1} °C, {hours:.2} h", held.celsius())
        }
        Some("read") => {
            let cell: Option<CellAddress> = words.next().and_then(|w| w.parse().ok());
            let shape = &held.bank().shape;
            let place = cell.and_then(|cell| shape.cells().position(|own| own == cell));
            match place.and_then(|i| held.gravity(i)) {
                Some(gravity) => format!("{gravity:.3} at {:.1} °C", held.celsius()),
                None => "no such cell; say read A1-1".into(),
            }
        }
        Some("heat") => match number(words.next()).filter(|c| (-30.0..=90.0).contains(c)) {
            Some(celsius) => {
                held.heat_to(celsius);
                format!("{celsius:.1} °C")
            }
            None => "heat takes -30 to 90".into(),
        },
        Some("pass") => match number(words.next()).filter(|h| (0.0..=48.0).contains(h)) {
            Some(hours) => {
                held.pass(hours);
                let (volts, amperes, all) = held.display();
                format!("{volts:.2} V, {amperes:.1} A, {all:.2} h")
            }
            None => "pass takes 0 to 48 hours".into(),
        },
        Some("fault") => match words.next().and_then(Fault::of) {
            Some(fault) => {
                held.go_wrong(fault);
                format!("{fault:?}")
            }
            None => "fault takes hang, exception, short, repeat, nonsense, jump or none".into(),
        },
        Some("help") => HELP.into(),
        Some(other) => format!("“{other}” is not understood; say help"),
        None => String::new(),
    }
}
