//! Banks, addresses, plans and paths through the public interface.

use proptest::prelude::*;
use rainshadow_core::bank::{BankShape, Layout, Side, walk};
use std::collections::BTreeSet;

fn shape(system_voltage: u16, cells_per_battery: u8, series: u8, parallel: u8, layout: Layout) -> BankShape {
    BankShape { system_voltage, cells_per_battery, series, parallel, layout }
}

#[test]
fn five_eight_volt_batteries_are_refused_for_48_v_with_the_count_that_fits() {
    let said = shape(48, 4, 5, 1, Layout::default()).checked().unwrap_err().to_string();
    assert_eq!(said, "5 batteries of 8 V in series make 40 V, not 48 V: 48 V needs 6 in series");
}

#[test]
fn a_voltage_no_count_can_make_names_its_neighbours() {
    let said = shape(32, 3, 5, 1, Layout::default()).checked().unwrap_err().to_string();
    assert!(
        said.ends_with("no count of 6 V batteries makes 32 V (5 would make 30 V, 6 would make 36 V)"),
        "{said}"
    );
}

#[test]
fn a_bank_of_more_cells_than_the_table_allows_is_refused() {
    let said = shape(120, 1, 60, 4, Layout::default()).checked().unwrap_err().to_string();
    assert!(said.contains("cells in the bank 240 is not possible here; accepted is 1 to 192"), "{said}");
}

#[test]
fn a_bank_is_shaped_by_its_batteries_volts_and_strings() {
    let own = BankShape::of_batteries(3, 48, 2).unwrap();
    assert_eq!(own, shape(48, 3, 8, 2, Layout::default()));
    let said =
        |cells, volts, strings| BankShape::of_batteries(cells, volts, strings).unwrap_err().to_string();
    assert!(said(6, 6, 1).starts_with("one battery of 12 V makes 12 V, not 6 V"), "{}", said(6, 6, 1));
    assert!(said(3, 32, 1).contains("5 would make 30 V, 6 would make 36 V"));
    assert!(said(3, 12, 13).contains("strings in parallel 13 is not possible here; accepted is 1 to 12"));
}

#[test]
fn rows_and_tiers_that_cannot_stand_are_refused() {
    let rows = Layout { rows_per_string: 9, ..Layout::default() };
    assert!(shape(48, 3, 8, 2, rows).checked().unwrap_err().to_string().contains("accepted is 1 to 8"));
    let tiers = Layout { tiers: 3, ..Layout::default() };
    assert!(shape(48, 3, 8, 2, tiers).checked().unwrap_err().to_string().contains("accepted is 1 to 2"));
}

#[test]
fn six_eight_volt_batteries_folded_in_two_rows_turn_at_the_right() {
    let plan = shape(48, 4, 6, 1, Layout { rows_per_string: 2, ..Layout::default() }).plan();
    let row =
        |i: usize| plan.rows[i].batteries.iter().map(|b| b.address.to_string()).collect::<Vec<_>>().join(" ");
    assert_eq!(row(0), "A1 A2 A3");
    assert_eq!(row(1), "A6 A5 A4");
    assert!(!plan.rows[0].turned && plan.rows[1].turned);
    // cell 1 is next to the positive post, which is on the right of a turned case
    assert_eq!(plan.rows[1].batteries[2].cells.last().unwrap().to_string(), "A4-1");
    let path: Vec<String> = walk(&plan, false).iter().map(ToString::to_string).collect();
    assert_eq!(path[11..14], ["A3-4", "A4-1", "A4-2"]);
    assert_eq!(path.last().unwrap(), "A6-4");
}

#[test]
fn two_strings_are_walked_there_and_back() {
    let plan = shape(48, 3, 8, 2, Layout::default()).plan();
    let path: Vec<String> = walk(&plan, false).iter().map(ToString::to_string).collect();
    assert_eq!((path[0].as_str(), path[23].as_str(), path[24].as_str()), ("A1-1", "A8-3", "B8-3"));
    assert_eq!(walk(&plan, true)[0].to_string(), "B1-1");
}

#[test]
fn tiers_share_the_rows_the_upper_one_first() {
    let plan = shape(24, 1, 12, 4, Layout { tiers: 2, ..Layout::default() }).plan();
    let tiers: Vec<u8> = plan.rows.iter().map(|r| r.tier).collect();
    assert_eq!(tiers, [1, 1, 2, 2]);
}

#[test]
fn addresses_are_read_as_they_are_spoken_and_refused_with_their_form() {
    use rainshadow_core::bank::{BatteryAddress, CellAddress};
    for (typed, shown) in [("A3-2", "A3-2"), ("a3-2", "A3-2"), (" B12-1 ", "B12-1")] {
        assert_eq!(typed.parse::<CellAddress>().unwrap().to_string(), shown);
    }
    for wrong in ["", "A", "A3", "3-2", "A3-", "A-2", "A0-1", "A1-0", "A1-2-3", "AA1-2", "A1.2", "Ä1-1"] {
        let said = wrong.parse::<CellAddress>().unwrap_err().to_string();
        assert!(said.contains("is not an address; accepted is"), "{wrong}: {said}");
    }
    assert_eq!("c7".parse::<BatteryAddress>().unwrap().to_string(), "C7");
    assert!("C7-1".parse::<BatteryAddress>().is_err());
}

#[test]
fn strings_that_alternate_turn_every_other_one_around() {
    let alternate = Layout { strings_alternate: true, ..Layout::default() };
    let turned: Vec<bool> = shape(24, 3, 4, 3, alternate).plan().rows.iter().map(|r| r.turned).collect();
    assert_eq!(turned, [false, true, false]);
    let right = Layout { positive_end: Side::Right, ..Layout::default() };
    let plan = shape(24, 3, 4, 1, right).plan();
    let row: Vec<String> = plan.rows[0].batteries.iter().map(|b| b.address.to_string()).collect();
    assert_eq!(row, ["A4", "A3", "A2", "A1"], "seen from the working side, positive on the right");
    assert_eq!(plan.rows[0].batteries[3].cells[2].to_string(), "A1-1", "cell 1 is next to the positive post");
}

#[test]
fn rows_of_unequal_length_put_the_longer_ones_first_and_end_where_the_string_ends() {
    let plan = shape(30, 3, 5, 1, Layout { rows_per_string: 2, ..Layout::default() }).plan();
    let lengths: Vec<usize> = plan.rows.iter().map(|r| r.batteries.len()).collect();
    assert_eq!(lengths, [3, 2]);
    assert_eq!(plan.rows.iter().map(|r| (r.fold, r.last)).collect::<Vec<_>>(), [(0, false), (1, true)]);
}

proptest! {
    #[test]
    fn an_address_that_is_shown_is_read_back(string in 0u8..26, battery in 1u8..=60, cell in 1u8..=6) {
        use rainshadow_core::bank::{BatteryAddress, CellAddress};
        let address = CellAddress { battery: BatteryAddress { string, battery }, cell };
        prop_assert_eq!(address.to_string().parse::<CellAddress>().unwrap(), address);
        let json = serde_json::to_string(&address).unwrap();
        prop_assert_eq!(serde_json::from_str::<CellAddress>(&json).unwrap(), address);
    }

    #[test]
    fn no_text_makes_an_address_panic(text in ".{0,12}") {
        let _ = text.parse::<rainshadow_core::bank::CellAddress>();
    }

    #[test]
    fn in_every_row_the_batteries_follow_each_other_from_positive_to_negative(
        series in 1u8..=16, rows in 1u8..=4, right in any::<bool>(), alternate in any::<bool>(),
    ) {
        let layout = Layout {
            rows_per_string: rows.min(series),
            positive_end: if right { Side::Right } else { Side::Left },
            strings_alternate: alternate,
            ..Layout::default()
        };
        for row in shape(6 * u16::from(series), 3, series, 2, layout).plan().rows {
            let mut numbers: Vec<u8> = row.batteries.iter().map(|b| b.address.battery).collect();
            let mut cells: Vec<u8> = row.batteries[0].cells.iter().map(|c| c.cell).collect();
            if row.turned {
                numbers.reverse();
                cells.reverse();
            }
            prop_assert!(numbers.windows(2).all(|pair| pair[1] == pair[0] + 1), "{:?}", numbers);
            prop_assert_eq!(cells, vec![1, 2, 3]);
        }
    }

    #[test]
    fn the_plan_and_the_path_hold_every_cell_once(
        cells in 1u8..=6, series in 1u8..=16, parallel in 1u8..=4, rows in 1u8..=4, tiers in 1u8..=3,
        right in any::<bool>(), alternate in any::<bool>(), reversed in any::<bool>(),
    ) {
        let layout = Layout {
            rows_per_string: rows,
            tiers,
            positive_end: if right { Side::Right } else { Side::Left },
            strings_alternate: alternate,
            ..Layout::default()
        };
        let shape = shape(2 * u16::from(cells) * u16::from(series), cells, series, parallel, layout);
        prop_assume!(shape.cell_count() <= 192);
        let Ok(shape) = shape.checked() else { return Ok(()) };
        let path = walk(&shape.plan(), reversed);
        let unique: BTreeSet<_> = path.iter().copied().collect();
        prop_assert_eq!(path.len(), shape.cell_count());
        prop_assert_eq!(unique, shape.cells().collect::<BTreeSet<_>>());
    }

    #[test]
    fn no_shape_makes_the_check_panic(
        v in 0u16..1000, c in 0u8..=20, s in 0u8..=255, p in 0u8..=255, rows in 0u8..=255, tiers in 0u8..=255,
    ) {
        let layout = Layout { rows_per_string: rows, tiers, ..Layout::default() };
        let _ = shape(v, c, s, p, layout).checked().map(|s| s.plan());
    }
}
