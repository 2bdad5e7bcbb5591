//! What is due, in one plain sentence and its reason.

use super::names::{self, short_day};
use super::non_responding::non_responding_clause;
use crate::bank::CellAddress;
use crate::battery_model::Construction;
use crate::finding::Finding;
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;
use crate::schedule::{Consequence, DueItem, Task, Why};
use crate::water::Basis;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// One due item in words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SpokenDue {
    /// What to do: "Water all 24 cells".
    pub title: String,
    /// Why, one sentence.
    pub why: String,
    /// The later date and its reason; empty where only one speaks.
    pub other: String,
    /// "WA-2, thirst and the next fill; source: common practice".
    pub rule: String,
    /// "put off from 3 Oct by TA: owner away"; empty otherwise.
    pub postponed: String,
}

fn days_ago(day: Date, today: Date) -> String {
    match day.until(today).map_or(0, |span| span.get_days()) {
        0 => "today".into(),
        1 => "yesterday".into(),
        days => format!("{} ago", names::span(f64::from(days))),
    }
}

fn cells_or(cell: Option<CellAddress>, otherwise: &str) -> String {
    cell.map_or_else(|| otherwise.to_owned(), |c| format!("cell {c}"))
}

/// What a bank is, as far as the words need it.
#[derive(Debug, Clone, Copy)]
pub struct DueReader {
    /// Construction.
    pub construction: Construction,
    /// Cells.
    pub cells: usize,
    /// Today.
    pub today: Date,
    /// Units.
    pub units: ReaderUnits,
}

fn title(item: &DueItem, reader: &DueReader) -> String {
    match (&item.task, &item.why) {
        (Task::CoverPlates, Why::PlatesBare { cells }) => {
            format!("Cover the plates of {}", names::cells(cells))
        }
        (Task::CoverPlates, Why::LevelsAtPlates { cells }) => {
            format!("Charge fully, then fill {}", names::cells(cells))
        }
        (Task::SuspectCell, Why::Suspect { cells, equalize: true, non_responding, .. }) => {
            let again = if non_responding.is_some() { " once more" } else { "" };
            format!("Equalize{again}, with {} as pilot", cells[0])
        }
        (Task::SuspectCell, Why::Suspect { cells, .. }) => format!("Test {}", names::cells(cells)),
        (Task::SeenFinding, Why::Found { finding, .. }) => super::speak(finding, reader.units).headline,
        (Task::SeenFinding, Why::Equipment { findings }) => super::what_does_not_suit(findings, reader.units),
        (Task::Water, Why::Consumption { .. }) => format!("Water all {} cells", reader.cells),
        (Task::Water, _) => "Look at the levels".into(),
        (Task::Round, Why::FirstRound) if reader.construction.has_caps() => {
            "First round, the baseline".into()
        }
        (Task::Round, Why::FirstRound) => {
            "First volts, and resistance where there is a tester: the baseline".into()
        }
        (Task::Round, Why::InQuestion { cells }) => format!("Read {} again", names::cells(cells)),
        (Task::Round, Why::Came { batteries }) => {
            let all: Vec<String> = batteries.iter().map(ToString::to_string).collect();
            format!("First readings of {}", all.join(", "))
        }
        (Task::Round, _) if reader.construction.has_caps() => "Readings round".into(),
        (Task::Round, _) => "Volts battery by battery, and resistance where there is a tester".into(),
        (Task::Equalize, _) => "Equalize".into(),
        (Task::Charge, _) => "Find out how it is charged".into(),
        (Task::RetorqueAndClean, _) => "Retorque and clean".into(),
        (Task::LoadTest, _) => "Load or capacity test".into(),
        (Task::StandbyWet, _) => "Standby check before the wet season".into(),
        (Task::StandbyFrost, _) => "Standby check after first frost".into(),
        (Task::StorageCheck, _) => "Storage check".into(),
        (Task::ChargeForStorage, _) => "Charge full before the season closes".into(),
        (Task::Recharge, _) => "Charge it fully".into(),
        (Task::SayWhenUsed, _) => "Say when it is used again".into(),
        (Task::KitInspection, _) => "Look into every cell behind the kit".into(),
        (Task::Recheck, Why::Recheck { recheck }) => super::recheck_title(recheck.step).into(),
        (Task::Reminder, Why::Reminder { text, .. }) => names::sentence(text),
        (task, _) => format!("{task:?}"),
    }
}

fn every(days: u16, last: Option<Date>, today: Date, what: &str) -> String {
    let rule = format!("the house asks for {what} every {days} days");
    match last {
        Some(last) => format!("{rule}; the last was {}.", days_ago(last, today)),
        None => format!("{rule}; none is on record."),
    }
}

fn noun(task: Task) -> &'static str {
    match task {
        Task::Water => "a look at the levels",
        Task::Round => "a round",
        Task::Equalize => "an equalize at the latest",
        Task::RetorqueAndClean => "retorque and cleaning",
        Task::LoadTest => "a load or capacity test",
        Task::StorageCheck => "a storage check",
        _ => "it",
    }
}

/// What to do, and what is done with by it: "Stir it. It explains: the bank does not reach full."
fn found_and_explained(finding: &Finding, explains: &[Finding], units: ReaderUnits) -> String {
    let advice = super::speak(finding, units).advice;
    let told: Vec<String> = explains.iter().map(|f| super::speak(f, units).headline).collect();
    if told.is_empty() { advice } else { format!("{advice} It explains: {}.", told.join("; ")) }
}

/// Why the calendar asks.
fn by_calendar(task: Task, why: &Why, today: Date) -> String {
    let day = |d: Date| short_day(d, today);
    match why {
        Why::Every { days, last, spread } => {
            let head = every(*days, *last, today, noun(task));
            match spread {
                Some(spread) if task == Task::Round => {
                    format!("{} Spread then {}.", names::sentence(&head), names::points(spread.value()))
                }
                _ => head,
            }
        }
        Why::ByMaker { days, last } => {
            let head = format!("the maker of the batteries asks for it every {days} days");
            match last {
                Some(last) => format!("{head}; the last was {}.", days_ago(*last, today)),
                None => format!("{head}; none is on record."),
            }
        }
        Why::Shaken { days, last } => {
            let head = format!(
                "joints on the road or the water work loose: half of the {days} days that the house asks for"
            );
            match last {
                Some(last) => format!("{head}; the last was {}.", days_ago(*last, today)),
                None => format!("{head}; none is on record."),
            }
        }
        Why::SeasonTurns { opens: true } => {
            "the season opens: read every cell before the bank is used.".into()
        }
        Why::SeasonTurns { opens: false } => {
            "the season closes: read every cell before the bank is stored.".into()
        }
        Why::SeasonCloses { closes } => format!(
            "the season closes on {}: a bank that is stored half full sulfates, and freezes sooner.",
            day(*closes)
        ),
        Why::StoredWithoutSeason { since } => format!(
            "it was left in storage on {}, and it has no season: type the days it opens and closes under Edit.",
            day(*since)
        ),
        Why::WetSeason => "a bank that waits for a storm is checked before the storms come.".into(),
        Why::FirstFrost => "frost shows the weak one: check it once the first hard frost is over.".into(),
        _ => unreachable!("called for what the calendar asks only"),
    }
}

fn why(task: Task, date: Date, why: &Why, reader: &DueReader) -> String {
    let (today, units) = (reader.today, reader.units);
    let day = |d: Date| short_day(d, today);
    let said = match why {
        Why::PlatesBare { .. } | Why::FoundBare { .. } | Why::LevelsAtPlates { .. } => {
            super::plates::why(why, date, today)
        }
        Why::Suspect { cells, deviation, sinking, equalize, non_responding } => {
            let head = format!("{} lies {} under the bank", cells[0], names::points(deviation.value()));
            let sinks = if *sinking { " and sinks visit by visit" } else { "" };
            let more = if cells.len() > 1 {
                format!(", {} in all", names::number_word(cells.len()))
            } else {
                String::new()
            };
            let then = match non_responding {
                Some(non_responding) if *equalize => format!(
                    "it {}, and one that does not answer twice is replaced",
                    non_responding_clause(*non_responding, today)
                ),
                _ if *equalize => "a corrective charge may still bring it back".into(),
                _ => "a load test tells a weak cell from one short of charge".into(),
            };
            format!("{head}{sinks}{more}; {then}.")
        }
        Why::Found { finding, explains } => found_and_explained(finding, explains, units),
        Why::Equipment { findings } => super::how_to_suit(findings, units),
        Why::Consumption { cell, per_day, fills, basis, p50, p90 } => {
            let per_month =
                Volume::from_millilitres(per_day * 30.4).map(|v| units.say_volume(v)).unwrap_or_default();
            let who = cells_or(*cell, "the thirstiest cell");
            let rests = match basis {
                Basis::Prior => {
                    "no two fills are known yet, so this is what such batteries usually drink".to_owned()
                }
                Basis::Totals => format!("from the totals of {fills} fills"),
                Basis::ByCell => format!("from {fills} fills, cell by cell"),
            };
            format!(
                "At {per_month} a cell and month {who} stands {} over its plates between {} and {}, most likely {}; {rests}.",
                super::margin(units),
                day(date),
                day(*p90),
                day(*p50)
            )
        }
        Why::FirstRound => {
            "nothing is on record: the first readings are the baseline for all that follow.".into()
        }
        Why::InQuestion { cells } => format!(
            "{} left in question on the last round.",
            if cells.len() == 1 {
                "one reading was".into()
            } else {
                format!("{} readings were", names::number_word(cells.len()))
            }
        ),
        Why::Came { .. } => "what came after the last readings is measured first as its baseline.".into(),
        Why::Spread { spread, limit, proven_full } => {
            let first = if *proven_full { "" } else { "; charge it fully first" };
            format!("the cells lie {} apart, limit {limit}{first}.", names::points(spread.value()))
        }
        Why::OffFull { off } if off.value() < 0.0 => {
            format!(
                "it stands {} short of full after a full charge: undercharge or sulfation.",
                names::points(off.value())
            )
        }
        Why::OffFull { off } => {
            format!("it stands {} above full: low levels, or acid was added.", names::points(off.value()))
        }
        Why::NeverFull { now, before } => format!(
            "it stood at {now:.0} % on the last round and at {before:.0} % on the one before: no source finishes its charge, and half-empty plates sulfate."
        ),
        Why::Every { .. }
        | Why::Shaken { .. }
        | Why::ByMaker { .. }
        | Why::SeasonTurns { .. }
        | Why::SeasonCloses { .. }
        | Why::StoredWithoutSeason { .. }
        | Why::WetSeason
        | Why::FirstFrost => by_calendar(task, why, today),
        Why::Kit { fills, every } => format!(
            "{fills} fills through the kit since anybody looked into the cells; the house asks for every {every}."
        ),
        Why::Discharged { day: on } => format!(
            "it was discharged {}, and no full charge is noted since: what stays empty sulfates.",
            days_ago(*on, today)
        ),
        Why::Recheck { recheck } => super::recheck::asked_for(recheck, today),
        Why::Reminder { .. } => "your own reminder.".into(),
    };
    names::sentence(&said)
}

/// The words of one item.
pub fn due(item: &DueItem, reader: &DueReader) -> SpokenDue {
    let from = item.postponed.as_ref().map_or(item.date, |(from, _, _)| *from);
    let mut reason = why(item.task, from, &item.why, reader);
    if item.moved_by_storage {
        reason.push_str(" Stored until then.");
    }
    let other = item.other.as_ref().map_or_else(String::new, |other| {
        let date = short_day(other.date, reader.today);
        let said = why(item.task, other.date, &other.why, reader);
        if other.date < from {
            // The calendar came first and does not count any more.
            format!("Overruled, {date}: {said} With three fills known the forecast decides.")
        } else {
            format!("Later, {date}: {said}")
        }
    });
    SpokenDue {
        title: title(item, reader),
        why: reason,
        other,
        rule: format!("{}, {}. Source: {}.", item.rule.id(), item.rule.title(), item.rule.source()),
        postponed: item.postponed.as_ref().map_or_else(String::new, |(from, reason, by)| {
            format!("put off from {} by {by}: {reason}", short_day(*from, reader.today))
        }),
    }
}

/// "4 h 30 min", "50 min".
pub fn minutes(minutes: u32) -> String {
    match (minutes / 60, minutes % 60) {
        (0, m) => format!("{m} min"),
        (h, 0) => format!("{h} h"),
        (h, m) => format!("{h} h {m:02} min"),
    }
}

/// The sentence on top of Today, from the sites that come to harm or loss and the next routine date.
pub fn today_verdict(pressing: &[(&str, Consequence, Date)], next: Option<Date>, today: Date) -> String {
    let sites = |wanted: Consequence| -> Vec<&str> {
        let mut seen = std::collections::HashSet::new();
        pressing
            .iter()
            .filter(|(site, c, d)| *c == wanted && *d <= today && seen.insert(*site))
            .map(|(site, _, _)| *site)
            .collect()
    };
    let (harm, loss, routine) =
        (sites(Consequence::Harm), sites(Consequence::Loss), sites(Consequence::Routine));
    match (harm.as_slice(), loss.as_slice(), routine.as_slice()) {
        ([one], _, _) => format!("One bank comes to harm if left. Start at {one}."),
        ([first, ..], _, _) => {
            format!(
                "{} banks come to harm if left. Start at {first}.",
                names::sentence(&names::number_word(harm.len()))
            )
        }
        ([], [one], _) => format!("Nothing comes to harm today. {one} loses if put off."),
        ([], [first, ..], _) => {
            format!(
                "Nothing comes to harm today. {} banks lose if put off; start at {first}.",
                names::sentence(&names::number_word(loss.len()))
            )
        }
        ([], [], [one]) => format!("Only the calendar asks today: {one}."),
        ([], [], [first, ..]) => format!(
            "Only the calendar asks today, at {} sites. Start at {first}.",
            names::number_word(routine.len())
        ),
        ([], [], []) => match next {
            Some(day) => format!("Nothing is due today. Next visit {}.", day.strftime("%A %-d %B")),
            None => "Nothing is due.".into(),
        },
    }
}
