//! What was done about something that was found, and how it was left.

use super::{Check, Entry, Place, SeenFinding, VisitEntry, VisitSheet};
use crate::finding::{self, Finding};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use strum::VariantArray;

/// What was done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Repair {
    /// Cleaned.
    Cleaned,
    /// Taken apart, cleaned and put together anew.
    Remade,
    /// Tightened.
    Tightened,
    /// Replaced.
    Replaced,
    /// Topped up.
    ToppedUp,
    /// Something that was not there was fitted.
    Fitted,
    /// Something was taken away, or moved clear.
    Cleared,
    /// Nothing was done.
    LeftAsItIs,
}

impl Repair {
    /// True when a torque may be written down with it.
    pub fn takes_torque(self) -> bool {
        matches!(self, Self::Remade | Self::Tightened | Self::Replaced | Self::Fitted)
    }
}

/// How it was left.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Left {
    /// In order.
    PutRight,
    /// Better, and not yet in order.
    Better,
    /// As it was found.
    AsFound,
}

/// One repair at a place: of something found on this visit or before, or without a finding.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Repaired {
    /// What was looked at.
    pub check: Check,
    /// Key of the kind that was found there.
    pub found: String,
    /// What was done.
    pub repair: Repair,
    /// How it was left.
    pub left: Left,
    /// Torque that was set, N·m.
    #[serde(default)]
    pub torque: Option<f64>,
    /// The part that was used.
    #[serde(default)]
    pub part: String,
    /// In the technician's words.
    #[serde(default)]
    pub note: String,
}

/// Something that was found on a visit, with what was done about it there.
#[derive(Debug, Clone, PartialEq)]
pub struct FoundAndDone<'a> {
    /// The entry that found it.
    pub entry: &'a VisitEntry,
    /// What was looked at.
    pub check: Check,
    /// What was found.
    pub found: &'a SeenFinding,
    /// What was done about it, in the order it was written down.
    pub repairs: Vec<(&'a VisitEntry, &'a Repaired)>,
    /// How it was left.
    pub left: Left,
}

impl FoundAndDone<'_> {
    /// How bad it is as it was left: steady where it was put right, at most watch where it is better.
    pub fn severity(&self) -> Severity {
        match self.left {
            Left::PutRight => Severity::Steady,
            Left::Better => self.found.severity.min(Severity::Watch),
            Left::AsFound => self.found.severity,
        }
    }

    /// What is open of it as it was left; none where it was put right.
    pub fn open(&self) -> Option<Finding> {
        let left = SeenFinding { severity: self.severity(), ..self.found.clone() };
        let found = || finding::look::finding(&self.entry.id, self.entry.place, self.check, &left);
        (left.severity >= Severity::Watch).then(found)
    }
}

/// A repair of something that this visit did not find: it was found before, or nobody wrote it down.
#[derive(Debug, Clone, PartialEq)]
pub struct RepairedOnly<'a> {
    /// The entry.
    pub entry: &'a VisitEntry,
    /// Where.
    pub place: Place,
    /// What was done.
    pub repaired: &'a Repaired,
}

impl Check {
    /// What is usually done about what is found here, the likeliest first; anything else may be written down
    /// too (common practice, no source).
    pub fn usual_repairs(self) -> &'static [Repair] {
        use Repair::{Cleaned, Cleared, Fitted, LeftAsItIs, Remade, Replaced, Tightened, ToppedUp};
        match self {
            Self::Case => &[Replaced, Cleaned, LeftAsItIs],
            Self::Top => &[Cleaned, Cleared, LeftAsItIs],
            Self::Caps => &[Replaced, Fitted, Tightened, Cleaned, ToppedUp, LeftAsItIs],
            Self::Terminals => &[Cleaned, Remade, Tightened, Replaced, LeftAsItIs],
            Self::HoldDown => &[Tightened, Fitted, Replaced, LeftAsItIs],
            Self::Spacing | Self::Above => &[Cleared, Fitted, LeftAsItIs],
            Self::Cables => &[Remade, Replaced, Tightened, Cleared, LeftAsItIs],
            Self::Insulation | Self::Sensor => &[Fitted, Replaced, LeftAsItIs],
            Self::Fuse => &[Replaced, Fitted, Cleaned, Tightened, LeftAsItIs],
            Self::VentPath => &[Cleared, Cleaned, Replaced, LeftAsItIs],
            Self::Tray => &[Cleaned, LeftAsItIs],
        }
    }

    /// True when a joint of it has a torque.
    pub fn has_torque(self) -> bool {
        matches!(self, Self::Terminals | Self::HoldDown | Self::Cables | Self::Fuse)
    }
}

impl VisitSheet {
    /// Everything that was found, with what was done about it and how it was left. The last word counts: a
    /// repair says how it was left, *fine* there after it was found says that it is in order, and what is
    /// found again after either stands as it was found.
    pub fn found_and_done(&self) -> Vec<FoundAndDone<'_>> {
        let mut all: Vec<FoundAndDone<'_>> = self
            .found()
            .map(|(entry, check, found)| {
                let left = Left::AsFound;
                FoundAndDone { entry, check, found, repairs: Vec::new(), left }
            })
            .collect();
        let mut met: HashSet<&str> = HashSet::new();
        for written in self.standing() {
            met.insert(&written.id);
            for own in all.iter_mut().filter(|own| own.entry.place == written.place) {
                let after = met.contains(own.entry.id.as_str());
                match &written.entry {
                    Entry::Repaired { repaired } if repaired.repairs(own.check, &own.found.kind) => {
                        own.repairs.push((written, repaired));
                        own.left = if after { repaired.left } else { own.left };
                    }
                    Entry::Checked { check, found: None, .. } if after && *check == own.check => {
                        own.left = Left::PutRight;
                    }
                    _ => {}
                }
            }
        }
        all
    }

    /// Repairs of what this visit did not find itself.
    pub fn repaired_only(&self) -> Vec<RepairedOnly<'_>> {
        let found = self.found_and_done();
        let about =
            |entry: &VisitEntry| found.iter().any(|f| f.repairs.iter().any(|(r, _)| r.id == entry.id));
        self.standing()
            .filter_map(|entry| match &entry.entry {
                Entry::Repaired { repaired } if !about(entry) => {
                    Some(RepairedOnly { entry, place: entry.place, repaired })
                }
                _ => None,
            })
            .collect()
    }
}

impl Repaired {
    /// True when it is a repair of what was found at a check.
    pub fn repairs(&self, check: Check, kind: &str) -> bool {
        self.check == check && self.found == kind
    }
}
