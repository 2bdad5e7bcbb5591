//! The last year of a charging record, beside the year that is planned.

use super::super::answer::{ChartFoot, ChartLimit, PlanChart, PlanSeries, SeriesLook};
use super::super::subject::Subject;
use super::shown::month_of_day;
use rainshadow_core::charging_record::DayOnRecord;
use rainshadow_core::wording;

/// Known days from which a year of a record is drawn (our choice, no source).
const ENOUGH: u32 = 14;

/// Highest charge of each day on record, each in its month, as the planned year has it; none: too little is known.
pub(super) fn record_chart(subject: &Subject) -> Option<PlanChart> {
    let (own, [first, last]) = subject.record.as_ref().filter(|(own, _)| own.known_days >= ENOUGH)?;
    let place = |day: &DayOnRecord| {
        let of_year = f64::from(day.day.day_of_year() - 1).min(364.0) + 0.5;
        day.fullest.filter(|_| day.counts()).map(|out| [month_of_day(of_year), 100.0 * (1.0 - out)])
    };
    let mut points: Vec<[f64; 2]> = own.days.iter().filter_map(place).collect();
    points.sort_by(|a, b| a[0].total_cmp(&b[0]));
    let full = own.days.iter().filter(|day| day.full).filter_map(place).map(|[x, _]| [x, 104.0]);
    let between = format!(
        "{} to {}",
        wording::short_day(*first, subject.today),
        wording::short_day(*last, subject.today)
    );
    let gap = own.longest_without_full;
    Some(PlanChart {
        title: format!("By its record, {between}: highest charge of each day"),
        unit: format!("%; {gap} days the longest without a full one"),
        foot: ChartFoot::Months,
        foot_unit: String::new(),
        span: Some([0.0, 110.0]),
        series: vec![
            PlanSeries { name: "charge".into(), look: SeriesLook::Bars, points },
            PlanSeries {
                name: format!("{} full", own.full_days),
                look: SeriesLook::Marks,
                points: full.collect(),
            },
        ],
        limits: vec![ChartLimit { at: 100.0, name: "full".into() }],
        spoken: format!("full on {} of {} days, {gap} the longest without", own.full_days, own.known_days),
    })
}
