//! The page of a run: before, while it is on, and after.

use super::ledger::{LedgerLine, WithinView, setpoint_ledger};
use super::run_case::RunCase;
use super::typed_run::TAKE_BACK;
use crate::db::{Answer, BankRow, DbError, EquipmentRow, RoundRow};
use crate::words;
use jiff::Timestamp;
use rainshadow_core::bank::Plan;
use rainshadow_core::equalize::{
    ABORT_AT, Advice, BeforeCheck, LEAST_HOURS, PAUSE_AT, Phase, REST_HOURS, RunEntry, RunKind,
};
use rainshadow_core::feed::STOPPED_AFTER;
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::quantity::{Temperature, Volume};
use rainshadow_core::round::Condition;
use rainshadow_core::wording;
use rusqlite::Connection;
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;

/// A cell the run is watched by.
#[derive(Debug, Serialize, ToSchema)]
pub struct WatchedCell {
    /// Address.
    pub cell: String,
    /// "pilot" or "low".
    pub role: &'static str,
    /// Its last gravity in this run; empty: not read yet.
    pub gravity: String,
    /// What it gained since the first reading of this run, in words; empty: nothing to tell.
    pub gained: String,
}

/// One thing to see to before it begins.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckToSee {
    /// Which.
    pub check: BeforeCheck,
    /// Its name.
    pub name: String,
    /// What is seen to.
    pub what: String,
    /// Who confirmed it or left it out, and when; none: open.
    pub by: Option<String>,
    /// Why it was left out; empty: it was not.
    pub reason: String,
}

/// One reading as it is listed and drawn.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingLine {
    /// Its entry.
    pub id: String,
    /// "10:30".
    pub at: String,
    /// Hours on equalize.
    pub hours: f64,
    /// Gravity of each watched cell; empty: not read.
    pub gravities: Vec<String>,
    /// Their mean, for the chart; none where not all were read.
    pub mean: Option<f64>,
    /// The same in words.
    pub mean_said: String,
    /// Hottest electrolyte in the reader's unit, for the chart.
    pub temperature: Option<f64>,
    /// In words.
    pub temperature_said: String,
    /// In words; empty: not read.
    pub volts: String,
    /// In words; empty: not read.
    pub amperes: String,
    /// Who.
    pub by: String,
}

/// A point of a curve.
#[derive(Debug, Serialize, ToSchema)]
pub struct CurvePoint {
    /// Hours on equalize.
    pub hours: f64,
    /// Gravity.
    pub gravity: f64,
}

/// What the chart draws besides readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunChart {
    /// Hours to the right end.
    pub cap: f64,
    /// Hours before which the gravity ends nothing.
    pub least: f64,
    /// The curve that fits best, from the first reading to the forecast end; empty: no forecast.
    pub curve: Vec<CurvePoint>,
    /// Plateau: lowest, best, highest.
    pub plateau: Option<WithinView>,
    /// Hours at which it is forecast to end: soonest, likely, latest.
    pub ends: Option<WithinView>,
    /// Hours of the next reading.
    pub next: Option<f64>,
    /// Gravity at or under which the next reading ends the run.
    pub ends_at: Option<f64>,
    /// Temperature that pauses it, in the reader's unit.
    pub pause_at: f64,
    /// Temperature that ends it.
    pub abort_at: f64,
    /// "°C".
    pub degrees: &'static str,
}

/// What the feed says.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedView {
    /// True when a charger is connected at all.
    pub connected: bool,
    /// True while it answers.
    pub live: bool,
    /// In words.
    pub said: String,
    /// How it stands.
    pub condition: Condition,
    /// Samples that were marked during the run.
    pub marked: i64,
    /// Volts of the last sample that counts; empty: none.
    pub volts: String,
    /// Amperes of it.
    pub amperes: String,
    /// Temperature of it.
    pub temperature: String,
}

/// One cell before and after.
#[derive(Debug, Serialize, ToSchema)]
pub struct AnswerCell {
    /// Address.
    pub cell: String,
    /// Deviation before, points.
    pub before: f64,
    /// Deviation after.
    pub after: f64,
    /// In words: "−45 to −12".
    pub said: String,
    /// True when it did not answer.
    pub silent: bool,
}

/// What comes after the run, and what it did.
#[derive(Debug, Serialize, ToSchema)]
pub struct AfterView {
    /// Seconds of rest that are left before the cells are read.
    pub rest_seconds: f64,
    /// Time of day from which they are.
    pub read_from: String,
    /// The round before.
    pub round_before: Option<String>,
    /// Its day as said.
    pub before_day: String,
    /// The round after.
    pub round_after: Option<String>,
    /// True when water to the mark was noted on this visit after the run.
    pub watered: bool,
    /// The sentence; empty: not judged yet.
    pub verdict: String,
    /// Why it cannot be judged though the rounds are there; empty: it can.
    pub unread: String,
    /// Condition it gives.
    pub condition: Condition,
    /// Rule, tolerance, source.
    pub rule: String,
    /// Every cell that was read both times.
    pub cells: Vec<AnswerCell>,
    /// Spread before and after in words.
    pub spreads: String,
}

/// A line of the log.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogLine {
    /// When.
    pub at: String,
    /// What.
    pub said: String,
    /// Who.
    pub by: String,
}

/// The page of a run.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunPage {
    /// Id.
    pub id: String,
    /// Bank.
    pub bank: String,
    /// Visit.
    pub visit: String,
    /// Site.
    pub site: String,
    /// Name of the bank.
    pub name: String,
    /// The bank in words.
    pub description: String,
    /// Kind.
    pub kind: RunKind,
    /// Its name: "corrective equalize".
    pub kind_name: String,
    /// Day as said.
    pub day: String,
    /// Who stays with it.
    pub person: String,
    /// `before`, `running`, `paused` or `ended`.
    pub phase: &'static str,
    /// What to do now, then why.
    pub verdict: String,
    /// What the room must hear: `reading`, `pause` or `stop`; none: nothing.
    pub alarm: Option<&'static str>,
    /// Title of the window.
    pub title: String,
    /// What to do at the charger.
    pub stop_help: String,
    /// Seconds in which a stop can be taken back; 0: none.
    pub take_back_seconds: f64,
    /// Seconds until the next reading; negative: overdue. None: none is due.
    pub reading_seconds: Option<f64>,
    /// Its time of day.
    pub reading_at: String,
    /// Hours on equalize, "3:12".
    pub elapsed: String,
    /// The same in seconds.
    pub elapsed_seconds: f64,
    /// Seconds since it was paused.
    pub paused_seconds: Option<f64>,
    /// "ends any run at 8:00".
    pub cap: String,
    /// How many seconds of the clock pass in one.
    pub pace: f64,
    /// Cells it is watched by.
    pub watched: Vec<WatchedCell>,
    /// Checks before it.
    pub checks: Vec<CheckToSee>,
    /// Readings.
    pub readings: Vec<ReadingLine>,
    /// What the chart draws besides.
    pub chart: RunChart,
    /// How the rule stands.
    pub rule: String,
    /// Where it comes from.
    pub rule_source: String,
    /// The plateau and the hours left, as a sentence.
    pub forecast: String,
    /// Hottest electrolyte, in words; empty: not read.
    pub temperature: String,
    /// "pause at 46 °C, stop at 52 °C".
    pub temperature_limits: String,
    /// Volts, in words with where they come from; empty: not read.
    pub volts: String,
    /// Amperes; the same.
    pub amperes: String,
    /// Most it may have, in words.
    pub most_amperes: String,
    /// "0.54 L": at most.
    pub water: String,
    /// How that comes about.
    pub water_how: String,
    /// "20.2 m³/h".
    pub air: String,
    /// How that comes about.
    pub air_how: String,
    /// Setpoint, V.
    pub setpoint: String,
    /// How it comes about, line by line.
    pub ledger: Vec<LedgerLine>,
    /// The feed.
    pub feed: FeedView,
    /// What happened, newest first.
    pub log: Vec<LogLine>,
    /// Once it is over.
    pub after: Option<AfterView>,
    /// The bank from above.
    pub plan: Plan,
    /// Half-height of the steady band, points.
    pub steady_points: f64,
    /// Said when the clock of the machine was set while it ran; empty: it was not.
    pub clock: String,
    /// Unit temperatures are typed in.
    pub degrees_unit: TemperatureUnit,
}

fn phase(phase: Phase) -> &'static str {
    match phase {
        Phase::Before => "before",
        Phase::Running => "running",
        Phase::Paused { .. } => "paused",
        Phase::Ended { .. } => "ended",
    }
}

/// "3:12".
pub fn hours_minutes(hours: f64) -> String {
    let minutes = (hours * 60.0).floor().max(0.0);
    format!("{:.0}:{:02.0}", (minutes / 60.0).floor(), minutes % 60.0)
}

fn degrees(celsius: f64, units: ReaderUnits) -> f64 {
    match units.temperature {
        TemperatureUnit::Celsius => celsius,
        TemperatureUnit::Fahrenheit => celsius * 1.8 + 32.0,
    }
}

fn said(celsius: f64, units: ReaderUnits) -> String {
    Temperature::from_celsius(celsius).map(|t| units.say_temperature(t)).unwrap_or_default()
}

fn interval(of: rainshadow_core::equalize::Within) -> WithinView {
    WithinView { low: of.low, best: of.best, high: of.high }
}

impl RunCase {
    /// What the room must hear.
    pub fn alarm(&self) -> Option<&'static str> {
        let open = matches!(self.now.phase, Phase::Running | Phase::Paused { .. });
        match self.now.state.advice {
            _ if !open => None,
            advice if advice.stops() => Some("stop"),
            Advice::Pause if self.now.phase == Phase::Running => Some("pause"),
            _ if self.now.reading_in.is_some_and(|left| left <= 0.0) => Some("reading"),
            _ => None,
        }
    }

    /// What to do now, then why.
    pub fn verdict(&self, units: ReaderUnits) -> String {
        wording::run_verdict(&self.now, self.run.kind, &self.reading_at(), self.run.plan.float, units)
    }

    fn watched_cells(&self) -> Vec<WatchedCell> {
        let first = |i: usize| self.now.readings.iter().find_map(|r| r.gravities.get(i).copied().flatten());
        self.watched
            .iter()
            .enumerate()
            .map(|(i, cell)| {
                let last = self.last_gravity(i);
                let gained = first(i).zip(last).map(|(a, b)| b - a);
                WatchedCell {
                    cell: cell.to_string(),
                    role: if i == 0 { "pilot" } else { "low" },
                    gravity: last.map(|g| g.to_string()).unwrap_or_default(),
                    gained: gained.map(|p| wording::signed_points(p)).unwrap_or_default(),
                }
            })
            .collect()
    }

    /// What was seen to before it began, by whom, and what was left out and why.
    pub fn checks(&self, units: ReaderUnits) -> Vec<CheckToSee> {
        BeforeCheck::of(self.model.construction)
            .into_iter()
            .map(|check| {
                let (name, what) = wording::before_check(check, &self.run.plan.plan, units);
                let own = self.entries.iter().rev().find(|e| match &e.entry {
                    RunEntry::Confirmed { check: own } | RunEntry::Skipped { check: own, .. } => {
                        *own == check
                    }
                    _ => false,
                });
                let reason = match own.map(|e| &e.entry) {
                    Some(RunEntry::Skipped { reason, .. }) => reason.clone(),
                    _ => String::new(),
                };
                let by = own.map(|e| format!("{} on {}, {}", e.person, e.device, self.time(e.at)));
                CheckToSee { check, name, what, by, reason }
            })
            .collect()
    }

    /// Readings in order.
    pub fn reading_lines(&self, units: ReaderUnits) -> Vec<ReadingLine> {
        self.now
            .readings
            .iter()
            .map(|r| {
                let row = self.entries.iter().find(|e| e.id == r.id);
                ReadingLine {
                    id: r.id.clone(),
                    at: row.map(|e| self.time(e.at)).unwrap_or_default(),
                    hours: r.hours,
                    gravities: r
                        .gravities
                        .iter()
                        .map(|g| g.map(|g| g.to_string()).unwrap_or_default())
                        .collect(),
                    mean: r.mean.map(rainshadow_core::quantity::SpecificGravity::value),
                    mean_said: r.mean.map(|g| format!("{:.4}", g.value())).unwrap_or_default(),
                    temperature: r.celsius.map(|c| degrees(c, units)),
                    temperature_said: r.celsius.map(|c| said(c, units)).unwrap_or_default(),
                    volts: r.volts.map(|v| format!("{v:.1}")).unwrap_or_default(),
                    amperes: r.amperes.map(|a| format!("{a:.1}")).unwrap_or_default(),
                    by: row.map(|e| e.person.clone()).unwrap_or_default(),
                }
            })
            .collect()
    }

    fn chart(&self, units: ReaderUnits) -> RunChart {
        const POINTS: u32 = 40;
        let forecast = self.now.forecast;
        let end = forecast.map_or(0.0, |f| f.ends.best.max(self.now.elapsed));
        RunChart {
            cap: self.run.kind.cap(),
            least: LEAST_HOURS,
            curve: forecast
                .map(|f| {
                    (0..=POINTS)
                        .map(|i| end * f64::from(i) / f64::from(POINTS))
                        .map(|hours| CurvePoint { hours, gravity: f.at(hours) })
                        .collect()
                })
                .unwrap_or_default(),
            plateau: forecast.map(|f| interval(f.plateau)),
            ends: forecast.map(|f| interval(f.ends)),
            next: self.now.reading_in.map(|left| self.now.elapsed + left),
            ends_at: self.now.ends_at.map(rainshadow_core::quantity::SpecificGravity::value),
            pause_at: degrees(PAUSE_AT, units),
            abort_at: degrees(ABORT_AT, units),
            degrees: match units.temperature {
                TemperatureUnit::Celsius => "°C",
                TemperatureUnit::Fahrenheit => "°F",
            },
        }
    }

    fn feed(&self, connected: bool, pace: f64, units: ReaderUnits) -> FeedView {
        let quiet = |said: &str, condition| FeedView {
            connected,
            live: false,
            said: said.into(),
            condition,
            marked: self.marked,
            volts: String::new(),
            amperes: String::new(),
            temperature: String::new(),
        };
        let Some((at, sample)) = &self.last else {
            return if connected {
                quiet("The charger has not answered yet. Type what its display shows.", Condition::Watch)
            } else {
                quiet("No feed from the charger: type what its display shows.", Condition::NoReading)
            };
        };
        let age = self.at.duration_since(*at).as_secs_f64() / pace.max(1.0);
        let live = connected && (0.0..STOPPED_AFTER).contains(&age.abs());
        let stage = sample.stage.map(|s| format!(", {}", s.word())).unwrap_or_default();
        let away = sample.stage.filter(|s| live && !s.charges() && self.now.phase == Phase::Running);
        let marked = if self.marked > 0 {
            format!(" {} samples of this run did not count.", self.marked)
        } else {
            String::new()
        };
        let (said_, condition) = match (live, away) {
            (true, Some(stage)) => (
                format!("The charger says it is {}: has it left equalize?{marked}", stage.word()),
                Condition::Watch,
            ),
            (true, None) => (format!("The charger answers{stage}.{marked}"), Condition::Steady),
            (false, _) if connected => (
                format!(
                    "The charger has stopped answering; it last did at {}{stage}. The run goes on: type what its display shows.{marked}",
                    self.time(*at)
                ),
                Condition::Watch,
            ),
            (false, _) => {
                return quiet("No feed from the charger: type what its display shows.", Condition::NoReading);
            }
        };
        FeedView {
            connected,
            live,
            said: said_,
            condition,
            marked: self.marked,
            volts: format!("{:.1}", sample.volts),
            amperes: format!("{:.1}", sample.amperes),
            temperature: sample.celsius.map(|c| said(c, units)).unwrap_or_default(),
        }
    }

    /// Volts or amperes with where they come from.
    fn electrical(
        &self,
        feed: &FeedView,
        fed: &str,
        unit: &str,
        pick: impl Fn(&rainshadow_core::equalize::TakenReading) -> Option<f64>,
    ) -> String {
        let open = matches!(self.now.phase, Phase::Running | Phase::Paused { .. });
        if open && feed.live && !fed.is_empty() {
            return format!("{fed} {unit}, by the charger");
        }
        let typed = self.now.readings.iter().rev().find_map(|r| {
            let row = self.entries.iter().find(|e| e.id == r.id)?;
            Some(format!("{:.1} {unit}, read at {}", pick(r)?, self.time(row.at)))
        });
        typed.unwrap_or_default()
    }

    /// Setpoint, line by line.
    pub fn ledger(&self, units: ReaderUnits) -> Vec<LedgerLine> {
        let set = &self.run.plan.plan.setpoint;
        let asked = &self.run.plan.asked;
        let mut all = setpoint_ledger(set, asked.temperature, units);
        if (set.to_type - set.volts).abs() > 0.05 {
            let own = "typed into a charger that compensates";
            all.push(LedgerLine::new(own, format!("{:.1} V", set.to_type)));
        }
        if let Some(set_to) = self.run.plan.set_to {
            all.push(LedgerLine::new("typed into the charger", format!("{set_to:.1} V")));
        }
        all
    }

    /// What happened, newest first.
    pub fn log_lines(&self) -> Vec<LogLine> {
        let line = |e: &crate::db::RunEntryRow| {
            let said = match &e.entry {
                RunEntry::Confirmed { .. } | RunEntry::Skipped { .. } => return None,
                RunEntry::Began => "Charger switched to equalize.".into(),
                RunEntry::Read { .. } => return None,
                RunEntry::Paused { why } => format!(
                    "Paused {}.",
                    match why {
                        rainshadow_core::equalize::PauseWhy::Reading => "for a reading",
                        rainshadow_core::equalize::PauseWhy::Heat => "to cool",
                        rainshadow_core::equalize::PauseWhy::Other => "by hand",
                    }
                ),
                RunEntry::Resumed => "Switched on again.".into(),
                RunEntry::Ended { why } => wording::end_said(*why).into(),
                RunEntry::TakenBack => "The stop was taken back.".into(),
                RunEntry::ClockSet { hours } => format!(
                    "The clock of this machine was set {} by {}; the run counts on as if it had not been.",
                    if *hours < 0.0 { "back" } else { "forward" },
                    wording::run_span(hours.abs())
                ),
                RunEntry::Note { text } => text.clone(),
                RunEntry::Withdrawn { .. } => "A reading was taken back.".into(),
            };
            Some(LogLine { at: self.time(e.at), said, by: e.person.clone() })
        };
        self.entries.iter().rev().filter_map(line).collect()
    }

    fn after(&self, db: &Connection) -> Result<Option<AfterView>, DbError> {
        let Some(end) = self.run.ended_at else { return Ok(None) };
        let answer = self.answer(db)?;
        let left = REST_HOURS * 3600.0 - self.at.duration_since(end).as_secs_f64();
        let from = end.checked_add(jiff::SignedDuration::from_secs(3600)).unwrap_or(end);
        let judged = answer.judged.as_ref();
        let silent = |cell| {
            judged.is_some_and(|j| {
                matches!(&j.outcome, rainshadow_core::equalize::Outcome::DidNotAnswer { cells } if cells.contains(cell))
            })
        };
        Ok(Some(AfterView {
            rest_seconds: left.max(0.0),
            read_from: self.time(from),
            before_day: answer.before.as_ref().map(|r| words::day(r.day())).unwrap_or_default(),
            round_before: answer.before.as_ref().map(|r| r.id.clone()),
            round_after: answer.after.as_ref().map(|r| r.id.clone()),
            watered: self.watered_since(db, end)?,
            verdict: judged.map(wording::outcome_verdict).unwrap_or_default(),
            unread: wording::unread_after(&answer.unread),
            condition: judged.map_or(Condition::NoReading, |j| j.outcome.condition()),
            rule: judged.map(wording::outcome_rule).unwrap_or_default(),
            spreads: judged
                .map(|j| format!("spread {} before, {} after", j.before, j.after))
                .unwrap_or_default(),
            cells: judged
                .map(|j| {
                    j.cells
                        .iter()
                        .map(|c| AnswerCell {
                            cell: c.cell.to_string(),
                            before: c.before.value(),
                            after: c.after.value(),
                            said: format!("{} to {}", wording::signed(c.before), wording::signed(c.after)),
                            silent: silent(&c.cell),
                        })
                        .collect()
                })
                .unwrap_or_default(),
        }))
    }

    /// What the rounds around the run say of it.
    pub fn answer(&self, db: &Connection) -> Result<Answer, DbError> {
        let rounds = RoundRow::of_bank(db, &self.bank.id)?;
        let places: HashMap<_, _> = BankRow::placements(db, &self.bank.id)?
            .into_iter()
            .map(|(place, block)| (block, place))
            .collect();
        Answer::of(db, &self.run, &self.bank, &rounds, &places)
    }

    fn watered_since(&self, db: &Connection, end: Timestamp) -> Result<bool, DbError> {
        let visit = crate::db::VisitRow::by_id(db, &self.run.visit_id)?;
        Ok(crate::db::StoredEntry::of_visit(db, &visit)?.iter().any(|e| {
            matches!(e.new.entry, rainshadow_core::visit::Entry::Water { to_mark: true, .. })
                && e.new.taken_at > end
        }))
    }

    /// Water boiled off, in words.
    pub fn water_said(&self, units: ReaderUnits) -> String {
        Volume::from_millilitres(self.now.water).map(|v| units.say_volume(v)).unwrap_or_default()
    }

    /// The page.
    pub fn page(
        self,
        db: &Connection,
        units: ReaderUnits,
        (pace, wrong): (f64, Option<String>),
    ) -> Result<RunPage, DbError> {
        let connected = EquipmentRow::of_bank(db, &self.bank.id)?.fitted.feed.is_some();
        let mut feed = self.feed(connected, pace, units);
        if let Some(wrong) = wrong.filter(|_| connected && !feed.live) {
            feed.said = format!("{} {wrong}", feed.said);
        }
        let plan = &self.run.plan.plan;
        let phase_name = phase(self.now.phase);
        let alarm = self.alarm();
        let title = match (alarm, phase_name) {
            (Some("stop"), _) => "STOP the charger",
            (Some("pause"), _) => "Pause the charger",
            (Some(_), _) => "Reading due",
            (None, "running") => "Equalizing",
            (None, "paused") => "Paused",
            (None, "ended") => "Run over",
            (None, _) => "Before the run",
        };
        let take_back = self
            .run
            .ended_at
            .map_or(0.0, |end| TAKE_BACK - self.at.duration_since(end).as_secs_f64() / pace.max(1.0));
        let hottest = self.last_celsius();
        let fed_heat = if feed.live { feed.temperature.clone() } else { String::new() };
        let temperature = match hottest {
            Some(celsius) => said(celsius, units),
            None if !fed_heat.is_empty() => format!("{fed_heat} at the sensor"),
            None => String::new(),
        };
        Ok(RunPage {
            kind_name: format!("{} equalize", wording::run_kind(self.run.kind)),
            description: wording::describe_bank(&self.bank.shape, &self.model),
            day: words::day(self.run.day()),
            phase: phase_name,
            verdict: self.verdict(units),
            alarm,
            title: format!("{title} \u{b7} {}", self.site.name),
            stop_help: wording::stop_help(self.run.plan.float),
            take_back_seconds: take_back.max(0.0),
            reading_seconds: self.now.reading_in.map(|h| h * 3600.0),
            reading_at: self.reading_at(),
            elapsed: hours_minutes(self.now.elapsed),
            elapsed_seconds: self.now.elapsed * 3600.0,
            paused_seconds: self.now.paused_for.map(|h| h * 3600.0),
            cap: format!(
                "EQ-4 ends any {} run at {}",
                wording::run_kind(self.run.kind),
                hours_minutes(self.run.kind.cap())
            ),
            pace,
            watched: self.watched_cells(),
            checks: self.checks(units),
            readings: self.reading_lines(units),
            chart: self.chart(units),
            rule: wording::rule_said(&self.now, self.run.kind),
            rule_source: format!(
                "EQ-4: {}. House: {}. Maker’s manual first.",
                rainshadow_core::finding::RuleId::Eq4.source(),
                self.rules.name
            ),
            forecast: wording::run_forecast(&self.now, self.run.kind),
            temperature,
            temperature_limits: format!(
                "pause at {}, stop at {}",
                said(PAUSE_AT, units),
                said(ABORT_AT, units)
            ),
            volts: self.electrical(&feed, &feed.volts, "V", |r| r.volts),
            amperes: self.electrical(&feed, &feed.amperes, "A", |r| r.amperes),
            most_amperes: format!(
                "{:.0} to {:.0} A suit it, never above {:.0} A",
                plan.current.low, plan.current.high, plan.most_current
            ),
            water: self.water_said(units),
            water_how: format!(
                "{:.1} Ah of the bank over {} cells in series, {} a cell (WA-1); all of it counted as gassing",
                self.now.ampere_hours,
                self.bank.shape.cells_in_series(),
                Volume::from_millilitres(self.water_a_cell())
                    .map(|v| units.say_volume(v))
                    .unwrap_or_default()
            ),
            air: format!("{:.1} m³/h", plan.air.airflow),
            air_how: format!(
                "VE-1; openings of {:.0} cm² low and high; a fan from {:.1} V on",
                plan.air.opening, plan.fan_from
            ),
            setpoint: format!("{:.1}", plan.setpoint.volts),
            ledger: self.ledger(units),
            log: self.log_lines(),
            after: self.after(db)?,
            plan: self.bank.shape.plan(),
            steady_points: rainshadow_core::round::STEADY_POINTS,
            clock: if self.now.clock_set.abs() > 1e-9 {
                format!(
                    "The clock of this machine was set by {} while this ran. Hours are counted as if it had not been.",
                    wording::run_span(self.now.clock_set.abs())
                )
            } else {
                String::new()
            },
            degrees_unit: units.temperature,
            feed,
            kind: self.run.kind,
            person: self.run.person.clone(),
            site: self.site.name.clone(),
            name: self.bank.name.clone(),
            bank: self.bank.id.clone(),
            visit: self.run.visit_id.clone(),
            id: self.run.id.clone(),
        })
    }
}
