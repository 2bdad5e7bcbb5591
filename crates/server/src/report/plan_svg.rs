//! The plan view for paper: cases from above, one mark and one figure a cell.

use super::escaped;
use rainshadow_core::bank::{BatteryAddress, CellAddress, Plan};
use rainshadow_core::severity::Severity;
use std::fmt::Write as _;

/// What stands in one cell.
pub(super) struct CellMark {
    /// Condition.
    pub condition: Severity,
    /// Figure at its foot.
    pub figure: String,
}

const WIDTH: f64 = 700.0;
const LEFT: f64 = 26.0;
const GAP: f64 = 6.0;
const TALL: f64 = 62.0;
const MOST: usize = 24;

/// The float's body; its foot tells the condition.
pub(super) fn mark(condition: Severity, x: f64, y: f64, scale: f64) -> String {
    let (w, h) = (6.0 * scale, 7.0 * scale);
    let round = |fill: &str, more: &str| {
        format!(
            "<ellipse cx=\"{x:.1}\" cy=\"{y:.1}\" rx=\"{:.1}\" ry=\"{h:.1}\" fill=\"{fill}\" {more}/>",
            w * 0.92
        )
    };
    match condition {
        Severity::Steady => round("#4a6c92", ""),
        Severity::Watch => format!(
            "<path d=\"M{:.1} {:.1}h{:.1}v{:.1}l{:.1} {:.1}l{:.1} {:.1}z\" fill=\"#c2932b\" stroke=\"#7a5708\"/>",
            x - w,
            y - h,
            2.0 * w,
            2.0 * h,
            -w,
            -h,
            -w,
            h
        ),
        Severity::Act => format!(
            "<path d=\"M{:.1} {:.1}h{:.1}l{:.1} {:.1}z\" fill=\"#9e3719\"/>",
            x - 1.3 * w,
            y - h,
            2.6 * w,
            -1.3 * w,
            2.1 * h
        ),
        Severity::Reread => round("none", "stroke=\"#0f505b\" stroke-width=\"2.4\""),
        Severity::NoReading => round("none", "stroke=\"#586563\" stroke-dasharray=\"2.6 2.2\""),
    }
}

/// The bank from above; rows too long for the page go on below. What was found by eye at a battery stands beside
/// its name.
pub(super) fn plan_svg(
    plan: &Plan,
    cell: &dyn Fn(CellAddress) -> CellMark,
    battery_mark: &dyn Fn(BatteryAddress) -> Option<Severity>,
    label: &str,
) -> String {
    let mut body = String::new();
    let mut y = 18.0;
    let _ = write!(body, "<text x=\"{LEFT}\" y=\"12\" class=\"s\">{}</text>", escaped(&plan.far_side));
    let per_case = plan.rows.first().and_then(|r| r.batteries.first()).map_or(1, |b| b.cells.len());
    let in_line = (MOST / per_case.max(1)).max(1);
    let widest = plan.rows.iter().map(|r| r.batteries.len().min(in_line)).max().unwrap_or(1);
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(1));
    let each = ((WIDTH - LEFT - 10.0 - GAP * count(widest)) / (count(widest) * count(per_case))).min(44.0);
    for row in &plan.rows {
        for part in row.batteries.chunks(in_line) {
            let mut x = LEFT;
            let _ = write!(body, "<text x=\"4\" y=\"{:.1}\" class=\"l\">{}</text>", y + 36.0, row.letter);
            for battery in part {
                let width = each * count(battery.cells.len());
                let _ = write!(
                    body,
                    "<rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{width:.1}\" height=\"{TALL}\" rx=\"3\" fill=\"#fff\" stroke=\"#76857f\"/>\
                     <text x=\"{:.1}\" y=\"{:.1}\" class=\"a\">{}</text>",
                    x + width / 2.0,
                    y + 12.0,
                    battery.address
                );
                if let Some(seen) = battery_mark(battery.address) {
                    body.push_str(&mark(seen, x + width / 2.0 + 20.0, y + 9.0, 0.62));
                }
                for (i, address) in battery.cells.iter().enumerate() {
                    let own = cell(*address);
                    let middle = x + each * (count(i) + 0.5);
                    body.push_str(&mark(own.condition, middle, y + 31.0, 0.9));
                    let _ = write!(
                        body,
                        "<text x=\"{middle:.1}\" y=\"{:.1}\" class=\"f\">{}</text>",
                        y + TALL - 5.0,
                        escaped(&own.figure)
                    );
                }
                x += width + GAP;
            }
            y += TALL + 10.0;
        }
    }
    let _ = write!(
        body,
        "<text x=\"{LEFT}\" y=\"{:.1}\" class=\"s\">{}</text>",
        y + 6.0,
        escaped(&plan.near_side)
    );
    format!(
        "<svg viewBox=\"0 0 {WIDTH} {:.1}\" width=\"{WIDTH}\" height=\"{:.1}\" role=\"img\" aria-label=\"{}\">\
         <style>.s{{font:11px sans-serif;fill:#586563}}.l,.a{{font:600 11px sans-serif;fill:#1a2123}}.a{{text-anchor:middle}}\
         .f{{font:10.5px ui-monospace,monospace;text-anchor:middle;fill:#3e4a4c}}</style>{body}</svg>",
        y + 14.0,
        y + 14.0,
        escaped(label)
    )
}
