//! What the gravities of a round show, in words.

use super::super::non_responding::non_responding_words;
use super::super::{names, question, unusable};
use super::Words;
use crate::finding::{Finding, RoundFinding};
use crate::round::Spread;

/// The words of a finding of a round.
pub(super) fn words(finding: &Finding, found: &RoundFinding) -> Words {
    let cells = names::cells(&finding.cells);
    let words = by_itself(finding, found, &cells);
    let (RoundFinding::SuspectCell { after_run: Some(cell), .. }
    | RoundFinding::SpreadEqualize { after_run: Some(cell), .. }) = found
    else {
        return words;
    };
    let (seen, advice) = non_responding_words(*cell);
    Words { seen: format!("{} {seen}", words.seen), advice, ..words }
}

fn by_itself(finding: &Finding, found: &RoundFinding, cells: &str) -> Words {
    match found {
        RoundFinding::SuspectCell { .. } => suspect(found, cells),
        RoundFinding::LowCells { .. } | RoundFinding::HighCells { .. } => {
            outside_band(found, finding.cells.len(), cells)
        }
        RoundFinding::LowPair { .. } | RoundFinding::LowBattery { .. } | RoundFinding::LowString { .. } => {
            group(found, cells)
        }
        RoundFinding::Gradient { low_end, high_end, low, high } => Words {
            headline: format!("The row falls from {high_end} to {low_end}"),
            seen: format!(
                "{high_end} stands at {}, {low_end} at {} points.",
                super::super::signed(*high),
                super::super::signed(*low)
            ),
            why: "Cells that fall along a row stand from warm to cold: the cold end takes less charge.",
            advice: "Measure the electrolyte at both ends, and keep sun, heater and cold wall off one end."
                .into(),
        },
        RoundFinding::SpreadEqualize { .. } | RoundFinding::SpreadWatch { .. } => spread(found),
        RoundFinding::ShortOfFull { .. }
        | RoundFinding::NeverFull { .. }
        | RoundFinding::AboveFull { .. }
        | RoundFinding::RestVoltsDisagree { .. } => whole_bank(found),
        RoundFinding::NotJudged { .. }
        | RoundFinding::Reread { .. }
        | RoundFinding::OffScale { .. }
        | RoundFinding::NotRead { .. } => recorded(found, finding.cells.len(), cells),
    }
}

fn suspect(found: &RoundFinding, cells: &str) -> Words {
    let RoundFinding::SuspectCell { gravity, deviation, before, sinking, alone, .. } = found else {
        unreachable!("called for suspect cells only")
    };
    let then = before
        .map(|(then, days)| format!("; it was {} {} ago", against(then.value()), names::span(days)))
        .unwrap_or_default();
    let pace = sinking
        .map(|s| {
            let (least, most) = (s.at_least.abs(), s.at_most.abs());
            format!("; losing {least} to {most} points a year over {} rounds", s.rounds)
        })
        .unwrap_or_default();
    let seen = format!("Reads {gravity}, {} under the median{then}{pace}", names::points(deviation.value()));
    Words {
        headline: format!(
            "{cells} {}",
            if sinking.is_some() { "is sinking" } else { "is far below its mates" }
        ),
        seen: seen + ".",
        why: "A cell this low is no longer filled by ordinary charging, and it drags its string.",
        advice: if *alone {
            format!(
                "Equalize with {cells} as the pilot. If it gains under 10 points, plan for a new battery."
            )
        } else {
            format!("Charge fully and equalize with {cells} as a pilot, then read it again.")
        },
    }
}

fn against(points: f64) -> String {
    let side = if points < 0.0 { "under" } else { "over" };
    format!("{:.0} {side}", points.abs())
}

fn outside_band(found: &RoundFinding, count: usize, cells: &str) -> Words {
    let many = count > 1;
    match found {
        RoundFinding::LowCells { alone: true, lowest, .. } => Words {
            headline: format!("{cells} stands alone"),
            seen: format!(
                "{} under the median, while all the others are even.",
                names::points(lowest.value())
            ),
            why: "One cell by itself tells of that cell, not of the charging.",
            advice: format!("Read {cells} first next time; if it sinks on, equalize with it as the pilot."),
        },
        RoundFinding::LowCells { lowest, nearest, .. } => Words {
            headline: if many {
                format!("{} cells low", names::sentence(&names::number_word(count)))
            } else {
                format!("{cells} at the edge")
            },
            seen: if many {
                format!("{cells} lie {} to {} points under the median.", nearest.abs(), lowest.abs())
            } else {
                format!("{} under the median.", names::points(lowest.value()))
            },
            why: "Cells that lag fill last; left alone the gap widens.",
            advice: "Read them again after the next full charge.".into(),
        },
        RoundFinding::HighCells { highest } => Words {
            headline: if many {
                format!("{} cells high", names::sentence(&names::number_word(count)))
            } else {
                format!("{cells} reads high")
            },
            seen: format!("{cells}: {} over the median at most.", names::points(highest.value())),
            why: "Water lost concentrates the acid; a sample drawn before mixing reads the same.",
            advice: "Check the level there before you judge it.".into(),
        },
        _ => unreachable!("called for cells outside the band only"),
    }
}

fn group(found: &RoundFinding, cells: &str) -> Words {
    match found {
        RoundFinding::LowPair { deviation } => Words {
            headline: format!("{cells} are low together"),
            seen: format!(
                "Two neighbours in one case, {} under the median.",
                names::points(deviation.value())
            ),
            why: "Two neighbours alike point to a leak through the partition between them.",
            advice: "Equalize, then read both daily for a week: a leak pulls them down together again."
                .into(),
        },
        RoundFinding::LowBattery { battery, nearest, lowest } => Words {
            headline: format!("Battery {battery} is low as a whole"),
            seen: format!("All its cells lie {} to {} points under the median.", nearest.abs(), lowest.abs()),
            why: "All together point to the battery's links or its cold corner rather than to its cells.",
            advice: format!("Measure the drop across the links of {battery} under load; clean and retorque."),
        },
        RoundFinding::LowString { letter, deviation } => Words {
            headline: format!("String {letter} is low as a whole"),
            seen: format!("Its median lies {} under the bank's.", names::points(deviation.value())),
            why: "A whole string low takes less charge than its mates: a joint, a longer cable, or a weak battery in it.",
            advice: format!(
                "Compare the current of string {letter} with the others on charge; check its end joints."
            ),
        },
        _ => unreachable!("called for groups only"),
    }
}

fn from_to(ends: Option<&Spread>) -> String {
    ends.map_or_else(String::new, |s| {
        format!(", from {} at {} to {} at {}", s.lowest_gravity, s.lowest, s.highest_gravity, s.highest)
    })
}

fn spread(found: &RoundFinding) -> Words {
    match found {
        RoundFinding::SpreadEqualize { spread, proven_full, ends, .. } => Words {
            headline: "The bank asks for an equalize".into(),
            seen: format!("Spread {}{}.", names::points(spread.value()), from_to(ends.as_ref())),
            why: "Cells this far apart are charged to different depths: the low ones sulfate, the high ones boil.",
            advice: if *proven_full {
                "Equalize: plates covered, vents open, tender loads off, someone stays. Maker's manual first."
                    .into()
            } else {
                "Charge fully first and read again; if the spread stays, equalize. Maker's manual first."
                    .into()
            },
        },
        RoundFinding::SpreadWatch { spread, ends } => Words {
            headline: "The spread is wider than even".into(),
            seen: format!("Spread {}{}.", names::points(spread.value()), from_to(ends.as_ref())),
            why: "Spread grows before capacity falls.",
            advice: "Charge fully and take the next round early.".into(),
        },
        _ => unreachable!("called for spreads only"),
    }
}

fn whole_bank(found: &RoundFinding) -> Words {
    match found {
        RoundFinding::ShortOfFull { short, full } => Words {
            headline: "The bank does not reach full".into(),
            seen: format!("The median lies {} under the model's {full} after a proven full charge.", names::points(short.value())),
            why: "Either the charge is not as full as it seems, or part of the plates is sulfated.",
            advice: "Check setpoints and temperature sensor; an equalize tells undercharge from sulfation.".into(),
        },
        RoundFinding::NeverFull { now, before } => Words {
            headline: "The bank is never near full".into(),
            seen: format!("It stood at {now:.0} % on the last round and at {before:.0} % on the one before."),
            why: "No source finishes its charge, and half-empty plates sulfate.",
            advice: "Find out what should fill it, charge it fully, and read it again.".into(),
        },
        RoundFinding::AboveFull { above, full } => Words {
            headline: "The bank reads above full".into(),
            seen: format!("The median lies {} over the model's {full}.", names::points(above.value())),
            why: "Low levels concentrate the acid; acid that was added does the same and ruins plates.",
            advice: "Check the levels. If they are at the mark, stop, ask who added what, and turn to the maker or a shop. Do not mix a cure.".into(),
        },
        RoundFinding::RestVoltsDisagree { measured, expected } => Words {
            headline: "Volts and gravity disagree".into(),
            seen: format!("{measured:.3} V a cell at rest; the gravities lead to {expected:.3} V (±0.02 V)."),
            why: "An instrument is off, the temperature is wrong, the acid is layered, or a bad cell hides among its mates.",
            advice: "Check the hydrometer in distilled water and the meter on a known battery, then read battery by battery.".into(),
        },
        _ => unreachable!("called for whole-bank findings only"),
    }
}

fn recorded(found: &RoundFinding, count: usize, cells: &str) -> Words {
    match found {
        RoundFinding::NotJudged { reasons } => {
            let why: Vec<&str> = reasons.iter().map(|r| unusable(*r)).collect();
            Words {
                headline: "Kept, not judged".into(),
                seen: names::sentence(&format!("{}.", why.join(", and "))),
                why: "Such readings mislead: the figures stay on record and carry no verdict.",
                advice: "Read again off charge, half an hour after the last heavy load, with the acid mixed."
                    .into(),
            }
        }
        RoundFinding::Reread { question: q } => Words {
            headline: format!("Read {cells} again"),
            seen: question(q),
            why: "A slip of the eye looks like this, and so does a failing cell.",
            advice: "Draw and return the sample twice, then read at eye level.".into(),
        },
        RoundFinding::OffScale { above } => Words {
            headline: format!("{cells} off the scale"),
            seen: format!("The float stood {} the scale.", if *above { "above" } else { "below" }),
            why: if *above {
                "Nothing healthy reads this high: acid was added, or the cell is nearly dry."
            } else {
                "Nothing healthy reads this low: water, a dead short, or a float that sticks."
            },
            advice: "Read it with a second instrument, and check the level.".into(),
        },
        RoundFinding::NotRead { reason } if reason.is_empty() => Words {
            headline: format!("{cells} not read"),
            seen: format!(
                "{} without a reading.",
                if count == 1 { "One cell".into() } else { format!("{count} cells") }
            ),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read them in the next round.".into(),
        },
        RoundFinding::NotRead { reason } => Words {
            headline: format!("{cells} was not read"),
            seen: names::sentence(&format!("{}.", reason.trim_end_matches('.'))),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read it in the next round.".into(),
        },
        _ => unreachable!("called for recorded findings only"),
    }
}
