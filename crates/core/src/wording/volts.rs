//! Volts by the state of the bank: what they are called, what they tell, how long to wait.

use super::names;
use crate::rest::{
    BatteryLoss, COMPARED_FROM_DAYS, ChargeRange, Grade, Holds, RestAssessment, RestSummary, VoltsQuestion,
    VoltsState, Wait,
};
use crate::visit::{Place, VoltsLine};

/// What a state is called.
pub fn volts_state_name(state: VoltsState) -> &'static str {
    match state {
        VoltsState::OnCharge => "On charge",
        VoltsState::JustOff => "Just off charge",
        VoltsState::AtRest => "At rest",
        VoltsState::SmallLoad => "With a small load",
        VoltsState::RealLoad => "Under the real load",
    }
}

/// A question about volts that are not those of a sound battery in this state.
pub(super) fn state_question(question: VoltsQuestion, state: VoltsState, volts: f64, cells: u16) -> String {
    let (low, high) = state.usual();
    let all = f64::from(cells);
    let way = if matches!(question, VoltsQuestion::High) { "more" } else { "less" };
    format!(
        "{volts:.2} V is {way} than {} V of batteries show {} ({:.1} to {:.1} V). Read it again?",
        2 * cells,
        volts_state_name(state).to_lowercase(),
        low * all,
        high * all
    )
}

fn amperes(amperes: f64) -> String {
    if amperes < 10.0 { format!("{amperes:.1} A") } else { format!("{amperes:.0} A") }
}

/// The state of a reading with all that was noted of it: "with a small load (two lamps, 3.0 A)".
pub fn volts_state_said(line: &VoltsLine<'_>) -> String {
    let mut noted: Vec<String> = Vec::new();
    noted.extend(Some(line.note.trim_end_matches('.').to_owned()).filter(|note| !note.is_empty()));
    noted.extend(line.amperes.map(amperes));
    let noted = if noted.is_empty() { String::new() } else { format!(" ({})", noted.join(", ")) };
    let since = match (line.state, line.hours) {
        (VoltsState::AtRest, Some(hours)) => format!(" for {}", names::hours(hours)),
        (VoltsState::AtRest, None) => "; for how long is not noted".into(),
        _ => String::new(),
    };
    format!("{}{since}{noted}", volts_state_name(line.state).to_lowercase())
}

/// What a reading tells: its charge, how long to wait, or how far a load pulled it down.
pub fn volts_tell(line: &VoltsLine<'_>) -> String {
    if let Some(charge) = line.charge {
        return format!("{} charged", charge_range(charge));
    }
    if let Some(wait) = line.wait {
        return wait_said(wait);
    }
    match (line.state, line.fell) {
        (_, Some(fell)) if fell >= 0.0 => format!("{fell:.2} V under what it showed without the load"),
        (_, Some(fell)) => format!("{:.2} V over what it showed without the load: read it again", -fell),
        _ => "never a percentage".into(),
    }
}

/// A reading for the owner, as work that was done: "Voltage of the bank measured on charge: 14.20 V".
pub fn owner_volts(line: &VoltsLine<'_>) -> String {
    format!(
        "Voltage of {} measured {}: {:.2} V",
        match line.entry.place {
            Place::Battery(battery) => format!("battery {battery}"),
            place => place.said(),
        },
        volts_state_said(line),
        line.volts
    )
}

/// How long to wait: "in 4 hours a percentage can be told; settled in 24 hours".
pub fn wait_said(wait: Wait) -> String {
    let settled = names::hours(wait.settled);
    if wait.usable < 1.0 {
        return format!("a percentage can be told within the hour; settled in {settled}");
    }
    format!(
        "in {} without charge and load a percentage can be told; settled in {settled}",
        names::hours(wait.usable)
    )
}

/// A range of charge: "84 to 88 %", or "86 %" where both ends round alike.
pub fn charge_range(charge: ChargeRange) -> String {
    let (low, high) = (charge.low.round(), charge.high.round());
    if (high - low).abs() < 0.5 { format!("{low:.0} %") } else { format!("{low:.0} to {high:.0} %") }
}

/// "One battery read", "Eight batteries read, alike".
fn many(rest: &RestSummary) -> String {
    let read = names::sentence(&names::number_word(rest.read));
    match (rest.read, rest.alike) {
        (1, _) => "One battery read".into(),
        (_, true) => format!("{read} batteries read, alike"),
        (_, false) => format!("{read} batteries read, not all alike"),
    }
}

/// "It holds: 25 hours after a full charge A2, the lowest, stands 0.03 V under full on 12 V."
fn holding(rest: &RestSummary) -> Option<String> {
    let own = rest.holding.filter(|own| own.holds == Holds::Holds)?;
    let stands = if own.against_full >= -0.005 {
        "at full".to_owned()
    } else {
        format!("{:.2} V under full on 12 V", -own.against_full)
    };
    let who = if rest.read == 1 { own.lowest.to_string() } else { format!("{}, the lowest,", own.lowest) };
    Some(format!("It holds: {} after a full charge {who} stands {stands}.", names::hours(own.hours)))
}

/// What each battery lost a day since the reading before, and below what nothing is told (HD-1).
pub fn held_lines(rest: &RestAssessment) -> Vec<String> {
    let Some(held) = &rest.held else { return Vec::new() };
    let over = names::hours(24.0 * held.days);
    let told = |own: &BatteryLoss| Some((own.battery, own.loss.per_day?));
    let mut all: Vec<String> = Vec::new();
    let losses: Vec<String> = held
        .losses
        .iter()
        .filter_map(told)
        .map(|(battery, per_day)| format!("{battery} {per_day:.1}"))
        .collect();
    let Some(any) = held.losses.first() else { return all };
    let [least, most] = any.loss.usual;
    if losses.is_empty() {
        all.push(format!(
            "Over {over} disconnected nobody lost more than this meter tells: under {:.1} % a day nothing is said.",
            any.loss.least_told
        ));
    } else {
        all.push(format!(
            "Lost over {over} disconnected, % a day: {}. Such batteries lose {least:.2} to {most:.2}; this meter tells {:.1} and more (HD-1, SD-1).",
            losses.join(", "),
            any.loss.least_told
        ));
    }
    if any.loss.more_than_usual.is_none() {
        let days = COMPARED_FROM_DAYS;
        all.push(format!("Held for {days:.0} days and more it is held against what such batteries lose."));
    }
    all
}

/// What a rest check says where nothing was found.
pub fn rest_line(rest: &RestSummary) -> String {
    if let Some(said) = holding(rest) {
        return said;
    }
    match (rest.read, rest.grade, rest.charge) {
        (0, grade, _) if rest.strings > 0 && grade.tells_charge() => format!(
            "{} read by {}, no battery by itself yet.",
            names::sentence(&if rest.strings == 1 {
                "one string is".into()
            } else {
                format!("{} strings are", names::number_word(rest.strings))
            }),
            if rest.strings == 1 { "itself" } else { "themselves, alike" }
        ),
        (0, _, _) if rest.strings == 0 => "No battery is read yet.".into(),
        (_, grade, _) if !grade.tells_charge() => names::sentence(&format!("{}.", grade.said())),
        (_, Grade::Settled, Some(charge)) => {
            format!("{}; the bank rests at {} charged.", many(rest), charge_range(charge))
        }
        (_, _, Some(charge)) => {
            format!("{}; usable, not settled: {} charged.", many(rest), charge_range(charge))
        }
        _ => format!("{}.", many(rest)),
    }
}

/// A question about typed volts.
pub(super) fn volts_question(question: VoltsQuestion, volts: f64, cells: u16) -> String {
    match question {
        VoltsQuestion::High => format!(
            "{volts:.2} V is more than a rested {} V battery shows. On charge, or just off it?",
            2 * cells
        ),
        VoltsQuestion::Low => {
            format!("{volts:.2} V is less than a flat {} V battery shows. Probes on the posts?", 2 * cells)
        }
        VoltsQuestion::CellMissing { cells: 1 } => {
            format!("{volts:.2} V: about two volts short. A dead cell, or a slip?")
        }
        VoltsQuestion::CellMissing { cells: n } => {
            format!(
                "{volts:.2} V: about {} volts short, as {} dead cells would be. A slip?",
                2 * u16::from(n),
                names::number_word(usize::from(n))
            )
        }
    }
}
