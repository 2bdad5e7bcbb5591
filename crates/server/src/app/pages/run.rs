//! The page of a run: before, while it is on, and after.

mod after;
mod feed;
mod view;

pub use view::RunPage;

use super::breakdown::{BreakdownLine, WithinView, setpoint_breakdown};
use crate::app::App;
use crate::app::refused::AppResult;
use crate::app::run_context::RunContext;
use crate::db::Connection;
use crate::db::{DbError, EquipmentRow};
use crate::words;
use rainshadow_core::equalize::TAKE_BACK;
use rainshadow_core::equalize::{ABORT_AT, BeforeCheck, FeedMinute, LEAST_HOURS, PAUSE_AT, Phase, RunEntry};
use rainshadow_core::quantity::units::{ReaderUnits, TemperatureUnit};
use rainshadow_core::quantity::{Temperature, Volume};
use rainshadow_core::wording;
use view::{CheckToSee, CurvePoint, FeedView, LogLine, ReadingLine, RunChart, WatchedCell};

fn phase(phase: Phase) -> &'static str {
    match phase {
        Phase::Before => "before",
        Phase::Running => "running",
        Phase::Paused { .. } => "paused",
        Phase::Ended { .. } => "ended",
    }
}

/// A temperature of the log in degrees of the reader's unit, for the curve.
fn degrees(celsius: f64, units: ReaderUnits) -> f64 {
    Temperature::from_celsius(celsius).map_or(celsius, |t| units.show_temperature(t))
}

fn interval(of: rainshadow_core::equalize::Within) -> WithinView {
    WithinView { low: of.low, best: of.best, high: of.high }
}

impl RunContext {
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
                let last = self.now.readings.iter().rev().find_map(|r| r.gravities.get(i).copied().flatten());
                let gained = first(i).zip(last).map(|(a, b)| b - a);
                WatchedCell {
                    cell: cell.to_string(),
                    role: if i == 0 { "pilot" } else { "low" },
                    gravity: last.map(|g| g.to_string()).unwrap_or_default(),
                    gained: gained.map(wording::signed_points).unwrap_or_default(),
                }
            })
            .collect()
    }

    /// What was seen to before it began, by whom, and what was left out and why.
    pub fn checks(&self, units: ReaderUnits) -> Vec<CheckToSee> {
        BeforeCheck::of(self.model.construction)
            .into_iter()
            .map(|check| {
                let (name, mut what) = wording::before_check(check, &self.run.plan.plan, units);
                if check == BeforeCheck::Air {
                    what = format!("{what} {}", wording::air_there(self.air.as_ref()));
                }
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
                let by = own.map(|e| format!("{}, {}", e.by.said(), self.time(e.at)));
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
                let fed = row.and_then(|e| self.fed_at(e.at));
                let (volts, amperes) = (fed.map(|f| f.volts), fed.map(|f| f.amperes));
                let tell = |figure: Option<f64>| figure.map(|f| format!("{f:.1}")).unwrap_or_default();
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
                    temperature_said: r.celsius.map(|c| wording::degrees(c, units)).unwrap_or_default(),
                    volts: tell(r.volts.or(volts)),
                    amperes: tell(r.amperes.or(amperes)),
                    volts_told: r.volts.is_none() && volts.is_some(),
                    amperes_told: r.amperes.is_none() && amperes.is_some(),
                    by: row.map(|e| e.by.initials.clone()).unwrap_or_default(),
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
            window: rainshadow_core::equalize::WINDOW_HOURS,
            ends_at: self.now.ends_at.map(rainshadow_core::quantity::SpecificGravity::value),
            pause_at: degrees(PAUSE_AT, units),
            abort_at: degrees(ABORT_AT, units),
            degrees: match units.temperature {
                TemperatureUnit::Celsius => "°C",
                TemperatureUnit::Fahrenheit => "°F",
            },
        }
    }

    /// Volts or amperes with where they come from.
    fn electrical(
        &self,
        feed: &FeedView,
        figure: &str,
        unit: &str,
        pick: impl Fn(&rainshadow_core::equalize::TakenReading) -> Option<f64>,
        told: impl Fn(&FeedMinute) -> f64,
    ) -> String {
        let open = matches!(self.now.phase, Phase::Running | Phase::Paused { .. });
        if open && feed.live && !figure.is_empty() {
            return format!("{figure} {unit}, by the charger");
        }
        let typed = self.now.readings.iter().rev().find_map(|r| {
            let row = self.entries.iter().find(|e| e.id == r.id)?;
            Some((row.at, format!("{:.1} {unit}, read at {}", pick(r)?, self.time(row.at))))
        });
        let charger = self.minutes.last().and_then(|minute| {
            let span = jiff::SignedDuration::try_from_secs_f64(minute.at * 3600.0).ok()?;
            let at = self.run.opened_at.checked_add(span).ok()?;
            Some((at, format!("{:.1} {unit}, by the charger at {}", told(minute), self.time(at))))
        });
        // The later of the two is the last that is known.
        typed.into_iter().chain(charger).max_by_key(|(at, _)| *at).map(|(_, said)| said).unwrap_or_default()
    }

    /// Setpoint, line by line.
    pub fn breakdown(&self, units: ReaderUnits) -> Vec<BreakdownLine> {
        let set = &self.run.plan.plan.setpoint;
        let asked = &self.run.plan.asked;
        let mut all = setpoint_breakdown(set, asked.temperature, units);
        if (set.to_type - set.volts).abs() > 0.05 {
            let own = "typed into a charger that compensates";
            all.push(BreakdownLine::new(own, format!("{:.1} V", set.to_type)));
        }
        if let Some(set_to) = self.run.plan.set_to {
            all.push(BreakdownLine::new("typed into the charger", format!("{set_to:.1} V")));
        }
        all
    }

    /// What happened, newest first.
    pub fn log_lines(&self) -> Vec<LogLine> {
        let took_back = |id: &String| {
            self.log.iter().any(|l| l.id == *id && matches!(l.entry, RunEntry::Withdrawn { .. }))
        };
        let line = |e: &crate::db::RunEntryRow| {
            let puts_back = matches!(&e.entry, RunEntry::Withdrawn { entry } if took_back(entry));
            let said = wording::run_entry(&e.entry, puts_back)?;
            Some(LogLine { at: self.time(e.at), said, by: e.by.initials.clone() })
        };
        self.entries.iter().rev().filter_map(line).collect()
    }

    /// Water boiled off, in words.
    pub fn water_said(&self, units: ReaderUnits) -> String {
        Volume::from_millilitres(self.now.water).map(|v| units.say_volume(v)).unwrap_or_default()
    }

    /// Seconds in which a stop can still be taken back.
    fn take_back(&self, pace: f64) -> f64 {
        let since = self.run.ended_at.map(|end| self.at.duration_since(end).as_secs_f64() / pace.max(1.0));
        // A clock that was set back makes no stop new.
        since.filter(|since| *since >= 0.0).map_or(0.0, |since| (TAKE_BACK - since).max(0.0))
    }

    /// Hottest electrolyte as read, else what the charger's sensor tells.
    fn hottest(&self, feed: &FeedView, units: ReaderUnits) -> String {
        match self.last_celsius() {
            Some(celsius) => wording::degrees(celsius, units),
            None if feed.live && !feed.temperature.is_empty() => {
                format!("{} at the sensor", feed.temperature)
            }
            None => String::new(),
        }
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
        let alarm = self.now.alarm();
        Ok(RunPage {
            kind_name: format!("{} equalize", wording::run_kind(self.run.kind)),
            description: wording::describe_bank(&self.bank.shape, &self.model),
            day: words::day(self.run.day()),
            phase: phase(self.now.phase),
            verdict: self.verdict(units),
            alarm,
            title: wording::run_title(alarm, self.now.phase, &self.site.name),
            stop_help: wording::stop_help(self.run.plan.float),
            take_back_seconds: self.take_back(pace),
            reading_seconds: self.now.reading_in.map(|h| h * 3600.0),
            reading_at: self.reading_at(),
            elapsed: wording::hours_minutes(self.now.elapsed),
            elapsed_seconds: self.now.elapsed * 3600.0,
            paused_seconds: self.now.paused_for.map(|h| h * 3600.0),
            cap: wording::run_cap(self.run.kind),
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
            temperature: self.hottest(&feed, units),
            temperature_limits: wording::run_limits(units),
            volts: self.electrical(&feed, &feed.volts, "V", |r| r.volts, |m| m.volts),
            amperes: self.electrical(&feed, &feed.amperes, "A", |r| r.amperes, |m| m.amperes),
            most_amperes: wording::most_amperes(plan),
            water: self.water_said(units),
            water_how: wording::run_water(
                &self.now,
                self.bank.shape.cells_in_series(),
                self.bank.shape.parallel,
                units,
            ),
            air: {
                let (airflow, unit) = units.show_airflow(plan.air.airflow);
                format!("{airflow:.1} {unit}")
            },
            air_how: wording::run_air(plan, units),
            setpoint: format!("{:.1}", plan.setpoint.volts),
            breakdown: self.breakdown(units),
            log: self.log_lines(),
            after: self.after(db, units)?,
            plan: self.bank.shape.plan(),
            clock: wording::clock_set(self.now.clock_set),
            degrees_unit: units.temperature,
            feed,
            kind: self.run.kind,
            person: self.stays(),
            site: self.site.name.clone(),
            name: self.bank.name.clone(),
            bank: self.bank.id.clone(),
            visit: self.run.visit_id.clone(),
            id: self.run.id.clone(),
        })
    }
}

/// Reads the page of a run; `wrong` is what is wrong with the feed of a bank, in words.
///
/// # Errors
/// Whatever the reading fails with.
pub async fn run_page(
    app: &App,
    id: String,
    units: ReaderUnits,
    wrong: impl FnOnce(&str) -> Option<String> + Send + 'static,
) -> AppResult<RunPage> {
    let (now, pace) = (app.clock.now(), app.clock.speed());
    let shown = app.db.read(move |db| {
        let context = RunContext::read(db, &id, now)?;
        let wrong = wrong(&context.bank.id);
        context.page(db, units, (pace, wrong))
    });
    Ok(shown.await?)
}
