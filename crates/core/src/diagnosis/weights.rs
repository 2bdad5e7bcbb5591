//! The table of weights: what each sign says of each hypothesis. It is a document that a technician can read and dispute;
//! the code uses the very same lines.

use super::{Group, Hypothesis, Measurement};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::LazyLock;
use thiserror::Error;

const TABLE: &str = include_str!("weights.tsv");
/// Weights that can be, points (our choice, no source).
pub const MOST: i8 = 9;

/// One line: a sign, and what it says.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Row {
    /// Group of evidence: of each group the strongest sign counts.
    pub group: Group,
    /// The measurement that shows it.
    pub measurement: Measurement,
    /// True for what a sound bank shows: it speaks against faults and never for one.
    pub normal: bool,
    /// Its key: `one_cell_low`.
    pub sign: String,
    /// In words.
    pub words: String,
    /// Points for (more than zero) or against each hypothesis; what is not named gets none.
    pub weights: BTreeMap<Hypothesis, i8>,
}

/// What is wrong with a line of a table.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("line {line} of the weights: {why}")]
pub struct TableError {
    /// Line, counted from one.
    pub line: usize,
    /// What is wrong, and what is accepted.
    pub why: String,
}

/// Weights of a house that stand in place of those that ship, by sign and hypothesis, points; 0 takes one out.
pub type HouseWeights = BTreeMap<String, BTreeMap<Hypothesis, i8>>;

/// Why a weight of a house cannot be.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum WeightError {
    /// The table has no such sign.
    #[error("there is no sign \u{201c}{sign}\u{201d}; the table of weights names them")]
    NoSuchSign {
        /// As given.
        sign: String,
    },
    /// Too heavy.
    #[error(
        "\u{201c}{words}\u{201d}: {points} is no weight; accepted is -{MOST} to {MOST} points, 0 takes it out"
    )]
    OutOfRange {
        /// The sign in words.
        words: String,
        /// As given.
        points: i8,
    },
    /// What a sound bank shows speaks for no fault.
    #[error(
        "\u{201c}{words}\u{201d}: a sound bank shows that, so it cannot speak for a fault; accepted is -{MOST} to 0 points, not {points}"
    )]
    HealthForAFault {
        /// The sign in words.
        words: String,
        /// As given.
        points: i8,
    },
}

/// A whole table.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Weights {
    rows: Vec<Row>,
}

fn weight(text: &str) -> Result<(Hypothesis, i8), String> {
    let split = text
        .find(['+', '-'])
        .ok_or_else(|| format!("\u{201c}{text}\u{201d} has no sign; accepted is UC+6"))?;
    let (code, points) = text.split_at(split);
    let hypothesis = code.parse().map_err(|_unknown| format!("there is no hypothesis {code}"))?;
    let points: i8 = points.parse().map_err(|_odd| format!("\u{201c}{points}\u{201d} is no weight"))?;
    if points == 0 || points.abs() > MOST {
        return Err(format!("{points} is no weight; accepted is -{MOST} to +{MOST}, not 0"));
    }
    Ok((hypothesis, points))
}

fn row(line: &str) -> Result<Row, String> {
    let fields: Vec<&str> = line.split('\t').collect();
    let [group, measurement, normal, sign, words, weights] = fields.as_slice() else {
        return Err(format!("{} fields are given, and six are wanted", fields.len()));
    };
    let own = Row {
        group: group.parse().map_err(|_unknown| format!("there is no group {group}"))?,
        measurement: measurement
            .parse()
            .map_err(|_unknown| format!("there is no measurement {measurement}"))?,
        normal: *normal == "yes",
        sign: (*sign).to_owned(),
        words: (*words).to_owned(),
        weights: weights.split(' ').map(weight).collect::<Result<_, _>>()?,
    };
    Ok(own)
}

impl Weights {
    /// Reads a table: one line a sign, six fields parted by tabs; lines that begin with # are remarks.
    ///
    /// # Errors
    /// [`TableError`] with the line.
    pub fn parse(text: &str) -> Result<Self, TableError> {
        let mut rows: Vec<Row> = Vec::new();
        for (at, line) in
            text.lines().enumerate().filter(|(_, l)| !l.starts_with('#') && !l.trim().is_empty())
        {
            let wrong = |why| TableError { line: at + 1, why };
            let own = row(line).map_err(wrong)?;
            if rows.iter().any(|other| other.sign == own.sign) {
                return Err(wrong(format!("{} is there twice", own.sign)));
            }
            rows.push(own);
        }
        Ok(Self { rows })
    }

    /// The table that ships.
    pub fn shipped() -> &'static Self {
        static SHIPPED: LazyLock<Weights> =
            LazyLock::new(|| Weights::parse(TABLE).unwrap_or(Weights { rows: Vec::new() }));
        &SHIPPED
    }

    /// Its lines.
    pub fn rows(&self) -> &[Row] {
        &self.rows
    }

    /// The line of a sign.
    pub fn row(&self, sign: &str) -> Option<&Row> {
        self.rows.iter().find(|own| own.sign == sign)
    }

    /// The table with the weights of a house.
    ///
    /// # Errors
    /// [`WeightError`] for a sign that is not there, a weight that cannot be, and a sound bank's sign that would speak
    /// for a fault.
    pub fn of_house(own: &HouseWeights) -> Result<Self, WeightError> {
        let mut table = Self::shipped().clone();
        for (sign, weights) in own {
            let at = table.rows.iter_mut().find(|row| row.sign == *sign);
            let row = at.ok_or_else(|| WeightError::NoSuchSign { sign: sign.clone() })?;
            for (hypothesis, points) in weights {
                let said = || (row.words.clone(), *points);
                if points.abs() > MOST {
                    let (words, points) = said();
                    return Err(WeightError::OutOfRange { words, points });
                }
                if row.normal && *points > 0 && *hypothesis != Hypothesis::Healthy {
                    let (words, points) = said();
                    return Err(WeightError::HealthForAFault { words, points });
                }
                if *points == 0 {
                    row.weights.remove(hypothesis);
                } else {
                    row.weights.insert(*hypothesis, *points);
                }
            }
        }
        Ok(table)
    }
}
