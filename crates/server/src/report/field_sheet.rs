//! A blank sheet for a bank, to print and carry where no screen goes.

use super::plan_svg::{CellMark, plan_svg};
use super::{escaped, page};
use crate::db::{BankRow, Site};
use rainshadow_core::bank::{string_letter, walk};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::equipment::Equipment;
use rainshadow_core::schedule::Duty;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{LeftAs, Step, checks, closing_items};
use rainshadow_core::wording;
use std::collections::HashMap;
use std::fmt::Write as _;

fn line(label: &str) -> String {
    format!("{label} <span class=\"line\">&nbsp;</span> ")
}

/// What stands there, the technician's own numbers, and how the cables go.
fn stands_there(out: &mut String, bank: &BankRow, equipment: &Equipment) {
    let lines = wording::what_stands_there(equipment);
    if !lines.is_empty() {
        let _ = write!(out, "<p><b>What stands there:</b> {}</p>", escaped(&lines.join(" \u{b7} ")));
    }
    let numbered = bank.shape.batteries().zip(&equipment.own_numbers).filter(|(_, n)| !n.is_empty());
    let own: Vec<String> = numbered.map(|(battery, n)| format!("{battery} is {n}")).collect();
    if !own.is_empty() {
        let _ = write!(out, "<p><b>Own numbers:</b> {}</p>", escaped(&own.join(", ")));
    }
    let cables: Vec<String> = equipment.hook_up.iter().map(wording::connection_line).collect();
    if !cables.is_empty() {
        let _ = write!(out, "<p><b>Cables, in order:</b> {}</p>", escaped(&cables.join(" \u{b7} ")));
    }
}

/// Boxes for a load test and the joints of every battery.
fn tests(out: &mut String, bank: &BankRow) {
    let _ = write!(
        out,
        "<div class=\"keep\"><h2>Load test and joints</h2><p>{}{}{}{}</p><table class=\"boxes\"><tr><th>battery</th>",
        line("Load, A"),
        line("for, s"),
        line("Current for the joints, A"),
        line("Torque")
    );
    for head in ["V before", "V at its end", "V 30 s after", "joint +, mV", "joint \u{2212}, mV"] {
        let _ = write!(out, "<th>{head}</th>");
    }
    out.push_str("</tr>");
    for battery in bank.shape.batteries() {
        let _ = write!(out, "<tr><td class=\"name\">{battery}</td>{}</tr>", "<td></td>".repeat(5));
    }
    out.push_str("</table>");
    if bank.shape.parallel > 1 {
        out.push_str("<p>");
        for string in 0..bank.shape.parallel {
            out.push_str(&line(&format!("String {}, A", string_letter(string))));
        }
        out.push_str("</p>");
    }
    out.push_str("</div>");
}

/// The blank sheet: safety lines, the path, boxes for every cell in the order it is walked.
pub fn field_sheet(bank: &BankRow, site: &Site, model: &BatteryModel, equipment: &Equipment) -> String {
    let plan = bank.shape.plan();
    let path = walk(&plan, false);
    let caps = model.construction.has_caps();
    let mut out = String::new();
    let _ = write!(
        out,
        "<p class=\"where\"><b>{}</b> {} · {}</p><h1>Field sheet</h1><p>{}{}{}{}</p>",
        escaped(&site.name),
        escaped(&bank.name),
        escaped(&wording::describe_bank(&bank.shape, model)),
        line("Day"),
        line("Who"),
        line("Hours since charge"),
        line("since load")
    );
    out.push_str("<ul class=\"small ticks\">");
    for caution in Step::MakeSafe.cautions(&bank.shape, model.construction) {
        let _ = write!(
            out,
            "<li><span class=\"tick\"></span>{}</li>",
            escaped(wording::caution(caution, model.construction))
        );
    }
    out.push_str("</ul>");
    let access = &bank.access;
    let notes: Vec<&str> = [&access.cover, &access.wrenches, &access.awkward, &access.switch, &access.wished]
        .into_iter()
        .map(String::as_str)
        .filter(|n| !n.is_empty())
        .collect();
    if !notes.is_empty() {
        let _ = write!(out, "<p><b>Before you stand there:</b> {}</p>", escaped(&notes.join(" · ")));
    }
    stands_there(&mut out, bank, equipment);
    let order: HashMap<_, _> = path.iter().enumerate().map(|(i, cell)| (*cell, i + 1)).collect();
    let numbered = |cell| CellMark {
        condition: Severity::NoReading,
        figure: order.get(&cell).map(ToString::to_string).unwrap_or_default(),
    };
    out.push_str(&plan_svg(
        &plan,
        &numbered,
        &|_| None,
        "The bank from above, cells numbered in the order of the path",
    ));
    out.push_str("<p class=\"small\">Numbers: the path. ");
    let _ =
        write!(out, "Fill mark: {}.</p><h2>Look over</h2><p class=\"two small\">", escaped(&model.fill_mark));
    for check in checks(model.construction) {
        let _ =
            write!(out, "<span class=\"tick\"></span>{} {}<br>", escaped(wording::check(check)), line(""));
    }
    out.push_str("</p><h2>Volts at rest");
    out.push_str(if caps { "</h2>" } else { ", resistance, case</h2>" });
    out.push_str("<table class=\"boxes\">");
    for row in &plan.rows {
        for part in row.batteries.chunks(4) {
            out.push_str("<tr>");
            for battery in part {
                let _ = write!(out, "<td class=\"name\">{}</td><td></td>", battery.address);
                if !caps {
                    out.push_str("<td></td><td></td>");
                }
            }
            out.push_str("</tr>");
        }
    }
    out.push_str("</table>");
    if caps {
        let _ = write!(
            out,
            "<h2>Round</h2><p>{}{}{}</p><p class=\"small\">Each cell: gravity as read, level (bare, at, low, mark, over), water.</p>",
            line("Instrument"),
            line("Electrolyte"),
            line("Water in all")
        );
        out.push_str("<table class=\"boxes\"><tr>");
        for _ in 0..3 {
            out.push_str("<th>cell</th><th>gravity</th><th>level</th><th>water</th>");
        }
        out.push_str("</tr>");
        for part in path.chunks(3) {
            out.push_str("<tr>");
            for cell in part {
                let _ = write!(out, "<td class=\"name\">{cell}</td><td></td><td></td><td></td>");
            }
            out.push_str("</tr>");
        }
        out.push_str("</table>");
    }
    let standby = Duty::of(&bank.duty) == Duty::Standby;
    let left = if standby { LeftAs::Standby } else { LeftAs::InUse };
    tests(&mut out, bank);
    out.push_str("<div class=\"keep\"><h2>Close up</h2><p class=\"two small\">");
    for item in closing_items(model.construction, left) {
        let _ = write!(out, "<span class=\"tick\"></span>{}<br>", escaped(wording::closing_item(item)));
    }
    out.push_str("</p></div><p class=\"foot\">Maker's manual, local codes and licensed practice first.</p>");
    page(&format!("Field sheet, {}", site.name), &out)
}
