//! Whether an entry that came from elsewhere can be: the ranges that a typed one passes.

use super::{Check, Entry, InstrumentChecked, JointRefused, Place, TestRefused};
use crate::bank::BankShape;
use crate::quantity::{OutOfRange, bounds};
use crate::severity::Severity;
use crate::water::Level;
use thiserror::Error;

/// Why an entry cannot be.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum ImpossibleEntry {
    /// A figure outside its range.
    #[error("{0}")]
    Figure(#[from] OutOfRange),
    /// Something found that is not found at this check.
    #[error("\u{201c}{kind}\u{201d} is nothing that is found at {check:?}")]
    Found {
        /// What is said to be found.
        kind: String,
        /// Where it was looked.
        check: Check,
    },
    /// Found, and neither watch nor act.
    #[error("what was found is watch or act")]
    Severity,
    /// A line of the closing list that every bank has.
    #[error("every bank has that; only an alarm, a lamp and a float switch can be missing")]
    NeverMissing,
    /// A line of a job that every bank has.
    #[error("that is never missing; only a coating, vents, old batteries and a charge in storage can be")]
    TaskNeverMissing,
    /// Something of a test that cannot be.
    #[error("{0}")]
    Test(#[from] TestRefused),
    /// Something of joints that cannot be.
    #[error("{0}")]
    Joint(#[from] JointRefused),
    /// A place that the bank does not have.
    #[error("the bank has no {0}")]
    Place(String),
}

impl Entry {
    /// The entry itself when it can be at a place of a bank.
    ///
    /// # Errors
    /// [`ImpossibleEntry`] with the figure and what is accepted.
    pub fn checked(self, place: Place, shape: &BankShape) -> Result<Self, ImpossibleEntry> {
        if !place.on(shape) {
            return Err(ImpossibleEntry::Place(place.said()));
        }
        match &self {
            Self::Checked { check, found, measured } => {
                let range = if *check == Check::HoldDown { bounds::PLAY } else { bounds::TRAY_VOLTS };
                measured.map(|m| range.check(m)).transpose()?;
                if let Some(found) = found {
                    found.measured.map(|m| range.check(m)).transpose()?;
                    if check.kind(&found.kind).is_none() {
                        return Err(ImpossibleEntry::Found { kind: found.kind.clone(), check: *check });
                    }
                    if !matches!(found.severity, Severity::Watch | Severity::Act) {
                        return Err(ImpossibleEntry::Severity);
                    }
                }
            }
            Self::Closed { item, none_here: true } if !item.may_be_missing() => {
                return Err(ImpossibleEntry::NeverMissing);
            }
            Self::Repaired { repaired } => {
                repaired.torque.map(|t| bounds::TORQUE.check(t)).transpose()?;
                if repaired.check.kind(&repaired.found).is_none() {
                    return Err(ImpossibleEntry::Found {
                        kind: repaired.found.clone(),
                        check: repaired.check,
                    });
                }
            }
            Self::Rested { conditions } => {
                for hours in conditions.hours_since_charge.iter().chain(&conditions.hours_since_load) {
                    bounds::HOURS.check(*hours)?;
                }
            }
            Self::StateVolts { volts, hours, amperes, .. } => {
                bounds::VOLTAGE.check(*volts)?;
                hours.map(|h| bounds::HOURS.check(h)).transpose()?;
                amperes.map(|a| bounds::LOAD_CURRENT.check(a)).transpose()?;
            }
            Self::Polarity { volts, .. } => {
                bounds::VOLTAGE.check(volts.abs())?;
            }
            Self::JobTask { task, none_here: true } if !task.may_be_missing() => {
                return Err(ImpossibleEntry::TaskNeverMissing);
            }
            Self::Recheck { hours, .. } => {
                bounds::RECHECK_HOURS.check(*hours)?;
            }
            Self::BatteryVolts { volts, .. } | Self::StringVolts { volts } | Self::AlongVolts { volts } => {
                bounds::VOLTAGE.check(*volts)?;
            }
            Self::Ohmic { milliohms, .. } => {
                bounds::RESISTANCE.check(*milliohms)?;
            }
            Self::InstrumentCheck { instrument, shown, should, .. } => {
                InstrumentChecked { instrument: *instrument, shown: *shown, should: *should }.possible()?;
            }
            Self::Test { test } => test.possible(place, shape)?,
            Self::Joint { entry } => entry.possible(place, shape)?,
            Self::CaseTemperature { celsius } => {
                bounds::ELECTROLYTE_TEMPERATURE.check(*celsius)?;
            }
            Self::Level { level: Level::Millimetres { mm } } => {
                bounds::LEVEL.check(*mm)?;
            }
            Self::Water { millilitres, .. } => {
                #[expect(clippy::cast_precision_loss, reason = "a bank has at most 192 cells")]
                let cells = place.cells(shape).len().max(1) as f64;
                bounds::VOLUME.check(*millilitres / cells)?;
            }
            Self::Spilled { millilitres: Some(millilitres), .. } => {
                bounds::VOLUME.check(*millilitres)?;
            }
            Self::Level { level: Level::Step { .. } }
            | Self::Spilled { .. }
            | Self::Lamp { .. }
            | Self::Confirmed { .. }
            | Self::Step { .. }
            | Self::Only { .. }
            | Self::Job { .. }
            | Self::JobTask { .. }
            | Self::NotHere { .. }
            | Self::Corrected { .. }
            | Self::Done { .. }
            | Self::LeftAs { .. }
            | Self::Closed { .. }
            | Self::Note { .. }
            | Self::Withdrawn { .. } => {}
        }
        Ok(self)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bank::Layout;
    use crate::visit::SeenFinding;
    use crate::water::Poured;

    fn shape() -> BankShape {
        let layout = Layout::default();
        BankShape { system_voltage: 12, cells_per_battery: 3, series: 2, parallel: 1, layout }
            .checked()
            .unwrap()
    }

    fn at(place: &str, entry: Entry) -> Result<Entry, String> {
        entry.checked(place.parse().unwrap(), &shape()).map_err(|e| e.to_string())
    }

    #[test]
    fn figures_that_no_form_would_take_are_refused_with_what_is_accepted() {
        for (entry, part) in [
            (Entry::BatteryVolts { volts: 1e300, stands: true }, "accepted is 0.0 to 600.0 V"),
            (Entry::StringVolts { volts: f64::NAN }, "voltage"),
            (
                Entry::Ohmic { milliohms: 0.0, tester: String::new(), new_baseline: false, stands: true },
                "internal resistance",
            ),
            (Entry::CaseTemperature { celsius: 900.0 }, "electrolyte temperature"),
            (Entry::Level { level: Level::Millimetres { mm: -1e9 } }, "level over the plates"),
            (
                Entry::Water {
                    millilitres: -3.0,
                    to_mark: true,
                    by_kit: false,
                    stands: true,
                    poured: Poured::default(),
                },
                "volume",
            ),
            (
                Entry::Water {
                    millilitres: 1e8,
                    to_mark: true,
                    by_kit: false,
                    stands: true,
                    poured: Poured::default(),
                },
                "volume",
            ),
        ] {
            let said = at("A1", entry).unwrap_err();
            assert!(said.contains(part), "{said}");
        }
        assert!(at("A1", Entry::BatteryVolts { volts: 6.3, stands: false }).is_ok());
        // six cells of the whole bank take six times as much as one
        assert!(
            at(
                "",
                Entry::Water {
                    millilitres: 500_000.0,
                    to_mark: true,
                    by_kit: false,
                    stands: true,
                    poured: Poured::default()
                }
            )
            .is_ok()
        );
    }

    #[test]
    fn places_and_findings_are_those_of_the_trade() {
        assert_eq!(at("B1", Entry::Note { text: "x".into() }).unwrap_err(), "the bank has no B1");
        let found = |kind: &str, severity| {
            let found = SeenFinding { kind: kind.into(), severity, note: String::new(), measured: None };
            at("A1", Entry::Checked { check: Check::HoldDown, found: Some(found), measured: None })
        };
        let known = Check::HoldDown.kinds()[0].key;
        assert!(found(known, Severity::Act).is_ok());
        assert_eq!(found(known, Severity::Steady).unwrap_err(), "what was found is watch or act");
        assert!(found("a ghost", Severity::Act).unwrap_err().contains("a ghost"));
    }
}
