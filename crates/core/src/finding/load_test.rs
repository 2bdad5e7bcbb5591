//! What load and capacity tests show (LT-2, LT-3, CT-1, CT-3, CV-1).

use super::load_test_kind::LoadTestFinding;
use super::{Bound, Certainty, Equipment, Finding, FindingKind, RuleId, Subject, Tolerance};
use crate::bank::CellAddress;
use crate::cell_volts::{CellVoltsJudged, CellVoltsWhen};
use crate::discharge::{
    CapacityResult, DischargeNow, UNDER_MATES_NEAR_END, capacity_condition, capacity_limits,
};
use crate::load_test::{RealLoad, RealLoadJudged, ShortLoadJudged, UNDER_MATES};
use crate::recovery::{RecoveryStage, SlowCharge};
use crate::schedule::Duty;
use crate::severity::Severity;
use jiff::civil::Date;

fn made(subject: Subject, found: LoadTestFinding, severity: Severity, rule: RuleId) -> Finding {
    Finding {
        certainty: Certainty::Clear,
        ..Finding::recorded(subject, FindingKind::LoadTest(found), severity, rule)
    }
}

fn within(limit: Bound, finding: Finding) -> Finding {
    Finding { tolerance: Some(Tolerance::of_every_house(limit)), ..finding }
}

fn volts(volts: f64) -> Bound {
    Bound::Volts { volts, by_meter: false }
}

/// A place that ran dry, or was opened, and that nobody proved since (RC-1).
pub fn unproven(
    subject: Subject,
    (day, sealed): (Date, bool),
    stage: RecoveryStage,
    charge: SlowCharge,
) -> Finding {
    let found = LoadTestFinding::Unproven { day, sealed, stage, charge };
    made(subject, found, Severity::Watch, RuleId::Rc1)
}

/// A battery under a short load; none where it holds, or nothing tells.
pub fn short_load(judged: &ShortLoadJudged) -> Option<Finding> {
    let limit = match judged.condition {
        Severity::Act => volts(judged.least?),
        Severity::Watch => volts(UNDER_MATES),
        _ => return None,
    };
    let found = LoadTestFinding::FallsUnderLoad { battery: *judged };
    Some(within(limit, made(Subject::Battery(judged.battery), found, judged.condition, RuleId::Lt2)))
}

/// The bank, the loads and the inverter under a real load.
pub fn real_load(test: &RealLoad, judged: &RealLoadJudged) -> Vec<Finding> {
    let mut all = Vec::new();
    if judged.condition >= Severity::Watch {
        let found = LoadTestFinding::FallsUnderRealLoad {
            drop: judged.drop,
            expected: judged.expected,
            amperes: test.amperes,
            weak: judged.condition == Severity::Act,
        };
        let at = usize::from(judged.condition == Severity::Act) + 1;
        let finding = made(Subject::Bank, found, judged.condition, RuleId::Lt3);
        all.push(within(volts(judged.limits[at]), finding));
    }
    let about = |found, severity| made(Subject::Equipment(Equipment::Load), found, severity, RuleId::Lt3);
    for load in judged.over_plate.iter().filter_map(|at| test.loads.get(*at)) {
        let (name, amperes) = (load.name.clone(), load.amperes);
        let found = LoadTestFinding::LoadOverPlate { name, amperes, plate: load.plate.unwrap_or_default() };
        let finding = about(found, Severity::Watch);
        all.push(Finding { id: format!("{} {}", finding.id, load.name.to_lowercase()), ..finding });
    }
    let share = judged.inverter.filter(|own| own.condition >= Severity::Watch);
    all.extend(share.map(|own| about(LoadTestFinding::InverterLoad { share: own.share }, own.condition)));
    for (off, on_mains) in [(judged.output_off, false), (judged.mains_off, true)] {
        let finding = about(LoadTestFinding::InverterOutput { on_mains }, Severity::Watch);
        let id = format!("{} {}", finding.id, if on_mains { "on mains" } else { "on the bank" });
        all.extend((off == Some(true)).then_some(Finding { id, ..finding }));
    }
    all
}

/// What a timed discharge of a place showed: its capacity, and the battery that gives out first.
pub fn discharge(subject: Subject, now: &DischargeNow, duty: Duty) -> Vec<Finding> {
    let mut all: Vec<Finding> =
        now.result.iter().filter_map(|result| capacity(subject, result, duty)).collect();
    all.extend(now.weakest().filter(|_| !now.is_under_way()).map(|own| {
        let found = LoadTestFinding::GivesOutFirst { battery: own.clone() };
        within(
            volts(UNDER_MATES_NEAR_END),
            made(Subject::Battery(own.battery), found, Severity::Act, RuleId::Cv1),
        )
    }));
    all
}

fn capacity(subject: Subject, result: &CapacityResult, duty: Duty) -> Option<Finding> {
    let condition = capacity_condition(result, duty);
    let (percent, range) = result.percent.zip(result.range).filter(|_| condition >= Severity::Watch)?;
    let (watch, act) = capacity_limits(duty);
    let found = LoadTestFinding::CapacityFalls {
        percent,
        range,
        hours: result.hours,
        amperes: result.ampere_hours / result.hours,
        duty,
    };
    let limit = if condition == Severity::Act { act } else { watch };
    let finding = within(Bound::Percent { percent: limit }, made(subject, found, condition, RuleId::Ct1));
    // The range reaches over the limit: another test could fall on the other side.
    let near = range[1] >= limit;
    Some(Finding { certainty: if near { Certainty::NearLimit } else { Certainty::Clear }, ..finding })
}

/// A capacity that fell from the first test to this one, though it is still enough; none where their ranges meet.
pub fn capacity_sinks(subject: Subject, first: &CapacityResult, now: &CapacityResult) -> Option<Finding> {
    let told = |own: &CapacityResult| own.percent.zip(own.range).filter(|_| !own.at_least);
    let ((before, before_range), (percent, range)) = told(first).zip(told(now))?;
    let found =
        LoadTestFinding::CapacitySinks { percent: [before, percent], ranges: [before_range[0], range[1]] };
    (before_range[0] > range[1]).then(|| made(subject, found, Severity::Watch, RuleId::Ct1))
}

/// A known load that runs for less long than when the bank was new; none where it has what its duty asks for.
pub fn known_load(load: &str, hours: [f64; 2], share: f64, duty: Duty) -> Option<Finding> {
    let (watch, _) = capacity_limits(duty);
    // Hours of the same load are a hint, no timed discharge: it never condemns a bank.
    let finding = || {
        let found = LoadTestFinding::KnownLoadFalls { load: load.to_owned(), hours };
        let made = made(Subject::Bank, found, Severity::Watch, RuleId::Ct3);
        Finding { certainty: Certainty::NearLimit, ..within(Bound::Percent { percent: watch }, made) }
    };
    (100.0 * share < watch).then(finding)
}

/// A cell that shows too few volts; none where it does not.
pub fn cell_volts(when: CellVoltsWhen, judged: &CellVoltsJudged) -> Option<Finding> {
    let fails = judged.fails?;
    let found = LoadTestFinding::CellVolts { cell: *judged, when };
    let limit = match (fails, judged.least) {
        (crate::cell_volts::CellVoltsLimit::AtLeast, Some(least)) => Bound::VoltsPerCell { volts: least },
        _ => volts(crate::cell_volts::UNDER_MATES),
    };
    let cells: Vec<CellAddress> = vec![judged.cell];
    Some(Finding {
        cells,
        ..within(limit, made(Subject::Cell(judged.cell), found, judged.condition, RuleId::Cv1))
    })
}
