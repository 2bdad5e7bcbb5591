//! The demo: invented banks in an invented region. The simulator lived through their years (SM-1) and
//! left a journal of each; readings are taken from it with the scatter of an instrument and written by
//! the same road as a typed reading.

mod arboretum_tram;
mod dipper;
mod equalize;
mod folder;
mod high_pasture;
mod joints_made;
mod journal;
mod kestrel_dome;
mod larch_point;
mod lived_bank;
mod marginalia;
mod monitor_log;
mod noise;
mod rounds;
mod tests_made;
mod visits;
mod written_bank;
mod years;

pub use folder::{DemoFolderError, prepare};
pub use journal::{CellFound, DayFound, Journal, Line, RunFound};

use crate::app::App;
use crate::app::people::keep_person;
use crate::app::refused::{AppError, AppResult};
use crate::app::typed::equipment::TypedEquipment;
use crate::db::{AccessNotes, Changed, DbError, NewBank, NewSite, Person, Theme, Transaction};
use indicatif::ProgressBar;
use jiff::civil::Date;
use jiff::{Timestamp, ToSpan};
use noise::Noise;
use rainshadow_core::instrument::Instrument;
use rainshadow_core::quantity::units::ReaderUnits;
use visits::{Pours, VisitStory};
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
    /// The log of its monitor, packed; none: none hung there.
    log: Option<&'static [u8]>,
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

/// Writes the demo, ending the day before `today`; `told` counts its banks.
///
/// # Errors
/// Whatever the database fails with.
pub fn seed(tx: &Transaction<'_>, today: Date, told: &ProgressBar) -> Result<(), DbError> {
    let mut noise = Noise::new(0x7a6e_5a17);
    for initials in ["TA", "MO"] {
        let person = Person {
            id: noise.id(),
            initials: initials.into(),
            units: ReaderUnits::default(),
            theme: Theme::Light,
            single_keys: true,
            without: Vec::new(),
            version: 0,
        };
        keep_person(tx, &person, None, Timestamp::UNIX_EPOCH)?;
    }
    told.set_length(STORIES.len() as u64);
    for (_, story) in STORIES {
        written_bank::write(tx, &story(today), today, &mut noise)?;
        told.inc(1);
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
        Ok(live(&self.years)?.0)
    }

    /// What a monitor on it would have written in its last year, made anew, so that it ends with a day.
    ///
    /// # Errors
    /// [`DbError::BadRow`] for a story that cannot be.
    pub fn monitor(&self, until: Option<Date>) -> Result<String, DbError> {
        live(&self.years)?.1.written(until.unwrap_or(monitor_log::SHIPPED_UNTIL))
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

/// What a change answers, where nobody else changes anything.
fn done<T>(change: &Changed<T>) -> Result<(), DbError> {
    match change {
        Changed::Done(_) => Ok(()),
        Changed::BySomebodyElse(_) => Err(bad(&"changed by somebody else")),
    }
}

/// Loads the invented banks into a folder that has none.
///
/// # Errors
/// Whatever the database says no to.
pub async fn load(app: &App) -> Result<(), DbError> {
    let today = app.clock.today();
    app.write(move |tx| seed(tx, today, &ProgressBar::hidden())).await?;
    app.people.changed();
    Ok(())
}
