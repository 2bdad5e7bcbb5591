//! The report of a visit: first what the owner needs to know, then the tables.

use super::appendix::appendix;
use super::compared::compared;
use super::plan_svg::{CellMark, mark, plan_svg};
use super::run_section::runs;
use super::{escaped, page};
use crate::app::due_told::VisitDue;
use crate::app::report_case::ReportCase;
use crate::app::visit_case::VisitCase;
use crate::db::PhotoRow;
use crate::words;
use rainshadow_core::bank::CellAddress;
use rainshadow_core::finding::{FindingKind, LookFinding, Subject};
use rainshadow_core::quantity::Volume;
use rainshadow_core::rest::judge_rest;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Caution, Entry, Step, StepState, fills, steps};
use rainshadow_core::wording;
use std::fmt::Write as _;

/// Stands in a kept report where a photograph comes in, followed by its hash and a closing brace.
pub const PHOTO_MARK: &str = "{photo:";

struct OwnerLine {
    condition: Severity,
    said: String,
    place: Option<Subject>,
    subject: String,
}

fn owner_lines(case: &VisitCase) -> Vec<OwnerLine> {
    let mut all: Vec<OwnerLine> = case
        .findings()
        .iter()
        .filter_map(|finding| {
            let (place, subject) = match &finding.kind {
                FindingKind::Look(LookFinding::Seen { check, .. }) => {
                    (Some(finding.subject), format!("{check:?}").to_lowercase())
                }
                _ => (None, String::new()),
            };
            Some(OwnerLine {
                condition: finding.severity,
                said: wording::owner_finding(finding)?,
                place,
                subject,
            })
        })
        .collect();
    // Plates that stood dry lead what is as bad: they do not recover.
    if let Some(said) = bare(case) {
        all.insert(0, OwnerLine { condition: Severity::Act, said, place: None, subject: String::new() });
    }
    all.sort_by_key(|l| std::cmp::Reverse(l.condition));
    all
}

/// Cells whose plates were found dry, for the owner.
fn bare(case: &VisitCase) -> Option<String> {
    let dry: Vec<String> = case
        .sheet
        .levels(&case.bank.shape)
        .into_iter()
        .filter(|(_, level)| level.bare(&case.model))
        .map(|(cell, _)| cell.to_string())
        .collect();
    let water =
        if case.sheet.water().0 > 0.0 { "Water was added." } else { "They have to be covered at once." };
    (!dry.is_empty()).then(|| {
        format!("The plates of {} stood dry. {water} Plates that dry out do not recover.", dry.join(", "))
    })
}

fn figure(photo: &PhotoRow, zone: &str) -> String {
    let day = words::day(words::local_day(photo.taken_at, zone));
    format!(
        "<figure><img alt=\"{0}\" src=\"{PHOTO_MARK}{1}}}\"><figcaption>{0}, {day}</figcaption></figure>",
        escaped(&photo.place.said()),
        photo.kept.hash
    )
}

fn say_volume(case: &VisitCase, millilitres: f64) -> String {
    Volume::from_millilitres(millilitres).map(|v| case.units.say_volume(v)).unwrap_or_default()
}

fn plan(case: &VisitCase) -> String {
    let judged = case.judged();
    let rest = judge_rest(&case.rest_sheet());
    let caps = case.model.construction.has_caps();
    let levels = case.sheet.levels(&case.bank.shape);
    // A cell whose acid was not measured still has a level and stands in a battery with volts.
    let without_gravity = |address: CellAddress| {
        let level = levels.iter().find(|(c, _)| *c == address).map(|(_, l)| l.condition(&case.model));
        let volts = rest.batteries.iter().find(|b| b.battery == address.battery).map(|b| b.condition);
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
        let middle = case.bank.shape.cells_per_battery.div_ceil(2);
        CellMark {
            condition: own.map_or(Severity::NoReading, |b| b.condition),
            figure: own
                .filter(|_| address.cell == middle)
                .map(|b| format!("{:.2}", b.volts))
                .unwrap_or_default(),
        }
    };
    plan_svg(&case.bank.shape.plan(), &cell, "The bank from above")
}

fn findings(out: &mut String, case: &VisitCase, lines: &[OwnerLine], photos: &[PhotoRow]) {
    if lines.is_empty() {
        out.push_str("<p>Nothing was found that asks for anything.</p>");
        return;
    }
    for line in lines {
        let svg = format!(
            "<svg width=\"18\" height=\"18\" viewBox=\"-10 -10 20 20\" aria-hidden=\"true\">{}</svg>",
            mark(line.condition, 0.0, 0.0, 1.1)
        );
        let _ = write!(
            out,
            "<div class=\"finding\">{svg}<div><p><b>{}.</b> {}</p>",
            escaped(&wording::sentence(wording::owner_condition(line.condition))),
            escaped(&line.said)
        );
        if let Some(place) = line.place {
            let own = photos
                .iter()
                .filter(|p| Subject::from(p.place) == place && p.subject.replace('_', "") == line.subject);
            for photo in own {
                out.push_str(&figure(photo, &case.visit.zone));
            }
        }
        out.push_str("</div></div>");
    }
}

fn done(case: &VisitCase) -> Vec<String> {
    let mut all: Vec<String> = Vec::new();
    let construction = case.model.construction;
    for step in steps(construction) {
        let (state, reason) = case.sheet.state_of(step);
        let what = wording::step_done(step, construction);
        let round_read = step == Step::Round && case.judged().is_some();
        match state {
            Some(StepState::Skipped) if step != Step::CloseUp => {
                let left = format!("Left out: {}", wording::step_name(step).to_lowercase());
                all.push(format!("{left}, because {}", reason.trim_end_matches('.')));
            }
            Some(StepState::Done) => all.extend(what.map(Into::into)),
            _ if round_read => all.extend(what.map(Into::into)),
            _ => {}
        }
    }
    for (work, note) in case.sheet.done() {
        let note = if note.is_empty() { String::new() } else { format!(" ({note})") };
        all.push(format!("{}{note}", wording::sentence(wording::work(work))));
    }
    all
}

fn water(out: &mut String, case: &VisitCase) {
    let (added, to_mark) = case.sheet.water();
    let fills = fills(&case.past, &case.bank.shape);
    let mut said = if added > 0.0 {
        let how = if to_mark { "to bring every cell to its mark" } else { "to cover the plates" };
        format!("{} of distilled water went in {how}.", say_volume(case, added))
    } else {
        "No water was added.".to_owned()
    };
    if let (Some(last), true) = (fills.last(), added > 0.0) {
        let days = last.day.until(case.visit.day()).map_or(0, |s| s.get_days());
        let _ = write!(
            said,
            " The last fill was {} days ago, with {}.",
            days,
            say_volume(case, last.millilitres)
        );
    }
    if let Some(forecast) = case.forecast() {
        let _ = write!(said, " {}", wording::forecast_line(&forecast, case.units));
    }
    let _ = write!(out, "<h2>Water</h2><p>{}</p>", escaped(&said));
}

fn next(out: &mut String, due: &[VisitDue]) {
    out.push_str("<h2>What next, and by when</h2>");
    if due.is_empty() {
        out.push_str("<p>Nothing is due.</p>");
        return;
    }
    out.push_str("<table><tr><th>By</th><th>What</th><th>Why, and what waiting does</th></tr>");
    for item in due.iter().take(8) {
        let waiting = match item.condition {
            Severity::Act => "Waiting does harm.",
            Severity::Watch => "Waiting costs life.",
            _ => "Routine.",
        };
        let _ = write!(
            out,
            "<tr><td>{}</td><td><b>{}</b></td><td>{} {waiting}</td></tr>",
            escaped(&if item.late { format!("overdue since {}", item.day) } else { item.day.clone() }),
            escaped(&item.said.title),
            escaped(&item.said.why)
        );
    }
    out.push_str("</table>");
}

fn cautions(out: &mut String, case: &VisitCase) {
    let construction = case.model.construction;
    out.push_str("<h2>Keep in mind</h2><ul>");
    let own: &[Caution] = if construction.has_caps() {
        &[Caution::PureWater, Caution::Ventilated, Caution::Acid]
    } else {
        &[Caution::NeverOpen, Caution::HotSealed, Caution::Ventilated]
    };
    for caution in own {
        let _ = write!(out, "<li>{}</li>", escaped(wording::caution(*caution, construction)));
    }
    out.push_str("<li>The maker's manual, local codes and licensed practice come first, always.</li></ul>");
}

/// The report as one page; photographs stand in it by their hash until it is served.
pub fn visit_report(all: &ReportCase) -> String {
    let ReportCase { visit: case, photos, due, before, runs: equalized } = all;
    let before = before.as_ref();
    let lines = owner_lines(case);
    let worst = lines.iter().map(|l| l.condition).max();
    let asking = lines.iter().filter(|l| l.condition >= Severity::Watch).count();
    let day = words::day(case.visit.day());
    let mut out = String::new();
    let name = if case.bank.name.is_empty() { String::new() } else { format!(", {}", case.bank.name) };
    let _ = write!(
        out,
        "<p class=\"where\"><b>{}{}</b> · {} · visit of {day} by {}</p><h1>{}</h1>",
        escaped(&case.site.name),
        escaped(&name),
        escaped(&wording::describe_bank(&case.bank.shape, &case.model)),
        escaped(&case.visit.by.initials),
        escaped(&wording::owner_verdict(worst, asking)),
    );
    let first = lines.iter().find(|l| l.condition >= Severity::Watch).map(|l| l.said.clone());
    let lead = first.unwrap_or_else(|| "Everything that was looked at is as it should be.".into());
    let _ = write!(out, "<p class=\"lead\">{}</p>", escaped(&lead));
    out.push_str(&plan(case));
    out.push_str("<p class=\"small\">Round: in order. Notched square: to be watched. Wedge: needs something done. Dashed: not measured.</p>");
    out.push_str("<h2>What was found</h2>");
    findings(&mut out, case, &lines, photos);
    let others: String = photos
        .iter()
        .filter(|p| p.what != crate::db::PhotoOf::Finding)
        .map(|p| figure(p, &case.visit.zone))
        .collect();
    if !others.is_empty() {
        let _ = write!(out, "<h2>Photographs</h2><div>{others}</div>");
    }
    out.push_str("<h2>What was done</h2><ul>");
    let mut work = done(case);
    work.extend(super::run_section::equalized(equalized));
    if work.is_empty() {
        out.push_str("<li>Nothing is noted yet.</li>");
    }
    for line in work {
        let _ = write!(out, "<li>{}</li>", escaped(&line));
    }
    out.push_str("</ul>");
    for kept in case.sheet.standing() {
        if let Entry::Note { text } = &kept.entry {
            let _ = write!(out, "<p>{}</p>", escaped(text));
        }
    }
    if case.model.construction.has_caps() {
        water(&mut out, case);
    }
    runs(&mut out, equalized);
    compared(&mut out, case, before);
    next(&mut out, due);
    cautions(&mut out, case);
    let _ = write!(
        out,
        "<p class=\"foot\">{}, {day}. Judged by {}. Figures of {}: {}. Maker's manual first.</p>",
        escaped(&case.visit.by.initials),
        escaped(&case.rules.name),
        escaped(&case.model.name),
        escaped(&case.model.source)
    );
    let spoken: Vec<_> = case.findings().iter().map(wording::speak).collect();
    appendix(&mut out, case, &spoken);
    page(&format!("{}, visit of {day}", case.site.name), &out)
}
