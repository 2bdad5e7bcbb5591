//! Visits of the demo: volts, levels, water and what was seen, worked out from the same truth as the
//! rounds and written by the road of a typed entry.

use super::joints_made::Jointed;
use super::journal::{CellFound, DayFound};
use super::noise::Noise;
use super::tests_made::Made;
use super::{at, bad, done, told};
use crate::app::visits::{VisitToOpen, add_entry, begin_visit, end_visit};
use crate::db::{BankRow, DbError, ModelRow, Transaction, VisitRow};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BankShape, BatteryAddress, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::rest::RestConditions;
use rainshadow_core::schedule::{Duty, usually_left};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, ClosingItem, Entry, Left, LeftAs, Place, Repair, Repaired, SeenFinding, Step, StepState,
    TestEntry, VisitEntry, Work, checks, closing_items, steps,
};
use rainshadow_core::water::{Level, LevelStep, Poured};

/// Something that was found on a look-over.
pub(super) struct Seen(pub &'static str, pub Check, pub &'static str, pub Severity, pub &'static str);

/// How water is poured into a bank.
#[derive(Clone, Copy)]
pub(super) struct Pours {
    /// Logged by battery, or as a total.
    pub by_battery: bool,
    /// Cells that are logged by themselves all the same.
    pub own: &'static str,
    /// Filled by a watering kit.
    pub by_kit: bool,
}

/// What was found on the day of a visit, and what was lost until it was filled.
#[derive(Clone, Copy)]
pub(super) struct Day<'a> {
    pub found: &'a DayFound,
    pub filled: &'a DayFound,
}

/// One visit of a story.
pub(super) struct VisitStory {
    pub days_ago: i64,
    pub fills: bool,
    /// Only filled: nothing was switched off, no volts were taken.
    pub in_passing: bool,
    pub seen: Vec<Seen>,
    /// Where, at which check, what had been found, and what was done about it.
    pub put_right: &'static [(&'static str, Check, &'static str, Repair)],
    pub work: Vec<(Work, &'static str)>,
    /// Load and capacity tests, in order.
    pub tests: Vec<Made>,
    /// Joints, currents of strings and torque, in order.
    pub joints: Vec<Jointed>,
    pub note: &'static str,
}

impl VisitStory {
    /// A visit so many days ago, with nothing special.
    pub(super) fn plain(days_ago: i64) -> Self {
        Self {
            days_ago,
            fills: false,
            in_passing: false,
            seen: Vec::new(),
            put_right: &[],
            work: Vec::new(),
            tests: Vec::new(),
            joints: Vec::new(),
            note: "",
        }
    }
}

impl VisitStory {
    /// A visit on which the bank was only filled.
    pub(super) fn filled(days_ago: i64) -> Self {
        Self { fills: true, in_passing: true, ..Self::plain(days_ago) }
    }
}

struct Pen<'a> {
    tx: &'a Transaction<'a>,
    visit: VisitRow,
    day: Date,
    minute: i64,
    noise: &'a mut Noise,
}

impl Pen<'_> {
    fn write(&mut self, place: Place, entry: Entry) -> Result<(), DbError> {
        self.minute += 1;
        let taken_at = at(self.day, 8, self.minute.min(170))?;
        let new = VisitEntry {
            id: self.noise.id(),
            place,
            entry,
            typed: None,
            by: self.visit.by.clone(),
            taken_at,
        };
        told(add_entry(self.tx, &self.visit, &new, (taken_at, taken_at)))
    }
}

fn place(text: &str) -> Result<Place, DbError> {
    text.parse().map_err(|e| bad(&e))
}

/// Opens the visit of a day; the round of that day joins it, and it is closed when it is written up.
pub(super) fn open(
    tx: &Transaction<'_>,
    bank: &str,
    day: Date,
    person: &str,
    id: &str,
) -> Result<VisitRow, DbError> {
    let new = VisitToOpen {
        id: id.to_owned(),
        bank: bank.to_owned(),
        day: None,
        only: None,
        job: None,
        by: Actor::named(person, "shop laptop"),
        sent: "demo".into(),
    };
    told::<_, ()>(begin_visit(tx, new, at(day, 8, 0)?).map(Ok))?;
    VisitRow::by_id(tx, id)
}

/// Writes one visit down.
pub(super) fn fill_in(
    tx: &Transaction<'_>,
    visit: VisitRow,
    story: &VisitStory,
    pours: Option<Pours>,
    day_found: Day<'_>,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let bank = BankRow::by_id(tx, &visit.bank_id)?;
    let model = ModelRow::by_id(tx, &bank.model_id)?;
    let shape = &bank.shape;
    let day = visit.day();
    let id = visit.id.clone();
    let mut pen = Pen { tx, visit, day, minute: 0, noise };
    for caution in Step::MakeSafe.cautions(shape, model.construction).into_iter().filter(|c| c.confirmed()) {
        pen.write(Place::Bank, Entry::Confirmed { caution })?;
    }
    look_over(&mut pen, story, &model)?;
    if !story.in_passing {
        rest(&mut pen, day_found.found, shape, &model)?;
    }
    if story.fills {
        if let Some(pours) = pours {
            water(&mut pen, pours, day_found.filled, shape)?;
        }
    } else if model.construction.has_caps() && pours.is_some() {
        pen.write(Place::Bank, Entry::Level { level: Level::Step { step: LevelStep::AtMark } })?;
    }
    for (work, note) in &story.work {
        pen.write(Place::Bank, Entry::Done { work: *work, note: (*note).into() })?;
    }
    for (where_to, entry) in &story.joints {
        pen.write(place(where_to)?, Entry::Joint { entry: entry.clone() })?;
    }
    for (where_to, test) in &story.tests {
        pen.write(place(where_to)?, Entry::Test { test: test.clone() })?;
    }
    if story.tests.iter().any(|(_, test)| matches!(test, TestEntry::Discharge { .. })) {
        pen.write(Place::Bank, Entry::Done { work: Work::ChargedFull, note: "after the discharge".into() })?;
    }
    if !story.note.is_empty() {
        pen.write(Place::Bank, Entry::Note { text: story.note.into() })?;
    }
    let left = usually_left(Duty::of(&bank.duty), bank.season(), day);
    if left != LeftAs::InUse {
        pen.write(Place::Bank, Entry::LeftAs { how: left })?;
    }
    for item in closing_items(model.construction, left) {
        // A relay and a hut have neither pump nor bilge.
        let none_here = item == ClosingItem::FloatSwitch;
        pen.write(Place::Bank, Entry::Closed { item, none_here })?;
    }
    for step in steps(model.construction) {
        let nothing = match step {
            Step::LoadTest => story.tests.is_empty(),
            Step::Joints => story.joints.is_empty(),
            _ => false,
        };
        if nothing {
            continue;
        }
        let entry = Entry::Step { step, state: StepState::Done, reason: String::new() };
        pen.write(Place::Bank, entry)?;
    }
    let by = pen.visit.by.clone();
    // Its report is made when somebody asks for it.
    done(&end_visit(tx, (&id, 1), &by, at(day, 11, 0)?, |_| Ok(String::new()))?)
}

fn look_over(pen: &mut Pen<'_>, story: &VisitStory, model: &BatteryModel) -> Result<(), DbError> {
    for check in checks(model.construction) {
        let found: Vec<&Seen> = story.seen.iter().filter(|s| s.1 == check).collect();
        if found.is_empty() && !story.put_right.iter().any(|(_, own, ..)| *own == check) {
            // What stands open at one place is not answered by a glance at the whole bank.
            if matches!(check, Check::VentPath | Check::Case | Check::Above | Check::Sensor) {
                pen.write(Place::Bank, Entry::Checked { check, found: None, measured: None })?;
            }
        }
        for Seen(where_to, _, kind, severity, note) in found {
            let seen = SeenFinding {
                kind: (*kind).into(),
                severity: *severity,
                note: (*note).into(),
                measured: None,
            };
            pen.write(place(where_to)?, Entry::Checked { check, found: Some(seen), measured: None })?;
        }
    }
    for (where_to, check, found, repair) in story.put_right {
        let repaired = Repaired {
            check: *check,
            found: (*found).into(),
            repair: *repair,
            left: Left::PutRight,
            torque: repair.takes_torque().then_some(11.0),
            torque_asked: None,
            agent: if repair.cleans() { "bicarbonate".into() } else { String::new() },
            coating: String::new(),
            lock_nuts: false,
            part: String::new(),
            note: String::new(),
        };
        pen.write(place(where_to)?, Entry::Repaired { repaired })?;
    }
    Ok(())
}

/// The cells of a battery as they were found.
fn cells_of(found: &DayFound, shape: &BankShape, battery: BatteryAddress) -> Vec<(CellAddress, CellFound)> {
    let all = shape.cells().zip(found.cells.iter().copied());
    let own = Place::Battery(battery).cells(shape);
    all.filter(|(cell, _)| own.contains(cell)).collect()
}

fn rest(pen: &mut Pen<'_>, found: &DayFound, shape: &BankShape, model: &BatteryModel) -> Result<(), DbError> {
    let conditions = RestConditions {
        hours_since_charge: Some(26.0),
        hours_since_load: Some(25.0),
        temperature: Temperature::from_celsius(found.thermometer()).ok(),
        ..RestConditions::default()
    };
    pen.write(Place::Bank, Entry::Rested { conditions })?;
    let mut strings = vec![0.0; usize::from(shape.parallel)];
    for (number, battery) in shape.batteries().enumerate() {
        // A meter with hundredths.
        let truth: f64 = cells_of(found, shape, battery).iter().map(|(_, cell)| cell.volts()).sum();
        let volts = ((truth + 0.003 * pen.noise.normal()) * 100.0).round() / 100.0;
        strings[usize::from(battery.string)] += volts;
        pen.write(Place::Battery(battery), Entry::BatteryVolts { volts, stands: true })?;
        if let Some(milliohms) = found.milliohms.get(number) {
            let shown = ((milliohms + 0.03 * pen.noise.normal()) * 100.0).round() / 100.0;
            pen.write(
                Place::Battery(battery),
                Entry::Ohmic { milliohms: shown, tester: String::new(), new_baseline: false, stands: false },
            )?;
        }
        if !model.construction.has_caps() {
            let celsius = ((found.celsius + 0.4 * pen.noise.normal()) * 10.0).round() / 10.0;
            pen.write(Place::Battery(battery), Entry::CaseTemperature { celsius })?;
        }
    }
    for (string, sum) in (0u8..).zip(strings) {
        let shown = (sum * 100.0).round() / 100.0;
        pen.write(Place::String(string), Entry::StringVolts { volts: shown })?;
    }
    Ok(())
}

/// What the jug says that a cell took: the loss since the fill before, to the nearest 5 mL.
fn poured(found: CellFound, noise: &mut Noise) -> f64 {
    let eye = 1.0 + 0.04 * noise.normal();
    ((found.lost() * eye / 5.0).round() * 5.0).max(0.0)
}

fn water(pen: &mut Pen<'_>, pours: Pours, found: &DayFound, shape: &BankShape) -> Result<(), DbError> {
    pen.write(Place::Bank, Entry::Level { level: Level::Step { step: LevelStep::Low } })?;
    let pour = |millilitres| Entry::Water {
        millilitres,
        to_mark: true,
        by_kit: pours.by_kit,
        stands: true,
        poured: Poured::default(),
    };
    let mut total = 0.0;
    for battery in shape.batteries() {
        let taken: Vec<(CellAddress, f64)> = cells_of(found, shape, battery)
            .into_iter()
            .map(|(cell, found)| (cell, poured(found, pen.noise)))
            .collect();
        let all: f64 = taken.iter().map(|(_, ml)| ml).sum();
        total += all;
        if !pours.by_battery {
            continue;
        }
        // The cells of one battery share its amount, but the one that is known to be odd has its own.
        if taken.iter().any(|(cell, _)| cell.to_string() == pours.own) {
            for (cell, ml) in taken {
                pen.write(Place::Cell(cell), pour(ml))?;
            }
        } else {
            pen.write(Place::Battery(battery), pour(all))?;
        }
    }
    if !pours.by_battery {
        pen.write(Place::Bank, pour((total / 50.0).round() * 50.0))?;
    }
    Ok(())
}

/// The day so many days before today.
pub(super) fn day_of(today: Date, days_ago: i64) -> Result<Date, DbError> {
    today.checked_sub(days_ago.days()).map_err(|e| bad(&e))
}
