//! The planner of charging: does any source finish, what a change does, and what it costs.

mod controls;
mod record;
mod set;
mod shown;
mod tried;

use self::record::record_chart;
use self::set::{asked, key_of};
use self::shown::{days_chart, depth_chart, facts, months_chart, months_table, option, to_full};
use self::tried::{best_of, ways};
use super::answer::{PlanAnswer, PlanChart, PlanList};
use super::subject::Subject;
use super::typed::Typed;
use crate::app::refused::{AppError, AppResult};
pub(super) use controls::controls;
use rainshadow_core::charging_plan::{Prices, stay};
use rainshadow_core::water::MONTHS;
use rainshadow_core::wording;

/// The answer.
pub(super) fn answer(subject: &Subject, typed: &mut Typed<'_>) -> AppResult<PlanAnswer> {
    let (asked, prices, month, days) = asked(subject, typed)?;
    let all = ways(&asked, &prices)?;
    let best = best_of(&all);
    let told = prices != Prices::default();
    let own = stay(&asked, month, days).map_err(|e| AppError::refused(key_of(&e), &e))?;
    let mut charts: Vec<PlanChart> = record_chart(subject).into_iter().collect();
    let planned = if charts.is_empty() { "As it is" } else { "As it is set here" };
    charts.push(days_chart(planned, &all[0].year));
    if best != 0 {
        charts.push(days_chart(&all[best].name, &all[best].year));
    }
    charts.push(months_chart(&all[0].year));
    charts.push(depth_chart(subject, &all[0].year));
    Ok(PlanAnswer {
        said: wording::charging_verdict(&all[0].year, (best != 0).then_some((all[best].name.as_str(), &all[best].year))),
        facts: facts(subject, &all[0].year),
        options: all.iter().enumerate().map(|(at, own)| option(own, at == best, told)).collect(),
        charts,
        tables: vec![months_table(&all[0].year), to_full(&asked, &prices)?],
        dates: Vec::new(),
        lists: vec![PlanList {
            title: format!("A stay of {days} days in {}", MONTHS[usize::from(month) - 1]),
            lines: vec![wording::stay_said(&own, asked.planned_depth)],
            job: None,
            remind: String::new(),
        }],
        cautions: vec!["Charge where air moves: charging makes hydrogen. An engine or a generator runs outdoors only.".into()],
        assumptions: vec![
            "Hours are by the sun: noon is when it stands highest.".into(),
            "A hot alternator gives half of its plate, and its regulator never finishes (CH-4).".into(),
            "Days scatter about the mean of their month, always alike; every year begins as the one before it ended.".into(),
            "Years are those of a new bank used so, to 80 % of its capacity.".into(),
        ],
        rule: wording::CHARGING_RULE.to_owned(),
    })
}
