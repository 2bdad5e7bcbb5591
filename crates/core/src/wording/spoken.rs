//! One finding in words: headline, seen, why, do, rule, how sure, what another house would say.

use super::{names, question, unusable};
use crate::finding::{Certainty, Finding, FindingKind, OtherHouse, Tolerance};
use crate::round::Assessment;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};

/// A finding in words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SpokenFinding {
    /// Condition it gives.
    pub condition: Severity,
    /// Cells it names.
    pub cells: Vec<String>,
    /// Head line: "B5-2 is sinking".
    pub headline: String,
    /// What was measured.
    pub seen: String,
    /// Why it matters.
    pub why: String,
    /// What to do.
    pub advice: String,
    /// Rule, tolerance and whose: "RD-4, balance of the bank: limit 30 points (Maker first)".
    pub rule: String,
    /// Where the rule comes from.
    pub source: String,
    /// How sure.
    pub sure: String,
    /// What another house would say; may be empty.
    pub others: String,
}

/// The words of one finding.
pub fn speak(finding: &Finding, assessment: &Assessment) -> SpokenFinding {
    let words = words(finding, assessment);
    SpokenFinding {
        condition: finding.condition,
        cells: finding.cells.iter().map(ToString::to_string).collect(),
        headline: words.headline,
        seen: words.seen,
        why: words.why.into(),
        advice: words.advice,
        rule: rule_line(finding),
        source: format!("Source: {}.", finding.rule.source()),
        sure: sure_line(finding.certainty).into(),
        others: others_line(&finding.other_houses),
    }
}

struct Words {
    headline: String,
    seen: String,
    why: &'static str,
    advice: String,
}

fn rule_line(finding: &Finding) -> String {
    let rule = finding.rule;
    let limit = match &finding.tolerance {
        Some(Tolerance { limit, whose }) if limit.noise_rules() => format!(
            ": the rule says {} ({whose}), widened to {} by the instrument's noise",
            names::points(limit.rule.value()),
            limit.used
        ),
        Some(Tolerance { limit, whose }) => {
            format!(": limit {} ({whose})", names::points(limit.used.value()))
        }
        None => String::new(),
    };
    format!("{}, {}{limit}", rule.id(), rule.title())
}

fn sure_line(certainty: Certainty) -> &'static str {
    match certainty {
        Certainty::Clear => "Beyond the limit by more than the instrument's doubt.",
        Certainty::NearLimit => "Near the limit: another reading could fall on the other side.",
        Certainty::WithinInstrument => {
            "The limit here is what your instrument can tell; a finer one would see more."
        }
        Certainty::Recorded => "",
    }
}

pub(super) fn others_line(others: &[OtherHouse]) -> String {
    let said: Vec<String> = others
        .iter()
        .map(|other| match other.condition {
            Severity::Steady => format!("{} would let this stand.", other.name),
            Severity::Watch => format!("{} would watch it.", other.name),
            _ => format!("{} would act on it.", other.name),
        })
        .collect();
    said.join(" ")
}

fn words(finding: &Finding, assessment: &Assessment) -> Words {
    let cells = names::cells(&finding.cells);
    match &finding.kind {
        FindingKind::SuspectCell { .. } => suspect(finding, &cells),
        FindingKind::LowCells { .. } | FindingKind::HighCells { .. } => outside_band(finding, &cells),
        FindingKind::LowPair { .. } | FindingKind::LowBattery { .. } | FindingKind::LowString { .. } => {
            group(finding, &cells)
        }
        FindingKind::Gradient { low_end, high_end, low, high } => Words {
            headline: format!("The row falls from {high_end} to {low_end}"),
            seen: format!(
                "{high_end} stands at {}, {low_end} at {} points.",
                super::signed(*high),
                super::signed(*low)
            ),
            why: "Cells that fall along a row stand from warm to cold: the cold end takes less charge.",
            advice: "Measure the electrolyte at both ends, and keep sun, heater and cold wall off one end."
                .into(),
        },
        FindingKind::SpreadEqualize { .. } | FindingKind::SpreadWatch { .. } => spread(finding, assessment),
        FindingKind::ShortOfFull { .. }
        | FindingKind::AboveFull { .. }
        | FindingKind::RestVoltsDisagree { .. } => whole_bank(&finding.kind),
        FindingKind::NotJudged { .. }
        | FindingKind::Reread { .. }
        | FindingKind::OffScale { .. }
        | FindingKind::NotRead { .. } => recorded(finding, &cells),
    }
}

fn suspect(finding: &Finding, cells: &str) -> Words {
    let FindingKind::SuspectCell { gravity, deviation, before, sinking, alone } = &finding.kind else {
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

fn outside_band(finding: &Finding, cells: &str) -> Words {
    let many = finding.cells.len() > 1;
    match &finding.kind {
        FindingKind::LowCells { alone: true, lowest, .. } => Words {
            headline: format!("{cells} stands alone"),
            seen: format!(
                "{} under the median, while all the others are even.",
                names::points(lowest.value())
            ),
            why: "One cell by itself tells of that cell, not of the charging.",
            advice: format!("Read {cells} first next time; if it sinks on, equalize with it as the pilot."),
        },
        FindingKind::LowCells { lowest, nearest, .. } => Words {
            headline: if many {
                format!("{} cells low", names::sentence(&names::number_word(finding.cells.len())))
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
        FindingKind::HighCells { highest } => Words {
            headline: if many {
                format!("{} cells high", names::sentence(&names::number_word(finding.cells.len())))
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

fn group(finding: &Finding, cells: &str) -> Words {
    match &finding.kind {
        FindingKind::LowPair { deviation } => Words {
            headline: format!("{cells} are low together"),
            seen: format!(
                "Two neighbours in one case, {} under the median.",
                names::points(deviation.value())
            ),
            why: "Two neighbours alike point to a leak through the partition between them.",
            advice: "Equalize, then read both daily for a week: a leak pulls them down together again."
                .into(),
        },
        FindingKind::LowBattery { battery, nearest, lowest } => Words {
            headline: format!("Battery {battery} is low as a whole"),
            seen: format!("All its cells lie {} to {} points under the median.", nearest.abs(), lowest.abs()),
            why: "All together point to the battery's links or its cold corner rather than to its cells.",
            advice: format!("Measure the drop across the links of {battery} under load; clean and retorque."),
        },
        FindingKind::LowString { letter, deviation } => Words {
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

fn spread(finding: &Finding, assessment: &Assessment) -> Words {
    let ends = assessment.spread.map_or_else(String::new, |s| {
        format!(", from {} at {} to {} at {}", s.lowest_gravity, s.lowest, s.highest_gravity, s.highest)
    });
    match &finding.kind {
        FindingKind::SpreadEqualize { spread, proven_full } => Words {
            headline: "The bank asks for an equalize".into(),
            seen: format!("Spread {}{ends}.", names::points(spread.value())),
            why: "Cells this far apart are charged to different depths: the low ones sulfate, the high ones boil.",
            advice: if *proven_full {
                "Equalize: plates covered, vents open, tender loads off, someone stays. Maker's manual first."
                    .into()
            } else {
                "Charge fully first and read again; if the spread stays, equalize. Maker's manual first."
                    .into()
            },
        },
        FindingKind::SpreadWatch { spread } => Words {
            headline: "The spread is wider than even".into(),
            seen: format!("Spread {}{ends}.", names::points(spread.value())),
            why: "Spread grows before capacity falls.",
            advice: "Charge fully and take the next round early.".into(),
        },
        _ => unreachable!("called for spreads only"),
    }
}

fn whole_bank(kind: &FindingKind) -> Words {
    match kind {
        FindingKind::ShortOfFull { short, full } => Words {
            headline: "The bank does not reach full".into(),
            seen: format!("The median lies {} under the model's {full} after a proven full charge.", names::points(short.value())),
            why: "Either the charge is not as full as it seems, or part of the plates is sulfated.",
            advice: "Check setpoints and temperature sensor; an equalize tells undercharge from sulfation.".into(),
        },
        FindingKind::AboveFull { above, full } => Words {
            headline: "The bank reads above full".into(),
            seen: format!("The median lies {} over the model's {full}.", names::points(above.value())),
            why: "Low levels concentrate the acid; acid that was added does the same and ruins plates.",
            advice: "Check the levels. If they are at the mark, stop, ask who added what, and turn to the maker or a shop. Do not mix a cure.".into(),
        },
        FindingKind::RestVoltsDisagree { measured, expected } => Words {
            headline: "Volts and gravity disagree".into(),
            seen: format!("{measured:.3} V a cell at rest; the gravities lead to {expected:.3} V (±0.02 V)."),
            why: "An instrument is off, the temperature is wrong, the acid is layered, or a bad cell hides among its mates.",
            advice: "Check the hydrometer in distilled water and the meter on a known battery, then read battery by battery.".into(),
        },
        _ => unreachable!("called for whole-bank findings only"),
    }
}

fn recorded(finding: &Finding, cells: &str) -> Words {
    match &finding.kind {
        FindingKind::NotJudged { reasons } => {
            let why: Vec<&str> = reasons.iter().map(|r| unusable(*r)).collect();
            Words {
                headline: "Kept, not judged".into(),
                seen: names::sentence(&format!("{}.", why.join(", and "))),
                why: "Such readings mislead: the figures stay on record and carry no verdict.",
                advice: "Read again off charge, half an hour after the last heavy load, with the acid mixed."
                    .into(),
            }
        }
        FindingKind::Reread { question: q } => Words {
            headline: format!("Read {cells} again"),
            seen: question(q),
            why: "A slip of the eye looks like this, and so does a failing cell.",
            advice: "Draw and return the sample twice, then read at eye level.".into(),
        },
        FindingKind::OffScale { above } => Words {
            headline: format!("{cells} off the scale"),
            seen: format!("The float stood {} the scale.", if *above { "above" } else { "below" }),
            why: if *above {
                "Nothing healthy reads this high: acid was added, or the cell is nearly dry."
            } else {
                "Nothing healthy reads this low: water, a dead short, or a float that sticks."
            },
            advice: "Read it with a second instrument, and check the level.".into(),
        },
        FindingKind::NotRead { reason } if reason.is_empty() => Words {
            headline: format!("{cells} not read"),
            seen: format!(
                "{} without a reading.",
                if finding.cells.len() == 1 {
                    "One cell".into()
                } else {
                    format!("{} cells", finding.cells.len())
                }
            ),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read them in the next round.".into(),
        },
        FindingKind::NotRead { reason } => Words {
            headline: format!("{cells} was not read"),
            seen: names::sentence(&format!("{}.", reason.trim_end_matches('.'))),
            why: "The cell that is not read is the one nobody can speak for.",
            advice: "Read it in the next round.".into(),
        },
        _ => unreachable!("called for recorded findings only"),
    }
}
