//! A charge controller that is not there: it drives a simulated bank (SM-1) and tells of it by Modbus
//! TCP in SunSpec models. It can be told to go wrong.

use crate::feed::sunspec::{BASES, Told, map};
use rainshadow_core::bank::BankShape;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::charge::{ChargerTemperature, Stage, setpoint};
use rainshadow_core::feed::FeedStage;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::simulator::{BankReading, CellKind, Drive, SimBank, SimCell, SimString, Surroundings};
use std::future::Future;
use std::pin::Pin;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use tokio::net::TcpListener;
use tokio_modbus::prelude::{ExceptionCode, Request, Response, SlaveRequest};
use tokio_modbus::server::Service;
use tokio_modbus::server::tcp::{Server, accept_tcp_connection};

/// Current of absorption and equalize, share of C20; a run never has more than a tenth.
const AMPERES: f64 = 0.05;
/// Air around the bank, °C, when nothing else is said.
pub const AIR: f64 = 20.0;
/// How often the bank is moved on.
const STEP: Duration = Duration::from_millis(100);

/// What goes wrong.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fault {
    /// Nothing.
    None,
    /// It takes questions and never answers.
    Hang,
    /// It answers with exceptions.
    Exception,
    /// It sends fewer registers than were asked for.
    Short,
    /// It says the same over and over, its heart stands.
    Repeat,
    /// It tells volts of another world.
    Nonsense,
    /// Its volts jump up and down.
    Jump,
}

impl Fault {
    /// By its word.
    pub fn of(word: &str) -> Option<Self> {
        Some(match word {
            "none" => Self::None,
            "hang" => Self::Hang,
            "exception" => Self::Exception,
            "short" => Self::Short,
            "repeat" => Self::Repeat,
            "nonsense" => Self::Nonsense,
            "jump" => Self::Jump,
            _ => return None,
        })
    }
}

/// A bank as it is simulated.
#[derive(Debug, Clone)]
pub struct Bank {
    /// How it is built.
    pub shape: BankShape,
    /// Its batteries.
    pub model: BatteryModel,
    /// State of charge at the beginning, 0 to 1.
    pub charged: f64,
    /// Air around it, °C.
    pub air: f64,
    /// Cells that are not like the others.
    pub odd: Vec<OddCell>,
}

/// A cell that is not like the others; shares of C20.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OddCell {
    /// Where in electrical order.
    pub place: usize,
    /// Charge it is behind the others.
    pub behind: f64,
    /// Soft sulfate, which dissolves as it gasses.
    pub soft: f64,
    /// Hard sulfate, which does not.
    pub hard: f64,
}

/// The stand-in.
pub struct ChargerSimulator {
    bank: Bank,
    cells: SimBank,
    /// Stage it is switched to; none: off.
    stage: Option<Stage>,
    reading: BankReading,
    hours: f64,
    heartbeat: f64,
    fault: Fault,
    /// What it keeps saying when it repeats itself.
    stuck: Option<Vec<u16>>,
}

impl ChargerSimulator {
    /// A charger on a bank, on float.
    pub fn new(bank: Bank) -> Self {
        let kind = if bank.model.construction.has_caps() { CellKind::FLOODED } else { CellKind::AGM };
        let per_string = usize::from(bank.shape.cells_in_series());
        let capacity = bank.model.c20.ampere_hours();
        let mut cells: Vec<SimCell> = (0..bank.shape.cell_count())
            .map(|i| {
                // Cells of one bank are alike, not equal: a point or two of charge apart.
                #[expect(clippy::cast_precision_loss, reason = "cells of a bank are few")]
                let nearly = 0.004 * ((i * 7 + 3) % 11) as f64 / 11.0;
                SimCell::new(kind, capacity).at(bank.air).charged_to((bank.charged - nearly).clamp(0.0, 1.0))
            })
            .collect();
        for odd in &bank.odd {
            if let Some(cell) = cells.get_mut(odd.place) {
                *cell = SimCell::new(kind, capacity)
                    .at(bank.air)
                    .charged_to((bank.charged - odd.behind).clamp(0.0, 1.0))
                    .sulfated(odd.soft, odd.hard);
            }
        }
        let strings = cells.chunks(per_string.max(1)).map(|s| SimString::new(s.to_vec())).collect();
        let mut own = Self {
            cells: SimBank::new(strings, &[]),
            bank,
            stage: Some(Stage::Float),
            reading: BankReading { volts: 0.0, amperes: 0.0, shares: Vec::new() },
            hours: 0.0,
            heartbeat: 0.0,
            fault: Fault::None,
            stuck: None,
        };
        own.pass(1e-4);
        own
    }

    fn hottest(&self) -> f64 {
        let all = self.cells.strings().iter().flat_map(SimString::cells);
        all.map(SimCell::celsius).fold(f64::MIN, f64::max)
    }

    /// What the charger does at this moment: volts by its sensor, and the current it has.
    fn drive(&self) -> Drive {
        let Some(stage) = self.stage else { return Drive::Current(0.0) };
        let at = Temperature::from_celsius(self.hottest().clamp(-30.0, 50.0));
        let cells = self.bank.shape.cells_in_series();
        let set = at.ok().and_then(|at| {
            setpoint(&self.bank.model, stage, cells, at, ChargerTemperature::default(), None).ok()
        });
        let amperes = AMPERES * self.bank.model.c20.ampere_hours() * f64::from(self.bank.shape.parallel);
        match set {
            Some(set) => Drive::Charger { volts: set.volts, amperes },
            // Locked, or too cold or hot for this stage: it does nothing.
            None => Drive::Current(0.0),
        }
    }

    /// So many hours pass.
    pub fn pass(&mut self, hours: f64) {
        let around = Surroundings::Air(self.bank.air);
        let mut left = hours;
        while left > 1e-9 {
            let part = left.min(1.0 / 120.0);
            let drive = self.drive();
            self.reading = self.cells.step(drive, part, around);
            left -= part;
        }
        self.hours += hours;
    }

    /// Switches it; none: off.
    pub fn switch(&mut self, stage: Option<Stage>) {
        self.stage = stage;
        self.pass(1e-4);
    }

    /// Lets it go wrong, or right again.
    pub fn go_wrong(&mut self, fault: Fault) {
        self.fault = fault;
        self.stuck = None;
    }

    /// Heats every cell, °C: a hot room in a moment, for trying limits.
    pub fn heat_to(&mut self, celsius: f64) {
        self.bank.air = celsius;
        for string in self.cells.strings_mut() {
            for cell in string.cells_mut() {
                *cell = cell.clone().at(celsius);
            }
        }
    }

    /// What a hydrometer draws from a cell: as read at its temperature, to whole thousandths.
    pub fn gravity(&self, cell: usize) -> Option<f64> {
        let per_string = usize::from(self.bank.shape.cells_in_series()).max(1);
        let own = self.cells.strings().get(cell / per_string)?.cells().get(cell % per_string)?;
        // Warm acid is lighter: the reverse of SG-1.
        let reference = self.bank.model.reference_temperature.celsius();
        let read = own.gravity_on_top() - 0.00072 * (own.celsius() - reference);
        Some((read * 1000.0).round() / 1000.0)
    }

    /// Temperature of the hottest cell, °C.
    pub fn celsius(&self) -> f64 {
        self.hottest()
    }

    /// Volts and amperes of the bank, and hours since it began.
    pub fn display(&self) -> (f64, f64, f64) {
        (self.reading.volts, self.reading.amperes, self.hours)
    }

    /// The bank.
    pub fn bank(&self) -> &Bank {
        &self.bank
    }

    fn told(&self) -> Told {
        let all: Vec<f64> =
            self.cells.strings().iter().flat_map(SimString::cells).map(SimCell::state_of_charge).collect();
        #[expect(clippy::cast_precision_loss, reason = "cells of a bank are few")]
        let charge = all.iter().sum::<f64>() / all.len().max(1) as f64;
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "wraps as a heartbeat does"
        )]
        let heartbeat = (self.heartbeat % 65_535.0) as u16;
        let nonsense = self.fault == Fault::Nonsense;
        // Odd beats stand four volts off.
        let jump = if self.fault == Fault::Jump && heartbeat % 2 == 1 { 4.0 } else { 0.0 };
        Told {
            volts: if nonsense { 655.3 } else { self.reading.volts + jump },
            amperes: self.reading.amperes,
            celsius: self.hottest(),
            charge,
            stage: match self.stage {
                None => FeedStage::Off,
                Some(Stage::Float) => FeedStage::Holding,
                Some(Stage::Absorption | Stage::Equalize) => FeedStage::Charging,
            },
            heartbeat,
        }
    }

    fn registers(&mut self) -> Vec<u16> {
        let now = map(&self.told());
        if self.fault == Fault::Repeat {
            return self.stuck.get_or_insert(now).clone();
        }
        now
    }
}

/// A stand-in that several tasks share.
#[derive(Clone)]
pub struct Shared(Arc<Mutex<ChargerSimulator>>);

impl Shared {
    /// To be shared.
    pub fn new(own: ChargerSimulator) -> Self {
        Self(Arc::new(Mutex::new(own)))
    }

    /// The stand-in, held.
    pub fn hold(&self) -> MutexGuard<'_, ChargerSimulator> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

type Answer = Pin<Box<dyn Future<Output = Result<Response, ExceptionCode>> + Send>>;

impl Service for Shared {
    type Request = SlaveRequest<'static>;
    type Response = Response;
    type Exception = ExceptionCode;
    type Future = Answer;

    fn call(&self, asked: Self::Request) -> Answer {
        let Request::ReadHoldingRegisters(at, count) = asked.request else {
            return Box::pin(std::future::ready(Err(ExceptionCode::IllegalFunction)));
        };
        let mut own = self.hold();
        match own.fault {
            Fault::Hang => return Box::pin(std::future::pending()),
            Fault::Exception => return Box::pin(std::future::ready(Err(ExceptionCode::ServerDeviceFailure))),
            _ => {}
        }
        let registers = own.registers();
        let from = at.checked_sub(BASES[0]).map(usize::from);
        let wanted = from.and_then(|from| registers.get(from..from + usize::from(count)));
        let answer = match wanted {
            None => Err(ExceptionCode::IllegalDataAddress),
            Some(words) if own.fault == Fault::Short && words.len() > 2 => {
                Ok(Response::ReadHoldingRegisters(words[..words.len() - 2].to_vec()))
            }
            Some(words) => Ok(Response::ReadHoldingRegisters(words.to_vec())),
        };
        Box::pin(std::future::ready(answer))
    }
}

/// Serves a stand-in on a listener, its bank moving on so many times as fast as time, until dropped.
///
/// # Errors
/// What the listener fails with.
pub async fn serve(own: Shared, listener: TcpListener, speed: f64) -> std::io::Result<()> {
    let moving = {
        let own = own.clone();
        async move {
            let mut tick = tokio::time::interval(STEP);
            let mut last = tokio::time::Instant::now();
            loop {
                tick.tick().await;
                let passed = last.elapsed().as_secs_f64();
                last = tokio::time::Instant::now();
                let mut held = own.hold();
                held.pass(passed * speed / 3600.0);
                held.heartbeat += passed * 10.0;
            }
        }
    };
    let connected = |stream, from| {
        let own = own.clone();
        async move { accept_tcp_connection(stream, from, move |_from| Ok(Some(own.clone()))) }
    };
    let server = Server::new(listener);
    tokio::select! {
        done = server.serve(&connected, |error| tracing::debug!(%error, "a client left")) => done,
        () = moving => Ok(()),
    }
}
