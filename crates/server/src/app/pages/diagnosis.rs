//! What a bank may have, and what is left of it, as its page shows it.

mod resistances;

pub use resistances::ResistancesView;

use self::resistances::resistances;
use crate::app::App;
use crate::app::diagnosis::{Diagnosed, diagnosed_by};
use crate::app::fresh::{self, Wanted};
use crate::app::records::judged::BankRecord;
use crate::app::refused::AppResult;
use crate::db::visit_entries::past_visits;
use crate::db::{BankRow, Connection, DbError, Site};
use crate::words;
use jiff::civil::Date;
use rainshadow_core::charging_record::ChargingRecordJudged;
use rainshadow_core::diagnosis::{Diagnosis, Hypothesis, LEAD, Measurement, Ranked, Speaks, Standing};
use rainshadow_core::life::{
    CalendarShare, EndOfLife, LifeUse, RemainingLife, Wear, remaining_by_tests, wear,
};
use rainshadow_core::schedule::Duty;
use rainshadow_core::visit::{PastDischarge, Place, Step, capacities_by_day, step_that_measures};
use rainshadow_core::wording;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Lines a side that are shown.
const LINES: usize = 3;
/// Hypotheses that are open.
const OPEN: usize = 4;
/// Points from which a line speaks strongly.
const STRONG: i8 = 5;

/// One line of what speaks for or against.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpeaksLine {
    /// In words, with its figures.
    pub said: String,
    /// Group of evidence.
    pub group: String,
    /// Points by the table.
    pub points: i8,
    /// True where it speaks strongly.
    pub strong: bool,
}

/// One hypothesis.
#[derive(Debug, Serialize, ToSchema)]
pub struct HypothesisView {
    /// Which.
    pub hypothesis: Hypothesis,
    /// What it is called: "a weak cell in A5".
    pub name: String,
    /// How sure.
    pub standing: Standing,
    /// The same in a word, with the cause that it comes from.
    pub standing_said: String,
    /// Points.
    pub score: f64,
    /// From -1, all against it, to 1, all for it.
    pub tilt: f64,
    /// What speaks for it, the strongest first.
    pub speaks_for: Vec<SpeaksLine>,
    /// What speaks against it.
    pub against: Vec<SpeaksLine>,
}

/// What to measure next.
#[derive(Debug, Serialize, ToSchema)]
pub struct NextView {
    /// Which.
    pub measurement: Measurement,
    /// As a headline.
    pub title: String,
    /// Why.
    pub why: String,
    /// Minutes of attention.
    pub minutes: f64,
    /// The step of a visit that measures it; none: no step does.
    pub step: Option<Step>,
}

/// A capacity with its range, per cent of the rating.
#[derive(Debug, Serialize, ToSchema)]
pub struct CapacityView {
    /// Day to plot by.
    pub date: String,
    /// As said.
    pub day: String,
    /// Per cent.
    pub percent: f64,
    /// Range; none: not told.
    pub range: Option<[f64; 2]>,
    /// True when it was stopped before its end: it has that much at least.
    pub at_least: bool,
}

/// What is left of a bank, or of a part of it that was tested by itself.
#[derive(Debug, Serialize, ToSchema)]
pub struct HealthSeries {
    /// "the bank", "string A", "A5".
    pub place: String,
    /// Its tests, oldest first.
    pub capacities: Vec<CapacityView>,
    /// Its end in a sentence.
    pub said: String,
    /// Capacity at which its life ends, per cent.
    pub end: f64,
    /// First and last day of a forecast to draw to, and capacity there; empty: none is drawn.
    pub ahead: Vec<[String; 2]>,
    /// Earliest and latest day of the end, only from five tests on.
    pub ends_within: Option<[String; 2]>,
}

/// What a bank may have, and what is left of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct DiagnosisPage {
    /// The one sentence.
    pub verdict: String,
    /// False where fewer than two groups stand.
    pub enough: bool,
    /// "five groups of evidence: gravity, volts …".
    pub groups: String,
    /// Points by which the first leads, and how many make it likely.
    pub lead: [f64; 2],
    /// The first few.
    pub hypotheses: Vec<HypothesisView>,
    /// The others by name.
    pub others: Vec<String>,
    /// What to do until more is known; empty: nothing.
    pub meanwhile: String,
    /// What to measure next; none: nothing is left that settles anything.
    pub next: Option<NextView>,
    /// What comes after it: "read the volts at rest, 9 min".
    pub then: Vec<String>,
    /// What is left of it by tests, the bank first.
    pub health: Vec<HealthSeries>,
    /// Resistances over the years; none: none was read.
    pub resistances: Option<ResistancesView>,
    /// What its years used, one sentence; empty: its age or its climate is not known.
    pub wear: String,
    /// By whose weights, where a house takes some otherwise; empty: by those that ship.
    pub weighed: String,
}

fn line(own: &Speaks) -> SpeaksLine {
    SpeaksLine {
        said: wording::speaks_said(own),
        group: wording::evidence_group(own.group).into(),
        points: own.points.abs(),
        strong: own.points.abs() >= STRONG,
    }
}

fn side(own: &Ranked, for_it: bool) -> Vec<SpeaksLine> {
    let mut all: Vec<SpeaksLine> = own.speaks.iter().filter(|s| (s.points > 0) == for_it).map(line).collect();
    all.sort_by_key(|line| std::cmp::Reverse(line.points));
    all.truncate(LINES);
    all
}

fn hypothesis(own: &Ranked) -> HypothesisView {
    let sum = |for_it: bool| {
        own.speaks.iter().filter(|s| (s.points > 0) == for_it).map(|s| f64::from(s.points.abs())).sum::<f64>()
    };
    let (weight_for, against) = (sum(true), sum(false));
    let all = (weight_for + against).max(1.0);
    let sure = wording::standing_said(own.standing).to_owned();
    let under = own.under.map(|by| format!(", by {}", wording::hypothesis(by)));
    HypothesisView {
        hypothesis: own.hypothesis,
        name: wording::hypothesis_placed(own),
        standing: own.standing,
        standing_said: format!("{sure}{}", under.unwrap_or_default()),
        score: own.score,
        tilt: (weight_for - against) / all,
        speaks_for: side(own, true),
        against: side(own, false),
    }
}

/// What is shown open: faults that something speaks for, and healthy where it leads.
fn open(own: &Diagnosis) -> Vec<&Ranked> {
    // A sound bank is one of them only where that leads: else it is what no fault leaves.
    let leads = own.first().is_some_and(|r| r.hypothesis == Hypothesis::Healthy);
    let speaks =
        |r: &&Ranked| (leads || r.hypothesis != Hypothesis::Healthy) && r.speaks.iter().any(|s| s.points > 0);
    own.ranked.iter().filter(speaks).take(OPEN).collect()
}

fn health(own: &Diagnosed, duty: Duty) -> Vec<HealthSeries> {
    let mut by_place: BTreeMap<String, (Place, Vec<&PastDischarge>)> = BTreeMap::new();
    for test in &own.discharges {
        if test.now.result.as_ref().is_some_and(|r| r.percent.is_some()) {
            by_place.entry(test.place.to_string()).or_insert((test.place, Vec::new())).1.push(test);
        }
    }
    let mut all: Vec<(Place, Vec<&PastDischarge>)> = by_place.into_values().collect();
    all.sort_by_key(|(place, tests)| (*place != Place::Bank, std::cmp::Reverse(tests.len())));
    all.into_iter().filter_map(|(place, tests)| series(place, &tests, duty)).collect()
}

fn series(place: Place, tests: &[&PastDischarge], duty: Duty) -> Option<HealthSeries> {
    let mut capacities = Vec::new();
    for test in tests {
        let result = test.now.result.as_ref()?;
        let percent = result.percent?;
        capacities.push(CapacityView {
            date: test.day.to_string(),
            day: words::day(test.day),
            percent,
            range: result.range,
            at_least: result.at_least,
        });
    }
    let on_days = capacities_by_day(tests.iter().copied());
    let remaining = remaining_by_tests(&on_days, duty).ok()?;
    let last = on_days.last().map(|own| own.day);
    let said = last.map(|day| wording::remaining_life(&remaining, day));
    let (ahead, ends_within) = last.map_or((Vec::new(), None), |day| forecast(&remaining, day));
    Some(HealthSeries {
        place: place.said(),
        capacities,
        said: said.unwrap_or_else(|| "Only tests that were stopped early: it has that much at least.".into()),
        end: remaining.end,
        ahead,
        ends_within,
    })
}

/// Where a forecast is drawn from and to, and within what it ends.
fn forecast(own: &RemainingLife, last: Date) -> (Vec<[String; 2]>, Option<[String; 2]>) {
    let after = |years: f64| wording::years_after(last, years);
    let place = |day: Date, percent: f64| [day.to_string(), format!("{percent:.1}")];
    let (Some(now), Some(slope)) = (own.now, own.per_year) else { return (Vec::new(), None) };
    match own.ends {
        EndOfLife::Years { best, range } => {
            let within = range.map(|[low, high]| [after(low).to_string(), after(high).to_string()]);
            (vec![place(last, now), place(after(best), own.end)], within)
        }
        EndOfLife::Beyond { years, .. } => {
            (vec![place(last, now), place(after(years), slope.mul_add(years, now))], None)
        }
        _ => (Vec::new(), None),
    }
}

/// What the years used of its design life, and its cycles, where a record tells them: as on record in all its years.
fn worn(
    db: &Connection,
    bank: &BankRow,
    site: &Site,
    own: &Diagnosed,
    today: Date,
) -> Result<String, DbError> {
    let years = bank.months_in_service(today).map(|months| months / 12.0);
    let Some((years, climate)) = years.zip(site.climate) else { return Ok(String::new()) };
    let record = BankRecord::of(db, bank)?.map(|own| own.last_year(db)).transpose()?.flatten();
    let recorded = record.filter(|own| own.wear.is_some() && own.known_days > 0);
    let as_often = |own: &ChargingRecordJudged| {
        let times = years * 365.25 / f64::from(own.known_days);
        own.cycles.iter().map(|[depth, count]| [*depth, count * times]).collect()
    };
    let used = LifeUse {
        cycles: recorded.as_ref().map(as_often).unwrap_or_default(),
        calendar: vec![CalendarShare { years, temperature: climate.of_year() }],
        design_life: None,
        table: None,
    };
    let worn = wear(&used, own.model.construction).ok();
    let said = |own: &Wear| match &recorded {
        Some(record) => wording::wear_on_record_said(own, record.known_days),
        None => wording::wear_said(own, false),
    };
    Ok(worn.as_ref().map_or(String::new(), said))
}

fn page(db: &Connection, id: &str, today: Date) -> Result<DiagnosisPage, DbError> {
    let bank = BankRow::by_id(db, id)?;
    let site = Site::by_id(db, &bank.site_id)?;
    let visits = past_visits(db, &bank)?;
    let own = diagnosed_by(db, &bank, &visits, today)?;
    let told = &own.diagnosis;
    let shown = open(told);
    let name = |r: &&Ranked| wording::hypothesis(r.hypothesis).to_owned();
    let others =
        told.ranked.iter().filter(|r| !shown.iter().any(|s| s.hypothesis == r.hypothesis)).map(|r| name(&r));
    let mut settling = own.next.iter().filter(|next| next.gain > 0.01);
    let first = told.first().filter(|_| told.enough);
    Ok(DiagnosisPage {
        verdict: wording::diagnosis_verdict(told),
        enough: told.enough,
        groups: wording::evidence_groups(told),
        lead: [told.lead, LEAD],
        hypotheses: shown.iter().map(|r| hypothesis(r)).collect(),
        others: others.collect(),
        meanwhile: first.map(|r| wording::meanwhile(r.hypothesis).to_owned()).unwrap_or_default(),
        next: settling.next().map(|next| NextView {
            measurement: next.measurement,
            title: wording::next_title(next),
            why: wording::next_why(next, told, &own.weights),
            minutes: next.minutes,
            step: step_that_measures(next.measurement),
        }),
        then: settling
            .take(2)
            .map(|next| format!("{}, {:.0} min", wording::measurement_next(next.measurement), next.minutes))
            .collect(),
        health: health(&own, Duty::of(&bank.duty)),
        resistances: resistances(&visits, &bank, today),
        weighed: wording::weighed_by(&own.house),
        wear: worn(db, &bank, &site, &own, today)?,
    })
}

/// What a bank may have, and what is left of it.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn diagnosis_page(app: &App, id: String, today: Date) -> AppResult<DiagnosisPage> {
    let wanted = Wanted::Judged(vec![id.clone()]);
    Ok(fresh::read(app, wanted, move |db| page(db, &id, today)).await?)
}
