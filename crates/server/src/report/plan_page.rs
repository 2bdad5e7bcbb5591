//! A plan as a page that can be given to the owner.

use super::plan_chart::plan_chart;
use super::table::table;
use super::{escaped, page};
use crate::app::planners::answer::{PlanFact, PlanOption};
use crate::app::plans::PrintedPlan;
use crate::words;
use std::fmt::Write as _;

fn fact(own: &PlanFact) -> String {
    let unit = words::unit_behind(&own.unit);
    let note = if own.note.is_empty() { String::new() } else { format!(" ({})", own.note) };
    format!("{}{unit}{note}", own.value)
}

fn options(out: &mut String, options: &[PlanOption]) {
    let Some(first) = options.first() else { return };
    let names: Vec<String> = options
        .iter()
        .map(|own| if own.best { format!("{} (advised)", own.name) } else { own.name.clone() })
        .collect();
    let heads: Vec<&str> = std::iter::once("").chain(names.iter().map(String::as_str)).collect();
    let mut rows: Vec<Vec<String>> = first
        .figures
        .iter()
        .enumerate()
        .map(|(at, named)| {
            let of = |own: &PlanOption| own.figures.get(at).map(fact).unwrap_or_default();
            std::iter::once(named.name.clone()).chain(options.iter().map(of)).collect()
        })
        .collect();
    let comes =
        |own: &PlanOption| if own.refused.is_empty() { own.comes_to.clone() } else { own.refused.clone() };
    rows.push(std::iter::once("comes to".to_owned()).chain(options.iter().map(comes)).collect());
    out.push_str("<h2>Ways to go</h2>");
    table(out, &heads, &rows);
}

/// The page of a kept plan.
pub fn plan_page(own: &PrintedPlan) -> String {
    let mut out = String::new();
    let answer = &own.answer;
    let _ = write!(
        out,
        "<p class=\"where\"><b>{}</b> {} \u{b7} {} \u{b7} {}</p><h1>{}</h1>",
        escaped(&own.form.about),
        escaped(own.planner.name()),
        escaped(&own.row.name),
        words::day(own.today),
        escaped(&answer.said)
    );
    if !own.stale.is_empty() {
        let _ = write!(
            out,
            "<p><b>Its bank has new readings since it was kept:</b> {}.</p>",
            escaped(&own.stale.join("; "))
        );
    }
    let facts: Vec<String> = answer
        .facts
        .iter()
        .map(|own| format!("{} <b>{}</b>", escaped(&own.name), escaped(&fact(own))))
        .collect();
    let _ = write!(out, "<p>{}</p>", facts.join(" \u{b7} "));
    for chart in &answer.charts {
        plan_chart(&mut out, chart);
    }
    options(&mut out, &answer.options);
    for own in &answer.tables {
        let _ = write!(out, "<h2>{}</h2>", escaped(&own.title));
        let heads: Vec<&str> = own.heads.iter().map(String::as_str).collect();
        table(&mut out, &heads, &own.rows);
    }
    if !answer.dates.is_empty() {
        out.push_str("<h2>Days</h2>");
        let rows: Vec<Vec<String>> =
            answer.dates.iter().map(|d| vec![d.said.clone(), d.what.clone()]).collect();
        table(&mut out, &["day", "what is done"], &rows);
    }
    for list in &answer.lists {
        let _ = write!(out, "<div class=\"keep\"><h2>{}</h2><ol>", escaped(&list.title));
        for line in &list.lines {
            let _ = write!(out, "<li>{}</li>", escaped(line));
        }
        out.push_str("</ol></div>");
    }
    for caution in &answer.cautions {
        let _ = write!(out, "<p><b>{}</b></p>", escaped(caution));
    }
    out.push_str("<h2>What it rests on</h2>");
    let rows: Vec<Vec<String>> = own.set().into_iter().map(|own| own.to_vec()).collect();
    table(&mut out, &["", "taken", "where it comes from"], &rows);
    let _ = write!(out, "<p>{}</p><p>{}</p>", escaped(&answer.assumptions.join(" ")), escaped(&answer.rule));
    page(&format!("{} {}", own.form.about, own.row.name), &out)
}
