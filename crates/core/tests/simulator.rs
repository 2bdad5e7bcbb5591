//! SM-1 against its anchor values ("The simulator", Anchors; tried there in a script, common practice, no source) and
//! against what must always hold. Tolerances are 5 % where nothing else is said.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use proptest::prelude::*;
use rainshadow_core::simulator::{
    CellKind, Drive, Kind, PhaseDrive, Program, SimCell, SimString, Surroundings, simulate,
};

const MINUTE: f64 = 1.0 / 60.0;
const HELD: Surroundings = Surroundings::Held(25.0);

fn near(found: f64, anchor: f64, what: &str) {
    assert!((found / anchor - 1.0).abs() <= 0.05, "{what}: {found:.4} against {anchor}");
}

/// Hours until a cell falls to its end voltage at a rate, and its share of C20 until then.
fn discharge(kind: CellKind, rate: f64, end: f64) -> (f64, f64) {
    let mut cell = SimCell::new(kind, 100.0);
    let mut hours = 0.0;
    while cell.step(-rate * 100.0, MINUTE, HELD) > end {
        hours += MINUTE;
    }
    (hours, hours * rate)
}

#[test]
fn a_twenty_hour_discharge_ends_where_the_trade_stops_it() {
    for (kind, anchor) in [(CellKind::FLOODED, 1.75), (CellKind::AGM, 1.74)] {
        let mut cell = SimCell::new(kind, 100.0);
        let volts = cell.step(-5.0, 20.0, HELD);
        near(volts, anchor, "volts after 20 h at C/20");
    }
}

#[test]
fn capacity_falls_with_the_rate() {
    for (kind, fifth, whole) in [(CellKind::FLOODED, 0.78, 0.56), (CellKind::AGM, 0.87, 0.73)] {
        near(discharge(kind, 0.2, 1.75).1, fifth, "capacity at C/5");
        near(discharge(kind, 1.0, 1.75).1, whole, "capacity at 1C");
    }
}

#[test]
fn the_shape_over_rates_is_that_of_a_physical_model() {
    // published/discharge_rates.csv: PyBaMM, an AGM battery at a held temperature
    let physical = [(0.1, 0.9788), (0.2, 0.9477), (0.5, 0.8830), (1.0, 0.8057), (2.0, 0.6906)];
    let all = discharge(CellKind::AGM, 0.05, 1.75).1;
    let mut last = f64::INFINITY;
    for (rate, share) in physical {
        let own = discharge(CellKind::AGM, rate, 1.75).1 / all;
        assert!(own < last + 1e-9, "{rate}: {own} after {last}");
        assert!((own / share - 1.0).abs() <= 0.08, "{rate}: {own} against {share}");
        last = own;
    }
}

#[test]
fn a_program_holds_the_temperature_where_it_is_told_to() {
    let warmest = |held: bool| {
        let load = PhaseDrive::Load { hours: 1.0, amperes: 60.0, until_volts: None };
        let program = Program { held, ..program(vec![load]) };
        simulate(&program).unwrap().moments.iter().map(|m| m.celsius).fold(f64::NEG_INFINITY, f64::max)
    };
    assert!(warmest(false) > warmest(true) + 1.0, "{} {}", warmest(false), warmest(true));
}

/// Hours from a quarter to a tail current, and the temperature then.
fn charge(kind: CellKind, (amperes, volts, tail): (f64, f64, f64), around: Surroundings) -> (f64, f64) {
    let mut string = SimString::new(vec![SimCell::new(kind, 100.0).charged_to(0.25)]);
    let mut hours = 0.0;
    loop {
        let reading = string.step(Drive::Charger { volts, amperes }, MINUTE, around);
        hours += MINUTE;
        if reading.amperes <= tail || hours > 40.0 {
            return (hours, string.cells()[0].celsius());
        }
    }
}

#[test]
fn a_charge_takes_the_hours_it_takes() {
    near(charge(CellKind::FLOODED, (10.0, 2.45, 2.0), HELD).0, 9.9, "flooded, held at 25 °C");
    near(
        charge(CellKind::FLOODED, (10.0, 2.45, 2.0), Surroundings::Air(25.0)).0,
        11.1,
        "flooded, its own heat",
    );
    near(charge(CellKind::AGM, (20.0, 2.40, 2.0), HELD).0, 5.5, "AGM");
}

#[test]
fn float_draws_a_thousandth_of_the_capacity() {
    for (kind, volts, anchor) in [(CellKind::FLOODED, 2.25, 0.11), (CellKind::AGM, 2.27, 0.10)] {
        let mut string = SimString::new(vec![SimCell::new(kind, 100.0)]);
        let reading = string.step(Drive::Charger { volts, amperes: 10.0 }, 72.0, HELD);
        near(reading.amperes, anchor, "float current, per cent of C20");
    }
}

#[test]
fn an_equalize_gasses_warms_and_slowly_draws_less() {
    // straight from the end of absorption, as it is done
    let mut string = SimString::new(vec![SimCell::new(CellKind::FLOODED, 100.0).charged_to(0.5)]);
    while string.step(Drive::Charger { volts: 2.45, amperes: 10.0 }, MINUTE, HELD).amperes > 2.0 {}
    let mut amperes = 0.0;
    for minute in 0..240 {
        let volts = 2.58 - 0.005 * (string.cells()[0].celsius() - 25.0);
        let reading = string.step(Drive::Charger { volts, amperes: 5.0 }, MINUTE, Surroundings::Air(25.0));
        amperes = reading.amperes;
        if minute == 10 {
            near(amperes, 5.0, "current at the beginning");
        }
    }
    near(amperes, 4.1, "current after 4 h");
    let warmer = string.cells()[0].celsius() - 25.0;
    assert!((warmer - 11.0).abs() < 1.0, "{warmer} °C warmer against 11");
}

#[test]
fn water_goes_by_faradays_law() {
    // 0.33708 mL per Ah gassed; AGM loses the fiftieth that does not recombine
    for (kind, anchor) in [(CellKind::FLOODED, 0.337_08), (CellKind::AGM, 0.0067)] {
        let mut cell = SimCell::new(kind, 100.0);
        cell.step(3.0, 10.0, HELD);
        let share = cell.water_lost() / cell.charge_account().gassed;
        assert!((share / anchor - 1.0).abs() < 0.01, "{share} against {anchor}");
    }
}

#[test]
fn a_month_at_rest_costs_charge_by_temperature() {
    for (celsius, anchor) in [(15.0, 3.0), (25.0, 5.7), (35.0, 10.7)] {
        let mut cell = SimCell::new(CellKind::FLOODED, 100.0).at(celsius);
        cell.step(0.0, 730.5, Surroundings::Held(celsius));
        // of what is left of the capacity: sulfate takes some of both
        let gone = 100.0 * (1.0 - cell.state_of_charge());
        assert!((gone - anchor).abs() < anchor * 0.06, "{celsius} °C: {gone:.2} % against {anchor}");
    }
}

#[test]
fn a_full_battery_rests_at_the_volts_of_the_trade() {
    let mut string = SimString::new(vec![SimCell::new(CellKind::FLOODED, 100.0).charged_to(0.5); 6]);
    string.step(Drive::Charger { volts: 14.7, amperes: 10.0 }, 14.0, HELD);
    let reading = string.step(Drive::Current(0.0), 24.0, HELD);
    assert!((reading.volts - 12.67).abs() < 0.03, "{:.3} V against 12.67", reading.volts);
}

#[test]
fn two_months_at_half_charge_cost_capacity_that_equalizes_bring_back() {
    let mut cell = SimCell::new(CellKind::FLOODED, 100.0).charged_to(0.5);
    cell.step(0.0, 60.0 * 24.0, HELD);
    let mut string = SimString::new(vec![cell]);
    string.step(Drive::Charger { volts: 2.45, amperes: 10.0 }, 12.0, HELD);
    let mut found = vec![string.cells()[0].full()];
    for _ in 0..3 {
        string.step(Drive::Charger { volts: 2.58, amperes: 5.0 }, 4.0, HELD);
        found.push(string.cells()[0].full());
    }
    near(found[0], 0.90, "after the recharge");
    near(found[1], 0.94, "after one equalize");
    near(found[3], 0.985, "after three equalizes");
    assert!(found.windows(2).all(|w| w[1] > w[0]), "{found:?}");
}

#[test]
fn an_old_sealed_cell_runs_away_on_a_float_that_does_not_follow_the_heat() {
    let float = |compensated: bool| {
        let cell = SimCell::aged(CellKind::AGM, 100.0, 3.0, 0.0).at(40.0);
        let mut string = SimString::new(vec![cell]);
        for _ in 0..(60 * 24 * 10) {
            let off = string.cells()[0].celsius() - 25.0;
            let volts = if compensated { 2.27 - 0.005 * off } else { 2.27 };
            string.step(Drive::Charger { volts, amperes: 20.0 }, MINUTE, Surroundings::Air(40.0));
        }
        string.cells()[0].celsius()
    };
    let (wild, tame) = (float(false), float(true));
    assert!(wild > 70.0, "{wild} °C uncompensated");
    assert!((tame - 44.0).abs() < 1.5, "{tame} °C compensated, anchor 44");
}

#[test]
fn one_new_block_among_old_ones_takes_more_than_its_share_of_the_volts() {
    let new = || SimCell::new(CellKind::FLOODED, 100.0).charged_to(0.5);
    let old = || SimCell::aged(CellKind::FLOODED, 100.0, 4.0, 0.0).charged_to(0.5);
    let cells = (0..24).map(|i| if i < 6 { new() } else { old() }).collect();
    let mut string = SimString::new(cells);
    for _ in 0..(16 * 60) {
        string.step(Drive::Charger { volts: 57.6, amperes: 10.0 }, MINUTE, HELD);
    }
    let block = |from: usize| string.cells()[from..from + 6].iter().map(SimCell::volts).sum::<f64>();
    assert!((block(0) - 14.96).abs() < 0.1, "{} V against 14.96", block(0));
    assert!((block(6) - 14.21).abs() < 0.1, "{} V against 14.21", block(6));
}

fn program(phases: Vec<PhaseDrive>) -> Program {
    Program {
        kind: Kind::Flooded,
        cells: 6,
        capacity: 100.0,
        charged: 1.0,
        age: 1.0,
        worn: 0.0,
        air: 25.0,
        held: false,
        phases,
        every_minutes: 60,
    }
}

#[test]
fn a_program_tells_its_phases_hour_by_hour_and_ends_them_when_asked() {
    let ran = simulate(&program(vec![
        PhaseDrive::Load { hours: 20.0, amperes: 10.0, until_volts: Some(1.95) },
        PhaseDrive::Charge {
            hours: 24.0,
            amperes: 10.0,
            volts: 14.7,
            per_degree: Some(-0.005),
            until_amperes: Some(2.0),
        },
        PhaseDrive::Rest { hours: 24.0 },
    ]))
    .unwrap();
    let ends: Vec<_> = (1..=3).map(|n| *ran.moments.iter().rfind(|m| m.phase == n).unwrap()).collect();
    assert!(ends[0].volts <= 11.7 && ends[0].hour < 8.0, "{:?}", ends[0]);
    assert!(ends[1].amperes <= 2.0 && ends[1].hour < 20.0, "{:?}", ends[1]);
    assert!((ends[2].hour - ends[1].hour - 24.0).abs() < 1e-6 && ends[2].volts < 12.8, "{:?}", ends[2]);
    assert!(ran.moments.windows(2).all(|w| w[1].hour - w[0].hour < 1.0 + 1e-6), "a point an hour at least");
    assert!(ran.charged > ran.discharged && ran.gassed > 0.0 && ran.capacity_left > 0.97);
}

#[test]
fn a_program_that_cannot_be_is_refused_with_what_is_accepted() {
    let said = |change: fn(&mut Program)| {
        let mut own = program(vec![PhaseDrive::Rest { hours: 1.0 }]);
        change(&mut own);
        simulate(&own).unwrap_err().to_string()
    };
    assert_eq!(said(|p| p.cells = 0), "cells in series 0 is not possible here; accepted is 1 to 120");
    assert!(said(|p| p.age = 9.0).contains("1.0 to 4.0"));
    assert!(said(|p| p.charged = 1.5).contains("state of charge 1.5"));
    assert!(said(|p| p.phases = vec![PhaseDrive::Rest { hours: 9000.0 }; 2]).contains("18000"));
    assert!(said(|p| p.phases = vec![PhaseDrive::Rest { hours: f64::NAN }]).contains("NaN"));
    let nothing = simulate(&program(Vec::new())).unwrap();
    assert!(nothing.moments.is_empty());
}

/// What a bank does for an hour.
#[derive(Debug, Clone, Copy)]
enum Hour {
    Draw(f64),
    Charge(f64),
    Equalize,
    Rest,
}

fn hours() -> impl Strategy<Value = Vec<Hour>> {
    prop::collection::vec(
        prop_oneof![
            (0.0..0.3f64).prop_map(Hour::Draw),
            (0.01..0.2f64).prop_map(Hour::Charge),
            Just(Hour::Equalize),
            Just(Hour::Rest),
        ],
        1..40,
    )
}

fn live(string: &mut SimString, hours: &[Hour], step: f64, around: Surroundings) -> Vec<f64> {
    let cells = f64::from(u32::try_from(string.cells().len()).unwrap());
    hours
        .iter()
        .map(|hour| {
            let empty = string.cells().iter().any(|c| c.state_of_charge() < 0.15);
            let drive = match hour {
                Hour::Draw(rate) if !empty => Drive::Current(-rate * 100.0),
                Hour::Draw(_) | Hour::Rest => Drive::Current(0.0),
                Hour::Charge(rate) => Drive::Charger { volts: 2.45 * cells, amperes: rate * 100.0 },
                Hour::Equalize => Drive::Charger { volts: 2.58 * cells, amperes: 5.0 },
            };
            let mut volts = 0.0;
            let mut left = 1.0;
            while left > 1e-9 {
                volts = string.step(drive, step.min(left), around).volts;
                left -= step;
            }
            volts
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn nothing_comes_from_nowhere(
        hours in hours(), agm in any::<bool>(), age in 1.0..4.0f64, worn in 0.0..0.4f64, celsius in -20.0..45.0f64,
    ) {
        let kind = if agm { CellKind::AGM } else { CellKind::FLOODED };
        let cell = SimCell::aged(kind, 100.0, age, worn).at(celsius).charged_to(0.8);
        let mut string = SimString::new(vec![cell.clone(), cell]);
        let before = string.cells()[0].ampere_hours();
        live(&mut string, &hours, 1.0, Surroundings::Air(celsius));
        let cell = &string.cells()[0];
        let went = cell.charge_account();
        let stored = cell.ampere_hours() - before;
        let balance = went.charged - went.discharged - went.gassed - went.self_discharged - stored - went.beyond;
        let through = went.charged + went.discharged + 1.0;
        // charge in = stored + gassed + lost by itself, within a thousandth
        prop_assert!(balance.abs() < through * 1e-3, "{balance} of {through}");
        prop_assert!(went.beyond.abs() < through * 1e-3, "{} beyond", went.beyond);
        // water lost is Faraday's, within a thousandth
        let faraday = went.gassed * rainshadow_core::water::millilitres_per_ampere_hour() * (1.0 - kind.recombined);
        prop_assert!((cell.water_lost() - faraday).abs() <= faraday * 1e-3 + 1e-9);
    }

    #[test]
    fn whatever_happens_every_figure_is_a_number(
        hours in hours(), amps in -300.0..300.0f64, celsius in -50.0..70.0f64, ml in 0.0..400.0f64, age in 0.0..20.0f64,
    ) {
        let mut string = SimString::new(vec![SimCell::aged(CellKind::FLOODED, 100.0, age, 0.1).at(celsius); 3]);
        live(&mut string, &hours, 1.0, Surroundings::Air(celsius));
        string.cells_mut()[1].water(ml);
        let reading = string.step(Drive::Current(amps), 30.0, Surroundings::Air(celsius));
        prop_assert!(reading.volts.is_finite() && reading.amperes.is_finite());
        for cell in string.cells() {
            let all = [cell.state_of_charge(), cell.gravity_on_top(), cell.celsius(), cell.water_lost(), cell.full()];
            prop_assert!(all.iter().all(|v| v.is_finite()), "{all:?}");
            prop_assert!(cell.celsius() <= 100.0 && cell.full() > 0.0);
        }
    }

    #[test]
    fn volts_fall_with_what_is_drawn_and_rise_with_what_is_put_in(
        share in 0.2..0.98f64, celsius in -10.0..45.0f64, low in 0.1..20.0f64, more in 0.1..20.0f64,
    ) {
        let cell = SimCell::new(CellKind::FLOODED, 100.0).charged_to(share).at(celsius);
        let at = |amperes: f64| cell.volts_at(amperes).0;
        prop_assert!(at(-low - more) < at(-low));
        prop_assert!(at(-low) < at(0.0) && at(0.0) < at(low));
        prop_assert!(at(low) < at(low + more));
    }

    #[test]
    fn half_the_step_changes_less_than_a_hundredth(hours in hours(), worn in 0.0..0.3f64) {
        let fresh = || SimString::new(vec![SimCell::aged(CellKind::FLOODED, 100.0, 1.5, worn).charged_to(0.9)]);
        let around = Surroundings::Air(20.0);
        let (mut whole, mut half) = (fresh(), fresh());
        let (a, b) = (live(&mut whole, &hours, MINUTE, around), live(&mut half, &hours, MINUTE / 2.0, around));
        // A load is left out of a nearly empty string: at that very edge the two lived through other hours.
        let drawn = |string: &SimString| string.cells()[0].charge_account().discharged;
        prop_assume!((drawn(&whole) - drawn(&half)).abs() < 1e-6);
        // at the knee of a discharge volts fall by the minute: there the hour is not compared
        for (x, y) in a.iter().zip(&b).filter(|(x, y)| x.min(**y) > 1.6) {
            prop_assert!((x - y).abs() < 0.01 * x.abs(), "{x} V and {y} V");
        }
        let (x, y) = (whole.cells()[0].ampere_hours(), half.cells()[0].ampere_hours());
        prop_assert!((x - y).abs() < 0.01 * x.abs().max(10.0), "{x} Ah and {y} Ah");
    }

    #[test]
    fn a_charger_holds_its_volts_and_its_amperes(share in 0.2..0.98f64, amperes in 0.5..30.0f64, per_cell in 2.2..2.6f64) {
        let mut string = SimString::new(vec![SimCell::new(CellKind::FLOODED, 100.0).charged_to(share); 4]);
        let volts = per_cell * 4.0;
        for _ in 0..120 {
            let reading = string.step(Drive::Charger { volts, amperes }, MINUTE, HELD);
            prop_assert!(reading.amperes <= amperes + 1e-9 && reading.amperes >= 0.0);
            prop_assert!(reading.volts <= volts + 0.002 || reading.amperes == 0.0, "{reading:?} over {volts}");
        }
    }
}
