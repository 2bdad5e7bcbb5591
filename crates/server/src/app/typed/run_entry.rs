//! An entry of a run as typed: text turned into quantities, every fault named by its field.

use super::conditions::TypedTemperature;
use super::faults::{Faults, filled};
use crate::app::refused::{AppError, AppResult};
use crate::app::run_context::RunContext;
use crate::app::runs::TypedOfRun;
use rainshadow_core::equalize::{BeforeCheck, PauseWhy, RunEntry, volts_on_charge};
use rainshadow_core::quantity::{SpecificGravity, Temperature, bounds, typed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What is written down, as typed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "what", rename_all = "snake_case")]
pub enum TypedRunEntry {
    /// Something was seen to.
    Confirmed {
        /// What.
        check: BeforeCheck,
    },
    /// It was left out.
    Skipped {
        /// What.
        check: BeforeCheck,
        /// Why.
        reason: String,
    },
    /// The charger was switched to equalize.
    Began,
    /// A reading, whatever of it was taken.
    Read {
        /// Gravity of each watched cell, pilot first; empty: not read.
        #[serde(default)]
        gravities: Vec<String>,
        /// Hottest electrolyte.
        #[serde(default)]
        temperature: Option<TypedTemperature>,
        /// Volts of the bank; empty: not read.
        #[serde(default)]
        volts: String,
        /// Current of the bank, A; empty: not read.
        #[serde(default)]
        amperes: String,
        /// True when asked about and kept.
        #[serde(default)]
        stands: bool,
    },
    /// The charger was paused.
    Paused {
        /// Why.
        why: PauseWhy,
    },
    /// It was switched on again.
    Resumed {
        /// True when asked about and done all the same.
        #[serde(default)]
        stands: bool,
    },
    /// The charger was stopped.
    Stopped,
    /// The stop is taken back.
    TakenBack,
    /// A note.
    Note {
        /// The text.
        text: String,
    },
    /// An earlier entry is taken back.
    Withdrawn {
        /// Its id.
        entry: String,
    },
}

impl TypedRunEntry {
    /// The entry that it comes to by what the run is.
    ///
    /// # Errors
    /// Text that is no figure, by its field.
    pub fn parse(&self, context: &RunContext) -> AppResult<TypedOfRun> {
        let (entry, stands) = match self {
            Self::Confirmed { check } => (RunEntry::Confirmed { check: *check }, false),
            Self::Skipped { check, reason } => {
                (RunEntry::Skipped { check: *check, reason: reason.trim().to_owned() }, false)
            }
            Self::Began => (RunEntry::Began, false),
            Self::Read { stands, .. } => (self.reading(context)?, *stands),
            Self::Paused { why } => (RunEntry::Paused { why: *why }, false),
            Self::Resumed { stands } => (RunEntry::Resumed, *stands),
            Self::Stopped => (RunEntry::Ended { why: context.now.ends_as() }, false),
            Self::TakenBack => (RunEntry::TakenBack, false),
            Self::Note { text } => (RunEntry::Note { text: text.trim().to_owned() }, false),
            Self::Withdrawn { entry } => (RunEntry::Withdrawn { entry: entry.clone() }, false),
        };
        Ok(TypedOfRun { entry, stands })
    }

    fn reading(&self, context: &RunContext) -> AppResult<RunEntry> {
        let Self::Read { gravities, temperature, volts, amperes, .. } = self else {
            return Err(AppError::field("what", "This is no reading."));
        };
        let mut faults = Faults::default();
        let f = &mut faults;
        let temperature = temperature.as_ref().filter(|t| !t.typed.trim().is_empty());
        let celsius = temperature
            .and_then(|t| f.take("temperature", typed::temperature(&t.typed, t.unit)))
            .map(Temperature::celsius);
        let volts = filled(Some(volts))
            .and_then(|t| f.take("volts", typed::number(t, bounds::VOLTAGE)))
            .and_then(|v| f.take("volts", volts_on_charge(v, context.bank.shape.cells_in_series())));
        let amperes =
            filled(Some(amperes)).and_then(|t| f.take("amperes", typed::number(t, bounds::BANK_CURRENT)));
        let read: Vec<Option<SpecificGravity>> = (0..context.watched.len())
            .map(|i| {
                let text = filled(gravities.get(i))?;
                f.take(&format!("gravities[{i}]"), typed::gravity(text))
            })
            .collect();
        let warm = celsius.or(context.last_celsius()).and_then(|c| Temperature::from_celsius(c).ok());
        let any = read.iter().any(Option::is_some);
        faults.none()?;
        if any && warm.is_none() && !context.run.instrument.corrects_for_temperature {
            return Err(AppError::field(
                "temperature",
                "A hydrometer reading needs the temperature of the electrolyte: type it too.",
            ));
        }
        let gravities =
            read.iter().map(|g| g.map(|g| warm.map_or(g, |at| context.corrected(g, at)))).collect();
        Ok(RunEntry::Read { gravities, celsius, volts, amperes })
    }
}
