//! What volts at rest show (RD-7, SG-3), each with what another house would say of the same volts.

use super::{Bound, Certainty, Finding, FindingKind, OtherHouse, RuleId, Subject, Tolerance};
use crate::electrolyte::CROSS_CHECK_LIMIT_VOLTS;
use crate::house_rules::HouseRules;
use crate::rest::{
    CELL_MISSING_VOLTS, DIRTY_PER_DAY, FAILS_UNDER, HOLDS_UNDER, RestAssessment, RestFinding, RestSheet,
    STRING_SHORT_VOLTS, judge_rest,
};
use crate::round::rest_check::ON_CHARGE_VOLTS;
use crate::severity::Severity;

fn subject(found: &RestFinding) -> Subject {
    match found {
        RestFinding::CellsMissing { battery, .. }
        | RestFinding::BatteryLow { battery, .. }
        | RestFinding::NotHolding { battery, .. }
        | RestFinding::LosesCharge { battery: Some(battery), .. }
        | RestFinding::Disagrees { battery, .. } => Subject::Battery(*battery),
        RestFinding::Apart { letter, .. } | RestFinding::StringShort { letter, .. } => {
            Subject::String(*letter)
        }
        RestFinding::LowCharge { .. }
        | RestFinding::StringsApart { .. }
        | RestFinding::ParallelApart { .. }
        | RestFinding::LosesCharge { battery: None, .. }
        | RestFinding::NotAtRest { .. } => Subject::Bank,
    }
}

fn tolerance(found: &RestFinding, house: &str) -> Tolerance {
    let volts = |volts| Tolerance::of_every_house(Bound::Volts { volts, by_meter: false });
    match found {
        RestFinding::CellsMissing { .. } => volts(CELL_MISSING_VOLTS),
        RestFinding::StringShort { .. } => volts(STRING_SHORT_VOLTS),
        RestFinding::BatteryLow { limit, .. }
        | RestFinding::StringsApart { limit, .. }
        | RestFinding::ParallelApart { limit, .. } => volts(*limit),
        RestFinding::NotHolding { fails, .. } => volts(if *fails { FAILS_UNDER } else { HOLDS_UNDER }),
        RestFinding::LosesCharge { usual, .. } => {
            Tolerance::of_every_house(Bound::PercentADay { percent: usual + DIRTY_PER_DAY })
        }
        RestFinding::NotAtRest { .. } => {
            Tolerance::of_every_house(Bound::VoltsPerCell { volts: ON_CHARGE_VOLTS })
        }
        RestFinding::Apart { limit, by_meter, .. } => {
            Tolerance::of_every_house(Bound::Volts { volts: *limit, by_meter: *by_meter })
        }
        RestFinding::Disagrees { .. } => {
            Tolerance::of_every_house(Bound::VoltsPerCell { volts: CROSS_CHECK_LIMIT_VOLTS })
        }
        RestFinding::LowCharge { planned_depth, .. } => {
            let percent = 100.0 - f64::from(*planned_depth);
            Tolerance { limit: Bound::Percent { percent }, whose: house.into() }
        }
    }
}

fn rule(found: &RestFinding) -> RuleId {
    match found {
        RestFinding::CellsMissing { .. } | RestFinding::Disagrees { .. } => RuleId::Sg3,
        RestFinding::NotHolding { .. } | RestFinding::LosesCharge { .. } => RuleId::Hd1,
        _ => RuleId::Rd7,
    }
}

fn certainty(found: &RestFinding) -> Certainty {
    match found {
        RestFinding::Apart { by_meter: true, .. } => Certainty::WithinInstrument,
        _ => Certainty::Clear,
    }
}

fn finding(found: RestFinding, house: &str) -> Finding {
    let (tolerance, rule, certainty) = (Some(tolerance(&found, house)), rule(&found), certainty(&found));
    let (subject, severity) = (subject(&found), found.severity());
    Finding { tolerance, certainty, ..Finding::recorded(subject, FindingKind::Rest(found), severity, rule) }
}

/// Everything a rest check found, worst first.
pub fn findings(sheet: &RestSheet) -> Vec<Finding> {
    of_judged(&judge_rest(sheet), sheet)
}

/// The findings of a sheet that is judged already.
pub fn of_judged(judged: &RestAssessment, sheet: &RestSheet) -> Vec<Finding> {
    let own: Vec<Finding> =
        judged.findings.iter().map(|found| finding(found.clone(), &sheet.rules.name)).collect();
    if own.is_empty() {
        return own;
    }
    let others: Vec<(String, Vec<Finding>)> = HouseRules::shipped()
        .into_iter()
        .filter(|set| set.key != sheet.rules.key)
        .map(|rules| {
            let name = rules.name.clone();
            let theirs = judge_rest(&RestSheet { rules, ..sheet.clone() });
            (name.clone(), theirs.findings.into_iter().map(|f| finding(f, &name)).collect())
        })
        .collect();
    own.into_iter()
        .map(|mine| {
            let other_houses = others
                .iter()
                .map(|(name, theirs)| OtherHouse {
                    name: name.clone(),
                    condition: theirs
                        .iter()
                        .find(|f| f.id == mine.id)
                        .map_or(Severity::Steady, |f| f.severity),
                })
                .filter(|other| other.condition != mine.severity)
                .collect();
            Finding { other_houses, ..mine }
        })
        .collect()
}
