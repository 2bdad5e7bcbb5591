//! What was set anew at the sources of a bank, from one telling to the next.

use super::{Equipment, Source, SourceRef, judged::referred};
use serde::{Deserialize, Serialize};

/// One thing a source is set to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Setting {
    /// Volts of absorption, V of the bank.
    Absorption,
    /// Hours that absorption is held, h.
    AbsorptionHours,
    /// Volts of float, V of the bank.
    Float,
    /// Volts of equalize, V of the bank.
    Equalize,
}

impl Setting {
    /// All of them, in the order of a charge.
    pub const ALL: [Self; 4] = [Self::Absorption, Self::AbsorptionHours, Self::Float, Self::Equalize];

    /// What a source has it at; none: off, or not told.
    pub fn of(self, source: &Source) -> Option<f64> {
        let own = &source.settings;
        match self {
            Self::Absorption => own.absorption,
            Self::AbsorptionHours => own.absorption_hours,
            Self::Float => own.float,
            Self::Equalize => own.equalize,
        }
    }
}

/// What was changed at a source.
#[derive(Debug, Clone, PartialEq)]
pub enum SourceChange {
    /// A setting was changed.
    Set {
        /// The source.
        source: SourceRef,
        /// Which setting.
        setting: Setting,
        /// What it was found at; none: it was off, or nobody had told it.
        found: Option<f64>,
        /// What it was left at; none: it was turned off.
        left: Option<f64>,
    },
    /// A source stands in the place of another, or was not there before.
    Came {
        /// What it is now.
        source: Source,
    },
    /// A source was taken away.
    Went {
        /// What it was.
        source: Source,
    },
}

fn same(found: Option<f64>, left: Option<f64>) -> bool {
    match (found, left) {
        (Some(found), Some(left)) => (found - left).abs() < 0.005,
        (None, None) => true,
        _ => false,
    }
}

/// What differs between two tellings of the equipment; a source is the same one where place and kind are.
pub fn source_changes(found: &Equipment, left: &Equipment) -> Vec<SourceChange> {
    let (before, after) = (found.sources(), left.sources());
    let mut all = Vec::new();
    for (i, (source, own)) in referred(&after).enumerate() {
        match before.get(i) {
            Some(old) if old.kind == own.kind => {
                let set = Setting::ALL.into_iter().map(|setting| (setting, setting.of(old), setting.of(own)));
                all.extend(
                    set.filter(|(_, found, left)| !same(*found, *left))
                        .map(|(setting, found, left)| SourceChange::Set { source, setting, found, left }),
                );
            }
            other => {
                all.extend(other.map(|old| SourceChange::Went { source: old.clone() }));
                all.push(SourceChange::Came { source: own.clone() });
            }
        }
    }
    let gone = before.into_iter().skip(after.len());
    all.extend(gone.map(|source| SourceChange::Went { source }));
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::charge::ChargerSettings;
    use crate::equipment::SourceKind;

    fn source(kind: SourceKind, absorption: f64, hours: Option<f64>) -> Source {
        let settings = ChargerSettings {
            absorption: Some(absorption),
            absorption_hours: hours,
            ..ChargerSettings::default()
        };
        Source { kind: Some(kind), settings, ..Source::default() }
    }

    fn with(first: &Source, others: &[Source]) -> Equipment {
        Equipment {
            charger: first.settings.clone(),
            kind: first.kind,
            others: others.to_vec(),
            ..Equipment::default()
        }
    }

    #[test]
    fn each_setting_that_differs_is_told_with_what_it_was() {
        let solar = |volts, hours| source(SourceKind::SolarController, volts, hours);
        let changes = source_changes(&with(&solar(57.0, None), &[]), &with(&solar(59.2, Some(3.0)), &[]));
        let told: Vec<_> = changes
            .iter()
            .map(|change| match change {
                SourceChange::Set { setting, found, left, .. } => (*setting, *found, *left),
                other => panic!("{other:?}"),
            })
            .collect();
        assert_eq!(
            told,
            [(Setting::Absorption, Some(57.0), Some(59.2)), (Setting::AbsorptionHours, None, Some(3.0))]
        );
    }

    #[test]
    fn what_stays_as_it_was_is_no_change() {
        let own = with(
            &source(SourceKind::SolarController, 57.0, Some(2.0)),
            &[source(SourceKind::Alternator, 57.6, None)],
        );
        assert_eq!(source_changes(&own, &own), []);
        assert_eq!(source_changes(&Equipment::default(), &Equipment::default()), []);
    }

    #[test]
    fn another_source_in_its_place_is_no_setting_of_the_old_one() {
        let solar = source(SourceKind::SolarController, 57.0, None);
        let shore = source(SourceKind::ShoreCharger, 58.8, None);
        let changes = source_changes(&with(&solar, &[]), &with(&shore, std::slice::from_ref(&solar)));
        assert_eq!(
            changes,
            [
                SourceChange::Went { source: solar.clone() },
                SourceChange::Came { source: shore.clone() },
                SourceChange::Came { source: solar.clone() },
            ]
        );
        let back = source_changes(&with(&solar, std::slice::from_ref(&shore)), &with(&solar, &[]));
        assert_eq!(back, [SourceChange::Went { source: shore }]);
    }
}
