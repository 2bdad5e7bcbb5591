//! Asking one charger: connect, find its models, read them. Whatever it does wrong is an error with a
//! sentence, never a panic.

use super::sunspec;
use rainshadow_core::feed::Sample;
use std::net::SocketAddr;
use std::time::Duration;
use thiserror::Error;
use tokio::time::timeout;
use tokio_modbus::client::{Client, Context};
use tokio_modbus::prelude::{Request, Response, Slave, SlaveContext};

/// An answer that has not come by then does not come.
const PATIENCE: Duration = Duration::from_secs(2);
/// Models that a map is followed through, and registers of one: more is no map.
const MODELS: usize = 64;
const REGISTERS: u16 = 1024;
/// Registers that one request may ask for (Modbus).
const AT_ONCE: u16 = 125;

/// Why there is no sample.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum FeedError {
    /// Nobody listens there.
    #[error("{0} refuses the connection; is the charger on, and its Modbus TCP switched on")]
    Refused(SocketAddr),
    /// No answer in time.
    #[error("{0} does not answer within two seconds")]
    Hangs(SocketAddr),
    /// It answers with an exception.
    #[error("{address} answers with a Modbus exception: {said}")]
    Exception {
        /// Who.
        address: SocketAddr,
        /// In the words of the protocol.
        said: String,
    },
    /// It answers with more or fewer registers than were asked for.
    #[error("{address} sent {found} registers where {asked} were asked for")]
    WrongLength {
        /// Who.
        address: SocketAddr,
        /// How many were asked for.
        asked: usize,
        /// How many came.
        found: usize,
    },
    /// It answers something else.
    #[error("{address} answers what is no Modbus: {said}")]
    Garbled {
        /// Who.
        address: SocketAddr,
        /// What was wrong.
        said: String,
    },
    /// It is no SunSpec map.
    #[error("{0} speaks Modbus, but holds no SunSpec map at 40000, 0 or 50000")]
    NoMap(SocketAddr),
    /// No model that tells volts and amperes.
    #[error(
        "{0} holds neither a battery model (802) nor a DC measurement (714), so it tells no volts and amperes"
    )]
    NoModel(SocketAddr),
}

/// Where a model lies in the map of a charger.
#[derive(Debug, Clone, Copy)]
struct Lies {
    at: u16,
    length: u16,
}

/// A charger that answers.
pub struct Charger {
    address: SocketAddr,
    context: Context,
    battery: Option<Lies>,
    dc: Option<Lies>,
}

async fn registers(
    context: &mut Context,
    address: SocketAddr,
    at: u16,
    count: u16,
) -> Result<Vec<u16>, FeedError> {
    let asked = Request::ReadHoldingRegisters(at, count);
    let answer =
        timeout(PATIENCE, context.call(asked)).await.map_err(|_elapsed| FeedError::Hangs(address))?;
    match answer {
        Ok(Ok(Response::ReadHoldingRegisters(words))) if words.len() == usize::from(count) => Ok(words),
        Ok(Ok(Response::ReadHoldingRegisters(words))) => {
            Err(FeedError::WrongLength { address, asked: usize::from(count), found: words.len() })
        }
        Ok(Ok(_)) => Err(FeedError::Garbled { address, said: "an answer to another question".into() }),
        Ok(Err(exception)) => Err(FeedError::Exception { address, said: exception.to_string() }),
        Err(error) => Err(FeedError::Garbled { address, said: error.to_string() }),
    }
}

impl Charger {
    /// Connects and finds the models.
    ///
    /// # Errors
    /// [`FeedError`] with what is wrong.
    pub async fn connect(address: SocketAddr, unit: u8) -> Result<Self, FeedError> {
        let stream = timeout(PATIENCE, tokio::net::TcpStream::connect(address))
            .await
            .map_err(|_elapsed| FeedError::Hangs(address))?
            .map_err(|_refused| FeedError::Refused(address))?;
        let mut context = tokio_modbus::client::tcp::attach_slave(stream, Slave(unit));
        context.set_slave(Slave(unit));
        let mut found = Self { address, context, battery: None, dc: None };
        found.look().await?;
        Ok(found)
    }

    async fn look(&mut self) -> Result<(), FeedError> {
        let mut at = self.base().await?;
        for _ in 0..MODELS {
            let head = registers(&mut self.context, self.address, at, 2).await?;
            let (id, length) = (head[0], head[1]);
            if id == sunspec::END || length > REGISTERS {
                break;
            }
            let lies = Lies { at: at.saturating_add(2), length };
            if id == sunspec::BATTERY.0 {
                self.battery = Some(lies);
            } else if id == sunspec::DC {
                self.dc = Some(lies);
            }
            let Some(next) = at.checked_add(2).and_then(|a| a.checked_add(length)) else { break };
            at = next;
        }
        if self.battery.is_none() && self.dc.is_none() {
            return Err(FeedError::NoModel(self.address));
        }
        Ok(())
    }

    /// Where the map begins, behind its mark. An exception at one base says only that it is not there.
    async fn base(&mut self) -> Result<u16, FeedError> {
        for base in sunspec::BASES {
            match registers(&mut self.context, self.address, base, 2).await {
                Ok(mark) if mark == sunspec::MARK => return Ok(base + 2),
                Ok(_) | Err(FeedError::Exception { .. }) => {}
                Err(error) => return Err(error),
            }
        }
        Err(FeedError::NoMap(self.address))
    }

    async fn model(&mut self, lies: Option<Lies>) -> Result<Option<Vec<u16>>, FeedError> {
        let Some(Lies { mut at, length }) = lies else { return Ok(None) };
        let mut all = Vec::with_capacity(usize::from(length));
        let mut left = length;
        while left > 0 {
            let count = left.min(AT_ONCE);
            all.extend(registers(&mut self.context, self.address, at, count).await?);
            at = at.saturating_add(count);
            left -= count;
        }
        Ok(Some(all))
    }

    /// One sample; `at` in seconds.
    ///
    /// # Errors
    /// [`FeedError`] with what is wrong; connect anew after one, answers may come late.
    pub async fn sample(&mut self, at: f64) -> Result<Sample, FeedError> {
        let battery = self.model(self.battery).await?;
        let dc = self.model(self.dc).await?;
        sunspec::sample(battery.as_deref(), dc.as_deref(), at).ok_or(FeedError::NoModel(self.address))
    }
}
