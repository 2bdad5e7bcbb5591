//! What goes through each string and each joint of a bank.

use super::described::rail_beyond;
use super::resistances::{Resistances, ShareOrWiring, WiringKnown};
use crate::joints::{Joint, JointPart, Pole};
use crate::parallel_share::shares;

/// Currents of the strings for one A of the bank.
#[derive(Debug, Clone, PartialEq)]
pub struct StringCurrents {
    /// String by string.
    amperes: Vec<f64>,
    /// Strings that plus and minus are taken off at on rails, 0 is A; none: at busbars, or not told.
    taken_off: Option<[usize; 2]>,
}

impl StringCurrents {
    /// As a clamp meter read them, whatever the bank gave then; none where nothing flowed.
    pub fn clamped(amperes: &[f64], taken_off: Option<[usize; 2]>) -> Option<Self> {
        let sum: f64 = amperes.iter().sum();
        let of_one = || amperes.iter().map(|own| own / sum).collect();
        (sum.abs() > f64::EPSILON).then(|| Self { amperes: of_one(), taken_off })
    }

    /// Current through a joint for one A of the bank; none: no such string.
    pub fn through(&self, joint: Joint) -> Option<f64> {
        let string = usize::from(joint.battery.string);
        let own = *self.amperes.get(string)?;
        Some(match self.taken_off {
            Some(at) if joint.part == JointPart::Lead => {
                rail_beyond(&self.amperes, string, at[usize::from(joint.pole == Pole::Negative)])
            }
            _ => own,
        })
    }
}

/// Currents of the strings as the wiring shares them (ST-1); none where nobody told how they come together.
///
/// # Errors
/// [`ShareOrWiring`] for what cannot be.
pub fn string_currents(known: &WiringKnown<'_>) -> Result<Option<StringCurrents>, ShareOrWiring> {
    let (bank, _) = Resistances::of(known);
    let Some(own) = bank.bank(1.0, &[], None)? else { return Ok(None) };
    let amperes = shares(&own)?.shares;
    Ok(Some(StringCurrents { amperes, taken_off: known.wiring.taken_off_rails() }))
}
