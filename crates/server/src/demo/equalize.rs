//! An equalize of the demo that was logged: the simulator ran it and stopped it by the rule, its readings
//! are written by the road of a typed entry; an hour after, every cell is read.

use super::journal::{DayFound, Journal, RunFound};
use super::lived_bank::LivedBank;
use super::noise::Noise;
use super::rounds::{begin, end, read_as, sample};
use super::{at, bad, told};
use crate::app::rounds::RoundToOpen;
use crate::app::run_context::RunContext;
use crate::app::runs::{RunToOpen, TypedOfRun, add_entry, begin_run};
use crate::db::{BankRow, DbError, ModelRow, RunRow, Transaction, VisitRow};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BankShape, CellAddress, walk};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerTemperature, Setpoint, Stage, setpoint};
use rainshadow_core::equalize::{
    Advice, BeforeCheck, LoggedEntry, Phase, RunEntry, RunFrame, RunKind, RunPlan, RunToPlan, STARTS_BY,
    plan_run, run_now, watched,
};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::{Conditions, RoundTemperature, WaterAdded};
use rainshadow_core::simulator::{Drive, SimCell};

/// Hour of the day at which it is opened, and minutes after that when the charger is turned up.
const BEGINS: i8 = 10;
const PREPARES: i64 = 5;
/// Minutes between two readings.
const EVERY: i64 = 30;
/// Minutes of rest after it.
const RESTS: i64 = 75;

/// The equalize of a bank.
#[derive(Debug, Clone, Copy)]
pub(super) struct EqualizeStory {
    /// On the visit of so many days ago.
    pub days_ago: i64,
    pub pilot: &'static str,
    /// A battery that is behind: its cells are read too.
    pub behind: &'static str,
    /// What reads them.
    pub instrument: Instrument,
    /// Who stays with it.
    pub person: &'static str,
}

/// What a run goes by.
struct Meant {
    asked: RunToPlan,
    plan: RunPlan,
    float: Setpoint,
    watched: Vec<CellAddress>,
    checks: Vec<BeforeCheck>,
}

impl Meant {
    fn new(
        model: &BatteryModel,
        shape: &BankShape,
        story: &EqualizeStory,
        celsius: f64,
    ) -> Result<Self, DbError> {
        let warm = Temperature::from_celsius(celsius.round()).map_err(|e| bad(&e))?;
        let asked = RunToPlan {
            kind: RunKind::Corrective,
            model: model.clone(),
            cells: shape.cells_in_series(),
            strings: u16::from(shape.parallel),
            temperature: warm,
            charger: ChargerTemperature::default(),
            source_amperes: None,
            loads: Vec::new(),
            earlier_hours: Vec::new(),
            enclosure: None,
        };
        let plan = plan_run(&asked).map_err(|e| bad(&e))?;
        let float =
            setpoint(model, Stage::Float, asked.cells, warm, asked.charger, None).map_err(|e| bad(&e))?;
        let pilot: CellAddress = story.pilot.parse().map_err(|e| bad(&e))?;
        let low: Vec<(CellAddress, SpecificGravity)> = shape
            .cells()
            .filter(|c| c.to_string().starts_with(story.behind))
            .map(|c| (c, model.discharged_gravity))
            .collect();
        let checks = BeforeCheck::of(model.construction);
        Ok(Self { watched: watched(shape, &low, pilot), asked, plan, float, checks })
    }

    fn frame(&self, instrument: Instrument) -> RunFrame<'_> {
        RunFrame {
            kind: RunKind::Corrective,
            cells: self.asked.cells,
            watched: self.watched.len(),
            checks: &self.checks,
            noise: instrument.repeatability.value(),
            full: self.asked.model.full_gravity,
            meant_amperes: self.plan.current.high,
            meant: Some(self.plan.meant(&self.asked)),
        }
    }
}

impl RunFound {
    fn entry(&self) -> RunEntry {
        RunEntry::Read {
            gravities: self.gravities.iter().map(|g| SpecificGravity::new(*g).ok()).collect(),
            celsius: Some(self.celsius),
            volts: Some(self.volts),
            amperes: Some(self.amperes),
        }
    }
}

/// What the instruments show of a run at this moment.
fn show(bank: &LivedBank, places: &[usize], minute: i64, noise: f64, chance: &mut Noise) -> RunFound {
    let cells: Vec<&SimCell> = bank.cells().collect();
    let gravities = places.iter().filter_map(|place| cells.get(*place)).map(|cell| {
        let scatter = 0.4 * noise * chance.normal() / 1000.0;
        ((cell.gravity_on_top() + scatter) * 1000.0).round() / 1000.0
    });
    RunFound {
        minute,
        gravities: gravities.collect(),
        celsius: (bank.hottest() * 2.0).round() / 2.0,
        volts: (bank.volts * 10.0).round() / 10.0,
        amperes: (bank.amperes * 10.0).round() / 10.0,
    }
}

/// Runs it on the bank until the rule says stop, and lets it rest. Readings, and the hours it took.
pub(super) fn run_it(
    bank: &mut LivedBank,
    model: &BatteryModel,
    shape: &BankShape,
    story: &EqualizeStory,
) -> Result<(Vec<RunFound>, u32), DbError> {
    let meant = Meant::new(model, shape, story, bank.celsius())?;
    let places: Vec<usize> =
        meant.watched.iter().filter_map(|cell| shape.cells().position(|own| own == *cell)).collect();
    let noise = story.instrument.repeatability.value();
    let mut chance = Noise::new(0xe9a1_12e5);
    let amperes = meant.plan.current.high;
    bank.pass(Drive::Charger { volts: meant.float.volts, amperes: amperes / 2.0 }, 1.0 / 60.0);
    let mut found = vec![show(bank, &places, 0, noise, &mut chance)];
    let logged =
        |entry: RunEntry, minute: i64| LoggedEntry { id: minute.to_string(), at: hours(minute), entry };
    let mut log: Vec<LoggedEntry> =
        meant.checks.iter().map(|check| logged(RunEntry::Confirmed { check: *check }, 0)).collect();
    log.push(logged(found[0].entry(), 0));
    log.push(logged(RunEntry::Began, 0));
    for minute in (1..=40).map(|n| n * EVERY) {
        let drive = Drive::Charger { volts: meant.plan.setpoint.volts, amperes };
        bank.pass_minutes(hours(EVERY), |bank, part| bank.pass(drive, part));
        let shown = show(bank, &places, minute, noise, &mut chance);
        log.push(logged(shown.entry(), minute));
        found.push(shown);
        let state = run_now(&meant.frame(story.instrument), &log, &[], hours(minute));
        // A cell that has not started by then will not: whoever stays with it goes home.
        let given_up = state.state.advice == Advice::NotAnswering && hours(minute) > STARTS_BY;
        if (state.state.advice.stops() || given_up) && state.phase == Phase::Running {
            break;
        }
    }
    bank.pass_minutes(hours(RESTS), |bank, part| {
        bank.pass(Drive::Charger { volts: meant.float.volts, amperes: amperes / 2.0 }, part);
    });
    let last = found.last().map_or(0, |f| f.minute);
    let took = u32::try_from((last + RESTS) / 60 + 1).unwrap_or(0);
    Ok((found, took))
}

#[expect(clippy::cast_precision_loss, reason = "minutes of a day")]
fn hours(minutes: i64) -> f64 {
    minutes as f64 / 60.0
}

/// What is known of the run while it is written.
struct Pen<'a> {
    tx: &'a Transaction<'a>,
    run: RunRow,
    chance: Noise,
    device: &'static str,
}

impl Pen<'_> {
    fn by(&self) -> Actor {
        Actor { device: self.device.into(), ..self.run.by.clone() }
    }

    fn write(&mut self, entry: RunEntry, when: Timestamp) -> Result<(), DbError> {
        let context = RunContext::read(self.tx, &self.run.id, when)?;
        let (id, by) = (self.chance.id(), self.by());
        let typed = |_: &RunContext| Ok(TypedOfRun { entry, stands: true });
        told(add_entry(self.tx, &context, id, (by, None), 1.0, typed))
    }
}

/// Writes the run of a journal down, and the round an hour after.
pub(super) fn write(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    story: &EqualizeStory,
    day: Date,
    journal: &Journal,
) -> Result<(), DbError> {
    let bank = BankRow::by_id(tx, &visit.bank_id)?;
    let found = journal.day(story.days_ago).ok_or_else(|| bad(&"no such day in the journal"))?;
    let mut chance = Noise::new(0x0e9a_11d5);
    let open = RunToOpen {
        id: chance.id(),
        bank: bank.id.clone(),
        kind: RunKind::Corrective,
        temperature: Temperature::from_celsius(found.celsius.round()).map_err(|e| bad(&e))?,
        pilot: Some(story.pilot.parse().map_err(|e| bad(&e))?),
        instrument: story.instrument,
        set_to: None,
        by: Actor::named(story.person, "battery room phone"),
        sent: "demo".into(),
    };
    let id = open.id.clone();
    told::<_, ()>(begin_run(tx, open, (at(day, BEGINS, 0)?, day)).map(Ok))?;
    let run = RunRow::by_id(tx, &id)?;
    let mut pen = Pen { tx, run, chance, device: "battery room phone" };
    for check in BeforeCheck::of(ModelRow::by_id(tx, &bank.model_id)?.construction) {
        pen.write(RunEntry::Confirmed { check }, at(day, BEGINS, 2)?)?;
    }
    let mut minute = PREPARES;
    for reading in journal.run() {
        minute = PREPARES + reading.minute;
        pen.write(reading.entry(), at(day, BEGINS, minute)?)?;
        if reading.minute == 0 {
            pen.write(RunEntry::Began, at(day, BEGINS, minute)?)?;
        }
    }
    let why = RunContext::read(tx, &id, at(day, BEGINS, minute)?)?.now.ends_as();
    minute += 1;
    pen.write(RunEntry::Ended { why }, at(day, BEGINS, minute)?)?;
    let after = journal.after_run().ok_or_else(|| bad(&"no round after the run in the journal"))?;
    read_every_cell(&mut pen, &bank, story.instrument, after, (day, minute + RESTS))
}

/// The round an hour after.
fn read_every_cell(
    pen: &mut Pen<'_>,
    bank: &BankRow,
    instrument: Instrument,
    found: &DayFound,
    (day, minute): (Date, i64),
) -> Result<(), DbError> {
    let temperature = Temperature::from_celsius(found.celsius.round()).map_err(|e| bad(&e))?;
    let begins = at(day, BEGINS, minute)?;
    let open = RoundToOpen {
        id: pen.chance.id(),
        bank: bank.id.clone(),
        started_at: Some(begins),
        instrument,
        conditions: Conditions {
            charging: false,
            hours_since_charge: Some(1.0),
            hours_since_load: Some(8.0),
            water_added: WaterAdded::No,
            proven_full: Some("equalized, stopped by the rule".into()),
            temperature: RoundTemperature::OneForAll { temperature },
            rest_volts: None,
        },
        reversed: false,
        by: pen.by(),
        sent: "demo after the equalize".into(),
        typed: None,
    };
    let mut live = begin(pen.tx, open, begins)?;
    for (step, cell) in (0..).zip(walk(&bank.shape.plan(), false)) {
        let shown = sample(&live.row, &bank.shape, found, cell, &mut pen.chance)?;
        read_as(pen.tx, &mut live, cell, shown, at(day, BEGINS, minute + step)?, &mut pen.chance)?;
    }
    end(pen.tx, &live, at(day, BEGINS, minute + 50)?)
}
