//! Tables read and written back.

use super::*;
use jiff::civil::date;
use proptest::prelude::*;
use rainshadow_core::bank::Layout;

fn shape() -> BankShape {
    BankShape { system_voltage: 12, cells_per_battery: 3, series: 2, parallel: 1, layout: Layout::default() }
}

fn read(text: &str) -> Result<Notebook, NotebookError> {
    let taken = BTreeSet::from([date(2024, 1, 1).at(9, 30, 0, 0)]);
    let shape = shape();
    let against =
        Against { shape: &shape, taken: &taken, today: date(2026, 10, 8), unit: TemperatureUnit::Fahrenheit };
    parse(text, against)
}

#[test]
fn good_fields_are_taken_and_each_fault_is_named_with_its_line() {
    let text = "cell;2025-03-14;2025-06-20;2030-01-01;2024-01-01;2025-03-14;soon\n\
        temperature;18 C;64;;;;\n\
        A1-1;265;1,263;;;;\n\
        A1-2;12.65;below;;;;\n\
        A1-2;260;;;;;\n\
        A9-1;260;;;;;\n\
        wrong;1;;;;;\n\
        A2-3;;-;;;;\n";
    let n = read(text).unwrap();
    assert_eq!(n.columns.len(), 2);
    assert_eq!(n.columns[0].cells.len(), 1);
    assert_eq!(n.columns[1].cells["A1-2".parse::<CellAddress>().as_ref().unwrap()], Field::Below);
    assert!((n.columns[0].temperature.as_ref().unwrap().temperature.celsius() - 18.0).abs() < 1e-9);
    assert_eq!(n.columns[1].temperature.as_ref().unwrap().unit, TemperatureUnit::Fahrenheit);
    let said: Vec<(usize, &str)> = n.refused.iter().map(|r| (r.line, r.why.as_str())).collect();
    let expect = |line: usize, part: &str| {
        assert!(said.iter().any(|(l, w)| *l == line && w.contains(part)), "{line} {part}: {said:?}");
    };
    expect(1, "in the future");
    expect(1, "has a round on that day already");
    expect(1, "earlier column");
    expect(1, "this is no date");
    expect(4, "looks like volts");
    expect(5, "stands in line 4 already");
    expect(6, "no cell A9-1");
    expect(7, "is not an address");
    assert_eq!(said.len(), 8, "{said:?}");
}

#[test]
fn a_table_without_a_header_of_dates_is_refused_whole() {
    assert!(matches!(read("A1-1,265\n"), Err(NotebookError::NoHeader { .. })));
    assert_eq!(read("cell,soon\nA1-1,265\n"), Err(NotebookError::NoDates));
    assert!(matches!(
        read(&format!("cell{}\n", ",2025-01-01".repeat(300))),
        Err(NotebookError::TooWide { .. })
    ));
}

#[test]
fn a_paste_with_tabs_and_windows_line_ends_is_read() {
    let n = read("cell\t2025-03-14\r\nA1-1\t265\r\nA1-2\t262\r\nA9-9\t1\r\n").unwrap();
    assert_eq!((n.columns[0].cells.len(), n.refused.len()), (2, 1));
    assert_eq!(n.refused[0].line, 4, "a line is counted as a spreadsheet counts it");
}

#[test]
fn two_rounds_of_a_day_are_told_apart_by_their_hours() {
    let n = read("cell,2025-03-14 09:30,2025-03-14T17:05,2025-03-14 09:30,2024-01-01 09:30,2024-01-01 18:00\nA1-1,265,263,1,1,264\n").unwrap();
    let headings: Vec<String> = n.columns.iter().map(Column::heading).collect();
    assert_eq!(headings, ["2024-01-01 18:00", "2025-03-14 09:30", "2025-03-14 17:05"]);
    assert_eq!(n.refused.len(), 2, "{:?}", n.refused);
}

#[test]
fn a_cell_that_was_not_read_keeps_its_reason() {
    let n = read(
        "cell,2025-03-14\nA1-1,265\nA1-2,\"Not read: cap seized, again\"\nA1-3,not read\nA2-1,not ready\n",
    )
    .unwrap();
    let cell = |a: &str| n.columns[0].cells.get(&a.parse().unwrap()).cloned();
    assert_eq!(cell("A1-2"), Some(Field::NotRead("cap seized, again".into())));
    assert_eq!(cell("A1-3"), Some(Field::NotRead(String::new())));
    assert!(n.refused[0].why.contains("is not a number"), "{:?}", n.refused);
}

fn fields() -> impl Strategy<Value = Field> {
    prop_oneof![
        (980u32..=1400).prop_map(|v| {
            let sg = SpecificGravity::new(f64::from(v) / 1000.0).unwrap();
            Field::Gravity(sg, sg.to_string())
        }),
        Just(Field::Below),
        Just(Field::Above),
        "[a-z,;\" ]{0,12}".prop_map(|reason| Field::NotRead(reason.trim().to_owned())),
    ]
}

proptest! {
    #[test]
    fn what_is_written_reads_back_the_same(
        fields in prop::collection::vec(prop::option::of(fields()), 12),
        hour in prop::option::of(0i8..24),
        t in prop::option::of(-40i32..=80),
        volts in prop::option::of(110u16..150),
        water in prop::option::of((1u16..500, prop::sample::select(vec!["", "L", "mL", "US gal", "US fl oz"]))),
    ) {
        let figure = |typed: String, unit| Figure { line: 0, typed, unit };
        let shape = shape();
        let cells: Vec<CellAddress> = shape.cells().collect();
        let columns: Vec<Column> = [date(2025, 3, 14), date(2025, 6, 20)]
            .into_iter()
            .zip(fields.chunks(6))
            .map(|(date, fields)| Column {
                date,
                time: hour.map(|h| jiff::civil::time(h, 30, 0, 0)),
                temperature: t.map(|t| TypedTemperature {
                    temperature: Temperature::from_celsius(f64::from(t)).unwrap(),
                    typed: t.to_string(),
                    unit: TemperatureUnit::Celsius,
                }),
                volts: volts.map(|v| figure(format!("{}", f64::from(v) / 10.0), "")),
                water: water.map(|(amount, unit)| figure(amount.to_string(), unit)),
                cells: cells
                    .iter()
                    .zip(fields)
                    .filter_map(|(cell, field)| Some((*cell, field.clone()?)))
                    .collect(),
            })
            .filter(|c| !c.cells.is_empty() || c.is_visit())
            .collect();
        prop_assume!(!columns.is_empty());
        let mut back = read(&write(&shape, &columns).unwrap()).unwrap();
        for figure in back.columns.iter_mut().flat_map(|c| c.volts.iter_mut().chain(c.water.iter_mut())) {
            prop_assert!(figure.line > 1);
            figure.line = 0;
        }
        prop_assert_eq!(back.columns, columns);
        prop_assert!(back.refused.is_empty());
    }

    #[test]
    fn no_text_makes_it_panic(text in "(cell)?[-0-9A-Za-z,;\t\"\n. ]{0,200}") {
        let _ = read(&text);
    }
}

#[test]
fn volts_and_water_of_the_bank_are_lines_of_their_own() {
    let text = "cell,2025-03-14,2025-06-20,2025-09-01,2025-10-01\n\
        Volts,12.6,12.52 V,about 12,\n\
        water,\"1,2 L\",2 gal.,3 pails,-\n\
        A1-1,265,,,\n";
    let n = read(text).unwrap();
    let said =
        |c: &Column| (c.volts.as_ref().map(Figure::said), c.water.as_ref().map(Figure::said), c.cells.len());
    let both = |volts: &str, water: &str| (Some(volts.to_owned()), Some(water.to_owned()));
    let all: Vec<_> = n.columns.iter().map(said).collect();
    // a day without cells is taken for its volts; one with nothing in it is not
    let ((v1, w1), (v2, w2)) = (both("12.6", "1,2 L"), both("12.52", "2 US gal"));
    assert_eq!(all[..2], [(v1, w1, 1), (v2, w2, 0)]);
    assert_eq!(all.len(), 3, "{all:?}");
    assert_eq!(n.refused.len(), 1);
    assert!(n.refused[0].why.contains("accepted is a figure, alone or with L, mL, gal"), "{:?}", n.refused);
    assert_eq!((n.refused[0].line, n.refused[0].found.as_str()), (3, "3 pails"));
}

#[test]
fn what_is_refused_of_the_bank_leaves_the_cells_of_its_day() {
    let mut n = read("cell,2025-03-14,2025-06-20\nvolts,12.6,99\nA1-1,265,\n").unwrap();
    n.refuse_of_bank("2025-03-14", OfBank::Volts, "no".into());
    n.refuse_of_bank("2025-06-20", OfBank::Volts, "no".into());
    n.refuse_of_bank("2025-06-20", OfBank::Water, "there is none".into());
    assert_eq!(n.columns.iter().map(Column::heading).collect::<Vec<_>>(), ["2025-03-14"]);
    assert!(!n.columns[0].is_visit());
    assert_eq!(n.refused.iter().map(|r| r.line).collect::<Vec<_>>(), [2, 2]);
}
