//! CH-4: how long a charge takes, and when a bank is full.

use crate::battery_model::Construction;
use crate::quantity::{OutOfRange, bounds};
use serde::{Deserialize, Serialize};

/// Ah stored for each Ah while all the current is taken (common practice, no source).
const BULK: f64 = 0.95;
/// Charge at which absorption begins: 0.93 less 1.3 times the rate, held to these (by the cell model).
const ABSORBS_FROM: [f64; 2] = [0.5, 0.95];

/// Share of C20 at or under which the current of a full bank stands (CH-4; common practice, no source).
pub fn tail(construction: Construction) -> f64 {
    if construction.has_caps() { 0.02 } else { 0.01 }
}

/// Ah that go in for each that came out (CH-4; common practice, no source).
pub fn returned(construction: Construction) -> f64 {
    if construction.has_caps() { 1.10 } else { 1.05 }
}

/// What a source gives a bank of a size.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Acceptance {
    /// Capacity, Ah.
    capacity: f64,
    /// Current on offer, A.
    offered: f64,
    /// Charge at which it begins to fall, share.
    absorbs_from: f64,
    /// A at or under which the bank is full.
    end: f64,
    /// h; infinite where the offer is no more than the tail.
    tau: f64,
    returned: f64,
}

impl Acceptance {
    /// A current, A, offered to a capacity, Ah.
    pub fn new(offered: f64, capacity: f64, construction: Construction) -> Self {
        let absorbs_from = (0.93 - 1.3 * offered / capacity).clamp(ABSORBS_FROM[0], ABSORBS_FROM[1]);
        let end = tail(construction) * capacity;
        // The curve of one bank is one curve: its time goes by what flooded cells return.
        let tau = if offered > end {
            1.10 * (1.0 - absorbs_from) * capacity / (offered - end)
        } else {
            f64::INFINITY
        };
        Self { capacity, offered, absorbs_from, end, tau, returned: returned(construction) }
    }

    /// Hours from a charge, share, until all of the current is no longer taken.
    pub fn bulk_hours(&self, from: f64) -> f64 {
        (self.absorbs_from - from).max(0.0) * self.capacity / (BULK * self.offered)
    }

    /// Hours from there, or from higher up, until it is full.
    pub fn absorption_hours(&self, from: f64) -> f64 {
        let wanted = self.returned * (1.0 - from.max(self.absorbs_from)) * self.capacity;
        if wanted <= 0.0 {
            return 0.0;
        }
        if self.tau.is_infinite() {
            return wanted / self.offered;
        }
        self.tau * ((self.end + wanted / self.tau) / self.end).ln()
    }

    /// Where a bank at a charge, share, stands after so many hours, and the Ah that it took.
    pub fn after(&self, from: f64, hours: f64) -> (f64, f64) {
        if self.offered <= 0.0 || hours <= 0.0 {
            return (from, 0.0);
        }
        let bulk = self.bulk_hours(from).min(hours);
        let reached = from + BULK * self.offered * bulk / self.capacity;
        let left = hours - bulk;
        let in_bulk = self.offered * bulk;
        if left <= 0.0 {
            return (reached.min(1.0), in_bulk);
        }
        let wanted = (self.returned * (1.0 - reached) * self.capacity).max(0.0);
        let taken = if self.tau.is_infinite() {
            (self.offered * left).min(wanted)
        } else {
            let current = self.end + wanted / self.tau;
            (self.tau * current * (1.0 - (-left / self.tau).exp())).min(wanted)
        };
        (reached + taken / (self.returned * self.capacity), in_bulk + taken)
    }
}

/// A charge from a state to full.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TimeToFull {
    /// Hours of bulk.
    pub bulk: f64,
    /// Hours of absorption.
    pub absorption: f64,
    /// Charge at which the one ends and the other begins, per cent.
    pub absorbs_from: f64,
    /// Ah that go in.
    pub ampere_hours: f64,
}

impl TimeToFull {
    /// All of it, h.
    pub fn hours(&self) -> f64 {
        self.bulk + self.absorption
    }
}

/// How long a current at the battery, A, loads off, takes to fill a capacity, Ah, from a charge, per cent; none: it never does,
/// since nothing flows.
///
/// # Errors
/// [`OutOfRange`] for a figure that cannot be.
pub fn time_to_full(
    construction: Construction,
    capacity: f64,
    amperes: f64,
    from: f64,
) -> Result<Option<TimeToFull>, OutOfRange> {
    bounds::BANK_CAPACITY.check(capacity)?;
    bounds::STATE_OF_CHARGE.check(from)?;
    bounds::NET_CURRENT.check(amperes)?;
    if amperes <= 0.0 {
        return Ok(None);
    }
    let own = Acceptance::new(amperes, capacity, construction);
    let share = from / 100.0;
    let bulk = own.bulk_hours(share);
    let wanted = own.returned * (1.0 - share.max(own.absorbs_from)) * capacity;
    Ok(Some(TimeToFull {
        bulk,
        absorption: own.absorption_hours(share),
        absorbs_from: 100.0 * own.absorbs_from,
        ampere_hours: amperes * bulk + wanted.max(0.0),
    }))
}
