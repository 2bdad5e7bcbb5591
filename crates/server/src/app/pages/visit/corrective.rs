//! What was done about what was measured, in the steps that measure.

use super::VisitContext;
use rainshadow_core::bank::string_letter;
use rainshadow_core::visit::{Corrected, CorrectiveAction, Measurement, PastVisit, Place};
use rainshadow_core::wording;
use serde::Serialize;
use utoipa::ToSchema;

/// One thing that was done.
#[derive(Debug, Serialize, ToSchema)]
pub struct CorrectedView {
    /// The entry.
    pub entry: String,
    /// Where, in words.
    pub place_said: String,
    /// What, and how it was left: "Charged by itself; 12.71 V at rest after it"
    pub said: String,
    /// By whom and when.
    pub by: String,
}

/// A choice of the form.
#[derive(Debug, Serialize, ToSchema)]
pub struct ActionChoice {
    /// Which.
    pub action: CorrectiveAction,
    /// "charged by itself".
    pub said: &'static str,
}

/// A place that something can be done at.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlaceChoice {
    /// "A3"; empty for the bank.
    pub place: String,
    /// In words.
    pub said: String,
}

/// What was done about what a step measured.
#[derive(Debug, Serialize, ToSchema)]
pub struct CorrectiveView {
    /// Which measurement.
    pub measurement: Measurement,
    /// What was done on this visit.
    pub done: Vec<CorrectedView>,
    /// What the last visit that did something about it did, with its day.
    pub last_time: Vec<String>,
    /// What can be done.
    pub actions: Vec<ActionChoice>,
    /// Where, those that something was found at first.
    pub places: Vec<PlaceChoice>,
}

impl VisitContext {
    /// What was done about what was measured so.
    pub(super) fn corrective(&self, measurement: Measurement) -> CorrectiveView {
        let of = |own: &Corrected<'_>| own.measurement == measurement;
        let done = self.sheet.corrected().into_iter().filter(of).map(|own| CorrectedView {
            entry: own.entry.id.clone(),
            place_said: wording::sentence(&own.entry.place.said()),
            said: wording::sentence(&wording::corrected_and_left(&own)),
            by: self.signed(own.entry),
        });
        let before = |visit: &PastVisit| -> Vec<String> {
            let day = crate::words::day(visit.day);
            let own = visit.sheet.corrected().into_iter().filter(of);
            own.map(|own| format!("{}, {day}", wording::corrected_at(&own))).collect()
        };
        CorrectiveView {
            measurement,
            done: done.collect(),
            last_time: self.past.iter().rev().map(before).find(|all| !all.is_empty()).unwrap_or_default(),
            actions: CorrectiveAction::ALL
                .iter()
                .map(|action| ActionChoice { action: *action, said: wording::corrective_action(*action) })
                .collect(),
            places: self.places(measurement),
        }
    }

    fn places(&self, measurement: Measurement) -> Vec<PlaceChoice> {
        let shape = &self.bank.shape;
        let strings = (0..shape.parallel).filter(|_| shape.parallel > 1).map(Place::String);
        let batteries = shape.batteries().map(Place::Battery);
        let all: Vec<Place> = batteries.chain(strings).chain([Place::Bank]).collect();
        let findings = match measurement {
            Measurement::RestVolts => self.electrical_findings(),
            Measurement::Gravity => self.judged().map(|judged| judged.findings.clone()).unwrap_or_default(),
        };
        let asks = |place: &Place| match place {
            Place::Battery(battery) => findings.iter().any(|f| f.subject.battery() == Some(*battery)),
            Place::String(string) => {
                let letter = string_letter(*string);
                findings.iter().any(|f| f.subject == rainshadow_core::finding::Subject::String(letter))
            }
            _ => false,
        };
        let (first, rest): (Vec<Place>, Vec<Place>) = all.into_iter().partition(asks);
        first
            .into_iter()
            .chain(rest)
            .map(|place| PlaceChoice { place: place.to_string(), said: wording::place_chosen(place) })
            .collect()
    }
}
