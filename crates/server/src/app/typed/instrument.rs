//! What reads the cells, as it is named: what nobody says of it is as instruments of its kind are.

use rainshadow_core::instrument::{Instrument, InstrumentKind};
use rainshadow_core::quantity::Points;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// An instrument as it is named.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct NamedInstrument {
    /// Its kind.
    pub kind: InstrumentKind,
    /// Distance of its marks, points; left out: as of its kind.
    #[serde(default)]
    pub resolution: Option<Points>,
    /// Scatter of repeated readings of one sample, points; left out: as of its kind.
    #[serde(default)]
    pub repeatability: Option<Points>,
    /// True when it shows gravity already corrected for temperature; left out: as of its kind.
    #[serde(default)]
    pub corrects_for_temperature: Option<bool>,
}

impl NamedInstrument {
    /// The instrument with its figures.
    pub fn instrument(self) -> Instrument {
        let of_its_kind = Instrument::of(self.kind);
        Instrument {
            kind: self.kind,
            resolution: self.resolution.unwrap_or(of_its_kind.resolution),
            repeatability: self.repeatability.unwrap_or(of_its_kind.repeatability),
            corrects_for_temperature: self
                .corrects_for_temperature
                .unwrap_or(of_its_kind.corrects_for_temperature),
        }
    }
}

impl From<Instrument> for NamedInstrument {
    fn from(own: Instrument) -> Self {
        Self {
            kind: own.kind,
            resolution: Some(own.resolution),
            repeatability: Some(own.repeatability),
            corrects_for_temperature: Some(own.corrects_for_temperature),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_nobody_says_of_an_instrument_is_as_of_its_kind() {
        let named: NamedInstrument = serde_json::from_str(r#"{"kind":"digital"}"#).unwrap();
        assert_eq!(named.instrument(), Instrument::digital());
        let named: NamedInstrument =
            serde_json::from_str(r#"{"kind":"hydrometer","resolution":2,"corrects_for_temperature":true}"#)
                .unwrap();
        let own = named.instrument();
        assert_eq!((own.resolution, own.corrects_for_temperature), (Points::new(2.0), true));
        assert_eq!(own.repeatability, Instrument::hydrometer().repeatability);
        assert_eq!(NamedInstrument::from(own).instrument(), own);
    }
}
