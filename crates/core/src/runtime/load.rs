//! What draws: all the time, in bursts (RT-2), by the hour; straight or through an inverter (RT-3).

use super::error::RuntimeError;
use crate::quantity::bounds;
use serde::{Deserialize, Serialize};

/// Efficiencies that inverters have, least and most (RT-3; common practice, no source).
pub const INVERTER_EFFICIENCY: [f64; 2] = [0.85, 0.92];

/// An inverter between bank and load.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Inverter {
    /// Watts out for each watt in, 0.5 to 1.
    pub efficiency: f64,
    /// Watts it takes for itself.
    pub idle: f64,
}

/// A load: A of the bank, or W behind the inverter where there is one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "load", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RuntimeLoad {
    /// Day and night.
    Continuous {
        /// How much.
        amount: f64,
    },
    /// Short runs at a steady pace.
    Bursts {
        /// While it runs.
        amount: f64,
        /// Seconds of a run.
        seconds: f64,
        /// Seconds from one run to the next.
        every: f64,
        /// What a start takes above that, A·s (or W·s).
        #[serde(default)]
        surge: f64,
        /// Drawn all the time beside it.
        #[serde(default)]
        standing: f64,
    },
    /// By the hour of the day.
    ByHour {
        /// From midnight on, 24 figures.
        #[cfg_attr(feature = "schema", schema(value_type = Vec<f64>, min_items = 24, max_items = 24))]
        amounts: [f64; 24],
        /// Hour of the day at which the bank is on its own.
        #[serde(default)]
        from: u8,
    },
}

/// A stretch of time with one current.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Stretch {
    /// How long, h; infinite for a load that never changes.
    pub hours: f64,
    /// Mean current of the bank, A.
    pub amperes: f64,
    /// The current that its volts are read under, A.
    pub under: f64,
}

impl RuntimeLoad {
    /// Says whether it can be.
    pub(super) fn check(&self) -> Result<(), RuntimeError> {
        let amount = |own: f64| bounds::RUNTIME_LOAD.check(own).map(|_| ());
        match self {
            Self::Continuous { amount: own } => amount(*own)?,
            Self::Bursts { amount: own, seconds, every, surge, standing } => {
                amount(*own)?;
                amount(*standing)?;
                bounds::BURST_SECONDS.check(*seconds)?;
                bounds::BURST_SECONDS.check(*every)?;
                bounds::SURGE.check(*surge)?;
                if seconds > every {
                    return Err(RuntimeError::RunsIntoTheNext { seconds: *seconds, every: *every });
                }
            }
            Self::ByHour { amounts, from } => {
                amounts.iter().try_for_each(|own| amount(*own))?;
                bounds::HOUR_OF_DAY.check(f64::from(*from))?;
            }
        }
        Ok(())
    }

    /// The stretches that go round and round, at nominal volts of the bank.
    pub(super) fn stretches(&self, inverter: Option<Inverter>, volts: f64) -> Vec<Stretch> {
        let amperes = |own: f64| inverter.map_or(own, |i| (own / i.efficiency + i.idle) / volts);
        match self {
            Self::Continuous { amount } => {
                let amperes = amperes(*amount);
                vec![Stretch { hours: f64::INFINITY, amperes, under: amperes }]
            }
            Self::Bursts { amount, seconds, every, surge, standing } => {
                let mean = (amount * seconds + surge + standing * every) / every;
                let under = amperes(amount + standing);
                vec![Stretch { hours: f64::INFINITY, amperes: amperes(mean), under }]
            }
            Self::ByHour { amounts, from } => (0..24)
                .map(|n| amperes(amounts[(usize::from(*from) + n) % 24]))
                .map(|amperes| Stretch { hours: 1.0, amperes, under: amperes })
                .collect(),
        }
    }

    /// The same load, so many times as large.
    #[must_use]
    pub fn times(&self, factor: f64) -> Self {
        match self.clone() {
            Self::Continuous { amount } => Self::Continuous { amount: amount * factor },
            Self::Bursts { amount, seconds, every, surge, standing } => Self::Bursts {
                amount: amount * factor,
                seconds,
                every,
                surge: surge * factor,
                standing: standing * factor,
            },
            Self::ByHour { amounts, from } => Self::ByHour { amounts: amounts.map(|own| own * factor), from },
        }
    }
}
