//! The air around a bank as typed: room, fan and openings.

use super::super::faults::{Faults, filled};
use super::TypedEquipment;
use rainshadow_core::equipment::{Equipment, Vents};
use rainshadow_core::quantity::air::{
    area_of_pipes, show_area, show_room, typed_airflow, typed_area, typed_room,
};
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits};
use rainshadow_core::quantity::{bounds, typed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// An opening to the outside as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedOpening {
    /// Free area, cm² or in²; of round pipes their inner width, mm or in; empty: not told.
    pub size: String,
    /// True for round pipes.
    pub pipe: bool,
    /// How many pipes, 1 to 20; empty: one.
    pub count: String,
}

impl TypedOpening {
    /// Its free area, cm².
    fn area(&self, f: &mut Faults, field: &str, unit: LengthUnit) -> Option<f64> {
        let size = filled(Some(&self.size))?;
        if !self.pipe {
            return f.take(&format!("{field}.size"), typed_area(size, unit));
        }
        let width = typed::length_in(size, unit, bounds::PIPE);
        let width = f.take(&format!("{field}.size"), width)?;
        let count = filled(Some(&self.count)).unwrap_or("1");
        let said = format!("\u{201c}{count}\u{201d} is no number of pipes; accepted is 1 to 20");
        let whole = count.parse::<u8>().ok().filter(|n| (1..=20).contains(n));
        let count = f.take(&format!("{field}.count"), whole.ok_or(said))?;
        f.take(&format!("{field}.size"), area_of_pipes(width, count))
    }

    /// As it would be typed in another system: a pipe becomes its area.
    fn of_area(area: Option<f64>, unit: LengthUnit) -> Self {
        Self { size: area.map(|a| show_area(a, unit)).unwrap_or_default(), ..Self::default() }
    }
}

impl TypedEquipment {
    /// Room, m³, and what moves the air.
    pub(super) fn air(&self, f: &mut Faults) -> (Option<f64>, Vents) {
        let unit = self.length;
        let enclosure = filled(Some(&self.enclosure)).and_then(|t| f.take("enclosure", typed_room(t, unit)));
        let fan = filled(Some(&self.fan)).and_then(|t| f.take("fan", typed_airflow(t, unit)));
        let inlet = self.inlet.area(f, "inlet", unit);
        let outlet = self.outlet.area(f, "outlet", unit);
        (enclosure, Vents { fan, inlet, outlet })
    }

    /// The air in the units of whoever reads: as typed where they are the same.
    pub(super) fn for_reader(self, fitted: &Equipment, unit: LengthUnit) -> Self {
        if self.length == unit {
            return self;
        }
        let reader = ReaderUnits { length: unit, ..ReaderUnits::default() };
        let vents = fitted.vents;
        Self {
            enclosure: fitted.enclosure.map(|m3| show_room(m3, unit)).unwrap_or_default(),
            fan: vents.fan.map(|m3| format!("{:.1}", reader.show_airflow(m3).0)).unwrap_or_default(),
            inlet: TypedOpening::of_area(vents.inlet, unit),
            outlet: TypedOpening::of_area(vents.outlet, unit),
            length: unit,
            ..self
        }
    }
}
