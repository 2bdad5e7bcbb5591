//! A charger of three stages: all it has, then its absorption volts, then float.

use super::Drive;

/// Volts under its setpoint from which a charger holds to it.
const REACHED: f64 = 0.02;
/// Hours before a small current counts as a tail: the first minutes tell nothing.
const LEAST_ABSORPTION: f64 = 0.5;

/// A charger as it is set.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ChargerSettings {
    /// Volts of absorption, by the string.
    pub absorption: f64,
    /// Volts of float, by the string.
    pub float: f64,
    /// Volts it adds for each degree that the hottest cell lies above 25 °C; usually negative, 0 when it
    /// has no sensor.
    pub per_degree: f64,
    /// Absorption ends when no more than so many amperes flow.
    pub tail: f64,
    /// Absorption ends after so many hours.
    pub longest: f64,
}

/// What it does.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Doing {
    Bulk,
    Absorbs(f64),
    Floats,
}

/// A charger at work.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SimCharger {
    set: ChargerSettings,
    doing: Doing,
}

impl SimCharger {
    /// Set so, at the beginning of a charge.
    pub fn new(set: ChargerSettings) -> Self {
        Self { set, doing: Doing::Bulk }
    }

    /// A new day, or its switch: it begins anew.
    pub fn begin(&mut self) {
        self.doing = Doing::Bulk;
    }

    /// Whether it has come to float.
    pub fn is_done(&self) -> bool {
        self.doing == Doing::Floats
    }

    /// What it does with so many amperes to give; a load that takes more than that discharges the string.
    pub fn drive(&self, amperes: f64, hottest: f64) -> Drive {
        if amperes <= 0.0 {
            return Drive::Current(amperes);
        }
        let volts = if self.is_done() { self.set.float } else { self.set.absorption };
        Drive::Charger { volts: volts + self.set.per_degree * (hottest - 25.0), amperes }
    }

    /// It sees what the string took for so many hours.
    pub fn follow(&mut self, drive: Drive, volts: f64, amperes: f64, hours: f64) {
        let Drive::Charger { volts: asked, .. } = drive else { return };
        let held = volts >= asked - REACHED;
        self.doing = match self.doing {
            Doing::Bulk if held => Doing::Absorbs(0.0),
            Doing::Absorbs(so_far)
                if so_far >= self.set.longest
                    || (held && amperes <= self.set.tail && so_far >= LEAST_ABSORPTION) =>
            {
                Doing::Floats
            }
            Doing::Absorbs(so_far) if held => Doing::Absorbs(so_far + hours),
            other => other,
        };
    }
}
