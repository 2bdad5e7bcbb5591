//! The rest check as it stands: volts by battery and string, resistance and cases.

use super::VisitContext;
use super::state_volts::{StateChoice, StateLine, states};
use crate::app::typed::visit_entry::TypedBody;
use rainshadow_core::bank::{BatteryAddress, string_letter};
use rainshadow_core::finding::{Finding, FindingKind};
use rainshadow_core::ohmic::OhmicJudged;
use rainshadow_core::quantity::Temperature;
use rainshadow_core::rest::{RestAssessment, RestConditions, VoltsState, judge_rest};
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Entry, Place, VisitSheet, baseline_of_another_tester, ohmic_baselines};
use rainshadow_core::wording::{self, SpokenFinding};
use serde::Serialize;
use utoipa::ToSchema;

/// One battery of a rest check.
#[derive(Debug, Serialize, ToSchema)]
pub struct BatteryRest {
    /// The battery.
    pub battery: String,
    /// Volts as shown: "6.34"; none: not read.
    pub volts: Option<String>,
    /// Volts against the median, for the height of its float.
    pub deviation: Option<f64>,
    /// Volts against the median in words: "−0.05".
    pub deviation_text: Option<String>,
    /// "84 to 88 %"; none where the grade allows none.
    pub charge: Option<String>,
    /// Condition.
    pub condition: Severity,
    /// Resistance as shown: "4.12 mΩ".
    pub ohmic: Option<String>,
    /// "+12 %" against its own first value or its mates.
    pub ohmic_change: Option<String>,
    /// Condition by resistance and case.
    pub ohmic_condition: Option<Severity>,
    /// Case temperature in the reader's unit.
    pub case_temperature: Option<String>,
    /// Volts at rest on the last visit that read it, and that day: "12.72 on 3 Oct"; none: never.
    pub before: Option<String>,
    /// Volts from the string's positive post to its negative post, where taken.
    pub along: Option<String>,
}

/// One string of a rest check.
#[derive(Debug, Serialize, ToSchema)]
pub struct StringRest {
    /// Its letter.
    pub letter: char,
    /// Volts across it; none: not read.
    pub volts: Option<String>,
    /// Volts its batteries add up to, where all were read.
    pub sum: Option<String>,
    /// True when it reads a fraction: the links are to be walked.
    pub short: bool,
}

/// A rest check.
#[derive(Debug, Serialize, ToSchema)]
pub struct RestView {
    /// Conditions as typed last; none yet.
    pub conditions: Option<TypedBody>,
    /// What the reading is worth, in words.
    pub grade: &'static str,
    /// True when a percentage may be said.
    pub tells_charge: bool,
    /// How long to wait until one may; none where it may or nothing was read.
    pub wait: Option<String>,
    /// Volts in other states, in the order read.
    pub by_state: Vec<StateLine>,
    /// The states there are.
    pub states: Vec<StateChoice>,
    /// The one sentence.
    pub verdict: String,
    /// "84 to 88 %" of the bank, and by which numbers.
    pub charge: Option<String>,
    /// Volts of the median battery.
    pub median: Option<String>,
    /// Half-height of the steady band, volts.
    pub steady: f64,
    /// Cells in one battery, for what is usual.
    pub cells: u8,
    /// Batteries in electrical order.
    pub batteries: Vec<BatteryRest>,
    /// The tester that resistances were read with last; empty: not told.
    pub tester: String,
    /// Batteries whose baseline is of another tester, in words; empty: none.
    pub other_tester: String,
    /// What it lost since the reading before, disconnected between; empty: it was not held.
    pub held: Vec<String>,
    /// Strings.
    pub strings: Vec<StringRest>,
    /// What was found.
    pub findings: Vec<SpokenFinding>,
    /// Condition of the bank by its volts.
    pub condition: Severity,
}

fn signed(volts: f64) -> String {
    let hundredths = (volts * 100.0).round() / 100.0;
    if hundredths.abs() < 0.005 {
        "0".into()
    } else if hundredths > 0.0 {
        format!("+{hundredths:.2}")
    } else {
        format!("\u{2212}{:.2}", -hundredths)
    }
}

impl VisitContext {
    fn conditions_as_typed(&self) -> Option<TypedBody> {
        // Kept as typed beside the entry; an import without it says the canonical figures.
        let conditions: &RestConditions = self.sheet.rested()?;
        let hours = |h: Option<f64>| h.map(|h| format!("{}", (h * 100.0).round() / 100.0));
        Some(TypedBody::Rested {
            charging: conditions.charging,
            loaded: conditions.loaded,
            hours_since_charge: hours(conditions.hours_since_charge),
            hours_since_load: hours(conditions.hours_since_load),
            surface_charge_removed: conditions.surface_charge_removed,
            temperature: conditions.temperature.map(|t| crate::app::typed::conditions::TypedTemperature {
                typed: self.units.type_temperature(t),
                unit: self.units.temperature,
            }),
            still_draws: conditions.still_draws.clone(),
            charged_full: conditions.charged_full,
            disconnected: conditions.disconnected,
        })
    }

    /// The tester told last, on this visit or before it.
    fn tester(&self) -> String {
        let told = |sheet: &VisitSheet| {
            let all = sheet.standing().filter_map(|k| match &k.entry {
                Entry::Ohmic { tester, .. } if !tester.is_empty() => Some(tester.clone()),
                _ => None,
            });
            all.last()
        };
        let past = || self.past.iter().rev().find_map(|visit| told(&visit.sheet));
        told(&self.sheet).or_else(past).unwrap_or_default()
    }

    /// Which batteries were read with another tester than their baseline.
    fn other_tester(&self) -> String {
        let own = baseline_of_another_tester(&self.sheet, &ohmic_baselines(&self.past));
        if own.is_empty() {
            return String::new();
        }
        let names: Vec<String> = own.iter().map(ToString::to_string).collect();
        format!(
            "{}: read with another tester than the first value, so held against the mates only. Call it the new baseline where this tester stays.",
            names.join(", ")
        )
    }

    fn battery_rest(
        &self,
        battery: BatteryAddress,
        rest: &RestAssessment,
        ohmic: &[OhmicJudged],
    ) -> BatteryRest {
        let judged = rest.batteries.iter().find(|b| b.battery == battery);
        let resistance = ohmic.iter().find(|o| o.battery == battery);
        let here = |pick: fn(&Entry) -> Option<f64>| {
            self.sheet.standing().filter(|k| k.place == Place::Battery(battery)).find_map(|k| pick(&k.entry))
        };
        let case = here(|e| match e {
            Entry::CaseTemperature { celsius } => Some(*celsius),
            _ => None,
        });
        let along = here(|e| match e {
            Entry::AlongVolts { volts } => Some(*volts),
            _ => None,
        });
        BatteryRest {
            battery: battery.to_string(),
            volts: judged.map(|b| format!("{:.2}", b.volts)),
            deviation: judged.map(|b| b.deviation),
            deviation_text: judged.map(|b| signed(b.deviation)),
            charge: judged.and_then(|b| b.charge).map(wording::charge_range),
            condition: judged.map_or(Severity::NoReading, |b| b.condition),
            ohmic: resistance.map(|o| format!("{:.2} mΩ", o.milliohms)),
            ohmic_change: resistance
                .and_then(|o| o.rise)
                .map(|r| format!("{:+.0} %", 100.0 * r).replace('-', "\u{2212}")),
            ohmic_condition: resistance.map(|o| o.condition),
            case_temperature: case
                .and_then(|c| Temperature::from_celsius(c).ok())
                .map(|t| self.units.say_temperature(t)),
            before: self
                .before(Place::Battery(battery), VoltsState::AtRest)
                .filter(|_| judged.is_none_or(|_| self.sheet.was_at_rest())),
            along: along.map(|v| format!("{v:.2}")),
        }
    }

    /// The rest check as it stands.
    pub(super) fn rest(&self) -> RestView {
        let sheet = self.rest_sheet();
        let rest = judge_rest(&sheet);
        let ohmic = self.ohmic();
        let batteries = self.bank.shape.batteries().map(|b| self.battery_rest(b, &rest, &ohmic)).collect();
        let strings = (0..self.bank.shape.parallel)
            .map(|string| {
                let own: Vec<f64> =
                    sheet.batteries.iter().filter(|b| b.battery.string == string).map(|b| b.volts).collect();
                let all = own.len() == usize::from(self.bank.shape.series);
                let volts = sheet.strings.iter().find(|s| s.string == string).map(|s| s.volts);
                let letter = string_letter(string);
                StringRest {
                    letter,
                    volts: volts.map(|v| format!("{v:.2}")),
                    sum: all.then(|| format!("{:.2}", own.iter().sum::<f64>())),
                    short: rest.findings.iter().any(|f| {
                        matches!(f, rainshadow_core::rest::RestFinding::StringShort { letter: own, .. } if *own == letter)
                    }),
                }
            })
            .collect();
        let all = self.findings();
        let electrical = |f: &Finding| matches!(f.kind, FindingKind::Rest(_) | FindingKind::Ohmic(_));
        let findings: Vec<SpokenFinding> = all
            .iter()
            .zip(wording::speak_all(&all, self.units))
            .filter(|(f, _)| electrical(f))
            .map(|(_, said)| said)
            .collect();
        RestView {
            conditions: self.conditions_as_typed(),
            grade: rest.grade.said(),
            tells_charge: rest.grade.tells_charge(),
            wait: self.wait(),
            by_state: self.by_state(),
            states: states(),
            verdict: match findings.first() {
                Some(first) => format!("{}.", first.headline),
                None => wording::rest_line(&rest.summary()),
            },
            charge: rest.charge.map(|c| format!("{} by {}", wording::charge_range(c), c.table.said())),
            median: rest.median.map(|v| format!("{v:.2}")),
            steady: rest.steady,
            cells: self.bank.shape.cells_per_battery,
            batteries,
            tester: self.tester(),
            other_tester: self.other_tester(),
            held: wording::held_lines(&rest),
            strings,
            findings,
            condition: rest.condition,
        }
    }
}
