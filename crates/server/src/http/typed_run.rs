//! An entry of a run as typed; what is impossible is refused with its field, what is unlikely is asked
//! about.

use super::error::{ApiError, ApiResult, FieldError};
use super::faults::{Faults, filled};
use super::typed_conditions::TypedTemperature;
use crate::app::run_case::RunCase;
use rainshadow_core::equalize::{
    BeforeCheck, PauseWhy, Phase, RESUME_BELOW, RunEntry, moved, much_current, volts_on_charge, warmed,
};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{SpecificGravity, Temperature, bounds, typed};
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Seconds for which a stop can be taken back.
pub const TAKE_BACK: f64 = 10.0;

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

/// What became of it.
pub enum UnderstoodRun {
    /// An entry.
    Entry(RunEntry),
    /// A question; nothing is stored until it is kept.
    Question(String),
}

/// Something that cannot be done now.
fn not_now(said: impl Into<String>) -> ApiError {
    ApiError::field("what", said)
}

impl TypedRunEntry {
    /// The entry, a question, or a refusal. `pace` is how many seconds of the clock pass in one.
    pub fn parse(&self, case: &RunCase, units: ReaderUnits, pace: f64) -> ApiResult<UnderstoodRun> {
        let phase = case.now.phase;
        let over = matches!(phase, Phase::Ended { .. });
        let entry = match self {
            Self::Note { text } => {
                let text = text.trim();
                if text.is_empty() || text.chars().count() > 1000 {
                    return Err(ApiError::field("text", "A note has 1 to 1000 characters."));
                }
                RunEntry::Note { text: text.to_owned() }
            }
            Self::TakenBack => {
                let since = case.run.ended_at.map(|end| case.at.duration_since(end).as_secs_f64());
                match since {
                    None => return Err(not_now("The run is not stopped; there is nothing to take back.")),
                    Some(s) if !(-2.0..=TAKE_BACK * pace + 2.0).contains(&s) => {
                        return Err(not_now(
                            "A stop can be taken back for ten seconds. It is over; open a new run if it must go on.",
                        ));
                    }
                    Some(_) => RunEntry::TakenBack,
                }
            }
            _ if over => {
                return Err(not_now(format!(
                    "{} Nothing more is written into it but notes.",
                    ended_said(case)
                )));
            }
            Self::Confirmed { check } => RunEntry::Confirmed { check: *check },
            Self::Skipped { check, reason } => {
                let reason = reason.trim();
                if reason.is_empty() {
                    return Err(ApiError::field("reason", "Say why it is left out; the report shows it."));
                }
                RunEntry::Skipped { check: *check, reason: reason.to_owned() }
            }
            Self::Began => begun(case)?,
            Self::Paused { why } => match phase {
                Phase::Running => RunEntry::Paused { why: *why },
                _ => return Err(not_now("The run is not on; there is nothing to pause.")),
            },
            Self::Resumed { stands } => match phase {
                Phase::Paused { .. } => {
                    let hot = case.last_celsius().filter(|c| *c >= RESUME_BELOW);
                    let was_hot = matches!(phase, Phase::Paused { why: PauseWhy::Heat });
                    if let Some(celsius) = hot.filter(|_| was_hot && !stands) {
                        let said = wording::degrees(celsius, units);
                        let below = wording::degrees(RESUME_BELOW, units);
                        return Ok(UnderstoodRun::Question(format!(
                            "Go on at {said}? That was the last reading; a run goes on under {below}. Read the temperature again first."
                        )));
                    }
                    RunEntry::Resumed
                }
                _ => return Err(not_now("The run is not paused; there is nothing to resume.")),
            },
            Self::Stopped => match phase {
                Phase::Before => {
                    return Err(not_now(
                        "The charger has not been switched on yet. Leave the run, or begin it.",
                    ));
                }
                _ => RunEntry::Ended { why: case.now.ends_as() },
            },
            Self::Withdrawn { entry } => {
                if !case.now.readings.iter().any(|r| r.id == *entry) {
                    return Err(ApiError::field("entry", "Only a reading of this run can be taken back."));
                }
                RunEntry::Withdrawn { entry: entry.clone() }
            }
            Self::Read { .. } => return self.reading(case, units),
        };
        Ok(UnderstoodRun::Entry(entry))
    }

    fn reading(&self, case: &RunCase, units: ReaderUnits) -> ApiResult<UnderstoodRun> {
        let Self::Read { gravities, temperature, volts, amperes, stands } = self else {
            return Err(not_now("This is no reading."));
        };
        let mut faults = Faults::default();
        let f = &mut faults;
        let temperature = temperature.as_ref().filter(|t| !t.typed.trim().is_empty());
        let celsius = temperature
            .and_then(|t| f.take("temperature", typed::temperature(&t.typed, t.unit)))
            .map(Temperature::celsius);
        let volts = filled(Some(volts))
            .and_then(|t| f.take("volts", typed::number(t, bounds::VOLTAGE)))
            .and_then(|v| f.take("volts", volts_on_charge(v, case.bank.shape.cells_in_series())));
        let amperes =
            filled(Some(amperes)).and_then(|t| f.take("amperes", typed::number(t, bounds::BANK_CURRENT)));
        let read: Vec<Option<SpecificGravity>> = (0..case.watched.len())
            .map(|i| {
                let text = filled(gravities.get(i))?;
                f.take(&format!("gravities[{i}]"), typed::gravity(text))
            })
            .collect();
        faults.none()?;
        let warm = celsius.or(case.last_celsius()).and_then(|c| Temperature::from_celsius(c).ok());
        let any = read.iter().any(Option::is_some);
        if any && warm.is_none() && !case.run.instrument.corrects_for_temperature {
            return Err(ApiError::field(
                "temperature",
                "A hydrometer reading needs the temperature of the electrolyte: type it too.",
            ));
        }
        if !any && celsius.is_none() && volts.is_none() && amperes.is_none() {
            return Err(ApiError::field("gravities[0]", "Nothing is typed yet; type at least one figure."));
        }
        let corrected: Vec<Option<SpecificGravity>> =
            read.iter().map(|g| g.map(|g| warm.map_or(g, |at| case.corrected(g, at)))).collect();
        if !stands && let Some(said) = question(case, &corrected, celsius, amperes, units)? {
            return Ok(UnderstoodRun::Question(said));
        }
        Ok(UnderstoodRun::Entry(RunEntry::Read { gravities: corrected, celsius, volts, amperes }))
    }
}

fn ended_said(case: &RunCase) -> &'static str {
    case.run.ended_why.map_or("The run is over.", wording::end_said)
}

fn begun(case: &RunCase) -> ApiResult<RunEntry> {
    if case.now.phase != Phase::Before {
        return Err(not_now("The run has begun already."));
    }
    if case.now.open_checks.is_empty() {
        return Ok(RunEntry::Began);
    }
    let open = case.now.open_checks.iter().map(|check| {
        let (name, _) = wording::before_check(*check, &case.run.plan.plan, ReaderUnits::default());
        FieldError {
            field: serde_json::to_value(check)
                .ok()
                .and_then(|v| v.as_str().map(ToOwned::to_owned))
                .unwrap_or_default(),
            message: format!("{name}: confirm it, or leave it out with a reason."),
        }
    });
    let open: Vec<FieldError> = open.collect();
    let said = match open.as_slice() {
        [one] => one.message.clone(),
        all => format!("{} checks are neither confirmed nor left out with a reason.", all.len()),
    };
    Err(ApiError::fields(open).saying(said))
}

/// What is asked about a reading, all of it in one question.
fn question(
    case: &RunCase,
    gravities: &[Option<SpecificGravity>],
    celsius: Option<f64>,
    amperes: Option<f64>,
    units: ReaderUnits,
) -> ApiResult<Option<String>> {
    let mut asked = Vec::new();
    for (i, (cell, gravity)) in case.watched.iter().zip(gravities).enumerate() {
        let Some(gravity) = gravity else { continue };
        if let Some(q) = moved(case.last_gravity(i), *gravity, case.noise()) {
            asked.push(wording::run_question(&q, &cell.to_string(), units));
        }
    }
    if let Some(q) = celsius.and_then(|c| warmed(case.last_celsius(), c)) {
        asked.push(wording::run_question(&q, "", units));
    }
    if let Some(amperes) = amperes {
        let much = much_current(amperes, case.capacity())
            .map_err(|e| ApiError::field("amperes", wording::stopped(&e.to_string())))?;
        asked.extend(much.map(|q| wording::run_question(&q, "", units)));
    }
    Ok((!asked.is_empty()).then(|| asked.join(" ")))
}
