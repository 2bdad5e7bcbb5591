//! The steps of a visit as modules: who takes what, how far they are, how long they take.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use proptest::prelude::*;
use rainshadow_core::battery_model::Construction;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::visit::{Caution, Step, StepProgress, StepWork, VisitSheet, steps};
use rainshadow_core::wording;
use strum::VariantArray;

fn work<'a>(cells: f64, batteries: f64, rounds: &'a [f64], fills: &'a [f64]) -> StepWork<'a> {
    StepWork { cells, batteries, times: HouseRules::maker_first().times, rounds, fills }
}

#[test]
fn every_step_has_a_name_of_its_own_and_stands_in_its_place() {
    let names: std::collections::BTreeSet<&str> =
        Step::VARIANTS.iter().map(|step| wording::step_name(*step)).collect();
    assert_eq!(names.len(), Step::VARIANTS.len());
    // making safe comes first and closing up last, whatever the bank is made of
    for construction in [Construction::Flooded, Construction::Agm, Construction::Gel] {
        let path = steps(construction);
        assert_eq!((path.first(), path.last()), (Some(&Step::MakeSafe), Some(&Step::CloseUp)));
        assert!(path.windows(2).all(|w| w[0] < w[1]), "{path:?}");
    }
}

#[test]
fn hydrogen_is_warned_of_where_it_is_freed_and_high_voltage_where_it_is_reached() {
    let (low, high) = (shape(3, 2, 1), shape(3, 8, 1));
    for step in [Step::MakeSafe, Step::Equalize] {
        let cautions = |bank| step.cautions(bank, Construction::Flooded);
        assert!(cautions(&low).contains(&Caution::Ventilated), "{step:?}");
        assert_eq!(
            (
                cautions(&low).contains(&Caution::HigherVoltage),
                cautions(&high).contains(&Caution::HigherVoltage)
            ),
            (false, true),
            "{step:?}: a 48 V bank passes 60 V DC while it equalizes"
        );
    }
    assert!(Step::Water.cautions(&low, Construction::Flooded).contains(&Caution::PureWater));
    assert!(Step::Round.cautions(&low, Construction::Flooded).contains(&Caution::Samples));
}

#[test]
fn the_words_of_a_caution_defer_to_who_may_do_the_work() {
    let said = wording::caution(Caution::HigherVoltage, Construction::Flooded);
    assert!(said.contains("qualified person under local rules"), "{said}");
    let flooded = wording::caution(Caution::Acid, Construction::Flooded);
    let sealed = wording::caution(Caution::Acid, Construction::Agm);
    assert!(flooded.contains("15 minutes, then a doctor") && sealed.contains("15 minutes, then a doctor"));
    assert_ne!(flooded, sealed);
}

#[test]
fn an_empty_sheet_is_nowhere_and_nothing_is_asked_without_end() {
    let bank = shape(3, 4, 2);
    for step in steps(Construction::Flooded) {
        let progress = StepProgress::of(step, &VisitSheet::default(), &bank, Construction::Flooded);
        assert_eq!((progress.done, progress.state), (0, None), "{step:?}");
        let open = matches!(step, Step::Equalize | Step::LoadTest | Step::Joints);
        assert_eq!(progress.of == 0, open, "{step:?}: {}", progress.of);
    }
}

#[test]
fn ones_own_minutes_count_from_the_third_visit_on() {
    // SC-2: 48 cells at half a minute each, and a quarter of an hour to get ready, until one's own tell better
    let rule = Step::Round.minutes(&work(48.0, 16.0, &[], &[]));
    let times = HouseRules::maker_first().times;
    let by_hand = f64::from(times.set_up_minutes) + f64::from(times.round_cell_seconds) * 48.0 / 60.0;
    assert!((rule - by_hand).abs() < 1e-9);
    assert!((Step::Round.minutes(&work(48.0, 16.0, &[20.0, 22.0], &[])) - rule).abs() < 1e-9);
    assert!((Step::Round.minutes(&work(48.0, 16.0, &[20.0, 90.0, 22.0], &[])) - 22.0).abs() < 1e-9);
    // what was noted of a fill begins at the first cell: getting ready comes before it
    let fill = Step::Water.minutes(&work(48.0, 16.0, &[], &[30.0, 31.0, 29.0]));
    assert!((fill - 30.0 - f64::from(times.set_up_minutes)).abs() < 1e-9);
}

proptest! {
    /// More cells never take less time, and no step takes less than none.
    #[test]
    fn time_grows_with_the_bank(cells in 1.0..200.0_f64, more in 0.0..200.0_f64, batteries in 1.0..60.0_f64) {
        for step in Step::VARIANTS {
            let small = step.minutes(&work(cells, batteries, &[], &[]));
            let large = step.minutes(&work(cells + more, batteries + more, &[], &[]));
            prop_assert!(small >= 0.0 && large >= small, "{:?}: {} and {}", step, small, large);
        }
    }
}
