//! The diagnosis of a bank by everything on record of it (DG-1).

use super::charger::equipment_judged;
use super::records::judged::BankRecord;
use super::rules::rules_of;
use super::standing::standing;
use crate::db::{BankRow, Connection, DbError, ModelRow, RoundRow, assessments};
use jiff::civil::Date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::diagnosis::{
    Diagnosis, Measurement, NextMeasurement, READ_KEEPS, Weights, diagnose, next_measurements, signs,
};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::life::design_life;
use rainshadow_core::round::Assessment;
use rainshadow_core::visit::{
    CheckedInstrument, Judged, OnRecord, PastDischarge, PastVisit, RoundOnRecord, diagnosis_evidence,
    past_discharges, step_that_measures,
};

/// What a bank may have, and what it was told from.
pub(crate) struct Diagnosed {
    /// Ranked.
    pub diagnosis: Diagnosis,
    /// What could be measured next, the most settled per minute first.
    pub next: Vec<NextMeasurement>,
    /// Its battery model.
    pub model: BatteryModel,
    /// Timed discharges of the past, oldest first.
    pub discharges: Vec<PastDischarge>,
    /// The table it was weighed by.
    pub weights: Weights,
    /// The house rules it was weighed by.
    pub house: HouseRules,
}

fn days_until(day: Date, today: Date) -> i32 {
    day.until(today).map_or(0, |span| span.get_days())
}

/// Finished rounds that still count, oldest first, as they stand for the batteries that are there now.
fn rounds(db: &Connection, bank: &str, today: Date) -> Result<Vec<(RoundRow, Assessment)>, DbError> {
    let counts =
        |round: &RoundRow| round.finished_at.is_some() && days_until(round.day(), today) <= READ_KEEPS;
    let mut all = Vec::new();
    for (at, round) in RoundRow::of_bank(db, bank)?.into_iter().filter(counts).enumerate() {
        let judged = if at == 0 {
            standing(db, &round)?.map(|own| own.assessment)
        } else {
            assessments::derived(db, &round.id)?
        };
        all.extend(judged.map(|judged| (round, judged)));
    }
    all.reverse();
    Ok(all)
}

/// Diagnoses a bank by what is on record of it; `visits` are its own, oldest first.
pub(crate) fn diagnosed_by(
    db: &Connection,
    bank: &BankRow,
    visits: &[PastVisit],
    today: Date,
) -> Result<Diagnosed, DbError> {
    let model = ModelRow::by_id(db, &bank.model_id)?;
    let rules = rules_of(db, bank)?;
    let judged_by = Judged { shape: &bank.shape, model: &model, rules: &rules };
    let rounds = rounds(db, &bank.id, today)?;
    let on_record: Vec<RoundOnRecord<'_>> = rounds
        .iter()
        .map(|(round, judged)| RoundOnRecord {
            day: round.day(),
            proven_full: round.conditions.is_proven_full(),
            instrument: CheckedInstrument::from(round.instrument.kind).key(),
            judged,
        })
        .collect();
    let equipment = equipment_judged(db, bank, &model)?;
    let record = BankRecord::of(db, bank)?.filter(|own| days_until(own.last_day(), today) <= READ_KEEPS);
    let record = record.map(|own| own.last_year(db)).transpose()?.flatten();
    let beside = OnRecord {
        equipment: equipment.as_ref(),
        record: record.as_ref(),
        age: bank.months_in_service(today).map(|months| months / 12.0),
        design_life: Some(design_life(model.construction)),
    };
    let odd = |why: String| DbError::BadRow { what: "evidence", why };
    let weights = Weights::of_house(&rules.weights).map_err(|e| odd(e.to_string()))?;
    let evidence = diagnosis_evidence(visits, &on_record, judged_by, &beside, today);
    let (signs, made) = signs(&evidence, &bank.shape, &model, &weights).map_err(|e| odd(e.to_string()))?;
    let kind = (model.construction.has_caps(), bank.shape.parallel);
    let diagnosis = diagnose(&signs, kind, &weights).map_err(|e| odd(e.to_string()))?;
    let count = |n: usize| f64::from(u32::try_from(n).unwrap_or(u32::MAX));
    let size = (count(bank.shape.cell_count()), count(bank.shape.batteries().count()));
    // What nothing here keeps would be asked for again for ever.
    let kept = |own: Measurement| own == Measurement::Settings || step_that_measures(own).is_some();
    let mut next = next_measurements(&diagnosis, &made, size, kind, &weights);
    next.retain(|next| kept(next.measurement));
    let discharges = past_discharges(visits, judged_by);
    Ok(Diagnosed { diagnosis, next, model, discharges, weights, house: rules })
}
