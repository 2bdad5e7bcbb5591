//! RP-1 and RP-2: the options where one battery is failing.

use super::asked::{ReplacementAsked, ReplacementError, UNKNOWN_AGE, UsedKind};
use super::cost::{CostOver, cost_over};
use super::mismatch::{MismatchAsked, MismatchBattery, MismatchRun, mismatch};
use crate::life::{LIFE_SPREAD, spread};
use crate::replacing::{OneNew, UsedMatch, one_new, used_match};
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// Days that a mixed string is run for.
pub const MISMATCH_DAYS: u16 = 90;
/// Years that a battery lasts which is failing, at most (our choice, no source).
const FAILING_YEARS: f64 = 1.0;

/// Which option.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ReplacementKind {
    /// One new battery in its place.
    NewOne,
    /// A used one that matches.
    UsedMatch,
    /// The string with it is left out.
    DropString,
    /// All of them new.
    WholeBank,
    /// Nothing yet.
    Wait,
}

impl ReplacementKind {
    /// True where a battery comes in that was not there.
    pub const fn brings_in(self) -> bool {
        matches!(self, Self::NewOne | Self::UsedMatch | Self::WholeBank)
    }
}

/// Why an option is refused.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Refused {
    /// The bank is too old for a new one, by the house.
    TooOld,
    /// No used one is at hand.
    NoneAtHand,
    /// Its age or its capacity does not match.
    NoMatch,
    /// Sealed and flooded do not stand in one string.
    OtherChemistry,
    /// A starting battery does not stand among deep-cycle ones.
    Starter,
    /// It is the only string.
    OnlyString,
}

/// One option.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReplacementOption {
    /// Which.
    pub kind: ReplacementKind,
    /// Why it is refused; none: it is not.
    pub refused: Option<Refused>,
    /// Steady, watch or act, by what it does to the string and by the house.
    pub condition: Severity,
    /// Batteries that are bought.
    pub bought: u16,
    /// Batteries that are taken out.
    pub out: u16,
    /// Money now: batteries and work, old ones paid back.
    pub money: f64,
    /// Years to the end of the first of its members: best, least, most.
    pub years: [f64; 3],
    /// Depth of a day after it, per cent.
    pub depth: f64,
    /// Over the common horizon.
    pub cost: CostOver,
    /// The string at the end of each charge for ninety days; none: it has no string like that.
    pub run: Option<MismatchRun>,
    /// The new one by the house's limit.
    pub one_new: Option<OneNew>,
    /// The used one beside its mates.
    pub used: Option<UsedMatch>,
}

impl ReplacementAsked {
    /// The string with another battery in the failing place, for ninety days.
    fn string_with(&self, own: MismatchBattery, mates: MismatchBattery) -> MismatchRun {
        let at = usize::from(self.failing.battery) - 1;
        let batteries = (0..usize::from(self.shape.series)).map(|n| if n == at { own } else { mates });
        let strings = f64::from(self.shape.parallel);
        mismatch(&MismatchAsked {
            construction: self.model.construction,
            c20: self.model.c20.ampere_hours(),
            batteries: batteries.collect(),
            volts: self.volts,
            amperes: self.amperes / strings,
            hours: self.hours,
            drawn: self.depth / 100.0 * self.model.c20.ampere_hours(),
            celsius: self.celsius,
            days: MISMATCH_DAYS,
        })
    }
}

/// How full a battery of a string gets: by what it ends a day of charge at, per cent (our choice, no source).
pub fn filled(charge: f64) -> Severity {
    match charge {
        own if own >= 95.0 => Severity::Steady,
        own if own >= 88.0 => Severity::Watch,
        _ => Severity::Act,
    }
}

/// How a run leaves its string: by the least charge that a battery ends the last week of charges at.
fn ran(run: &MismatchRun) -> Severity {
    let last = run.days.iter().rev().take(7).flat_map(|own| own.charges.iter().copied());
    filled(last.fold(100.0, f64::min))
}

/// What an option is before its money is counted.
struct Drawn {
    kind: ReplacementKind,
    refused: Option<Refused>,
    bought: u16,
    out: u16,
    money: f64,
    years: [f64; 3],
    depth: f64,
    run: Option<MismatchRun>,
    condition: Severity,
    one_new: Option<OneNew>,
    used: Option<UsedMatch>,
}

/// All options, with one horizon: the longest of them (RP-1, RP-2, SM-2).
///
/// # Errors
/// [`ReplacementError`] for what cannot be.
pub fn replacement_options(asked: &ReplacementAsked) -> Result<Vec<ReplacementOption>, ReplacementError> {
    asked.check()?;
    let all = side_by_side(asked, [new_one, used_one, drop_string, whole_bank, wait]);
    let horizon = all.iter().filter(|own| own.refused.is_none()).map(|own| own.years[0]).fold(0.1, f64::max);
    let bank = whole_bank_money(asked);
    let life = asked.life_at(asked.depth);
    let volts = f64::from(asked.shape.system_voltage);
    let all_ah = asked.model.c20.ampere_hours() * f64::from(asked.shape.parallel);
    let kilowatt_hours = asked.depth / 100.0 * all_ah * volts / 1000.0 * 365.25;
    let costed = all.into_iter().map(|own| ReplacementOption {
        cost: cost_over(
            (own.money, own.years[0]),
            (bank, life),
            horizon,
            asked.prices.interest,
            kilowatt_hours,
        ),
        kind: own.kind,
        refused: own.refused,
        condition: own.condition,
        bought: own.bought,
        out: own.out,
        money: own.money,
        years: own.years,
        depth: own.depth,
        run: own.run,
        one_new: own.one_new,
        used: own.used,
    });
    Ok(costed.collect())
}

/// Every way at once: each runs its own string for 90 days, and none waits for another.
fn side_by_side<const N: usize>(
    asked: &ReplacementAsked,
    ways: [fn(&ReplacementAsked) -> Drawn; N],
) -> [Drawn; N] {
    std::thread::scope(|scope| {
        ways.map(|way| scope.spawn(move || way(asked)))
            .map(|run| run.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic)))
    })
}

fn whole_bank_money(asked: &ReplacementAsked) -> f64 {
    asked.count() * (asked.prices.battery + asked.prices.labour - asked.prices.core)
}

fn new_one(asked: &ReplacementAsked) -> Drawn {
    let house = one_new(asked.months, &asked.rules);
    let run = asked.string_with(asked.battery(0.0, 100.0), asked.sound());
    let refused = (house.condition == Severity::Act).then_some(Refused::TooOld);
    Drawn {
        kind: ReplacementKind::NewOne,
        refused,
        bought: 1,
        out: 1,
        money: asked.prices.battery + asked.prices.labour - asked.prices.core,
        years: asked.left_at(asked.depth),
        depth: asked.depth,
        condition: house.condition.max(ran(&run)),
        run: Some(run),
        one_new: Some(house),
        used: None,
    }
}

fn used_one(asked: &ReplacementAsked) -> Drawn {
    let base = Drawn {
        kind: ReplacementKind::UsedMatch,
        refused: Some(Refused::NoneAtHand),
        bought: 1,
        out: 1,
        money: asked.prices.used + asked.prices.labour - asked.prices.core,
        years: asked.left_at(asked.depth),
        depth: asked.depth,
        run: None,
        condition: Severity::Watch,
        one_new: None,
        used: None,
    };
    let Some((kind, used)) = &asked.used else { return base };
    let beside = used_match(used, asked.months);
    let months = used.months.or(asked.months).unwrap_or(UNKNOWN_AGE);
    let own = asked.battery(months, used.capacity.unwrap_or(asked.health));
    let run = asked.string_with(own, asked.sound());
    let here = asked.life_at(asked.depth);
    let its_own =
        [1.0, 1.0 / LIFE_SPREAD, LIFE_SPREAD].map(|factor| (here * factor - months / 12.0).max(0.0));
    let years = std::array::from_fn(|at| base.years[at].min(its_own[at].max(0.25 * base.years[at])));
    let refused = match kind {
        UsedKind::OtherChemistry => Some(Refused::OtherChemistry),
        UsedKind::Starter => Some(Refused::Starter),
        UsedKind::SameModel | UsedKind::OtherModel => {
            (beside.condition == Severity::Act).then_some(Refused::NoMatch)
        }
    };
    let other = if *kind == UsedKind::OtherModel { Severity::Watch } else { Severity::Steady };
    Drawn {
        refused,
        years,
        condition: beside.condition.max(ran(&run)).max(other),
        run: Some(run),
        used: Some(beside),
        ..base
    }
}

fn drop_string(asked: &ReplacementAsked) -> Drawn {
    let left = f64::from(asked.shape.parallel) - 1.0;
    let only = left < 1.0;
    let depth = if only { 100.0 } else { (asked.depth * (left + 1.0) / left).min(100.0) };
    let deep = depth > f64::from(asked.rules.planned_depth_percent);
    let series = f64::from(asked.shape.series);
    Drawn {
        kind: ReplacementKind::DropString,
        refused: only.then_some(Refused::OnlyString),
        bought: 0,
        out: u16::from(asked.shape.series),
        money: series * (asked.prices.labour - asked.prices.core),
        years: if only { [0.0; 3] } else { asked.left_at(depth) },
        depth,
        run: None,
        condition: if deep { Severity::Watch } else { Severity::Steady },
        one_new: None,
        used: None,
    }
}

fn whole_bank(asked: &ReplacementAsked) -> Drawn {
    let life = asked.life_at(asked.depth);
    let new = asked.battery(0.0, 100.0);
    let all = u16::try_from(asked.shape.batteries().count()).unwrap_or(u16::MAX);
    Drawn {
        kind: ReplacementKind::WholeBank,
        refused: None,
        bought: all,
        out: all,
        money: whole_bank_money(asked),
        years: spread(life),
        depth: asked.depth,
        run: Some(asked.string_with(new, new)),
        condition: Severity::Steady,
        one_new: None,
        used: None,
    }
}

fn wait(asked: &ReplacementAsked) -> Drawn {
    let sound = asked.sound();
    let worn = asked.battery(asked.months.unwrap_or(UNKNOWN_AGE), asked.failing_health).worn;
    let failing = MismatchBattery { leak: 4.0, worn, ..sound };
    let run = asked.string_with(failing, asked.sound());
    let left = asked.left_at(asked.depth);
    let share = (asked.failing_health / asked.health.max(1.0)).clamp(0.0, 1.0);
    let years = left.map(|own| (own * share).min(FAILING_YEARS * share.max(0.1)));
    Drawn {
        kind: ReplacementKind::Wait,
        refused: None,
        bought: 0,
        out: 0,
        money: 0.0,
        years: [years[0], years[1].min(years[0]) / LIFE_SPREAD, years[2].max(years[0]) * LIFE_SPREAD],
        depth: asked.depth,
        condition: Severity::Act.max(ran(&run)),
        run: Some(run),
        one_new: None,
        used: None,
    }
}
