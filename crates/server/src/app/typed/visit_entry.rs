//! An entry of a visit as typed: text turned into quantities, every fault named by its field.

mod body;

pub use body::TypedBody;
use body::TypedFound;

use super::faults::{Faults, filled, refused};
use super::water::millilitres;
use crate::app::refused::{AppError, AppResult};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::ohmic::resistance;
use rainshadow_core::quantity::torque::typed_torque;
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits};
use rainshadow_core::quantity::{Bounds, bounds, typed};
use rainshadow_core::rest::{RestConditions, battery_volts, string_volts};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Check, CheckedInstrument, DISTILLED, Entry, Place, Repaired, SeenFinding};
use rainshadow_core::water::{AmountKnown, Level, LevelStep};

/// A length in the reader's unit, bounded in millimetres.
fn length(text: &str, unit: LengthUnit, canonical: Bounds, field: &str) -> AppResult<f64> {
    let (size, name) = unit.size();
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
) -> AppResult<Entry> {
    let measured = match (filled(measured), check) {
        (None, _) => None,
        (Some(text), Check::HoldDown) => Some(length(text, units.length, bounds::PLAY, "measured")?),
        (Some(text), _) => Some(refused("measured", typed::number(text, bounds::TRAY_VOLTS))?),
    };
    let by_measure = measured.and_then(|m| check.judge(m)).filter(|c| *c >= Severity::Watch);
    let found = match found {
        None => by_measure.and_then(|severity| {
            let kind = check.kinds().first()?.key.to_owned();
            Some(SeenFinding { kind, severity, note: String::new(), measured })
        }),
        Some(typed) => {
            let usual = check.kind(&typed.kind).map_or(Severity::Watch, |kind| kind.severity);
            let severity = typed.severity.or(by_measure).unwrap_or(usual);
            let note = typed.note.trim().to_owned();
            Some(SeenFinding { kind: typed.kind.clone(), severity, note, measured })
        }
    };
    Ok(Entry::Checked { check, found, measured })
}

fn repaired(what: &TypedBody, model: &BatteryModel) -> AppResult<Entry> {
    let TypedBody::Repaired {
        check,
        found,
        repair,
        left,
        torque,
        torque_unit,
        agent,
        coating,
        lock_nuts,
        part,
        note,
    } = what
    else {
        return Err(AppError::field("what", "A repair is expected."));
    };
    let torque = filled(torque.as_ref())
        .map(|text| refused("torque", typed_torque(text, *torque_unit)))
        .transpose()?;
    Ok(Entry::Repaired {
        repaired: Repaired {
            check: *check,
            found: found.clone(),
            repair: *repair,
            left: *left,
            torque_asked: torque.and(model.post_torque).filter(|_| *check == Check::Terminals),
            torque,
            agent: agent.trim().to_owned(),
            coating: coating.trim().to_owned(),
            lock_nuts: *lock_nuts,
            part: part.trim().to_owned(),
            note: note.trim().to_owned(),
        },
    })
}

fn rested(what: &TypedBody) -> AppResult<Entry> {
    let TypedBody::Rested {
        charging,
        loaded,
        hours_since_charge,
        hours_since_load,
        surface_charge_removed,
        temperature,
        still_draws,
        charged_full,
        disconnected,
    } = what
    else {
        return Err(AppError::field("what", "Conditions of rest are expected."));
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
            charged_full: *charged_full,
            disconnected: *disconnected,
        },
    })
}

fn state_volts(what: &TypedBody, place: Place, shape: &BankShape) -> AppResult<Entry> {
    let TypedBody::StateVolts { state, typed: text, hours, amperes, note, stands } = what else {
        return Err(AppError::field("what", "Volts of a state are expected."));
    };
    let mut faults = Faults::default();
    let volts = match place {
        Place::Battery(_) => faults.take("typed", battery_volts(text, shape.cells_per_battery)),
        _ => faults.take("typed", string_volts(text, place.cells_in_series(shape))),
    };
    let mut figure = |field: &str, text: Option<&String>, range: Bounds| {
        filled(text).and_then(|t| faults.take(field, typed::number(t, range)))
    };
    let hours = figure("hours", hours.as_ref(), bounds::HOURS);
    let amperes = figure("amperes", amperes.as_ref(), bounds::LOAD_CURRENT);
    faults.none()?;
    let volts = volts.ok_or_else(|| AppError::field("typed", "Volts are expected."))?;
    Ok(Entry::StateVolts {
        state: *state,
        volts,
        hours,
        amperes,
        note: note.trim().to_owned(),
        stands: *stands,
    })
}

fn level(step: Option<LevelStep>, text: Option<&String>, unit: LengthUnit) -> AppResult<Entry> {
    let level = match (step, filled(text)) {
        (Some(step), _) => Level::Step { step },
        (None, Some(text)) => Level::Millimetres { mm: length(text, unit, bounds::LEVEL, "typed")? },
        (None, None) => {
            let said = "A level is one of plates bare, at the plates, low, at the mark, over, or measured.";
            return Err(AppError::field("typed", said));
        }
    };
    Ok(Entry::Level { level })
}

fn instrument_check(
    instrument: CheckedInstrument,
    shown: &str,
    should: Option<&String>,
    stands: bool,
) -> AppResult<Entry> {
    if instrument.reads_gravity() {
        let shown = refused("shown", typed::number(shown, bounds::GRAVITY_OF_WATER))?;
        return Ok(Entry::InstrumentCheck { instrument, shown, should: DISTILLED, stands });
    }
    let mut faults = Faults::default();
    let shown = faults.take("shown", typed::number(shown, bounds::COMPARED_VOLTS));
    let other = should.map_or("", String::as_str);
    let should = faults.take("should", typed::number(other, bounds::COMPARED_VOLTS));
    faults.none()?;
    let (shown, should) = shown
        .zip(should)
        .ok_or_else(|| AppError::field("shown", "The volts of both meters are expected."))?;
    Ok(Entry::InstrumentCheck { instrument, shown, should, stands })
}

/// Water of an amount that nobody measured: only where it was filled to is known, so that is the mark.
fn unmeasured(text: &str, to_mark: bool) -> AppResult<f64> {
    if !text.trim().is_empty() {
        let said = "An amount that is not measured has no figure; leave it empty, or call it estimated.";
        return Err(AppError::field("typed", said));
    }
    if !to_mark {
        let said = "Water of an unknown amount is noted where it was filled to the mark.";
        return Err(AppError::field("to_mark", said));
    }
    Ok(0.0)
}

/// What was typed, as an entry.
///
/// # Errors
/// [`AppError`] that names the field, what was wrong and what is accepted.
pub fn parse(
    what: &TypedBody,
    place: Place,
    shape: &BankShape,
    model: &BatteryModel,
    units: ReaderUnits,
) -> AppResult<Entry> {
    Ok(match what {
        TypedBody::Confirmed { caution } => Entry::Confirmed { caution: *caution },
        TypedBody::Step { step, state, reason } => {
            Entry::Step { step: *step, state: *state, reason: reason.trim().to_owned() }
        }
        TypedBody::Checked { check, found, measured } => {
            checked(*check, found.as_ref(), measured.as_ref(), units)?
        }
        TypedBody::NotHere { check } => Entry::NotHere { check: *check },
        TypedBody::Repaired { .. } => repaired(what, model)?,
        TypedBody::Corrected { measurement, action, note } => {
            Entry::Corrected { measurement: *measurement, action: *action, note: note.trim().to_owned() }
        }
        TypedBody::Rested { .. } => rested(what)?,
        TypedBody::BatteryVolts { typed, stands } => Entry::BatteryVolts {
            volts: refused("typed", battery_volts(typed, shape.cells_per_battery))?,
            stands: *stands,
        },
        TypedBody::StateVolts { .. } => state_volts(what, place, shape)?,
        TypedBody::Recheck { step, hours, reason } => Entry::Recheck {
            step: *step,
            hours: refused("hours", typed::number(hours, bounds::RECHECK_HOURS))?,
            reason: reason.trim().to_owned(),
        },
        TypedBody::Only { step } => Entry::Only { step: *step },
        TypedBody::Job { job } => Entry::Job { job: *job },
        TypedBody::JobTask { task, none_here } => Entry::JobTask { task: *task, none_here: *none_here },
        TypedBody::Polarity { typed, stands } => {
            let most = bounds::VOLTAGE.high;
            let either_way = Bounds { low: -most, ..bounds::VOLTAGE };
            Entry::Polarity { volts: refused("typed", typed::number(typed, either_way))?, stands: *stands }
        }
        TypedBody::StringVolts { typed } => {
            Entry::StringVolts { volts: refused("typed", string_volts(typed, shape.cells_in_series()))? }
        }
        TypedBody::AlongVolts { typed } => {
            Entry::AlongVolts { volts: refused("typed", string_volts(typed, shape.cells_in_series()))? }
        }
        TypedBody::Ohmic { typed: text, unit, tester, new_baseline, stands } => {
            let shown = refused("typed", typed::number(text, unit.range()))?;
            Entry::Ohmic {
                milliohms: refused("typed", resistance(shown, *unit))?,
                tester: tester.trim().to_owned(),
                new_baseline: *new_baseline,
                stands: *stands,
            }
        }
        TypedBody::Joint { entry } => Entry::Joint { entry: entry.parse(model)? },
        TypedBody::Test { test } => Entry::Test { test: test.parse(place, shape, model)? },
        TypedBody::CaseTemperature { temperature } => {
            let t = refused("temperature", typed::temperature(&temperature.typed, temperature.unit))?;
            Entry::CaseTemperature { celsius: t.celsius() }
        }
        TypedBody::InstrumentCheck { instrument, shown, should, stands } => {
            instrument_check(*instrument, shown, should.as_ref(), *stands)?
        }
        TypedBody::Level { step, typed, unit } => level(*step, typed.as_ref(), *unit)?,
        TypedBody::Water { typed, unit, to_mark, by_kit, stands, poured } => Entry::Water {
            millilitres: match poured.amount {
                AmountKnown::Unknown => unmeasured(typed, *to_mark)?,
                _ => millilitres(typed, *unit, (place, place.cells(shape).len()), model)?,
            },
            to_mark: *to_mark,
            by_kit: *by_kit,
            stands: *stands,
            poured: *poured,
        },
        TypedBody::Spilled { spill, typed, unit, note } => Entry::Spilled {
            spill: *spill,
            millilitres: filled(typed.as_ref())
                .map(|text| millilitres(text, *unit, (place, place.cells(shape).len()), model))
                .transpose()?,
            note: note.trim().to_owned(),
        },
        TypedBody::Lamp { lamp } => Entry::Lamp { lamp: *lamp },
        TypedBody::Done { work, note } => Entry::Done { work: *work, note: note.trim().to_owned() },
        TypedBody::LeftAs { how } => Entry::LeftAs { how: *how },
        TypedBody::Closed { item, none_here } => {
            let closed = Entry::Closed { item: *item, none_here: *none_here };
            refused("none_here", closed.checked(place, shape))?
        }
        TypedBody::Note { text } => Entry::Note { text: text.trim().to_owned() },
        TypedBody::Withdrawn { entry } => Entry::Withdrawn { entry: entry.clone() },
    })
}
