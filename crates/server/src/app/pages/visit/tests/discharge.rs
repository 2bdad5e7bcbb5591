//! A timed discharge as a visit shows it: its clocks, its curve, battery by battery.

use super::super::VisitContext;
use crate::app::pages::breakdown::{BreakdownLine, WithinView};
use jiff::Timestamp;
use rainshadow_core::discharge::{
    DischargeNow, DischargePhase, DischargePoint, capacity_condition, way_to_end,
};
use rainshadow_core::finding::RuleId;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{DischargeRecord, PastDischarge, Place, discharges, past_discharges, same_load};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct DischargeLine {
    /// Its entry.
    pub entry: String,
    /// Minutes of load until then.
    pub minutes: f64,
    /// The same as said: "35 min".
    pub at: String,
    /// V; empty: not read.
    pub volts: String,
    /// A; empty: not read.
    pub amperes: String,
    /// Battery by battery, in the order of the plan; empty: not read.
    pub batteries: Vec<String>,
    /// Hottest, in the reader's unit; empty: not read.
    pub temperature: String,
    /// By whom and when.
    pub by: String,
}

/// Minutes of load and volts.
#[derive(Debug, Serialize, ToSchema)]
pub struct CurvePlace {
    /// Minutes.
    pub minutes: f64,
    /// V.
    pub volts: f64,
}

/// What the chart draws.
#[derive(Debug, Serialize, ToSchema)]
pub struct DischargeChart {
    /// Volts as read under load.
    pub read: Vec<CurvePlace>,
    /// The way to the end from the last of them; empty: none is forecast.
    pub ahead: Vec<CurvePlace>,
    /// The same load last time; empty: not on record.
    pub last: Vec<CurvePlace>,
    /// "23 Oct 2025: 65 min"; empty: none.
    pub last_said: String,
    /// Volts it ends at.
    pub end_volts: f64,
    /// "1.75 V a cell".
    pub end_said: String,
    /// Minutes at which it ends.
    pub ends: Option<WithinView>,
    /// Minutes on the axis.
    pub most_minutes: f64,
}

/// One battery under it.
#[derive(Debug, Serialize, ToSchema)]
pub struct MateView {
    /// Which.
    pub battery: String,
    /// Volts as read last; empty: not read.
    pub volts: String,
    /// Against its mates: "−0.14"; empty: it has none.
    pub against: String,
    /// V against its mates, for its height; none: it has none.
    pub deviation: Option<f64>,
    /// Its way there: minutes and V against its mates.
    pub way: Vec<CurvePlace>,
    /// "knee, 22 min"; empty: none.
    pub knee: String,
    /// How it stands.
    pub condition: Severity,
}

/// A discharge.
#[derive(Debug, Serialize, ToSchema)]
pub struct DischargeView {
    /// The entry that began it.
    pub entry: String,
    /// Where: empty for the bank.
    pub place: String,
    /// "the bank", "battery A3".
    pub place_said: String,
    /// How far it is.
    pub phase: DischargePhase,
    /// True when it was timed by a watch.
    pub noted: bool,
    /// What to do now, then why.
    pub verdict: String,
    /// What the room must hear: `reading` or `stop`; none: nothing.
    pub alarm: Option<&'static str>,
    /// "75 A to 42.0 V".
    pub plan_said: String,
    /// Current that is meant, A; empty: the system's own load.
    pub amperes_meant: String,
    /// When it began: "9:12, from a proven full charge".
    pub began: String,
    /// Seconds of load so far.
    pub elapsed_seconds: f64,
    /// Seconds of the pause; none: it is not paused.
    pub paused_seconds: Option<f64>,
    /// Seconds of load until the next reading; negative: overdue; none: none is wanted.
    pub reading_seconds: Option<f64>,
    /// When it ends: "52 min"; empty: not known.
    pub ends: String,
    /// "50 to 54 min, nine times in ten"; empty: not known.
    pub ends_within: String,
    /// "74.6 to 75.3 A so far; 47.9 Ah out".
    pub current: String,
    /// Hottest electrolyte or case as read last, in the reader's unit; empty: not read.
    pub hottest: String,
    /// What it was told from at the start; empty: not taken.
    pub at_start: String,
    /// Readings in order.
    pub readings: Vec<DischargeLine>,
    /// The curve.
    pub chart: DischargeChart,
    /// Batteries under it, in the order of the plan.
    pub mates: Vec<MateView>,
    /// The one that gives out first, with why; empty: none.
    pub weakest: String,
    /// What makes the result less certain.
    pub doubts: Vec<String>,
    /// How the bank stands by the result; none while it is on.
    pub condition: Option<Severity>,
    /// How the result comes about.
    pub breakdown: Vec<BreakdownLine>,
    /// Rule and source.
    pub rule: String,
}

/// A discharge of an earlier visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastDischargeLine {
    /// Its day.
    pub day: String,
    /// "75.0 A for 65 min".
    pub said: String,
    /// "76 % (73 to 79 %)"; empty: not told.
    pub percent: String,
    /// The one that gave out first; empty: none.
    pub weakest: String,
    /// How the bank stood by it.
    pub condition: Severity,
}

fn minutes(hours: f64) -> f64 {
    hours * 60.0
}

fn curve(points: &[DischargePoint]) -> Vec<CurvePlace> {
    let read = points.iter().filter(|p| p.under_load);
    read.filter_map(|p| Some(CurvePlace { minutes: minutes(p.hours), volts: p.volts? })).collect()
}

fn signed(volts: f64) -> String {
    let hundredths = (volts * 100.0).round() / 100.0;
    match hundredths {
        v if v.abs() < 0.005 => "0.00".into(),
        v if v > 0.0 => format!("+{v:.2}"),
        v => format!("\u{2212}{:.2}", -v),
    }
}

impl VisitContext {
    pub(super) fn duty(&self) -> Duty {
        Duty::of(&self.bank.duty)
    }

    fn cells_at(&self, place: Place) -> u16 {
        place.cells_in_series(&self.bank.shape)
    }

    fn discharge_lines(&self, now: &DischargeNow, place: Place) -> Vec<DischargeLine> {
        let order: Vec<_> =
            self.bank.shape.batteries().filter(|b| place.overlaps(Place::Battery(*b))).collect();
        let line = |p: &DischargePoint| {
            let entry = self.sheet.standing().find(|k| k.id == p.id);
            let battery = |b| p.batteries.iter().find(|own| own.battery == b);
            DischargeLine {
                entry: p.id.clone(),
                minutes: minutes(p.hours),
                at: wording::discharge_time(p.hours),
                volts: p.volts.map(|v| format!("{v:.2}")).unwrap_or_default(),
                amperes: p.amperes.map(|a| format!("{a:.1}")).unwrap_or_default(),
                batteries: order
                    .iter()
                    .map(|b| battery(*b).map(|own| format!("{:.2}", own.volts)).unwrap_or_default())
                    .collect(),
                temperature: self.warm(p.celsius),
                by: entry.map(|e| self.signed(e)).unwrap_or_default(),
            }
        };
        now.points.iter().map(line).collect()
    }

    fn warm(&self, celsius: Option<f64>) -> String {
        let at = celsius.and_then(|c| Temperature::from_celsius(c).ok());
        at.map(|t| self.units.say_temperature(t)).unwrap_or_default()
    }

    fn mate_views(&self, now: &DischargeNow, place: Place) -> Vec<MateView> {
        let under_test = self.bank.shape.batteries().filter(|b| place.overlaps(Place::Battery(*b)));
        let view = |battery| {
            let own = now.mates.iter().find(|m| m.battery == battery);
            MateView {
                battery: battery.to_string(),
                volts: own.map(|m| format!("{:.2}", m.volts)).unwrap_or_default(),
                against: own.and_then(|m| m.against_mates).map(signed).unwrap_or_default(),
                deviation: own.and_then(|m| m.against_mates),
                way: own
                    .map(|m| {
                        m.way.iter().map(|[h, v]| CurvePlace { minutes: minutes(*h), volts: *v }).collect()
                    })
                    .unwrap_or_default(),
                knee: own
                    .and_then(|m| m.knee)
                    .map(|at| format!("bends away at {}", wording::discharge_time(at)))
                    .unwrap_or_default(),
                condition: own.map_or(Severity::NoReading, wording::mate_condition),
            }
        };
        under_test.map(view).collect()
    }

    fn chart(&self, now: &DischargeNow, place: Place, last: Option<&PastDischarge>) -> DischargeChart {
        let cells = self.cells_at(place);
        let end_volts = now.end_volts(cells);
        let read = curve(&now.points);
        let ahead = now
            .ends
            .zip(read.last())
            .map(|(ends, from)| way_to_end((from.minutes / 60.0, from.volts), (ends.best, end_volts)));
        let ahead: Vec<CurvePlace> = ahead
            .unwrap_or_default()
            .iter()
            .map(|[h, v]| CurvePlace { minutes: minutes(*h), volts: *v })
            .collect();
        let mut then = last.map(|own| curve(&own.now.points)).unwrap_or_default();
        let reached = last.and_then(|own| own.now.reached);
        then.extend(
            reached
                .filter(|_| !then.is_empty())
                .map(|h| CurvePlace { minutes: minutes(h), volts: end_volts }),
        );
        let ends = now.ends.map(|e| WithinView {
            low: minutes(e.low),
            best: minutes(e.best),
            high: minutes(e.high),
        });
        let most = [
            ends.map_or(0.0, |e| e.high),
            reached.map_or(0.0, minutes),
            minutes(now.elapsed),
            now.result.as_ref().map_or(0.0, |r| minutes(r.hours)),
        ];
        DischargeChart {
            read,
            ahead,
            last: then,
            last_said: last
                .zip(reached)
                .map(|(own, h)| format!("{}: {}", own.day.strftime("%-d %b %Y"), wording::discharge_time(h)))
                .unwrap_or_default(),
            end_volts,
            end_said: format!("{:.2} V a cell", now.plan.end_per_cell),
            ends,
            most_minutes: most.into_iter().fold(1.0, f64::max),
        }
    }

    /// The last discharge of the visit; none: none was made.
    pub(super) fn discharge(&self, at: Timestamp) -> Option<DischargeView> {
        let record = discharges(&self.sheet).pop()?;
        Some(self.discharge_view(&record, at))
    }

    fn discharge_view(&self, record: &DischargeRecord<'_>, at: Timestamp) -> DischargeView {
        let place = record.begun.place;
        let past = past_discharges(&self.past, self.judged_by());
        let last = same_load(&past, place, record.plan.amperes);
        let lasted = last.and_then(|own| own.now.reached);
        let now = record.now(self.judged_by(), lasted, at);
        let duty = self.duty();
        let condition = now.result.as_ref().map(|r| capacity_condition(r, duty));
        let (ends, ends_within) = wording::discharge_ends(&now).unwrap_or_default();
        let amperes = now.plan.amperes.map(|a| format!("{a:.1}")).unwrap_or_default();
        let load =
            if amperes.is_empty() { "the system\u{2019}s load".to_owned() } else { format!("{amperes} A") };
        let full = if now.plan.proven_full { "from a proven full charge" } else { "not proven full" };
        let start = wording::sentence(&self.signed(record.begun));
        let current = now.amperes.map(|[low, high]| {
            let span =
                if high - low < 0.05 { format!("{low:.1} A") } else { format!("{low:.1} to {high:.1} A") };
            format!("{span} so far; {:.1} Ah out", now.ampere_hours)
        });
        DischargeView {
            entry: record.begun.id.clone(),
            place: place.to_string(),
            place_said: place.said(),
            phase: now.phase,
            noted: now.noted,
            verdict: wording::discharge_verdict(&now, lasted, duty),
            alarm: wording::discharge_alarm(&now),
            plan_said: format!("{load} to {:.1} V", now.end_volts(self.cells_at(place))),
            amperes_meant: amperes,
            began: format!("{start}, {full}"),
            elapsed_seconds: now.elapsed * 3600.0,
            paused_seconds: now.paused_for.map(|h| h * 3600.0),
            reading_seconds: now.reading_in.map(|h| h * 3600.0),
            ends,
            ends_within,
            current: current.unwrap_or_default(),
            hottest: self.warm(now.points.iter().rev().find_map(|p| p.celsius)),
            at_start: now.plan.temperature.map(|t| self.units.say_temperature(t)).unwrap_or_default(),
            readings: self.discharge_lines(&now, place),
            chart: self.chart(&now, place, last),
            mates: self.mate_views(&now, place),
            weakest: now
                .weakest()
                .map(|own| {
                    let under = own.against_mates.map_or(0.0, |by| -by);
                    format!("{} gives out first: {:.2} V, {under:.2} under its mates", own.battery, own.volts)
                })
                .unwrap_or_default(),
            doubts: wording::discharge_doubts(&now, self.units),
            condition,
            breakdown: now
                .result
                .as_ref()
                .map(|r| {
                    wording::capacity_lines(r).into_iter().map(|(w, v)| BreakdownLine::new(w, v)).collect()
                })
                .unwrap_or_default(),
            rule: format!(
                "CT-1: {}. A weak battery by CV-1: 0.10 V under its mates. Figures of {}: {}. Maker\u{2019}s manual first.",
                RuleId::Ct1.source(),
                self.model.name,
                self.model.source
            ),
        }
    }

    /// Discharges of earlier visits, the newest first.
    pub(super) fn past_discharge_lines(&self) -> Vec<PastDischargeLine> {
        let duty = self.duty();
        let line = |own: &PastDischarge| {
            let result = own.now.result.as_ref()?;
            let mean = result.ampere_hours / result.hours;
            let percent = result.percent.zip(result.range).map(|(p, [low, high])| {
                if result.at_least {
                    format!("at least {p:.0} %")
                } else {
                    format!("{p:.0} % ({low:.0} to {high:.0} %)")
                }
            });
            Some(PastDischargeLine {
                day: own.day.strftime("%-d %b %Y").to_string(),
                said: format!(
                    "{} at {mean:.1} A, {}",
                    wording::discharge_time(result.hours),
                    own.place.said()
                ),
                percent: percent.unwrap_or_default(),
                weakest: own.now.weakest().map(|m| m.battery.to_string()).unwrap_or_default(),
                condition: capacity_condition(result, duty),
            })
        };
        past_discharges(&self.past, self.judged_by()).iter().rev().filter_map(line).collect()
    }
}
