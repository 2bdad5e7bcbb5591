//! A bank of the demo written down, day by day: what charges it, its visits and its rounds.

use super::journal::Journal;
use super::monitor_log::{self, LogOf};
use super::noise::Noise;
use super::rounds::{begin, end, sample, take};
use super::visits::{Day, VisitStory, day_of, fill_in, open};
use super::{RoundStory, Story, at, bad, equalize, told};
use crate::app::banks::{add_bank, note_access};
use crate::app::equipment::fit;
use crate::app::rounds::RoundToOpen;
use crate::app::sites::add_site;
use crate::db::{BankRow, DbError, ModelRow, NewBank, Transaction, VisitRow};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::actor::Actor;
use rainshadow_core::bank::walk;
use rainshadow_core::quantity::{Temperature, Voltage};
use rainshadow_core::round::{Conditions, RoundTemperature, WaterAdded};

/// A bank while its story is written down.
struct Writer<'a> {
    tx: &'a Transaction<'a>,
    story: &'a Story,
    bank: String,
    journal: Journal,
    today: Date,
    /// Ids of the visits, and what is found on them.
    ids: Vec<String>,
    chance: Noise,
    /// The visit that is next, or under way.
    next: usize,
    under_way: Option<VisitRow>,
}

/// Site, bank and what charges it, as known to the shop for as long as its record goes back.
fn describe(
    tx: &Transaction<'_>,
    story: &Story,
    (site_id, bank_id): (String, &str),
    today: Date,
) -> Result<(), DbError> {
    let (known, by) = (story.visits.iter().map(|v| v.days_ago).max().unwrap_or(0), story.people[0]);
    let then = day_of(today, known)?;
    told::<_, ()>(add_site(tx, &site_id, story.site.clone(), at(today, 6, 0)?).map(Ok))?;
    let bank = NewBank { site: site_id, ..story.bank.clone() };
    told::<_, ()>(add_bank(tx, bank_id, bank, (at(then, 6, 0)?, today)).map(Ok))?;
    let version = BankRow::by_id(tx, bank_id)?.version;
    note_access(tx, bank_id, version, (&story.access, &Actor::named(by, "")))?;
    if let Some(typed) = &story.equipment {
        let fitted = fit(tx, bank_id, 0, (typed, &Actor::named(by, "")), at(then, 7, 0)?);
        told::<_, ()>(fitted.map(Ok))?;
    }
    Ok(())
}

/// Writes a bank of the demo down, until the day before `today`.
pub(super) fn write(
    tx: &Transaction<'_>,
    story: &Story,
    today: Date,
    noise: &mut Noise,
) -> Result<(), DbError> {
    let (site_id, bank) = (noise.id(), noise.id());
    describe(tx, story, (site_id, &bank), today)?;
    // Chance of its own: the readings of a round do not hang on how often somebody came by.
    let mut chance =
        Noise::new(0x0b5e_55ed ^ bank.bytes().fold(1, |h, b| h * 31 % 0xffff_ffff + u64::from(b)));
    let ids = story.visits.iter().map(|_| chance.id()).collect();
    let journal = Journal::parse(story.journal)?;
    let mut writer = Writer { tx, story, bank, journal, today, ids, chance, next: 0, under_way: None };
    for (number, round) in story.rounds.iter().enumerate() {
        writer.round(number, round, noise)?;
    }
    while writer.next < story.visits.len() {
        writer.visit_done()?;
    }
    if let Some(packed) = story.log {
        let log = monitor_log::shipped(packed, today)?;
        let model = ModelRow::by_id(tx, &BankRow::by_id(tx, &writer.bank)?.model_id)?;
        let c20 = model.c20.ampere_hours() * f64::from(story.bank.shape.parallel);
        let of = LogOf {
            id: writer.chance.id(),
            bank: &writer.bank,
            c20,
            by: Actor::named(story.people[0], "desk"),
        };
        monitor_log::read_in(tx, &log, of, today)?;
    }
    Ok(())
}

impl Writer<'_> {
    /// Opens the visit that is next.
    fn begin_visit(&self) -> Result<VisitRow, DbError> {
        let day = day_of(self.today, self.story.visits[self.next].days_ago)?;
        open(self.tx, &self.bank, day, self.story.people[self.next % 2], &self.ids[self.next])
    }

    /// Writes up and closes the visit that is next; a bank has one visit open at a time.
    fn visit_done(&mut self) -> Result<(), DbError> {
        let row = match self.under_way.take() {
            Some(row) => row,
            None => self.begin_visit()?,
        };
        let visit: &VisitStory = &self.story.visits[self.next];
        let found = self.journal.day(visit.days_ago).ok_or_else(|| bad(&"no such day in the journal"))?;
        // What a run gassed is poured after it.
        let after = self.journal.after_run().filter(|after| after.days_ago == visit.days_ago);
        let day = Day { found, filled: after.unwrap_or(found) };
        fill_in(self.tx, row, visit, self.story.pours, day, &mut self.chance)?;
        self.next += 1;
        Ok(())
    }

    /// One round, on the visit of its day where there is one, and the run of that day.
    fn round(&mut self, number: usize, round: &RoundStory, noise: &mut Noise) -> Result<(), DbError> {
        let story = self.story;
        while story.visits.get(self.next).is_some_and(|v| v.days_ago > round.days_ago) {
            self.visit_done()?;
        }
        let same_day = story.visits.get(self.next).is_some_and(|v| v.days_ago == round.days_ago);
        if same_day && self.under_way.is_none() {
            self.under_way = Some(self.begin_visit()?);
        }
        let day = day_of(self.today, round.days_ago)?;
        let found = self.journal.day(round.days_ago).ok_or_else(|| bad(&"no such day in the journal"))?;
        let shape = &story.bank.shape;
        let temperature = Temperature::from_celsius(found.thermometer()).map_err(|e| bad(&e))?;
        let volts = round.tells_volts.then(|| found.bank_volts(shape));
        let begins = at(day, 9, 0)?;
        let typed = RoundToOpen {
            id: noise.id(),
            bank: self.bank.clone(),
            started_at: Some(begins),
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
        let mut live = begin(self.tx, typed, begins)?;
        for (step, cell) in (0..).zip(walk(&shape.plan(), false)) {
            let shown = sample(&live.row, shape, found, cell, noise)?;
            take(self.tx, &mut live, round, cell, shown, at(day, 9, step)?, noise)?;
        }
        let last: Timestamp = at(day, 9, 50)?;
        end(self.tx, &live, last)?;
        let run = story.years.run.as_ref().filter(|e| e.days_ago == round.days_ago);
        if let Some((run, visit)) = run.zip(self.under_way.as_ref()) {
            equalize::write(self.tx, visit, run, day, &self.journal)?;
        }
        Ok(())
    }
}
