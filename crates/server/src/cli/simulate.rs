//! `rainshadow simulate`.

use crate::charger_simulator::charger::{AIR, Bank, ChargerSimulator, OddCell, Shared, serve};
use crate::charger_simulator::panel;
use crate::demo::DemoBank;
use clap::{Args, Subcommand};
use rainshadow_core::bank::{BankShape, CellAddress, Layout};
use rainshadow_core::battery_model::BatteryModel;
use std::io::Write;
use std::net::SocketAddr;
use thiserror::Error;
use tokio::io::{AsyncBufReadExt, BufReader};
use tokio::net::TcpListener;

/// What to stand in for.
#[derive(Debug, Subcommand)]
pub enum Simulate {
    /// A charge controller with a bank behind it, told by Modbus TCP in SunSpec models 1, 714 and 802.
    Charger(ChargerArgs),
    /// What a monitor on a demo bank wrote in its last year, lived through anew: a line every ten minutes.
    Monitor {
        /// Name of the bank.
        bank: String,
        /// The day that it ends with.
        #[arg(long)]
        until: Option<jiff::civil::Date>,
    },
    /// The years of a demo bank, lived through anew: its journal, a line for each day that was found.
    Years {
        /// Name of the bank; without it, the names.
        bank: Option<String>,
    },
}

/// The charger and its bank.
#[derive(Debug, Args)]
pub struct ChargerArgs {
    /// Address to listen on.
    #[arg(long, default_value = "127.0.0.1:1502")]
    pub listen: SocketAddr,
    /// Key of a generic battery model.
    #[arg(long, default_value = "flooded-6v-420")]
    pub model: String,
    /// Batteries in series.
    #[arg(long, default_value_t = 8)]
    pub series: u8,
    /// Strings in parallel.
    #[arg(long, default_value_t = 2)]
    pub parallel: u8,
    /// State of charge at the beginning, per cent.
    #[arg(long, default_value_t = 99.0)]
    pub charged: f64,
    /// Air around the bank, °C.
    #[arg(long, default_value_t = AIR)]
    pub air: f64,
    /// A cell that is not like the others: address, per cent of charge it is behind, of soft and of hard
    /// sulfate, as B5-2:12:4:8. Soft dissolves as it gasses, hard does not; may be repeated.
    #[arg(long)]
    pub weak: Vec<String>,
    /// How many times as fast as time it goes, 1 to 3600.
    #[arg(long, default_value_t = 1.0)]
    pub speed: f64,
}

/// Why it does not start.
#[derive(Debug, Error)]
pub enum SimulateError {
    /// No such model.
    #[error("there is no generic battery model \u{201c}{found}\u{201d}; accepted is {accepted}")]
    Model {
        /// What was said.
        found: String,
        /// What there is.
        accepted: String,
    },
    /// A bank that cannot be.
    #[error("{0}")]
    Shape(#[from] rainshadow_core::bank::BankError),
    /// A weak cell that cannot be.
    #[error(
        "\u{201c}{0}\u{201d} names no weak cell of this bank; accepted is address:behind:soft:hard, as B5-2:12:4:8"
    )]
    Weak(String),
    /// The port.
    #[error("cannot listen on {0}: {1}")]
    Listen(SocketAddr, std::io::Error),
    /// No such bank.
    #[error("there is no demo bank \u{201c}{found}\u{201d}; accepted is {accepted}")]
    NoBank {
        /// What was said.
        found: String,
        /// What there is.
        accepted: String,
    },
    /// A demo that cannot be.
    #[error("{0}")]
    Demo(#[from] crate::db::DbError),
    /// The network.
    #[error("the network failed: {0}")]
    Network(#[from] std::io::Error),
}

fn weak(shape: &BankShape, text: &str) -> Result<OddCell, SimulateError> {
    let parts: Vec<&str> = text.split(':').collect();
    let cell = || {
        let [address, behind, soft, hard] = parts.as_slice() else { return None };
        let address: CellAddress = address.parse().ok()?;
        let place = shape.cells().position(|own| own == address)?;
        let part = |t: &str| t.parse::<f64>().ok().filter(|v| (0.0..=40.0).contains(v)).map(|v| v / 100.0);
        Some(OddCell { place, behind: part(behind)?, soft: part(soft)?, hard: part(hard)? })
    };
    cell().ok_or_else(|| SimulateError::Weak(text.to_owned()))
}

impl ChargerArgs {
    fn bank(&self) -> Result<Bank, SimulateError> {
        let model = BatteryModel::generic_by_key(&self.model).ok_or_else(|| {
            let keys: Vec<String> =
                BatteryModel::generic().into_iter().map(|(key, _)| key.to_owned()).collect();
            SimulateError::Model { found: self.model.clone(), accepted: keys.join(", ") }
        })?;
        let shape = BankShape {
            system_voltage: model.nominal_volts() * u16::from(self.series),
            cells_per_battery: model.cells,
            series: self.series,
            parallel: self.parallel,
            layout: Layout::default(),
        }
        .checked()?;
        let odd = self.weak.iter().map(|text| weak(&shape, text)).collect::<Result<_, _>>()?;
        Ok(Bank { shape, model, charged: (self.charged / 100.0).clamp(0.0, 1.0), air: self.air, odd })
    }
}

/// Stands in for a charger until it is stopped; its panel is the terminal.
///
/// # Errors
/// [`SimulateError`] in one line.
pub async fn charger(args: ChargerArgs) -> Result<(), SimulateError> {
    let own = Shared::new(ChargerSimulator::new(args.bank()?));
    let listener =
        TcpListener::bind(args.listen).await.map_err(|error| SimulateError::Listen(args.listen, error))?;
    let address = listener.local_addr()?;
    let mut out = std::io::stdout();
    let _ =
        writeln!(out, "A charger that is not there answers at {address}, Modbus unit 1.\n{}", panel::HELP);
    let panel = {
        let own = own.clone();
        async move {
            let mut lines = BufReader::new(tokio::io::stdin()).lines();
            while let Ok(Some(line)) = lines.next_line().await {
                let said = panel::say(&own, &line);
                let _ = writeln!(std::io::stdout(), "{said}");
            }
            // A closed terminal does not end the charger.
            std::future::pending::<()>().await;
        }
    };
    tokio::select! {
        done = serve(own, listener, args.speed.clamp(1.0, 3600.0)) => done?,
        () = panel => {},
        _ = tokio::signal::ctrl_c() => {},
    }
    Ok(())
}

/// Prints the journal of a demo bank as the simulator makes it.
///
/// # Errors
/// [`SimulateError`] in one line.
pub fn years(bank: Option<String>) -> Result<(), SimulateError> {
    let names = DemoBank::names().collect::<Vec<_>>().join(", ");
    let mut out = std::io::stdout();
    let Some(found) = bank else { return Ok(writeln!(out, "{names}")?) };
    write!(out, "{}", named(found)?.live()?.print()?)?;
    Ok(())
}

fn named(found: String) -> Result<DemoBank, SimulateError> {
    let accepted = DemoBank::names().collect::<Vec<_>>().join(", ");
    DemoBank::by_name(&found)?.ok_or(SimulateError::NoBank { found, accepted })
}

/// Prints the log of a monitor on a demo bank as the simulator makes it.
///
/// # Errors
/// [`SimulateError`] in one line.
pub fn monitor(bank: String, until: Option<jiff::civil::Date>) -> Result<(), SimulateError> {
    write!(std::io::stdout(), "{}", named(bank)?.monitor(until)?)?;
    Ok(())
}
