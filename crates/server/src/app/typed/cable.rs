//! A cable as typed: its section or gauge, its length.

use super::faults::{Faults, filled};
use rainshadow_core::conductor::{Cable, LUG_MILLIOHMS, Section};
use rainshadow_core::quantity::units::LengthUnit;
use rainshadow_core::quantity::{Bounds, bounds, typed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Metres in a foot.
const FOOT: f64 = 0.3048;

/// How the section of a cable is said.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SectionUnit {
    /// mm².
    #[default]
    SquareMillimetres,
    /// American wire gauge.
    Awg,
}

fn gauge(text: &str) -> Result<i8, String> {
    let text = text.trim();
    let number = match text.split_once('/') {
        Some((noughts, "0")) => noughts.trim().parse::<i8>().ok().map(|n| 1 - n),
        _ => text.parse::<i8>().ok(),
    };
    number.ok_or_else(|| format!("\u{201c}{text}\u{201d} is no wire gauge; accepted is 20 to 1, 1/0 to 4/0"))
}

/// The section of a cable as typed: mm², or a gauge with 4/0 typed 4/0.
pub fn section(f: &mut Faults, field: &str, text: &str, unit: SectionUnit) -> Option<Section> {
    let own = match unit {
        SectionUnit::SquareMillimetres => {
            f.take(field, typed::number(text, bounds::CABLE_SECTION)).map(Section::SquareMillimetres)
        }
        SectionUnit::Awg => f.take(field, gauge(text)).map(Section::Awg),
    }?;
    f.take(field, own.square_millimetres()).map(|_| own)
}

/// A cable as typed.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TypedCable {
    /// Section; empty with the length: not told.
    pub section: String,
    /// How it is said.
    pub section_unit: SectionUnit,
    /// Length, m or ft.
    pub length: String,
    /// Metres where it is millimetres elsewhere, feet where it is inches.
    pub length_unit: LengthUnit,
    /// Resistance of one of its lugs, mΩ; empty: 0.05.
    pub lug: String,
}

impl TypedCable {
    /// True when nothing is typed.
    pub fn is_empty(&self) -> bool {
        self.section.trim().is_empty() && self.length.trim().is_empty()
    }

    /// The cable; none where nothing is typed, or a figure does not fit, which is noted by its field.
    pub fn cable(&self, f: &mut Faults, before: &str) -> Option<Cable> {
        if self.is_empty() {
            return None;
        }
        let (size, unit) = match self.length_unit {
            LengthUnit::Millimetre => (1.0, "m"),
            LengthUnit::Inch => (FOOT, "ft"),
        };
        let range = bounds::CABLE_LENGTH;
        let range = Bounds { low: range.low / size, high: range.high / size, unit, ..range };
        let section = section(f, &format!("{before}section"), &self.section, self.section_unit);
        let metres = f.take(&format!("{before}length"), typed::number(&self.length, range)).map(|v| v * size);
        let lug = filled(Some(&self.lug)).map_or(Some(LUG_MILLIOHMS), |t| {
            f.take(&format!("{before}lug"), typed::number(t, bounds::LUG_RESISTANCE))
        });
        Some(Cable { section: section?, metres: metres?, lugs: 2, lug_milliohms: lug? })
    }
}
