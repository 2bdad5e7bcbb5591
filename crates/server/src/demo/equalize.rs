//! An equalize of the demo: the simulator runs it (SM-1), the readings are what its cells show, written
//! by the road of a typed entry; an hour after, every cell is read.

use super::noise::{Noise, character};
use super::{ZONE, at, bad};
use crate::db::{
    BankRow, DbError, ModelRow, NewRound, NewRun, Origin, PlannedRun, RoundRow, RunEntryRow, RunRow, VisitRow,
};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::bank::{CellAddress, walk};
use rainshadow_core::charge::{ChargerTemperature, Stage, setpoint};
use rainshadow_core::equalize::{
    BeforeCheck, EndWhy, Phase, RunEntry, RunFrame, RunKind, RunToPlan, plan_run, run_now, watched,
};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::{SpecificGravity, Temperature};
use rainshadow_core::round::{Conditions, RoundTemperature, WaterAdded};
use rainshadow_core::simulator::{CellKind, Drive, SimCell, SimString, Surroundings};
use rusqlite::Transaction;

/// Hours of the day at which it begins.
const BEGINS: i8 = 10;
/// Steps of the simulator, h.
const STEP: f64 = 1.0 / 60.0;
/// Charge by which cells of one bank lie apart, share of C20.
const APART: f64 = 0.04;

/// The equalize of a bank.
pub(super) struct EqualizeStory {
    /// On the visit of so many days ago.
    pub days_ago: i64,
    /// Electrolyte at its beginning, °C.
    pub celsius: f64,
    /// The pilot, with hard sulfate on its plates that no charge dissolves: share of capacity.
    pub pilot: (&'static str, f64),
    /// A battery that is behind, and by how much: share of C20.
    pub behind: (&'static str, f64),
    /// Who stays with it.
    pub person: &'static str,
}

/// The bank while it runs: strings at one voltage, each with its share of the current.
struct Bank {
    strings: Vec<SimString>,
    volts: f64,
    amperes: f64,
    air: f64,
}

impl Bank {
    fn new(bank: &BankRow, capacity: f64, story: &EqualizeStory) -> Self {
        let cell = |address: CellAddress| {
            let name = address.to_string();
            let mut lacks = 0.01 + APART * (0.5 + 0.5 * character(&name));
            if name.starts_with(story.behind.0) {
                lacks += story.behind.1;
            }
            let own = SimCell::new(CellKind::FLOODED, capacity).at(story.celsius).charged_to(1.0 - lacks);
            if name == story.pilot.0 { own.sulfated(0.02, story.pilot.1) } else { own }
        };
        let cells: Vec<SimCell> = bank.shape.cells().map(cell).collect();
        let per_string = usize::from(bank.shape.cells_in_series()).max(1);
        let strings = cells.chunks(per_string).map(|s| SimString::new(s.to_vec())).collect();
        Self { strings, volts: 0.0, amperes: 0.0, air: story.celsius }
    }

    fn pass(&mut self, hours: f64, drive: Drive) {
        let around = Surroundings::Air(self.air);
        let mut left = hours;
        while left > 1e-9 {
            let part = left.min(STEP);
            let shown: Vec<_> = self.strings.iter_mut().map(|s| s.step(drive, part, around)).collect();
            self.volts = shown.first().map_or(0.0, |r| r.volts);
            self.amperes = shown.iter().map(|r| r.amperes).sum();
            left -= part;
        }
    }

    fn cell(&self, place: usize) -> Option<&SimCell> {
        self.strings.iter().flat_map(SimString::cells).nth(place)
    }

    fn hottest(&self) -> f64 {
        self.strings.iter().flat_map(SimString::cells).map(SimCell::celsius).fold(f64::MIN, f64::max)
    }
}

/// What is known of the run while it is written.
struct Pen<'a> {
    tx: &'a Transaction<'a>,
    run: RunRow,
    chance: Noise,
    device: &'static str,
}

impl Pen<'_> {
    fn write(&mut self, entry: RunEntry, when: Timestamp) -> Result<(), DbError> {
        let ended = match entry {
            RunEntry::Ended { why } => Some((when, why)),
            _ => None,
        };
        let new = RunEntryRow {
            id: self.chance.id(),
            entry,
            typed: None,
            person: self.run.person.clone(),
            device: self.device.into(),
            at: when,
        };
        self.run.append(self.tx, &new, ended)?;
        Ok(())
    }
}

/// Runs it, stops it by the rule, and reads every cell an hour after.
pub(super) fn write(
    tx: &Transaction<'_>,
    visit: &VisitRow,
    instrument: Instrument,
    story: &EqualizeStory,
    day: Date,
) -> Result<(), DbError> {
    let bank = BankRow::by_id(tx, &visit.bank_id)?;
    let model = ModelRow::by_id(tx, &bank.model_id)?;
    let warm = Temperature::from_celsius(story.celsius).map_err(|e| bad(&e))?;
    let asked = RunToPlan {
        kind: RunKind::Corrective,
        model: model.clone(),
        cells: bank.shape.cells_in_series(),
        strings: u16::from(bank.shape.parallel),
        temperature: warm,
        charger: ChargerTemperature::default(),
        source_amperes: None,
        loads: Vec::new(),
        earlier_hours: Vec::new(),
        enclosure: None,
    };
    let plan = plan_run(&asked).map_err(|e| bad(&e))?;
    let float =
        setpoint(&model, Stage::Float, asked.cells, warm, asked.charger, None).map_err(|e| bad(&e))?;
    let pilot: CellAddress = story.pilot.0.parse().map_err(|e| bad(&e))?;
    let low: Vec<(CellAddress, SpecificGravity)> = bank
        .shape
        .cells()
        .filter(|c| c.to_string().starts_with(story.behind.0))
        .map(|c| (c, model.discharged_gravity))
        .collect();
    let cells = watched(&bank.shape, &low, pilot);
    let mut chance = Noise::new(0xe9a1_12e5);
    let new = NewRun {
        id: chance.id(),
        bank: bank.id.clone(),
        visit: visit.id.clone(),
        kind: RunKind::Corrective,
        opened_at: at(day, BEGINS, 0)?,
        zone: ZONE.into(),
        instrument,
        plan: PlannedRun { asked: asked.clone(), plan: plan.clone(), float: float.to_type, set_to: None },
        watched: cells.clone(),
        person: story.person.into(),
        device: "battery room phone".into(),
        sent: "demo".into(),
    };
    RunRow::create(tx, &new)?;
    let run = RunRow::by_id(tx, &new.id)?;
    let mut pen = Pen { tx, run, chance, device: "battery room phone" };
    let checks = BeforeCheck::of(model.construction);
    for check in &checks {
        pen.write(RunEntry::Confirmed { check: *check }, at(day, BEGINS, 2)?)?;
    }
    let mut sim = Bank::new(&bank, model.c20.ampere_hours(), story);
    let places: Vec<usize> =
        cells.iter().filter_map(|cell| bank.shape.cells().position(|own| own == *cell)).collect();
    let drive = Drive::Charger {
        volts: plan.setpoint.volts,
        amperes: plan.current.high / f64::from(bank.shape.parallel.max(1)),
    };
    let frame = RunFrame {
        kind: RunKind::Corrective,
        cells: asked.cells,
        watched: cells.len(),
        checks: &checks,
        noise: instrument.repeatability.value(),
        meant_amperes: plan.current.high,
    };
    let mut minute = 5;
    let reading = |sim: &Bank, chance: &mut Noise| {
        let gravities = places
            .iter()
            .map(|place| {
                let scatter = 0.4 * instrument.repeatability.value() * chance.normal() / 1000.0;
                let shown = sim.cell(*place)?.gravity_on_top() + scatter;
                SpecificGravity::new((shown * 1000.0).round() / 1000.0).ok()
            })
            .collect();
        RunEntry::Read {
            gravities,
            celsius: Some((sim.hottest() * 2.0).round() / 2.0),
            volts: Some((sim.volts * 10.0).round() / 10.0),
            amperes: Some((sim.amperes * 10.0).round() / 10.0),
        }
    };
    sim.pass(STEP, Drive::Charger { volts: float.volts, amperes: plan.current.high / 2.0 });
    let first = reading(&sim, &mut pen.chance);
    pen.write(first, at(day, BEGINS, minute)?)?;
    pen.write(RunEntry::Began, at(day, BEGINS, minute)?)?;
    loop {
        sim.pass(0.5, drive);
        minute += 30;
        let next = reading(&sim, &mut pen.chance);
        pen.write(next, at(day, BEGINS, minute)?)?;
        let now = at(day, BEGINS, minute)?;
        let state = run_now(&frame, &pen.run.log(&pen.run.entries(tx)?), &[], pen.run.hours_at(now));
        if state.state.advice.stops() && state.phase == Phase::Running {
            let why = EndWhy::by(state.state.advice);
            minute += 1;
            pen.write(RunEntry::Ended { why }, at(day, BEGINS, minute)?)?;
            break;
        }
    }
    sim.pass(1.2, Drive::Charger { volts: float.volts, amperes: plan.current.high / 2.0 });
    read_every_cell(&mut pen, &bank, instrument, &sim, (day, minute + 75))
}

/// The round an hour after.
fn read_every_cell(
    pen: &mut Pen<'_>,
    bank: &BankRow,
    instrument: Instrument,
    sim: &Bank,
    (day, minute): (Date, i64),
) -> Result<(), DbError> {
    let celsius = sim.hottest().round();
    let temperature = Temperature::from_celsius(celsius).map_err(|e| bad(&e))?;
    let new = NewRound {
        id: pen.chance.id(),
        bank: bank.id.clone(),
        visit: Some(pen.run.visit_id.clone()),
        origin: Origin::Walked,
        started_at: at(day, BEGINS, minute)?,
        finished_at: Some(at(day, BEGINS, minute + 50)?),
        zone: ZONE.into(),
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
        person: pen.run.person.clone(),
        device: pen.device.into(),
        sent: "demo after the equalize".into(),
        typed: None,
    };
    RoundRow::create(pen.tx, &new)?;
    let row = RoundRow::by_id(pen.tx, &new.id)?;
    // What the float shows at its temperature: SG-1 backwards.
    let warm = HouseRules::maker_first().correction.coefficient() * (celsius - 25.0);
    for (step, cell) in (0..).zip(walk(&bank.shape.plan(), false)) {
        let place = bank.shape.cells().position(|own| own == cell).unwrap_or(0);
        let truth = sim.cell(place).map_or(1.2, SimCell::gravity_on_top);
        let scatter = 0.6 * instrument.repeatability.value() * pen.chance.normal();
        let shown = ((truth - warm) * 1000.0 + scatter).round();
        super::read_as(pen.tx, &row, cell, shown, at(day, BEGINS, minute + step)?, &mut pen.chance)?;
    }
    crate::db::assessments::derive_missing(pen.tx, &bank.id)?;
    Ok(())
}
