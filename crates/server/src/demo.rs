//! The demo: invented banks in an invented region. The simulator lived through their years (SM-1) and
//! left a journal of each; readings are taken from it with the scatter of an instrument and written by
//! the same road as a typed reading.

mod arboretum_tram;
mod dipper;
mod equalize;
mod folder;
mod high_pasture;
mod journal;
mod kestrel_dome;
mod larch_point;
mod lived_bank;
mod marginalia;
mod noise;
mod visits;
mod years;

pub use folder::{DemoFolderError, prepare};
pub use journal::{CellFound, DayFound, Journal, Line, RunFound};

use crate::app::App;
use crate::app::judge_rounds::{derive_missing, round_context};
use crate::app::live_rounds::LiveRound;
use crate::app::readings::add_reading;
use crate::app::refused::{AppError, AppResult};
use crate::app::typed::equipment::TypedEquipment;
use crate::db::Transaction;
use crate::db::{
    AccessNotes, BankRow, DbError, EquipmentRow, ModelRow, NewBank, NewRound, NewSite, Origin, Person,
    RoundRow, Site, Theme, VisitRow,
};
use jiff::civil::Date;
use jiff::{Timestamp, ToSpan};
use noise::Noise;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::{BankShape, CellAddress, walk};
use rainshadow_core::house_rules::HouseRules;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use rainshadow_core::quantity::{Temperature, Voltage, typed};
use rainshadow_core::round::{Conditions, ReadingKind, RoundEntry, RoundTemperature, WaterAdded};
use std::sync::Arc;
use visits::{Day, Pours, VisitStory, day_of, fill_in, open};
use years::{Years, live};

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
    pours: Option<Pours>,
    access: AccessNotes,
    /// What charges it and hangs on it, as typed.
    equipment: Option<TypedEquipment>,
    /// What it lived through, and what the simulator found.
    years: Years,
    journal: &'static str,
}

/// One round of a story.
struct RoundStory {
    days_ago: i64,
    /// Cells with something other than a plain reading.
    oddities: Vec<(&'static str, Oddity)>,
    proven_full: bool,
    /// The volts of the bank are written down with it.
    tells_volts: bool,
}

impl RoundStory {
    /// A round without anything odd in it.
    fn plain(days_ago: i64, proven_full: bool) -> Self {
        Self { days_ago, oddities: Vec::new(), proven_full, tells_volts: false }
    }
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
            version: 0,
        };
        person.save(tx, None, Timestamp::UNIX_EPOCH)?;
    }
    for (_, story) in STORIES {
        write(tx, story(today), today, &mut noise)?;
    }
    Ok(())
}

/// How the story of a bank is told on a day.
type Told = fn(Date) -> Story;

/// Every bank by the name of its journal.
const STORIES: [(&str, Told); 6] = [
    ("kestrel_dome", kestrel_dome::story),
    ("larch_point", larch_point::story),
    ("marginalia", marginalia::story),
    ("dipper", dipper::story),
    ("arboretum_tram", arboretum_tram::story),
    ("high_pasture", high_pasture::story),
];

/// A bank of the demo, with the journal that ships and the years that it was made from.
pub struct DemoBank {
    /// The journal that ships.
    pub journal: Journal,
    years: Years,
}

impl DemoBank {
    /// Names of all.
    pub fn names() -> impl Iterator<Item = &'static str> {
        STORIES.iter().map(|(name, _)| *name)
    }

    /// By its name; none: no such bank.
    ///
    /// # Errors
    /// [`DbError::BadRow`] for a journal that cannot be read.
    pub fn by_name(name: &str) -> Result<Option<Self>, DbError> {
        let Some((_, story)) = STORIES.iter().find(|(own, _)| *own == name) else { return Ok(None) };
        let story = story(Date::constant(2026, 10, 8));
        Ok(Some(Self { journal: Journal::parse(story.journal)?, years: story.years }))
    }

    /// Its journal as the simulator makes it anew, in some seconds.
    ///
    /// # Errors
    /// [`DbError::BadRow`] for a story that cannot be.
    pub fn live(&self) -> Result<Journal, DbError> {
        live(&self.years)
    }
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

/// What a use case answers, where nothing is refused and nothing is asked about.
fn told<T, Q: std::fmt::Debug>(answer: AppResult<Result<T, Q>>) -> Result<(), DbError> {
    match answer {
        Ok(Ok(_)) => Ok(()),
        Ok(Err(question)) => Err(bad(&format!("asked about: {question:?}"))),
        Err(AppError::Db(error)) => Err(error),
        Err(refused) => Err(bad(&format!("{refused}: {:?}", refused.faults()))),
    }
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
    let ids: Vec<String> = story.visits.iter().map(|_| chance.id()).collect();
    if let Some(typed) = &story.equipment {
        fit(tx, &bank_id, typed, story.people[0], at(day_of(today, known)?, 7, 0)?)?;
    }
    let journal = Journal::parse(story.journal)?;
    let path = walk(&bank.shape.plan(), false);
    let write_up = |row: VisitRow, visit: &VisitStory, chance: &mut Noise| {
        let found = journal.day(visit.days_ago).ok_or_else(|| bad(&"no such day in the journal"))?;
        // What a run gassed is poured after it.
        let after = journal.after_run().filter(|after| after.days_ago == visit.days_ago);
        fill_in(tx, row, visit, story.pours, Day { found, filled: after.unwrap_or(found) }, chance)
    };
    let begin_visit = |number: usize| -> Result<VisitRow, DbError> {
        let day = day_of(today, story.visits[number].days_ago)?;
        open(tx, &bank_id, day, story.people[number % 2], &ids[number])
    };
    // A bank has one visit open at a time: each is closed before the next begins.
    let (mut next, mut under_way) = (0, None);
    for (number, round) in story.rounds.iter().enumerate() {
        let day = today.checked_sub(round.days_ago.days()).map_err(|e| bad(&e))?;
        let found = journal.day(round.days_ago).ok_or_else(|| bad(&"no such day in the journal"))?;
        let temperature = Temperature::from_celsius(found.thermometer()).map_err(|e| bad(&e))?;
        while let Some(before) = story.visits.get(next).filter(|v| v.days_ago > round.days_ago) {
            let row = under_way.take().map_or_else(|| begin_visit(next), Ok)?;
            write_up(row, before, &mut chance)?;
            next += 1;
        }
        if story.visits.get(next).is_some_and(|v| v.days_ago == round.days_ago) && under_way.is_none() {
            under_way = Some(begin_visit(next)?);
        }
        let volts = round.tells_volts.then(|| found.bank_volts(&bank.shape));
        let new = NewRound {
            id: noise.id(),
            bank: bank_id.clone(),
            visit: under_way.as_ref().map(|v| v.id.clone()),
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
                rest_volts: volts.map(Voltage::from_volts).transpose().map_err(|e| bad(&e))?,
            },
            reversed: false,
            by: Actor::named(story.people[number % 2], "shop laptop"),
            sent: format!("demo {number}"),
            typed: None,
        };
        RoundRow::create(tx, &new)?;
        let row = RoundRow::by_id(tx, &new.id)?;
        let mut live = begin(tx, row)?;
        for (step, cell) in (0..).zip(&path) {
            let shown = sample(&live.row, &bank.shape, found, *cell, noise)?;
            take(tx, &mut live, round, *cell, shown, at(day, 9, step)?, noise)?;
        }
        derive_missing(tx, &bank_id)?;
        let run = story.years.run.as_ref().filter(|e| e.days_ago == round.days_ago);
        if let Some((run, visit)) = run.zip(under_way.as_ref()) {
            equalize::write(tx, visit, run, day, &journal)?;
        }
    }
    for visit in &story.visits[next..] {
        let row = under_way.take().map_or_else(|| begin_visit(next), Ok)?;
        write_up(row, visit, &mut chance)?;
        next += 1;
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
    EquipmentRow::append(tx, bank, 0, (&fitted, &text, &Actor::named(person, "")), when)?;
    Ok(())
}

/// A round into which readings are written.
fn begin(tx: &Transaction<'_>, row: RoundRow) -> Result<LiveRound, DbError> {
    let context = Arc::new(round_context(tx, &row)?);
    LiveRound::load(tx, row, context)
}

/// One cell read in thousandths, looked at twice by the shop's habit.
fn read_as(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    cell: CellAddress,
    shown: f64,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let text = format!("{:03.0}", shown - 1000.0);
    let read = typed::gravity(&text).map_err(|e| bad(&e))?;
    let new = RoundEntry {
        typed: Some(text),
        stands: true,
        by: live.row.by.clone(),
        ..RoundEntry::of_gravity(&noise.id(), cell, read, when)
    };
    told::<_, ()>(add_reading(tx, live, new, (when, when)).map(Ok))
}

/// What the float of an instrument shows of a cell, in points over 1.000: the truth at its temperature,
/// the scatter of the hand, the nearest mark.
fn sample(
    row: &RoundRow,
    shape: &BankShape,
    found: &DayFound,
    cell: CellAddress,
    noise: &mut Noise,
) -> Result<f64, DbError> {
    let place = shape.cells().position(|own| own == cell);
    let truth = place.and_then(|p| found.cells.get(p)).ok_or_else(|| bad(&"no such cell in the journal"))?;
    let coefficient = HouseRules::maker_first().correction.coefficient();
    // SG-1 backwards: warm acid is lighter.
    let warm =
        if row.instrument.corrects_for_temperature { 0.0 } else { coefficient * (found.celsius - 25.0) };
    let mark = row.instrument.resolution.value();
    let scatter = 0.6 * row.instrument.repeatability.value() * noise.normal();
    Ok((((truth.gravity() - warm) * 1000.0 + scatter) / mark).round() * mark)
}

/// One cell of a round: typed in three digits, appended.
fn take(
    tx: &Transaction<'_>,
    live: &mut LiveRound,
    round: &RoundStory,
    cell: CellAddress,
    shown: f64,
    when: Timestamp,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let oddity = round.oddities.iter().find(|(address, _)| *address == cell.to_string()).map(|(_, o)| o);
    let mut append = |kind, points: Option<f64>, reason: Option<&str>, supersedes: Option<String>, stands| {
        let text = points.map(|p| format!("{:03.0}", p - 1000.0));
        let new = RoundEntry {
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
            by: live.row.by.clone(),
            taken_at: when,
            standing: true,
        };
        let id = new.id.clone();
        told::<_, ()>(add_reading(tx, live, new, (when, when)).map(Ok))?;
        Ok::<String, DbError>(id)
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

/// Loads the invented banks into a folder that has none.
///
/// # Errors
/// Whatever the database says no to.
pub async fn load(app: &App) -> Result<(), DbError> {
    let today = app.clock.today();
    app.write(move |tx| seed(tx, today)).await?;
    app.people.changed();
    Ok(())
}
