//! Findings in words: what was seen, why it matters, what to do, and by which rule.

mod charge;
mod rest;
mod round;
mod visit;

use super::check::found_spare;
use super::names;
use crate::finding::{Bound, Certainty, Equipment, Finding, FindingKind, OtherHouse, Subject, Tolerance};
use crate::quantity::units::ReaderUnits;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// A finding in words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SpokenFinding {
    /// Its id: the same for the same thing found again.
    pub id: String,
    /// Whom it is about.
    #[serde(flatten)]
    pub subject: Subject,
    /// How bad.
    pub severity: Severity,
    /// Cells it names.
    pub cells: Vec<String>,
    /// Head line: "B5-2 is sinking".
    pub headline: String,
    /// What was measured.
    pub seen: String,
    /// Why it matters.
    pub why: String,
    /// What to do.
    pub advice: String,
    /// Rule, tolerance and whose: "RD-4, balance of the bank: limit 30 points (Maker first)".
    pub rule: String,
    /// Where the rule comes from.
    pub source: String,
    /// How sure.
    pub sure: String,
    /// What another house would say; may be empty.
    pub others: String,
    /// Id of the finding that explains it; none for a cause.
    pub explained_by: Option<String>,
}

/// The parts of a finding that its kind decides.
struct Words {
    headline: String,
    seen: String,
    why: &'static str,
    advice: String,
}

/// The words of one finding, in the reader's units.
pub fn speak(finding: &Finding, units: ReaderUnits) -> SpokenFinding {
    let words = match &finding.kind {
        FindingKind::Round(found) => round::words(finding, found, units),
        FindingKind::Rest(found) => rest::words(found, finding.equalize),
        FindingKind::Ohmic(found) => visit::ohmic(found, units),
        FindingKind::LoadTest(found) => {
            let super::tests::TestWords { headline, seen, why, advice } =
                super::tests::words(finding, found, &subject(finding.subject));
            Words { headline, seen, why, advice }
        }
        FindingKind::Joints(found) => {
            let super::joints::JointWords { headline, seen, why, advice } = super::joints::words(found);
            Words { headline, seen, why, advice }
        }
        FindingKind::Water(found) => visit::water(finding, found),
        FindingKind::Look(found) => visit::look(finding, found, units),
        FindingKind::Equalize(found) => charge::equalize(finding, found),
        FindingKind::Charger(found) => charge::charger(finding.subject, found, units),
    };
    SpokenFinding {
        id: finding.id.clone(),
        subject: finding.subject,
        severity: finding.severity,
        cells: named(finding),
        headline: words.headline,
        seen: finding.beside.as_ref().map_or(words.seen.clone(), |shape| {
            format!("{} {}", words.seen, super::shape::beside(shape)).trim_end().to_owned()
        }),
        why: words.why.into(),
        advice: words.advice,
        rule: rule_line(finding, units),
        source: format!("Source: {}.", finding.rule.source()),
        sure: sure_line(finding).into(),
        others: others_line(&finding.other_houses),
        explained_by: finding.explained_by.clone(),
    }
}

/// The words of all findings of a bank. Beside a damaged case nothing else of that battery is advised.
pub fn speak_all(findings: &[Finding], units: ReaderUnits) -> Vec<SpokenFinding> {
    let is_damaged = |id: &String| findings.iter().any(|f| f.id == *id && f.damaged_battery().is_some());
    let one = |finding: &Finding| {
        let mut said = speak(finding, units);
        if finding.explained_by.as_ref().is_some_and(is_damaged) {
            said.advice = "Nothing by itself: the damaged battery comes out first.".into();
        }
        said
    };
    findings.iter().map(one).collect()
}

/// The cells it names, or the battery.
fn named(finding: &Finding) -> Vec<String> {
    match (finding.cells.as_slice(), finding.subject, finding.of_rest()) {
        ([], _, Some(crate::rest::RestFinding::Apart { lowest, highest, .. })) => {
            vec![lowest.to_string(), highest.to_string()]
        }
        ([], Subject::Battery(battery), _) => vec![battery.to_string()],
        (cells, _, _) => cells.iter().map(ToString::to_string).collect(),
    }
}

fn limit_line(Tolerance { limit, whose }: &Tolerance, units: ReaderUnits) -> String {
    let whose = if whose == crate::finding::EVERY_HOUSE && !matches!(limit, Bound::Points(_)) {
        String::new()
    } else {
        format!(" ({whose})")
    };
    match limit {
        Bound::Points(limit) if limit.is_widened() => format!(
            ": limit {}{whose}, {} with this instrument",
            names::points(limit.rule.value()),
            limit.used
        ),
        Bound::Points(limit) => format!(": limit {}{whose}", names::points(limit.used.value())),
        Bound::Volts { volts, by_meter } => {
            let by = if *by_meter { ", set by the meter" } else { "" };
            format!(": limit {volts:.2} V{by}{whose}")
        }
        Bound::VoltsPerCell { volts } => format!(": limit {volts:.2} V a cell{whose}"),
        Bound::Rise { watch, investigate, act } => format!(
            ": watch {:.0} %, investigate {:.0} %, act {:.0} %{whose}",
            100.0 * watch,
            100.0 * investigate,
            100.0 * act
        ),
        Bound::Factor { low, high } => {
            format!(": more than {high} or less than {low} times the median over two fills{whose}")
        }
        Bound::Percent { percent } => format!(": limit {percent:.0} %{whose}"),
        Bound::PercentADay { percent } => format!(": limit {percent:.2} % a day{whose}"),
        Bound::Celsius { degrees } => {
            format!(": limit {} over the median case{whose}", units.say_warmer(*degrees))
        }
        Bound::Millimetres { millimetres } => {
            format!(": limit {}{whose}", super::length(*millimetres, units))
        }
    }
}

fn rule_line(finding: &Finding, units: ReaderUnits) -> String {
    let limit = finding.tolerance.as_ref().map(|own| limit_line(own, units)).unwrap_or_default();
    format!("{}, {}{limit}", finding.rule.id(), finding.rule.title())
}

fn sure_line(finding: &Finding) -> &'static str {
    // Only what an instrument with a known scatter measured is told how sure it is.
    match (finding.certainty, &finding.kind) {
        (Certainty::WithinInstrument, _) => {
            "Within what your instrument can tell; a finer one would see more."
        }
        (Certainty::Clear, FindingKind::Round(_)) => "Beyond the limit by more than the instrument's doubt.",
        (Certainty::NearLimit, _) => "Near the limit: another reading could fall on the other side.",
        (Certainty::Clear | Certainty::Recorded, _) => "",
    }
}

fn others_line(others: &[OtherHouse]) -> String {
    let said: Vec<String> = others
        .iter()
        .map(|other| match other.condition {
            Severity::Steady => format!("{} would let this stand.", other.name),
            Severity::Watch => format!("{} would watch it.", other.name),
            _ => format!("{} would act on it.", other.name),
        })
        .collect();
    said.join(" ")
}

/// Whom a finding is about: "the bank", "string A", "A3", "the charger".
pub fn subject(subject: Subject) -> String {
    match subject {
        Subject::Bank => "the bank".into(),
        Subject::String(letter) => format!("string {letter}"),
        Subject::Equipment(Equipment::Charger) => "the charger".into(),
        Subject::Equipment(Equipment::Source(source)) => super::source_said(source),
        Subject::Equipment(Equipment::Air) => "the air around the bank".into(),
        Subject::Equipment(Equipment::Load) => "what the bank feeds".into(),
        other => other.to_string(),
    }
}

/// What to carry for a finding; empty: nothing.
pub fn spare(finding: &Finding) -> String {
    match &finding.kind {
        FindingKind::Look(crate::finding::LookFinding::Seen { check, kind, .. }) => {
            found_spare(*check, kind).unwrap_or_default().to_owned()
        }
        FindingKind::Equalize(crate::finding::EqualizeFinding::NonResponding { cell }) => {
            format!("a battery for {}", cell.cell.battery)
        }
        _ => String::new(),
    }
}
