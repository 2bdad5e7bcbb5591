//! What the record of a monitor tells, in words.

use crate::charging_record::{ChargingRecordJudged, RecordedBank};
use crate::quantity::Temperature;
use crate::quantity::units::ReaderUnits;

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

/// Charge factors that are usual, least and most.
fn usual_factor(bank: &RecordedBank) -> [f64; 2] {
    if bank.construction.has_caps() { [1.05, 1.20] } else { [1.03, 1.10] }
}

fn factor(own: &ChargingRecordJudged, bank: &RecordedBank) -> Option<String> {
    let factor = own.charge_factor?;
    let [low, high] = usual_factor(bank);
    let what = match factor {
        f if f < low => "under that the charge is short, or the counter",
        f if f > 1.30 => "that is overcharge, or a shunt that misses a load",
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
