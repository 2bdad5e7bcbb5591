//! The demo: invented banks in an invented region, made by a seeded generator, written by the same
//! road as a typed reading.

mod arboretum_tram;
mod dipper;
mod equalize;
mod high_pasture;
mod kestrel_dome;
mod larch_point;
mod marginalia;
mod noise;
mod visits;

use crate::db::assessments::derive_missing;
use crate::db::{
    AccessNotes, BankRow, DbError, EquipmentRow, ModelRow, NewBank, NewReading, NewRound, NewSite, Origin,
    Person, ReadingKind, RoundRow, Site, StoredReading, Theme, VisitRow,
};
use crate::http::TypedEquipment;
use jiff::civil::Date;
use jiff::{Timestamp, ToSpan};
use noise::Noise;
use rainshadow_core::bank::{CellAddress, walk};
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Temperature, Voltage, typed};
use rainshadow_core::round::{Conditions, RoundTemperature, WaterAdded};
use rusqlite::Transaction;
use visits::{Drinks, VisitStory, day_of, fill_in, open};

/// Every demo bank stands in one invented region that keeps universal time.
const ZONE: &str = "UTC";

/// One bank's story.
struct Story {
    site: NewSite,
    bank: NewBank,
    instrument: Instrument,
    /// Who reads, round by round.
    people: [&'static str; 2],
    rounds: Vec<RoundStory>,
    /// Whole visits, oldest first; a round of the same day belongs to its visit.
    visits: Vec<VisitStory>,
    drinks: Option<Drinks>,
    access: AccessNotes,
    /// An equalize that the simulator runs.
    equalize: Option<equalize::EqualizeStory>,
    /// What charges it and hangs on it, as typed.
    equipment: Option<TypedEquipment>,
}

/// One round of a story.
struct RoundStory {
    days_ago: i64,
    celsius: f64,
    /// True gravity at 25 °C of a cell, before the instrument.
    truth: Box<dyn Fn(CellAddress) -> f64>,
    /// Cells with something other than a plain reading.
    oddities: Vec<(&'static str, Oddity)>,
    proven_full: bool,
    rest_volts: Option<f64>,
}

/// Something other than a plain reading.
enum Oddity {
    /// Not read, and why.
    NotRead(&'static str),
    /// Misread by so many points and not yet read again.
    Misread(f64),
    /// Misread by so many points at first, then read again.
    MisreadFirst(f64),
}

/// Writes the demo, ending the day before `today`.
///
/// # Errors
/// Whatever the database fails with.
pub fn seed(tx: &Transaction<'_>, today: Date) -> Result<(), DbError> {
    let mut noise = Noise::new(0x7a6e_5a17);
    for initials in ["TA", "MO"] {
        let person = Person {
            id: noise.id(),
            initials: initials.into(),
            units: ReaderUnits::default(),
            theme: Theme::Light,
            single_keys: true,
        };
        person.save(tx, Timestamp::UNIX_EPOCH)?;
    }
    let stories = [
        kestrel_dome::story(),
        larch_point::story(),
        marginalia::story(),
        dipper::story(),
        arboretum_tram::story(),
        high_pasture::story(),
    ];
    for story in stories {
        write(tx, story, today, &mut noise)?;
    }
    Ok(())
}

fn at(day: Date, hour: i8, minute: i64) -> Result<Timestamp, DbError> {
    day.at(hour, 0, 0, 0)
        .in_tz(ZONE)
        .and_then(|z| z.checked_add(minute.minutes()))
        .map(|z| z.timestamp())
        .map_err(|e| DbError::BadRow { what: "demo", why: e.to_string() })
}

fn bad(error: &impl ToString) -> DbError {
    DbError::BadRow { what: "demo", why: error.to_string() }
}

fn write(tx: &Transaction<'_>, story: Story, today: Date, noise: &mut Noise) -> Result<(), DbError> {
    let (site_id, bank_id) = (noise.id(), noise.id());
    Site::create(tx, &site_id, &story.site, at(today, 6, 0)?)?;
    let bank = NewBank { site: site_id, ..story.bank };
    // Known to the shop for as long as its record goes back.
    let known = story.visits.iter().map(|v| v.days_ago).max().unwrap_or(0);
    BankRow::create(tx, &bank_id, &bank, at(day_of(today, known)?, 6, 0)?)?;
    BankRow::set_access(tx, &bank_id, &story.access, story.people[0])?;
    // Chance of its own: the readings of a round do not hang on how often somebody came by.
    let mut chance =
        Noise::new(0x0b5e_55ed ^ bank_id.bytes().fold(1, |h, b| h * 31 % 0xffff_ffff + u64::from(b)));
    let mut visits: Vec<(i64, VisitRow)> = Vec::new();
    for (number, visit) in story.visits.iter().enumerate() {
        let day = day_of(today, visit.days_ago)?;
        let person = story.people[number % 2];
        visits.push((visit.days_ago, open(tx, &bank_id, day, person, &mut chance)?));
    }
    if let Some(typed) = &story.equipment {
        fit(tx, &bank_id, typed, story.people[0], at(day_of(today, known)?, 7, 0)?)?;
    }
    let path = walk(&bank.shape.plan(), false);
    for (number, round) in story.rounds.iter().enumerate() {
        let day = today.checked_sub(round.days_ago.days()).map_err(|e| bad(&e))?;
        let temperature = Temperature::from_celsius(round.celsius).map_err(|e| bad(&e))?;
        let new = NewRound {
            id: noise.id(),
            bank: bank_id.clone(),
            visit: visits.iter().find(|(ago, _)| *ago == round.days_ago).map(|(_, v)| v.id.clone()),
            origin: Origin::Walked,
            started_at: at(day, 9, 0)?,
            finished_at: Some(at(day, 9, 50)?),
            zone: ZONE.into(),
            instrument: story.instrument,
            conditions: Conditions {
                charging: false,
                hours_since_charge: Some(26.0),
                hours_since_load: Some(25.0),
                water_added: WaterAdded::No,
                proven_full: round.proven_full.then(|| "tail current held under 2 % for an hour".into()),
                temperature: RoundTemperature::OneForAll { temperature },
                rest_volts: round.rest_volts.map(Voltage::from_volts).transpose().map_err(|e| bad(&e))?,
            },
            reversed: false,
            person: story.people[number % 2].into(),
            device: "shop laptop".into(),
            sent: format!("demo {number}"),
            typed: None,
        };
        RoundRow::create(tx, &new)?;
        let row = RoundRow::by_id(tx, &new.id)?;
        for (step, cell) in (0..).zip(&path) {
            take(tx, &row, round, *cell, at(day, 9, step)?, noise)?;
        }
        derive_missing(tx, &bank_id)?;
        let run = story.equalize.as_ref().filter(|e| e.days_ago == round.days_ago);
        let visit = visits.iter().find(|(ago, _)| *ago == round.days_ago);
        if let Some((run, (_, visit))) = run.zip(visit) {
            equalize::write(tx, visit, story.instrument, run, day)?;
        }
    }
    let mut last_fill = None;
    for (visit, (_, row)) in story.visits.iter().zip(visits) {
        fill_in(tx, row, visit, story.drinks, last_fill, &mut chance)?;
        if visit.fills {
            last_fill = Some(visit.days_ago);
        }
    }
    Ok(())
}

/// Tells what charges a bank, by the road of a typed form.
fn fit(
    tx: &Transaction<'_>,
    bank: &str,
    typed: &TypedEquipment,
    person: &str,
    when: Timestamp,
) -> Result<(), DbError> {
    let row = BankRow::by_id(tx, bank)?;
    let model = ModelRow::by_id(tx, &row.model_id)?;
    let fitted = typed
        .canonical(&model, row.shape.cells_in_series())
        .map_err(|_refused| bad(&"the equipment of the demo does not fit"))?;
    let text = serde_json::to_string(typed).map_err(|e| bad(&e))?;
    EquipmentRow::append(tx, bank, 0, (&fitted, &text, person), when)?;
    Ok(())
}

/// One cell read in thousandths, looked at twice by the shop's habit.
fn read_as(
    tx: &Transaction<'_>,
    row: &RoundRow,
    cell: CellAddress,
    shown: f64,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let text = format!("{:03.0}", shown - 1000.0);
    let mut new = NewReading {
        id: noise.id(),
        cell,
        kind: ReadingKind::Gravity,
        gravity: Some(typed::gravity(&text).map_err(|e| bad(&e))?),
        typed: Some(text),
        temperature: None,
        temperature_typed: None,
        reason: None,
        stands: true,
        supersedes: None,
        person: row.person.clone(),
        device: row.device.clone(),
        taken_at: when,
        sent: String::new(),
    };
    new.sent = new.fingerprint();
    StoredReading::append(tx, row, &new, when)?;
    Ok(())
}

/// One cell of a round: read by the instrument, typed in three digits, appended.
fn take(
    tx: &Transaction<'_>,
    row: &RoundRow,
    round: &RoundStory,
    cell: CellAddress,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let oddity = round.oddities.iter().find(|(address, _)| *address == cell.to_string()).map(|(_, o)| o);
    // What the float shows: the truth at its temperature, the scatter of the hand, the nearest mark.
    let warm = if row.instrument.corrects_for_temperature { 0.0 } else { 0.72 * (round.celsius - 25.0) };
    let mark = row.instrument.resolution.value();
    let shown = ((round.truth)(cell) * 1000.0 - warm
        + 0.6 * row.instrument.repeatability.value() * noise.normal())
        / mark;
    let shown = shown.round() * mark;
    let mut append = |kind, points: Option<f64>, reason: Option<&str>, supersedes: Option<String>, stands| {
        let text = points.map(|p| format!("{:03.0}", p - 1000.0));
        let mut new = NewReading {
            id: noise.id(),
            cell,
            kind,
            gravity: text.as_deref().map(typed::gravity).transpose().map_err(|e| bad(&e))?,
            typed: text,
            temperature: None,
            temperature_typed: None,
            reason: reason.map(Into::into),
            stands,
            supersedes,
            person: row.person.clone(),
            device: row.device.clone(),
            taken_at: when,
            sent: String::new(),
        };
        new.sent = new.fingerprint();
        StoredReading::append(tx, row, &new, when)?;
        Ok::<String, DbError>(new.id)
    };
    match oddity {
        Some(Oddity::NotRead(why)) => {
            append(ReadingKind::NotRead, None, Some(why), None, false)?;
        }
        Some(Oddity::Misread(by)) => {
            append(ReadingKind::Gravity, Some(shown + by), None, None, false)?;
        }
        Some(Oddity::MisreadFirst(by)) => {
            let first = append(ReadingKind::Gravity, Some(shown + by), None, None, false)?;
            append(ReadingKind::Gravity, Some(shown), None, Some(first), false)?;
        }
        // Everything else was looked at twice by the shop's habit and stands.
        None => {
            append(ReadingKind::Gravity, Some(shown), None, None, true)?;
        }
    }
    Ok(())
}
