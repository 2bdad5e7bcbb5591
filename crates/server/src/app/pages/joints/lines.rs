//! Joints and batteries, line by line.

use super::Told;
use crate::words;
use rainshadow_core::joints::{Joint, JointFails, JointPart, OVER, Pole, RESOLVED, joints_of};
use rainshadow_core::ohmic::{OhmicReading, RISE, judge_ohmic, rise_word};
use rainshadow_core::round::median;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::JointOnRecord;
use rainshadow_core::wiring::Coupling;
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One joint.
#[derive(Debug, Serialize, ToSchema)]
pub struct JointLine {
    /// Its battery.
    pub battery: String,
    /// At which post.
    pub pole: Pole,
    /// What of it.
    pub part: JointPart,
    /// "B1+", "A1+, lead to the next string".
    pub name: String,
    /// "B1+", "A1+ lead".
    pub short: String,
    /// Its entry on the visit that is shown; empty: not read there.
    pub entry: String,
    /// mV; empty: never read.
    pub millivolts: String,
    /// Current through it, A.
    pub through: String,
    /// mΩ.
    pub milliohms: String,
    /// "5.2 times"; empty: nothing to hold it against.
    pub over: String,
    /// "0.21, Nov 2025"; empty: read once.
    pub last: String,
    /// What to do about it; empty: nothing.
    pub todo: String,
    /// In words.
    pub said: String,
    /// How it stands.
    pub condition: Severity,
    /// The day it was read.
    pub day: String,
}

/// Resistance of one battery.
#[derive(Debug, Serialize, ToSchema)]
pub struct BatteryResistanceLine {
    /// Which.
    pub battery: String,
    /// mΩ; empty: not read.
    pub milliohms: String,
    /// "like its mates", "21 % over its mates".
    pub said: String,
    /// How it stands.
    pub condition: Severity,
}

impl Told<'_> {
    fn todo(&self, own: &JointOnRecord) -> String {
        let torque = self.from.judged.model.post_torque.map(|t| format!(", {}", wording::torque(t)));
        match own.read.judged.fails {
            _ if own.remade => "remade; measure it again".into(),
            Some(JointFails::OverItsLike | JointFails::OverItsFirst) => {
                format!("remake, dry brush{}", torque.unwrap_or_default())
            }
            None if !own.read.judged.resolved => "not resolved: use more current".into(),
            None => String::new(),
        }
    }

    fn joint(&self, joint: Joint) -> JointLine {
        let busbars = matches!(self.from.wiring.coupling, Some(Coupling::Busbars { .. }));
        let own = self.record.joints.get(&joint);
        let judged = own.map(|own| &own.read.judged);
        let here = own.filter(|own| self.from.now.is_some_and(|sheet| sheet.stands(&own.read.entry)));
        let over = judged.and_then(|own| own.times_like.or(own.times_first));
        let before = own.and_then(|own| own.before);
        JointLine {
            battery: joint.battery.to_string(),
            pole: joint.pole,
            part: joint.part,
            name: wording::joint_name(joint, busbars),
            short: joint.to_string(),
            entry: here.map(|own| own.read.entry.clone()).unwrap_or_default(),
            millivolts: judged.map(|own| format!("{:.1}", own.millivolts)).unwrap_or_default(),
            through: own.map(|own| format!("{:.1}", own.read.through)).unwrap_or_default(),
            milliohms: judged.map(|own| format!("{:.2}", own.milliohms)).unwrap_or_default(),
            over: over.map(|times| format!("{times:.1} times")).unwrap_or_default(),
            last: before
                .map(|(day, milliohms)| format!("{milliohms:.2}, {}", words::day(day)))
                .unwrap_or_default(),
            todo: own.map(|own| self.todo(own)).unwrap_or_default(),
            said: judged.map(wording::joint_line).unwrap_or_default(),
            condition: match own {
                Some(own) if own.remade => Severity::NoReading,
                Some(own) => own.read.judged.condition,
                None => Severity::NoReading,
            },
            day: own.map(|own| words::day(own.day)).unwrap_or_default(),
        }
    }

    /// Every joint along the strings.
    pub(super) fn joints(&self) -> Vec<JointLine> {
        let shape = self.from.judged.shape;
        let all = joints_of(shape, &self.from.wiring.leads(shape.parallel));
        all.into_iter().map(|joint| self.joint(joint)).collect()
    }

    pub(super) fn joints_said(&self) -> String {
        let all: Vec<&JointOnRecord> = self.record.joints.values().filter(|own| !own.remade).collect();
        let fine: Vec<&&JointOnRecord> = all.iter().filter(|own| own.read.judged.fails.is_none()).collect();
        let Some(least) = all.iter().map(|own| own.read.judged.millivolts).min_by(f64::total_cmp) else {
            return String::new();
        };
        let mut milliohms: Vec<f64> = fine.iter().map(|own| own.read.judged.milliohms).collect();
        let middle = median(&mut milliohms).unwrap_or_default();
        let told = fine.iter().filter(|own| own.read.judged.condition == Severity::Steady).count();
        let more = if all.len() == fine.len() { "" } else { "more " };
        let said = if told == fine.len() {
            format!("all within {:.0} % of their middle, {middle:.2} mΩ", 100.0 * OVER)
        } else {
            format!("{} of them not told apart yet", fine.len() - told)
        };
        format!(
            "{} {more}joints, {said}. Least drop {least:.1} mV; told where the middle is {RESOLVED:.0} times what the meter resolves.",
            fine.len()
        )
    }

    pub(super) fn batteries(&self) -> Vec<BatteryResistanceLine> {
        let readings: Vec<OhmicReading> = self
            .record
            .batteries
            .iter()
            .map(|(battery, milliohms)| OhmicReading {
                battery: *battery,
                milliohms: *milliohms,
                baseline: None,
                baseline_temperature: None,
                case_temperature: None,
            })
            .collect();
        let judged = judge_ohmic(&readings);
        let line = |battery| {
            let own = judged.iter().find(|own| own.battery == battery);
            let rise = own.and_then(|own| own.rise);
            BatteryResistanceLine {
                battery: battery.to_string(),
                milliohms: own.map(|own| format!("{:.1}", own.milliohms)).unwrap_or_default(),
                said: match (own, rise) {
                    (None, _) => "not read".into(),
                    (_, Some(rise)) if rise >= RISE[0] => {
                        format!("{:.0} % over its mates, {}", 100.0 * rise, rise_word(rise))
                    }
                    (_, Some(_)) => "like its mates".into(),
                    _ => String::new(),
                },
                condition: own.map_or(Severity::NoReading, |own| own.condition),
            }
        };
        if judged.is_empty() {
            return Vec::new();
        }
        self.from.judged.shape.batteries().map(line).collect()
    }
}
