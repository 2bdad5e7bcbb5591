//! How much of a bank a visit looked at: nothing is certified that nobody saw.

use crate::app::visit_context::VisitContext;
use rainshadow_core::rest::judge_rest;
use rainshadow_core::visit::{Entry, checks};
use rainshadow_core::wording;

/// True when anything was looked at or measured.
pub(super) fn looked(context: &VisitContext) -> bool {
    let seen = |entry: &Entry| {
        matches!(
            entry,
            Entry::Checked { .. }
                | Entry::Repaired { .. }
                | Entry::Level { .. }
                | Entry::Lamp { .. }
                | Entry::BatteryVolts { .. }
                | Entry::StateVolts { .. }
                | Entry::StringVolts { .. }
                | Entry::AlongVolts { .. }
                | Entry::Ohmic { .. }
                | Entry::CaseTemperature { .. }
                | Entry::Test { .. }
                | Entry::Joint { .. }
        )
    };
    context.rounds.iter().any(|(_, _, read)| *read > 0) || context.sheet.standing().any(|k| seen(&k.entry))
}

/// Whether the bank was measured or looked over as a whole: every cell, every battery at rest, or every check.
fn is_whole(context: &VisitContext) -> bool {
    let shape = &context.bank.shape;
    let rest = judge_rest(&context.rest_sheet());
    let told = rest.grade.tells_charge() && rest.batteries.len() == shape.batteries().count();
    let cells =
        context.rounds.iter().any(|(_, judged, read)| judged.is_some() && *read == shape.cell_count());
    let all = checks(context.model.construction);
    cells || told || all.iter().all(|check| context.sheet.checked(*check) || context.sheet.not_here(*check))
}

/// What the visit came to, beside what it found.
pub(super) fn seen(context: &VisitContext, looked: bool) -> wording::Seen {
    let worked = context.sheet.water_added().any || !context.sheet.done().is_empty();
    match (looked, worked) {
        (true, _) if is_whole(context) => wording::Seen::Whole,
        (true, _) => wording::Seen::Part,
        (false, true) => wording::Seen::WorkAlone,
        (false, false) => wording::Seen::Nothing,
    }
}
