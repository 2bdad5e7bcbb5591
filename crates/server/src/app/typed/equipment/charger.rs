//! One source of charge as typed.

use super::super::conditions::TypedTemperature;
use super::super::faults::{Faults, filled};
use rainshadow_core::charge::{COEFFICIENT, ChargerSettings, ChargerTemperature};
use rainshadow_core::equipment::{Source, SourceKind};
use rainshadow_core::quantity::{Bounds, Temperature, bounds, typed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Temperature that chargers' settings are stated at when nothing is told, °C.
pub const REFERENCE: f64 = 25.0;

/// A charger as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedCharger {
    /// What it is; none: not told.
    pub kind: Option<SourceKind>,
    /// What it is called; may be empty.
    pub name: String,
    /// Absorption, V of the bank; empty: not told.
    pub absorption: String,
    /// Hours that absorption is held; empty: by current, or not told.
    pub absorption_hours: String,
    /// Float, V of the bank.
    pub float: String,
    /// Equalize, V of the bank; empty: off or not told.
    pub equalize: String,
    /// True when it follows a temperature sensor by itself.
    pub compensates: bool,
    /// mV a degree Celsius and cell that it takes off as it warms; empty: 5.
    pub millivolts: String,
    /// Temperature its settings are meant for; empty: 25 °C.
    pub reference: Option<TypedTemperature>,
    /// True for one that knows flooded batteries only.
    pub flooded_only: bool,
    /// Current it has for the bank, A; empty: not told.
    pub amperes: String,
}

impl TypedCharger {
    /// True where nothing was typed.
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// What it is set to; every field that does not fit is named, `before` it the place of the charger.
    pub(super) fn settings(&self, f: &mut Faults, before: &str) -> ChargerSettings {
        let mut volts = |field: &str, text: &String| {
            filled(Some(text))
                .and_then(|t| f.take(&format!("{before}{field}"), typed::number(t, bounds::VOLTAGE)))
        };
        let absorption = volts("absorption", &self.absorption);
        let float = volts("float", &self.float);
        let equalize = volts("equalize", &self.equalize);
        let absorption_hours = filled(Some(&self.absorption_hours)).and_then(|t| {
            f.take(&format!("{before}absorption_hours"), typed::number(t, bounds::ABSORPTION_HOURS))
        });
        let compensates = self.compensates.then(|| self.compensation(f, before));
        let flooded_only = self.flooded_only;
        ChargerSettings { absorption, absorption_hours, float, equalize, compensates, flooded_only }
    }

    fn compensation(&self, f: &mut Faults, before: &str) -> ChargerTemperature {
        const MILLIVOLTS: Bounds =
            Bounds { low: 0.0, high: 10.0, unit: "mV per °C and cell", decimals: 0, ..bounds::COMPENSATION };
        let millivolts = filled(Some(&self.millivolts))
            .and_then(|t| f.take(&format!("{before}millivolts"), typed::number(t, MILLIVOLTS)))
            .map_or(COEFFICIENT, |mv| -mv / 1000.0);
        let reference = self.reference.as_ref().filter(|t| !t.typed.trim().is_empty());
        let field = format!("{before}reference");
        let reference = reference
            .and_then(|t| f.take(&field, typed::temperature(&t.typed, t.unit)))
            .map_or(REFERENCE, Temperature::celsius);
        let own = ChargerTemperature { reference, per_degree: millivolts };
        f.take(&field, own.checked()).unwrap_or_default()
    }

    /// Current it has for the bank, A.
    pub(super) fn current(&self, f: &mut Faults, before: &str) -> Option<f64> {
        let field = format!("{before}amperes");
        filled(Some(&self.amperes)).and_then(|t| f.take(&field, typed::number(t, bounds::BANK_CURRENT)))
    }

    /// The source that it is.
    pub(super) fn source(&self, f: &mut Faults, before: &str) -> Source {
        Source {
            kind: self.kind,
            name: self.name.trim().to_owned(),
            settings: self.settings(f, before),
            amperes: self.current(f, before),
        }
    }
}
