//! What the judge tells of a made bank, beside the truth.

use super::bank::{Fault, Made};
use rainshadow_core::bank::CellAddress;
use rainshadow_core::finding::{EqualizeCall, Finding};
use rainshadow_core::round::{Assessment, Shape, Side, judge};
use rainshadow_core::severity::Severity;

/// Codes of causes that a fault may lead by; more than one where the figures cannot tell them apart.
pub fn causes(fault: Fault) -> &'static [&'static str] {
    match fault {
        Fault::Healthy | Fault::Misread(_) => &[],
        Fault::Spread(_) => &["spread_watch", "spread_equalize", "low_cells", "high_cells", "suspect_cell"],
        Fault::LowCells(..) => &["low_cells", "suspect_cell"],
        Fault::HighCells(..) => &["far_from_full", "high_cells"],
        Fault::Battery(_) => &["low_battery"],
        Fault::String(_) => &["low_string"],
        Fault::Gradient(_) => &["gradient"],
        Fault::ShortOfFull(_) => &["short_of_full"],
        Fault::NotFull(_) => &["far_from_full"],
        Fault::AcidInAll(_) => &["above_full"],
        Fault::AcidInCells(..) => &["acid_in_cells"],
        Fault::LowLevels(_) => &["above_full", "low_levels"],
        Fault::Stratified(_) => &["stratified"],
        Fault::DeadCell => &["dead_cell"],
    }
}

/// A judged bank.
pub struct Told {
    pub assessment: Assessment,
}

impl Told {
    pub fn of(made: &Made) -> Self {
        Self { assessment: judge(&made.round) }
    }

    /// What leads, where anything is told.
    pub fn lead(&self) -> Option<&Finding> {
        self.assessment.findings.iter().find(|f| f.severity >= Severity::Watch)
    }

    pub fn lead_code(&self) -> &'static str {
        self.lead().map_or("nothing", |f| f.kind.code())
    }

    /// True when anything asks to be watched.
    pub fn alarms(&self) -> bool {
        self.assessment.condition >= Severity::Watch
    }

    /// True when somebody is told to equalize.
    pub fn equalizes(&self) -> bool {
        let asked = |f: &Finding| matches!(f.equalize, EqualizeCall::Asked { .. });
        self.assessment.findings.iter().any(asked)
    }

    /// True when anything that asks to be watched names the cell.
    pub fn names(&self, cell: CellAddress) -> bool {
        let told = self.assessment.findings.iter().filter(|f| f.severity >= Severity::Watch);
        told.into_iter().any(|f| f.cells.contains(&cell))
    }

    /// True when somebody is asked to read the cell again.
    pub fn asks_about(&self, cell: CellAddress) -> bool {
        let asked = |f: &&Finding| f.kind.code() == "reread";
        self.assessment.findings.iter().filter(asked).any(|f| f.cells.contains(&cell))
    }

    /// The name of its shape.
    pub fn shape(&self) -> &'static str {
        name(&self.assessment.shape)
    }

    /// True when the shape that is named, or the one beside it, is the fault's own with its own cells.
    pub fn shape_is_right(&self, made: &Made) -> bool {
        let all = std::iter::once(&self.assessment.shape).chain(&self.assessment.beside);
        all.into_iter().any(|shape| is_of(shape, made))
    }
}

pub fn name(shape: &Shape) -> &'static str {
    match shape {
        Shape::Even => "even",
        Shape::LoneCell { side: Side::Low, .. } => "lone low",
        Shape::LoneCell { side: Side::High, .. } => "lone high",
        Shape::Cells { side: Side::Low, .. } => "cells low",
        Shape::Cells { side: Side::High, .. } => "cells high",
        Shape::Pair { .. } => "pair",
        Shape::Battery { .. } => "battery",
        Shape::String { .. } => "string",
        Shape::Gradient { .. } => "gradient",
        Shape::Drift => "drift",
        Shape::TooFew => "too few",
    }
}

fn is_of(shape: &Shape, made: &Made) -> bool {
    match (made.fault, shape) {
        (Fault::LowCells(1, _), Shape::LoneCell { cell, side: Side::Low })
        | (Fault::HighCells(1, _) | Fault::AcidInCells(1, _), Shape::LoneCell { cell, side: Side::High }) => {
            *cell == made.cells[0]
        }
        (Fault::LowCells(..), Shape::Cells { cells, side: Side::Low })
        | (Fault::HighCells(..) | Fault::AcidInCells(..), Shape::Cells { cells, side: Side::High }) => {
            *cells == made.cells
        }
        (Fault::Battery(_), Shape::Battery { battery }) => made.cells.iter().all(|c| c.battery == *battery),
        (Fault::String(_), Shape::String { letter }) => {
            made.cells.iter().all(|c| rainshadow_core::bank::string_letter(c.battery.string) == *letter)
        }
        (Fault::Gradient(_), Shape::Gradient { .. }) => true,
        _ => false,
    }
}

/// Two faults of one bank with the cause that leads of them by RD-9, and whether an equalize is forbidden.
pub const PAIRS: [([Fault; 2], &str, bool); 12] = [
    ([Fault::AcidInAll(25.0), Fault::LowCells(1, 50.0)], "above_full", true),
    ([Fault::AcidInAll(25.0), Fault::Battery(40.0)], "above_full", true),
    ([Fault::LowLevels(20.0), Fault::LowCells(1, 40.0)], "low_levels", true),
    ([Fault::AcidInCells(1, 35.0), Fault::LowCells(1, 40.0)], "acid_in_cells", true),
    ([Fault::ShortOfFull(25.0), Fault::Battery(40.0)], "short_of_full", false),
    ([Fault::ShortOfFull(25.0), Fault::LowCells(1, 40.0)], "short_of_full", false),
    ([Fault::NotFull(40.0), Fault::LowCells(1, 50.0)], "far_from_full", true),
    ([Fault::NotFull(40.0), Fault::Stratified(30.0)], "stratified", true),
    ([Fault::Stratified(30.0), Fault::LowCells(1, 50.0)], "stratified", true),
    ([Fault::String(30.0), Fault::LowCells(1, 60.0)], "low_string", false),
    ([Fault::DeadCell, Fault::LowCells(1, 40.0)], "dead_cell", true),
    ([Fault::DeadCell, Fault::Battery(30.0)], "dead_cell", true),
];

/// What is told of banks with two faults: how many, and of those in per cent which have the right lead, name
/// every cell of both faults, and ask for an equalize.
pub fn of_two(seeds: std::ops::Range<u64>, faults: [Fault; 2], lead: &str) -> (usize, [f64; 3]) {
    let mut hits = [0usize; 3];
    // Where nobody looked at the levels they cannot be told from acid.
    let unseen = matches!(faults[0], Fault::LowLevels(_));
    let leads = |code: &str| code == lead || unseen && code == "above_full";
    let mut banks = 0usize;
    for made in seeds.filter_map(|seed| super::bank::make_two(seed, faults)) {
        let told = Told::of(&made);
        banks += 1;
        let all = made.cells.iter().chain(&made.second).all(|cell| told.names(*cell));
        for (hit, is_so) in hits.iter_mut().zip([leads(told.lead_code()), all, told.equalizes()]) {
            *hit += usize::from(is_so);
        }
    }
    (banks, hits.map(|hits| Share { banks, hits }.percent()))
}

/// A share of made banks, in per cent.
pub fn share(
    seeds: std::ops::Range<u64>,
    fault: Fault,
    history: bool,
    right: impl Fn(&Told, &Made) -> bool,
) -> Share {
    let mut share = Share::default();
    for seed in seeds {
        if let Some(made) = super::bank::make(seed, fault, history) {
            let told = Told::of(&made);
            share.banks += 1;
            share.hits += usize::from(right(&told, &made));
        }
    }
    share
}

#[derive(Debug, Clone, Copy, Default)]
pub struct Share {
    pub banks: usize,
    pub hits: usize,
}

impl Share {
    pub fn percent(self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts of banks")]
        let (hits, banks) = (self.hits as f64, self.banks as f64);
        if banks > 0.0 { 100.0 * hits / banks } else { f64::NAN }
    }
}
