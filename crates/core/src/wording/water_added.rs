//! Water that went in, in words: how much is known of it, with what, to where; and what was spilled.

use super::names;
use crate::quantity::Volume;
use crate::quantity::units::ReaderUnits;
use crate::visit::{Entry, Place, UnevenLevels, WaterAdded};
use crate::water::{AmountKnown, FillWay, LevelLamp, Poured, Spill};

fn volume(millilitres: f64, units: ReaderUnits) -> String {
    Volume::from_millilitres(millilitres).map(|v| units.say_volume(v)).unwrap_or_default()
}

/// What water is poured with: "by bottle".
pub fn fill_way(way: FillWay) -> &'static str {
    match way {
        FillWay::Bottle => "bottle",
        FillWay::Jug => "jug",
        FillWay::Bulb => "bulb",
        FillWay::Syringe => "syringe",
        FillWay::SelfClosingFiller => "self-closing filler",
        FillWay::WateringKit => "watering kit",
        FillWay::GravityReservoir => "gravity reservoir",
    }
}

/// One entry of water without its place: "60 mL to the mark, by bottle", "to the mark, not measured".
pub fn poured(millilitres: f64, to_mark: bool, by_kit: bool, own: Poured, units: ReaderUnits) -> String {
    let to = if to_mark { "to the mark" } else { "to cover the plates" };
    let amount = match own.amount {
        AmountKnown::Measured => format!("{} {to}", volume(millilitres, units)),
        AmountKnown::Estimated => format!("about {} {to}", volume(millilitres, units)),
        AmountKnown::Unknown => format!("{to}, not measured"),
    };
    let way = own.how.or(by_kit.then_some(FillWay::WateringKit));
    let with = way.map(|way| format!(", by {}", fill_way(way))).unwrap_or_default();
    let flow = match own.flow_stopped {
        Some(true) => ", the flow indicator stopped",
        Some(false) => ", the flow indicator did not stop",
        None => "",
    };
    format!("{amount}{with}{flow}")
}

/// Water of a visit as an amount: "12.0 L", "about 12.0 L", "12.0 L and more", "not measured".
pub fn amount_added(added: &WaterAdded, units: ReaderUnits) -> String {
    let about = if added.estimated { "about " } else { "" };
    match (added.millilitres > 0.0, added.unknown) {
        (true, false) => format!("{about}{}", volume(added.millilitres, units)),
        (true, true) => format!("{about}{} and more", volume(added.millilitres, units)),
        (false, _) => "not measured".into(),
    }
}

/// "About 12.0 L of distilled water", "Distilled water" where nobody measured any.
fn water_said(added: &WaterAdded, units: ReaderUnits) -> String {
    if added.millilitres > 0.0 {
        names::sentence(&format!("{} of distilled water", amount_added(added, units)))
    } else {
        "Distilled water".into()
    }
}

/// What is not known of the amount; empty where all of it is.
fn not_measured(added: &WaterAdded) -> &'static str {
    match (added.millilitres > 0.0, added.unknown) {
        (_, false) => "",
        (true, true) => "; a part of it was not measured",
        (false, true) => "; the amount was not measured",
    }
}

/// Water of a visit in the report, with how many of the cells were brought to their mark.
pub fn water_went_in(added: &WaterAdded, filled: usize, cells: usize, units: ReaderUnits) -> String {
    let how = match filled {
        0 => "to cover the plates".to_owned(),
        all if all == cells => "to bring every cell to its mark".into(),
        1 => "to bring one cell to its mark".into(),
        some => format!("to bring {} cells to their mark", names::number_word(some)),
    };
    format!("{} went in {how}{}.", water_said(added, units), not_measured(added))
}

/// Water as work that was done, for the owner; none where no water went in.
pub fn water_work(added: &WaterAdded, units: ReaderUnits) -> Option<String> {
    if !added.any {
        return None;
    }
    let ways: Vec<&str> = added.ways.iter().map(|way| fill_way(*way)).collect();
    let with = if ways.is_empty() { String::new() } else { format!(", by {}", names::words(&ways)) };
    let to = if added.to_mark { "up to the mark" } else { "to cover the plates" };
    Some(format!("{} added {to}{with}{}", water_said(added, units), not_measured(added)))
}

/// Electrolyte that was spilled, filled too high or drawn off, at a place; none for another entry.
pub fn spilled(place: Place, entry: &Entry, units: ReaderUnits) -> Option<String> {
    let Entry::Spilled { spill, millilitres, note } = entry else { return None };
    let amount = millilitres.map(|ml| volume(ml, units));
    let of = |amount: Option<String>| amount.map(|amount| format!("{amount} of ")).unwrap_or_default();
    let said = match spill {
        Spill::Spilled => format!("{}electrolyte spilled at {}", of(amount), place.said()),
        Spill::Overfilled => match amount {
            Some(amount) => format!("{} filled over the mark by {amount}", place.said()),
            None => format!("{} filled over the mark", place.said()),
        },
        Spill::DrawnOff => {
            format!("{}electrolyte drawn off at {}, down to the mark", of(amount), place.said())
        }
    };
    let note = note.trim_end_matches('.');
    let note = if note.is_empty() { String::new() } else { format!(" ({note})") };
    Some(names::sentence(&format!("{said}{note}")))
}

/// What a level lamp shows, at a place.
pub fn lamp(place: Place, lamp: LevelLamp) -> String {
    let shows = match lamp {
        LevelLamp::Bright => "bright: its probe stands in the electrolyte",
        LevelLamp::Dim => "dim: its probe is about to come out",
        LevelLamp::Off => "off: its probe stands dry, or has no power",
    };
    format!("Level lamp of {} {shows}", place.said())
}

/// Levels that stood apart at the first look.
pub fn uneven_levels(uneven: &UnevenLevels, units: ReaderUnits) -> String {
    let apart = crate::quantity::Length::from_millimetres(uneven.apart);
    let apart = apart.map(|l| units.say_length(l)).unwrap_or_default();
    let verb = if uneven.lowest.len() == 1 { "stood" } else { "stood, each," };
    format!(
        "The levels were uneven when first looked at: {} {verb} {apart} under the highest.",
        names::cells(&uneven.lowest)
    )
}
