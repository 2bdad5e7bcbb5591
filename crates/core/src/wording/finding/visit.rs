//! What resistances, levels, fills and the eye show, in words.

use super::super::names;
use super::super::visit::seen_kind;
use super::{Words, subject};
use crate::finding::{Finding, LookFinding, OhmicFinding, WaterFinding};
use crate::ohmic::{Against, rise_word};
use crate::quantity::units::ReaderUnits;

pub(super) fn ohmic(found: &OhmicFinding, units: ReaderUnits) -> Words {
    match found {
        OhmicFinding::ResistanceRise { battery: judged } => {
            let battery = judged.battery;
            let rise = judged.rise.unwrap_or_default();
            let of = match judged.against {
                Some(Against::MedianOfMates) => "the median of its mates",
                Some(Against::LowestOfMates) => "the lowest of its mates",
                Some(Against::OwnFirst) | None => "its own first value",
            };
            let reference = judged.reference.unwrap_or(judged.milliohms);
            let hotter = judged
                .hotter
                .map(|h| format!(" Its case is {} hotter than the others.", units.say_warmer(h)))
                .unwrap_or_default();
            Words {
                headline: format!("{battery}: resistance {:+.0} %, {}", 100.0 * rise, rise_word(rise)),
                seen: format!("{:.2} mΩ against {reference:.2} mΩ, {of}.{hotter}", judged.milliohms),
                why: "Resistance climbs as a sealed battery dries and its grid corrodes; it tells change, not capacity.",
                advice: format!(
                    "Compare at the same charge and temperature, check the joints of {battery}, then load test it."
                ),
            }
        }
        OhmicFinding::HotCase { battery, hotter } => Words {
            headline: format!("{battery} is {} hotter than its mates", units.say_warmer(*hotter)),
            seen: format!("Its case stands {} over the median case.", units.say_warmer(*hotter)),
            why: "A battery that warms more than its mates takes charge current that becomes heat: a cell is failing, or a joint is.",
            advice: format!(
                "Lower or stop the charge, let {battery} cool, check its joints, then read its volts alone."
            ),
        },
    }
}

pub(super) fn water(finding: &Finding, found: &WaterFinding) -> Words {
    match found {
        WaterFinding::PlatesBare => Words {
            headline: format!("Plates of {} stand bare", names::cells(&finding.cells)),
            seen: "They showed at the last look, and no water is noted since.".into(),
            why: "Plates that dry out do not recover.",
            advice: "Cover them now, no more than that; charge fully, then fill to the mark.".into(),
        },
        WaterFinding::LevelsAtPlates => Words {
            headline: format!("Levels of {} stand at the plates", names::cells(&finding.cells)),
            seen: "They stood there at the last look, and no water is noted since.".into(),
            why: "The next charges bare the plates, and plates that dry out do not recover.",
            advice: "Plates are covered still: charge fully, then fill to the mark.".into(),
        },
        WaterFinding::UnevenConsumption { uneven } => {
            let (cell, factor, before) = (uneven.cell, uneven.factor, uneven.before);
            Words {
                headline: format!(
                    "{cell} drinks {}",
                    if uneven.more { "more than its mates" } else { "less than its mates" }
                ),
                seen: format!(
                    "{factor:.1} times the median in this fill, {before:.1} times in the one before."
                ),
                why: if uneven.more {
                    "A thirsty cell is overcharged, leaks, or is shorted and heats."
                } else {
                    "A cell that hardly drinks is never filled up, or its level was misjudged."
                },
                advice: format!(
                    "Compare its gravity with its mates, look for a wet case, and watch {cell} at the next fill."
                ),
            }
        }
    }
}

pub(super) fn look(
    finding: &Finding,
    LookFinding::Seen { check, kind, measured, note }: &LookFinding,
    units: ReaderUnits,
) -> Words {
    let what = crate::wording::check(*check).to_lowercase();
    let advice = crate::wording::found_advice(*check, kind);
    let kind = seen_kind(*check, kind, *measured, units);
    Words {
        headline: names::sentence(&format!("{}, {what}: {kind}", subject(finding.subject))),
        seen: if note.is_empty() {
            String::new()
        } else {
            names::sentence(&format!("{}.", note.trim_end_matches('.')))
        },
        why: "",
        advice: advice.into(),
    }
}
