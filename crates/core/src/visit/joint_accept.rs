//! Whether something may be written down of joints, and what it is asked about.

use super::joint_refused::{JointQuestion, JointRefused};
use super::{Entry, JointEntry, Place, VisitSheet};
use crate::bank::BankShape;
use crate::joints::JointPart;
use crate::quantity::{OutOfRange, bounds};

/// mΩ of a bolted joint at which a probe may have stood elsewhere (our choice, no source).
const ODD_MILLIOHMS: f64 = 5.0;
/// A torque may be off by this share of what the model asks for before it is asked about (our choice, no source).
const TORQUE_OFF: f64 = 0.20;

fn at(field: &'static str) -> impl Fn(OutOfRange) -> JointRefused {
    move |why| JointRefused::OutOfRange { field, why }
}

fn placed(fits: bool, wanted: &'static str, place: Place) -> Result<(), JointRefused> {
    if fits { Ok(()) } else { Err(JointRefused::OtherPlace { wanted, at: place.said() }) }
}

impl JointEntry {
    /// Whether it can be at a place of a bank, whoever wrote it down: the ranges that a typed one passes.
    ///
    /// # Errors
    /// [`JointRefused`] with the figure and what is accepted.
    pub(super) fn possible(&self, place: Place, shape: &BankShape) -> Result<(), JointRefused> {
        match self {
            Self::Drop { millivolts, amperes, resolution, .. } => {
                placed(matches!(place, Place::Battery(_)), "a battery", place)?;
                bounds::JOINT_DROP.check(*millivolts).map_err(at("millivolts"))?;
                bounds::TEST_CURRENT.check(*amperes).map_err(at("amperes"))?;
                bounds::METER_RESOLUTION.check(*resolution).map_err(at("resolution")).map(|_| ())
            }
            Self::Current { amperes, .. } => {
                placed(matches!(place, Place::String(_)), "a string", place)?;
                if shape.parallel < 2 {
                    return Err(JointRefused::OneString);
                }
                bounds::STRING_CURRENT.check(*amperes).map_err(at("amperes")).map(|_| ())
            }
            Self::Torqued { newton_metres, asked, .. } => {
                placed(matches!(place, Place::Battery(_) | Place::Bank), "a battery or the bank", place)?;
                for torque in newton_metres.iter().chain(asked) {
                    bounds::TORQUE.check(*torque).map_err(at("torque"))?;
                }
                Ok(())
            }
        }
    }
}

/// Decides about an entry of the joints.
///
/// # Errors
/// [`JointRefused`]; nothing is added then.
pub(super) fn accept(
    place: Place,
    entry: &JointEntry,
    (shape, sheet): (&BankShape, &VisitSheet),
) -> Result<Option<JointQuestion>, JointRefused> {
    entry.possible(place, shape)?;
    Ok(match entry {
        JointEntry::Drop { pole, part, millivolts, amperes, stands, .. } => {
            let leads = sheet.wiring.as_ref().map(|w| w.leads(shape.parallel)).unwrap_or_default();
            let is_end = place.battery().is_some_and(|b| {
                let end = if *pole == crate::joints::Pole::Positive { 1 } else { shape.series };
                b.battery == end && leads.contains(&(b.string, *pole))
            });
            if *part == JointPart::Lead && !is_end {
                return Err(JointRefused::NoLead);
            }
            // Under the most current that can go through it.
            let odd = !stands && millivolts / amperes > ODD_MILLIOHMS;
            odd.then_some(JointQuestion::FarTooMuch { millivolts: *millivolts, amperes: *amperes })
        }
        JointEntry::Current { amperes, stands } => {
            let others = sheet.standing().filter_map(|k| match &k.entry {
                Entry::Joint { entry: JointEntry::Current { amperes, .. } } if k.place != place => {
                    Some(*amperes)
                }
                _ => None,
            });
            let sum: f64 = others.sum();
            let against = !stands && sum * amperes < 0.0;
            against.then_some(JointQuestion::AgainstTheOthers { amperes: *amperes })
        }
        JointEntry::Torqued { newton_metres: Some(set), asked: Some(asked), stands: false, .. } => {
            let off = (set / asked - 1.0).abs() > TORQUE_OFF;
            off.then_some(JointQuestion::OffTorque { set: *set, asked: *asked })
        }
        JointEntry::Torqued { .. } => None,
    })
}
