//! The evidence line under a verdict: what was measured, in a few figures.

use super::names;
use crate::bank::CellAddress;
use crate::quantity::Temperature;
use crate::quantity::units::ReaderUnits;
use crate::round::{Assessment, BalanceVerdict, RoundToJudge, StringFigures, median};
use serde::{Deserialize, Serialize};

/// One figure with its words around it: "spread **39** points, limit 30".
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Evidence {
    /// Words before the figure.
    pub before: String,
    /// The figure.
    pub figure: String,
    /// Words after it.
    pub after: String,
    /// True when this figure is beyond its limit.
    pub hit: bool,
}

fn line(before: &str, figure: String, after: String) -> Evidence {
    Evidence { before: before.into(), figure, after, hit: false }
}

/// The figures of a judged round; empty where nothing was judged.
pub fn evidence(assessment: &Assessment, round: &RoundToJudge, units: ReaderUnits) -> Vec<Evidence> {
    let mut all = Vec::new();
    if let (Some(balance), Some(spread)) = (assessment.balance, assessment.spread) {
        let (limit, name) = if balance.verdict == BalanceVerdict::Watch {
            (balance.watch, "watch from")
        } else {
            (balance.equalize, "limit")
        };
        let hit = balance.verdict != BalanceVerdict::Even;
        let widened =
            if limit.is_widened() { format!(", {} with this instrument", limit.used) } else { String::new() };
        let after = format!("points, {name} {}{widened}", limit.rule);
        all.push(Evidence { hit, ..line("spread", spread.points.to_string(), after) });
        if let Some(centre) = assessment.centre {
            let doubt = format!("±{}", names::points(2.0 * assessment.uncertainty.gravity.value()));
            all.push(line("median", centre.to_string(), doubt));
        }
        all.push(line("lowest", spread.lowest_gravity.to_string(), format!("at {}", spread.lowest)));
        all.extend(strings(assessment));
    } else if let Some(centre) = assessment.centre {
        all.push(line("median", centre.to_string(), String::new()));
    }
    if let Some(soc) = assessment.state_of_charge {
        all.push(line("charge", format!("{:.0}", soc.percent), "%".into()));
    }
    if let Some(rest) = assessment.rest {
        let after = match rest.measured_cell_volts {
            Some(_) if rest.disagrees => "V a cell, disagrees",
            Some(_) if rest.settled => "V a cell, agrees",
            Some(_) => "V a cell, not settled",
            None => "V a cell expected at rest",
        };
        let volts = rest.measured_cell_volts.unwrap_or(rest.expected_cell_volts);
        all.push(Evidence { hit: rest.disagrees, ..line("rest", format!("{volts:.2}"), after.into()) });
    }
    all.extend(temperature(assessment, round, units));
    all
}

/// "string A 1.264, spread **18**": every string of a bank of several.
fn strings(assessment: &Assessment) -> Vec<Evidence> {
    if assessment.strings.len() < 2 {
        return Vec::new();
    }
    let said = |s: &StringFigures| format!("string {} {}, spread", s.letter, s.centre);
    let figure = |s: &StringFigures| line(&said(s), s.spread.points.to_string(), String::new());
    assessment.strings.iter().map(figure).collect()
}

/// The electrolyte of one cell in words: "electrolyte 22 °C"; its own, its battery's or the pilot's.
pub fn electrolyte(round: &RoundToJudge, cell: CellAddress, units: ReaderUnits) -> String {
    if round.instrument.corrects_for_temperature {
        return "the instrument corrects by itself".into();
    }
    let own = round.readings.iter().find(|r| r.cell == cell).and_then(|r| r.temperature);
    own.or_else(|| round.conditions.temperature_of(cell.battery))
        .map_or_else(|| "temperature unknown".into(), |t| format!("electrolyte {}", units.say_temperature(t)))
}

/// "22 °C, corrected −2"; "14 to 18 °C by battery, corrected −6": at the median.
fn temperature(assessment: &Assessment, round: &RoundToJudge, units: ReaderUnits) -> Option<Evidence> {
    if round.instrument.corrects_for_temperature {
        return Some(line("corrected by the instrument itself", String::new(), String::new()));
    }
    if !assessment.temperature_known {
        return Some(line("temperature", "unknown".into(), String::new()));
    }
    let mut all: Vec<f64> = round
        .shape
        .batteries()
        .filter_map(|battery| round.conditions.temperature_of(battery))
        .map(Temperature::celsius)
        .collect();
    let middle = Temperature::from_celsius(median(&mut all)?).ok()?;
    let (coldest, warmest) = (all.iter().copied().reduce(f64::min)?, all.iter().copied().reduce(f64::max)?);
    let said = if warmest - coldest < 0.05 {
        units.say_temperature(middle)
    } else {
        let say = |t: f64| Temperature::from_celsius(t).map(|t| units.say_temperature(t)).unwrap_or_default();
        let (low, high) = (say(coldest), say(warmest));
        let bare = low.split(' ').next().unwrap_or_default();
        format!("{bare} to {high} by battery")
    };
    let centre = assessment.centre?;
    let added = round.rules.correction.apply(centre, middle, round.model.reference_temperature) - centre;
    let signed = if added.value() > 0.0 { format!("+{added}") } else { added.to_string() };
    Some(line(&format!("{said}, corrected"), signed, String::new()))
}
