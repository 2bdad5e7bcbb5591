//! What changed since the visit before.

use super::escaped;
use super::table::table;
use crate::app::visit_context::VisitContext;
use rainshadow_core::round::Assessment;
use rainshadow_core::visit::{Entry, Place, VisitSheet};
use rainshadow_core::wording;
use std::collections::BTreeMap;
use std::fmt::Write as _;

/// Volts and resistance of a sealed bank against the visit before.
fn compared_sealed(out: &mut String, context: &VisitContext) {
    let taken = |sheet: &VisitSheet| {
        let volts: BTreeMap<_, _> = sheet.battery_volts().into_iter().map(|b| (b.battery, b.volts)).collect();
        let ohmic: BTreeMap<_, _> = sheet
            .standing()
            .filter_map(|k| match (k.place, &k.entry) {
                (Place::Battery(battery), Entry::Ohmic { milliohms, .. }) => Some((battery, *milliohms)),
                _ => None,
            })
            .collect();
        (volts, ohmic)
    };
    let (volts, ohmic) = taken(&context.sheet);
    let before = context.past.iter().rev().map(|p| (p.day, taken(&p.sheet))).find(|(_, t)| !t.0.is_empty());
    let Some((day, (then_volts, then_ohmic))) = before else {
        out.push_str("<p>This is the first visit with readings; the next one is compared with it.</p>");
        return;
    };
    let day = day.strftime("%-d %b %Y").to_string();
    if volts.is_empty() {
        let _ = write!(out, "<p>No volts were taken on this visit; the last are of {day}.</p>");
        return;
    }
    let say = |value: Option<&f64>| value.map(|v| format!("{v:.2}")).unwrap_or_default();
    let rows: Vec<Vec<String>> = volts
        .keys()
        .map(|b| {
            vec![
                b.to_string(),
                say(then_volts.get(b)),
                say(volts.get(b)),
                say(then_ohmic.get(b)),
                say(ohmic.get(b)),
            ]
        })
        .collect();
    let (then_v, then_o) = (format!("V, {day}"), format!("mΩ, {day}"));
    table(out, &["Battery", &then_v, "V, this visit", &then_o, "mΩ, this visit"], &rows);
}

/// This visit against the one before.
pub fn compared(out: &mut String, context: &VisitContext, before: Option<&(String, Assessment)>) {
    out.push_str("<h2>Compared with last time</h2>");
    if !context.model.construction.has_caps() {
        return compared_sealed(out, context);
    }
    let Some((day, then)) = before else {
        out.push_str("<p>This is the first visit with readings; the next one is compared with it.</p>");
        return;
    };
    let Some(now) = context.judged() else {
        let _ = write!(out, "<p>No readings were taken on this visit; the last are of {}.</p>", escaped(day));
        return;
    };
    let spread = |a: &Assessment| a.spread.map(|s| s.points.to_string()).unwrap_or_default();
    let lowest = |a: &Assessment| {
        a.spread.map(|s| format!("{} at {}", s.lowest_gravity, s.lowest)).unwrap_or_default()
    };
    let charge =
        |a: &Assessment| a.state_of_charge.map(|c| format!("{:.0} %", c.percent)).unwrap_or_default();
    let row = |name: &str, then: String, now: String| {
        format!(
            "<tr><td>{name}</td><td class=\"n\">{}</td><td class=\"n\">{}</td></tr>",
            escaped(&then),
            escaped(&now)
        )
    };
    let _ = write!(
        out,
        "<table class=\"keep\"><tr><th></th><th class=\"n\">{}</th><th class=\"n\">this visit</th></tr>{}{}{}{}</table>",
        escaped(day),
        row(
            "How it was judged",
            wording::owner_condition(then.condition).into(),
            wording::owner_condition(now.condition).into()
        ),
        row("Difference between the strongest and the weakest cell, points", spread(then), spread(now)),
        row("Weakest cell", lowest(then), lowest(now)),
        row("Charge at the time", charge(then), charge(now)),
    );
}
