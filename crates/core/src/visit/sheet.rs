//! The sheet of a visit: which entries stand, and what they say together.

use super::{Check, Entry, LeftAs, Place, SeenFinding, Step, StepState, VisitEntry, Work};
use crate::bank::{BankShape, BatteryAddress, CellAddress};
use crate::battery_model::BatteryModel;
use crate::log::{LogEntry, standing};
use crate::rest::{BatteryVolts, RestConditions, StringVolts};
use crate::water::{Level, LevelLamp, LevelStep, LowLevel, Spill};
use crate::wiring::Wiring;
use jiff::civil::Date;
use std::collections::{BTreeMap, BTreeSet, HashSet};

/// Everything written down on one visit, in order.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct VisitSheet {
    entries: Vec<VisitEntry>,
    stands: HashSet<String>,
    /// How a bank like this is usually left on that day.
    pub usually_left: LeftAs,
    /// How the bank was wired then; none: not told.
    pub wiring: Option<Wiring>,
    /// Its day where it was typed later than that: only the day tells when it was read then.
    pub typed_for: Option<Date>,
}

/// A look at a level after water went in there is another look: how it was found stays beside how it was
/// left.
fn looks_after_water(entries: &[VisitEntry], rows: &mut [LogEntry]) {
    let stands: HashSet<String> = standing(rows).into_iter().collect();
    let mut poured: Vec<Place> = Vec::new();
    for (written, row) in entries.iter().zip(rows) {
        match &written.entry {
            Entry::Water { .. } | Entry::Spilled { .. } if stands.contains(&written.id) => {
                poured.push(written.place);
            }
            Entry::Level { .. } => {
                let before = poured.iter().filter(|place| place.overlaps(written.place)).count();
                row.about = row.about.as_ref().map(|about| format!("{about} {before}"));
            }
            _ => {}
        }
    }
}

impl VisitSheet {
    /// From entries in the order they were made.
    pub fn new(entries: Vec<VisitEntry>) -> Self {
        let mut rows: Vec<LogEntry> = entries
            .iter()
            .map(|written| match &written.entry {
                Entry::Withdrawn { entry } => LogEntry::takes_back(&written.id, entry),
                other => LogEntry {
                    about: other.key().map(|key| format!("{key} {}", written.place)),
                    ..LogEntry::records(&written.id)
                },
            })
            .collect();
        looks_after_water(&entries, &mut rows);
        let stands: HashSet<String> = standing(&rows).into_iter().collect();
        let mut sheet =
            Self { entries, stands, usually_left: LeftAs::default(), wiring: None, typed_for: None };
        sheet.take_away_fine_before_found();
        sheet
    }

    /// Where something was found later, what was called fine before is not.
    fn take_away_fine_before_found(&mut self) {
        let mut found: HashSet<(Check, Place)> = HashSet::new();
        let mut gone = Vec::new();
        for written in self.entries.iter().rev().filter(|e| self.stands.contains(&e.id)) {
            match &written.entry {
                Entry::Checked { check, found: Some(_), .. } => {
                    found.insert((*check, written.place));
                }
                Entry::Checked { check, found: None, .. } if found.contains(&(*check, written.place)) => {
                    gone.push(written.id.clone());
                }
                _ => {}
            }
        }
        for id in &gone {
            self.stands.remove(id);
        }
    }

    /// Entries that stand, in the order they were made.
    pub fn standing(&self) -> impl Iterator<Item = &VisitEntry> {
        self.entries.iter().filter(|k| self.stands.contains(&k.id))
    }

    /// Everything that was ever written, in order.
    pub fn all(&self) -> &[VisitEntry] {
        &self.entries
    }

    /// True when an entry stands.
    pub fn stands(&self, id: &str) -> bool {
        self.stands.contains(id)
    }

    /// What the technician says of a step, and why it was skipped.
    pub fn state_of(&self, step: Step) -> (Option<StepState>, String) {
        let said = self.standing().find_map(|k| match &k.entry {
            Entry::Step { step: own, state, reason } if *own == step => Some((*state, reason.clone())),
            _ => None,
        });
        match said {
            Some((StepState::Open, _)) | None => (None, String::new()),
            Some((state, reason)) => (Some(state), reason),
        }
    }

    /// True when a check was made anywhere.
    pub fn checked(&self, check: Check) -> bool {
        self.standing().any(|k| matches!(k.entry, Entry::Checked { check: own, .. } if own == check))
    }

    /// True where the bank has nothing to look at: said on this visit, and nothing was found there.
    pub fn not_here(&self, check: Check) -> bool {
        !self.checked(check)
            && self.standing().any(|k| matches!(k.entry, Entry::NotHere { check: own } if own == check))
    }

    /// What was found, with place, id and check.
    pub fn found(&self) -> impl Iterator<Item = (&VisitEntry, Check, &SeenFinding)> {
        self.standing().filter_map(|k| match &k.entry {
            Entry::Checked { check, found: Some(found), .. } => Some((k, *check, found)),
            _ => None,
        })
    }

    /// What the bank did before its volts were read.
    pub fn rested(&self) -> Option<&RestConditions> {
        self.standing().find_map(|k| match &k.entry {
            Entry::Rested { conditions } => Some(conditions),
            _ => None,
        })
    }

    /// True where the volts of the rest check were read without a charger and without a load.
    pub fn was_at_rest(&self) -> bool {
        self.rested().is_some_and(|told| !told.charging && !told.loaded)
    }

    /// Volts of every battery that was read.
    pub fn battery_volts(&self) -> Vec<BatteryVolts> {
        let volts = self.standing().filter_map(|k| match (k.place, &k.entry) {
            (Place::Battery(battery), Entry::BatteryVolts { volts, stands }) => {
                Some(BatteryVolts { battery, volts: *volts, gravity: None, stands: *stands })
            }
            _ => None,
        });
        let mut all: Vec<BatteryVolts> = volts.collect();
        all.sort_by_key(|b| b.battery);
        all
    }

    /// Volts of every string that was read.
    pub fn string_volts(&self) -> Vec<StringVolts> {
        let mut along: BTreeMap<u8, Vec<(BatteryAddress, f64)>> = BTreeMap::new();
        let mut strings: BTreeMap<u8, f64> = BTreeMap::new();
        for written in self.standing() {
            match (written.place, &written.entry) {
                (Place::Battery(b), Entry::AlongVolts { volts }) => {
                    along.entry(b.string).or_default().push((b, *volts));
                }
                (Place::String(s), Entry::StringVolts { volts }) => {
                    strings.insert(s, *volts);
                }
                _ => {}
            }
        }
        strings
            .into_iter()
            .map(|(string, volts)| {
                let mut along = along.remove(&string).unwrap_or_default();
                along.sort_by_key(|(b, _)| *b);
                StringVolts { string, volts, along }
            })
            .collect()
    }

    /// Level of every cell that was looked at or filled to the mark: its own, else its battery's,
    /// string's or the bank's.
    pub fn levels(&self, shape: &BankShape) -> Vec<(CellAddress, Level)> {
        let mut by_cell: BTreeMap<CellAddress, Level> = BTreeMap::new();
        // In the order made: a level of one cell after that of the whole bank speaks for this cell.
        for written in self.standing() {
            let level = match &written.entry {
                Entry::Level { level } => *level,
                // Filled to the mark, it stands at the mark.
                Entry::Water { to_mark: true, .. } | Entry::Spilled { spill: Spill::DrawnOff, .. } => {
                    Level::Step { step: LevelStep::AtMark }
                }
                Entry::Spilled { spill: Spill::Overfilled, .. } => Level::Step { step: LevelStep::Over },
                Entry::Lamp { lamp: LevelLamp::Off } => Level::Step { step: LevelStep::Low },
                _ => continue,
            };
            for cell in written.place.cells(shape) {
                by_cell.insert(cell, level);
            }
        }
        by_cell.into_iter().collect()
    }

    /// Level of every cell as it was found: at the first look, before any water. A look into one cell says more of
    /// it than one over the whole bank.
    pub fn levels_as_found(&self, shape: &BankShape) -> Vec<(CellAddress, Level)> {
        let mut found: BTreeMap<CellAddress, (u8, Level)> = BTreeMap::new();
        let mut watered: BTreeSet<CellAddress> = BTreeSet::new();
        for written in self.standing() {
            let cells = written.place.cells(shape);
            match &written.entry {
                // After water nobody knows what was found.
                Entry::Water { .. } => watered.extend(cells),
                Entry::Level { level } => {
                    let narrow = written.place.narrowness();
                    for cell in cells.into_iter().filter(|cell| !watered.contains(cell)) {
                        let own = found.entry(cell).or_insert((narrow, *level));
                        if narrow > own.0 {
                            *own = (narrow, *level);
                        }
                    }
                }
                _ => {}
            }
        }
        found.into_iter().map(|(cell, (_, level))| (cell, level)).collect()
    }

    /// Cells whose level was found at the plates and that got water on the visit.
    pub fn filled_from_plates(&self, shape: &BankShape, model: &BatteryModel) -> Vec<CellAddress> {
        let watered: BTreeSet<CellAddress> = self
            .standing()
            .filter(|k| matches!(k.entry, Entry::Water { .. }))
            .flat_map(|k| k.place.cells(shape))
            .collect();
        let found = self.levels_as_found(shape).into_iter();
        found
            .filter(|(cell, level)| level.step(model) == LevelStep::AtPlates && watered.contains(cell))
            .map(|(cell, _)| cell)
            .collect()
    }

    /// Cells whose plates stood bare at the last look, and that got no water after it.
    pub fn bare_as_left(&self, shape: &BankShape, model: &BatteryModel) -> Vec<CellAddress> {
        let mut bare: BTreeSet<CellAddress> = BTreeSet::new();
        for written in self.standing() {
            let cells = written.place.cells(shape);
            match &written.entry {
                Entry::Level { level } if level.bare(model) => bare.extend(cells),
                Entry::Level { .. } | Entry::Water { .. } => bare.retain(|cell| !cells.contains(cell)),
                _ => {}
            }
        }
        bare.into_iter().collect()
    }

    /// Levels that were found under the mark before water went in, for the gravity read beside them (SG-4).
    pub fn low_levels(&self, shape: &BankShape, model: &BatteryModel) -> Vec<LowLevel> {
        self.levels_as_found(shape)
            .into_iter()
            .filter_map(|(cell, level)| {
                let mark = Level::Step { step: LevelStep::AtMark }.over_plates(model);
                let below_mark = mark - level.over_plates(model);
                (below_mark > 0.0).then_some(LowLevel { cell, below_mark })
            })
            .collect()
    }

    /// The step that the visit is for alone; none: a whole visit.
    pub fn only(&self) -> Option<Step> {
        self.standing().find_map(|k| match k.entry {
            Entry::Only { step } => Some(step),
            _ => None,
        })
    }

    /// Work that was done, with its note.
    pub fn done(&self) -> Vec<(Work, String)> {
        self.standing()
            .filter_map(|k| match &k.entry {
                Entry::Done { work, note } => Some((*work, note.clone())),
                _ => None,
            })
            .collect()
    }
}
