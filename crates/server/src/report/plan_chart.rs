//! A picture of a plan, drawn for paper.

use super::escaped;
use crate::app::planners::answer::{ChartFoot, PlanChart, PlanSeries, SeriesLook};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use std::fmt::Write as _;

/// Size of the picture and of the field in it.
const WIDTH: f64 = 700.0;
const HEIGHT: f64 = 250.0;
const LEFT: f64 = 44.0;
const RIGHT: f64 = 130.0;
const FOOT: f64 = 24.0;
const HEAD: f64 = 8.0;
/// Height of a line of text.
const LINE: f64 = 12.0;
/// Lines across at most.
const LINES: f64 = 6.0;
const STEPS: [f64; 13] = [0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 500.0, 2000.0];
const MONTHS: [&str; 12] =
    ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

struct Field {
    x: [f64; 2],
    y: [f64; 2],
    step: f64,
}

impl Field {
    fn of(chart: &PlanChart) -> Option<Self> {
        let points = || chart.series.iter().flat_map(|own| own.points.iter());
        let limits = chart.limits.iter().map(|own| own.at);
        let low = points().map(|p| p[1]).chain(limits.clone()).fold(f64::MAX, f64::min);
        let high = points().map(|p| p[1]).chain(limits).fold(f64::MIN, f64::max);
        let x = [
            points().map(|p| p[0]).fold(f64::MAX, f64::min),
            points().map(|p| p[0]).fold(f64::MIN, f64::max),
        ];
        if x[0] >= x[1] {
            return None;
        }
        let [low, high] = chart.span.unwrap_or([low, high.max(low + 1e-6)]);
        let step = STEPS.into_iter().find(|own| (high - low) / own <= LINES).unwrap_or(5000.0);
        Some(Self { x, y: [(low / step).floor() * step, (high / step).ceil() * step], step })
    }

    fn at(&self, [x, y]: [f64; 2]) -> [f64; 2] {
        let across = (x - self.x[0]) / (self.x[1] - self.x[0]);
        let up = (y - self.y[0]) / (self.y[1] - self.y[0]).max(1e-9);
        [LEFT + across * (WIDTH - LEFT - RIGHT), HEAD + (1.0 - up) * (HEIGHT - HEAD - FOOT)]
    }
}

fn path(field: &Field, points: &[[f64; 2]]) -> String {
    let mut out = String::new();
    for (at, point) in points.iter().enumerate() {
        let [x, y] = field.at(*point);
        let _ = write!(out, "{}{x:.1} {y:.1}", if at == 0 { "M" } else { "L" });
    }
    out
}

fn foot(out: &mut String, field: &Field, chart: &PlanChart) {
    let text = |out: &mut String, x: f64, said: &str| {
        let [at, _] = field.at([x, field.y[0]]);
        let _ = write!(out, "<text x=\"{at:.1}\" y=\"{}\" font-size=\"11\">{said}</text>", HEIGHT - 6.0);
    };
    let parts = 6;
    for n in 0..parts {
        let x = field.x[0] + (field.x[1] - field.x[0]) * f64::from(n) / f64::from(parts);
        let said = match chart.foot {
            ChartFoot::Days => {
                #[expect(clippy::cast_possible_truncation, reason = "milliseconds of this century")]
                let at = Timestamp::from_millisecond(x as i64);
                at.map(|own| own.to_zoned_datetime(TimeZone::UTC).date().strftime("%-d %b").to_string())
                    .unwrap_or_default()
            }
            ChartFoot::Months => {
                #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 12")]
                let month = x.max(0.0) as usize;
                MONTHS.get(month).copied().unwrap_or_default().to_owned()
            }
            ChartFoot::Hours | ChartFoot::Figure => format!("{x:.0} {}", chart.foot_unit),
        };
        text(out, x, &said);
    }
}

/// A picture with its title.
pub fn plan_chart(out: &mut String, chart: &PlanChart) {
    let Some(field) = Field::of(chart) else { return };
    let _ = write!(
        out,
        "<div class=\"keep\"><h2>{} {}</h2><svg viewBox=\"0 0 {WIDTH} {HEIGHT}\" width=\"100%\" role=\"img\" \
         aria-label=\"{}\" font-family=\"'Atkinson Hyperlegible Next',sans-serif\">",
        escaped(&chart.title),
        escaped(&chart.unit),
        escaped(&chart.spoken)
    );
    let mut level = field.y[0];
    while level <= field.y[1] + 1e-9 {
        let [_, y] = field.at([field.x[0], level]);
        let shown = format!("{}", (level * 100.0).round() / 100.0 + 0.0).replace('-', "\u{2212}");
        let _ = write!(
            out,
            "<path d=\"M{LEFT} {y:.1}H{}\" stroke=\"#ccd\"/><text x=\"{}\" y=\"{:.1}\" font-size=\"11\" text-anchor=\"end\">{shown}</text>",
            WIDTH - RIGHT,
            LEFT - 5.0,
            y + 4.0
        );
        level += field.step;
    }
    for limit in &chart.limits {
        let [_, y] = field.at([field.x[0], limit.at]);
        let _ = write!(
            out,
            "<path d=\"M{LEFT} {y:.1}H{}\" stroke=\"#a33\" stroke-dasharray=\"7 3 2 3\"/><text x=\"{}\" y=\"{:.1}\" font-size=\"11\">{}</text>",
            WIDTH - RIGHT,
            LEFT + 3.0,
            y - 4.0,
            escaped(&limit.name)
        );
    }
    for own in &chart.series {
        series(out, &field, own);
    }
    names(out, &field, &chart.series);
    foot(out, &field, chart);
    out.push_str("</svg></div>");
}

fn series(out: &mut String, field: &Field, own: &PlanSeries) {
    let line = path(field, &own.points);
    let look = match own.look {
        SeriesLook::Best => "stroke=\"#14545a\" stroke-width=\"2.4\" fill=\"none\"",
        SeriesLook::Other => "stroke=\"#7a5a10\" stroke-width=\"1.5\" stroke-dasharray=\"2 3\" fill=\"none\"",
        SeriesLook::Bad => "stroke=\"#a33a1c\" stroke-width=\"1.6\" stroke-dasharray=\"6 4\" fill=\"none\"",
        SeriesLook::Field => "stroke=\"#4a6b95\" stroke-width=\"1.5\" fill=\"none\"",
        SeriesLook::Dots => "stroke=\"#1b2122\" stroke-width=\"1.6\" fill=\"none\"",
        SeriesLook::Band => "stroke=\"none\" fill=\"#dde3df\"",
        SeriesLook::Bars | SeriesLook::Marks => "",
    };
    if own.look == SeriesLook::Bars {
        for point in &own.points {
            let ([x, y], [_, low]) = (field.at(*point), field.at([point[0], field.y[0]]));
            let _ =
                write!(out, "<path d=\"M{x:.1} {low:.1}V{y:.1}\" stroke=\"#4a6b95\" stroke-width=\"1.4\"/>");
        }
        return;
    }
    if own.look == SeriesLook::Marks {
        for point in &own.points {
            let [x, y] = field.at(*point);
            let _ = write!(out, "<circle cx=\"{x:.1}\" cy=\"{y:.1}\" r=\"1.6\" fill=\"#14545a\"/>");
        }
        return;
    }
    let _ = write!(out, "<path d=\"{line}\" {look}/>");
}

/// Names at the ends of the lines, moved apart where they would stand on one another.
fn names(out: &mut String, field: &Field, series: &[PlanSeries]) {
    let told =
        |own: &&PlanSeries| !matches!(own.look, SeriesLook::Band | SeriesLook::Bars | SeriesLook::Marks);
    let mut ends: Vec<(f64, f64, &str)> = series
        .iter()
        .filter(told)
        .filter_map(|own| {
            let [x, y] = field.at(*own.points.last()?);
            Some((y, x, own.name.as_str()))
        })
        .collect();
    ends.sort_by(|a, b| a.0.total_cmp(&b.0));
    for (y, (_, x, name)) in apart(&ends.iter().map(|own| own.0).collect::<Vec<_>>()).into_iter().zip(&ends) {
        let _ = write!(
            out,
            "<text x=\"{:.1}\" y=\"{:.1}\" font-size=\"11\" font-weight=\"600\">{}</text>",
            (x + 5.0).min(WIDTH - RIGHT + 5.0),
            y + 4.0,
            escaped(name)
        );
    }
}

/// Heights in order, no nearer to one another than a line of text, and none under the field.
fn apart(heights: &[f64]) -> Vec<f64> {
    let mut all = heights.to_vec();
    for n in 1..all.len() {
        all[n] = all[n].max(all[n - 1] + LINE);
    }
    let mut floor = HEIGHT - FOOT;
    for own in all.iter_mut().rev() {
        *own = own.min(floor);
        floor = *own - LINE;
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn names_keep_their_order_and_a_line_between_them(mut heights in prop::collection::vec(8.0..226.0f64, 0..12)) {
            heights.sort_by(f64::total_cmp);
            let all = apart(&heights);
            prop_assert!(all.windows(2).all(|w| w[1] - w[0] > LINE - 1e-9), "{:?}", all);
            prop_assert!(all.iter().all(|own| *own <= HEIGHT - FOOT + 1e-9));
            // those that stand alone stay where their line ends
            if heights.windows(2).all(|w| w[1] - w[0] >= LINE) {
                prop_assert!(all.iter().zip(&heights).all(|(a, b)| (a - b).abs() < 1e-9));
            }
        }
    }
}
