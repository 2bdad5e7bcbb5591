//! Everything that is known of a bank, read once for its state.

use super::charger::equipment_findings;
use super::records::judged::BankRecord;
use super::rules::rules_of;
use super::run_outcomes::non_responding_of;
use super::standing::{Standing, standing};
use super::water_ahead::WaterAhead;
use crate::db::came::{came_after_volts, changed_since};
use crate::db::due::{postponed, reminders};
use crate::db::visit_entries::past_visits;
use crate::db::{
    BankRow, Connection, DbError, EquipmentRow, ModelRow, RoundRow, RunRow, Site, VisitRow, assessments,
    rounds, visits,
};
use crate::words;
use jiff::ToSpan;
use jiff::civil::Date;
use rainshadow_core::finding;
use rainshadow_core::round::Assessment;
use rainshadow_core::schedule::{
    BankFacts, Duty, Habits, JudgedRound, OpenFinding, RoundCharge, WaterDates, never_full, on_the_move,
};
use rainshadow_core::visit::{
    Gravities, Judged, PastVisit, Work, at_plates, bare_found, charged_for_storage, gravities, kit_fills,
    last_done, last_electrical, last_test, last_torqued, last_volts, last_water_check,
    open_electrical_findings, open_findings, open_joint_findings, open_rechecks, open_test_findings,
    open_unproven, plates_bare, recharge_owed, stored_since,
};
use rainshadow_core::water::WaterForecast;

/// Everything that is known of a bank.
pub(crate) struct Known {
    /// What its due items are worked out from.
    pub facts: BankFacts,
    /// The forecast of the next fill, with the day it counts from.
    pub ahead: Option<(Date, WaterForecast)>,
    /// Its visits, oldest first.
    pub visits: Vec<PastVisit>,
    /// Its last round as it stands.
    pub standing: Option<Standing>,
    /// Gravities by battery of the visit with the last volts.
    pub gravities: Gravities,
}

/// The last finished round: what it asks for, and how it stands.
struct Last {
    round: Option<JudgedRound>,
    standing: Option<Standing>,
}

/// The last finished round as judged, with the charge of the one before.
fn last(db: &Connection, bank: &str) -> Result<Last, DbError> {
    let rounds = RoundRow::of_bank(db, bank)?;
    let mut finished = rounds.iter().filter(|r| r.finished_at.is_some());
    let Some(newest) = finished.next() else { return Ok(Last { round: None, standing: None }) };
    let standing = standing(db, newest)?;
    let charge = |round: &RoundRow, judged: Option<&Assessment>| RoundCharge {
        percent: judged.and_then(|a| Some(a.state_of_charge?.percent)),
        proven_full: round.conditions.is_proven_full(),
    };
    let mut charges = vec![charge(newest, standing.as_ref().map(|s| &s.assessment))];
    if let Some(before) = finished.next() {
        charges.push(charge(before, assessments::derived(db, &before.id)?.as_ref()));
    }
    let mut round = standing.as_ref().map(|s| JudgedRound::of(newest.day(), &s.assessment));
    if RunRow::equalized_since(db, bank, newest.started_at)? {
        round = round.map(JudgedRound::answered);
    }
    let round = round.map(|judged| JudgedRound { never_full: never_full(&charges), ..judged });
    Ok(Last { round, standing })
}

/// Gravities of the round that was taken on the visit of the last volts; none where batteries were
/// moved since.
fn gravities_of_last_volts(
    db: &Connection,
    bank: &BankRow,
    visits: &[PastVisit],
) -> Result<Gravities, DbError> {
    let rows = VisitRow::of_bank(db, &bank.id)?;
    let Some(visit) = last_electrical(visits).and_then(|last| rows.get(last)) else {
        return Ok(Gravities::new());
    };
    let Some(round) = RoundRow::of_visit(db, &visit.id)?.into_iter().rfind(|r| r.finished_at.is_some())
    else {
        return Ok(Gravities::new());
    };
    if changed_since(db, &round)? {
        return Ok(Gravities::new());
    }
    Ok(assessments::derived(db, &round.id)?.as_ref().map(gravities).unwrap_or_default())
}

/// Day of the last round that was proven full.
fn last_full_round(db: &Connection, bank: &str) -> Result<Option<Date>, DbError> {
    let rounds = RoundRow::of_bank(db, bank)?;
    let full = |r: &&RoundRow| r.finished_at.is_some() && r.conditions.is_proven_full();
    Ok(rounds.iter().find(full).map(RoundRow::day))
}

fn later(day: Date, days: f64) -> Date {
    #[expect(clippy::cast_possible_truncation, reason = "clamped to a hundred years")]
    let whole = days.clamp(-36_500.0, 36_500.0).floor() as i64;
    day.checked_add(whole.days()).unwrap_or(day)
}

/// Reads everything that is known of a bank.
pub(crate) fn known(db: &Connection, bank: &BankRow) -> Result<Known, DbError> {
    let site = Site::by_id(db, &bank.site_id)?;
    let model = ModelRow::by_id(db, &bank.model_id)?;
    let rules = rules_of(db, bank)?;
    let visits = past_visits(db, bank)?;
    let water = WaterAhead::read(db, bank, &site)?;
    // Dates are absolute, so the list keeps from day to day: counted from the last look.
    let from = visits.last().map(|v| v.day);
    let ahead = from.and_then(|day| Some((day, water.forecast(&visits, bank, &model, day)?)));
    let postponed = postponed(db, &bank.id)?;
    let Last { round, standing } = last(db, &bank.id)?;
    let came = standing.as_ref().map(|s| s.came.clone()).unwrap_or_default();
    let known_since = BankRow::known_since(db, &bank.id)?;
    let non_responding = non_responding_of(db, bank)?;
    let judged_by = Judged { shape: &bank.shape, model: &model, rules: &rules };
    let gravities = gravities_of_last_volts(db, bank, &visits)?;
    let electrical = open_electrical_findings(&visits, judged_by, &gravities);
    let tested = open_test_findings(&visits, judged_by, Duty::of(&bank.duty));
    let wiring = EquipmentRow::of_bank(db, &bank.id)?.fitted.equipment.wiring;
    let joints = open_joint_findings(&visits, Some(&wiring), judged_by);
    let given_up = finding::equalize::given_up(&non_responding)
        .into_iter()
        .zip(non_responding.iter().filter(|c| c.is_given_up()));
    let given_up = given_up.map(|(finding, cell)| OpenFinding { day: cell.last, finding });
    let last_round = round.as_ref().map(|r| r.day);
    let last_full = last_full_round(db, &bank.id)?;
    let equipment = equipment_findings(db, bank, &model, &site.zone)?;
    let recorded = recorded_findings(db, bank, &site.zone, last_full)?;
    let facts = BankFacts {
        duty: Duty::of(&bank.duty),
        on_the_move: on_the_move(&format!("{} {}", bank.duty, site.kind)),
        season: bank.season(),
        wet_season: site.wet_season,
        first_frost: site.first_frost,
        known_since,
        round,
        came: if model.construction.has_caps() { came } else { came_after_volts(db, &bank.id)? },
        last_volts: last_volts(&visits),
        last_water_check: last_water_check(&visits),
        last_equalize: last_equalize(db, &visits, &bank.id)?,
        last_retorque: last_done(&visits, &[Work::Retorqued, Work::Cleaned])
            .into_iter()
            .chain(last_torqued(&visits, judged_by))
            .max(),
        last_test: last_done(&visits, &[Work::LoadTested, Work::CapacityTested])
            .into_iter()
            .chain(last_test(&visits))
            .max(),
        recharge_owed: recharge_owed(&visits, last_full),
        last_standby_check: last_done(&visits, &[Work::StandbyChecked]),
        charged_for_storage: charged_for_storage(&visits),
        stored_since: stored_since(&visits),
        last_storage_check: last_done(&visits, &[Work::StorageChecked]),
        water: ahead.as_ref().map(|(day, f)| WaterDates {
            p10: later(*day, f.days.p10),
            p50: later(*day, f.days.p50),
            p90: later(*day, f.days.p90),
            cell: f.cell,
            per_day: f.per_day_now(),
            fills: f.consumption.fills,
            basis: f.basis,
        }),
        plates_bare: plates_bare(&visits, &bank.shape, &model),
        at_plates: at_plates(&visits, &bank.shape, &model),
        bare_found: bare_found(&visits, &bank.shape, &model),
        kit_fills: kit_fills(&visits),
        findings: open_findings(&visits)
            .into_iter()
            .chain(electrical)
            .chain(tested)
            .chain(joints)
            .chain(open_unproven(&visits, judged_by))
            .chain(given_up)
            .chain(equipment)
            .chain(recorded)
            .collect(),
        rechecks: open_rechecks(&visits, last_round),
        reminders: reminders(db, &bank.id)?,
        postponed,
        habits: Habits {
            rounds: rounds::minutes_of_rounds(db, &bank.id)?,
            fills: visits::minutes_of_fills(db, &bank.id)?,
        },
        non_responding,
        shape: bank.shape.clone(),
        model,
        rules,
    };
    Ok(Known { facts, ahead, visits, standing, gravities })
}

/// What the record of the charging shows and nothing answered since: a full charge that a round proved, or equipment that
/// was told anew.
fn recorded_findings(
    db: &Connection,
    bank: &BankRow,
    zone: &str,
    last_full: Option<Date>,
) -> Result<Vec<OpenFinding>, DbError> {
    let Some(record) = BankRecord::of(db, bank)? else { return Ok(Vec::new()) };
    let Some(judged) = record.last_year(db)? else { return Ok(Vec::new()) };
    let day = record.last_day();
    let told = EquipmentRow::versions(db, &bank.id)?.last().map(|(at, _)| words::local_day(*at, zone));
    let all = finding::charging_record::findings(&judged, &record.bank).into_iter();
    let stands = all.filter(|own| !finding::charging_record::is_answered(own, day, last_full, told));
    Ok(stands.map(|finding| OpenFinding { day, finding }).collect())
}

/// The last equalize: a run that ended by the rule or at its cap, or one that was noted.
pub(crate) fn last_equalize(
    db: &Connection,
    visits: &[PastVisit],
    bank: &str,
) -> Result<Option<Date>, DbError> {
    let ran = RunRow::last_equalize(db, bank)?;
    Ok(last_done(visits, &[Work::Equalized]).into_iter().chain(ran).max())
}
