//! RD-7 and OH-1: what a rest voltage is worth, who stands apart, which link to look at.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::rest::rest_sheet;
use crate::common::{sg, shape};
use proptest::prelude::*;
use rainshadow_core::battery_model::{BatteryModel, Construction};
use rainshadow_core::finding::rest::findings;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::ohmic::{Against, OhmicReading, OhmicUnit, judge_ohmic, resistance, rise_word};
use rainshadow_core::quantity::Temperature;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{
    Fault, Grade, RestConditions, RestFinding, RestSheet, RestTable, StringVolts, VoltsQuestion,
    battery_volts, charge_of, judge_rest, string_fault, string_volts, volts_question,
};
use rainshadow_core::severity::Severity;
use rainshadow_core::wording::speak;

fn rested(charge: Option<f64>, load: Option<f64>) -> RestConditions {
    RestConditions { hours_since_charge: charge, hours_since_load: load, ..RestConditions::default() }
}

#[test]
fn the_grade_follows_the_hours_of_the_house_rules() {
    let maker = HouseRules::maker_first();
    let of = |charge, load| Grade::of(&rested(charge, load), &maker);
    // RD-7, common practice: 24 h settled, 4 h usable
    assert_eq!(of(Some(24.0), Some(30.0)), Grade::Settled);
    assert_eq!(of(Some(30.0), Some(23.9)), Grade::Usable);
    assert_eq!(of(Some(4.0), Some(4.0)), Grade::Usable);
    assert_eq!(of(Some(3.9), Some(30.0)), Grade::Unsettled);
    assert_eq!(of(None, Some(30.0)), Grade::Unsettled, "nobody knows when it was charged");
    assert_eq!(Grade::of(&rested(Some(12.0), Some(12.0)), &HouseRules::light_touch()), Grade::Settled);
    let burned = RestConditions { surface_charge_removed: true, ..rested(Some(1.0), Some(0.5)) };
    assert_eq!(Grade::of(&burned, &maker), Grade::Usable);
    let early = RestConditions { hours_since_load: Some(0.4), ..burned.clone() };
    assert_eq!(Grade::of(&early, &maker), Grade::Unsettled);
    assert_eq!(Grade::of(&RestConditions { charging: true, ..burned.clone() }, &maker), Grade::OnCharge);
    assert_eq!(Grade::of(&RestConditions { loaded: true, ..burned }, &maker), Grade::UnderLoad);
}

#[test]
fn the_tables_of_the_trade_are_met_at_their_rows() {
    // RD-7 (common practice, no source): 12-volt flooded and AGM at rest
    let middle = |volts: f64, construction| {
        let c = charge_of(volts / 6.0, 0.0, construction, None);
        f64::midpoint(c.low, c.high)
    };
    for (volts, percent) in [(12.2, 50.0), (12.0, 25.0), (12.425, 75.0)] {
        assert!((middle(volts, Construction::Flooded) - percent).abs() < 3.0, "{volts}");
    }
    for (volts, percent) in [(12.6, 75.0), (12.3, 50.0), (12.0, 25.0)] {
        assert!((middle(volts, Construction::Agm) - percent).abs() < 3.0, "{volts}");
    }
    assert!(
        (charge_of(13.2 / 6.0, 0.0, Construction::Agm, None).high - 100.0).abs() < 1e-9,
        "never over full"
    );
    assert!(charge_of(11.0 / 6.0, 0.0, Construction::Flooded, None).high.abs() < 1e-9);
}

#[test]
fn the_models_own_table_wins() {
    // the deep-cycle table prints 2.083 V at 80 % (SG-2, from memory)
    let own = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    let c = charge_of(2.083, 0.0, own.construction, Some(&own));
    assert_eq!(c.table, RestTable::ModelVolts);
    assert!(c.low < 80.0 && c.high > 80.0 && c.high - c.low < 4.0, "{c:?}");
    // no volts printed: gravity by SG-3, 1.225 is 75 % of the general table, 1.225 + 0.845 = 2.070 V
    let general = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    let c = charge_of(2.070, 0.0, general.construction, Some(&general));
    assert_eq!(c.table, RestTable::ModelGravities);
    assert!(c.low < 75.0 && c.high > 75.0, "{c:?}");
}

#[test]
fn just_off_charge_the_range_widens_downwards() {
    let settled = charge_of(2.09, 0.0, Construction::Flooded, None);
    let fresh = charge_of(2.09, 0.02, Construction::Flooded, None);
    assert!(fresh.low < settled.low - 10.0 && (fresh.high - settled.high).abs() < 1e-9);
}

#[test]
fn volts_are_understood_as_people_type_them() {
    let volts = |text: &str, cells: u8| {
        battery_volts(text, cells)
            .map(|v| ((v * 1000.0).round() / 1000.0, volts_question(v, u16::from(cells))))
    };
    for (text, cells, read) in
        [("12.65", 6, 12.65), ("12,65", 6, 12.65), ("1265", 6, 12.65), ("634", 3, 6.34), ("212", 1, 2.12)]
    {
        assert_eq!(volts(text, cells).unwrap(), (read, None), "{text}");
    }
    // volts of a 12 V battery typed into a 6 V one, with and without the point
    for text in ["12.65", "1265"] {
        let said = volts(text, 3).unwrap_err().to_string();
        assert!(said.starts_with("12.65 V is more than 3 cells can show; a 6 V battery"), "{said}");
    }
    // a point that was forgotten is asked about, and where tenths say nothing either another battery is
    let said = volts("123", 6).unwrap_err().to_string();
    assert!(said.ends_with("Is it 12.3 V?"), "{said}");
    assert!(volts("12.65", 3).unwrap_err().to_string().ends_with("or volts of the string?"));
    assert_eq!(volts("10.5", 6).unwrap().1, Some(VoltsQuestion::CellMissing { cells: 1 }));
    assert_eq!(volts("4.2", 3).unwrap().1, Some(VoltsQuestion::CellMissing { cells: 1 }));
    assert_eq!(volts("14.4", 6).unwrap().1, Some(VoltsQuestion::High));
    assert_eq!(volts("0", 6).unwrap().1, Some(VoltsQuestion::Low));
    assert!(volts("-1", 6).unwrap_err().to_string().contains("voltage"));
    assert!(volts("twelve", 6).unwrap_err().to_string().contains("is not a number"));
    assert!((string_volts("50.6", 24).unwrap() - 50.6).abs() < 1e-9);
    assert!((string_volts("5060", 24).unwrap() - 50.6).abs() < 1e-9);
    assert!(string_volts("101", 24).is_err());
}

fn sheet(cells: u8, series: u8, parallel: u8, volts: &[f64]) -> RestSheet {
    rest_sheet(shape(cells, series, parallel), volts)
}

#[test]
fn batteries_of_a_string_within_a_tenth_of_a_volt_on_twelve_are_alike() {
    assert!(judge_rest(&sheet(6, 2, 1, &[12.80, 12.71])).findings.is_empty());
    let apart = judge_rest(&sheet(6, 2, 1, &[12.80, 12.68]));
    assert!(matches!(apart.findings[0], RestFinding::Apart { letter: 'A', .. }), "{apart:?}");
    assert_eq!(apart.condition, Severity::Watch);
    // six-volt cases: half of it
    assert!(judge_rest(&sheet(3, 2, 1, &[6.34, 6.30])).findings.is_empty());
    assert!(!judge_rest(&sheet(3, 2, 1, &[6.34, 6.27])).findings.is_empty());
}

#[test]
fn a_battery_two_volts_short_has_a_dead_cell() {
    let judged = judge_rest(&sheet(6, 2, 1, &[12.75, 10.65]));
    // the median of two lies between them, so three batteries tell it
    assert_eq!(judged.condition, Severity::Act);
    let judged = judge_rest(&sheet(6, 2, 2, &[12.75, 10.65, 12.76, 12.74]));
    assert!(
        matches!(&judged.findings[0], RestFinding::CellsMissing { battery, cells: 1, .. } if battery.to_string() == "A2"),
        "{judged:?}"
    );
}

#[test]
fn a_battery_low_by_no_whole_cell_is_named_before_its_string() {
    // 0.04 V a cell under the median acts: 0.24 V on 12 V (RD-7, sealed batteries)
    let judged = judge_rest(&sheet(6, 2, 2, &[12.85, 12.84, 12.86, 12.60]));
    assert!(
        matches!(&judged.findings[0], RestFinding::BatteryLow { battery, .. } if battery.to_string() == "B2"),
        "{judged:?}"
    );
    assert!(matches!(&judged.findings[1], RestFinding::Apart { letter: 'B', .. }));
    let near = judge_rest(&sheet(6, 2, 2, &[12.85, 12.84, 12.86, 12.62]));
    assert!(!near.findings.iter().any(|f| matches!(f, RestFinding::BatteryLow { .. })), "{near:?}");
}

#[test]
fn a_finding_says_where_another_set_would_judge_otherwise() {
    // 12.36 V a battery is 55 to 57 % of an AGM: deeper than the 40 % that close watch plans for, and
    // neither the 50 % of maker first nor the 60 % of light touch (the table of choices in docs/formulas.md)
    let mut s = sheet(6, 2, 1, &[12.36, 12.36]);
    s.model = BatteryModel::generic_by_key("agm-12v-100").unwrap();
    assert!(findings(&s).is_empty(), "{:?}", findings(&s));
    s.rules = HouseRules::shipped()[1].clone();
    let said: Vec<_> = findings(&s).iter().map(|f| speak(f, ReaderUnits::default())).collect();
    assert!(said[0].headline.contains("% charged"), "{said:?}");
    assert_eq!(said[0].others, "Maker first would let this stand. Light touch would let this stand.");
}

#[test]
fn an_unsettled_reading_tells_no_percentage() {
    let mut s = sheet(3, 4, 1, &[6.36, 6.35, 6.36, 6.35]);
    assert!(judge_rest(&s).charge.is_some());
    s.conditions = rested(Some(1.0), Some(1.0));
    let judged = judge_rest(&s);
    assert_eq!((judged.grade, judged.charge), (Grade::Unsettled, None));
    assert!(judged.batteries.iter().all(|b| b.charge.is_none()));
}

#[test]
fn settled_volts_are_held_against_gravity_per_battery() {
    let mut s = sheet(3, 2, 1, &[6.34, 6.34]);
    s.batteries[0].gravity = Some(sg(1.265));
    // 1.215 leads to 2.068 V a cell by the measured curve (Bode 1977); 6.34/3 is 2.113
    s.batteries[1].gravity = Some(sg(1.215));
    let judged = judge_rest(&s);
    assert_eq!(judged.findings.len(), 1);
    assert!(
        matches!(&judged.findings[0], RestFinding::Disagrees { battery, .. } if battery.to_string() == "A2")
    );
    s.conditions = rested(Some(5.0), Some(5.0));
    assert!(judge_rest(&s).findings.is_empty(), "only settled volts are compared");
}

#[test]
fn a_string_that_reads_a_fraction_names_what_fits() {
    let fault = |volts: f64| string_fault(volts, 50.7, 6.34, None, &[]);
    assert_eq!(fault(50.6), None);
    assert_eq!(fault(48.6), Some(Fault::ShortedCells { cells: 1 }));
    assert_eq!(fault(46.5), Some(Fault::ShortedCells { cells: 2 }));
    assert_eq!(fault(44.36), Some(Fault::BatteryOut));
    assert_eq!(fault(38.0), Some(Fault::BatteryReversed));
    assert_eq!(fault(4.0), Some(Fault::OpenLink { after: None }));
    // every battery is there one by one, the string is not
    assert_eq!(string_fault(31.0, 50.7, 6.34, Some(50.7), &[]), Some(Fault::OpenLink { after: None }));
}

#[test]
fn volts_taken_along_the_string_name_the_link() {
    let mut s = sheet(3, 4, 1, &[6.34, 6.33, 6.34, 6.35]);
    let address = |text: &str| text.parse().unwrap();
    s.strings = vec![StringVolts {
        string: 0,
        volts: 12.7,
        along: vec![
            (address("A1"), 6.34),
            (address("A2"), 12.67),
            (address("A3"), 12.7),
            (address("A4"), 12.7),
        ],
    }];
    let judged = judge_rest(&s);
    let RestFinding::StringShort { fault, .. } = &judged.findings[0] else { panic!("{judged:?}") };
    assert_eq!(*fault, Fault::OpenLink { after: Some(address("A2")) });
    assert_eq!(judged.condition, Severity::Act);
}

#[test]
fn resistance_rises_against_the_own_baseline_or_the_mates() {
    let reading = |battery: &str, milliohms, baseline| OhmicReading {
        battery: battery.parse().unwrap(),
        milliohms,
        baseline,
        baseline_temperature: None,
        case_temperature: None,
    };
    let judged = judge_ohmic(&[
        reading("A1", 4.0, None),
        reading("A2", 4.1, None),
        reading("B1", 5.0, None),
        reading("B2", 6.4, Some(4.0)),
    ]);
    let conditions: Vec<Severity> = judged.iter().map(|j| j.condition).collect();
    assert_eq!(conditions, [Severity::Steady, Severity::Steady, Severity::Steady, Severity::Act]);
    assert_eq!(judged[3].against, Some(Against::OwnFirst));
    assert!((judged[3].rise.unwrap() - 0.6).abs() < 1e-9);
    // conductance is turned into resistance first: 30 % less is 43 % more (OH-1)
    let rise =
        resistance(175.0, OhmicUnit::Siemens).unwrap() / resistance(250.0, OhmicUnit::Siemens).unwrap() - 1.0;
    assert!((rise - 0.428_57).abs() < 1e-4);
    assert_eq!(
        (rise_word(0.19), rise_word(0.2), rise_word(0.3), rise_word(0.5)),
        ("steady", "watch", "investigate", "act")
    );
    assert_eq!(
        judge_ohmic(&[reading("A1", 4.0, None)])[0].condition,
        Severity::NoReading,
        "nothing to compare with"
    );
}

#[test]
fn the_worse_of_first_value_and_mates_counts_and_few_are_held_against_the_lowest() {
    let reading = |battery: &str, milliohms, baseline, celsius: Option<(f64, f64)>| OhmicReading {
        battery: battery.parse().unwrap(),
        milliohms,
        baseline,
        baseline_temperature: celsius.and_then(|(_, then)| Temperature::from_celsius(then).ok()),
        case_temperature: celsius.and_then(|(now, _)| Temperature::from_celsius(now).ok()),
    };
    // its own first value was bad already: its mates tell
    let mut four = ["A1", "A2", "A3"].map(|b| reading(b, 4.0, Some(4.0), None)).to_vec();
    four.push(reading("A4", 6.2, Some(6.0), None));
    let bad = judge_ohmic(&four)[3];
    assert_eq!((bad.against, bad.condition), (Some(Against::MedianOfMates), Severity::Act));
    assert!((bad.reference.unwrap() - 4.0).abs() < 1e-9);
    // of two the lowest is the measure, and never itself at fault
    let two = judge_ohmic(&[reading("A1", 5.0, None, None), reading("A2", 4.0, None, None)]);
    assert_eq!((two[0].against, two[0].condition), (Some(Against::LowestOfMates), Severity::Watch));
    assert_eq!(two[1].condition, Severity::Steady);
    // ten degrees colder are 13 % more and no fault (common practice, no source)
    let cold = judge_ohmic(&[reading("A1", 4.5, Some(4.0), Some((15.0, 25.0)))])[0];
    assert!(cold.rise.unwrap().abs() < 0.003, "{:?}", cold.rise);
    assert!((cold.reference.unwrap() - 4.51).abs() < 0.01, "{:?}", cold.reference);
    // where one temperature is missing they are compared as they were read
    let unknown = judge_ohmic(&[reading("A1", 4.5, Some(4.0), None)])[0];
    assert!((unknown.rise.unwrap() - 0.125).abs() < 1e-9);
}

#[test]
fn a_case_three_degrees_hotter_than_its_mates_is_a_finding() {
    let reading = |battery: &str, celsius| OhmicReading {
        battery: battery.parse().unwrap(),
        milliohms: 4.0,
        baseline: Some(4.0),
        baseline_temperature: None,
        case_temperature: Temperature::from_celsius(celsius).ok(),
    };
    let judged = judge_ohmic(&[reading("A1", 22.0), reading("A2", 22.5), reading("A3", 25.9)]);
    assert_eq!(judged[2].condition, Severity::Watch);
    assert!(judged[0].hotter.is_none() && (judged[2].hotter.unwrap() - 3.4).abs() < 1e-9);
}

proptest! {
    #[test]
    fn more_volts_never_tell_less_charge(a in 1.5..2.4f64, b in 1.5..2.4f64) {
        for (key, _) in BatteryModel::generic() {
            let model = BatteryModel::generic_by_key(key).unwrap();
            let of = |v: f64| charge_of(v, 0.0, model.construction, Some(&model));
            let (low, high) = (of(a.min(b)), of(a.max(b)));
            prop_assert!(low.high <= high.high + 1e-9 && (0.0..=100.0).contains(&low.low));
            prop_assert!(low.low <= low.high);
        }
    }

    #[test]
    fn no_volts_text_panics(text in ".{0,12}", cells in 1u8..=6) {
        let _ = battery_volts(&text, cells);
        let _ = string_volts(&text, u16::from(cells));
    }
}

#[test]
fn of_two_batteries_the_one_short_of_a_cell_is_told_and_the_other_is_whole() {
    // 12 V of two six-volt cases, the usual bank of a coach: a cell is about 2 V (SG-3)
    let judged = judge_rest(&sheet(3, 2, 1, &[6.36, 4.28]));
    let missing = judged.findings.iter().find_map(|f| match f {
        RestFinding::CellsMissing { battery, cells, below } => Some((battery.to_string(), *cells, *below)),
        _ => None,
    });
    let (battery, cells, below) = missing.unwrap();
    assert_eq!((battery.as_str(), cells), ("A2", 1));
    assert!((below - 2.08).abs() < 1e-9);
    // charge is that of the whole one, not of the mean of both
    assert!((judged.median.unwrap() - 6.36).abs() < 1e-9);
    assert_eq!(
        (judged.batteries[0].condition, judged.batteries[1].condition),
        (Severity::Steady, Severity::Act)
    );
    assert!(!judged.findings.iter().any(|f| matches!(f, RestFinding::LowCharge { .. })), "{judged:?}");
}
