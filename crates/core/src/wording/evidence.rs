//! The evidence line under a verdict: what was measured, in a few figures.

use super::names;
use crate::quantity::units::ReaderUnits;
use crate::round::{Assessment, BalanceVerdict, RoundToJudge};
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
        let widened = if limit.noise_rules() { ", set by the instrument" } else { "" };
        let after = format!("points, {name} {}{widened}", limit.used);
        all.push(Evidence { hit, ..line("spread", spread.points.to_string(), after) });
        if let Some(centre) = assessment.centre {
            let doubt = format!("±{}", names::points(2.0 * assessment.uncertainty.gravity.value()));
            all.push(line("median", centre.to_string(), doubt));
        }
        all.push(line("lowest", spread.lowest_gravity.to_string(), format!("at {}", spread.lowest)));
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

/// "22 °C, corrected −2": the temperature of a round with one for all.
fn temperature(assessment: &Assessment, round: &RoundToJudge, units: ReaderUnits) -> Option<Evidence> {
    if round.instrument.corrects_for_temperature {
        return Some(line("", "0".into(), "points added: the instrument corrects by itself".into()));
    }
    if !assessment.temperature_known {
        return Some(line("temperature", "unknown".into(), String::new()));
    }
    let first = round.shape.batteries().next()?;
    let at = round.conditions.temperature_of(first)?;
    let centre = assessment.centre?;
    let added = round.rules.correction.apply(centre, at, round.model.reference_temperature) - centre;
    let signed = if added.value() > 0.0 { format!("+{added}") } else { added.to_string() };
    Some(line(&format!("{}, corrected", units.say_temperature(at)), signed, String::new()))
}
