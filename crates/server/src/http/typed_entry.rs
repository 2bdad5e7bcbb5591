//! An entry of a visit as typed, turned into the core's; what is impossible is refused with its
//! field, what is unlikely is asked about.

mod body;

pub use body::TypedBody;
use body::TypedFound;

use super::error::{ApiError, ApiResult};
use super::faults::{Faults, filled};
use super::parsed::{Parsed, refused};
use super::typed_water::Poured;
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::ohmic::{OhmicUnit, resistance};
use rainshadow_core::quantity::units::{LengthUnit, MILLIMETRES_PER_INCH, ReaderUnits};
use rainshadow_core::quantity::{Bounds, bounds, typed};
use rainshadow_core::rest::{RestConditions, battery_volts, string_volts};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, Entry, Place, SeenFinding, StepState, VisitSheet};
use rainshadow_core::water::{Level, LevelStep};
use rainshadow_core::wording;

fn only(place: Place, wanted: &str, fits: bool) -> ApiResult<()> {
    if fits {
        return Ok(());
    }
    Err(ApiError::field("place", format!("This is noted at {wanted}, not at {}.", place.said())))
}

/// A length in the reader's unit, bounded in millimetres.
fn length(text: &str, unit: LengthUnit, canonical: Bounds, field: &str) -> ApiResult<f64> {
    let (size, name) = match unit {
        LengthUnit::Millimetre => (1.0, "mm"),
        LengthUnit::Inch => (MILLIMETRES_PER_INCH, "in"),
    };
    let range = Bounds {
        low: canonical.low / size,
        high: canonical.high / size,
        unit: name,
        decimals: usize::from(size > 1.0),
        ..canonical
    };
    refused(field, typed::number(text, range)).map(|v| v * size)
}

fn checked(
    check: Check,
    found: Option<&TypedFound>,
    measured: Option<&String>,
    units: ReaderUnits,
    construction_ok: bool,
) -> ApiResult<Entry> {
    if !construction_ok {
        return Err(ApiError::field("check", "A sealed battery has no caps to look at."));
    }
    let measured = match (filled(measured), check) {
        (None, _) => None,
        (Some(text), Check::HoldDown) => Some(length(text, units.length, bounds::PLAY, "measured")?),
        (Some(text), Check::Tray) => Some(refused("measured", typed::number(text, bounds::TRAY_VOLTS))?),
        (Some(_), _) => return Err(ApiError::field("measured", "Nothing is measured at this check.")),
    };
    let by_measure = measured.and_then(|m| check.judge(m)).filter(|c| *c >= Severity::Watch);
    let found = match found {
        None => by_measure.and_then(|severity| {
            let kind = check.kinds().first()?.key.to_owned();
            Some(SeenFinding { kind, severity, note: String::new(), measured })
        }),
        Some(typed) => {
            let kind = check.kind(&typed.kind).ok_or_else(|| {
                let known: Vec<&str> = check.kinds().iter().map(|k| k.key).collect();
                let said = format!(
                    "“{}” is nothing that is found here; accepted is {}.",
                    typed.kind,
                    known.join(", ")
                );
                ApiError::field("found.kind", said)
            })?;
            let severity = typed.severity.or(by_measure).unwrap_or(kind.severity);
            if !matches!(severity, Severity::Watch | Severity::Act) {
                return Err(ApiError::field("found.severity", "What was found is watch or act."));
            }
            let note = typed.note.trim().to_owned();
            Some(SeenFinding { kind: typed.kind.clone(), severity, note, measured })
        }
    };
    Ok(Entry::Checked { check, found, measured })
}

fn rested(what: &TypedBody) -> ApiResult<Entry> {
    let TypedBody::Rested {
        charging,
        loaded,
        hours_since_charge,
        hours_since_load,
        surface_charge_removed,
        temperature,
        still_draws,
    } = what
    else {
        return Err(ApiError::field("what", "Conditions of rest are expected."));
    };
    let mut faults = Faults::default();
    let mut hours = |field: &str, text: Option<&String>| {
        filled(text).and_then(|t| faults.take(field, typed::number(t, bounds::HOURS)))
    };
    let since_charge = hours("hours_since_charge", hours_since_charge.as_ref());
    let since_load = hours("hours_since_load", hours_since_load.as_ref());
    let temperature = temperature
        .as_ref()
        .filter(|t| !t.typed.trim().is_empty())
        .and_then(|t| faults.take("temperature", typed::temperature(&t.typed, t.unit)));
    faults.none()?;
    Ok(Entry::Rested {
        conditions: RestConditions {
            charging: *charging,
            loaded: *loaded,
            hours_since_charge: since_charge,
            hours_since_load: since_load,
            surface_charge_removed: *surface_charge_removed,
            temperature,
            still_draws: still_draws.trim().to_owned(),
        },
    })
}

fn level(step: Option<LevelStep>, text: Option<&String>, unit: LengthUnit) -> ApiResult<Entry> {
    let level = match (step, filled(text)) {
        (Some(step), _) => Level::Step { step },
        (None, Some(text)) => Level::Millimetres { mm: length(text, unit, bounds::LEVEL, "typed")? },
        (None, None) => {
            let said = "A level is one of plates bare, at the plates, low, at the mark, over, or measured.";
            return Err(ApiError::field("typed", said));
        }
    };
    Ok(Entry::Level { level })
}

/// What was typed, as an entry or as a question.
///
/// # Errors
/// [`ApiError`] that names the field, what was wrong and what is accepted.
pub fn parse(
    what: &TypedBody,
    place: Place,
    shape: &BankShape,
    model: &BatteryModel,
    sheet: &VisitSheet,
    units: ReaderUnits,
) -> ApiResult<Parsed> {
    let caps = model.construction.has_caps();
    let at_battery = matches!(place, Place::Battery(_));
    let entry = match what {
        TypedBody::Confirmed { caution } => Entry::Confirmed { caution: *caution },
        TypedBody::Step { step, state, reason } => {
            let reason = reason.trim().to_owned();
            if *state == StepState::Skipped && reason.is_empty() {
                return Err(ApiError::field(
                    "reason",
                    "A step that is left out needs its reason, for the next visitor.",
                ));
            }
            Entry::Step { step: *step, state: *state, reason }
        }
        TypedBody::Checked { check, found, measured } => {
            checked(*check, found.as_ref(), measured.as_ref(), units, caps || !check.needs_caps())?
        }
        TypedBody::Rested { .. } => rested(what)?,
        TypedBody::BatteryVolts { typed, stands } => {
            only(place, "a battery", at_battery)?;
            let (volts, question) = refused("typed", battery_volts(typed, shape.cells_per_battery))?;
            if let Some(question) = question.filter(|_| !stands) {
                let said = wording::volts_question(question, volts, u16::from(shape.cells_per_battery));
                return Ok(Parsed::Question(said));
            }
            Entry::BatteryVolts { volts, stands: *stands }
        }
        TypedBody::StringVolts { typed } => {
            only(place, "a string", matches!(place, Place::String(_)))?;
            Entry::StringVolts { volts: refused("typed", string_volts(typed, shape.cells_in_series()))? }
        }
        TypedBody::AlongVolts { typed } => {
            only(place, "a battery", at_battery)?;
            Entry::AlongVolts { volts: refused("typed", string_volts(typed, shape.cells_in_series()))? }
        }
        TypedBody::Ohmic { typed: text, unit } => {
            only(place, "a battery", at_battery)?;
            let range = match unit {
                OhmicUnit::Milliohm => bounds::RESISTANCE,
                OhmicUnit::Siemens => bounds::CONDUCTANCE,
            };
            let shown = refused("typed", typed::number(text, range))?;
            Entry::Ohmic { milliohms: refused("typed", resistance(shown, *unit))? }
        }
        TypedBody::CaseTemperature { temperature } => {
            only(place, "a battery", at_battery)?;
            let t = refused("temperature", typed::temperature(&temperature.typed, temperature.unit))?;
            Entry::CaseTemperature { celsius: t.celsius() }
        }
        TypedBody::Level { step, typed, unit } => {
            only_caps(caps, "level")?;
            level(*step, typed.as_ref(), *unit)?
        }
        TypedBody::Water { typed, unit, to_mark, by_kit, stands } => {
            only_caps(caps, "water")?;
            let poured =
                Poured { text: typed, unit: *unit, to_mark: *to_mark, by_kit: *by_kit, stands: *stands };
            return poured.parse(place, shape, model, sheet);
        }
        TypedBody::Done { work, note } => Entry::Done { work: *work, note: note.trim().to_owned() },
        TypedBody::Closed { item } => Entry::Closed { item: *item },
        TypedBody::Note { text } => {
            let text = text.trim().to_owned();
            if text.is_empty() {
                return Err(ApiError::field("text", "The note is empty."));
            }
            Entry::Note { text }
        }
        TypedBody::Withdrawn { entry } => {
            if !sheet.all().iter().any(|k| k.id == *entry) {
                return Err(ApiError::field("entry", "There is no such entry on this visit."));
            }
            Entry::Withdrawn { entry: entry.clone() }
        }
    };
    Ok(Parsed::Entry(entry))
}

fn only_caps(caps: bool, what: &str) -> ApiResult<()> {
    if caps {
        return Ok(());
    }
    let said = format!("This bank is sealed: there is no {what} to note, and nobody opens it.");
    Err(ApiError::field("what", said))
}
