//! The plan of a report: the bank from above as the visit left it.

use super::plan_svg::{CellMark, plan_svg};
use crate::app::visit_context::VisitContext;
use rainshadow_core::bank::{BatteryAddress, CellAddress};
use rainshadow_core::finding::FindingKind;
use rainshadow_core::rest::judge_rest;
use rainshadow_core::severity::Severity;

/// The bank from above as the visit left it: cells by what was measured, batteries by what was seen.
pub(super) fn bank_plan(context: &VisitContext) -> String {
    let judged = context.judged();
    let rest = judge_rest(&context.rest_sheet());
    let conditions = context.battery_conditions(&rest);
    let caps = context.model.construction.has_caps();
    let levels = context.sheet.levels(&context.bank.shape);
    // A cell whose acid was not measured still has a level and stands in a battery with volts.
    let without_gravity = |address: CellAddress| {
        let level = levels.iter().find(|(c, _)| *c == address).map(|(_, l)| l.condition(&context.model));
        let volts = conditions.get(&address.battery).copied();
        level.max(volts).unwrap_or(Severity::NoReading)
    };
    let cell = |address: CellAddress| {
        if caps {
            let own = judged.and_then(|a| a.cells.iter().find(|c| c.cell == address));
            return CellMark {
                condition: own.map_or_else(|| without_gravity(address), |c| c.condition),
                figure: own
                    .and_then(|c| c.corrected)
                    .map(|sg| sg.to_string().chars().skip(2).collect())
                    .unwrap_or_default(),
            };
        }
        let own = rest.batteries.iter().find(|b| b.battery == address.battery);
        // Volts are taken at the posts: the figure stands once, under the first cell of its case.
        let middle = context.bank.shape.cells_per_battery.div_ceil(2);
        CellMark {
            condition: conditions.get(&address.battery).copied().unwrap_or(Severity::NoReading),
            figure: own
                .filter(|_| address.cell == middle)
                .map(|b| format!("{:.2}", b.volts))
                .unwrap_or_default(),
        }
    };
    let looked = context.findings();
    let battery = |address: BatteryAddress| {
        let own = looked.iter().filter(|f| matches!(f.kind, FindingKind::Look(_)));
        own.filter(|f| f.subject.battery() == Some(address)).map(|f| f.severity).max()
    };
    let svg = plan_svg(&context.bank.shape.plan(), &cell, &battery, "The bank from above");
    let by_eye = if context.bank.shape.batteries().any(|own| battery(own).is_some()) {
        " A mark beside a battery\u{2019}s name: something about it was found by eye."
    } else {
        ""
    };
    format!(
        "{svg}<p class=\"small\">Round: in order. Notched square: to be watched. Wedge: needs something done. Dashed: not measured.{by_eye}</p>"
    )
}
