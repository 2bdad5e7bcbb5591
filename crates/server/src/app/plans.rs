//! Plans that are kept: named, told stale when their bank has new readings, compared two by two.

use super::App;
use super::planners::answer::{PlanAnswer, PlanFact};
use super::planners::control::Control;
use super::planners::{Planner, PlannerAsked, PlannerForm, answer, form};
use super::refused::{AppError, AppResult};
use crate::db::{Connection, PlanRow, VisitRow, Written};
use crate::words;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use rainshadow_core::actor::Actor;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Longest name of a plan, characters.
const LONGEST_NAME: usize = 80;

/// A plan as it is sent to be kept.
#[derive(Debug, Clone, PartialEq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SentPlan {
    /// Which planner.
    pub planner: Planner,
    /// Its name.
    pub name: String,
    /// What is set.
    pub asked: PlannerAsked,
    /// The visit it is attached to.
    #[serde(default)]
    pub visit: Option<String>,
    /// The plan that it takes the place of.
    #[serde(default)]
    pub replaces: Option<String>,
}

/// A kept plan in a list.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanBrief {
    /// Id.
    pub id: String,
    /// Its name.
    pub name: String,
    /// Which planner.
    pub planner: Planner,
    /// What that is called.
    pub planner_name: String,
    /// The sentence it came to.
    pub said: String,
    /// When it was kept, and by whom.
    pub kept: String,
    /// What its bank tells otherwise by now; empty: it is as it was.
    pub stale: Vec<String>,
    /// The visit it is attached to.
    pub visit: Option<String>,
}

/// A kept plan with what it was set to.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct KeptPlan {
    /// The plan.
    pub plan: PlanBrief,
    /// Its bank; none: one that is not on the books.
    pub bank: Option<String>,
    /// What was set.
    pub values: BTreeMap<String, String>,
    /// The same with what its bank tells by now, where that was not set otherwise.
    pub renewed: BTreeMap<String, String>,
    /// Unit of its temperatures.
    pub unit: TemperatureUnit,
}

/// One line of two plans side by side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ComparedLine {
    /// What.
    pub what: String,
    /// In the one.
    pub left: String,
    /// In the other.
    pub right: String,
    /// True where they differ.
    pub differs: bool,
}

/// Two plans side by side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PlansCompared {
    /// Names.
    pub names: [String; 2],
    /// What each comes to.
    pub said: [String; 2],
    /// Figures.
    pub figures: Vec<ComparedLine>,
    /// What is set otherwise.
    pub set: Vec<ComparedLine>,
}

/// A kept plan with its answer of today: what is printed, and written to a file.
pub struct PrintedPlan {
    /// The plan.
    pub row: PlanRow,
    /// Which planner.
    pub planner: Planner,
    /// What it began with.
    pub form: PlannerForm,
    /// Its answer.
    pub answer: PlanAnswer,
    /// What its bank tells otherwise by now.
    pub stale: Vec<String>,
    /// Today.
    pub today: Date,
}

fn planner_of(row: &PlanRow) -> AppResult<Planner> {
    Planner::of(&row.planner).ok_or_else(|| AppError::field("planner", "There is no such planner here."))
}

fn unit_of(row: &PlanRow) -> TemperatureUnit {
    if row.unit == "F" { TemperatureUnit::Fahrenheit } else { TemperatureUnit::Celsius }
}

fn asked_of(row: &PlanRow) -> PlannerAsked {
    PlannerAsked { bank: row.bank.clone(), values: row.values.clone(), unit: unit_of(row) }
}

fn begun(form: &PlannerForm) -> BTreeMap<String, String> {
    form.controls.iter().map(|own| (own.key.clone(), own.value.clone())).collect()
}

fn shown(control: &Control, value: &str) -> String {
    let option = control.options.iter().find(|own| own.value == value).map(|own| own.label.clone());
    let unit = words::unit_behind(&control.unit);
    match option {
        Some(label) => label,
        None if value.is_empty() => "nothing".into(),
        None => format!("{value}{unit}"),
    }
}

/// Days that move on by themselves make no plan stale.
fn moves_on(control: &Control) -> bool {
    control.kind == super::planners::control::ControlKind::Day
}

/// What a bank tells otherwise by now than when the plan was kept.
fn stale(row: &PlanRow, now: &PlannerForm) -> Vec<String> {
    if row.bank.is_none() {
        return Vec::new();
    }
    now.controls
        .iter()
        .filter(|own| !moves_on(own))
        .filter_map(|own| {
            let then = row.begun.get(&own.key)?;
            (*then != own.value)
                .then(|| format!("{}: {} then, {} now", own.label, shown(own, then), shown(own, &own.value)))
        })
        .collect()
}

/// What was set, with what the bank tells by now where nobody set it otherwise.
fn renewed(row: &PlanRow, now: &PlannerForm) -> BTreeMap<String, String> {
    let mut all = row.values.clone();
    for own in now.controls.iter().filter(|own| !moves_on(own)) {
        let untouched = row.values.get(&own.key) == row.begun.get(&own.key);
        if untouched {
            all.insert(own.key.clone(), own.value.clone());
        }
    }
    all
}

fn brief(row: &PlanRow, planner: Planner, now: &PlannerForm) -> PlanBrief {
    let day = row.made_at.to_zoned_datetime(TimeZone::UTC).date();
    PlanBrief {
        id: row.id.clone(),
        name: row.name.clone(),
        planner,
        planner_name: planner.name().into(),
        said: row.said.clone(),
        kept: format!("kept {} by {}", words::day(day), row.by.initials),
        stale: stale(row, now),
        visit: row.visit.clone(),
    }
}

fn read(db: &Connection, id: &str, today: Date) -> AppResult<(PlanRow, Planner, PlannerForm)> {
    let row = PlanRow::by_id(db, id)?;
    let planner = planner_of(&row)?;
    let form = form(db, planner, row.bank.as_deref(), &row.values, (unit_of(&row), today))?;
    Ok((row, planner, form))
}

/// Keeps a plan; what it comes to is worked out first, and what cannot be is refused.
///
/// # Errors
/// What does not fit, by its control, no name, and whatever the database says no to.
pub async fn keep_plan(app: &App, id: String, sent: SentPlan, by: Actor) -> AppResult<Written> {
    let (now, today) = (app.clock.now(), app.clock.today());
    let name = sent.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > LONGEST_NAME {
        return Err(AppError::field("name", format!("A plan has a name of 1 to {LONGEST_NAME} characters.")));
    }
    app.write_or_refuse(move |tx| {
        let asked = &sent.asked;
        let units = ReaderUnits { temperature: asked.unit, ..ReaderUnits::default() };
        let answered = answer(tx, sent.planner, asked, units, today)?;
        let begun =
            begun(&form(tx, sent.planner, asked.bank.as_deref(), &asked.values, (asked.unit, today))?);
        if let Some(visit) = &sent.visit {
            let of = VisitRow::by_id(tx, visit)?.bank_id;
            if Some(&of) != asked.bank.as_ref() {
                return Err(AppError::field("visit", "That visit is of another bank."));
            }
        }
        let mut values = begun.clone();
        values.extend(asked.values.clone());
        let row = PlanRow {
            id,
            bank: asked.bank.clone(),
            visit: sent.visit.clone(),
            planner: sent.planner.word().into(),
            name,
            values,
            begun,
            unit: if asked.unit == TemperatureUnit::Fahrenheit { "F" } else { "C" }.into(),
            said: answered.said,
            made_at: now,
            by,
        };
        Ok(row.store(tx, sent.replaces.as_deref())?)
    })
    .await
}

/// Throws a plan away.
///
/// # Errors
/// No such plan, and whatever the database says no to.
pub async fn withdraw_plan(app: &App, id: String, by: Actor) -> AppResult<()> {
    let now = app.clock.now();
    Ok(app.write(move |tx| PlanRow::withdraw(tx, &id, now, &by)).await?)
}

/// Kept plans of a bank, or of none.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn kept_plans(app: &App, bank: Option<String>) -> AppResult<Vec<PlanBrief>> {
    let today = app.clock.today();
    let all = move |db: &Connection| -> AppResult<Vec<PlanBrief>> {
        let mut all = Vec::new();
        for row in PlanRow::of_bank(db, bank.as_deref())? {
            let planner = planner_of(&row)?;
            let now = form(db, planner, bank.as_deref(), &row.values, (unit_of(&row), today))?;
            all.push(brief(&row, planner, &now));
        }
        Ok(all)
    };
    app.db.read(move |db| Ok(all(db))).await?
}

/// A kept plan with what it was set to.
///
/// # Errors
/// No such plan, and whatever the reading fails with.
pub async fn kept_plan(app: &App, id: String) -> AppResult<KeptPlan> {
    let today = app.clock.today();
    let own = move |db: &Connection| -> AppResult<KeptPlan> {
        let (row, planner, now) = read(db, &id, today)?;
        Ok(KeptPlan {
            plan: brief(&row, planner, &now),
            renewed: renewed(&row, &now),
            unit: unit_of(&row),
            bank: row.bank,
            values: row.values,
        })
    };
    app.db.read(move |db| Ok(own(db))).await?
}

fn printed(db: &Connection, id: &str, units: ReaderUnits, today: Date) -> AppResult<PrintedPlan> {
    let (row, planner, form) = read(db, id, today)?;
    let units = ReaderUnits { temperature: unit_of(&row), ..units };
    let answer = answer(db, planner, &asked_of(&row), units, today)?;
    Ok(PrintedPlan { stale: stale(&row, &form), row, planner, form, answer, today })
}

/// A kept plan with its answer.
///
/// # Errors
/// No such plan, and whatever the reading fails with.
pub async fn printed_plan(app: &App, id: String, units: ReaderUnits) -> AppResult<PrintedPlan> {
    let today = app.clock.today();
    app.db.read(move |db| Ok(printed(db, &id, units, today))).await?
}

impl PrintedPlan {
    /// What is set, control by control, those that are shown.
    pub fn set(&self) -> Vec<[String; 3]> {
        let value = |key: &str| self.row.values.get(key).map_or("", String::as_str);
        let is_shown = |own: &&Control| {
            own.shown_when.as_ref().is_none_or(|when| when.is.iter().any(|is| is == value(&when.key)))
        };
        let line = |own: &Control| {
            let set = value(&own.key);
            let source = if set == own.value { own.source.clone() } else { "set".into() };
            [own.label.clone(), shown(own, set), source]
        };
        self.form.controls.iter().filter(is_shown).map(line).collect()
    }

    /// Its figures, those of its options after their names.
    pub fn figures(&self) -> Vec<[String; 2]> {
        let said = |own: &PlanFact| format!("{}{}", own.value, words::unit_behind(&own.unit));
        let facts = self.answer.facts.iter().map(|own| [own.name.clone(), said(own)]);
        let options = self.answer.options.iter().flat_map(|option| {
            option.figures.iter().map(move |own| [format!("{}: {}", option.name, own.name), said(own)])
        });
        facts.chain(options).collect()
    }
}

/// Lines of two lists, by what they are of.
fn side_by_side(left: Vec<[String; 2]>, right: Vec<[String; 2]>) -> Vec<ComparedLine> {
    let none = || "\u{2013}".to_owned();
    let mut all: Vec<ComparedLine> = left
        .into_iter()
        .map(|[what, left]| {
            let other = right.iter().find(|own| own[0] == what).map_or_else(none, |own| own[1].clone());
            ComparedLine { differs: left != other, what, left, right: other }
        })
        .collect();
    for [what, own] in right {
        if !all.iter().any(|line| line.what == what) {
            all.push(ComparedLine { what, left: none(), right: own, differs: true });
        }
    }
    all
}

/// Two kept plans side by side.
///
/// # Errors
/// No such plan, and whatever the reading fails with.
pub async fn compare_plans(app: &App, ids: [String; 2], units: ReaderUnits) -> AppResult<PlansCompared> {
    let today = app.clock.today();
    let both = move |db: &Connection| -> AppResult<PlansCompared> {
        let [left, right] = &ids;
        let (left, right) = (printed(db, left, units, today)?, printed(db, right, units, today)?);
        if left.planner != right.planner {
            return Err(AppError::field("right", "Two plans of one planner are compared; choose another."));
        }
        let set = |own: &PrintedPlan| {
            own.set().into_iter().map(|[what, value, _]| [what, value]).collect::<Vec<_>>()
        };
        let mut differ = side_by_side(set(&left), set(&right));
        differ.retain(|line| line.differs);
        Ok(PlansCompared {
            figures: side_by_side(left.figures(), right.figures()),
            set: differ,
            said: [left.answer.said, right.answer.said],
            names: [left.row.name, right.row.name],
        })
    };
    app.db.read(move |db| Ok(both(db))).await?
}
