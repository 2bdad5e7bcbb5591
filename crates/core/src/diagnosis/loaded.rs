//! What short loads, and batteries held disconnected, are signs of.

use super::evidence::said;
use super::{HeldRead, ShortLoadRead, Sign};
use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::quantity::Temperature;
use crate::rest::{COMPARED_FROM_DAYS, Held, held_loss};
use crate::round::median;

/// V on 12 V that mates differ by at most under a short load (LT-2).
const APART: f64 = 0.3;
/// V that a battery falls by whose cell gives none, or turns round (common practice, no source).
const CELL: f64 = 1.5;
/// Per cent a day at 25 °C from which a battery loses too much; doubles with every 10 °C (SD-1).
const LOSES: f64 = 0.7;

/// The sign of a newest short load: who gives way against its mates. One battery alone has none.
pub(super) fn short_load(read: &ShortLoadRead, shape: &BankShape) -> Option<Sign> {
    let centre = median(&mut read.batteries.iter().map(|b| b.value).collect::<Vec<_>>())?;
    if read.batteries.len() < 2 {
        return None;
    }
    // Of two the better one is the mate.
    let best = read.batteries.iter().map(|b| b.value).fold(f64::NEG_INFINITY, f64::max);
    let mate = if read.batteries.len() == 2 { best } else { centre };
    let twelve = |volts: f64| 6.0 * volts / f64::from(shape.cells_per_battery);
    let low: Vec<_> = read.batteries.iter().filter(|b| twelve(mate - b.value) > APART).collect();
    let names: Vec<String> = low.iter().map(|b| b.battery.to_string()).collect();
    let key = match low.as_slice() {
        [] => "loads_evenly",
        [own] if mate - own.value >= CELL => "one_falls_a_cell",
        [_] => "one_gives_way",
        _ => "several_give_way",
    };
    let most = low.iter().map(|b| twelve(mate - b.value)).fold(0.0, f64::max);
    let seen = if low.is_empty() {
        format!("all within {APART} V on 12 V on {}", said(read.day))
    } else {
        format!("{} up to {most:.1} V on 12 V under the others on {}", names.join(", "), said(read.day))
    };
    Some(Sign::new(key, seen, &names.join(" ")))
}

/// True where the one that fell most stands out of what the meter may be off among so many.
fn alone(fell: &[f64], usual: f64, noise: f64) -> bool {
    let most = fell.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    most - usual > 4.0 * std::f64::consts::SQRT_2 * noise
}

/// The sign of a newest holding of three days or more: who loses more than such batteries do.
pub(super) fn held(read: &HeldRead, shape: &BankShape, model: &BatteryModel) -> Option<Sign> {
    if read.days < COMPARED_FROM_DAYS {
        return None;
    }
    let temperature = read.temperature.and_then(|own| Temperature::from_celsius(own).ok());
    let of = |before: f64, after: f64| {
        held_loss(
            &Held {
                volts: [before, after],
                days: read.days,
                cells: f64::from(shape.cells_per_battery),
                meter: read.noise,
                temperature,
            },
            model,
        )
    };
    let losses: Vec<_> =
        read.batteries.iter().filter_map(|b| Some((b.battery, of(b.first?, b.value)))).collect();
    if losses.is_empty() {
        return None;
    }
    let much = LOSES * 2f64.powf((read.temperature.unwrap_or(25.0) - 25.0) / 10.0);
    let fell: Vec<f64> = read.batteries.iter().filter_map(|b| Some(b.first? - b.value)).collect();
    let usual = median(&mut fell.clone()).unwrap_or(0.0);
    let losing: Vec<_> = losses.iter().filter(|(_, own)| own.per_day.is_some_and(|l| l > much)).collect();
    let names: Vec<String> = losing.iter().map(|(battery, _)| battery.to_string()).collect();
    let most = losing.iter().filter_map(|(_, own)| own.per_day).fold(0.0, f64::max);
    let (n, of) = (losing.len(), losses.len());
    let seen = |who: &str| format!("{who} up to {most:.1} % a day over {:.0} days", read.days);
    match n {
        0 if losses.iter().all(|(_, own)| own.per_day.is_some() || own.least_told < much) => {
            Some(Sign::new("holds", format!("over {:.0} days, {}", read.days, said(read.day)), ""))
        }
        1 if of > 1 && alone(&fell, usual, read.noise) => {
            Some(Sign::new("one_loses", seen(&names.join(", ")), &names.join(" ")))
        }
        n if n > 0 && n * 4 >= of * 3 => Some(Sign::new("all_lose", seen("nearly all"), "")),
        _ => None,
    }
}
