//! What the record of a monitor tells, in words.

use crate::charging_record::{
    ChargingRecordJudged, DayOnRecord, OVERCHARGE, ReadToEnd, RecordedBank, usual_factor,
};
use crate::quantity::Temperature;
use crate::quantity::units::ReaderUnits;
use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;

/// Where its limits come from.
pub const CHARGING_RECORD_RULE: &str =
    "CR-1: common practice; cycles by rainflow, ASTM E1049, from memory. Maker\u{2019}s manual first.";

fn days(n: u32) -> String {
    format!("{n} {}", if n == 1 { "day" } else { "days" })
}

/// The one sentence on top.
pub fn charging_record_verdict(own: &ChargingRecordJudged) -> String {
    let (full, known, gap) = (own.full_days, own.known_days, own.longest_without_full);
    match (known, full) {
        (0, _) => "No day of it is known well enough to tell whether the bank reached full.".into(),
        (_, 0) => format!("It never reached full in {}.", days(known)),
        _ if full == known => format!("It reached full on every one of {}.", days(known)),
        _ => format!(
            "It reached full on {full} of {}; the longest it went without was {}.",
            days(known),
            days(gap)
        ),
    }
}

fn factor(own: &ChargingRecordJudged, bank: &RecordedBank) -> Option<String> {
    let factor = own.charge_factor?;
    let [low, high] = usual_factor(bank.construction);
    let what = match factor {
        f if f < low => "under that the charge is short, or the counter",
        f if f > OVERCHARGE => "that is overcharge, or a shunt that misses a load",
        f if f > high => "a little much",
        _ => "as usual",
    };
    let intervals =
        if own.intervals == 1 { "one interval".into() } else { format!("{} intervals", own.intervals) };
    Some(format!(
        "{factor:.2} Ah went in for each that came out, in {intervals} from full to full; usual is {low:.2} to {high:.2}: {what}."
    ))
}

fn held(own: &ChargingRecordJudged, bank: &RecordedBank) -> Option<String> {
    let off = own.held_off?;
    let stage = if bank.standby { "float" } else { "absorption" };
    let volts = off.abs() * f64::from(bank.cells);
    let held = match off {
        o if o.abs() < 0.01 => format!("Held at {stage} as is asked for"),
        o if o < 0.0 => {
            format!("Held {volts:.1} V under the {stage} that is asked for, {:.2} V a cell", o.abs())
        }
        o => format!("Held {volts:.1} V over the {stage} that is asked for, {o:.2} V a cell"),
    };
    let follows = match own.held_follow {
        Some(true) => "; it follows the temperature.",
        Some(false) => "; it does not follow the temperature.",
        None => ".",
    };
    Some(held + follows)
}

/// The rest, line by line.
pub fn charging_record_lines(
    own: &ChargingRecordJudged,
    bank: &RecordedBank,
    units: ReaderUnits,
) -> Vec<String> {
    let known: f64 = own.days.iter().map(|day| day.known_hours).sum::<f64>() / 24.0;
    let mut all = Vec::new();
    if known > 0.0 && own.out + own.back > 0.0 {
        all.push(format!("{:.0} Ah came out and {:.0} Ah went in a day.", own.out / known, own.back / known));
    }
    all.extend(factor(own, bank));
    all.extend(own.deepest.map(|depth| format!("{:.0} % was out at the deepest.", 100.0 * depth)));
    let wear = |own: f64| {
        format!(
            "Its cycles used {:.1} % of a life of such batteries (LF-1; makers spread by half as much again).",
            100.0 * own
        )
    };
    all.extend(own.wear.map(wear));
    all.extend(own.gassing_hours.map(|hours| format!("It gassed {hours:.1} h a day.")));
    all.extend(held(own, bank));
    all.extend(own.standing_draw.zip(own.standing_share).map(|(amperes, share)| {
        format!("{amperes:.1} A is drawn all the time, by quiet nights: {:.1} % of C20 a day.", 100.0 * share)
    }));
    let warm = own.warmest_hour.and_then(|at| Temperature::from_celsius(at).ok());
    all.extend(warm.map(|at| format!("The warmest hour stood at {}.", units.say_temperature(at))));
    if own.unknown_hours >= 1.0 {
        all.push(format!(
            "Of {:.0} h in it nothing is known; they count as neither full nor empty.",
            own.unknown_hours
        ));
    }
    all
}

/// "14 Mar 2026 10:05" of a minute since 1970.
pub fn minute_on_record(minute: i64, zone: &TimeZone) -> String {
    let at = Timestamp::from_second(minute.saturating_mul(60)).unwrap_or_default();
    zone.to_datetime(at).strftime("%-d %b %Y %H:%M").to_string()
}

fn counted(n: u64, one: &str, many: &str) -> String {
    if n == 1 { format!("One {one}") } else { format!("{n} {many}") }
}

/// What a file brought, in one sentence.
pub fn read_to_end_verdict(own: &ReadToEnd, zone: &TimeZone) -> String {
    format!(
        "{} lines from {} to {}, kept as {} rows of a minute.",
        own.samples,
        minute_on_record(own.span.0, zone),
        minute_on_record(own.span.1, zone),
        own.minutes
    )
}

/// What of a file was odd, and what was made of it.
pub fn read_to_end_lines(own: &ReadToEnd, zone: &TimeZone) -> Vec<String> {
    let mut all = Vec::new();
    let whole = |run: &crate::charging_record::OtherWay| run.from <= own.span.0 && run.to > own.span.1;
    for run in &own.other_way {
        all.push(if whole(run) {
            "The current is written the other way round than was said: volts fall where it says that more goes in. It was turned round."
                .into()
        } else {
            format!(
                "From {} to {} the current runs the other way than in the rest: volts fall where it says that more goes in. It was turned round there.",
                minute_on_record(run.from, zone),
                minute_on_record(run.to, zone)
            )
        });
    }
    let mut tell = |n: u64, one: &str, many: &str, rest: &str| {
        if n > 0 {
            all.push(format!("{} {rest}", counted(n, one, many)));
        }
    };
    tell(
        own.gaps,
        "gap",
        "gaps",
        &format!(
            "of more than five steps of {} min, {:.0} h in all: of them nothing is known.",
            own.step, own.gap_hours
        ),
    );
    tell(own.restarts, "restart", "restarts", "within the file.");
    tell(
        own.clock_not_set,
        "line",
        "lines",
        "of a clock that was not set, or stood in the future, left out.",
    );
    tell(own.backwards, "line", "lines", "out of the order of time, as when a clock was set, left out.");
    tell(
        own.counter_set,
        "time",
        "times",
        "the counter of ampere-hours was set; no current is told from that.",
    );
    tell(own.not_taken, "field", "fields", "could not be read.");
    if !own.unknown_states.is_empty() {
        all.push(format!(
            "Words of state that are not known, read as none: {}.",
            own.unknown_states.join(", ")
        ));
    }
    all
}

/// Where nothing is on record.
pub const NOTHING_ON_RECORD: &str = "Nothing of its charging is on record yet.";
/// Where a year has too few rows.
pub const TOO_LITTLE_ON_RECORD: &str = "Of this year too little is on record to tell anything.";

/// "10 Oct 2025 to 9 Oct 2026, by its record".
pub fn period_on_record([from, to]: [Date; 2]) -> String {
    format!("{} to {}, by its record", from.strftime("%-d %b %Y"), to.strftime("%-d %b %Y"))
}

/// "265 days without a full charge, where 7 to 10 are the limit".
pub fn gap_on_record(n: u32) -> String {
    format!("{} without a full charge, where 7 to 10 are the limit", days(n))
}

/// One day of a record: "9 Oct 2026: full; 14.2 Ah out, 15.8 Ah back; 61 to 74 % charged".
pub fn day_on_record(own: &DayOnRecord) -> String {
    let day = own.day.strftime("%-d %b %Y");
    if !own.counts() {
        return format!("{day}: {:.0} h known of it, too little to count", own.known_hours);
    }
    let full = if own.full { "full; " } else { "" };
    let percent = |depth: f64| (100.0 * (1.0 - depth)).max(0.0);
    let charged = own.depth.zip(own.fullest).map_or("charge not known".into(), |(deepest, fullest)| {
        format!("{:.0} to {:.0} % charged", percent(deepest), percent(fullest))
    });
    format!("{day}: {full}{:.1} Ah out, {:.1} Ah back; {charged}", own.out, own.back)
}

/// Where the loads of a plan come from: "21.4 Ah a day while nothing charged, record of 29 Nov 2025 to 28 Nov 2026".
pub fn loads_on_record(ampere_hours: f64, [from, to]: [Date; 2]) -> String {
    format!(
        "{ampere_hours:.1} Ah a day, as drawn while nothing charged, record of {} to {}",
        from.strftime("%-d %b %Y"),
        to.strftime("%-d %b %Y")
    )
}
