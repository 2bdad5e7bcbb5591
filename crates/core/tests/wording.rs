//! What the technician reads: every kind of finding, verdict and figure in whole sentences.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, past, round, sg, shape};
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::{LengthUnit, ReaderUnits, TemperatureUnit, VolumeUnit};
use rainshadow_core::quantity::{Temperature, Voltage};
use rainshadow_core::round::{
    BatteryTemperature, CellReading, Doubt, RoundTemperature, RoundToJudge, WaterAdded, judge,
};
use rainshadow_core::wording::{self, SpokenFinding};

const US: ReaderUnits = ReaderUnits {
    temperature: TemperatureUnit::Fahrenheit,
    volume: VolumeUnit::UsGallon,
    length: LengthUnit::Inch,
};

fn bank(low: &[(usize, f64)]) -> RoundToJudge {
    let mut values = [1262.0; 24];
    for (i, below) in low {
        values[*i] -= below;
    }
    round(shape(3, 4, 2), &values)
}

fn celsius(value: f64) -> Temperature {
    Temperature::from_celsius(value).unwrap()
}

fn spoken(round: &RoundToJudge) -> (String, Vec<SpokenFinding>) {
    let judged = judge(round);
    let all = judged.findings.iter().map(|f| wording::speak(f, ReaderUnits::default())).collect();
    (wording::verdict(&judged, ReaderUnits::default()), all)
}

fn headlines(round: &RoundToJudge) -> Vec<String> {
    spoken(round).1.into_iter().map(|f| f.headline).collect()
}

#[test]
fn every_finding_says_what_was_seen_why_it_matters_what_to_do_and_by_which_rule() {
    let mut off_scale = bank(&[]);
    off_scale.readings[3].reading = CellReading::BelowScale;
    off_scale.readings[9].reading = CellReading::AboveScale;
    off_scale.readings[15].reading = CellReading::NotRead { reason: "vent cap seized".into() };
    off_scale.readings.pop();
    let mut asked = bank(&[(7, 34.0)]);
    asked.readings[7].stands = false;
    let mut charging = bank(&[]);
    charging.conditions.charging = true;
    let mut volts = bank(&[]);
    volts.conditions.rest_volts = Some(Voltage::from_volts(24.6).unwrap());
    for round in [
        bank(&[(7, 60.0)]),
        bank(&[(7, 20.0)]),
        bank(&[(7, 20.0), (12, 16.0)]),
        bank(&[(7, -22.0)]),
        bank(&[(6, 24.0), (7, 24.0)]),
        bank(&[(6, 24.0), (7, 24.0), (8, 24.0)]),
        bank(&(12..24).map(|i| (i, 24.0)).collect::<Vec<_>>()),
        bank(&(0..24).map(|i| (i, 20.0)).collect::<Vec<_>>()),
        bank(&(0..24).map(|i| (i, -24.0)).collect::<Vec<_>>()),
        off_scale,
        asked,
        charging,
        volts,
    ] {
        let (verdict, findings) = spoken(&round);
        assert!(verdict.ends_with('.') && !verdict.contains('!'), "{verdict}");
        assert!(!findings.is_empty(), "{verdict}");
        for f in findings {
            for sentence in [&f.seen, &f.advice, &f.why, &f.source] {
                assert!(sentence.ends_with('.') && !sentence.contains('!'), "{f:?}");
                assert!(sentence.chars().next().is_some_and(|c| !c.is_lowercase()), "{f:?}");
            }
            assert!(!f.headline.ends_with('.') && !f.headline.is_empty(), "{f:?}");
            let id = f.rule.split(',').next().unwrap();
            assert!(["RD-1", "RD-3", "RD-4", "RD-5", "RD-8", "RD-9", "SG-3", "SG-6"].contains(&id), "{f:?}");
        }
    }
}

#[test]
fn verdicts_say_what_to_do_then_why() {
    for (round, said) in [
        (bank(&[(7, 60.0)]), "Equalize with cell A3-2 as the pilot: it stands 60 points below the bank."),
        (bank(&[(7, 25.0)]), "Watch cell A3-2: it stands alone, 25 points below an even bank."),
        (bank(&[(7, -35.0)]), "Look into A3-2: it stands 32 points above full, by acid or by lost water."),
        (
            bank(&(0..24).map(|i| (i, 20.0)).collect::<Vec<_>>()),
            "Find out why it does not fill: the bank stands 23 points short of full after a full charge.",
        ),
        (
            bank(&(0..24).map(|i| (i, -24.0)).collect::<Vec<_>>()),
            "Check the levels before anything else: the bank stands 21 points above full.",
        ),
    ] {
        assert_eq!(spoken(&round).0, said);
    }
}

#[test]
fn one_cell_and_several_are_said_differently() {
    // within an even spread, √(15² + 17.0²) = 22.7 for 24 cells, and over the steady band,
    // √(10² + 10.2²) = 14.3
    assert_eq!(headlines(&bank(&[(7, 18.0)])), ["A3-2 is low"]);
    assert_eq!(headlines(&bank(&[(7, 18.0), (12, 17.0)])), ["Two cells low"]);
    assert_eq!(headlines(&bank(&[(7, -16.0)])), ["A3-2 reads high"]);
    let three = bank(&[(7, 18.0), (12, 17.0), (20, 16.0)]);
    assert_eq!(spoken(&three).0, "Watch three low cells, A3-2 the lowest at 18 points below the bank.");
    let (_, findings) = spoken(&three);
    assert_eq!(findings[0].seen, "A3-2, B1-1 and B3-3 lie 16 to 18 points under the median.");
    // where all are the same there is no range
    let alike = bank(&[(7, 17.0), (12, 17.0)]);
    assert_eq!(spoken(&alike).1[0].seen, "A3-2 and B1-1 lie 17 points under the median.");
}

#[test]
fn a_sinking_cell_says_how_fast_and_since_when() {
    let mut r = bank(&[(7, 31.0)]);
    r.past = (1..=6)
        .map(|i| {
            let mut d = [0.0; 24];
            d[7] = -31.0 + 4.0 * f64::from(i);
            past(&r.shape, 60.0 * f64::from(i), &d)
        })
        .collect();
    let (verdict, findings) = spoken(&r);
    assert_eq!(
        verdict,
        "Test cell A3-2: it has sunk 31 points below the bank, and the gap has grown for 8 months."
    );
    assert_eq!(findings[0].headline, "A3-2 is sinking");
    assert!(
        findings[0].seen.starts_with("Reads 1.231, 31 points under the median; it was 27 under 60 days ago; losing 24 points a year over 7 rounds"),
        "{}",
        findings[0].seen
    );
    assert!(
        findings[0]
            .rule
            .starts_with("RD-8, condition of a cell: limit 25 points (Maker first), 27 with this instrument")
    );
}

#[test]
fn a_limit_set_by_noise_says_so_and_promises_no_more() {
    let mut r = bank(&[(7, 40.0)]);
    r.instrument.resolution = rainshadow_core::quantity::Points::new(10.0);
    // u = √(10²/12 + 3²) = 4.16; 5.1 · 4.16 = 21.2 is more than the rule's 15, together 26.0
    r.readings[7].reading = CellReading::Gravity { read: sg(1.233) };
    let (_, findings) = spoken(&r);
    let spread = findings.iter().find(|f| f.rule.starts_with("RD-4")).unwrap();
    assert_eq!(
        spread.rule,
        "RD-4, balance of the bank: limit 15 points (Maker first), 26 with this instrument"
    );
    assert_eq!(spread.sure, "Within what your instrument can tell; a finer one would see more.");
}

#[test]
fn figures_under_the_verdict_are_said_in_the_readers_units() {
    let mut r = bank(&[(7, 40.0)]);
    r.conditions.temperature = RoundTemperature::OneForAll { temperature: celsius(10.0) };
    let said = |units: ReaderUnits| {
        let judged = judge(&r);
        let all = wording::evidence(&judged, &r, units);
        let last = all.last().unwrap();
        (format!("{} {}", last.before, last.figure), wording::correction_line(&judged, units))
    };
    // 0.00072 · (10 − 25) = −10.8 points
    assert_eq!(said(ReaderUnits::default()), ("10 °C, corrected −11".into(), "corrected to 25 °C".into()));
    assert_eq!(said(US), ("50 °F, corrected −11".into(), "corrected to 77 °F".into()));
}

#[test]
fn temperatures_by_battery_are_said_as_a_range_and_at_their_own_cell() {
    let mut r = bank(&[]);
    let at = |battery: &str, c: f64| BatteryTemperature {
        battery: battery.parse().unwrap(),
        temperature: celsius(c),
    };
    r.conditions.temperature =
        RoundTemperature::PerBattery { batteries: vec![at("A1", 12.0), at("B4", 20.0)] };
    let judged = judge(&r);
    let last = wording::evidence(&judged, &r, ReaderUnits::default()).pop().unwrap();
    // batteries without their own take the median of the others: 16 °C
    assert_eq!(last.before, "12 to 20 °C by battery, corrected");
    assert_eq!(wording::electrolyte(&r, cell("A1-2"), ReaderUnits::default()), "electrolyte 12 °C");
    assert_eq!(wording::electrolyte(&r, cell("B2-1"), US), "electrolyte 60.8 °F");
    r.readings[1].temperature = Some(celsius(31.0));
    assert_eq!(wording::electrolyte(&r, cell("A1-2"), ReaderUnits::default()), "electrolyte 31 °C");
    r.instrument = Instrument::refractometer();
    assert_eq!(wording::electrolyte(&r, cell("A1-2"), US), "the instrument corrects by itself");
    let last = wording::evidence(&judge(&r), &r, US).pop().unwrap();
    assert_eq!(last.before, "corrected by the instrument itself");
}

#[test]
fn every_string_of_several_has_its_median_and_spread() {
    let r = bank(&[(7, 31.0), (20, 9.0)]);
    let all = wording::evidence(&judge(&r), &r, ReaderUnits::default());
    let said: Vec<String> = all
        .iter()
        .filter(|e| e.before.starts_with("string"))
        .map(|e| format!("{} {}", e.before, e.figure))
        .collect();
    assert_eq!(said, ["string A 1.262, spread 31", "string B 1.262, spread 9"]);
    let one = round(shape(3, 4, 1), &[1262.0; 12]);
    let all = wording::evidence(&judge(&one), &one, ReaderUnits::default());
    assert!(all.iter().all(|e| !e.before.starts_with("string")), "one string is the bank");
}

#[test]
fn rest_volts_agree_disagree_or_do_not_count() {
    let mut r = bank(&[]);
    let rest = |r: &RoundToJudge| {
        let all = wording::evidence(&judge(r), r, ReaderUnits::default());
        let found = all.into_iter().find(|e| e.before == "rest").unwrap();
        (format!("{} {}", found.figure, found.after), found.hit)
    };
    assert_eq!(rest(&r), ("2.11 V a cell expected at rest".into(), false));
    r.conditions.rest_volts = Some(Voltage::from_volts(25.4).unwrap());
    assert_eq!(rest(&r), ("2.12 V a cell, agrees".into(), false));
    r.conditions.rest_volts = Some(Voltage::from_volts(25.0).unwrap());
    assert_eq!(rest(&r), ("2.08 V a cell, disagrees".into(), true));
    r.conditions.hours_since_charge = Some(5.0);
    assert_eq!(rest(&r), ("2.08 V a cell, not settled".into(), false));
}

#[test]
fn a_round_under_way_counts_what_is_in_and_what_asks() {
    let mut r = bank(&[(7, 34.0)]);
    r.readings[7].stands = false;
    r.readings.truncate(13);
    assert_eq!(wording::progress(&judge(&r), 13), "13 of 24 read: 1 to re-read.");
    r.readings[7].stands = true;
    assert_eq!(wording::progress(&judge(&r), 13), "13 of 24 read: 1 watch.");
    let even = bank(&[]);
    assert_eq!(wording::progress(&judge(&even), 24), "24 of 24 read, all steady so far.");
    r.conditions.water_added = WaterAdded::Yes;
    assert_eq!(wording::progress(&judge(&r), 13), "13 of 24 read, kept and not judged.");
    r.readings.clear();
    assert_eq!(wording::progress(&judge(&r), 0), "0 of 24 read.");
}

#[test]
fn banks_and_places_are_described_as_a_technician_says_them() {
    let six = BatteryModel::generic_by_key("flooded-6v-420").unwrap();
    assert_eq!(
        wording::describe_bank(&shape(3, 8, 2), &six),
        "48 V flooded, 2 strings of 8 six-volt batteries, 420 Ah each"
    );
    assert_eq!(
        wording::describe_bank(&shape(3, 1, 1), &six),
        "6 V flooded, 1 six-volt battery in one string, 420 Ah each"
    );
    let tubular = BatteryModel::generic_by_key("tubular-2v-300").unwrap();
    assert_eq!(
        wording::describe_bank(&shape(1, 12, 1), &tubular),
        "24 V flooded tubular, 12 two-volt batteries in one string, 300 Ah each"
    );
    assert_eq!(
        wording::place(cell("B4-2"), &shape(3, 4, 2)),
        "String B, fourth battery from the + post, second cell from its +"
    );
    assert_eq!(wording::place(cell("A7-1"), &shape(1, 12, 1)), "Seventh battery from the + post");
}

#[test]
fn every_doubt_is_a_sentence_of_its_own() {
    let all = [Doubt::MixUnknown, Doubt::TemperatureUnknown, Doubt::LoadUnknown, Doubt::FullUnproven]
        .map(wording::doubt);
    let unique: std::collections::BTreeSet<&str> = all.into_iter().collect();
    assert_eq!(unique.len(), 4);
    assert!(all.iter().all(|d| d.ends_with('.')));
}
