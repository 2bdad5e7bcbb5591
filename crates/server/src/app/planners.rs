//! Planners: what a bank's record begins them with, and what they answer, for banks of the books and others.

pub mod answer;
mod charging;
mod climate;
pub mod control;
mod failing;
mod replacement;
mod runtime;
mod size;
mod storage;
mod subject;
mod typed;

use self::answer::PlanAnswer;
use self::control::{Control, Values};
use self::subject::Subject;
use self::typed::Typed;
use super::App;
use super::refused::{AppError, AppResult};
use crate::db::{Connection, ModelRow};
use jiff::civil::Date;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Which planner.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Planner {
    /// A storage spell.
    Storage,
    /// Hours on the bank alone.
    Runtime,
    /// Whether any source finishes the charge.
    Charging,
    /// One battery is failing.
    Replacement,
    /// How large a bank has to be.
    Size,
}

impl Planner {
    /// All of them, in the order they are offered.
    pub const ALL: [Self; 5] = [Self::Charging, Self::Storage, Self::Runtime, Self::Replacement, Self::Size];

    /// Its name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Storage => "Storage and winter",
            Self::Runtime => "Hours on its own",
            Self::Charging => "Charging",
            Self::Replacement => "Replacement",
            Self::Size => "Size",
        }
    }

    /// Its word, as it is kept and written to files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Storage => "storage",
            Self::Runtime => "runtime",
            Self::Charging => "charging",
            Self::Replacement => "replacement",
            Self::Size => "size",
        }
    }

    /// The one of a word.
    pub fn of(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|own| own.word() == word)
    }

    /// What it is for.
    pub const fn purpose(self) -> &'static str {
        match self {
            Self::Storage => "Charge and freezing through a season, in each way to leave it",
            Self::Replacement => {
                "One battery is failing: new one, used match, drop a string, whole bank, or wait"
            }
            Self::Size => "How large a bank has to be, and layouts that are",
            Self::Charging => "Whether any source finishes the charge, through a year, and what it costs",
            Self::Runtime => "How long it holds a load, to the alarm and until empty",
        }
    }
}

/// What a plan is made of.
#[derive(Debug, Clone, PartialEq, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlannerAsked {
    /// Its bank; none: it is not on the books.
    #[serde(default)]
    pub bank: Option<String>,
    /// What is set, by the key of its control.
    pub values: BTreeMap<String, String>,
    /// Unit that temperatures are typed in.
    #[serde(default)]
    pub unit: TemperatureUnit,
}

/// A planner before anything is set.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlannerForm {
    /// Which.
    pub planner: Planner,
    /// Its name.
    pub name: &'static str,
    /// What it is about: the bank.
    pub about: String,
    /// Its controls, with what they begin with.
    pub controls: Vec<Control>,
    /// Unit that its temperatures are in.
    pub unit: TemperatureUnit,
}

fn first_model(models: &[ModelRow], id: Option<&str>) -> AppResult<ModelRow> {
    let asked = id.filter(|id| !id.is_empty());
    let found = match asked {
        Some(id) => models.iter().find(|own| own.id == id),
        None => models.iter().find(|own| own.model.name.contains("6 V 420")).or(models.first()),
    };
    found
        .cloned()
        .ok_or_else(|| AppError::field("model", "There is no such battery model; choose one of the library."))
}

fn controls_of(planner: Planner, subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    match planner {
        Planner::Storage => storage::controls(subject, unit),
        Planner::Runtime => runtime::controls(subject, unit),
        Planner::Charging => charging::controls(subject, unit),
        Planner::Replacement => replacement::controls(subject, unit),
        Planner::Size => size::controls(subject, unit),
    }
}

/// What a planner begins with, and the bank it is about; one that is not on the books is as it is described so far.
fn begin(
    db: &Connection,
    planner: Planner,
    (bank, described): (Option<&str>, &Values),
    models: &[ModelRow],
    (unit, today): (TemperatureUnit, Date),
) -> AppResult<(PlannerForm, Subject)> {
    let mut controls = Vec::new();
    let subject = if let Some(bank) = bank {
        Subject::of_bank(db, bank, planner == Planner::Replacement, today)?
    } else {
        controls = Subject::controls(models);
        for own in &mut controls {
            own.value = described.get(&own.key).unwrap_or(&own.value).clone();
        }
        let begun: Values = controls.iter().map(|own| (own.key.clone(), own.value.clone())).collect();
        let mut typed = Typed::new(&begun, unit);
        let model = first_model(models, begun.get("model").map(String::as_str))?.model;
        Subject::described(model, &mut typed, today)?
    };
    controls.extend(controls_of(planner, &subject, unit));
    let form = PlannerForm { planner, name: planner.name(), about: subject.name(), controls, unit };
    Ok((form, subject))
}

/// What a planner begins with.
pub(crate) fn form(
    db: &Connection,
    planner: Planner,
    bank: Option<&str>,
    described: &Values,
    (unit, today): (TemperatureUnit, Date),
) -> AppResult<PlannerForm> {
    let models = ModelRow::all(db)?;
    Ok(begin(db, planner, (bank, described), &models, (unit, today))?.0)
}

/// What a planner answers to what is set; what is left out stands as it begins.
pub(crate) fn answer(
    db: &Connection,
    planner: Planner,
    asked: &PlannerAsked,
    units: ReaderUnits,
    today: Date,
) -> AppResult<PlanAnswer> {
    let models = ModelRow::all(db)?;
    let of = (asked.bank.as_deref(), &asked.values);
    let (begun, subject) = begin(db, planner, of, &models, (asked.unit, today))?;
    let known: Vec<&str> = begun.controls.iter().map(|own| own.key.as_str()).collect();
    if let Some(odd) = asked.values.keys().find(|key| !known.contains(&key.as_str())) {
        return Err(AppError::field(odd, "This planner has no such control."));
    }
    let mut values: Values = begun.controls.iter().map(|own| (own.key.clone(), own.value.clone())).collect();
    values.extend(asked.values.clone());
    let mut typed = Typed::new(&values, asked.unit);
    match planner {
        Planner::Storage => storage::answer(&subject, &mut typed, units),
        Planner::Runtime => runtime::answer(&subject, &models, &mut typed, units),
        Planner::Charging => charging::answer(&subject, &mut typed),
        Planner::Replacement => replacement::answer(&subject, &mut typed),
        Planner::Size => size::answer(&models, &mut typed),
    }
}

/// What a planner begins with, for a bank of the books or any other.
///
/// # Errors
/// No such bank, and whatever the reading fails with.
pub async fn planner_form(
    app: &App,
    planner: Planner,
    bank: Option<String>,
    described: Values,
    unit: TemperatureUnit,
) -> AppResult<PlannerForm> {
    let today = app.clock.today();
    app.db.read(move |db| Ok(form(db, planner, bank.as_deref(), &described, (unit, today)))).await?
}

/// What a planner answers.
///
/// # Errors
/// What does not fit, by its control, and whatever the reading fails with.
pub async fn plan(
    app: &App,
    planner: Planner,
    asked: PlannerAsked,
    units: ReaderUnits,
) -> AppResult<PlanAnswer> {
    let today = app.clock.today();
    app.db.read(move |db| Ok(answer(db, planner, &asked, units, today))).await?
}
