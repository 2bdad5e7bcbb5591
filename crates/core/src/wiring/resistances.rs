//! The resistances of a bank as the network of ST-1 takes them.

use super::described::{Coupling, Wiring, WiringError};
use crate::bank::{BankShape, BatteryAddress};
use crate::battery_model::BatteryModel;
use crate::joints::{Joint, JointPart, Pole, joints_of};
use crate::ohmic::usual_resistance;
use crate::parallel_share::{Link, ParallelBank, ParallelString, ShareError};
use crate::round::median;
use std::collections::BTreeMap;

/// What is known of the resistances of a bank.
#[derive(Debug, Clone, Copy)]
pub struct WiringKnown<'a> {
    /// The bank.
    pub shape: &'a BankShape,
    /// Its batteries.
    pub model: &'a BatteryModel,
    /// How it is wired.
    pub wiring: &'a Wiring,
    /// Resistances of batteries that were read last, mΩ.
    pub batteries: &'a BTreeMap<BatteryAddress, f64>,
    /// Joints that were read last, mΩ.
    pub joints: &'a BTreeMap<Joint, f64>,
    /// Those of them that are to be remade.
    pub bad: &'a [Joint],
}

/// How well the resistance of the batteries is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BatteryResistance {
    /// Every one was read.
    Read,
    /// Some were read; the others count as the middle of these.
    Some,
    /// None was read: each counts as usual for its size.
    Usual,
}

/// What stands in the way of the current of a string, mΩ.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StringPath {
    /// Its batteries.
    pub batteries: f64,
    /// Its links.
    pub links: f64,
    /// Joints over the middle of all of them.
    pub joints: f64,
    /// Cables of the rails between its ends and the take-off, or its leads.
    pub leads: f64,
}

/// Why a wiring has no shares.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum ShareOrWiring {
    /// The wiring.
    #[error(transparent)]
    Wiring(#[from] WiringError),
    /// The network.
    #[error(transparent)]
    Share(#[from] ShareError),
}

/// The bank in mΩ, before anything is changed.
pub(super) struct Resistances<'a> {
    pub(super) known: &'a WiringKnown<'a>,
    pub(super) usual: f64,
    middle_joint: f64,
}

impl<'a> Resistances<'a> {
    pub(super) fn of(known: &'a WiringKnown<'a>) -> (Self, BatteryResistance) {
        let read = |b: BatteryAddress| known.batteries.get(&b).copied();
        let mut all: Vec<f64> = known.shape.batteries().filter_map(read).collect();
        let whole = all.len() == known.shape.batteries().count();
        let resistance = match (all.is_empty(), whole) {
            (true, _) => BatteryResistance::Usual,
            (_, true) => BatteryResistance::Read,
            _ => BatteryResistance::Some,
        };
        let usual = median(&mut all).unwrap_or_else(|| {
            usual_resistance(known.shape.cells_per_battery, known.model.c20.ampere_hours())
        });
        let middle_joint = median(&mut known.joints.values().copied().collect::<Vec<_>>()).unwrap_or(0.0);
        (Self { known, usual, middle_joint }, resistance)
    }

    fn battery(&self, own: BatteryAddress, renewed: Option<BatteryAddress>) -> f64 {
        let read = self.known.batteries.get(&own).copied().filter(|_| renewed != Some(own));
        read.unwrap_or(self.usual)
    }

    /// A joint over the middle of all of them: what is alike everywhere is in the lugs of the cables.
    fn over(&self, joint: Joint, remade: &[Joint]) -> f64 {
        let own = self.known.joints.get(&joint).filter(|_| !remade.contains(&joint));
        own.map_or(0.0, |own| own - self.middle_joint)
    }

    pub(super) fn path(
        &self,
        string: u8,
        remade: &[Joint],
        renewed: Option<BatteryAddress>,
    ) -> Result<StringPath, WiringError> {
        let shape = self.known.shape;
        let own = |b: &BatteryAddress| b.string == string;
        let link = self.known.wiring.link.map(|link| link.milliohms()).transpose()?.unwrap_or(0.0);
        // A lead to a busbar carries what its string gives; one of a rail stands in the rail.
        let leads = match &self.known.wiring.coupling {
            Some(Coupling::Busbars { .. }) => self.known.wiring.leads(shape.parallel),
            _ => Vec::new(),
        };
        let joints = joints_of(shape, &leads).into_iter().filter(|j| j.battery.string == string);
        Ok(StringPath {
            batteries: shape.batteries().filter(own).map(|b| self.battery(b, renewed)).sum(),
            links: link * f64::from(shape.series.saturating_sub(1)),
            joints: joints.map(|j| self.over(j, remade)).sum(),
            leads: 0.0,
        })
    }

    pub(super) fn bank(
        &self,
        amperes: f64,
        remade: &[Joint],
        renewed: Option<BatteryAddress>,
    ) -> Result<Option<ParallelBank>, WiringError> {
        let (shape, wiring) = (self.known.shape, self.known.wiring);
        let Some(coupling) = &wiring.coupling else { return Ok(None) };
        let string = |string| {
            let own = self.path(string, remade, renewed)?;
            Ok(ParallelString { volts: 0.0, milliohms: (own.batteries + own.links + own.joints).max(0.05) })
        };
        let strings: Vec<ParallelString> =
            (0..shape.parallel).map(string).collect::<Result<_, WiringError>>()?;
        let take_off = coupling.take_off(shape.parallel)?;
        let rail = |pole| -> Result<Vec<Link>, WiringError> {
            let Coupling::Rails { plus_at, minus_at, .. } = coupling else { return Ok(Vec::new()) };
            let at = if pole == Pole::Positive { *plus_at } else { *minus_at };
            let cables = coupling.cables(pole, shape.parallel)?;
            let mut all = Vec::with_capacity(cables.len());
            for (gap, cable) in (1u8..).zip(cables) {
                // The stacked lug of a cable stands at the post that is nearer to the take-off.
                let (string, battery) = (
                    if gap < at { gap } else { gap - 1 },
                    if pole == Pole::Positive { 1 } else { shape.series },
                );
                let joint =
                    Joint { battery: BatteryAddress { string, battery }, pole, part: JointPart::Lead };
                all.push(Link::Measured {
                    milliohms: (cable.milliohms()? + self.over(joint, remade)).max(0.0),
                });
            }
            Ok(all)
        };
        let (positive, negative) = (rail(Pole::Positive)?, rail(Pole::Negative)?);
        Ok(Some(ParallelBank { strings, positive, negative, take_off, amperes }))
    }
}
