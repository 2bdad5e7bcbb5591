//! Visits of the demo: volts, levels, water and what was seen, worked out from the same truth as the
//! rounds and written by the road of a typed entry.

use super::noise::{Noise, character};
use super::{at, bad};
use crate::db::{BankRow, CloseOutcome, DbError, ModelRow, NewEntry, NewVisit, StoredEntry, VisitRow};
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, BatteryAddress, CellAddress};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::electrolyte::measured_rest_voltage;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::rest::RestConditions;
use rainshadow_core::round::Condition;
use rainshadow_core::visit::{
    Check, Entry, Place, SeenFinding, Step, StepState, Work, cautions, checks, closing_items, steps,
};
use rainshadow_core::water::{Level, LevelStep, seasonal};
use rusqlite::Transaction;

/// Something that was found on a look-over.
pub(super) struct Seen(pub &'static str, pub Check, pub &'static str, pub Condition, pub &'static str);

/// How a bank drinks.
#[derive(Clone, Copy)]
pub(super) struct Drinks {
    /// mL a day and cell at 25 °C, for the mean cell.
    pub per_day: f64,
    /// Logged by battery, or as a total.
    pub by_battery: bool,
    /// Filled by a watering kit.
    pub by_kit: bool,
}

/// One visit of a story.
pub(super) struct VisitStory {
    pub days_ago: i64,
    pub celsius: f64,
    /// Gravity its cells rest at, for the volts; none: no volts taken.
    pub rests_at: Option<f64>,
    /// Volts by battery off the truth.
    pub volts_off: &'static [(&'static str, f64)],
    /// Resistance by battery, mΩ.
    pub ohmic: &'static [(&'static str, f64)],
    pub fills: bool,
    pub seen: Vec<Seen>,
    /// Checks that are fine again, and where.
    pub put_right: &'static [(&'static str, Check)],
    pub work: Vec<(Work, &'static str)>,
    pub note: &'static str,
}

impl VisitStory {
    /// A visit so many days ago at such a temperature, with nothing special.
    pub(super) fn plain(days_ago: i64, celsius: f64) -> Self {
        Self {
            days_ago,
            celsius,
            rests_at: None,
            volts_off: &[],
            ohmic: &[],
            fills: false,
            seen: Vec::new(),
            put_right: &[],
            work: Vec::new(),
            note: "",
        }
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
        let new = NewEntry {
            id: self.noise.id(),
            place,
            entry,
            typed: None,
            person: self.visit.person.clone(),
            device: self.visit.device.clone(),
            taken_at,
        };
        StoredEntry::append(self.tx, &self.visit, &new, taken_at)?;
        Ok(())
    }
}

fn place(text: &str) -> Result<Place, DbError> {
    text.parse().map_err(|e| bad(&e))
}

/// Opens the visit of a day; the round of that day joins it.
pub(super) fn open(
    tx: &Transaction<'_>,
    bank: &str,
    day: Date,
    person: &str,
    noise: &mut Noise,
) -> Result<VisitRow, DbError> {
    let new = NewVisit {
        id: noise.id(),
        bank: bank.to_owned(),
        started_at: at(day, 8, 0)?,
        ended_at: Some(at(day, 11, 0)?),
        zone: super::ZONE.into(),
        person: person.into(),
        device: "shop laptop".into(),
        sent: "demo".into(),
    };
    VisitRow::create(tx, &new)?;
    VisitRow::by_id(tx, &new.id)
}

/// Writes one visit down. `last_fill` is the day of the fill before and the temperature since.
pub(super) fn fill_in(
    tx: &Transaction<'_>,
    visit: VisitRow,
    story: &VisitStory,
    drinks: Option<Drinks>,
    last_fill: Option<i64>,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let bank = BankRow::by_id(tx, &visit.bank_id)?;
    let model = ModelRow::by_id(tx, &bank.model_id)?;
    let shape = &bank.shape;
    let day = visit.day();
    let id = visit.id.clone();
    let mut pen = Pen { tx, visit, day, minute: 0, noise };
    for caution in cautions(Step::MakeSafe, shape, model.construction).into_iter().filter(|c| c.confirmed()) {
        pen.write(Place::Bank, Entry::Confirmed { caution })?;
    }
    look_over(&mut pen, story, &model)?;
    rest(&mut pen, story, shape, &model)?;
    if story.fills {
        if let Some(drinks) = drinks {
            water(&mut pen, story, drinks, last_fill, shape)?;
        }
    } else if model.construction.has_caps() && drinks.is_some() {
        pen.write(Place::Bank, Entry::Level { level: Level::Step { step: LevelStep::AtMark } })?;
    }
    for (work, note) in &story.work {
        pen.write(Place::Bank, Entry::Done { work: *work, note: (*note).into() })?;
    }
    if !story.note.is_empty() {
        pen.write(Place::Bank, Entry::Note { text: story.note.into() })?;
    }
    for item in closing_items(model.construction) {
        pen.write(Place::Bank, Entry::Closed { item })?;
    }
    for step in steps(model.construction) {
        let entry = Entry::Step { step, state: StepState::Done, reason: String::new() };
        pen.write(Place::Bank, entry)?;
    }
    let by = format!("{} on shop laptop", pen.visit.person);
    let closed = VisitRow::close(tx, &id, 1, &by, "", at(day, 11, 0)?)?;
    debug_assert!(matches!(closed, CloseOutcome::Closed(_)));
    Ok(())
}

fn look_over(pen: &mut Pen<'_>, story: &VisitStory, model: &BatteryModel) -> Result<(), DbError> {
    for check in checks(model.construction) {
        let found: Vec<&Seen> = story.seen.iter().filter(|s| s.1 == check).collect();
        if found.is_empty() && !story.put_right.iter().any(|(_, own)| *own == check) {
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
    for (where_to, check) in story.put_right {
        pen.write(place(where_to)?, Entry::Checked { check: *check, found: None, measured: None })?;
    }
    Ok(())
}

/// Volts of a battery whose cells rest at this gravity, as a meter with hundredths shows them.
fn volts(
    gravity: f64,
    cells: u8,
    battery: BatteryAddress,
    off: &[(&str, f64)],
    noise: &mut Noise,
) -> Result<f64, DbError> {
    let sg = SpecificGravity::new(gravity).map_err(|e| bad(&e))?;
    let own = off.iter().find(|(b, _)| *b == battery.to_string()).map_or(0.0, |(_, v)| *v);
    let truth = measured_rest_voltage(sg) * f64::from(cells);
    let small = 0.006 * f64::from(cells) / 3.0 * character(&format!("volts {battery}"));
    Ok(((truth + small + own + 0.003 * noise.normal()) * 100.0).round() / 100.0)
}

fn rest(
    pen: &mut Pen<'_>,
    story: &VisitStory,
    shape: &BankShape,
    model: &BatteryModel,
) -> Result<(), DbError> {
    let Some(gravity) = story.rests_at else { return Ok(()) };
    let conditions = RestConditions {
        hours_since_charge: Some(26.0),
        hours_since_load: Some(25.0),
        temperature: Temperature::from_celsius(story.celsius).ok(),
        ..RestConditions::default()
    };
    pen.write(Place::Bank, Entry::Rested { conditions })?;
    let mut strings = vec![0.0; usize::from(shape.parallel)];
    for battery in shape.batteries() {
        let v = volts(gravity, shape.cells_per_battery, battery, story.volts_off, pen.noise)?;
        strings[usize::from(battery.string)] += v;
        pen.write(Place::Battery(battery), Entry::BatteryVolts { volts: v, stands: true })?;
        if let Some((_, milliohms)) = story.ohmic.iter().find(|(b, _)| *b == battery.to_string()) {
            let shown = ((milliohms + 0.03 * pen.noise.normal()) * 100.0).round() / 100.0;
            pen.write(Place::Battery(battery), Entry::Ohmic { milliohms: shown })?;
        }
        if !model.construction.has_caps() {
            let celsius = ((story.celsius + 0.4 * pen.noise.normal()) * 10.0).round() / 10.0;
            pen.write(Place::Battery(battery), Entry::CaseTemperature { celsius })?;
        }
    }
    for (string, sum) in (0u8..).zip(strings) {
        let shown = (sum * 100.0).round() / 100.0;
        pen.write(Place::String(string), Entry::StringVolts { volts: shown })?;
    }
    Ok(())
}

/// mL a cell drank since the fill before.
fn drunk(drinks: Drinks, cell: CellAddress, days: f64, celsius: f64, noise: &mut Noise) -> f64 {
    let own = 1.0 + 0.12 * character(&format!("thirst {cell}"));
    let thirsty = if cell.to_string() == "B5-2" { 1.7 } else { 1.0 };
    let ml = drinks.per_day * own * thirsty * days * seasonal(Some(celsius)) * (0.08 * noise.normal()).exp();
    (ml / 5.0).round() * 5.0
}

fn water(
    pen: &mut Pen<'_>,
    story: &VisitStory,
    drinks: Drinks,
    last_fill: Option<i64>,
    shape: &BankShape,
) -> Result<(), DbError> {
    #[expect(clippy::cast_precision_loss, reason = "days of a few years")]
    let days = last_fill.map_or(60.0, |before| (before - story.days_ago) as f64);
    pen.write(Place::Bank, Entry::Level { level: Level::Step { step: LevelStep::Low } })?;
    let of = |noise: &mut Noise, battery: BatteryAddress| -> f64 {
        Place::Battery(battery)
            .cells(shape)
            .into_iter()
            .map(|cell| drunk(drinks, cell, days, story.celsius, noise))
            .sum()
    };
    let pour = |millilitres| Entry::Water { millilitres, to_mark: true, by_kit: drinks.by_kit, stands: true };
    if drinks.by_battery {
        // The cells of one battery share its amount, but the one that is known to be thirsty has its own.
        for battery in shape.batteries() {
            let cells = Place::Battery(battery).cells(shape);
            if cells.iter().any(|c| c.to_string() == "B5-2") {
                for cell in cells {
                    let ml = drunk(drinks, cell, days, story.celsius, pen.noise);
                    pen.write(Place::Cell(cell), pour(ml))?;
                }
            } else {
                let ml = of(pen.noise, battery);
                pen.write(Place::Battery(battery), pour(ml))?;
            }
        }
    } else {
        let total: f64 = shape.batteries().map(|b| of(pen.noise, b)).sum();
        pen.write(Place::Bank, pour((total / 50.0).round() * 50.0))?;
    }
    Ok(())
}

/// The day so many days before today.
pub(super) fn day_of(today: Date, days_ago: i64) -> Result<Date, DbError> {
    today.checked_sub(days_ago.days()).map_err(|e| bad(&e))
}
