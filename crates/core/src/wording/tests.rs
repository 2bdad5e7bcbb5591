//! What load and capacity tests found, in words: for the technician, and for the owner.

use super::{discharge_time, names};
use crate::cell_volts::{CellVoltsJudged, CellVoltsLimit, CellVoltsWhen};
use crate::finding::{Finding, LoadTestFinding};
use crate::recovery::{CAME_BACK, RecoveryStage};
use crate::schedule::Duty;
use crate::severity::Severity;
use crate::visit::TestQuestion;

/// What a state of single cells is called: "near the end of a discharge".
pub const fn cell_volts_when(when: CellVoltsWhen) -> &'static str {
    match when {
        CellVoltsWhen::AtRestFull => "at rest, proven full",
        CellVoltsWhen::OnFloat => "on float",
        CellVoltsWhen::OnCharge => "on charge",
        CellVoltsWhen::NearEnd => "near the end of a discharge",
    }
}

/// What one cell showed: "2.04 V on float, 0.12 V under its mates".
pub fn cell_volts_said(own: &CellVoltsJudged, when: CellVoltsWhen) -> String {
    let mut said = vec![format!("{:.2} V {}", own.volts, cell_volts_when(when))];
    said.extend(own.least.map(|least| format!("{least:.2} V is the least")));
    said.extend(
        own.against_mates.filter(|by| *by < -0.005).map(|by| format!("{:.2} V under its mates", -by)),
    );
    said.join(", ")
}

/// Head line, what was seen, why it matters, what to do.
#[derive(Default)]
pub(super) struct TestWords {
    pub headline: String,
    pub seen: String,
    pub why: &'static str,
    pub advice: String,
}

/// The words of what a test found; `about` is whom it is about.
pub(super) fn words(finding: &Finding, found: &LoadTestFinding, about: &str) -> TestWords {
    let of_battery = || of_battery(finding, found);
    let of_capacity = || of_capacity(finding, found, about);
    let of_dry = || of_dry(found, about);
    of_system(found).or_else(of_dry).or_else(of_battery).or_else(of_capacity).unwrap_or_default()
}

/// Of the system: its loads and its inverter; none for what is of the batteries.
fn of_system(found: &LoadTestFinding) -> Option<TestWords> {
    Some(match found {
        LoadTestFinding::FallsUnderRealLoad { drop, expected, amperes, weak } => TestWords {
            headline: if *weak {
                "The bank is weak under its own load".into()
            } else {
                "The bank falls further under its own load than it should".into()
            },
            seen: format!(
                "{drop:.2} V on 12 V in five minutes at {amperes:.0} A; a sound one falls {expected:.2} V."
            ),
            why: "What the system draws every day pulls it down: it will not last as long as it should.",
            advice: "Charge fully, then test battery by battery to find whether it is one or all.".into(),
        },
        LoadTestFinding::LoadOverPlate { name, amperes, plate } => TestWords {
            headline: format!("{} draws {:.1} times its plate", names::sentence(name), amperes / plate),
            seen: format!("{amperes:.1} A, and its plate says {plate:.1} A."),
            why: "It is worn or blocked. That is no fault of the bank.",
            advice: format!("Have the {name} looked at before anything is said of the batteries."),
        },
        LoadTestFinding::InverterLoad { share } => TestWords {
            headline: if *share > 1.0 {
                "The inverter is overloaded".into()
            } else {
                "The inverter runs near its limit".into()
            },
            seen: format!("{:.0} % of what it gives for long.", 100.0 * share),
            why: "An inverter at its limit switches off when the volts of the bank fall.",
            advice: if *share > 1.0 {
                "Take loads off it.".into()
            } else {
                "Hook nothing more to it.".into()
            },
        },
        LoadTestFinding::InverterOutput { on_mains } => TestWords {
            headline: format!(
                "The output of the inverter is off {}",
                if *on_mains { "on mains" } else { "on the bank" }
            ),
            seen: "By more than a tenth of its volts or by more than 1 Hz.".into(),
            why: "Motors and clocks behind it run wrong.",
            advice: "Have the inverter looked at by whoever may.".into(),
        },
        _ => return None,
    })
}

/// Of what ran dry or was opened; none for what is measured.
fn of_dry(found: &LoadTestFinding, about: &str) -> Option<TestWords> {
    let LoadTestFinding::Unproven { day, sealed, stage, charge } = found else { return None };
    let about = names::sentence(about);
    let on = day.strftime("%-d %b %Y");
    Some(TestWords {
        headline: if *sealed {
            format!("{about} was found opened: nothing is proven of it")
        } else {
            format!("{about} ran dry: nothing is proven of it")
        },
        seen: match (sealed, stage) {
            (true, RecoveryStage::Prove) => format!("Found on {on}; it was loaded for some seconds since."),
            (true, _) => format!("Found on {on}; not tested since."),
            (false, RecoveryStage::Cover) => format!("Found on {on}; its plates are not covered yet."),
            (false, RecoveryStage::Charge) => format!("Found on {on}; covered, not charged full since."),
            (false, RecoveryStage::Load) => format!("Found on {on}; charged since, not loaded."),
            (false, RecoveryStage::Prove) => {
                format!("Found on {on}; charged and loaded for some seconds since.")
            }
        },
        why: if *sealed {
            "Gas escapes from it, and what was put in does not belong there: its figures are those of another battery."
        } else {
            "Plates that dried out lose capacity for good; how much comes back nobody knows before a test."
        },
        advice: match stage {
            RecoveryStage::Cover => {
                "Water only, to cover the plates and no more; then the slow charge, ventilated.".into()
            }
            RecoveryStage::Charge => format!(
                "Charge it slowly: {:.1} to {:.1} A, never over {:.1} V, {:.0} to {:.0} hours, ventilated. Watch for overflow and lifted caps, draw off to the mark what is too much; stop by the temperature. Level to the mark after it.",
                charge.amperes[0], charge.amperes[1], charge.volts, charge.hours[0], charge.hours[1]
            ),
            RecoveryStage::Load if *sealed => {
                "It is not opened again and not filled. Load it for some seconds; plan to replace it.".into()
            }
            RecoveryStage::Load => "Let it rest a day, then load it for some seconds.".into(),
            RecoveryStage::Prove => {
                let came_back = if *sealed {
                    String::new()
                } else {
                    format!(" One was seen to come back to about {CAME_BACK:.0} %, which promises nothing.")
                };
                format!("A timed discharge tells what it holds; until then nobody relies on it.{came_back}")
            }
        },
    })
}

/// Of one battery or cell; none for what is of the bank.
fn of_battery(finding: &Finding, found: &LoadTestFinding) -> Option<TestWords> {
    Some(match found {
        LoadTestFinding::FallsUnderLoad { battery: own } => {
            let fails = finding.severity == Severity::Act;
            TestWords {
                headline: format!(
                    "{} {}",
                    own.battery,
                    if fails {
                        "falls too far under load"
                    } else {
                        "falls further under load than it should"
                    }
                ),
                seen: super::short_load_line(own),
                why: "A battery can rest at full volts and hold nothing: the load shows it.",
                advice: if fails {
                    format!("Charge {} alone, test it again; if it falls again it is done.", own.battery)
                } else {
                    format!(
                        "Clean and tighten the joints of {}, charge it fully, test it again; a timed discharge tells how much it holds.",
                        own.battery
                    )
                },
            }
        }
        LoadTestFinding::GivesOutFirst { battery: own } => TestWords {
            headline: format!("{} gives out first", own.battery),
            seen: {
                let under = own.against_mates.map_or(0.0, |by| -by);
                let since = own.knee.map(|at| format!(" It bent away after {}.", discharge_time(at)));
                format!(
                    "{:.2} V near the end, {under:.2} V under its mates.{}",
                    own.volts,
                    since.unwrap_or_default()
                )
            },
            why: "One cell in it is empty before the others, and is driven backwards if the load stays on.",
            advice: format!(
                "Read the cells of {} near the end of the next discharge; charge it alone, then test it.",
                own.battery
            ),
        },
        LoadTestFinding::CellVolts { cell: own, when } => TestWords {
            headline: match own.fails {
                Some(CellVoltsLimit::UnderMates) => {
                    format!("{} is under its mates {}", own.cell, cell_volts_when(*when))
                }
                _ => format!("{} shows too few volts {}", own.cell, cell_volts_when(*when)),
            },
            seen: names::sentence(&format!("{}.", cell_volts_said(own, *when))),
            why: match when {
                CellVoltsWhen::NearEnd => "It is empty before the others: the weak one.",
                CellVoltsWhen::OnFloat => "On float it loses more than it gets.",
                CellVoltsWhen::AtRestFull => "It was not brought to full with the others.",
                CellVoltsWhen::OnCharge => "It does not rise with the others.",
            },
            advice: match when {
                CellVoltsWhen::AtRestFull => {
                    "Equalize where the batteries take one, then read it again.".into()
                }
                CellVoltsWhen::OnFloat => {
                    "Charge its battery alone or equalize, within the week; read it again.".into()
                }
                _ => "Read it again beside its gravity; a timed discharge tells what it holds.".to_owned(),
            },
        },
        _ => return None,
    })
}

/// Of how much a place holds.
fn of_capacity(finding: &Finding, found: &LoadTestFinding, about: &str) -> Option<TestWords> {
    Some(match found {
        LoadTestFinding::CapacityFalls { percent, range, hours, amperes, duty } => TestWords {
            headline: format!("{} holds {percent:.0} % of its rated capacity", names::sentence(about)),
            seen: format!(
                "{} at {amperes:.1} A: between {:.0} and {:.0} %.",
                names::sentence(&discharge_time(*hours)),
                range[0],
                range[1]
            ),
            why: match duty {
                Duty::Standby => "Standby ends at 80 %: from there capacity falls fast.",
                Duty::Cycled => "Daily use ends at 60 to 50 %: from there capacity falls fast.",
            },
            advice: if finding.severity == Severity::Act {
                "Plan its replacement. No deep run before it.".into()
            } else {
                "Test it again in half the time, and shorten its runs.".into()
            },
        },
        LoadTestFinding::CapacitySinks { percent: [before, now], ranges } => TestWords {
            headline: format!("{} holds {now:.0} %, and held {before:.0} %", names::sentence(about)),
            seen: format!(
                "Then at least {:.0} %, now at most {:.0} %: that is no scatter of the tests.",
                ranges[0], ranges[1]
            ),
            why: "It is enough still, and falling: what made it fall goes on.",
            advice: "Look for what wears it: charge, heat, depth. Test it again in half the time.".into(),
        },
        LoadTestFinding::KnownLoadFalls { load, hours: [when_new, now] } => TestWords {
            headline: format!(
                "The same load runs {:.0} % of the time it did when new",
                100.0 * now / when_new
            ),
            seen: format!(
                "{}: {} when new, {} now.",
                names::sentence(load),
                discharge_time(*when_new),
                discharge_time(*now)
            ),
            why: "Hours of a load that is not measured are a hint, no capacity.",
            advice: "A timed discharge from a proven full charge tells how much is left.".into(),
        },
        _ => return None,
    })
}

/// A finding of a test in the owner's words.
pub(super) fn owner(finding: &Finding, found: &LoadTestFinding) -> String {
    match found {
        LoadTestFinding::FallsUnderLoad { battery } if finding.severity == Severity::Act => format!(
            "Battery {} looks charged and gives way under load; it will have to go if a charge does not bring it back.",
            battery.battery
        ),
        LoadTestFinding::FallsUnderLoad { battery } => {
            format!(
                "Battery {} gives way under load more than the others; it has to be tested again.",
                battery.battery
            )
        }
        LoadTestFinding::FallsUnderRealLoad { .. } => {
            "The batteries give way under what you switch on every day; they have to be tested one by one."
                .into()
        }
        LoadTestFinding::LoadOverPlate { name, .. } => format!(
            "The {name} draws much more than it should: it is worn or blocked. That is not the batteries\u{2019} fault."
        ),
        LoadTestFinding::InverterLoad { share } if *share > 1.0 => {
            "More hangs on the inverter than it can give; something has to come off it.".into()
        }
        LoadTestFinding::InverterLoad { .. } => {
            "The inverter runs near its limit; nothing more should be added.".into()
        }
        LoadTestFinding::InverterOutput { .. } => {
            "The inverter gives the wrong voltage or frequency; it has to be looked at.".into()
        }
        LoadTestFinding::CapacityFalls { percent, range, .. } => {
            let head = format!(
                "The batteries hold {percent:.0} % of what they held when new ({:.0} to {:.0} %)",
                range[0], range[1]
            );
            if finding.severity == Severity::Act {
                format!("{head}: plan for new ones.")
            } else {
                format!("{head}: enough for now, and falling.")
            }
        }
        LoadTestFinding::CapacitySinks { percent: [before, now], .. } => format!(
            "The batteries hold {now:.0} % of what they should; at their first test they held {before:.0} %. Enough for now, and falling."
        ),
        LoadTestFinding::Unproven { sealed: true, .. } => {
            "A sealed battery was opened by somebody; how much it still holds is unknown, and it should be replaced.".into()
        }
        LoadTestFinding::Unproven { .. } => {
            "Batteries ran dry. They are brought back slowly; how much they still hold is unknown until a test has shown it.".into()
        }
        LoadTestFinding::GivesOutFirst { battery } => {
            format!("Battery {} gives out before the others; it has to be tested alone.", battery.battery)
        }
        LoadTestFinding::KnownLoadFalls { hours: [when_new, now], .. } => format!(
            "The same load runs {:.0} % of the time it did when the batteries were new; a proper test tells how much is left.",
            100.0 * now / when_new
        ),
        LoadTestFinding::CellVolts { cell, .. } => format!(
            "One cell of battery {} shows less voltage than it should; it has to be looked at again.",
            cell.cell.battery
        ),
    }
}

/// What a figure of a test is asked about, at "A3", "the bank".
pub(super) fn test_question(question: TestQuestion, place: &str) -> String {
    match question {
        TestQuestion::Rose { before, now, battery } => {
            let who = battery.map_or_else(|| place.to_owned(), |b| b.to_string());
            format!(
                "{now:.2} V at {who} is more than the {before:.2} V of the last reading under the same load. Read it again?"
            )
        }
        TestQuestion::CurrentOff { meant, read } => format!(
            "{read:.1} A, and {meant:.1} A was meant. If the load changed it counts as read, stretch by stretch. Is it right?"
        ),
        TestQuestion::FellFar { volts } => {
            format!("{volts:.2} V at {place} under load: did a clamp slip? Read it again?")
        }
        TestQuestion::OddCell { volts } => {
            format!("{volts:.2} V is nothing a cell usually shows. Read it again?")
        }
    }
}
