//! The words of a visit: cautions, what is looked at and found, what is carried, what the owner reads.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::{cell, round, shape};
use rainshadow_core::battery_model::Construction;
use rainshadow_core::finding::{self, Finding, FindingKind, RuleId, Subject};
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::rest::{Fault, RestConditions, RestFinding};
use rainshadow_core::round::judge;
use rainshadow_core::severity::Severity;
use rainshadow_core::visit::{
    Check, Gear, GearGroup, GearItem, LeftAs, SeenFinding, Step, StepProgress, StepState, Tool, VisitSheet,
    checks, closing_items, steps,
};
use rainshadow_core::water::{FillOrder, Uneven};
use rainshadow_core::wording::{self, Seen};
use std::collections::BTreeSet;
use strum::VariantArray;

const EVERY: [Construction; 3] = [Construction::Flooded, Construction::Agm, Construction::Gel];

/// A sentence starts with a capital, ends with a stop, and has no hole in it.
fn whole(text: &str) {
    assert!(text.chars().next().is_some_and(char::is_uppercase), "{text}");
    assert!(text.ends_with('.'), "{text}");
    for hole in ["  ", " .", " ,", "..", "{", "}", "None", "NaN"] {
        assert!(!text.contains(hole), "{hole:?} in {text}");
    }
}

fn seen(check: Check, kind: &str, place: &str, note: &str, measured: Option<f64>) -> Finding {
    let severity = check.kind(kind).unwrap().severity;
    let found = SeenFinding { kind: kind.into(), severity, note: note.into(), measured };
    finding::look::finding("entry", place.parse().unwrap(), check, &found)
}

fn rest(found: RestFinding, subject: Subject) -> Finding {
    let severity = found.severity();
    Finding::recorded(subject, FindingKind::Rest(found), severity, RuleId::Rd7)
}

#[test]
fn every_caution_is_told_in_whole_sentences_on_every_bank() {
    for construction in EVERY {
        let mut told = BTreeSet::new();
        for bank in [shape(3, 2, 1), shape(6, 4, 2)] {
            for step in steps(construction) {
                for caution in step.cautions(&bank, construction) {
                    let words = wording::caution(caution, construction);
                    whole(words);
                    told.insert(words);
                }
            }
        }
        assert!(told.len() >= 9, "{construction:?}: {} cautions", told.len());
        // what hurts eyes and what burns is confirmed before anything is touched
        let asked = Step::MakeSafe.cautions(&shape(3, 2, 1), construction);
        assert!(asked.iter().filter(|c| c.confirmed()).count() >= 4, "{construction:?}");
    }
}

#[test]
fn every_thing_that_can_be_found_has_words_of_its_own_and_advice() {
    for check in Check::ALL {
        whole(wording::check_advice(*check));
        for kind in check.kinds() {
            whole(wording::found_advice(*check, kind.key));
        }
        let kinds = check.kinds();
        let words: BTreeSet<&str> =
            kinds.iter().map(|kind| wording::found_kind(*check, kind.key).unwrap()).collect();
        assert_eq!(words.len(), kinds.len(), "{check:?} tells two things alike");
        assert_eq!(wording::found_kind(*check, "no such thing"), None);
        for kind in kinds {
            assert!(kind.severity >= Severity::Watch, "{check:?} {}", kind.key);
        }
    }
    let names: BTreeSet<&str> = Check::ALL.iter().map(|check| wording::check(*check)).collect();
    assert_eq!(names.len(), Check::ALL.len());
}

#[test]
fn what_was_measured_by_eye_stands_in_its_own_unit() {
    assert_eq!(
        wording::seen_kind(Check::HoldDown, "play", Some(12.0), ReaderUnits::default()),
        "it moves, 12.0 mm"
    );
    assert_eq!(
        wording::seen_kind(Check::Tray, "track", Some(0.62), ReaderUnits::default()),
        "an acid track, 0.6 V"
    );
    assert_eq!(wording::seen_kind(Check::Top, "wet", None, ReaderUnits::default()), "wet");
    // a key of a later version is shown as it stands, nothing is lost
    assert_eq!(wording::seen_kind(Check::Top, "mossy", None, ReaderUnits::default()), "mossy");
}

#[test]
fn what_is_found_is_carried_for() {
    assert_eq!(wording::found_spare(Check::Caps, "missing"), Some("vent caps"));
    assert_eq!(wording::found_spare(Check::Case, "bulge"), None, "nothing mends a bulge");
    let carried = |item| wording::gear(&Gear { group: GearGroup::Fit, item, whereto: String::new() });
    assert_eq!(carried(GearItem::Spare { what: "vent caps".into() }), "Vent caps");
    let tool = |tool| carried(GearItem::Tool { tool });
    assert!(tool(Tool::FaceAndHands).contains("acid gloves"));
    assert_ne!(tool(Tool::Hydrometer), tool(Tool::ThermometerProbe));
}

/// What a step that is marked as done came to.
fn worked(step: Step, (done, of): (usize, usize), construction: Construction) -> Option<String> {
    let progress = StepProgress { step, state: Some(StepState::Done), reason: String::new(), done, of };
    wording::step_work(&progress, &VisitSheet::default(), construction)
}

#[test]
fn advice_fits_what_was_found() {
    // a hot case is left alone until it is cool, and never taken out before
    let hot = wording::found_advice(Check::Case, "hot");
    assert!(hot.starts_with("Stop the charge at its source or breaker, never at the posts"), "{hot}");
    assert!(hot.contains("do not touch it until it is cool") && !hot.contains("Take it out"), "{hot}");
    // a nest is taken out dry
    for check in [Check::Top, Check::VentPath] {
        let nest = wording::found_advice(check, "nest");
        assert!(nest.starts_with("Take it out dry") && nest.contains("vacuum"), "{nest}");
    }
    // gas is led away from electronics before they are cleaned and moved
    let above = wording::found_advice(Check::Above, "electronics");
    let at = |word: &str| above.find(word).unwrap();
    assert!(at("Lead the gas away") < at("cleaned") && at("cleaned") < at("move them"), "{above}");
    assert_eq!(wording::found_advice(Check::Case, "bulge"), wording::check_advice(Check::Case));
}

#[test]
fn a_step_is_told_as_far_as_it_went_and_no_further() {
    let flooded = |step, counts| worked(step, counts, Construction::Flooded).unwrap();
    assert_eq!(flooded(Step::Round, (48, 48)), "Acid of every cell measured");
    assert_eq!(flooded(Step::Round, (40, 48)), "Acid of 40 of 48 cells measured");
    assert_eq!(flooded(Step::Water, (3, 48)), "Level of 3 of 48 cells looked at");
    assert_eq!(flooded(Step::MakeSafe, (3, 5)), "Made safe in part: 3 of 5 precautions were confirmed");
    for (step, part) in [
        (Step::MakeSafe, "no precaution was confirmed"),
        (Step::LookOver, "nothing is written down as looked at"),
        (Step::RestCheck, "no voltage was read"),
        (Step::Round, "no cell was measured"),
        (Step::Water, "no level was noted and no water went in"),
    ] {
        let said = flooded(step, (0, 9));
        assert!(said.contains("is marked as done; ") && said.ends_with(part), "{said}");
    }
    let left_out = StepProgress {
        step: Step::Round,
        state: Some(StepState::Skipped),
        reason: "rain.".into(),
        done: 0,
        of: 48,
    };
    let said = wording::step_work(&left_out, &VisitSheet::default(), Construction::Flooded);
    assert_eq!(said.unwrap(), "Left out: round, because rain");
    let half = StepProgress { done: 40, ..left_out };
    let said = wording::step_work(&half, &VisitSheet::default(), Construction::Flooded);
    assert_eq!(said.unwrap(), "Acid of 40 of 48 cells measured; the rest was left out, because rain");
}

#[test]
fn volts_are_called_what_they_were() {
    let told = RestConditions::default();
    assert_eq!(wording::volts_state(None), "in a state that is not noted");
    assert_eq!(wording::volts_state(Some(&told)), "with the bank idle; for how long is not noted");
    let charging = RestConditions { charging: true, hours_since_charge: Some(2.0), ..told.clone() };
    assert_eq!(wording::volts_state(Some(&charging)), "while it was on charge");
    let loaded = RestConditions { loaded: true, ..told.clone() };
    assert_eq!(wording::volts_state(Some(&loaded)), "with a load on it");
    let rested = RestConditions {
        hours_since_charge: Some(26.0),
        surface_charge_removed: true,
        still_draws: "the alarm.".into(),
        ..told
    };
    assert_eq!(
        wording::volts_state(Some(&rested)),
        "26 hours after the charge ended, surface charge burned off, with this still drawing: the alarm"
    );
}

#[test]
fn a_sealed_bank_is_never_told_of_caps_or_of_acid_that_was_measured() {
    for construction in [Construction::Agm, Construction::Gel] {
        assert!(!checks(construction).contains(&Check::Caps));
        let all = LeftAs::ALL.into_iter().flat_map(|left| closing_items(construction, left));
        let lines: Vec<&str> = all.map(wording::closing_item).collect();
        assert!(lines.into_iter().all(|line| !line.contains("cap ")), "{construction:?}");
        let done: Vec<String> =
            steps(construction).into_iter().filter_map(|s| worked(s, (4, 4), construction)).collect();
        assert!(done.iter().all(|said| !said.contains("Acid of") && !said.contains("Level of")), "{done:?}");
        assert!(done.iter().any(|said| said.starts_with("Voltage of every battery")), "{done:?}");
    }
    // what a run did and how it was left are told in sections of their own
    let flooded = |step| worked(step, (4, 4), Construction::Flooded);
    assert_eq!((flooded(Step::Equalize), flooded(Step::CloseUp)), (None, None));
    assert_eq!(flooded(Step::LoadTest), None);
    assert_eq!(flooded(Step::Joints), None);
    assert_eq!(flooded(Step::Job), None, "a job has its own sentence");
    assert_eq!(Step::VARIANTS.len(), 10);
}

#[test]
fn water_goes_in_the_order_that_harms_nothing() {
    let low = vec![cell("A1-1"), cell("A1-2")];
    let bare = wording::fill_order(&FillOrder::CoverFirst { cells: vec![cell("A2-3")] });
    whole(&bare);
    assert!(bare.starts_with("Cover the plates of A2-3 now, no more than that; charge fully"), "{bare}");
    let before = wording::fill_order(&FillOrder::CoverForEqualize { cells: low.clone() });
    assert!(before.starts_with("Two cells stand low") && before.ends_with("after it."), "{before}");
    let charge = wording::fill_order(&FillOrder::ChargeFirst { cells: low.clone() });
    assert!(charge.contains("charge first, then fill"), "{charge}");
    let now = wording::fill_order(&FillOrder::FillNow { cells: low });
    assert!(now.contains("fill two cells to the mark now"), "{now}");
    let one = wording::fill_order(&FillOrder::FillNow { cells: vec![cell("A1-1")] });
    assert!(one.contains("fill A1-1 to the mark"), "{one}");
    whole(&wording::fill_order(&FillOrder::LookFirst));
    whole(&wording::fill_order(&FillOrder::NothingToFill));
}

#[test]
fn the_owner_reads_of_batteries_in_sentences_without_the_terms_of_the_trade() {
    let battery = |text: &str| text.parse().unwrap();
    let short = |fault| {
        rest(
            RestFinding::StringShort { letter: 'B', volts: 20.1, expected: 25.4, fault },
            Subject::String('B'),
        )
    };
    let mut weak = [1262.0; 12];
    weak[5] = 1190.0;
    let found = [
        rest(
            RestFinding::CellsMissing { battery: battery("A2"), below: 2.1, cells: 1 },
            Subject::Battery(battery("A2")),
        ),
        rest(
            RestFinding::BatteryLow { battery: battery("A3"), below: 0.4, limit: 0.1 },
            Subject::Battery(battery("A3")),
        ),
        short(Fault::OpenLink { after: None }),
        short(Fault::BatteryOut),
        finding::water::plates_bare(&[cell("A1-2")]).unwrap(),
        seen(Check::HoldDown, "play", "A2", "strap torn", Some(12.0)),
        seen(Check::VentPath, "blocked", "", "", None),
    ];
    let of_round = judge(&round(shape(3, 4, 1), &weak)).findings;
    let told: Vec<String> = found
        .iter()
        .chain(&of_round)
        .filter_map(|f| wording::owner_finding(f, ReaderUnits::default()))
        .collect();
    assert!(told.len() > found.len(), "{told:?}");
    for said in &told {
        whole(said);
        for term in ["SG", "gravity", "points", "mΩ", "deviation", "hydrometer", "RD-", "sigma"] {
            assert!(!said.contains(term), "{term} in {said}");
        }
    }
    assert!(told[0].contains("dead cell") && told[0].contains("A2"), "{}", told[0]);
    assert!(told[2].contains("bad connection") && told[3].contains("battery in it has failed"), "{told:?}");
    assert!(told[5].contains("it moves, 12.0 mm") && told[5].contains("Strap torn"), "{}", told[5]);
}

#[test]
fn what_concerns_the_technician_only_is_not_told_to_the_owner() {
    let drinks = Uneven { cell: cell("A1-3"), factor: 1.9, before: 1.7, more: true };
    assert_eq!(wording::owner_finding(&finding::water::uneven(&drinks), ReaderUnits::default()), None);
    let apart = RestFinding::Disagrees { battery: "A1".parse().unwrap(), measured: 2.11, expected: 2.05 };
    assert_eq!(
        wording::owner_finding(&rest(apart, Subject::Battery("A1".parse().unwrap())), ReaderUnits::default()),
        None
    );
}

#[test]
fn the_first_sentence_of_a_report_goes_by_the_worst() {
    let said = |worst, things| wording::owner_verdict(worst, things, 0, Seen::Whole);
    assert_eq!(said(Some(Severity::Act), 1), "Your batteries need something done soon.");
    assert_eq!(
        said(Some(Severity::Act), 3),
        "Your batteries need something done soon: three things were found."
    );
    assert!(said(Some(Severity::Watch), 2).contains("to keep an eye on"));
    for quiet in [None, Some(Severity::Steady), Some(Severity::Reread), Some(Severity::NoReading)] {
        assert_eq!(said(quiet, 0), "Your batteries are in good order.", "{quiet:?}");
    }
    // what was put right is told, and nothing is certified that nobody looked at
    let right = |n| wording::owner_verdict(Some(Severity::Steady), 0, n, Seen::Whole);
    assert_eq!(right(1), "Your batteries are in good order; one thing was found and put right.");
    assert!(right(2).ends_with("two things were found and put right."));
    let part = wording::owner_verdict(None, 0, 0, Seen::Part);
    assert_eq!(part, "Nothing that was looked at or measured asks for anything; not all of it was.");
    let work = wording::owner_verdict(None, 0, 0, Seen::WorkAlone);
    assert_eq!(work, "Work was done on your batteries; nothing was measured or looked at.");
    for seen in [Seen::Part, Seen::WorkAlone, Seen::Nothing] {
        let act = wording::owner_verdict(Some(Severity::Act), 1, 0, seen);
        assert_eq!(act, "Your batteries need something done soon.");
    }
    let unseen = wording::owner_verdict(None, 0, 0, Seen::Nothing);
    assert_eq!(unseen, "Nothing was measured or looked at on this visit.");
    let words: BTreeSet<&str> =
        [Severity::Act, Severity::Watch, Severity::Steady, Severity::Reread, Severity::NoReading]
            .map(wording::owner_condition)
            .into();
    assert_eq!(words.len(), 5);
}
