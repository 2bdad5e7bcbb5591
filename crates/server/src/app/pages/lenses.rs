//! The lenses of the plan and the trends of a bank: level, rest volts, water use, change since last.

use crate::db::BankRow;
use crate::words;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::{
    MILLILITRES_PER_US_GALLON, OUNCES_PER_GALLON, ReaderUnits, VolumeUnit,
};
use rainshadow_core::rest::{Grade, judge_rest};
use rainshadow_core::round::Assessment;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{Gravities, Judged, PastVisit, fills, rest_sheet};
use rainshadow_core::water::{need, odd_share};
use serde::Serialize;
use utoipa::ToSchema;

/// One cell or battery under a lens.
#[derive(Debug, Serialize, ToSchema)]
pub struct LensValue {
    /// Cell, or battery for rest volts.
    pub place: String,
    /// The value it is drawn by: mm over the plates, V from the median, mL, points of change.
    pub value: f64,
    /// As written at its foot.
    pub figure: String,
    /// As told to a reader who does not see it.
    pub said: String,
    /// Condition.
    pub condition: Severity,
}

/// One lens.
#[derive(Debug, Serialize, ToSchema)]
pub struct Lens {
    /// What it shows and when it was taken: "levels of 8 Oct 2026, mm over the plates".
    pub caption: String,
    /// Height of its line: the median, the fill mark; in the unit of the values.
    pub line: f64,
    /// The line as written.
    pub line_said: String,
    /// Half-height of the steady band, in the unit of the values; none draws none.
    pub band: Option<f64>,
    /// Largest value drawn.
    pub most: f64,
    /// Values.
    pub values: Vec<LensValue>,
}

/// The lenses that have anything to show.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct Lenses {
    /// Levels of the last look.
    pub level: Option<Lens>,
    /// Volts of the last rest check.
    pub rest_volts: Option<Lens>,
    /// Water of the last fill by cell.
    pub water_use: Option<Lens>,
    /// Change of deviation since the last comparable round.
    pub change: Option<Lens>,
}

fn whole(value: f64) -> String {
    let text = format!("{:.0}", value.abs());
    if value.round() < 0.0 { format!("\u{2212}{text}") } else { text }
}

fn level(visits: &[PastVisit], bank: &BankRow, model: &BatteryModel, units: ReaderUnits) -> Option<Lens> {
    let visit = visits.iter().rev().find(|v| !v.sheet.levels(&bank.shape).is_empty())?;
    let mark = model.fill_mark_above_plates?.millimetres();
    let (size, unit) = units.length.size();
    let shown = |mm: f64| if size > 1.0 { format!("{:.1}", mm / size) } else { whole(mm) };
    let values = visit
        .sheet
        .levels(&bank.shape)
        .into_iter()
        .map(|(cell, level)| {
            let mm = level.over_plates(model);
            let missing = need(level, model).map(|v| format!(", {} to the mark", units.say_volume(v)));
            LensValue {
                place: cell.to_string(),
                value: mm,
                figure: shown(mm),
                said: format!("{} {unit} over the plates{}", shown(mm), missing.unwrap_or_default()),
                condition: level.condition(model),
            }
        })
        .collect();
    Some(Lens {
        caption: format!("levels of {}, {unit} over the plates", words::day(visit.day)),
        line: mark,
        line_said: shown(mark),
        band: None,
        most: mark + 8.0,
        values,
    })
}

fn rest_volts(
    visits: &[PastVisit],
    bank: &BankRow,
    model: &BatteryModel,
    rules: &HouseRules,
) -> Option<Lens> {
    let visit = visits.iter().rev().find(|v| !v.sheet.battery_volts().is_empty())?;
    let rest = judge_rest(&rest_sheet(
        &visit.sheet,
        &[],
        Judged { shape: &bank.shape, model, rules },
        &Gravities::new(),
    ));
    let median = rest.median?;
    let values = rest
        .batteries
        .iter()
        .map(|b| {
            let charge = b.charge.map(|c| format!(", {} charged", rainshadow_core::wording::charge_range(c)));
            LensValue {
                place: b.battery.to_string(),
                value: b.deviation,
                figure: format!("{:.2}", b.volts),
                said: format!("{:.2} volts{}", b.volts, charge.unwrap_or_default()),
                condition: b.condition,
            }
        })
        .collect();
    let worth = if rest.grade == Grade::Settled { "settled" } else { rest.grade.said() };
    Some(Lens {
        caption: format!("volts at rest of {}, {worth}", words::day(visit.day)),
        line: 0.0,
        line_said: format!("{median:.2}"),
        band: Some(rest.steady),
        most: rest.steady * 4.0,
        values,
    })
}

fn water_use(visits: &[PastVisit], bank: &BankRow, units: ReaderUnits) -> Option<Lens> {
    let fills = fills(visits, &bank.shape);
    let last = fills.iter().rev().find(|f| !f.cells.is_empty())?;
    let mut amounts: Vec<f64> = last.cells.values().copied().collect();
    let middle = rainshadow_core::round::median(&mut amounts)?;
    let (unit, size) = match units.volume {
        VolumeUnit::Litre => ("mL", 1.0),
        VolumeUnit::UsGallon => ("US fl oz", MILLILITRES_PER_US_GALLON / OUNCES_PER_GALLON),
    };
    let most = amounts.iter().copied().fold(0.0, f64::max);
    let values = last
        .cells
        .iter()
        .map(|(cell, ml)| {
            // WA-5 convicts over two fills; one is watched.
            let odd = middle > 0.0 && odd_share(ml / middle);
            LensValue {
                place: cell.to_string(),
                value: *ml,
                figure: if size > 1.0 { format!("{:.1}", ml / size) } else { whole(*ml) },
                said: format!("{:.*} {unit}", usize::from(size > 1.0), ml / size),
                condition: if odd { Severity::Watch } else { Severity::Steady },
            }
        })
        .collect();
    Some(Lens {
        caption: format!("water of the fill of {}, {unit} a cell", words::day(last.day)),
        line: middle,
        line_said: format!("{:.*}", usize::from(size > 1.0), middle / size),
        band: None,
        most: most.max(middle * 1.6),
        values,
    })
}

fn change(assessment: &Assessment) -> Option<Lens> {
    let values: Vec<LensValue> = assessment
        .cells
        .iter()
        .filter_map(|c| {
            let change = c.change?;
            let text = rainshadow_core::wording::signed(change);
            Some(LensValue {
                place: c.cell.to_string(),
                value: change.value(),
                said: format!("{text} points since the round before"),
                figure: text,
                condition: c.condition,
            })
        })
        .collect();
    let days = assessment.cells.iter().find_map(|c| c.change_days)?;
    Some(Lens {
        caption: format!("points each cell has moved against its mates in {days:.0} days"),
        line: 0.0,
        line_said: "0".into(),
        band: None,
        most: 25.0,
        values,
    })
}

/// Every lens that has something to show.
pub fn lenses(
    visits: &[PastVisit],
    bank: &BankRow,
    (model, rules): (&BatteryModel, &HouseRules),
    judged: Option<&Assessment>,
    units: ReaderUnits,
) -> Lenses {
    let caps = model.construction.has_caps();
    Lenses {
        level: level(visits, bank, model, units).filter(|_| caps),
        rest_volts: rest_volts(visits, bank, model, rules),
        water_use: water_use(visits, bank, units).filter(|_| caps),
        change: judged.and_then(change),
    }
}
