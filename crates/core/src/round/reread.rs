//! RD-3: is this reading in question? Asked at the cell, at once.

use super::centre::{Spread, median, spread};
use super::question::Question;
use super::trend::last_of;
use super::{CellReading, CellRecord, RoundToJudge};
use crate::bank::CellAddress;
use crate::instrument::{Limit, noise_of_a_cell};
use crate::quantity::{Points, SpecificGravity, Temperature, bounds};
use serde::{Deserialize, Serialize};

/// Cells that must be in before one is compared with the running median.
const MATES_NEEDED: usize = 6;
/// Change since the last round that is questioned, points.
const CHANGE_POINTS: f64 = 15.0;
/// Distance from the mates that is questioned where there is no history, points.
const MATES_POINTS: f64 = 20.0;

/// The readings as shown that would raise no question at this cell: for entry without the server.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct UnquestionedRange {
    /// Lowest, as read.
    pub low: SpecificGravity,
    /// Highest, as read.
    pub high: SpecificGravity,
}

/// This cell's last comparable reading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LastReading {
    /// Corrected then.
    pub corrected: SpecificGravity,
    /// Deviation then.
    pub deviation: Points,
    /// Days ago.
    pub days: f64,
}

/// What a reading would mean, before it is stored.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Preview {
    /// The cell.
    pub cell: CellAddress,
    /// As read.
    pub read: SpecificGravity,
    /// Corrected to the reference temperature.
    pub corrected: SpecificGravity,
    /// What the correction added.
    pub correction: Points,
    /// Median of the mates so far; none before the first.
    pub median: Option<SpecificGravity>,
    /// Deviation from that median.
    pub deviation: Option<Points>,
    /// This cell's last comparable reading.
    pub last: Option<LastReading>,
    /// Change of the corrected gravity since then.
    pub change: Option<Points>,
    /// Spread of the round so far, with this reading.
    pub spread: Option<Spread>,
    /// Spread of the round so far, without it.
    pub spread_without: Option<Spread>,
    /// Why it would be questioned, if it would.
    pub question: Option<Question>,
}

/// A round while it is taken: corrected readings so far, ready to judge the next one.
pub struct RunningRound<'a> {
    round: &'a RoundToJudge,
    readings: &'a [CellRecord],
    cells: Vec<(CellAddress, SpecificGravity)>,
    uncertainty: Points,
}

/// True when a second reading of the same cell bears out the first: they agree within what two
/// readings of one sample scatter (2√2·u, SG-7), so the cell is not asked about again.
pub fn confirms(first: SpecificGravity, second: SpecificGravity, uncertainty: Points) -> bool {
    (second - first).abs() <= Points::new(2.0 * std::f64::consts::SQRT_2 * uncertainty.value())
}

impl<'a> RunningRound<'a> {
    /// The round as far as it has come.
    pub fn new(round: &'a RoundToJudge) -> Self {
        Self::with(round, &round.readings)
    }

    /// A round under way with readings kept apart from what they are judged by: entry is judged reading by
    /// reading, and forty earlier rounds need not be copied for each.
    pub fn with(round: &'a RoundToJudge, readings: &'a [CellRecord]) -> Self {
        let cells = readings
            .iter()
            .filter_map(|record| round.corrected(record).map(|sg| (record.cell, sg)))
            .collect();
        Self { round, readings, cells, uncertainty: round.uncertainty().deviation }
    }

    fn mates(&self, cell: CellAddress) -> Vec<(CellAddress, SpecificGravity)> {
        self.cells.iter().filter(|(c, _)| *c != cell).copied().collect()
    }

    fn median_of(cells: &[(CellAddress, SpecificGravity)]) -> Option<SpecificGravity> {
        super::centre::centre(cells)
    }

    fn last(&self, cell: CellAddress) -> Option<LastReading> {
        last_of(&self.round.past, self.round.instrument.kind, cell).map(|(round, past)| LastReading {
            corrected: past.corrected,
            deviation: past.deviation,
            days: round.days_before,
        })
    }

    /// Where this cell should stand by its own history: its last deviation from the mates' median,
    /// or, before six mates are in, its last gravity shifted as the mates have shifted.
    fn expected(
        &self,
        cell: CellAddress,
        mates: &[(CellAddress, SpecificGravity)],
    ) -> Option<SpecificGravity> {
        let last = self.last(cell)?;
        if mates.len() >= MATES_NEEDED.min(self.round.shape.cell_count().saturating_sub(1)) {
            return Some(Self::median_of(mates)?.shifted(last.deviation));
        }
        let mut shifts: Vec<f64> = mates
            .iter()
            .filter_map(|(mate, sg)| self.last(*mate).map(|l| (*sg - l.corrected).value()))
            .collect();
        if shifts.len() < 2 {
            return None;
        }
        median(&mut shifts).map(|shift| last.corrected.shifted(Points::new(shift)))
    }

    /// The middle and half-width within which a corrected reading is not questioned, and whether
    /// history says so; none while too little is known.
    fn unquestioned_corrected(&self, cell: CellAddress) -> Option<(SpecificGravity, Limit, bool)> {
        let mates = self.mates(cell);
        // A bank of fewer than seven cells is asked at the end of the round (RD-3).
        let complete = mates.len() + 1 >= self.round.shape.cell_count();
        if self.round.shape.cell_count() < MATES_NEEDED + 1 && !complete {
            return None;
        }
        let u = self.uncertainty.value();
        if let Some(expected) = self.expected(cell, &mates) {
            let (rule, noise) = (Points::new(CHANGE_POINTS), Points::new(3.0 * std::f64::consts::SQRT_2 * u));
            // The larger of two: three standard deviations of a change are no limit of likeness.
            return Some((expected, Limit { used: rule.max(noise), rule, noise }, true));
        }
        // "Without history" is a cell that has none; one whose history cannot speak yet waits.
        if self.last(cell).is_some() || (mates.len() < MATES_NEEDED && !(complete && mates.len() >= 2)) {
            return None;
        }
        let noise = noise_of_a_cell(mates.len() + 1, self.uncertainty);
        Some((Self::median_of(&mates)?, Limit::widened(Points::new(MATES_POINTS), noise), false))
    }

    /// RD-3 for a reading of this cell.
    pub fn question(
        &self,
        cell: CellAddress,
        read: SpecificGravity,
        corrected: SpecificGravity,
    ) -> Option<Question> {
        if bounds::GRAVITY_UNQUESTIONED.check(read.value()).is_err() {
            return Some(Question::OutsideUsual { read });
        }
        let (middle, limit, by_history) = self.unquestioned_corrected(cell)?;
        let off = corrected - middle;
        if off.abs() <= limit.used {
            return None;
        }
        if !by_history {
            return Some(Question::FarFromMates { deviation: off, limit });
        }
        let days = self.last(cell).map_or(0.0, |last| last.days);
        Some(Question::Moved { change: off, days, limit, neighbours: self.neighbours_moved(cell) })
    }

    /// Largest move among the cells next to this one on the path that have a history.
    fn neighbours_moved(&self, cell: CellAddress) -> Option<Points> {
        let path = crate::bank::walk(&self.round.shape.plan(), false);
        let at = path.iter().position(|c| *c == cell)?;
        let next_to = [at.checked_sub(1), Some(at + 1)].into_iter().flatten().filter_map(|i| path.get(i));
        let mates = self.mates(cell);
        let middle = Self::median_of(&mates)?;
        next_to
            .filter_map(|mate| {
                let (_, sg) = mates.iter().find(|(c, _)| c == mate)?;
                Some(((*sg - middle) - self.last(*mate)?.deviation).abs())
            })
            .reduce(Points::max)
    }

    /// What a reading would mean, before it is stored.
    pub fn preview(
        &self,
        cell: CellAddress,
        read: SpecificGravity,
        temperature: Option<Temperature>,
    ) -> Preview {
        let corrected = self.round.correct(cell, read, temperature);
        let mates = self.mates(cell);
        let median = Self::median_of(&mates);
        let mut with = mates.clone();
        with.push((cell, corrected));
        let last = self.last(cell);
        Preview {
            cell,
            read,
            corrected,
            correction: corrected - read,
            median,
            deviation: median.map(|m| corrected - m),
            last,
            change: last.map(|l| corrected - l.corrected),
            spread: spread(&with),
            spread_without: spread(&mates),
            question: self.question(cell, read, corrected),
        }
    }

    /// The readings as shown that would raise no question at this cell.
    pub fn unquestioned(&self, cell: CellAddress) -> UnquestionedRange {
        let usual = bounds::GRAVITY_UNQUESTIONED;
        let (mut low, mut high) = (usual.low, usual.high);
        if let Some((middle, limit, _)) = self.unquestioned_corrected(cell) {
            // The correction hardly depends on the gravity, so its value at the middle undoes it.
            let correction = (self.round.correct(cell, middle, None) - middle).value() / 1000.0;
            low = low.max(middle.value() - limit.used.value() / 1000.0 - correction);
            high = high.min(middle.value() + limit.used.value() / 1000.0 - correction);
        }
        UnquestionedRange { low: SpecificGravity::corrected(low), high: SpecificGravity::corrected(high) }
    }

    /// Every stored reading that is still in question: not yet confirmed by the technician.
    pub fn open_questions(&self) -> Vec<(CellAddress, Question)> {
        self.readings
            .iter()
            .filter(|record| !record.stands)
            .filter_map(|record| {
                let CellReading::Gravity { read } = record.reading else { return None };
                let corrected = self.round.corrected(record)?;
                self.question(record.cell, read, corrected).map(|q| (record.cell, q))
            })
            .collect()
    }
}
