//! A diagnosis in words: what it may be, how sure, what to do meanwhile, what to measure next.

use crate::diagnosis::{Diagnosis, Group, Hypothesis, Measurement, NextMeasurement, Ranked, Standing};

/// What a hypothesis is called.
pub const fn hypothesis(hypothesis: Hypothesis) -> &'static str {
    match hypothesis {
        Hypothesis::Healthy => "healthy",
        Hypothesis::Undercharge => "undercharged",
        Hypothesis::Overcharge => "overcharged",
        Hypothesis::Sulfated => "sulfated",
        Hypothesis::Stratified => "stratified",
        Hypothesis::WeakCell => "a weak cell",
        Hypothesis::ShortedCell => "a shorted cell",
        Hypothesis::DriedOut => "dried out",
        Hypothesis::AcidAdded => "acid was added",
        Hypothesis::Diluted => "diluted or spilled",
        Hypothesis::WrongSetpoint => "the charger is set wrong",
        Hypothesis::NoTemperatureSensing => "the charger does not follow the temperature",
        Hypothesis::BadJoint => "a bad joint or open link",
        Hypothesis::UnevenStrings => "uneven strings",
        Hypothesis::SelfDischarge => "dirty tops or a high self-discharge",
        Hypothesis::StandingDraw => "a standing draw",
        Hypothesis::WornOut => "worn out",
        Hypothesis::Frozen => "frozen",
        Hypothesis::EarthLeakage => "leakage to earth",
        Hypothesis::InstrumentError => "an instrument is wrong",
    }
}

/// What to do until more is known.
pub const fn meanwhile(hypothesis: Hypothesis) -> &'static str {
    match hypothesis {
        Hypothesis::Healthy => "Nothing beside the calendar.",
        Hypothesis::Undercharge | Hypothesis::Sulfated | Hypothesis::Stratified => {
            "Charge it fully as soon as can be; no deep run before."
        }
        Hypothesis::Overcharge => "Shorten the absorption; look at the levels weekly.",
        Hypothesis::WeakCell | Hypothesis::WornOut => "No deep run; charge as soon as it is back.",
        Hypothesis::ShortedCell => "Take that battery or string off before it is charged again.",
        Hypothesis::DriedOut => {
            "Cover the plates with water where there are caps; charge slowly, nobody leaves."
        }
        Hypothesis::AcidAdded | Hypothesis::Diluted => {
            "Add neither acid nor water until it was charged fully and read."
        }
        Hypothesis::WrongSetpoint | Hypothesis::NoTemperatureSensing => {
            "Set the charger by the maker\u{2019}s table at today\u{2019}s temperature."
        }
        Hypothesis::BadJoint => "No full load: feel no lug by hand, a hot one burns.",
        Hypothesis::UnevenStrings => "Share nothing deep; watch each string by itself.",
        Hypothesis::SelfDischarge => "Clean and dry the tops; charge more often.",
        Hypothesis::StandingDraw => "Pull what draws, or disconnect the bank when it stands.",
        Hypothesis::Frozen => "Do not charge or load it; let it thaw, look for cracks.",
        Hypothesis::EarthLeakage => "Touch no post and case together; isolate it, clean it, measure again.",
        Hypothesis::InstrumentError => "Believe no figure of it until it was checked.",
    }
}

/// What a group of evidence is called.
pub const fn evidence_group(group: Group) -> &'static str {
    match group {
        Group::Gravity => "gravity",
        Group::Volts => "volts",
        Group::Water => "water",
        Group::Ohmic => "resistance",
        Group::Capacity => "capacity",
        Group::Record => "charging",
        Group::Settings => "settings",
        Group::Joints => "joints",
        Group::Strings => "strings and leakage",
        Group::Sight => "sight",
    }
}

/// A measurement, in the imperative.
pub const fn measurement_next(measurement: Measurement) -> &'static str {
    match measurement {
        Measurement::LookOver => "look the bank over",
        Measurement::Round => "read every cell by hydrometer",
        Measurement::DistilledWater => "check the hydrometer in distilled water",
        Measurement::RestVolts => "read the volts at rest, battery by battery",
        Measurement::MeterCheck => "check the meter against another",
        Measurement::ShortLoad => "load every battery for some seconds",
        Measurement::Holding => "disconnect it after a full charge, and read it after three days",
        Measurement::WaterLog => "log what it drinks by two fills",
        Measurement::Ohmic => "read the resistance of every battery",
        Measurement::Discharge => "discharge it by the clock",
        Measurement::Record => "take the record of its controller or monitor",
        Measurement::Settings => "read what the charger is set to",
        Measurement::Joints => "read the millivolts over every joint",
        Measurement::Currents => "clamp the current of every string",
        Measurement::Earth => "measure from both posts to the case, the bank isolated",
    }
}

/// What it is called, with where it is: "a weak cell in A5".
pub fn hypothesis_placed(own: &Ranked) -> String {
    let name = hypothesis(own.hypothesis);
    match hypothesis_place(own) {
        Some(of) => format!("{name} in {of}"),
        None => name.to_owned(),
    }
}

/// The place that its strongest sign names: "A5"; none: it has none, or several in one sign.
pub fn hypothesis_place(own: &Ranked) -> Option<&str> {
    let places = matches!(
        own.hypothesis,
        Hypothesis::WeakCell | Hypothesis::ShortedCell | Hypothesis::AcidAdded | Hypothesis::UnevenStrings
    );
    let strongest = own.speaks.iter().filter(|s| s.points > 0 && !s.sign.of.is_empty());
    let of = strongest.max_by_key(|s| s.points).map(|s| s.sign.of.as_str());
    // Several places in one sign say where, and not which.
    of.filter(|of| places && !of.contains(' '))
}

/// The one sentence: "Likely worn out." It claims no more than its evidence.
pub fn diagnosis_verdict(own: &Diagnosis) -> String {
    let Some(first) = own.first() else { return "Nothing is known of it.".into() };
    if !own.enough {
        return "Not enough to tell: fewer than two groups of evidence stand.".into();
    }
    let name = hypothesis_placed(first);
    match (first.hypothesis, first.standing) {
        (Hypothesis::Healthy, Standing::Likely) => "Likely healthy.".into(),
        (Hypothesis::Healthy, _) => "Nothing found so far.".into(),
        (_, Standing::Likely) => format!("Likely: {name}."),
        _ => {
            let near = own
                .ranked
                .iter()
                .skip(1)
                .filter(|r| {
                    r.standing == Standing::Possible
                        && r.under.is_none()
                        && r.hypothesis != Hypothesis::Healthy
                })
                .take(2)
                .map(hypothesis_placed);
            let all: Vec<String> = std::iter::once(name).chain(near).collect();
            format!("Possible: {}.", all.join(", or "))
        }
    }
}

/// What to measure next, in one sentence with why; none: nothing is left that settles anything.
pub fn next_said(all: &[NextMeasurement]) -> Option<String> {
    let own = all.first().filter(|own| own.gain > 0.01)?;
    Some(format!(
        "Next: {}, about {:.0} min: of all that is left it is expected to settle most for its minutes.",
        measurement_next(own.measurement),
        own.minutes
    ))
}
