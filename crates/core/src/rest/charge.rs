//! RD-7: state of charge from settled volts, by the model's own table, else its type's.

use crate::battery_model::{BatteryModel, Construction};
use crate::electrolyte::{StateOfCharge, gravity_at_rest_volts};
use crate::quantity::SpecificGravity;
use serde::{Deserialize, Serialize};

/// A 12-volt flooded battery at rest: volts and per cent (common practice, no source; 12.6 to 12.7
/// is full, 12.4 to 12.45 is 75 %, below 11.9 is flat).
pub const FLOODED_TWELVE_VOLT: [(f64, f64); 5] =
    [(12.6, 100.0), (12.425, 75.0), (12.2, 50.0), (12.0, 25.0), (11.9, 0.0)];
/// A 12-volt AGM battery at rest (common practice, no source).
pub const AGM_TWELVE_VOLT: [(f64, f64); 5] =
    [(12.8, 100.0), (12.6, 75.0), (12.3, 50.0), (12.0, 25.0), (11.8, 0.0)];
/// What a fair meter may be off, V per cell: 0.02 V on 12 V (common practice, no source).
pub(super) const METER: f64 = 0.0033;

/// Which numbers turned volts into charge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum RestTable {
    /// The model's own volts.
    ModelVolts,
    /// The model's gravities, by SG-3: volts = gravity + 0.845.
    ModelGravities,
    /// The flooded table of the trade.
    Flooded,
    /// The AGM table of the trade.
    Agm,
}

impl RestTable {
    /// In words.
    pub fn said(self) -> &'static str {
        match self {
            Self::ModelVolts => "the model's own rest volts",
            Self::ModelGravities => "the model's gravities, volts = gravity + 0.845 a cell (SG-3)",
            Self::Flooded => "the flooded table of the trade (common practice)",
            Self::Agm => "the AGM table of the trade (common practice)",
        }
    }
}

/// State of charge with its range, per cent.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargeRange {
    /// Lowest that fits the reading.
    pub low: f64,
    /// Highest that fits.
    pub high: f64,
    /// The numbers used.
    pub table: RestTable,
}

fn on(rows: impl Iterator<Item = (f64, f64)>, volts: f64) -> f64 {
    let rows: Vec<(f64, f64)> = rows.collect();
    let last = rows.len().saturating_sub(2);
    let i = rows.iter().skip(1).position(|row| volts >= row.0).unwrap_or(last);
    let ((v1, p1), (v0, p0)) = (rows[i], rows[i + 1]);
    (p0 + (p1 - p0) * (volts - v0) / (v1 - v0)).clamp(0.0, 100.0)
}

/// Per cent at these volts per cell, and the numbers used.
fn percent(cell_volts: f64, construction: Construction, model: Option<&BatteryModel>) -> (f64, RestTable) {
    let twelfth = |rows: [(f64, f64); 5]| rows.into_iter().map(|(v, p)| (v / 6.0, p));
    if let Some(model) = model {
        let own: Vec<(f64, f64)> =
            model.soc_table.iter().filter_map(|row| Some((row.cell_volts?, row.percent))).collect();
        if own.len() >= 2 {
            return (on(own.into_iter(), cell_volts), RestTable::ModelVolts);
        }
        if model.construction.has_caps() {
            let gravity = SpecificGravity::corrected(cell_volts - 0.845);
            let charge: StateOfCharge = model.state_of_charge(gravity);
            return (charge.percent, RestTable::ModelGravities);
        }
    }
    if construction.has_caps() {
        (on(twelfth(FLOODED_TWELVE_VOLT), cell_volts), RestTable::Flooded)
    } else {
        (on(twelfth(AGM_TWELVE_VOLT), cell_volts), RestTable::Agm)
    }
}

/// Settled volts per cell at which a battery of the model reads a state of charge, per cent.
pub fn volts_at_charge(percent_charged: f64, model: &BatteryModel) -> f64 {
    let (mut low, mut high) = (1.5, 2.4);
    // Charge rises with volts all the way; the least volts that read so much.
    for _ in 0..50 {
        let middle = f64::midpoint(low, high);
        let reads = percent(middle, model.construction, Some(model)).0;
        if reads < percent_charged - 1e-9 { low = middle } else { high = middle }
    }
    high
}

/// RD-7 for volts per cell that a meter shows and that may read so much high.
pub fn charge_of(
    cell_volts: f64,
    may_read_high: f64,
    construction: Construction,
    model: Option<&BatteryModel>,
) -> ChargeRange {
    let (least, most) = (cell_volts - may_read_high - METER, cell_volts + METER);
    let (low, table) = percent(least, construction, model);
    let (high, _) = percent(most, construction, model);
    // The rule of the trade and the measured curve lie apart, most of all in weak acid: the range holds both.
    let by_curve = |volts| match (table, model) {
        (RestTable::ModelGravities, Some(model)) => {
            Some(model.state_of_charge(gravity_at_rest_volts(volts)).percent)
        }
        _ => None,
    };
    ChargeRange {
        low: by_curve(least).map_or(low, |own| own.min(low)),
        high: by_curve(most).map_or(high, |own| own.max(high)),
        table,
    }
}
