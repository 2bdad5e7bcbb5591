//! What is due as an iCalendar feed and file.

use crate::app::due_calendar::DueEntry;
use icalendar::{Calendar, Component, Event, EventLike};
use jiff::civil::Date;
use rainshadow_core::schedule::Consequence;

fn naive(day: Date) -> Option<chrono::NaiveDate> {
    chrono::NaiveDate::from_ymd_opt(
        i32::from(day.year()),
        u32::try_from(day.month()).ok()?,
        u32::try_from(day.day()).ok()?,
    )
}

/// Whole-day entries with stable ids: a subscriber sees a moved date move.
pub fn calendar(entries: &[DueEntry], today: Date) -> String {
    let mut calendar = Calendar::new();
    calendar.name("Rainshadow");
    for entry in entries {
        // What is late stands on today, where it is seen.
        let Some(day) = naive(entry.row.item.date.max(today)) else { continue };
        let about = entry.row.item.about();
        let uid = format!("{}-{:?}-{about}@rainshadow", entry.row.bank, entry.row.item.task).to_lowercase();
        // A bare CR would end a line of the file (RFC 5545, 3.1): what people typed has none here.
        let plain = |text: &str| text.replace("\r\n", "\n").replace('\r', "\n");
        let why = [entry.said.why.as_str(), entry.said.other.as_str(), entry.said.rule.as_str()]
            .into_iter()
            .filter(|t| !t.is_empty())
            .collect::<Vec<_>>()
            .join("\n");
        let urgent = match entry.row.item.consequence {
            Consequence::Harm => 1,
            Consequence::Loss => 5,
            Consequence::Routine => 9,
        };
        let event = Event::new()
            .uid(&uid)
            .summary(&plain(&format!("{}: {}", entry.place, entry.said.title)))
            .description(&plain(&why))
            .location(&plain(&entry.place))
            .priority(urgent)
            .starts(day)
            // The end of a whole day is the next one (RFC 5545, 3.6.1).
            .ends(day.succ_opt().unwrap_or(day))
            .done();
        calendar.push(event);
    }
    calendar.to_string()
}
