//! The appendix of the report: every figure with its rule.

use super::escaped;
use super::table::table;
use crate::app::visit_context::VisitContext;
use rainshadow_core::bank::BatteryAddress;
use rainshadow_core::rest::judge_rest;
use rainshadow_core::visit::{Entry, Place};
use rainshadow_core::wording::{self, SpokenFinding};
use std::collections::BTreeMap;
use std::fmt::Write as _;

/// Its head line, with the cause that explains it.
fn headline(finding: &SpokenFinding, all: &[SpokenFinding]) -> String {
    let cause = all.iter().find(|f| finding.explained_by.as_ref() == Some(&f.id));
    match cause {
        Some(cause) => format!("{} (explained by: {})", finding.headline, cause.headline),
        None => finding.headline.clone(),
    }
}

/// Case temperatures as taken, °C.
fn case_temperatures(context: &VisitContext) -> BTreeMap<BatteryAddress, f64> {
    let taken = context.sheet.standing().filter_map(|k| match (&k.entry, k.place) {
        (Entry::CaseTemperature { celsius }, Place::Battery(battery)) => Some((battery, *celsius)),
        _ => None,
    });
    taken.collect()
}

/// Volts, resistance and case temperature by battery.
fn volts_at_rest(out: &mut String, context: &VisitContext) {
    let rest = judge_rest(&context.rest_sheet());
    let warm = case_temperatures(context);
    if !rest.batteries.is_empty() {
        let _ = write!(out, "<h3>Volts at rest: {}</h3>", escaped(rest.grade.said()));
        let ohmic = context.ohmic();
        let conditions = context.battery_conditions(&rest);
        let mut head = vec!["Battery", "V", "Charged", "mΩ", "Change", "Condition"];
        head.extend((!warm.is_empty()).then_some("Case"));
        let rows: Vec<Vec<String>> = rest
            .batteries
            .iter()
            .map(|b| {
                let own = ohmic.iter().find(|o| o.battery == b.battery);
                let mut row = vec![
                    b.battery.to_string(),
                    format!("{:.2}", b.volts),
                    b.charge.map(wording::charge_range).unwrap_or_default(),
                    own.map(|o| format!("{:.2}", o.milliohms)).unwrap_or_default(),
                    own.and_then(|o| o.rise).map(|r| format!("{:+.0} %", 100.0 * r)).unwrap_or_default(),
                    conditions.get(&b.battery).copied().unwrap_or(b.condition).word().into(),
                ];
                let case = warm.get(&b.battery).map(|t| wording::degrees(*t, context.units));
                row.extend((!warm.is_empty()).then(|| case.unwrap_or_default()));
                row
            })
            .collect();
        table(out, &head, &rows);
    }
    let others = warm.iter().filter(|(battery, _)| !rest.batteries.iter().any(|b| b.battery == **battery));
    let others: Vec<String> =
        others.map(|(battery, t)| format!("{battery} {}", wording::degrees(*t, context.units))).collect();
    if !others.is_empty() {
        let _ = write!(out, "<p>Case temperature: {}.</p>", escaped(&others.join(", ")));
    }
}

/// Findings with their rules, readings, volts, water, and who confirmed what.
pub fn appendix(out: &mut String, context: &VisitContext, spoken: &[SpokenFinding]) {
    out.push_str("<section class=\"appendix\"><h2>Appendix: for the technician</h2>");
    for finding in spoken {
        let _ = write!(
            out,
            "<div class=\"keep\"><h3>{} ({})</h3><p class=\"small\">{} {} <b>{}</b> {}. {} {}</p></div>",
            escaped(&headline(finding, spoken)),
            finding.severity.word(),
            escaped(&finding.seen),
            escaped(&finding.why),
            escaped(&finding.advice),
            escaped(&finding.rule),
            escaped(&finding.source),
            escaped(&finding.others)
        );
    }
    if let Some(judged) = context.judged() {
        let _ = write!(
            out,
            "<h3>Gravity, {}; {}</h3>",
            escaped(&wording::correction_line(judged, context.units)),
            escaped(&context.rules.name)
        );
        let rows: Vec<Vec<String>> = judged
            .cells
            .iter()
            .map(|c| {
                vec![
                    c.cell.to_string(),
                    c.read.map(|r| r.to_string()).unwrap_or_default(),
                    c.corrected.map(|r| r.to_string()).unwrap_or_default(),
                    c.deviation.map(wording::signed).unwrap_or_default(),
                    c.change.map(wording::signed).unwrap_or_default(),
                    c.note.clone().unwrap_or_else(|| c.condition.word().into()),
                ]
            })
            .collect();
        table(out, &["Cell", "As read", "Corrected", "Points from median", "Change", "Condition"], &rows);
    }
    volts_at_rest(out, context);
    let lines = context.state_lines();
    if !lines.is_empty() {
        out.push_str("<h3>Volts by state</h3>");
        let rows: Vec<Vec<String>> = lines
            .iter()
            .map(|line| {
                vec![
                    line.entry.place.said(),
                    wording::volts_state_said(line),
                    format!("{:.2}", line.volts),
                    format!("{:.2}", line.per_twelve()),
                    wording::volts_tell(line),
                    context.signed(line.entry),
                ]
            })
            .collect();
        table(out, &["Where", "State", "V", "V on 12 V", "What it tells", "Read by"], &rows);
    }
    // What went in by battery or as a whole was not measured cell by cell, and is not told so.
    let by_cell = context.sheet.water_noted_by_cell();
    if !by_cell.is_empty() {
        out.push_str("<h3>Water</h3>");
        let rows: Vec<Vec<String>> =
            by_cell.iter().map(|(cell, ml)| vec![cell.to_string(), context.say(*ml)]).collect();
        out.push_str("<div class=\"two\">");
        table(out, &["Cell", "Added"], &rows);
        out.push_str("</div>");
    }
    confirmed(out, context);
    out.push_str("</section>");
}

fn confirmed(out: &mut String, context: &VisitContext) {
    let construction = context.model.construction;
    let said: Vec<String> = context
        .sheet
        .standing()
        .filter_map(|k| match &k.entry {
            Entry::Confirmed { caution } => {
                let head =
                    wording::caution(*caution, construction).split('.').next().unwrap_or_default().to_owned();
                Some(format!("{head}: {}", context.signed(k)))
            }
            Entry::Closed { item, none_here: false } => {
                Some(format!("{}: {}", wording::closing_item(*item), context.signed(k)))
            }
            _ => None,
        })
        .collect();
    // A sheet of an earlier day that tells nothing of the closing has no list that was left open.
    let closed = context.sheet.standing().any(|k| matches!(k.entry, Entry::Closed { .. }));
    let is_told = closed || context.entered_later().is_none();
    let unanswered = if is_told { context.sheet.not_closed(construction) } else { Vec::new() };
    let open: Vec<String> =
        unanswered.into_iter().map(|item| wording::closing_item(item).to_owned()).collect();
    for (head, lines) in [("Confirmed", said), ("Not ticked at closing", open)] {
        if lines.is_empty() {
            continue;
        }
        let _ = write!(out, "<h3>{head}</h3><ul class=\"two small\">");
        for line in lines {
            let _ = write!(out, "<li>{}</li>", escaped(&line));
        }
        out.push_str("</ul>");
    }
}
