//! Instruments held against what they should show: what is kept, asked about, refused, and what a diagnosis takes of it.
#![allow(clippy::unwrap_used, reason = "helpers fail loudly")]

use crate::common::shape;
use crate::common::visits::{past, sheet};
use jiff::civil::date;
use rainshadow_core::battery_model::BatteryModel;
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::visit::{
    CheckedInstrument, Entry, EntryRefused, InstrumentChecked, Judged, OnRecord, Place, VisitUnderWay,
    accept, diagnosis_evidence, instruments_checked,
};
use rainshadow_core::wording;

fn check(instrument: CheckedInstrument, shown: f64, should: f64) -> Entry {
    Entry::InstrumentCheck { instrument, shown, should, stands: false }
}

fn asked(place: &str, entry: &Entry, model: &str) -> Result<Option<String>, EntryRefused> {
    let (model, empty) = (BatteryModel::generic_by_key(model).unwrap(), sheet(Vec::new()));
    let bank = shape(model.cells, 2, 1);
    let visit = VisitUnderWay { shape: &bank, model: &model, sheet: &empty, taking: true };
    let at = "2026-10-08T09:00:00Z".parse().unwrap();
    let place: Place = place.parse().unwrap();
    Ok(accept((place, entry, at), &visit, at)?
        .map(|question| wording::entry_question(&question, ReaderUnits::default())))
}

#[test]
fn what_it_is_off_by_is_told_in_points_or_volts_on_twelve() {
    use CheckedInstrument::{Hydrometer, Meter};
    let off = |instrument, shown, should| InstrumentChecked { instrument, shown, should }.off();
    assert!((off(Hydrometer, 1.008, 1.000) - 8.0).abs() < 1e-9);
    // 6.40 beside 6.30 V is 0.19 V on 12 V.
    assert!((off(Meter, 6.40, 6.30) - 12.0 * 0.1 / 6.3).abs() < 1e-6);
    for (instrument, shown, should, part) in [
        (Hydrometer, 1.008, 1.000, "reads 8 points high in distilled water"),
        (Hydrometer, 0.994, 1.000, "right in distilled water"),
        (Meter, 12.50, 12.62, "0.11 V low on 12 V beside the other meter"),
        (Meter, 12.60, 12.62, "voltmeter is right"),
    ] {
        let said = wording::instrument_checked(&InstrumentChecked { instrument, shown, should });
        assert!(said.contains(part), "{said}");
    }
}

#[test]
fn an_odd_check_is_asked_about_and_one_that_cannot_be_is_refused() {
    use CheckedInstrument::{Hydrometer, Meter};
    let flooded = "flooded-6v-225";
    assert_eq!(asked("", &check(Hydrometer, 1.004, 1.0), flooded), Ok(None));
    assert!(asked("", &check(Hydrometer, 1.050, 1.0), flooded).unwrap().unwrap().contains("Rinse"));
    assert!(asked("", &check(Meter, 11.2, 12.6), flooded).unwrap().unwrap().contains("same posts"));
    let stands = Entry::InstrumentCheck { instrument: Hydrometer, shown: 1.05, should: 1.0, stands: true };
    assert_eq!(asked("", &stands, flooded), Ok(None));
    assert!(matches!(
        asked("A1", &check(Hydrometer, 1.0, 1.0), flooded),
        Err(EntryRefused::OtherPlace { .. })
    ));
    assert!(matches!(asked("A1", &check(Meter, 12.0, 12.0), flooded), Err(EntryRefused::OtherPlace { .. })));
    // A sealed bank has a meter to check, and no hydrometer.
    assert_eq!(asked("", &check(Meter, 12.6, 12.62), "agm-12v-100"), Ok(None));
    assert!(asked("", &check(Hydrometer, 1.0, 1.0), "agm-12v-100").is_err());
    for (entry, part) in [
        (check(Hydrometer, 1.265, 1.0), "gravity of distilled water"),
        (check(Meter, 0.0, 12.6), "voltage of a comparison"),
        (check(Meter, 12.6, f64::NAN), "voltage of a comparison"),
    ] {
        let why = entry.checked(Place::Bank, &shape(3, 2, 1)).unwrap_err().to_string();
        assert!(why.contains(part), "{why}");
    }
}

#[test]
fn the_newest_check_of_each_instrument_stands_and_is_evidence() {
    use CheckedInstrument::{Hydrometer, Meter};
    let own = sheet(vec![
        ("", check(Hydrometer, 1.020, 1.0)),
        ("", check(Meter, 12.5, 12.62)),
        ("", check(Hydrometer, 1.010, 1.0)),
    ]);
    assert_eq!(instruments_checked(&own).len(), 2, "the second look takes the place of the first");
    let model = BatteryModel::generic_by_key("flooded-6v-225").unwrap();
    let (bank, rules) = (shape(3, 2, 1), HouseRules::maker_first());
    let judged = Judged { shape: &bank, model: &model, rules: &rules };
    let visit =
        past(date(2026, 10, 1), vec![("", check(Hydrometer, 1.010, 1.0)), ("", check(Meter, 12.5, 12.62))]);
    let evidence = diagnosis_evidence(&[visit], &[], judged, &OnRecord::default(), date(2026, 10, 8));
    assert_eq!(evidence.distilled.len(), 1);
    assert_eq!(evidence.distilled[0].instrument, "hydrometer");
    assert!((evidence.distilled[0].off - 10.0).abs() < 1e-9);
    assert_eq!(evidence.meter.len(), 1);
    assert!(evidence.meter[0].off < -0.1);
}
