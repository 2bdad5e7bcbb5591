//! Topics of tests: load tests, timed discharges, Peukert.

#![expect(
    clippy::needless_pass_by_value,
    reason = "every topic has the same shape: it takes its input and may refuse it"
)]

use super::{CalcError, Topic, chosen_model, computed, schema, within};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::discharge::{
    CapacityResult, CapacityTest, Drawn, capacity_condition, capacity_test, exponent, peukert_hours,
    usual_exponents,
};
use rainshadow_core::load_test::{
    RealLoad, RealLoadJudged, ShortLoad, ShortLoadJudged, judge_real_load, judge_short_load, load_current,
};
use rainshadow_core::quantity::{Temperature, bounds};
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// CT-2: a capacity and a current.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct PeukertAsked {
    /// Capacity at 20 hours, Ah.
    c20: f64,
    /// Current, A.
    amperes: f64,
    /// Exponent; by two discharges, or usual for flooded batteries, when left out.
    #[serde(default)]
    exponent: Option<f64>,
    /// Two discharges of one model as current, A, and hours.
    #[serde(default)]
    discharges: Option<[[f64; 2]; 2]>,
}

/// Hours at that current.
#[derive(Debug, Serialize, ToSchema)]
struct PeukertSaid {
    /// Exponent that was used.
    exponent: f64,
    /// Hours.
    hours: f64,
    /// Ampere-hours that come out at that current.
    ampere_hours: f64,
    /// In words.
    said: String,
}

fn peukert_topic(input: PeukertAsked) -> Result<PeukertSaid, CalcError> {
    let c20 = within(bounds::CAPACITY, "c20", input.c20)?;
    let amperes = within(bounds::TEST_CURRENT, "amperes", input.amperes)?;
    let k = match (input.exponent, input.discharges) {
        (Some(k), _) => within(bounds::PEUKERT, "exponent", k)?,
        (None, Some([one, other])) => exponent((one[0], one[1]), (other[0], other[1]))
            .map_err(|e| CalcError::Impossible { path: "discharges", why: e.to_string() })?,
        (None, None) => usual_exponents(rainshadow_core::battery_model::Construction::Flooded)[1],
    };
    let hours = peukert_hours(c20, amperes, k);
    let said = format!(
        "{c20:.0} Ah last {} at {amperes:.1} A: {:.1} Ah come out.",
        wording::discharge_time(hours),
        hours * amperes
    );
    Ok(PeukertSaid { exponent: k, hours, ampere_hours: hours * amperes, said })
}

/// CT-1: a timed discharge.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct CapacityAsked {
    /// What was drawn of the bank.
    drawn: Drawn,
    /// Strings that shared it; 1 when left out.
    #[serde(default = "one")]
    strings: u8,
    /// Mean electrolyte temperature at the start, °C; without it no percentage is told.
    #[serde(default)]
    temperature: Option<Temperature>,
    /// True when the end voltage was reached.
    reached_end: bool,
    /// What the bank is for; cycled when left out.
    #[serde(default = "cycled")]
    duty: Duty,
    /// Key of a generic model; flooded-6v-420 when neither is given.
    #[serde(default)]
    model_key: Option<String>,
    /// A whole model.
    #[serde(default)]
    model: Option<BatteryModel>,
}

fn one() -> u8 {
    1
}

fn cycled() -> Duty {
    Duty::Cycled
}

/// A timed discharge with its sentences.
#[derive(Debug, Serialize, ToSchema)]
struct CapacitySaid {
    /// In words.
    said: String,
    /// How the bank stands by it.
    condition: Severity,
    /// The figures.
    #[serde(flatten)]
    result: CapacityResult,
}

fn capacity_topic(input: CapacityAsked) -> Result<CapacitySaid, CalcError> {
    within(bounds::PARALLEL, "strings", f64::from(input.strings))?;
    let model = chosen_model(input.model, input.model_key)?;
    let test = CapacityTest {
        model: &model,
        strings: input.strings,
        drawn: &input.drawn,
        temperature: input.temperature,
        reached_end: input.reached_end,
    };
    let result =
        capacity_test(&test).map_err(|e| CalcError::Impossible { path: "drawn", why: e.to_string() })?;
    let condition = capacity_condition(&result, input.duty);
    Ok(CapacitySaid { said: wording::capacity_verdict(&result, condition, input.duty), condition, result })
}

/// LT-2 or LT-3.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
enum LoadAsked {
    /// Seconds under a heavy load, battery by battery.
    Short(ShortLoad),
    /// Minutes under the load of the system.
    Real(RealLoad),
}

/// A load test with its sentences.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
enum LoadSaid {
    /// A short load.
    Short {
        /// In words.
        said: String,
        /// Battery by battery in words.
        lines: Vec<String>,
        /// Current to set, A; none: the tester\u{2019}s own.
        amperes: Option<f64>,
        /// Battery by battery.
        batteries: Vec<ShortLoadJudged>,
    },
    /// A real load.
    Real {
        /// In words.
        said: String,
        /// What the loads and the inverter do.
        lines: Vec<String>,
        /// The figures.
        judged: RealLoadJudged,
    },
}

fn load_topic(input: LoadAsked) -> Result<LoadSaid, CalcError> {
    let impossible = |why: String| CalcError::Impossible { path: "load test", why };
    Ok(match input {
        LoadAsked::Short(test) => {
            let judged = judge_short_load(&test).map_err(|e| impossible(e.to_string()))?;
            LoadSaid::Short {
                said: wording::short_load_verdict(&test, &judged),
                lines: judged.iter().map(wording::short_load_line).collect(),
                amperes: load_current(test.load).map_err(|e| impossible(e.to_string()))?,
                batteries: judged,
            }
        }
        LoadAsked::Real(test) => {
            let judged = judge_real_load(&test).map_err(|e| impossible(e.to_string()))?;
            LoadSaid::Real {
                said: wording::real_load_verdict(&judged),
                lines: wording::real_load_lines(&test, &judged),
                judged,
            }
        }
    })
}

pub(super) static TOPICS: [Topic; 3] = [
    Topic {
        name: "peukert",
        about: "CT-2: hours that a capacity lasts at a current",
        run: |bytes| computed(bytes, peukert_topic),
        schema: schema::<PeukertAsked, PeukertSaid>,
    },
    Topic {
        name: "capacity-test",
        about: "CT-1: what share of its rated capacity a timed discharge proved, with its range",
        run: |bytes| computed(bytes, capacity_topic),
        schema: schema::<CapacityAsked, CapacitySaid>,
    },
    Topic {
        name: "load-test",
        about: "LT-2, LT-3: seconds under a heavy load, minutes under the system's own",
        run: |bytes| computed(bytes, load_topic),
        schema: schema::<LoadAsked, LoadSaid>,
    },
];
