//! Findings to sentences: the only interface text in the core. English ships; every screen, report
//! and command says the same words.
//!
//! Plain sentences with a subject and a consequence. A verdict says what to do, then why; a finding
//! says what was seen, why it matters, what to do, and by which rule.

mod bank;
mod burn_off;
mod capacity;
mod caution;
mod charge;
mod charge_limits;
mod charging_plan;
mod charging_record;
mod check;
mod climate;
mod corrective;
mod diagnosis;
mod diagnosis_lines;
mod discharge;
mod due;
mod equalize;
mod equalize_call;
mod equipment;
mod equipment_due;
mod evidence;
mod feed;
mod finding;
mod instrument;
mod job;
mod joint_work;
mod joints;
mod lead;
mod life;
mod load_test;
mod names;
mod non_responding;
mod owner;
mod path;
mod plates;
mod question;
mod recheck;
mod repair;
mod replacement;
mod replacing;
mod resistance;
mod run;
mod run_figures;
mod run_log;
mod runtime;
mod shape;
mod step_work;
mod storage;
mod strings;
mod test_work;
mod tests;
mod torque;
mod van;
mod verdict;
mod visit;
mod volts;
mod wanted;
mod water_added;

pub use bank::bank_verdict;
pub use burn_off::{TEST_NEEDS, burn_off};
pub use capacity::{capacity_lines, capacity_verdict, discharge_time};
pub use caution::caution;
pub use charge::{
    audit_verdict, audited_stage, distance_rule, effect, opening_rule, setpoint_line, ventilation_line,
};
pub use charge_limits::{charge_limit_lines, never};
pub use charging_plan::{CHARGING_RULE, charging_comes_to, charging_verdict, stay_said};
pub use charging_record::{
    CHARGING_RECORD_RULE, NOTHING_ON_RECORD, TOO_LITTLE_ON_RECORD, charging_record_lines,
    charging_record_verdict, day_on_record, gap_on_record, loads_on_record, minute_on_record,
    period_on_record, read_to_end_lines, read_to_end_verdict,
};
pub use check::{check, check_advice, found_advice, found_kind, found_spare};
pub use climate::{climate_line, forecast_temperatures, record_lows_line};
pub use corrective::{corrected_and_left, corrected_at, corrective_action, measurement, place_chosen};
pub use diagnosis::{
    diagnosis_verdict, evidence_group, hypothesis, hypothesis_place, hypothesis_placed, meanwhile,
    measurement_next, next_said,
};
pub use diagnosis_lines::{
    diagnosis_for_owner, groups as evidence_groups, next_title, next_why, speaks as speaks_said,
    standing as standing_said, weighed_by,
};
pub use discharge::{discharge_alarm, discharge_doubts, discharge_ends, discharge_verdict, mate_condition};
pub use due::{DueReader, SpokenDue, due, minutes, today_verdict};
pub use equalize::{run_advice, run_plan};
pub use equipment::{
    air_line, air_there, connection_line, equipment_verdict, fitting_kind, fitting_line, none_finishes,
    source_change, source_kind, source_line, source_said, surroundings, what_stands_there,
};
pub use equipment_due::{how_to_suit, what_does_not_suit};
pub use evidence::{Evidence, electrolyte, evidence};
pub use feed::feed_said;
pub use finding::{SpokenFinding, spare, speak, speak_all, subject};
pub use instrument::{instrument_checked, instrument_name};
pub use job::{
    job_about, job_name, job_task, job_task_missing, job_task_of, job_task_part, owner_job, polarity_said,
};
pub use joint_work::joint_work;
pub use joints::{
    clamp_said, current_by, joint_name, joints_headline, resistance_known, uneven_does, why_uneven,
    wiring_option,
};
pub use life::{gassing_by, remaining_life, wear_on_record_said, wear_said, years_after};
pub use load_test::{real_load_lines, real_load_verdict, short_load_line, short_load_verdict};
pub use names::{hours_minutes, sentence, short_day, stopped};
pub use non_responding::non_responding_reason;
pub use owner::{
    Seen, owner_condition, owner_finding, owner_plates_dry, owner_plates_reached, owner_verdict,
};
pub use path::{closed_elsewhere, closing_item, closing_none_here, left_as, owner_left_as, step_name, work};
pub use question::question;
pub use recheck::{recheck_title, recheck_when, recheck_why};
pub use repair::{
    found_and_done, found_and_put_right, left, owner_answered, owner_found_and_done, owner_repaired_only,
    repair, repaired, repaired_only,
};
pub use replacement::{
    REPLACEMENT_RULE, SIZE_RULE, cable_said, layout_said, replacement_day, replacement_does,
    replacement_kind, replacement_refused, replacement_reminder, replacement_verdict, size_verdict,
    string_said, torque_for, tubing_by,
};
pub use replacing::{gone, one_new, used_battery, used_match};
pub use resistance::resistances_over_years;
pub use run::{
    end_said, outcome_short, outcome_verdict, rule_said, run_entry_question, run_forecast, run_refused,
    run_span, run_verdict, stop_help, unread_after,
};
pub use run_figures::{Figure, degrees, most_amperes, plan_figures, run_air, run_cap, run_limits, run_water};
pub use run_log::{clock_set, run_entry, run_over, run_title};
pub use runtime::{
    RUNTIME_RULE, STAND_IN_CAUTIONS, capacity_wanted, ended, hours_span, lasting, load_wanted, proof_said,
    runtime_verdict, stand_in_said,
};
pub use step_work::{step_work, visit_looks, volts_state};
pub use storage::{
    STORAGE_CAUTIONS, STORAGE_RULE, apart, coldness, storage_check, storage_recharge, storage_spell,
    storage_verdict, storage_way, way_comes_to,
};
pub use strings::{
    currents_said, joint_line, joints_verdict, share_change, shares_of, shares_said, shares_verdict,
};
pub use test_work::test_work;
pub use tests::{cell_volts_said, cell_volts_when};
pub use torque::torque;
pub use van::gear;
pub use verdict::{round_verdict, verdict};
pub use visit::{entry_question, fill_order, forecast_line, measured_said, seen_kind, seen_words};
pub use volts::{
    charge_range, held_lines, owner_volts, rest_line, volts_state_name, volts_state_said, volts_tell,
    wait_said,
};
pub use water_added::{
    amount_added, fill_way, lamp, poured, spilled, uneven_levels, water_went_in, water_work,
};

pub use wanted::{
    barred_why, before_check, day_plan, house_says, run_kind, run_kind_for, run_kind_name, wanted_reason,
    wanted_verdict,
};

use crate::bank::BankShape;
use crate::battery_model::BatteryModel;
use crate::quantity::Length;
use crate::quantity::units::ReaderUnits;
use crate::round::{Assessment, Doubt, Unusable};
use crate::water::MARGIN_MM;

/// The water that is kept over the plates, in the reader's unit: "10 mm".
fn margin(units: ReaderUnits) -> String {
    length(MARGIN_MM, units)
}

/// A length, mm, in the reader's unit: "12 mm", "0.47 in".
pub fn length(millimetres: f64, units: ReaderUnits) -> String {
    Length::from_millimetres(millimetres).map(|l| units.say_length(l)).unwrap_or_default()
}

/// "48 V flooded, 2 strings of 8 six-volt batteries, 420 Ah each".
pub fn describe_bank(shape: &BankShape, model: &BatteryModel) -> String {
    let volts = names::number_word(usize::from(model.nominal_volts()));
    let strings = if shape.parallel == 1 {
        format!(
            "{} {volts}-volt {} in one string",
            shape.series,
            if shape.series == 1 { "battery" } else { "batteries" }
        )
    } else {
        format!(
            "{} strings of {} {volts}-volt {}",
            shape.parallel,
            shape.series,
            if shape.series == 1 { "battery" } else { "batteries" }
        )
    };
    format!(
        "{} V {}, {strings}, {:.0} Ah each",
        shape.system_voltage,
        model.construction.word(),
        model.c20.ampere_hours()
    )
}

/// Why a round is kept and not judged: "the bank was charging".
pub fn unusable(reason: Unusable) -> &'static str {
    match reason {
        Unusable::Charging => "the bank was charging",
        Unusable::LoadTooRecent => "a heavy load ran less than half an hour before",
        Unusable::Unmixed => "water was added and no gassing charge has mixed it since",
    }
}

/// What is not known, as a sentence.
pub fn doubt(doubt: Doubt) -> &'static str {
    match doubt {
        Doubt::MixUnknown => {
            "Nobody knows whether water was added since the last gassing charge; unmixed cells read high."
        }
        Doubt::TemperatureUnknown => {
            "The electrolyte temperature is not known: gravities stand as read, and fullness is judged with a wide margin."
        }
        Doubt::LoadUnknown => {
            "Nobody knows when the last heavy load ran; cells that have not settled read low."
        }
        Doubt::FullUnproven => "The charge was not proven full, so likeness is judged and fullness is not.",
    }
}

/// How the gravities were brought to one temperature: "corrected to 25 °C".
pub fn correction_line(assessment: &Assessment, units: ReaderUnits) -> String {
    let at = units.say_temperature(assessment.reference_temperature);
    if assessment.temperature_known {
        format!("corrected to {at}")
    } else {
        "as read, temperature unknown".into()
    }
}

/// The line over a round while it is taken: "13 of 24 read, all steady so far."
pub fn progress(assessment: &Assessment, read: usize) -> String {
    let head = format!("{read} of {} read", assessment.cells_in_bank);
    if read == 0 {
        return format!("{head}.");
    }
    if !assessment.usability.judged() {
        return format!("{head}, kept and not judged.");
    }
    let count = |condition| assessment.cells.iter().filter(|c| c.condition == condition).count();
    let parts: Vec<String> = [
        (crate::severity::Severity::Act, "act"),
        (crate::severity::Severity::Watch, "watch"),
        (crate::severity::Severity::Reread, "to re-read"),
    ]
    .into_iter()
    .map(|(condition, word)| (count(condition), word))
    .filter(|(n, _)| *n > 0)
    .map(|(n, word)| format!("{n} {word}"))
    .collect();
    if parts.is_empty() {
        format!("{head}, all steady so far.")
    } else {
        format!("{head}: {}.", parts.join(", "))
    }
}

/// Where a cell is, for a person at the bank: "fourth battery from the + post, second cell".
pub fn place(cell: crate::bank::CellAddress, shape: &BankShape) -> String {
    let string = if shape.parallel > 1 {
        format!("string {}, ", crate::bank::string_letter(cell.battery.string))
    } else {
        String::new()
    };
    let battery = names::ordinal(usize::from(cell.battery.battery));
    let inside = if shape.cells_per_battery > 1 {
        format!(", {} cell from its +", names::ordinal(usize::from(cell.cell)))
    } else {
        String::new()
    };
    sentence(&format!("{string}{battery} battery from the + post{inside}"))
}

/// Where a float stood that could not be read.
pub const fn off_scale(float: crate::round::OffScale) -> &'static str {
    match float {
        crate::round::OffScale::Below => "below the scale",
        crate::round::OffScale::Above => "above the scale",
    }
}

/// Points with their sign: "+4", "−31", "0".
pub fn signed(points: crate::quantity::Points) -> String {
    if points.value().round() > 0.0 { format!("+{points}") } else { points.to_string() }
}

/// Points with sign and unit: "+1 point", "−31 points".
pub fn signed_points(points: crate::quantity::Points) -> String {
    let unit = if (points.value().round().abs() - 1.0).abs() < 0.5 { "point" } else { "points" };
    format!("{} {unit}", signed(points))
}
