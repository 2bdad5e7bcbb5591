//! The report of a visit: first what the owner needs to know, then the tables.

use super::appendix::appendix;
use super::bank_plan::bank_plan;
use super::compared::compared;
use super::owner_lines::{OwnerLine, corrected_besides, owner_lines};
use super::plan_svg::mark;
use super::run_section::runs;
use super::seen::{looked, seen};
use super::{escaped, page};
use crate::app::due_told::VisitDue;
use crate::app::report_context::{ReportContext, ReportedRun};
use crate::app::visit_context::VisitContext;
use crate::db::PhotoRow;
use crate::words;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Caution, Entry, FoundAndDone, Left, Step, StepProgress, fills, steps_of};
use rainshadow_core::wording;
use std::collections::HashSet;
use std::fmt::Write as _;

/// Stands in a kept report where a photograph comes in, followed by its hash and a closing brace.
pub const PHOTO_MARK: &str = "{photo:";

/// Everybody who wrote something down on the visit, whoever began it first.
fn hands(context: &VisitContext, runs: &[ReportedRun]) -> String {
    let own = std::iter::once(&context.visit.by);
    let entries = context.sheet.standing().map(|written| &written.by);
    let rounds = context.rounds.iter().map(|(round, _, _)| &round.by);
    let runs = runs.iter().flat_map(|told| told.context.entries.iter().map(|entry| &entry.by));
    let mut all: Vec<String> = Vec::new();
    for by in own.chain(entries).chain(rounds).chain(runs) {
        if !by.initials.is_empty() && !all.contains(&by.initials) {
            all.push(by.initials.clone());
        }
    }
    all.join(" and ")
}

fn figure(photo: &PhotoRow, zone: &str) -> String {
    let day = words::day(words::local_day(photo.taken_at, zone));
    let caption = match photo.note.as_str() {
        "" => escaped(&photo.place.said()),
        note => format!("{}: {}", escaped(&photo.place.said()), escaped(note)),
    };
    format!(
        "<figure><img alt=\"{caption}\" src=\"{PHOTO_MARK}{}}}\"><figcaption>{caption}, {day}</figcaption></figure>",
        photo.files.hash
    )
}

fn findings(out: &mut String, context: &VisitContext, lines: &[OwnerLine], photos: &[PhotoRow]) {
    if lines.is_empty() {
        let said = if looked(context) {
            "Nothing was found that asks for anything."
        } else {
            "Nothing was looked at or measured."
        };
        let _ = write!(out, "<p>{said}</p>");
        return;
    }
    let mut shown: HashSet<&str> = HashSet::new();
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
        // What shows several things at one place stands with the first of them.
        for photo in photos.iter().filter(|p| line.shown_by(p)) {
            if shown.insert(&photo.id) {
                out.push_str(&figure(photo, &context.visit.zone));
            }
        }
        out.push_str("</div></div>");
    }
}

fn done(context: &VisitContext) -> Vec<String> {
    let mut all: Vec<String> = Vec::new();
    let construction = context.model.construction;
    for step in steps_of(&context.sheet, construction) {
        let mut progress = StepProgress::of(step, &context.sheet, &context.bank.shape, construction);
        if step == Step::Round {
            progress.done = context.rounds.last().map_or(0, |(_, _, read)| *read);
        }
        // What was filled to the mark by a kit was not looked at for that.
        if step == Step::Water {
            progress.done = context.sheet.cells_looked_at(&context.bank.shape).len();
        }
        all.extend(wording::step_work(&progress, &context.sheet, construction));
    }
    all.extend(corrected_besides(context));
    all.extend(context.state_lines().iter().map(wording::owner_volts));
    all.extend(wording::test_work(&context.sheet, &context.past, context.judged_by()));
    all.extend(wording::joint_work(&context.all_visits(), context.judged_by()));
    all.extend(wording::water_work(&context.sheet.water_added(), context.units));
    for kept in context.sheet.standing() {
        all.extend(wording::spilled(kept.place, &kept.entry, context.units));
        if let Entry::Lamp { lamp } = kept.entry {
            all.push(wording::lamp(kept.place, lamp));
        }
    }
    let job = context.sheet.job();
    all.extend(job.map(|job| wording::owner_job(job, &context.job_lines(), construction)));
    all.extend(wording::owner_left_as(&context.sheet));
    for (work, note) in context.sheet.done() {
        let note = if note.is_empty() { String::new() } else { format!(" ({note})") };
        all.push(format!("{}{note}", wording::sentence(wording::work(work))));
    }
    all
}

fn water(out: &mut String, context: &VisitContext) {
    let added = context.sheet.water_added();
    let fills = fills(&context.past, &context.bank.shape);
    let mut said = if added.any {
        let shape = &context.bank.shape;
        let filled = context.sheet.cells_filled(shape).len();
        wording::water_went_in(&added, filled, shape.cell_count(), context.units)
    } else {
        "No water was added.".to_owned()
    };
    if let (Some(last), true) = (fills.last(), added.any) {
        let days = last.day.until(context.visit.day()).map_or(0, |s| s.get_days());
        let with = if last.unknown {
            "its amount was not measured".to_owned()
        } else {
            format!("with {}", context.say(last.millilitres))
        };
        let _ = write!(said, " The last fill was {days} days ago, {with}.");
    }
    if let Some(uneven) = context.sheet.uneven_levels(&context.bank.shape, &context.model) {
        let _ = write!(said, " {}", wording::uneven_levels(&uneven, context.units));
    }
    if let Some(forecast) = context.forecast() {
        let _ = write!(said, " {}", wording::forecast_line(&forecast, context.units));
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

fn cautions(out: &mut String, context: &VisitContext) {
    let construction = context.model.construction;
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
pub fn visit_report(all: &ReportContext) -> String {
    let ReportContext { visit: context, photos, due, before, runs: equalized, changes, plans, cause } = all;
    let before = before.as_ref();
    let lines = owner_lines(context);
    let worst = lines.iter().map(|l| l.condition).max();
    let asking = lines.iter().filter(|l| l.condition >= Severity::Watch).count();
    let right = |own: &FoundAndDone<'_>| own.left == Left::PutRight;
    let put_right = context.sheet.found_and_done().iter().filter(|own| right(own)).count();
    let looked = looked(context);
    let seen = seen(context, looked);
    let day = words::day(context.visit.day());
    let mut out = String::new();
    let later = context.entered_later();
    let later = later.map(|day| format!(", written down on {}", words::day(day))).unwrap_or_default();
    let name = if context.bank.name.is_empty() { String::new() } else { format!(", {}", context.bank.name) };
    let _ = write!(
        out,
        "<p class=\"where\"><b>{}{}</b> · {} · visit of {day} by {}{later}</p><h1>{}</h1>",
        escaped(&context.site.name),
        escaped(&name),
        escaped(&wording::describe_bank(&context.bank.shape, &context.model)),
        escaped(&hands(context, equalized)),
        escaped(&wording::owner_verdict(worst, asking, put_right, seen)),
    );
    let first = lines.iter().find(|l| l.condition >= Severity::Watch).or(lines.first());
    let whole = seen == wording::Seen::Whole;
    let all_well = whole.then(|| "Everything that was looked at is as it should be.".to_owned());
    if let Some(lead) = first.map(|l| l.said.clone()).or(all_well) {
        let _ = write!(out, "<p class=\"lead\">{}</p>", escaped(&lead));
    }
    out.push_str(&bank_plan(context));
    out.push_str("<h2>What was found</h2>");
    findings(&mut out, context, &lines, photos);
    if let Some(cause) = cause {
        let _ = write!(out, "<h2>What may be behind it</h2><p>{}</p>", escaped(cause));
    }
    let others: String = photos
        .iter()
        .filter(|p| p.what != crate::db::PhotoOf::Finding)
        .map(|p| figure(p, &context.visit.zone))
        .collect();
    if !others.is_empty() {
        let _ = write!(out, "<h2>Photographs</h2><div>{others}</div>");
    }
    out.push_str("<h2>What was done</h2><ul>");
    let mut work = done(context);
    work.extend(super::run_section::equalized(equalized));
    work.extend(changes.iter().chain(&context.sources.set).cloned());
    if work.is_empty() {
        out.push_str("<li>Nothing is noted yet.</li>");
    }
    for line in work {
        let _ = write!(out, "<li>{}</li>", escaped(&line));
    }
    out.push_str("</ul>");
    for kept in context.sheet.standing() {
        if let Entry::Note { text } = &kept.entry {
            let _ = write!(out, "<p>{}</p>", escaped(text));
        }
    }
    if context.model.construction.has_caps() {
        water(&mut out, context);
    }
    runs(&mut out, equalized);
    compared(&mut out, context, before);
    if !plans.is_empty() {
        out.push_str("<h2>What is planned</h2><ul>");
        for [name, said] in plans {
            let _ = write!(out, "<li><b>{}:</b> {}</li>", escaped(name), escaped(said));
        }
        out.push_str("</ul>");
    }
    next(&mut out, due);
    cautions(&mut out, context);
    let _ = write!(
        out,
        "<p class=\"foot\">{}, {day}. Judged by {}. Figures of {}: {}. Maker's manual first.</p>",
        escaped(&context.visit.by.initials),
        escaped(&context.rules.name),
        escaped(&context.model.name),
        escaped(&context.model.source)
    );
    let spoken = wording::speak_all(&context.findings(), context.units);
    appendix(&mut out, context, &spoken);
    page(&format!("{}, visit of {day}", context.site.name), &out)
}
