//! Judgement of rounds: RD-1 to RD-8 on banks worked out by hand.

use crate::common::{cell, past, round, settled, sg, shape};
use rainshadow_core::finding::{Certainty, RoundFinding, RuleId};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::Voltage;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::round::{
    BalanceVerdict, CellReading, CellRecord, Doubt, Level, Question, RoundTemperature, RoundToJudge,
    RunningRound, Shape, Side, Unusable, WaterAdded, judge,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording;

/// Twelve cells around 1.262 with the fifth at the given value.
fn twelve(fifth: f64) -> RoundToJudge {
    let cells = [263.0, 261.0, 262.0, 264.0, fifth, 262.0, 260.0, 263.0, 261.0, 262.0, 264.0, 262.0];
    round(shape(3, 4, 1), &cells.map(|c| 1000.0 + c))
}

#[test]
fn an_even_bank_is_steady_and_says_so() {
    let a = judge(&twelve(262.0));
    assert_eq!((a.condition, a.shape.clone()), (Severity::Steady, Shape::Even));
    assert_eq!(a.centre, Some(sg(1.262)));
    assert_eq!(a.balance.unwrap().verdict, BalanceVerdict::Even);
    assert_eq!(a.level, Some(Level::Full));
    assert_eq!(
        wording::verdict(&a, ReaderUnits::default()),
        "The bank is even: all 12 cells lie within 4 points. Nothing to do before the next round."
    );
}

#[test]
fn an_even_bank_that_is_far_from_full_is_not_called_done() {
    // SG-2, general table: 1.225 is 75 %
    let mut low = round(shape(3, 4, 1), &[1225.0; 12]);
    low.conditions.proven_full = None;
    assert_eq!(
        wording::verdict(&judge(&low), ReaderUnits::default()),
        "Charge fully, then read: the bank stands 40 points under full, and nobody knows that it was full."
    );
    // near full, or proven full, it is
    let mut near = round(shape(3, 4, 1), &[1255.0; 12]);
    near.conditions.proven_full = None;
    let said = wording::verdict(&judge(&near), ReaderUnits::default());
    assert_eq!(said, "The bank is even: all 12 cells read the same. Nothing to do before the next round.");
    // an empty word is no proof
    low.conditions.proven_full = Some("  ".into());
    assert_eq!(judge(&low).level, None);
}

#[test]
fn a_cell_38_points_low_leads_alone_and_the_spread_it_makes_stands_under_it() {
    let a = judge(&twelve(224.0));
    assert_eq!(a.shape, Shape::LoneCell { cell: cell("A2-2"), side: Side::Low });
    let b = a.cells.iter().find(|c| c.cell == cell("A2-2")).unwrap();
    assert!((b.deviation.unwrap().value() + 38.0).abs() < 1e-6);
    assert_eq!(b.condition, Severity::Watch, "38 points are short of the suspect limit of 50");
    // 264 − 224 = 40 points; noise explains 4.6 · 3.33 = 15.3, so the limits are √(15² + 15.3²) and √(30² + 15.3²)
    let balance = a.balance.unwrap();
    assert!((balance.spread.value() - 40.0).abs() < 1e-6);
    assert!((balance.watch.used.value() - 21.44).abs() < 0.01);
    assert!((balance.equalize.used.value() - 33.68).abs() < 0.01);
    assert_eq!(balance.verdict, BalanceVerdict::Equalize);
    assert_eq!(a.condition, Severity::Act);
    assert_eq!(
        wording::verdict(&a, ReaderUnits::default()),
        "Equalize with cell A2-2 as the pilot: it stands alone, 38 points below an even bank."
    );
    let [cell, spread] = [&a.findings[0], &a.findings[1]].map(|f| wording::speak(f, ReaderUnits::default()));
    assert_eq!((cell.explained_by, spread.explained_by), (None, Some(cell.id)));
    assert!(cell.advice.starts_with("Equalize with A2-2 as the pilot."), "{}", cell.advice);
    assert_eq!(
        spread.rule,
        "RD-4, balance of the bank: limit 30 points (Maker first), 34 with this instrument"
    );
    assert!(spread.others.contains("Light touch would watch it."), "{}", spread.others);
}

#[test]
fn without_a_proven_full_charge_the_advice_is_to_charge_first() {
    let mut r = twelve(224.0);
    r.conditions.proven_full = None;
    let a = judge(&r);
    assert!(wording::verdict(&a, ReaderUnits::default()).starts_with("Charge fully, then equalize"));
    assert_eq!(a.level, None, "only a proven-full round judges fullness");
    assert!(a.usability.doubts.contains(&Doubt::FullUnproven));
}

#[test]
fn a_cell_50_points_low_is_a_suspect_and_its_finding_names_limit_and_other_houses() {
    let a = judge(&twelve(211.0));
    let finding =
        a.findings.iter().find(|f| matches!(f.of_round(), Some(RoundFinding::SuspectCell { .. }))).unwrap();
    assert_eq!((finding.rule, finding.severity), (RuleId::Rd8, Severity::Act));
    assert_eq!(finding.certainty, Certainty::NearLimit);
    assert!(finding.other_houses.iter().any(|o| o.name == "Light touch" && o.condition == Severity::Watch));
    assert_eq!(
        wording::verdict(&a, ReaderUnits::default()),
        "Equalize with cell A2-2 as the pilot: it stands 51 points below the bank."
    );
}

#[test]
fn a_cell_that_sank_for_a_year_acts_at_half_the_suspect_limit() {
    let mut r = twelve(231.0);
    // 24 points a year over six rounds, two months apart, then today's −31; √(10² + 9.2²) = 13.6 is the
    // steady band, left 240 days ago
    r.past = (1..=6)
        .map(|i| {
            let mut d = [1.0, -1.0, 0.0, 2.0, 0.0, 0.0, -2.0, 1.0, -1.0, 0.0, 2.0, 0.0];
            d[4] = -31.0 + 4.0 * f64::from(i);
            past(&r.shape, 60.0 * f64::from(i), &d)
        })
        .collect();
    let a = judge(&r);
    let worst = a.cells.iter().find(|c| c.cell == cell("A2-2")).unwrap();
    assert_eq!(worst.condition, Severity::Act);
    let sinking = worst.sinking.unwrap();
    assert_eq!(sinking.rounds, 7);
    assert!((sinking.points_per_year.value() + 24.35).abs() < 0.1, "{sinking:?}");
    assert!((worst.change.unwrap().value() + 4.0).abs() < 1e-6);
    assert_eq!(
        wording::verdict(&a, ReaderUnits::default()),
        "Test cell A2-2: it has sunk 31 points below the bank, and the gap has grown for 8 months."
    );
}

#[test]
fn charging_load_or_fresh_water_keep_a_round_from_judgement() {
    for (set, reason) in [
        ((|r: &mut RoundToJudge| r.conditions.charging = true) as fn(&mut RoundToJudge), Unusable::Charging),
        (|r| r.conditions.hours_since_load = Some(0.2), Unusable::LoadTooRecent),
        (|r| r.conditions.water_added = WaterAdded::Yes, Unusable::Unmixed),
    ] {
        let mut r = twelve(200.0);
        set(&mut r);
        let a = judge(&r);
        assert_eq!(a.usability.unusable, [reason]);
        assert_eq!((a.condition, a.centre, a.cells_judged), (Severity::NoReading, None, 0));
        assert!(a.cells.iter().all(|c| c.read.is_some()), "the figures stay on record");
        assert!(wording::verdict(&a, ReaderUnits::default()).starts_with("Kept, not judged"));
    }
}

#[test]
fn an_unknown_temperature_is_judged_with_a_wider_limit_of_fullness() {
    let mut r = twelve(262.0);
    for record in &mut r.readings {
        let CellReading::Gravity { read } = record.reading else { unreachable!() };
        record.reading = CellReading::Gravity { read: sg(read.value() - 0.012) };
    }
    // 13 points under 1.265: low at a known 25 °C ...
    let known = judge(&r);
    assert_eq!(known.level, Some(Level::Low));
    // ... but the temperature alone could explain 14.
    r.conditions.temperature = RoundTemperature::Unknown;
    let unknown = judge(&r);
    assert_eq!(unknown.level, Some(Level::Full));
    assert!(unknown.usability.doubts.contains(&Doubt::TemperatureUnknown));
    assert!(unknown.uncertainty.gravity > known.uncertainty.gravity);
}

#[test]
fn a_bank_above_full_is_told_to_check_levels_and_never_to_mix() {
    let mut r = twelve(262.0);
    for record in &mut r.readings {
        record.reading = CellReading::Gravity { read: sg(1.285) };
    }
    let a = judge(&r);
    assert_eq!(a.level, Some(Level::High));
    let said = wording::speak(&a.findings[0], ReaderUnits::default());
    assert_eq!(a.findings[0].rule, RuleId::Sg6);
    assert!(said.advice.contains("Do not mix"), "{}", said.advice);
}

#[test]
fn a_battery_low_as_a_whole_is_named_instead_of_its_cells() {
    let cells = [263.0, 262.0, 264.0, 262.0, 263.0, 261.0, 236.0, 234.0, 237.0, 263.0, 262.0, 264.0];
    let a = judge(&round(shape(3, 4, 1), &cells.map(|c| 1000.0 + c)));
    assert_eq!(a.shape, Shape::Battery { battery: "A3".parse().unwrap() });
    assert!(a.findings.iter().any(|f| matches!(f.of_round(), Some(RoundFinding::LowBattery { .. }))));
    assert!(
        !a.findings.iter().any(|f| matches!(f.of_round(), Some(RoundFinding::LowCells { .. }))),
        "named once"
    );
}

#[test]
fn two_low_neighbours_in_one_case_are_a_pair_and_two_in_different_cases_are_not() {
    let mut cells = [262.0; 12];
    (cells[3], cells[4]) = (240.0, 241.0);
    let pair = judge(&round(shape(3, 4, 1), &cells.map(|c| 1000.0 + c)));
    assert_eq!(pair.shape, Shape::Pair { cells: [cell("A2-1"), cell("A2-2")] });
    let mut apart = [262.0; 12];
    (apart[2], apart[3]) = (240.0, 241.0);
    let cells = vec![cell("A1-3"), cell("A2-1")];
    let apart = judge(&round(shape(3, 4, 1), &apart.map(|c| 1000.0 + c))).shape;
    assert_eq!(apart, Shape::Cells { cells, side: Side::Low });
}

#[test]
fn a_string_low_as_a_whole_is_named() {
    let mut cells = [1264.0; 18];
    cells[12..].fill(1244.0);
    let a = judge(&round(shape(3, 2, 3), &cells));
    assert_eq!(a.shape, Shape::String { letter: 'C' });
}

#[test]
fn settled_volts_that_gravity_does_not_bear_out_are_a_finding() {
    let mut r = twelve(262.0);
    // 1.262 leads to 2.1115 V by Bode (from the published curve): 25.34 V for twelve cells
    r.conditions.rest_volts = Some(Voltage::from_volts(25.34).unwrap());
    assert!(!judge(&r).rest.unwrap().disagrees);
    r.conditions.rest_volts = Some(Voltage::from_volts(25.00).unwrap());
    let a = judge(&r);
    assert!(a.rest.unwrap().disagrees);
    assert_eq!(a.condition, Severity::Watch);
    r.conditions.hours_since_charge = Some(2.0);
    assert!(!judge(&r).rest.unwrap().disagrees, "two hours after charge volts do not count");
}

#[test]
fn a_float_below_the_scale_acts_and_stays_out_of_the_centre() {
    let mut r = twelve(262.0);
    r.readings[4].reading = CellReading::BelowScale;
    let a = judge(&r);
    assert_eq!(a.cells_judged, 11);
    assert_eq!(a.condition, Severity::Act);
    assert!(
        wording::verdict(&a, ReaderUnits::default()).contains("A2-2"),
        "{}",
        wording::verdict(&a, ReaderUnits::default())
    );
}

#[test]
fn an_unread_cell_is_said_with_its_reason_and_does_not_make_the_bank_unread() {
    let mut r = twelve(262.0);
    r.readings[4].reading = CellReading::NotRead { reason: "vent cap seized".into() };
    let a = judge(&r);
    assert_eq!(a.condition, Severity::Steady);
    let said = wording::speak(&a.findings[0], ReaderUnits::default());
    assert_eq!((said.headline.as_str(), said.seen.as_str()), ("A2-2 was not read", "Vent cap seized."));
}

#[test]
fn a_misread_far_from_its_mates_is_questioned_until_it_stands() {
    let mut r = twelve(226.0);
    r.readings[4].stands = false;
    let a = judge(&r);
    let asked = a.cells.iter().find(|c| c.cell == cell("A2-2")).unwrap();
    assert_eq!(asked.condition, Severity::Reread);
    assert!(matches!(asked.question, Some(Question::FarFromMates { .. })));
    assert_eq!(a.balance.unwrap().verdict, BalanceVerdict::Even, "a reading in question makes no spread");
    assert_eq!(wording::verdict(&a, ReaderUnits::default()), "Re-read A2-2 before this round is judged.");
    r.readings[4].stands = true;
    assert_eq!(judge(&r).condition, Severity::Act, "36 points and kept: the spread counts");
}

#[test]
fn history_decides_what_is_questioned_once_there_is_one() {
    let mut r = twelve(246.0);
    r.readings[4].stands = false;
    // 16 points below its mates: no question without history (under 25) ...
    assert_eq!(judge(&r).cells[4].question, None);
    // ... nor when it stood there last time, but it is when it has moved by 16 (limit 15 or 3√2·u = 14.1)
    let mut d = [0.0; 12];
    d[4] = -15.0;
    r.past = vec![past(&r.shape, 30.0, &d)];
    assert_eq!(judge(&r).cells[4].question, None);
    d[4] = 0.0;
    r.past = vec![past(&r.shape, 30.0, &d)];
    let Some(Question::Moved { change, days, .. }) = judge(&r).cells[4].question else { panic!("not asked") };
    assert!((change.value() + 16.0).abs() < 1e-6 && (days - 30.0).abs() < 1e-9);
    // never across an equalize or another instrument
    r.past[0].before_equalize = true;
    assert_eq!(judge(&r).cells[4].question, None);
    r.past[0].before_equalize = false;
    r.past[0].instrument = Instrument::refractometer().kind;
    assert_eq!(judge(&r).cells[4].question, None);
}

#[test]
fn a_small_bank_is_asked_at_the_end_of_the_round_against_the_others() {
    let mut r = round(shape(3, 2, 1), &[1262.0, 1200.0, 1263.0, 1261.0, 1262.0]);
    for record in &mut r.readings {
        record.stands = false;
    }
    assert!(RunningRound::new(&r).open_questions().is_empty(), "five of six are in");
    r.readings.push(CellRecord {
        cell: cell("A2-3"),
        reading: CellReading::Gravity { read: sg(1.262) },
        temperature: None,
        stands: false,
    });
    let asked = RunningRound::new(&r).open_questions();
    assert_eq!(asked.iter().map(|(c, _)| *c).collect::<Vec<_>>(), [cell("A1-2")]);
}

#[test]
fn the_preview_shows_correction_deviation_last_value_and_spread() {
    let mut r = twelve(262.0);
    r.conditions.temperature = RoundTemperature::OneForAll {
        temperature: rainshadow_core::quantity::Temperature::from_celsius(18.0).unwrap(),
    };
    r.readings.truncate(8);
    r.past = vec![past(&r.shape, 16.0, &[0.0; 12])];
    let p = RunningRound::new(&r).preview(cell("A3-3"), sg(1.250), None);
    // 0.00072 · (18 − 25) = −5.04 points; the mates' median 1.262 corrects to 1.25696
    assert!((p.correction.value() + 5.04).abs() < 1e-6);
    assert_eq!(p.corrected.to_string(), "1.245");
    assert!((p.deviation.unwrap().value() + 12.0).abs() < 1e-6);
    assert_eq!(p.last.unwrap().corrected, sg(1.260));
    assert!((p.spread.unwrap().points.value() - 14.0).abs() < 1e-6);
    assert!((p.spread_without.unwrap().points.value() - 4.0).abs() < 1e-6);
    assert_eq!(p.question, None);
}

#[test]
fn the_unquestioned_range_agrees_with_the_question() {
    let mut r = twelve(262.0);
    r.conditions.temperature = RoundTemperature::OneForAll {
        temperature: rainshadow_core::quantity::Temperature::from_celsius(10.0).unwrap(),
    };
    r.readings.truncate(8);
    let running = RunningRound::new(&r);
    let range = running.unquestioned(cell("A3-3"));
    for (read, asked) in [
        (range.low.value() + 0.0005, false),
        (range.low.value() - 0.0005, true),
        (range.high.value() - 0.0005, false),
        (range.high.value() + 0.0005, true),
    ] {
        let preview = running.preview(cell("A3-3"), sg(read), None);
        assert_eq!(preview.question.is_some(), asked, "{read} in {range:?}");
    }
}

#[test]
fn a_round_not_yet_begun_has_no_findings() {
    let mut r = twelve(262.0);
    r.readings.clear();
    let a = judge(&r);
    assert!(a.findings.is_empty());
    assert_eq!(wording::verdict(&a, ReaderUnits::default()), "No cell has a reading yet.");
    assert_eq!(settled(), r.conditions);
}
