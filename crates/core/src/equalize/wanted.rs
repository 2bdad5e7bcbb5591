//! EQ-1 and EQ-2: whether an equalize is wanted, of which kind, why, and what each house says.

use super::RunKind;
use crate::battery_model::BatteryModel;
use crate::finding::BarredBy;
use crate::house_rules::HouseRules;
use crate::instrument::Limit;
use crate::quantity::Points;
use crate::schedule::Duty;
use jiff::ToSpan;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// What is known of a bank when one asks whether it wants an equalize.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BankToEqualize {
    /// Its batteries.
    pub model: BatteryModel,
    /// What it does.
    pub duty: Duty,
    /// The day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub today: Date,
    /// Day the bank became known here.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub known_since: Date,
    /// Last equalize.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub last_equalize: Option<Date>,
    /// The last round that was judged.
    pub round: Option<LastRound>,
    /// What has to be put right before anybody equalizes, by whatever means it was found.
    #[serde(default)]
    pub barred: Option<BarredBy>,
}

/// What the last round says, as far as an equalize is decided by it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LastRound {
    /// Its day.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub day: Date,
    /// Spread, points.
    pub spread: Option<Points>,
    /// Spread that the instrument's noise alone explains, points.
    pub noise: Points,
    /// True when the charge before it was proven full.
    pub proven_full: bool,
    /// What has to be put right before anybody equalizes; none: nothing forbids one.
    #[serde(default)]
    pub barred: Option<BarredBy>,
    /// Median less full gravity of a proven-full round that stands short of full, points (negative).
    pub short: Option<Points>,
    /// Volts per cell as measured and as the gravity leads to, where the volts say fuller.
    pub layered: Option<(f64, f64)>,
}

/// Why an equalize is wanted.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(tag = "why", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Reason {
    /// The spread is at its limit or over.
    Spread {
        /// Spread.
        spread: Points,
        /// Its limit, and what noise explains.
        limit: Limit,
        /// True when the charge before the round was proven full.
        proven_full: bool,
    },
    /// All cells stand short of full after a proven full charge.
    Short {
        /// Points from full (negative).
        short: Points,
    },
    /// Rest volts say fuller than the gravity drawn from the top: layers.
    Layered {
        /// Volts per cell as measured.
        measured: f64,
        /// As the gravity leads to.
        expected: f64,
    },
    /// The calendar of the house.
    Calendar {
        /// Every so many days.
        days: u16,
        /// The last one; none on record: counted from the day the bank became known.
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
        last: Option<Date>,
        /// Due.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        due: Date,
    },
}

impl Reason {
    /// The kind of run it asks for (EQ-2).
    pub const fn kind(self) -> RunKind {
        match self {
            Self::Spread { .. } | Self::Short { .. } => RunKind::Corrective,
            Self::Layered { .. } => RunKind::Stir,
            Self::Calendar { .. } => RunKind::Preventive,
        }
    }
}

/// What one house says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HouseSays {
    /// Its name.
    pub house: String,
    /// Kind it wants; none: not today.
    pub kind: Option<RunKind>,
    /// Why, the most pressing first.
    pub reasons: Vec<Reason>,
    /// When its calendar asks next; none where it has none for this bank.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub next: Option<Date>,
}

/// Whether an equalize is wanted.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wanted {
    /// True for sealed batteries whose model carries no conditioning voltage (EQ-1): nothing unlocks it
    /// but the maker's own figure.
    pub locked: bool,
    /// What the bank's own house says.
    pub own: HouseSays,
    /// What the other houses say.
    pub others: Vec<HouseSays>,
    /// True when a round since the last equalize is there to decide by.
    pub read_since: bool,
    /// What has to be put right before anybody equalizes; none: nothing forbids one.
    pub barred: Option<BarredBy>,
}

impl BankToEqualize {
    /// The last round where no equalize came after it: that is the answer, and the next round reads it.
    fn fresh(&self) -> Option<LastRound> {
        self.round.filter(|r| self.last_equalize.is_none_or(|e| e <= r.day))
    }

    /// What forbids an equalize, by the last round or by other means.
    fn bar(&self) -> Option<BarredBy> {
        let by_round = self.fresh().and_then(|round| round.barred);
        self.barred.filter(|by| by.does_harm()).or(by_round).or(self.barred)
    }
}

/// EQ-2 by one house.
fn says(bank: &BankToEqualize, rules: &HouseRules) -> HouseSays {
    let mut reasons = Vec::new();
    let barred = bank.bar();
    if let Some(round) = bank.fresh() {
        let limit = Limit::widened(rules.balance_limits(&bank.model).equalize, round.noise);
        let open = barred.is_none();
        if let Some(spread) = round.spread.filter(|s| open && *s >= limit.used) {
            reasons.push(Reason::Spread { spread, limit, proven_full: round.proven_full });
        }
        reasons.extend(round.short.filter(|_| open).map(|short| Reason::Short { short }));
        reasons.extend(
            round
                .layered
                .filter(|(measured, expected)| {
                    measured > expected && matches!(barred, None | Some(BarredBy::Layered))
                })
                .map(|(measured, expected)| Reason::Layered { measured, expected }),
        );
    }
    let cycled = bank.duty == Duty::Cycled && bank.model.construction.has_caps();
    let days = rules.equalize_every_days;
    let from = bank.last_equalize.unwrap_or(bank.known_since);
    let next = cycled.then(|| from.checked_add(i64::from(days).days()).unwrap_or(from));
    // The calendar does not equalize a bank that must not be.
    if let Some(due) = next.filter(|due| *due <= bank.today && barred.is_none()) {
        reasons.push(Reason::Calendar { days, last: bank.last_equalize, due });
    }
    HouseSays { house: rules.name.clone(), kind: reasons.first().map(|r| r.kind()), reasons, next }
}

/// EQ-1 and EQ-2: by the bank's own house, and what the houses that ship would say. `rules` are the
/// bank's own, single choices of its own among them.
pub fn wanted(bank: &BankToEqualize, rules: &HouseRules) -> Wanted {
    let others = HouseRules::shipped().into_iter().filter(|h| h.key != rules.key);
    Wanted {
        locked: bank.model.setpoints.equalize.is_none(),
        own: says(bank, rules),
        others: others.map(|h| says(bank, &h)).collect(),
        read_since: bank.fresh().is_some(),
        barred: bank.bar(),
    }
}
