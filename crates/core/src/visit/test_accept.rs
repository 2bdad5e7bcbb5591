//! Whether something may be written down of a test, and what it is asked about.

use super::load_tests::{discharge_under_way, set_up};
use super::test_refused::{TestQuestion, TestRefused};
use super::{BurnOff, DischargeRecord, Entry, Place, TestEntry, TimedLoad, VisitSheet};
use crate::bank::{BankShape, BatteryAddress};
use crate::discharge::{DischargeEvent, DischargeReading};
use crate::load_test::LoadedVolts;
use crate::quantity::{OutOfRange, bounds};

/// V that may rise under a load between two readings, and per cent that a current may be off: more is asked about (our
/// choice, no source).
const RISE: f64 = 0.03;
const CURRENT_OFF: f64 = 0.10;
/// Volts of a cell under a short load that a sound battery never shows: read again (our choice, no source).
const ODD_LOADED_CELL: f64 = 1.2;
/// Volts that a single cell usually shows, at rest, on charge or under load (our choice, no source).
const USUAL_CELL: (f64, f64) = (1.5, 2.75);

fn at(field: &'static str) -> impl Fn(OutOfRange) -> TestRefused {
    move |why| TestRefused::OutOfRange { field, why }
}

fn placed(fits: bool, wanted: &'static str, place: Place) -> Result<(), TestRefused> {
    if fits { Ok(()) } else { Err(TestRefused::OtherPlace { wanted, at: place.said() }) }
}

fn loaded(read: &LoadedVolts, cells: u8) -> Result<Option<TestQuestion>, TestRefused> {
    let all = f64::from(cells);
    for (field, volts) in
        [("before", Some(read.before)), ("at_end", Some(read.at_end)), ("after", read.after)]
    {
        volts.map(|v| bounds::LOADED_CELL_VOLTS.check(v / all)).transpose().map_err(at(field))?;
    }
    if read.at_end > read.before {
        return Err(TestRefused::Raised { before: read.before, at_end: read.at_end });
    }
    let odd = read.at_end / all < ODD_LOADED_CELL && !read.stands;
    Ok(odd.then_some(TestQuestion::FellFar { volts: read.at_end }))
}

/// What a reading of a discharge that is on is asked about.
fn read(reading: &DischargeReading, own: &DischargeRecord<'_>) -> Result<Option<TestQuestion>, TestRefused> {
    if reading.is_empty() {
        return Err(TestRefused::NoFigure);
    }
    if let Some(other) =
        reading.batteries.iter().find(|b| !own.begun.place.overlaps(Place::Battery(b.battery)))
    {
        return Err(TestRefused::NotUnderTest { battery: other.battery, of: own.begun.place.said() });
    }
    if reading.stands {
        return Ok(None);
    }
    if let Some((meant, read)) = own.plan.amperes.zip(reading.amperes)
        && (read / meant - 1.0).abs() > CURRENT_OFF
    {
        return Ok(Some(TestQuestion::CurrentOff { meant, read }));
    }
    // Without a pause between, and under one current, volts only fall.
    if own.plan.amperes.is_none() || is_paused(own) {
        return Ok(None);
    }
    let since_resumed = own.log().iter().rev().take_while(|l| l.event != DischargeEvent::Resumed);
    let mut before = since_resumed.filter_map(|l| match &l.event {
        DischargeEvent::Read { reading } => Some(reading),
        _ => None,
    });
    let Some(last) = before.next() else { return Ok(None) };
    if let Some((then, now)) = last.volts.zip(reading.volts).filter(|(then, now)| now > &(then + RISE)) {
        return Ok(Some(TestQuestion::Rose { before: then, now, battery: None }));
    }
    Ok(reading.batteries.iter().find_map(|own| {
        let then = last.batteries.iter().find(|b| b.battery == own.battery)?.volts;
        (own.volts > then + RISE).then_some(TestQuestion::Rose {
            before: then,
            now: own.volts,
            battery: Some(own.battery),
        })
    }))
}

fn is_paused(own: &DischargeRecord<'_>) -> bool {
    let switched = own.log().iter().rev().find_map(|l| match l.event {
        DischargeEvent::Paused => Some(true),
        DischargeEvent::Resumed => Some(false),
        _ => None,
    });
    switched.unwrap_or(false)
}

fn discharge(event: &DischargeEvent, sheet: &VisitSheet) -> Result<Option<TestQuestion>, TestRefused> {
    let on = discharge_under_way(sheet);
    let on = match event {
        DischargeEvent::Begun { .. } if on.is_some() => return Err(TestRefused::UnderWay),
        DischargeEvent::Begun { .. } | DischargeEvent::Noted { .. } | DischargeEvent::ClockSet { .. } => {
            return Ok(None);
        }
        _ => on.ok_or(TestRefused::NoneOn)?,
    };
    match event {
        DischargeEvent::Read { reading } => read(reading, &on),
        DischargeEvent::Paused if is_paused(&on) => Err(TestRefused::PausedAlready),
        DischargeEvent::Resumed if !is_paused(&on) => Err(TestRefused::NotPaused),
        _ => Ok(None),
    }
}

/// Decides about an entry of a test.
///
/// # Errors
/// [`TestRefused`]; nothing is added then.
pub(super) fn accept(
    place: Place,
    test: &TestEntry,
    (shape, sheet): (&BankShape, &VisitSheet),
) -> Result<Option<TestQuestion>, TestRefused> {
    test.possible(place, shape)?;
    match test {
        TestEntry::BurnOff { switched: BurnOff::LoadOff } => {
            let on = |e: &Entry| {
                matches!(e, Entry::Test { test: TestEntry::BurnOff { switched: BurnOff::LoadOn } })
            };
            if sheet.standing().any(|k| on(&k.entry)) {
                Ok(None)
            } else {
                Err(TestRefused::NothingToSwitchOff)
            }
        }
        TestEntry::ShortLoad { .. } | TestEntry::LoadOn { of: TimedLoad::ShortLoad }
            if set_up(sheet).is_none() =>
        {
            Err(TestRefused::NoSetUp)
        }
        TestEntry::ShortLoad { read } => loaded(read, shape.cells_per_battery),
        TestEntry::Discharge { event } => discharge(event, sheet),
        TestEntry::CellVolts { volts, stands, .. } => {
            let odd = !stands && !(USUAL_CELL.0..=USUAL_CELL.1).contains(volts);
            Ok(odd.then_some(TestQuestion::OddCell { volts: *volts }))
        }
        _ => Ok(None),
    }
}

impl TestEntry {
    /// Whether it can be at a place of a bank, whoever wrote it down: the ranges that a typed one passes.
    ///
    /// # Errors
    /// [`TestRefused`] with the figure and what is accepted.
    pub(super) fn possible(&self, place: Place, shape: &BankShape) -> Result<(), TestRefused> {
        match self {
            Self::LoadOn { of: TimedLoad::ShortLoad } => {
                placed(matches!(place, Place::Battery(_)), "a battery", place)
            }
            Self::BurnOff { .. } | Self::LoadOn { of: TimedLoad::RealLoad } => {
                placed(place == Place::Bank, "the bank", place)
            }
            Self::SetUp { set_up } => {
                placed(place == Place::Bank, "the bank", place)?;
                set_up.clone().checked().map_err(at("seconds")).map(|_| ())
            }
            Self::ShortLoad { read } => {
                placed(matches!(place, Place::Battery(_)), "a battery", place)?;
                loaded(read, shape.cells_per_battery).map(|_| ())
            }
            Self::RealLoad { read } => {
                placed(place == Place::Bank, "the bank", place)?;
                Ok(read.clone().checked(shape.cells_in_series()).map(|_| ())?)
            }
            Self::Discharge { event } => {
                placed(!matches!(place, Place::Cell(_)), "the bank, a string or a battery", place)?;
                event_possible(event, place, shape)
            }
            Self::KnownLoad { load, when_new, now } => {
                placed(place == Place::Bank, "the bank", place)?;
                if load.trim().is_empty() {
                    return Err(TestRefused::NoLoad);
                }
                bounds::RATE_HOURS.check(*when_new).map_err(at("when_new"))?;
                bounds::RATE_HOURS.check(*now).map_err(at("now")).map(|_| ())
            }
            Self::CellVolts { volts, .. } => {
                placed(matches!(place, Place::Cell(_)), "a cell", place)?;
                bounds::CELL_VOLTS.check(*volts).map_err(at("typed")).map(|_| ())
            }
        }
    }
}

fn event_possible(event: &DischargeEvent, place: Place, shape: &BankShape) -> Result<(), TestRefused> {
    let read = |reading: DischargeReading, field| {
        let under_test = |b: BatteryAddress| Place::Battery(b).on(shape) && place.overlaps(Place::Battery(b));
        if let Some(own) = reading.batteries.iter().find(|own| !under_test(own.battery)) {
            return Err(TestRefused::NotUnderTest { battery: own.battery, of: place.said() });
        }
        let cells = (place.cells_in_series(shape), shape.cells_per_battery);
        reading.checked(cells.0, cells.1).map_err(at(field)).map(|_| ())
    };
    match event {
        DischargeEvent::Begun { plan } => Ok(plan.checked().map(|_| ())?),
        DischargeEvent::Read { reading } => read(reading.clone(), "volts"),
        DischargeEvent::ClockSet { hours } => {
            bounds::CLOCK_SET.check(*hours).map_err(at("hours")).map(|_| ())
        }
        DischargeEvent::Noted { plan, hours, batteries, .. } => {
            plan.checked()?;
            if plan.amperes.is_none() {
                return Err(TestRefused::NoCurrent);
            }
            bounds::TEST_HOURS.check(*hours).map_err(at("hours"))?;
            read(
                DischargeReading { batteries: batteries.clone(), ..DischargeReading::default() },
                "batteries",
            )
        }
        DischargeEvent::Paused | DischargeEvent::Resumed | DischargeEvent::Ended => Ok(()),
    }
}
