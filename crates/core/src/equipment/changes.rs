//! What was set anew at the sources of a bank, from one telling to the next.

use super::{Equipment, Source, SourceRef, judged::referred};
use jiff::civil::Date;
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

impl SourceChange {
    /// True when both tell of one setting of one source, or of sources that came or went.
    fn is_of(&self, other: &Self) -> bool {
        match (self, other) {
            (Self::Set { source: a, setting: x, .. }, Self::Set { source: b, setting: y, .. }) => {
                a.number == b.number && x == y
            }
            (Self::Came { .. }, Self::Came { .. }) | (Self::Went { .. }, Self::Went { .. }) => true,
            _ => false,
        }
    }
}

/// One telling of the equipment.
#[derive(Debug, Clone, PartialEq)]
pub struct Telling {
    /// Its day.
    pub day: Date,
    /// True where the sources were set anew at the bank; false where something was only told, or put right.
    pub set_anew: bool,
    /// The equipment.
    pub equipment: Equipment,
}

/// What was set anew on each day, from every telling in order. What is only told later puts right what was set
/// there before, and is no change by itself.
pub fn changes_by_day(tellings: &[Telling]) -> Vec<(Date, Vec<SourceChange>)> {
    let mut days: Vec<(Date, &Equipment, Vec<SourceChange>)> = Vec::new();
    for pair in tellings.windows(2) {
        let [before, own] = pair else { continue };
        match days.last_mut() {
            Some((day, found, changes)) if own.set_anew && *day == own.day => {
                *changes = source_changes(found, &own.equipment);
            }
            _ if own.set_anew => {
                let changes = source_changes(&before.equipment, &own.equipment);
                days.push((own.day, &before.equipment, changes));
            }
            Some((_, found, changes)) => {
                let mut put_right = source_changes(found, &own.equipment);
                put_right.retain(|own| changes.iter().any(|known| known.is_of(own)));
                *changes = put_right;
            }
            None => {}
        }
    }
    days.into_iter().map(|(day, _, changes)| (day, changes)).filter(|(_, all)| !all.is_empty()).collect()
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
    fn what_is_only_told_puts_right_what_was_set_and_is_no_change_by_itself() {
        let told = |day: i8, set_anew, absorption, float| {
            let settings =
                ChargerSettings { absorption: Some(absorption), float, ..ChargerSettings::default() };
            let equipment = Equipment { charger: settings, ..Equipment::default() };
            Telling { day: jiff::civil::date(2026, 10, day), set_anew, equipment }
        };
        let said = |all: &[Telling]| -> Vec<(i8, Option<f64>, Option<f64>)> {
            let days = changes_by_day(all).into_iter();
            days.flat_map(|(day, changes)| changes.into_iter().map(move |change| (day.day(), change)))
                .map(|(day, change)| match change {
                    SourceChange::Set { found, left, .. } => (day, found, left),
                    other => panic!("{other:?}"),
                })
                .collect()
        };
        let first = [told(1, false, 57.0, None), told(2, true, 58.2, None), told(2, true, 58.4, None)];
        assert_eq!(said(&first), [(2, Some(57.0), Some(58.4))], "two presses on one day are one change");
        // told later: the float is nothing that was set; the absorption that was typed wrong is put right
        let later = [first.to_vec(), vec![told(9, false, 59.2, Some(54.0))]].concat();
        assert_eq!(said(&later), [(2, Some(57.0), Some(59.2))]);
        let anew = [later, vec![told(20, true, 59.2, Some(54.6))]].concat();
        assert_eq!(said(&anew), [(2, Some(57.0), Some(59.2)), (20, Some(54.0), Some(54.6))]);
        assert_eq!(said(&[told(1, false, 57.0, None), told(5, false, 58.0, None)]), []);
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
