//! A file is a stranger: everything in it is looked at as if somebody had typed it, and every fault is
//! named by its path.

mod kept;
mod site;

use super::{BankFile, ModelFile, RoundFile, VisitFile};
use crate::db::{ChangeKind, ChangeMore, ChangeRow, EquipmentRecord, RunRecord, on_own_network};
use jiff::Timestamp;
use jiff::civil::Date;
use rainshadow_core::bank::{BankShape, BatteryAddress};
use rainshadow_core::battery_model::BatteryModel;
use std::collections::BTreeSet;
use std::fmt::Display;
use uuid::Uuid;

/// Faults that are told at once.
const TOLD: usize = 50;
/// Nothing that is kept here happened before.
const FIRST_YEAR: i16 = 1950;
/// Longest side of a photograph that is kept.
const LONG_SIDE: u32 = 1600;
/// Feed columns of a minute.
const FEED_COLUMNS: usize = 12;

/// A field and what is wrong with it.
pub type Fault = (String, String);

struct Looking {
    faults: Vec<Fault>,
    ids: BTreeSet<String>,
    latest: Timestamp,
}

impl Looking {
    fn new(now: Timestamp) -> Self {
        // A day of grace, as for what devices send.
        let latest = now.checked_add(jiff::SignedDuration::from_hours(24)).unwrap_or(now);
        Self { faults: Vec::new(), ids: BTreeSet::new(), latest }
    }

    fn fault(&mut self, field: &str, said: impl Display) {
        if self.faults.len() < TOLD {
            self.faults.push((field.to_owned(), format!("{field}: {said}.")));
        }
    }

    fn ok<T, E: Display>(&mut self, field: &str, result: Result<T, E>) -> Option<T> {
        result.map_err(|e| self.fault(field, e)).ok()
    }

    fn uuid(&mut self, field: &str, id: &str) {
        // In the one spelling that is stored.
        if Uuid::parse_str(id).map(|own| own.to_string()).ok().as_deref() != Some(id) {
            self.fault(field, format!("“{id}” is no id; accepted is a UUID in small letters"));
        }
    }

    /// An id that names one thing of the file.
    fn own_id(&mut self, field: &str, id: &str) {
        self.uuid(field, id);
        if !self.ids.insert(id.to_owned()) {
            self.fault(field, format!("the id {id} stands in the file twice"));
        }
    }

    fn at(&mut self, field: &str, at: Timestamp) {
        let year = crate::words::local_day(at, "UTC").year();
        if year < FIRST_YEAR || at > self.latest {
            self.fault(field, format!("{at} cannot be; accepted is {FIRST_YEAR} to now"));
        }
    }

    fn at_text(&mut self, field: &str, text: &str) -> Option<Timestamp> {
        let at = self.ok(field, text.parse::<Timestamp>())?;
        self.at(field, at);
        Some(at)
    }

    fn in_order(&mut self, field: &str, from: Timestamp, to: Option<Timestamp>) {
        self.at(field, from);
        if let Some(to) = to {
            self.at(field, to);
            if to < from {
                self.fault(field, format!("it ends at {to}, before it began at {from}"));
            }
        }
    }

    fn day(&mut self, field: &str, text: &str) -> Option<Date> {
        let day: Date = self.ok(field, text.parse())?;
        if !(FIRST_YEAR..=2200).contains(&day.year()) {
            self.fault(field, format!("{day} cannot be; accepted is {FIRST_YEAR} to 2200"));
        }
        Some(day)
    }

    fn model(&mut self, field: &str, model: &ModelFile) {
        let generic = BatteryModel::generic().into_iter().any(|(key, _)| key == model.id);
        if !generic {
            self.uuid(&format!("{field}.id"), &model.id);
        }
        if model.shipped != generic {
            self.fault(&format!("{field}.shipped"), "the models that ship, and no others, are marked so");
        }
        if let Err(error) = model.figures.clone().checked() {
            self.fault(&format!("{field}.figures.{}", error.field()), error);
        }
    }

    fn zone(&mut self, field: &str, zone: &str) {
        if jiff::tz::TimeZone::get(zone).is_err() {
            self.fault(
                field,
                format!("“{zone}” is no time zone; accepted is an IANA name, as UTC or Etc/GMT+7"),
            );
        }
    }

    fn hash(&mut self, field: &str, hash: &str) {
        if !crate::photos::is_hash(hash) {
            self.fault(field, "accepted is a hash of 64 hexadecimal digits");
        }
    }

    fn battery(&mut self, field: &str, shape: &BankShape, battery: BatteryAddress) {
        if !shape.batteries().any(|own| own == battery) {
            self.fault(field, format!("the bank has no battery {battery}"));
        }
    }

    fn round(&mut self, path: &str, round: &RoundFile, shape: &BankShape) {
        self.own_id(&format!("{path}.id"), &round.id);
        self.in_order(&format!("{path}.started_at"), round.started_at, round.finished_at);
        self.zone(&format!("{path}.zone"), &round.zone);
        self.ok(&format!("{path}.instrument"), round.instrument.checked());
        self.ok(&format!("{path}.conditions"), round.conditions.clone().checked());
        let mut earlier = BTreeSet::new();
        for (place, reading) in round.readings.iter().enumerate() {
            let path = format!("{path}.readings[{place}]");
            self.own_id(&format!("{path}.id"), &reading.id);
            self.at(&format!("{path}.taken_at"), reading.taken_at);
            if !shape.contains(reading.cell) {
                self.fault(&format!("{path}.cell"), format!("the bank has no cell {}", reading.cell));
            }
            if (reading.kind == rainshadow_core::round::ReadingKind::Gravity) != reading.gravity.is_some() {
                self.fault(&format!("{path}.gravity"), "a gravity has its figure, and nothing else has one");
            }
            match &reading.supersedes {
                Some(before) if !earlier.contains(before) => {
                    self.fault(
                        &format!("{path}.supersedes"),
                        "it takes the place of an entry that does not stand before it",
                    );
                }
                None if reading.kind == rainshadow_core::round::ReadingKind::Withdrawn => {
                    self.fault(&format!("{path}.supersedes"), "an entry is taken back, and none is named");
                }
                _ => {}
            }
            earlier.insert(reading.id.clone());
        }
    }

    fn visit(&mut self, path: &str, visit: &VisitFile, shape: &BankShape) {
        self.own_id(&format!("{path}.id"), &visit.id);
        self.in_order(&format!("{path}.started_at"), visit.started_at, visit.ended_at);
        self.zone(&format!("{path}.zone"), &visit.zone);
        for (place, entry) in visit.entries.iter().enumerate() {
            let path = format!("{path}.entries[{place}]");
            self.own_id(&format!("{path}.id"), &entry.id);
            self.at(&format!("{path}.taken_at"), entry.taken_at);
            self.ok(&format!("{path}.entry"), entry.entry.clone().checked(entry.place, shape));
        }
        for (place, photo) in visit.photographs.iter().enumerate() {
            let path = format!("{path}.photographs[{place}]");
            self.own_id(&format!("{path}.id"), &photo.id);
            self.at(&format!("{path}.taken_at"), photo.taken_at);
            self.hash(&format!("{path}.hash"), &photo.hash);
            self.hash(&format!("{path}.small_hash"), &photo.small_hash);
            let sides = 1..=LONG_SIDE;
            if !sides.contains(&photo.width) || !sides.contains(&photo.height) {
                self.fault(
                    &format!("{path}.width"),
                    format!("a kept photograph is 1 to {LONG_SIDE} pixels wide and high"),
                );
            }
            if !photo.place.on(shape) {
                self.fault(&format!("{path}.place"), format!("the bank has no {}", photo.place.said()));
            }
        }
    }

    fn blocks(&mut self, file: &BankFile, shape: &BankShape) -> BTreeSet<String> {
        let mut since = BTreeSet::new();
        for (place, block) in file.blocks.iter().enumerate() {
            let path = format!("blocks[{place}]");
            self.uuid(&format!("{path}.block"), &block.block);
            self.battery(&format!("{path}.battery"), shape, block.battery);
            let from = block.from.as_deref().and_then(|d| self.day(&format!("{path}.from"), d));
            let to = block.to.as_deref().and_then(|d| self.day(&format!("{path}.to"), d));
            if from.zip(to).is_some_and(|(from, to)| to < from) {
                self.fault(&path, "the battery left before it came");
            }
            if !since.insert((&block.block, &block.from)) {
                self.fault(
                    &path,
                    format!("the battery {} stands in the file twice from one day on", block.block),
                );
            }
        }
        let standing: Vec<_> = file.blocks.iter().filter(|b| b.to.is_none()).map(|b| b.battery).collect();
        let places: BTreeSet<_> = standing.iter().copied().collect();
        if places != shape.batteries().collect() || places.len() != standing.len() {
            self.fault("blocks", "every battery of the bank needs one block, and no other");
        }
        file.blocks.iter().map(|b| b.block.clone()).collect()
    }

    fn change(&mut self, path: &str, change: &ChangeRow, shape: &BankShape, blocks: &BTreeSet<String>) {
        self.own_id(&format!("{path}.id"), &change.id);
        self.day(&format!("{path}.day"), &change.day);
        let column = |n: usize| change.columns.get(n).cloned().flatten();
        let kind = column(0).map(|text| serde_json::from_str::<ChangeKind>(&text).is_ok());
        let known = kind == Some(true);
        if !known || !(10..=11).contains(&change.columns.len()) {
            self.fault(
                &format!("{path}.columns"),
                "eleven columns are expected, the first of them replaced or swapped",
            );
            return;
        }
        for (n, needed) in [(1, true), (2, false)] {
            match column(n) {
                Some(text) => {
                    if let Some(battery) = self.ok(&format!("{path}.columns[{n}]"), text.parse()) {
                        self.battery(&format!("{path}.columns[{n}]"), shape, battery);
                    }
                }
                None if needed => self.fault(&format!("{path}.columns[{n}]"), "the place is missing"),
                None => {}
            }
        }
        for n in [3, 4] {
            if !column(n).is_some_and(|block| blocks.contains(&block)) {
                self.fault(&format!("{path}.columns[{n}]"), "a battery is named that is not in the file");
            }
        }
        if let Some(more) = column(10) {
            let told = serde_json::from_str::<ChangeMore>(&more);
            if let Some(used) = self.ok(&format!("{path}.columns[10]"), told).and_then(|told| told.used) {
                self.ok(&format!("{path}.columns[10]"), used.checked());
            }
        }
        match column(7) {
            Some(at) => drop(self.at_text(&format!("{path}.columns[7]"), &at)),
            None => self.fault(&format!("{path}.columns[7]"), "the time is missing"),
        }
    }

    fn equipment(&mut self, path: &str, own: &EquipmentRecord, seen: &mut BTreeSet<i64>) {
        self.at_text(&format!("{path}.at"), &own.at);
        if !(1..=100_000).contains(&own.version) || !seen.insert(own.version) {
            self.fault(&format!("{path}.version"), "versions count from 1, each once");
        }
        if let Some(feed) = &own.fitted.feed
            && (!on_own_network(&feed.address) || !(1..=247).contains(&feed.unit))
        {
            self.fault(
                &format!("{path}.fitted.feed"),
                "a charger answers on the own network, as unit 1 to 247",
            );
        }
    }

    fn run(&mut self, path: &str, run: &RunRecord, file: &BankFile, blocks: &BTreeSet<String>) {
        self.own_id(&format!("{path}.id"), &run.id);
        let opened = self.at_text(&format!("{path}.opened_at"), &run.opened_at);
        let ended = run.ended_at.as_deref().map(|at| self.at_text(&format!("{path}.ended_at"), at));
        if let (Some(opened), Some(Some(ended))) = (opened, ended)
            && ended < opened
        {
            self.fault(&format!("{path}.ended_at"), "it ends before it began");
        }
        self.zone(&format!("{path}.zone"), &run.zone);
        self.ok(&format!("{path}.instrument"), run.instrument.checked());
        if !file.visits.iter().any(|v| v.id == run.visit) {
            self.fault(&format!("{path}.visit"), "its visit is not in the file");
        }
        let cells = file.model.figures.cells;
        if run.watched.iter().any(|w| !blocks.contains(&w.block) || w.cell == 0 || w.cell > cells) {
            self.fault(&format!("{path}.watched"), "a watched cell is of no battery in the file");
        }
        for (place, entry) in run.entries.iter().enumerate() {
            let path = format!("{path}.entries[{place}]");
            self.own_id(&format!("{path}.id"), &entry.id);
            self.at_text(&format!("{path}.at"), &entry.at);
            self.ok(&format!("{path}.entry"), entry.entry.clone().checked());
        }
        for (place, minute) in run.feed.iter().enumerate() {
            let counts = [0, 1, 11]
                .iter()
                .all(|n| minute.columns.get(*n).copied().flatten().is_some_and(|v| (0.0..=1e5).contains(&v)));
            if minute.columns.len() != FEED_COLUMNS || !counts || minute.minute < 0 {
                self.fault(
                    &format!("{path}.feed[{place}]"),
                    "a minute has twelve columns, with counts of samples",
                );
            }
        }
    }
}

/// Every fault of the file of a bank, at most fifty.
pub fn faults_of_bank(file: &BankFile, now: Timestamp) -> Vec<Fault> {
    let mut look = Looking::new(now);
    look.uuid("site.id", &file.site.id);
    look.zone("site.zone", &file.site.body.zone);
    look.air(&file.site.body);
    look.uuid("bank.id", &file.bank.id);
    let bank = &file.bank.body;
    if bank.site != file.site.id || bank.model != file.model.id {
        look.fault("bank", "its site and battery model are not those of the file");
    }
    if let Some(day) = &bank.in_service
        && !crate::words::is_remembered_day(day, crate::words::local_day(now, "UTC"))
    {
        look.fault(
            "bank.in_service",
            format!("“{day}” is no date in service; accepted is 2021, 2021-05 or 2021-05-03"),
        );
    }
    if let Some(at) = file.described_at {
        look.at("described_at", at);
    }
    look.model("model", &file.model);
    for (at, former) in file.former_models.iter().enumerate() {
        let field = format!("former_models[{at}]");
        look.model(&format!("{field}.model"), &former.model);
        look.at(&format!("{field}.at"), former.at);
        if former.model.figures.cells != file.model.figures.cells {
            look.fault(&field, "it has other cells than the bank");
        }
    }
    if bank.shape.cells_per_battery != file.model.figures.cells {
        look.fault("bank.shape", "its batteries have another number of cells than the model");
    }
    let Some(shape) = look.ok("bank.shape", bank.shape.clone().checked()) else { return look.faults };
    let blocks = look.blocks(file, &shape);
    for (place, change) in file.changes.iter().enumerate() {
        look.change(&format!("changes[{place}]"), change, &shape, &blocks);
    }
    for (place, visit) in file.visits.iter().enumerate() {
        look.visit(&format!("visits[{place}]"), visit, &shape);
    }
    if file.visits.iter().filter(|v| v.ended_at.is_none()).count() > 1 {
        look.fault("visits", "a bank has one open visit at most");
    }
    for (place, round) in file.rounds.iter().enumerate() {
        let path = format!("rounds[{place}]");
        look.round(&path, round, &shape);
        if round.bank != file.bank.id {
            look.fault(&format!("{path}.bank"), "it is a round of another bank");
        }
        let known = |id: &String| file.visits.iter().any(|v| v.id == *id);
        if !round.visit.as_ref().is_none_or(known) {
            look.fault(&format!("{path}.visit"), "its visit is not in the file");
        }
    }
    let mut versions = BTreeSet::new();
    for (place, own) in file.equipment.iter().enumerate() {
        look.equipment(&format!("equipment[{place}]"), own, &mut versions);
    }
    for (place, run) in file.runs.iter().enumerate() {
        look.run(&format!("runs[{place}]"), run, file, &blocks);
    }
    look.kept(file);
    if file.runs.iter().filter(|r| r.ended_at.is_none()).count() > 1 {
        look.fault("runs", "a bank has one run at most that is not over");
    }
    look.faults
}

/// Every fault of the file of one round of a bank that is here, at most fifty.
pub fn faults_of_round(file: &RoundFile, shape: &BankShape, now: Timestamp) -> Vec<Fault> {
    let mut look = Looking::new(now);
    look.uuid("bank", &file.bank);
    look.round("round", file, shape);
    look.faults
}
